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
FRICTION_LIMIT = 0.5  # of a division: half the difference of rising and falling; common practice, no source


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


@dataclass(frozen=True)
class NeedleMeans:
    """What several looks at one point come to, SI.

    Attributes
    ----------
    indicated, reference : float
        The mean of the two direction means where there are both, whatever their counts; else the mean of all. The
        reference corrected.
    rising, falling : float or None
        Mean error from below and from above; None where it was not read so.
    judged : float
        The error held against the limit: the worse of rising and falling, else the mean.
    counted : int
        How many readings `judged` is the mean of.
    left_aside : int
        Readings without a direction, where others have both: which side they came from is not known.
    """

    indicated: float
    reference: float
    rising: float | None
    falling: float | None
    judged: float
    counted: int
    left_aside: int = 0

    @property
    def friction(self) -> float | None:
        """Half the difference between falling and rising (IEC 60051-9, from memory); None from one side alone."""
        return None if self.rising is None or self.falling is None else abs(self.falling - self.rising) / 2


def needle_means(readings: tuple[NeedleReading, ...], correction: float = 0.0) -> NeedleMeans:
    """Return the means of the readings at one point, at least one, with what is to be added to the reference, SI.

    Rising and falling are both errors of the instrument: friction is not hidden in the uncertainty, the worse is judged.
    """
    up, down = (tuple(r for r in readings if r.direction == way) for way in ("up", "down"))
    rising, falling = (fmean(r.error for r in side) - correction if side else None for side in (up, down))
    if rising is None or falling is None:
        indicated = fmean(r.indicated for r in readings)
        reference = fmean(r.reference for r in readings) + correction
        error = fmean(r.error for r in readings) - correction
        return NeedleMeans(
            indicated=indicated,
            reference=reference,
            rising=rising,
            falling=falling,
            judged=error,
            counted=len(readings),
        )
    sides = (up, down)
    indicated = fmean(fmean(r.indicated for r in side) for side in sides)
    reference = fmean(fmean(r.reference for r in side) for side in sides) + correction
    judged, counted = max((rising, len(up)), (falling, len(down)), key=lambda pair: abs(pair[0]))
    return NeedleMeans(
        indicated=indicated,
        reference=reference,
        rising=rising,
        falling=falling,
        judged=judged,
        counted=counted,
        left_aside=len(readings) - len(up) - len(down),
    )


def needle_contributions(
    dial: DialRange, readings: tuple[NeedleReading, ...], friction_divisions: float | None = None
) -> list[Contribution]:
    """Return what reading the needle brings to the budget of the error, SI.

    Resolution by the division and the mirror, parallax without one, both rectangular, and the scatter of repeats as s/√n
    with the degrees of freedom left after a mean for each direction (JCGM 100:2008, 4.2). From one side alone the friction
    is not known: a rectangle of what was found on this movement in this state, else of half a division.

    Parameters
    ----------
    dial : DialRange
    readings : tuple of NeedleReading
        At least one.
    friction_divisions : float, optional
        The largest friction found on this movement in this state, in divisions.
    """
    means = needle_means(readings)
    division = dial.division_at(means.indicated)
    half = reading_half_width(dial.scale, means.indicated / dial.multiplier, dial.mirror) * dial.multiplier
    fraction = "a fifth" if dial.mirror else "a quarter"
    over = "over the mirror" if dial.mirror else "without a mirror"
    found = [
        rectangular(
            f"needle, {'⅕' if dial.mirror else '¼'} tick",
            half,
            f"Read to {fraction} of a {engineering(division, dial.unit)} division {over}, rectangular (JCGM 100, 4.3.7).",
            "needle",
        )
    ]
    if not dial.mirror and dial.parallax_divisions:
        width = dial.parallax_divisions * division
        found.append(
            rectangular("parallax", width, f"{dial.parallax_divisions:g} of a division without a mirror.", "needle")
        )
    if means.friction is None:
        found.append(_friction_not_known(division, friction_divisions))
    return found + _repeats(readings, means.counted)


def _friction_not_known(division: float, divisions: float | None) -> Contribution:
    if divisions is None:
        reason = "Read from one side alone, so friction is not known: half a division assumed (common practice, no source)."
        return rectangular("friction, assumed", FRICTION_LIMIT * division, reason, "friction")
    reason = (
        f"Read from one side alone; the largest friction found on this movement is {divisions:.2g} of a division."
    )
    return rectangular("friction, from other points", divisions * division, reason, "friction")


def _repeats(readings: tuple[NeedleReading, ...], counted: int) -> list[Contribution]:
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
    reason = f"Scatter of {len(readings)} readings over √{counted}, {dof} degrees of freedom (JCGM 100, 4.2)."
    return [
        Contribution(f"repeats ({counted})", scatter / math.sqrt(counted), dof=dof, reason=reason, kind="repeats")
    ]
