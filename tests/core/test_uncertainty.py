"""Budgets at their edges, simulation, propagation: what must hold whatever the numbers are."""

import itertools
import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import integrate, stats

from candor.core.errors import BudgetError, CancelledError
from candor.core.uncertainty.budget import Budget, Contribution, rectangular
from candor.core.uncertainty.coverage import cover, distribution_of
from candor.core.uncertainty.distribution import student_characteristic
from candor.core.uncertainty.propagation import propagate, type_a
from candor.core.uncertainty.simulate import simulate

sizes = st.floats(0, 1e6, allow_nan=False)


def test_nothing_uncertain():
    for budget in (Budget(()), Budget((Contribution("a", 0.0), rectangular("b", 0.0)))):
        coverage = cover(budget)
        assert (coverage.combined, coverage.expanded) == (0.0, 0.0)
        assert coverage.distribution.probability_within(0.0) == 1.0


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


@pytest.mark.parametrize(("u", "r"), [(0.9, -0.9), (0.8, -0.4)])
def test_correlations_that_cannot_all_hold_are_refused(u, r):
    """A correlation matrix has no eigenvalue below zero; rounding to two decimals is forgiven (GUM H.2 has -0.0005)."""
    three = tuple(Contribution(name, 1.0) for name in "abc")
    with pytest.raises(BudgetError, match="cannot all hold"):
        Budget(three, {("a", "b"): u, ("b", "c"): u, ("a", "c"): r})
    Budget(three, {("a", "b"): -0.588, ("a", "c"): -0.485, ("b", "c"): 0.993})


@pytest.mark.parametrize(("normal", "expanded"), [(0.0, 4.527), (0.5, 4.603), (1.0, 4.843)])
def test_a_t_of_two_degrees_beside_a_normal(normal, expanded):
    """Against adaptive quadrature of the t's density times the normal's distribution function (SciPy)."""
    coverage = cover(Budget((Contribution("repeats", 1.0, dof=2), Contribution("other", normal))))
    assert coverage.expanded == pytest.approx(expanded, abs=6e-4)
    if normal:
        found = integrate.quad(
            lambda x: stats.t.pdf(x, 2) * (stats.norm.cdf(coverage.expanded - x, scale=normal)),
            -np.inf,
            np.inf,
            limit=400,
        )[0]
        assert 2 * found - 1 == pytest.approx(0.9545, abs=2e-6)


@pytest.mark.parametrize("dof", [1, 2, 3, 7.5, 40, 90])
def test_characteristic_function_of_t_against_its_integral(dof):
    """E cos(tX) of Student's t by SciPy's quadrature of the density."""
    for t in (0.05, 0.4, 1.3, 3.0):
        found = 2 * integrate.quad(lambda x: stats.t.pdf(x, dof), 0, np.inf, weight="cos", wvar=t)[0]
        assert student_characteristic(np.array([t]), dof)[0] == pytest.approx(found, abs=2e-6)


terms = st.lists(
    st.tuples(st.floats(0.01, 10), st.sampled_from(["rectangular", "normal", 1.0, 2.0, 5.0])), min_size=1, max_size=4
)


def term(name: str, u: float, shape) -> Contribution:
    if isinstance(shape, float):
        return Contribution(name, u, dof=shape)
    return Contribution(name, u, shape=shape)


@given(terms, st.floats(0, 10), st.floats(0, 10), st.sampled_from(["rectangular", "normal", 1.0, 3.0]))
def test_a_smaller_term_never_makes_a_larger_uncertainty(inputs, one, other, shape):
    kept = tuple(term(f"{i}", u, s) for i, (u, s) in enumerate(inputs))
    smaller, larger = (cover(Budget((*kept, term("x", u, shape)))).expanded for u in sorted((one, other)))
    assert smaller <= larger * (1 + 1e-5)


@given(terms)
def test_what_is_covered_is_what_is_said(inputs):
    budget = Budget(tuple(term(f"{i}", u, s) for i, (u, s) in enumerate(inputs)))
    coverage = cover(budget)
    below = coverage.distribution.probability_below
    assert below(coverage.expanded) - below(-coverage.expanded) == pytest.approx(0.9545, abs=1e-5)
    assert below(0.0) == pytest.approx(0.5, abs=1e-12)
    assert 0 <= below(-2 * coverage.expanded) <= below(0.3 * coverage.expanded) <= below(5 * coverage.expanded) <= 1


@pytest.mark.parametrize(
    "budget",
    [
        (rectangular("a", 1.0), Contribution("b", 0.4, dof=1)),
        (rectangular("a", 1.0), rectangular("b", 0.3), Contribution("c", 0.2, dof=4), Contribution("d", 0.1)),
        (rectangular("a", 0.2), Contribution("b", 0.5, dof=3), Contribution("c", 0.5, dof=8)),
    ],
)
def test_convolution_against_a_million_draws(budget):
    drawn = simulate(Budget(budget), 1_000_000, seed=5)
    assert cover(Budget(budget)).expanded == pytest.approx(drawn.half_width, rel=0.012)


def test_repeats_beside_a_rectangle_cover_what_they_say_in_the_long_run():
    """Budgets of a needle's rectangle and n repeats: within a point of 95.45 % from 3 effective degrees of freedom."""
    generator = np.random.default_rng(2)
    for count in (4, 7):
        for ratio in (0.3, 1.0, 3.0):
            rounding = generator.uniform(-1, 1, 4000)
            draws = generator.normal(0, ratio, (4000, count))
            error, s = rounding + draws.mean(1), draws.std(1, ddof=1) / math.sqrt(count)
            levels = np.quantile(s, np.linspace(0.02, 0.98, 25))  # U is smooth in s: interpolated between some
            half = [
                cover(Budget((rectangular("n", 1.0), Contribution("r", x, dof=count - 1)))).expanded for x in levels
            ]
            covered = np.mean(np.abs(error) <= np.interp(s, levels, half))
            assert covered == pytest.approx(0.9545, abs=0.016)  # a point, and 1.5 standard deviations of 4000 draws


def test_normals_that_are_apart_add_in_squares_beside_a_rectangle():
    one = cover(Budget((rectangular("r", 1.0), Contribution("n", 1.0))))
    two = cover(Budget((rectangular("r", 1.0), Contribution("a", 0.6), Contribution("b", 0.8))))
    assert two.expanded == pytest.approx(one.expanded, rel=1e-9)


def test_far_out_the_tail_is_that_of_its_t():
    """Beyond what is calculated the t of two degrees alone counts: 2 (1 - F(x)), SciPy's."""
    found = distribution_of(Budget((rectangular("r", 1.0), Contribution("repeats", 1.0, dof=2))))
    for x in (1e4, 1e6):
        assert 1 - found.probability_within(x) == pytest.approx(2 * stats.t.sf(x, 2), rel=1e-3)


def test_two_observations_are_enough_for_a_spread():
    """JCGM 100:2008, 4.2.3 with n = 2: u of the mean is half the difference."""
    means, covariance = type_a([[1.0, 5.0], [2.0, 9.0]])
    assert list(means) == [1.5, 7.0]
    assert covariance == pytest.approx(np.array([[0.25, 1.0], [1.0, 4.0]]))
    with pytest.raises(BudgetError, match="two rows"):
        type_a([[1.0, 5.0]])


def test_few_degrees_of_freedom_are_said():
    rough = cover(Budget((Contribution("repeats (2)", 1.0, dof=1),)))
    assert "1 effective degrees of freedom U covers about 92 in 100" in rough.reason
    assert "rough" not in cover(Budget((Contribution("repeats (5)", 1.0, dof=4),))).reason


def test_fully_tied_rectangles_stay_one_rectangle():
    pair = (rectangular("a", 1.0), rectangular("b", 0.5))
    assert distribution_of(Budget(pair, {("a", "b"): 1.0})).rectangles == pytest.approx((1.5,))
    assert simulate(Budget(pair, {("a", "b"): 1.0}), 100_000).half_width == pytest.approx(1.5 * 0.9545, rel=5e-3)


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


def test_simulation_of_correlated_repeats_keeps_their_degrees_of_freedom():
    """Observed together over three rounds: a t with two degrees of freedom, not a normal."""
    budget = Budget((Contribution("a", 1.0, dof=2), Contribution("b", 0.7, dof=2)), {("a", "b"): 0.5})
    assert simulate(budget, 400_000).half_width == pytest.approx(cover(budget).expanded, rel=2e-2)
    assert cover(budget).factor == pytest.approx(4.527, abs=1e-3)


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


@pytest.mark.parametrize("widths", [(1.0, 1.0), (1.0, 0.2), (1.0, 0.7, 0.5)])
@pytest.mark.parametrize("sign", [1, -1])
def test_rectangles_tied_in_part_are_covered_and_u_rises_with_r(widths, sign):
    """Drawn as defined: with probability r one draw for all, else each its own, so each stays a rectangle (200 000 draws)."""
    generator, count, found = np.random.default_rng(6), 200_000, []
    names = [str(i) for i in range(len(widths))]
    terms = tuple(
        replace(rectangular(n, w), sensitivity=sign if n == "1" else 1.0) for n, w in zip(names, widths, strict=True)
    )
    for r in (0.0, 0.2, 0.5, 0.8, 0.99, 1.0):
        tied = sign * r
        pairs = {(a, b): tied if "1" in (a, b) else r for i, a in enumerate(names) for b in names[i + 1 :]}
        coverage = cover(Budget(terms, pairs))
        one = generator.random(count) < r
        common = generator.uniform(-1, 1, count)
        drawn = sum(w * np.where(one, common, generator.uniform(-1, 1, count)) for w in widths)
        assert np.mean(abs(drawn) <= coverage.expanded) == pytest.approx(0.9545, abs=0.003)
        found.append(coverage.expanded)
        half = simulate(Budget(terms, pairs), 200_000).half_width
        assert half == pytest.approx(coverage.expanded, rel=0.01)
    assert found == sorted(found)


def test_what_a_factor_comes_from_is_said_of_the_largest_and_of_few_degrees_of_freedom():
    many = cover(Budget((rectangular("scale", 1.0), Contribution("noise", 0.1))))
    assert "a rectangle" in many.reason and "scale" in many.reason and "degrees of freedom" not in many.reason
    few = cover(Budget((Contribution("repeats", 1.0, dof=2), rectangular("scale", 0.1))))
    assert "a t" in few.reason and "repeats" in few.reason and "degrees of freedom" in few.reason
    assert "a normal" in cover(Budget((Contribution("noise", 1.0), rectangular("scale", 0.3)))).reason
    nothing = cover(Budget(()))
    assert (nothing.combined, nothing.expanded, nothing.dof) == (0.0, 0.0, math.inf)


@pytest.mark.parametrize("sensitivities", [(1.0, -1.0), (1.0, 1.0, -0.5)])
@pytest.mark.parametrize("r", [0.25, 0.75])
def test_rectangles_tied_in_part_take_one_draw_as_often_as_is_said(sensitivities, r):
    """Of 1, 1 and -0.5 the variance says nothing of r: there it is what was said."""
    group = [replace(rectangular(name, 1.0), sensitivity=c) for name, c in zip("abc", sensitivities, strict=False)]
    pairs = {(a.name, b.name): r for a, b in itertools.combinations(group, 2)}
    mixture = Budget(tuple(group), correlations=pairs).mixture_of(group)
    assert mixture is not None
    assert (mixture.share, mixture.tied) == pytest.approx((r, abs(sum(sensitivities))))


@pytest.mark.parametrize("dof", [3, 8])
def test_far_out_a_students_tails_are_its_own(dof):
    """Against SciPy's: beyond the table the tails of each t are added up."""
    scale = 0.3
    found = distribution_of(Budget((Contribution("t", scale, dof=dof), rectangular("r", 1e-6))))
    for times in (30.0, 300.0):
        assert 1 - found.probability_within(times * scale) == pytest.approx(
            2 * stats.t.sf(times, dof), rel=0.05, abs=1e-12
        )
