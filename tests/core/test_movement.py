"""Movements: half deflection, shunts, multipliers, a substitute, balance; check values derived, as the brief has them."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from candor.core.circuit.netlist import parse_netlist
from candor.core.circuit.solve import operating_point
from candor.core.errors import CandorError
from candor.core.movement.coil import half_deflection, say_balance, sensitivity_of
from candor.core.movement.ranges import Coil, multiplier, shunt, substitute, universal_shunt
from candor.words.movement_words import movement_told


@given(st.floats(10, 1e5), st.floats(1.05, 1e4), st.floats(0.5, 300))
def test_half_deflection_against_a_solved_circuit(ohms, times, volts):
    """Whatever the movement, source and series resistor: the R2 that halves its current gives it back exactly."""
    series = ohms * times
    # With R1 and the volts kept, R2 = R_m R1/(R_m + R1) halves the current; solved, not assumed.
    across = ohms * series / (ohms + series)
    net = f"V1 s 0 {volts}\nR1 s m {series}\nR2 m 0 {ohms}"
    full = operating_point(parse_netlist(net))["m"]
    half = operating_point(parse_netlist(f"{net}\nR3 m 0 {across}"))["m"]
    assert half / full == pytest.approx(0.5, rel=1e-6)
    assert half_deflection(series, across).ohms == pytest.approx(ohms, rel=1e-6)


def test_check_values():
    found = half_deflection(10e3, 1e3, 5.0, 1.0)
    assert (round(found.ohms, 1), found.short_formula) == (1111.1, 1e3)
    assert found.standard_uncertainty == pytest.approx(math.hypot(5 * (1 / 9) ** 2, (10 / 9) ** 2))
    coil = Coil(50e-6, 2e3)
    assert universal_shunt(coil, (1e-3, 10e-3, 0.1, 1.0)) == pytest.approx(
        (105.263, 10.5263, 1.05263, 0.105263), rel=1e-5
    )
    assert sensitivity_of({1.5: 1.5e3, 6: 6e3, 12: 12e3, 30: 30e3}) == pytest.approx((1000.0, 1e-3))
    one = Coil(1e-3, 100.0)
    assert [round(multiplier(one, 10.0, k) + 100) for k in ("full wave", "half wave")] == [9003, 4502]
    assert shunt(coil, 1e-3) == pytest.approx(105.263, rel=1e-5)


def test_a_substitute_behaves_as_what_it_stands_for():
    have, wanted = Coil(40e-6, 2500), Coil(100e-6, 4000)
    made = substitute(have, wanted)
    together = made.series_ohms + have.ohms * made.across_ohms / (have.ohms + made.across_ohms)
    assert together == pytest.approx(wanted.ohms)
    assert wanted.amperes * made.across_ohms / (made.across_ohms + have.ohms) == pytest.approx(have.amperes)
    assert substitute(have, Coil(40e-6, 3000)).series_ohms == pytest.approx(500)


@pytest.mark.parametrize(
    ("zeros", "words"),
    [
        ({"lying": 0, "standing": 0.7, "left": -0.2}, "Out of balance across the needle: \\+0.7 division standing"),
        ({"lying": 0.6, "standing": 0.7, "right": -0.4}, "that is the screw's. Out of balance along the needle"),
        ({"lying": 0, "standing": 0.3}, "In balance: at most 0.3"),
        ({"lying": 0.1}, "Stand it up"),
    ],
)
def test_balance_in_words(zeros, words):
    import re

    assert re.search(words, say_balance(zeros))


@pytest.mark.parametrize(
    ("make", "words"),
    [
        (lambda: half_deflection(1e3, 2e3), "R1 must be the larger"),
        (lambda: shunt(Coil(1e-3, 100), 0.5e-3), "is not above the movement's own 1 mA"),
        (lambda: universal_shunt(Coil(1e-3, 100), (0.1, 0.01)), "must rise"),
        (lambda: multiplier(Coil(1e-3, 100), 0.05), "The movement alone needs 100 mV"),
        (lambda: substitute(Coil(1e-3, 100), Coil(50e-6, 2e3)), "needs more current"),
        (lambda: substitute(Coil(50e-6, 2e3), Coil(60e-6, 1e3)), "more than the 1 kΩ wanted"),
        (lambda: Coil(0, 1), "cannot be"),
        (lambda: say_balance({"standing": 1}), "needs the zero lying"),
        (lambda: movement_told({}), "Nothing was asked"),
        (lambda: movement_told({"half": "3k"}), "is not a pair"),
        (lambda: movement_told({"have": "1m,100", "volts": "10", "rectified": "quarter"}), "is not a rectifier"),
    ],
)
def test_what_cannot_be_is_said(make, words):
    with pytest.raises(CandorError, match=words):
        make()


def test_told_with_every_heading():
    said = {
        "half": "99k,2.4k",
        "zeros": "0,0.1,0,0",
        "have": "40u,2.5k",
        "wanted": "50u,3k",
        "amperes": "1m,10m",
        "volts": "5",
        "rectified": "full wave",
    }
    told = movement_told(said)
    assert set(told) == {"half deflection", "balance", "substitute", "universal shunt", "multipliers"}
    assert told["multipliers"][0]["ohms"] == pytest.approx(0.90032 * 5 / 40e-6 - 2500, rel=1e-5)
