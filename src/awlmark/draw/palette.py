"""Colours by role, light and dark (marking-out blue)."""

from __future__ import annotations

from typing import Final

LIGHT: Final = {
    "ground": "#EDF0EE",
    "sheet": "#FFFFFF",
    "well": "#DDE3E1",
    "ink": "#14202B",
    "ink2": "#46535C",
    "edge": "#6B7773",
    "scribe": "#1D3F72",
    "tape": "#F2CE62",
    "tapeink": "#14202B",
    "holds": "#14202B",
    "unread": "#4A565F",
    "note": "#0B62C4",
    "tight": "#8A5A00",
    "stop": "#8F1026",
    "stopfill": "#F9D6DC",
    "tightfill": "#FDF0CF",
    "notefill": "#DCE8F6",
    "faint": "#C3CCC9",
    "copper": "#9E531D",
    "aluminium": "#C9D0D4",
    "core": "#14202B",
    "black": "#14202B",
    "red": "#B3261E",
    "white": "#E8ECEA",
    "green": "#1E7A3C",
    "letter": "#FFFFFF",
    "onstop": "#FFFFFF",
    "tapestop": "#8F1026",
    "tapetight": "#6B4500",
    "tapenote": "#0A4890",
    "tapeunread": "#3B4650",
}
DARK: Final = LIGHT | {
    "ground": "#0F1B33",
    "sheet": "#16264A",
    "well": "#0A1326",
    "ink": "#EEF3FA",
    "ink2": "#AFBED6",
    "edge": "#7488AB",
    "scribe": "#F7FAFF",
    "tape": "#E3BB4E",
    "holds": "#EEF3FA",
    "unread": "#8496B5",
    "note": "#7CC0FF",
    "tight": "#FFC54D",
    "stop": "#FF7A90",
    "stopfill": "#521B2A",
    "tightfill": "#453714",
    "notefill": "#16345C",
    "faint": "#34476F",
    "onstop": "#16264A",
}
CONDUCTOR_ROLES: Final = {"black": "black", "red": "red", "white": "white", "green": "green"}
"""Role of each insulation colour."""
