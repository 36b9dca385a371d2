"""Fields and the line that they say are one thing: filled, they are a line of that verb; a line fills them."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from candor.core.errors import CandorError
from candor.core.jot import JotContext
from candor.core.jot.line import _fits
from candor.core.jot.rows import VERBS
from candor.core.jot.verb_fields import fields_of, has_fields, line_of, texts_of
from candor.core.parts.part import Part

ASKED = tuple(verb for verb in VERBS if fields_of(verb))
KNOWN = JotContext(
    parts={
        ref: Part(ref, *(("capacitor", 8e-6) if ref[0] == "C" else ("resistor", 330e3)))
        for ref in ("C4", "C12", "R3", "R7", "R24", "R30")
    }
)
# Of a form of two ways only one is said at a time.
EITHER = {"measured": ("decision", "reason"), "past": ("dead",), "behind": ("value",), "touch": ("volts",)}


def verb(name):
    return next(v for v in VERBS if v.name == name)


@pytest.mark.parametrize("verb", ASKED, ids=lambda v: v.name)
def test_a_line_in_fields_is_the_same_line(verb):
    for example in verb.examples:
        said, needed = line_of(verb, texts_of(verb, example))
        if verb.name == "event" and example == "click":
            continue  # a word alone says it all
        assert not needed
        if verb.name != "points":  # which ask for a range in hand
            assert (
                [jot for _, jot in _fits(VERBS, said, KNOWN)[0]]
                == [jot for _, jot in _fits(VERBS, example, KNOWN)[0]]
                != []
            )


@pytest.mark.parametrize("verb", ASKED, ids=lambda v: v.name)
def test_the_example_in_every_field_can_be_typed_there(verb):
    for field in fields_of(verb):
        assert field.title
        assert field.wrong(field.example) == ""
        assert field.choices or field.example


@given(st.data())
def test_whatever_fields_are_filled_the_line_is_of_their_verb_or_asked_about(data):
    """Examples at random in the fields: nothing else is understood, nothing is left over."""
    verb = data.draw(st.sampled_from([v for v in ASKED if v.name not in ("points", "range", "did")]))
    fields = fields_of(verb)
    other = data.draw(st.booleans())
    texts = {}
    for field in fields:
        of_other = field.key in EITHER.get(verb.name, ())
        if field.needed or (data.draw(st.booleans()) and (of_other == other or not of_other)):
            texts[field.key] = (
                data.draw(st.sampled_from([c for c in field.choices if c])) if field.choices else field.example
            )
    line, needed = line_of(verb, texts)
    fits, wrong = _fits(VERBS, line, KNOWN)
    if needed:
        assert {field.key for field in fields} >= set(needed)
    else:
        assert {found.name for found, _ in fits} <= {verb.name, *({"node"} if verb.name == "pin" else ())} or wrong
        assert fits or wrong


def test_what_a_line_still_needs_is_named_and_an_empty_field_says_nothing():
    rail = verb("rail as drawn")
    assert line_of(rail, {"name": "b1", "surge": " "}) == ("rail b1 is", ("volts",))
    assert line_of(rail, {"name": "b1", "volts": "285 V", "share": "2 %"}) == ("rail b1 is 285 V, regulated 2 %", ())
    assert line_of(verb("tube"), {"name": "V3", "mu": "20"})[1] == ("plate", "cathode")
    touch = verb("touch")
    assert line_of(touch, {"volts": "0.42 V", "way": "as it is", "switch": "on"}) == ("touch 0.42 V as it is on", ())


def test_what_has_fields_is_known_without_reading_its_examples():
    assert [has_fields(verb) for verb in VERBS] == [bool(fields_of(verb)) for verb in VERBS]


def test_nothing_of_a_line_that_was_begun_is_lost():
    rail = verb("rail")
    assert texts_of(rail, "rail b1") == {"name": "b1"}
    assert line_of(rail, texts_of(rail, "rail b1 and more"))[0].startswith("rail b1 and more")
    assert texts_of(verb("frequency"), "read at 1 kHz") == {"hertz": "1 kHz"}
    assert texts_of(verb("did"), "replaced C4 with 10u") == {"text": "replaced C4 with 10u"}
    assert texts_of(verb("plug out"), "plug out") == {}


def test_a_field_says_what_is_wrong_with_it_and_how_it_is_typed():
    volts = next(field for field in fields_of(verb("rail")) if field.key == "volts")
    assert "neither a prefix nor a unit" in volts.wrong("28x")
    assert volts.wrong("287 volts and more") == "Candor cannot read “287 volts and more” here. Example: 287"
    assert volts.wrong("") == volts.wrong("287") == ""


def test_a_name_ends_before_a_comma():
    assert verb("tube").fit("tube V3, plate n5, cathode n7", JotContext()).name == "v3"
    with pytest.raises(CandorError):
        verb("tube").fit("tube V3, plate at most 300 V, plate at most 200 V", JotContext())
