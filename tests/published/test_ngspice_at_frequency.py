"""Networks at one frequency against ngspice, an independent simulator: thirty drawn at random, and an amplifier at d.c."""

import math
import random

import pytest

from candor.core.circuit.at_frequency import volts_at
from candor.core.circuit.netlist import parse_netlist
from candor.core.circuit.solve import operating_point, voltage_slopes
from candor.core.errors import RangeError
from published.ngspice import ask


def network(seed: int) -> tuple[str, float]:
    """A driven network of R, C, L, E and G, and the frequency it is driven at."""
    chance = random.Random(seed)
    hertz = float(f"{10 ** chance.uniform(1, 6):.6g}")
    nodes = [f"n{i}" for i in range(chance.randint(4, 9))]
    lines = [f"V1 n0 0 sin(0 {chance.uniform(0.5, 9):.6g} {hertz:.9g})"]
    for index, node in enumerate(nodes[1:], 1):
        lines.append(f"R{index} {node} {chance.choice(nodes[:index])} {10 ** chance.uniform(1, 6):.6g}")
        a, b = chance.sample([*nodes, "0"], 2)
        reach = 1 / (2 * math.pi * hertz)
        ohms = 10 ** chance.uniform(1, 6)
        lines.append(
            f"C{index} {a} {b} {reach / ohms:.6g}"
            if chance.random() < 0.5
            else f"L{index} {a} {b} {reach * ohms:.6g}"
        )
    a, b, c, d = chance.sample([*nodes[1:], "0"], 4)
    lines.append(f"G1 {a} {b} {c} {d} {10 ** chance.uniform(-5, -2.5):.6g}")
    lines += [f"E1 extra 0 {c} {d} {chance.uniform(-20, 20):.6g}", f"R99 extra {a} {10 ** chance.uniform(2, 5):.6g}"]
    return "\n".join(lines), hertz


@pytest.mark.parametrize("seed", range(30))
def test_voltages_at_a_frequency_against_ngspice(seed):
    """Real and imaginary part of every node, to 1e-6 of the largest."""
    text, hertz = network(seed)
    volts = volts_at(parse_netlist(text), hertz)
    amplitude = text.split("sin(0 ")[1].split()[0]
    spice = text.replace(f"sin(0 {amplitude} {hertz:.9g})", f"dc 0 ac {amplitude}")
    nodes = [node for node in volts if node != "0"]
    lines = (
        "\n".join(
            f"let {part}_{node} = {part[0:2]}(v({node}))\nprint {part}_{node}"
            for node in nodes
            for part in ("real", "imag")
        )
        .replace("re(v", "real(v")
        .replace("im(v", "imag(v")
    )
    answers = ask(
        f"* at a frequency {seed}\n{spice}\n.options gmin=1e-18\n.control\nset numdgt=12\nac lin 1 {hertz:.9g} "
        f"{hertz:.9g}\n{lines}\n.endc\n.end\n",
        tuple(f"{part}_{node}" for node in nodes for part in ("real", "imag")),
    )
    largest = max(abs(v) for v in volts.values())
    for node in nodes:
        said = complex(answers[f"real_{node}"], answers[f"imag_{node}"])
        assert abs(volts[node] - said) <= 1e-6 * largest, node


def test_an_amplifier_at_d_c_and_how_its_output_moves():
    """A transconductance into a load, times ten: 2 mS x 10 k x 0.1 V is 2 V down, doubled is what moves with each value."""
    netlist = parse_netlist("V1 in 0 0.1\nG1 plate 0 in 0 2m\nR1 plate 0 10k\nE1 out 0 plate 0 10\nR2 out 0 1k")
    assert operating_point(netlist)["out"] == pytest.approx(-20.0)
    slopes = voltage_slopes(netlist, "out")
    for name, value in (("G1", 2e-3), ("R1", 1e4), ("E1", 10.0), ("V1", 0.1)):
        moved = operating_point(netlist.with_value(name, value * 1.001))["out"]
        assert slopes[name] == pytest.approx((moved + 20.0) / (value * 0.001), rel=2e-3), name
    assert slopes["R2"] == pytest.approx(0.0, abs=1e-12)


def test_a_switch_is_what_its_range_says_and_no_answer_is_said():
    netlist = parse_netlist("V1 a 0 sin(0 1 50)\nS1 a b\nR1 b 0 1k\nS2 b c\nR2 c 0 1k")
    assert abs(volts_at(netlist.with_closed(["S1"]), 50.0)["b"]) == pytest.approx(1.0, rel=1e-5)
    assert set(netlist.with_closed(["s1", "s2"]).nodes) == {"0", "a", "b", "c"}
    for text, hertz, words in (
        ("V1 a 0 sin(0 1 50)\nC1 b c 1u\nR1 a 0 1k", 50.0, "no one answer"),
        ("V1 a 0 sin(0 1 50)\nD1 a b\nR1 b 0 1k", 50.0, "diodes has no answer"),
        ("R1 a 0 1k", 0.0, "is not a frequency"),
    ):
        with pytest.raises(RangeError, match=words):
            volts_at(parse_netlist(text), hertz)
