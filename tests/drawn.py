"""Hypothesis as the tests use it: the same examples every time, others each time in the long target."""

import os

from hypothesis import assume, given, settings
from hypothesis import strategies as st

settings.register_profile("awlmark", derandomize=not os.environ.get("AWLMARK_LONG"))
settings.load_profile("awlmark")

__all__ = ["assume", "given", "settings", "st"]
