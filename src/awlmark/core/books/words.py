"""What things are called under a rule book: one word each, plain and within a sentence.

The defaults are American; a book of another country says its own. Keys of the job, ids of findings and names of files
never change.
"""

from __future__ import annotations

import msgspec

from awlmark.core.names import CAUTION

STAGES = {
    "need": "Need", "panel": "Panel", "place": "Place", "run": "Run", "wire": "Wire", "parts": "Parts",
    "build": "Build", "prove": "Prove",
}  # fmt: skip


class Words(msgspec.Struct, frozen=True, kw_only=True):
    """One word for each thing; of each a plural is made by an s."""

    law: str = "National Electrical Code"
    stages: dict[str, str] = msgspec.field(default_factory=lambda: STAGES)
    """Title of each stage."""
    places: dict[str, str] = {}
    """Where a leg lies, where that has another name here than the key has."""
    panel: str = "panel"
    first: str = "Service"
    """What stands before everything else, by its rating; within a title."""
    board: str = "Panel"
    """The panel in a word, on drawings."""
    sub_panel: str = "sub-panel"
    service: str = "service"
    feeder: str = "feeder"
    breaker: str = "breaker"
    space: str = "space"
    ground: str = "ground"
    """The protective conductor."""
    earth: str = "ground"
    """Earth as such, beside the neutral."""
    hot: str = "hot"
    receptacle: str = "receptacle"
    pipe: str = "pipe"
    raceway: str = "raceway"
    ampacity: str = "Ampacity"
    stick: str = "stick"
    disconnect: str = "disconnect"
    wire: str = "wire"
    permit: str = "permit"
    license: str = "licence"
    utility: str = "utility"
    charger: str = "charger"
    start: str = "room Garage 24x20 at -4 -20|bay Left at 10 -10 facing 90|pin A at 18 -1"
    """Entries that begin a floor, parted by strokes."""
    axes: str = "feet east and north"
    meter_files: str = "The utility's interval data say it: a CSV or a Green Button file."
    whole_jobs: str = "Outlet or hardwired, pipe or cable, copper or aluminium: each the whole job"
    plate: str = "nameplate"
    """What a unit's rated current is read off."""
    cord: str = "cord"
    caution: str = CAUTION
    """What stands under every page."""
    tax: str = "Tax"
    typed: str = ""
    """Table of words that are typed otherwise here, beside the words of every book; empty for none."""
    decisions: tuple[tuple[str, str], ...] = (
        ("48a", "charger nameplate"),
        ("6 cu, 4 al", "gauge and metal of the conductor"),
        ("6 nm, 3/4 emt, pvc40", "method, and size, of the section under the awl"),
        ("14-50, hardwired", "how the charger is connected"),
        ("48a 60ft emt", "a whole quote on an empty tape"),
    )
    """What can be typed beside the words of the list: an example, and what it is."""
    hint: str = "a leg such as up 3 or right 22 6, or a decision such as 48a, 6 cu, 3/4 emt, breaker 60"
    """What can be typed, where an entry can't be read."""
    plate_facts: str = "breaker 60, pigtail 8, cord flexible, "
    """What can be typed behind ``unit``, before what is yes or no."""
    boxes: str = "such as 4 x 2-1/8 square, or its volume: 42 in3"
    """Boxes that can be named."""
    pins: str = "6 nm, breaker 50, ground 10"
    """What is there already, as it is typed."""
    leg: str = "up 3, right 22"
    """Two legs as they are typed."""
    ladder: str = "What the charger draws, times 1.25, against what breaker and wire carry. A click takes a rung."
    place_keys: str = "pin A at 18 0, pin A here, cord 20ft"
    desk: str = "the permit desk"
    local: str = (
        "such as local nm no, local terminals 60, local ground 8, local raceway 1, local drop yes, local gfci always"
    )
    """What can be typed behind ``local``."""
    guide: str = "guide.md"
    """File of the guide that shows."""
    fields: dict[str, str] = {}
    """Names of fields, in a message about a value, that are called otherwise here."""
    asked: dict[str, str] = {}
    """What the walk asks of the job, by path, where it is asked in other words here."""
    glossary: dict[str, str] = {}
    """Terms of the desk that are explained otherwise here; an empty one is left out."""

    def place(self, key: str) -> str:
        """A place as it is called here."""
        return self.places.get(key, key)

    def part(self, key: str) -> str:
        """A part of the circuit, such as ``breaker``, as it is called here."""
        return str(getattr(self, key, key))


def cap(word: str) -> str:
    """A word at the beginning of a sentence; what stands in capitals stays."""
    return word[:1].upper() + word[1:]
