"""A printed scale: marks by deflection, and what a needle between them reads."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise

import numpy as np

from candor.core.errors import RangeError, ValueTextError

PLAIN_FRACTION = 1 / 4
MIRROR_FRACTION = 1 / 5


@dataclass(frozen=True)
class Scale:
    """One arc of a dial.

    Attributes
    ----------
    name : str
        As the pack calls it.
    ticks : tuple of float
        The value at every printed tick, increasing; in the scale's own numbers.
    deflections : tuple of float
        Where each tick stands, 0 at the left end of the arc and 1 at the right, increasing.
    numbered : tuple of float
        Values that carry a number.
    long : tuple of float
        Values whose tick is drawn longer, those with a number included.
    """

    name: str
    ticks: tuple[float, ...]
    deflections: tuple[float, ...]
    numbered: tuple[float, ...] = ()
    long: tuple[float, ...] = ()

    def __post_init__(self) -> None:
        if len(self.ticks) < 2 or len(self.ticks) != len(self.deflections):
            raise ValueTextError(f"Scale {self.name}: at least two marks are needed, each with its deflection.")
        for name, values in (("value", self.ticks), ("deflection", self.deflections)):
            for before, after in pairwise(values):
                if not after > before:
                    raise ValueTextError(
                        f"Scale {self.name} goes backwards: {name} {after:g} follows {before:g}; "
                        f"each must be greater than the one before.",
                        place=self.name,
                        expected="increasing",
                    )

    @cached_property
    def _arrays(self) -> tuple[np.ndarray, np.ndarray]:
        return np.asarray(self.ticks), np.asarray(self.deflections)

    @cached_property
    def _hash(self) -> int:
        return hash((self.name, self.ticks, self.deflections, self.numbered, self.long))

    def __hash__(self) -> int:
        return self._hash  # kept: a scale is part of every remembered assessment

    @property
    def end(self) -> float:
        """The value of the last tick."""
        return self.ticks[-1]

    def tick_of(self, value: float) -> float:
        """Return the place of `value` counted in ticks from the first, fractions included.

        Beyond the ends the nearest division is carried on.
        """
        return _carry_on(value, self._arrays[0], np.arange(len(self.ticks), dtype=float))

    def value_at_tick(self, tick: float) -> float:
        """Return the value at a place counted in ticks: the inverse of `tick_of`."""
        return _carry_on(tick, np.arange(len(self.ticks), dtype=float), self._arrays[0])

    def deflection_of(self, value: float) -> float:
        """Return the deflection, 0 to 1 along the arc, at which the needle shows `value`."""
        return _carry_on(value, *self._arrays)

    def value_at_deflection(self, deflection: float) -> float:
        """Return the value under a needle at `deflection`: the inverse of `deflection_of`."""
        return _carry_on(deflection, self._arrays[1], self._arrays[0])

    def division_at(self, value: float) -> float:
        """Return the width, in scale numbers, of the division in which `value` lies."""
        index = min(max(math.floor(self.tick_of(value) + 1e-9), 0), len(self.ticks) - 2)
        return self.ticks[index + 1] - self.ticks[index]


def linear_scale(
    name: str, start: float, stop: float, divisions: int, number_every: int, long_every: int | None = None
) -> Scale:
    """Build an even scale of `divisions` divisions, a number at every `number_every`-th tick; deflection by definition from 0 to 1.

    Raises RangeError where there is no division, ValueTextError where the scale goes backwards.
    """
    if divisions < 1:
        raise RangeError(f"Scale {name}: {divisions} divisions; at least one is needed.", place=name)
    ticks = tuple(round(start + (stop - start) * i / divisions, 12) for i in range(divisions + 1))
    numbered = ticks[::number_every]
    long = ticks[::long_every] if long_every else numbered
    return Scale(
        name=name,
        ticks=ticks,
        deflections=tuple(i / divisions for i in range(divisions + 1)),
        numbered=numbered,
        long=long,
    )


def marked_scale(
    name: str, marks: tuple[tuple[float, float], ...], between: int, numbered: tuple[float, ...] | None = None
) -> Scale:
    """Build an uneven scale from marks (value, deflection), each interval cut into `between` divisions of equal width in value
    (common practice, no source)."""
    ticks: list[float] = []
    deflections: list[float] = []
    for (value, place), (next_value, next_place) in pairwise(marks):
        for i in range(between):
            ticks.append(round(value + (next_value - value) * i / between, 12))
            deflections.append(round(place + (next_place - place) * i / between, 12))
    ticks.append(marks[-1][0])
    deflections.append(marks[-1][1])
    values = tuple(value for value, _ in marks)
    return Scale(
        name=name,
        ticks=tuple(ticks),
        deflections=tuple(deflections),
        numbered=values if numbered is None else numbered,
        long=values,
    )


def read_ticks(scale: Scale, mark: float, ticks: float) -> float:
    """Return the value that lies `ticks` ticks above (below, if negative) the tick nearest `mark`.

    Where `mark` itself lies between two ticks, ticks are counted from where it lies.
    """
    place = scale.tick_of(mark)
    nearest = round(place)
    return scale.value_at_tick((nearest if abs(place - nearest) < 1e-6 else place) + ticks)


def reading_half_width(scale: Scale, value: float, mirror: bool) -> float:
    """Return the half-width a = f x division within which a needle is read, in the unit of the scale.

    f is 1/4 of a division on a plain dial and 1/5 over a mirror: common practice, no source.
    Taken as rectangular, u = a / sqrt(3) (JCGM 100:2008, 4.3.7).
    """
    return scale.division_at(value) * (MIRROR_FRACTION if mirror else PLAIN_FRACTION)


def _carry_on(x: float, xs: np.ndarray, ys: np.ndarray) -> float:
    """Interpolate linearly, going on with the slope of the end interval outside."""
    if x < xs[0]:
        return float(ys[0] + (x - xs[0]) * (ys[1] - ys[0]) / (xs[1] - xs[0]))
    if x > xs[-1]:
        return float(ys[-1] + (x - xs[-1]) * (ys[-1] - ys[-2]) / (xs[-1] - xs[-2]))
    return float(np.interp(x, xs, ys))
