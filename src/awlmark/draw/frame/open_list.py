"""What is open: every finding of the stage, or of the whole line, worst first; the chosen one unfolds into its slip."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

from awlmark.core.finding import HOLDS, UNREAD, Finding
from awlmark.core.solve.design import Design
from awlmark.core.standing import SITE_STAGES, closest_first, distance, seen_by, site_findings
from awlmark.draw.frame.slip import WIDTH, draw_slip, has_bar, slip_height
from awlmark.draw.kit.picture import BOLD, END, TEXT, Picture, set_width, shorten, text_width
from awlmark.draw.kit.severity_marks import NAMES, mark
from awlmark.draw.view_state import Look

HEAD: Final = 50.0
ROW: Final = 36.0
FOLD: Final = 28.0


def listed(design: Design, look: Look) -> tuple[list[Finding], list[Finding]]:
    """Findings that are open, worst first, and those that hold or were seen, closest to their limit first."""
    site = site_findings(design, look.stage) if look.stage in SITE_STAGES else ()
    found = [*site, *(one for one in design.findings if look.all_stages or one.stage == look.stage)]
    open_ones = [one for one in found if one.severity != HOLDS and not seen_by(design.job, one)]
    return open_ones, closest_first([one for one in found if one not in open_ones])


def list_height(design: Design, look: Look) -> float:
    """Height that the list would like beside the slip [px]."""
    open_ones, held = listed(design, look)
    return HEAD + 12 + ROW * min(len(open_ones), 5) + (FOLD + 4 if held else 0)


def draw_list(picture: Picture, design: Design, look: Look, chosen: Finding | None, top: float, bottom: float) -> None:
    """Draw the head, the rows that have room, and the chosen finding's slip among them.

    Parameters
    ----------
    picture : Picture
        Drawing to add to.
    design : Design
        Solved job.
    look : Look
        Stage, finding in hand, scope, whether what holds is unfolded.
    chosen : Finding or None
        The finding in hand.
    top, bottom : float
        Where the list may stand [px].
    """
    open_ones, held = listed(design, look)
    _head(picture, open_ones, held, look, top, design.book.words.stages[look.stage])
    rows = list(open_ones)
    if chosen is not None and chosen not in rows and chosen not in held:
        rows.insert(0, chosen)  # of another stage than the list shows
    fold = bool(held)
    unfolded = look.holding or (chosen is not None and chosen in held)
    shown = rows + (held if unfolded else [])
    y = top + HEAD
    slip = slip_height(chosen, look) + 4 if chosen is not None else 0.0
    room = bottom - 8 - y - (FOLD + 4 if fold else 0)
    at = shown.index(chosen) if chosen in shown else 0
    others = max(int((room - slip) // ROW), 0)
    first = max(0, min(at - others // 2, len(shown) - 1 - others))
    window = shown[first : first + others + (chosen in shown)]
    for number, finding in enumerate(window, start=first):
        if fold and unfolded and number == len(rows):
            y = _fold(picture, held, unfolded, y)
        if finding is chosen:
            draw_slip(picture, design, look, finding, y, slip - 4)
            y += slip
        else:
            _row(picture, design, finding, y)
            y += ROW
    if fold and not (unfolded and first <= len(rows) < first + len(window)):
        _fold(picture, held, unfolded, bottom - FOLD - 6)


def _head(
    picture: Picture, open_ones: Sequence[Finding], held: Sequence[Finding], look: Look, top: float, stage: str
) -> None:
    told = f"{len(open_ones)} open" if open_ones else "Nothing open"
    picture.text(16, top + 19, told, 15, BOLD)
    picture.text(16 + text_width(told, BOLD, 15) + 10, top + 19, f"{len(held)} hold", 13, role="ink2")
    for name, act, left in (("<", "list:-1", WIDTH - 76), (">", "list:1", WIDTH - 42)):
        picture.box(left, top + 2, 30, 24, "edge", 1.2, "sheet", 4)
        middle, tip = left + 15, 4 if name == ">" else -4
        picture.path([(middle - tip, top + 8), (middle + tip, top + 14), (middle - tip, top + 20)], "ink", 2)
        says = "The next finding in the list" if name == ">" else "The finding before"
        picture.hit(left, top + 2, 30, 24, act, says, act)
    x = 16.0
    for name, all_stages in ((stage, False), ("All stages", True)):
        here = look.all_stages == all_stages
        face = BOLD if here else TEXT
        wide = text_width(name, face, 13)
        picture.text(x, top + 41, name, 13, face, "scribe" if here else "ink2")
        if here:
            picture.line(x, top + 45, x + wide, top + 45, "scribe", 2)
        picture.hit(x - 4, top + 28, wide + 8, 20, f"scope-{name}", f"List {name.lower()}", f"scope:{int(all_stages)}")
        x += wide + 20


def _row(picture: Picture, design: Design, finding: Finding, top: float) -> None:
    """Mark, short name, distance to the limit, and found against limit as a bar: dashed and empty while unread."""
    left, right = 12.0, WIDTH - 12.0
    picture.box(left, top, right - left, ROW - 4, "edge", 1, "sheet")
    mark(picture, finding.severity, left + 14, top + 13, 10)
    by = seen_by(design.job, finding)
    told = f"seen by {by}" if by else distance(finding)
    told = shorten(told, TEXT, 13, 120)
    wide = set_width(told, TEXT, 13)
    picture.text(left + 27, top + 18, shorten(finding.title, BOLD, 13, right - left - 42 - wide), 13, BOLD)
    picture.sentence(right - 8, top + 18, told, 13, role="ink2", anchor=END)
    x, long, y = left + 27, right - left - 35, top + 25
    if has_bar(finding):
        found, needed = finding.found or 0.0, finding.needed or 0.0
        full = max(found, needed) * 1.08
        picture.box(x, y, long, 4, fill="well")
        picture.box(x, y, long * min(found / full, 1.0), 4, fill=finding.severity)
        limit = x + long * min(needed / full, 1.0)
        picture.line(limit, y - 2, limit, y + 6, "ink", 2)
    elif finding.severity == UNREAD:
        picture.box(x, y, long, 4, "unread", 1, dash=True)
    says = f"{NAMES[finding.severity]}. {finding.title}{', ' + told if told else ''}. {finding.text}"
    picture.hit(left, top, right - left, ROW - 4, f"row-{finding.id}", says, f"select:{finding.id}")


def _fold(picture: Picture, held: Sequence[Finding], unfolded: bool, top: float) -> float:
    """What holds folds away; a click unfolds it."""
    left, right = 12.0, WIDTH - 12.0
    picture.box(left, top, right - left, FOLD - 2, "", 0, "well", 3)
    mark(picture, HOLDS, left + 14, top + 13, 10)
    told = f"{len(held)} hold, closest first"
    picture.text(left + 27, top + 18, told, 13, BOLD)
    tip = -3 if unfolded else 3
    picture.path([(right - 20, top + 12 - tip), (right - 14, top + 12 + tip), (right - 8, top + 12 - tip)], "ink", 2)
    picture.hit(left, top, right - left, FOLD - 2, "fold", told, "fold:")
    return top + FOLD + 2
