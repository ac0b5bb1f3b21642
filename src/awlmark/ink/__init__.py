"""Painting display lists with Qt: fonts, pens and the painter. Shared by desk and paper."""
