"""The leakage run as a watch."""

import math

import pytest

from candor.core.errors import RangeError
from candor.core.leakage.leakage_run import Plan
from candor.core.leakage.leakage_watch import LeakageWatch
from candor.core.leakage.usual import may_run
from candor.core.live import Reading
from candor.core.parts.part import Part


def test_the_testers_own_resistor_takes_the_place_of_the_plans():
    watch = LeakageWatch(Plan(300, 40e-6, 1e-3))
    watch.begin({"series_ohms": 100e3, "discharge_ohms": 4.7e3})
    assert watch.plan.series_ohms == 100e3
    # At 100 kΩ and 40 µF a charge takes 4 s and more: after one second nothing is called still yet.
    follow(watch, range(1, 5))
    assert watch.seen().dwell_s == 0
    quick = LeakageWatch(Plan(300, 40e-9, 1e-3))
    quick.begin({})
    follow(quick, range(1, 5))
    assert quick.seen().dwell_s == 2


def follow(watch, seconds, amperes=1e-6):
    """Read what an honest tester reads: the level less the drop in the source."""
    advice = None
    for second in seconds:
        volts = watch.level - amperes * watch.plan.series_ohms
        advice = watch.take(Reading(second, {"volts": volts, "amperes": amperes}))
    return advice


def test_what_is_safe_is_safe_either_way_round():
    watch = LeakageWatch(Plan(300, 40e-6, 1e-3))
    follow(watch, range(1, 5))
    assert watch.unproved == ""
    assert [watch.is_safe(Reading(0, {"volts": v, "amperes": 0})) for v in (59, -59, 61, -61)] == [
        True,
        True,
        False,
        False,
    ]
    assert watch.stood(None) == "Nothing was read"
    assert watch.stood(Reading(0, {"volts": -212.4, "amperes": 0})) == "212 V stood on the part"


def test_half_the_voltage_comes_first_and_the_whole_of_it_only_when_the_volts_followed():
    watch = LeakageWatch(Plan(300, 40e-6, 1e-3))
    assert watch.level == 150
    assert follow(watch, [0.1]).level == 300
    assert (watch.unproved == "", watch.is_safe(Reading(1, {"volts": 0.0, "amperes": 0.0}))) == (False, False)
    follow(watch, [0.2])
    assert watch.is_safe(Reading(1, {"volts": 0.0, "amperes": 0.0}))


@pytest.mark.parametrize("factor", [0.0, 1e-3, 0.85, 1.15])
def test_volts_that_do_not_follow_end_it_at_half_the_voltage(factor):
    watch, advice = LeakageWatch(Plan(300, 40e-6, 1e-3)), None
    for tenth in range(60):
        level = watch.level
        assert level == 150
        advice = watch.take(Reading(tenth / 10, {"volts": factor * level, "amperes": 1e-6}))
        if advice.stop:
            break
    assert "do not follow the source" in advice.stop
    assert (advice.level, watch.seen().outcome) == (0.0, "stopped")
    assert not watch.is_safe(Reading(9, {"volts": 0.0, "amperes": 0.0}))
    assert "measure with a meter you have proved" in watch.unproved


def test_charging_is_no_lie_and_no_proof():
    """While it charges, the drop in the source takes most: a dead meter could agree, an honest one must not be blamed."""
    watch = LeakageWatch(Plan(300, 400e-6, 1e-3))
    for second in range(8):  # tau 9.2 s
        volts = 150 * (1 - math.exp(-second / 9.2))
        advice = watch.take(Reading(second, {"volts": volts, "amperes": (150 - volts) / 23e3}))
        assert (advice.stop, watch.level) == ("", 150 if second < 7 else 300)


@pytest.mark.parametrize(("watts", "within_s"), [(4.0, 1.0), (1.3, 3.2), (0.9, None)])
def test_heat_counts_from_the_first_second(watts, within_s):
    """A part over its breakdown never reaches its voltage: it is not charging, it is hot."""
    watch, ended = LeakageWatch(Plan(1000, 40e-6, 1e-2, series_ohms=23e3)), None
    amperes = watts / 449.0
    for twentieth in range(1, 400):
        advice = watch.take(Reading(twentieth / 20, {"volts": 449.0, "amperes": amperes}))
        if "heat" in advice.stop:
            ended = twentieth / 20
            break
        if advice.stop:
            break
    assert (ended is None) == (within_s is None)
    assert ended is None or ended <= within_s


@pytest.mark.parametrize("times", [0.5, 1.0, 2.0, 3.0])
def test_charging_makes_no_heat(times):
    """An old one may have three times what is marked."""
    watch, tau = LeakageWatch(Plan(400, 40e-6, 1e-3)), 23e3 * 40e-6 * times
    began, before, level, volts = 0.0, 0.0, watch.level, 0.0
    for n in range(1, 1500):
        now = n / 50
        if watch.level != level:
            began, before, level = now, volts, watch.level
        volts = level + (before - level) * math.exp(-(now - began) / tau)
        advice = watch.take(Reading(now, {"volts": volts, "amperes": (level - volts) / 23e3}))
        assert advice.stop == ""


CAN = Part("C1", "capacitor", 100e-6, volts=25.0, make="electrolytic")


def test_more_than_the_rating_asks_for_a_reason_and_more_than_a_tester_gives_is_barred():
    may_run(Plan(25.0, 100e-6, 1e-4), CAN)
    with pytest.raises(RangeError, match="above its rating of 25 V"):
        may_run(Plan(26.0, 100e-6, 1e-4), CAN, "  ")
    may_run(Plan(26.0, 100e-6, 1e-4), CAN, "surge rating 30 V, read off its sheet")
    with pytest.raises(RangeError, match="at most 1000 V"):
        may_run(Plan(60e3, 100e-6, 1e-4), CAN, "I insist")
