"""The way up: steps with what to set, what to read in that state, what to expect, where to cut, and what then."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Literal

from candor.core.errors import CandorError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded

Way = Literal["straight on", "series lamp", "variable transformer", "heaters first"]
WATTS = "watts"
UNITS = {WATTS: "W", "line": "V", "amperes": "A"}  # what is not a rail; every other name is a rail in V


class PlanError(CandorError, ValueError):
    """A plan that contradicts itself or cannot be read."""


@dataclass(frozen=True)
class Band:
    """What should be read in a state: the name of a rail, "watts", "line" or "amperes"; both ends in V, W or A."""

    name: str
    low: float
    high: float


@dataclass(frozen=True)
class Cut:
    """Where to cut: beyond so many V, W or A, away from zero; `after_s` is how long the inrush is let pass."""

    name: str
    beyond: float
    why: str = ""
    after_s: float = 0.0


@dataclass(frozen=True)
class Expected:
    """Something that should happen: in words, and about when after the step began, s; `within_s` either side."""

    words: str
    at_s: float = 0.0
    within_s: float = 0.0


@dataclass(frozen=True)
class PlanStep:
    """A state on the way up.

    Attributes
    ----------
    title : str
    line_volts : float
        To set, V; 0 for off.
    hold_s : float
    settings : tuple of str
        Controls preset before it.
    bands : tuple of Band
    events : tuple of Expected
    cuts : tuple of Cut
    then : str
        What to do when the step is over, or what to think when it is not as it should be.
    caution : str
        Said before it, once; empty where nothing new can hurt.
    """

    title: str
    line_volts: float
    hold_s: float = 0.0
    settings: tuple[str, ...] = ()
    bands: tuple[Band, ...] = ()
    events: tuple[Expected, ...] = ()
    cuts: tuple[Cut, ...] = ()
    then: str = ""
    caution: str = ""

    def band(self, name: str) -> Band | None:
        """Return the band of a rail or of the watts."""
        return next((b for b in self.bands if b.name == name), None)

    def cut(self, name: str, since_s: float = math.inf) -> Cut | None:
        """Return where a rail or the watts are cut so many s after the state began; without them, for good."""
        holding = [c for c in self.cuts if c.name == name and c.after_s <= since_s]
        return min(holding, key=lambda c: c.beyond, default=None)

    def highest_cut(self, name: str) -> float:
        """Return what a rail or the watts may never pass, V, W or A; infinite where nothing says so."""
        return max((c.beyond for c in self.cuts if c.name == name), default=math.inf)

    @property
    def names(self) -> tuple[str, ...]:
        """What is read in this state, the watts first."""
        return tuple(dict.fromkeys((*(b.name for b in self.bands), *(c.name for c in self.cuts))))


@dataclass(frozen=True)
class Plan:
    """A way up, why this way, and its steps."""

    way: Way
    why: str
    steps: tuple[PlanStep, ...]

    def checked(self) -> Plan:
        """Return it where it holds together.

        Raises
        ------
        PlanError
            Where it has no step, a band is upside down, or a cut line lies inside the band of its state.
        """
        if not self.steps:
            raise PlanError(worded("power.a_plan_needs_at_least_one"))
        for step in self.steps:
            for band in step.bands:
                if band.low > band.high:
                    raise PlanError(
                        worded(
                            "power.is_read_from_to_the_lower",
                            title=step.title,
                            name=band.name,
                            low=band.low,
                            high=band.high,
                        )
                    )
                beyond = step.highest_cut(band.name)
                if beyond < max(abs(band.low), abs(band.high)):
                    raise PlanError(
                        worded(
                            "power.is_cut_beyond_inside_its_band",
                            title=step.title,
                            name=band.name,
                            beyond=beyond,
                            low=band.low,
                            high=band.high,
                        )
                    )
        return self

    def with_step(self, index: int, step: PlanStep) -> Plan:
        """Return the plan with another step at a place."""
        return replace(self, steps=(*self.steps[:index], step, *self.steps[index + 1 :]))


def unit_of(name: str) -> str:
    """Return the unit that a name is read in: V for a rail."""
    return UNITS.get(name, "V")
