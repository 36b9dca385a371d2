"""Points made as one goes. Which reading is of which point: ours, common practice, no source."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from candor.core.calibration.made_points import ends_of, nominal_of, point_at
from candor.core.calibration.point import TestPoint
from candor.core.errors import RangeError
from candor.core.reading.dial import DialRange
from candor.core.reading.scale import linear_scale
from candor.core.verdict.rules import Limit

SCALE = linear_scale(name="0 to 30", start=0, stop=30, divisions=30, number_every=5)
END = TestPoint(
    key="volts/30v/30", function="Volts", range_name="30 V", polarity=1, full_scale=30.0, nominal=30.0,
    indicator=DialRange(SCALE, 1.0, "V"), limit=Limit(3.0),
)  # fmt: skip


@pytest.mark.parametrize(
    ("applied", "known", "nominal"),
    [
        (10.03, (), 10.0),  # a value applied: to a round number
        (9.83, (), 9.8),
        (10.0, (10.2,), 10.2),  # read again
        (10.4, (10.0,), 10.0),  # within half a division of a point there is
        (11.6, (10.0,), 11.6),
        (20.02, (20.0, 10.0), 20.0),
        (30.4, (), 30.0),  # over its end: still of its end
    ],
)
def test_a_reading_is_of_the_point_a_restorer_would_name(applied, known, nominal):
    assert nominal_of(END, applied, known) == pytest.approx(nominal)


@given(st.floats(0.31, 30), st.sampled_from([3e-7, 3e-4, 30.0, 3e6]))
def test_read_again_it_is_the_same_point(applied, full_scale):
    """On any range: a value applied twice is twice of one point, and the point lies near what was applied."""
    size = full_scale / 30
    end = replace(END, full_scale=full_scale, nominal=full_scale, indicator=replace(END.indicator, multiplier=size))
    first = nominal_of(end, applied * size, ())
    assert nominal_of(end, applied * size, (first,)) == first
    assert 0 <= first <= full_scale
    assert abs(first - applied * size) <= 0.51 * size
    assert float(point_at(end, first).key.split("/")[-1]) == pytest.approx(first, rel=1e-5)


def test_a_point_made_is_of_its_range_at_another_value():
    made = point_at(END, 12.5)
    assert (made.key, made.nominal, made.full_scale) == ("volts/30v/12.5", 12.5, 30.0)


@pytest.mark.parametrize(
    ("polarity", "start", "ends"), [(0, -30, (-30.0, 30.0)), (1, -30, (0.0, 30.0)), (1, 0, (0.0, 30.0))]
)
def test_a_range_of_one_polarity_begins_at_zero(polarity, start, ends):
    scale = linear_scale(name="s", start=start, stop=30, divisions=30, number_every=5)
    assert ends_of(replace(END, polarity=polarity, indicator=DialRange(scale, 1.0, "V"))) == pytest.approx(ends)


def test_a_sign_is_kept_where_the_range_has_both_and_left_where_it_has_one():
    assert (replace(END, polarity=-1).signed(-3.0), replace(END, polarity=0).signed(-3.0)) == (3.0, -3.0)
    assert (END.reference_magnitude(3.0), replace(END, polarity=0).reference_magnitude(-3.0)) == (3.0, -3.0)
    for value in (-3.0, 46.0):  # of the other sign; half again its end
        with pytest.raises(RangeError):
            END.reference_magnitude(value)
    assert END.reference_magnitude(44.0) == 44.0
