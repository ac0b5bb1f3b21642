"""How a check against the world says where its answer comes from."""

from __future__ import annotations

from typing import Final, NamedTuple

PUBLISHED: Final = "published"
COMMON: Final = "common-practice"
MEMORY: Final = "from-memory"
SOLVER: Final = "independent-solver"


class Source(NamedTuple):
    """Where a printed answer comes from, and how it reached us."""

    tag: str
    text: str


ANNEX_C = Source(MEMORY, "NEC Informative Annex C, Tables C.1, C.10 and C.11, recalled; the printed page was not seen")
B258 = Source(PUBLISHED, "ASTM B258: AWG diameter = 0.005 in x 92^((36 - n) / 39)")
IACS = Source(
    PUBLISHED, "IACS: annealed copper 1.7241e-8 ohm m at 20 C, 0.00393 per K; 61 % for EC aluminium, 0.00403 per K"
)
CORRECTION = Source(
    PUBLISHED, "NEC 310.15(B), the equation for temperatures between rows: sqrt((Tc - Ta') / (Tc - Ta))"
)
ANNEX_D = Source(MEMORY, "NEC Informative Annex D, examples D1(a), D2(a), D2(b), D2(c), recalled; not the printed page")
TRADE = Source(COMMON, "values every installer knows; no source")
OPENDSS = Source(SOLVER, "OpenDSS power-flow engine through dss-python")
