"""Readings of a soak as they stand on paper are offered as lines; none is taken for another thing."""

from __future__ import annotations

import datetime as dt

import pytest

from candor.core.errors import CandorError, ValueTextError
from candor.core.jot import JotContext, understand
from candor.core.jot.meaning import NoteJot
from candor.core.jot.rows.soak_told import soak_lines
from candor.core.jot.soak_meaning import OffJot, SoakJot

SOAKS = JotContext(stop="soak")


def offered(line, context=SOAKS):
    try:
        jot = understand(line, context)
    except CandorError as error:
        return getattr(error, "meant", ())
    assert isinstance(jot, NoteJot)
    return jot.meant


@pytest.mark.parametrize(
    ("line", "meant"),
    [
        ("10:45 150.9", "soak 150.9 at 10:45"),
        ("at 10.45 it reads 150.9 V", "soak 150.9 V at 10.45"),
        ("after 10 min 150.3", "soak 150.3 after 10 min"),
        ("2 hours in, 149.8", "soak 149.8 after 2 h"),
        ("1h30 151.2", "soak 151.2 after 90 min"),
        ("150.3 mV @ 15min", "soak 150.3 mV after 15 min"),
        ("t=900s 10.02", "soak 10.02 after 900 s"),
        ("reading climbed to 152", "soak 152"),
        ("150.3", "soak 150.3"),
        ("started the soak", "on"),
        ("warm-up started at 14:05", "on since 14:05"),
        ("soak over", "off"),
    ],
)
def test_what_is_told_is_offered(line, meant):
    assert offered(line)[:1] == (meant,) or soak_lines(line, "soak") == (meant,)
    assert not isinstance(understand(meant, SOAKS), NoteJot)


def test_away_from_the_soak_such_a_line_is_no_reading_of_it():
    assert offered("after 10 min 150.3", JotContext()) == ()
    assert all(soak_lines(line, "soak") == () for line in ("150.1 150.3 150.2", "room 23 C", "still drifting"))


def test_how_long_is_no_reading():
    for line in ("soak 4 h", "soak 30 min", "soak 2 hours"):
        with pytest.raises(ValueTextError, match="is how long"):
            understand(line, SOAKS)


def test_a_reading_of_before_says_when():
    after = understand("soak 10.0231 V after 15 min of volts", SOAKS)
    assert isinstance(after, SoakJot)
    assert (after.value, after.unit, after.what, after.after_s) == (10.0231, "V", "volts", 900.0)
    assert after.chips[-1] == "after 15 min"
    at = understand("soak 10.0231 at 9:05", SOAKS)
    assert isinstance(at, SoakJot)
    assert (at.clock, at.after_s) == (dt.time(9, 5), None)
    off = understand("off at 17:30", SOAKS)
    assert isinstance(off, OffJot)
    assert off.since == dt.time(17, 30)
