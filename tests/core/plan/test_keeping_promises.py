"""A plan that leaves room where a promise needs it."""

from __future__ import annotations

from candor.core.plan.keeping_promises import plan_to_keep
from candor.core.plan.order_search import plan
from candor.core.plan.promise_risk import promises
from candor.core.plan.shop import Deed, Shop

DAYS = Shop(((0, 480), (1440, 1920), (2880, 3360)))
# The run must end before closing: by the medians it just does when the short one goes first.
SHORT = Deed("short", "1", 50, spread=0.5)
RUNS = Deed("runs", "2", 60, 360, watched=True, spread=0.5)
DUE = {"1": 400, "2": 480}


def test_what_is_just_in_time_by_its_medians_gets_room():
    plain = plan([SHORT, RUNS], DAYS, DUE).starts
    assert plain["short"] < plain["runs"]
    assert promises([SHORT, RUNS], DAYS, DUE, plain)[0].kept < 0.8
    kept = plan_to_keep([SHORT, RUNS], DAYS, DUE)
    assert kept.planned.starts["runs"] < kept.planned.starts["short"]
    assert min(p.kept for p in kept.promises) > 0.8


def test_without_promises_it_is_the_plan():
    assert plan_to_keep([SHORT, RUNS], DAYS, {}).planned == plan([SHORT, RUNS], DAYS, {})


def test_one_that_nobody_waits_for_any_more_is_left():
    asked = []
    plan_to_keep([SHORT, RUNS], DAYS, DUE, is_outdated=lambda: bool(asked.append(1) or True))
    assert len(asked) < 12
