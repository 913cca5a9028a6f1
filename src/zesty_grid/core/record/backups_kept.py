"""Which backups are kept as they grow older: many of the last days, fewer of the last years."""

from collections.abc import Callable, Sequence
from datetime import date, datetime, timedelta

ALL_FOR = timedelta(days=2)
DAYS, WEEKS, MONTHS = 14, 8, 24


def kept_backups(made: Sequence[datetime], now: datetime) -> list[datetime]:
    """Those of `made` to keep, oldest first: all of the last two days, then the newest of each of
    14 days, of 8 weeks, of 24 months and of each year. The newest of all is always kept."""
    newest_first = sorted(made, reverse=True)
    kept = {at for at in newest_first if now - at <= ALL_FOR}
    for period, most in ((_day, DAYS), (_week, WEEKS), (_month, MONTHS), (_year, len(made))):
        kept |= set(_newest_of_each(newest_first, period)[:most])
    return sorted(kept)


def _newest_of_each(newest_first: Sequence[datetime], period: Callable[[date], tuple[int, ...]]) -> list[datetime]:
    found: dict[tuple[int, ...], datetime] = {}
    for at in newest_first:
        found.setdefault(period(at.date()), at)
    return list(found.values())


def _day(day: date) -> tuple[int, ...]:
    return day.year, day.month, day.day


def _week(day: date) -> tuple[int, ...]:
    return day.isocalendar()[:2]


def _month(day: date) -> tuple[int, ...]:
    return day.year, day.month


def _year(day: date) -> tuple[int, ...]:
    return (day.year,)
