"""A plate and a screen are given only what reaches them alone: a rail's whole current is nobody's screen."""

import pytest

from candor.core.circuit.netlist import parse_netlist
from candor.core.trace.currents import resistor_loads
from candor.notebook.entries.power_entries import RailSaid
from candor.notebook.entries.stay_entries import JobOpened
from candor.notebook.entries.trace_entries import TubeJoined
from candor.notebook.tubes.tube_points import tubes_found
from candor.notebook.work.job import fold
from candor.words.trace_words import say_tubes

NET = "V1 b1 0 330\nR1 b1 b2 2k\nR2 b2 p2 47k\nR3 b1 p1 5k\nR4 k1 0 250\nC1 b2 0 10u"
VOLTS = {
    "b1": 330.0,
    "b2": 300.0,
    "p1": 200.0,
    "p2": 206.0,
    "k1": 8.0,
}  # 15 mA through R1, 2 mA of it to the plate of V2


@pytest.fixture
def said(notebook):
    def tell(*bodies, net=NET, volts=VOLTS):
        notebook.write("j", JobOpened(maker="M", type="T", serial="1"))
        for body in bodies:
            notebook.write("j", body)
        netlist = parse_netlist(net)
        loads = resistor_loads(netlist, volts, {}, {})
        return say_tubes(tubes_found(fold("j", notebook.entries_of("j")), volts, loads, netlist))

    return tell


def joined(name, plate, screen="", **more):
    more = {"cathode": "k1", "screen_watts": 2.0, "plate_watts": 2.0, **more}
    return TubeJoined(name=name, plate=plate, screen=screen, **more)


def test_a_screen_alone_on_its_node_gets_what_the_others_leave_of_it_and_says_what_that_rests_on(said):
    (words,) = [w for w in said(joined("V1", "p1", "b2", plate_watts=30)) if "screen is at" in w]
    assert (
        "3.8 W, over its 2 W, if nothing else is connected to the screen's node" in words
    )  # 13 mA, not 15, at 292 V


@pytest.mark.parametrize(
    ("others", "net"),
    [
        ((joined("V3", "p2", "b2", plate_watts=0),), NET),  # another screen
        ((RailSaid(name="b2", volts=300),), NET),  # a rail, from which more may hang than is drawn
        ((), NET + "\nL1 b2 x 10"),
        ((), NET + "\nV2 b2 0 300"),
    ],
)
def test_what_shares_its_node_leaves_it_unknown_and_says_so(said, others, net):
    words = said(joined("V1", "p1", "b2", plate_watts=30), *others, net=net)
    assert not [w for w in words if "screen is at" in w]
    assert any(w.startswith("V1: ") and "how much of it the screen takes is not known" in w for w in words)


def test_a_plate_fed_through_a_winding_is_not_given_its_damping_resistor(said):
    words = said(joined("V1", "p1"), net=NET.replace("R3 b1 p1 5k", "R3 b1 p1 5k\nL1 b1 p1 20"))
    assert not [w for w in words if "plate is at" in w]
    assert [w for w in said(joined("V1", "p1")) if "plate is at 4.99 W" in w]
