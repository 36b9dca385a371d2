"""Values calculated where they are asked: by Ohm's law, by the definition of r.m.s., by squares."""

import math
from dataclasses import replace

import numpy as np
import pytest

from candor.core.calibration.point import TestPoint
from candor.core.errors import CandorError
from candor.core.jot import JotContext, understand
from candor.core.jot.reading_line import split_tail
from candor.core.quantities import parse_quantity
from candor.core.reading.dial import DialRange
from candor.core.reading.scale import linear_scale
from candor.core.verdict.limits import Limit
from candor.sitting.draft import reference_typed


@pytest.mark.parametrize(
    ("text", "unit", "value"),
    [
        ("33 mV over 1k5", "A", 22e-6), ("12 V across 6 ohm", "W", 24.0), ("1k + 220 + 4R7", "ohm", 1224.7),
        ("0.1u + 22n", "F", 122e-9), ("rise 5 ns by 3 ns", "s", 4e-9), ("1.3 us by 0.5 us", "s", 1.2e-6), ("1e+3", "V", 1000.0),
        ("+5", "V", 5.0),
    ],
)  # fmt: skip
def test_what_is_calculated_on_the_spot(text, unit, value):
    found = parse_quantity(text, unit)
    assert found.value == pytest.approx(value)
    assert found.note.startswith("calculated: ") is (" " in text)


@pytest.mark.parametrize("shape", ["sine", "square", "triangle"])
def test_peak_to_peak_becomes_the_root_mean_square_of_its_shape(shape):
    """Against the samples of the shape itself."""
    phase = (np.arange(100_000) + 0.5) / 100_000
    wave = {
        "sine": np.sin(2 * math.pi * phase),
        "square": np.sign(0.5 - phase),
        "triangle": 4 * np.abs(phase - 0.5) - 1,
    }[shape]
    for text, top in ((f"8 Vpp {shape}", 4.0), (f"4 V peak {shape}", 4.0), (f"8 V p-p {shape}", 4.0)):
        assert parse_quantity(text, "V").value == pytest.approx(top * np.sqrt(np.mean(wave**2)), rel=1e-6)


@pytest.mark.parametrize(
    ("text", "unit", "words"),
    [("8 Vpp", "V", "of which shape"), ("3 ns by 5 ns", "s", "cannot be shorter"), ("1 V over 0", "A", "not a resistance"),
     ("22 mV over 1k", "V", "neither a prefix")],
)  # fmt: skip
def test_what_cannot_be_calculated_is_said(text, unit, words):
    with pytest.raises(CandorError, match=words):
        parse_quantity(text, unit)


@pytest.mark.parametrize(
    ("text", "unit", "way"), [("33 mV over 1k5", "A", "V / R in A"), ("5 us by 3 us", "s", "alone: 5 us")]
)
def test_a_reference_made_of_two_values_has_not_the_u_of_one_standard(text, unit, way):
    scale = DialRange(linear_scale("2", 0.0, 2.0, 40, 10), 1e-3, unit, mirror=True)
    point = TestPoint("p", "f", "r", 1, 2e-3, 1e-3, scale, Limit(3.0))
    with pytest.raises(CandorError, match=way):
        understand(f"1 m{unit} ref {text}", JotContext(point=point))
    with pytest.raises(CandorError, match=way):
        reference_typed(text, point, None, unit)  # in its field
    with pytest.raises(CandorError, match=way):
        split_tail(f"on 1 m{unit} ref {text}", point)
    for kind, read in (("source", f"at 1 m{unit} reads {text}"), ("mark", f"on 1 m{unit} ref {text}")):
        with pytest.raises(CandorError, match=way):
            understand(read, JotContext(point=replace(point, kind=kind)))
    assert understand(f"1 m{unit} ref 1.01 m{unit}", JotContext(point=point)).reference == pytest.approx(1.01e-3)


def test_the_chip_says_how_it_came():
    jot = understand("amperes 33 mV over 1k5", JotContext())
    assert jot.value == pytest.approx(22e-6)
    assert jot.chips[-1] == "calculated: 33 mV over 1k5"
