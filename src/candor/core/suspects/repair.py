"""What comes of putting the likeliest right: the worst error before and after, and what a part needs across it or in series."""

from __future__ import annotations

import math
from collections.abc import Mapping

from candor.core.combine.trims import Trim, trim
from candor.core.late_dataclass import dataclass
from candor.core.suspects.observed import Floats
from candor.core.worded import worded

SERVES = 0.25  # of a limit: how near the part must come so that no point moves more
WIDEST = 0.2  # share of a part's value: no window is wider


@dataclass(frozen=True)
class Repair:
    """What putting the likeliest right does.

    Attributes
    ----------
    before, after : float
        The worst error in limits, 1 being the limit: as read, and with what the likeliest makes taken off, its gains set again.
    ref : str
        A resistor that is off; empty where it is something else.
    value, wanted : float
        What it would be by the errors, and as drawn, ohm.
    added : Trim or None
        What brings it there; None where nothing can, or it is no part.
    """

    before: float
    after: float
    ref: str = ""
    value: float = 0.0
    wanted: float = 0.0
    added: Trim | None = None


def repair(read: Mapping[str, float], explained: Mapping[str, float]) -> Repair:
    """Return what is left where what the likeliest makes is taken off; both by point, in limits (share of the limit).

    Raises
    ------
    ValueError
        Where no point has a limit.
    """
    if not read:
        raise ValueError(worded("suspects.no_point_has_a_limit_what"))
    return Repair(max(map(abs, read.values())), max(abs(read[key] - explained.get(key, 0.0)) for key in read))


def trimmed(found: Repair, ref: str, drawn: float, amount: float, moves: Floats) -> Repair:
    """Return it with what brings a resistor from where it is, drawn times e^amount, back to as drawn, ohm (Kirchhoff's laws).

    `moves` are limits for each ln of its value, by point: what is put in may move no point by more than a quarter of its limit.
    """
    value = drawn * math.exp(amount)
    most = float(abs(moves).max()) if len(moves) else 0.0
    share = min(WIDEST, SERVES / most) if most else WIDEST
    added = trim(value, drawn, share, share, "resistor") if 0 < value < math.inf else None
    return Repair(found.before, found.after, ref=ref, value=value, wanted=drawn, added=added)
