"""The facts of the cars and the tariff: a table whose cells can be typed over."""

from __future__ import annotations

from awlmark.core.entry.cars import CAR_FACTS, SHARED_FACTS
from awlmark.core.job.cars import MOST_CARS
from awlmark.core.solve.design import Design
from awlmark.desk.tables.table import Cell, Table


class FactsTable(Table):
    """A row a fact, a column a car; the facts they share stand below in the first column."""

    def __init__(self) -> None:
        super().__init__(("no car",) * MOST_CARS, "Facts of the cars and the tariff; type over any of them")

    def fill(self, design: Design) -> None:
        """Show the facts of a design's job."""
        job = design.job
        cars = job.need.cars
        self.rows.name_columns([*(car.name for car in cars), *["no car"] * (MOST_CARS - len(cars))])
        blank, cells = Cell(known=False), []
        for fact in CAR_FACTS:
            known = tuple(Cell(fact.show(job, car), typed=True) for car in cars)
            cells.append((*known, *(blank,) * (MOST_CARS - len(cars))))
        for fact in SHARED_FACTS:
            cells.append((Cell(fact.show(job, None), typed=True), *(blank,) * (MOST_CARS - 1)))
        for column in range(MOST_CARS):
            # One column more than cars: it takes no typing, and says where the next one goes.
            self.setColumnHidden(column, column > len(cars))
        self.show_rows(cells, tuple(fact.label for fact in (*CAR_FACTS, *SHARED_FACTS)))
