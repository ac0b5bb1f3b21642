"""What is typed on the Prove stage: readings, striking, signing, air."""

from __future__ import annotations

from typing import Final

from awlmark.core.entry.build import clock
from awlmark.core.entry.word import Told, Typed
from awlmark.core.errors import InputError
from awlmark.core.job.edit import Put
from awlmark.core.job.model import Job
from awlmark.core.prove.log import PASSED, add_reading, latest, possible, read_value, sign, strike, waive
from awlmark.core.prove.test import Test, tests_of
from awlmark.core.quantities import read_temperature
from awlmark.core.solve.design import solved


def _test(job: Job, text: str) -> tuple[Test, str]:
    """The test a text begins with, and the rest; without one the next test that has no reading."""
    design = solved(job)
    tests = tests_of(design)
    if not tests:
        raise InputError("read", "There are no tests before the circuit is worked out.", "a line and a charger first")
    lowered = text.lower()
    named = [(name, test) for test in tests for name in dict.fromkeys((test.key, test.called))]
    for name, test in sorted(named, key=lambda pair: -len(pair[0])):
        if lowered.startswith(name.lower() + " "):
            return test, text[len(name) :].strip()
    if text[:1].isdigit() or text[:1] in ">-" or lowered in PASSED:
        read = latest(design)
        found = next((test for test in tests if test.key not in read), None)
        if found is not None:
            return found, text
    raise InputError(
        "read", f"No test is called '{text[:30]}'.", ", ".join(test.called for test in tests[:8]) + " and so on"
    )


def read_words(typed: Typed) -> Told:
    """``read charger 1-2 240.4 V``, ``read 240.4 V`` for the next test; ``by Vale with meter 3`` may follow."""
    words, text, job = typed.words, typed.text, typed.job
    rest = text.strip().split(None, 1)[1] if len(words) > 1 else ""
    rest, _, instrument = rest.partition(" with ")
    rest, _, who = rest.partition(" by ")
    test, raw = _test(job, rest.strip())
    value, why = read_value(raw, test.unit, possible(test))
    said = f"{test.name}: {raw}" + (f". Kept, but not read: {why}" if value is None else "")
    return said, add_reading(job, test, raw, clock(), who.strip()[:60], instrument.strip()[:60])


def except_words(typed: Typed) -> Told:
    """``except megohm 1-G no tester on site``: a test signed over unread or out of its band, for this reason."""
    words, text, job = typed.words, typed.text, typed.job
    rest = text.strip().split(None, 1)[1] if len(words) > 1 else ""
    test, reason = _test(job, rest.strip())
    return f"except {test.name}: {reason}", waive(job, test, reason)


def strike_words(typed: Typed) -> Told:
    """``strike 4 probe on paint``: reading 4 no longer counts, for this reason."""
    text, job = typed.text, typed.job
    parts = text.strip().split(None, 2)
    if len(parts) < 3 or not parts[1].isdigit():
        raise InputError("strike", "Which reading, and why?", "such as strike 4 probe on paint")
    return f"reading {parts[1]} struck", strike(job, int(parts[1]), parts[2])


def sign_words(typed: Typed) -> Told:
    """``sign R. Vale``: freezes what was read so far."""
    text, job = typed.text, typed.job
    who = text.strip()[4:].strip()
    return f"signed by {who}", sign(solved(job), who, clock())


def air_words(typed: Typed) -> Told:
    """``air 68F``: air at the charger during the heat test."""
    words = typed.words
    value = None if words[1:] == ["open"] else read_temperature(" ".join(words[1:]), "air")
    return " ".join(words), (Put("prove.ambient_c", value),)


PROVE_WORDS: Final = {
    "read": read_words,
    "strike": strike_words,
    "except": except_words,
    "sign": sign_words,
    "air": air_words,
}
"""First words of entries about proving, and what reads them."""
