"""Linear propagation of uncertainty through any function, several results at once."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np
from numpy.typing import NDArray

from candor.core.errors import BudgetError
from candor.core.worded import worded

Vector = NDArray[np.float64]


def type_a(observations: Any) -> tuple[Vector, Vector]:
    """Return means and the covariance of the means of repeated simultaneous observations.

    Parameters
    ----------
    observations : array_like, shape (n, q)
        n sets of q quantities, n at least 2, each in its own unit.

    Returns
    -------
    means : ndarray, shape (q,)
    covariance : ndarray, shape (q, q)
        JCGM 100:2008, 5.2.3: sum of products of deviations / (n (n - 1)).

    Raises
    ------
    BudgetError
        Where there are fewer than two rows.
    """
    data = np.asarray(observations, dtype=float)
    if data.ndim != 2 or data.shape[0] < 2:
        raise BudgetError(worded("uncertainty.repeated_observations_need_at_least_two"))
    deviations = data - data.mean(axis=0)
    count = data.shape[0]
    return data.mean(axis=0), deviations.T @ deviations / (count * (count - 1))


def propagate(function: Callable[[Vector], Any], values: Any, covariance: Any) -> tuple[Vector, Vector]:
    """Propagate a covariance matrix through `function` to first order.

    U_y = C U_x Cᵀ (JCGM 102:2011, 6.2), with C by central differences refined once by
    Richardson's rule, stepping each input by its own standard uncertainty / 10.

    Parameters
    ----------
    function : callable
        Takes shape (q,), returns shape (m,).
    values : array_like, shape (q,)
    covariance : array_like, shape (q, q)

    Returns
    -------
    results : ndarray, shape (m,)
    covariance : ndarray, shape (m, m)

    Raises
    ------
    BudgetError
        Where values and covariance do not fit.
    """
    x = np.asarray(values, dtype=float)
    u = np.asarray(covariance, dtype=float)
    if u.shape != (x.size, x.size):
        raise BudgetError(worded("uncertainty.values_need_a_covariance_of_x", size=x.size, shape=u.shape))
    columns = []
    for index in range(x.size):
        step = np.zeros_like(x)
        # A tenth of u: small beside where it curves, large beside what rounding takes; two widths cancel the cubic (Richardson).
        step[index] = np.sqrt(u[index, index]) / 10 or abs(x[index]) * 1e-6 or 1e-6
        wide, narrow = (_slope(function, x, step * share, index) for share in (1.0, 0.5))
        columns.append((4 * narrow - wide) / 3)
    jacobian = np.stack(columns, axis=1)
    return np.atleast_1d(np.asarray(function(x), dtype=float)), jacobian @ u @ jacobian.T


def _slope(function: Callable[[Vector], Any], x: Vector, step: Vector, index: int) -> Vector:
    ahead = np.atleast_1d(np.asarray(function(x + step), dtype=float))
    behind = np.atleast_1d(np.asarray(function(x - step), dtype=float))
    slope: Vector = (ahead - behind) / (2 * step[index])
    return slope
