"""Ranges and points as they are typed. Forms are ours: common practice, no source."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from candor.core.errors import CandorError, RangeError, ValueTextError
from candor.core.jot import JotContext, PointsJot, RangeJot, ReadingJot, understand
from candor.core.jot.range_line import understand_range
from candor.packs.bundled import bundled_pack
from candor.packs.procedure import point_by_name

POINT = point_by_name(bundled_pack("tarnholm-vm6"), "dc+/150/75")


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("30 V 30 div 3%fs", ("Volts", "V", 30.0, 30, False, 3.0, 0.0, 0.0, "maker", "+")),
        ("DC+ 1.5 V 30 div mirror 2% owner", ("DC+", "V", 1.5, 30, True, 2.0, 0.0, 0.0, "owner", "+")),
        ("DC volts - 15 V, 30 div, 3 %", ("DC volts −", "V", 15.0, 30, False, 3.0, 0.0, 0.0, "maker", "-")),
        ("300 µA 60 divisions no mirror", ("Current", "A", 3e-4, 60, False, 0.0, 0.0, 0.0, "maker", "+")),
        ("10 mA 50 div 1.5 % of reading + 1% fs the shop's", ("Current", "A", 0.01, 50, False, 1.0, 1.5, 0.0, "shop", "+")),
        ("0-10V 50 divisions accuracy 3%", ("Volts", "V", 10.0, 50, False, 3.0, 0.0, 0.0, "maker", "+")),
        ("10 volts, 50 divisions, within ±3 % fsd", ("Volts", "V", 10.0, 50, False, 3.0, 0.0, 0.0, "maker", "+")),
        ("300 V ac 60 div 5%", ("AC volts", "V", 300.0, 60, False, 5.0, 0.0, 0.0, "maker", "+")),
        ("1mA d.c. 50 div tolerance: 2%", ("DC current", "A", 1e-3, 50, False, 2.0, 0.0, 0.0, "maker", "+")),
        ("Ohms 1 kohm 10 div ±50 ohm", ("Ohms", "ohm", 1000.0, 10, False, 0.0, 0.0, 50.0, "maker", "+")),
        ("3 kc 100 div", ("Frequency", "Hz", 3000.0, 100, False, 0.0, 0.0, 0.0, "maker", "+")),
    ],
)  # fmt: skip
def test_ranges_are_read_as_they_are_written(text, said):
    jot = understand_range(text)
    assert (
        jot.function, jot.unit, jot.full_scale, jot.divisions, jot.mirror, jot.limit.percent_of_full_scale,
        jot.limit.percent_of_reading, jot.limit.absolute, jot.limit.by, jot.polarity,
    ) == pytest.approx(said)  # fmt: skip
    assert understand(f"range {text}", JotContext()) == jot == understand(f"ranges {text}", JotContext())


def test_a_range_may_stand_before_its_word():
    assert understand("10V range 50 div 3%", JotContext()) == understand_range("10V 50 div 3%")


@pytest.mark.parametrize(
    ("text", "error", "sentence"),
    [
        ("30 V", ValueTextError, "How many divisions"),
        ("30 V 0 div", RangeError, "0 divisions"),
        ("30 V 2.5 div", RangeError, "whole number"),
        ("30 V 1001 div", RangeError, "1 to 1000"),
        ("30 div 3%", ValueTextError, "where does the range end"),
        ("0 V 30 div", RangeError, "above zero"),
        ("30 V 30 div 0%", RangeError, "limit of 0 %"),
        ("30 V 30 div 130%", RangeError, "limit of 130 %"),
        ("30 V 30 div ±(3)", ValueTextError, "cannot read the limit"),
        ("x" * 60 + " 30 V 30 div", ValueTextError, "long for the name"),
    ],
)
def test_what_cannot_be_a_range_is_said(text, error, sentence):
    with pytest.raises(error, match=sentence):
        understand_range(text)


def test_a_limit_nobody_gave_is_said_before_it_is_written():
    assert understand_range("30 V 30 div").chips[-1] == "no limit: it cannot be judged"


@given(st.text(max_size=60))
def test_any_line_about_a_range_is_read_or_refused_with_a_sentence(text):
    try:
        jot = understand(f"range 1 {text}", JotContext())
    except CandorError as error:
        assert str(error)
    else:
        assert not isinstance(jot, RangeJot) or (jot.full_scale > 0 and 1 <= jot.divisions <= 1000)


def test_a_number_alone_is_the_next_point_where_one_is_made_and_a_reading_elsewhere():
    making = JotContext(POINT, makes_points=True)
    assert understand("60", making) == PointsJot((60.0,), ("next point: 60 V",))
    assert isinstance(understand("60", JotContext(POINT)), ReadingJot)
    both = understand("60.2 ref 60.05", making)
    assert isinstance(both, ReadingJot)
    assert (both.indicated, both.reference) == (60.2, 60.05)
    with pytest.raises(RangeError, match="only where zero stands"):
        understand("0", making)


def test_points_of_the_range_in_hand_are_listed():
    minus = replace(POINT, polarity=-1)
    assert understand("points 30 60; 90V 60", JotContext(POINT)).values == (30.0, 60.0, 90.0)
    assert understand("point -30", JotContext(minus)).values == (30.0,)
    with pytest.raises(RangeError, match="beyond the 150 V range"):
        understand("points 30 170", JotContext(POINT))
    with pytest.raises(ValueTextError, match="Which range"):
        understand("points 30", JotContext())
    assert understand("points out a loose screw", JotContext(POINT)).text == "points out a loose screw"


@pytest.mark.parametrize(
    ("typed", "ends"),
    (
        ("Volts 1,5 V 50 div 3%fs", (1.5,)),
        ("Volts 1,5 5 15 V 50 div 3%fs", (1.5, 5, 15)),
        ("Volts 3,10,30 V 50 div 3%fs", (3, 10, 30)),
        ("Volts 3, 10, 30 V 50 div 3%fs", (3, 10, 30)),
        ("Volts 0,3 1 3 ... 30 V 50 div 3%fs", (0.3, 1, 3, 10, 30)),
    ),
)
def test_a_comma_parts_ends_or_is_a_decimal_comma(typed, ends):
    jot = understand_range(typed)
    assert tuple(r.full_scale for r in (jot, *jot.beside)) == pytest.approx(ends)


def test_marks_with_decimal_commas_are_those_with_points():
    line = "current 2 mA marks 0@0 0.2@8 0.5@24 1@52 2@90 5 div between 3%fs"
    assert understand_range(line.replace(".", ",")) == understand_range(line)
    assert understand_range(
        line.replace(" 0.2", ",0.2").replace(" 0.5", ",0.5").replace(" 1@", ",1@").replace(" 2@", ",2@")
    ) == understand_range(line)
