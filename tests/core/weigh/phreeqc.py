"""An independent reference: PHREEQC (US Geological Survey) through the package phreeqpython.

Its own data file phreeqc.dat, and the organic acids with the constants of the CRC Handbook of
Chemistry and Physics (from memory), as PHREEQC's data file has none. Ammonia is entered apart
from nitrogen, so that no redox reaction takes part.
"""

from phreeqpython import PhreeqPython

ACIDS = """
SOLUTION_MASTER_SPECIES
Acetate Acetate- 1.0 59.04 59.04
Citrate Citrate-3 2.0 189.1 189.1
Tartrate Tartrate-2 1.0 148.07 148.07
Ammonia Ammonia 0.0 17.03 17.03
SOLUTION_SPECIES
Ammonia = Ammonia
 log_k 0
Ammonia + H+ = HAmmonia+
 log_k 9.252
Acetate- = Acetate-
 log_k 0
Citrate-3 = Citrate-3
 log_k 0
Tartrate-2 = Tartrate-2
 log_k 0
Acetate- + H+ = HAcetate
 log_k 4.756
Citrate-3 + H+ = HCitrate-2
 log_k 6.40
Citrate-3 + 2 H+ = H2Citrate-
 log_k 11.16
Citrate-3 + 3 H+ = H3Citrate
 log_k 14.29
Tartrate-2 + H+ = HTartrate-
 log_k 4.34
Tartrate-2 + 2 H+ = H2Tartrate
 log_k 7.32
END
"""
# Molar mass in g/mol (for vinegar and ammonia of the 5 % solution), and the formula.
REAGENTS = {
    "alum_potassium": (474.39, "KAl(SO4)2"),
    "alum_sulphate": (666.42, "Al2(SO4)3"),
    "alum_acetate": (204.11, "AlAcetate3"),
    "cream_of_tartar": (188.18, "KHTartrate"),
    "citric_acid": (192.12, "H3Citrate"),
    "vinegar_5pct": (1201.0, "HAcetate"),
    "soda_ash": (105.99, "Na2CO3"),
    "washing_soda_decahydrate": (286.14, "Na2CO3"),
    "baking_soda": (84.01, "NaHCO3"),
    "ammonia_5pct": (340.62, "Ammonia"),
    "iron_sulphate": (278.01, "FeSO4"),
}


class Phreeqc:
    def __init__(self) -> None:
        self._engine = PhreeqPython(database="phreeqc.dat").ip
        self._engine.run_string(ACIDS)

    def ph(self, ph: float, alkalinity_mg_l: float, grams_per_l: dict[str, float]) -> float:
        """pH at 25 °C, closed to the air, with amorphous aluminium hydroxide where it forms."""
        equivalents = alkalinity_mg_l / 50.04 / 1000
        text = ["SOLUTION 1", " temp 25", f" pH {ph}", " units mol/kgw"]
        if equivalents:
            text += [f" Alkalinity {equivalents}", f" Na {equivalents} charge"]
        else:
            text.append(" Na 1e-9 charge" if ph >= 7 else " C(4) 1e-6 charge")
        solids = []
        if any(name.startswith("alum") for name in grams_per_l):
            solids.append(" Al(OH)3(a) 0 0")
        if "chalk" in grams_per_l:
            solids.append(f" Calcite 0 {grams_per_l['chalk'] / 100.09}")
        if solids:
            text += ["EQUILIBRIUM_PHASES 1", *solids]
        text.append("REACTION 1")
        for name, grams in grams_per_l.items():
            if name in REAGENTS:
                mass, formula = REAGENTS[name]
                text.append(f" {formula} {grams / mass}")
        text += [" 1", "SELECTED_OUTPUT", " -reset false", " -pH true", "END"]
        self._engine.run_string("\n".join(text))
        return float(self._engine.get_selected_output_array()[-1][0])
