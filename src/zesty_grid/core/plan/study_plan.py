"""What a study crosses, and how it is laid out."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.noise.levels import NoiseLevels
from zesty_grid.core.plan.factors import Factor, FactorKind, Level
from zesty_grid.core.plan.given_for import GivenFor
from zesty_grid.core.plan.masses import MAX_LARGER_PIECES, MAX_OWN_MASSES, ControlKind, LargerPiece, OwnMass
from zesty_grid.core.plan.printing import Folding, Rolling
from zesty_grid.core.plan.treatment import MAX_TREATMENTS, Treatment
from zesty_grid.core.shelf.items import FibreClass, Key

PieceUse = Literal["dark", "light", "wash", "spare"]
MAX_CELLS = 2000
MAX_FACTORS = 12
MAX_OWN_VESSELS = 200
CellKeys = Annotated[tuple[str, ...], Field(max_length=MAX_CELLS)]


class LeaveOutRule(Frozen):
    """Leaves out each cell that has one of the levels of every factor named here.

    `fibre_classes` stands for all fibres of a class, also those that are added later.
    """

    levels: dict[FactorKind, tuple[Key, ...]] = Field(default_factory=dict)
    fibre_classes: tuple[FibreClass, ...] = ()
    reason: Annotated[str, Field(max_length=300)] = ""

    @model_validator(mode="after")
    def _a_rule_says_what(self) -> "LeaveOutRule":
        if not self.levels and not self.fibre_classes:
            raise ValueError("a rule names at least one level or fibre class")
        if any(not keys for keys in self.levels.values()):
            raise ValueError("a rule names at least one level of each factor it mentions")
        return self


class Bridge(Frozen):
    """The piece that goes into every dye vessel, so that vessels can be compared."""

    fibre: Key
    mordant: Key | None = None


class OwnVessel(Frozen):
    """A bath whose vessels, or whose volume, a person chose. `bath` is its key.

    Several vessels may be of unequal size: pieces are dealt out by their room. `litres`: so much
    bath in all. What is given by bath (litres, grams, spoons) goes with the fibre where the bath
    was filled before, here or (`given_for`) in the study that this one was copied from; `as_given`:
    it is kept on purpose.
    """

    bath: Annotated[str, Field(min_length=1, max_length=400)]
    vessels: Annotated[tuple[Key, ...], Field(max_length=40)] = ()
    litres: Annotated[float, Field(gt=0, le=1000, allow_inf_nan=False)] | None = None
    given_for: GivenFor | None = None
    as_given: bool = False


class StudyPlan(Frozen):
    """A study as the person sets it up; all else follows from it and the Shelf.

    `made_again` names the cell of each piece that is dyed once more, for one that was lost or went
    another way. `taken_out`: levels of duration have a bath each, or come out of one vessel at
    different times.
    `iron_with_alum`: pieces that bring iron are dyed apart from the others, or on purpose not.
    `rolling` and `folding` say how cloths with zones are laid.
    """

    name: Annotated[str, Field(min_length=1, max_length=120)]
    question: Annotated[str, Field(max_length=500)] = ""
    factors: Annotated[tuple[Factor, ...], Field(max_length=MAX_FACTORS)] = ()
    rows: tuple[FactorKind, ...] = ()
    columns: tuple[FactorKind, ...] = ()
    left_out: CellKeys = ()
    rules: Annotated[tuple[LeaveOutRule, ...], Field(max_length=60)] = ()
    put_back: CellKeys = ()
    made_again: CellKeys = ()
    controls: tuple[ControlKind, ...] = ()
    bridge: Bridge | None = None
    replicates: Annotated[int, Field(ge=1, le=6)] = 1
    replicate_vessels: Literal["shared", "apart"] = "shared"
    mordants_in_dye_bath: Literal["together", "apart"] = "together"
    iron_with_alum: Literal["apart", "together"] = "apart"
    taken_out: Literal["apart", "one vessel"] = "apart"
    rolling: Rolling | None = None
    folding: Folding | None = None
    own_vessels: Annotated[tuple[OwnVessel, ...], Field(max_length=MAX_OWN_VESSELS)] = ()
    order_seed: Annotated[int, Field(ge=0, le=2**31 - 1)] = 1
    swatch_mass_g: Annotated[float, Field(gt=0, le=5000, allow_inf_nan=False)] = 5.0
    own_masses: Annotated[tuple[OwnMass, ...], Field(max_length=MAX_OWN_MASSES)] = ()
    larger_pieces: Annotated[tuple[LargerPiece, ...], Field(max_length=MAX_LARGER_PIECES)] = ()
    treatments: Annotated[tuple[Treatment, ...], Field(max_length=MAX_TREATMENTS)] = ()
    pieces: Annotated[tuple[PieceUse, ...], Field(min_length=1, max_length=8)] = ("dark", "light", "wash", "spare")
    liquor_ratio_ml_per_g: Annotated[float, Field(ge=5, le=200, allow_inf_nan=False)] = 30.0
    weighing_accuracy_percent: Annotated[float, Field(ge=0.5, le=25, allow_inf_nan=False)] = 5.0
    scale: Key | None = None
    water: Key | None = None
    acid: Key | None = None
    alkali: Key | None = None
    lidded: bool = True
    noise: NoiseLevels | None = None

    @model_validator(mode="after")
    def _axes_hold_each_factor_once(self) -> "StudyPlan":
        kinds = [factor.kind for factor in self.factors]
        if len(set(kinds)) != len(kinds):
            raise ValueError("a factor is there twice")
        if sorted(self.rows + self.columns) != sorted(kinds):
            raise ValueError("each factor belongs on the rows or on the columns, once")
        return self

    @model_validator(mode="after")
    def _a_recipe_has_all_its_baths(self) -> "StudyPlan":
        beside = [one.kind for one in self.factors if one.kind not in ("fibre", "recipe")]
        if beside and self.factor("recipe"):
            raise ValueError(f"a recipe that is followed has all its baths: {beside[0]} cannot be crossed with it")
        return self

    @model_validator(mode="after")
    def _rules_fit_the_factors(self) -> "StudyPlan":
        for number, rule in enumerate(self.rules, 1):
            for kind, keys in rule.levels.items():
                factor = self.factor(kind)
                unknown = [key for key in keys if factor is None or factor.level(key) is None]
                if unknown:
                    raise ValueError(
                        f"rule {number} names {kind} “{unknown[0]}”, which this study does not "
                        "cross: change the rule or take it away"
                    )
        return self

    @model_validator(mode="after")
    def _names_are_there_once(self) -> "StudyPlan":
        for named in (self.treatments, self.larger_pieces):
            keys = [one.key for one in named]
            if len(set(keys)) != len(keys):
                raise ValueError("two treatments or larger pieces have the same short name")
        if len({one.bath for one in self.own_vessels}) != len(self.own_vessels):
            raise ValueError("a bath has vessels chosen for it twice")
        masses = [(one.fibre, one.control) for one in self.own_masses]
        if len(set(masses)) != len(masses):
            raise ValueError("a fibre or control has two masses")
        return self

    @model_validator(mode="after")
    def _nothing_is_out_and_in(self) -> "StudyPlan":
        both = set(self.left_out) & set(self.put_back)
        if both:
            raise ValueError(f"a cell is both left out and put back: {sorted(both)[0]}")
        return self

    def factor(self, kind: FactorKind) -> Factor | None:
        for factor in self.factors:
            if factor.kind == kind:
                return factor
        return None

    def level(self, kind: FactorKind, key: str | None) -> Level | None:
        if key is None:
            return None
        factor = self.factor(kind)
        return factor.level(key) if factor else None
