"""Lines on the way up."""

import math

import pytest

from candor.core.errors import CandorError
from candor.core.jot import JotContext, NoteJot, understand
from candor.core.jot.power_meaning import (
    BleederJot,
    EventJot,
    PlugOutJot,
    ProvedJot,
    RailJot,
    RailOhmsJot,
    RailSaidJot,
    WindingJot,
)


@pytest.mark.parametrize(
    ("text", "meant"),
    [
        ("rail b1 287", RailJot("b1", 287.0)),
        ("rail C- -8.4 V", RailJot("c-", -8.4)),
        ("watts 31", RailJot("watts", 31.0)),
        ("amperes 300m", RailJot("amperes", 0.3)),
        ("rail b1 is 285 V, capacitor 450 V", RailSaidJot("b1", 285.0, 450.0)),
        ("chassis b1 45k by manual 50k", RailOhmsJot("b1", 45e3, 50e3)),
        ("chassis b1 1.2 Mohm", RailOhmsJot("b1", 1.2e6)),
        ("bleeder b1 220k on 33 uF", BleederJot("b1", 220e3, 33e-6)),
        ("winding hv 140 ohm", WindingJot("hv", 140.0)),
        ("winding heater open", WindingJot("heater", math.inf)),
        ("click", EventJot("click")),
        ("a blue glow", EventJot("a blue glow")),
        ("event door bell", EventJot("door bell")),
        ("plug out", PlugOutJot()),
        ("proved on the outlet", ProvedJot("the outlet")),
    ],
)
def test_a_line_and_what_it_means(text, meant):
    found = understand(text, JotContext(events=("a blue glow",)))
    assert type(found) is type(meant)
    mine, theirs = vars(found), vars(meant)
    assert {k: v for k, v in mine.items() if k != "chips"} == pytest.approx(
        {k: v for k, v in theirs.items() if k != "chips"}
    )
    assert found.chips


@pytest.mark.parametrize("text", ["humming at the top", "rail b1 hot", "chassis rusty", "the fan"])
def test_words_stay_a_note(text):
    assert isinstance(understand(text, JotContext()), NoteJot)


@pytest.mark.parametrize(
    "text",
    [
        "watts -5",
        "chassis b1 -45k",
        "bleeder b1 0k on 4 uF",
        "rail b1 28x7",
        "rail b1 is 0 V",
        "rail b,1 5",
        "rail b1 28700 kV",
    ],
)
def test_what_cannot_be_is_refused_or_noted(text):
    try:
        assert isinstance(understand(text, JotContext()), NoteJot)
    except CandorError as error:
        assert any(word in str(error) for word in ("xpected", "wattmeter", "Example"))
