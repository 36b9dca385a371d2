"""Many histories solved at once, each in steps of its results: a walk goes from one to the next, and needs no matrix of them all.

The covariance of a history is that of an offset and a walk within each segment, of noise, and of a few columns that stand across
all of it: the slope, and what results by one standard have in common. The first two are a chain, solved by the filter and the
smoother of de Jong (1988; Durbin and Koopman, Time Series Analysis by State Space Methods, 2012, 4.5, from memory); the columns are
added by the identity of Woodbury. What is returned is that of the whole matrix, inverted.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from candor.core.late_dataclass import dataclass

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Histories:
    """Results of many histories of one count, in limits and years; what varies by result has the shape (results, histories).

    Attributes
    ----------
    years : array
        Since the start of the segment, rising within it.
    begins : array of bool
        Where a result is the first of its segment.
    offset : float
        Standard deviation of the offset of a segment.
    error : array
    columns : array, shape (results, histories, columns)
        What stands across all of it, times its standard deviation; the slope is the first.
    """

    years: Floats
    begins: NDArray[np.bool_]
    offset: float
    error: Floats
    columns: Floats

    def of(self, places: NDArray[np.int64]) -> Histories:
        """Return some of the histories, in the order of their places."""
        return Histories(
            years=self.years[:, places], begins=self.begins[:, places], offset=self.offset, error=self.error[:, places],
            columns=self.columns[:, places],
        )  # fmt: skip


@dataclass(frozen=True)
class WalkSolved:
    """K^-1 y and the diagonal of K^-1, shape (results, histories); and, shape (histories,), the log of the density of y without its
    constant, the mean of the slope in standard deviations of its prior, and what is left of its variance, as a share of that."""

    solved: Floats
    diagonal: Floats
    evidence: Floats
    slope: Floats
    slope_left: Floats


def walk_solve(histories: Histories, walk: Floats, noise: Floats) -> WalkSolved:
    """Return K^-1 y and what goes with it, where K is the covariance of a history.

    Parameters
    ----------
    histories : Histories
    walk : array, shape (histories,)
        Variance that the walk gains in a year, a share of the squared limit.
    noise : array, shape (results, histories)
        Variance of each result by itself, a share of the squared limit, above zero.

    Returns
    -------
    WalkSolved
    """
    asked = np.concatenate([histories.error[..., None], histories.columns], axis=2)
    solved, diagonal, log = _chain(histories, walk, noise, asked)
    by_history = solved.transpose(1, 0, 2)  # (histories, results, 1 + columns)
    inner = np.matmul(histories.columns.transpose(1, 2, 0), by_history)  # columns' M^-1 [y, columns]
    across = inner[..., 1:] + np.eye(inner.shape[1])
    inverse = np.linalg.inv(across)
    taken = np.matmul(inverse, inner[..., :1])[..., 0]
    of_columns = by_history[..., 1:]
    found = by_history[..., 0] - np.matmul(of_columns, taken[..., None])[..., 0]
    less = (np.matmul(of_columns, inverse) * of_columns).sum(axis=2)
    whole = log + np.linalg.slogdet(across)[1]
    return WalkSolved(
        solved=found.T, diagonal=diagonal - less.T, evidence=-0.5 * whole - 0.5 * (histories.error * found.T).sum(axis=0),
        slope=taken[:, 0], slope_left=inverse[:, 0, 0],
    )  # fmt: skip


def _chain(histories: Histories, walk: Floats, noise: Floats, asked: Floats) -> tuple[Floats, Floats, Floats]:
    """Return M^-1 of what is asked, the diagonal of M^-1, and log det M, where M is the covariance without its columns."""
    count, lanes = noise.shape
    since = np.diff(histories.years, axis=0, prepend=0.0)
    first = histories.offset**2 + walk * histories.years
    off, gain, inverse = np.empty_like(asked), np.empty_like(noise), np.empty_like(noise)
    mean, variance = np.zeros(asked.shape[1:]), np.zeros(lanes)
    for i in range(count):
        new = histories.begins[i]
        variance = np.where(new, first[i], variance + walk * since[i])
        mean[new] = 0.0
        inverse[i] = 1.0 / (variance + noise[i])
        gain[i] = variance * inverse[i]
        ahead = asked[i] - mean
        off[i] = ahead * inverse[i][:, None]
        mean += gain[i][:, None] * ahead
        variance = noise[i] * gain[i]  # the same as (1 - gain) variance, and no difference of near equals
    solved, diagonal = np.empty_like(asked), np.empty_like(noise)
    behind, known = np.zeros(asked.shape[1:]), np.zeros(lanes)
    for i in range(count - 1, -1, -1):
        solved[i] = off[i] - gain[i][:, None] * behind
        diagonal[i] = inverse[i] + gain[i] ** 2 * known
        behind += solved[i]
        known = inverse[i] + (1.0 - gain[i]) ** 2 * known
        new = histories.begins[i]
        behind[new], known[new] = 0.0, 0.0
    return solved, diagonal, -np.log(inverse).sum(axis=0)
