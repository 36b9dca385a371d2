"""Points that are proposed: on marks, within what the range shows, five on the first and three on the others."""

import math

import pytest

from candor.core.instrument.how import EVEN, HowRead, scale_of
from candor.core.instrument.points import proposed_points

HOWS = {
    "even": (EVEN, 30.0, 30),
    "centre": (HowRead(shape="centre zero"), 5.0, 50),
    "ohms": (HowRead(shape="ohms falling"), 10.0, 5),
    "decibels": (HowRead(shape="decibels", begins=-20, ends=2), 1.0, 1),
    "bent": (HowRead(shape="marks", marks=(0, 1, 2, 5, 7, 10), places=(0, 0.05, 0.2, 0.6, 0.8, 1)), 10.0, 5),
}


@pytest.mark.parametrize("name", HOWS)
def test_points_lie_on_the_scale_rise_and_are_few_on_every_range_but_the_first(name):
    how, end, divisions = HOWS[name]
    many, few = (proposed_points(how, end, divisions, first) for first in (True, False))
    assert len(many) == 5 and len(few) == 3
    scale = scale_of(how, end, divisions)
    for points in (many, few):
        assert list(points) == sorted(set(points))
        assert all(0 <= scale.arc_of(v) <= 1 and math.isfinite(v) for v in points)


def test_points_of_an_even_scale_are_its_marks_and_zero_is_one_only_in_the_middle():
    assert proposed_points(EVEN, 15.0, 30, first=True) == (3.0, 6.0, 9.0, 12.0, 15.0)
    assert all((v / 0.5) % 1 == 0 for v in proposed_points(EVEN, 15.0, 30, first=False))
    assert proposed_points(HowRead(shape="centre zero"), 5.0, 50, first=True) == (-5.0, -2.5, 0.0, 2.5, 5.0)


def test_what_is_switched_is_read_at_every_setting_and_what_is_listed_at_that():
    for first in (True, False):  # both sides of a null are on the dial
        assert max(proposed_points(HowRead(kind="null"), 1e-7, 100, first=first)) * 1.1 < 1e-7
    assert proposed_points(HowRead(kind="source", steps=(1.0, 2.0, 5.0)), 5.0, 0, first=False) == (1.0, 2.0, 5.0)
    assert proposed_points(HowRead(kind="threshold"), 250e3, 0, first=True) == (250e3,)
    assert proposed_points(HowRead(kind="look"), 1.0, 0, first=True) == ()
    assert proposed_points(HowRead(kind="screen", per_division=0.5), 4.0, 8, first=True) == (1.0, 2.0, 3.0)
