"""One scene a stage."""
