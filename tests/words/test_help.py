"""Help says of every place what it is for, and names the lines and keys that work there."""

from contextlib import suppress

import pytest

from candor.core.errors import CandorError
from candor.core.jot import JotContext, understand
from candor.core.jot.meaning import NoteJot
from candor.core.parts.part import Part
from candor.desktop.frame.pages import ROOM_PAGES, STOP_PAGES
from candor.words.help import PLACES, help_lines

PARTS = {"R24": Part(ref="R24", kind="resistor", make="carbon composition", role="load", nominal=330e3)}


def test_every_stop_and_room_is_told_of():
    assert set(STOP_PAGES) | set(ROOM_PAGES) - {"help", "find"} == set(PLACES)
    assert all(place.purpose.endswith(".") and place.first for place in PLACES.values())


@pytest.mark.parametrize("place", STOP_PAGES)
def test_its_own_lines_come_first_and_each_can_be_typed(place):
    lines = [line for line in help_lines(place) if not line.is_key]
    assert len(lines) > 10
    for line in lines[:6]:
        with suppress(CandorError):  # of a part or a point that is in no list yet
            jot = understand(line.says, JotContext(parts=PARTS))
            assert not isinstance(jot, NoteJot) or line.says.startswith("note")


def test_words_are_looked_for_in_all_lines_and_keys():
    assert any("zero right" in line.says for line in help_lines("arrive", "ohms range"))
    assert [line.says for line in help_lines("arrive", "take back done")] == ["Ctrl+Z"]
    assert not list(help_lines("arrive", "xyzzy"))
