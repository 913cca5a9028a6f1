"""Whatever becomes of the plan, and whatever is logged: what was dyed stays as it was dyed.

Hypothesis makes up sequences of plan edits, bench entries, corrections, readings, trials and
treatments; after each step the record of everything that it did not concern is the same as before,
and the whole file passes `zesty-grid check`.
"""

import sqlite3
import tempfile
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

from hypothesis import settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, precondition, rule
from tests.depth import depth
from tests.record_snapshot import snapshot
from tests.seeded_readings import add_readings
from tests.what_may_change import FIRST, LEVELS, TREATMENTS

from zesty_grid.core.fade.trial import StagePlan, TrialPlan
from zesty_grid.core.plan.effects import asked_levels
from zesty_grid.core.plan.factors import APART
from zesty_grid.core.plan.going_on import GoingOn, deal_out, study_from, with_treatments
from zesty_grid.core.plan.grid import grid_of
from zesty_grid.core.plan.placement import slots_of
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.read.readings import ReadingChoice
from zesty_grid.core.record.entry import BenchEntry, NewBenchEntry
from zesty_grid.core.record.log import standing
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.store.database import Database
from zesty_grid.store.dye import list_entries
from zesty_grid.store.fade import add_trial
from zesty_grid.store.following import follow_readings
from zesty_grid.store.keeping import create_study, save_plan, try_plan
from zesty_grid.store.logging import log_entry
from zesty_grid.store.plan import list_study_ids
from zesty_grid.store.read import choose_reading, list_readings, load_reading
from zesty_grid.store.runs import past_treatments
from zesty_grid.store.safekeeping import check
from zesty_grid.store.shelf import stock_shelf
from zesty_grid.store.standing import StandingStudy, standing_study
from zesty_grid.store.swatches import load_by_code

BEGIN = datetime(2026, 3, 2, 9, 0, tzinfo=UTC)
picks = st.integers(0, 10_000)


def pick(items: Any, number: int) -> Any:
    every = sorted(items, key=str)
    return every[number % len(every)]


class Record(RuleBasedStateMachine):
    """Two weeks at the bench, in which nobody keeps to the plan."""

    def __init__(self) -> None:
        super().__init__()
        self.folder = tempfile.TemporaryDirectory()
        self.database = Database(Path(self.folder.name) / "grid.db")
        self.minutes = 0
        # What may have changed by the last step: names of baths (by study), and codes.
        self.before: dict[str, Any] = {}
        self.concerned: set[tuple[int, str]] = set()
        self.read: set[str] = set()
        self.treated = False
        with self.database.transaction() as connection:
            stock_shelf(connection, STARTING_SHELF)
            create_study(connection, StudyPlan.model_validate(FIRST))

    def teardown(self) -> None:
        self.folder.cleanup()

    # -- helpers

    def now(self) -> datetime:
        self.minutes += 37
        return BEGIN + timedelta(minutes=self.minutes)

    def studies(self, connection: sqlite3.Connection) -> list[StandingStudy]:
        return [standing_study(connection, one) for one in list_study_ids(connection)]

    def study(self, connection: sqlite3.Connection, number: int) -> StandingStudy:
        return standing_study(connection, pick(list_study_ids(connection), number))

    def save(self, connection: sqlite3.Connection, study: StandingStudy, plan: StudyPlan) -> None:
        """As the screen does: looks at the effect, answers what is asked, saves."""
        study_id = study.stored.id
        try:
            effect = try_plan(connection, study_id, plan)
        except Refusal as refused:
            if refused.code != "too-few-swatches":
                raise
            return
        answers = {ask.factor: ask.proposed or ask.levels[0].key for ask in effect.asks}
        factors = [
            factor.model_copy(update={"begun_as": answers.get(factor.kind, factor.begun_as)}) for factor in plan.factors
        ]
        plan = plan.model_copy(update={"factors": tuple(factors)})
        said = try_plan(connection, study_id, plan)
        before = {swatch.code for swatch in study.planned.swatches}
        saved = save_plan(connection, study_id, study.stored.revision, plan)
        made = {swatch.code for swatch in saved.planned.swatches} - before
        returned = said.new_swatches - len(made)
        assert returned >= 0
        assert asked_levels(saved.plan, saved.planned.swatches) == []

    def log(self, connection: sqlite3.Connection, study_id: int, entry: dict[str, Any]) -> None:
        said = NewBenchEntry.model_validate({"sure": True} | entry)
        try:
            log_entry(connection, study_id, said, self.now())
        except Refusal as refused:
            if refused.code not in ("no-such-step", "no-such-swatch", "corrected-already"):
                raise
            return
        self.concerned |= {(study_id, said.vessel)}
        every = {one.id: one for one in list_entries(connection, study_id)}
        follow = [said.replaces, said.about]
        while follow:
            if one := every.get(follow.pop() or 0):
                self.concerned |= {(study_id, one.vessel)}
                follow += [one.replaces, one.about]

    # -- steps

    @initialize(number=picks)
    def something_is_dyed(self, number: int) -> None:
        """Most of what can go wrong needs something that was begun."""
        for name in ("S1", "M1", "D1")[: number % 4]:
            with self.database.transaction() as connection:
                for step in ("fill", "enter", "finish", "rinse", "dry"):
                    self.log(connection, 1, {"vessel": name, "step": step, "kind": "done"})

    @rule(study=picks, kind=st.sampled_from(sorted(LEVELS)), number=picks, away=st.booleans())
    def change_levels(self, study: int, kind: str, number: int, away: bool) -> None:
        with self.database.transaction() as connection:
            one = self.study(connection, study)
            plan = one.plan.model_dump()
            factor = next((f for f in plan["factors"] if f["kind"] == kind), None)
            level = pick(LEVELS[kind], number)
            if kind == "fibre" and factor and any(one["swatches"] for one in factor["levels"]):
                return
            if factor is None and not away:
                plan["factors"] += ({"kind": kind, "levels": [level]},)
                plan["columns"] += (kind,)
            elif factor and away and len(factor["levels"]) > 1:
                gone = pick([one["key"] for one in factor["levels"]], number)
                factor["levels"] = [one for one in factor["levels"] if one["key"] != gone]
                factor["begun_as"] = None if factor["begun_as"] == gone else factor["begun_as"]
            elif factor and away and len(plan["factors"]) > 2:
                plan["factors"] = [one for one in plan["factors"] if one["kind"] != kind]
                plan["rows"] = [one for one in plan["rows"] if one != kind]
                plan["columns"] = [one for one in plan["columns"] if one != kind]
            elif factor and level["key"] not in {one["key"] for one in factor["levels"]}:
                factor["levels"] = [*factor["levels"], level]
            else:
                return
            self.save(connection, one, StudyPlan.model_validate(plan))

    @rule(study=picks, kind=st.sampled_from(sorted(LEVELS)), number=picks)
    def count_what_was_begun_otherwise(self, study: int, kind: str, number: int) -> None:
        """As what the begun swatches count can be said anew: also that they stay apart."""
        with self.database.transaction() as connection:
            one = self.study(connection, study)
            plan = one.plan.model_dump()
            factor = next((f for f in plan["factors"] if f["kind"] == kind), None)
            if factor is None or factor["begun_as"] is None:
                return
            factor["begun_as"] = pick([APART, *(o["key"] for o in factor["levels"])], number)
            self.save(connection, one, StudyPlan.model_validate(plan))

    @rule(
        study=picks,
        number=picks,
        setting=st.sampled_from(
            ["repeats", "mass", "ratio", "controls", "out", "own mass", "larger", "seed", "apart", "pieces"]
        ),
    )
    def change_settings(self, study: int, number: int, setting: str) -> None:
        with self.database.transaction() as connection:
            one = self.study(connection, study)
            plan, keys = one.plan, sorted(c.key for c in one.planned.cells if not c.added)
            fibre = one.plan.factors[0].levels[0].key
            changes: dict[str, Any] = {
                "repeats": {"replicates": 1 + number % 2},
                "mass": {"swatch_mass_g": 2.0 + number % 5},
                "ratio": {"liquor_ratio_ml_per_g": 20.0 + number % 20},
                "controls": {"controls": ("undyed",) if not plan.controls else ()},
                "out": {"left_out": (pick(keys, number),) if keys else ()},
                "own mass": {"own_masses": [{"fibre": fibre, "mass_g": 1.0 + number % 3}]},
                "larger": {
                    "larger_pieces": [
                        {
                            "key": "skein",
                            "name": "Skein",
                            "mass_g": 40,
                            "levels": {f.kind: pick([lv.key for lv in f.levels], number) for f in plan.factors},
                        }
                    ]
                    if not plan.larger_pieces
                    else []
                },
                "seed": {"order_seed": number},
                "apart": {"mordants_in_dye_bath": ("apart", "together")[number % 2]},
                "pieces": {"pieces": (("dark", "light"), ("dark", "wash", "spare"))[number % 2]},
            }[setting]
            self.save(connection, one, StudyPlan.model_validate(plan.model_dump() | changes))

    @rule(
        study=picks,
        vessel=picks,
        step=picks,
        late=st.integers(0, 600),
        kind=st.sampled_from(["done", "done", "done", "begun", "undone"]),
    )
    def tick(self, study: int, vessel: int, step: int, late: int, kind: str) -> None:
        with self.database.transaction() as connection:
            one = self.study(connection, study)
            if one.bench:
                bath = pick([b.name for b in one.bench], vessel)
                steps = next(b.steps for b in one.bench if b.name == bath)
                at = BEGIN + timedelta(minutes=max(0, self.minutes - late))
                entry = {"vessel": bath, "step": steps[step % len(steps)].key, "kind": kind, "at": at}
                self.log(connection, one.stored.id, entry)

    @rule(
        study=picks,
        vessel=picks,
        code=picks,
        kind=st.sampled_from(["loaded", "loaded", "unloaded", "looked", "pulled"]),
    )
    def put_in_or_take_out(self, study: int, vessel: int, code: int, kind: str) -> None:
        """Any swatch, whether it belongs there or not."""
        with self.database.transaction() as connection:
            one = self.study(connection, study)
            if one.bench and one.planned.by_code:
                entry = {
                    "vessel": pick([b.name for b in one.bench], vessel),
                    "kind": kind,
                    "swatches": [pick(one.planned.by_code, code)],
                }
                self.log(connection, one.stored.id, entry)

    @rule(study=picks, vessel=picks, what=st.sampled_from(["add", "read", "heat", "wrong", "note"]))
    def log_what_happens(self, study: int, vessel: int, what: str) -> None:
        with self.database.transaction() as connection:
            one = self.study(connection, study)
            if one.bench:
                said: dict[str, Any] = {
                    "add": {
                        "kind": "addition",
                        "addition": {"what": "substance", "item": "ammonia", "amount": 9, "unit": "drops"},
                    },
                    "read": {"kind": "record", "ph": 6.5, "temperature_c": 55},
                    "heat": {"kind": "reheat", "temperature_c": 70, "minutes": 30},
                    "wrong": {"kind": "deviation", "deviation": "boiled"},
                    "note": {"kind": "note", "note": "smells of hay"},
                }[what]
                entry = said | {"vessel": pick([b.name for b in one.bench], vessel)}
                self.log(connection, one.stored.id, entry)

    @rule(study=picks, number=picks, cure=st.sampled_from(["repeat", "keep with a mark"]))
    def decide(self, study: int, number: int, cure: str) -> None:
        """What is done about a mishap; as what a stray counts."""
        with self.database.transaction() as connection:
            one = self.study(connection, study)
            wrong = [e for e in standing(list_entries(connection, one.stored.id)) if e.kind == "deviation"]
            if wrong:
                about: BenchEntry = wrong[number % len(wrong)]
                self.log(connection, one.stored.id, {"kind": "cure", "cure": cure, "about": about.id})
            begun = [s for s in one.planned.swatches if s.begun and not s.added]
            if begun:
                swatch = begun[number % len(begun)]
                factor = one.plan.factors[number % len(one.plan.factors)]
                truth = one.planned.levels(swatch) | {factor.kind: factor.levels[0].key}
                self.log(connection, one.stored.id, {"kind": "placed", "levels": truth, "swatches": [swatch.code]})
                self.concerned |= {(one.stored.id, swatch.code)}

    @rule(study=picks, number=picks, strike=st.booleans())
    def correct(self, study: int, number: int, strike: bool) -> None:
        with self.database.transaction() as connection:
            one = self.study(connection, study)
            log = standing(list_entries(connection, one.stored.id))
            if not log:
                return
            old = log[number % len(log)]
            same = old.model_dump(exclude={"id", "key", "at", "entered_at", "received_at"})
            new = {"kind": "struck", "vessel": old.vessel} if strike else same | {"note": "mended"}
            self.log(connection, one.stored.id, new | {"replaces": old.id})
            if not strike:
                mended = next((e for e in list_entries(connection, one.stored.id) if e.replaces == old.id), None)
                assert mended is None or mended.at == old.at

    @rule(study=picks, number=picks, damp=st.booleans())
    def photograph(self, study: int, number: int, damp: bool) -> None:
        with self.database.connection() as connection:
            one = self.study(connection, study)
        codes = sorted(swatch.code for swatch in one.planned.swatches)
        if codes:
            chosen = sorted({codes[number % len(codes)], codes[(number * 7) % len(codes)]})
            lab = (40.0 + number % 40, 5.0, 20.0)
            add_readings(
                self.database,
                one.stored.id,
                [(code, "whole", lab) for code in chosen],
                accepted_at=self.now(),
                damp=damp,
                early=True,
            )
            self.read |= set(chosen)

    @rule(study=picks, number=picks, counts=st.booleans())
    def choose_what_counts(self, study: int, number: int, counts: bool) -> None:
        with self.database.transaction() as connection:
            one = self.study(connection, study)
            readings = list_readings(connection, one.stored.id)
            if readings:
                reading = readings[number % len(readings)]
                swatch, _ = load_reading(connection, reading.id)
                choose_reading(connection, reading.id, ReadingChoice(counts=counts))
                follow_readings(connection, [swatch])
                self.read |= {reading.swatch}

    @rule(study=picks, number=picks)
    def expose(self, study: int, number: int) -> None:
        with self.database.transaction() as connection:
            one = self.study(connection, study)
            codes = sorted(s.code for s in one.planned.swatches)
            if codes:
                stages = (StagePlan(label="1 day", days=1, dose_lxh=1e5),)
                chosen = (pick(codes, number),)
                trial = TrialPlan(kind="light", name="Window", swatches=chosen, stages=stages)
                add_trial(connection, one.stored.id, trial)

    @rule(study=picks, number=picks, what=st.sampled_from(TREATMENTS), guests=st.booleans())
    def treat(self, study: int, number: int, what: dict[str, Any], guests: bool) -> None:
        """Half of some swatches, perhaps of all studies, get a further treatment."""
        with self.database.transaction() as connection:
            one = self.study(connection, study)
            there = self.studies(connection) if guests else [one]
            codes = sorted({s.code for each in there for s in each.planned.swatches if s.begun})[
                number % 3 : number % 3 + 4
            ]
            if len(codes) < 2 or len(one.plan.treatments) > 3:
                return
            treatment = what | {"key": "new", "swatches": codes}
            wanted = GoingOn.model_validate(
                {"swatches": codes, "choices": [{"levels": [treatment, None]}], "seed": number}
            )
            taken = {t.key for t in one.plan.treatments}
            taken |= past_treatments(connection, one.stored.id)
            dealt = deal_out(wanted, {}, taken)
            self.save(connection, one, with_treatments(one.plan, dealt.treatments))
            self.treated = True

    @precondition(lambda self: self.treated)
    @rule(study=picks)
    def take_a_treatment_out(self, study: int) -> None:
        with self.database.transaction() as connection:
            one = self.study(connection, study)
            if one.plan.treatments:
                left = one.plan.model_copy(update={"treatments": one.plan.treatments[1:]})
                self.save(connection, one, left)

    @precondition(lambda self: len(self.before.get("studies", ())) < 2)
    @rule(study=picks, number=picks, cut=st.booleans())
    def start_from_dyed_cloth(self, study: int, number: int, cut: bool) -> None:
        with self.database.transaction() as connection:
            one = self.study(connection, study)
            begun = sorted(s.code for s in one.planned.swatches if s.begun)
            if not begun:
                return
            codes = {pick(begun, number), pick(begun, number * 3)}
            swatches = list(load_by_code(connection, codes).values())
            words = {code: f"cloth {code}" for code in codes}
            create_study(connection, study_from("Next", swatches, words, cut, 2.0))

    @rule(study=picks, number=picks)
    def go_back_to_an_earlier_version(self, study: int, number: int) -> None:
        """Undo, as far as one likes."""
        with self.database.transaction() as connection:
            one = self.study(connection, study)
            rows = connection.execute(
                "SELECT plan FROM plan_version WHERE study_id = ? ORDER BY revision", (one.stored.id,)
            ).fetchall()
            plan = StudyPlan.model_validate_json(rows[number % len(rows)]["plan"])
            self.save(connection, one, plan)

    # -- what must hold

    @invariant()
    def the_record_stays(self) -> None:
        with self.database.connection() as connection:
            now = snapshot(connection)
        before = self.before
        for name in ("swatch", "run", "reading", "entry", "version"):
            for key, facts in before.get(name, {}).items():
                assert now[name][key] == facts, (name, key)
        for key, facts in before.get("bath", {}).items():
            if key not in self.concerned:
                assert now["bath"].get(key) == facts, key
        touched = {code for key in self.concerned for code in now["who"].get(key, ())}
        touched |= {code for key in self.concerned for code in before.get("who", {}).get(key, ())}
        touched |= {key for _, key in self.concerned} | self.read
        for key, facts in before.get("record", {}).items():
            if key[1] not in touched:
                assert now["record"].get(key) == facts, key
        self.before, self.concerned, self.read = now, set(), set()

    @invariant()
    def every_place_is_filled_once_and_nothing_begun_is_planned_again(self) -> None:
        with self.database.connection() as connection:
            for one in self.studies(connection):
                planned = one.planned
                places = [(planned.planned_cell(s), s.replicate) for s in planned.planned if not s.begun]
                assert len(set(places)) == len(places)
                assert len(planned.planned) == len(slots_of(planned.plan, planned.cells))
                names = [bath.name for bath in one.bench]
                assert len(set(names)) == len(names)
                for bath in one.bench:
                    if not bath.begun:
                        for code in bath.vessel.swatches:
                            assert bath.vessel.stage not in planned.taken.past_of(code)
                shown = [code for cell in grid_of(planned).cells for code in cell.swatches]
                assert len(set(shown)) == len(shown)
                assert {s.code for s in planned.swatches if s.begun or s.planned} <= set(shown)

    @invariant()
    def the_file_passes_its_check(self) -> None:
        assert check(self.database.path) == []


Record.TestCase.settings = settings(max_examples=depth(3, 12), stateful_step_count=24, deadline=None, derandomize=True)
TestRecord = Record.TestCase
