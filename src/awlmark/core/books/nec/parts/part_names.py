"""Price keys in words. A key says kind, then what it is made of or how large, joined by colons."""

from __future__ import annotations

import functools
from typing import Final

from awlmark.core.books.nec.edition import clause_of
from awlmark.core.books.nec.printed import printed
from awlmark.core.books.nec.sizing.boxes import BY_VOLUME, PULL_BOX
from awlmark.core.names import METAL_NAMES
from awlmark.core.quantities import draw_trade_size, print_gauge

PLAIN: Final = {
    "nail plate": "Steel nail plate",
    "old-work support": "Pair of clamps that hold a box in a finished wall",
    "fire seal": "Fire seal, one passage",
    "duct seal": "Seal, weather and air, one passage",
    "warning ribbon": "Warning ribbon",
    "splice kit": "Splice box and connectors for both metals, compound",
    "surge": "Surge device for the panel",
    "disconnect": "Lockable disconnect",
    "nipple": "Short nipple between enclosures, locknuts and bushings",
    "filler": "Filler plate for an empty space",
    "reducer": "Reducing bushing",
    "reducing washers": "Reducing washers, one pair",
    "ring": "Extension ring",
    "ground screw": "Green ground screw with pigtail",
    "screw": "Screw, No. 10",
    "anchor": "Masonry anchor with its screw",
    "lag screw": "Lag screw, 1/4 × 2-1/2",
    "sleeve anchor": "Sleeve anchor, 1/4",
    "post": "Post for the charger, 4 × 4, treated",
    "concrete": "Concrete for the post's foot, one bag",
    "pull string": "Pull string",
    "lubricant": "Wire-pulling lubricant",
    "cement": "Primer and cement for PVC",
    "compound": "Oxide-inhibiting compound",
    "marking tape": "Marking tape for a white wire that is a hot",
    "labels": "Labels for directory, circuit and both ends",
    "plate": "Two-gang plate for its large face",
    "small plate": "One-gang plate",
    "wet cover": "Weather cover, extra duty, closed over the plug in use",
    "wet box": "Weatherproof box, gasketed cover; read its volume",
    "wall sleeve": "Sleeve through a masonry wall, to its thickness",
    "roof flashing": "Flashing for pipe through a roof",
    "roof block": "Support block for pipe on a roof, with its strap's screw",
    "sand": "Bedding sand, bag of 50 lb",
    "control cable": "Control cable, controller to unit",
    "move kit": "Wire and connectors to lengthen a circuit whose breaker moves",
    "limit label": "Label with the limit it is set to",
}
_SIZED: Final = {
    "expansion": "expansion fitting",
    "stick": "stick, 10 ft",
    "flexible": "in one length",
    "elbow": "elbow, 90°",
    "body": "conduit body, cover, gasket",
    "bushing": "insulating bushing",
}


_WORDS_OF: Final = {
    "wire": (3,), "cable": (4,), "breaker": (2, 3), "receptacle": (1,), "charger": (1,), "box": (1,),
    "wire connector": (1,), "copper tail": (1,), "management": (1,), "anti-short bushing": (1,), "staple": (1,),
    "clamp": (1,),
}  # fmt: skip
"""How many words stand behind a kind in a key; two, method and trade size, behind all others."""


def _metal(rest: list[str], kind: str) -> str | None:
    return METAL_NAMES.get(rest[0 if kind == "wire" else 1])


@functools.lru_cache(maxsize=4096)
def item_name(key: str) -> str:
    """A price key in words."""
    kind, *rest = key.split(":")
    if "?" in rest:
        return f"{kind}, size unread"
    if kind in PLAIN:
        return PLAIN[kind]
    if len(rest) not in _WORDS_OF.get(kind, (2,)) or (kind in ("wire", "cable") and _metal(rest, kind) is None):
        # A key of the user's own: it names itself.
        return key
    if kind == "wire":
        return f"{print_gauge(rest[1])} {_metal(rest, kind)} {rest[2].upper()}"
    if kind == "cable":
        return f"{rest[2]}/{rest[3]} {_metal(rest, kind)} {rest[0].upper()} cable"
    if kind == "breaker":
        return f"{rest[1]} A {'two' if rest[0] == '2' else 'one'}-pole breaker" + (", GFCI" if rest[2:] else "")
    if kind == "receptacle":
        return f"{rest[0]} receptacle, EV duty"
    if kind == "charger":
        return f"{rest[0]} A charging unit"
    if kind == "box" and rest[0] == BY_VOLUME:
        return "Box chosen by the volume marked in it, with cover"
    if kind == "box" and rest[0] == PULL_BOX:
        return f"Pull box with cover, as long as its finding says ({clause_of('pull_box_rule')})"
    if kind == "box":
        return f"{rest[0]} box with cover"
    if kind == "copper tail":
        return f"{print_gauge(rest[0])} copper for the tail, hots and ground together"
    if kind == "wire connector":
        return f"Wire connector for {print_gauge(rest[0])}"
    if kind == "management":
        return "Load controller with two current sensors" if rest[0] == "sensors" else "Circuit-sharing switching unit"
    if kind == "anti-short bushing":
        return f"Anti-short bushing for {rest[0].upper()} cable"
    if kind in ("staple", "clamp"):
        return f"{rest[0].upper()} cable {kind}"
    row = next((row for row in printed("methods").rows if row["method"] == rest[0]), None)
    method = rest[0].upper() if row is None else row["name"]
    if kind == "connector" and row is not None and row["joint"] == "threaded":
        # Threaded pipe enters a box between its own nuts.
        kind = "pair of locknuts with a bushing"
    return f"{draw_trade_size(rest[1])} {method} {_SIZED.get(kind, kind)}"
