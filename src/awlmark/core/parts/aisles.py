"""The aisles of the shop, in the order of the list."""

from typing import Final

AISLES: Final = ("Wire", "Raceway", "Fittings", "Boxes and outlets", "Panel", "Fixings", "Sundries")
ORDER: Final = {aisle: place for place, aisle in enumerate(AISLES)}
