"""Monte Carlo propagation of a budget after JCGM 101:2008, on demand and as a check."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np

from candor.core.errors import CancelledError
from candor.core.late_dataclass import dataclass
from candor.core.uncertainty.budget import Budget, Contribution
from candor.core.uncertainty.coverage import COVERAGE_PROBABILITY
from candor.core.worded import worded

CHUNK = 100_000


@dataclass(frozen=True)
class Simulation:
    """What the draws came to, in the unit of the result.

    Attributes
    ----------
    draws : int
    standard_deviation : float
    low, high : float
        Ends of the probabilistically symmetric coverage interval (JCGM 101:2008, 5.3.3).
    """

    draws: int
    standard_deviation: float
    low: float
    high: float

    @property
    def half_width(self) -> float:
        """Half the coverage interval, to hold against U."""
        return (self.high - self.low) / 2


def simulate(
    budget: Budget,
    draws: int = 1_000_000,
    seed: int = 1,
    probability: float = COVERAGE_PROBABILITY,
    should_stop: Callable[[], bool] = lambda: False,
) -> Simulation:
    """Draw every input from its distribution and take quantiles of the sum about the estimate.

    Correlated inputs are drawn as one: a sum of joint normals is normal (JCGM 101:2008, 6.4.8), of inputs observed
    together a t with their common degrees of freedom.

    Raises
    ------
    CancelledError
        When `should_stop` answers True; it is asked before every 100 000 draws.
    """
    generator = np.random.default_rng(seed)
    result = np.empty(draws)
    groups = budget.groups()
    for start in range(0, draws, CHUNK):
        if should_stop():
            raise CancelledError(worded("uncertainty.the_simulation_was_stopped_after_of", start=start, draws=draws))
        part = result[start : start + CHUNK]
        part[:] = 0.0
        for group in groups:
            part += _draw_group(budget, group, part.size, generator)
    tail = (1 - probability) / 2
    low, high = np.quantile(result, (tail, 1 - tail))
    return Simulation(draws, float(result.std()), float(low), float(high))


def _draw_group(budget: Budget, group: list[Contribution], count: int, generator: np.random.Generator) -> np.ndarray:
    size, dof, mixture = budget.size_of(group), group[0].dof, budget.mixture_of(group)
    if mixture is not None:
        apart = sum(generator.uniform(-half, half, count) for half in mixture.half_widths)
        tied = generator.uniform(-mixture.tied, mixture.tied, count)
        return np.where(generator.random(count) < mixture.share, tied, apart)
    if budget.shape_of(group) == "rectangular":
        half_width = size * math.sqrt(3)
        return generator.uniform(-half_width, half_width, count)
    if math.isinf(dof):
        return generator.standard_normal(count) * size  # a sum of joint normals is normal
    return generator.standard_t(dof, count) * size  # observed together, they keep their degrees of freedom
