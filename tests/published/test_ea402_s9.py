"""EA-4/02 M:2022, example S9: a hand-held multimeter at 100 V d.c. (values from memory)."""

import pytest

from candor.core.uncertainty.budget import Budget, Contribution, rectangular
from candor.core.uncertainty.coverage import cover
from candor.core.uncertainty.simulate import simulate
from candor.core.verdict.rules import Outcome, Rule, judge

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
    """E = 0.10 V, u = 0.030 V, k = 1.65, U = 0.05 V."""
    coverage = cover(budget)
    assert pytest.approx(0.10, abs=1e-9) == INDICATED - APPLIED
    assert coverage.combined == pytest.approx(0.030, abs=5e-4)
    assert round(coverage.factor, 2) == 1.65
    assert round(coverage.expanded, 2) == 0.05
    assert "EA-4/02" in coverage.reason


def test_convolution_agrees_with_a_simulation(budget):
    """What U truly covers, the closed form of rectangle plus normal, against a million draws (JCGM 101)."""
    coverage = cover(budget)
    drawn = simulate(budget, 1_000_000, probability=coverage.reached)
    assert drawn.half_width == pytest.approx(coverage.expanded, rel=0.01)
    assert 0.93 < coverage.reached < 0.9545


def test_a_rectangle_alone_is_covered_exactly():
    """k = 0.9545 sqrt(3) of a pure rectangle covers 95.45 %, neither more nor less."""
    coverage = cover(Budget((rectangular("alone", 1.0),)))
    assert coverage.expanded == pytest.approx(0.9545, rel=1e-12)
    assert coverage.reached == pytest.approx(0.9545, rel=1e-12)


def test_a_limit_of_that_size_cannot_be_told(budget):
    """With L = 0.12 V the error of 0.10 V is inside but not by U; with 0.16 V it is."""
    coverage = cover(budget)
    assert judge(0.10, coverage, 0.12, Rule.GUARDED).outcome is Outcome.CANNOT_TELL
    assert judge(0.10, coverage, 0.16, Rule.GUARDED).outcome is Outcome.PASS
