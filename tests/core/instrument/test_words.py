"""How a range is read, in words: every kind says what it is read on."""

import pytest

from candor.core.instrument.how import EVEN, HowRead, SecondDial
from candor.core.instrument.words import how_words


@pytest.mark.parametrize(
    ("how", "unit", "said"),
    [
        (EVEN, "V", "0 to 30 V, 30 div of 1 V"),
        (HowRead(kind="mark"), "V", "the needle is set on a mark, 0 to 30 V, 30 div of 1 V"),
        (HowRead(kind="null", second=SecondDial("phase", "1", 0.6, 60)), "V", "second dial phase, 0 to 60 %, 60 div"),
        (HowRead(kind="threshold", on_side=-1), "ohm", "a threshold at 30 Ω, on below it"),
        (HowRead(kind="screen", per_division=2.0), "V", "a screen of 30 div, 2 V each, edges to 0.1 div"),
        (HowRead(kind="source", steps=(1.0, 2.0)), "V", "a source: set, and measured, steps 1 V, 2 V"),
        (HowRead(kind="look", passes=("still",), fails=("beats",)), "1", "a look: good is still, bad is beats"),
        (HowRead(shape="ohms rising"), "ohm", "ohms arc, 30 Ω at its middle, zero at the left"),
    ],
)  # fmt: skip
def test_it_is_said_by_what_it_is_read(how, unit, said):
    assert said in ", ".join(how_words(how, 30.0, 30, unit)).replace("\u00a0", " ")
