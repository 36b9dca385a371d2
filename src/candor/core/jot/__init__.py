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
    LimitJot,
    NoteJot,
    PartJot,
    PriceJot,
    ReadingJot,
    ShopJot,
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
    "LimitJot",
    "NoteJot",
    "PartJot",
    "PriceJot",
    "ReadingJot",
    "ShopJot",
    "SpentJot",
    "possible_condition",
    "understand",
]
