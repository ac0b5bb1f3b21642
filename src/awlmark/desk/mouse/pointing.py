"""What can be done with the thing under the mouse: a menu by the second button, a number edited by a double click."""

from __future__ import annotations

import functools
import math
from typing import NamedTuple

from PySide6.QtCore import QObject, QPoint, QPointF
from PySide6.QtWidgets import QMenu

from awlmark.core.books.words import cap
from awlmark.core.finding import NOTE
from awlmark.core.job.edit import value_at
from awlmark.core.quantities import print_length
from awlmark.core.standing import SITE_STAGES, site_findings
from awlmark.desk.commands import Acts
from awlmark.desk.region import Canvas, Region
from awlmark.desk.session import Session
from awlmark.draw.kit.picture import Hit

NEAR = 44.0
"""How far from a leg its number may stand [px]."""
SAYS_LONGEST = 70


class Deed(NamedTuple):
    """One row of a menu: its name, the act it takes, and the words that do the same."""

    name: str
    act: str
    typed: str = ""


def leg_of(session: Session, canvas: Canvas, hit: Hit | None, where: QPointF) -> int | None:
    """Number of the leg that a point is about: the one under it, or the nearest whose number stands there."""
    ids = [leg.id for leg in session.job.legs]
    if hit is not None and hit.id in ids:
        return ids.index(hit.id) + 1
    if hit is not None and hit.act:
        return None
    near = [(_distance(one, where), ids.index(one.id) + 1) for one in canvas.picture.hits if one.id in ids]
    away, number = min(near, default=(math.inf, 0))
    return number if away <= NEAR else None


def _distance(hit: Hit, where: QPointF) -> float:
    across = max(hit.x - where.x(), 0.0, where.x() - hit.x - hit.w)
    down = max(hit.y - where.y(), 0.0, where.y() - hit.y - hit.h)
    return math.hypot(across, down)


def deeds(session: Session, canvas: Canvas, hit: Hit | None, where: QPointF) -> list[Deed]:
    """What can be done there, the likeliest first."""
    number = leg_of(session, canvas, hit, where)
    if number is not None:
        return _leg_deeds(session, number)
    if hit is None:
        return []
    kind, _, rest = hit.act.partition(":")
    if kind in ("select", "next") or hit.id.startswith("row-"):
        found = _finding_deeds(session, rest if kind == "select" else hit.id.removeprefix("row-"))
        if found:
            return found
    if kind == "type":
        deeds = [Deed(f"Type {rest.strip()}…", hit.act, rest.strip())]
        if rest.startswith("slot "):
            deeds += _slot_deeds(rest.strip())
        return deeds
    if kind == "move":
        return _place_deeds(session, hit)
    if kind == "scribe":
        return [Deed(f"Do: {rest}", hit.act, rest)]
    return [Deed(hit.says[:SAYS_LONGEST], hit.act)] if hit.act else []


def _leg_deeds(session: Session, number: int) -> list[Deed]:
    leg, words = session.job.legs[number - 1], session.design.book.words
    walked = session.design.line.legs[number - 1]
    length = print_length(leg.length_m, session.job.units)
    last = number == len(session.job.legs)
    found = [
        Deed(f"New reading of leg {number}…", f"edit:leg {number} \t{length}", f"leg {number} {length}"),
        Deed("Awl here", f"awl:{(walked.start_m + walked.end_m) / 2:.4f}"),
        Deed("Box at its end", f"scribe:leg {number} box", f"leg {number} box"),
        Deed("Corner at its end", f"scribe:leg {number} corner", f"leg {number} corner"),
        Deed("Where it lies…", f"type:leg {number} place ", f"leg {number} place garage"),
        Deed("Another method…", f"type:leg {number} ", f"leg {number} {session.design.book.chips[-1]}"),
        Deed("How warm it gets…", f"type:leg {number} ambient ", f"leg {number} ambient 45C"),
        Deed("Split it…", f"type:split {number} at ", f"split {number} at 10"),
        Deed("A leg before it…", f"type:insert {number} ", f"insert {number} up 2"),
        Deed("The other way", f"scribe:reverse {number}", f"reverse {number}"),
        Deed("Rub it out", f"scribe:rub {number}", f"rub {number}"),
    ]
    if last and leg.end != "charger":
        found.insert(2, Deed(f"{cap(words.charger)} at its end", "scribe:charger", "charger"))
    if last and leg.end == "charger":
        found.insert(2, Deed(f"Take the {words.charger} off its end", "scribe:open run", "open run"))
    return found


def _finding_deeds(session: Session, finding_id: str) -> list[Deed]:
    design, stage = session.design, session.look.stage
    finding = design.finding(finding_id)
    if finding is None and stage in SITE_STAGES:
        finding = next((one for one in site_findings(design, stage) if one.id == finding_id), None)
    if finding is None:
        return []
    found = [Deed("Show it in the list", f"select:{finding.id}")]
    if finding.ask:
        found.append(Deed(f"Answer: {finding.ask.strip()}…", f"type:{finding.ask}", finding.ask.strip()))
    found += [
        Deed(f"Fix: {fix.label}", f"takefix:{finding.id}:{number}") for number, fix in enumerate(finding.fixes[:3])
    ]
    if finding.severity == NOTE:
        found.append(Deed("Tick as seen, by…", f"saw:{finding.id}", "saw"))
    found.append(Deed("Set aside, with a reason…", f"overrule:{finding.id}", "overrule"))
    return found


def _slot_deeds(slot: str) -> list[Deed]:
    kinds = (("Two-pole breaker…", "30a 2p "), ("One-pole breaker…", "20a 1p "))
    whole = (("Empty", "open"), ("Filler plate", "filler"), ("Unused breaker", "idle"))
    return [
        *(Deed(name, f"type:{slot} {words}", f"{slot} {words.strip()}") for name, words in kinds),
        *(Deed(name, f"scribe:{slot} {words}", f"{slot} {words}") for name, words in whole),
    ]


def _place_deeds(session: Session, hit: Hit) -> list[Deed]:
    kind, _, its_id = hit.act.removeprefix("move:").partition(":")
    if kind == "pin":
        name = its_id.upper()
        return [
            Deed(f"Take spot {name}", hit.act),
            Deed(f"Move spot {name}…", f"type:pin {name} at ", f"pin {name} at 12 0"),
            Deed(f"Spot {name} at the run's end", f"scribe:pin {name} here", f"pin {name} here"),
        ]
    if kind not in ("area", "thing", "bay"):
        return []
    one = value_at(session.job, f"site.{kind}s[{its_id}]")
    word = getattr(one, "kind", kind)
    return [
        Deed(f"Size and place of {one.name}…", f"type:{word} {one.name} ", f"{word} {one.name} 6x2 at 4 -9"),
        Deed(f"Take {one.name} off the floor", f"scribe:clearfloor {one.name}", f"clearfloor {one.name}"),
    ]


class Pointing(QObject):
    """Second button and double click on every drawing."""

    def __init__(self, session: Session, regions: tuple[Region, ...], acts: Acts) -> None:
        super().__init__(regions[0])
        self.session, self.acts = session, acts
        self.menu: QMenu | None = None
        for region in regions:
            region.canvas.asked.connect(functools.partial(self._ask, region.canvas))
            region.canvas.doubled.connect(functools.partial(self._edit, region.canvas))

    def _ask(self, canvas: Canvas, where: QPointF, at: QPoint) -> None:
        """The menu of what can be done there."""
        found = deeds(self.session, canvas, canvas.picture.at(where.x(), where.y()), where)
        if not found:
            return
        self.menu = QMenu(canvas)
        for deed in found:
            told = deed.name.replace("&", "&&") + (f"\t{deed.typed}" if deed.typed else "")
            self.menu.addAction(told).triggered.connect(functools.partial(self._do, deed.act))
        self.menu.popup(at)

    def _do(self, act: str, _checked: bool = False) -> None:
        self.acts.do(act)

    def _edit(self, canvas: Canvas, where: QPointF) -> None:
        """A number is edited where it stands: the Entry holds it selected."""
        hit = canvas.picture.at(where.x(), where.y())
        number = leg_of(self.session, canvas, hit, where)
        if number is not None:
            length = print_length(self.session.job.legs[number - 1].length_m, self.session.job.units)
            self.acts.do(f"edit:leg {number} \t{length}")
        elif hit is not None and hit.act.startswith(("type:", "edit:")):
            self.acts.do(hit.act)
        elif hit is not None:
            found = deeds(self.session, canvas, hit, where)
            typed = next((deed for deed in found if deed.act.startswith("type:")), None)
            if typed is not None:
                self.acts.do(typed.act)
