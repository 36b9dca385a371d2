"""What is told in other words is offered as lines that are understood; nothing is taken, and what tells no value is left alone."""

from __future__ import annotations

import pytest

from candor.core.errors import CandorError
from candor.core.jot import JotContext, understand
from candor.core.jot.meaning import NoteJot
from candor.core.jot.rows.told import told_lines

TOLD = {
    "plate of V2 is 145": "node V2 plate 145 V",
    "pin 5 V1 8.2 volts": "node V1 pin 5 8.2 V",
    "V1a plate: 112": "node V1A plate 112 V",
    "145 V on the plate of V3": "node V3 plate 145 V",
    "grid 1 of V2 is positive 3 volts": "node V2 grid 3 V",
    "grid V2 minus 4.5": "node V2 grid -4.5 V",
    "grid of V2 negative -4.5": "node V2 grid -4.5 V",
    "grid 2 of V5 at 90 V": "node V5 screen 90 V",
    "I measured the anode of V2 at 145 volts": "node V2 plate 145 V",
    "tube V4 pin 7 = -850 mV": "node V4 pin 7 -850 mV",
    "took 4.5 hours": "spent 4.5 h",
    "it took me 90 minutes to clean the switch": "spent 90 min to clean the switch",
    "charge 45 eur": "agreed 45",
    "invoiced the owner $120": "agreed 120",
    "leakage current 0.12 mA": "touch 0.12 mA as it is on",
}


@pytest.mark.parametrize("line", TOLD)
def test_what_is_told_is_offered_and_not_taken(line):
    meant = told_lines(line, "")
    assert meant[0] == TOLD[line]
    assert all(not isinstance(understand(one, JotContext()), NoteJot) for one in meant)
    try:
        jot = understand(line, JotContext())
    except CandorError as error:
        assert error.meant[: len(meant)] == meant
    else:
        assert isinstance(jot, NoteJot)
        assert jot.meant[: len(meant)] == meant


@pytest.mark.parametrize(
    "line",
    [
        "V2 weak",
        "plate of V2 glows",
        "took the cover off",
        "price unknown",
        "leakage current too high",
        "V2 and V3 swapped",
    ],
)
def test_what_tells_no_value_is_left_alone(line):
    assert told_lines(line, "") == ()
