"""Lines of a soak: on, off, what is watched."""

import pytest

from candor.core.errors import ValueTextError
from candor.core.jot.soak_line import OffJot, OnJot, SoakJot, understand_soak


@pytest.mark.parametrize(
    ("text", "jot"),
    [
        ("on", OnJot()),
        ("On unattended", OnJot(False)),
        ("switched off", OffJot()),
        ("soak 10.0231 V", SoakJot(10.0231, "V")),
        ("soak −1.5 mV of zero", SoakJot(-1.5e-3, "V", "zero")),
        ("soak 10.02 of volts 30", SoakJot(10.02, "", "volts 30")),
        ("soak 4.999 MHz", SoakJot(4.999e6, "Hz")),
    ],
)
def test_a_line_is_understood(text, jot):
    found = understand_soak(text)
    assert type(found) is type(jot)
    if isinstance(jot, SoakJot):
        assert (found.value, found.unit, found.what) == (pytest.approx(jot.value), jot.unit, jot.what)
        assert found.chips[0].startswith("while it soaks ")
    elif isinstance(jot, OnJot):
        assert found.attended == jot.attended


def test_what_is_none_is_left_and_what_cannot_be_read_is_said():
    assert understand_soak("on 75 ref 75.6") is None
    assert understand_soak("soaked in oil") is None
    for text in ("soak", "soak warm", "soak 10 Z"):
        if understand_soak("soak") is None and text == "soak":
            continue
        with pytest.raises(ValueTextError):
            understand_soak(text)
