"""Examples of every sentence about what explains the rails of a supply."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from candor.core.calibration.interacting import read_turned, set_together
from candor.core.power.heat_run import winding_rise
from candor.core.power.supply_text import read_supply
from candor.core.suspects.rails import Rails
from candor.core.suspects.supply_backwards import SupplySuspect, SupplyWeighed
from candor.words import rails_words, transformer_words, turns_words

SUPPLY = read_supply("230-0-230 V, 180 ohm, vacuum, 8 uF 450 V, 1.8k, 16 uF 450 V, load 30 mA", 50.0)


def _suspect(figure: str, which: int, amount: float, probability: float = 0.7, group: int = -1) -> SupplySuspect:
    return SupplySuspect(
        figure=figure, which=which, probability=probability, amount=amount, u=0.1, explained=np.zeros(2), group=group
    )


def rails_examples() -> Iterator[tuple[str, str, str]]:
    """Yield (topic, finding, sentence)."""
    topic = "What explains the rails"
    for name, figure, which, amount in (
        ("nothing", "", 0, 0.0), ("the winding", "winding", 0, -0.15), ("its ohms", "winding ohms", 0, 0.9),
        ("the rectifier", "rectifier", 0, -1.2), ("silicon", "silicon", 0, 1.0), ("the load", "load", 0, 0.5), ("no load", "load", 0, -3.0),
        ("a capacitor", "capacitor", 1, -1.0), ("an open capacitor", "capacitor", 2, -3.5), ("a resistor", "dropper", 2, 0.4),
    ):  # fmt: skip
        yield topic, name, rails_words.say_supply_suspect(_suspect(figure, which, amount), SUPPLY)
    alike = _suspect("rectifier", 0, -1.2, 0.48, 0), _suspect("winding", 0, -0.15, 0.3, 0)
    rows = (("C1", 241.0, 262.0), ("C2", 190.0, 208.0))
    for name, following, left in (
        ("two that are alike: the open winding parts them", "winding open", 0.4), ("a ripple would tell", "C1 ripple", 0.001),
        ("a rail would tell", "C2", 0.4),
    ):  # fmt: skip
        weighed = SupplyWeighed(alike, left, rows, ((following, 0.7),))
        yield topic, name, " ".join(rails_words.say_rails(Rails(SUPPLY, weighed)))
    sure = SupplyWeighed((_suspect("load", 0, 0.5, 0.96),), 0.4, rows, ())
    yield topic, "one that is sure", " ".join(rails_words.say_rails(Rails(SUPPLY, sure)))
    yield topic, "too little", " ".join(rails_words.say_rails(Rails(SUPPLY, None)))
    topic = "A transformer"
    for name, hot in (("within", 60.0), ("cannot tell", 65.0), ("too warm", 72.0)):
        yield topic, f"after a run: {name}", transformer_words.say_rise("hv", winding_rise(50.0, 20.0, hot, 22.0))
    for name, watts, rated in (
        ("light", 4.0, 60.0),
        ("between", 9.0, 60.0),
        ("heavy", 20.0, 60.0),
        ("no rating", 4.0, 0.0),
    ):
        yield topic, f"with nothing connected: {name}", transformer_words.say_open(watts, rated)
    topic = "Adjusters that move each other"
    for name, text in (
        ("they come to rest", "start 3.0 -2.0\ncoil 1/2: 3.5 -1.75\ntrimmer 1/2: 3.2 -1.4\nlimit 1\nu 0.05"),
        ("one round", "start 3.0 0.1\ncoil 1: 2.0 0.1\ntrimmer 1: 3.0 1.1\nlimit 1"),
        ("they do not", "start 3 -2\ncoil 1: 4 -1\ntrimmer 1: 4 -0.999\nlimit 1"),
    ):
        yield topic, name, " ".join(turns_words.say_turns(set_together(read_turned(text))))
