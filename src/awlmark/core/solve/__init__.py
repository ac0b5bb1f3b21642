"""A job solved: surroundings, the circuit that is picked, the design."""
