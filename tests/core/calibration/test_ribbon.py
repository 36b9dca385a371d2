"""The ribbon's layout, which screen and paper draw alike."""

from candor.core.calibration.ribbon import Column, Group, Mark, Place, lay_out, mark
from candor.core.verdict.rules import Outcome

PLACES = (
    Place("a", "DC volts +", "15 V", 3.0),
    Place("b", "DC volts +", "15 V", 3.0),
    Place("c", "DC volts +", "50 V", 3.0),
    Place("d", "DC volts -", "15 V", 5.0),
)
IN, OUT = Mark(0.5, 0.1, Outcome.PASS), Mark(-2.5, 0.1, Outcome.FAIL)


def test_points_of_a_function_stand_by_range_with_what_was_read():
    laid = lay_out("DC volts +", PLACES, {"a": OUT, "d": IN}, {"a": IN}, {"b": IN})
    assert laid.columns == (Column("a", OUT, IN), Column("b", voided=IN), Column("c"))
    assert [c.is_empty for c in laid.columns] == [False, False, True]
    assert laid.groups == (Group("15 V", 0, 2), Group("50 V", 2, 1))
    assert laid.lines == ((1.0, "+3 %"), (0.0, "0"), (-1.0, "−3 %"))
    assert (laid.read, OUT.beyond, IN.beyond) == (1, -1, 0)


def test_limits_that_differ_have_no_number():
    places = (*PLACES, Place("e", "DC volts +", "500 V", 4.0))
    assert lay_out("DC volts +", places, {}, {}).lines[0] == (1.0, "+limit")
    assert lay_out("ohms", places, {}, {}).columns == ()


def test_heights_are_shares_of_the_limit():
    assert mark(-1.5, 0.75, 3.0, Outcome.PASS) == Mark(-0.5, 0.25, Outcome.PASS)
    assert mark(0.0, 0.3, 0.0, Outcome.PASS) == Mark(0.0, 0.0, Outcome.PASS)
