"""Nodes, what resistors and tubes carry, what does not add up, ohms of pairs."""

import math
import random
from dataclasses import replace

import pytest

from candor.core.circuit.netlist import parse_netlist
from candor.core.circuit.solve import operating_point
from candor.core.errors import RangeError
from candor.core.trace.currents import TubePoint, TubeRatings, node_sums, resistor_loads, tube_findings
from candor.core.trace.nodes import (
    NodeExpected,
    NodeMeasured,
    drawn_open,
    judge_node,
    opened,
    source_resistance,
    source_resistances,
)
from candor.core.trace.pairs import PairRead, judge_pair
from candor.words.trace_words import say_load, say_node, say_pair, say_sum, say_tubes

TEXT = "V1 b1 0 250\nR1 b1 n1 10k\nR2 n1 n2 22k\nR3 n2 0 47k\nR4 n1 n3 33k\nR5 n3 0 68k\nR6 n2 n3 100k\nR7 b1 n3 150k"
BASE = parse_netlist(TEXT)
TOLERANCES = {f"R{i}": 0.05 for i in range(1, 8)}


def test_currents_and_watts_are_said_unasked():
    """(465 - 410)/500 = 110 mA, (410 - 305)/1000 = 105 mA; 6.05 W and 11.0 W, over a 10 W rating."""
    network = parse_netlist("R1 a b 500\nR2 b c 1000")
    loads = resistor_loads(network, {"a": 465, "b": 410, "c": 305}, {}, {"R1": 10, "R2": 10})
    assert [x.amperes for x in loads] == pytest.approx([0.110, 0.105])
    assert [x.watts for x in loads] == pytest.approx([6.05, 11.025])
    assert [x.is_over for x in loads] == [False, True]
    assert "over half of it" in say_load(loads[0])
    assert "11 W: over its 10 W" in say_load(loads[1])
    (left,) = [x for x in node_sums(network, loads) if x.node == "b"]
    assert left.amperes == pytest.approx(0.005)
    assert left.adds_up == (left.expanded >= 0.005)


def test_what_leaves_a_node_another_way_is_said():
    volts = operating_point(parse_netlist(TEXT + "\nI9 n3 0 4m"))
    loads = resistor_loads(BASE, volts, dict.fromkeys(TOLERANCES, 0.01), {})
    left = {x.node: x for x in node_sums(BASE, loads)}["n3"]
    assert not left.adds_up
    assert left.amperes == pytest.approx(4e-3, rel=0.01)
    assert "leaves it another way" in say_sum(left)
    assert "n3" not in {x.node for x in node_sums(BASE, loads, {"n3": "V1 plate"})}


def test_the_load_of_a_meter_is_taken_out_and_that_of_the_drawings_put_in():
    ohms = source_resistance(BASE, "n2", frozenset({"b1"}))
    assert 5e3 < ohms < 47e3
    loaded = operating_point(parse_netlist(TEXT + "\nRM n2 0 1meg"))["n2"]
    assert opened(NodeMeasured(loaded, 1e6), ohms) == pytest.approx(operating_point(BASE)["n2"], rel=1e-6)
    drawn = operating_point(parse_netlist(TEXT + "\nRM n2 0 250k"))["n2"]
    assert drawn_open(drawn, ohms, 1000, 250) == pytest.approx(operating_point(BASE)["n2"], rel=1e-6)
    assert drawn_open(100, ohms, 0, 250, 1.1) == pytest.approx(110)
    assert source_resistance(None, "n2") == math.inf


def test_the_resistances_of_all_nodes_come_from_one_matrix_and_are_those_of_each_alone():
    rungs = 200  # past the size at which the matrix is taken for a sparse one
    ladder = parse_netlist(
        "\n".join(f"R{i} n{i} {f'n{i + 1}' if i < rungs else '0'} {100 + i}" for i in range(rungs + 1))
    )
    nodes = [f"n{i}" for i in range(rungs + 1)]
    want = {
        f"n{i}": sum(100.0 + k for k in range(i, rungs + 1)) for i in range(rungs + 1)
    }  # in series to the chassis
    assert source_resistances(ladder, nodes) == pytest.approx(want)
    assert source_resistances(ladder, ["n0", "n100"], frozenset({"n100"})) == pytest.approx(
        {"n0": sum(100.0 + k for k in range(100)), "n100": math.inf}
    )
    assert source_resistances(parse_netlist("R1 a b 5\nR2 c 0 7"), ["a", "c", "0"]) == {
        "a": math.inf,
        "c": 7.0,
        "0": 0.0,
    }


@pytest.mark.parametrize(
    ("volts", "expected", "state"),
    [(100, NodeExpected(110, 0.2, "drawing"), "as expected"), (80, NodeExpected(110, 0.2, "drawing"), "low"),
     (-80, NodeExpected(-110, 0.2, "sister"), "low"), (-140, NodeExpected(-110, 0.2, "calculated"), "high"),
     (0.1, NodeExpected(0, 0.2, "drawing"), "as expected"), (-1.2, NodeExpected(0, 0.2, "drawing"), "should be 0"),
     (5, None, "not expected")],
)  # fmt: skip
def test_a_node_is_judged(volts, expected, state):
    judged = judge_node("n1", NodeMeasured(volts), expected, 0.0)
    assert judged.state == state
    assert say_node(judged).startswith("n1 ")


def test_a_tube_beyond_its_ratings_is_the_circuits_fault():
    point = TubePoint("V1", 260, -2, 290, 0.030, 0.012, 0.020, u_balance=1e-3)
    said = "\n".join(
        say_tubes(
            tube_findings(point, TubeRatings(plate_volts=250, plate_watts=5, screen_volts=250, cathode_amperes=0.05))
        )
    )
    assert "plate is at 260 V, over its 250 V" in said
    assert "plate is at 7.8 W, over its 5 W" in said
    assert "screen is above the plate" in said
    assert "must be equal" in said and "grid draws the difference" in said
    assert "must be equal" not in "\n".join(say_tubes(tube_findings(replace(point, u_balance=None), TubeRatings())))
    assert "must be equal" not in "\n".join(say_tubes(tube_findings(replace(point, u_balance=0.012), TubeRatings())))
    assert say_tubes(tube_findings(TubePoint("V2", 100, -1, None, 0.001, None, None), TubeRatings())) == ()
    assert (
        "draws no current"
        in say_tubes(tube_findings(TubePoint("V2", 100, -30, None, 0.0, None, None), TubeRatings()))[0]
    )


@pytest.mark.parametrize(
    ("read", "state"),
    [
        (PairRead(0, volts=0.02), "not quiet"),
        (PairRead(9e3, 30e3), "differs by direction"),
        (PairRead(2e3), "low"),
        (PairRead(math.inf), "high"),
    ],
)
def test_ohms_of_a_pair(read, state):
    assert judge_pair(BASE, "b1", "n1", read).state == state


def test_a_lead_on_the_neighbouring_tag_is_named():
    network = parse_netlist("R1 a b 10k\nR2 b c 33k\nR3 c 0 4.7k")
    assert judge_pair(network, "a", "b", PairRead(10.2e3)).state == "as expected"
    judged = judge_pair(network, "a", "b", PairRead(43e3))
    assert ("a", "c") in judged.neighbours
    assert "neighbouring tag" in say_pair(judged)
    with pytest.raises(RangeError, match="no node"):
        judge_pair(network, "a", "zz", PairRead(1))


RAIL = "V1 b1 0 400\nR1 b1 n1 470\nR2 n1 0 150k\nR3 n1 n2 470\nR4 n2 0 150k"  # small drops at high volts: the reading rules


@pytest.mark.parametrize("text", [TEXT, RAIL])
@pytest.mark.parametrize("seed", range(3))
def test_a_sound_node_is_accused_in_no_more_than_six_of_a_hundred(text, seed):
    """By meters of 1 % and resistors of 5 %, evenly drawn: the reading of a node is in every resistor there, and moves them all."""
    chance, base = random.Random(seed), parse_netlist(text)
    tolerance = {e.name: 0.05 for e in base.elements if e.LETTER == "R"}
    accused = asked = 0
    for _ in range(400):
        real = base
        for name, share in tolerance.items():
            real = real.with_value(name, real.element(name).value * (1 + chance.uniform(-share, share)))
        volts = {n: v * (1 + chance.uniform(-0.01, 0.01)) for n, v in operating_point(real).items() if n != "0"}
        sums = node_sums(base, resistor_loads(base, volts, tolerance, {}), {"b1": "its supply"})
        asked += len(sums)
        accused += sum(not s.adds_up for s in sums)
    assert asked > 400 and accused / asked <= 0.06
