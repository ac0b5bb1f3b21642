"""The way of the line: cover, walls, zones."""
