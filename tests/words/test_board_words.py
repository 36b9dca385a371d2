"""Advice that sends a hand into an instrument begins with the cord out and what is charged discharged."""

from candor.words import board_words, rails_words


def test_no_advice_touches_a_part_before_the_cord_is_out():
    said = board_words.ADVICE | rails_words.ADVICE
    hands_off = {"nothing", "", "current", "reading", "probe"}
    assert set(said) >= hands_off | {
        "part",
        "moved",
        "bridge",
        "leak",
        "winding",
        "rectifier",
        "capacitor",
        "dropper",
        "load",
    }
    assert {k for k, words in said.items() if not words.startswith("Cord out, discharged: ")} == hands_off
