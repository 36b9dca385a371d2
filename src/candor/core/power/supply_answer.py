"""What a typed supply does, in sentences: rails, what each capacitor meets, the rectifier, and another rectifier instead."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

from candor.core.power.first_capacitor import FirstCapacitor, largest_first
from candor.core.power.supply_text import read_supply
from candor.core.power.swap import SwapAnswer, change_rectifier, line_control, say_swap
from candor.core.power.typed import TypedAnswer, TypedSupply, calculate_typed
from candor.core.quantities import engineering


@dataclass(frozen=True)
class SupplyReport:
    """The supply, its answer, the answer for another rectifier, and the first capacitor it bears; None where not asked for."""

    asked: TypedSupply
    answer: TypedAnswer
    swap: SwapAnswer | None = None
    first: FirstCapacitor | None = None

    @property
    def lines(self) -> tuple[str, ...]:
        """It in sentences, the worst first."""
        answer = self.answer
        over = [s for s in answer.stresses if s.is_over]
        unknown = [s.name for s in answer.stresses if not s.rated]
        lines = []
        if over:
            names, worst = " and ".join(s.name for s in over), max(s.peak_volts for s in over)
            rated = min(s.rated for s in over)
            lines.append(
                f"{names}: {worst:.0f} V before anything draws, at +10 % line, over {rated:.0f} V. Fit what bears it, "
                "or see to it that "
                "the load comes first."
            )
        lines.append(
            f"The rail: {engineering(answer.rail_volts, 'V', 4)}, ripple {engineering(answer.ripple_volts, 'V', 2)} p-p; "
            f"{engineering(answer.high_line_volts, 'V', 4)} at +10 % line."
        )
        lines.append(f"With nothing drawn, regulation and +10 % line included: {answer.no_load_volts:.0f} V.")
        if not over and not unknown:
            lines.append("Every capacitor bears that.")
        if unknown:
            lines.append(f"What {', '.join(unknown)} is rated for is not said.")
        lines.append(
            f"The rectifier passes peaks of {engineering(answer.peak_amperes, 'A', 2)}, "
            f"{engineering(answer.first_peak_amperes, 'A', 2)} at first."
        )
        lines += [_say_first(self.asked, self.first)] if self.first is not None else []
        if self.swap is not None and self.asked.line_control:
            control = line_control(self.swap.after_volts / self.swap.before_volts, 1 - self.asked.line_control)
            lines += [control.sentence] if self.swap.after_volts > self.swap.before_volts else []
        return (*lines, *answer.cold.warnings, *(say_swap(self.swap) if self.swap else ()))


def _say_first(asked: TypedSupply, first: FirstCapacitor) -> str:
    rated = engineering(asked.rated_peak_amperes, "A", 2)
    if not first.farad:
        return f"Even the smallest usual input capacitor draws peaks of {engineering(first.next_amperes, 'A', 2)}, above {rated}."
    largest, passes = engineering(first.farad, "F", 2), engineering(first.amperes, "A", 2)
    beyond = f"; the next size {engineering(first.next_amperes, 'A', 2)}" if first.next_amperes else ""
    return f"The first capacitor may be up to {largest}: peaks of {passes}, of {rated} allowed{beyond}."


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
