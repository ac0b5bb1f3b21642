"""The line by this book: cover, damage, supports."""
