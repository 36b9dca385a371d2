"""Lines of the first sitting. Forms are ours: common practice, no source."""

import pytest

from candor.core.errors import CandorError
from candor.core.jot import JotContext, NoteJot, understand
from candor.core.jot.meaning import (
    CleaningJot,
    FunctionJot,
    InsulationJot,
    JointJot,
    MassJot,
    NotAsDrawnJot,
    ResolderJot,
    UnaccountedJot,
)

DAY = 86400.0


@pytest.mark.parametrize(
    ("text", "kind", "said"),
    [
        ("function AC volts, lettering faded", FunctionJot, ("AC volts", True)),
        ("function Ohms", FunctionJot, ("Ohms", False)),
        ("not as drawn: a fuse in the primary", NotAsDrawnJot, ("a fuse in the primary",)),
        ("unaccounted 2 screws M3", UnaccountedJot, (2, "screws M3")),
        ("unaccounted for: the long screw", UnaccountedJot, (1, "the long screw")),
        ("mass 32 kg", MassJot, ("32 kg", True)),
        ("weighs 44 lb", MassJot, ("44 lb", False)),  # 19.96 kg: 1 lb = 0.45359237 kg, agreement of 1959
        ("weighs 44.2 lb", MassJot, ("44.2 lb", True)),
        ("cleaned the case with a brush", CleaningJot, ("the case with a brush", "dry", 0.0)),
        ("cleaned range switch contacts", CleaningJot, ("range switch contacts", "cleaner", 0.0)),
        ("lubricated range switch contacts", CleaningJot, ("range switch contacts", "lubricated", 0.0)),
        ("washed the chassis, dries 36 h", CleaningJot, ("the chassis", "washed", 1.5 * DAY)),
        ("washed the chassis", CleaningJot, ("the chassis", "washed", 3 * DAY)),
        ("insulation 22 Mohm @500V", InsulationJot, (22e6, 500.0)),
        ("insulation 2M", InsulationJot, (2e6, 0.0)),
        ("joint V1 pin 4", JointJot, ("V1 pin 4",)),
        ("dry joints at the deck", JointJot, ("the deck",)),
        ("resoldered", ResolderJot, ()),
    ],
)
def test_lines_of_the_first_sitting(text, kind, said):
    jot = understand(text, JotContext())
    assert type(jot) is kind
    assert tuple(v for k, v in vars(jot).items() if k != "chips") == pytest.approx(said)
    assert jot.chips or kind is ResolderJot


@pytest.mark.parametrize(
    ("text", "sentence"),
    [
        ("function , faded", "Which function"),
        ("unaccounted 0 screws", "0 fasteners"),
        ("mass 0 kg", "0 kg"),
        ("washed chassis, 90 days", "90 days of drying"),
        ("insulation 0 ohm", "0 Ω cannot be here"),
    ],
)
def test_what_cannot_be_is_asked_about(text, sentence):
    with pytest.raises(CandorError, match=sentence):
        understand(text, JotContext())


@pytest.mark.parametrize(
    "text", ["function switch is rough", "mass of dust", "insulation crumbles", "the washed one", "cleaned"]
)
def test_words_that_only_begin_alike_stay_notes(text):
    assert isinstance(understand(text, JotContext()), NoteJot)


def test_contacts_are_cleaned_and_then_lubricated():
    assert "then lubricate, as a step of its own" in understand("cleaned pot of the gain", JotContext()).chips
