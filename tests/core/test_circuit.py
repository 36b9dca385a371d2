"""Netlists: what is read, and every fault with its line; what a reading in circuit can prove."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from candor.core.circuit.elements import ELEMENTS, Resistor
from candor.core.circuit.in_circuit import all_in_circuit, in_circuit, part_from_reading, proved_in_circuit
from candor.core.circuit.netlist import NetlistError, _parser, parse_netlist
from candor.core.circuit.resistance import divider_ratio, resistance_between
from candor.core.circuit.solve import operating_point, voltage_slopes
from candor.core.errors import RangeError

TEXT = """* the timing corner
.title not read
R25 b3 sync 330k ; carbon
R26 sync 0 3.3Meg $ also a comment
+
R62 b3 0
+ 47k
C14 sync g6 500pF
L1 g6 0 8 r=200
D1 b3 k
"""


def test_a_netlist_is_read():
    netlist = parse_netlist(TEXT)
    assert [(e.name, e.value) for e in netlist.elements] == [
        ("R25", 330e3), ("R26", 3.3e6), ("R62", 47e3), ("C14", 500e-12), ("L1", 8.0), ("D1", 0.0),
    ]  # fmt: skip
    assert netlist.element("l1").series_ohms == 200
    assert netlist.nodes == ("0", "b3", "sync", "g6", "k")


@pytest.mark.parametrize(
    ("text", "line", "sentence"),
    [
        ("", 1, "There is no element"),
        ("* only words\n.end", 1, "There is no element"),
        ("R1 a 0 1k\nR1 b 0 2k", 2, "R1 is there twice"),
        ("R1 a 0", 1, "the value is missing"),
        ("R1 a", 1, "ends too early"),
        ("R1 a 0 12x", 1, "is not a value"),
        ("R1 a 0 1M", 1, "a milliohm in SPICE. Expected: “1meg”"),
        ("C1 a 0 0", 1, "not above zero"),
        ("R1 a 0 -5", 1, "not above zero"),
        ("R1 a a 5", 1, "both ends"),
        ("Q1 a b c", 1, "a kind this subset does not know"),
        ("R1 a 0 1k tc=3", 1, "“tc=” is not known"),
        ("R1 a 0 1k 2k", 1, "does not belong there"),
        ("+ 3", 1, "continues the line before"),
        ("R1 a 0 1k\nC2 a (b) 1u", 2, "does not belong there"),
    ],
)
def test_faults_say_line_and_what_was_expected(text, line, sentence):
    with pytest.raises(NetlistError) as caught:
        parse_netlist(text)
    assert sentence in str(caught.value)
    assert "xpected" in str(caught.value)
    assert caught.value.place == f"line {line}"


@settings(max_examples=60)
@given(st.lists(st.tuples(st.integers(0, 5), st.integers(0, 5), st.floats(1, 1e7)), min_size=1, max_size=14))
def test_resistance_is_symmetric_and_rises_with_every_resistor(rows):
    """Rayleigh's monotonicity, on which the conviction of a part rests."""
    lines = [f"R{i} n{a} n{b} {ohms:.6g}" for i, (a, b, ohms) in enumerate(rows) if a != b]
    if not lines:
        return
    netlist = parse_netlist("\n".join(lines))
    first = netlist.elements[0]
    there = resistance_between(netlist, first.plus, first.minus)
    assert there == pytest.approx(resistance_between(netlist, first.minus, first.plus))
    assert there <= first.value * (1 + 1e-7)
    for e in netlist.elements:
        assert resistance_between(netlist.with_value(e.name, e.value * 1.3), first.plus, first.minus) >= there * (
            1 - 1e-7
        )


@settings(max_examples=60)
@given(st.lists(st.tuples(st.integers(0, 6), st.integers(0, 6), st.floats(10, 1e6)), min_size=1, max_size=14))
def test_all_resistors_at_once_and_one_by_one_say_the_same(rows):
    lines = [f"R{i} n{a} n{b} {ohms:.6g}" for i, (a, b, ohms) in enumerate(rows) if a != b]
    if not lines:
        return
    netlist = parse_netlist("\n".join(lines))
    for name, found in all_in_circuit(netlist, {"R0": 0.05}).items():
        one = in_circuit(netlist, name, {"R0": 0.05})
        for field in ("expected", "low", "high", "alone_high"):
            assert getattr(found, field) == pytest.approx(getattr(one, field), rel=1e-6)
        if one.others < 1e3 * one.expected:
            assert found.others == pytest.approx(one.others, rel=1e-4)


def test_nothing_between_is_infinite_and_a_wrong_node_is_said():
    netlist = parse_netlist("R1 a b 1k\nR2 c 0 2k\nC1 b c 1u")
    assert resistance_between(netlist, "a", "0") == math.inf
    assert resistance_between(netlist, "A", "a") == 0
    with pytest.raises(RangeError, match=r"no node “x”.*there are 0, a, b, c"):
        resistance_between(netlist, "a", "x")
    with pytest.raises(RangeError, match="not a resistor"):
        in_circuit(netlist, "C1", {})


def test_what_a_reading_in_circuit_proves():
    """330 k 5 % with 1 M beside it: above 346.5 k surely bad, above the network's limit something is, below says nothing."""
    netlist = parse_netlist("R1 a 0 330k\nR2 a 0 1meg")
    limits = in_circuit(netlist, "R1", {"R1": 0.05, "R2": 0.1})
    assert limits.expected == pytest.approx(248.12e3, rel=1e-4)
    assert limits.high == pytest.approx(1 / (1 / 346.5e3 + 1 / 1.1e6))
    assert limits.convicts_from == pytest.approx(1 / (1 / 346.5e3 - 1 / 1e6))
    assert proved_in_circuit("R1", 360e3, 2e3, limits).kind == "in circuit.high"
    assert proved_in_circuit("R1", 275e3, 2e3, limits).kind == "in circuit.network"
    assert proved_in_circuit("R1", 240e3, 2e3, limits).kind == "in circuit.nothing"
    assert part_from_reading(248.12e3, limits.others) == pytest.approx(330e3, rel=1e-4)
    assert part_from_reading(2e6, limits.others) == math.inf


def test_a_part_with_little_beside_it_can_never_be_convicted():
    limits = in_circuit(parse_netlist("R1 a 0 330k\nR2 a 0 10k"), "R1", {})
    assert not limits.can_convict
    assert proved_in_circuit("R1", 9e3, 0, limits).kind == "in circuit.never"


def test_divider_of_a_ladder():
    assert divider_ratio(parse_netlist("R1 in tap 9meg\nR2 tap 0 1meg"), "in", "tap") == pytest.approx(0.1)


def test_what_has_no_one_answer_is_said():
    for text, said in (
        ("V1 a 0 5\nD1 a b\nR1 b 0 1k", "a network with diodes is not solved"),
        ("V1 a 0 5\nV2 a 0 6", "V1, V2 contradict each other"),
        ("R1 a 0 1k\nC1 a b 1u\nI1 b 0 1m", "The current of I1 has no way back"),
    ):
        with pytest.raises(RangeError, match=said):
            operating_point(parse_netlist(text))
    with pytest.raises(RangeError, match=r"“b” has no d\.c\. path"):
        voltage_slopes(parse_netlist("R1 a 0 1k\nC1 a b 1u"), "b")


def test_a_new_element_is_a_class_and_a_line_in_the_table(monkeypatch):
    """A lamp, read and solved without a change anywhere else."""

    class Lamp(Resistor):
        LETTER, EXAMPLE = "X", "X1 a 0 40"

    monkeypatch.setitem(ELEMENTS, "X", Lamp)
    _parser.cache_clear()
    netlist = parse_netlist("V1 in 0 10\nR1 in a 60\nX1 a 0 40")
    assert operating_point(netlist)["a"] == pytest.approx(4.0)
    assert voltage_slopes(netlist, "a")["X1"] == pytest.approx(10 * 60 / 100**2)
    _parser.cache_clear()


def test_a_large_net_solved_by_what_is_in_it_is_as_solved_whole(monkeypatch):
    text = "V1 b 0 250\nE1 e 0 n3 n5 4\nG1 n7 0 n2 n4 0.001\nI1 0 n6 2m\nR90 e n8 10k\n"
    text += "\n".join(
        f"R{i} {'b' if i == 1 else f'n{i - 1}'} n{i} {i * 700}\nR{i + 30} n{i} 0 {i * 2000}" for i in range(1, 12)
    )
    netlist = parse_netlist(text)
    whole, slopes = operating_point(netlist), voltage_slopes(netlist, "n9", "n2")
    monkeypatch.setattr("candor.core.circuit.solve.DENSE_MOST", 0)
    assert operating_point(netlist) == pytest.approx(whole, rel=1e-10)
    assert voltage_slopes(netlist, "n9", "n2") == pytest.approx(slopes, rel=1e-9, abs=1e-15)
    with pytest.raises(RangeError, match="contradict each other or stand in parallel"):
        operating_point(parse_netlist("V1 a 0 5\nV2 a 0 6\nR1 a 0 1k"))
