"""Sessions of the work, and where it may rest; common practice."""

from __future__ import annotations

from typing import Final

SURVEY, ROUTE, ISOLATE, TERMINATE, CLOSE = (
    "Notify and survey", "Route", "Isolate", "Terminate", "Close and energise",
)  # fmt: skip
RESTS: Final = {
    SURVEY: "Rest here: nothing is open.",
    ROUTE: "Rest here: the cable is dead, its ends coiled and taped.",
    ISOLATE: "Do not rest here: go on, or restore the supply and begin again.",
    TERMINATE: "Rest only with every conductor terminated or capped and the cover on.",
    CLOSE: "Done.",
}
NIGHTS: Final = {
    SURVEY: "Then nothing is open, and what came is under cover.",
    ROUTE: "Then the cable is dead, its ends coiled, taped and out of reach, the trench filled or fenced.",
    TERMINATE: "Then every conductor is terminated or capped, the cover is on, the new device off and locked.",
}
WEAR: Final = "eye protection, gloves; insulated tools and a proved tester for the one who isolates"
