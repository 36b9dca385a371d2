"""What is said to change a verdict is taken at its word."""

import datetime as dt
import re

import pytest

from candor.core.calibration.point import TestPoint
from candor.core.calibration.result import assess_point
from candor.core.quantities import parse_quantity
from candor.core.reading.dial import DialRange
from candor.core.reading.reading import Reading
from candor.core.reading.scale import linear_scale
from candor.core.verdict.rules import Limit, Outcome, Rule
from candor.words.results import say_risk, what_would_change

SCALE = linear_scale("0 to 15", 0.0, 15.0, 30, 10)
POINT = TestPoint(
    key="dc+/150/75", function="DC volts +", range_name="150 V", full_scale=150.0, nominal=75.0, polarity=1,
    indicator=DialRange(SCALE, 10.0, "V", True), limit=Limit(3.0),
)  # fmt: skip
DAY = dt.date(2026, 6, 15)


def result(indicated, reference, rule):
    readings = (Reading(indicated, 75.0),)
    return assess_point(point=POINT, phase="as found", readings=readings, reference=reference, on=DAY, rule=rule)


@pytest.mark.parametrize("rule", [Rule.GUARDED, Rule.PLAIN])
def test_a_pass_has_the_room_it_says(meter, rule):
    """A little less error than it says passes still; a little more does not."""
    words = what_would_change(result(73.8, meter, rule))
    room = parse_quantity(re.match(r"(.+) more error", words)[1], "V").value
    assert result(73.8 - 0.94 * room, meter, rule).verdict.outcome is Outcome.PASS
    assert result(73.8 - 1.06 * room, meter, rule).verdict.outcome is not Outcome.PASS


@pytest.mark.parametrize("rule", [Rule.GUARDED, Rule.PLAIN])
def test_a_fail_is_won_back_by_what_it_says(meter, rule):
    words = what_would_change(result(60.0, meter, rule))
    needed = parse_quantity(re.search(r"at least (.+)\.$", words)[1], "V").value
    assert result(60.0 + 1.06 * needed, meter, rule).verdict.outcome is Outcome.PASS
    assert result(60.0 + 0.94 * needed, meter, rule).verdict.outcome is not Outcome.PASS


def test_without_a_reference_it_asks_for_one():
    assert (
        what_would_change(result(73.8, None, Rule.GUARDED)) == "No reference was chosen: choose one of the standards."
    )
    assert say_risk(result(73.8, None, Rule.GUARDED)) == "No ratio can be calculated."
