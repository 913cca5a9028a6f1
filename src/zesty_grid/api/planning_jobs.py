"""Day plans in the making: one thread for each study, with progress and a way to stop."""

import logging
import threading
from collections.abc import Callable
from dataclasses import dataclass, field
from time import monotonic

from zesty_grid.api.answers import PlanningState
from zesty_grid.core.dye.scheduling.answer import Progress, Stop
from zesty_grid.core.dye.scheduling.day_plan import DayPlan
from zesty_grid.core.dye.scheduling.planning import Planned, Work, make_day_plan
from zesty_grid.core.refusal import Refusal

AIMS = {"finish": "Looking for a shorter plan", "days": "Fewer days, less idling"}


@dataclass
class _Job:
    seconds: float
    began: float
    stop: Stop = field(default_factory=Stop)
    words: str = "Laying out the first plan"
    answers: int = 0
    best: DayPlan | None = None
    planned: Planned | None = None
    problem: str = ""
    running: bool = True


class PlanningJobs:
    """`keep` saves what was planned; it is called from the thread, also after a stop."""

    def __init__(self) -> None:
        self._jobs: dict[int, _Job] = {}
        self._lock = threading.Lock()

    def start(self, study: int, work: Work, seconds: float, with_cures: bool, keep: Callable[[DayPlan], None]) -> None:
        with self._lock:
            old = self._jobs.get(study)
            if old and old.running:
                raise Refusal("planning-already", "A day plan is being made already.", "Stop it first, or wait for it.")
            job = self._jobs[study] = _Job(seconds, monotonic())
        thread = threading.Thread(target=_run, args=(job, work, with_cures, keep), daemon=True)
        thread.start()

    def stop(self, study: int) -> None:
        job = self._jobs.get(study)
        if job:
            job.stop.ask()

    def state(self, study: int) -> PlanningState | None:
        job = self._jobs.get(study)
        if job is None:
            return None
        planned = job.planned
        return PlanningState(
            running=job.running,
            words=job.words,
            seconds=job.seconds,
            elapsed_s=round(min(monotonic() - job.began, 1e6), 1),
            answers=job.answers,
            best=job.best if job.running else None,
            problem=job.problem,
            short=planned.short if planned else (),
            cures=planned.cures if planned else (),
        )


def _run(job: _Job, work: Work, with_cures: bool, keep: Callable[[DayPlan], None]) -> None:
    def tell(progress: Progress, plan: DayPlan) -> None:
        job.answers += 1
        job.best = plan
        job.words = AIMS[progress.aim]

    def say(words: str) -> None:
        job.words = f"Trying a cure: {words.lower()}"

    try:
        job.planned = make_day_plan(work, job.seconds, tell, say, job.stop, with_cures)
        if job.planned.plan:
            keep(job.planned.plan)
    except Refusal as refusal:
        job.problem = str(refusal)
    except Exception:
        # A thread has nobody above it: what broke goes to the server's log and to the person.
        logging.exception("day plan")
        job.problem = "Planning broke off. Nothing is lost; try again, or change the hours."
    finally:
        job.running = False
