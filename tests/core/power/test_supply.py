"""A network in time against what is known in closed form, and every fault it refuses."""

import math

import numpy as np
import pytest

from candor.core.circuit.netlist import NetlistError, parse_netlist
from candor.core.circuit.rectifiers import THERMAL_VOLTS, mercury, silicon, vacuum
from candor.core.circuit.time_steps import March
from candor.core.errors import CancelledError, RangeError
from candor.core.power.supply import calculate_supply, read_stop, without_bleeder
from candor.words.supply_words import supply_lines


def volts(text: str, node: str, seconds: float) -> float:
    envelope = March(parse_netlist(text)).run(seconds, until_settled=False)
    return float(envelope.high[-1, envelope.column(node)])


@pytest.mark.parametrize("tau", [0.02, 0.1, 1.0])
def test_a_capacitor_charges_by_its_exponential(tau):
    """100 (1 - exp(-t/RC)) at a second, or after one time constant."""
    text = f"V1 a 0 100\nR1 a b {tau / 10e-6:g}\nC1 b 0 10u"
    assert volts(text, "b", 1.0) == pytest.approx(100 * (1 - math.exp(-1 / tau)), rel=1e-3)


def test_an_inductor_takes_its_time_and_a_late_load_begins_late():
    """I = (V/R)(1 - exp(-R t/L)) with 20 H in 100 + 900 ohm; 10 mA from 0.5 s pull 1 kohm down by 10 V."""
    text = "V1 a 0 100\nL1 a b 20 r=100\nR1 b 0 900"
    assert volts(text, "b", 0.02) == pytest.approx(90 * (1 - math.exp(-1)), rel=3e-3)
    text = "V1 a 0 100\nR1 a b 1k\nI1 b 0 10m from=0.5"
    assert (volts(text, "b", 0.48), volts(text, "b", 0.6)) == pytest.approx((100.0, 90.0))


def test_a_resonance_swings_as_it_must():
    """A step through 1 H and 10 uF overshoots to 1 + exp(-pi zeta/sqrt(1 - zeta^2)) of it; zeta = R/2 sqrt(C/L)."""
    zeta = 100 / 2 * math.sqrt(10e-6 / 1)
    peak = 100 * (1 + math.exp(-math.pi * zeta / math.sqrt(1 - zeta**2)))
    answer = calculate_supply(parse_netlist("V1 a 0 100\nL1 a b 1 r=100\nC1 b 0 10u"), 0.5)
    assert answer.nodes["b"].peak == pytest.approx(peak, rel=2e-3)


def test_curves_are_their_laws():
    """Silicon to 25 mV where a milliampere flows, vacuum to 0.9 % of the current, an arc its drop at any current."""
    diode = silicon(1e-9, 1.5, 1.0)
    for amperes in np.geomspace(1e-3, 10, 60):
        v = 1.5 * THERMAL_VOLTS * math.log1p(amperes / 1e-9) + amperes
        above, below = diode.current(v + 0.025), diode.current(v - 0.025)
        assert below <= amperes <= above
    tube = vacuum(2.7e-4)
    for v in np.geomspace(10, 900, 60):
        assert tube.current(v) == pytest.approx(2.7e-4 * v**1.5, rel=0.009)
    arc = mercury(15.0)
    assert (arc.current(14.9) < 1e-7, arc.current(15.1)) == (True, pytest.approx(0.2))
    assert diode.current(-500) == pytest.approx(-0.5e-6)


def test_a_supply_with_no_load_charges_to_the_crest_and_says_what_holds_it():
    answer = calculate_supply(
        parse_netlist("V1 a 0 sin(0 300 50)\nR1 a b 100\nD1 b k\nC1 k 0 16u\nC2 x 0 1u\nR2 x 0 1k")
    )
    assert answer.nodes["k"].mean == pytest.approx(299.6, abs=0.3)
    assert supply_lines(answer)[-1] == "Nothing discharges C1: it holds its charge after the plug is out."
    assert answer.settled
    assert without_bleeder(parse_netlist("C1 k 0 16u\nR1 k b 1k\nI1 b 0 1m")) == ("C1",)


def test_a_negative_rail_has_its_lowest_as_its_peak_and_two_rails_add():
    text = "V1 a 0 sin(0 300 50)\nD1 a p\nC1 p 0 16u\nR1 p 0 10k\nD2 n a\nC2 n 0 16u\nR2 n 0 10k"
    answer = calculate_supply(parse_netlist(text))
    assert answer.nodes["p"].peak == pytest.approx(-answer.nodes["n"].peak, rel=1e-3)
    assert answer.nodes["n"].mean < -280
    assert answer.rectifier_peaks["D1"][1] >= answer.rectifier_peaks["D1"][0] > 0.1


def test_what_has_not_settled_is_said_and_a_run_can_be_stopped():
    slow = parse_netlist("V1 a 0 100\nR1 a b 1meg\nC1 b 0 100u")
    answer = calculate_supply(slow, 5.0)
    assert not answer.settled
    assert "It still moves after 5 s" in supply_lines(answer)[-1]
    with pytest.raises(CancelledError):
        calculate_supply(slow, 5.0, lambda: True)


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("V1 a 0 sin(0 99 50)\nD1 a b\nR1 c d 1k", "Nothing joins c, d to the chassis"),
        ("V1 a 0 9\nV2 a 0 8\nR1 a 0 1k", "V2 closes a loop of sources (V1)"),
        ("V1 a 0 9\nI1 b 0 1m", "Nothing joins b to the chassis"),
    ],
)
def test_a_network_without_an_answer_is_refused(text, words):
    with pytest.raises(RangeError, match=words.replace("(", r"\(").replace(")", r"\)")):
        March(parse_netlist(text))


@pytest.mark.parametrize(
    ("line", "words"),
    [
        ("V1 a 0 sin(0 99 0)", "0 Hz is not a frequency"),
        ("R1 a 0 sin(0 1 50)", "only a voltage can be a sine"),
        ("D1 a 0 drop=-15", "is not above zero"),
        ("D1 a 0 from=3", "is=, n=, rs=, drop=, perveance="),
        ("V1 a 0 sin(0 99)", "does not belong there"),
    ],
)
def test_a_line_that_says_no_element_is_refused(line, words):
    with pytest.raises(NetlistError, match=words):
        parse_netlist(line)


def test_a_netlist_may_say_how_long_it_runs():
    assert read_stop("V1 a 0 9\n.tran 50u 2.5\n") == 2.5
    assert read_stop("V1 a 0 9") is None
