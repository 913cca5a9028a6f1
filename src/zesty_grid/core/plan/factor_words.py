"""The factors by the names that a person reads."""

from zesty_grid.core.plan.factors import FactorKind

FACTOR_WORDS: dict[FactorKind, str] = {
    "fibre": "Fibre", "mordant": "Mordant", "mordant_temperature": "Mordant temperature",
    "mordant_duration": "Mordant duration", "dye": "Dye", "source": "Source",
    "pretreatment": "Pretreatment", "side": "Side", "printing": "Way of printing",
    "times_in": "Times in", "strength": "Dye strength",
    "extraction": "Extraction", "process": "Process", "temperature": "Temperature",
    "duration": "Duration", "ph": "Dye pH", "addition": "Put in", "reheats": "Heated again",
    "rest": "Left in the bath", "iron": "Iron", "iron_temperature": "Iron temperature",
    "iron_duration": "Iron duration", "after_ph": "After-bath pH",
    "after_temperature": "After-bath temperature", "after_duration": "After-bath duration",
    "dip": "Dip", "second_dye": "Second dye", "second_temperature": "Second dye temperature",
    "second_duration": "Second dye duration", "second_iron": "Second iron",
}  # fmt: skip
