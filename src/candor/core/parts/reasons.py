"""What speaks for keeping or replacing a part: an action, what was found, whose limit it is, and what would change it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import field
from enum import StrEnum
from typing import Any, Literal

from candor.core.finding import Figure, Finding
from candor.core.late_dataclass import dataclass

Rank = Literal["good", "near good", "watch", "near bad", "bad"]


class Action(StrEnum):
    """What to do with a part, the most pressing first."""

    REPLACE = "replace"
    CANNOT_TELL = "cannot tell yet"
    WATCH = "watch"
    KEEP = "keep"


@dataclass(frozen=True)
class Reason:
    """One thing that speaks for an action; `candor.words.parts_words` says it.

    Attributes
    ----------
    action : Action
    found : str
        Which finding: the consequence, or where it stands to its limit.
    rule : str
        Which limit it is, and who set it.
    change : str
        What would change it.
    figures : mapping of str to float, str or Finding
        What all three rest on, in SI units.
    by_policy : bool
        No reading speaks for it: what is measured goes before.
    simulated : bool
        What was read of it was read on the simulated tester.
    """

    action: Action
    found: str
    rule: str
    change: str
    figures: Mapping[str, Figure] = field(default_factory=dict)
    by_policy: bool = False
    simulated: bool = False

    def as_fields(self) -> dict[str, Any]:
        """Return it as plain fields, for JSON."""
        fields = Finding(self.found, self.figures).as_fields()
        return {"action": str(self.action), **fields, "rule": self.rule, "change": self.change}


def rank(value: float, good: float, bad: float, share: float) -> Rank:
    """Say where a value lies among two limits: at or under `good`, between, over `bad`, or so near one that U decides nothing.

    All in one unit; `share` is U as a share of the value."""
    if (over := compare(value, bad, share)) >= 0:
        return "bad" if over > 0 else "near bad"
    over = compare(value, good, share)
    return ("good", "near good", "watch")[over + 1]


def compare(value: float, limit: float, share: float) -> int:
    """Return 1 where a value is surely above a limit, -1 where surely not, 0 where U (a share of it) decides neither
    (JCGM 106:2012, 8.3.2: a guard band of U both ways)."""
    if value * (1 - share) > limit:
        return 1
    return -1 if value * (1 + share) <= limit else 0
