"""Points made as one goes. Which reading is of which point: ours, common practice, no source."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from candor.core.calibration.made_points import nominal_of, point_at
from candor.core.calibration.point import TestPoint
from candor.core.reading.dial import DialRange
from candor.core.reading.scale import linear_scale
from candor.core.verdict.rules import Limit

SCALE = linear_scale(name="0 to 30", start=0, stop=30, divisions=30, number_every=5)
END = TestPoint(
    key="volts/30v/30", function="Volts", range_name="30 V", polarity=1, full_scale=30.0, nominal=30.0,
    indicator=DialRange(SCALE, 1.0, "V"), limit=Limit(3.0),
)  # fmt: skip


@pytest.mark.parametrize(
    ("indicated", "reference", "known", "nominal"),
    [
        (10.2, 10.03, (), 10.0),  # a value applied: to a round number
        (10.0, 9.83, (), 10.0),  # set on a mark: the mark
        (10.2, 10.0, (10.2,), 10.2),  # read again
        (10.6, 10.4, (10.0,), 10.0),  # within half a division of a point there is
        (11.7, 11.6, (10.0,), 11.6),
        (19.4, 20.02, (20.0, 10.0), 20.0),
        (30.5, 30.4, (), 30.0),  # over its end: still of its end
    ],
)
def test_a_reading_is_of_the_point_a_restorer_would_name(indicated, reference, known, nominal):
    assert nominal_of(END, indicated, reference, known) == pytest.approx(nominal)


@given(st.floats(0.31, 30), st.floats(-0.9, 0.9), st.sampled_from([3e-7, 3e-4, 30.0, 3e6]))
def test_read_again_it_is_the_same_point(reference, error, full_scale):
    """On any range: a reading made twice is twice of one point, and the point lies near what was applied or shown."""
    size = full_scale / 30
    end = replace(END, full_scale=full_scale, nominal=full_scale, indicator=replace(END.indicator, multiplier=size))
    shown = max(reference + error, 0.2) * size
    first = nominal_of(end, shown, reference * size, ())
    assert nominal_of(end, shown, reference * size, (first,)) == first
    assert 0 <= first <= full_scale
    assert min(abs(first - shown), abs(first - reference * size)) <= 0.51 * size
    assert float(point_at(end, first).key.split("/")[-1]) == pytest.approx(first, rel=1e-5)
