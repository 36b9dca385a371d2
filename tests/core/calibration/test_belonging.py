"""A reading belongs where what was applied says, whatever point is in hand."""

import math
from dataclasses import replace

import pytest

from candor.core.calibration.belonging import applied_for, is_at
from candor.core.calibration.point import TestPoint
from candor.core.errors import RangeError
from candor.core.reading.dial import DialRange
from candor.core.reading.indicators import Digits
from candor.core.reading.kinds import kind_named
from candor.core.reading.laws import OhmsLaw
from candor.core.reading.scale import law_scale, linear_scale
from candor.core.verdict.rules import Limit

SCALE = linear_scale(name="0 to 150", start=0, stop=150, divisions=60, number_every=10)
AT_75 = TestPoint(
    key="dc+/150/75", function="DC", range_name="150 V", polarity=1, full_scale=150.0, nominal=75.0,
    indicator=DialRange(SCALE, 1.0, "V"), limit=Limit(4.5),
)  # fmt: skip


@pytest.mark.parametrize(
    ("kind", "applied"),
    [("needle", 78.2), ("null", 78.2), ("mark", 72.6), ("source", 72.6), ("threshold", None), ("look", None)],
)
def test_what_was_applied_is_the_references_value_or_what_the_instrument_was_set_to(kind, applied):
    assert applied_for(AT_75, kind_named(kind), 72.6, 78.2) == applied


@pytest.mark.parametrize(
    ("applied", "there"), [(75.0, True), (77.4, True), (72.6, True), (77.6, False), (30.0, False), (150.0, False)]
)
def test_it_is_of_a_point_within_one_division_of_it(applied, there):
    assert is_at(AT_75, applied) is there


def test_without_divisions_within_three_per_cent_of_the_range():
    digits = replace(AT_75, indicator=Digits("V", 0.01))
    assert is_at(digits, 79.4)
    assert not is_at(digits, 79.6)


def test_on_an_uneven_scale_nearness_is_measured_along_the_arc():
    """An ohms scale, ten in the middle: from 100 to 200 is less of the arc than from 1 to 3."""
    ohms = law_scale("ohms", OhmsLaw(10.0, falls=False), (0, 1, 2, 3, 5, 10, 20, 50, 100, 200, math.inf), (1,))
    point = replace(AT_75, indicator=DialRange(ohms, 1.0, "ohm"), full_scale=200.0, nominal=100.0)
    assert is_at(point, 150.0)
    assert not is_at(replace(point, nominal=1.0), 3.5)
    for nominal, applied in (
        (20.0, 45.0),
        (50.0, 22.0),
        (200.0, 900.0),
    ):  # one division of the arc, whatever it is worth
        assert is_at(replace(point, nominal=nominal), applied), nominal
    assert not is_at(replace(point, nominal=50.0), 19.0)


def test_where_its_detector_meets_an_unknown_shape_nobody_knows_and_it_stays_where_it_was_read(monkeypatch):
    def unknown(*_):
        raise RangeError("the waveform is not known")

    monkeypatch.setattr("candor.core.calibration.belonging.shown_of", unknown)
    assert applied_for(AT_75, kind_named("needle"), 72.6, 30.0) is None
