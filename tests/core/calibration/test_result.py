"""A point is assessed whatever is typed for it, letter by letter: what cannot be judged is said."""

import datetime as dt
import math
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from candor.core.calibration.result import assess_point
from candor.core.errors import RangeError
from candor.core.reading.reading import Reading
from candor.core.reference.reference import Reference, SpecificationRange
from candor.core.verdict.limits import Limit
from candor.core.verdict.rules import Outcome
from candor.packs.procedure import test_points as points_of
from everykind import PACK

DAY = dt.date(2026, 6, 1)
VOLTS = next(p for p in points_of(PACK, "as found") if p.key == "volts/10/5")
SOURCE = Reference("source", "V", (SpecificationRange(1000, 0.05),), calibrated_on=DAY)
LIMITS = (Limit(decibels=1.0), Limit(factor=1.2), Limit(3.0), Limit(percent_of_arc=3.0), Limit(at_least=4.0), Limit())


@given(
    limit=st.sampled_from(LIMITS),
    indicated=st.sampled_from([0.0, -0.0, 5e-324, -3.0, 1e-9, 5.0, 9.99, 400.0]),
    reference=st.sampled_from([0.0, 1e-9, 5.0]),
    compared=st.booleans(),
)
def test_a_reading_that_is_half_typed_is_assessed(limit, indicated, reference, compared):
    point, readings = replace(VOLTS, limit=limit), (Reading(indicated, reference),)
    result = assess_point(
        point=point,
        phase="as found",
        readings=readings,
        reference=SOURCE if compared else None,
        on=DAY,
        remark="none chosen",
    )
    assert math.isfinite(result.error)
    assert result.verdict.outcome is Outcome.CANNOT_TELL or (compared and limit.given)


@pytest.mark.parametrize("limit", [Limit(decibels=1.0), Limit(factor=1.2)])
def test_what_has_no_logarithm_cannot_be_judged_by_a_ratio_and_says_so(limit):
    result = assess_point(
        point=replace(VOLTS, limit=limit), phase="as found", readings=(Reading(0.0, 5.0),), reference=SOURCE, on=DAY
    )
    assert (result.verdict.outcome, result.error) == (Outcome.CANNOT_TELL, pytest.approx(-5.0))
    assert "0 V has no logarithm" in result.remark
    assert result.coverage.expanded > 0


def test_a_point_without_a_reading_is_refused():
    with pytest.raises(RangeError, match="at least one"):
        assess_point(point=VOLTS, phase="as found", readings=(), reference=None, on=DAY)
