"""Numbers and decisions. Nothing in here knows of a window."""
