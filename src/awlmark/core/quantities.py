"""Lengths, gauges, trade sizes, temperatures, amps and money: reading what people type, printing what they know.

Lengths are held in metres, temperatures in degrees Celsius, sizes as text.
"""

from __future__ import annotations

import math
import re
from typing import Final

from awlmark.core.decimals import unmistakable
from awlmark.core.errors import InputError

LBF_N: Final = 4.4482216152605
N_M_PER_LBF_IN: Final = 0.1129848290276167
MILE_KM: Final = 1.609344
GALLON_L: Final = 3.785411784
"""An American gallon."""
FOOT_M: Final = 0.3048
SQUARE_FOOT_M2: Final = 0.09290304
INCH_M: Final = 0.0254
LONGEST_M: Final = 3048.0
"""Longest length read anywhere (10,000 ft): beyond any branch circuit, so a slip of the finger."""
EIGHTHS: Final = ("", "⅛", "¼", "⅜", "½", "⅝", "¾", "⅞")
_METRIC_ACCEPTED: Final = "metres such as 3.8, or 38cm, 250mm"
_LENGTH_ACCEPTED: Final = 'feet, inches and a fraction such as 12, 12 6, 12\' 6 5/8", 150", or 3.8 m, 38cm'
_FRACTIONS: Final = {"½": " 1/2", "¼": " 1/4", "¾": " 3/4", "⅛": " 1/8", "⅜": " 3/8", "⅝": " 5/8", "⅞": " 7/8"}
_NUMBER: Final = r"\d+(?:\.\d+)?|\.\d+"
_INCHES: Final = rf"(?:(?P<in>{_NUMBER})(?:[\s-]+(?P<num>\d+)/(?P<den>\d+))?|(?P<num0>\d+)/(?P<den0>\d+))"
_METRIC: Final = re.compile(rf"(?P<value>{_NUMBER})\s*(?P<unit>mm|cm|m)", re.ASCII)
_IMPERIAL: Final = tuple(
    re.compile(pattern, re.ASCII)
    for pattern in (
        rf"(?P<ft>{_NUMBER})\s*'",
        rf"{_INCHES}\s*\"",
        rf"(?P<ft>{_NUMBER})\s*'\s*{_INCHES}\s*\"?",
        rf"(?P<ft>\d+)[\s-]+{_INCHES}\s*\"?",
    )
)
_BARE: Final = re.compile(rf"(?P<value>{_NUMBER})", re.ASCII)


def read_length(text: str, field: str = "length", units: str = "ft", *, zero: bool = False) -> float:
    """Read a length as people type it.

    Parameters
    ----------
    text : str
        ``12``, ``12 6``, ``12' 6 5/8"``, ``150"``, ``3.8 m``, ``38cm`` and the like.
    field : str
        Name used in the message when the text cannot be read.
    units : {"ft", "m"}
        What a bare number means.
    zero : bool
        Whether nought is a length here.

    Returns
    -------
    float
        Length [m].

    Raises
    ------
    InputError
        When the text is no length, or lies outside nought to 10,000 ft.
    """
    plain = text.strip().lower()
    for glyph, spelled in _FRACTIONS.items():
        plain = plain.replace(glyph, spelled)
    for mark in ("''", "″", "“", "”", "inches", "inch", "in."):
        plain = plain.replace(mark, '"')
    for mark in ("′", "’", "‘", "feet", "foot", "ft.", "ft"):
        plain = plain.replace(mark, "'")
    plain = re.sub(r"in$|in(?=\s|\d)", '"', plain).strip()
    value = _read_plain_length(plain, units)
    if value is None:
        accepted = _METRIC_ACCEPTED if units == "m" else _LENGTH_ACCEPTED
        raise InputError(field, f"Can't read '{text.strip()[:60]}'.", accepted)
    if value < 0 or (value == 0 and not zero):
        raise InputError(field, f"'{text.strip()}' is no length.", "more than 0")
    if value > LONGEST_M:
        raise InputError(
            field, f"'{text.strip()}' is too long.", "up to 3,048 m" if units == "m" else "up to 10,000 ft (3,048 m)"
        )
    return value


def _read_plain_length(plain: str, units: str) -> float | None:
    metric = _METRIC.fullmatch(plain)
    if metric:
        return float(metric["value"]) * {"mm": 0.001, "cm": 0.01, "m": 1.0}[metric["unit"]]
    bare = _BARE.fullmatch(plain)
    if bare:
        return float(bare["value"]) * (FOOT_M if units == "ft" else 1.0)
    if units == "m" and not re.search("['\"]", plain):
        return None
    for pattern in _IMPERIAL:
        match = pattern.fullmatch(plain)
        if not match:
            continue
        part = match.groupdict()
        inches = float(part.get("in") or 0)
        for top, bottom in (("num", "den"), ("num0", "den0")):
            if part.get(top):
                if int(part[bottom]) == 0 or int(part[top]) >= int(part[bottom]):
                    return None
                inches += int(part[top]) / int(part[bottom])
        feet = part.get("ft")
        if feet is not None and inches >= 12:
            return None
        return float(feet or 0) * FOOT_M + inches * INCH_M
    return None


def _eighths(metres: float) -> tuple[str, int, int, int]:
    """Sign, feet, whole inches and eighths of a length, rounded to the nearest eighth."""
    total = round(abs(metres) / INCH_M * 8)
    feet, rest = divmod(total, 96)
    inches, eighths = divmod(rest, 8)
    return ("-" if metres < 0 and total else ""), feet, inches, eighths


def print_length(metres: float, units: str = "ft") -> str:
    """Print a length in plain letters, to the eighth of an inch or the millimetre.

    Parameters
    ----------
    metres : float
        Length [m].
    units : {"ft", "m"}
        Home units of the job.

    Returns
    -------
    str
        ``12' 6 5/8"``, ``1 1/4"`` under a foot, or ``3.830 m``; :func:`read_length` reads it back to the same grid
        point.
    """
    if units == "m":
        return f"{metres:.3f} m"
    sign, feet, inches, eighths = _eighths(metres)
    fraction = ""
    if eighths:
        common = math.gcd(eighths, 8)
        fraction = f" {eighths // common}/{8 // common}"
    if feet == 0 and (inches or eighths):
        return f'{sign}{f"{inches}{fraction}" if inches else fraction.lstrip()}"'
    return f"{sign}{feet}' {inches}{fraction}\""


def draw_length(metres: float, units: str = "ft") -> str:
    """Print a length for the drawing face: primes and one-glyph eighths, or metres with two places.

    Parameters
    ----------
    metres : float
        Length [m].
    units : {"ft", "m"}
        Home units of the job.
    """
    if units == "m":
        return f"{metres:.2f} m"
    sign, feet, inches, eighths = _eighths(metres)
    fraction = EIGHTHS[eighths]
    if feet == 0 and (inches or fraction):
        return f"{sign}{inches if inches or not fraction else ''}{fraction}″"
    return f"{sign}{feet}′ {inches}{fraction}″"


_GAUGE: Final = re.compile(r"#?\s*(\d+(?:/0)?)\s*(awg|kcmil|mcm)?", re.ASCII | re.IGNORECASE)


def read_gauge(text: str, known: tuple[str, ...], field: str = "conductor size") -> str:
    """Read a conductor size: ``6``, ``#6``, ``6 AWG``, ``1/0``, ``250 kcmil``.

    Parameters
    ----------
    text : str
        What was typed.
    known : tuple of str
        Sizes the book has, smallest first.
    field : str
        Name used in messages.

    Raises
    ------
    InputError
        When the book has no such size.
    """
    match = _GAUGE.fullmatch(text.strip())
    if not match or match[1] not in known:
        raise InputError(field, f"Can't use '{text.strip()}'.", f"one of {', '.join(known)}")
    return match[1]


def is_kcmil(size: str) -> bool:
    """Whether a size is told in circular mils: the gauges end at 4/0, and 250 kcmil is the next."""
    return size.isdigit() and int(size) >= 250


def print_gauge(size: str) -> str:
    """Print a size with its unit: ``6 AWG``, ``1/0 AWG``, ``250 kcmil``."""
    return f"{size} kcmil" if is_kcmil(size) else f"{size} AWG"


def read_trade_size(text: str, known: tuple[str, ...], field: str = "trade size") -> str:
    """Read a raceway trade size: ``3/4``, ``1``, ``1-1/4``, ``1 1/4 in``.

    Raises
    ------
    InputError
        When the raceway is not made in that size.
    """
    plain = text.strip().lower().removesuffix("in").strip(' "″')
    for glyph, spelled in _FRACTIONS.items():
        plain = plain.replace(glyph, spelled).strip()
    plain = re.sub(r"\s+", "-", plain)
    if plain not in known:
        raise InputError(field, f"Can't use '{text.strip()}'.", f"one of {', '.join(known)}")
    return plain


def draw_trade_size(size: str) -> str:
    """Trade size with one-glyph fractions: ``3/4`` becomes ``¾``, ``1-1/4`` ``1¼``."""
    return size.replace("-", "").replace("1/2", "½").replace("3/4", "¾").replace("1/4", "¼")


_TEMPERATURE: Final = re.compile(r"([-+−]?\d+(?:\.\d+)?)\s*°?\s*([cf])", re.ASCII | re.IGNORECASE)


def read_temperature(text: str, field: str = "ambient temperature") -> float:
    """Read a temperature that names its scale: ``30C``, ``86 F``, ``-5 °C``.

    Returns
    -------
    float
        Temperature [degC].

    Raises
    ------
    InputError
        When the scale is missing, or the value lies outside -60 to 85 C.
    """
    match = _TEMPERATURE.fullmatch(text.strip().replace("−", "-"))
    if not match:
        raise InputError(field, f"Can't read '{text.strip()[:60]}'.", "a number and its scale, such as 30C or 86F")
    value = float(match[1])
    celsius = round((value - 32) * 5 / 9, 6) if match[2].lower() == "f" else value
    if not -60 <= celsius <= 85:
        raise InputError(field, f"'{text.strip()}' lies outside the table.", "-60C to 85C (-76F to 185F)")
    return celsius


def print_temperature(celsius: float, units: str = "ft") -> str:
    """Print a temperature in Fahrenheit for a foot job, in Celsius for a metre job."""
    return f"{celsius:.0f} °C" if units == "m" else f"{celsius * 9 / 5 + 32:.0f} °F"


def print_force(newtons: float, units: str = "ft") -> str:
    """Print a pulling force: pounds in a foot job, newtons in a metre job."""
    return f"{newtons:.0f} N" if units == "m" else f"{newtons / LBF_N:.0f} lbf"


def print_label_torque(lbf_in: float, units: str = "ft") -> str:
    """Print a torque as labels tell it; in a metre job in newton metres first."""
    plain = f"{lbf_in:g} lbf-in"
    return f"{lbf_in * N_M_PER_LBF_IN:.1f} N m ({plain})" if units == "m" else plain


def print_small(metres: float, units: str = "ft", places: int = 2) -> str:
    """Print a small length: inches in a foot job, millimetres in a metre job."""
    return f"{metres * 1000:.0f} mm" if units == "m" else f"{metres / INCH_M:.{places}f} in"


def read_number(text: str, field: str, low: float, high: float, unit: str = "") -> float:
    """Read a plain number between two bounds, with or without its unit behind it.

    Raises
    ------
    InputError
        When the text is no finite number, or lies outside ``low`` to ``high``.
    """
    plain = text.strip().lower().removesuffix(unit.lower()).strip() if unit else text.strip()
    accepted = f"{low:g} to {high:g}{' ' + unit if unit else ''}"
    if not re.fullmatch(r"[-+]?(\d+(\.\d*)?|\.\d+)", plain, re.ASCII):
        raise InputError(field, f"Can't read '{text.strip()[:60]}'.", accepted)
    value = float(plain)
    if not low <= value <= high:
        raise InputError(field, f"'{text.strip()[:60]}' is out of reach.", accepted)
    return value


def read_money(text: str, field: str = "price") -> str:
    """Read a price; returns decimal text such as ``12.50``.

    Raises
    ------
    InputError
        When the text is no price between 0 and 1,000,000.
    """
    from decimal import Decimal, InvalidOperation  # heavy, and only prices need it

    told = text.strip()
    plain = unmistakable(told.lstrip("$£").strip())
    if plain is None:
        if told[:1] not in "$£":
            raise InputError(field, f"'{told[:60]}' may be thousands or decimals.", "an amount such as 1289 or 1.29")
        plain = told.lstrip("$£").replace(",", "")  # where these signs stand, commas part thousands
    try:
        value = Decimal(plain)
    except InvalidOperation:
        value = Decimal("NaN")
    if not value.is_finite() or not 0 <= value <= 1_000_000:
        raise InputError(field, f"Can't read '{text.strip()[:60]}'.", "an amount such as 12.50, from 0 to 1,000,000")
    return f"{value:.2f}" if value == round(value, 2) else str(value.normalize())


def print_amps(amps: float) -> str:
    """Print a current: whole amps bare, otherwise one place."""
    return f"{amps:.0f} A" if abs(amps - round(amps)) < 0.05 else f"{amps:.1f} A"


def print_near(value: float, limit: float) -> str:
    """A value in whole numbers, with one place where a whole one would hide on which side of its limit it lies."""
    near = abs(value - limit) < 1.0 and abs(value - limit) > 1e-9
    return f"{value:.1f}" if near and f"{value:.1f}" != f"{value:.0f}.0" else f"{value:.0f}"


def print_clock(hours: float) -> str:
    """An hour of the day, past midnight too: ``18:30``, ``2:15``."""
    minutes = round(hours * 60)
    return f"{minutes // 60 % 24}:{minutes % 60:02d}"
