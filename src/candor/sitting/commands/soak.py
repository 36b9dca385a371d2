"""Commands of Soak: on and off, what was read, how steady it is, when it is due."""

from __future__ import annotations

import datetime as dt

from candor.core.jot.soak_line import SoakJot
from candor.notebook.entries.soak import DueSet, SoakRead, StabilityFound, SwitchedOff, SwitchedOn
from candor.sitting.command import Command, command


def switch_on(attended: bool = True) -> Command:
    """It is switched on, to stay on."""
    return command("switched on", SwitchedOn(attended=attended))


def switch_off() -> Command:
    """It is switched off."""
    return command("switched off", SwitchedOff())


def read_soak(jot: SoakJot) -> Command:
    """What is watched, as it was read."""
    return command("soak read", SoakRead(value=jot.value, unit=jot.unit, what=jot.what))


def captured_soak(value: float, unit: str, what: str, link: str) -> Command:
    """The same by a link, by itself."""
    return Command("soak read", (SoakRead(value=value, unit=unit, what=what, link=link),), by_itself=True)


def keep_stability(found: StabilityFound) -> Command:
    """How steady something is."""
    return command("stability", found)


def set_due(on: dt.date, method: str, reason: str) -> Command:
    """The day it is due again."""
    return command(f"due {on:%d %b %Y}", DueSet.model_validate({"on": on, "method": method, "reason": reason}))


COMMANDS = (switch_on, switch_off, read_soak, captured_soak, keep_stability, set_due)
