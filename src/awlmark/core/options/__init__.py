"""What else could be done: fixes, connections, comparison, audit, whole jobs side by side."""
