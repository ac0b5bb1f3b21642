"""The supply: cut-out, tails, bonding, demand, the distributor."""
