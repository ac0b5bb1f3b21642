"""Checks of the American rule book."""
