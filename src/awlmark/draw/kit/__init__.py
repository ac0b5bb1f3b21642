"""Shapes, palettes, marks, labels: what every drawing is made with."""
