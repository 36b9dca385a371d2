"""A line of a handbook's table, as makers print them in every manner; what is printed is read back."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from candor.core.errors import ValueTextError
from candor.notebook.entries.standards_entries import SpecificationLine
from candor.notebook.standards.specification_line import read_specification, write_specification
from candor.notebook.standards.standards_text import read_functions


def line(upper, reading=0.0, of_range=0.0, counts=0.0, resolution=0.0, low=0.0, high=0.0):
    return SpecificationLine(
        upper=upper, percent_of_reading=reading, percent_of_range=of_range, counts=counts, resolution=resolution,
        low_hertz=low, high_hertz=high,
    )  # fmt: skip


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        ("6 V, 1 mV: 0.5 % + 2 digits", line(6, 0.5, counts=2, resolution=1e-3)),
        ("6.000 V: ±(0.5% + 2)", line(6, 0.5, counts=2, resolution=1e-3)),
        ("600.0 mV: 0.5% rdg + 2 dgt", line(0.6, 0.5, counts=2, resolution=1e-4)),
        ("6 V range, resolution 1 mV: ± 0.5 % of reading ± 2 counts", line(6, 0.5, counts=2, resolution=1e-3)),
        ("6 V: 0.5 % + 2 digits, 1 mV", line(6, 0.5, counts=2, resolution=1e-3)),
        ("10 V 0.0035 % of reading + 5 ppm of range", line(10, 0.0035, 0.0005)),
        ("to 10 V: 0.005 % + 0.001 % FS + 2 x 0.1 mV", line(10, 0.005, 0.001, 2, 1e-4)),
        ("100 V: 1 % of full scale", line(100, 0.0, 1.0)),
        ("10 V: 0.02 % + 1 mV", line(10, 0.02, counts=1, resolution=1e-3)),
        ("6 V, 1 mV, 45 Hz to 1 kHz: 1 % + 3 d", line(6, 1, counts=3, resolution=1e-3, low=45, high=1e3)),
        ("40 Hz to 1 kHz, to 10 V: 0.2 %", line(10, 0.2, low=40, high=1e3)),
        ("6 V, 45-500 Hz: 1 %", line(6, 1, low=45, high=500)),
    ],
)
def test_what_handbooks_print_is_read(text, expected):
    got = read_specification(text, "V")
    assert got.model_dump() == pytest.approx(expected.model_dump())


def test_the_display_says_what_a_digit_is_worth():
    assert read_specification("60 V: 0.5 % + 2", "V", display=6000).resolution == pytest.approx(0.01)
    (volts,) = read_functions("V d.c., 6000 counts\n6 V: 0.5 % + 2 digits\n600 V: 0.8 % + 3 digits")
    assert [r.resolution for r in volts.ranges] == pytest.approx([1e-3, 0.1])


def test_a_digit_of_no_known_size_is_asked_about():
    with pytest.raises(ValueTextError, match="how much is a digit"):
        read_specification("6 V: 0.5 % + 2 digits", "V")


def test_lines_before_any_heading_are_of_their_own_unit():
    assert [f.unit for f in read_functions("60 mA, 10 uA: 1 % + 3 digits")] == ["A"]
    assert [f.unit for f in read_functions("to 10: 1 %")] == ["V"]


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("6 V, 1 mV, 2 mV: 0.5 %", "“2 mV” is not understood"),
        ("10 V: 0.5 % + 0.1 %", "does not say of what"),
        ("6 V, 10 V: 0.5 % + 1 digit", "is no part of that range"),
        ("6 V, 1 kHz to 40 Hz: 1 %", "goes backwards"),
        ("6,000 V: 0.5 %", "could mean thousands or decimals"),
        ("10 V: 2 x 1 mV + 3 x 1 V", "two digit sizes"),
        ("10 V: 3 furlongs", "furlongs"),
        ("10 V", "Candor cannot read “10 V” here"),
    ],
)
def test_what_cannot_be_is_said(text, words):
    with pytest.raises(ValueTextError, match=words):
        read_specification(text, "V")


FIGURE = st.floats(1e-4, 5).map(lambda x: float(f"{x:.3g}"))


@given(
    upper=st.floats(1e-3, 1e3).map(lambda x: float(f"{x:.4g}")),
    reading=FIGURE,
    of_range=st.one_of(st.just(0.0), FIGURE),
    counts=st.integers(0, 50),
    band=st.one_of(st.just((0.0, 0.0)), st.sampled_from([(45.0, 500.0), (20.0, 1e5), (0.1, 3e8)])),
    unit=st.sampled_from(["V", "A", "ohm", "H"]),
)
def test_what_is_printed_is_read_back(upper, reading, of_range, counts, band, unit):
    said = line(upper, reading, of_range, counts, float(f"{upper / 4000:.3g}") if counts else 0.0, *band)
    again = read_specification(write_specification(said, unit), unit)
    assert again.model_dump() == pytest.approx(said.model_dump(), rel=1e-5)
