"""The one typed line: what it is understood to say."""

from candor.core.jot.line import JotContext, understand
from candor.core.jot.meaning import (
    ChangeJot,
    CheckJot,
    ConditionJot,
    DetailJot,
    FindingJot,
    Jot,
    NoteJot,
    ReadingJot,
)

__all__ = [
    "ChangeJot",
    "CheckJot",
    "ConditionJot",
    "DetailJot",
    "FindingJot",
    "Jot",
    "JotContext",
    "NoteJot",
    "ReadingJot",
    "understand",
]
