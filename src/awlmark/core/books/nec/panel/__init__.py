"""The supply by this book: demand, feeders, the panel and its place."""
