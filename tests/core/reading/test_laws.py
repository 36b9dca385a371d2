"""Scales that fall, end in infinity or follow a law: from a value to the arc and back."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from candor.core.errors import CandorError
from candor.core.reading.dial import DialRange
from candor.core.reading.laws import LAWS, DecibelLaw, OhmsLaw, SquareLaw
from candor.core.reading.scale import Scale, law_scale

MARKS = (math.inf, 500, 100, 50, 20, 10, 5, 2, 1, 0)
FALLING = law_scale("ohms", OhmsLaw(10, falls=True), MARKS, (1, 4, 5, 6, 5, 5, 6, 5, 5))
BY_MARKS = Scale("by marks", (math.inf, 100.0, 10.0, 0.0), (0.0, 0.1, 0.5, 1.0))


@pytest.mark.parametrize("law", [OhmsLaw(10, True), OhmsLaw(10, False), SquareLaw(0.3, 3.0), DecibelLaw(0.7)])
@given(value=st.floats(0.001, 900))
def test_a_law_and_its_inverse(law, value):
    assert law.value(law.deflection(value)) == pytest.approx(value, rel=1e-9)


@given(st.floats(0.05, 0.95))
def test_a_tick_of_an_ohms_scale_is_worth_one_over_d_times_one_less_d(d):
    """Per unit of arc 1/(d (1 - d)) of its value, by finite difference; the brief's 4.0, 5.3 and 11.1 % follow."""
    for falls in (True, False):
        law, step = OhmsLaw(20, falls), 1e-6
        slope = abs(law.value(d + step) - law.value(d - step)) / (2 * step) / law.value(d)
        assert slope == pytest.approx(1 / (d * (1 - d)), rel=1e-5)
    assert [round(100 * 0.01 / (x * (1 - x)), 1) for x in (0.5, 0.25, 0.1)] == [4.0, 5.3, 11.1]


def test_a_falling_scale_goes_to_infinity_and_back():
    assert FALLING.falls
    assert FALLING.is_open
    assert (FALLING.deflection_of(math.inf), FALLING.deflection_of(0.0), FALLING.centre) == (0.0, 1.0, 10.0)
    assert FALLING.value_at_deflection(-0.02) == math.inf  # the needle beyond the end: no value stands there
    for value in (0.0, 3.3, 10.0, 700.0):
        assert FALLING.value_at_tick(FALLING.tick_of(value)) == pytest.approx(value)
    assert FALLING.division_at(15.0) == 2.0
    assert math.isfinite(FALLING.division_at(math.inf))
    assert sum(FALLING.arc_division_at(v) for v in (15.0,)) == pytest.approx(10 / 24 - 10 / 26, abs=0.02)


@given(st.floats(0.0, 1e5))
def test_by_marks_alone_the_end_is_reached_as_ohms_do(value):
    assert BY_MARKS.value_at_deflection(BY_MARKS.deflection_of(value)) == pytest.approx(value, rel=1e-9, abs=1e-9)
    assert 0 < BY_MARKS.deflection_of(value) <= 1


def test_the_middle_of_a_bridge_dial_is_taken_along_the_arc():
    """x from 0.90 to 0.94 of a bridge x/(1 - x): 11.50, not the 12.33 that the mean of both values is (the brief's check)."""
    bridge = DialRange(law_scale("bridge", LAWS["bridge"](1, 1), (0.05, 1, 20), (4,)), 1.0, "1")
    low, high = (bridge.value_at_deflection(x) for x in (0.90, 0.94))
    assert bridge.middle(low, high) == pytest.approx(11.50, abs=0.005)
    assert (low + high) / 2 == pytest.approx(12.33, abs=0.005)
    assert (bridge.end_near(bridge.value_at_deflection(0.985), 0.02), bridge.end_near(1.0, 0.02)) == ("right", "")


def test_decibels_and_a_square_law():
    scale = law_scale("dB", DecibelLaw(0.7), (-20, -10, -5, 0, 2, 3), (5,))
    assert scale.deflection_of(0.0) == 0.7
    assert scale.deflection_of(-20.0) == pytest.approx(0.07)
    diode = SquareLaw(0.4, 4.0)
    assert diode.deflection(4.0) == pytest.approx(1.0)
    assert diode.deflection(0.02) / diode.deflection(0.01) == pytest.approx(4.0, rel=0.03)  # far below the knee
    assert diode.deflection(40.0) / diode.deflection(20.0) == pytest.approx(2.0, rel=0.02)  # far above it


@pytest.mark.parametrize(
    ("make", "words"),
    [
        (lambda: law_scale("s", OhmsLaw(10, True), (0, 10, math.inf), (5,)), "goes backwards: deflection"),
        (lambda: law_scale("s", OhmsLaw(10, True), MARKS, (1, 2)), "9 intervals need one number"),
        (lambda: Scale("s", (0.0, math.inf, 5.0), (0.0, 0.5, 1.0)), "goes backwards"),
        (lambda: LAWS["ohms falling"](0, 1), "needs a number above 0"),
    ],
)
def test_a_scale_that_cannot_be(make, words):
    with pytest.raises(CandorError, match=words):
        make()
