"""The distribution of an error whose terms are rectangles, normals and scaled t's, by their full convolution.

The product of the terms' characteristic functions is turned back into a distribution function by its Fourier series over
one period (Gil-Pelaez 1951 on a lattice; exact but for what lies beyond the period, which is added for the heavy tails).
"""

from __future__ import annotations

import math
from functools import lru_cache
from statistics import NormalDist

import numpy as np
from numpy.typing import NDArray

from candor.core.late_dataclass import dataclass
from candor.core.uncertainty.budget import Mixture

Floats = NDArray[np.float64]
NORMAL = NormalDist()
TERMS = 2048  # of the series: k is then good to about 1e-6 of itself
ROUGH = 256  # for a search whose answer is checked with all of them
# Half-spans that a term must be given, in its own scale: a normal ends there, a t goes on and is corrected for.
_NORMAL_SPAN = 9.0
_STUDENT_SPAN = {1: 150.0, 2: 60.0}
_STUDENT_SPAN_REST = 30.0
_ROOTS = np.linspace(0.0, 8.0, 4097)  # roots of the arguments at which a t's characteristic function is tabulated
_WIDE_DOF = 60.0  # from here on chi-square by Wilson and Hilferty (1931) is good to 1e-6


@dataclass(frozen=True)
class ErrorDistribution:
    """A sum of independent terms, symmetric about zero.

    Attributes
    ----------
    rectangles : tuple of float
        Half-widths, in the unit of the result.
    normal : float
        Standard deviation of all normal terms together.
    students : tuple of (float, float)
        Scale s/√n and degrees of freedom of every term that was observed (JCGM 101:2008, 6.4.9).
    terms : int
        Number of terms of the series; ROUGH of them are good to 1e-4 of k where there is no t.
    mixtures : tuple of Mixture
        Groups of rectangles that are tied in part.
    """

    rectangles: tuple[float, ...] = ()
    normal: float = 0.0
    students: tuple[tuple[float, float], ...] = ()
    terms: int = TERMS
    mixtures: tuple[Mixture, ...] = ()

    @property
    def _reach(self) -> float:
        """Half the period: all of the bounded terms, and the tails as far as they matter."""
        tails = [s * _STUDENT_SPAN.get(math.ceil(dof), _STUDENT_SPAN_REST) for s, dof in self.students]
        # A tenth more, so that what wraps round of a bounded sum is nothing.
        mixed = sum(max(m.tied, sum(m.half_widths)) for m in self.mixtures)
        return 1.1 * (sum(self.rectangles) + mixed + _NORMAL_SPAN * self.normal) + sum(tails)

    @property
    def _table(self) -> tuple[Floats, Floats]:
        """x from 0 to the reach and P(|X| <= x) there."""
        return _table_of(self)

    def calculate(self) -> tuple[Floats, Floats]:
        """Return x from 0 to the reach, in the unit of the result, and P(|X| <= x) there; arrays of shape (2 terms + 1,)."""
        reach = self._reach
        step = math.pi / reach  # of the characteristic function's argument
        terms = self.terms
        t = step * np.arange(1, terms + 1, dtype=np.float64)
        product = np.exp(-0.5 * (self.normal * t) ** 2)
        for half_width in self.rectangles:
            product *= np.sinc(half_width * t / math.pi)
        for mixture in self.mixtures:
            apart = np.ones_like(t)
            for half_width in mixture.half_widths:
                apart *= np.sinc(half_width * t / math.pi)
            product *= mixture.share * np.sinc(mixture.tied * t / math.pi) + (1 - mixture.share) * apart
        for scale, dof in self.students:
            product *= student_characteristic(scale * t, dof)
        waves = np.zeros(2 * terms + 1)
        waves[1 : terms + 1] = product / np.arange(1, terms + 1)
        series = -np.fft.rfft(waves, 4 * terms).imag  # sum of product/j sin(j x step) at x = reach m / (2 terms)
        x = np.linspace(0.0, reach, 2 * terms + 1)
        inside = x / reach + 2 / math.pi * series - self._wrapped(x, reach)
        return x, np.maximum.accumulate(np.clip(inside, 0.0, 1.0))

    def _wrapped(self, x: Floats, reach: float) -> Floats:
        """Return what the periods beyond the first add: four of them, and the rest as an integral; smooth, so coarsely."""
        # What is added is smooth: 64 parts of the period carry it.
        coarse = np.linspace(0.0, reach, 65)
        found = np.zeros_like(coarse)
        for scale, dof in self.students:
            for period in range(1, 5):
                near, far = 2 * reach * period - coarse, 2 * reach * period + coarse
                found += 2 * (_student_above(near / scale, dof) - _student_above(far / scale, dof))
            found += 2 * coarse / reach * _student_above(np.full(1, 9 * reach / scale), dof)
        return np.interp(x, coarse, found)

    def probability_within(self, x: float) -> float:
        """Return P(|X| <= x) for x of zero or more."""
        if x < 0:
            return 0.0
        if not self.students and not self.mixtures and len(self.rectangles) <= 1:
            return _one_rectangle(self.rectangles[0] if self.rectangles else 0.0, self.normal, x)
        if self._is_one_student:
            scale, dof = self.students[0]
            return 1.0 - 2.0 * float(_student_above(np.asarray(x / scale), dof))
        if x >= self._reach:
            tails = sum(2 * float(_student_above(np.asarray(x / scale), dof)) for scale, dof in self.students)
            return max(1.0 - tails, 0.0)
        at, inside = self._table
        return float(np.interp(x, at, inside))

    @property
    def _is_one_student(self) -> bool:
        return len(self.students) == 1 and not self.rectangles and not self.mixtures and self.normal == 0

    def probability_below(self, x: float) -> float:
        """Return P(X <= x)."""
        within = self.probability_within(abs(x))
        return 0.5 + within / 2 if x >= 0 else 0.5 - within / 2

    def half_interval(self, probability: float) -> float:
        """Return h with P(|X| <= h) = `probability`, in the unit of the result."""
        if not self.students and not self.rectangles and not self.mixtures:
            return self.normal * NORMAL.inv_cdf(0.5 + probability / 2)
        if self._is_one_student:
            from scipy.special import stdtrit  # imported here: only small samples need it, and it is slow to load

            return self.students[0][0] * float(stdtrit(self.students[0][1], 0.5 + probability / 2))
        if self.students or self.mixtures or len(self.rectangles) > 1:
            at, inside = self._table
            if inside[-1] >= probability:
                return float(np.interp(probability, inside, at))
        low, high = 0.0, self._reach
        while self.probability_within(high) < probability:
            low, high = high, 2 * high
        for _ in range(200):  # bisection down to the last bit: the distribution is smooth and one-humped
            middle = (low + high) / 2
            if middle in (low, high):
                break
            low, high = (middle, high) if self.probability_within(middle) < probability else (low, middle)
        return (low + high) / 2


@lru_cache(maxsize=64)  # not with the distribution: every result keeps one, and a table is 64 kB
def _table_of(distribution: ErrorDistribution) -> tuple[Floats, Floats]:
    return distribution.calculate()


def student_characteristic(t: Floats, dof: float) -> Floats:
    """Return the characteristic function of Student's t at arguments of zero or more.

    (√ν t)^(ν/2) K_(ν/2)(√ν t) / (Γ(ν/2) 2^(ν/2 - 1)) (S. Hurst, The characteristic function of the Student t distribution, ANU
    Research Report SRR044-95, 1995; the title from memory), from a table by cubic interpolation; zero beyond it.
    """
    table = _characteristic_table(dof)
    place = np.sqrt(t) / (_ROOTS[1] - _ROOTS[0])
    first = np.clip(place.astype(int) - 1, 0, len(table) - 4)
    u = place - first
    a, b, c, d = (table[first + i] for i in range(4))
    value = (
        -a * (u - 1) * (u - 2) * (u - 3) / 6
        + b * u * (u - 2) * (u - 3) / 2
        - c * u * (u - 1) * (u - 3) / 2
        + d * u * (u - 1) * (u - 2) / 6
    )
    return np.asarray(np.where(place < len(table) - 1, value, 0.0))


@lru_cache(maxsize=64)
def _characteristic_table(dof: float) -> Floats:
    t = _ROOTS**2
    if dof > _WIDE_DOF:
        # Wilson and Hilferty's cube for chi-square: over _WIDE_DOF the chi-square is near a normal, so Hermite nodes serve.
        nodes, weights = np.polynomial.hermite_e.hermegauss(32)
        mean = (
            1 - 2 / (9 * dof) + nodes * math.sqrt(2 / (9 * dof))
        ) ** 3  # of chi-square over its degrees of freedom
        found = np.exp(-(t[:, None] ** 2) / (2 * mean[None, :])) @ weights / weights.sum()
    else:
        from scipy.special import kve  # imported here: only small samples need it, and it is slow to load

        half, x = dof / 2, math.sqrt(dof) * t[1:]
        log = half * np.log(x) + np.log(kve(half, x)) - x - math.lgamma(half) - (half - 1) * math.log(2)
        found = np.concatenate(([1.0], np.exp(log)))
    return np.asarray(np.minimum(found, 1.0))


def _student_above(t: Floats, dof: float) -> Floats:
    from scipy.special import stdtr  # imported here: only small samples need it, and it is slow to load

    return np.asarray(stdtr(dof, -t))


def _one_rectangle(half_width: float, spread: float, x: float) -> float:
    """Return P(|X| <= x) of a rectangle and a normal, by their convolution in closed form."""
    a, s = half_width, spread
    if a > 0 and s <= a * 1e-9:
        return min(x / a, 1.0)
    if a > s * 1e-6:
        tail = (_integral_of_tail((x - a) / s) - _integral_of_tail((x + a) / s)) * s / (2 * a)
        return 1.0 - 2 * tail
    return 1.0 if s == 0 else 1.0 - 2 * NORMAL.cdf(-x / s)


def _integral_of_tail(z: float) -> float:
    """Return the integral of the upper tail of the standard normal from `z` on: phi(z) - z (1 - Phi(z))."""
    if z > 40:  # the tail is below the smallest number there is
        return 0.0
    return math.exp(-0.5 * z * z) / math.sqrt(2 * math.pi) - z * NORMAL.cdf(-z)
