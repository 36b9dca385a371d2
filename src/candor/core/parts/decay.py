"""Leakage that falls while the oxide reforms: I(t) = I∞ + A t^-n, fitted while it runs.

The form is common practice, no source. For each exponent of a grid the two amplitudes follow by least squares, none below
zero; the exponents are weighed by their likelihood, so that the time to a limit comes as a range.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
EXPONENTS: Floats = np.linspace(0.1, 2.0, 39)
_POINTS = 160
_SPREAD = np.array([[0.0, 0.0], [2.0, 0.0], [-2.0, 0.0], [0.0, 2.0], [0.0, -2.0]])
_SPREAD_WEIGHT = np.array([1.0, 0.135, 0.135, 0.135, 0.135])  # exp(-2²/2)


@dataclass(frozen=True)
class Decay:
    """A fitted fall of leakage.

    Attributes
    ----------
    final, amplitude, exponent : float
        I∞ in A, A in A·s^n, n.
    noise : float
        Standard deviation of the readings about the curve, as a share of them.
    finals, amplitudes, exponents, weights : ndarray, shape (m,)
        All fits that are likely enough, with their weights, which sum to 1.
    """

    final: float
    amplitude: float
    exponent: float
    noise: float
    finals: Floats
    amplitudes: Floats
    exponents: Floats
    weights: Floats

    def at(self, seconds: Sequence[float] | Floats | float) -> Floats:
        """Return the current of the best fit at times above zero, A."""
        return np.asarray(self.final + self.amplitude * np.power(np.asarray(seconds, dtype=float), -self.exponent))

    def final_range(self) -> tuple[float, float]:
        """Return where I∞ lies with 95 % of the weight, A."""
        return _quantiles(self.finals, self.weights)

    def time_to(self, limit: float) -> tuple[float, float]:
        """Return the range of times, s from the start of the fall, at which the limit is met: 95 % of the weight.

        Infinite where it may never be met.
        """
        room = limit - self.finals
        with np.errstate(divide="ignore", invalid="ignore"):
            times = np.power(room / self.amplitudes, -1 / self.exponents)
        times = np.where(room <= 0, np.inf, np.where(self.amplitudes <= 0, 0.0, times))
        return _quantiles(times, self.weights)


def fit_decay(seconds: Floats, amperes: Floats) -> Decay | None:
    """Fit a fall of leakage; None with fewer than eight readings or where no time went by.

    Parameters
    ----------
    seconds : ndarray, shape (n,)
        Since the voltage stood still, rising; those not above zero are left out.
    amperes : ndarray, shape (n,)
    """
    kept = seconds > 0
    seconds, amperes = seconds[kept], amperes[kept]
    if len(seconds) < 8 or seconds[-1] < 2 * seconds[0]:
        return None
    if len(seconds) > _POINTS:
        places = np.unique(np.geomspace(1, len(seconds), _POINTS).astype(int) - 1)
        seconds, amperes = seconds[places], amperes[places]
    finals, amplitudes, errors, covariances = _fits(seconds, amperes)
    variance = max(float(errors.min()) / max(len(seconds) - 3, 1), 1e-30)
    weights = np.exp(-(errors - errors.min()) / (2 * variance))
    likely = weights > 1e-4
    chosen = int(np.argmin(errors))
    roots = np.linalg.cholesky(covariances[likely] * variance + np.eye(2) * 1e-30)
    points = np.stack([finals[likely], amplitudes[likely]], -1)[:, None, :] + np.einsum("mij,sj->msi", roots, _SPREAD)
    spread = (weights[likely][:, None] * _SPREAD_WEIGHT[None, :]).ravel()
    return Decay(
        float(finals[chosen]), float(amplitudes[chosen]), float(EXPONENTS[chosen]), math.sqrt(variance),
        np.maximum(points[..., 0].ravel(), 0.0), np.maximum(points[..., 1].ravel(), 0.0),
        np.repeat(EXPONENTS[likely], len(_SPREAD)), spread / spread.sum(),
    )  # fmt: skip


def _fits(seconds: Floats, amperes: Floats) -> tuple[Floats, Floats, Floats, NDArray[np.float64]]:
    """Least squares of I∞ and A for every exponent, none below zero: values, squared errors, covariances.

    Errors count as shares of the reading (of a twentieth of the median where it is less), as the fall spans decades.
    """
    weight = 1.0 / (np.abs(amperes) + 0.05 * np.median(np.abs(amperes)) + 1e-30)
    basis = np.power(seconds[None, :], -EXPONENTS[:, None]) * weight
    count, wanted = float((weight**2).sum()), amperes * weight
    s1, s2 = basis @ weight, (basis**2).sum(1)
    t1, t2 = float(wanted @ weight), basis @ wanted
    determinant = count * s2 - s1**2
    finals, amplitudes = (s2 * t1 - s1 * t2) / determinant, (count * t2 - s1 * t1) / determinant
    bounded = finals < 0
    finals, amplitudes = np.where(bounded, 0.0, finals), np.where(bounded, t2 / s2, amplitudes)
    rising = amplitudes < 0
    finals, amplitudes = np.where(rising, t1 / count, finals), np.where(rising, 0.0, amplitudes)
    errors = ((finals[:, None] * weight + amplitudes[:, None] * basis - wanted) ** 2).sum(1)
    inverse = np.stack([np.stack([s2, -s1], -1), np.stack([-s1, np.full_like(s1, count)], -1)], -2)
    return finals, amplitudes, errors, inverse / determinant[:, None, None]


def _quantiles(values: Floats, weights: Floats) -> tuple[float, float]:
    order = np.argsort(values)
    summed = np.cumsum(weights[order])
    places = np.searchsorted(summed, (0.025 * summed[-1], 0.975 * summed[-1]))
    low, high = values[order][np.minimum(places, len(values) - 1)]
    return float(low), float(high)
