"""The whole sizing worked a second time from the printed tables, by plain arithmetic without the package's engine."""

import csv
import itertools
import math
import unittest
from fractions import Fraction
from pathlib import Path

from awlmark.core.books.nec.printed import FOLDER
from awlmark.core.job.edit import Put, put
from tests.support import LONG, design, refused, solve, straight


def rows(name: str) -> list[dict[str, str]]:
    """A printed table, read here again."""
    text = Path(FOLDER / f"{name}.csv").read_text(encoding="utf-8")
    return list(csv.DictReader(line for line in text.splitlines() if not line.startswith("#")))


AMPACITY = {row["size"]: row for row in rows("ampacity_310_16")}
SIZES = list(AMPACITY)
AREA = {(row["type"], row["size"]): Fraction(row["area_in2"]) for row in rows("insulated_dims_ch9_t5")}
CMIL = {row["size"]: int(row["cmil"]) for row in rows("conductor_props_ch9_t8")}
OHM = {
    (row["size"], row["stranding"]): {
        "cu": Fraction(row["cu_uncoated_ohm_per_kft_75C"]),
        "al": Fraction(row["al_ohm_per_kft_75C"]),
    }
    for row in rows("conductor_props_ch9_t8")
}
RATINGS = [int(row["rating_a"]) for row in rows("ocpd_240_6")]
GROUND = [(int(row["ocpd_a"]), row) for row in rows("egc_250_122")]
CABLE = {(row["cable"], row["hot_size"]): row["ground_size"] for row in rows("cable_construction")}
PIPE = [(row["raceway"], row["trade_size"], Fraction(row["total_area_in2"])) for row in rows("raceway_ch9_t4")]
SMALL = {("cu", "14"): 15, ("cu", "12"): 20, ("cu", "10"): 30, ("al", "12"): 15, ("al", "10"): 25}
"""240.4(D), written here apart from the table that ships."""
NAMES = {"emt": "EMT", "pvc40": "PVC40", "rmc": "RMC"}


def up_to(amps: Fraction) -> int:
    """Smallest standard rating at or above."""
    return next(rating for rating in RATINGS if rating >= amps)


def ambient(celsius: int, column: int) -> Fraction:
    """Factor of the row that holds a temperature."""
    row = next(row for row in rows("ambient_310_15_b1") if celsius <= int(row["c_high"]))
    return Fraction(0) if row[f"f{column}"] == "-" else Fraction(row[f"f{column}"])


def bundling(count: int) -> Fraction:
    """Factor for current-carrying conductors."""
    for row in rows("adjustment_310_15_c1"):
        if int(row["n_low"]) <= count <= int(row["n_high"] or 10**6):
            return Fraction(int(row["percent"]), 100)
    return Fraction(1)


class Worked:
    """One circuit, worked by hand."""

    def __init__(
        self, charge: int, feet: int, method: str, metal: str, celsius: int, extra: int, terminal: int
    ) -> None:
        need = Fraction(charge) * 5 / 4
        self.breaker = up_to(max(need, Fraction(15)))
        cable = method in ("nm", "uf")
        column = 75 if self.breaker > 100 else terminal
        column = min(column, 60) if cable else column
        own = {"nm": 90, "uf": 60}.get(method, 90)
        factor = ambient(celsius, own) * (bundling(2 + extra) if feet > 2 else 1)
        allowed = []
        for size in SIZES:
            cells = AMPACITY[size][f"{metal}{column}"], AMPACITY[size][f"{metal}{own}"]
            made = not cable or (method, size) in CABLE
            if "-" in cells or not made or (size not in [s for _, s in AREA] and not cable):
                continue
            terminals, factored = Fraction(cells[0]), Fraction(cells[1]) * factor
            protects = up_to(min(terminals, factored)) if min(terminals, factored) > 0 else 0
            protects = min(protects, SMALL.get((metal, size), 10**6))
            if terminals >= need and factored >= charge and protects >= self.breaker:
                allowed.append((size, min(terminals, factored)))
        least = allowed[0][0]
        for size, usable in allowed:  # noqa: B007 - both are read after the loop
            kind = "solid" if method == "nm" and size in ("14", "12", "10") else "stranded"
            volts = 2 * charge * OHM[size, kind][metal] * feet / 1000
            if volts * 100 / 240 <= 3:
                break
        else:
            raise LookupError("no size meets the drop limit")
        self.size, self.usable, self.volts = size, usable, volts
        table = next(row for rating, row in GROUND if self.breaker <= rating)[metal]
        needed = Fraction(CMIL[table]) * max(Fraction(CMIL[size], CMIL[least]), 1)
        if cable:
            self.ground = CABLE[method, size]
            self.ground_holds = CMIL[self.ground] >= min(CMIL[table], CMIL[size]) * Fraction(999, 1000)
        else:
            self.ground = next((g for g in SIZES if CMIL[g] >= needed * Fraction(999, 1000)), size)
            self.ground = self.ground if CMIL[self.ground] <= CMIL[size] else size
            self.ground_holds = True
        self.pipe = None if cable else self.trade(method, metal, feet)

    def trade(self, method: str, metal: str, feet: int) -> str:
        """Smallest trade size by area; note 7 for three equal conductors."""
        kind = "THHN" if metal == "cu" else "XHHW"
        hot, ground = AREA[kind, self.size], AREA[kind, self.ground]
        share = Fraction(3, 5) if feet <= 2 else Fraction(2, 5)
        for name, size, total in PIPE:
            if name == NAMES[method]:
                fits = 2 * hot + ground <= total * share
                equal = hot == ground and math.floor(total * share / hot + Fraction(1, 5)) >= 3
                if fits or equal:
                    return size
        raise LookupError("no trade size")


class SizingWorkedTwice(unittest.TestCase):
    def test_grid(self) -> None:
        charges = (8, 12, 16, 24, 32, 40, 48, 64, 80) if LONG else (12, 24, 40, 48, 80)
        lengths = (2, 10, 60, 120, 250, 400) if LONG else (2, 60, 250)
        seen = 0
        grid = itertools.product(
            charges,
            lengths,
            (("emt", "cu"), ("emt", "al"), ("pvc40", "cu"), ("rmc", "al"), ("nm", "cu"), ("uf", "cu")),
            (5, 30, 44, 50),
            (0, 2, 7),
            (60, 75),
        )
        # A stride that no inner axis divides, so that every value still meets those of the others.
        step = 1 if LONG else 5
        for charge, feet, (method, metal), celsius, extra, terminal in itertools.islice(grid, 0, None, step):
            pinned = {"circuit__extra_ccc": extra, "supply__terminal_c": terminal, "circuit__material": metal}
            job = put(straight(charge, feet, method=method, **pinned), Put("legs[leg-1].ambient_c", float(celsius)))
            try:
                worked = Worked(charge, feet, method, metal, celsius, extra, terminal)
            except (LookupError, StopIteration):
                continue
            made = solve(job)
            told = made.circuit
            seen += 1
            with self.subTest(charge=charge, feet=feet, method=method, metal=metal, c=celsius, extra=extra, t=terminal):
                self.assertEqual(told.breaker_a, worked.breaker)
                if not worked.ground_holds:
                    self.assertEqual(made.finding("ground").severity, "stop")
                self.assertEqual((told.size, told.ground), (worked.size, worked.ground))
                self.assertAlmostEqual(told.usable_a, float(worked.usable), places=6)
                self.assertAlmostEqual(told.drop_v, float(worked.volts), places=6)
                self.assertEqual(told.trade_sizes[0], worked.pipe)
        self.assertGreater(seen, 300)

    def test_input_of_a_cable_in_aluminium_is_no_case(self) -> None:
        with refused(self, "conductor material"):
            design(32, 20, method="uf", circuit__material="al")
