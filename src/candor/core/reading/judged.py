"""In what an error is judged: the value itself, the arc of the scale, or the logarithm of a ratio."""

from __future__ import annotations

import math

from candor.core.calibration.point import TestPoint
from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.quantities import engineering
from candor.core.reading.means import Means, means_of
from candor.core.reading.reading import Reading
from candor.core.verdict.limits import JudgedIn
from candor.core.worded import worded

_DB = 20 / math.log(10)
NOTHING = 1e-100  # SI: a value that small is none, and a ratio to it would not be finite


@dataclass(frozen=True)
class Judged:
    """Where a value stands in what its error is judged in: error = place(indicated) - place(reference).

    Attributes
    ----------
    point : TestPoint
    """

    point: TestPoint

    @property
    def unit(self) -> str:
        """The unit of the error."""
        return self.point.judged_unit

    @property
    def _arc(self) -> float:
        """The whole arc in the unit of the error."""
        if self.point.limit.degrees_of_arc > 0:
            return self.point.indicator.span_degrees
        return 100.0

    @property
    def _form(self) -> JudgedIn:
        """A value in decibels is a logarithm already: its error is a difference."""
        form = self.point.limit.judged_in
        return "value" if form == "log" and self.point.unit == "dB" else form

    def place(self, value: float) -> float:
        """Return the place of a value, SI, in the unit of the error.

        Raises
        ------
        RangeError
            Where a ratio is judged and the value is not above zero, or there is no arc.
        """
        form = self._form
        if form == "arc":
            return self._arc * self.point.indicator.arc_of(value)
        if form == "log":
            return _DB * math.log(self._above_zero(value))
        return value

    def _above_zero(self, value: float) -> float:
        if not value > NOTHING:
            raise RangeError(
                worded("reading.has_no_logarithm_and_the_limit", value=engineering(value, self.point.unit)),
                value=str(value),
                place=self.point.key,
            )
        return value

    def unplaced(self, readings: tuple[Reading, ...]) -> str:
        """Return why one of the readings has no place in what its error is judged in: zero has no logarithm; else nothing."""
        for reading in readings:
            for value in (reading.indicated, reading.reference):
                if math.isnan(value):  # a kind that has none
                    continue
                try:
                    self.place(value)
                except RangeError as error:
                    return str(error)
        return ""

    def means(self, readings: tuple[Reading, ...]) -> Means:
        """Return the means of readings, of rising and falling that judged which leaves less room. Raises as `place`."""
        plain = means_of(readings, self.place)
        if plain.rising is None or plain.falling is None or not self.point.limit.given:
            return plain
        bounds = self.point.bounds_at(plain.indicated)
        on_value = self.point.limit.on_value
        return means_of(readings, self.place, room=lambda error, value: bounds.room(value if on_value else error))

    def slope(self, value: float) -> float:
        """Return |d place / d value| at a value, SI: by what an uncertainty of the value is multiplied. Raises as `place`."""
        form = self._form
        if form == "value":
            return 1.0
        if form == "log":
            return _DB / self._above_zero(value)
        if math.isinf(value):
            return 0.0
        # A needle's law is smooth over a hundredth of a division: the difference is good to about 1e-6 of itself.
        step = self.point.indicator.division_at(value) / 100 or abs(value) * 1e-6
        arc = self.point.indicator.arc_of
        return self._arc * abs(arc(value + step) - arc(value - step)) / (2 * step)

    def inside(self, expected: float) -> tuple[float, float]:
        """Return from where to where the instrument may show, SI, when it should show `expected`; of a limit on the value that."""
        bounds = self.point.bounds_at(expected)
        if self.point.limit.on_value or self._form == "value":
            base = 0.0 if self.point.limit.on_value else expected
            return base + bounds.low, base + bounds.high
        if self._form == "log":
            return expected * 10 ** (bounds.low / 20), expected * 10 ** (bounds.high / 20)
        arc = self.point.indicator.arc_of(expected)
        ends = [self.point.indicator.value_at_arc(arc + end / self._arc) for end in (bounds.low, bounds.high)]
        return min(ends), max(ends)

    def divisions(self, value: float, count: float) -> float:
        """Return `count` divisions at a value, in the unit of the error."""
        indicator = self.point.indicator
        if self.point.limit.judged_in == "arc":
            return count * self._arc * indicator.arc_division_at(value)
        return count * indicator.division_at(value) * self.slope(value)
