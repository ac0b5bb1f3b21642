"""What is typed of the job as a whole, and of the leg, the part or the finding in hand."""

from __future__ import annotations

from msgspec.structs import replace

from awlmark.core.books import open_book
from awlmark.core.entry.legs import ENDS, KINDS, change_leg, end_leg, leg_named, new_leg, rub_leg
from awlmark.core.entry.run import LEG_WORDS
from awlmark.core.entry.word import Reading, Told, Typed
from awlmark.core.errors import InputError
from awlmark.core.job.book_pins import book_pins, family, pins_in_words
from awlmark.core.job.edit import Put
from awlmark.core.job.leg import PLACES, Leg
from awlmark.core.job.model import Job, Overrule, Seen
from awlmark.core.job.selection import Spot
from awlmark.core.quantities import print_length, read_length, read_money, read_temperature
from awlmark.core.shelf import CODES


def scribe_words(typed: Typed) -> Reading:
    """``up 3``, ``right 22 6 box``: a new leg at the end of the line."""
    return Reading(*new_leg(typed.words, typed.job))


def end_words(typed: Typed) -> Told:
    """``corner``, ``charger``: what stands at the end of the last leg."""
    word, *more = typed.words
    if more:
        raise InputError(word, f"Can't read '{' '.join(more)[:40]}' behind it.", f"{word} alone")
    return end_leg(ENDS[word], typed.job)


def rub_words(typed: Typed) -> Reading:
    """``rub``, ``rub 3``: a leg away."""
    return Reading(*rub_leg(typed.words, typed.job))


def leg_words(typed: Typed) -> Told | Reading:
    """``leg 2 21 6``, ``leg 2 ambient 45C``: of a leg by its number, wherever the awl stands."""
    from awlmark.core.entry.read import read_entry

    words, job, spot = typed.words, typed.job, typed.spot
    number, leg = leg_named(words, job)
    rest = words[2:]
    book = open_book(job.code)
    named = rest[-1] in (*book.methods, *book.short_methods, *KINDS) or "-".join(rest[-2:]) in book.methods
    if (rest[0] in ("ambient", "place", *LEG_WORDS) and len(rest) > 1) or named:
        return read_entry(" ".join(rest), job, replace(spot, leg_id=leg.id, section_legs=(leg.id,)))
    if rest[0] in LEG_WORDS and rest[0] not in ENDS:
        return read_entry(rest[0], job, replace(spot, leg_id=leg.id))
    says, edits = change_leg(number, rest, job)
    return says, tuple(edits)


def leg_in_hand(job: Job, spot: Spot, field: str) -> Leg:
    found = next((leg for leg in job.legs if leg.id == spot.leg_id), job.legs[-1] if job.legs else None)
    if found is None:
        raise InputError(field, "There is no leg in hand.", "a first leg such as up 3")
    return found


def ambient_words(typed: Typed) -> Told:
    words, job, spot = typed.words, typed.job, typed.spot
    leg = leg_in_hand(job, spot, "ambient temperature")
    value = None if words[1:] == ["open"] else read_temperature(" ".join(words[1:]))
    says = f"leg {job.legs.index(leg) + 1}, ambient {' '.join(words[1:])}"
    return says, (Put(f"legs[{leg.id}].ambient_c", value),)


def cover_words(typed: Typed) -> Told:
    words, job = typed.words, typed.job
    trench = next((leg for leg in reversed(job.legs) if leg.direction == "trench"), None)
    if trench is None:
        raise InputError("cover", "There is no trench yet.", "a trench leg first, such as trench 64")
    value = read_length(" ".join(words[1:]), "cover", job.units)
    return f"cover {print_length(value, job.units)}", (Put(f"legs[{trench.id}].cover_m", value),)


def place_words(typed: Typed) -> Told:
    words, job, spot = typed.words, typed.job, typed.spot
    leg = leg_in_hand(job, spot, "place")
    value = words[1] if len(words) == 2 else ""
    if value not in (*PLACES, "open"):
        places = ", ".join(open_book(job.code).words.place(place) for place in PLACES)
        raise InputError("place", f"Can't use '{' '.join(words[1:])}'.", f"one of {places}, open")
    path = f"legs[{leg.id}].place"
    return f"leg {job.legs.index(leg) + 1}, {open_book(job.code).words.place(value)}", (
        Put(path, None if value == "open" else value),
    )


def price_words(typed: Typed) -> Told:
    words, spot = typed.words, typed.spot
    if spot.part_key is None:
        raise InputError(
            "price", "Which part?", "a part chosen in the list of the Parts stage; a price a kWh is tariff 0.15"
        )
    value = read_money(" ".join(words[1:]))
    return f"price {value}", (Put(f"prices[{spot.part_key}]", value),)


def name_words(typed: Typed) -> Told:
    text = typed.text
    name = text.strip()[4:].strip()
    if not name or len(name) > 120:
        raise InputError("name", "A job wants a name.", "1 to 120 letters")
    return f"name {name}", (Put("name", name),)


def code_words(typed: Typed) -> Told:
    """``code 2020``, ``code bs``: the rule book; one of another family is asked first, for it opens what is pinned."""
    *words, last = typed.words
    asked = last != "open" or not words[1:]
    wanted = "-".join([*words, last][1:] if asked else words[1:])
    match = next((code for code in CODES if wanted and (code.endswith(wanted) or code.startswith(wanted))), None)
    if match is None or len(wanted) < 2:
        raise InputError("rule book (code)", f"Can't use '{wanted[:40]}'.", "one of " + ", ".join(CODES))
    book, job = open_book(match), typed.job
    if family(match) == family(job.code):
        return f"rule book {match}", (Put("code", match),)
    pins = book_pins(job)
    own_prices = job.prices and job.prices != open_book(job.code).goods.prices()
    told = ", ".join(filter(None, (pins_in_words(pins), "prices" if own_prices else "")))
    if told and asked:
        says = f"{book.title} reads other words and opens: {told}. It takes {book.units}, {book.currency}."
        raise InputError(
            "rule book (code)", says,
            f"code {wanted} open, to open them all in one step",
        )  # fmt: skip
    usual = job.makeup == open_book(job.code).goods.tails
    edits = (
        *(Put(path, value) for path, value in pins.items()), Put("supply.system", next(iter(book.systems))),
        Put("makeup", book.goods.tails if usual else job.makeup),
        Put("units", book.units), Put("currency", book.currency), Put("prices", dict(book.goods.prices())),
        Put("price_notes", {}), Put("code", match),
    )  # fmt: skip
    return f"rule book {book.title}, {book.units}, {book.currency}" + (f"; opened: {told}" if told else ""), edits


def overrule_words(typed: Typed) -> Told:
    """``overrule inspector agreed``: the finding in hand set aside, with its reason; ``overrule none`` undoes it."""
    text, job, spot = typed.text, typed.job, typed.spot
    if spot.finding_id is None:
        raise InputError("overrule", "There is no finding in hand.", "a finding chosen in the slip")
    kept = tuple(one for one in job.overrules if one.finding != spot.finding_id)
    reason = text.strip()[len("overrule") :].strip()
    if reason == "none":
        return "finding no longer overruled", (Put("overrules", kept),)
    if len(reason.split()) < 2:
        sample = "such as overrule inspector agreed on site"
        raise InputError("overrule", "It wants a reason, in words; the reason prints.", sample)
    new = Overrule(finding=spot.finding_id, reason=reason[:200])
    return f"overrule: {reason}", (Put("overrules", (*kept, new)),)


def saw_words(typed: Typed) -> Told:
    """``saw R. Vale``: the note in hand has been seen, and by whom; ``saw none`` takes that back."""
    job, spot = typed.job, typed.spot
    by = " ".join(typed.text.split()[1:])
    if spot.finding_id is None or spot.finding_text is None:
        raise InputError("saw", "There is no note in hand.", "a note chosen in the list of what is open")
    kept = tuple(one for one in job.seen if one.finding != spot.finding_id)
    if by == "none":
        return "note no longer seen", (Put("seen", kept),)
    return f"note seen by {by}", (
        Put("seen", (*kept, Seen(finding=spot.finding_id, text=spot.finding_text, by=by[:60]))),
    )


def open_words(typed: Typed) -> Told:
    """``open``: every decision of the circuit open again; ``open run``: the charger off the line's end."""
    words, job = typed.words, typed.job
    if words[1:] == ["run"]:
        if not job.legs or job.legs[-1].end != "charger":
            raise InputError("open", "The line is open already.", "a line that ends at a charger")
        return "line open at its end", (Put(f"legs[{job.legs[-1].id}].end", "bend"),)
    if len(words) > 1:
        raise InputError("open", f"Can't open '{' '.join(words[1:])}'.", "open, or open run")
    fields = ("breaker_a", "material", "insulation", "size", "ground_size")
    edits = [Put(f"circuit.{field}", None) for field in fields]
    edits += [Put(f"legs[{leg.id}].trade_size", None) for leg in job.legs if leg.trade_size is not None]
    return "all decisions open", tuple(edits)


def run_words(typed: Typed) -> Told:
    job = typed.job
    says, edits = end_leg("charger", job)
    return says, tuple(edits)


def length_words(typed: Typed) -> Told:
    """``length 75ft``: a new reading of the leg in hand."""
    leg = leg_in_hand(typed.job, typed.spot, "length")
    return change_leg(typed.job.legs.index(leg) + 1, typed.words[1:], typed.job)


def desk_words(typed: Typed) -> Reading:
    """``undo``, ``redo``, ``help``: what the desk does, and no edit."""
    word, *more = typed.words
    if more:
        raise InputError(word, f"Can't read '{' '.join(more)[:40]}' behind it.", f"{word} alone")
    acts = {"undo": "menu:undo", "redo": "menu:redo", "help": "menu:keys"}
    return Reading(word, typed.job, acts[word])
