"""Hypothesis as the tests use it: the same examples every time, others each time in the long target.

No test may hang on the clock: how long drawing an example takes on a busy machine says nothing of the product.
"""

import os

from hypothesis import HealthCheck, assume, given, settings
from hypothesis import strategies as st

settings.register_profile(
    "awlmark",
    derandomize=not os.environ.get("AWLMARK_LONG"),
    deadline=None,
    suppress_health_check=(HealthCheck.too_slow,),
)
settings.load_profile("awlmark")

__all__ = ["assume", "given", "settings", "st"]
