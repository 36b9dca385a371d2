"""When it is due: the day by the probability, jointly for all points by simulation; staircase, custom; adjust or leave."""

import datetime as dt

import numpy as np
import pytest

from candor.core.drift.due import (
    Due,
    adjust_or_leave,
    all_in,
    due_by_custom,
    due_by_forecast,
    due_by_staircase,
    due_of_all,
)
from candor.core.drift.forecast import forecast
from candor.core.drift.history import Calibration, segments_of
from candor.core.errors import RangeError
from candor.words.drift_words import say_advice, say_due

TODAY = dt.date(2025, 3, 1)


def history(slope, start=0.0, years=6, expanded=0.1):
    rows = [
        Calibration(dt.date(2020 + k, 3, 1), start + slope * k + 0.02 * (-1) ** k, expanded) for k in range(years)
    ]
    return segments_of(rows)


def test_it_is_due_on_the_day_the_probability_falls_under_the_target():
    points = {"volts/30": forecast(history(0.06), 1.0), "volts/3": forecast(history(0.0), 1.0)}
    due = due_by_forecast(points, TODAY)
    assert due.worst == "volts/30"
    assert (
        all_in(list(points.values()), due.on - dt.timedelta(days=1)) >= 0.95 > all_in(list(points.values()), due.on)
    )
    assert "volts/30 limits it: expected error +" in say_due(due)
    sooner = due_by_forecast(points, TODAY, 0.99)
    assert sooner.on < due.on
    out = due_by_forecast({"volts/30": forecast(history(0.3), 1.0)}, TODAY)
    assert (out.on, say_due(out).startswith("due now: volts/30 is only ")) == (TODAY, True)
    steady = {"ratio": forecast(history(0.0, expanded=0.02), 10.0)}
    assert "do not wait longer" in say_due(due_by_forecast(steady, TODAY))
    with pytest.raises(RangeError, match="nothing to forecast"):
        due_by_forecast({}, TODAY)


def test_what_is_read_too_coarsely_does_not_make_all_due_now():
    fine = {"volts/30": forecast(history(0.06), 1.0)}
    coarse = {
        f"zero/{k}": forecast(history(0.0, start=0.3, years=1, expanded=u), 1.0)
        for k, u in enumerate((1.5, 1.3, 1.1))
    }
    custom = due_by_custom("meter", TODAY)
    assert due_by_forecast({**fine, **coarse}, TODAY).on == TODAY
    due, left_out = due_of_all({**fine, **coarse}, TODAY, custom)
    assert left_out == ("zero/0", "zero/1", "zero/2")
    assert due.on == due_by_forecast(fine, TODAY).on
    assert "not included: “zero/0”, “zero/1” and 1 more, whose readings are too coarse" in say_due(due)
    assert due_of_all(fine, TODAY, custom) == (due_by_forecast(fine, TODAY), ())
    assert due_of_all(coarse, TODAY, custom)[0].on == custom.on
    assert due_of_all({}, TODAY, custom) == (custom, ())
    # what is out of tolerance is never too coarse to say so
    out = {"volts/3": forecast(history(0.0, start=3.0, years=2, expanded=1.2), 1.0)}
    assert due_of_all(out, TODAY, Due(TODAY, ""))[0].worst == "volts/3"


def test_what_is_read_too_coarsely_is_not_adjusted_by_that_reading():
    coarse = history(0.0, start=0.3, years=1, expanded=1.1)
    advice = adjust_or_leave(coarse, 1.0, TODAY, TODAY + dt.timedelta(days=365))
    assert not advice.adjust
    assert say_advice(advice).startswith("Leave it: U alone is 110 % of its limit")
    near = adjust_or_leave(history(0.0, start=0.8, years=1, expanded=0.2), 1.0, TODAY, TODAY + dt.timedelta(days=365))
    assert near.adjust


def test_what_jumped_is_due_now_and_read_again_before_it_is_adjusted():
    rows = [*history(0.02)[0].results, Calibration(TODAY + dt.timedelta(days=30), 0.9, 0.1)]
    after = TODAY + dt.timedelta(days=40)
    due = due_by_forecast({"volts/30": forecast(segments_of(rows), 1.0)}, after)
    assert (due.on, "is far from its history" in say_due(due)) == (after, True)
    advice = adjust_or_leave(segments_of(rows), 1.0, after, after + dt.timedelta(days=365))
    assert (advice.adjust, say_advice(advice).startswith("Read it again")) == (False, True)


def test_all_points_together_by_simulation():
    """Points read against one standard share its offset: drawn a hundred thousand times."""
    points = [forecast(history(s, start=0.2, expanded=0.6), 1.0) for s in (0.02, 0.03, 0.01)]
    on = dt.date(2028, 3, 1)
    random = np.random.default_rng(1)
    shared = random.standard_normal(100_000)
    inside = np.ones(100_000, bool)
    for p in points:
        mean, u = p.at(on)
        common = min(p.common, 0.95 * u)
        drawn = mean - common * shared + np.sqrt(u**2 - common**2) * random.standard_normal(100_000)
        inside &= np.abs(drawn) <= p.limit
    assert all_in(points, on) == pytest.approx(inside.mean(), abs=0.005)
    assert all_in(points, on) > np.prod(
        [p.in_tolerance(on) for p in points]
    )  # what they share lets them stand together


def test_staircase_and_custom():
    well, near, out = (Calibration(TODAY, e, 0.1) for e in (0.2, 0.7, 1.2))
    days = [(due_by_staircase(c, 1.0, 1.0).on - TODAY).days for c in (well, near, out)]
    assert days == [438, 365, 256]
    assert (due_by_custom("tube tester, emission", TODAY).on - TODAY).days == 365
    assert "usual for this kind" in say_due(due_by_custom("whatever", TODAY))


def test_adjust_or_leave_with_both_days():
    leave = adjust_or_leave(history(0.06), 1.0, TODAY, TODAY + dt.timedelta(days=365))
    assert (leave.adjust, leave.left < leave.adjusted) == (False, True)
    assert say_advice(leave).startswith("Leave it: over 99 % likely to be in tolerance on 01 Mar 2026. Due ")
    assert "Adjusting starts a new history" in say_advice(leave)
    adjust = adjust_or_leave(history(0.14), 1.0, TODAY, TODAY + dt.timedelta(days=700))
    assert adjust.adjust
    alone = [segments_of([Calibration(TODAY, e, 0.1)]) for e in (0.3, 0.65, 0.95)]
    assert [adjust_or_leave(s, 1.0, TODAY, TODAY + dt.timedelta(days=365)).adjust for s in alone] == [
        False,
        True,  # over 0.7 of its limit with U, and how fast its kind drifts nobody knows by one result
        True,
    ]
