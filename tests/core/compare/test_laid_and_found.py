"""Neighbours on the table, studies beside studies, the nearest colours, twins, recipes."""

import numpy as np
import pytest
from pydantic import ValidationError
from tests.small_study import small_plan

from zesty_grid.core.compare.colour_chart import arrows, doubt, fading_ways
from zesty_grid.core.compare.coloured import ClothKey, Coloured, StageKey, StateKey, parse_key, stage_key, state_key
from zesty_grid.core.compare.compared import ComparedSwatch, FactorEffect
from zesty_grid.core.compare.filled import fill_gaps
from zesty_grid.core.compare.find import FindQuestion, wanted_lab
from zesty_grid.core.compare.laid_table import neighbours
from zesty_grid.core.compare.nearest import nearest
from zesty_grid.core.compare.next_tests import settle_effect
from zesty_grid.core.compare.studies_beside import OneStudy, lay_studies_beside
from zesty_grid.core.compare.twins import StageColour, close_pairs, movers, partings
from zesty_grid.core.noise.levels import USUAL, starting_at
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.difference_uncertainty import Seen, difference_uncertainty
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF

pytestmark = pytest.mark.slow


def piece(code, lab, study=1, **levels):
    return Coloured(
        key=state_key(code, 1),
        kind="swatch",
        study=study,
        code=code,
        name=code,
        words=", ".join(levels.values()),
        lab=lab,
        hex="#808080",
        colour_words="",
        uncertainty_de00=0.3,
        levels=levels,
        state="as dyed",
    )


def test_keys_are_read_back():
    assert parse_key("EYFC@41") == StateKey("EYFC", 41, "")
    assert parse_key(state_key("EYFC", 0, "halo, upper")) == StateKey("EYFC", 0, "halo, upper")
    assert parse_key(stage_key("A1", 3, 4, "dark", "left")) == StageKey("A1", 3, 4, "dark", "left")
    assert parse_key("cloth:old-skein") == ClothKey("old-skein")
    for wrong in ("", "EYFC", "EYFC@x", "EYFC/t3/s4/wash", "e@1"):
        with pytest.raises(Refusal, match="names nothing"):
            parse_key(wrong)


def test_neighbours_are_each_and_the_next_or_the_two_of_a_pair():
    seen = {str(i): [Seen(lab=(50 + 3 * i, 10, 10), photo=1, capture=1)] for i in range(4)}
    order = list(seen)
    assert [(one.first, one.second) for one in neighbours(order, seen, pairs=False)] == [
        ("0", "1"),
        ("1", "2"),
        ("2", "3"),
    ]
    found = neighbours(order, seen, pairs=True)
    assert [(one.first, one.second) for one in found] == [("0", "1"), ("2", "3")]
    assert found[0].words == "lighter"
    said = difference_uncertainty([seen["0"]], [seen["1"]])
    assert found[0].limit_de00 == pytest.approx(said.limit_de00)
    alike = {"a": seen["0"], "b": [Seen(lab=(50.1, 10, 10), photo=1, capture=1)]}
    assert neighbours(["a", "b"], alike, False)[0].words == "too alike to tell"


def test_the_nearest_are_those_of_looking_at_every_one():
    rng = np.random.default_rng(1)
    labs = np.column_stack([rng.uniform(20, 90, 500), rng.uniform(-40, 60, (500, 2))])
    wanted = (55.0, 10.0, 30.0)
    found = nearest(wanted, 0.5, labs, np.full(500, 0.4))
    by_hand = sorted(range(500), key=lambda i: float(delta_e_2000(np.array(wanted), labs[i])))
    assert [one.place for one in found[:40]] == by_hand[:40]
    assert found[0].uncertainty_de00 == pytest.approx(np.hypot(0.5, 0.4))
    assert nearest(labs[7], 0.2, labs, np.full(500, 0.2))[0].same
    assert nearest(wanted, 0.5, np.zeros((0, 3)), np.zeros(0)) == []


def test_a_colour_is_said_once():
    # sRGB white is L* 100 (IEC 61966-2-1).
    assert wanted_lab(FindQuestion(hex="#ffffff")) == pytest.approx((100, 0, 0), abs=0.05)
    assert wanted_lab(FindQuestion(lab=(50, 1, 2))) == (50, 1, 2)
    with pytest.raises(ValidationError, match="say one colour"):
        FindQuestion()
    with pytest.raises(ValidationError, match="say one colour"):
        FindQuestion(hex="ffffff", lab=(1, 1, 1))


def test_twins_are_two_recipes_of_one_colour():
    labs = np.array([(50, 10, 30), (50.4, 10, 30), (50.2, 10, 30), (60, 10, 30.0)])
    found = close_pairs(labs, [0, 1, 2, 3], ["madder", "onion", "madder", "weld"])
    # The first and the third are repeats of one recipe, and so no twins.
    assert {frozenset((one.first, one.second)) for one in found} == {frozenset((0, 1)), frozenset((1, 2))}
    assert found[0].de00 < found[1].de00
    # One of each pair is of the study that asks.
    assert {one.first for one in close_pairs(labs, [0], list("abcd"))} == {0}
    assert close_pairs(labs[:1], [0], ["a"]) == []


def test_twins_are_those_of_looking_at_every_pair():
    rng = np.random.default_rng(3)
    labs = np.column_stack([rng.uniform(50, 60, 120), rng.uniform(0, 12, (120, 2))])
    found = close_pairs(labs, range(120), list(range(120)), most=10_000)
    by_hand = {frozenset((i, j)) for i in range(120) for j in range(i) if float(delta_e_2000(labs[i], labs[j])) < 1}
    assert {frozenset((one.first, one.second)) for one in found} == by_hand
    assert len(by_hand) > 20


def stage(code, number, dark, exposed):
    return StageColour(
        code=code,
        trial="Sill",
        stage=f"{number} days",
        number=number,
        dark_lab=dark,
        exposed_lab=exposed,
        dark_hex="#111111",
        exposed_hex="#222222",
        limit_de00=1.0,
    )


def test_twins_part_in_the_light():
    stages = [
        stage("A", 1, (50, 10, 30), (52, 10, 28)),
        stage("A", 2, (50, 10, 30), (65, 6, 15)),
        stage("B", 2, (50.5, 10, 30), (51, 10, 29)),
        stage("C", 2, (80, 0, 10), (80, 0, 9)),
    ]
    (found,) = partings(stages)
    assert {found.first, found.second} == {"A", "B"}
    assert found.stage == "2 days"
    assert found.after_de00 > 10 > found.before_de00


def test_partings_are_those_of_looking_at_every_pair():
    rng = np.random.default_rng(8)
    dark = np.column_stack([rng.uniform(50, 60, 150), rng.uniform(0, 12, (150, 2))])
    stages = [stage(f"S{i}", 2, tuple(lab), tuple(lab + rng.normal(0, 6, 3))) for i, lab in enumerate(dark)]
    by_hand = {}
    for i, a in enumerate(stages):
        for b in stages[i + 1 :]:
            was = float(delta_e_2000(np.array(a.dark_lab), np.array(b.dark_lab)))
            now = float(delta_e_2000(np.array(a.exposed_lab), np.array(b.exposed_lab)))
            if was < 1.5 and now > was + 1.0:
                by_hand[a.code, b.code] = now - was
    found = {(one.first, one.second): one.after_de00 - one.before_de00 for one in partings(stages, most=10_000)}
    assert found == pytest.approx(by_hand)
    assert len(found) > 40
    few = [(one.first, one.second) for one in partings(stages, most=5)]
    assert few == sorted(by_hand, key=lambda pair: -by_hand[pair])[:5]


def test_movers_are_the_furthest_steps():
    states = {"A": [piece("A", (80, 0, 20)), piece("A", (40, 0, 20))], "B": [piece("B", (9, 0, 0))]}
    found = movers(states, [stage("B", 2, (50, 10, 30), (58, 8, 20))], {"A": "wool"})
    assert [one.code for one in found] == ["A", "B"]
    assert found[1].from_state == "kept dark"
    assert found[0].words == "wool"


def study(name, labs, words, **facts):
    swatches = [ComparedSwatch(code=f"{name}{i}", levels=levels, lab=lab) for i, (levels, lab) in enumerate(labs)]
    keys = {one.code: f"{one.code}@1" for one in swatches}
    return OneStudy(name, swatches, words, facts, keys)


WORDS = {
    ("fibre", "wool"): "Wool",
    ("fibre", "w"): "Wool",
    ("fibre", "silk"): "Silk",
    ("fibre", "s"): "Silk",
    ("dye", "m1"): "Madder",
    ("dye", "m2"): "Madder",
}


def test_runs_of_one_recipe_are_matched_by_the_labels_of_their_levels():
    rng = np.random.default_rng(1)
    first, second = [], []
    for i in range(12):
        base = np.array([40 + 2 * i, 10, 20.0])
        key = ("wool", "w") if i % 2 else ("silk", "s")
        first.append(({"fibre": key[0], "dye": "m1", "ph": str(i)}, tuple(base)))
        moved = np.add(base, [3.0, 0, 0]) + rng.normal(0, 0.3, 3)
        second.append(({"fibre": key[1], "dye": "m2", "ph": str(i)}, tuple(moved)))
    second.append(({"fibre": "w", "dye": "m2", "ph": "99"}, (50.0, 0.0, 0.0)))
    found = lay_studies_beside(study("a", first, WORDS, Water="Rain"), study("b", second, WORDS, Water="Tap"))
    assert len(found.pairs) == 12
    assert set(found.matched_by) == {"fibre", "dye", "ph"}
    assert [(one.what, one.first, one.second) for one in found.differs] == [("Water", "Rain", "Tap")]
    assert found.shift_de00 == pytest.approx(2.8, abs=0.5)
    assert found.scatter_de00 < 1
    assert "“b” is lighter" in found.words
    assert found.only_second == ("b12",)


def test_factors_that_never_meet_are_what_differs():
    a = [({"fibre": "wool", "mordant": "alum"}, (50.0, 0.0, 0.0))]
    b = [({"fibre": "w", "mordant": "iron"}, (40.0, 0.0, 0.0))]
    found = lay_studies_beside(study("a", a, WORDS), study("b", b, WORDS))
    assert [one.what for one in found.differs] == ["mordant"]
    assert len(found.pairs) == 1
    assert found.usual_de00 is None
    assert "too few" in found.words


def test_doubt_is_an_ellipse_whose_edge_lies_at_twice_the_uncertainty():
    lab = np.array([60.0, 20.0, 40.0])
    ab, cl = doubt(tuple(lab), 0.6)
    angle = np.radians(ab.angle_deg)
    edge = np.add(lab, [0, ab.first * np.cos(angle), ab.first * np.sin(angle)])
    # 0.6 in three directions alike is 0.35 in each; the ellipse is drawn at twice that.
    assert float(delta_e_2000(lab, edge)) == pytest.approx(2 * 0.6 / np.sqrt(3), rel=0.1)
    assert ab.first >= ab.second
    lighter = np.add(lab, [cl.second if abs(cl.angle_deg) < 45 else cl.first, 0, 0])
    assert float(delta_e_2000(lab, lighter)) == pytest.approx(2 * 0.6 / np.sqrt(3), rel=0.1)


def test_arrows_go_from_level_to_level_where_all_else_is_the_same():
    cells = {
        "A": {"iron": "0", "fibre": "wool"},
        "B": {"iron": "1", "fibre": "wool"},
        "C": {"iron": "2", "fibre": "wool"},
        "D": {"iron": "1", "fibre": "silk"},
    }
    found = arrows(cells, {"iron": ("0", "1", "2"), "fibre": ("wool", "silk")})
    assert [(a.from_code, a.to_code) for a in found if a.factor == "iron"] == [("A", "B"), ("B", "C")]
    assert [(a.from_code, a.to_code) for a in found if a.factor == "fibre"] == [("B", "D")]


def test_the_way_of_fading_begins_at_the_piece_kept_dark():
    points = [("A", 0, (50, 1, 1), "#1", (52, 1, 1), "#2"), ("A", 1, (50, 1, 1), "#1", (60, 1, 1), "#3")]
    (way,) = fading_ways("Sill", ["1 day", "2 days"], points)
    assert way.stages == ("kept dark", "1 day", "2 days")
    assert [lab[0] for lab in way.labs] == [50, 52, 60]
    assert way.change_de00 == pytest.approx(float(delta_e_2000(np.array([50, 1, 1.0]), np.array([60, 1, 1.0]))))


def open_effect(de00):
    return FactorEffect(factor="ph", from_level="ph-4", to_level="ph-9", how="alike", de00=de00)


def test_what_is_not_settled_is_planned_in_as_many_runs_as_it_takes():
    plan = StudyPlan.model_validate(small_plan())
    noise = starting_at(USUAL)
    coarse = settle_effect(plan, open_effect(8), 8.0, STARTING_SHELF, noise, {})
    fine = settle_effect(plan, open_effect(3), 4.0, STARTING_SHELF, noise, {"ph=ph-9": "pH 9"})
    assert coarse.tells_de00 <= 8
    assert fine.tells_de00 < coarse.tells_de00
    assert fine.vessels > coarse.vessels
    assert fine.title.startswith("pH 9 or")
    kinds = {factor.kind: len(factor.levels) for factor in fine.plan.factors}
    # The two levels that are asked for; fibres share a pot, and so cost little.
    assert kinds == {"fibre": 2, "mordant": 1, "dye": 1, "ph": 2, "iron": 1}
    assert fine.plan.replicate_vessels == "apart"
    assert (
        settle_effect(
            StudyPlan.model_validate(
                small_plan(factors=[f for f in small_plan()["factors"] if f["kind"] != "ph"], columns=["dye", "iron"])
            ),
            open_effect(3),
            4.0,
            STARTING_SHELF,
            noise,
            {},
        )
        is None
    )


def test_a_gap_is_filled_by_labels_and_the_pots_stay_those_of_the_other_run():
    labels = {"fibre": {"Wool": "wool", "Silk": "silk"}, "dye": {"Madder": "m1"}}
    own = [ComparedSwatch(code="A", levels={"fibre": "wool", "dye": "m1"}, lab=(50, 0, 0))]
    other = study(
        "b",
        [
            ({"fibre": "w", "dye": "m2"}, (51.0, 0, 0)),
            ({"fibre": "s", "dye": "m2"}, (60.0, 0, 0)),
            ({"fibre": "s", "dye": "weld"}, (70.0, 0, 0)),
            ({"fibre": "s"}, (80.0, 0, 0)),
        ],
        WORDS,
    )
    other.swatches[1] = other.swatches[1].model_copy(update={"vessels": {"dye": "D1"}})
    (found,) = fill_gaps(own, labels, other, 7)
    assert found.code == "b1"
    assert found.levels == {"fibre": "silk", "dye": "m1"}
    assert found.vessels == {"dye": "7/D1"}
