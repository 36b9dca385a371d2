"""What lines of the first sitting become: washing starts a timer, joints one change."""

from __future__ import annotations

import re

from candor.core.errors import CandorError
from candor.core.jot.meaning import (
    ArriveJot,
    CleaningJot,
    FunctionJot,
    InsulationJot,
    JointJot,
    MassJot,
    NotAsDrawnJot,
    ResolderJot,
    UnaccountedJot,
)
from candor.core.jot.rows.arrive_rows import HEAVY_KG, POUND_KG
from candor.core.quantities.show import trimmed
from candor.core.worded import worded
from candor.notebook.entries.body import Body
from candor.notebook.entries.cleaning_entries import DRYING, Cleaned, InsulationTested
from candor.notebook.entries.stay_entries import ChangeMade, DetailWritten
from candor.notebook.entries.timers_entries import TimerStarted
from candor.notebook.entries.unit_entries import FunctionFound, JointNoted, NotAsDrawn, Unaccounted
from candor.notebook.work.job import Job


def bodies_of(jot: ArriveJot, job: Job) -> tuple[Body, ...]:
    """Return the entries that a line of the first sitting becomes, written together.

    Raises
    ------
    CandorError
        Where joints are to be re-soldered and none was noted.
    """
    match jot:
        case FunctionJot():
            return (FunctionFound(function=jot.function, faded=jot.faded),)
        case NotAsDrawnJot():
            return (NotAsDrawn(text=jot.text),)
        case UnaccountedJot():
            return (Unaccounted(count=jot.count, what=jot.what),)
        case MassJot():
            return mass(jot.text)
        case CleaningJot():
            cleaned = Cleaned(what=jot.what, how=jot.how)
            if jot.how != "washed":
                return (cleaned,)
            return cleaned, TimerStarted(step=DRYING, label=f"{jot.what} {DRYING}", seconds=jot.dry_s)
        case InsulationJot():
            return (InsulationTested(ohms=jot.ohms, volts=jot.volts),)
        case JointJot():
            return (JointNoted(where=jot.where),)
        case ResolderJot():
            return (resoldered(job),)


def mass(text: str) -> tuple[Body, ...]:
    """Return what a mass becomes: a detail. It is said where somebody lifts it, and bars nothing."""
    return (DetailWritten(field="mass", text=text),)


def heavy_mass(job: Job) -> str:
    """Return the mass of what two people lift, as it was written; nothing where it is not heavy, or nobody weighed it."""
    found = re.match(r"\s*([\d.,]+)\s*(kg|kilos?|lbs?|pounds?)?", job.stay.details.get("mass", ""))
    if found is None:
        return ""
    kg = float(found[1].replace(",", ".")) * (1 if (found[2] or "kg").startswith("k") else POUND_KG)
    return job.stay.details["mass"] if kg > HEAVY_KG else ""


def resoldered(job: Job) -> ChangeMade:
    """Return the one change that re-solders every poor joint that was noted.

    Raises
    ------
    CandorError
        Where none is open.
    """
    joints = job.unit.joints
    if not joints:
        raise CandorError(worded("arrive.no_poor_joint_is_noted_write"))
    places = ", ".join(e.body.where for e in joints)
    return ChangeMade(text=f"re-soldered {len(joints)}: {places}", joints=tuple(e.id for e in joints))


def drying_words(job: Job) -> str:
    """Say what the cleaning asks for before power, or nothing."""
    washed, measured = job.cleaning.untested, job.cleaning.insulation
    if washed is None:
        return ""
    low = (
        worded("arrive.it_read_m_too_little", ohms=trimmed(measured.body.ohms / 1000000.0))
        if measured and measured.number > washed.number
        else ""
    )
    return worded("arrive.was_washed_once_dry_m_or", what=washed.body.what.capitalize(), low=low)
