"""The day plan as a calendar (iCalendar, RFC 5545).

Times have no zone: they are the bench's own, wherever the calendar is looked at.
"""

from datetime import UTC, datetime, timedelta

from icalendar import Alarm, Calendar, Event

from zesty_grid.core.dye.scheduling.day_plan import DayPlan, PlannedWork
from zesty_grid.core.fade.trial import TrialPlan
from zesty_grid.core.fade.trial_state import TrialState

REMIND_BEFORE = timedelta(minutes=10)


def day_plan_ics(plan: DayPlan, study_name: str, study_id: int) -> bytes:
    """An event for each stretch of work that is not done, and one for the day of reading."""
    calendar = Calendar()
    calendar.add("prodid", "-//Zesty Grid//Day plan//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", study_name)
    stamp = datetime.now(UTC)
    for number, one in enumerate(plan.work):
        if one.state != "done":
            calendar.add_component(_event(one, study_name, f"{study_id}-{number}", stamp))
    ready = Event()
    ready.add("uid", f"study-{study_id}-ready@zesty-grid")
    ready.add("dtstamp", stamp)
    ready.add("dtstart", plan.ready_at.date())
    ready.add("summary", f"Ready to read: {study_name}")
    calendar.add_component(ready)
    return bytes(calendar.to_ical())


def _event(one: PlannedWork, study_name: str, number: str, stamp: datetime) -> Event:
    event = Event()
    event.add("uid", f"study-{number}@zesty-grid")
    event.add("dtstamp", stamp)
    event.add("dtstart", one.soak_from or one.starts_at)
    event.add("dtend", max(one.hands_until, one.starts_at + timedelta(minutes=5)))
    event.add("summary", f"{one.vessel} {one.vessel_title}: {one.words or one.runs}")
    lines = [study_name, f"in {one.pot}" if one.pot else ""]
    if one.soak_from:
        lines.append(f"into water from {one.soak_from:%H:%M}")
    if one.runs:
        lines.append(f"then {one.runs}, until {one.ends_at:%a %H:%M}")
    event.add("description", "\n".join(line for line in lines if line))
    alarm = Alarm()
    alarm.add("action", "DISPLAY")
    alarm.add("trigger", -REMIND_BEFORE)
    alarm.add("description", f"{one.vessel}: {one.words or one.runs}")
    event.add_component(alarm)
    return event


def trial_stages_ics(plan: TrialPlan, state: TrialState, study_name: str, trial_id: int) -> bytes:
    """A day for each stage of a trial that is due and not read."""
    calendar = Calendar()
    calendar.add("prodid", "-//Zesty Grid//Trial//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", plan.name)
    stamp = datetime.now(UTC)
    for stage in state.stages:
        if stage.due_on is None or stage.is_read or stage.left_out:
            continue
        event = Event()
        event.add("uid", f"trial-{trial_id}-{stage.index}@zesty-grid")
        event.add("dtstamp", stamp)
        event.add("dtstart", stage.due_on)
        event.add("summary", f"Read {plan.name}: {stage.plan.label}")
        event.add("description", f"{study_name}: take the pieces to the photo table, covered and exposed side by side.")
        calendar.add_component(event)
    return bytes(calendar.to_ical())
