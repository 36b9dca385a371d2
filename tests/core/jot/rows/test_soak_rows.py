"""Lines of a soak: on, off, what is watched."""

import pytest

from candor.core.errors import CandorError
from candor.core.jot.line import understand_at
from candor.core.jot.rows.soak_rows import say_every
from candor.core.jot.soak_meaning import OffJot, OnJot, PastJot, SoakJot, UnwatchJot, WatchJot


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
    found = understand_at("soak", text)
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
    found = understand_at("soak", text)
    assert (found.link, found.every_s, found.unit, found.what) == (jot.link, jot.every_s, jot.unit, jot.what)
    assert found.chips[0].startswith(f"read by {jot.link} every {say_every(jot.every_s)}")


def test_by_hand_again_and_what_is_no_such_line():
    assert isinstance(understand_at("soak", "soak by hand"), UnwatchJot)
    for text, words in (
        ("soak by simulated", "Example"), ("soak by x every 5 parsecs", "Example"),
        ("soak by x every 0.2 s", "from every 1 s"), ("soak by x every 1 min in furlong", "not a unit that Candor can watch"),
    ):  # fmt: skip
        with pytest.raises(CandorError, match=words):
            understand_at("soak", text)


def test_what_is_none_is_left_and_what_cannot_be_read_is_said():
    assert understand_at("soak", "on 75 ref 75.6") is None
    assert understand_at("soak", "soaked in oil") is None
    for text in ("soak", "soak warm", "soak 10 Z"):
        if understand_at("soak", "soak") is None and text == "soak":
            continue
        with pytest.raises(CandorError):
            understand_at("soak", text)


@pytest.mark.parametrize(
    ("text", "jot"),
    [
        (
            "past 2021-03-04 dc+/150/75 +0.12 ± 0.10 V left",
            PastJot("2021-03-04", "dc+/150/75", error=0.12, expanded=0.1, unit="V", when="left"),
        ),
        ("past 2021-03-04 r/1k −3 +- 2 ohm", PastJot("2021-03-04", "r/1k", error=-3.0, expanded=2.0, unit="ohm")),
        (
            "Past 2019-01-02 the 30 V range at 20: 0.2 V U 0.05 V, limit 0.9 V, as found",
            PastJot("2019-01-02", "the 30 V range at 20", error=0.2, expanded=0.05, unit="V", limit=0.9),
        ),
        ("past 2019-01-02 shift 1.5 U 0.5", PastJot("2019-01-02", "shift", error=1.5, expanded=0.5)),
        ("past 2020-05-05 dc+/150/75 dead", PastJot("2020-05-05", "dc+/150/75")),
    ],
)
def test_a_result_of_before(text, jot):
    found = understand_at("soak", text)
    assert (found.date, found.point, found.unit, found.when) == (jot.date, jot.point, jot.unit, jot.when)
    for name in ("error", "expanded", "limit"):
        assert getattr(found, name) == (None if getattr(jot, name) is None else pytest.approx(getattr(jot, name)))
    assert jot.point in found.chips[0]


def test_what_is_none_and_what_goes_on_otherwise():
    assert understand_at("soak", "past its best") is None
    for text, words in (
        ("past 2021-03-04 dc+/150/75", "Example"), ("past 2021-03-04 dc 1 V", "Example"),
        ("past 2021-03-04 dc 1 V ± 2 A", "more than one unit"),
    ):  # fmt: skip
        with pytest.raises(CandorError, match=words):
            understand_at("soak", text)
