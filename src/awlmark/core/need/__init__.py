"""How much current the driving needs."""
