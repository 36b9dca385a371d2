"""A dozen budgets of our own against GTC, correlations and small degrees of freedom included, to six digits."""

import math

import GTC
import pytest

from candor.core.uncertainty.budget import Budget, Contribution
from candor.core.uncertainty.coverage import cover

INF = math.inf
# Each: inputs as (u, sensitivity, degrees of freedom), correlations as {(i, j): r}.
BUDGETS = [
    ([(1.0, 1.0, INF)], {}),
    ([(1.0, 1.0, 3)], {}),
    ([(0.3, 1.0, 2), (0.4, 1.0, INF)], {}),
    ([(0.3, 1.0, 2), (0.4, -1.0, 5), (0.1, 2.0, 11)], {}),
    ([(1e-6, 1e3, 4), (2e-3, -0.5, 9), (5e-4, 1.0, INF)], {}),
    ([(0.3, 1.0, INF), (0.4, 1.0, INF)], {(0, 1): 0.5}),
    ([(0.3, 1.0, INF), (0.4, -1.0, INF)], {(0, 1): 0.9}),
    ([(0.3, 2.0, INF), (0.4, 1.0, INF), (0.2, 1.0, 3)], {(0, 1): -0.7}),
    ([(0.5, 1.0, 4), (0.6, 1.0, 4)], {(0, 1): 0.4}),
    ([(0.5, 1.0, 4), (0.6, -2.0, 4), (0.3, 1.0, 7)], {(0, 1): -0.3}),
    ([(0.5, 1.0, 6), (0.6, 1.5, 6), (0.2, 1.0, 6), (0.1, 3.0, 2)], {(0, 1): 0.2, (1, 2): 0.5, (0, 2): -0.1}),
    ([(12.0, 0.1, 1), (0.9, 1.0, 2), (0.7, 1.0, INF), (0.4, -1.0, 30)], {}),
]


def ours(inputs, correlations) -> Budget:
    contributions = tuple(Contribution(str(i), u, c, dof) for i, (u, c, dof) in enumerate(inputs))
    return Budget(contributions, {(str(i), str(j)): r for (i, j), r in correlations.items()})


def theirs(inputs, correlations):
    """The same in GTC: correlated inputs with finite degrees of freedom are one ensemble there."""
    tied = sorted({i for pair in correlations for i in pair})
    together = bool(tied) and math.isfinite(inputs[tied[0]][2])
    made = {}
    if together:
        group = GTC.multiple_ureal([0.0] * len(tied), [inputs[i][0] for i in tied], inputs[tied[0]][2])
        made.update(dict(zip(tied, group, strict=True)))
    for i, (u, _, dof) in enumerate(inputs):
        made.setdefault(i, GTC.ureal(0.0, u, dof, independent=i not in tied))
    for (i, j), r in correlations.items():
        GTC.set_correlation(r, made[i], made[j])
    return sum(c * made[i] for i, (_, c, _) in enumerate(inputs))


@pytest.mark.parametrize(("inputs", "correlations"), BUDGETS)
def test_budget_against_gtc(inputs, correlations):
    budget, reference = ours(inputs, correlations), theirs(inputs, correlations)
    assert budget.combined == pytest.approx(reference.u, rel=1e-6)
    if math.isinf(reference.df) or reference.df > 1e6:
        assert budget.effective_dof > 1e6
    else:
        assert budget.effective_dof == pytest.approx(reference.df, rel=1e-6)


@pytest.mark.parametrize("dof", [1, 2, 3.7, 10, 50, INF])
def test_coverage_factor_against_gtc(dof):
    """k at 95.45 %: JCGM 100:2008, table G.2, as GTC computes it."""
    expected = GTC.reporting.k_factor(dof, 95.45)
    assert cover(Budget((Contribution("x", 1.0, 1.0, dof),))).factor == pytest.approx(expected, rel=1e-6)


@pytest.mark.parametrize(("dof", "printed"), [(1, 13.97), (2, 4.53), (5, 2.65), (10, 2.28), (20, 2.13), (50, 2.05)])
def test_coverage_factor_as_printed(dof, printed):
    """JCGM 100:2008, table G.2, column 95.45 %, to the digits printed."""
    assert round(cover(Budget((Contribution("x", 1.0, 1.0, dof),))).factor, 2) == printed
