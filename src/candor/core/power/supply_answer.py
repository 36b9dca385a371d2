"""What a typed supply does: rails, what each capacitor meets, the rectifier, and another rectifier instead."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from candor.core.late_dataclass import dataclass
from candor.core.power.first_capacitor import FirstCapacitor, largest_first
from candor.core.power.supply_text import read_supply
from candor.core.power.swap import LineControl, SwapAnswer, change_rectifier, line_control
from candor.core.power.typed import TypedAnswer, TypedSupply, calculate_typed


@dataclass(frozen=True)
class SupplyReport:
    """The supply, its answer, the answer for another rectifier, and the first capacitor it bears; None where not asked for."""

    asked: TypedSupply
    answer: TypedAnswer
    swap: SwapAnswer | None = None
    first: FirstCapacitor | None = None

    @property
    def control(self) -> LineControl | None:
        """What a control of the line can take back of what another rectifier adds; None where there is none, or nothing to take."""
        swap = self.swap
        if swap is None or not self.asked.line_control or swap.after_volts <= swap.before_volts:
            return None
        return line_control(swap.after_volts / swap.before_volts, 1 - self.asked.line_control)


def report_supply(
    line: str, instead: str, hertz: float, should_stop: Callable[[], bool] = lambda: False
) -> SupplyReport:
    """Calculate a supply typed in a line, and another rectifier instead where its words are given; mains of so many Hz.

    Raises
    ------
    ValueTextError
        Where a word cannot be read.
    RangeError, CancelledError
        As `calculate_supply`.
    """
    asked = read_supply(line, hertz)
    answer = calculate_typed(asked, should_stop)
    first = largest_first(asked, asked.rated_peak_amperes, should_stop) if asked.rated_peak_amperes else None
    if not instead.strip():
        return SupplyReport(asked, answer, first=first)
    other = read_supply(f"{line}, {instead}", hertz)
    return SupplyReport(asked, answer, change_rectifier(asked, replace(other, warm_s=0.0), should_stop), first)
