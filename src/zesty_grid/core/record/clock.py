"""Whether the computer's clock can be believed, by what was already written down."""

from datetime import datetime, timedelta

from zesty_grid.core.weigh.working import duration_words

CLOCKS_DIFFER_BY = timedelta(minutes=2)


def clock_warning(newest: datetime | None, now: datetime) -> str:
    """Words where the newest thing that this computer wrote down lies ahead of its clock; else
    empty. `newest` is the moment at which the server took it, not one that a person typed."""
    if newest is None or newest - now <= CLOCKS_DIFFER_BY:
        return ""
    ahead = duration_words((newest - now).total_seconds() / 60)
    return (
        f"The clock of this computer stands {ahead} before the last entry. Set it before you log "
        "anything more: times and timers would be wrong. Nothing that is there is changed."
    )
