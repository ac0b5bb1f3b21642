"""The chain of the circuit: charger, breaker, conductor, ground, drop, raceway, outlet; one table, all checks."""
