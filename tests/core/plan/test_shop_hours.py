"""Days and hours as they are typed."""

from __future__ import annotations

import datetime as dt

import pytest

from candor.core.errors import ValueTextError
from candor.core.plan.shop_hours import USUAL_HOURS, open_from, read_day, read_hours, read_shared

TUESDAY = dt.date(2026, 3, 31)


@pytest.mark.parametrize(
    ("text", "day"),
    [
        ("2026-04-09", (2026, 4, 9)), ("9 April", (2026, 4, 9)), ("9th April", (2026, 4, 9)),
        ("9. apr 2027", (2027, 4, 9)), ("Friday", (2026, 4, 3)),
        ("tue", (2026, 4, 7)), ("tomorrow", (2026, 4, 1)), ("2 Feb", (2027, 2, 2)), ("20 march", (2026, 3, 20)),
    ],
)  # fmt: skip
def test_a_day_is_the_next_that_is_so_called(text: str, day: tuple[int, int, int]) -> None:
    assert read_day(text, TUESDAY) == dt.date(*day)


@pytest.mark.parametrize("text", ["soon", "31 Feb", "2026-13-01", "9", "monthly", ""])
def test_no_day_is_refused_with_examples(text: str) -> None:
    with pytest.raises(ValueTextError, match="not a day Candor can read"):
        read_day(text, TUESDAY)


def test_hours_read_what_they_print() -> None:
    for text in (USUAL_HOURS, "Tue 8:30-12:00; Sat 10-14", "Mon-Sun 0:00-24:00", "Fri 9 to 17"):
        opening = read_hours(text)
        assert read_hours(opening.words) == opening


@pytest.mark.parametrize(
    "text", ["", "9-5", "Mon-Fri 17:00-9:00", "Fri-Mon 9-17", "Mon 9-12, 11-17", "Mon 9:70-12", "Mo 9-12"]
)
def test_hours_that_cannot_be_are_refused(text: str) -> None:
    with pytest.raises(ValueTextError, match=r"Example: "):
        read_hours(text)


def test_the_shop_is_open_as_it_said_from_a_moment_on() -> None:
    at = dt.datetime(2026, 3, 31, 12, 10, tzinfo=dt.UTC)
    assert open_from(read_hours("Mon-Tue 9:00-12:30, 13:00-17:30; Sat 10-12"), at, 7) == (
        (0, 20), (50, 320), (5630, 5750), (8450, 8660), (8690, 8960),
    )  # fmt: skip


def test_shared_things_are_counted() -> None:
    shared = read_shared(
        "Variable transformer 1, leakage tester 2, dim light 16:00-18:00, Quiet line Sat 7-9, quiet line Sat 20-22"
    )
    assert shared.many == {"variable transformer": 1, "leakage tester": 2}
    assert shared.when["dim light"].days == (((960, 1080),),) * 7
    assert shared.when["quiet line"].days == ((),) * 5 + (((420, 540), (1200, 1320)), ())
    assert read_shared(shared.words) == shared
    with pytest.raises(ValueTextError, match="25:00"):
        read_shared("dim light 16:00-25:00")
    with pytest.raises(ValueTextError, match="how many"):
        read_shared("bench")
