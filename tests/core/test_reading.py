"""Scales, needles and references: from what is seen to a value with its uncertainty."""

import datetime as dt
import math
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from candor.core.calibration.point import TestPoint
from candor.core.errors import CandorError, RangeError
from candor.core.reading.dial import DialRange
from candor.core.reading.judged import Judged
from candor.core.reading.means import means_of
from candor.core.reading.needle import NEEDLE
from candor.core.reading.reading import Reading
from candor.core.reading.scale import Scale, linear_scale, marked_scale, read_ticks
from candor.core.reference.reference import (
    CertifiedPoint,
    Reference,
    SpecificationRange,
    age,
    reference_contributions,
)
from candor.core.verdict.limits import Limit

UPPER = linear_scale(name="upper", start=0, stop=15, divisions=30, number_every=10, long_every=5)
OHMS = marked_scale("ohms", ((0.0, 0.0), (1.0, 0.1), (10.0, 0.5), (100.0, 0.9)), 5)
DAY = dt.date(2026, 6, 15)


def dial(mirror: bool = True) -> DialRange:
    return DialRange(UPPER, 10.0, "V", mirror)


@given(st.floats(-2, 17))
def test_value_and_tick_and_deflection_are_inverse(value):
    assert UPPER.value_at_tick(UPPER.tick_of(value)) == pytest.approx(value, abs=1e-9)
    assert UPPER.value_at_deflection(UPPER.deflection_of(value)) == pytest.approx(value, abs=1e-9)


@given(st.floats(0, 100), st.floats(0, 100))
def test_an_uneven_scale_rises_everywhere(a, b):
    low, high = sorted((a, b))
    assert OHMS.deflection_of(low) <= OHMS.deflection_of(high)
    assert OHMS.value_at_deflection(OHMS.deflection_of(low)) == pytest.approx(low, abs=1e-9)


def test_ticks_count_from_the_mark():
    assert read_ticks(UPPER, 7.5, -0.25) == pytest.approx(7.375)
    assert read_ticks(UPPER, 7.5, 1.5) == pytest.approx(8.25)
    assert read_ticks(UPPER, 7.6, 1) == pytest.approx(8.1)  # a mark between ticks: counted from where it lies
    assert dial().ticks_from(75.0, -0.25) == pytest.approx(73.75)
    assert dial().ticks_between(75.0, 73.75) == pytest.approx(-0.25)


def test_division_is_the_local_one():
    assert UPPER.division_at(15.0) == 0.5
    assert OHMS.division_at(0.5) == pytest.approx(0.2)
    assert OHMS.division_at(50.0) == pytest.approx(18.0)


@pytest.mark.parametrize("ticks", [(0.0, 2.0, 1.0), (0.0, 0.0), (0.0,)])
def test_a_scale_that_goes_backwards_is_refused(ticks):
    with pytest.raises(CandorError, match=r"goes backwards|at least two"):
        Scale("bad", ticks, tuple(float(i) for i in range(len(ticks))))
    with pytest.raises(RangeError, match="0 divisions"):
        linear_scale(name="none", start=0, stop=1, divisions=0, number_every=1)


def test_past_the_stops():
    assert dial().check(158.9) == 158.9
    with pytest.raises(RangeError, match=r"160 V is off the scale: .* −6 V to 159 V"):
        dial().check(160.0)
    with pytest.raises(RangeError, match="off the scale"):
        dial().check(-20.0)


def brought(readings: tuple[Reading, ...], mirror: bool = True, friction: float | None = None):
    point = TestPoint("k", "DC volts", "150 V", 1, 150.0, 75.0, dial(mirror), Limit(3.0))
    return NEEDLE.contributions(point, readings, Judged(point), friction)


def contributions(
    *readings: tuple[float, str], mirror: bool = True, friction: float | None = None
) -> dict[str, float]:
    made = tuple(Reading(value, 75.0, way) for value, way in readings)
    return {c.name.split(" (")[0]: c.size for c in brought(made, mirror, friction)}


def test_from_one_side_alone_friction_is_assumed_and_named_so():
    """Half a division of 5 V, common practice, no source; less where other points of this movement have shown it."""
    for way in ("", "up", "down"):
        found = contributions((75.0, way))
        assert found == {
            "needle, ⅕ tick": pytest.approx(1 / math.sqrt(3)),
            "friction, assumed": pytest.approx(2.5 / math.sqrt(3)),
        }
    known = contributions((75.0, "up"), friction=0.1)
    assert known["friction, from other points"] == pytest.approx(0.5 / math.sqrt(3))


def test_without_a_mirror_there_is_parallax():
    found = contributions((75.0, ""), mirror=False)
    assert found["needle, ¼ tick"] == pytest.approx(1.25 / math.sqrt(3))
    assert found["parallax"] == pytest.approx(0.5 / math.sqrt(3))


def test_where_the_marks_of_a_clicked_arc_stand_counts_for_what_was_put_on_it():
    """0.4 % of an arc of 150 V is 0.6 V, where the needle was put by hand; what was read at the printed marks has none of it."""
    clicked = DialRange(replace(UPPER, marks_u=0.004), 10.0, "V", mirror=True)
    point = TestPoint("k", "DC volts", "150 V", 1, 150.0, 75.0, clicked, Limit(3.0))
    for by_place, size in ((True, 0.6), (False, None)):
        reading = Reading(75.0, 75.0, by_place=by_place)
        found = {c.name: c.size for c in NEEDLE.contributions(point, (reading,), Judged(point), None)}
        assert found.get("marks of the arc") == (pytest.approx(size, rel=1e-6) if size else None)


def test_friction_is_not_hidden_in_the_uncertainty():
    """Rising and falling are both errors; half their difference is friction (IEC 60051-9, from memory)."""
    found = contributions((74.0, "up"), (76.0, "down"))
    assert set(found) == {"needle, ⅕ tick"}
    means = means_of((Reading(74.0, 75.0, "up"), Reading(75.5, 75.0, "down")), correction=0.1)
    assert (means.rising, means.falling, means.judged, means.friction) == pytest.approx((-1.1, 0.4, -1.1, 0.75))
    assert (means.indicated, means.reference) == pytest.approx((74.75, 75.1))


def test_the_mean_does_not_depend_on_how_often_one_came_from_each_side():
    down = Reading(75.0, 75.0, "down")
    once = means_of((Reading(73.0, 75.0, "up"), down))
    often = means_of((*[Reading(73.0, 75.0, "up")] * 9, down, Reading(90.0, 75.0)))
    assert once.indicated - once.reference == often.indicated - often.reference == -1.0
    assert (once.judged, once.counted, once.left_aside) == (-2.0, 1, 0)
    assert (often.judged, often.counted, often.left_aside) == (-2.0, 9, 1)


def test_repeats_are_pooled_within_each_direction():
    """s² = sum of squares about each direction's mean over what degrees of freedom are left (JCGM 100, 4.2)."""
    readings = tuple(Reading(v, 75.0, w) for v, w in ((74, "up"), (75, "up"), (76, "down"), (78, "down")))
    repeats = next(c for c in brought(readings) if c.kind == "repeats")
    assert repeats.dof == 2
    assert repeats.size == pytest.approx(math.sqrt((0.5 + 2.0) / 2) / math.sqrt(2))  # the judged side was read twice


def test_specification_picks_the_smallest_range_that_holds():
    reference = Reference(
        "m",
        "V",
        (
            SpecificationRange(10, 0.01, 0.001),
            SpecificationRange(upper=100, percent_of_reading=0.02, percent_of_range=0, counts=2, resolution=0.001),
        ),
    )
    assert reference_contributions(reference, 10.0, DAY)[1][0].size == pytest.approx(0.0011 / math.sqrt(3))
    assert reference_contributions(reference, -50.0, DAY)[1][0].size == pytest.approx(0.012 / math.sqrt(3))
    with pytest.raises(RangeError, match="150 V is beyond the specification of m, which ends at 100 V"):
        reference_contributions(reference, 150.0, DAY)


def test_certificate_corrects_and_drifts():
    points = (CertifiedPoint(1.0, 0.0, 0.002), CertifiedPoint(10.0, 0.009, 0.02))
    reference = Reference(
        "box", "V", points=points, drift_percent_per_year=0.1, calibrated_on=DAY - dt.timedelta(days=365)
    )
    correction, found = reference_contributions(reference, 5.5, DAY)
    assert correction == pytest.approx(0.0045)
    assert found[0].size == pytest.approx(0.0055)
    assert found[1].size == pytest.approx(5.5 * 0.001 * 365 / 365.25 / math.sqrt(3))
    with pytest.raises(RangeError, match="1 V to 10 V"):
        reference_contributions(reference, 20.0, DAY)


def test_temperature_outside_the_span_adds_a_term():
    reference = Reference("m", "V", (SpecificationRange(10, 0.01),), percent_per_kelvin=0.002)
    assert len(reference_contributions(reference, 10.0, DAY, 28.0)[1]) == 1
    warm = reference_contributions(reference, 10.0, DAY, 33.0)[1][1]
    assert warm.size == pytest.approx(10 * 0.00002 * 5 / math.sqrt(3))


@pytest.mark.parametrize(
    ("checked", "state", "words"),
    [
        (DAY, "in date", "due 2027-06-15"),
        (DAY - dt.timedelta(days=365), "in date", "due 2026-06-15"),
        (DAY - dt.timedelta(days=366), "expired", "1 days over"),
        (None, "never checked", "never checked against a standard"),
    ],
)
def test_age_is_said(checked, state, words):
    found = age(Reference("m", "V", calibrated_on=checked), DAY)
    assert found.state == state
    assert words in found.sentence


@pytest.mark.parametrize("magnitude", [0.9, 10.2, 0.0])
def test_a_certificate_says_nothing_beyond_its_points(magnitude):
    """Nothing is extrapolated: outside what was certified the reference does not serve, and the sentence says its span."""
    reference = Reference(
        "meter",
        "V",
        points=(CertifiedPoint(1.0, 0.001, 0.0004), CertifiedPoint(10.0, 0.004, 0.002)),
        calibrated_on=DAY,
    )
    with pytest.raises(RangeError, match=r"is outside the certified span of meter, 1 V to 10 V"):
        reference_contributions(reference, magnitude, DAY)
    assert reference_contributions(reference, 1.0, DAY)[0] == pytest.approx(0.001)
    assert reference_contributions(reference, 10.0, DAY)[0] == pytest.approx(0.004)
