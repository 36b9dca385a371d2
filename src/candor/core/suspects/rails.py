"""A supply and what was measured of it, each typed in a line, and what explains the one by the other."""

from __future__ import annotations

from collections.abc import Callable

from candor.core.late_dataclass import dataclass
from candor.core.power.supply_read import read_measured
from candor.core.power.supply_text import read_supply
from candor.core.power.typed import TypedSupply
from candor.core.suspects.supply_backwards import SupplyWeighed, weigh_supply


@dataclass(frozen=True)
class Rails:
    """A supply as it was typed, and what explains what was measured of it; None where too little was."""

    asked: TypedSupply
    weighed: SupplyWeighed | None


def explain_rails(line: str, measured: str, hertz: float, should_stop: Callable[[], bool] = lambda: False) -> Rails:
    """Weigh a supply typed in a line by what was measured of it, V, typed in another; `hertz` is that of the mains, Hz.

    Raises
    ------
    ValueTextError
        Where a word of either cannot be read.
    RangeError, CancelledError
        As `weigh_supply`.
    """
    asked = read_supply(line, hertz)
    return Rails(asked, weigh_supply(asked, read_measured(measured, len(asked.sections)), should_stop))
