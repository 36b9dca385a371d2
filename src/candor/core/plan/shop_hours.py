"""Days and hours as they are typed: a promise, what is open when, what there is how many of."""

from __future__ import annotations

import datetime as dt
import itertools
import re
from collections.abc import Mapping

from candor.core.errors import ValueTextError
from candor.core.late_dataclass import dataclass
from candor.core.late_pattern import late_pattern
from candor.core.worded import worded

_MONTHS = ("jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec")
WEEK = ("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun")
DAY_PATTERN = (
    r"\d{4}-\d{2}-\d{2}|\d{1,2}(?:\.|st|nd|rd|th)?\s+[A-Za-z]{3,9}(?:\s+\d{4})?"
    r"|(?:mon|tues?|wed(?:nes)?|thu(?:rs)?|fri|sat(?:ur)?|sun)(?:day)?|today|tomorrow"
)
EXAMPLES = worded("plan.march_friday")
USUAL_HOURS = "Mon-Fri 9:00-12:30, 13:00-17:30"
USUAL_SHARED = "variable transformer 1"
FARTHEST = 550  # days: a day named without its year is the next one, and not one just gone


def read_day(text: str, today: dt.date) -> dt.date:
    """Return the day that is meant: by its date, the next such date or weekday otherwise.

    Raises
    ------
    ValueTextError
        Where it is none.
    """
    words = re.sub(r"^(\d{1,2})(?:st|nd|rd|th)\b", r"\1", " ".join(text.casefold().replace(".", " ").split()))
    try:
        if re.fullmatch(r"\d{4}-\d{2}-\d{2}", words):
            return dt.date.fromisoformat(words)
        if words in ("today", "tomorrow"):
            return today + dt.timedelta(days=words == "tomorrow")
        for place, name in enumerate(WEEK):
            if words[:3] == name.casefold() and re.fullmatch(DAY_PATTERN, words):
                return today + dt.timedelta(days=(place - today.weekday()) % 7 or 7)
        day, month, *year = words.split()
        named = _MONTHS.index(month[:3]) + 1
        if year:
            return dt.date(int(year[0]), named, int(day))
        found = dt.date(today.year, named, int(day))
        return found if found >= today - dt.timedelta(days=30) else dt.date(today.year + 1, named, int(day))
    except ValueError:
        raise ValueTextError(
            worded("plan.is_not_a_day_candor_can", text=text.strip(), examples=EXAMPLES), value=text, expected="a day"
        ) from None


@dataclass(frozen=True)
class Opening:
    """When the shop is open in a week: for each weekday, Monday first, from and to in minutes of the day."""

    days: tuple[tuple[tuple[int, int], ...], ...] = ((),) * 7

    @property
    def words(self) -> str:
        """As it is typed: days that are alike together."""
        said: list[tuple[str, str]] = []
        for name, spans in zip(WEEK, self.days, strict=True):
            hours = ", ".join(f"{_clock(a)}-{_clock(b)}" for a, b in spans)
            if said and said[-1][1] == hours:
                said[-1] = (f"{said[-1][0].split('-')[0]}-{name}", hours)
            elif hours:
                said.append((name, hours))
            else:
                said.append((name, ""))
        return "; ".join(f"{days} {hours}" for days, hours in said if hours)


def _clock(minute: int) -> str:
    return f"{minute // 60}:{minute % 60:02d}"


_SPAN = late_pattern(r"(\d{1,2})(?:[:.](\d{2}))?\s*(?:-|–|to)\s*(\d{1,2})(?:[:.](\d{2}))?")
_DAYS = late_pattern(r"\s*([a-z]{3})[a-z]*(?:\s*(?:-|–|to)\s*([a-z]{3})[a-z]*)?\s+(.+)", re.I)


def read_hours(text: str) -> Opening:
    """Return when the shop is open, as it is typed: ``Mon-Fri 9:00-12:30, 13:00-17:30; Sat 10-13``.

    Raises
    ------
    ValueTextError
        Where a part of it is neither days nor hours, where hours end before they begin or run into each other.
    """
    days: list[tuple[tuple[int, int], ...]] = [()] * 7
    names = [name.casefold() for name in WEEK]
    for part in filter(None, (x.strip() for x in text.split(";"))):
        found = _DAYS.fullmatch(part)
        first = found[1].casefold() if found else ""
        last = (found[2] or found[1]).casefold() if found else ""
        if found is None or first not in names or last not in names or names.index(last) < names.index(first):
            raise ValueTextError(
                worded("plan.candor_cannot_read_the_days_in", part=part, usual_hours=USUAL_HOURS), value=part
            )
        spans = tuple(_span(x, part) for x in found[3].split(","))
        if any(b > c for (_, b), (c, _) in itertools.pairwise(spans)):
            raise ValueTextError(
                worded("plan.the_hours_in_run_into_each", part=part, usual_hours=USUAL_HOURS), value=part
            )
        for place in range(names.index(first), names.index(last) + 1):
            days[place] = spans
    if not any(days):
        raise ValueTextError(
            worded("plan.opens_the_shop_on_no_day", text=text.strip(), usual_hours=USUAL_HOURS), value=text
        )
    return Opening(tuple(days))


def _span(text: str, part: str) -> tuple[int, int]:
    found = _SPAN.fullmatch(text.strip())
    if found is not None:
        begin, end = (60 * int(found[n]) + int(found[n + 1] or 0) for n in (1, 3))
        if begin < end <= 24 * 60 and int(found[2] or 0) < 60 and int(found[4] or 0) < 60:
            return begin, end
    raise ValueTextError(worded("plan.candor_cannot_read_the_hours_in", text=text.strip(), part=part), value=text)


def read_clock(text: str) -> int:
    """Return a time of the day, min from midnight: ``14:30``, ``at 9``.

    Raises
    ------
    ValueTextError
        Where it is none.
    """
    found = re.fullmatch(r"\s*(?:at\s+)?(\d{1,2})(?:[:.](\d{2}))?\s*", text)
    if found is None or int(found[1]) > 23 or int(found[2] or 0) > 59:
        raise ValueTextError(worded("plan.is_not_a_time_of_the", text=text.strip()), value=text)
    return 60 * int(found[1]) + int(found[2] or 0)


@dataclass(frozen=True)
class Shared:
    """What jobs share.

    Attributes
    ----------
    many : mapping of str to int
        How many there are of a thing that one job at a time can have.
    when : mapping of str to Opening
        When there is such a thing at all: dim light, a quiet line.
    """

    many: Mapping[str, int]
    when: Mapping[str, Opening]

    @property
    def words(self) -> str:
        """As it is typed."""
        counted = (f"{name} {many}" for name, many in self.many.items())
        timed = (
            f"{name} {days} {span}"
            for name, opening in self.when.items()
            for days, _, spans in (line.partition(" ") for line in opening.words.split("; "))
            for span in spans.split(", ")
        )
        return ", ".join((*counted, *timed))


_TIMED = late_pattern(
    r"(.+?)\s+((?:(?:mon|tue|wed|thu|fri|sat|sun)[a-z]*(?:\s*(?:-|–|to)\s*[a-z]+)?\s+)?\d[\d:.]*\s*(?:-|–|to)\s*\d[\d:.]*)",
    re.I,
)
EVERY_DAY = "Mon-Sun"


def read_shared(text: str) -> Shared:
    """Return what jobs share: ``variable transformer 1, leakage tester 2, dim light 16:00-18:00, quiet line Sat 9-12``.

    Raises
    ------
    ValueTextError
        Where one has no name, or neither a number nor hours.
    """
    many: dict[str, int] = {}
    when: dict[str, list[str]] = {}
    for part in filter(None, (x.strip() for x in text.split(","))):
        if timed := _TIMED.fullmatch(part):
            hours = timed[2] if timed[2][0].isalpha() else f"{EVERY_DAY} {timed[2]}"
            when.setdefault(timed[1].strip().casefold(), []).append(hours)
            continue
        name, _, count = part.rpartition(" ")
        if not name.strip() or not count.isdigit() or int(count) > 99:
            raise ValueTextError(
                worded("plan.does_not_say_what_there_is", part=part, usual_shared=USUAL_SHARED), value=part
            )
        many[name.strip().casefold()] = int(count)
    return Shared(many, {name: _together(hours) for name, hours in when.items()})


def _together(hours: list[str]) -> Opening:
    """Return the hours of several lines as one week. Raises ValueTextError where they are none."""
    weeks = [read_hours(line).days for line in hours]
    return Opening(tuple(tuple(sorted({span for week in weeks for span in week[day]})) for day in range(7)))


def open_from(opening: Opening, begin: dt.datetime, days: int) -> tuple[tuple[int, int], ...]:
    """Return the stretches in which the shop is open from a moment on, min from then, for so many days.

    `begin` is by the clock on the wall; a stretch that is going on then begins at 0.
    """
    midnight = begin.replace(hour=0, minute=0, second=0, microsecond=0, tzinfo=None)
    wall = begin.replace(tzinfo=None)
    spans = []
    for day in range(days):
        date = midnight + dt.timedelta(days=day)
        for a, b in opening.days[date.weekday()]:
            since, until = ((date + dt.timedelta(minutes=m) - wall).total_seconds() // 60 for m in (a, b))
            if until > 0:
                spans.append((int(max(since, 0)), int(until)))
    return tuple(spans)
