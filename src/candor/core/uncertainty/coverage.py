"""From a budget to an expanded uncertainty, and the distribution of what is not known."""

from __future__ import annotations

import math
from dataclasses import dataclass
from statistics import NormalDist

from candor.core.uncertainty.budget import Budget

COVERAGE_PROBABILITY = 0.9545
RULING_RATIO = 0.3
NORMAL = NormalDist()


@dataclass(frozen=True)
class ErrorDistribution:
    """The distribution of the error about its best estimate: rectangular plus normal, or scaled t.

    Attributes
    ----------
    half_width : float
        Of the rectangular part, in the unit of the result; zero for none.
    spread : float
        Standard deviation of the normal part, or scale of the t.
    dof : float
        Degrees of freedom of the t; infinite where a rectangular part is present.
    """

    half_width: float
    spread: float
    dof: float = math.inf

    def probability_below(self, x: float) -> float:
        """Return P(X <= x); for rectangular plus normal by the convolution in closed form."""
        a, s = self.half_width, self.spread
        if x < 0:  # by symmetry: the tail above is the one that can be computed without cancellation
            return 1.0 - self.probability_below(-x)
        if a > 0 and s <= a * 1e-9:
            return min(max((x + a) / (2 * a), 0.0), 1.0)
        if a > s * 1e-6:
            tail = (_integral_of_tail((x - a) / s) - _integral_of_tail((x + a) / s)) * s / (2 * a)
            return 1.0 - tail
        if s == 0:
            return 1.0
        return NORMAL.cdf(x / s) if math.isinf(self.dof) else _student_below(self.dof, x / s)

    def half_interval(self, probability: float) -> float:
        """Return h with P(-h <= X <= h) = `probability`, in the unit of the result."""
        upper = 0.5 + probability / 2
        if self.half_width == 0:
            return self.spread * (NORMAL.inv_cdf(upper) if math.isinf(self.dof) else _student_factor(self.dof, upper))
        low, high = 0.0, self.half_width + 10 * self.spread
        for _ in range(200):  # bisection down to the last bit: the distribution is smooth and one-humped
            middle = (low + high) / 2
            if middle in (low, high):
                break
            low, high = (middle, high) if self.probability_below(middle) < upper else (low, middle)
        return (low + high) / 2


@dataclass(frozen=True)
class Coverage:
    """An expanded uncertainty and how it was come by.

    Attributes
    ----------
    combined : float
        Combined standard uncertainty u_c.
    factor : float
        Coverage factor k.
    expanded : float
        U = k u_c.
    dof : float
        Effective degrees of freedom.
    probability : float
        Coverage probability.
    distribution : ErrorDistribution
    reason : str
        Which rule gave k, with its source.
    """

    combined: float
    factor: float
    expanded: float
    dof: float
    probability: float
    distribution: ErrorDistribution
    reason: str

    @property
    def reached(self) -> float:
        """The probability that U covers by the full distribution: P(-U <= X <= U)."""
        if self.combined == 0:
            return 1.0
        below = self.distribution.probability_below
        return below(self.expanded) - below(-self.expanded)


def cover(budget: Budget, probability: float = COVERAGE_PROBABILITY) -> Coverage:
    """Expand a budget to a coverage probability.

    One rectangular contribution rules when everything else together is at most 0.3 of it; k is then
    that of the rectangle, p sqrt(3), 1.65 at 95.45 % (EA-4/02 M:2022, S9.14). The distribution kept is
    the full convolution of the rectangle with a normal of the rest, and `reached` says what U covers by it
    (about 93 % where the rest is just 0.3). Otherwise k is the t factor for the effective degrees of
    freedom (JCGM 100:2008, G.3 and G.4).

    Parameters
    ----------
    budget : Budget
    probability : float
        Between 0 and 1.

    Returns
    -------
    Coverage
        In the unit of the budget's result.
    """
    combined, dof = budget.combined, budget.effective_dof
    distribution, reason = _distribution(budget, combined, dof)
    if combined == 0:
        return Coverage(0.0, 2.0, 0.0, dof, probability, distribution, "no contribution is above zero")
    ruled = distribution.half_width > 0
    factor = probability * math.sqrt(3) if ruled else distribution.half_interval(probability) / combined
    return Coverage(combined, factor, factor * combined, dof, probability, distribution, reason)


def _distribution(budget: Budget, combined: float, dof: float) -> tuple[ErrorDistribution, str]:
    single = [group[0] for group in budget.groups() if len(group) == 1]
    ruling = max((c for c in single if c.shape == "rectangular"), key=lambda c: c.size, default=None)
    if ruling is not None and ruling.size > 0:
        rest = math.sqrt(max(combined**2 - ruling.size**2, 0.0))
        if rest <= RULING_RATIO * ruling.size:
            shape = ErrorDistribution(ruling.size * math.sqrt(3), rest)
            return (
                shape,
                f"one rectangular term rules ({ruling.name}), so k is that of a rectangle (EA-4/02, S9)",
            )
    if math.isinf(dof):
        return ErrorDistribution(0.0, combined), "many small terms, so k of the normal distribution (JCGM 100, G.6)"
    words = f"k of the t distribution with {dof:.0f} effective degrees of freedom (JCGM 100, G.4)"
    return ErrorDistribution(0.0, combined, dof), words


def _student_below(dof: float, t: float) -> float:
    from scipy.special import stdtr  # imported here: only small samples need it, and it is slow to load

    return float(stdtr(dof, t))


def _student_factor(dof: float, probability: float) -> float:
    from scipy.special import stdtrit

    return float(stdtrit(dof, probability))


def _integral_of_tail(z: float) -> float:
    """Return the integral of the upper tail of the standard normal from `z` on: phi(z) - z (1 - Phi(z))."""
    if z > 40:  # the tail is below the smallest number there is
        return 0.0
    return math.exp(-0.5 * z * z) / math.sqrt(2 * math.pi) - z * NORMAL.cdf(-z)
