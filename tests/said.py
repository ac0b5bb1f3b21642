"""Everything that a job says: findings, drawings and their sentences, papers, exports, steps, tests, refusals."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Iterator
from typing import Final

from msgspec.structs import replace

from awlmark.core.build.findings import build_findings
from awlmark.core.build.steps import nights_of, rests_of, steps_of, tools_of
from awlmark.core.build.torque import dials_of
from awlmark.core.entry.read import read_entry
from awlmark.core.entry.words import card, words
from awlmark.core.errors import AwlmarkError
from awlmark.core.job.model import Job
from awlmark.core.job.selection import Spot
from awlmark.core.options.fixes import quote_fixes
from awlmark.core.prove.findings import prove_findings
from awlmark.core.prove.test import tests_of
from awlmark.core.report import circuit_rows
from awlmark.core.solve.design import Design, beside
from awlmark.draw.frame.ladder import draw_ladder
from awlmark.draw.frame.lane import draw_lane
from awlmark.draw.frame.loupe import draw_loupe
from awlmark.draw.frame.status_strip import draw_sill
from awlmark.draw.frame.tape import draw_tape
from awlmark.draw.kit.picture import Picture
from awlmark.draw.stages.build_view import draw_build
from awlmark.draw.stages.need_view import draw_need
from awlmark.draw.stages.panel_view import draw_panel
from awlmark.draw.stages.parts_view import draw_parts
from awlmark.draw.stages.place_view import draw_place
from awlmark.draw.stages.prove_view import draw_prove
from awlmark.draw.stages.run_view import draw_run
from awlmark.draw.stages.wire_view import draw_wire
from awlmark.draw.view_state import STAGES, Look
from awlmark.export import parts_csv, walls_svg
from awlmark.paper import prints
from awlmark.paper.packet import packet_pages

AMERICAN: Final = re.compile(
    r"(?i)\b(panels?|sub-?panels?|dead[- ]fronts?|breakers?|feeders?|receptacles?|raceways?|romex|EMT|RMC|AWG|kcmil|"
    r"trade sizes?|inspectors?|permits?|grounds? (?:wire|bar|rod)|grounded|grounding|EGC|hots?|GFCI|GFI|NEMA|NEC|NFPA|"
    r"UL|ANSI|feet|foot|inch(?:es)?|inch-pounds|lbf(?:-in|-ft)?|in-lb|ft-lb|knockouts?|staples?|stapled|"
    r"conduit bod(?:y|ies)|nipples?|°F|fahrenheit|gauges?|gutters?|lugs?|disconnects?|utility|service|attic|crawl|"
    r"L?(?:5|6|10|14)-(?:15|20|30|50|60)[RP]?|"
    r"sticks?|tandem|quad|drywall|switchgear|(?<!in the )ground(?= (?:is|reads|with|open)))\b"
    r"|\d ?ft\b|\d ?in\b(?! ways?\b)|\$|120/240|120/208|\bA/B\b|\d'|\d\""
)  # fmt: skip
"""Words, units and clauses of the American book; plain earth is ground too where something lies in it."""
ALLOWED: Final = re.compile(r"(?i)\b\d{4}-\d{2}(?:-\d{2})?\b|722-\d|2018\+A2")
BRITISH: Final = re.compile(
    r"(?i)\b(consumer units?|cut-out|MCBs?|RCBOs?|RCCBs?|RCDs?|cpc|BS 7671|PME|TN-C-S|TN-S|PEN|Zs|Ze|mm2|mm²|SWA|"
    r"twin and earth|distributor|VAT|socket-outlets?|Part P|charge points?|meter tails)\b|£"
)  # fmt: skip


def pictures(design: Design) -> Iterator[tuple[str, Picture]]:
    """Every region of the desk, stage by stage and page by page."""
    at_m = design.line.length_m / 2
    base = Look(at_m=at_m)
    yield "ladder", draw_ladder(design, 560)
    for stage in STAGES:
        look = replace(base, stage=stage)
        yield f"{stage} sill", draw_sill(design, look, 1280)
        yield f"{stage} lane", draw_lane(design, look, 1280)
        yield f"{stage} tape", draw_tape(design, look, 1280)
        yield f"{stage} loupe", draw_loupe(design, look, 560)
        yield f"{stage} list", draw_loupe(design, replace(look, all_stages=True), 900)
    yield "need", draw_need(design, base, 792, 560)
    for page in ("amps", "spaces", "year"):
        yield f"panel {page}", draw_panel(design, replace(base, stage="panel", page=page), 792, 560)
    yield "place", draw_place(design, replace(base, stage="place"), (), 792, 560, ())
    yield "run", draw_run(design, replace(base, stage="run"), 792, 560)
    yield "wire", draw_wire(design, beside(design), replace(base, stage="wire"), 792, 560, ())
    yield "parts", draw_parts(design, replace(base, stage="parts"), 792, 560)
    yield "build", draw_build(design, replace(base, stage="build"), 792, 560)
    for step in steps_of(design):
        yield f"build {step.id}", draw_build(design, replace(base, stage="build", step_told=step.id), 792, 560)
    yield "prove", draw_prove(design, replace(base, stage="prove"), 792, 560)
    yield "bench", draw_prove(design, replace(base, stage="prove", prove_page="bench"), 792, 560)


def of_picture(picture: Picture) -> Iterator[str]:
    """Texts of a drawing, and what its areas say."""
    yield from (text.text for text in picture.texts())
    yield from (hit.says for hit in picture.hits)


def of_findings(design: Design) -> Iterator[tuple[str, str]]:
    """Findings of every stage with their sums and fixes."""
    for finding in (*design.findings, *build_findings(design), *prove_findings(design)):
        told = (
            finding.title,
            finding.text,
            finding.cite,
            *finding.sums,
            finding.ask,
            *(f.label for f in finding.fixes),
        )
        for text in told:
            yield f"finding {finding.id}", text


def of_design(design: Design) -> Iterator[tuple[str, str]]:
    """Steps, screws, tests, parts, report."""
    for step in steps_of(design):
        for text in (step.session, step.title, step.text, *step.tools):
            yield f"step {step.id}", text
    for text in (*rests_of(design.book), *rests_of(design.book).values(), *nights_of(design.book).values()):
        yield "rests", text
    for text in tools_of(design):
        yield "tools", text
    for dial in dials_of(design):
        yield f"dial {dial.id}", f"{dial.name} {dial.id}"
    for test in tests_of(design):
        for text in (test.called, test.name, test.source):
            yield f"test {test.key}", text
    for planted in design.book.prove.planted:
        for text in (planted.name, planted.why, planted.seen, planted.key):
            yield f"planted {planted.key}", text
    for part in design.parts:
        for text in (part.name, part.aisle):
            yield f"part {part.key}", text
    for row in circuit_rows(design):
        yield "report", " ".join(row)


def of_papers(design: Design) -> Iterator[tuple[str, str]]:
    """The packet, every print, exports as text."""
    for number, page in enumerate(packet_pages(design), 1):
        for text in page.texts():
            yield f"packet {number}", text.text
    for name, pages in prints(design).items() if design.circuit is not None else ():
        for page in pages(design):
            for text in page.texts():
                yield f"print {name}", text.text
    for row in csv.reader(io.StringIO(parts_csv(design))):
        for cell in row[:-1]:
            yield "parts.csv", cell
    yield "walls.svg", re.sub(r"<[^>]*>", " ", walls_svg(design))


def of_words(job: Job) -> Iterator[tuple[str, str]]:
    """The card of words, echoes of examples, and what is said to an entry that cannot be read."""
    for example, told in card(job.code):
        yield f"word {example}", f"{example} {told}"
    spot = Spot(leg_id=job.legs[0].id if job.legs else None, section_legs=tuple(leg.id for leg in job.legs))
    for word in words(job.code):
        for text in (word.example, word.name, f"{word.name} zzz", f"{word.name} 1 zzz qq"):
            try:
                yield f"echo {text}", read_entry(text, job, spot).says
            except AwlmarkError as problem:
                # What the user typed is told back as it is.
                yield f"refusal {text}", re.sub(r"'[^']*'", "''", str(problem))


def everything(design: Design) -> Iterator[tuple[str, str]]:
    """All of it: where, and the text."""
    yield from of_findings(design)
    yield from of_design(design)
    yield from of_papers(design)
    for where, picture in pictures(design):
        for text in of_picture(picture):
            yield where, text


def fixes_of(design: Design) -> Iterator[tuple[str, str]]:
    """What each finding's priced fixes say."""
    for finding in design.findings:
        for quote in quote_fixes(design, finding):
            yield f"fix {finding.id}", quote.fix.label
