"""Limits of error in every form they are given, and where they let an error stand."""

from __future__ import annotations

import math
from typing import Literal

from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.quantities.show import scaled, trimmed
from candor.core.worded import worded

Combine = Literal["sum", "greater"]
# In what an error is judged: the value itself, the arc of the scale, the logarithm of a ratio.
JudgedIn = Literal["value", "arc", "log"]


@dataclass(frozen=True)
class Bounds:
    """Where an error may stand, both ends included, in one unit; one end is infinite where the limit is one-sided.

    Attributes
    ----------
    low, high : float
    scale : float
        What a one-sided limit is drawn in: the size of the limit itself.
    """

    low: float
    high: float
    scale: float = 0.0

    def __post_init__(self) -> None:
        if math.isnan(self.low) or math.isnan(self.high) or self.low > self.high:
            raise RangeError(
                worded("verdict.a_limit_from_to_cannot_be", low=self.low, high=self.high),
                value=f"{self.low:g} to {self.high:g}",
            )

    @property
    def one_sided(self) -> bool:
        """Whether only one end is a limit: at least, or at most."""
        return math.isinf(self.low) != math.isinf(self.high)

    @property
    def half(self) -> float:
        """Half the limit interval; infinite where it is one-sided."""
        return (self.high - self.low) / 2

    @property
    def middle(self) -> float:
        """The middle of the limit interval; of a one-sided one its end."""
        if self.one_sided:
            return self.high if math.isinf(self.low) else self.low
        return (self.low + self.high) / 2

    def room(self, error: float) -> float:
        """Return how far `error` stands inside the nearer end; below zero where it stands outside."""
        return min(error - self.low, self.high - error)

    def share(self, error: float) -> float:
        """Return where `error` stands between the ends, -1 being the lower and +1 the upper.

        A one-sided limit stands at -1 (at least) or +1 (at most), and what is inside is measured in the limit itself.
        Against a limit of nothing an error stands beyond the edge, at ±2, unless it is nothing itself.
        """
        if self.one_sided:
            inside = self.room(error) / (self.scale or 1.0)
            return 1 - inside if math.isinf(self.low) else inside - 1
        if self.half > 0:
            return (error - self.middle) / self.half
        return math.copysign(2.0, error - self.middle) if error != self.middle else 0.0

    def span(self, expanded: float) -> float:
        """Return an expanded uncertainty in the unit of `share`; 0 against a limit of nothing."""
        whole = (self.scale or 1.0) if self.one_sided else self.half
        return expanded / whole if whole > 0 else 0.0


def bounds_of(limit: Bounds | float) -> Bounds:
    """Return the bounds of a limit, in its unit; a number L stands for ±L.

    Raises
    ------
    RangeError
        Where L is below zero or no number.
    """
    if isinstance(limit, Bounds):
        return limit
    if not (limit >= 0 and math.isfinite(limit)):
        raise RangeError(worded("verdict.a_limit_of_cannot_be_held", limit=limit), value=str(limit))
    return Bounds(-limit, limit)


@dataclass(frozen=True)
class Limit:
    """A maximum permissible error, in one of the forms that makers state.

    Attributes
    ----------
    percent_of_full_scale, percent_of_reading : float
        Of the fiducial value (IEC 60051-1, from memory) and of what the instrument indicates or is set to.
    absolute : float
        SI.
    divisions : float
        In divisions of the scale or the screen, where it is read.
    combine : "sum" or "greater"
        Whether the four above add up, or the greatest of them holds.
    percent_of_arc, degrees_of_arc : float
        Of the length of the scale, or in degrees of it: judged along the arc. Both 0 where it is not stated so.
    decibels, factor : float
        Judged in the logarithm: ±1 dB is +12.2 and −10.9 %; a factor of 2 is from half to twice. 0 where it is not stated so.
    below : Limit or None
        The limit on the lower side, where it is another.
    at_least, at_most : float or None
        One-sided, or both: where the value itself may stand, SI; no error is judged then.
    """

    percent_of_full_scale: float = 0.0
    percent_of_reading: float = 0.0
    absolute: float = 0.0
    divisions: float = 0.0
    combine: Combine = "sum"
    percent_of_arc: float = 0.0
    degrees_of_arc: float = 0.0
    decibels: float = 0.0
    factor: float = 0.0
    below: Limit | None = None
    at_least: float | None = None
    at_most: float | None = None

    @property
    def given(self) -> bool:
        """Whether there is a limit at all: without one an error is known, and nothing is decided."""
        return (
            self.on_value
            or self.judged_in != "value"
            or max(self.percent_of_full_scale, self.percent_of_reading, self.absolute, self.divisions) > 0
            or (self.below is not None and self.below.given)
        )

    @property
    def on_value(self) -> bool:
        """Whether it limits the value itself: at least, at most, between."""
        return self.at_least is not None or self.at_most is not None

    @property
    def judged_in(self) -> JudgedIn:
        """In what the error is judged."""
        if self.percent_of_arc > 0 or self.degrees_of_arc > 0:
            return "arc"
        return "log" if self.decibels > 0 or self.factor > 0 else "value"

    @property
    def judged_unit(self) -> str:
        """The unit it is judged in; empty where it is that of the value."""
        if self.judged_in == "arc":
            return "°" if self.degrees_of_arc > 0 else "% of arc"
        return "dB" if self.judged_in == "log" else ""

    def at(self, value: float, full_scale: float, division: float = 0.0) -> float:
        """Return the limit L at `value`, in what it is judged in, zero or more; of an uneven one the upper.

        Parameters
        ----------
        value, full_scale : float
            SI.
        division : float
            What a division is worth at `value`, SI.

        Raises
        ------
        RangeError
            Where it comes out below zero.
        """
        if self.judged_in == "arc":
            return self.degrees_of_arc or self.percent_of_arc
        if self.judged_in == "log":
            return self.decibels or 20 * math.log10(self.factor)
        parts = (
            abs(full_scale) * self.percent_of_full_scale / 100,
            abs(value) * self.percent_of_reading / 100,
            self.absolute,
            self.divisions * division,
        )
        limit = max(parts) if self.combine == "greater" else sum(parts)
        if min(parts) < 0 or not math.isfinite(limit):
            raise RangeError(worded("verdict.a_limit_of_cannot_be_held", limit=limit), value=str(limit))
        return limit

    def bounds(self, value: float, full_scale: float, division: float = 0.0) -> Bounds:
        """Return where the error may stand, or, of a limit on the value, the value; see `at`."""
        if self.on_value:
            low = -math.inf if self.at_least is None else self.at_least
            high = math.inf if self.at_most is None else self.at_most
            return Bounds(low, high, abs(low if math.isinf(high) else high))
        upper = self.at(value, full_scale, division)
        lower = upper if self.below is None else self.below.at(value, full_scale, division)
        return Bounds(-lower, upper)


def say_bounds(bounds: Bounds, unit: str, digits: int = 3) -> str:
    """Say where something may stand: ``±0.9 V``, ``−1 to +2 V``, ``at least 60 V``."""
    factor, symbol = scaled(unit, bounds.low, bounds.high)
    if bounds.one_sided:
        word, end = ("at most", bounds.high) if math.isinf(bounds.low) else ("at least", bounds.low)
        return f"{word} {trimmed(end / factor, digits)} {symbol}".rstrip()
    low, high = trimmed(bounds.low / factor, digits), trimmed(bounds.high / factor, digits)
    if bounds.low == -bounds.high:
        return f"±{high} {symbol}".rstrip()
    sign = "+" if bounds.low < 0 < bounds.high else ""
    return worded("verdict.to", low=low, sign=sign, high=high, symbol=symbol).rstrip()
