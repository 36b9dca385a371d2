"""Examples of every sentence about tubes, and about a supply that was calculated."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from candor.core.power.first_capacitor import FirstCapacitor
from candor.core.power.swap import SwapAnswer, line_control
from candor.core.power.typed import CapacitorStress
from candor.core.tubes.held_line import HeldLine, at_the_line_set
from candor.core.tubes.matching import Balance
from candor.core.tubes.order import BY_KEY, OutOfOrder
from candor.core.tubes.ratings import BY_NAME
from candor.core.tubes.sag import line_source
from candor.core.tubes.tester_reading import judge_tube
from candor.notebook.entries.tubes_entries import LineSag
from candor.words import (
    supply_words,
    tubes_words,
)


def tubes_examples() -> Iterator[tuple[str, str, str]]:
    """Yield (topic, finding, sentence)."""
    topic = "Tubes"
    figures = {"good": (4.1e-3, 2.7e-3), "weak": (2.2e-3, 2.7e-3), "near the reject level": (2.8e-3, 2.7e-3)}
    for name, (figure, reject) in (figures | {"no reject level": (4.1e-3, 0.0)}).items():
        yield (
            topic,
            name,
            tubes_words.say_tube_verdict(judge_tube(figure, 0.3e-3, 4.2e-3, reject, "the roll chart")),
        )
    for name, early in (
        ("a test that ends all others was failed", OutOfOrder("ended", BY_KEY["gas"])),
        ("a test comes before", OutOfOrder("before", BY_KEY["shorts"])),
        ("no test of this kind of tube", OutOfOrder("other kind", BY_KEY["gm"])),
    ):
        yield (topic, name, tubes_words.say_out_of_order(early))
    yield topic, "nobody tried what a dash is worth", tubes_words.ask_for_dashes("MT-1", "the tester")
    yield topic, "the line of a tester", tubes_words.say_sag("the tester", line_source(120.4, 118.9, 22.0))
    yield (
        topic,
        "the line of a tester as it was read",
        tubes_words.say_line_sag(LineSag(tester="the tester", empty_volts=120.4, loaded_volts=118.9, watts=22.0)),
    )
    held = HeldLine(before_volts=120.4, held_volts=118.9, u_fall=0.03, held_s=3.4)
    for name, volts, found in (
        ("the line of a tester is logged, its button was held", 120.2, held),
        ("the line of a tester is logged, its button is held", 118.8, replace(held, released=False)),
        ("the line of a tester is logged, nothing stands out", 120.2, None),
        ("the line of a tester is logged, the meter is silent", None, None),
    ):
        yield topic, name, tubes_words.say_line_log(volts, "it does not answer", found)
    yield topic, "the line is a simulated one", tubes_words.say_line_log(120.2, "", held, simulated=True)
    reading = at_the_line_set(2.45e-3, "gm", held)
    yield topic, "a figure at the line before", tubes_words.say_held_reading(held, reading, "S")
    for name, share, within in (
        ("balanced", 0.012, True),
        ("out of balance", 0.14, False),
        ("cannot tell", 0.061, None),
    ):
        yield (topic, name, tubes_words.say_balance(Balance(share, 0.03, within)))
    yield (topic, "known tubes contradict each other", tubes_words.say_doubted(("K2",)))
    yield (topic, "what a kind of tube bears", tubes_words.say_kind(BY_NAME["beam power, small"]))


def supply_examples() -> Iterator[tuple[str, str, str]]:
    """Yield (topic, finding, sentence)."""
    topic = "A supply"
    first, second, bare = (
        CapacitorStress(
            name, peak_volts=495.0, loaded_volts=loaded, ripple_volts=14.0, high_line_volts=loaded * 1.11, rated=rated
        )
        for name, loaded, rated in (("C1", 352.0, 450.0), ("C2", 318.0, 550.0), ("C3", 301.0, 0.0))
    )
    for name, of in (
        ("a capacitor over its rating", (first, second)),
        ("none over", (second,)),
        ("no rating given", (bare,)),
    ):
        yield (topic, name, " ".join(supply_words.say_stresses(of)))
    yield (topic, "one capacitor, cold and warm", supply_words.say_node(first))
    for name, farad, amperes, more in (("some size serves", 32e-6, 0.21, 0.26), ("none serves", 0.0, 0.0, 0.31)):
        yield (
            topic,
            f"first capacitor, {name}",
            supply_words.say_first_capacitor(FirstCapacitor(farad, amperes, more), 0.23),
        )
    swap = SwapAnswer(
        before_volts=318.0, after_volts=349.0, relief_volts=(3.5, 10.5), cold_volts=495.0, dropper_ohms=510.0, dropper_watts=1.9,
        dropped_cold_volts=495.0, dropped_high_volts=352.0,
    )  # fmt: skip
    yield (topic, "another rectifier", " ".join(supply_words.say_swap(swap)))
    for old in ("selenium", "mercury vapour", "vacuum"):
        yield (topic, f"silicon for {old}", supply_words.say_swapped(old, 495.0))
    for name, most in (("is enough", 1.05), ("is not enough", 1.2)):
        yield (topic, f"a line control that {name}", supply_words.say_line_control(line_control(most, 0.9)))
    yield (topic, "holds its charge", supply_words.say_held(("C1", "C4")))
    yield (topic, "still moves", supply_words.say_still_moving(5.0))
