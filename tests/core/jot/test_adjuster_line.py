"""Where an adjuster stood and how far it was turned, as it is typed."""

import pytest

from candor.core.errors import CandorError
from candor.core.jot.adjuster_line import understand_adjuster


@pytest.mark.parametrize(
    ("text", "stood", "turns", "chips"),
    [
        ("stood at 3 o'clock", "3 o'clock", None, ("stood 3 o'clock",)),
        ("turned +1/8", "", 0.125, ("turned 0.125 clockwise",)),
        ("stood mid turned -1 1/2 turns", "mid", -1.5, ("stood mid", "turned 1.5 anticlockwise")),
        ("Turned 0 turns", "", 0.0, ("turned 0",)),
    ],
)
def test_an_adjuster_line(text, stood, turns, chips):
    found = understand_adjuster(text)
    assert (found.stood, found.turns, found.chips) == (stood, turns, chips)


@pytest.mark.parametrize("text", ["72.6", "standing wave", "it turned brown", ""])
def test_what_is_no_adjuster_line(text):
    assert understand_adjuster(text) is None


@pytest.mark.parametrize(
    ("text", "words"), [("turned 90", "90 turns; at most 40"), ("turned brown", "turns such as")]
)
def test_turns_that_cannot_be(text, words):
    with pytest.raises(CandorError, match=words):
        understand_adjuster(text)
