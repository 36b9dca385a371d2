"""Scales by what is said of them, against their laws written out anew."""

import math

import pytest

from candor.core.errors import RangeError, ValueTextError
from candor.core.instrument.how import EVEN, HowRead, check_marks, printed_marks, scale_of


@pytest.mark.parametrize(
    ("how", "full_scale", "value", "arc"),
    [
        (EVEN, 30.0, 12.0, 0.4),
        (HowRead(begins=100e3), 300e3, 150e3, 0.25),
        (HowRead(shape="centre zero"), 5.0, -2.5, 0.25),
        (HowRead(shape="ohms falling"), 10.0, 40.0, 10 / 50),  # a series ohmmeter: Rc / (R + Rc)
        (HowRead(shape="ohms rising"), 10e3, 40e3, 40 / 50),  # a shunt ohmmeter: R / (R + Rc)
        (HowRead(shape="decibels", begins=-20, ends=2), 1.0, -4.0, 10 ** (-6 / 20)),  # 6 dB below the right end
        (HowRead(shape="square near zero", knee=0.5), 3.0, 1.5, (1.5**2 / 2.0) / (9 / 3.5)),  # v² / (v + knee), 1 at the end
        (HowRead(shape="marks", marks=(0, 1, 2, 5, 10), places=(0, 0.05, 0.2, 0.6, 1)), 10.0, 2.0, 0.2),
    ],
)  # fmt: skip
def test_a_value_stands_where_the_law_of_its_arc_says(how, full_scale, value, arc):
    scale = scale_of(how, full_scale, 4)
    first, last = scale.deflections[0], scale.deflections[-1]
    # Of decibels the arc of volts begins at nothing, below the lowest level that is printed.
    place = (
        scale.deflection_of(value)
        if how.shape == "decibels"
        else (scale.deflection_of(value) - first) / (last - first)
    )
    assert place == pytest.approx(arc)
    assert scale.value_at_deflection(scale.deflection_of(value)) == pytest.approx(value)


def test_marks_that_nobody_said_are_the_usual_ones_and_say_where_zero_stands():
    assert printed_marks(HowRead(shape="ohms falling"), 10.0)[0] == math.inf
    assert printed_marks(HowRead(shape="ohms rising"), 10.0)[0] == 0.0
    assert 10.0 in printed_marks(HowRead(shape="ohms rising"), 10.0)
    levels = printed_marks(HowRead(shape="decibels", begins=-20, ends=2), 1.0)
    assert (levels[0], levels[-1]) == (-20, 2)
    assert list(levels) == sorted(levels)


def test_marks_to_infinity_make_a_scale_whatever_stands_between_them():
    how = HowRead(shape="marks", marks=(0, 1, 2, 5, math.inf), places=(0, 0.2, 0.4, 0.7, 1))
    scale = scale_of(how, 2.0, 5)
    assert all(not math.isnan(tick) for tick in scale.ticks)
    assert scale.ticks[-1] == math.inf


@pytest.mark.parametrize(
    ("marks", "places", "error", "sentence"),
    [
        ((0, 1, 2), (0, 0.5, 1), RangeError, "3 marks do not show"),
        ((0, 1, 2, 3, 4), (0, 0.5, 1), ValueTextError, "Each mark needs its place"),
        ((0, 1, 3, 2, 4), (0, 0.2, 0.4, 0.6, 1), ValueTextError, "2 V at 0.6 of the arc follows 3 V"),
        ((0, 1, 2, 3, 4), (0, 0.5, 0.5, 0.6, 1), ValueTextError, "out of order"),
    ],
)
def test_marks_that_draw_no_arc_are_refused_in_the_unit_of_the_range(marks, places, error, sentence):
    with pytest.raises(error, match=sentence):
        check_marks(HowRead(shape="marks", marks=marks, places=places), "V")
