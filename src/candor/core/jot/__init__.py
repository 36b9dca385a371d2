"""The one typed line: what it is understood to say."""

from candor.core.jot.line import JotContext, possible_condition, understand
from candor.core.jot.meaning import (
    ChangeJot,
    CheckJot,
    ConditionJot,
    DeadJot,
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

__all__ = [
    "ChangeJot",
    "CheckJot",
    "ConditionJot",
    "DeadJot",
    "DecisionJot",
    "DetailJot",
    "FindingJot",
    "Jot",
    "JotContext",
    "NoteJot",
    "PartJot",
    "PriceJot",
    "ReadingJot",
    "SpentJot",
    "possible_condition",
    "understand",
]
