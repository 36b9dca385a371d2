"""How far a tester's line falls: by hand, by drawn readings, and as its line is read."""

import random

import pytest

from candor.core.errors import RangeError, ValueTextError
from candor.core.tubes.sag import line_source, sag_of
from candor.notebook.entries.tubes_entries import LineSag
from candor.notebook.tubes.tubes_text import SAG_LINE, read_sag
from candor.words.tubes_words import say_line_sag


def test_two_readings_of_the_line_give_what_stands_behind_it():
    """By hand: 2 V down at 24 W / 118 V = 0.2034 A is 9.83 ohm; 10 W of another take 9.83 x 10 / 120^2 = 0.68 % off."""
    source = line_source(120.0, 118.0, 24.0)
    assert source.ohms == pytest.approx(9.833, abs=0.001)
    sag = sag_of(source, 10.0)
    assert sag.fall == pytest.approx(0.00683, abs=1e-5)
    assert sag.lost("gm")[0] == pytest.approx(sag.fall) and sag.lost("emission")[0] == pytest.approx(2 * sag.fall)
    for empty, loaded, watts in ((118, 120, 20), (120, 118, 0), (120, 0, 20)):
        with pytest.raises(RangeError, match="must fall"):
            line_source(empty, loaded, watts)


def test_its_u_holds_for_readings_to_a_tenth_of_a_volt():
    chance, held = random.Random(2), 0
    for _ in range(1000):
        watts, ohms, empty = chance.uniform(10, 30), chance.uniform(4, 20), chance.uniform(110, 125)
        loaded = empty - ohms * watts / empty
        source = line_source(round(empty, 1), round(min(loaded, empty - 0.1), 1), watts * (1 + chance.gauss(0, 0.05)))
        held += abs(source.ohms - ohms) <= 2 * source.u_ohms
    assert held > 930


def test_a_line_of_it_is_read_as_it_is_printed_and_said():
    sag = read_sag(SAG_LINE, "TT-7")
    assert sag == LineSag(tester="TT-7", empty_volts=120.4, loaded_volts=118.9, watts=22)
    said = say_line_sag(sag)
    assert said.startswith("Behind the line of TT-7: 8.11 ± 0.92 Ω.") and "Each 10 W" in said and "0.6 %" in said
    with pytest.raises(ValueTextError, match="cannot read"):
        read_sag("banana", "TT-7")
