"""EA-4/02 M:2022, example S9: a hand-held multimeter at 100 V d.c. (values from memory)."""

import pytest

from candor.core.uncertainty.budget import Budget, Contribution, rectangular
from candor.core.uncertainty.coverage import cover
from candor.core.uncertainty.simulate import simulate
from candor.core.verdict.rules import Outcome, Rule, give_verdict

INDICATED, APPLIED = 100.1, 100.000


@pytest.fixture(scope="module")
def budget() -> Budget:
    return Budget(
        (
            rectangular("resolution", 0.05),
            Contribution("calibrator", 0.001),
            rectangular("calibrator, other effects", 0.011),
        )
    )


def test_error_and_uncertainty(budget):
    """E = 0.10 V, u = 0.030 V, U = 0.05 V as published with k = 1.65, that of the rectangle; the convolution gives 1.73."""
    coverage = cover(budget)
    assert pytest.approx(0.10, abs=1e-9) == INDICATED - APPLIED
    assert coverage.combined == pytest.approx(0.030, abs=5e-4)
    assert round(coverage.expanded, 2) == 0.05
    assert coverage.factor == pytest.approx(1.726, abs=1e-3)


def test_the_rest_taken_as_normal_gives_the_closed_form():
    """A rectangle with all the rest as one normal: k = 1.711, U = 0.0506 V, by the closed convolution of the two."""
    rest = Contribution("rest", (0.001**2 + 0.011**2 / 3) ** 0.5)
    coverage = cover(Budget((rectangular("resolution", 0.05), rest)))
    assert (coverage.factor, coverage.expanded) == pytest.approx((1.711, 0.0506), abs=5e-4)


def test_convolution_agrees_with_a_simulation(budget):
    """U against the quantiles of two million draws (JCGM 101)."""
    drawn = simulate(budget, 2_000_000)
    assert drawn.half_width == pytest.approx(cover(budget).expanded, rel=0.003)


def test_a_rectangle_alone_is_covered_exactly():
    """A pure rectangle is covered to 95.45 % by k = 0.9545 √3."""
    assert cover(Budget((rectangular("alone", 1.0),))).expanded == pytest.approx(0.9545, rel=1e-12)


def test_a_limit_of_that_size_cannot_be_told(budget):
    """With L = 0.12 V the error of 0.10 V is inside but not by U; with 0.16 V it is."""
    coverage = cover(budget)
    assert give_verdict(0.10, coverage, 0.12, Rule.GUARDED).outcome is Outcome.CANNOT_TELL
    assert give_verdict(0.10, coverage, 0.16, Rule.GUARDED).outcome is Outcome.PASS
