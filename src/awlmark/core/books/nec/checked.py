"""What this book checks, and what it leaves out, in the words of the help."""

from __future__ import annotations

from typing import Final

from awlmark.core.books.nec.edition import clause_of

CHECKED: Final = (
    "Breaker against 125 % of the charging current",
    "Conductor in the column of the cooler terminal, before factors",
    "Ambient correction and bundling, on the insulation's own column",
    "Next standard breaker up and small conductors",
    "NM and UF held to 60 °C; what may not lie outdoors or underground",
    "Ground by the breaker, and grown with the hots",
    "Voltage drop against the limit of the job",
    "Fill and jam ratio of every raceway",
    "Bends between pull points, offsets and saddles counted; pulling force and sidewall, both ways",
    "Cover over a trench by method and surface, risers, frost; expansion of plastic pipe",
    "Walls passed: nipple, sleeve, seal; bored holes and nail plates; cable that can be hit, or lies in the sun",
    "What stands on the wall in the line's way; where one wiring method becomes another; a line that meets itself",
    "Cord and car, every way it may stand; heights; working space before the panel",
    "Room in the panel and the fewest moves; breaker types, tandems, fillers, solar on the bus",
    "A measured year, and load management on it night by night",
    "Receptacle against breaker and charging current; ground-fault breaker by edition",
    "Box volume, pull boxes, terminals' gauges and metal, disconnects, white wires, local rules",
    "The weakest link of the chain, and what an existing circuit may honestly be set to",
    "Feeders: wire and ground against their breaker; the building they reach, its disconnect and electrode",
    "The unit: its own largest breaker, its marks, its plug and cord, who set it, what a car could hit",
    "The panel: where it hangs, its handles' height, fault current and what the breaker interrupts",
    "Insulation, cables lying together, roof decking, fire walls; aluminium grounds outdoors, steel in the earth",
    "What only the site knows is asked; a verdict that leans on it holds only as far as asked",
    "Whether the current fills the cars' nights over a simulated year",
    "Demand with the charger on the service and on every feeder to it, from the loads you enter",
)
LEFT_OUT: Final = (
    f"Torque beyond a fallback from {clause_of('annex')}: the label on the part wins",
    "Doors' swings and heights beyond what is typed; what a wall hides",
    f"Units that feed power back; power from parallel conductors ({clause_of('parallel')}); hazardous places "
    f"({clause_of('hazardous')})",
    f"Wire-bending space and gutter fill ({clause_of('bending_space')}); earthquake anchoring",
)
