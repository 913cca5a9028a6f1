"""What the tool does not plan, and why."""

import re

from zesty_grid.core.refusal import Fault, Refusal
from zesty_grid.core.shelf.items import MordantRoute, OnShelf

REFUSED_MATERIALS = {
    "chromium": "Chromium salts can cause cancer, and their waste poisons water.",
    "tin": "Tin salts burn skin, make fibre brittle, and their waste harms water.",
    "lead": "Lead is poisonous in any amount, and builds up in the body.",
}
_WORDS = {
    "chromium": r"chrom(e|ium|ate|ic)s?|dichromate|bichromate",
    "tin": r"tin|stann(ous|ic)",
    "lead": r"lead|plumb(ous|ic)|litharge",
}


def refuse_materials(item: OnShelf) -> None:
    """Raises Refusal where an item, or a bath of a route, calls for chromium, tin or lead."""
    names = [item.name]
    if isinstance(item, MordantRoute):
        names += [bath.substance for bath in item.baths]
        names += [bath.assist for bath in item.baths if bath.assist]
    for material, pattern in _WORDS.items():
        for name in names:
            if re.search(rf"\b({pattern})\b", name.lower()):
                cure = "Aluminium, tannin and iron give most of what it gave, with less harm."
                raise Refusal(
                    "refused-material",
                    f"{material.capitalize()} is not planned here. {REFUSED_MATERIALS[material]}",
                    cure,
                    (Fault(field="name", given=name, allowed=f"anything without {material}", cure=cure),),
                )
