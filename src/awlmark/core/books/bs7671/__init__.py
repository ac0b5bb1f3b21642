"""The British book: BS 7671:2018 with amendment 2."""
