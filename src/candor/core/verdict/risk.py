"""Shop-wide risk: how many instruments a rule lets pass or fails wrongly, before any is read."""

from __future__ import annotations

import math
from functools import cache

import numpy as np

from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.uncertainty.coverage import NORMAL
from candor.core.verdict.rules import Rule, has_guard_band
from candor.core.worded import worded


@dataclass(frozen=True)
class ShopRisk:
    """Shares of all instruments, 0 to 1.

    Attributes
    ----------
    false_accept : float
        Out of tolerance and passed.
    false_reject : float
        In tolerance and not passed ("cannot tell" counts: it does not pass).
    """

    false_accept: float
    false_reject: float


def shop_risk(
    test_uncertainty_ratio: float, in_tolerance: float = 0.95, rule: Rule = Rule.PLAIN, factor: float = 2.0
) -> ShopRisk:
    """Return global false-accept and false-reject shares (JCGM 106:2012, 9.5 and annex B).

    Parameters
    ----------
    test_uncertainty_ratio : float
        L / U, above zero.
    in_tolerance : float
        Share of such instruments in tolerance beforehand; their errors are taken as normal about zero.
    rule : Rule
        With a guard band it accepts within L - U, without one within L.
    factor : float
        k of that U: the readings are taken as normal with u = U / k.

    Raises
    ------
    RangeError
        Where ratio or share cannot be.
    """
    if not (test_uncertainty_ratio > 0 and 0 < in_tolerance < 1 and factor > 0):
        raise RangeError(
            worded(
                "verdict.risk_needs_a_ratio_and_a",
                test_uncertainty_ratio=test_uncertainty_ratio,
                factor=factor,
                in_tolerance=in_tolerance,
            )
        )
    prior = 1 / NORMAL.inv_cdf(0.5 + in_tolerance / 2)
    expanded = 1 / test_uncertainty_ratio
    u = expanded / factor
    accept = max(1 - expanded, 0.0) if has_guard_band(rule, expanded, 1.0) else 1.0
    if accept == 0 and expanded >= 1:  # the guard bands meet: nothing is accepted
        return ShopRisk(0.0, in_tolerance)
    inside, weights = _nodes()
    tail = 1 + (inside + 1) / 2 * (9 * prior)
    share_out = 2 * _sum(x=tail, weights=weights * 9 * prior / 2, prior=prior, accept=accept, u=u)
    half_in = (inside + 1) / 2
    share_in = 2 * _sum(x=half_in, weights=weights / 2, prior=prior, accept=accept, u=u)
    return ShopRisk(share_out, in_tolerance - share_in)


@cache
def _nodes() -> tuple[np.ndarray, np.ndarray]:
    # Nodes crowd at the limit: even for a u of a thousandth of it, the step of acceptance is several of them wide.
    return np.polynomial.legendre.leggauss(400)


def _sum(x: np.ndarray, weights: np.ndarray, prior: float, accept: float, u: float) -> float:
    """Integrate the prior density times the chance of being accepted at true error x."""
    from scipy.special import ndtr  # imported here: risk is shown on request, and it is slow to load

    density = np.exp(-0.5 * (x / prior) ** 2) / (prior * math.sqrt(2 * math.pi))
    chance = ndtr((accept - x) / u) - ndtr((-accept - x) / u)
    return float(np.sum(weights * density * chance))
