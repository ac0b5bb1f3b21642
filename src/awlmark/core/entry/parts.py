"""What is typed on the Parts stage: stock, check-in, receipts, and how the work is priced."""

from __future__ import annotations

from typing import Final

from awlmark.core.books import open_book
from awlmark.core.entry.word import Reader, Told, Typed
from awlmark.core.errors import InputError
from awlmark.core.job.edit import Put
from awlmark.core.job.selection import Spot
from awlmark.core.quantities import read_money, read_number


def part_key(spot: Spot, field: str) -> str:
    if spot.part_key is None:
        raise InputError(field, "Which part?", "a part chosen in the list of the Parts stage")
    return spot.part_key


def _number_words(field: str, table: str) -> Reader:
    def read(typed: Typed) -> Told:
        words, spot = typed.words, typed.spot
        key = part_key(spot, field)
        if words[1:] in (["none"], ["open"]):
            return f"{field} none", (Put(f"{table}[{key}]", None),)
        value = read_number(" ".join(words[1:]), field, 0, 100000)
        return f"{field} {value:g}", (Put(f"{table}[{key}]", f"{value:g}"),)

    return read


def _paid_words(typed: Typed) -> Told:
    """``paid 118``: what the line in hand really cost."""
    words, spot = typed.words, typed.spot
    key = part_key(spot, "paid")
    if words[1:] == ["none"]:
        return "paid none", (Put(f"paid[{key}]", None),)
    value = read_money(" ".join(words[1:]), "paid")
    return f"paid {value}", (Put(f"paid[{key}]", value),)


def _gone_words(typed: Typed) -> Told:
    """``gone``: the part in hand is not to be had; ``gone no``."""
    words, job, spot = typed.words, typed.job, typed.spot
    key = part_key(spot, "gone")
    kept = tuple(other for other in job.gone if other != key)
    if words[1:] == ["no"]:
        return "to be had again", (Put("gone", kept),)
    return "not to be had", (Put("gone", (*kept, key)),)


def _percent_words(field: str, path: str, most: float) -> Reader:
    def read(typed: Typed) -> Told:
        words = typed.words
        value = read_number(" ".join(words[1:]), field, 0, most, "%")
        return f"{field} {value:g} %", (Put(path, value),)

    return read


def _rate_words(typed: Typed) -> Told:
    """``rate 65``: an hour's labour; ``rate none``."""
    words = typed.words
    value = None if words[1:] == ["none"] else read_money(" ".join(words[1:]), "rate")
    return f"rate {value or 'none'}", (Put("buying.rate_per_h", value),)


def _rebate_words(typed: Typed) -> Told:
    """``rebate 30``, ``rebate 30 cap 1000``."""
    words = typed.words
    text, _, cap = " ".join(words[1:]).partition(" cap ")
    value = read_number(text, "rebate", 0, 100, "%")
    most = read_money(cap, "rebate cap") if cap else None
    return " ".join(words), (Put("buying.rebate_percent", value), Put("buying.rebate_cap", most))


def _hours_words(typed: Typed) -> Told:
    """``hours charger 1.5``, ``hours 0.2`` for the part in hand: the user's own; ``hours charger none``."""
    words, spot = typed.words, typed.spot
    named = len(words) > 2
    kind = " ".join(words[1:-1]) if named else part_key(spot, "hours").partition(":")[0]
    known = open_book(typed.job.code).goods.hours()
    if kind not in known:
        raise InputError("hours", f"No kind of part is called '{kind[:30]}'.", ", ".join(list(known)[:12]))
    value = None if words[-1] == "none" else f"{read_number(words[-1], 'hours', 0, 100):g}"
    return f"{kind} {value or 'example'} h each", (Put(f"hours[{kind}]", value),)


def _from_words(typed: Typed) -> Told:
    """``from counter, 3 November``: where and when the price of the part in hand was read."""
    words, spot = typed.words, typed.spot
    key = part_key(spot, "from")
    text = " ".join(words[1:])
    if not text:
        raise InputError("from", "Where and when was that price?", "such as from counter, 3 November")
    return f"price read {text}", (Put(f"price_notes[{key}]", None if text == "none" else text[:120]),)


count_came = _number_words("came", "delivered")
PARTS_WORDS: Final[dict[str, Reader]] = {
    "stock": _number_words("stock", "stock"),
    "came": _number_words("came", "delivered"),
    "paid": _paid_words,
    "gone": _gone_words,
    "hours": _hours_words,
    "from": _from_words,
    "waste": _percent_words("waste", "buying.waste_percent", 50),
    "spare": _percent_words("spare", "buying.spare_percent", 100),
    "tax": _percent_words("tax", "buying.tax_percent", 50),
    "margin": _percent_words("margin", "buying.margin_percent", 300),
    "rate": _rate_words,
    "rebate": _rebate_words,
}
"""First words of entries about buying, and what reads them."""
