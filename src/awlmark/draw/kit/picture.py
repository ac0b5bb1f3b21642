"""The display list: shapes with roles instead of colours, texts with a face instead of a font.

Coordinates are pixels at 100 %, y downward. Every shape may carry the id of what it shows; a hit area says in a
sentence what stands there and which act a click or Return takes.
"""

from __future__ import annotations

import functools
import re
from collections.abc import Callable, Iterable, Iterator
from pathlib import Path
from typing import Final

import msgspec

from awlmark.core.plain import printed, shown

TEXT: Final = "text"
BOLD: Final = "bold"
DRAW: Final = "draw"
"""Faces: body text, its semibold, and the lettering of lengths and drawings."""
START: Final = "start"
MIDDLE: Final = "middle"
END: Final = "end"
SAME_LINE: Final = 4.0
"""Baselines so near are one line [px]."""


class Shape(msgspec.Struct, gc=False, frozen=True):
    """What all shapes share."""

    x: float
    y: float


class Segment(Shape, gc=False, frozen=True):
    """A straight stroke."""

    x2: float
    y2: float
    role: str = "ink"
    width: float = 1.0
    dash: bool = False


class Box(Shape, gc=False, frozen=True):
    """A rectangle."""

    w: float
    h: float
    role: str = ""
    width: float = 1.0
    fill: str = ""
    radius: float = 0.0
    dash: bool = False
    hatch: str = ""


class Disc(Shape, gc=False, frozen=True):
    """A circle."""

    r: float
    role: str = ""
    width: float = 1.0
    fill: str = ""
    dash: bool = False


class Sweep(Shape, gc=False, frozen=True):
    """An arc; degrees counted anticlockwise from three o'clock."""

    r: float
    start: float
    span: float
    role: str = "ink"
    width: float = 1.0


class Outline(Shape, gc=False, frozen=True):
    """A polyline from (x, y) through further points, or a polygon."""

    points: tuple[tuple[float, float], ...]
    role: str = ""
    width: float = 1.0
    fill: str = ""
    closed: bool = False
    dash: bool = False


class Tiles(Shape, gc=False, frozen=True):
    """Many filled rectangles of one colour on whole pixels: (x, y, width, height) each; painted at once."""

    rects: tuple[tuple[int, int, int, int], ...]
    fill: str


class Photo(Shape, gc=False, frozen=True):
    """A picture from a file, fitted into a box; a dashed box where there is none."""

    w: float
    h: float
    path: str


class Text(Shape, gc=False, frozen=True):
    """A line of text; y is the baseline."""

    text: str
    face: str = TEXT
    size: float = 13.0
    role: str = "ink"
    anchor: str = START

    @property
    def left(self) -> float:
        """Left edge."""
        return left_of(self.x, text_width(self.text, self.face, self.size), self.anchor)


class Hit(msgspec.Struct, gc=False, frozen=True):
    """An area that answers: its sentence for screen readers, and the act it takes."""

    x: float
    y: float
    w: float
    h: float
    id: str
    sentence: str | Callable[[], str]
    """What it says, or what makes it when somebody asks: most of a drawing is never asked."""
    act: str = ""
    """``select:<id>``, ``fix:<number>``, ``pin:<path>=<value>`` and the like; empty for a mere description."""

    @property
    def says(self) -> str:
        """Its sentence."""
        return self.sentence if isinstance(self.sentence, str) else self.sentence()


class Picture:
    """A drawing under construction: shapes in painting order, and its hit areas."""

    def __init__(self, width: float, height: float, *, paper: bool = False) -> None:
        self.paper = paper
        """Whether it is printed: legs carry their numbers, nothing answers."""
        self._plain = printed if paper else shown
        self.width = width
        self.height = height
        self.shapes: list[Shape] = []
        self.hits: list[Hit] = []
        self.leg_scale: dict[str, float] = {}
        """Pixels to a metre at which each leg is drawn, by id."""
        self.pixels_per_m = 0.0
        """Scale at which the line's end is drawn; nought where it is not."""

    def line(
        self, x: float, y: float, x2: float, y2: float, role: str = "ink", width: float = 1.0, dash: bool = False
    ) -> None:
        """Add a straight stroke."""
        self.shapes.append(Segment(x, y, x2, y2, role, width, dash))

    def box(
        self, x: float, y: float, w: float, h: float, role: str = "", width: float = 1.0, fill: str = "",
        radius: float = 0.0, dash: bool = False, hatch: str = "",
    ) -> None:  # fmt: skip
        """Add a rectangle."""
        self.shapes.append(Box(x, y, w, h, role, width, fill, radius, dash, hatch))

    def disc(
        self, x: float, y: float, r: float, role: str = "", width: float = 1.0, fill: str = "", dash: bool = False
    ) -> None:
        """Add a circle."""
        self.shapes.append(Disc(x, y, r, role, width, fill, dash))

    def sweep(self, x: float, y: float, r: float, start: float, span: float, role: str, width: float) -> None:
        """Add an arc."""
        self.shapes.append(Sweep(x, y, r, start, span, role, width))

    def path(
        self, points: list[tuple[float, float]], role: str = "", width: float = 1.0, fill: str = "",
        closed: bool = False, dash: bool = False,
    ) -> None:  # fmt: skip
        """Add a polyline or polygon."""
        self.shapes.append(Outline(*points[0], tuple(points[1:]), role, width, fill, closed, dash))

    def tiles(self, rects: list[tuple[int, int, int, int]], fill: str) -> None:
        """Add filled rectangles of one colour, (x, y, width, height) each."""
        if rects:
            self.shapes.append(Tiles(*rects[0][:2], tuple(rects), fill))

    def photo(self, x: float, y: float, w: float, h: float, path: str) -> None:
        """Add a picture from a file."""
        self.shapes.append(Photo(x, y, w, h, path))

    def text(
        self,
        x: float,
        y: float,
        text: str,
        size: float = 13.0,
        face: str = TEXT,
        role: str = "ink",
        anchor: str = START,
    ) -> float:
        """Add a line of text; returns its width."""
        if not text.isprintable():
            text = self._plain(text)
        self.shapes.append(Text(x, y, text, face, size, role, anchor))
        return text_width(text, face, size)

    def sentence(
        self,
        x: float,
        y: float,
        text: str,
        size: float = 13.0,
        face: str = TEXT,
        role: str = "ink",
        anchor: str = START,
    ) -> float:
        """Add a line of text whose lengths stand in the drawing face; returns its width."""
        width = set_width(text, face, size)
        at = left_of(x, width, anchor)
        for piece, its_face, its_size in typeset(text, face, size):
            at += self.text(at, y, piece, its_size, its_face, role)
        return width

    def plate(self, x: float, y: float, text: str, size: float, face: str, role: str, anchor: str, fill: str) -> None:
        """Add text on a plate of the background, so that lines under it do not cross it."""
        width = text_width(text, face, size)
        left = left_of(x, width, anchor)
        self.box(left - 3, y - size * 0.86, width + 6, size * 1.14, fill=fill)
        self.text(x, y, text, size, face, role, anchor)

    def hit(
        self, x: float, y: float, w: float, h: float, id: str, says: str | Callable[[], str], act: str = ""  # noqa: A002 - the field is called so everywhere
    ) -> None:  # fmt: skip
        """Add an answering area."""
        self.hits.append(Hit(x, y, w, h, id, says, act))

    def at(self, x: float, y: float) -> Hit | None:
        """The topmost answering area under a point."""
        for hit in reversed(self.hits):
            if hit.x <= x <= hit.x + hit.w and hit.y <= y <= hit.y + hit.h:
                return hit
        return None

    def answers(self) -> list[tuple[str, str]]:
        """Sentence and act of every answering area, as its list twin shows them."""
        return [(hit.says, hit.act) for hit in self.hits]

    def left_over(self, said: Iterable[str]) -> list[str]:
        """What is written in the drawing and stands in none of these sentences, line by line from the top."""
        whole, lines = "\n".join(said), list[tuple[float, list[str]]]()
        for text in sorted(self.texts(), key=lambda text: (text.y, text.left)):
            words = text.text.strip()
            if not words or words in whole:
                continue
            if lines and text.y - lines[-1][0] <= SAME_LINE:
                lines[-1][1].append(words)
            else:
                lines.append((text.y, [words]))
        return [", ".join(dict.fromkeys(words)) for _y, words in lines]

    def texts(self) -> list[Text]:
        """All lines of text."""
        return [shape for shape in self.shapes if isinstance(shape, Text)]


def left_of(x: float, width: float, anchor: str) -> float:
    """Left edge of words so wide that are set at a point by their start, middle or end [px]."""
    return x if anchor == START else x - (width / 2 if anchor == MIDDLE else width)


@functools.cache
def _advances() -> dict[str, dict[str, dict[str, float]]]:
    raw = (Path(__file__).parent / "advances.json").read_bytes()
    found: dict[str, dict[str, dict[str, float]]] = msgspec.json.decode(raw)
    return found


@functools.lru_cache(maxsize=8192)
def text_width(text: str, face: str, size: float) -> float:
    """Width of a line of text from the shipped fonts' advances, kerning included.

    Parameters
    ----------
    text : str
        One line.
    face : {"text", "bold", "draw"}
        Face.
    size : float
        Size [px].
    """
    table = _advances()[face]
    advance, kern = table["advance"], table["kern"]
    widest = table["metrics"]["widest"]
    total = sum(advance.get(letter, widest) for letter in text)
    for at in range(len(text) - 1):
        total += kern.get(text[at : at + 2], 0.0)
    return total * size / 1000


_LENGTH: Final = re.compile(r"-?(?:\d+' )?(?:\d+(?: \d/\d)?|\d/\d)\"|-?\d+′ \d*[⅛¼⅜½⅝¾⅞]?″|\d*[⅛¼⅜½⅝¾⅞]?″")
_UNIT: Final = re.compile(r"(?<=\d) (?=(?:A|V|%|°C|°F|AWG|kcmil|ft|in|in²|Ω)\b|%|°)")
"""A space between a number and its unit, where no line may break."""
_PRIMES: Final = str.maketrans({"'": "′", '"': "″"})
_EIGHTHS: Final = {"1/8": "⅛", "1/4": "¼", "3/8": "⅜", "1/2": "½", "5/8": "⅝", "3/4": "¾", "7/8": "⅞"}


@functools.lru_cache(maxsize=4096)
def typeset(text: str, face: str = TEXT, size: float = 13.0) -> tuple[tuple[str, str, float], ...]:
    """Split a text so that lengths stand in the drawing face.

    Returns
    -------
    tuple of (str, str, float)
        Piece, face and size [px].
    """
    found, done = [], 0
    for match in _LENGTH.finditer(text):
        if match.start() > done:
            found.append((text[done : match.start()], face, size))
        length = match[0]
        for spelled, glyph in _EIGHTHS.items():
            length = length.replace(" " + spelled, glyph)
        # On a screen never under 16 px; sizes under 13 are points of paper.
        found.append((length.translate(_PRIMES), DRAW, max(16.0, size + 2) if size >= 13 else size + 2))
        done = match.end()
    if done < len(text):
        found.append((text[done:], face, size))
    return tuple(found)


def set_width(text: str, face: str, size: float) -> float:
    """Width of a text with its lengths in the drawing face [px]."""
    return sum(text_width(*piece) for piece in typeset(text, face, size))


def wrap(text: str, face: str, size: float, width: float) -> list[str]:
    """Break a text into lines no wider than ``width``, at spaces; neither a length nor a
    number and its unit are broken."""
    lines: list[str] = []
    line = ""
    bound = _LENGTH.sub(lambda match: match[0].replace(" ", "\u00a0"), text)
    bound = _UNIT.sub("\u00a0", bound)
    for word in _broken(bound.split(" "), face, size, width):
        plain = word.replace("\u00a0", " ")
        longer = f"{line} {plain}" if line else plain
        if line and set_width(longer, face, size) > width:
            lines.append(line)
            line = plain
        else:
            line = longer
    return [*lines, line] if line else lines


def fold(text: str, face: str, size: float, width: float, most: int) -> list[str]:
    """Break a text into so many lines at most; an ellipsis tells where the rest is left out."""
    lines = wrap(text, face, size, width)
    if len(lines) <= most:
        return lines
    return [*lines[: most - 1], shorten(" ".join(lines[most - 1 :]), face, size, width)] if most > 0 else []


def _broken(words: list[str], face: str, size: float, width: float) -> Iterator[str]:
    """Words, and those too wide for a line of their own in pieces that are not."""
    for word in words:
        rest = word
        while len(rest) > 1 and text_width(rest, face, size) > width:
            most = next((n for n in range(2, len(rest)) if text_width(rest[:n], face, size) > width), len(rest))
            yield rest[: most - 1]
            rest = rest[most - 1 :]
        yield rest


_CERTAIN: Final = 400
"""Letters up to which a text is measured whole; a longer one is surely cut somewhere."""


def shorten(text: str, face: str, size: float, width: float) -> str:
    """Cut a text to a width, with an ellipsis where something is lost."""
    if len(text) <= _CERTAIN and text_width(text, face, size) <= width:
        return text
    table = _advances()[face]
    advance, kern, widest = table["advance"], table["kern"], table["metrics"]["widest"]
    room, done, fits = width * 1000 / size, 0.0, 0
    ellipsis = advance.get("…", widest)
    for at, letter in enumerate(text):
        # What stands before this letter, with the ellipsis behind it; once letters alone are too wide nothing fits.
        if done + ellipsis + (kern.get(text[at - 1] + "…", 0.0) if at else 0.0) <= room:
            fits = at
        if done > room + widest:
            return text[:fits].rstrip() + "…"
        done += advance.get(letter, widest) + (kern.get(text[at - 1 : at + 1], 0.0) if at else 0.0)
    if done <= room:
        return text
    return text[:fits].rstrip() + "…"
