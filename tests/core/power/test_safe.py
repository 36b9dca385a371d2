"""Only a measurement with a meter seen live, and another a minute later, is safe."""

import math

import pytest

from candor.core.power.rail_ohms import RailOhms
from candor.core.power.safe import AfterReading, after_power, bleed_seconds


def stage(*readings, is_out=True, out_s=100.0, bleed_s=None, proved=False):
    taken = [AfterReading(v, None if s is None else out_s - s) for v, s in readings]
    return after_power(is_out=is_out, out_s=out_s, bleed_s=bleed_s, readings=taken, proved=proved).stage


def test_the_order_in_which_it_becomes_safe():
    assert stage(is_out=False) == "on"
    assert stage() == "unknown"
    assert stage(bleed_s=150.0) == "counting"
    assert stage(bleed_s=50.0) == "measure"
    assert stage((200, 5)) == "measure"
    assert stage((2, 5)) == "measure"  # a dead meter reads 0 too
    assert stage((2, 5), out_s=20, proved=True) == "wait"
    assert stage((2, 5), out_s=90, proved=True) == "again"
    assert stage((2, 5), (3, 70), proved=True) == "safe"
    assert stage((2, 5), (3, 60), proved=True) != "safe"
    assert stage((200, 5), (2, 10), (4, 75)) == "safe"  # it followed the rail down
    assert stage((200, 5), (2, 30), out_s=60) == "wait"  # two readings of one meter: it was seen live
    assert stage((100, 5), (2, 10), (4, 75)) == "measure"
    assert stage((200, 5), (2, 10), (70, 75)) == "climbed"
    assert stage((200, 5), (2, 10), (70, 75), (9, 80)) in ("wait", "again")
    assert stage((-200, 5), (-2, 10), (-4, 75)) == "safe"


def test_what_was_measured_before_the_computer_was_started_tells_no_time():
    assert stage((2, None), (3, 70), proved=True) in ("wait", "again")
    assert stage((2, 5), (3, None), proved=True) == "again"
    assert stage((200, None), (2, 10), (3, 75)) == "measure"  # nobody knows that it was this meter
    assert stage((2, None), (2, 10), (3, 75), proved=True) == "safe"
    assert stage((90, None)) == "measure"


def test_a_bleeder_empties_by_its_exponential():
    """4.7 kohm, 470 uF, 250 to 60 V: 3.15 s."""
    assert bleed_seconds(250, 4700, 470e-6) == pytest.approx(3.15, abs=0.005)
    assert bleed_seconds(-250, 4700, 470e-6) == bleed_seconds(250, 4700, 470e-6)
    assert bleed_seconds(50, 4700, 470e-6) == 0.0
    assert 250 * math.exp(-bleed_seconds(250, 4700, 470e-6, 30) / (4700 * 470e-6)) == pytest.approx(30)


@pytest.mark.parametrize(
    ("ohms", "manual", "outcome"),
    [(45e3, 50e3, "good"), (500e3, 50e3, "good"), (30e3, 50e3, "look"), (14e3, 50e3, "bad"), (0, 0, "bad"), (900, 0, "bad"),
     (2e3, 0, "look"), (20e3, 0, "good")],
)  # fmt: skip
def test_a_rail_far_too_low_is_a_short_and_high_is_fine(ohms, manual, outcome):
    assert RailOhms(ohms, manual).outcome == outcome
