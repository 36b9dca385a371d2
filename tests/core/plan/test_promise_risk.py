"""How likely a promise is kept: against the closed form, and against times that are not its model."""

from __future__ import annotations

import math
from dataclasses import replace
from statistics import NormalDist

import numpy as np
import pytest

from candor.core.plan.in_order import lateness, place_in_order
from candor.core.plan.order_search import plan
from candor.core.plan.promise_risk import SURPRISE, TIMES, Promise, promises, rescue
from candor.core.plan.shop import Deed, Shop

DAYS = Shop(tuple((1440 * d, 1440 * d + 480) for d in range(20)))


@pytest.mark.parametrize(("due", "hands"), [(100, 100), (150, 100), (80, 100), (60, 100)])
def test_one_deed_is_kept_as_often_as_its_log_normal_says(due: int, hands: int) -> None:
    made = [Deed("a", "1", hands, spread=0.5)]
    found = promises(made, DAYS, {"1": due}, {"a": 0}, draws=2000)[0]
    plain, more = (NormalDist().cdf(math.log(due / (hands * times)) / 0.5) for times in (1, TIMES))
    assert found.kept == pytest.approx((1 - SURPRISE) * plain + SURPRISE * more, abs=0.035)


def _gamma(rng):
    return rng.gamma(4.2, 1 / 3.87)  # median 1


def _surprising(rng):
    return rng.gamma(8, 1 / 7.67) * (4 if rng.random() < 0.05 else 1)


@pytest.mark.parametrize("times", [_gamma, _surprising])
def test_it_promises_no_more_than_comes_of_times_that_are_not_its_model(times):
    """Gamma times, each its own, and such of which one in twenty is four times as long."""
    rng = np.random.default_rng(5)
    made = [
        Deed(f"{j}.{i}", str(j), 60, after=(f"{j}.{i - 1}",) if i else (), spread=0.5)
        for j in range(5)
        for i in range(4)
    ]
    due = {str(j): 1440 * (j // 2) + 480 for j in range(5)}
    starts = plan(made, DAYS, due).starts
    order = sorted(made, key=lambda d: starts[d.key])
    said = {p.job: p.kept for p in promises(made, DAYS, due, starts, draws=400)}
    kept = dict.fromkeys(due, 0)
    for _ in range(400):
        drawn = [replace(d, hands=min(400, max(1, round(d.hands * times(rng))))) for d in order]
        late = lateness(drawn, place_in_order(drawn, DAYS), due)
        for job in due:
            kept[job] += late[job] == 0
    for job in due:
        assert -0.2 < said[job] - kept[job] / 400 < 0.15, job


def test_the_words_follow_the_share() -> None:
    assert [Promise("1", 0, 0, kept).standing for kept in (0.95, 0.9, 0.89, 0.5, 0.49)] == [
        "kept", "kept", "at risk", "at risk", "late",
    ]  # fmt: skip


def test_what_saves_it_is_the_least_that_does() -> None:
    owed, other = Deed("a", "1", 120, spread=0.2), Deed("b", "2", 400, spread=0.2)
    one = Shop(((0, 480), (1440, 1920)))
    starts = {"b": 0, "a": 1440}
    assert rescue([owed, other], one, {"1": 480}, starts, "1").by == "first"
    costly = rescue([owed, other], one, {"1": 480, "2": 480}, starts, "1")
    assert costly.by == "first" and costly.costs == ("2",)
    long_ = [
        Deed("a", "1", 440, spread=0.05),
        Deed("c", "1", 60, after=("a",), spread=0.05),
        Deed("d", "1", 400, after=("c",)),
    ]
    two_days = Shop(((0, 480), (1440, 1880), (2880, 3360)))
    assert rescue(long_, two_days, {"1": 1880}, {"a": 0, "c": 1440, "d": 2880}, "1").by == "longer"
    two = [Deed("a", "1", 300, spread=0.05), Deed("b", "1", 310, spread=0.05)]
    assert rescue(two, one, {"1": 480}, {"a": 0, "b": 1440}, "1").by == "hands"
    assert rescue([Deed("a", "1", 300)], one, {"1": -60}, {"a": 0}, "1").by == "nothing"
