"""From a budget to an expanded uncertainty."""

from __future__ import annotations

import math

from candor.core.late_dataclass import dataclass
from candor.core.uncertainty.budget import Budget
from candor.core.uncertainty.distribution import NORMAL as NORMAL
from candor.core.uncertainty.distribution import ErrorDistribution as ErrorDistribution
from candor.core.worded import worded

COVERAGE_PROBABILITY = 0.9545
FEW_DOF = 3.0  # below that what U covers in the long run was seen to miss 95.45 % by more than a point


@dataclass(frozen=True)
class Coverage:
    """An expanded uncertainty and how it was come by.

    Attributes
    ----------
    combined : float
        Combined standard uncertainty u_c.
    factor : float
        Coverage factor k = U / u_c.
    expanded : float
        U.
    dof : float
        Effective degrees of freedom (Welch-Satterthwaite), printed only: k does not come from it.
    probability : float
        Coverage probability.
    distribution : ErrorDistribution
    reason : str
        What k was taken from, with its source.
    """

    combined: float
    factor: float
    expanded: float
    dof: float
    probability: float
    distribution: ErrorDistribution
    reason: str


def cover(budget: Budget, probability: float = COVERAGE_PROBABILITY) -> Coverage:
    """Expand a budget to a coverage probability: U = h with P(|X| <= h) = `probability`.

    X is the convolution of every term in its own distribution: rectangle, normal, t scaled by its s/√n; terms that are
    correlated are merged first (JCGM 101:2008, 6.4; EA-4/02 M:2022, S9, where one rectangle rules). A smaller term so
    never makes a larger U.

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
    distribution = distribution_of(budget)
    if combined == 0:
        return Coverage(
            combined=0.0,
            factor=2.0,
            expanded=0.0,
            dof=dof,
            probability=probability,
            distribution=distribution,
            reason=worded("uncertainty.no_contribution_is_above_zero"),
        )
    expanded = distribution.half_interval(probability)
    return Coverage(
        combined=combined,
        factor=expanded / combined,
        expanded=expanded,
        dof=dof,
        probability=probability,
        distribution=distribution,
        reason=_reason(budget, dof),
    )


def distribution_of(budget: Budget) -> ErrorDistribution:
    """Return the distribution of the error about its best estimate, in the unit of the result: the convolution of all terms
    (JCGM 101:2008, 5.2)."""
    rectangles, students, mixtures, variance = [], [], [], 0.0
    for group in budget.groups():
        size = budget.size_of(group)
        if size == 0:
            continue
        shape, mixture = budget.shape_of(group), budget.mixture_of(group)
        if mixture is not None:
            mixtures.append(mixture)
        elif shape == "rectangular":
            rectangles.append(size * math.sqrt(3))
        elif math.isinf(group[0].dof):
            variance += size**2
        else:
            students.append((size, group[0].dof))
    return ErrorDistribution(
        tuple(sorted(rectangles)), math.sqrt(variance), tuple(sorted(students)), mixtures=tuple(mixtures)
    )


def _reason(budget: Budget, dof: float) -> str:
    first = budget.largest_first()[0]
    shapes = {"rectangular": "a rectangle", "normal": "a normal" if math.isinf(first.dof) else "a t"}
    words = worded("uncertainty.from_the_convolution_of_all_terms", shapes=shapes[first.shape], name=first.name)
    if dof < FEW_DOF:
        words += worded("uncertainty.with_effective_degrees_of_freedom_u", dof=dof)
    return words
