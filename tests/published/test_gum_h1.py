"""JCGM 100:2008, annex H.1: calibration of an end gauge (values from memory, confirmed with GTC)."""

import math

import GTC
import pytest
from scipy import stats

from candor.core.uncertainty.budget import Budget, Contribution
from candor.core.uncertainty.coverage import cover
from candor.core.uncertainty.simulate import simulate

LENGTH_NM = 50_000_623.0
EXPANSION = 11.5e-6

# name, u, sensitivity in nm per unit, degrees of freedom: table H.1
INPUTS = (
    ("standard", 25.0, 1.0, 18.0),
    ("difference", 9.7, 1.0, 25.6),
    ("difference of expansion", 0.58e-6, LENGTH_NM * 0.1, 50.0),
    ("difference of temperature", 0.029, -LENGTH_NM * EXPANSION, 2.0),
)


@pytest.fixture(scope="module")
def budget() -> Budget:
    return Budget(tuple(Contribution(n, u, c, dof) for n, u, c, dof in INPUTS))


def test_combined_uncertainty_and_degrees_of_freedom(budget):
    """u_c = 32 nm, 16 effective degrees of freedom once rounded down (H.1.6)."""
    assert budget.combined == pytest.approx(32.0, abs=0.5)
    assert math.floor(budget.effective_dof) == 16


def test_expanded_uncertainty_at_99_per_cent(budget):
    """U_99 = 2.92 x 32 nm = 93 nm by the printed degrees of freedom; the term known with 2 makes the convolution wider."""
    factor = stats.t.ppf(0.995, math.floor(budget.effective_dof))
    assert factor == pytest.approx(2.92, abs=0.005)
    assert factor * budget.combined == pytest.approx(93, abs=1)
    drawn = simulate(budget, 1_000_000, probability=0.99)
    assert cover(budget, 0.99).expanded == pytest.approx(drawn.half_width, rel=0.02)


def test_same_as_gtc_to_six_digits(budget):
    total = sum(c * GTC.ureal(0, u, dof) for _, u, c, dof in INPUTS)
    assert budget.combined == pytest.approx(total.u, rel=1e-6)
    assert budget.effective_dof == pytest.approx(total.df, rel=1e-6)
