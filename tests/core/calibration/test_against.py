"""A reading against a reference: the meter's load taken out, and scales whose one is worth so much of another unit."""

import dataclasses
import datetime as dt

import pytest

from candor.core.calibration.result import assess_point
from candor.core.errors import RangeError
from candor.core.reading.reading import Reading
from candor.core.reference.reference import Reference, SpecificationRange
from candor.packs.bundled import bundled_pack
from candor.packs.procedure import test_points as points_of

DAY = dt.date(2026, 6, 1)
AMPERES = Reference(
    name="meter",
    unit="A",
    ranges=(SpecificationRange(upper=1.0, percent_of_reading=0.5),),
    calibrated_on=DAY,
    current="d.c.",
)


def volts(**more):
    spec = SpecificationRange(upper=1000.0, percent_of_reading=0.05)
    return Reference(name="meter", unit="V", ranges=(spec,), calibrated_on=DAY, **more)


def test_what_a_meter_loads_is_taken_out():
    """Ohm's law: 10 Mohm on a feed of 1 Mohm reads 1/11 low."""
    point = next(p for p in points_of(bundled_pack("wexcombe-cc21"), "as found") if p.key == "volts/250/250")
    point = dataclasses.replace(point, settings=(("feed", 1e6),))
    reading = (Reading(250.0, 250 * 10 / 11, entry=1, kind="source"),)
    plain = assess_point(point, "as found", reading, volts(), DAY)
    known = assess_point(point, "as found", reading, volts(input_ohms=10e6), DAY)
    assert plain.error == pytest.approx(250 / 11)
    assert known.error == pytest.approx(0, abs=1e-9)
    load = next(c for c in known.budget.contributions if c.name == "load of the meter")
    assert load.size == pytest.approx(0.1 * (250 / 11) * (11 / 10) / 3**0.5, rel=1e-6)
    assert "10 MΩ load a source resistance of 1 MΩ" in load.reason


def test_a_merit_scale_is_read_against_amperes():
    point = next(p for p in points_of(bundled_pack("brindle-et2"), "as found") if p.key == "merit/b/60")
    assert (point.applied, point.asked_unit, point.worth) == ("60 (18 mA)", "A", 0.3e-3)
    found = assess_point(point, "as found", (Reading(63.0, 18e-3, entry=1, kind="needle"),), AMPERES, DAY)
    assert found.error == pytest.approx(3.0)
    reference = [c for c in found.budget.contributions if c.kind == "reference"]
    assert sum(c.size**2 for c in reference) ** 0.5 == pytest.approx(0.005 * 60 / 3**0.5, rel=1e-6)
    alone = assess_point(point, "as found", (Reading(63.0, 18e-3, entry=1, kind="needle"),), None, DAY)
    assert alone.error == pytest.approx(3.0)
    with pytest.raises(RangeError, match="A reference of 60 A is far beyond"):
        point.reference_magnitude(60.0)
    with pytest.raises(RangeError, match="standard for voltage"):
        assess_point(point, "as found", (Reading(63.0, 18e-3, entry=1, kind="needle"),), volts(), DAY)


def test_peak_to_peak_against_a_meter_in_rms():
    point = next(p for p in points_of(bundled_pack("marrowby-os40"), "as found") if p.key == "y/x1/0.3@1000")
    meter = volts(current="a.c.")
    found = assess_point(point, "as found", (Reading(0.31, 0.3 / 8**0.5, entry=1, kind="screen"),), meter, DAY)
    assert found.error == pytest.approx(0.01, abs=1e-6)
