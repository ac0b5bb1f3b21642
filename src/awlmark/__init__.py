"""Awlmark: designs the physical branch circuit for an electric-vehicle charger."""

__version__ = "0.1.0"
