"""The model matrix, the strata, and the sentences that are said of effects."""

import numpy as np
import pytest

from zesty_grid.core.compare.compared import Compared, CompareQuestion, EffectAt, FactorEffect, FoundNoise, PairEffect
from zesty_grid.core.compare.crossed import cross_swatches, incidence
from zesty_grid.core.compare.directions import DirectionChange
from zesty_grid.core.compare.effect_words import change_words, with_words
from zesty_grid.core.compare.equivalence import Estimate, quantile
from zesty_grid.core.compare.strata import Stratum, single_together, stratum
from zesty_grid.core.compare.what_it_takes import what_it_takes

LEVELS = [{"iron": i, "dye": d} for i in ("no", "yes") for d in "abc"]


def test_levels_of_a_factor_sum_to_nothing():
    design = cross_swatches(("iron", "dye"), LEVELS, [{}] * 6, [("iron", "dye")])
    # One mean, one for iron, two for the dyes, two for both together: all told by six swatches.
    assert design.columns.shape == (6, 6)
    assert np.linalg.matrix_rank(design.columns) == 6
    rows = [design.row({1: level}) for level in range(3)]
    assert sum(rows)[1:] == pytest.approx(np.zeros(5))
    whole = design.row({0: 1, 1: 2})
    assert whole == pytest.approx(design.columns[5])


def test_levels_come_in_the_order_that_is_said():
    design = cross_swatches(("dye",), LEVELS, [{}] * 6, (), {"dye": ("c", "a", "z")})
    assert design.levels == (("c", "a", "b"),)


def test_factors_with_one_level_are_left_out():
    same = [one | {"fibre": "wool"} for one in LEVELS]
    design = cross_swatches(("fibre", "dye"), same, [{}] * 6, [("fibre", "dye")])
    assert design.factors == ("dye",)
    assert design.terms == ((0,),)


def test_like_with_like_leaves_out_what_has_no_partner():
    lonely = [*LEVELS, {"iron": "yes", "dye": "d"}]
    design = cross_swatches(("iron", "dye"), lonely, [{}] * 7, [("iron", "dye")])
    row = design.like_with_like(0, 0, 1)
    plain = cross_swatches(("iron", "dye"), LEVELS, [{}] * 6, [("iron", "dye")])
    y = np.array([1.0, 2, 3, 11, 12, 13, 99])
    beta = np.linalg.lstsq(design.columns, y, rcond=None)[0]
    # Each of the three pairs is ten apart; the seventh swatch enters none of them.
    assert float(row @ beta) == pytest.approx(10)
    assert plain.like_with_like(0, 0, 1) is not None
    apart = cross_swatches(("iron", "dye"), [LEVELS[0], LEVELS[4]], [{}] * 2, ())
    assert apart.like_with_like(0, 0, 1) is None


def test_vessels_that_part_the_swatches_alike_are_one():
    where = [{"mordant": f"M{i // 3}", "dye": f"D{i // 3}"} for i in range(6)]
    design = cross_swatches(("iron",), LEVELS, where, ())
    assert list(design.vessel_of) == ["mordant and dye"]
    assert incidence(design.vessel_of["mordant and dye"]).sum(axis=0).tolist() == [3, 3]


def test_a_stratum_is_the_kind_of_bath_that_keeps_levels_apart():
    pots = [{"dye": f"D{one['dye']}{i // 3}", "iron": f"F{one['iron']}"} for i, one in enumerate(LEVELS)]
    design = cross_swatches(("iron", "dye"), LEVELS, pots, ())
    assert stratum(design, 1, 0, 1) == Stratum("dye", (2, 2), 3)
    assert stratum(design, 0, 0, 1).between in ("iron", "dye")
    together = cross_swatches(("iron", "dye"), LEVELS, [{"dye": "D1"}] * 6, ())
    assert stratum(together, 1, 0, 1) == Stratum(None)
    # Each dye with and without iron has a pot of its own: what they do together is the pot's.
    each = [{"dye": f"D{i}"} for i in range(6)]
    assert single_together(cross_swatches(("iron", "dye"), LEVELS, each, ()), 0, 1) == "dye"
    assert single_together(together, 0, 1) is None


def effect(**changes):
    base = {
        "factor": "iron",
        "from_level": "no",
        "to_level": "yes",
        "from_lab": (60, 5, 40),
        "to_lab": (50, 4, 30),
        "from_hex": "#888888",
        "to_hex": "#666666",
        "delta_lab": (-10, -1, -10),
        "de00": 11.0,
        "low_de00": 9.0,
        "high_de00": 13.0,
        "furthest_de00": 14.0,
        "df": 4.0,
        "p": 0.001,
        "p_alone": 0.001,
        "verdict": "different",
        "error": "between dye vessels",
        "directions": (
            change("lightness", -9, "darker"),
            change("chroma", -5, "duller"),
            change("hue", 0.5, "greener", real=False),
        ),
    }
    return FactorEffect(**(base | changes))


def change(direction, size, word, real=True):
    return DirectionChange(
        direction=direction, change_de00=size, low_de00=size - 1, high_de00=size + 1, word=word, real=real
    )


def told(effects, interactions=()):
    question = CompareQuestion.model_construct(
        words={
            "iron=yes": "Iron 1 %",
            "iron=no": "No iron",
            "dye": "Dye",
            "dye=a": "Alder",
            "dye=b": "Bracken",
            "ph": "Dye pH",
            "iron": "Iron",
        }
    )
    noise = FoundNoise(swatch=1, vessel=1, reading=0.3)
    found = Compared(swatches=9, noise=noise, effects=effects, interactions=interactions)
    return with_words(question, found)


def at(level, de00, low=1.0, way=-1.0):
    return EffectAt(
        factor="dye", level=level, delta_lab=(10 * way, way, 10 * way), de00=de00, low_de00=low, high_de00=de00 + 2
    )


def test_a_real_effect_is_said_with_its_directions_and_how_sure_it_is():
    (words,) = told((effect(),)).words
    assert words == "Iron 1 % is darker and duller than No iron: ΔE00 11.0 (9.0 to 13.0)."


def test_where_it_holds_everywhere_and_where_it_is_most():
    acting = (PairEffect(factors=("iron", "dye"), p=0.01, verdict="different", largest_de00=6.0),)
    said = told((effect(at=(at("a", 15.0), at("b", 6.0))),), acting).words
    assert "with every dye; most with Alder (15.0), least with Bracken (6.0)" in said[0]
    assert said[1] == "What iron does depends on dye: by up to 6.0 ΔE00."
    # Not certain with one of them, or the other way round: then not everywhere.
    for other in (at("b", 6.0, low=0.0), at("b", 6.0, way=1.0)):
        assert "every" not in told((effect(at=(at("a", 15.0), other)),)).words[0]


def test_the_surest_come_first_and_what_cannot_be_told_says_why():
    found = told(
        (
            effect(verdict="untold", why="One pot each.", p=None),
            effect(verdict="untold", de00=2.0, would_take="2 more pots of each would do."),
            effect(verdict="same", de00=0.2, furthest_de00=0.7),
            effect(),
        )
    )
    assert found.words[0].startswith("Iron 1 % is darker")
    assert found.words[1] == "No iron and Iron 1 % are the same colour: within 0.7 ΔE00."
    assert found.words[2].endswith("2 more pots of each would do.")
    assert found.words[3] == "No iron and Iron 1 %: One pot each."
    assert found.effects[3].words == found.words[0]


def test_small_directions_are_not_named():
    large, small = change("lightness", -9, "darker"), change("chroma", -1, "duller")
    assert change_words([large, small]) == "darker"
    assert change_words([change("hue", 3, "redder"), large]) == "darker"
    assert change_words([change("hue", 3, "redder", real=False)]) == "of another colour"


def test_what_it_takes_is_less_for_a_larger_difference():
    unsure = [Estimate(1.0, 1.0, 4)] * 3
    pots = Stratum("dye", (3, 3))
    large, small = (what_it_takes(size, unsure, pots, (12, 12)) for size in (6.0, 2.5))
    assert "pot" in large
    assert int(large.split()[0].replace("One", "1")) < int(small.split()[0])
    assert "not worth it" in what_it_takes(1.0, [Estimate(1, 3.0, 4)] * 3, pots, (12, 12))
    within = what_it_takes(3.0, unsure, Stratum(None), (4, 4))
    assert "swatch" in within


def test_quantiles_are_students():
    # t(0.975) with 4 and 10 degrees of freedom, and the normal: from any table.
    assert quantile(0.975, 4) == pytest.approx(2.776, abs=1e-3)
    assert quantile(0.975, 10) == pytest.approx(2.228, abs=1e-3)
    assert quantile(0.975, None) == pytest.approx(1.960, abs=1e-3)
    assert quantile(0.975, 0) == float("inf")
