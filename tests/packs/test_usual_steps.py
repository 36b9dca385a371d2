"""What is usual for a kind stands in a job by name: its order, its mistakes, its trims; nothing asks for it."""

import pytest

from candor.packs.kinds_of_instrument import ELSE, kinds_at_hand, pack_of_kind, shipped_kinds
from candor.packs.model import CheckStep
from candor.packs.procedure import procedure
from candor.packs.usual_steps import UsualSection, hint_of, hinted, order_of

KINDS = shipped_kinds()


@pytest.mark.parametrize("key", KINDS)
def test_every_kind_brings_a_preparation_and_says_of_each_usual_function_what_goes_wrong(key):
    kind = KINDS[key]
    steps = procedure(pack_of_kind(kind, "Corvane", "Z-1"))
    assert all(s.usual and s.aim and s.mistake for s in steps)
    assert {s.phase for s in steps} <= {"preparation", "adjustment"}
    assert any(s.phase == "preparation" for s in steps)
    if key == ELSE:
        return
    assert any(s.phase == "adjustment" for s in steps)
    sections = kind.work.sections()
    places = [order_of(sections, title) for title in kind.usual]
    assert [title for title, place in zip(kind.usual, places, strict=True) if place == len(kind.work.functions)] == []


def test_covers_come_off_behind_a_caution():
    """Nothing is turned inside before it is said that the capacitors hold their charge, or what else stands there."""
    inside = [step for kind in KINDS.values() for step in kind.work.trims if step.trims]
    bare = [s.title for s in inside if not s.cautions]
    # The movement's own trims, with nothing but its cells inside; an oven's trim is turned from outside.
    assert bare == ["Frequency trim, last", "The basic d.c. range", "Rectifier trim"]


@pytest.mark.parametrize(
    ("title", "said"),
    [
        ("D.C. volts +", "probe"),
        ("AC volts", "square wave"),
        ("Ohms", "arc"),
        ("Resistance", "arc"),
        ("Decibels", ""),
    ],
)
def test_a_function_is_known_by_a_word_of_its_title(title, said):
    hint = hint_of(KINDS["vacuum-tube-voltmeter"].work.sections(), title)
    assert (said in hint.mistake) if said else hint is None


def test_the_cautions_of_a_function_stand_before_its_steps():
    kind = KINDS["tube-tester-transconductance"]
    hints = [h for s in kind.work.sections() if isinstance(s, UsualSection) for h in s.hints if h.cautions]
    assert hints
    words = hinted(kind.work.sections(), hints[0].names[0], {"do": "Read it.", "mistake": "Other."})
    assert words["cautions"] == hints[0].cautions and words["do"] == "Read it."


def test_a_word_inside_another_is_no_name_of_it():
    sections = KINDS["signal-generator"].work.sections()
    assert hint_of(sections, "Damage") is None  # holds "am"
    assert hint_of(sections, "AM depth") is not None


def test_a_kind_of_ones_own_says_it_too_and_a_caution_that_is_not_there_is_a_fault(tmp_path):
    text = (
        "kind: 1\nid: wave-meter\ntitle: wave meter\nlike: something-else\nwork:\n  trims:\n"
        "    - {key: usual-gain, kind: check, trims: [gain trim], title: Gain, do: Turn it., aim: Right., mistake: Cold., "
        "cautions: [CAUTION]}\n"
    )
    (tmp_path / "a.yaml").write_text(text.replace("CAUTION", "cord"), "utf-8")
    kind = kinds_at_hand(tmp_path).get("wave-meter")
    assert [s.title for s in kind.work.trims] == ["Gain"]
    assert kind.work.preparation == KINDS[ELSE].work.preparation  # borrowed
    assert isinstance(kind.work.trims[0], CheckStep)
    assert all(isinstance(s, UsualSection) for s in kind.work.sections())
    (tmp_path / "a.yaml").write_text(text.replace("CAUTION", "smoke"), "utf-8")
    assert "'smoke' is not a caution" in " ".join(kinds_at_hand(tmp_path).faults)
