"""What an instrument is read on where it is not a needle over a scale: a knob, a screen, digits, a list of outcomes."""

from __future__ import annotations

import math
from typing import Literal, Protocol

from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.quantities import engineering
from candor.core.worded import worded


class Indicator(Protocol):
    """What every kind of reading needs of the thing it is read on; values SI."""

    @property
    def unit(self) -> str:
        """The SI unit of what it shows."""

    def check(self, value: float) -> float:
        """Return `value` where it can be shown, or raise RangeError."""

    def division_at(self, value: float) -> float:
        """Return what a division is worth at `value`; 0 where there is none."""

    def arc_division_at(self, value: float) -> float:
        """Return the division at `value` as a share of the arc, 0 to 1; 0 where there is no arc."""

    def arc_of(self, value: float) -> float:
        """Return where `value` stands along the arc, 0 to 1; RangeError where there is no arc."""

    def ticks_from(self, mark: float, ticks: float) -> float:
        """Return the value so many ticks above `mark`."""

    def ticks_between(self, mark: float, value: float) -> float:
        """Return how many ticks `value` stands above `mark`."""

    def value_at_arc(self, share: float) -> float:
        """Return the value that stands at a share of the arc; RangeError where there is no arc."""

    @property
    def span_degrees(self) -> float:
        """The whole arc, degrees."""

    @property
    def is_open(self) -> bool:
        """Whether it ends in infinity."""

    def mark_near(self, value: float) -> float:
        """Return the printed mark nearest to `value`; no number where there are none."""

    def middle(self, low: float, high: float) -> float:
        """Return the middle of two settings, along the arc where there is one."""

    def end_near(self, value: float, share: float) -> str:
        """Return which end of the arc, "left" or "right", is within `share` of it; empty where none is."""


class WithoutArc:
    """What an indicator without an arc says of one."""

    span_degrees = 0.0
    is_open = False

    def arc_division_at(self, value: float) -> float:
        """There is no arc: raise RangeError."""
        return self.arc_of(value)

    def arc_of(self, value: float) -> float:
        """There is no arc: raise RangeError."""
        raise RangeError(
            worded("reading.what_has_no_arc_cannot_be"),
            value=str(value),
            place=type(self).__name__,
        )

    def value_at_arc(self, share: float) -> float:
        """There is no arc: raise RangeError."""
        return self.arc_of(share)

    def mark_near(self, value: float) -> float:
        """There are no marks."""
        return math.nan

    def middle(self, low: float, high: float) -> float:
        """Return the mean."""
        return (low + high) / 2

    def end_near(self, value: float, share: float) -> str:
        """There is no end to be near."""
        return ""


@dataclass(frozen=True)
class Knob(WithoutArc):
    """A control that is set: switched to steps, or turned over divisions.

    Attributes
    ----------
    unit : str
    division : float
        What a division is worth, SI; 0 where it is switched.
    steps : tuple of float
        The settings there are, SI, rising; empty where any can be set.
    """

    unit: str
    division: float = 0.0
    steps: tuple[float, ...] = ()

    def check(self, value: float) -> float:
        """Return a setting where it is one of the steps, or any where there are none; else raise RangeError."""
        if not math.isfinite(value):
            raise RangeError(worded("reading.a_setting_that_is_infinite_cannot"), value=str(value))
        if self.steps and not any(math.isclose(value, step, rel_tol=1e-6, abs_tol=1e-15) for step in self.steps):
            near = ", ".join(
                engineering(step, self.unit) for step in sorted(self.steps, key=lambda s: abs(s - value))[:3]
            )
            raise RangeError(
                worded("reading.is_not_one_of_its_settings", value=engineering(value, self.unit), near=near),
                value=str(value),
                expected=near,
            )
        return value

    def division_at(self, value: float) -> float:
        """Return what a division is worth, SI."""
        return self.division

    def ticks_from(self, mark: float, ticks: float) -> float:
        """Return the next step, or so many divisions on; a hundredth of the value where it has neither."""
        if self.steps:
            nearest = min(range(len(self.steps)), key=lambda i: abs(self.steps[i] - mark))
            return self.steps[min(max(nearest + (1 if ticks > 0 else -1), 0), len(self.steps) - 1)]
        return mark + ticks * (self.division or abs(mark) / 100)

    def ticks_between(self, mark: float, value: float) -> float:
        """Return the difference in divisions, or in hundredths of the mark."""
        size = self.division or abs(mark) / 100
        return (value - mark) / size if size else 0.0


@dataclass(frozen=True)
class Graticule(WithoutArc):
    """The screen of an oscilloscope along one axis.

    Attributes
    ----------
    unit : str
    per_division : float
        Value of a division, SI.
    divisions : int
        Along this axis.
    edge_divisions : float
        Half-width of an edge against a line, in divisions: the trace's width, 0.05 to 0.1 (common practice, no source).
    axis : "vertical" or "horizontal"
    """

    unit: str
    per_division: float
    divisions: int = 8
    edge_divisions: float = 0.1
    axis: Literal["vertical", "horizontal"] = "vertical"

    def check(self, value: float) -> float:
        """Return a value that fits on the screen, or raise RangeError."""
        most = self.divisions * self.per_division * 1.001
        if not abs(value) <= most:
            raise RangeError(
                worded(
                    "reading.is_divisions_the_screen_has",
                    value=engineering(value, self.unit),
                    value_2=abs(value) / self.per_division,
                    divisions=self.divisions,
                ),
                value=str(value),
                expected=worded("reading.at_most_div", divisions=self.divisions),
            )
        return value

    def division_at(self, value: float) -> float:
        """Return what a division is worth, SI."""
        return self.per_division

    def arc_division_at(self, value: float) -> float:
        """Return a division as a share of the screen."""
        return 1 / self.divisions

    def arc_of(self, value: float) -> float:
        """Return `value` as a share of the screen."""
        return value / (self.per_division * self.divisions)

    def value_at_arc(self, share: float) -> float:
        """Return the value of a share of the screen."""
        return share * self.per_division * self.divisions

    def ticks_from(self, mark: float, ticks: float) -> float:
        """Return the value so many subdivisions, a fifth of a division each, above `mark`."""
        return mark + ticks * self.per_division / 5

    def ticks_between(self, mark: float, value: float) -> float:
        """Return the difference in subdivisions."""
        return (value - mark) * 5 / self.per_division


@dataclass(frozen=True)
class Digits(WithoutArc):
    """A figure that is counted, timed or read off another meter: no scale, a resolution.

    Attributes
    ----------
    unit : str
    resolution : float
        What its last digit, or the care it is noted with, is worth, SI; 0 where it is exact.
    """

    unit: str
    resolution: float = 0.0

    def check(self, value: float) -> float:
        """Return a number that is finite, or raise RangeError."""
        if not math.isfinite(value):
            raise RangeError(worded("reading.an_infinite_value_cannot_be_read"), value=str(value))
        return value

    def division_at(self, value: float) -> float:
        """Return the resolution, SI."""
        return self.resolution

    def ticks_from(self, mark: float, ticks: float) -> float:
        """Return so many of the last digit above `mark`, or hundredths where it has none."""
        return mark + ticks * (self.resolution or abs(mark) / 100)

    def ticks_between(self, mark: float, value: float) -> float:
        """Return the difference in last digits, or in hundredths of the mark."""
        size = self.resolution or abs(mark) / 100
        return (value - mark) / size if size else 0.0


@dataclass(frozen=True)
class Outcomes(WithoutArc):
    """What a look can find, each a word with what it means.

    Attributes
    ----------
    passes, fails : tuple of str
        In the order they are offered.
    criterion : str
        By what it is judged.
    """

    passes: tuple[str, ...]
    fails: tuple[str, ...] = ()
    criterion: str = ""
    unit: str = "1"

    @property
    def words(self) -> tuple[str, ...]:
        """Every outcome."""
        return (*self.passes, *self.fails)

    def check(self, value: float) -> float:
        """Return the place of an outcome, or raise RangeError."""
        if not 0 <= value < len(self.words):
            raise RangeError(
                worded("reading.there_is_no_outcome_expected", value=value, listed=", ".join(self.words)),
                value=str(value),
            )
        return value

    def division_at(self, value: float) -> float:
        """A look has no divisions."""
        return 0.0

    def ticks_from(self, mark: float, ticks: float) -> float:
        """Return the place of the next outcome, or the one before."""
        return float(min(max(int(mark) + (1 if ticks > 0 else -1), 0), len(self.words) - 1))

    def ticks_between(self, mark: float, value: float) -> float:
        """Return how many outcomes lie between."""
        return value - mark
