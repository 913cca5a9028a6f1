"""The mixed model against a published split plot and against statsmodels."""

import sys
from pathlib import Path

import numpy as np
import pandas as pd
import pytest
import statsmodels.formula.api as smf

sys.path.insert(0, str(Path(__file__).parent))
from split_plots import split_plot, strip_plot

from zesty_grid.core.compare.crossed import cross_swatches
from zesty_grid.core.compare.mixed_model import Known, fit

# Yates's trial of oats (Yates, Complex experiments, 1935; the worked split plot of many textbooks):
# six blocks, three varieties on whole plots, four doses of manure on their quarters.
OATS = {
    "Victory": [
        (111, 130, 157, 174),
        (74, 89, 81, 122),
        (61, 91, 97, 100),
        (62, 90, 100, 116),
        (68, 64, 112, 86),
        (53, 74, 118, 113),
    ],
    "Golden rain": [
        (117, 114, 161, 141),
        (64, 103, 132, 133),
        (70, 108, 126, 149),
        (80, 82, 94, 126),
        (60, 102, 89, 96),
        (89, 82, 86, 104),
    ],
    "Marvellous": [
        (105, 140, 118, 156),
        (70, 89, 104, 117),
        (96, 124, 121, 144),
        (63, 70, 109, 99),
        (89, 129, 132, 124),
        (97, 99, 119, 121),
    ],
}


def oats():
    rows = [
        (variety, str(block), str(dose), value)
        for variety, blocks in OATS.items()
        for block, values in enumerate(blocks)
        for dose, value in enumerate(values)
    ]
    design = cross_swatches(
        ("variety", "manure"),
        [{"variety": v, "manure": m} for v, _, m, _ in rows],
        [{"block": b, "plot": f"{b} {v}"} for v, b, _, _ in rows],
        [("variety", "manure")],
    )
    return design, fit(design, np.array([[float(value)] for *_, value in rows]))


def test_yates_oats_has_the_published_analysis():
    # Mean squares of the published analysis: whole plots 601.33 on 10, subplots 177.08 on 45.
    design, fitted = oats()
    one = np.ones(1)
    variety = design.row({0: 1}) - design.row({0: 0})
    manure = design.row({1: 3}) - design.row({1: 0})
    between, within = fitted.variance(variety, one), fitted.variance(manure, one)
    assert between.variance == pytest.approx(2 * 601.33 / 24, rel=1e-3)
    assert between.df == pytest.approx(10, abs=0.01)
    assert within.variance == pytest.approx(2 * 177.08 / 18, rel=1e-3)
    assert within.df == pytest.approx(45, abs=0.01)
    # Means of the doses, 79.4 and 123.4 (the same table).
    assert float((manure @ fitted.beta)[0]) == pytest.approx(123.39 - 79.39, abs=0.02)


def frame(question):
    return pd.DataFrame(
        [
            one.levels
            | {f"{kind}_pot": name for kind, name in one.vessels.items()}
            | dict(zip("Lab", one.lab, strict=True))
            for one in question.swatches
        ]
    )


def fitted_to(question):
    levels = [one.levels for one in question.swatches]
    vessels = [one.vessels for one in question.swatches]
    design = cross_swatches(question.factors, levels, vessels, ())
    return design, fit(design, np.array([one.lab for one in question.swatches]))


@pytest.mark.parametrize("left_out", [0, 5])
def test_a_split_plot_is_that_of_statsmodels(left_out):
    # Balanced, and with five swatches lost; components by REML in the reference.
    question = split_plot(np.random.default_rng(5), (2, 2, 2), pot=1.5)
    question = question.model_copy(update={"swatches": question.swatches[left_out:]})
    design, fitted = fitted_to(question)
    row = design.row({0: 1}) - design.row({0: 0})
    for k, name in enumerate("Lab"):
        theirs = smf.mixedlm(f"{name} ~ C(iron) + C(fibre)", frame(question), groups="dye_pot").fit(reml=True)
        seen = fitted.variance(row, np.eye(3)[k])
        close = 1e-3 if not left_out else 0.08
        assert float((row @ fitted.beta)[k]) == pytest.approx(
            theirs.params["C(iron)[T.1]"], abs=0.12 if left_out else 1e-4
        )
        assert seen.variance**0.5 == pytest.approx(theirs.bse["C(iron)[T.1]"], rel=close)
        assert fitted.swatch[k, k] == pytest.approx(theirs.scale, rel=close)


def test_vessels_crossed_with_vessels_are_those_of_statsmodels():
    question = strip_plot(np.random.default_rng(3))
    design, fitted = fitted_to(question)
    table = frame(question).assign(all=1)
    for k, name in enumerate("Lab"):
        theirs = smf.mixedlm(
            f"{name} ~ C(mordant) + C(dye)",
            table,
            groups="all",
            vc_formula={"m": "0 + C(mordant_pot)", "d": "0 + C(dye_pot)"},
        ).fit(reml=True)
        for factor, term in ((0, "C(mordant)[T.B]"), (1, "C(dye)[T.Y]")):
            row = design.row({factor: 1}) - design.row({factor: 0})
            seen = fitted.variance(row, np.eye(3)[k])
            assert float((row @ fitted.beta)[k]) == pytest.approx(theirs.params[term], abs=1e-4)
            assert seen.variance**0.5 == pytest.approx(theirs.bse[term], rel=0.01)
            # Three pots each of two levels.
            assert seen.df == pytest.approx(4, abs=0.2)


def test_one_vessel_each_says_nothing_of_vessels():
    question = split_plot(np.random.default_rng(1), pots=1)
    design, fitted = fitted_to(question)
    assert fitted.unknown == ("dye",)
    between = fitted.variance(design.row({0: 1}) - design.row({0: 0}), np.eye(3)[0])
    within = fitted.variance(design.row({1: 1}) - design.row({1: 0}), np.eye(3)[0])
    assert between.untold == ("dye",)
    assert within.untold == ()


def test_what_is_known_of_photos_counts_where_levels_lie_in_different_ones():
    # Nothing scatters: all that is left is the error that each photo shares.
    design = cross_swatches(("iron",), [{"iron": str(i // 4)} for i in range(8)], [{}] * 8, ())
    y = np.outer([0, 0, 0, 0, 1, 1, 1, 1], np.ones(3)) + 1e-6 * np.arange(24).reshape(8, 3) % 7e-6
    photos = np.repeat(np.eye(2), 4, axis=0)
    fitted = fit(design, y, known=[Known(photos, 0.09 * np.eye(3))])
    row = design.row({0: 1}) - design.row({0: 0})
    assert fitted.variance(row, np.eye(3)[0]).variance == pytest.approx(2 * 0.09, rel=0.01)


def test_a_kind_that_is_given_has_no_degrees_of_freedom():
    question = split_plot(np.random.default_rng(1), pots=1)
    levels = [one.levels for one in question.swatches]
    design = cross_swatches(question.factors, levels, [one.vessels for one in question.swatches], ())
    given = {"dye": 4.0 * np.eye(3)}
    fitted = fit(design, np.array([one.lab for one in question.swatches]), given=given)
    seen = fitted.variance(design.row({0: 1}) - design.row({0: 0}), np.eye(3)[0])
    assert seen.variance > 8
    assert not seen.untold
