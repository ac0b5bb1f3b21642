"""The reading to take next: which faults fit what is read so far, and the test that parts them best."""

from __future__ import annotations

import math
from collections import Counter
from typing import Final

from awlmark.core.job.edit import Put, put
from awlmark.core.prove.instruments import take
from awlmark.core.prove.log import latest
from awlmark.core.prove.network import circuit_of
from awlmark.core.prove.planted import Planted, applicable
from awlmark.core.prove.test import ORDER, Test, tests_of
from awlmark.core.prove.thermal import thermal_of
from awlmark.core.solve.design import Design, solve

MOST_OFF: Final = 1
"""So many readings may lie on the other side of a band than a fault of the bench puts them: real ones vary in size."""
OPEN_FROM_OHM: Final = 1000.0
"""Nothing that conducts at all shows so much [ohm]; common practice."""
Signs = dict[str, dict[str, int]]
"""By fault and test: below its band (-1), within (0), above (1), or open where it should conduct (2)."""
_signs: list[tuple[object, Signs]] = []
"""Those of the circuit last asked for; readings do not change them."""


def sign_of(test: Test, value: float) -> int:
    """Below a test's band, within it or above it; no joint is so poor that it passes for a wire that is not joined."""
    if test.stage == "continuity" and value > OPEN_FROM_OHM > test.high:
        return 2
    return (value > test.high + 1e-12) - (value < test.low - 1e-12)


def signs_of(design: Design) -> Signs:
    """Where each fault that the circuit can have puts every reading."""
    key = circuit_of(design), thermal_of(design), design.job.prove.ambient_c
    if not _signs or _signs[0][0] != key:
        bare = solve(put(design.job, Put("prove.readings", ())))
        faults = applicable(bare.book, circuit_of(bare))
        tests = tests_of(bare)
        found = {one.key: {test.key: sign_of(test, take(bare, test, one.faults)) for test in tests} for one in faults}
        _signs[:] = [(key, found)]
    return _signs[0][1]


def fitting(design: Design) -> tuple[tuple[Planted, ...], Test | None]:
    """The faults that fit every reading so far, and the test that parts them best; nothing while all is in band.

    The best test is the one whose outcome is least certain among the faults left (Shannon's entropy); of equals the
    one that comes first in working order.
    """
    read = {
        key: sign_of(each.test, each.reading.value)
        for key, each in latest(design).items()
        if each.test is not None and each.reading.value is not None
    }
    if not any(read.values()):
        return (), None
    signs = signs_of(design)
    off = {key: sum(one.get(test, 0) != sign for test, sign in read.items()) for key, one in signs.items()}
    least = min(off.values(), default=MOST_OFF + 1)
    left = tuple(one for one in applicable(design.book, circuit_of(design)) if off[one.key] == least <= MOST_OFF)
    best, most = None, 0.0
    tests = tests_of(design)
    first = next((test for test in tests if test.key not in read), None)
    # Nothing is energised over a test that comes before: what is asked for lies no further on than the work has come.
    reached = max((ORDER.index(test.stage) for test in tests if test.key in read or test is first), default=0)
    for test in tests:
        if test.key not in read and len(left) > 1 and ORDER.index(test.stage) <= reached:
            told = _entropy(Counter(signs[one.key].get(test.key, 0) for one in left))
            if told > most + 1e-9:
                best, most = test, told
    return left, best


def _entropy(outcomes: Counter[int]) -> float:
    """How uncertain an outcome is [bit]."""
    whole = sum(outcomes.values())
    return -sum(count / whole * math.log2(count / whole) for count in outcomes.values())
