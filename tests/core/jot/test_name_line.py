"""What stands on the bench, from one line. Names are invented."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from candor.core.errors import ValueTextError
from candor.core.jot.name_line import Named, read_name

MAKERS = ("Tarnholm", "Brindle & Orme", "Brindle")


@pytest.mark.parametrize(
    ("text", "named"),
    [
        ("Tarnholm VM-6 40217", Named("Tarnholm", "VM-6", "40217")),
        ("40217 VM-6 tarnholm", Named("Tarnholm", "VM-6", "40217")),
        ("VM-6 no. 40217 Tarnholm", Named("Tarnholm", "VM-6", "40217")),
        ("Halvergate signal tracer 1187", Named("Halvergate", "signal tracer", "1187")),
        ("Corvane, AV 20, 3310", Named("Corvane", "AV 20", "3310")),
        ("Brindle & Orme 410 s/n A-77", Named("Brindle & Orme", "410", "A-77")),
        ("Wexcombe 310 5567", Named("Wexcombe", "310", "5567")),
        ("TV7", Named("", "TV7", "")),
        ("A", Named("", "A", "")),
        ("40217", Named("", "40217", "")),
        ("Halvergate", Named("", "Halvergate", "")),
        ("ØRSTED 𝛀-3 📻 #12", Named("ØRSTED", "𝛀-3 📻", "12")),
        ("מעבדה AV-2 77", Named("מעבדה", "AV-2", "77")),
    ],
)
def test_names_in_any_order_that_makes_sense(text, named):
    assert read_name(text, MAKERS) == named


def test_what_is_no_name_is_refused_with_a_sentence():
    with pytest.raises(ValueTextError, match="Nothing was written"):
        read_name(" \u202e ")
    with pytest.raises(ValueTextError, match="300 characters"):
        read_name("x" * 300)


@given(st.lists(st.text("abcdxyz0123456789-", min_size=1, max_size=8), min_size=1, max_size=6))
def test_no_word_is_lost(words):
    """Whatever goes where, every word that was typed is in maker, type or number, once."""
    named = read_name(" ".join(words))
    assert sorted(f"{named.maker} {named.type} {named.serial}".split()) == sorted(words)
