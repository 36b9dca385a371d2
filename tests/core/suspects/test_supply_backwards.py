"""A supply backwards: against supplies solved with something else wrong, by hand, and what cannot be told from rails alone."""

import math
import random
from dataclasses import replace

import pytest

from candor.core.errors import CancelledError, ValueTextError
from candor.core.power.supply import calculate_supply
from candor.core.power.supply_read import SupplyRead, read_measured
from candor.core.power.supply_text import read_supply
from candor.core.suspects.rails import explain_rails
from candor.core.suspects.supply_backwards import weigh_supply

ONE = read_supply("210-0-210 V, 240 ohm, vacuum, 12 uF 450 V, load 35 mA", 60)  # one capacitor: few figures, quick
TWO = "180 V half-wave, 90 ohm, silicon, 22 uF 350 V, 1.5k, 22 uF 350 V, load 20 mA"


def measured(real, *, ripple=False, opened=False, ratio=1.0, seed=1):
    """What a bench meter of 0.5 % reads of a real supply."""
    chance = random.Random(seed)
    netlist = real.netlist(ratio, warm=True)
    answer = calculate_supply(netlist)
    nodes = [e.plus for e in netlist.elements if e.LETTER == "C"]
    means = tuple((k, answer.nodes[n].mean * (1 + chance.uniform(-0.005, 0.005))) for k, n in enumerate(nodes, 1))
    ripples = tuple((k, answer.nodes[n].ripple) for k, n in enumerate(nodes, 1)) if ripple else ()
    return SupplyRead(means, ripples, ratio, real.open_volts(ratio) / math.sqrt(2) if opened else 0.0)


@pytest.mark.parametrize(("change", "figure", "far"), [
    ({}, "", 0.0), ({"volts": 175.0}, "winding", math.log(175 / 210)), ({"load_amperes": 0.068}, "load", math.log(68 / 35)),
    ({"perveance": ONE.perveance * 0.22}, "rectifier", math.log(0.22)), ({"rectifier": "silicon"}, "silicon", 1.0),
])  # fmt: skip
def test_with_ripple_and_the_open_winding_the_figure_that_is_off_is_named(change, figure, far):
    """The real ones have every other figure off a little too, as far as such supplies go."""
    real = replace(ONE, winding_ohms=262.0, sections=(replace(ONE.sections[0], farad=11.1e-6),), **change)
    found = weigh_supply(ONE, measured(real, ripple=True, opened=True, ratio=0.98))
    first = found.suspects[0]
    assert first.figure == figure and first.probability > 0.5 and found.explains
    if figure:
        assert first.amount == pytest.approx(far, abs=max(2.5 * first.u, 0.05))
    assert sum(s.probability for s in found.suspects) <= 1.0001


def test_the_winding_the_rectifier_and_the_load_are_one_group_until_something_parts_them():
    """One low rail: a weak rectifier, a low winding, a heavy load are alike; the open winding acquits the winding."""
    real = replace(ONE, perveance=ONE.perveance * 0.25)
    rail = weigh_supply(ONE, replace(measured(real), ripples=((1, 11.0),)))
    assert rail is not None and {n for n, _ in rail.next} <= {"winding open"}
    group = {s.figure for s in rail.suspects if s.group == rail.suspects[0].group >= 0}
    assert {"rectifier", "winding"} <= group
    told = weigh_supply(ONE, replace(measured(real, opened=True), ripples=((1, 11.0),)))
    winding = next((s.probability for s in told.suspects if s.figure == "winding"), 0.0)
    assert winding < 0.5 * next(s.probability for s in rail.suspects if s.figure == "winding")


def test_a_line_of_what_was_measured_is_read_and_what_is_wrong_in_it_said():
    read = read_measured("C1 231, C2 198 V, C2 ripple 0.3 Vpp; line 118 of 120 V, winding open 184 V, C1 233", 2)
    assert read == SupplyRead(((2, 198.0), (1, 233.0)), ((2, 0.3),), 118 / 120, 184.0)
    for text, said in (
        ("C3 12 V", "C1, C2"),
        ("C1 banana", "cannot read"),
        ("line 12 of 120", "of its nominal"),
        ("C1 0", "not a voltage"),
    ):
        with pytest.raises(ValueTextError, match=said):
            read_measured(text, 2)
    assert explain_rails(TWO, "C1 231 V", 50.0).weighed is None
    with pytest.raises(CancelledError):
        weigh_supply(ONE, measured(ONE, opened=True), lambda: True)
