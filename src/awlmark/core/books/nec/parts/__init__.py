"""Goods by this book."""
