"""From a jot to entries of the job in hand."""

from __future__ import annotations

from candor.core.jot import ChangeJot, ConditionJot, DetailJot, FindingJot, Jot, NoteJot, ReadingJot
from candor.notebook.entries import Body, ChangeMade, ConditionNoted, DetailWritten, FindingNoted, NoteWritten


def body_of(jot: Jot) -> Body | None:
    """Return the entry a jot becomes; None for a reading, which the hand takes."""
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
        case ReadingJot():
            return None
