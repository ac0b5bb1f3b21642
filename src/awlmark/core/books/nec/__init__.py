"""The American rule book."""
