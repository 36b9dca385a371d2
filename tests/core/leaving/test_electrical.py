"""Earth bond, insulation and touch current: limits, what cannot be told, the worst of four; limits common practice, no source."""

from itertools import combinations, product

import pytest

from candor.core.errors import ValueTextError
from candor.core.jot.line import understand_at
from candor.core.jot.release_meaning import EarthJot, TouchJot
from candor.core.leaving.electrical import (
    LocalRule,
    TouchReading,
    judge_earth,
    judge_insulation,
    judge_touch,
    read_rule,
)
from candor.words.checks import say_case, say_touch

RULE = LocalRule()
CASES = list(product((False, True), (True, False)))


@pytest.mark.parametrize(
    ("ohms", "lead", "amperes", "state"),
    [
        (0.24, 0.05, 10.0, "good"),
        (0.26, 0.05, 10.0, "bad"),
        (0.21, 0.0, 10.0, "bad"),
        (0.05, 0.0, 0.2, "missing"),  # a last strand carries a milliampere too
        (0.05, 0.0, 0.0, "missing"),
        (3.0, 0.0, 0.0, "bad"),  # what is too much at nothing is too much
    ],
)
def test_an_earth_bond(ohms, lead, amperes, state):
    assert judge_earth(ohms, lead, amperes, RULE).state == state


@pytest.mark.parametrize(
    ("ohms", "volts", "washed", "state"),
    [(3e6, 500.0, False, "good"), (3e6, 500.0, True, "bad"), (11e6, 500.0, True, "good"), (1e6, 9.0, False, "bad"),
     (50e6, 9.0, False, "missing"), (50e6, 0.0, False, "missing")],
)  # fmt: skip
def test_an_insulation(ohms, volts, washed, state):
    assert judge_insulation(ohms, volts, washed, RULE).state == state


def test_a_touch_current_is_the_worst_of_four_and_never_good_of_fewer():
    low = dict.fromkeys(CASES, 0.0001)
    for count in range(4):
        for some in combinations(CASES, count):
            judged = judge_touch([TouchReading(low[c], *c) for c in some], RULE)
            assert judged.state == "missing"
            assert all((say_case(TouchReading(0.0, *c)) in say_touch(judged)) == (c not in some) for c in CASES)
    for worst in CASES:
        made = [TouchReading(0.4e-3 if c == worst else 0.1e-3, *c) for c in CASES]
        assert judge_touch(made, RULE).state == "good"
        assert f"400 µA at worst, with {say_case(TouchReading(0.0, *worst))}" in say_touch(judge_touch(made, RULE))
        over = [TouchReading(0.6e-3, *worst)]
        assert judge_touch(over, RULE).state == "bad"  # one is enough
        again = [*over, *(TouchReading(0.1e-3, *c) for c in CASES)]
        assert judge_touch(again, RULE).state == "good"  # put right and read again: the newest counts


def test_a_local_rule_is_read_as_it_is_said():
    rule = read_rule("earth 0.1 ohm; touch 0.25 mA, network 1.5 kohm")
    assert rule == LocalRule(earth_ohms=0.1, touch_amperes=0.25e-3, network_ohms=1500.0)
    assert read_rule(rule.words) == rule
    assert read_rule("") == RULE
    assert judge_touch([TouchReading(0.3e-3, False, True)], rule).state == "bad"
    for text in ("earth 20 ohm", "earth", "leak 3 mA", "touch 0 A", "touch -1 mA"):
        with pytest.raises(ValueTextError):
            read_rule(text)


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        ("earth 0.12 ohm", EarthJot(0.12)),
        ("earth bond 120 mohm lead 0.05 ohm at 10 A", EarthJot(0.12, 0.05, 10.0)),
        ("touch 0.21 mA reversed off", TouchJot(0.21e-3, 0.0, True, False)),
        ("Touch 0.42 V as it is, on", TouchJot(0.0, 0.42, False, True)),
    ],
)
def test_lines_of_it(text, expected):
    found = understand_at("release", text)
    assert {k: v for k, v in vars(found).items() if k != "chips"} == {
        k: pytest.approx(v) for k, v in vars(expected).items() if k != "chips"
    }
    assert found.chips


def test_what_is_no_such_line_is_none_and_what_is_half_one_is_said():
    for text in ("earth lead loose", "touch up the paint", "earthed"):
        assert understand_at("release", text) is None
    for text in ("touch 0.2 mA", "touch 0.2 mA sideways on", "earth 0.1 ohm lead", "earth 3 V"):
        with pytest.raises(ValueTextError):
            understand_at("release", text)
