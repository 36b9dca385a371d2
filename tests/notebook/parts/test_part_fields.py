"""A part as its fields show it is the part they say."""

from dataclasses import replace

import pytest

from candor.core.errors import CandorError
from candor.core.parts.part import Part
from candor.notebook.entries.parts_entries import to_part
from candor.notebook.parts.part_fields import fields_of, listed_of

PART = Part(
    ref="C9", kind="capacitor", nominal=0.05e-6, make="paper", role="coupling", below=0.1, above=0.1, volts=600,
    can="", mains="", volts_across=300, no_load_volts=470, grid_ohms=560e3, note="moulded", leakage_limit=2e-7,
)  # fmt: skip
CHOICES = {"make": "paper", "role": "coupling", "mains": ""}


def test_what_fields_show_is_what_they_say():
    assert to_part(listed_of(fields_of(PART), CHOICES, True, PART)) == PART


def test_what_they_do_not_show_belongs_to_the_same_part_only():
    text = {**fields_of(PART), "ref": "c10"}
    body = listed_of(text, CHOICES, False, PART)
    assert to_part(body) == replace(PART, ref="C10", leakage_limit=0.0, fitted=False)


@pytest.mark.parametrize(
    ("changes", "words"),
    [
        ({"ref": ""}, "Which part"),
        ({"value": "much"}, "much"),
        ({"volts": "6 A"}, "is a current"),
        ({"value": "0"}, "C9, value: "),
    ],
)
def test_what_cannot_be_is_said_with_its_place(changes, words):
    with pytest.raises(CandorError, match=words):
        listed_of({**fields_of(PART), **changes}, CHOICES, True, None)
