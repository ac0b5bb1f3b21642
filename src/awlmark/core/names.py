"""Words that several places use."""

from typing import Final

METAL_NAMES: Final = {"cu": "copper", "al": "aluminium"}
CAUTION: Final = (
    "Planning aid only. Local code, the utility, the permit office and a licensed electrician decide. "
    "Prove every conductor dead before you touch it; line-side lugs stay live with the main off."
)
