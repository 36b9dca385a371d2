"""Budgets at their edges, simulation, propagation: what must hold whatever the numbers are."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from candor.core.errors import BudgetError, CancelledError
from candor.core.uncertainty.budget import Budget, Contribution, rectangular
from candor.core.uncertainty.coverage import ErrorDistribution, cover
from candor.core.uncertainty.propagation import propagate, type_a
from candor.core.uncertainty.simulate import simulate

sizes = st.floats(0, 1e6, allow_nan=False)


def test_nothing_uncertain():
    for budget in (Budget(()), Budget((Contribution("a", 0.0), rectangular("b", 0.0)))):
        coverage = cover(budget)
        assert (coverage.combined, coverage.expanded, coverage.reached) == (0.0, 0.0, 1.0)


@given(st.lists(st.tuples(sizes, st.floats(0.5, 100)), min_size=1, max_size=6))
def test_degrees_of_freedom_lie_between_smallest_and_sum(inputs):
    """JCGM 100:2008, G.4.1: nu_eff is at least the smallest and at most the sum of the nu_i."""
    budget = Budget(tuple(Contribution(str(i), u, 1.0, dof) for i, (u, dof) in enumerate(inputs)))
    if budget.combined > 1e-9:
        assert min(d for _, d in inputs) * 0.999 <= budget.effective_dof <= sum(d for _, d in inputs) * 1.001


@given(sizes, sizes)
def test_full_correlation_adds_or_cancels(a, b):
    pair = (Contribution("a", a), Contribution("b", b, -1.0))
    assert Budget(pair, {("a", "b"): 1.0}).combined == pytest.approx(abs(a - b), abs=1e-5 * (a + b) + 1e-12)
    assert Budget(pair, {("b", "a"): -1.0}).combined == pytest.approx(a + b, rel=1e-9)


@pytest.mark.parametrize(
    ("make", "words"),
    [
        (lambda: Contribution("x", -1.0), "“x” has the uncertainty -1.0"),
        (lambda: Contribution("x", math.nan), "a finite number"),
        (lambda: Contribution("x", 1.0, 1.0, 0.0), "0 degrees of freedom"),
        (lambda: Budget((Contribution("x", 1), Contribution("x", 2))), "the same name"),
        (lambda: Budget((Contribution("x", 1), Contribution("y", 2)), {("x", "y"): 1.2}), "from -1 to 1"),
        (lambda: Budget((Contribution("x", 1),), {("x", "z"): 0.1}), "two contributions of this budget"),
        (
            lambda: Budget((Contribution("x", 1, 1, 3), Contribution("y", 2, 1, 4)), {("x", "y"): 0.5}),
            "need the same degrees of freedom",
        ),
    ],
)
def test_impossible_budgets_are_refused(make, words):
    with pytest.raises(BudgetError, match=words):
        make()


def test_a_ruling_rectangle_rules_only_up_to_three_tenths():
    big = rectangular("big", math.sqrt(3))
    assert cover(Budget((big, Contribution("small", 0.2999)))).factor == pytest.approx(0.9545 * math.sqrt(3))
    assert cover(Budget((big, Contribution("small", 0.301)))).factor == pytest.approx(2.0, abs=1e-3)


@given(st.floats(0, 10), st.floats(0, 10), st.floats(-30, 30), st.floats(0, 30))
def test_distribution_function_rises_from_zero_to_one(half_width, spread, x, step):
    below = ErrorDistribution(half_width, spread).probability_below
    assert -1e-12 <= below(x) <= below(x + step) + 1e-9 <= 1 + 1e-8


@given(st.floats(0.01, 10), st.floats(0.001, 10), st.floats(0.5, 0.999))
def test_interval_covers_what_it_says(half_width, spread, probability):
    distribution = ErrorDistribution(half_width, spread)
    half = distribution.half_interval(probability)
    covered = distribution.probability_below(half) - distribution.probability_below(-half)
    assert covered == pytest.approx(probability, abs=1e-9)


def test_simulation_agrees_with_propagation_for_correlated_normals():
    """JCGM 101:2008, 8: where the model is linear and the inputs normal, both must agree."""
    inputs = (Contribution("a", 1.0, 2.0), Contribution("b", 0.5, -1.0), Contribution("c", 0.8))
    budget = Budget(inputs, {("a", "b"): 0.6, ("b", "c"): -0.2})
    drawn = simulate(budget, 400_000, seed=3)
    assert drawn.standard_deviation == pytest.approx(budget.combined, rel=5e-3)
    assert drawn.half_width == pytest.approx(cover(budget).expanded, rel=1e-2)


def test_simulation_of_few_repeats_is_wider_than_normal():
    """A scaled t for s/sqrt(n) with few degrees of freedom (JCGM 101:2008, 6.4.9.2)."""
    budget = Budget((Contribution("repeats", 1.0, 1.0, 3),))
    assert simulate(budget, 300_000).half_width == pytest.approx(cover(budget).expanded, rel=2e-2)


def test_simulation_can_be_stopped():
    asked = iter((False, False, True))
    with pytest.raises(CancelledError, match="after 200000 of 1000000 draws"):
        simulate(Budget((Contribution("a", 1.0),)), 1_000_000, should_stop=lambda: next(asked))


def test_propagation_through_a_straight_line_is_exact():
    slopes = np.array([[2.0, -1.0], [0.0, 3.0]])
    covariance = np.array([[0.04, 0.01], [0.01, 0.09]])
    values, result = propagate(lambda x: slopes @ x, [1.0, 0.0], covariance)
    assert values == pytest.approx([2.0, 0.0])
    assert result == pytest.approx(slopes @ covariance @ slopes.T, rel=1e-9)


def test_propagation_refuses_what_does_not_fit():
    with pytest.raises(BudgetError, match="2 values need a covariance of 2 x 2"):
        propagate(lambda x: x, [1.0, 2.0], np.eye(3))
    with pytest.raises(BudgetError, match="at least two rows"):
        type_a([[1.0, 2.0]])
