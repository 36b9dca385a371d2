"""A range as it is read on a dial: the printed scale in the unit of the range."""

from __future__ import annotations

from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.quantities import engineering
from candor.core.reading.scale import Scale, read_ticks
from candor.core.worded import worded


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
    span_degrees : float
        Of the arc from deflection 0 to 1.
    """

    scale: Scale
    multiplier: float
    unit: str
    mirror: bool = False
    parallax_divisions: float = 0.1
    low_stop: float = -0.04
    high_stop: float = 1.06
    span_degrees: float = 90.0

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

    def arc_division_at(self, value: float) -> float:
        """Return the width of the division at `value` as a share of the arc."""
        return self.scale.arc_division_at(value / self.multiplier)

    def arc_of(self, value: float) -> float:
        """Return where `value`, SI, stands as a share of the arc, 0 at the left end and 1 at the right."""
        return self.scale.arc_of(value / self.multiplier)

    def value_at_arc(self, share: float) -> float:
        """Return the value, SI, that stands at a share of the arc."""
        return self.scale.value_at_arc(share) * self.multiplier

    @property
    def is_open(self) -> bool:
        """Whether the scale ends in infinity."""
        return self.scale.is_open

    def mark_near(self, value: float) -> float:
        """Return the tick nearest to `value`, SI."""
        place = min(max(round(self.scale.tick_of(value / self.multiplier)), 0), len(self.scale.ticks) - 1)
        return self.scale.ticks[place] * self.multiplier

    def middle(self, low: float, high: float) -> float:
        """Return the middle of two settings along the arc, through the law of the scale, SI."""
        return self.value_at_deflection((self.deflection_of(low) + self.deflection_of(high)) / 2)

    def end_near(self, value: float, share: float) -> str:
        """Return which end of the arc is within `share` of `value`: "left", "right", or neither."""
        place = self.arc_of(value)
        return "left" if place < share else "right" if place > 1 - share else ""

    def check(self, value: float) -> float:
        """Return `value` where a needle can show it.

        Raises
        ------
        RangeError
            Where it lies past a stop.
        """
        ends = [self.value_at_deflection(stop) for stop in (self.low_stop, self.high_stop)]
        place, slack = self.deflection_of(value), 1e-9
        if not self.low_stop - slack <= place <= self.high_stop + slack:
            low, high = min(ends), max(ends)
            raise RangeError(
                worded(
                    "reading.is_off_the_scale_this_range",
                    value=engineering(value, self.unit),
                    low=engineering(low, self.unit),
                    high=engineering(high, self.unit),
                ),
                value=str(value),
                expected=f"{low:g} to {high:g} {self.unit}",
            )
        return value
