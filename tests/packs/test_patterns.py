"""What parts do to ranges: the closed form of a string, and every part of every shipped pack solved anew."""

import math

import numpy as np
import pytest

from candor.core.circuit.elements import Resistor, VoltageSource
from candor.core.circuit.netlist import parse_netlist
from candor.core.errors import CandorError
from candor.packs.bundled import bundled_heads, bundled_pack
from candor.packs.made import missed
from candor.packs.pack_parts import read_circuit
from candor.packs.patterns import STEPS, _exact, part_patterns


def at(shown, ln):
    return float(np.interp(ln, STEPS[1:-1], shown[1:-1]))


def test_a_string_does_what_its_closed_form_says():
    """A part high by d: every tap below it reads low by d/T, every tap above it high by d(1/S - 1/T) (by definition)."""
    pack = bundled_pack("tarnholm-vm6")
    circuit = {p.ref: p for p in part_patterns(pack).parts}
    ohms = {e.name: e.value for e in read_circuit(pack.circuit.netlist).elements if isinstance(e, Resistor)}
    string = [ohms[name] for name in ("R1", "R2", "R3", "R4", "R5", "R6", "R7")]
    whole = sum(string) + ohms["R15"]
    taps = ("1.5", "5", "15", "50", "150", "500", "1500")
    for place, name in enumerate(("R1", "R2", "R3", "R4", "R5", "R6", "R7")):
        high = string[place] * math.expm1(0.02)
        for tap, key in enumerate(taps):
            below = sum(string[tap:])
            expected = (below + (high if place >= tap else 0)) / (whole + high) / (below / whole) - 1
            assert at(circuit[name].shown[f"dc+/{key}"], 0.02) == pytest.approx(expected, abs=1e-7)
    assert (
        "R15" in circuit and "R9" not in circuit
    )  # the probe's own; what the movement's bridge holds plays no part in the string


@pytest.mark.parametrize("key", [h.id for h in bundled_heads()])
def test_each_part_solved_anew_gives_its_pattern(key):
    pack = bundled_pack(key)
    found = part_patterns(pack)
    for part in found.parts:
        for function in pack.functions:
            for range_ in function.ranges:
                shown = part.shown.get(f"{function.key}/{range_.key}")
                making = pack.circuit.making_of(function.made_by)
                if shown is None or making is None:
                    continue
                closed = read_circuit(pack.circuit.netlist).with_closed((*function.closes, *range_.closes))
                here = 1 + missed(closed, making, function, range_)
                value = closed.element(part.ref).value
                for ln in (0.06, -0.06) if function.current == "a.c." else (0.06, -0.5, 2.3):
                    try:
                        anew = (
                            1 + missed(closed.with_value(part.ref, value * math.exp(ln)), making, function, range_)
                        ) / here - 1
                    except CandorError:
                        continue
                    assert abs(1 + at(shown, ln)) == pytest.approx(1 + anew, rel=1e-4, abs=2e-4), (
                        part.ref,
                        range_.key,
                        ln,
                    )


def test_shorts_and_openings_are_their_limits():
    pack = bundled_pack("corvane-mm11")
    parts = {p.ref: p for p in part_patterns(pack).parts}
    r10 = parts["R10"].shown["dcv/10"]  # 60 of 250 kilohm
    assert r10[0] == pytest.approx(1 / (1 - 60 / 250) - 1, rel=2e-3) and r10[-1] == pytest.approx(-1.0)
    assert (STEPS[0], STEPS[-1]) == (-math.inf, math.inf)


def test_what_was_measured_is_suspected_no_more_and_moves_the_others():
    pack = bundled_pack("tarnholm-vm6")
    drawn, known = part_patterns(pack), part_patterns(pack, (("R3", 900e3),))
    assert {p.ref for p in drawn.parts} - {p.ref for p in known.parts} == {"R3"}
    one, other = (next(p for p in c.parts if p.ref == "R2") for c in (drawn, known))
    assert not np.allclose(one.shown["dc+/5"], other.shown["dc+/5"], rtol=1e-4)


def test_what_the_instruments_own_sources_show_is_no_pattern():
    """10 V through 10 kilohm stands in the network: a part moves what is applied, not that."""
    netlist = parse_netlist("R1 in m 1k\nR2 m 0 1k\nV1 b 0 10\nR3 b m 10k")
    found = _exact(netlist, VoltageSource("VX?", "in", "0", 1.0), ("m", "0"))
    across = 1 / (1 / 1e3 + 1 / 10e3)  # R2 beside R3

    def shown(r1):
        return across / (across + r1)

    assert at(found["R1"], math.log(1.5)) == pytest.approx(shown(1500) / shown(1000) - 1, abs=2e-3)


def test_carbon_composition_goes_up_with_the_years():
    pack = bundled_pack("tarnholm-vm6")
    parts = [p.model_dump() | ({"make": "carbon composition"} if p.ref == "R3" else {}) for p in pack.parts]
    aged = part_patterns(type(pack).model_validate({**pack.model_dump(), "parts": parts}))
    assert {p.ref: p.upward for p in aged.parts if p.upward} == {"R3": 0.05}


def test_no_circuit_no_patterns():
    assert part_patterns(bundled_pack("wexcombe-qt1")).parts == ()
