"""Where an adjuster stood and how far it was turned: `stood 3 o'clock`, `turned +1/8`, `stood mid turned -1/4 turn`."""

from __future__ import annotations

import re

from candor.core.errors import RangeError
from candor.core.jot.meaning import AdjusterJot
from candor.core.late_pattern import late_pattern
from candor.core.quantities import parse_number
from candor.core.quantities.show import trimmed
from candor.core.worded import worded

MOST_TURNS = 40.0  # of any trimmer there is: common practice, no source
_POSITION = late_pattern(
    r"\d|\b(?:mid\w*|cent(?:re|er)\w*|ends?|stops?|max\w*|min\w*|left|right|full\w*|half\w*|quarter|third|noon|up|down|top|bottom"
    r"|horizontal\w*|vertical\w*|(?:anti-?|counter-?)?clockwise)\b",
    re.I,
)
_NO_POSITION = late_pattern(r"\b(?:years?|months?|weeks?|days?|hours?|upside|box|cellar|attic|shed|shelf)\b", re.I)
_LINE = late_pattern(
    r"(?:stood\s+(?:at\s+)?(?P<stood>.+?))?(?:(?:^|\s+)turned\s+(?P<turns>.+?)(?:\s+turns?)?)?", re.I
)


def understand_adjuster(text: str) -> AdjusterJot | None:
    """Say what a line about an adjuster means, None where it is about none.

    Raises
    ------
    ValueTextError, RangeError
        Where the turns are no number, or more than any trimmer has.
    """
    match = _LINE.fullmatch(text.strip())
    if match is None or not (match["stood"] or match["turns"]):
        return None
    if match["stood"] and (not _POSITION.search(match["stood"]) or _NO_POSITION.search(match["stood"])):
        return None
    stood, turns = match["stood"] or "", parse_turns(match["turns"]) if match["turns"] else None
    chips = ((f"stood {stood}",) if stood else ()) + ((say_turns(turns),) if turns is not None else ())
    return AdjusterJot(stood=stood, turns=turns, chips=chips)


def parse_turns(text: str) -> float:
    """Return the number of turns, + clockwise, of a line such as ``+1/8``.

    Raises
    ------
    ValueTextError, RangeError
        Where it is not a number, or more than any trimmer has.
    """
    turns = parse_number(text.strip().removesuffix("s").removesuffix("turn").strip(), "turns such as +1/8")
    if abs(turns) > MOST_TURNS:
        raise RangeError(
            worded("jot.turns_at_most_were_expected", turns=trimmed(turns), most_turns=MOST_TURNS),
            value=trimmed(turns),
        )
    return turns


def say_turns(turns: float) -> str:
    """Say the number of turns and which way: ``turned 0.125 clockwise``."""
    way = " clockwise" if turns > 0 else " anticlockwise" if turns < 0 else ""
    return f"turned {trimmed(abs(turns), 4)}{way}"
