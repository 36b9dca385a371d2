"""Jotted lines: what they are understood to say, and that none is lost or crashes."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from candor.core.calibration.point import TestPoint
from candor.core.errors import CandorError, RangeError, UnitError, ValueTextError
from candor.core.jot import (
    ChangeJot,
    CheckJot,
    ConditionJot,
    DetailJot,
    FindingJot,
    JotContext,
    NoteJot,
    ReadingJot,
    understand,
)
from candor.core.jot.ticks_line import say_ticks
from candor.core.parts.part import Part
from candor.core.reading.dial import DialRange
from candor.core.reading.scale import linear_scale
from candor.core.verdict.rules import Limit

UPPER = linear_scale(name="upper", start=0, stop=15, divisions=30, number_every=10, long_every=5)
POINT = TestPoint(
    key="dc+/150/75",
    function="DC volts +",
    range_name="150 V",
    polarity=1,
    full_scale=150.0,
    nominal=75.0,
    indicator=DialRange(UPPER, 10.0, "V", True),
    limit=Limit(3.0),
)
CONTEXT = JotContext(POINT, (("cord", "Cord and plug"), ("under", "Under the chassis"), ("face", "Meter face")))


@pytest.mark.parametrize(
    ("text", "indicated", "reference", "direction"),
    [
        ("72.6", 72.6, None, ""), ("72.6 V", 72.6, None, ""), ("72,6", 72.6, None, ""), ("-1/4t", 73.75, None, ""),
        ("−¼t", 73.75, None, ""), ("+1t", 80.0, None, ""), ("1t low", 70.0, None, ""), ("1 1/2 t", 82.5, None, ""),
        ("0t", 75.0, None, ""), (".5t high", 77.5, None, ""), ("- 1/2t", 72.5, None, ""),
        ("72.6 ref 75.004", 72.6, 75.004, ""), ("72.6 ref 75.004 up", 72.6, 75.004, "up"),
        ("-1t from above", 70.0, None, "down"), ("ref 75.1", None, 75.1, ""), ("2 1/2", 2.5, None, ""),
        ("72600m", 72.6, None, ""), ("@dc+/150/75 73", 73.0, None, ""),
    ],
)  # fmt: skip
def test_readings(text, indicated, reference, direction):
    jot = understand(text, CONTEXT)
    assert isinstance(jot, ReadingJot)
    assert jot.indicated == (None if indicated is None else pytest.approx(indicated))
    assert (jot.reference, jot.direction) == (reference, direction)
    assert jot.chips


def test_chips_say_how_it_was_read():
    assert understand("-1/4t up", CONTEXT).chips == ("¼ tick below 75 V → 73.75 V", "from below")
    assert understand("-1/4t", JotContext()).chips == ("¼ tick below the mark in hand",)


@pytest.mark.parametrize(
    ("text", "kind", "words"),
    [
        ("6.72X", ValueTextError, "“X” is neither a prefix nor a unit"),
        ("", ValueTextError, "Nothing was entered"),
        ("72.6 mA", UnitError, "is a current; this place expects a voltage"),
        ("200", RangeError, "off the scale"),
        ("+20t", RangeError, "off the scale"),
        ("72.6 ref -75", RangeError, "negative"),
        ("72.6 ref 7500", RangeError, "far beyond"),
        ("73 74 75", ValueTextError, "neither a prefix nor a unit"),
    ],
)
def test_what_begins_like_a_number_must_be_one(text, kind, words):
    with pytest.raises(kind, match=words):
        understand(text, CONTEXT)


def test_findings_find_their_zone_and_mark():
    assert understand("found cord perished hazard", CONTEXT) == FindingJot(
        "cord perished", "hazard", "cord", ("hazard", "Cord and plug", "cord perished")
    )
    assert understand("found fix: meter window cracked", CONTEXT).zone == "face"
    assert understand("found something odd", CONTEXT).mark == "note"


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        ("did replaced C4 10u 450V", ChangeJot("replaced C4 10u 450V", ("done: replaced C4 10u 450V",))),
        ("checked reads 5 V again", CheckJot("reads 5 V again", ("proves the last change: reads 5 V again",))),
        ("temp 23.1", ConditionJot("celsius", 23.1, ("23.1 °C",))),
        ("rh 45 %", ConditionJot("humidity", 45.0, ("45 % relative humidity",))),
        ("line 118.6 V", ConditionJot("line_volts", 118.6, ("line 118.6 V",))),
        ("owner the collection", DetailJot("owner", "the collection", ("owner: the collection",))),
        ("smells of varnish", NoteJot("smells of varnish", ("note: smells of varnish",))),
        ("line looks frayed", NoteJot("line looks frayed", ("note: line looks frayed",))),
    ],
)
def test_other_lines(text, expected):
    assert understand(text, CONTEXT) == expected


@given(st.text(max_size=40))
def test_no_line_crashes_and_none_is_swallowed(text):
    try:
        jot = understand(text, CONTEXT)
    except CandorError as error:
        assert str(error)
    else:
        assert jot.chips


@given(st.integers(-56, 56))
def test_ticks_written_are_ticks_read(quarters):
    jot = understand(f"{quarters}/4t" if quarters >= 0 else f"-{-quarters}/4t", CONTEXT)
    assert POINT.indicator.ticks_between(75.0, jot.indicated) == pytest.approx(quarters / 4, abs=1e-9)


def test_ticks_in_words():
    assert [say_ticks(t) for t in (0.25, 0.5, 1.0, 1.5, 0.2, 0.37)] == [
        "¼ tick", "½ tick", "1 tick", "1½ ticks", "⅕ tick", "0.37 tick",
    ]  # fmt: skip


@pytest.mark.parametrize("text", ["trimmed R5", "swapped V1 with V2", "Replaced the cord", "reseated V3"])
def test_what_was_done_is_a_change_without_did(text):
    assert isinstance(understand(text, JotContext()), ChangeJot)


@pytest.mark.parametrize("text", ["trimmed", "swap V1 tomorrow", "bentonite in the case"])
def test_what_was_not_done_stays_a_note(text):
    assert isinstance(understand(text, JotContext()), NoteJot)


def test_what_was_disturbed_voids_what_uses_any_of_it_and_all_where_one_is_not_known():
    parts = {ref: Part(ref, "resistor" if ref[0] == "R" else "capacitor", 1.0) for ref in ("R14", "C7")}
    assert understand("disturbed R14 C7", JotContext(parts=parts)).part == "R14, C7"
    assert understand("disturbed R14 and C7", JotContext(parts=parts)).part == "R14, C7"
    assert understand("disturbed R14 C99", JotContext(parts=parts)).part == ""
    assert understand("disturbed the wiring at R14", JotContext(parts=parts)).part == ""
