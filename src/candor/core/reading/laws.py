"""The laws that printed scales follow: from a value to the place along the arc, and back."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from typing import Literal, Protocol

from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded

LawName = Literal["ohms falling", "ohms rising", "bridge", "decibels", "square near zero"]


class Law(Protocol):
    """What a scale by law needs: values in the scale's own numbers, deflections 0 to 1 along the arc."""

    @property
    def falls(self) -> bool:
        """Whether the value falls as the needle rises."""

    @property
    def names_middle(self) -> bool:
        """Whether a range is named by the value at half its arc."""

    def deflection(self, value: float) -> float:
        """Return the deflection at which `value` stands."""

    def value(self, deflection: float) -> float:
        """Return the value at a deflection; infinite at and beyond the end that is open."""


@dataclass(frozen=True)
class OhmsLaw:
    """A series or shunt ohmmeter, or a bridge dial: d = R/(R + Rc) rising, d = Rc/(R + Rc) falling, Rc at half the arc.

    A bridge dial x/(1 - x) is the rising one with the standard as its centre. Per unit of arc a reading is worth
    1/(d (1 - d)) of its value (derived; the tests check it by finite difference).
    """

    centre: float
    falls: bool
    names_middle: bool = True

    def deflection(self, value: float) -> float:
        """Return d of a value of zero or more; of infinity 1 rising, 0 falling."""
        if math.isinf(value):
            return 0.0 if self.falls else 1.0
        share = self.centre / (value + self.centre)
        return share if self.falls else 1 - share

    def value(self, deflection: float) -> float:
        """Return R at d: R = Rc (1 - d)/d falling, R = Rc d/(1 - d) rising."""
        share = deflection if self.falls else 1 - deflection
        # Past the open end the needle can stand, but no value does.
        return math.inf if share <= 0 else self.centre * (1 - share) / share


@dataclass(frozen=True)
class DecibelLaw:
    """Decibels on an even arc of volts: d = d0 10^(L/20), with 0 dB at `zero_at`; minus infinity at the left end."""

    zero_at: float
    falls: bool = False
    names_middle: bool = False

    def deflection(self, value: float) -> float:
        """Return d of a level, dB."""
        return self.zero_at * 10 ** (value / 20)

    def value(self, deflection: float) -> float:
        """Return the level at d, dB: L = 20 log10(d/d0)."""
        return -math.inf if deflection <= 0 else 20 * math.log10(deflection / self.zero_at)


@dataclass(frozen=True)
class SquareLaw:
    """A diode detector: square law far below the knee, linear far above it; d = c v²/(v + knee), 1 at `end`."""

    knee: float
    end: float
    falls: bool = False
    names_middle: bool = False

    @property
    def _slope(self) -> float:
        return (self.end + self.knee) / self.end**2

    def deflection(self, value: float) -> float:
        """Return d of a value; below zero the arc goes on straight, as a needle does."""
        return self._slope * value * abs(value) / (abs(value) + self.knee)

    def value(self, deflection: float) -> float:
        """Return v at d: the root of v² - (d/c) v - (d/c) knee = 0."""
        whole = abs(deflection) / self._slope
        return math.copysign((whole + math.sqrt(whole * whole + 4 * whole * self.knee)) / 2, deflection)


def _above(name: str, value: float, least: float = 0.0) -> float:
    if not (value > least and math.isfinite(value)):
        raise RangeError(
            worded("reading.a_scale_by_the_law_needs", name=name, least=least, value=value), value=str(value)
        )
    return value


# Each law by its name in packs: what its `centre` and the scale's `end` mean to it.
LAWS: Mapping[LawName, Callable[[float, float], Law]] = {
    "ohms falling": lambda centre, _: OhmsLaw(_above("ohms falling", centre), falls=True),
    "ohms rising": lambda centre, _: OhmsLaw(_above("ohms rising", centre), falls=False),
    "bridge": lambda centre, _: OhmsLaw(_above("bridge", centre), falls=False),
    "decibels": lambda centre, _: DecibelLaw(_above("decibels", centre)),
    "square near zero": lambda centre, end: SquareLaw(
        _above("square near zero", centre), _above("square near zero", end)
    ),
}
