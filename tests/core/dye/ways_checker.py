"""An independent check of the ways of working in a schedule: walks the bench, not the model."""

from collections.abc import Iterator

from zesty_grid.core.dye.scheduling.from_bench import TICK_MIN, BenchProblem
from zesty_grid.core.dye.scheduling.problem import Solution
from zesty_grid.core.record.bench_vessel import BenchVessel

# A stretch that is to the minute is planned in ticks; nothing may come out later than this.
LATE_MIN = 2 * TICK_MIN


def faults_of_ways(made: BenchProblem, solution: Solution, bench: dict[str, BenchVessel]) -> list[str]:
    """Everything that is wrong with dips, draws, water baths, coats and pieces that come out."""
    at = _Moments(made, solution)
    return [*_dips(at, bench), *_draws(at, bench), *_water_baths(at, bench), *_rests(at, bench), *_outs(at, bench)]


class _Moments:
    """When the steps of a vessel begin, and its stretches end, in minutes."""

    def __init__(self, made: BenchProblem, solution: Solution) -> None:
        self.begins: dict[tuple[str, str], int] = {}
        self.ends: dict[tuple[str, str], int] = {}
        self.first: dict[str, int] = {}
        self.last: dict[str, int] = {}
        for one in made.stretches:
            start = solution.starts[one.task] * TICK_MIN
            end = start + made.problem.task[one.task].length * TICK_MIN
            for step in one.steps:
                self.begins[one.vessel, step] = start
                self.ends[one.vessel, step] = end
            self.first[one.vessel] = min(start, self.first.get(one.vessel, start))
            self.last[one.vessel] = max(end, self.last.get(one.vessel, end))


def _dips(at: _Moments, bench: dict[str, BenchVessel]) -> Iterator[str]:
    for name, one in bench.items():
        before = one.vessel.liquor_of
        if before in bench and at.first[name] < at.last[before]:
            yield f"{name} takes the liquor of {before} before that is done"


def _draws(at: _Moments, bench: dict[str, BenchVessel]) -> Iterator[str]:
    for name, one in bench.items():
        recipe = one.vessel.recipe
        if one.vessel.bath != "extract" or recipe is None:
            continue
        for share in one.shares:
            early = share.drawn_after and share.drawn_after < recipe.rounds
            step = f"draw-{share.drawn_after}" if early else "finish"
            if at.first[share.vessel] < at.ends[name, step]:
                yield f"{share.vessel} is filled before its share of {name} is drawn off"


def _water_baths(at: _Moments, bench: dict[str, BenchVessel]) -> Iterator[str]:
    for name, one in bench.items():
        if one.water_bath is None or one.water_bath.vessels[0] != name:
            continue
        hot_until = at.ends[name, "hold"]
        for other in one.water_bath.vessels[1:]:
            if at.ends[other, "enter"] > hot_until:
                yield f"{other} is not in the water bath of {name} while it is hot"
            after = next(
                at.begins[other, step.key]
                for step in bench[other].steps
                if at.begins.get((other, step.key), 0) > at.begins[other, "enter"]
            )
            if after < hot_until:
                yield f"{other} comes out of the water bath of {name} too soon"


def _rests(at: _Moments, bench: dict[str, BenchVessel]) -> Iterator[str]:
    for name, one in bench.items():
        rest = one.steps[-1]
        if one.vessel.bath != "binder" or not rest.shortest_min:
            continue
        for other, then in bench.items():
            if name in then.after and at.begins[other, "enter"] < at.last[name] + rest.shortest_min:
                yield f"{other} comes before the rest days of {name} are over"


def _outs(at: _Moments, bench: dict[str, BenchVessel]) -> Iterator[str]:
    for name, one in bench.items():
        entered = at.ends[name, "hold"] if one.vessel.outs else 0
        hold = one.step("hold")
        if hold is None or not one.vessel.outs or not hold.heat:
            continue
        for number, out in enumerate(one.vessel.outs, 1):
            # The clock of the first stretch ends when its own pieces are due.
            due = entered + out.after_min - one.vessel.outs[0].after_min
            late = at.begins[name, f"out-{number}"] - due
            if not -LATE_MIN <= late <= LATE_MIN * number:
                yield f"out-{number} of {name} is {late} min off"
