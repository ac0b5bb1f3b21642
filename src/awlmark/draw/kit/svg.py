"""A display list as SVG."""

from __future__ import annotations

import math
from xml.sax.saxutils import escape, quoteattr

from awlmark.core.plain import printed
from awlmark.draw.kit.palette import LIGHT
from awlmark.draw.kit.picture import Box, Disc, Outline, Photo, Picture, Segment, Shape, Sweep, Text, Tiles

_FAMILY = {
    "text": "Atkinson Hyperlegible Next, sans-serif",
    "bold": "Atkinson Hyperlegible Next, sans-serif",
    "draw": "Routed Gothic, Atkinson Hyperlegible Next, sans-serif",
}


def svg(picture: Picture, title: str) -> str:
    """Write a drawing as SVG text in the light palette.

    Parameters
    ----------
    picture : Picture
        The drawing.
    title : str
        Its title.
    """
    width, height = _n(picture.width), _n(picture.height)
    lines = [
        '<?xml version="1.0" encoding="UTF-8"?>',
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width}" height="{height}" viewBox="0 0 {width} {height}">',
        f"<title>{escape(printed(title))}</title>",
        '<defs><pattern id="slant" width="8" height="8" patternUnits="userSpaceOnUse">'
        f'<path d="M0,8 L8,0" stroke="{LIGHT["edge"]}" stroke-width="1"/></pattern>'
        '<pattern id="earth" width="8" height="8" patternUnits="userSpaceOnUse">'
        f'<path d="M1,4 h3" stroke="{LIGHT["faint"]}" stroke-width="1"/></pattern></defs>',
        *(_shape(shape) for shape in picture.shapes),
        "</svg>",
    ]
    return "\n".join(lines) + "\n"


def _n(value: float) -> str:
    return f"{value:.2f}".rstrip("0").rstrip(".")


def _stroke(role: str, width: float, dash: bool = False) -> str:
    if not role:
        return 'stroke="none"'
    return f'stroke="{LIGHT[role]}" stroke-width="{_n(width)}"' + (' stroke-dasharray="4 3"' if dash else "")


def _fill(role: str) -> str:
    return f'fill="{LIGHT[role]}"' if role else 'fill="none"'


def _shape(shape: Shape) -> str:
    if isinstance(shape, Text):
        weight = ' font-weight="600"' if shape.face == "bold" else ""
        return (
            f'<text x="{_n(shape.x)}" y="{_n(shape.y)}" font-family={quoteattr(_FAMILY[shape.face])} '
            f'font-size="{_n(shape.size)}"{weight} text-anchor="{shape.anchor}" fill="{LIGHT[shape.role]}">'
            f"{escape(printed(shape.text))}</text>"
        )
    if isinstance(shape, Segment):
        ends = f'x1="{_n(shape.x)}" y1="{_n(shape.y)}" x2="{_n(shape.x2)}" y2="{_n(shape.y2)}"'
        return f"<line {ends} {_stroke(shape.role, shape.width, shape.dash)}/>"
    if isinstance(shape, Box):
        body = (
            f'x="{_n(shape.x)}" y="{_n(shape.y)}" width="{_n(shape.w)}" height="{_n(shape.h)}" rx="{_n(shape.radius)}"'
        )
        plain = f"<rect {body} {_fill(shape.fill)} {_stroke(shape.role, shape.width, shape.dash)}/>"
        return plain + (f'<rect {body} fill="url(#{shape.hatch.partition(":")[0]})"/>' if shape.hatch else "")
    if isinstance(shape, Disc):
        stroke = _stroke(shape.role, shape.width, shape.dash)
        return f'<circle cx="{_n(shape.x)}" cy="{_n(shape.y)}" r="{_n(shape.r)}" {_fill(shape.fill)} {stroke}/>'
    if isinstance(shape, Sweep):
        angles = [math.radians(shape.start), math.radians(shape.start + shape.span)]
        (x, y), (x2, y2) = ((shape.x + shape.r * math.cos(a), shape.y - shape.r * math.sin(a)) for a in angles)
        large = int(abs(shape.span) > 180)
        path = f"M{_n(x)},{_n(y)} A{_n(shape.r)},{_n(shape.r)} 0 {large} {int(shape.span < 0)} {_n(x2)},{_n(y2)}"
        return f'<path d="{path}" fill="none" {_stroke(shape.role, shape.width)}/>'
    if isinstance(shape, Tiles):
        path = "".join(f"M{x},{y}h{w}v{h}h{-w}z" for x, y, w, h in shape.rects)
        return f'<path d="{path}" {_fill(shape.fill)}/>'
    if isinstance(shape, Photo):
        # The file stays where it is: a drawing that is sent on shows only its place.
        body = f'x="{_n(shape.x)}" y="{_n(shape.y)}" width="{_n(shape.w)}" height="{_n(shape.h)}"'
        return f'<rect {body} fill="none" {_stroke("unread", 1, True)}/>'
    assert isinstance(shape, Outline)
    points = " ".join(f"{_n(x)},{_n(y)}" for x, y in ((shape.x, shape.y), *shape.points))
    kind = "polygon" if shape.closed else "polyline"
    return f'<{kind} points="{points}" {_fill(shape.fill)} {_stroke(shape.role, shape.width, shape.dash)}/>'
