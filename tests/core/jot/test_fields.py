"""The fields of a part say the same as a jot: they become one, and it is understood as any other."""

import pytest

from candor.core.jot import JotContext, understand
from candor.core.jot.fields import said_of, volts_typed
from candor.core.parts.part import Part


@pytest.mark.parametrize(
    ("text", "circuit", "state", "said"),
    [
        ({"value": "8.8u", "esr": "11 ohm"}, False, "", "8.8u esr 11 ohm"),
        ({"esr": "d 0.2"}, False, "", "d 0.2"),
        ({"esr": "4 %"}, False, "", "pf 4 %"),
        ({"leak": "310u", "at": "400 V", "after": "5 min"}, False, "", "leak 310u @400V 5 min"),
        ({"leak": "560M"}, False, "", "ir 560M"),
        ({"leak": "560m"}, False, "", "leak 560m"),
        ({"leak": "2 gohm"}, False, "", "ir 2 gohm"),
        ({"value": "366k", "warm": "374k"}, True, "", "366k 374k warm in circuit"),
        ({"value": ""}, False, "intermittent", "intermittent"),
        ({}, False, "", ""),
    ],
)
def test_fields_become_a_jot(text, circuit, state, said):
    assert said_of(text, circuit, state) == said


def test_the_jot_is_understood_as_it_was_meant():
    part = Part("C9", "capacitor", 1e-5, "electrolytic", volts=450)
    said = said_of({"value": "8.8u", "esr": "11 ohm", "leak": "310u", "at": "400", "after": "5 min"}, False, "")
    numbers = dict(understand(f"C9 {said}", JotContext(parts={"C9": part})).numbers)
    assert numbers == pytest.approx(
        {"value": 8.8e-6, "esr": 11, "leakage": 310e-6, "leakage_volts": 400, "dwell_s": 300}
    )


def test_a_voltage_being_typed_is_none_until_it_is_one():
    assert [volts_typed(x) for x in ("", "4", "400", "400 V", "2,5", "4x")] == [0, 4, 400, 400, 2.5, 0]
