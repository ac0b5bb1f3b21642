"""Which findings speak of which part of a circuit that stands."""

from typing import Final

PARTS: Final[dict[str, tuple[str, ...]]] = {
    "breaker": ("breaker", "protection", "family", "gfci", "unit-breaker", "fault"),
    "wire": ("conductor", "heat", "wet", "white", "hit", "local:nm", "made", "terminals", "lug", "cable-place"),
    "ground": ("ground",),
    "raceway": ("fill", "place", "cover", "guard", "hot", "exposure", "others"),
    "box": ("box", "body"),
    "receptacle": ("receptacle", "receptacle-load", "outlet-box", "plug", "cord-kind"),
    "panel": ("demand", "panel-age", "solar", "tandem", "fillers", "bonded", "working-space", "panel-place", "feeder"),
}
"""Parts of a circuit, and the findings that speak of each."""
