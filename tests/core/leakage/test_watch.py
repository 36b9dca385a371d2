"""The leakage run as a watch."""

from candor.core.leakage.run import Plan
from candor.core.leakage.watch import LeakageWatch
from candor.core.live import Reading


def test_the_testers_own_resistor_takes_the_place_of_the_plans():
    watch = LeakageWatch(Plan(300, 40e-6, 1e-3))
    watch.begin({"series_ohms": 100e3, "discharge_ohms": 4.7e3})
    assert watch.plan.series_ohms == 100e3
    # At 100 kΩ and 40 µF a charge takes 4 s and more: after one second nothing is called still yet.
    for second in range(1, 4):
        watch.take(Reading(second, {"volts": 299.9, "amperes": 1e-6}))
    assert watch.seen().dwell_s == 0
    quick = LeakageWatch(Plan(300, 40e-9, 1e-3))
    quick.begin({})
    for second in range(1, 4):
        quick.take(Reading(second, {"volts": 299.9, "amperes": 1e-6}))
    assert quick.seen().dwell_s == 2


def test_what_is_safe_is_safe_either_way_round():
    watch = LeakageWatch(Plan(300, 40e-6, 1e-3))
    assert [watch.is_safe(Reading(0, {"volts": v, "amperes": 0})) for v in (59, -59, 61, -61)] == [
        True,
        True,
        False,
        False,
    ]
    assert watch.stood(None) == "Nothing was read"
    assert watch.stood(Reading(0, {"volts": -212.4, "amperes": 0})) == "212 V stood on the part"
