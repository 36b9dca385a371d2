"""A value that is calculated from points is said in one line; by halves it is asked about, and per cent of nothing are refused."""

from __future__ import annotations

import pytest

from candor.core.errors import ValueTextError
from candor.core.jot import JotContext, understand
from candor.core.jot.range_line import understand_range

TURNOVER = "Turnover calculated a - b of a dc+/150/75, b dc-/150/75 comes to 0 V ±0.5 V"


@pytest.mark.parametrize(
    ("line", "formula", "points", "value", "unit"),
    [
        (TURNOVER, "a - b", {"a": "dc+/150/75", "b": "dc-/150/75"}, 0.0, "V"),
        ("Ratio figured as b/a where a=v/10/5 and b = v/10/2.5 should be 50 %", "b/a", {"a": "v/10/5", "b": "v/10/2.5"}, 0.5, "1"),
        ("Gain calculated: sqrt(out / in_) of out is ac/3/1 in_ is ac/300m/0.1, comes to 3.16", "sqrt(out / in_)",
         {"out": "ac/3/1", "in_": "ac/300m/0.1"}, 3.16, "1"),
        ("Slope calculated (b-a)/5 with a i/1m/0.0001; b i/1m/0.0005 comes to -80 uA", "(b-a)/5",
         {"a": "i/1m/0.0001", "b": "i/1m/0.0005"}, -80e-6, "A"),
    ],
)  # fmt: skip
def test_formula_points_and_value_are_read(line, formula, points, value, unit):
    jot = understand_range(line)
    assert (jot.how.kind, jot.how.formula, dict(jot.how.points), jot.unit) == ("figured", formula, points, unit)
    assert jot.how.comes_to == pytest.approx(value)
    assert jot.function == line.split()[0]
    assert ("−" in jot.chips[2]) == (value < 0)
    assert jot.divisions == 0


@pytest.mark.parametrize(
    ("line", "asked"),
    [
        ("range Turnover calculated a - b", "says its formula, the points it is of"),
        ("range Turnover calculated a - b of a dc+/150/75, b dc-/150/75", "says its formula"),
        (
            "range Turnover calculated a - b of a dc+/150/75, c dc-/150/75 comes to 0 V",
            "has a, b, and the points are named a, c",
        ),
        (
            "range Turnover calculated a - b of a dc+/150/75, b dc-/150/75 comes to 0 V 2%",
            "per cent of zero is no limit",
        ),
        ("range Turnover calculated a -* b of a dc+/150/75, b dc-/150/75 comes to 0 V", "formula|read"),
        ("range Turnover calculated a - b of a dc+/150/75, b dc-/150/75 comes to 5 furlongs", "says its formula"),
    ],
)
def test_what_is_said_by_halves_is_asked_about(line, asked):
    with pytest.raises(ValueTextError, match=asked):
        understand(line, JotContext())


def test_a_ratio_has_a_limit_without_a_unit_and_watts_are_no_range():
    limit = understand_range("gain calculated b/a of a v/10/1, b v/1/0.1 comes to 0.1 ±0.002 by the owner").limit
    assert (limit.absolute, limit.by) == (0.002, "owner")
    with pytest.raises(ValueTextError, match="says its formula"):
        understand("range power calculated V^2/R of V v/10/5, R r/1k/1000 comes to 25 mW 5%", JotContext())


def test_per_cent_are_of_what_it_should_come_to():
    limit = understand_range("Ratio calculated b/a of a v/10/5, b v/10/2.5 comes to 0.5 2%").limit
    assert (limit.percent_of_full_scale, limit.percent_of_reading) == (0.0, 2.0)
