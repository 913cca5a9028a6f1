"""Which swatch has which place: those begun keep theirs, the others follow the plan and keep their
codes."""

import pytest
from tests.small_study import cells_of, levels, small_plan, valued

from zesty_grid.core.plan.factors import APART
from zesty_grid.core.plan.placement import lacks_a_level, place_swatches, shown_levels
from zesty_grid.core.plan.planned_study import archive_of, with_code
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.record.swatch import Swatch
from zesty_grid.core.refusal import Refusal

SECOND_DYE = [{"key": "none", "label": "No second dye"}, *levels("dye-extract")]


def plan_with(*more: dict, **changes) -> StudyPlan:
    factors = [
        {"kind": "fibre", "levels": levels("wool", "silk")},
        {"kind": "mordant", "levels": levels("alum-hot")},
        {"kind": "dye", "levels": levels("dried-flowers", "dried-bark")},
        *more,
    ]
    columns = ["dye", *(factor["kind"] for factor in more)]
    said = {"factors": factors, "columns": columns, "controls": []} | changes
    return StudyPlan.model_validate(small_plan(**said))


FIRST = plan_with()


def place(plan: StudyPlan, existing: list[Swatch], *earlier: StudyPlan, sources=None):
    archive = archive_of([*earlier, plan])
    return place_swatches(plan, cells_of(plan), existing, archive, sources), archive


def swatches_of(plan: StudyPlan, begun: int = 0) -> list[Swatch]:
    """The swatches of a new study, so many of which have begun."""
    placement, _ = place(plan, [])
    every = [with_code(one, n) for n, one in enumerate(placement.new, 1)]
    return [one.model_copy(update={"begun": n < begun, "settled": n < begun}) for n, one in enumerate(every)]


def by_code(placement) -> dict[str, Swatch]:
    return {swatch.code: swatch for swatch in placement.swatches}


def test_every_place_of_a_new_plan_is_a_new_swatch():
    placement, _ = place(FIRST, [])
    assert len(placement.new) == 4
    assert placement.swatches == ()


def test_a_factor_that_came_later_leaves_levels_and_codes_of_what_was_begun():
    """The case that took every reading off the screen: a second dye, with only "none"."""
    there = swatches_of(FIRST, begun=4)
    later = plan_with({"kind": "second_dye", "levels": SECOND_DYE[:1], "begun_as": "none"})
    placement, archive = place(later, there, FIRST)
    assert placement.new == ()
    for before in there:
        after = by_code(placement)[before.code]
        assert after.levels == before.levels
        assert after.planned
        assert shown_levels(later, after, archive)["second_dye"] == "none"


def test_of_a_factor_with_two_levels_only_the_other_one_is_new():
    there = swatches_of(FIRST, begun=4)
    later = plan_with({"kind": "second_dye", "levels": SECOND_DYE, "begun_as": "none"})
    placement, _ = place(later, there, FIRST)
    assert len(placement.new) == 4
    assert {one.levels["second_dye"] for one in placement.new} == {"dye-extract"}


def test_what_was_begun_may_stay_apart_from_a_new_factor():
    there = swatches_of(FIRST, begun=4)
    later = plan_with({"kind": "ph", "levels": valued("ph", 4, 9), "begun_as": APART})
    placement, _ = place(later, there, FIRST)
    assert not any(swatch.planned for swatch in placement.swatches)
    assert len(placement.new) == 8


def test_as_long_as_nobody_said_as_what_they_count_it_is_asked():
    there = swatches_of(FIRST, begun=3)
    later = plan_with({"kind": "ph", "levels": valued("ph", 4, 9)})
    placement, _ = place(later, there, FIRST)
    assert lacks_a_level(later, placement.swatches) == {"ph": 3}


def test_what_was_not_begun_follows_and_keeps_its_code():
    there = swatches_of(FIRST)
    later = plan_with({"kind": "ph", "levels": valued("ph", 4, 9)}, swatch_mass_g=9)
    placement, _ = place(later, there, FIRST)
    assert {s.code for s in placement.swatches if s.planned} == {s.code for s in there}
    assert all(s.levels["ph"] in ("ph-4", "ph-9") for s in placement.swatches)
    assert all(s.mass_g == 9 for s in placement.swatches)
    assert len(placement.new) == 4


def test_settled_cloth_keeps_its_mass_whatever_the_plan_says():
    there = swatches_of(FIRST, begun=2)
    placement, _ = place(plan_with(swatch_mass_g=9), there)
    assert sorted(s.mass_g for s in placement.swatches) == [6, 6, 9, 9]


def test_a_level_that_is_gone_leaves_its_begun_swatches_there_and_drops_the_others():
    there = swatches_of(FIRST, begun=2)
    dyes = [{"kind": "dye", "levels": levels("dried-bark")}]
    smaller = plan_with().model_copy(
        update={
            "factors": (
                *FIRST.factors[:2],
                plan_with().factors[2].model_copy(update={"levels": FIRST.factors[2].levels[1:]}),
            )
        }
    )
    assert dyes
    placement, archive = place(smaller, there, FIRST)
    gone = [s for s in placement.swatches if s.levels["dye"] == "dried-flowers"]
    assert [s.planned for s in gone] == [False] * len(gone)
    begun = next(s for s in gone if s.begun)
    assert shown_levels(smaller, begun, archive)["dye"] == "dried-flowers"


def test_back_again_every_swatch_has_its_own_place():
    there = swatches_of(FIRST, begun=2)
    later = plan_with({"kind": "ph", "levels": valued("ph", 4, 9), "begun_as": "ph-4"})
    grown, _ = place(later, there, FIRST)
    made = [with_code(one, 100 + n) for n, one in enumerate(grown.new)]
    back, _ = place(FIRST, [*grown.swatches, *made], FIRST, later)
    after = by_code(back)
    assert all(after[s.code].planned and after[s.code].levels == s.levels for s in there)
    assert back.new == ()
    assert not any(after[one.code].planned for one in made)


def test_more_repeats_are_new_and_fewer_drop_those_that_were_not_begun():
    there = swatches_of(FIRST, begun=4)
    twice, _ = place(plan_with(replicates=2), there)
    assert len(twice.new) == 4
    assert all(one.replicate == 2 for one in twice.new)


def source(code: str, begun: bool = True) -> Swatch:
    return Swatch(
        code=code,
        serial=int(code),
        fibre="wool",
        mass_g=8,
        pieces=("dark",),
        levels={"dye": "dried-bark"},
        begun=begun,
        settled=begun,
    )


def on_cloth(*codes: str, cut: bool, repeats: int = 1) -> StudyPlan:
    level = {"key": "from-1", "label": "Yellow wool", "swatches": codes, "cut": cut}
    return StudyPlan.model_validate(
        {
            "name": "On yellow",
            "rows": ["fibre"],
            "replicates": repeats,
            "swatch_mass_g": 2,
            "factors": [{"kind": "fibre", "levels": [level]}],
        }
    )


def test_swatches_taken_whole_fill_the_places_of_a_study_that_starts_from_them():
    sources = {code: source(code) for code in ("1", "2")}
    placement, _ = place(on_cloth("1", "2", cut=False, repeats=2), [], sources=sources)
    assert [s.code for s in placement.swatches] == ["1", "2"]
    assert placement.new == ()
    # They are what they were: cut, weighed, and in the new study not begun yet.
    assert all(s.mass_g == 8 and s.settled and not s.begun for s in placement.swatches)
    with pytest.raises(Refusal, match="too few for the 3 places"):
        place(on_cloth("1", "2", cut=False, repeats=3), [], sources=sources)


def test_new_pieces_are_cut_from_each_in_turn():
    sources = {code: source(code) for code in ("1", "2")}
    placement, _ = place(on_cloth("1", "2", cut=True, repeats=3), [], sources=sources)
    assert [one.parent for one in placement.new] == ["1", "2", "1"]
    assert all(one.fibre == "wool" and one.mass_g == 2 for one in placement.new)
