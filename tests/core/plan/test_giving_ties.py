"""Ties in a study that grows: never changed, given once as long as that takes few knots."""

import pytest

from zesty_grid.core.plan.giving_ties import MOST_KNOTS, give_ties, told_by_code_only
from zesty_grid.core.record.taken import NamedVessel, Taken, names_for


def knots(tie: str) -> int:
    return sum(int(group) for group in tie.split("·"))


def test_all_pieces_of_a_study_have_ties_of_their_own_that_one_slip_does_not_confuse():
    codes = [f"s{n}" for n in range(40)]
    ties = give_ties({}, codes, [])
    assert len(set(ties.values())) == 40
    assert max(map(knots, ties.values())) <= MOST_KNOTS
    # One knot more or less never gives another tie of the set: all sums are odd, or all even.
    assert len({knots(tie) % 2 for tie in ties.values()}) == 1


def test_what_is_there_keeps_its_tie_and_new_ones_go_round_it():
    there = give_ties({}, ["a", "b", "c"], [])
    more = give_ties(there, ["d", "e"], [])
    assert not set(there.values()) & set(more.values())
    assert {knots(tie) % 2 for tie in (there | more).values()} == {knots(there["a"]) % 2}


def test_pieces_of_other_studies_in_work_are_kept_clear_of():
    first = give_ties({}, ["a", "b"], [])
    other = give_ties({}, ["x", "y"], [], elsewhere=first.values())
    assert not set(first.values()) & set(other.values())


@pytest.mark.parametrize("count", [100, 300])
def test_beyond_seven_knots_ties_come_again_but_never_in_one_vessel(count):
    codes = [f"s{n:03}" for n in range(count)]
    vessels = [codes[n::10] for n in range(10)]
    ties = give_ties({}, codes, vessels)
    for members in vessels:
        assert len({ties[code] for code in members}) == len(members)
    alike = told_by_code_only(ties)
    assert {code for one in alike for code in one.swatches} == {
        code for code in codes if list(ties.values()).count(ties[code]) > 1
    }
    assert all(len({ties[code] for code in one.swatches}) == 1 for one in alike)


def vessel(name: str, key: str, *swatches: str) -> NamedVessel:
    return NamedVessel(name=name, bath="dye", key=key, swatches=swatches)


def names(made: list[tuple[str, set[str]]], **taken) -> list[str]:
    kept = {"has_record": True} | taken
    return names_for("dye", "D", [(k, frozenset(s)) for k, s in made], Taken.model_validate(kept))


def test_as_long_as_nothing_was_logged_vessels_are_numbered_from_one():
    kept = (vessel("D7", "a", "x"),)
    assert names([("a", {"x"}), ("b", {"y"})], has_record=False, kept=kept) == ["D1", "D2"]


def test_a_vessel_keeps_its_name_and_a_new_one_takes_the_next_number():
    kept = (vessel("D1", "a", "x"), vessel("D2", "b", "y"))
    assert names([("new", {"z"}), ("b", {"y"}), ("a", {"x"})], kept=kept) == ["D3", "D2", "D1"]


def test_the_name_of_a_bath_that_has_begun_is_never_given_again():
    kept = (vessel("D1", "a", "x"), vessel("D2", "b", "y"))
    assert names([("a", {"z"}), ("b", {"y"})], kept=kept, names=frozenset({"D1"})) == ["D3", "D2"]


def test_a_vessel_whose_recipe_changed_is_known_by_its_swatches():
    kept = (vessel("D1", "old", "x", "y"), vessel("D2", "b", "z"))
    assert names([("b", {"z"}), ("other", {"x", "y", "w"})], kept=kept) == ["D2", "D1"]


def test_the_name_of_a_vessel_that_is_not_needed_now_waits_for_it():
    kept = (vessel("D1", "a", "x"), vessel("D2", "b", "y"))
    assert names([("a", {"x"}), ("c", {"w"})], kept=kept) == ["D1", "D3"]
