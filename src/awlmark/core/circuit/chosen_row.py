"""What the tellers of findings share: one row of the table, and the ways out they offer."""

from __future__ import annotations

from awlmark.core.circuit.case import Case, need_a
from awlmark.core.circuit.evaluate import Evaluated
from awlmark.core.finding import LOWER, Fix
from awlmark.core.job.edit import Put
from awlmark.core.job.model import MATERIALS
from awlmark.core.names import METAL_NAMES
from awlmark.core.run.method_use import method_edits


class Teller:
    """One row of a checked table, at hand for telling."""

    def __init__(self, evaluated: Evaluated, row: int) -> None:
        self.seen = evaluated
        self.case: Case = evaluated.table.case
        self.book = self.case.book
        self.row = row
        table = evaluated.table
        self.group = int(table.group[row])
        self.hot = int(table.hot[row])
        self.size = self.book.sizes[self.hot]
        self.metal = MATERIALS[table.material[self.group]]
        self.insulation = self.book.insulations[table.insulation[self.group]]
        self.breaker_a = float(table.breaker_a[self.group])
        self.need_a = need_a(self.case)
        self.cabled = any(section.method.cable for section in self.case.sections)

    @property
    def wire(self) -> str:
        """The conductor in words."""
        return f"{self.book.print_size(self.size)} {METAL_NAMES[self.metal]}"

    def severity(self, check: str, section: int | None = None) -> str:
        """Severity of a check on this row; empty where it does not apply."""
        at = (self.row,) if section is None else (self.row, section)
        return self.seen.terms[check].severity(at)

    def lower_setting(self, most_a: float) -> tuple[Fix, ...]:
        """Set the charger down to what a part carries: only fixed equipment has a setting that counts."""
        charger, share = self.case.job.charger, self.book.circuit.load_share
        fitting = [setting for setting in self.book.circuit.settings_a if share * setting <= most_a + 1e-9]
        if self.case.receptacle is not None or not fitting or fitting[-1] >= self.case.charge_a:
            return ()
        edits = [Put("charger.setting_a", fitting[-1]), Put("charger.setting_restricted", True)]
        if charger.nameplate_a is None:
            return ()
        return (Fix(f"Set charger to {fitting[-1]:g} A, locked", tuple(edits), LOWER),)

    def right_size(self) -> tuple[Fix, ...]:
        """Take the smallest size that carries the load, where the run's cables are made in it."""
        smallest = self.seen.work.smallest[self.group]
        if smallest >= len(self.book.sizes):
            return ()
        size = self.book.sizes[int(smallest)]
        for section in self.case.sections:
            made = self.book.cable_ground.get(section.method.key)
            if made is not None and size not in made:
                return ()
        edits = [Put("circuit.size", size)]
        if self.case.job.circuit.ground_size is not None:
            edits.append(Put("circuit.ground_size", None))
        return (Fix(f"{self.book.print_size(size)} {METAL_NAMES[self.metal]}", tuple(edits)),)

    def copper(self) -> Fix:
        """Copper all the way, its sizes open."""
        opened = (Put(f"circuit.{field}", None) for field in ("size", "ground_size", "insulation"))
        return Fix("Copper all the way", (Put("circuit.material", "cu"), *opened))

    def conduit(self) -> tuple[Fix, ...]:
        """Put every cable of the run into the raceway usual at its place."""
        edits = conduit_edits(self.case)
        return (Fix("Singles in conduit instead", edits),) if edits else ()


def conduit_edits(case: Case) -> tuple[Put, ...]:
    """Edits that put every cable of the run into the raceway usual at its place."""
    return tuple(edit for section in case.sections if section.method.cable for edit in method_edits(section, None))
