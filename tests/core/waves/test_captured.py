"""What an oscilloscope's address, preamble and samples say, and every way in which they can be wrong."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from candor.core.errors import CandorError
from candor.core.waves.captured import EXAMPLE, read_preamble, read_scope_address, samples_of
from candor.core.waves.scope_csv import read_waveforms

PREAMBLE = "interval start step zero middle"


def address(samples, fields=PREAMBLE):
    return read_scope_address(f'here; preamble "P?" {fields}; data "D?" {samples}')


def test_an_address_says_what_is_asked_and_what_the_answers_are():
    found = read_scope_address(EXAMPLE)
    assert (found.resource, found.preamble, found.data, found.samples) == (
        "TCPIP::192.168.1.20::5025::SOCKET",
        "WAV:PRE?",
        "WAV:DATA?",
        "8 bits",
    )
    assert found.fields[2] == "points" and found.fields[-1] == "middle"


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("TCPIP::1", "preamble"), ('a; preamble "P?" interval step', "data"),
        ('a; preamble "P?" interval banana; data "D?" 8 bits', "banana"),
        ('a; preamble "P?" step; data "D?" 8 bits', "interval"), ('a; preamble "P?" interval; data "D?" 16 bits', "step"),
        ('a; preamble "P?" interval step; data "D?" 12 bits', "12 bits"), ("", "preamble"),
    ],
)  # fmt: skip
def test_an_address_that_says_too_little_is_refused_with_what_is_missing(text, says):
    with pytest.raises(CandorError, match=says):
        read_scope_address(text)


@pytest.mark.parametrize(
    ("samples", "kind"),
    [("8 bits", "u1"), ("8 bits signed", "i1"), ("16 bits", ">u2"), ("16 bits signed", ">i2"), ("16 bits low first", "<u2"),
     ("16 bits low first signed", "<i2")],
)  # fmt: skip
def test_counts_are_volts_as_the_preamble_says(samples, kind):
    """By hand: (count - middle) x step + zero."""
    counts = np.array([0, 1, 3, 100, 127] * 4, dtype=kind)
    preamble = {"interval": 1e-6, "start": -2e-6, "step": 0.02, "zero": 0.5, "middle": 100.0}
    found = samples_of(counts.tobytes(), preamble, address(samples))
    assert found.volts[:5] == pytest.approx([-1.5, -1.48, -1.44, 0.5, 1.04])
    (wave,) = read_waveforms(found.as_table())
    assert wave.count == 20
    assert wave.interval_s == pytest.approx(1e-6) and wave.start_s == pytest.approx(-2e-6)


@given(st.lists(st.floats(-1e3, 1e3), min_size=16, max_size=64), st.floats(1e-10, 1.0))
def test_numbers_come_through_without_a_digit_lost(volts, interval):
    found = samples_of(",".join(map(repr, volts)).encode(), {"interval": interval}, address("numbers", "interval"))
    assert found.volts.tolist() == volts
    (wave,) = read_waveforms(found.as_table())
    assert wave.interval_s == pytest.approx(interval, rel=1e-6)


@pytest.mark.parametrize(
    ("answer", "says"),
    [
        ("1e-6,0,0.1", "3 fields"),
        ("1e-6,0,banana,0,0", "step"),
        ("0,0,1,0,0", "above zero"),
        ("nan,0,1,0,0", "interval"),
        ("", "1 fields"),
    ],
)
def test_a_preamble_that_is_none_is_said(answer, says):
    with pytest.raises(CandorError, match=says):
        read_preamble(answer, address("8 bits"))


@pytest.mark.parametrize(
    ("block", "fields", "says"),
    [
        (b"\x01" * 15, "16 bits", "inside a sample"),
        (b"1,2,x" + b",1" * 20, "numbers", "no number"),
        (b"\x01" * 3, "8 bits", "3 samples"),
    ],
)
def test_samples_that_are_none_are_said(block, fields, says):
    with pytest.raises(CandorError, match=says):
        samples_of(block, {"interval": 1e-6, "step": 1.0}, address(fields))
    with pytest.raises(CandorError, match="says 30"):
        samples_of(b"\x01" * 20, {"interval": 1e-6, "step": 1.0, "points": 30.0}, address("8 bits"))
