"""What this book checks, and what it leaves out, in the words of the help."""

from __future__ import annotations

from typing import Final

CHECKED: Final = (
    "Design current against the device, the device against the conductor after every factor, section by section",
    "Ambient air and ground, neighbours, thermal insulation, soil, cables in the ground: the next worse row",
    "Voltage drop by mV/A/m against the limit of the supply, or that of the job",
    "Protective conductor by its table or by the heat of a fault",
    "Earth-fault loop against the device's table, cold and warm; disconnection times",
    "The electrode of a TT system or of an island",
    "Residual device and smooth direct current; an answer to a lost PEN; outlets",
    "Room in conduit and trunking by terms; breaking capacity; terminals",
)
LEFT_OUT: Final = (
    "Depth of a cable in the ground (its table was not recalled: taken as one)",
    "Supply and demand, consumer unit, work, tests and papers by this book: they come later",
    "Feeding back from a vehicle; three-phase boards; a device's let-through",
)
