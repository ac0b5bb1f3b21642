"""Proving: what the readings should be, the log, what they mean, and a bench to practise on."""
