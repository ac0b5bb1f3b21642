"""What can hurt the wire on its way: nails, feet, vehicles, sun, roof screws; and holes bored for it."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Final

from msgspec.structs import replace

from awlmark.core.books import Book
from awlmark.core.finding import HOLDS, NOTE, STOP, TIGHT, UNREAD, Finding, Fix
from awlmark.core.job.edit import Put
from awlmark.core.job.leg import HIDDEN
from awlmark.core.job.model import Job
from awlmark.core.quantities import INCH_M, print_length
from awlmark.core.run.framing import in_framing, nail_plates, studs_crossed
from awlmark.core.run.leg_finding import about_leg, legs_text, named
from awlmark.core.run.line import Line, Section, Walked
from awlmark.core.run.storeys import standings
from awlmark.core.run.trench import risers

EDGE_M: Final = 1.25 * INCH_M
"""Nearer to the face of the framing than this wants a steel plate, 300.4(A), (D)."""
CEILING_M: Final = 2.1
"""A level leg this high lies overhead, out of the way of blows; common practice."""


def guarded(walked: Walked, book: Book) -> bool:
    """Whether a cable leg lies in a sleeve that a blow does not get through, 334.15(B)."""
    return walked.leg.sleeve is not None and book.methods[walked.leg.sleeve].guards


def guard_findings(job: Job, line: Line, book: Book) -> list[Finding]:
    """Every leg that something can hurt, and what nobody has looked at yet."""
    found: list[Finding] = []
    # Whether a riser can be hit is asked with its trench.
    rising = {walked.leg.id for walked in risers(line)}
    stood = standings(line.legs, job.site.storeys)
    floors = {walked.leg.id: floor.level_m for walked, floor in zip(line.legs, stood, strict=False)}
    for section in line.sections:
        legs = [walked for walked in section.legs if not walked.crosses and walked.place != "buried"]
        if not legs:
            continue
        method = section.method
        if method.cable:
            for walked in legs:
                found += _soft(job, walked, book, floors[walked.leg.id])
            found += _where(section, legs, book)
        elif method.hit_cite:
            for walked in legs:
                found += _thin(walked, book)
            found += _exposure(section, [walked for walked in legs if walked.leg.id not in rising], book)
        if method.soft:
            for walked in legs:
                found += _framing(job, walked, book)
        if not method.screw_proof:
            found += _decking(section, legs, book)
        if method.cable:
            found += _insulation(job, section, legs, book)
    for walked in line.legs:
        if walked.leg.sun and walked.place in ("outdoor", "roof") and not walked.method.sun:
            text = f"{named(walked).capitalize()} lies in the sun: only {walked.method.name} marked sunlight resistant."
            found.append(about_leg(walked, "sun", NOTE, "In the sun", text, book.cite("sun")))
    return found


def ask_legs(
    section: Section, legs: list[Walked], kind: str, title: str, text: str, cite: str, ask: str, fixes: tuple[Fix, ...]
) -> Finding:
    """One question about the legs of a section that nobody has answered, at the first of them."""
    return Finding(
        f"{kind}:{section.number + 1}", UNREAD, title, text, cite, at_m=(legs[0].start_m + legs[0].end_m) / 2,
        where=legs[0].leg.id, stage="run", fixes=fixes, ask=f"leg {legs[0].number} {ask} ", site=True,
    )  # fmt: skip


def puts(legs: list[Walked], field: str, value: object) -> tuple[Put, ...]:
    """Edits that give several legs the same answer."""
    return tuple(Put(f"legs[{walked.leg.id}].{field}", value) for walked in legs)


def _thin(walked: Walked, book: Book) -> Iterator[Finding]:
    """Thin pipe where it can be hit."""
    if not walked.leg.exposed or in_framing(walked):
        return
    text = f"{walked.method.name} on {named(walked)} can be hit: Schedule 80 or rigid metal there."
    stronger = book.methods[walked.method.stronger]
    edits = (Put(f"legs[{walked.leg.id}].method", stronger.key), Put(f"legs[{walked.leg.id}].trade_size", None))
    fixes = (Fix(f"{stronger.name} there", edits),)
    yield about_leg(
        walked, "hit", STOP, "Can be hit", text, f"{book.cite('hit')}, {walked.method.hit_cite}", fixes=fixes
    )


def _exposure(section: Section, legs: list[Walked], book: Book) -> Iterator[Finding]:
    """Whether thin pipe can be hit, asked once for all its legs that nobody has looked at."""
    unseen = [walked for walked in legs if walked.leg.exposed is None and walked.leg.mount not in HIDDEN]
    if not unseen:
        return
    name, legs_named = section.method.name, legs_text(unseen)
    text = f"Can anything hit the {name} on {legs_named}: feet, tools, a car? Then it may not be there."
    fixes = (
        Fix("Nothing can hit it", puts(unseen, "exposed", False)),
        Fix("It can be hit", puts(unseen, "exposed", True)),
    )
    yield ask_legs(section, unseen, "exposure", "Can it be hit", text, book.cite("hit"), "exposed", fixes)


def _overhead(walked: Walked, floor_m: float) -> bool:
    """Whether a leg runs above heads, over the floor of its own storey."""
    return walked.heading[2] == 0 and walked.start[2] - floor_m >= CEILING_M


def _soft(job: Job, walked: Walked, book: Book, floor_m: float) -> Iterator[Finding]:
    """Cable on the face of a garage wall, or anywhere it can be hit, has to be guarded."""
    leg = walked.leg
    if guarded(walked, book):
        return
    path, cite = f"legs[{leg.id}]", book.cite("cable_hit")
    if walked.method.key != "nm":
        cite = f"{book.cite('hit')}, {walked.method.hit_cite}"
    pipe = Fix("EMT there", (Put(f"{path}.method", "emt"),))
    sleeve = Fix("A sleeve over it", (Put(f"{path}.sleeve", "emt"),))
    inside = Fix("It runs inside the wall", (Put(f"{path}.mount", "inside"),))
    over = "what is over it is not rigid" if leg.sleeve else "it wants pipe or boards over it"
    if leg.mount in HIDDEN:
        pass
    elif leg.exposed or (walked.place == "garage" and leg.mount == "surface" and leg.exposed is None):
        if _overhead(walked, floor_m) and leg.exposed is not True:
            text = f"{walked.method.name} lies open overhead on {named(walked)}: whether that is exposed to damage, "
            text += "your inspector decides."
            yield about_leg(walked, "hit", TIGHT, "Open overhead", text, cite, fixes=(sleeve, pipe, inside))
            return
        text = f"{walked.method.name} on {named(walked)} lies open where it can be hit; {over}."
        yield about_leg(walked, "hit", STOP, "Unprotected cable", text, cite, fixes=(sleeve, pipe, inside))
        return
    if walked.method.key == "nm" and job.occupancy != "dwelling":
        cite = book.cite("nm_business")
        if leg.mount == "surface":
            text = f"NM on {named(walked)} lies open: outside dwellings it is hidden behind a 15-minute finish."
            yield about_leg(walked, "hidden", STOP, "NM in a business", text, cite, fixes=(pipe, inside))
        elif leg.mount in HIDDEN:
            text = f"Behind {named(walked)} the finish of the wall must hold back fire for 15 minutes; Types III to V."
            yield about_leg(walked, "hidden", NOTE, "NM in a business", text, cite)


def _where(section: Section, legs: list[Walked], book: Book) -> Iterator[Finding]:
    """Whether a cable lies inside the wall or on its face, and there, whether it can be hit."""
    unseen = [
        walked
        for walked in legs
        if not guarded(walked, book)
        and walked.leg.mount not in HIDDEN
        and walked.leg.exposed is None
        and not (walked.leg.mount == "surface" and walked.place == "garage")
    ]
    if not unseen:
        return
    name = section.method.name
    text = f"Is the {name} of {legs_text(unseen)} inside the wall, or on its face, and can it be hit there?"
    fixes = (
        Fix("Inside the open framing", puts(unseen, "mount", "inside")),
        Fix("Fished in a finished wall", puts(unseen, "mount", "fished")),
        Fix("On its face, nothing can hit it", (*puts(unseen, "mount", "surface"), *puts(unseen, "exposed", False))),
    )
    cite = book.cite("hit")
    yield ask_legs(section, unseen, "cable-place", "Cable's place", text, cite, "mount", fixes)


def _framing(job: Job, walked: Walked, book: Book) -> Iterator[Finding]:
    """Distance from the face of the framing: bored through it, or running along it."""
    if not in_framing(walked):
        return
    studs, level = studs_crossed(walked), walked.heading[2] == 0
    if level and not studs:
        return
    cite = book.cite("bored" if level else "along")
    edge, least = walked.leg.edge_m, print_length(EDGE_M, job.units)
    path = f"legs[{walked.leg.id}].edge_m"
    if edge is None:
        text = (
            f"{studs} studs are bored on {named(walked)}: how far from their edge?"
            if level
            else f"{named(walked).capitalize()} runs along the framing: how far from its face?"
        )
        text += f" From {least} on no plate is needed."
        # Fished cable may pass studs or none: nobody sees them until it is in.
        answer = f"It bores none, or {least} and more" if walked.leg.mount == "fished" else f"{least} and more"
        fixes = (Fix(answer, (Put(path, EDGE_M),)),)
        ask = f"leg {walked.number} edge "
        title = "Bored holes" if level else "Along the framing"
        yield about_leg(walked, "bored", UNREAD, title, text, cite, fixes=fixes, ask=ask, site=True)
        return
    far = print_length(edge, job.units)
    plates = nail_plates(walked, EDGE_M)
    if plates and level:
        text = f"{far} from the edge of {studs} studs: a steel plate on each, on the list."
        yield about_leg(walked, "bored", NOTE, "Nail plates", text, cite)
    elif plates:
        text = f"{far} from the face of the framing on {named(walked)}: {plates} steel plates end to end, on the list."
        yield about_leg(walked, "bored", NOTE, "Nail plates", text, cite)
    else:
        what = f"the edge of {studs} studs" if level else "the face of the framing"
        text = f"{far} from {what}; {least} is enough without plates."
        yield about_leg(walked, "bored", HOLDS, "Bored holes" if level else "Along the framing", text, cite)


def _decking(section: Section, legs: list[Walked], book: Book) -> Iterator[Finding]:
    """Under metal roof decking, 1-1/2 in from it: its screws come through (300.4(E))."""
    cite = book.cite("decking")
    attic = [walked for walked in legs if walked.place == "attic"]
    for walked in attic:
        if walked.leg.deck_clear is False:
            text = f"{named(walked).capitalize()} lies within 1-1/2 in of metal roof decking; screws come through."
            lower = (Fix("Lower it", (Put(f"legs[{walked.leg.id}].deck_clear", True),)),)
            yield about_leg(walked, "deck", STOP, "Under the roof deck", text, cite, fixes=lower)
    unseen = [walked for walked in attic if walked.leg.deck_clear is None]
    if unseen:
        text = f"Does {legs_text(unseen)} keep 1-1/2 in from metal roof decking? Wood decking asks nothing."
        fixes = (
            Fix("It keeps clear, or the deck is wood", puts(unseen, "deck_clear", True)),
            Fix("It lies nearer", puts(unseen, "deck_clear", False)),
        )
        yield ask_legs(section, unseen, "decking", "Under the roof deck", text, cite, "decking", fixes)


def _insulation(job: Job, section: Section, legs: list[Walked], book: Book) -> Iterator[Finding]:
    """Cable in insulation: 60 C for AC, and the other cables that touch it there or pass the same sealed hole."""
    key, name = section.method.key, section.method.name
    if section.method.insulated_c is not None:
        open_ones = [walked for walked in legs if walked.leg.insulated is None and walked.leg.mount != "surface"]
        if open_ones:
            text = f"Does {legs_text(open_ones)} lie in thermal insulation? There {name} counts at 60 °C."
            fixes = (
                Fix("In insulation", puts(open_ones, "insulated", True)),
                Fix("Clear of insulation", puts(open_ones, "insulated", False)),
            )
            cite = f"{book.title} {section.method.ampacity_cite}(A)"
            told = ask_legs(section, open_ones, "insulated", "Insulation", text, cite, "insulated", fixes)
            attic = any(walked.place == "attic" for walked in open_ones)
            yield told if not attic else _of_the_wire(told)
    if section.method.cable:
        uncounted = [walked for walked in legs if walked.leg.beside is None]
        if uncounted:
            text = (
                f"How many other loaded cables lie against {legs_text(uncounted)}, or share a sealed hole?"
                " From three together on each carries less."
            )
            alone = (Fix("None, or one", puts(uncounted, "beside", 1)),)
            cite = book.cite("beside" if key != "mc" else "beside_armoured")
            yield ask_legs(section, uncounted, "beside", "Cables together", text, cite, "beside", alone)


def _of_the_wire(finding: Finding) -> Finding:
    """A question that even a bare quote has to answer: its place was told, and the wire hangs on it."""
    return replace(finding, site=False, stage="wire")
