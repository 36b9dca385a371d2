"""A rectifier changed for another: three numbers, the resistor that mends the first, and what it does not mend."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import replace

from candor.core.late_dataclass import dataclass
from candor.core.power.supply import calculate_supply
from candor.core.power.typed import LINE_HIGH, TypedSupply

HEATER_RELIEF = (
    0.01,
    0.03,
)  # by which every winding rises when a rectifier's heater is gone: common practice, no source
WARM_UP_S = (
    10.0,
    30.0,
)  # for which tubes leave a rail without load when nothing delays it: common practice, no source
MARGIN = 2.0  # times its heat, for which a dropping resistor is chosen: common practice, no source


@dataclass(frozen=True)
class SwapAnswer:
    """What changes when a rectifier is changed.

    Attributes
    ----------
    before_volts, after_volts : float
        The rail, warm, nominal line: by the drop alone.
    relief_volts : (float, float)
        By how much more it rises where the old one's heater is gone: between one and three per cent.
    cold_volts : float
        What every capacitor meets for 10 to 30 s at +10 % line, where nothing delays the rail any more.
    dropper_ohms, dropper_watts : float
        After the first capacitor; brings the warm rail back; its heat; 0 where the rail did not rise, or there is but one.
    dropped_cold_volts, dropped_high_volts : float
        With the dropper: cold at +10 % line, where it drops nothing; warm at +10 % line.
    """

    before_volts: float
    after_volts: float
    relief_volts: tuple[float, float]
    cold_volts: float
    dropper_ohms: float
    dropper_watts: float
    dropped_cold_volts: float
    dropped_high_volts: float

    @property
    def chosen_watts(self) -> float:
        """The rating to choose for the dropper, W."""
        return MARGIN * self.dropper_watts


def change_rectifier(
    before: TypedSupply, after: TypedSupply, should_stop: Callable[[], bool] = lambda: False
) -> SwapAnswer:
    """Compare two supplies that differ by their rectifier; V, ohm, W: the dropper by Ohm's law.

    Raises
    ------
    RangeError, CancelledError
        As `calculate_supply`.
    """

    def rail(asked: TypedSupply, line: float = 1.0) -> float:
        return calculate_supply(asked.netlist(line, warm=True), should_stop=should_stop).nodes[asked.rail_node()].mean

    was, is_now = rail(before), rail(after)
    rise, amperes = is_now - was, after.load_amperes
    # With one capacitor there is no place after it: before it a resistor sees the pulses, and is another matter.
    has_place = len(after.sections) > 1
    ohms = rise / amperes if rise > 0 and amperes > 0 and has_place else 0.0
    dropped = replace(after, dropper_ohms=ohms)
    cold = replace(after, load_amperes=0.0)
    cold_volts = calculate_supply(cold.netlist(LINE_HIGH), should_stop=should_stop).nodes[cold.rail_node()].peak
    return SwapAnswer(
        before_volts=was,
        after_volts=is_now,
        relief_volts=(HEATER_RELIEF[0] * is_now, HEATER_RELIEF[1] * is_now),
        cold_volts=cold_volts,
        dropper_ohms=ohms,
        dropper_watts=amperes**2 * ohms,
        dropped_cold_volts=cold_volts,
        dropped_high_volts=rail(dropped, LINE_HIGH),
    )


_OLD = {
    "selenium": r"seleniums?",
    "mercury vapour": r"mercury(?:[ -]vapou?r)?",
    "vacuum": r"(?:vacuum|tube|valve|directly heated|indirectly heated)[ -]?rectifiers?|rectifier (?:tube|valve)s?|5[A-Z]\d+[A-Z]*",
}
_NEW = r"(?:silicon|solid[ -]?state|1N\d+|(?<!vacuum )diodes?|bridge)"
HEATERLESS = ("selenium",)


def swapped_rectifier(text: str) -> str:
    """Return what was replaced where a line says that silicon went in for it: selenium, mercury vapour or vacuum; else nothing."""
    if not re.search(_NEW, text, re.IGNORECASE):
        return ""
    for old, pattern in _OLD.items():
        for_it = rf"{_NEW}.*\b(?:for|in place of|instead of|replac\w*|in for)\b.*\b(?:{pattern})\b"
        by_it = rf"\b(?:{pattern})\b.*\b(?:by|with|to|for|->|→)\s.*{_NEW}"
        if re.search(for_it, text, re.IGNORECASE) or re.search(by_it, text, re.IGNORECASE):
            return old
    return ""


@dataclass(frozen=True)
class LineControl:
    """What a control of the line can take back, all as shares.

    Attributes
    ----------
    ratio, lowest : float
        By which it must go down, and how far it goes.
    is_enough : bool
    left : float
        By how much the rail stays too high; 0 where it is enough.
    heaters : float
        What the heaters then have.
    """

    ratio: float
    lowest: float
    is_enough: bool
    left: float
    heaters: float


def line_control(excess_ratio: float, lowest_ratio: float) -> LineControl:
    """Return whether a line control that goes down to `lowest_ratio` times nominal can take back a rail so many times too high (1).

    Everything goes down with it in proportion, the heaters too (common practice, no source).
    """
    ratio = 1 / excess_ratio
    enough = ratio >= lowest_ratio
    left = 0.0 if enough else excess_ratio * lowest_ratio - 1
    return LineControl(
        ratio=ratio, lowest=lowest_ratio, is_enough=enough, left=left, heaters=max(ratio, lowest_ratio)
    )
