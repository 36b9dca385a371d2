"""A printed scale: marks by deflection, and what a needle between them reads."""

from __future__ import annotations

import math
from functools import cached_property
from itertools import pairwise

import numpy as np

from candor.core.errors import RangeError, ValueTextError
from candor.core.late_dataclass import dataclass
from candor.core.reading.laws import Law
from candor.core.worded import worded


@dataclass(frozen=True)
class Scale:
    """One arc of a dial, or of a knob that is set.

    Attributes
    ----------
    name : str
        As the pack calls it.
    ticks : tuple of float
        The value at every printed tick from left to right, rising or falling throughout; in the scale's own numbers. An end
        tick may be infinite.
    deflections : tuple of float
        Where each tick stands, 0 at the left end of the arc and 1 at the right, increasing.
    numbered : tuple of float
        Values that carry a number.
    long : tuple of float
        Values whose tick is drawn longer, those with a number included.
    law : Law or None
        What values follow between the ticks; None where they are even within a division.
    marks_u : float
        How well it is known where a mark stands, one standard deviation, share of the arc; 0 where the arc is drawn by law.
    """

    name: str
    ticks: tuple[float, ...]
    deflections: tuple[float, ...]
    numbered: tuple[float, ...] = ()
    long: tuple[float, ...] = ()
    law: Law | None = None
    marks_u: float = 0.0

    def __post_init__(self) -> None:
        if len(self.ticks) < 2 or len(self.ticks) != len(self.deflections):
            raise ValueTextError(worded("reading.scale_at_least_two_marks_are", name=self.name))
        rises = self.ticks[-1] > self.ticks[0]
        for name, values, sign in (("value", self.ticks, 1 if rises else -1), ("deflection", self.deflections, 1)):
            for before, after in pairwise(values):
                if not sign * (after - before) > 0:
                    way = "greater" if sign > 0 else "less"
                    raise ValueTextError(
                        worded(
                            "reading.scale_goes_backwards_follows_each_must",
                            name=self.name,
                            name_2=name,
                            after=after,
                            before=before,
                            way=way,
                        ),
                        place=self.name,
                        expected="increasing" if sign > 0 else "decreasing",
                    )
        if any(math.isinf(tick) for tick in self.ticks[1:-1]) or all(map(math.isinf, self.ticks)):
            raise ValueTextError(worded("reading.scale_only_an_end_of_it", name=self.name), place=self.name)

    @cached_property
    def _arrays(self) -> tuple[np.ndarray, np.ndarray]:
        return np.asarray(self.ticks), np.asarray(self.deflections)

    @cached_property
    def _places(self) -> np.ndarray:
        return np.arange(len(self.ticks), dtype=float)

    @cached_property
    def _hash(self) -> int:
        return hash((self.name, self.ticks, self.deflections, self.numbered, self.long, self.law, self.marks_u))

    def __hash__(self) -> int:
        return self._hash  # kept: a scale is part of every remembered assessment

    @property
    def end(self) -> float:
        """The value of the last tick."""
        return self.ticks[-1]

    @property
    def falls(self) -> bool:
        """Whether values fall from left to right."""
        return self.ticks[-1] < self.ticks[0]

    @property
    def is_open(self) -> bool:
        """Whether it ends in infinity."""
        return math.isinf(self.ticks[0]) or math.isinf(self.ticks[-1])

    @property
    def named_by_middle(self) -> bool:
        """Whether a range on it is named by the value at half the arc: one to infinity, a bridge."""
        return self.is_open or (self.law is not None and self.law.names_middle)

    @cached_property
    def _is_plain(self) -> bool:
        """Whether values between two ticks are just between them: no law, nothing infinite, rising."""
        return self.law is None and not self.is_open and not self.falls

    @property
    def centre(self) -> float:
        """The value in the middle of the arc."""
        return self.value_at_deflection((self.deflections[0] + self.deflections[-1]) / 2)

    def tick_of(self, value: float) -> float:
        """Return the place of `value` counted in ticks from the first, fractions included.

        Beyond the ends the nearest division is carried on.
        """
        if self._is_plain:
            return _carry_on(value, self._arrays[0], self._places)
        return _carry_on(self.deflection_of(value), self._arrays[1], self._places)

    def value_at_tick(self, tick: float) -> float:
        """Return the value at a place counted in ticks: the inverse of `tick_of`."""
        if self._is_plain:
            return _carry_on(tick, self._places, self._arrays[0])
        return self.value_at_deflection(_carry_on(tick, self._places, self._arrays[1]))

    def deflection_of(self, value: float) -> float:
        """Return the deflection, 0 to 1 along the arc, at which the needle shows `value`."""
        if self._is_plain:
            return _carry_on(value, *self._arrays)
        if self.law is not None:
            return self.law.deflection(value)
        return _open_deflection(self, value)

    def value_at_deflection(self, deflection: float) -> float:
        """Return the value under a needle at `deflection`: the inverse of `deflection_of`."""
        if self._is_plain:
            return _carry_on(deflection, self._arrays[1], self._arrays[0])
        if self.law is not None:
            return self.law.value(deflection)
        return _open_value(self, deflection)

    def _index_at(self, value: float) -> int:
        return min(max(math.floor(self.tick_of(value) + 1e-9), 0), len(self.ticks) - 2)

    def division_at(self, value: float) -> float:
        """Return the width, in scale numbers, of the division in which `value` lies; of one that ends in infinity, twice
        that of its finite half."""
        index = self._index_at(value)
        first, second = self.ticks[index], self.ticks[index + 1]
        if math.isfinite(first) and math.isfinite(second):
            return abs(second - first)
        finite = first if math.isfinite(first) else second
        return 2 * abs(self.value_at_tick(index + 0.5) - finite)

    def arc_division_at(self, value: float) -> float:
        """Return the width of the division in which `value` lies as a share of the arc, 0 to 1."""
        index = self._index_at(value)
        return (self.deflections[index + 1] - self.deflections[index]) / (self.deflections[-1] - self.deflections[0])

    def arc_of(self, value: float) -> float:
        """Return where `value` stands as a share of the arc, 0 at the left end and 1 at the right."""
        first, last = self.deflections[0], self.deflections[-1]
        return (self.deflection_of(value) - first) / (last - first)

    def value_at_arc(self, share: float) -> float:
        """Return the value at a share of the arc: the inverse of `arc_of`."""
        first, last = self.deflections[0], self.deflections[-1]
        return self.value_at_deflection(first + share * (last - first))


def law_scale(
    name: str,
    law: Law,
    marks: tuple[float, ...],
    between: tuple[int, ...],
    numbered: tuple[float, ...] | None = None,
) -> Scale:
    """Build a scale by law, by definition from its marks from left to right, the interval after each cut into so many divisions.

    Divisions are even in value where both marks are finite; towards infinity they are even along the arc.

    Parameters
    ----------
    name : str
    law : Law
    marks : tuple of float
        In the scale's numbers; an end may be infinite.
    between : tuple of int
        Divisions of each interval; one number serves all.
    numbered : tuple of float, optional
        Marks that carry a number; all where none are named.

    Raises
    ------
    ValueTextError
        Where the marks do not follow the law in one direction.
    """
    parts = between * (len(marks) - 1) if len(between) == 1 else between
    if len(parts) != len(marks) - 1:
        raise ValueTextError(
            worded("reading.scale_intervals_need_one_number_of", name=name, marks=len(marks) - 1), place=name
        )
    ticks: list[float] = []
    for (mark, after), count in zip(pairwise(marks), parts, strict=True):
        whole = math.isfinite(mark) and math.isfinite(after)
        start, stop = law.deflection(mark), law.deflection(after)
        for i in range(count):
            share = i / count
            ticks.append(
                round(mark + (after - mark) * share, 12)
                if whole
                else mark
                if not i
                else law.value(start + (stop - start) * share)
            )
    ticks.append(marks[-1])
    return Scale(
        name=name,
        ticks=tuple(ticks),
        deflections=tuple(law.deflection(tick) for tick in ticks),
        numbered=marks if numbered is None else numbered,
        long=marks,
        law=law,
    )


def linear_scale(
    name: str, start: float, stop: float, divisions: int, number_every: int, long_every: int | None = None
) -> Scale:
    """Build an even scale of `divisions` divisions, a number at every `number_every`-th tick; deflection by definition from 0 to 1.

    Raises RangeError where there is no division, ValueTextError where the scale goes backwards.
    """
    if divisions < 1:
        raise RangeError(
            worded("reading.scale_divisions_at_least_one_is", name=name, divisions=divisions), place=name
        )
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
    (common practice, no source); one that ends in infinity is not cut."""
    ticks: list[float] = []
    deflections: list[float] = []
    for (value, place), (next_value, next_place) in pairwise(marks):
        for i in range(between if math.isfinite(value) and math.isfinite(next_value) else 1):
            ticks.append(round(value + (next_value - value) * i / between, 12) if i else value)
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


def _carry_on(x: float, xs: np.ndarray, ys: np.ndarray) -> float:
    """Interpolate linearly, going on with the slope of the end interval outside."""
    if x < xs[0]:
        return float(ys[0] + (x - xs[0]) * (ys[1] - ys[0]) / (xs[1] - xs[0]))
    if x > xs[-1]:
        return float(ys[-1] + (x - xs[-1]) * (ys[-1] - ys[-2]) / (xs[-1] - xs[-2]))
    return float(np.interp(x, xs, ys))


def _open_deflection(scale: Scale, value: float) -> float:
    """Return the deflection of a value on a scale by marks that falls or ends in infinity: see `_open_value`."""
    values, places = scale.ticks, scale.deflections
    if math.isinf(values[-1]) and (math.isinf(value) or value > values[-2]):
        return places[-1] if math.isinf(value) else places[-1] - (places[-1] - places[-2]) * values[-2] / value
    if math.isinf(values[0]) and (math.isinf(value) or value > values[1]):
        return places[0] if math.isinf(value) else places[0] + (places[1] - places[0]) * values[1] / value
    finite = [(v, d) for v, d in zip(values, places, strict=True) if math.isfinite(v)]
    if scale.falls:
        finite.reverse()
    return _carry_on(value, np.asarray([v for v, _ in finite]), np.asarray([d for _, d in finite]))


def _open_value(scale: Scale, deflection: float) -> float:
    """Return the value at a deflection: even within a division; in one that ends in infinity as one over the way to its end,
    which is how every ohms scale goes there."""
    values, places = scale.ticks, scale.deflections
    if math.isinf(values[-1]) and deflection > places[-2]:
        return (
            math.inf
            if deflection >= places[-1]
            else values[-2] * (places[-1] - places[-2]) / (places[-1] - deflection)
        )
    if math.isinf(values[0]) and deflection < places[1]:
        return math.inf if deflection <= places[0] else values[1] * (places[1] - places[0]) / (deflection - places[0])
    finite = [(d, v) for v, d in zip(values, places, strict=True) if math.isfinite(v)]
    return _carry_on(deflection, np.asarray([d for d, _ in finite]), np.asarray([v for _, v in finite]))
