"""A standard as lines people write."""

import pytest

from candor.core.errors import ValueTextError
from candor.notebook.entries.standards_entries import CertificateLine, SpecificationLine, StandardFunction
from candor.notebook.standards.standards_text import read_lines, write_lines


def test_specification_lines_read_back():
    text = "to 10 V: 0.005 % + 0.001 % of range + 2 x 0.1 mV\nto 1 kV: 0.01 %"
    ranges, points = read_lines(text)
    assert points == ()
    assert ranges[0] == SpecificationLine(
        upper=10, percent_of_reading=0.005, percent_of_range=0.001, counts=2, resolution=1e-4
    )
    assert read_lines(write_lines(StandardFunction(ranges=ranges)))[0] == ranges


def test_certificate_lines_read_back():
    _, points = read_lines("at 10 V: correction 0.2 mV U 0.4 mV k 2\nat 100 V: U 3m")
    assert points == (
        CertificateLine(value=10, correction=2e-4, expanded=4e-4),
        CertificateLine(value=100, expanded=3e-3),
    )
    assert read_lines(write_lines(StandardFunction(points=points)))[1] == points


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "What the standard is good for is missing"),
        ("about 1 %", "“about” does not begin with a number"),
        ("to 10 V: 0.1 %\n\nto X: 1 %", "Line 3: “X” does not begin with a number"),
        ("to 10 V: some", "Line 1: “some”"),
        ("to 10 V: 0.1 %\nat 10 V: U 1m", "Give lines of one kind"),
        ("to 0 V: 0.1 %", "Line 1: “to 0 V”: a range ends above zero"),
    ],
)
def test_lines_that_cannot_be_read(text, words):
    with pytest.raises(ValueTextError) as caught:
        read_lines(text)
    assert words in str(caught.value)
