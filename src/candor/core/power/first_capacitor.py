"""The first capacitor a rectifier tube bears: the larger it is, the shorter and higher the pulses that charge it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from candor.core.late_dataclass import dataclass
from candor.core.power.supply import calculate_supply
from candor.core.power.typed import TypedSupply

TRIED_FARAD = tuple(v * 1e-6 for v in (4.7, 6.8, 10, 15, 22, 33, 47, 68, 100, 150, 220))  # E6 of IEC 60063


@dataclass(frozen=True)
class FirstCapacitor:
    """The largest usual value whose pulses stay within the rating, F, 0 where none does; the pulses there and at the next, A."""

    farad: float
    amperes: float
    next_amperes: float


def largest_first(
    asked: TypedSupply, rated_peak_amperes: float, should_stop: Callable[[], bool] = lambda: False
) -> FirstCapacitor:
    """Return the largest usual first capacitor, F, that keeps the rectifier's steady pulses within its rated peak, A.

    Raises
    ------
    RangeError, CancelledError
        As `calculate_supply`.
    """

    def pulses(farad: float) -> float:
        sections = (replace(asked.sections[0], farad=farad), *asked.sections[1:])
        answer = calculate_supply(replace(asked, sections=sections).netlist(warm=True), should_stop=should_stop)
        return max(steady for steady, _ in answer.rectifier_peaks.values())

    low, high = -1, len(TRIED_FARAD)
    known: dict[int, float] = {}
    while high - low > 1:  # the pulses grow with the capacitor
        middle = (low + high) // 2
        known[middle] = pulses(TRIED_FARAD[middle])
        low, high = (middle, high) if known[middle] <= rated_peak_amperes else (low, middle)
    return FirstCapacitor(
        TRIED_FARAD[low] if low >= 0 else 0.0, known[low] if low >= 0 else 0.0, known.get(high, 0.0)
    )
