"""Lines about the board. Forms are ours: common practice, no source."""

import pytest

from candor.core.errors import ValueTextError
from candor.core.jot import JotContext, NoteJot, PartJot, understand
from candor.core.jot.meaning import AliasJot, JoinJot, ListedJot
from candor.core.jot.slots import node_name
from candor.core.parts.part import Part

CONTEXT = JotContext(parts={"R24": Part("R24", "resistor", 330e3), "C41 a": Part("C41 a", "capacitor", 20e-6)})


@pytest.mark.parametrize(
    ("text", "cells"),
    [
        (
            "part C12 0.05 uF 600 V paper coupling",
            {"kind": "capacitor", "value": "0.05 uF", "volts": "600", "make": "paper", "role": "coupling"},
        ),
        (
            "part R3 330k 5% 1/2W comp",
            {"kind": "resistor", "value": "330k 5%", "watts": "1/2", "make": "carbon composition"},
        ),
        ("part R7 4k7J", {"kind": "resistor", "value": "4k7J"}),
        (
            "part C41 20/20 uF 450V lytic filter",
            {"kind": "capacitor", "value": "20/20 uF", "volts": "450", "make": "electrolytic", "role": "filter"},
        ),
        ("part VR1 pot 4.7k", {"kind": "potentiometer", "value": "4.7k"}),
        ("part V3 tube 6AU6", {"kind": "tube", "value": "6AU6"}),
        ("part CR2 1N34 diode", {"kind": "diode", "value": "1N34"}),
        ("part F1 fuse 1 A", {"kind": "fuse", "value": "1 A"}),
        ("part X9 0.1 uF", {"kind": "capacitor", "value": "0.1 uF"}),
        ("part C41 a 20 uF can C41", {"kind": "capacitor", "value": "20 uF", "can": "C41"}),
    ],
)
def test_a_part_is_listed_in_one_line(text, cells):
    jot = understand(text, CONTEXT)
    assert isinstance(jot, ListedJot)
    assert {k: v for k, v in jot.cells.items() if k != "part"} == cells


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("R24 joins grid and chassis", ("R24", "grid", "0")),
        ("R24 from V2 plate to B+", ("R24", "v2_plate", "b+")),
        ("C41 a between rect, ground", ("C41 a", "rect", "0")),
    ],
)
def test_ends_are_traced_node_by_node(text, said):
    jot = understand(text, CONTEXT)
    assert isinstance(jot, JoinJot)
    assert (jot.ref, jot.plus, jot.minus) == said


def test_nodes_have_other_names():
    jot = understand("node grid is V2 pin 2", CONTEXT)
    assert (type(jot), jot.node, jot.alias) == (AliasJot, "grid", "V2 pin 2")
    assert [node_name(w) for w in ("V2 pin 2", "Ground", " ", "B+")] == ["v2_pin_2", "0", "node", "b+"]


@pytest.mark.parametrize(
    ("text", "sentence"),
    [
        ("part Q3 47", "What kind of part is Q3"),
        ("part R3 5W", "of what value"),
        ("part R3 0", "the value cannot be"),
        ("R77 joins a and b", "not in this job's parts list yet"),
        ("R24 joins grid and Grid", "Both ends"),
    ],
)
def test_what_cannot_be_on_a_board_is_said(text, sentence):
    with pytest.raises(ValueTextError, match=sentence):
        understand(text, CONTEXT)


def test_measurements_and_notes_stay_what_they_were():
    assert isinstance(understand("R24 366k cold 374k warm", CONTEXT), PartJot)
    assert isinstance(understand("part of the deck is bent", CONTEXT), NoteJot)
    assert isinstance(understand("node", CONTEXT), NoteJot)
