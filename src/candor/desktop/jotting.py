"""From a jot to entries of the job in hand."""

from __future__ import annotations

from candor.core.jot import ChangeJot, CheckJot, ConditionJot, DetailJot, FindingJot, Jot, NoteJot, ReadingJot
from candor.notebook.entries import (
    Body,
    ChangeMade,
    ChangeProven,
    ConditionNoted,
    DetailWritten,
    FindingNoted,
    NoteWritten,
)
from candor.notebook.job import Job


def body_of(jot: Jot, job: Job) -> Body | None:
    """Return the entry a jot becomes; None for a reading, which the hand takes.

    A check proves the newest change that is not proven yet; without one it is a note.
    """
    match jot:
        case FindingJot():
            return FindingNoted(zone=jot.zone, mark=jot.mark, text=jot.text)
        case ChangeJot():
            return ChangeMade(text=jot.text)
        case ConditionJot():
            return ConditionNoted(which=jot.which, value=jot.value)
        case DetailJot():
            return DetailWritten(field=jot.field, text=jot.text)
        case NoteJot():
            return NoteWritten(text=jot.text)
        case CheckJot():
            newest = job.unproven[-1:]
            return (
                ChangeProven(change=newest[0].id, check=jot.text)
                if newest
                else NoteWritten(text=f"checked {jot.text}")
            )
        case ReadingJot():
            return None
