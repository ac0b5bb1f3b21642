"""The shipped tables against each other and against physics."""

import math
import runpy
import unittest
from pathlib import Path
from typing import ClassVar

import numpy as np

from awlmark.core.books import open_book
from awlmark.core.books.nec.printed import names, number, printed
from awlmark.core.books.nec.sizing.fill import judge_fill
from awlmark.core.job.leg import Bundle
from awlmark.core.shelf import EDITIONS
from tests.outside import cases

BOOK = open_book("nec-2023")
ROOT = Path(__file__).parent.parent.parent


def gauge_number(size: str) -> int:
    """AWG number of a size up to 4/0; 1/0 is 0, 2/0 -1 and so on."""
    return 1 - int(size.split("/")[0]) if "/" in size else int(size)


class Dimensions(unittest.TestCase):
    source = cases.B258

    def test_insulated_diameters_and_areas_agree(self) -> None:
        for table in ("insulated_dims_ch9_t5", "compact_al_ch9_t5a"):
            for row in printed(table).rows:
                if row["diameter_in"]:
                    diameter, area = float(row["diameter_in"]), float(row["area_in2"])
                    # Both are rounded: half a unit of the last place of the diameter, and of the area.
                    slack = math.pi / 4 * ((diameter + 0.0005) ** 2 - diameter**2) + 0.00006
                    self.assertAlmostEqual(area, math.pi / 4 * diameter**2, delta=slack, msg=f"{table} {row}")

    def test_raceway_diameters_areas_and_limits_agree(self) -> None:
        for row in printed("raceway_ch9_t4").rows:
            bore, area = float(row["internal_diameter_in"]), float(row["total_area_in2"])
            slack = math.pi / 4 * ((bore + 0.0005) ** 2 - bore**2) + 0.0006
            self.assertAlmostEqual(area, math.pi / 4 * bore**2, delta=slack, msg=str(row))
            for column, share in (
                ("area_60pct", 0.6),
                ("area_1wire_53pct", 0.53),
                ("area_2wires_31pct", 0.31),
                ("area_over2_40pct", 0.4),
            ):
                self.assertAlmostEqual(float(row[column]), area * share, delta=0.00101, msg=f"{row} {column}")

    def test_outside_passes_inside(self) -> None:
        for row in printed("raceway_outside_diameter").rows:
            bores = {
                (r["raceway"], r["trade_size"]): float(r["internal_diameter_in"])
                for r in printed("raceway_ch9_t4").rows
            }
            inside = bores.get((row["raceway"], row["trade_size"]))
            if inside:
                self.assertGreater(float(row["outside_diameter_in"]), inside + 0.05)

    def test_circular_mils_follow_the_gauge_formula(self) -> None:
        for size, cmil in zip(BOOK.sizes, BOOK.cmil, strict=True):
            if "/" not in size and int(size) >= 250:
                self.assertEqual(cmil, int(size) * 1000)
                continue
            diameter = 0.005 * 92 ** ((36 - gauge_number(size)) / 39)
            self.assertAlmostEqual(cmil / (diameter * 1000) ** 2, 1, delta=0.001, msg=size)


class Electricity(unittest.TestCase):
    source = cases.IACS, cases.CORRECTION

    def test_resistances_follow_resistivity(self) -> None:
        copper = 1.7241e-8 * (1 + 0.00393 * 55)
        aluminium = 1.7241e-8 / 0.61 * (1 + 0.00403 * 55)
        for row in printed("conductor_props_ch9_t8").rows:
            square_metres = float(row["cmil"]) * math.pi / 4 * 0.0254e-3**2
            lay = 1.02 if row["stranding"] == "stranded" else 1.0
            for column, resistivity in (("cu_uncoated", copper), ("al", aluminium)):
                ohm = resistivity * lay / square_metres * 304.8
                self.assertAlmostEqual(
                    float(row[f"{column}_ohm_per_kft_75C"]) / ohm, 1, delta=0.01, msg=f"{row['size']} {column}"
                )

    def test_table_9_resistances_round_table_8(self) -> None:
        stranded = {r["size"]: r for r in printed("conductor_props_ch9_t8").rows if r["stranding"] == "stranded"}
        for row in printed("impedance_ch9_t9").rows:
            for nine, eight in (("r_cu_pvc", "cu_uncoated_ohm_per_kft_75C"), ("r_al_pvc", "al_ohm_per_kft_75C")):
                if row[nine] != "-" and float(row[nine]) >= 0.1:
                    # Table 9 adds skin effect and prints two figures.
                    self.assertAlmostEqual(
                        float(row[nine]) / float(stranded[row["size"]][eight]),
                        1,
                        delta=0.06,
                        msg=f"{row['size']} {nine}",
                    )

    def test_ambient_factors_follow_the_equation(self) -> None:
        for row in printed("ambient_310_15_b1").rows:
            warmest = float(row["c_high"])
            for column in (60, 75, 90):
                told = row[f"f{column}"]
                if warmest >= column:
                    self.assertEqual(told, "-")
                    continue
                equation = math.sqrt((column - warmest) / (column - 30))
                self.assertAlmostEqual(float(told), equation, delta=0.0051, msg=f"{warmest} {column}")

    def test_larger_is_never_weaker(self) -> None:
        for metal in range(2):
            for column in range(3):
                self.assertTrue(np.all(np.diff(BOOK.ampacity_a[metal, column]) >= 0))
            hotter = np.diff(BOOK.ampacity_a[metal], axis=0)
            self.assertTrue(np.all(hotter >= 0))
        self.assertTrue(np.all(BOOK.ampacity_a[0] >= BOOK.ampacity_a[1]))
        self.assertTrue(np.all(np.diff(BOOK.resistance, axis=2) < 0))


class AnnexC(unittest.TestCase):
    source = cases.ANNEX_C

    SIZES = ("14", "12", "10", "8", "6", "4", "3", "2", "1", "1/0", "2/0", "3/0", "4/0")
    COUNTS: ClassVar = {
        ("emt", "thwn-2", "1/2"): (12, 9, 5, 3, 2, 1, 1, 1),
        ("emt", "thwn-2", "3/4"): (22, 16, 10, 6, 4, 2, 1, 1, 1),
        ("emt", "thwn-2", "1"): (35, 26, 16, 9, 7, 4, 3, 3, 1, 1),
        ("emt", "thwn-2", "1-1/4"): (61, 45, 28, 16, 12, 7, 6, 5, 4, 3, 2, 1, 1),
        ("emt", "thwn-2", "1-1/2"): (84, 61, 38, 22, 16, 10, 8, 7, 5, 4, 3, 3, 2),
        ("emt", "thwn-2", "2"): (138, 101, 63, 36, 26, 16, 13, 11, 8, 7, 6, 5, 4),
        ("emt", "xhhw-2", "1/2"): (8, 6, 5, 2, 1, 1),
        ("emt", "xhhw-2", "3/4"): (15, 11, 8, 5, 3, 2, 1, 1, 1),
        ("pvc40", "thwn-2", "1/2"): (11, 8, 5, 3, 1, 1, 1),
        ("pvc40", "thwn-2", "3/4"): (21, 15, 9, 5, 4, 2, 1, 1),
        ("pvc40", "thwn-2", "1"): (34, 25, 15, 9, 6, 4, 3, 3, 1),
        ("pvc80", "thwn-2", "1/2"): (9, 6, 4, 2, 1, 1),
    }

    def test_counts_follow_from_tables_4_and_5(self) -> None:
        for (raceway, insulation, trade), counts in self.COUNTS.items():
            for size, count in zip(self.SIZES, counts, strict=False):
                with self.subTest(raceway=raceway, trade=trade, size=size, insulation=insulation):
                    self.assertTrue(self.holds(raceway, trade, count, size, insulation))
                    self.assertFalse(self.holds(raceway, trade, count + 1, size, insulation))

    def holds(self, raceway: str, trade: str, count: int, size: str, insulation: str) -> bool:
        bundle = Bundle(count=count, size=size, insulation=insulation)
        return bool(judge_fill(BOOK, BOOK.methods[raceway], trade, (bundle,))["holds"])


class Shipping(unittest.TestCase):
    def test_every_table_names_source_and_status(self) -> None:
        self.assertGreater(len(names()), 20)
        for name in names():
            table = printed(name)
            self.assertTrue(table.source and table.status and table.rows, name)

    def test_the_page_of_sources_is_fresh(self) -> None:
        page = runpy.run_path(str(ROOT / "tools" / "sources.py"))["page"]()
        self.assertEqual((ROOT / "docs" / "sources.md").read_text(encoding="utf-8"), page)

    def test_editions_open_and_cite_themselves(self) -> None:
        for edition in EDITIONS:
            book = open_book(edition)
            self.assertTrue(book.cite("breaker").startswith(book.title))
            self.assertEqual(set(book.usual.values()) - set(book.methods), set())

    def test_cells_read(self) -> None:
        self.assertEqual(number("-"), 0)
        self.assertTrue(math.isnan(number("")))
