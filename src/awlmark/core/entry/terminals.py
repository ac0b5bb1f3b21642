"""What is typed of local rules, terminals, and what was seen on a circuit that is there."""

from __future__ import annotations

import re

from awlmark.core.books import open_book
from awlmark.core.entry.sizes import read_size
from awlmark.core.entry.word import Told, Typed
from awlmark.core.entry.words import such
from awlmark.core.errors import InputError
from awlmark.core.job.edit import Put
from awlmark.core.job.model import DROP_FORMS, GFCI_READINGS
from awlmark.core.quantities import read_length, read_number


def local_words(typed: Typed) -> Told:
    """``local nm no``, ``local terminals 60``, ``local ground 8``, ``local gfci always``, ``local label Shut off``."""
    words, text = typed.words, typed.text
    what, value = (words[1], " ".join(words[2:])) if len(words) > 2 else ("", "")
    what = {"conduit": "raceway", "cpc": "ground"}.get(what, what)
    yes_no = {"yes": True, "no": False}
    fields: dict[str, tuple[str, dict[str, object] | None]] = {
        "nm": ("nm_forbidden", {"no": True, "yes": False}),
        "terminals": ("terminals_60", {"60": True, "marked": False}),
        "drop": ("drop_mandatory", dict(yes_no)),
        "surge": ("surge", dict(yes_no)),
        "garage": ("garage_hardwired_gfci", dict(yes_no)),
        "gfci": ("gfci", {reading: reading for reading in GFCI_READINGS}),
        "ground": ("least_ground", None),
        "raceway": ("least_raceway", None),
        "label": ("label", None),
    }
    if what not in fields:
        raise InputError(
            "local rule", f"Can't read '{' '.join(words[1:])[:40]}'.", open_book(typed.job.code).words.local
        )
    field, known = fields[what]
    if known is not None:
        if value not in known:
            raise InputError(f"local {what}", f"Can't use '{value[:40]}'.", ", ".join(known))
        return " ".join(words), (Put(f"local.{field}", known[value]),)
    if field == "label":
        return " ".join(words), (Put("local.label", "" if value == "none" else text.strip().split(None, 2)[2][:120]),)
    return " ".join(words), (Put(f"local.{field}", None if value == "none" else value),)


def shared_words(typed: Typed) -> Told:
    """``shared 100``: one wire ground serves this circuit and others, the largest on 100 A; ``shared none``."""
    words = typed.words
    if words[1:] == ["none"]:
        return "a ground of its own", (Put("circuit.shared_ground_a", None),)
    amps = read_number(" ".join(words[1:]), "breaker of the shared ground", 15, 4000, "a")
    return f"ground shared with circuits up to {amps:g} A", (Put("circuit.shared_ground_a", amps),)


def cable_words(typed: Typed) -> Told:
    """``cable 0.75in``: the larger outside diameter of the run's cable; ``cable open``."""
    words, job = typed.words, typed.job
    value = " ".join(words[1:])
    wide = None if value == "open" else read_length(value, "cable width", job.units)
    return " ".join(words), (Put("circuit.cable_wide_m", wide),)


def raceway_words(typed: Typed) -> Told:
    """``bond raceway``, ``bond wire``: what the ground is."""
    words = typed.words
    if words[1:] not in (["raceway"], ["wire"]):
        raise InputError("bond", "By what is it grounded?", "bond raceway, or bond wire")
    return " ".join(words), (Put("circuit.raceway_ground", words[1] == "raceway"),)


def seen_words(typed: Typed) -> Told:
    """``seen browned``, ``seen double tap no``: what was seen on a circuit that is there already."""
    words = typed.words
    known = {"browned": "browned", "melted": "melted", "double tap": "double_tap", "loose": "loose"}
    value = " ".join(words[1:])
    no = value.endswith(" no")
    field = known.get(value.removesuffix(" no"))
    if field is None:
        raise InputError("seen", f"Can't use '{value[:40]}'.", ", ".join(known))
    return " ".join(words), (Put(f"existing.{field}", not no),)


def terminal_words(typed: Typed) -> Told:
    """``terminals 75``: what both ends are marked; ``terminals panel 60``, ``terminals charger open``: one of them."""
    words = typed.words
    near = open_book(typed.job.code).words.board.lower()
    ends = {"panel": "supply.terminal_c", near: "supply.terminal_c", "charger": "charger.terminal_c"}
    rest = words[1:]
    paths = [ends[rest.pop(0)]] if rest and rest[0] in ends else list(dict.fromkeys(ends.values()))
    marks = open_book(typed.job.code).circuit.terminals_c
    known = {**{f"{each}{unit}": each for each in marks for unit in ("", "c")}, "open": None}
    value = " ".join(rest)
    if value not in known:
        accepted = (
            f"{marks[0]}, {marks[-1]} or open, for both ends or one: terminals {marks[-1]}, terminals {near} {marks[0]}"
        )
        raise InputError("terminals", f"Can't use '{value[:20]}'.", accepted)
    return " ".join(words), tuple(Put(path, known[value]) for path in paths)


def lug_words(typed: Typed) -> Told:
    """``lug charger 10 to 4 copper 50 lbf-in``, ``lug panel 75 lbf-in``, ``lug charger both``: what its label says."""
    words, job = typed.words, typed.job
    end = words[1] if len(words) > 1 else ""
    near = open_book(job.code).words.board.lower()
    paths = {
        "panel": "supply.lug",
        near: "supply.lug",
        "charger": "charger.lug",
        "disconnect": "charger.disconnect_lug",
    }
    if end not in paths or len(words) < 3:
        raise InputError(words[0], "Which end, and what does its label say?", such(job, "lug"))
    path = paths[end]
    rest = " ".join(words[2:])
    edits: list[Put] = []
    torque = re.search(r"(\d+(?:\.\d+)?)\s*(?:lbf-in|in-lb)", rest)
    if torque:
        edits.append(Put(f"{path}.torque_lbf_in", read_number(torque[1], "lug torque", 1, 1000)))
        rest = rest.replace(torque[0], " ")
    strip = re.search(r"strip (.+)$", rest)
    if strip:
        edits.append(Put(f"{path}.strip_m", read_length(strip[1], f"{end} lug strip length", job.units)))
        rest = rest.replace(strip[0], " ")
    span = re.search(r"(\S+) to (\S+)", rest)
    if span:
        edits += [Put(f"{path}.least", read_size(span[1], job, "lug, smallest"))]
        edits += [Put(f"{path}.most", read_size(span[2], job, "lug, largest"))]
        rest = rest.replace(span[0], " ")
    for word in rest.split():
        if word not in ("copper", "both"):
            raise InputError("lug", f"Can't read '{word[:30]}'.", "gauges such as 10 to 4, copper or both, lbf-in")
        edits.append(Put(f"{path}.copper_only", word == "copper"))
    return " ".join(words), tuple(edits)


def form_words(typed: Typed) -> Told:
    """``form table 9``: how the drop is worked out."""
    words = typed.words
    value = " ".join(words[1:])
    if value not in DROP_FORMS:
        raise InputError("form", f"Can't use '{value[:40]}'.", ", ".join(DROP_FORMS))
    return " ".join(words), (Put("circuit.drop_form", value),)
