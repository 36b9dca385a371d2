"""From a jot to entries of the job in hand."""

from __future__ import annotations

from candor.core.jot import (
    ChangeJot,
    CheckJot,
    ConditionJot,
    DecisionJot,
    DetailJot,
    FindingJot,
    Jot,
    NoteJot,
    PartJot,
    PriceJot,
    ReadingJot,
    SpentJot,
)
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
from candor.notebook.part_entries import PartDecided, PartMeasured, PriceAgreed, Spent


def body_of(jot: Jot, job: Job, text: str = "") -> Body | None:
    """Return the entry a jot becomes; None for a reading, which the hand takes.

    A check proves the newest change that is not proven yet; without one it is a note.
    """
    match jot:
        case FindingJot():
            return FindingNoted(zone=jot.zone, mark=jot.mark, text=jot.text)
        case ChangeJot():
            return ChangeMade(text=jot.text, part=jot.part)
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
        case PartJot():
            said = {"ref": jot.ref, "state": jot.state, "in_circuit": jot.in_circuit, "written": text}
            return PartMeasured.model_validate({**said, **jot.numbers})
        case DecisionJot():
            return PartDecided(ref=jot.ref, action=jot.action, reason=jot.reason)
        case SpentJot():
            return Spent(minutes=jot.minutes, money=jot.money, text=jot.text)
        case PriceJot():
            held = {"agreed": job.parts.agreed, "an_hour": job.parts.an_hour}
            return PriceAgreed.model_validate({**held, jot.which: jot.value})
        case ReadingJot():
            return None
