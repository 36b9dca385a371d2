"""In-circuit resistance, charge and discharge against ngspice, an independent simulator."""

import math
import random

import pytest

from candor.core.circuit.netlist import parse_netlist
from candor.core.circuit.resistance import divider_ratio, resistance_between, sensitivities
from candor.core.circuit.solve import operating_point, voltage_slopes
from candor.core.leakage.capacitor import charging_current, discharge_time
from candor.links.simulated_part import Clips, OldCapacitor
from published.ngspice import ask


def network(seed: int) -> str:
    """A connected random network of 5 to 12 nodes with resistors, windings and capacitors."""
    chance = random.Random(seed)
    nodes = [f"n{i}" for i in range(chance.randint(5, 12))]
    lines = []
    for index, node in enumerate(nodes):
        to = "0" if index == 0 else chance.choice([*nodes[:index], "0"])
        lines.append(f"R{index + 1} {node} {to} {10 ** chance.uniform(2, 7):.6g}")
    for index in range(len(nodes)):
        one, other = chance.sample([*nodes, "0"], 2)
        lines.append(f"R{100 + index} {one} {other} {10 ** chance.uniform(2, 7):.6g}")
        if index % 3 == 0:
            lines.append(f"C{index + 1} {one} {other} 0.05u")
    return "\n".join(lines)


@pytest.mark.parametrize("seed", range(10))
def test_resistance_in_circuit_against_ngspice(seed):
    """1 A into one node and out of the other: ngspice's operating point is the resistance (1e-9 relative)."""
    text = network(seed)
    netlist = parse_netlist(text)
    one, other = random.Random(seed + 1000).sample(netlist.nodes, 2)
    sense = f"v({one})" if other == "0" else f"v({one},{other})" if one != "0" else f"-v({other})"
    ask_for = f"let answer = {sense}\nprint answer"
    spice = f"* random network {seed}\n{text}\nI0 {other} {one} 1\n.options gmin=1e-18\n.control\nop\n{ask_for}\n.endc\n.end\n"
    assert resistance_between(netlist, one, other) == pytest.approx(ask(spice, ("answer",))["answer"], rel=1e-6)


def powered(seed: int) -> str:
    """The same with a supply, a winding and two currents drawn from it."""
    netlist = parse_netlist(network(seed))
    a, b, c = random.Random(seed + 50).sample(netlist.nodes[1:], 3)
    return f"{network(seed)}\nV1 rect 0 265\nL1 rect {a} 8 r=210\nI1 {b} 0 4m\nI2 {c} {a} -0.7m\nV2 {b} tap 1.5\nR900 tap 0 39k"


@pytest.mark.parametrize("seed", range(4))
def test_operating_points_against_ngspice(seed):
    """Every node of a supplied network (1e-6 relative); a winding's resistance stands beside it there."""
    text = powered(seed)
    volts = operating_point(parse_netlist(text))
    spice_text = text.replace("L1 rect", "RL1 rect").replace(" 8 r=210", " 210")
    nodes = [node for node in volts if node != "0"]
    lines = "\n".join(
        f"let v_{node.replace('+', 'p')} = v({node})\nprint v_{node.replace('+', 'p')}" for node in nodes
    )
    spice = f"* supplied {seed}\n{spice_text}\n.options gmin=1e-18\n.control\nop\n{lines}\n.endc\n.end\n"
    found = ask(spice, tuple(f"v_{node}" for node in nodes))
    for node in nodes:
        assert volts[node] == pytest.approx(found[f"v_{node}"], rel=1e-5, abs=1e-6)


@pytest.mark.parametrize("seed", range(3))
def test_slopes_of_a_voltage_by_the_adjoint(seed):
    """Of every element, sources too, against a finite difference of the same network (1e-5)."""
    netlist = parse_netlist(powered(seed))
    one, other = netlist.nodes[2], netlist.nodes[4]

    def output(changed):
        volts = operating_point(changed)
        return volts[one] - volts[other]

    slopes = voltage_slopes(netlist, one, other)
    assert set(slopes) == {e.name for e in netlist.elements}
    for e in netlist.elements:
        step = 1e-4 * abs(e.value)
        moved = [output(netlist.with_value(e.name, e.value + side * step)) for side in (1, -1)]
        scale = abs(output(netlist)) / abs(e.value)
        assert (moved[0] - moved[1]) / (2 * step) == pytest.approx(slopes[e.name], rel=1e-4, abs=1e-7 * scale)


@pytest.mark.parametrize("seed", range(3))
def test_divider_ratio_against_ngspice(seed):
    netlist = parse_netlist(network(seed))
    top, tap = netlist.nodes[-1], netlist.nodes[1]
    spice = f"* divider {seed}\n{network(seed)}\nV0 {top} 0 1\n.control\nop\nlet answer = v({tap})\nprint answer\n.endc\n.end\n"
    assert divider_ratio(netlist, top, tap) == pytest.approx(ask(spice, ("answer",))["answer"], rel=1e-5, abs=1e-9)


@pytest.mark.parametrize("seed", range(5))
def test_sensitivities_are_the_slopes_of_the_resistance(seed):
    """The adjoint against a finite difference of the same network (1e-4)."""
    netlist = parse_netlist(network(seed))
    found = sensitivities(netlist, netlist.nodes[1], "0")
    for name, slope in found.items():
        element = netlist.element(name)
        step = 1e-4 * element.value
        moved = [
            resistance_between(netlist.with_value(name, element.value + side * step), netlist.nodes[1], "0")
            for side in (1, -1)
        ]
        difference = (moved[0] - moved[1]) / (2 * step)
        assert difference == pytest.approx(slope, rel=1e-3, abs=1e-7)


TRANSIENT = """* {title}
V1 s 0 {source}
R1 s c {ohms}
C1 c 0 {farads} ic={start}
.control
tran {step} {end} uic
meas tran answer find {what} at={at}
.endc
.end
"""


@pytest.mark.parametrize("share", [0.3, 1.0, 3.0])
def test_charging_current_against_ngspice(share):
    """22 k + 40 µF at 280 V, the current after some time constants (0.2 %, the simulator's own step)."""
    ohms, farads, volts = 22e3, 40e-6, 280.0
    tau = ohms * farads
    text = TRANSIENT.format(title=f"charge {share}", source=volts, ohms=ohms, farads=farads, start=0, step=tau / 500,
                            end=4 * tau, what="i(V1)", at=share * tau)  # fmt: skip
    assert charging_current(volts, ohms, farads, share * tau) == pytest.approx(
        -ask(text, ("answer",))["answer"], rel=2e-3
    )


def test_discharge_against_ngspice():
    """4.7 k, 470 µF, from 250 V: after the calculated time the simulator stands at 60 V (0.1 %)."""
    seconds = discharge_time(4.7e3, 470e-6, 250.0, 60.0)
    assert seconds == pytest.approx(3.15, abs=0.005)
    text = TRANSIENT.format(title="discharge", source=0, ohms=4.7e3, farads=470e-6, start=250, step=0.005, end=4,
                            what="v(c)", at=round(seconds, 6))  # fmt: skip
    assert ask(text, ("answer",))["answer"] == pytest.approx(60.0, rel=1e-3)


def test_simulated_bench_charges_like_ngspice():
    """The stand-in's capacitor, without leakage and absorption, against the simulator after one second (0.5 %)."""
    bench = Clips(
        OldCapacitor(farads=40e-6, final_amperes=0.0, unformed_amperes=0.0, absorbed=1e-9), noise_amperes=0.0
    )
    bench.source_volts, bench.on = 280.0, True
    bench.advance(1.0)
    text = TRANSIENT.format(
        title="stand-in", source=280, ohms=23e3, farads=40e-6, start=0, step=0.002, end=2, what="v(c)", at=1
    )
    assert bench.volts == pytest.approx(ask(text, ("answer",))["answer"], rel=5e-3)
    bench.on = False
    bench.advance(0.5)
    assert bench.volts == pytest.approx(280 * (1 - math.exp(-1 / 0.92)) * math.exp(-0.5 / (4.7e3 * 40e-6)), rel=5e-3)
