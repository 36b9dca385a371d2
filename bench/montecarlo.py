"""A million draws of a four-term budget, against plain NumPy doing the same draws and quantiles."""

from __future__ import annotations

import numpy as np

from candor.core.uncertainty.budget import Budget, Contribution, rectangular
from candor.core.uncertainty.simulate import simulate
from timing import in_turn, report

DRAWS = 1_000_000
BUDGET = Budget(
    (
        rectangular("needle", 1.0),
        rectangular("friction", 0.3),
        Contribution("repeats", 0.1, dof=4),
        Contribution("reference", 0.01),
    )
)


def plain() -> None:
    """The same with nothing but NumPy."""
    generator = np.random.default_rng(1)
    total = generator.uniform(-1.0, 1.0, DRAWS)
    total += generator.uniform(-0.3, 0.3, DRAWS)
    total += generator.standard_t(4, DRAWS) * 0.1
    total += generator.standard_normal(DRAWS) * 0.01
    np.quantile(total, (0.02275, 0.97725))
    total.std()


if __name__ == "__main__":
    ours, other = in_turn(lambda: simulate(BUDGET, DRAWS), plain, 9)
    report("Monte Carlo, 1 000 000 draws of four terms", ours, other, "plain NumPy", 1.5)
