"""Leakage that falls while the oxide reforms: I(t) = I∞ + A (t + t0)^-n, fitted while it runs.

The form is common practice, no source. The exponent and the shift t0 (forming that went before: earlier steps, an earlier
test) are continuous; the two amplitudes follow by least squares. What is likely is drawn by importance sampling about the
best fit, so that a time to a limit comes as a range; where the draws do not carry it, or the form does not fit, nothing
is said yet.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from candor.core.late_dataclass import dataclass

Floats = NDArray[np.float64]
EXPONENT_FROM, EXPONENT_TO = 0.2, 1.4
MOST_SHIFT_S = 7200.0  # forming that went before counts for two hours at most
_WINDOWS = 140  # along the logarithm of time
_WINDOW_SHARE = 0.01  # of the time: over so little the fall is straight
_DRAWS = 500
_ROUNDS = 3
_LEAST_CARRIED = 60.0  # effective draws, (sum w)²/sum w²: fewer cannot show a range
STEEPEST = 0.7  # of the fall by the logarithm of time, that is counted on; by simulation, see bench/claims.py
REACH = 4.0  # times as far as was read: beyond, when the limit is met cannot be told
SLOWS = 1.5  # by how much more the fall may slow down than it did; by simulation, see bench/claims.py
_BOTH = 0.5  # times their u: slope and bend at their worst together are rarer than either
_LAST_PART = 1 / 3  # of the time read, by which the end of the fall is judged
WIDER = 2.2  # on the variance: with 1 the truth lay inside in 89 % of simulated falls, and real ones fit less well
_FITS = 1.35  # reduced chi-square above which the form is held not to fit


@dataclass(frozen=True)
class Course:
    """How the current falls at the end of what was read, whatever form it has: ln I = ln I_T + slope x + bend x², x = ln(t / T).

    Attributes
    ----------
    seconds, amperes : float
        T, s, and the current there, A.
    u_amperes : float
        Standard uncertainty of its logarithm.
    slope, u_slope, bend, u_bend : float
        Of ln I against x, and their standard uncertainties.
    """

    seconds: float
    amperes: float
    u_amperes: float
    slope: float
    u_slope: float
    bend: float
    u_bend: float

    def earliest(self, limit: float) -> float:
        """Return the time before which the limit is hardly met, s: as if from here on the current fell exponentially.

        A relaxation that is made of many, each of which dies out, never falls faster than that: its logarithm bends upwards in
        time (completely monotone; R. L. Schilling, R. Song, Z. Vondracek, Bernstein Functions, ch. 1). Infinite where it does
        not fall, or a thousand times as far as was read.
        """
        to_go = math.log(max(self.amperes, 1e-30) / limit) - 2 * self.u_amperes
        if to_go <= 0:
            return self.seconds
        rate = -(self.slope - 3 * self.u_slope) / self.seconds
        return self.seconds + to_go / rate if rate * self.seconds > to_go / 1000 else math.inf

    def latest(self, limit: float) -> float:
        """Return the time after which the limit is hardly still to be met, s: as if the fall went on to slow down as it does.

        Infinite where it may never be, or farther away than what was read can carry, `REACH` times as long.
        """
        to_go = math.log(max(self.amperes, 1e-30) / limit) + 2 * self.u_amperes
        if to_go <= 0:
            return self.seconds
        # A fall steeper than oxide forms is absorption, which dies out: it is not counted on to go on.
        slope = max(self.slope + _BOTH * self.u_slope, -STEEPEST)
        bend = SLOWS * max(self.bend + _BOTH * self.u_bend, 0.0)
        if slope >= 0 or slope**2 < 4 * bend * to_go:
            return math.inf
        x = 2 * to_go / (-slope + math.sqrt(slope**2 - 4 * bend * to_go))
        return self.seconds * math.exp(x) if x < math.log(REACH) else math.inf


@dataclass(frozen=True)
class Decay:
    """A fitted fall of leakage.

    Attributes
    ----------
    final, amplitude, exponent, shift : float
        I∞ in A, A in A·s^n, n, t0 in s.
    noise : float
        Standard deviation of one reading about the curve, A.
    finals, amplitudes, exponents, shifts, weights : ndarray, shape (m,)
        Draws of what is likely, with their weights, which sum to 1.
    course : Course
        How it falls at the end, whatever form it has.
    """

    final: float
    amplitude: float
    exponent: float
    shift: float
    noise: float
    finals: Floats
    amplitudes: Floats
    exponents: Floats
    shifts: Floats
    weights: Floats
    course: Course

    def at(self, seconds: Sequence[float] | Floats | float) -> Floats:
        """Return the current of the best fit at times above zero, A."""
        moved = np.asarray(seconds, dtype=float) + self.shift
        return np.asarray(self.final + self.amplitude * np.power(moved, -self.exponent))

    def time_to(self, limit: float) -> tuple[float, float]:
        """Return the range of times, s from the start of the fall, at which the limit is met, with 95 per cent.

        Of the form where it holds, widened by where the fall may go whatever form it has (see `Course`): held against falls of
        other forms in `bench/claims.py`. Infinite where it may never be met, 0 where it was met from the start.
        """
        room = limit - self.finals
        with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
            times = np.power(room / self.amplitudes, -1 / self.exponents) - self.shifts
        times = np.where(room <= 0, np.inf, np.where(self.amplitudes <= 0, 0.0, np.maximum(times, 0.0)))
        early, late = _quantiles(times, self.weights)
        if limit <= 0:
            return self.course.seconds, math.inf
        if late < self.course.seconds:
            return early, late  # it was met while it was watched
        late = max(late, self.course.latest(limit))
        return min(early, self.course.earliest(limit)), late if late < REACH * self.course.seconds else math.inf


def fit_decay(seconds: Floats, amperes: Floats) -> Decay | None:
    """Fit a fall of leakage; None with fewer than eight readings, where no time went by, or where nothing can be said yet.

    Parameters
    ----------
    seconds : ndarray, shape (n,)
        s since the voltage stood still, rising; those not above zero are left out.
    amperes : ndarray, shape (n,)
        A.
    """
    kept = seconds > 0
    seconds, amperes = seconds[kept], amperes[kept]
    course = _course(_windowed(seconds, amperes)) if len(seconds) >= 8 else None
    if course is None:
        return None
    # What is absorbed in the dielectric dies out in a minute or two and is not a part of the form: the first readings are
    # left out, more and more of them, until the form fits.
    for _ in range(7):
        if len(seconds) < 8 or seconds[-1] < 1.6 * seconds[0]:
            return None
        windows = _windowed(seconds, amperes)
        flat = _flat(windows, course)
        if flat is not None:
            return flat
        best = _best(windows)
        if best is not None and best.chi_square <= _FITS:
            return _drawn(windows, best, course)
        # What does not fit is charging or absorption, at the start: a quarter decade goes, or a 25th of a long run.
        later = seconds > max(1.8 * seconds[0], seconds[0] + 0.04 * (seconds[-1] - seconds[0]))
        seconds, amperes = seconds[later], amperes[later]
    return None


@dataclass(frozen=True)
class _Windows:
    """Means over short windows: time, current, standard deviation of the mean; and of one reading."""

    seconds: Floats
    amperes: Floats
    sigma: Floats
    noise: float


@dataclass(frozen=True)
class _Best:
    """The best fit: (n, ln(t0 + first time)), its covariance, and chi-square over degrees of freedom."""

    place: Floats
    covariance: Floats
    chi_square: float


def _windowed(seconds: Floats, amperes: Floats) -> _Windows:
    """Average neighbours over a hundredth of the time; the noise is what a reading lies off the line of its neighbours."""
    left, right = seconds[1:-1] - seconds[:-2], seconds[2:] - seconds[1:-1]
    share = left / (left + right)
    off = amperes[1:-1] - (amperes[:-2] * (1 - share) + amperes[2:] * share)
    squares = off**2 / (1 + share**2 + (1 - share) ** 2)
    # Noise is taken where it is: 24 readings give a variance to 30 %, ten groups follow it over the run.
    groups = np.array_split(np.arange(len(squares)), max(min(len(squares) // 24, 10), 1))
    centres = [float(np.mean(np.log(seconds[1:-1][g]))) for g in groups]
    variances = [float(np.mean(squares[g])) for g in groups]
    # A meter that repeats its last digit has no scatter, yet is not exact: a ten-millionth of the largest.
    floor = 1e-30 + (1e-7 * float(np.abs(amperes).max())) ** 2
    edges = np.unique(np.searchsorted(seconds, np.geomspace(seconds[0], seconds[-1], _WINDOWS)))
    t, i, sigma = [], [], []
    for start in edges[edges < len(seconds)]:
        stop = max(int(np.searchsorted(seconds, seconds[start] * (1 + _WINDOW_SHARE), "right")), start + 1)
        variance = max(float(np.interp(math.log(seconds[start]), centres, variances)), floor)
        t.append(float(seconds[start:stop].mean()))
        i.append(float(amperes[start:stop].mean()))
        sigma.append(math.sqrt(variance / (stop - start)))
    return _Windows(np.array(t), np.array(i), np.array(sigma), math.sqrt(max(variances[-1], floor)))


def _course(w: _Windows) -> Course | None:
    """Fit a parabola to ln I against ln t over the last of what was read; None where it is not above zero there."""
    end = float(w.seconds[-1])
    kept = w.seconds >= end * _LAST_PART
    if kept.sum() < 6:
        kept = np.ones(len(w.seconds), dtype=bool)
    t, i, sigma = w.seconds[kept], w.amperes[kept], w.sigma[kept]
    if len(t) < 6 or (i <= 0).any():
        return None
    x, y, weight = np.log(t / end), np.log(i), i / sigma
    basis = np.stack([np.ones_like(x), x, x**2], -1) * weight[:, None]
    covariance = np.linalg.pinv(basis.T @ basis)
    found = covariance @ (basis.T @ (y * weight))
    off = float(((basis @ found - y * weight) ** 2).sum()) / max(len(x) - 3, 1)
    us = np.sqrt(np.diag(covariance) * max(off, 1.0))
    return Course(
        seconds=end,
        amperes=math.exp(float(found[0])),
        u_amperes=float(us[0]),
        slope=float(found[1]),
        u_slope=float(us[1]),
        bend=float(found[2]),
        u_bend=float(us[2]),
    )


def _flat(w: _Windows, course: Course) -> Decay | None:
    """Return a fall of nothing where a constant current fits what was read, else None."""
    weight = w.sigma**-2
    mean = float(weight @ w.amperes / weight.sum())
    if float((weight * (w.amperes - mean) ** 2).sum()) > _FITS * (len(w.seconds) - 1):
        return None
    finals = np.maximum(mean + np.linspace(-2, 2, 9) / math.sqrt(float(weight.sum())), 0.0)
    zeros, ones = np.zeros_like(finals), np.ones_like(finals)
    return Decay(
        final=mean,
        amplitude=0.0,
        exponent=1.0,
        shift=0.0,
        noise=w.noise,
        finals=finals,
        amplitudes=zeros,
        exponents=ones,
        shifts=zeros,
        weights=ones / len(ones),
        course=course,
    )


def _amplitudes(w: _Windows, exponents: Floats, shifts: Floats) -> tuple[Floats, Floats, Floats]:
    """Least squares of I∞ and A for every exponent and shift, shape (m,): values (m, 2), covariances (m, 2, 2), chi²."""
    weight = 1 / w.sigma
    basis = np.exp(-exponents[:, None] * np.log(w.seconds[None, :] + shifts[:, None])) * weight
    wanted = w.amperes * weight
    s0, s1, s2 = float(weight @ weight), basis @ weight, (basis**2).sum(1)
    t1, t2 = float(wanted @ weight), basis @ wanted
    determinant = np.maximum(s0 * s2 - s1**2, 1e-300)
    values = np.stack([(s2 * t1 - s1 * t2) / determinant, (s0 * t2 - s1 * t1) / determinant], -1)
    covariances = np.stack([np.stack([s2, -s1], -1), np.stack([-s1, np.full_like(s1, s0)], -1)], -2)
    chi = ((values[:, :1] * weight + values[:, 1:] * basis - wanted) ** 2).sum(1)
    return values, covariances / determinant[:, None, None], chi


def _spread(w: _Windows, places: Floats) -> tuple[Floats, Floats]:
    """Return exponents and shifts, s, of places (n, ln(t0 + first time))."""
    return places[:, 0], np.exp(places[:, 1]) - w.seconds[0]


def _box(w: _Windows) -> tuple[Floats, Floats]:
    first = w.seconds[0]
    return np.array([EXPONENT_FROM, math.log(first)]), np.array([EXPONENT_TO, math.log(first + MOST_SHIFT_S)])


def _best(w: _Windows) -> _Best | None:
    """Go down from the best of a coarse grid by Gauss-Newton steps in exponent and shift, the amplitudes projected out."""
    low, high = _box(w)
    coarse = np.array([(n, s) for n in np.linspace(low[0], high[0], 12) for s in np.linspace(low[1], high[1], 12)])
    values, _, chi = _amplitudes(w, *_spread(w, coarse))
    chi = np.where((values >= 0).all(1), chi, np.inf)
    if not np.isfinite(chi).any():
        chi = np.zeros(len(coarse))
    place: Floats = coarse[int(np.argmin(chi))]
    damping = 1e-3
    steps = 1e-4 * (high - low)
    jacobian, residual = np.empty((len(w.seconds), 2)), _residual(w, place)
    # Levenberg and Marquardt; where forty steps have not ended it, sampling from the best place so far says how unsure that is.
    for _ in range(40):
        for k in range(2):
            ahead = place.copy()
            ahead[k] += steps[k] if ahead[k] + steps[k] <= high[k] else -steps[k]
            jacobian[:, k] = (_residual(w, ahead) - residual) / (ahead[k] - place[k])
        normal = jacobian.T @ jacobian
        move = np.linalg.solve(normal + damping * np.diag(np.diag(normal) + 1e-12), -jacobian.T @ residual)
        tried: Floats = np.clip(place + move, low, high)
        other = _residual(w, tried)
        if other @ other < residual @ residual:
            done = np.abs(tried - place).max() < 1e-7
            place, residual, damping = tried, other, max(damping / 5, 1e-9)
            if done:
                break
        else:
            damping *= 5
            if damping > 1e9:
                break
    free = max(len(w.seconds) - 4, 1)
    scaled = normal + np.diag(1 / (high - low) ** 2)  # no wider than the box
    return _Best(place, np.asarray(np.linalg.inv(scaled), dtype=np.float64), float(residual @ residual) / free)


def _residual(w: _Windows, place: Floats) -> Floats:
    values, _, _ = _amplitudes(w, *_spread(w, place[None, :]))
    moved = w.seconds + math.exp(place[1]) - w.seconds[0]
    return np.asarray((values[0, 0] + values[0, 1] * moved ** -place[0] - w.amperes) / w.sigma)


def _drawn(w: _Windows, best: _Best, course: Course) -> Decay | None:
    """Draw what is likely: t-shaped proposals about the best, moved and shaped anew by what they find."""
    generator = np.random.default_rng(7)
    low, high = _box(w)
    # What is over one is taken as noise that neighbours do not show.
    scale = WIDER * max(best.chi_square, 1.0)
    centre, covariance = best.place, best.covariance * scale * 2
    for _ in range(_ROUNDS):
        root = np.linalg.cholesky(covariance + 1e-14 * np.eye(2))
        # A t with five degrees of freedom: its tails lie over those of the posterior, so that no weight runs away.
        normal = generator.standard_normal((_DRAWS, 2))
        stretch = np.sqrt(5 / generator.chisquare(5, _DRAWS))
        places = centre + (normal * stretch[:, None]) @ root.T
        distance = ((normal * stretch[:, None]) ** 2).sum(1)
        proposal = -3.5 * np.log1p(distance / 5)  # ln of a t's density with 5 degrees of freedom, in two dimensions
        inside = ((places >= low) & (places <= high)).all(1)
        values, covariances, chi = _amplitudes(w, *_spread(w, np.clip(places, low, high)))
        determinants = np.linalg.det(covariances)
        log = -chi / (2 * scale) + 0.5 * np.log(np.maximum(determinants, 1e-300)) - proposal
        roots = np.linalg.cholesky(covariances * scale + 1e-40 * np.eye(2))
        amplitudes = values + np.einsum("mij,mj->mi", roots, generator.standard_normal((_DRAWS, 2)))
        good = inside & (amplitudes >= 0).all(1)
        if not good.any():
            return None
        weights = np.where(good, np.exp(log - log[good].max()), 0.0)
        weights /= weights.sum()
        centre = weights @ places
        apart = places - centre
        # A third wider than found: the next round must not cut off what this one saw little of.
        covariance = 1.3 * (apart * weights[:, None]).T @ apart + 1e-12 * np.eye(2)
    if 1 / float((weights**2).sum()) < _LEAST_CARRIED:
        return None
    exponents, shifts = _spread(w, places)
    chosen = int(np.argmin(np.where(good, chi, np.inf)))
    kept = weights > 0
    return Decay(
        final=float(max(values[chosen, 0], 0.0)),
        amplitude=float(max(values[chosen, 1], 0.0)),
        exponent=float(exponents[chosen]),
        shift=float(shifts[chosen]),
        noise=w.noise,
        finals=amplitudes[kept, 0],
        amplitudes=amplitudes[kept, 1],
        exponents=exponents[kept],
        shifts=shifts[kept],
        weights=weights[kept],
        course=course,
    )


def _quantiles(values: Floats, weights: Floats) -> tuple[float, float]:
    order = np.argsort(values)
    summed = np.cumsum(weights[order])
    # 97 %, to promise 95 %: the two in a hundred are what the model itself may be off by (tested by simulation).
    places = np.searchsorted(summed, (0.015 * summed[-1], 0.985 * summed[-1]))
    low, high = values[order][np.minimum(places, len(values) - 1)]
    return float(low), float(high)
