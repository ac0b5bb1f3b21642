"""What the desktop's region is used to: decimal commas, dates, paper, units, the rule book of a first job."""

from __future__ import annotations

import os
from typing import Final

from PySide6.QtCore import QDateTime, QLocale

from awlmark.core.decimals import with_points
from awlmark.core.shelf import CODES, EDITIONS, NEWEST

BRITISH: Final = next(code for code in CODES if code not in EDITIONS)
UNDER_BRITISH: Final = ("GB", "IM", "JE", "GG")
ON_LETTER: Final = ("US", "CA", "MX", "PH", "PR", "CL", "CO", "VE", "CR", "PA", "GT", "SV", "DO", "NI")
"""Regions that print on letter paper; from memory."""


def typed(text: str) -> str:
    """What was typed, its decimals behind points.

    Raises
    ------
    InputError
        For a number that the region may mean in two ways.
    """
    return with_points(text) if QLocale.system().decimalPoint() == "," else text


def moment(seconds: float) -> str:
    """A time of day of some date, as the region writes both; seconds since 1970."""
    at = QDateTime.fromSecsSinceEpoch(int(seconds))
    clock = QLocale.system().toString(at.time(), QLocale.FormatType.ShortFormat) if _known() else at.toString("HH:mm")
    return f"{day(seconds)} {clock}"


def day(seconds: float) -> str:
    """A date, as the region writes it; seconds since 1970."""
    told, date = QLocale.system(), QDateTime.fromSecsSinceEpoch(int(seconds)).date()
    form = told.dateFormat(QLocale.FormatType.ShortFormat) if _known() else "yyyy-MM-dd"
    # A year of two figures could be a day.
    return told.toString(date, form if "yyyy" in form else form.replace("yy", "yyyy"))


def first_code() -> str:
    """The rule book of a first job."""
    return BRITISH if _region(QLocale.system()) in UNDER_BRITISH else NEWEST


def first_units() -> str:
    """The unit of a first job under a book that leaves it open."""
    american = QLocale.system().measurementSystem() == QLocale.MeasurementSystem.ImperialUSSystem
    return "ft" if american or not _known() else "m"


def first_paper() -> str:
    """The paper that the region prints on; empty where nothing is known of it."""
    name = next((os.environ[one] for one in ("LC_ALL", "LC_PAPER", "LANG") if os.environ.get(one)), "")
    region = _region(QLocale(name.partition(".")[0]))
    return "" if not region else "letter" if region in ON_LETTER else "a4"


def _known() -> bool:
    """Whether the program is told a region at all."""
    return bool(_region(QLocale.system()))


def _region(told: QLocale) -> str:
    """Two letters; empty for a program that is told no region."""
    if told.language() == QLocale.Language.C:
        return ""
    return QLocale.territoryToCode(told.territory())
