"""Several ranges in one line: ends that rise, and the multipliers of one ohms arc."""

import math

import pytest

from candor.core.errors import CandorError
from candor.core.jot.range_fields import fields_of, range_line
from candor.core.jot.range_line import understand_range


@pytest.mark.parametrize(
    "line",
    [
        'ohms called "R×1 R×10 R×1k R×1M" 10 ohm centre zero left 5 div 3% of arc',
        "ohms R x 1, R x 10, R x 1k, R x 1M 10 ohm centre zero left 5 div 3% of arc",
    ],
)
def test_multipliers_are_ranges_of_one_arc(line):
    jot = understand_range(line)
    every = (jot, *jot.beside)
    assert [one.name for one in every] == ["R×1", "R×10", "R×1k", "R×1M"]
    assert [one.full_scale for one in every] == pytest.approx([10.0, 100.0, 1e4, 1e7])
    assert {one.limit for one in every} == {jot.limit}
    way, said, limit = fields_of(jot)
    again = understand_range(range_line(way, jot.function, said, limit))
    assert [(one.name, one.full_scale) for one in (again, *again.beside)] == [
        (one.name, one.full_scale) for one in every
    ]


def test_what_is_printed_is_multiplied_too_and_points_are_of_each():
    jot = understand_range('ohms called "R×1 R×100" 12 ohm centre zero right marks 0 5 12 50 200 inf usual points')
    (other,) = jot.beside
    assert sorted(other.how.marks) == [0.0, 500.0, 1200.0, 5000.0, 20000.0, math.inf]
    assert (len(jot.points), other.points) == (5, pytest.approx((600.0, 1200.0, 2400.0)))


@pytest.mark.parametrize(
    ("line", "says"),
    [
        ("volts Rx1 Rx10 3 V 30 div", "multipliers of an ohms arc"),
        ("ohms Rx10 Rx1 10 ohm centre zero left", "do not rise"),
    ],
)
def test_multipliers_that_cannot_be_are_refused(line, says):
    with pytest.raises(CandorError, match=says):
        understand_range(line)


@pytest.mark.parametrize(
    ("line", "named"),
    [("1500 V 30 div", "1500 V"), (".3 V 30 div", "0.3 V"), ("3000 umho 60 div", "3000 µmho"), ("2500 ohms 50 div", "2500 Ω"),
     ("30 V 30 div", ""), ("60 mA 60 div", ""), ("vertical 0.5 V/div 8 div", ""), ("R 0.5 ohm centre zero left", "")],
)  # fmt: skip
def test_a_range_is_called_as_its_face_writes_its_end(line, named):
    jot = understand_range(line)
    assert jot.name == named
    way, said, limit = fields_of(jot)
    assert understand_range(range_line(way, jot.function, said, limit)).name == named
