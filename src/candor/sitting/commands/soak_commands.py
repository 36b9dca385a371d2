"""Commands of Soak: on and off, what was read, how steady it is, when it is due."""

from __future__ import annotations

import datetime as dt

from candor.core.jot.soak_meaning import SoakJot
from candor.notebook.entries.entry import Draft
from candor.notebook.entries.soak_entries import DueSet, SoakRead, StabilityFound, SwitchedOff, SwitchedOn
from candor.sitting.command import Command, command


def switch_on(attended: bool = True) -> Command:
    """It is switched on, to stay on."""
    return command("switched on", SwitchedOn(attended=attended))


def was_on_since(job: str, since: dt.datetime, attended: bool = True) -> Command:
    """It was switched on at a moment today, told afterwards: a fact."""
    return Command("switched on", drafts=(Draft(job, SwitchedOn(attended=attended), since),))


def switch_off() -> Command:
    """It is switched off."""
    return command("switched off", SwitchedOff())


def was_off_since(job: str, since: dt.datetime) -> Command:
    """It was switched off at a moment today, told afterwards: a fact."""
    return Command("switched off", drafts=(Draft(job, SwitchedOff(), since),))


def read_soak(jot: SoakJot, seconds: float | None = None) -> Command:
    """What is watched, as it was read: now, or so many s after it was switched on."""
    return command("soak read", SoakRead(value=jot.value, unit=jot.unit, what=jot.what, seconds=seconds))


def captured_soak(value: float, unit: str, what: str, link: str) -> Command:
    """The same by a link, by itself."""
    return Command("soak read", (SoakRead(value=value, unit=unit, what=what, link=link),), by_itself=True)


def keep_stability(found: StabilityFound) -> Command:
    """How steady something is."""
    return command("stability", found)


def set_due(on: dt.date, method: str, reason: str) -> Command:
    """The day it is due again."""
    return command(f"due {on:%d %b %Y}", DueSet.model_validate({"on": on, "method": method, "reason": reason}))


COMMANDS = (switch_on, was_on_since, switch_off, was_off_since, read_soak, captured_soak, keep_stability, set_due)
