"""What is typed about the run: changes of its legs, and what each leg meets."""

from __future__ import annotations

import re
from typing import Final

from awlmark.core.books import open_book
from awlmark.core.entry.bundles import read_bundle
from awlmark.core.entry.sizes import read_size
from awlmark.core.entry.word import Reader, Told, Typed
from awlmark.core.entry.words import such
from awlmark.core.errors import InputError
from awlmark.core.job.edit import Put
from awlmark.core.job.leg import BENDS, BODIES, MOUNTS, PLACES, SURFACES, Layer, Leg
from awlmark.core.job.model import Job
from awlmark.core.job.selection import Spot
from awlmark.core.quantities import (
    print_length,
    read_length,
    read_number,
    read_temperature,
)
from awlmark.core.run.line import walk
from awlmark.core.run.reroute import OPPOSITE, go_round, insert, moved_words, reverse, slide, split

"""The echo and the edits of one entry."""
_WAYS: Final = "|".join(OPPOSITE)


def _leg(job: Job, spot: Spot, field: str) -> tuple[int, Leg]:
    """The leg in hand and its number."""
    at = next((n for n, leg in enumerate(job.legs) if leg.id == spot.leg_id), len(job.legs) - 1)
    if at < 0:
        raise InputError(field, "There is no leg in hand.", "a first leg such as up 3")
    return at + 1, job.legs[at]


def _split_words(typed: Typed) -> Told:
    """``split 2 at 10``."""
    words, job = typed.words, typed.job
    match = re.fullmatch(r"split (\d+) at (.+)", " ".join(words))
    if match is None:
        raise InputError("split", "Which leg, and how far along?", "such as split 2 at 10")
    return " ".join(words), split(job, int(match[1]), read_length(match[2], "split", job.units))


def _insert_words(typed: Typed) -> Told:
    """``insert 3 up 2``: before leg 3."""
    words, job = typed.words, typed.job
    match = re.fullmatch(rf"insert (\d+) ({_WAYS}) (.+)", " ".join(words))
    if match is None:
        raise InputError("insert", "Before which leg, which way, how far?", "such as insert 3 up 2")
    edits = insert(job, int(match[1]), match[2], read_length(match[3], "insert", job.units))
    return " ".join(words) + moved_words(job, edits), edits


def _round_words(typed: Typed) -> Told:
    """``round 2 at 10 up 2 wide 3``."""
    words, job = typed.words, typed.job
    match = re.fullmatch(rf"round (\d+) at (.+) ({_WAYS}) (.+) wide (.+)", " ".join(words))
    if match is None:
        raise InputError(
            "round", "Which leg, where, which way, how far, how wide?", "such as round 2 at 10 up 2 wide 3"
        )
    at, aside, wide = (read_length(match[n], "round", job.units) for n in (2, 4, 5))
    return " ".join(words), go_round(job, int(match[1]), at, match[3], aside, wide)


def _reverse_words(typed: Typed) -> Told:
    words, job = typed.words, typed.job
    if len(words) != 2 or not words[1].isdigit():
        raise InputError("reverse", "Which leg?", "its number, such as reverse 2")
    edits = reverse(job, int(words[1]))
    return " ".join(words) + moved_words(job, edits), edits


def _slide_words(typed: Typed) -> Told:
    """``slide 2 up 1``."""
    words, job = typed.words, typed.job
    match = re.fullmatch(rf"slide (\d+) ({_WAYS}) (.+)", " ".join(words))
    if match is None:
        raise InputError("slide", "Which leg, which way, how far?", "such as slide 2 up 1")
    edits = slide(job, int(match[1]), match[2], read_length(match[3], "slide", job.units))
    return " ".join(words) + moved_words(job, edits, int(match[1])), edits


def _offset_words(typed: Typed) -> Told:
    """``offset 4in``, ``offset 4in 45``, ``offset none``."""
    words, job, spot = typed.words, typed.job, typed.spot
    number, leg = _leg(job, spot, "offset")
    path = f"legs[{leg.id}].offset"
    if words[1:] in (["none"], ["open"]):
        return f"leg {number}, no offset", (Put(f"{path}_m", None),)
    if len(words) not in (2, 3):
        raise InputError(
            "offset", "How far aside?", f"a length and, where it is not 30, an angle, {such(job, 'offset')}"
        )
    edits = [Put(f"{path}_m", read_length(words[1], "offset", job.units))]
    if len(words) == 3:
        edits.append(Put(f"{path}_deg", read_number(words[2].rstrip("°"), "offset angle", 5, 90)))
    return f"leg {number}, offset {' '.join(words[1:])}", tuple(edits)


def _saddle_words(typed: Typed) -> Told:
    """``saddle 2in``, ``saddle 4in wide 6in``, ``saddle none``."""
    words, job, spot = typed.words, typed.job, typed.spot
    number, leg = _leg(job, spot, "saddle")
    path = f"legs[{leg.id}].saddle"
    text = " ".join(words[1:])
    if text in ("none", "open"):
        return f"leg {number}, no saddle", (Put(f"{path}_m", None), Put(f"{path}_wide_m", 0.0))
    high, _, wide = text.partition(" wide ")
    edits = [Put(f"{path}_m", read_length(high, "saddle", job.units))]
    edits.append(Put(f"{path}_wide_m", read_length(wide, "saddle width", job.units) if wide else 0.0))
    return f"leg {number}, saddle {text}", tuple(edits)


def _box_words(typed: Typed) -> Told:
    """``box 4 x 2-1/8 square``, ``box 30.3 in3`` as marked, ``box ring 9.5in3``, ``box long 12in``, ``box open``."""
    words, job, spot = typed.words, typed.job, typed.spot
    number, leg = _leg(job, spot, "box")
    path, text = f"legs[{leg.id}].box", " ".join(words[1:])
    if text == "open":
        return f"leg {number}, box open", tuple(Put(f"{path}{part}", None) for part in ("", "_in3", "_long_m"))
    if text.startswith("long "):
        return f"leg {number}, {' '.join(words)}", (
            Put(f"{path}_long_m", read_length(text[5:], "box length", job.units)),
        )
    if text.startswith("with "):
        return _box_with(number, leg, text[5:], job)
    if text.startswith("ring "):
        value = text[5:].removesuffix("in3")
        ring = None if value == "none" else read_number(value, "extension ring", 1, 500)
        return f"leg {number}, {' '.join(words)}", (Put(f"legs[{leg.id}].ring_in3", ring),)
    if text.endswith("in3"):
        return f"leg {number}, box {text}", (
            Put(f"{path}_in3", read_number(text.removesuffix("in3"), "box volume", 1, 2000)),
        )
    known = open_book(job.code).goods.every_box
    if text not in known:
        raise InputError("box", f"No standard box is called '{text[:40]}'.", open_book(job.code).words.boxes)
    return f"leg {number}, box {text}", (Put(path, text), Put(f"{path}_in3", None))


def _box_with(number: int, leg: Leg, text: str, job: Job) -> Told:
    """``box with 4x12, 2x12 ground``, ``box with device 6``, ``box with nothing``: what else is in it."""
    path = f"legs[{leg.id}].box"
    if text == "nothing":
        return f"leg {number}, box with nothing else", (Put(f"{path}_others", ()), Put(f"{path}_device", None))
    if text.startswith("device "):
        size = read_size(text[7:], job, "wire on the device")
        return f"leg {number}, box with a device", (Put(f"{path}_device", size),)
    found = tuple(read_bundle(part.strip(), job, "box") for part in text.split(",") if part.strip())
    return f"leg {number}, box with {text}", (Put(f"{path}_others", found),)


def _body_words(typed: Typed) -> Told:
    """``body LL``: kind of the conduit body at the end of the leg in hand; ``body open``."""
    words, job, spot = typed.words, typed.job, typed.spot
    number, leg = _leg(job, spot, "body")
    kind = " ".join(words[1:]).upper()
    if kind not in (*BODIES, "OPEN"):
        raise InputError("body", f"Can't use '{' '.join(words[1:])[:20]}'.", ", ".join((*BODIES, "open")))
    edits = (Put(f"legs[{leg.id}].end", "body"), Put(f"legs[{leg.id}].body", None if kind == "OPEN" else kind))
    return f"leg {number}, body {kind}", edits


def _beside_words(typed: Typed) -> Told:
    """``beside 2``: other loaded cables that touch this one in insulation or pass the same sealed hole."""
    words, job, spot = typed.words, typed.job, typed.spot
    number, leg = _leg(job, spot, "beside")
    value = None if words[1:] == ["open"] else int(read_number(" ".join(words[1:]), "cables beside it", 0, 100))
    return f"leg {number}, {' '.join(words)}", (Put(f"legs[{leg.id}].beside", value),)


def _sleeve_words(typed: Typed) -> Told:
    """``sleeve pvc80``, ``sleeve 1 emt``, ``sleeve none``: pipe over the cable of the leg in hand."""
    words, job, spot = typed.words, typed.job, typed.spot
    number, leg = _leg(job, spot, "sleeve")
    path, book = f"legs[{leg.id}].sleeve", open_book(job.code)
    if words[1:] == ["none"]:
        return f"leg {number}, no sleeve", (Put(path, None), Put(f"{path}_size", None))
    pipes = [key for key, method in book.methods.items() if not method.cable]
    if len(words) not in (2, 3) or words[-1] not in pipes:
        raise InputError("sleeve", f"Can't use '{' '.join(words[1:])[:40]}'.", f"one of {', '.join(pipes)}, or none")
    size = (
        book.read_trade(words[1], book.trade_sizes_of(book.methods[words[-1]]), "trade size")
        if len(words) == 3
        else None
    )
    return f"leg {number}, {' '.join(words)}", (Put(path, words[-1]), Put(f"{path}_size", size))


def _choice_words(field: str, known: tuple[str, ...]) -> Reader:
    def read(typed: Typed) -> Told:
        words, job, spot = typed.words, typed.job, typed.spot
        number, leg = _leg(job, spot, words[0])
        value = words[1] if len(words) == 2 else ""
        if value not in (*known, "open"):
            raise InputError(words[0], f"Can't use '{' '.join(words[1:])[:40]}'.", ", ".join((*known, "open")))
        opened = BENDS[0] if field == "bend" else None
        return f"leg {number}, {words[0]} {value}", (
            Put(f"legs[{leg.id}].{field}", opened if value == "open" else value),
        )

    return read


def _yes_words(field: str, *, may_be_open: bool = False) -> Reader:
    def read(typed: Typed) -> Told:
        words, job, spot = typed.words, typed.job, typed.spot
        number, leg = _leg(job, spot, words[0])
        known: dict[str, bool | None] = {"": True, "yes": True, "no": False} | ({"open": None} if may_be_open else {})
        value = " ".join(words[1:])
        if value not in known:
            raise InputError(words[0], f"Can't use '{value[:40]}'.", ", ".join(word for word in known if word))
        return f"leg {number}, {' '.join(words)}", (Put(f"legs[{leg.id}].{field}", known[value]),)

    return read


def _known_words(field: str, known: dict[str, bool | None]) -> Reader:
    """A word whose answers have names of their own."""

    def read(typed: Typed) -> Told:
        words, job, spot = typed.words, typed.job, typed.spot
        number, leg = _leg(job, spot, words[0])
        value = " ".join(words[1:])
        if value not in known:
            raise InputError(words[0], f"Can't use '{value[:40]}'.", ", ".join(known))
        return f"leg {number}, {' '.join(words)}", (Put(f"legs[{leg.id}].{field}", known[value]),)

    return read


def _length_words(field: str) -> Reader:
    def read(typed: Typed) -> Told:
        words, job, spot = typed.words, typed.job, typed.spot
        number, leg = _leg(job, spot, words[0])
        value = None if words[1:] == ["open"] else read_length(" ".join(words[1:]), words[0], job.units)
        told = "open" if value is None else print_length(value, job.units)
        return f"leg {number}, {words[0]} {told}", (Put(f"legs[{leg.id}].{field}", value),)

    return read


def _layers_words(typed: Typed) -> Told:
    """``layers plaster 1in, stone 15in``: what the wall of the leg in hand is built of."""
    words, job, spot = typed.words, typed.job, typed.spot
    number, leg = _leg(job, spot, "layers")
    parts = [part.split() for part in " ".join(words[1:]).split(",") if part.strip()]
    found = []
    for part in parts:
        if len(part) < 2:
            raise InputError("layers", f"Can't read '{' '.join(part)}'.", f"name and thickness, {such(job, 'layers')}")
        at = next((n for n, word in enumerate(part) if word[0].isdigit()), len(part) - 1)
        found.append(
            Layer(name=" ".join(part[:at]) or "layer", thick_m=read_length(" ".join(part[at:]), "layers", job.units))
        )
    edits = [Put(f"legs[{leg.id}].layers", tuple(found))]
    if found:
        edits.append(Put(f"legs[{leg.id}].length_m", sum(layer.thick_m for layer in found)))
    return f"leg {number}, {len(found)} layers", tuple(edits)


def _site_words(typed: Typed) -> Told:
    """``site -15C to 45C``, ``site now 12C``: weather of the raceway."""
    words = typed.words
    text = " ".join(words[1:])
    if text.startswith("now "):
        return " ".join(words), (Put("site.install_c", read_temperature(text[4:], "temperature at installing")),)
    low, _, high = text.partition(" to ")
    if not high:
        raise InputError(
            "site", "From how cold to how warm does it get?", f"{such(typed.job, 'site')}, or site now 12C"
        )
    cold, hot = read_temperature(low, "coldest"), read_temperature(high, "hottest")
    return " ".join(words), (Put("site.low_c", None), Put("site.high_c", hot), Put("site.low_c", cold))


def _heat_words(typed: Typed) -> Told:
    """``attic 50C``: how hot it gets where the line runs there, for every leg at once."""
    words, job = typed.words, typed.job
    place = words[0]
    legs = [walked.leg.id for walked in walk(job, open_book(job.code)).legs if walked.place == place]
    if not legs:
        raise InputError(
            place, f"No leg of the line lies in the {place}.", "a leg there first, such as right 12 " + place
        )
    value = None if words[1:] == ["open"] else read_temperature(" ".join(words[1:]), f"{place}, temperature")
    return f"{place} {' '.join(words[1:])}", tuple(Put(f"legs[{leg_id}].ambient_c", value) for leg_id in legs)


LEG_WORDS: Final[dict[str, Reader]] = {
    "offset": _offset_words, "saddle": _saddle_words, "layers": _layers_words, "box": _box_words,
    "sleeve": _sleeve_words, "spliced": _yes_words("spliced"), "body": _body_words, "beside": _beside_words,
    "connectors": _known_words("splice_al", {"aluminium": True, "copper": False, "open": None}),
    "decking": _known_words("deck_clear", {"clear": True, "none": True, "near": False, "open": None}),
    "insulated": _yes_words("insulated", may_be_open=True), "reused": _yes_words("reused"),
    "surface": _choice_words("surface", SURFACES), "mount": _choice_words("mount", MOUNTS),
    "bent": _choice_words("bend", BENDS),
    "fire": _yes_words("fire", may_be_open=True), "slip": _yes_words("slip"), "sun": _yes_words("sun"),
    "exposed": _yes_words("exposed", may_be_open=True),
    "edge": _length_words("edge_m"), "lift": _length_words("roof_m"),
}  # fmt: skip
"""First words of entries about the leg in hand."""
RUN_WORDS: Final[dict[str, Reader]] = {
    "split": _split_words, "insert": _insert_words, "round": _round_words, "reverse": _reverse_words,
    "slide": _slide_words, "site": _site_words,
    **dict.fromkeys(PLACES, _heat_words),
    **LEG_WORDS,
}  # fmt: skip
"""First words of entries about the run, and what reads them."""
