"""Waits: begun, and when they end."""

from __future__ import annotations

import datetime as dt
from typing import Annotated, Literal

from pydantic import Field

from candor.core.late_dataclass import dataclass
from candor.notebook.entries.body import Body
from candor.notebook.entries.entry import Entry
from candor.notebook.entries.standing_entries import Standing


class TimerStarted(Body):
    """A wait began; it ends `seconds` after the entry's time."""

    kind: Literal["timer"] = "timer"
    step: str
    label: str
    seconds: Annotated[float, Field(gt=0)]


@dataclass(frozen=True)
class Timer:
    """A wait that was started."""

    entry: Entry[Body]
    step: str
    label: str
    ends: dt.datetime

    @property
    def is_run(self) -> bool:
        """Whether it is a run on the tester, which says itself when it is over, and how."""
        return not isinstance(self.entry.body, TimerStarted)

    def left(self, now: dt.datetime) -> float:
        """Return the seconds that are left, 0 where it is over."""
        return max((self.ends - now).total_seconds(), 0.0)


def timers_of(standing: Standing) -> tuple[Timer, ...]:
    """Return the waits that were started, in order."""
    return tuple(
        Timer(e, e.body.step, e.body.label, e.at + dt.timedelta(seconds=e.body.seconds))
        for e in standing.of(TimerStarted)
    )
