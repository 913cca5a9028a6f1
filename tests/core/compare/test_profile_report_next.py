"""Profiles, reports and the next study, on small designs whose truth is known."""

import sys
from pathlib import Path

import numpy as np
import pytest
from tests.small_study import levels, planned, small_plan, valued

sys.path.insert(0, str(Path(__file__).parent))
from made_up_grids import grid, lab

from zesty_grid.core.compare.between import foreteller
from zesty_grid.core.compare.coloured import Coloured
from zesty_grid.core.compare.compared import ComparedSwatch
from zesty_grid.core.compare.next_tests import reach_colour
from zesty_grid.core.compare.profile import profile
from zesty_grid.core.compare.real_effects import real_effects
from zesty_grid.core.compare.report import MOST_LOG_LINES, Told, TrialTold, report_of
from zesty_grid.core.plan.cells import cross
from zesty_grid.core.plan.grid import grid_of
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.core.words.real_differences import in_words


def stepped(effect):
    """Four fibres, each a step lighter, without and with iron, each in a pot of its own."""
    colours = {(f, i): lab([2 * int(f) + effect * (i == "1"), 0, 0]) for f in "0123" for i in "01"}
    return grid(colours, pots=lambda levels: levels[1], factors=("fibre", "iron"))


def test_a_profile_has_a_point_for_each_combination_with_its_range():
    found = profile(stepped(6), "fibre", "iron")
    assert len(found.points) == 8
    by = {(one.first, one.second): one for one in found.points}
    # Lines are parallel: each fibre is a step lighter with and without iron alike.
    steps = [by["3", iron].lab[0] - by["0", iron].lab[0] for iron in ("0", "1")]
    assert steps[0] == pytest.approx(steps[1], abs=0.01)
    assert steps[0] > 6
    # One pot each: a range of what pots usually differ by.
    assert all(2 < one.lightness_off < 6 and one.chroma_off > 2 for one in found.points)
    hue = np.degrees(np.arctan2(by["0", "0"].lab[2], by["0", "0"].lab[1]))
    assert by["0", "0"].hue_deg == pytest.approx(hue)
    assert all(one.hex for one in found.points)
    assert profile(stepped(6), "fibre", "nothing").points == ()


def test_no_mean_of_a_red_and_a_yellow_is_shown_as_a_colour():
    dyes = {"red": (60, 35, 10), "yellow": (60, -5, 55)}
    colours = {(f, m, dye): lab for f in "ab" for m in "xy" for dye, lab in dyes.items()}
    question = grid(colours, factors=("fibre", "mordant", "dye"))
    assert {one.hex for one in profile(question, "fibre", "mordant").points} == {""}
    assert all(one.hex for one in profile(question, "fibre", "dye").points)


PLAN = StudyPlan.model_validate(
    small_plan(
        factors=[
            {"kind": "fibre", "levels": levels("wool", "cotton")},
            {"kind": "mordant", "levels": levels("alum-hot")},
            {"kind": "dye", "levels": levels("dried-flowers")},
            {"kind": "strength", "levels": valued("strength", 25, 50, 100)},
        ],
        columns=["dye", "strength"],
    )
)


def dyed(leave=()):
    """Lighter with less dye, along a saturating curve; cotton takes less."""
    found = []
    for repeat in range(2):
        for fibre, share in (("wool", 1.0), ("cotton", 0.5)):
            for strength in (25, 50, 100):
                depth = share * strength / (strength + 60)
                if (fibre, strength) in leave:
                    continue
                found.append(
                    ComparedSwatch(
                        code=f"{fibre}{strength}{repeat}",
                        levels={"fibre": fibre, "strength": f"strength-{strength}"},
                        lab=(88 - 30 * depth + 0.1 * repeat, 8 * depth, 12 + 60 * depth),
                    )
                )
    return found


VALUES = {("strength", f"strength-{one}"): float(one) for one in (25, 50, 100)}


def made(leave=()):
    return foreteller(dyed(leave), ("fibre", "strength"), VALUES)


def test_towards_a_colour_lie_recipes_that_were_not_dyed():
    depth = 75 / (75 + 60)
    wanted = (88 - 30 * depth, 8 * depth, 12 + 60 * depth)
    known = {tuple(sorted(one.levels.items())) for one in dyed()}
    found = reach_colour(PLAN, made(), wanted, 3, known, STARTING_SHELF)
    best = found.foretold[0]
    assert 60 <= best.numbers["strength"] <= 90
    assert float(delta_e_2000(np.array(best.lab), np.array(wanted))) < 2
    # Its plan has the new strengths as levels, and only the cells that were chosen.
    new = found.plan.factor("strength")
    assert all(level.value not in (25, 50, 100) for level in new.levels)
    assert all(f"{level.value:g}" in level.label for level in new.levels)
    inside = [cell for cell in cross(found.plan, STARTING_SHELF) if cell.included]
    assert len(inside) == found.swatches == 3
    assert found.plan.controls == ()


def test_a_cell_that_was_never_dyed_may_be_the_next():
    leave = (("cotton", 100),)
    known = {tuple(sorted(one.levels.items())) for one in dyed(leave)}
    depth = 0.5 * 100 / 160
    wanted = (88 - 30 * depth, 8 * depth, 12 + 60 * depth)
    found = reach_colour(PLAN, made(leave), wanted, 8, known, STARTING_SHELF)
    chosen = [(one.levels["fibre"], one.levels["strength"], one.numbers) for one in found.foretold]
    assert ("cotton", "strength-100", {}) in chosen


def told(**changes):
    study = planned(PLAN)
    newest = {
        swatch.code: Coloured(
            key=f"{swatch.code}@1",
            kind="swatch",
            study=1,
            code=swatch.code,
            name=swatch.code,
            words=study.words(swatch),
            state="as dyed",
            lab=(50, 5, 30),
            hex="#806040",
            colour_words="brown",
            uncertainty_de00=0.4,
        )
        for swatch in study.planned[1:]
    }
    base = {
        "plan": PLAN,
        "grid": grid_of(study),
        "newest": newest,
        "compared": None,
        "words": {},
        "trials": (),
        "facts": {"Water": "Rain"},
        "log": (),
        "made_on": "26 Nov 2026",
    }
    return Told(**(base | changes)), study


def section(report, heading):
    return next((one for one in report.sections if one.heading == heading), None)


def test_a_report_says_what_there_is_and_leaves_out_what_there_is_not():
    asked, _ = told()
    report = report_of(asked)
    assert section(report, "The question").paragraphs == ("Does it work?",)
    design = section(report, "What was crossed, and how it was done").paragraphs
    assert "Water: Rain." in design
    assert "Dye strength: strength 25, strength 50, strength 100." in design
    for heading in ("What is real", "Fading", "From the bench log"):
        assert section(report, heading) is None
    assert len(section(report, "Every swatch").table.rows) == len(asked.newest)
    assert "CIEDE2000" in " ".join(section(report, "Methods and uncertainties").paragraphs)
    assert len(report.labs) == len(asked.newest)


def test_the_grid_of_a_report_stands_in_the_order_of_the_levels():
    asked, study = told()
    grid = section(report_of(asked), "The grid in colour").grid
    assert grid.columns == tuple(f"Dried-flowers, strength {one}" for one in (25, 50, 100))
    assert [name for name, _ in grid.rows] == ["Wool, Alum-hot", "Cotton, Alum-hot"]
    # The first swatch was not read: its place is empty, and keeps its code.
    cells = [cell for _, row in grid.rows for cell in row]
    unread = [cell for cell in cells if cell.lab is None]
    assert [cell.caption for cell in unread] == [study.planned[0].code]
    assert all(cell.hex == "#806040" for cell in cells if cell.lab)


def test_effects_fading_and_the_log_are_told():
    compared = real_effects(stepped(12))
    compared = compared.model_copy(update={"words": tuple(in_words(compared, {}))})
    lines = [(f"{i} Nov", "D1", "boiled") for i in range(100)]
    trial = TrialTold(name="Sill", stage="8 days", effects=(), lines=[("EYFC", "8 days", "3.2", "3-4")])
    asked, _ = told(compared=compared, log=lines, trials=[trial], words={"iron=1": "Iron 1 %", "iron=0": "No iron"})
    report = report_of(asked)
    real = section(report, "What is real")
    assert real.paragraphs[: len(compared.words)] == compared.words
    first = next(row for row in real.table.rows if row[0] == "Iron 1 % against No iron")
    assert first[3:] == ("different", "different", "different")
    fading = section(report, "Fading")
    assert fading.paragraphs == ("Sill, at 8 days. No effect that is certain.",)
    assert fading.table.rows == (("Sill", "EYFC", "8 days", "3.2", "3-4"),)
    assert len(section(report, "From the bench log").table.rows) == MOST_LOG_LINES
