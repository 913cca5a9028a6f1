"""The true place of a piece that went another way, and the marks that mishaps leave."""

from datetime import timedelta

from tests.bench import START, USUAL, entry
from tests.small_study import levels, planned, small_plan

from zesty_grid.core.dye.bench import bench_of
from zesty_grid.core.plan.grid import grid_of
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.record.marks import do_not_count, marks_of, stock_name
from zesty_grid.core.record.placing import true_levels_of, true_place, undecided

ROOTS = StudyPlan.model_validate(
    small_plan(
        factors=[
            {"kind": "fibre", "levels": levels("wool", "silk")},
            {"kind": "mordant", "levels": levels("none", "alum-hot")},
            {
                "kind": "dye",
                "levels": [
                    {"key": "dried-flowers", "label": "Golden root"},
                    {"key": "dried-bark", "label": "Red root"},
                ],
            },
        ],
        columns=["dye"],
        controls=[],
    )
)
STUDY = planned(ROOTS)
BENCH = {one.name: one for one in bench_of(STUDY, USUAL)}


def of_dye(dye: str) -> str:
    return next(one.name for one in BENCH.values() if one.vessel.dye == dye and one.vessel.bath == "dye")


GOLDEN, RED = BENCH[of_dye("dried-flowers")], BENCH[of_dye("dried-bark")]


def test_a_piece_in_the_wrong_pot_is_offered_what_it_really_is():
    lost = STUDY.by_code[RED.vessel.swatches[0]]
    place = true_place(STUDY, lost, GOLDEN)
    assert place.words == "Golden root, not Red root"
    assert place.levels == STUDY.levels(lost) | {"dye": "dried-flowers"}


def test_what_was_decided_already_is_still_said_against_what_was_meant():
    lost = STUDY.by_code[RED.vessel.swatches[0]]
    truth = true_place(STUDY, lost, GOLDEN).levels
    settled = lost.model_copy(update={"true_levels": truth})
    swatches = [settled if one.code == lost.code else one for one in STUDY.swatches]
    after = type(STUDY)(STUDY.plan, STUDY.shelf, swatches, STUDY.archive)
    assert true_place(after, settled, GOLDEN).words == "Golden root, not Red root"


def test_the_same_dye_in_another_pot_changes_no_level():
    own = STUDY.by_code[GOLDEN.vessel.swatches[0]]
    assert true_place(STUDY, own, GOLDEN).words == "the same levels as planned"


def test_the_grid_shows_it_where_it_belongs_and_marks_where_it_was_meant_to_be():
    lost = STUDY.by_code[RED.vessel.swatches[0]]
    truth = true_place(STUDY, lost, GOLDEN).levels
    moved = lost.model_copy(update={"begun": True, "true_levels": truth})
    swatches = [moved if one.code == lost.code else one for one in STUDY.swatches]
    after = planned(ROOTS)
    grid = grid_of(type(after)(after.plan, after.shelf, swatches, after.archive))
    stands = next(cell for cell in grid.cells if lost.code in cell.swatches)
    meant = next(cell for cell in grid.cells if lost.code in cell.meant)
    assert stands.levels == truth
    assert meant.levels["dye"] == "dried-bark"
    assert lost.code not in meant.swatches


def test_iron_in_the_pot_is_missed_by_a_piece_that_went_without():
    iron = [
        {"key": "i0", "label": "None", "value": 0, "route": "pot"},
        {"key": "i2", "label": "In the pot", "value": 2, "route": "pot"},
    ]
    factors = [*small_plan()["factors"][:3], {"kind": "iron", "levels": iron}]
    study = planned(StudyPlan.model_validate(small_plan(factors=factors, columns=["dye", "iron"], controls=[])))
    bench = [one for one in bench_of(study, USUAL) if one.vessel.bath == "dye"]
    plain = next(one for one in bench if not one.vessel.iron_percent_wof)
    with_iron = next(one for one in bench if one.vessel.iron_percent_wof)
    meant_for_iron = study.by_code[with_iron.vessel.swatches[0]]
    assert true_place(study, meant_for_iron, plain).levels["iron"] == "i0"
    meant_plain = study.by_code[plain.vessel.swatches[0]]
    assert true_place(study, meant_plain, with_iron).levels["iron"] == "i2"


def test_the_newest_word_on_a_true_place_stands_and_silence_is_undecided():
    log = [
        entry(1, "placed", swatches=["AAAA"], levels={"dye": "dried-bark"}),
        entry(2, "placed", 1, swatches=["AAAA"], levels={"dye": "dried-flowers"}),
    ]
    assert true_levels_of(log) == {"AAAA": {"dye": "dried-flowers"}}
    assert undecided(["AAAA", "CCCC"], true_levels_of(log)) == {"CCCC"}


def marks(log, ended=None):
    inside = {name: one.vessel.swatches for name, one in BENCH.items()}
    return marks_of(log, BENCH.values(), inside, ended or {})


def test_swatches_carry_what_went_wrong_and_what_is_done_about_it():
    first, *others = GOLDEN.vessel.swatches
    log = [
        entry(1, "deviation", vessel=GOLDEN.name, deviation="boiled"),
        entry(2, "deviation", vessel=GOLDEN.name, deviation="felted", swatches=[first]),
        entry(3, "cure", cure="leave out", about=1),
        entry(4, "cure", cure="repeat", about=2),
    ]
    found = marks(log)
    assert {m.swatch for m in found if m.deviation == "boiled"} == {first, *others}
    assert [(m.swatch, m.cure) for m in found if m.deviation == "felted"] == [(first, "repeat")]
    assert do_not_count(found) == {first, *others}


def test_a_piece_that_is_replaced_does_not_count_and_one_that_is_kept_does():
    first, second = GOLDEN.vessel.swatches[:2]
    log = [
        entry(1, "deviation", vessel=GOLDEN.name, deviation="felted", swatches=[first]),
        entry(2, "deviation", vessel=GOLDEN.name, deviation="felted", swatches=[second]),
        entry(3, "cure", cure="replace", about=1),
        entry(4, "cure", cure="keep with a mark", about=2),
    ]
    assert do_not_count(marks(log)) == {first}


def test_a_mishap_in_an_extraction_marks_all_that_was_dyed_with_it():
    found = marks([entry(1, "deviation", vessel=GOLDEN.draws_from, deviation="boiled")])
    assert {m.swatch for m in found} == set(GOLDEN.vessel.swatches)
    assert {m.through for m in found} == {f"the extract {GOLDEN.draws_from}"}


def test_a_stock_that_was_wrong_marks_the_baths_that_took_of_it_and_were_not_over():
    coarse = planned(StudyPlan.model_validate(small_plan(scale="kitchen-scale")))
    bench = {one.name: one for one in bench_of(coarse, USUAL)}
    iron = bench["F1"]
    figure = next(f for f in iron.amounts.figures if f.stock_percent)
    log = [
        entry(
            1,
            "deviation",
            60,
            deviation="other",
            note="twice as strong",
            vessel="",
            stock=stock_name(figure.name, figure.stock_percent),
        )
    ]
    inside = {name: one.vessel.swatches for name, one in bench.items()}
    found = marks_of(log, bench.values(), inside, {})
    assert {m.swatch for m in found} >= set(iron.vessel.swatches)
    over = {name: START + timedelta(minutes=30) for name in bench}
    assert marks_of(log, bench.values(), inside, over) == []
