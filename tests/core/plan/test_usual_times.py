"""How long work takes: what is usual gives way to what the shop's own entries say."""

from __future__ import annotations

import math

import numpy as np
import pytest

from candor.core.plan.usual_times import SPREAD, USUAL, WEIGHT, together, took


def test_without_figures_it_is_what_is_usual() -> None:
    found = took("fit")
    assert (found.minutes, found.spread, found.count) == (USUAL["fit"], SPREAD, 0)


def test_few_figures_move_it_by_their_weight() -> None:
    found = took("fit", [24.0] * 4)
    assert found.minutes == pytest.approx(math.exp((WEIGHT * math.log(12) + 4 * math.log(24)) / (WEIGHT + 4)))
    assert found.count == 4
    squares = (
        WEIGHT * 4 / (WEIGHT + 4) * math.log(2) ** 2
    )  # they are far from what is usual: nobody knows it well yet
    assert found.spread == pytest.approx(math.sqrt((WEIGHT * SPREAD**2 + squares) / (WEIGHT + 4)))


def test_many_figures_win_whatever_they_are_like() -> None:
    """Gamma times, not the model's: median and the two thirds of cases come out within a tenth."""
    draws = np.random.default_rng(2).gamma(3.0, 2.0, 400)
    found = took("part", draws)
    low, high = found.likely()
    assert found.minutes == pytest.approx(np.median(draws), rel=0.1)
    assert np.mean((draws > low) & (draws < high)) == pytest.approx(0.68, abs=0.06)


def test_what_was_typed_in_afterwards_or_left_overnight_does_not_count() -> None:
    assert took("part", [0.05, 600.0]).count == 0


def test_many_of_it_take_so_many_times_as_long() -> None:
    assert took("step").likely(10)[0] == pytest.approx(10 * took("step").likely()[0])


def test_works_one_after_the_other_add_up_as_draws_do():
    """Fenton's sum against drawn log-normals: median and the two thirds of cases within a twentieth."""
    draw = np.random.default_rng(8)
    parts = [(took("walk"), 1), (took("part"), 20), (took("step"), 50), (took("release"), 1)]
    sums = sum(many * one.minutes * np.exp(one.spread * draw.standard_normal(40_000)) for one, many in parts)
    found = together(parts)
    low, high = found.likely()
    assert found.minutes == pytest.approx(np.median(sums), rel=0.05)
    assert np.mean((sums > low) & (sums < high)) == pytest.approx(0.683, abs=0.05)
    assert together([]).minutes == 0.0
