"""What is still to go of something that settles by one or two processes, weighed over all time constants they may have.

y(t) = c + A1 exp(-t/tau1) + A2 exp(-t/tau2): the time constants on a lattice, the amplitudes normal with a wide prior, so that
each pair of time constants has its evidence in closed form (a Bayesian linear model; JCGM 101:2008, 6.4.9, for the thought, the
lattice by construction of this house). One process, two or none stand beside each other by that evidence: a slow one that hides in
the scatter stays possible, and is in what is said. What is slower than SLOWEST records cannot be seen in one.
"""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from candor.core.late_dataclass import dataclass

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]
LATTICE = 36  # time constants, evenly in their logarithm: neighbours 1.15 : 1, drawn evenly between them
FASTEST, SLOWEST = 1 / 60, 3.0  # of the record
PRIOR = (0.1, 0.45, 0.45)  # that there are no, one, two processes
WIDE = 3.0  # times the range of the readings, an amplitude's standard deviation beforehand
DRAWS, SEED = 2000, 11
AHEAD = 60.0  # records, to which it is followed
MOST_TIED = 0.95  # correlation of one reading's scatter with the next, from which on more makes no difference


@dataclass(frozen=True)
class Processes:
    """Draws of what it may be, each with two processes at most; amplitudes of 0 where there are fewer.

    Attributes
    ----------
    end : float
        Length of the record, s.
    final : array of shape (draws,)
        Where it ends, in the unit of the readings.
    amplitudes, taus : array of shape (draws, 2)
        In that unit, and s.
    scatter : float
        Standard deviation of the readings about the best of all, what ties neighbours counted in.
    two : float
        Probability that there are two processes.
    """

    end: float
    final: Floats
    amplitudes: Floats
    taus: Floats
    scatter: float
    two: float

    def rest(self, seconds: Floats) -> Floats:
        """Return what is still to go at some moments, s after the first reading, signed; shape (draws, moments)."""
        found = np.zeros((len(self.taus), len(seconds)))
        for place in range(self.taus.shape[1]):
            rates, sizes = 1 / self.taus[:, place], self.amplitudes[:, place]
            some = np.flatnonzero(sizes)  # of those that have fewer processes there is nothing to go
            found[some] += sizes[some, None] * np.exp(-np.outer(rates[some], seconds))
        return found

    def ready(self, part: float) -> Floats:
        """Return after how many seconds each draw stays within `part` of its end; infinite beyond AHEAD records."""
        moments = np.concatenate((np.linspace(0.0, self.end, 80), self.end * np.geomspace(1.02, AHEAD, 80)))
        over = np.abs(self.rest(moments)) > part
        last = np.where(over.any(axis=1), over.shape[1] - 1 - np.argmax(over[:, ::-1], axis=1), -1)
        following = np.append(moments, math.inf)[last + 1]
        return np.where(last < 0, 0.0, following)

    def slow(self) -> Floats:
        """Return the time constant, s, of the process of each draw that has the most to go at the end."""
        left = np.abs(self.amplitudes * np.exp(-self.end / self.taus))
        slowest: Floats = np.take_along_axis(self.taus, left.argmax(axis=1)[:, None], axis=1)[:, 0]
        return slowest


def processes_of(seconds: Floats, values: Floats) -> Processes:
    """Weigh no, one and two processes by a record.

    Parameters
    ----------
    seconds : array of shape (n,)
        s, in order of time, n six or more.
    values : array of shape (n,)
        In any unit.
    """
    x = seconds - seconds[0]
    end, level = float(x[-1]), float(np.median(values))
    z = values - level
    size = WIDE * max(float(np.ptp(z)), 1e-300)
    taus = end * np.geomspace(FASTEST, SLOWEST, LATTICE)
    basis = np.column_stack((np.ones(len(x)), np.exp(-x[:, None] / taus)))
    gram, toward = basis.T @ basis, basis.T @ z
    one, other = np.triu_indices(LATTICE, 1)
    columns = (
        np.zeros((1, 1), np.int64),
        np.column_stack((np.zeros(LATTICE, np.int64), np.arange(LATTICE) + 1)),
        np.column_stack((np.zeros(len(one), np.int64), one + 1, other + 1)),
    )
    variance = _variance(basis, z, gram, toward, columns)
    weighed = [_weigh(gram, toward, at, variance, size) for at in columns]
    logs = np.concatenate([w.evidence + math.log(p / len(w.evidence)) for w, p in zip(weighed, PRIOR, strict=True)])
    weights = np.exp(logs - logs.max())
    weights /= weights.sum()
    two = float(weights[1 + LATTICE :].sum())
    return _draw(weighed, weights, taus, level=level, end=end, scatter=math.sqrt(variance), two=two)


@dataclass(frozen=True)
class _Weighed:
    """All models of so many processes: their columns of the basis, means and covariances of the amplitudes, evidence."""

    columns: Ints
    means: Floats
    covariances: Floats
    evidence: Floats


def _variance(basis: Floats, z: Floats, gram: Floats, toward: Floats, columns: tuple[Ints, ...]) -> float:
    """The variance about the best of all models, raised by what ties a reading's scatter to the next one's (of an AR(1) process,
    (1 + r)/(1 - r): what so many tied readings are worth)."""
    best, left = math.inf, z
    for at in columns:
        within = gram[at[:, :, None], at[:, None, :]]
        fitted = np.linalg.solve(within + 1e-10 * len(z) * np.eye(at.shape[1]), toward[at][..., None])[..., 0]
        squares = z @ z - 2 * (fitted * toward[at]).sum(1) + np.einsum("mi,mij,mj->m", fitted, within, fitted)
        each = np.maximum(squares, 0.0) / max(len(z) - 2 * at.shape[1] + 1, 1)
        least = int(np.argmin(each))
        if each[least] < best:
            best, left = float(each[least]), z - basis[:, at[least]] @ fitted[least]
    about = left - left.mean()
    tied = float(about[1:] @ about[:-1]) / max(float(about @ about), 1e-300)
    tied = 0.0 if tied < 2 / math.sqrt(len(z)) else min(tied, MOST_TIED)
    return max(best, 1e-24 * float(np.ptp(z)) ** 2, 1e-300) * (1 + tied) / (1 - tied)


def _weigh(gram: Floats, toward: Floats, at: Ints, variance: float, size: float) -> _Weighed:
    """Mean, covariance and evidence of every model of so many processes, the level having no prior to speak of."""
    before = np.full(at.shape[1], 1 / size**2)
    before[0] = 1e-12 / size**2
    precision = gram[at[:, :, None], at[:, None, :]] / variance + np.diag(before)
    covariances = np.linalg.inv(precision)
    pull = toward[at] / variance
    means = np.einsum("mij,mj->mi", covariances, pull)
    evidence: Floats = (
        0.5 * (means * pull).sum(1) - 0.5 * np.linalg.slogdet(precision)[1] + 0.5 * np.log(before[1:]).sum()
    )
    return _Weighed(at, means, np.asarray(covariances, np.float64), evidence)


def _draw(
    weighed: list[_Weighed], weights: Floats, taus: Floats, *, level: float, end: float, scatter: float, two: float
) -> Processes:
    random = np.random.default_rng(SEED)
    picked = random.choice(len(weights), DRAWS, p=weights)
    final, amplitudes, found = np.zeros(DRAWS), np.zeros((DRAWS, 2)), np.full((DRAWS, 2), taus[0])
    step, first = math.log(taus[1] / taus[0]), 0
    for models in weighed:
        count = len(models.evidence)
        for model in np.unique(picked[(picked >= first) & (picked < first + count)]) - first:
            at = np.flatnonzero(picked == first + model)
            values, vectors = np.linalg.eigh(models.covariances[model])
            root = vectors * np.sqrt(np.maximum(values, 0.0))
            drawn = models.means[model] + random.standard_normal((len(at), len(values))) @ root.T
            final[at] = level + drawn[:, 0]
            for place in range(1, len(values)):
                amplitudes[at, place - 1] = drawn[:, place]
                within = np.exp(step * random.uniform(-0.5, 0.5, len(at)))
                found[at, place - 1] = taus[models.columns[model, place] - 1] * within
        first += count
    return Processes(end=end, final=final, amplitudes=amplitudes, taus=found, scatter=scatter, two=two)
