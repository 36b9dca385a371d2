"""An arc from its marks: the law that they follow, how well, and which of them stands astray."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import replace
from functools import lru_cache, partial
from itertools import pairwise
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from candor.core.late_dataclass import dataclass
from candor.core.reading.laws import DecibelLaw, Law, OhmsLaw, SquareLaw
from candor.core.reading.scale import Scale, law_scale, marked_scale

FittedName = Literal["even", "ohms rising", "ohms falling", "decibels", "square near zero", "curve"]
Floats = NDArray[np.float64]
FOLLOWS = 0.01  # of the arc: marks that lie within it, one standard deviation, follow a law
BETTER = 1.5  # times less scatter, and a law with one term more is taken
ASTRAY, ASTRAY_TIMES = 0.015, 5.0  # of the arc; and times the scatter of the others: then a mark is asked for again
FINE = 24  # pieces of a curve between two marks
RATIO, TERMS, FINER = (
    1.15,
    75,
    4,
)  # of the search for a law's term: each so many times the one before, how many, how often finer


@dataclass(frozen=True)
class EvenLaw:
    """An even arc: d = v / end."""

    end: float
    falls: bool = False
    names_middle: bool = False

    def deflection(self, value: float) -> float:
        """Return d of a value."""
        return value / self.end

    def value(self, deflection: float) -> float:
        """Return the value at d."""
        return deflection * self.end


@dataclass(frozen=True)
class PlacedLaw:
    """A law as it lies between two marks: its deflection 0 at `begins`, 1 after `stretch` more of the arc."""

    law: Law
    begins: float
    stretch: float

    @property
    def falls(self) -> bool:
        """Whether the value falls as the needle rises."""
        return self.law.falls if self.stretch > 0 else not self.law.falls

    @property
    def names_middle(self) -> bool:
        """Whether a range is named by the value at half its arc: never, where it lies as it was measured."""
        return False

    def deflection(self, value: float) -> float:
        """Return where a value stands, 0 at the first mark and 1 at the last."""
        return self.begins + self.stretch * self.law.deflection(value)

    def value(self, deflection: float) -> float:
        """Return the value at a place."""
        return self.law.value((deflection - self.begins) / self.stretch)


@dataclass(frozen=True)
class CurveLaw:
    """A curve through all marks that turns nowhere back (monotone cubics, SIAM J. Numer. Anal. 17, 1980, 238), in pieces."""

    values: tuple[float, ...]  # running one way
    places: tuple[float, ...]  # rising
    names_middle: bool = False

    @property
    def falls(self) -> bool:
        """Whether the value falls as the needle rises."""
        return self.values[-1] < self.values[0]

    def deflection(self, value: float) -> float:
        """Return where a value stands; beyond the ends the last piece is carried on."""
        if self.falls:
            return _carried(value, self.values[::-1], self.places[::-1])
        return _carried(value, self.values, self.places)

    def value(self, deflection: float) -> float:
        """Return the value at a place."""
        return _carried(deflection, self.places, self.values)


@dataclass(frozen=True)
class FittedArc:
    """What marks say of their arc.

    Attributes
    ----------
    name : FittedName
    law : Law
        From a value, in the marks' numbers, to its place: 0 at the first mark, 1 at the last.
    scatter : float
        Standard deviation of a mark about it, share of the arc; of a curve what leaving each mark out says.
    astray : int or None
        A mark that the others put elsewhere.
    belongs : float
        Where they put it, share of the arc; 0 where none is astray.
    """

    name: FittedName
    law: Law
    scatter: float
    astray: int | None = None
    belongs: float = 0.0


def fit_arc(marks: Sequence[float], places: Sequence[float], written: float = 0.0) -> FittedArc:
    """Fit the laws that printed scales follow to marks and take the plainest that they follow, else a curve through them.

    Each law by least squares in place, d = a + b g(v; c), the term c by search; the standard deviation has as many degrees of
    freedom as marks less terms (common practice, no source).

    Parameters
    ----------
    marks : sequence of float
        Values, running one way; an end may be infinite.
    places : sequence of float
        Where each stands, 0 to 1, rising.
    written : float
        To what part of the arc places were written: no mark is known better than 0.29 of it (a rectangle).
    """
    found = _plainest_law(tuple(marks), tuple(places), written) or _curve(
        tuple(marks), tuple(places), _floor(written)
    )
    for index in range(1, len(marks) - 1) if len(marks) > 6 else ():
        others = [(m, p) for i, (m, p) in enumerate(zip(marks, places, strict=True)) if i != index]
        without = _plainest_law(tuple(m for m, _ in others), tuple(p for _, p in others), written)
        if without is None:  # a curve goes through whatever it is given: it calls none astray
            continue
        belongs = without.law.deflection(marks[index])
        off = abs(belongs - places[index])
        if off > max(ASTRAY, ASTRAY_TIMES * without.scatter):
            return replace(found, astray=index, belongs=belongs)
    return found


def fitted_scale(name: str, marks: tuple[tuple[float, float], ...], between: int, places_u: float = 0.0) -> Scale:
    """Build the scale of an arc whose marks were measured: by the law they follow, each interval cut into `between` divisions.

    Marks are (value, place): in the numbers of the scale, and a share of the arc; `places_u` is how well they are known together,
    one standard deviation, beside what they scatter by.

    Raises
    ------
    ValueTextError
        Where the marks do not run one way.
    """
    values, places = tuple(value for value, _ in marks), tuple(place for _, place in marks)
    arc = fitted(values, places)
    whole, known = all(map(math.isfinite, values)), math.hypot(arc.scatter, places_u)
    if arc.name == "curve" and not whole:  # no curve goes to infinity; a division does
        return replace(marked_scale(name, marks, between), marks_u=known)
    return replace(law_scale(name, arc.law, values, (between,)), marks_u=known)


@lru_cache(64)  # a line is understood anew with every key
def fitted(marks: tuple[float, ...], places: tuple[float, ...]) -> FittedArc:
    """Return what `fit_arc` does, remembered: marks in the numbers of the scale, places as shares of the arc."""
    return fit_arc(marks, places)


def _floor(written: float) -> float:
    return max(written, 1e-6) / math.sqrt(12)


def _plainest_law(marks: tuple[float, ...], places: tuple[float, ...], written: float) -> FittedArc | None:
    """The plainest law that the marks follow; None where they follow none."""
    values, at, floor = np.array(marks), np.array(places), _floor(written)
    best: FittedArc | None = None
    for name, family in _candidates(marks).items():
        placed, scatter = _laid(family, values, at)
        scatter = max(scatter, floor)
        if placed is not None and scatter <= FOLLOWS and (best is None or scatter * BETTER < best.scatter):
            best = FittedArc(name, placed, scatter)
    return best


@dataclass(frozen=True)
class _Family:
    """A law by its term: the law of a term, the deflections of values (rows: terms), and the terms that may be; none for (1,)."""

    law: Callable[[float], Law]
    deflections: Callable[[Floats, Floats], Floats]
    terms: tuple[float, ...]


def _candidates(marks: tuple[float, ...]) -> dict[FittedName, _Family]:
    """The laws that such marks could follow, the plainest first."""
    finite = [m for m in marks if math.isfinite(m)]
    end, whole = max(map(abs, finite)), len(finite) == len(marks)
    falling = math.isinf(marks[0]) or marks[0] > marks[-1]
    tried: dict[FittedName, _Family] = {}
    if whole:
        tried["even"] = _Family(lambda _: EvenLaw(end), lambda v, _: v[None] / end, (1.0,))
        if not falling and marks[0] < 0:
            tried["decibels"] = _Family(lambda _: DecibelLaw(1.0), lambda v, _: 10 ** (v[None] / 20), (1.0,))
    if min(finite) >= 0 and end:
        grid = tuple(end * RATIO**step for step in range(-TERMS, TERMS // 3))
        name: FittedName = "ohms falling" if falling else "ohms rising"
        tried[name] = _Family(lambda c: OhmsLaw(c, falls=falling), partial(_ohms, falling), grid)
        if whole and not falling:
            tried["square near zero"] = _Family(
                lambda k: SquareLaw(k, end), partial(_square, end), grid[TERMS - 20 :]
            )
    return tried


def _ohms(falling: bool, values: Floats, centres: Floats) -> Floats:
    share: Floats = centres[:, None] / (values[None] + centres[:, None])  # of infinity: 0
    return share if falling else 1 - share


def _square(end: float, values: Floats, knees: Floats) -> Floats:
    k, v = knees[:, None], values[None]
    made: Floats = (end + k) / end**2 * v * np.abs(v) / (np.abs(v) + k)
    return made


def _laid(family: _Family, values: Floats, at: Floats) -> tuple[PlacedLaw | None, float]:
    """A family laid on the marks by least squares, and their standard deviation about the best of it."""
    free = len(values) - 2 - (len(family.terms) > 1)
    if free < 1:
        return None, math.inf
    terms, width = np.array(family.terms), RATIO
    best, scatter, begins, stretch = 0.0, math.inf, 0.0, 0.0
    for _ in range(FINER if len(terms) > 1 else 1):
        deflections = family.deflections(values, terms)
        about = deflections - deflections.mean(1, keepdims=True)
        slopes = about @ at / np.maximum((about**2).sum(1), 1e-300)
        offsets = at.mean() - slopes * deflections.mean(1)
        left = ((at - offsets[:, None] - slopes[:, None] * deflections) ** 2).sum(1)
        where = int(left.argmin())
        if left[where] < scatter:
            best, scatter = float(terms[where]), float(left[where])
            begins, stretch = float(offsets[where]), float(slopes[where])
        terms, width = best * np.linspace(1 / width, width, 41), 1 + (width - 1) / 10
    placed = PlacedLaw(family.law(best), begins, stretch) if stretch else None
    return placed, math.sqrt(scatter / free)


def _curve(marks: tuple[float, ...], places: tuple[float, ...], floor: float) -> FittedArc:
    from scipy.interpolate import PchipInterpolator  # only where marks follow no law

    pairs = [(p, m) for m, p in zip(marks, places, strict=True) if math.isfinite(m)]

    def through(some: list[tuple[float, float]]) -> Callable[[Floats], Floats]:
        made: Callable[[Floats], Floats] = PchipInterpolator([p for p, _ in some], [m for _, m in some])
        return made

    curve = through(pairs)
    fine = np.concatenate([np.linspace(a, b, FINE, endpoint=False) for (a, _), (b, _) in pairwise(pairs)])
    fine = np.append(fine, pairs[-1][0])
    law = CurveLaw(tuple(float(v) for v in curve(fine)), tuple(float(p) for p in fine))
    left_out = []
    for index in range(1, len(pairs) - 1):
        place, value = pairs[index]
        others = through(pairs[:index] + pairs[index + 1 :])
        slope = (law.value(place + 1e-3) - law.value(place - 1e-3)) / 2e-3
        # With the mark in it the curve lies nearer between two marks than where one was left out, by half and less: two thirds are
        # what holds 92 of 100 with six marks (bench/claims.py).
        left_out.append((float(others(np.array([place]))[0]) - value) / slope / 1.5 if slope else 0.0)
    scatter = math.sqrt(sum(e * e for e in left_out) / max(len(left_out), 1))
    return FittedArc("curve", law, max(scatter, floor))


def _carried(x: float, xs: Sequence[float], ys: Sequence[float]) -> float:
    if x < xs[0]:
        return ys[0] + (x - xs[0]) * (ys[1] - ys[0]) / (xs[1] - xs[0])
    if x > xs[-1]:
        return ys[-1] + (x - xs[-1]) * (ys[-1] - ys[-2]) / (xs[-1] - xs[-2])
    return float(np.interp(x, xs, ys))
