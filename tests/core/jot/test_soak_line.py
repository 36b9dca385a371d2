"""Lines of a soak: on, off, what is watched."""

import pytest

from candor.core.errors import ValueTextError
from candor.core.jot.soak_line import OffJot, OnJot, SoakJot, UnwatchJot, WatchJot, say_every, understand_soak


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


@pytest.mark.parametrize(
    ("text", "jot"),
    [
        ("soak by simulated every 10 s", WatchJot("simulated", 10)),
        (
            "soak by TCPIP::a::1::SOCKET every min in ohm of R3",
            WatchJot("TCPIP::a::1::SOCKET", 60, unit="ohm", what="R3"),
        ),
        ("Soak by ASRL1 every 1.5 hours of the 30 V range", WatchJot("ASRL1", 5400, what="the 30 V range")),
    ],
)
def test_a_meter_is_read_by_itself(text, jot):
    found = understand_soak(text)
    assert (found.link, found.every_s, found.unit, found.what) == (jot.link, jot.every_s, jot.unit, jot.what)
    assert found.chips[0].startswith(f"read by {jot.link} every {say_every(jot.every_s)}")


def test_by_hand_again_and_what_is_no_such_line():
    assert isinstance(understand_soak("soak by hand"), UnwatchJot)
    for text, words in (
        ("soak by simulated", "expected such as"), ("soak by x every 5 parsecs", "expected such as"),
        ("soak by x every 0.2 s", "from every 1 s"), ("soak by x every 1 min in furlong", "no unit that is watched"),
    ):  # fmt: skip
        with pytest.raises(ValueTextError, match=words):
            understand_soak(text)


def test_what_is_none_is_left_and_what_cannot_be_read_is_said():
    assert understand_soak("on 75 ref 75.6") is None
    assert understand_soak("soaked in oil") is None
    for text in ("soak", "soak warm", "soak 10 Z"):
        if understand_soak("soak") is None and text == "soak":
            continue
        with pytest.raises(ValueTextError):
            understand_soak(text)
