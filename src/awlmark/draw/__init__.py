"""Drawings as display lists: pure Python, painted by ink, written to SVG, read by tests."""
