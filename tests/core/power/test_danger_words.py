"""What is seen, heard or smelt on a live bench: it means plug out unless it is denied, or expected just then."""

import pytest

from candor.core.power.danger_words import danger_in, danger_now_in, is_expected, is_stop
from candor.core.power.plan import Expected


@pytest.mark.parametrize(
    "line",
    [
        "smoke", "Smoke from R12", "arc", "arcing at the socket", "it arced over", "flash", "a flash in V5", "bang", "smell",
        "smells burnt", "a smell of burning", "BANG, then dark", "spark at the switch", "crackling", "sizzles",
        "no hum, but smoke", "popped", "smelt something", "the resistor is smoking", "flames", "lamp still bright",
        "still as bright after a minute", "flashover", "red-plating V3", "popping noise", "the fuse has blown",
        "it tripped the breaker", "the plates glow red", "cherry red plate", "fizzing", "got a shock",
        "wax dripping from T1", "R12 melted", "resistor is glowing", "the case tingles", "C3 is bulging", "not sure, smoke?",
        "no smoke at first; now smoke", "smouldering", "fumes", "an acrid whiff", "steam from C3", "C3 burst",
        "C12 explodes", "it blew up", "V3's anode glows red", "anode of V2 is dull red", "plates turn cherry",
        "transformer too hot to touch", "C3 is hot", "C3 hisses", "hissing from the capacitor", "cap boiling", "singed",
        "resistor charring", "I was shocked", "it bit me", "RCD tripped", "the breaker has tripped", "fuse has gone",
        "blown fuse", "a loud crack", "R5 glows", "stinking", "wax runs out of T1", "corona at V1"
    ],
)  # fmt: skip
def test_danger_is_heard(line):
    assert danger_in(line), line


@pytest.mark.parametrize(
    "line",
    [
        "no smoke", "no smoke, no smell", "no smoke or smell", "without any smoke", "never smelt burnt", "smoke: none",
        "smell: nothing", "there is no arc", "no sign of smoke", "hum", "click", "2 degrees of arc", "ohms arc reads low",
        "burn-in for 24 h", "fan", "glow", "popular", "marching", "fired up", "search", "smoke not seen", "nothing smells",
        "no pop", "fuse not blown", "heater glow at 5 s", "plates are cold", "red lamp on", "pop-out button",
        "shock mount rattles", "tone burst on channel 2", "a burst of noise", "heater glows dull red",
        "filaments cherry red", "hiss in the headphones", "warm, not hot", "C3 is not hot", "no fumes", "not too hot",
        "R5 hot end 120 V", "anode lead is brown", "fuse did not go", "no breaker tripped", "pilot lamp glows red",
        "explored the wiring", "cracked knob", "anode 140 V",
    ],
)  # fmt: skip
def test_what_is_denied_or_harmless_is_not(line):
    assert not danger_in(line), line


@pytest.mark.parametrize(
    ("line", "word"),
    [("burnt resistor", ""), ("C3 burst", ""), ("blown fuse 47k", ""), ("smoke from R12", "smoke"), ("not a spark", ""),
     ("C3 burst, it stinks", "stinks")],
)  # fmt: skip
def test_what_may_be_of_long_ago_is_not_now(line, word):
    assert danger_now_in(line) == word


EVENTS = (Expected("a flash, then dim", 1.0, 1.0), Expected("click", 30.0, 20.0))


@pytest.mark.parametrize(
    ("line", "at", "expected"),
    [("a flash, then dim", 1, True), ("flash", 3, True), ("flash", 120, False), ("a flash, then dim", 60, False),
     ("smoke", 1, False),
     ("click", 25, True), ("click", 300, False), ("", 1, False)],
)  # fmt: skip
def test_an_event_that_the_state_expects_in_its_time_is_only_logged(line, at, expected):
    assert is_expected(line, EVENTS, at) == expected


def test_a_line_that_asks_to_stop_is_that_and_nothing_else():
    assert all(map(is_stop, ("stop", "Stop!", "ABORT", "emergency stop", "stop it now", "source to zero")))
    assert not any(map(is_stop, ("stopped the run", "stop pin is bent", "end stop", "the zero", "")))
