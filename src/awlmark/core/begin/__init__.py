"""Where a job begins: the ways a line usually goes, and the walk along it."""
