"""Adjusters that move each other: by hand, by brute force, by a simulated dial; what diverges is said."""

import itertools
import json

import numpy as np
import pytest
from scipy.optimize import minimize
from typer.testing import CliRunner

from candor.cli import app
from candor.core.calibration.interacting import EXAMPLE, Turned, read_turned, set_together
from candor.core.errors import ValueTextError


def turned(matrix, e0, steps, limits, u=0.0):
    matrix, e0 = np.array(matrix, float), np.array(e0, float)
    return Turned(
        tuple(e0), tuple((f"a{k}", t, tuple(e0 + matrix[:, k] * t)) for k, t in enumerate(steps)), tuple(limits), u
    )


def test_two_adjusters_at_two_points_are_set_at_once_by_the_inverse():
    """By hand: [[2, 1], [1, 3]] t = -[4, 2] gives t = (-2, 0)."""
    found = set_together(turned([[2, 1], [1, 3]], [4, 2], [0.5, 0.25], [1, 1], u=0.1))
    assert found.matrix == pytest.approx(np.array([[2, 1], [1, 3]]))
    assert found.at_once == pytest.approx((-2.0, 0.0), abs=1e-9) and found.left == pytest.approx((0, 0), abs=1e-9)
    # The errors at the start count 1 + 4 fold, those after the turn of a0 4 fold: U = 2 x 0.1 x sqrt(25 + 16).
    assert found.expanded == pytest.approx((0.2 * 41**0.5,) * 2)


def test_with_more_points_than_adjusters_the_largest_error_is_the_least_there_is():
    rng = np.random.default_rng(4)
    for _ in range(12):
        matrix, e0 = rng.normal(size=(5, 2)), rng.normal(size=5) * 3
        limits = rng.uniform(0.5, 2, 5)
        found = set_together(turned(matrix, e0, [0.5, -0.25], limits))
        mine = np.abs((e0 + matrix @ np.array(found.at_once)) / limits).max()
        for start in itertools.product((-3, 0, 3), repeat=2):
            best = minimize(
                lambda t, m=matrix, e=e0, lim=limits: np.abs((e + m @ t) / lim).max(), start, method="Nelder-Mead"
            )
            assert mine <= best.fun + 1e-6


def test_rounds_are_those_of_a_bench_that_sets_one_after_the_other_and_what_never_rests_is_said():
    """A coil and a trimmer at the ends of a dial: rounds counted by turning them one by one."""
    matrix, e0 = np.array([[1.0, 0.45], [0.5, 1.2]]), np.array([3.0, -2.0])
    found = set_together(turned(matrix, e0, [0.5, 0.5], [1, 1]))
    names = {"a0": 0, "a1": 1}
    errors, rounds = e0.copy(), 0
    while np.abs(errors).max() > 0.2:
        for name, point in found.order:
            errors = errors - matrix[:, names[name]] * errors[point] / matrix[point, names[name]]
        rounds += 1
    assert found.rounds == rounds and not found.diverges
    alike = set_together(turned([[1.0, 1.0], [1.0, 1.0 + 1e-3]], [3, -2], [1, 1], [1, 1]))
    assert alike.rounds is None and alike.beyond and not found.beyond


@pytest.mark.parametrize(("text", "said"), [
    ("", "needed"), ("start 1 2\nlimit 1\ncoil 1/2: 1", "Every line has 2"), ("start 1\nlimit 1\ncoil 0: 1", "turned by something"),
    ("start 1 2\nbanana", "cannot read line 2"), ("start x", "line 1"),
])  # fmt: skip
def test_what_cannot_be_read_is_said(text, said):
    with pytest.raises(ValueTextError, match=said):
        read_turned(text)


def test_the_command_line_answers_the_example(tmp_path):
    read = read_turned(EXAMPLE)
    assert read.turns[0] == ("coil", 0.5, (1.1, -2.4)) and read.limits == (1.0, 1.0)
    (tmp_path / "turns.txt").write_text(EXAMPLE)
    told = json.loads(CliRunner().invoke(app, ["turns", str(tmp_path / "turns.txt"), "--json"]).output)
    assert [t["adjuster"] for t in told["at once"]] == ["coil", "trimmer"]
    assert max(abs(e) for e in told["left"]) < 1e-6
    assert "coil" in told["sentences"][0] and "turn" in told["sentences"][0]
