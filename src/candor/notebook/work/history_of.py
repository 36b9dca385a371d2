"""An instrument's history across its jobs, and what the shop has learnt to look for."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterable

from candor.core.errors import CandorError
from candor.core.late_dataclass import dataclass
from candor.core.quantities import parse_date
from candor.core.worded import worded
from candor.notebook.work.job import Job


@dataclass(frozen=True, order=True)
class HistoryLine:
    """One line of an instrument's history, traced to an entry."""

    day: dt.date
    words: str
    entry: int


def history(jobs: Iterable[Job]) -> tuple[HistoryLine, ...]:
    """Return what is known of an instrument from all its jobs, the oldest line first.

    An old calibration sticker that begins with a date opens it; then what each job signed off.
    """
    lines = set()
    for job in jobs:
        sticker = job.stay.details.get("sticker", "")
        if sticker:
            day, words = read_sticker(sticker, dt.date.max)
            lines.add(HistoryLine(day, f"sticker: {words or 'last checked'}", job.stay.told_by["sticker"]))
        for entry in job.release.certificates:
            lines.add(
                HistoryLine(entry.at.date(), f"certificate {entry.body.number}: {entry.body.sentence}", entry.number)
            )
    return tuple(sorted(lines))


def read_sticker(text: str, today: dt.date) -> tuple[dt.date, str]:
    """Read an old calibration sticker: a date, then words.

    Raises
    ------
    CandorError
        Where it does not begin with a date on or before `today`.
    """
    first, _, rest = text.strip().partition(" ")
    day = parse_date(first, today, "the sticker's date")
    return day, rest.strip(" ,:")


def check_detail(field: str, text: str, today: dt.date) -> None:
    """Refuse a detail that cannot be, with a sentence; most may be anything.

    Raises
    ------
    CandorError
        For a sticker without a date, or with one in the future.
    """
    if field == "sticker" and text:
        try:
            read_sticker(text, today)
        except CandorError as error:
            raise CandorError(worded("work.the_sticker_begins_with_its_date", error=error), value=text) from None
