"""Commands of the shop's days: what was promised, what a job waits for, where a deed is put by hand."""

from __future__ import annotations

import datetime as dt

from candor.core.plan.shop_hours import read_day
from candor.notebook.entries.entry import Draft
from candor.notebook.entries.plan_entries import DeedPinned, Promised
from candor.sitting.command import Command, command
from candor.sitting.commands.stay_commands import status


def promise(day: str, today: dt.date) -> Command:
    """The owner was promised it for a day, as it is typed; an empty one takes the promise back.

    Raises
    ------
    ValueTextError
        Where it is no day.
    """
    on = read_day(day, today) if day.strip() else None
    return command(f"promised for {on:%d %b %Y}" if on else "no day is promised", Promised(on=on))


def wait_for(what: str, day: str, today: dt.date) -> Command:
    """The job waits for something, until a day where one is known; without anything it is to do again.

    Raises
    ------
    ValueTextError
        Where it is no day.
    """
    if not what.strip():
        return status("wants hands")
    return status("waiting", f"for {what.strip()}", read_day(day, today) if day.strip() else None)


def pin(job: str, deed: str, at: dt.datetime | None) -> Command:
    """A deed of a job is put at an hour by hand, or let go again."""
    body = DeedPinned(deed=deed, at=at)
    return Command(f"{deed} {'put at an hour' if at else 'planned freely'}", drafts=(Draft(job, body),))


COMMANDS = (promise, wait_for, pin)
