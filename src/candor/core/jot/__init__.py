"""The one typed line: what it is understood to say."""

from candor.core.jot.context import JotContext
from candor.core.jot.line import understand
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
    PointsJot,
    PriceJot,
    RangeJot,
    ReadingJot,
    ShopJot,
    SpentJot,
)
from candor.core.jot.rows.calibrate_rows import possible_condition

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
    "PointsJot",
    "PriceJot",
    "RangeJot",
    "ReadingJot",
    "ShopJot",
    "SpentJot",
    "possible_condition",
    "understand",
]
