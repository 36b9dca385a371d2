"""Histories: segments end where a point was adjusted or arrived dead; what moved, and what is refused."""

import datetime as dt

import pytest

from candor.core.drift.history import Calibration, changes_of, segments_of
from candor.core.errors import RangeError


def on(year, error, when="found", **more):
    return Calibration(dt.date(year, 3, 1), error, more.pop("expanded", 0.1), when, **more)


def test_segments_in_order_of_time_whatever_order_they_came_in():
    rows = [on(2024, 0.3), on(2022, 0.0, "left"), on(2022, 0.4), on(2020, 0.1), on(2023, 0.2)]
    first, second = segments_of(rows)
    assert [r.error for r in first.results] == [0.1, 0.4]
    assert [r.error for r in second.results] == [0.0, 0.2, 0.3]
    assert [round(c.moved, 9) for c in changes_of((first, second))] == [0.3, 0.2, 0.1]
    assert changes_of((first,))[0].u == pytest.approx(2**0.5 * 0.05)
    assert second.years(dt.date(2023, 3, 1)) == pytest.approx(1.0, abs=0.003)


def test_left_as_it_was_found_is_one_result_and_left_alone_begins_anew():
    assert len(segments_of([on(2020, 0.1), on(2020, 0.1, "left"), on(2021, 0.2)])) == 1
    dead = segments_of([on(2020, 0.1), on(2021, 0.0, "left"), on(2022, 0.1)])
    assert [len(s.results) for s in dead] == [1, 2]  # how it arrived in 2021 is absent, not zero


@pytest.mark.parametrize(
    ("rows", "words"),
    [
        (
            [on(2020, 0.1), on(2020, 0.2)],
            "01 Mar 2020 has two results as found: were there two adjustments in one day",
        ),
        ([on(2020, 0.1, expanded=float("nan"))], "has no uncertainty"),
        ([on(2020, 0.1, expanded=-0.1)], "has no uncertainty"),
    ],
)
def test_what_is_no_history_is_said(rows, words):
    with pytest.raises(RangeError, match=words):
        segments_of(rows)
    assert len(segments_of([on(2020, 0.1, standard="a"), on(2020, 0.2, standard="b")])[0].results) == 2
