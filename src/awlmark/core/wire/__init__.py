"""The chain of the circuit: charger, breaker, conductor, ground, drop, raceway, outlet. One table, every check over it."""
