"""Every command with its options in words: the parsers, ``--help``, the man page and the completions come from here."""

from __future__ import annotations

from typing import Final, NamedTuple

from awlmark.core.shelf import CODES, NEWEST

EXPORTS: Final = (
    "parts.csv", "parts.xlsx", "walls.dxf", "walls.svg", "bends.svg", "packet.pdf", "tests.pdf", "log.csv",
)  # fmt: skip
STATUSES: Final = (
    (0, "no stop"), (1, "a stop: a rule is broken"), (2, "input that cannot be used, or what cannot be done here"),
    (3, "something nobody foresaw; a log is kept"),
)  # fmt: skip
"""What the command ends with."""


class Option(NamedTuple):
    """One word of a command: a file where its name has no dashes before it."""

    name: str
    says: str
    """What it is, in plain words; how it is told stands in ``value``."""
    value: str = ""
    """A word for what follows it; empty for a switch."""
    default: str | None = None
    choices: tuple[str, ...] = ()
    needed: bool = False


class Command(NamedTuple):
    """One command."""

    name: str
    says: str
    options: tuple[Option, ...]
    examples: tuple[str, ...]


FILE: Final = Option("file", "job to read", "FILE", needed=True)
FORMAT: Final = Option("--format", "how the answer is printed", "HOW", "text", ("text", "json"))
ACCEPT: Final = Option("--accept-overrules", "a stop that was overruled leaves status 0")
CODE: Final = Option("--code", "rule book", "BOOK", NEWEST, CODES)
OF_SIZE: Final = (
    Option("--charge-a", "what the charger draws, off its plate, such as 48 or 48A", "AMPS", needed=True),
    Option("--length", "how long the run is, such as 60ft or 18m", "LENGTH", needed=True),
    CODE._replace(choices=()),
    Option("--system", "the supply: 120/240 or 120/208; 230 or 400 under the British book", "VOLTS"),
    Option("--connection", "how it ends: hardwired, 14-50; tethered, type2, ev13 under the British book", "HOW"),
    Option("--method", "what it runs in: emt, pvc40, nm; te-clipped, swa-duct under the British book", "METHOD"),
    Option("--material", "metal of the conductors: cu or al", "METAL"),
    Option("--insulation", "insulation of the conductors: thwn-2, xhhw-2", "NAME"),
    Option("--ambient", "air round the warmest part, such as 45C or 110F", "TEMPERATURE"),
    Option("--terminal", "what both ends are marked: 60 or 75; 70 or 90 under the British book", "DEGREES"),
    Option("--max-drop", "most volts lost, in percent", "PERCENT"),
    Option("--size", "size of the conductors, pinned: 6; or 6 for 6 mm2 under the British book", "SIZE"),
    Option("--trade-size", "size of the pipe, pinned: 3/4; 25 under the British book", "SIZE"),
    Option("--ground-size", "size of the protective conductor, pinned", "SIZE"),
    Option("--other-conductors", "what else lies in the pipe, such as 3x6:thwn-2", "LIST"),
    Option("--place", "where it lies: indoor, garage, attic, crawl, outdoor, roof, buried", "PLACE"),
    Option("--extra-ccc", "conductors of other cables that count with its own", "COUNT"),
    Option("--occupancy", "dwelling or other", "USE"),
    Option("--device", "British book: curve of the device, b, c, d or bs88-2", "CURVE"),
    Option("--breaker", "British book: rating of the device, pinned", "AMPS"),
    Option("--earthing", "British book: tn-c-s, tn-s or tt", "SYSTEM"),
    Option("--ze", "British book: loop outside the installation", "OHMS"),
    Option("--ra", "British book: the electrode", "OHMS"),
    Option("--pen", "British book: answer to a lost PEN, i to v, island or indoors", "ANSWER"),
    Option("--ground-temp", "British book: temperature of the soil, such as 15C", "TEMPERATURE"),
    Option("--soil", "British book: thermal resistivity of the soil", "KM/W"),
    Option("--circuits", "British book: loaded circuits that lie together, its own counted", "COUNT"),
    Option("--spread", "British book: how they lie, touching or spaced", "HOW"),
    Option("--insulated", "British book: length that thermal insulation surrounds, such as 100mm", "LENGTH"),
    Option("--supply", "British book: public or private", "KIND"),
    FORMAT,
)
COMMANDS: Final = (
    Command("demo", "Open the demo of a rule book.", (CODE._replace(says="rule book whose demo is opened"),),
            ("awlmark demo", "awlmark demo --code bs7671-2018a2")),
    Command("size", "Size one circuit from the words given, and say what was not asked.", OF_SIZE,
            ("awlmark size --charge-a 48 --length 60ft --method emt",
             "awlmark size --code bs7671-2018a2 --charge-a 32 --length 18m --method swa-clipped --format json")),
    Command("fill", "Say how full a pipe is with the conductors given.", (
        Option("--raceway", "which pipe: emt, pvc40; conduit under the British book", "PIPE", needed=True),
        Option("--trade-size", "its size, such as 3/4", "SIZE", needed=True),
        Option("--conductors", "what lies in it, such as 3x6:thwn-2,1x10:thwn-2", "LIST", needed=True),
        CODE._replace(choices=()),
        Option("--length", "how long it is", "LENGTH"),
        Option("--bends", "British book: bends between boxes", "COUNT"),
        FORMAT,
    ), ("awlmark fill --raceway emt --trade-size 1 --conductors 3x6:thwn-2",)),
    Command("check", "Check a job as it stands, with its price.", (FILE, FORMAT, ACCEPT),
            ("awlmark check job.awlmark",)),
    Command("compare", "Compare the circuits that a job could have.", (
        FILE, FORMAT,
        Option("--top", "how many are shown", "COUNT", "10"),
        Option("--rank", "what is best: price, loss, size, pull or hours", "BY", "price"),
        Option("--where", "conditions such as 'drop<=2,material=cu'", "CONDITIONS", ""),
    ), ("awlmark compare job.awlmark --top 5 --where 'drop<=2,material=cu'",)),
    Command("export", "Write lists, drawings and papers of a job.", (
        FILE,
        Option("--to", "folder that takes the files", "FOLDER", needed=True),
        Option("--only", "which files, parted by commas", "NAMES", ",".join(EXPORTS)),
        Option("--names", "plain, or job: each file begins with the job's name", "HOW", "plain"),
        ACCEPT,
    ), ("awlmark export job.awlmark --to out --only parts.csv,packet.pdf",)),
    Command("schema", "Print what a job's file may hold, as JSON Schema.", (), ("awlmark schema",)),
)  # fmt: skip


def command(name: str) -> Command:
    """A command by its name."""
    return next(each for each in COMMANDS if each.name == name)


def told(option: Option) -> str:
    """An option in one sentence, with its choices and its default."""
    choices = f"; one of {', '.join(option.choices)}" if option.choices else ""
    default = f"; usually {', '.join(option.default.split(','))}" if option.default else ""
    return f"{option.says}{choices}{default}{'; needed' if option.needed else ''}"


def statuses() -> str:
    """What the command ends with, in one sentence."""
    return "Exit status: " + ", ".join(f"{number} {says}" for number, says in STATUSES) + "."
