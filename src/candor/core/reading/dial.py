"""A range as it is read on a dial, and what reading a needle contributes to a budget."""

from __future__ import annotations

import math
from dataclasses import dataclass
from statistics import fmean
from typing import Literal

from candor.core.errors import RangeError
from candor.core.quantities import engineering
from candor.core.reading.scale import Scale, read_ticks, reading_half_width
from candor.core.uncertainty.budget import Contribution, rectangular

Direction = Literal["up", "down", ""]


@dataclass(frozen=True)
class DialRange:
    """How one range stands on the dial.

    Attributes
    ----------
    scale : Scale
        The arc it is read on.
    multiplier : float
        Value = scale number x multiplier, in SI units.
    unit : str
    mirror : bool
        Whether the dial has a mirror to read straight over.
    parallax_divisions : float
        Half-width of the parallax of a dial without mirror, in divisions.
    low_stop, high_stop : float
        Deflections, 0 to 1 being the arc, where the needle can go no further.
    """

    scale: Scale
    multiplier: float
    unit: str
    mirror: bool = False
    parallax_divisions: float = 0.1
    low_stop: float = -0.04
    high_stop: float = 1.06

    def value_at_deflection(self, deflection: float) -> float:
        """Return the value, SI, under a needle at `deflection`."""
        return self.scale.value_at_deflection(deflection) * self.multiplier

    def deflection_of(self, value: float) -> float:
        """Return the deflection at which the needle shows `value`, SI."""
        return self.scale.deflection_of(value / self.multiplier)

    def ticks_from(self, mark: float, ticks: float) -> float:
        """Return the value `ticks` ticks above the tick at `mark`; both values SI."""
        return read_ticks(self.scale, mark / self.multiplier, ticks) * self.multiplier

    def ticks_between(self, mark: float, value: float) -> float:
        """Return how many ticks `value` stands above `mark`; both SI."""
        return self.scale.tick_of(value / self.multiplier) - self.scale.tick_of(mark / self.multiplier)

    def division_at(self, value: float) -> float:
        """Return the width of the division at `value`, SI."""
        return self.scale.division_at(value / self.multiplier) * self.multiplier

    def check(self, value: float) -> float:
        """Return `value` where a needle can show it.

        Raises
        ------
        RangeError
            Where it lies past a stop.
        """
        low, high = (self.value_at_deflection(stop) for stop in (self.low_stop, self.high_stop))
        slack = 1e-9 * abs(high)
        if not low - slack <= value <= high + slack:
            raise RangeError(
                f"{engineering(value, self.unit)} is past the stop: on this range the needle can stand from "
                f"{engineering(low, self.unit)} to {engineering(high, self.unit)}. Is it another range?",
                value=str(value),
                expected=f"{low:g} to {high:g} {self.unit}",
            )
        return value


@dataclass(frozen=True)
class NeedleReading:
    """One look at the needle.

    Attributes
    ----------
    indicated : float
        What it showed, SI.
    reference : float
        What the reference showed at the same time, SI.
    direction : "up", "down" or ""
        Whether the needle came from below, from above, or it was not noted.
    entry : int
        The number of the notebook's entry, so that every figure can be traced to it.
    """

    indicated: float
    reference: float
    direction: Direction = ""
    entry: int = 0

    @property
    def error(self) -> float:
        """Error of indication: indicated minus reference (JCGM 200:2012, 4.20)."""
        return self.indicated - self.reference


def needle_contributions(dial: DialRange, readings: tuple[NeedleReading, ...]) -> list[Contribution]:
    """Return what reading the needle brings to the budget of the mean error, SI.

    Resolution by the division and the mirror, parallax without one, friction as half the difference
    between readings from below and from above (all rectangular), and the scatter of repeats as s/sqrt(n)
    with the degrees of freedom left after a mean for each direction (JCGM 100:2008, 4.2).
    """
    value = fmean(r.indicated for r in readings)
    number = value / dial.multiplier
    half = reading_half_width(dial.scale, number, dial.mirror) * dial.multiplier
    fraction = "a fifth" if dial.mirror else "a quarter"
    over = "over the mirror" if dial.mirror else "without a mirror"
    division = engineering(dial.division_at(value), dial.unit)
    found = [
        rectangular(
            f"needle, {'⅕' if dial.mirror else '¼'} tick",
            half,
            f"Read to {fraction} of a {division} division {over}, rectangular (JCGM 100, 4.3.7).",
            "needle",
        )
    ]
    if not dial.mirror and dial.parallax_divisions:
        width = dial.parallax_divisions * dial.division_at(value)
        found.append(
            rectangular("parallax", width, f"{dial.parallax_divisions:g} of a division without a mirror.", "needle")
        )
    return found + _friction(readings) + _repeats(readings)


def _friction(readings: tuple[NeedleReading, ...]) -> list[Contribution]:
    up = [r.error for r in readings if r.direction == "up"]
    down = [r.error for r in readings if r.direction == "down"]
    if not up or not down:
        return []
    half = abs(fmean(up) - fmean(down)) / 2
    return [rectangular("friction", half, "Half the difference between from below and from above.", "friction")]


def _repeats(readings: tuple[NeedleReading, ...]) -> list[Contribution]:
    squares, dof = 0.0, 0
    for direction in ("up", "down", ""):
        errors = [r.error for r in readings if r.direction == direction]
        if len(errors) > 1:
            mean = fmean(errors)
            squares += sum((e - mean) ** 2 for e in errors)
            dof += len(errors) - 1
    if not dof:
        return []
    scatter = math.sqrt(squares / dof)
    reason = f"Scatter of {len(readings)} readings over √{len(readings)}, {dof} degrees of freedom (JCGM 100, 4.2)."
    name = f"repeats ({len(readings)})"
    return [Contribution(name, scatter / math.sqrt(len(readings)), dof=dof, reason=reason, kind="repeats")]
