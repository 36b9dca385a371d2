"""IEC 60063 preferred values and IEC 60062 codes. The standards' tables are from memory, confirmed by NumPy's rounding."""

import numpy as np
import pytest

from candor.core.combine.preferred import SERIES, decade, nearest, values_between
from candor.core.errors import CandorError, RangeError, ValueTextError
from candor.core.parts.codes import read_mark, read_sections, write_code


@pytest.mark.parametrize("series", ["E48", "E96", "E192"])
def test_fine_series_are_rounded_powers_of_ten_with_the_one_exception(series):
    """IEC 60063: 10^(i/n) to three digits; 9.20 in E192 where rounding gives 9.19 (from memory)."""
    count = int(series[1:])
    rounded = np.round(10 ** (np.arange(count) / count), 2)
    rounded[rounded == 9.19] = 9.20
    assert decade(series) == tuple(rounded)


def test_coarse_series_differ_from_rounding_where_the_standard_does():
    """IEC 60063 E24, from memory: eight values are not the rounded powers of ten."""
    rounded = np.round(10 ** (np.arange(24) / 24), 1)
    differs = {float(r): v for r, v in zip(rounded, decade("E24"), strict=True) if r != v}
    assert differs == {2.6: 2.7, 2.9: 3.0, 3.2: 3.3, 3.5: 3.6, 3.8: 3.9, 4.2: 4.3, 4.6: 4.7, 8.3: 8.2}
    assert decade("E12") == (1.0, 1.2, 1.5, 1.8, 2.2, 2.7, 3.3, 3.9, 4.7, 5.6, 6.8, 8.2)
    assert decade("E6") == (1.0, 1.5, 2.2, 3.3, 4.7, 6.8)
    assert decade("E3") == (1.0, 2.2, 4.7)


def test_every_coarser_series_lies_in_the_finer_of_its_family():
    for coarse, fine in (("E3", "E6"), ("E6", "E12"), ("E12", "E24"), ("E48", "E96"), ("E96", "E192")):
        assert set(decade(coarse)) <= set(decade(fine))


def test_values_between_and_nearest():
    assert values_between("E6", 1e3, 1e4) == (1e3, 1.5e3, 2.2e3, 3.3e3, 4.7e3, 6.8e3, 1e4)
    assert len(values_between("E96", 1, 9.76e6)) == 7 * 96
    assert nearest(151.1e6, "E24") == 150e6
    assert nearest(0.05e-6, "E6") == pytest.approx(47e-9)
    for series in SERIES:
        assert nearest(7.34e6, series) in values_between(series, 1e6, 1e8)
    for bad in (0, -1, float("inf")):
        with pytest.raises(RangeError):
            nearest(bad, "E12")
    with pytest.raises(RangeError, match="E3, E6"):
        decade("E7")


@pytest.mark.parametrize(
    ("text", "unit", "value", "below", "above"),
    [
        # IEC 60062, letter and digit code with tolerance letters.
        ("4K7J", "ohm", 4700, 0.05, 0.05), ("R47", "ohm", 0.47, None, None), ("1M0F", "ohm", 1e6, 0.01, 0.01),
        ("6R8K", "ohm", 6.8, 0.1, 0.1), ("4n7K", "F", 4.7e-9, 0.1, 0.1), ("104M", "F", 100e-9, 0.2, 0.2),
        ("473J", "F", 47e-9, 0.05, 0.05), ("225Z", "F", 2.2e-6, 0.2, 0.8), ("10uF", "F", 10e-6, None, None),
        # IEC 60062, colours.
        ("yellow violet orange gold", "ohm", 47e3, 0.05, 0.05), ("brown black black", "ohm", 10, 0.2, 0.2),
        ("brown black black red brown", "ohm", 10e3, 0.01, 0.01), ("green blue gold silver", "ohm", 5.6, 0.1, 0.1),
        ("Red-Red-Yellow-Silver", "ohm", 220e3, 0.1, 0.1),
        # As drawings write it.
        ("470", "ohm", 470, None, None), ("0.05 mfd 10%", "F", 0.05e-6, 0.1, 0.1), ("330 k ±5 %", "ohm", 330e3, 0.05, 0.05),
    ],
)  # fmt: skip
def test_marks(text, unit, value, below, above):
    found = read_mark(text, unit)
    assert (found.value, found.below, found.above) == (pytest.approx(value, rel=1e-12), below, above)


@pytest.mark.parametrize("text", ["", "4k7Y", "brown pink gold none", "black brown red", "red red red white", "x"])
def test_marks_that_cannot_be_read(text):
    with pytest.raises(CandorError, match=r"xpected|Example"):
        read_mark(text, "ohm")


@pytest.mark.parametrize(
    ("value", "code"), [(4700, "4K7"), (0.47, "R47"), (1e6, "1M"), (470, "470R"), (2.2e9, "2G2")]
)
def test_codes_are_written_and_read_back(value, code):
    assert write_code(value) == code
    assert read_mark(code, "ohm").value == pytest.approx(value)
    assert write_code(value, 0.05) == f"{code}J"


@pytest.mark.parametrize(
    ("mark", "value", "absolute"),
    [
        ("4p7C", 4.7e-12, 0.25e-12),
        ("8p2D", 8.2e-12, 0.5e-12),
        ("2pB", 2e-12, 0.1e-12),
        ("6p8F", 6.8e-12, 1e-12),
        ("6.8pF", 6.8e-12, 0.0),
    ],
)
def test_under_ten_picofarad_the_letter_is_absolute(mark, value, absolute):
    """IEC 60062: for capacitors under 10 pF the tolerance letters are in pF, not in per cent."""
    found = read_mark(mark, "F")
    assert found.value == pytest.approx(value)
    assert (found.above or 0) * found.value == pytest.approx(absolute, abs=0)


def test_from_ten_picofarad_on_it_is_in_per_cent():
    assert read_mark("47pC", "F").above == pytest.approx(0.0025)


@pytest.mark.parametrize(
    ("mark", "sections"),
    [("20/20 uF", 2), ("40-10-10 uF", 3), ("8/16 mfd", 2), ("1/4 uF", 1), ("2-1/2 mfd", 1)],
)
def test_sections_written_together_are_no_fraction(mark, sections):
    """Common practice, no source: a can of two is marked 20/20; a fraction in its lowest terms is a fraction."""
    assert len(read_sections(mark)) == sections
    if sections > 1:
        with pytest.raises(ValueTextError, match=f"are {sections} sections of one can"):
            read_mark(mark, "F")
    else:
        assert read_mark(mark, "F").value == pytest.approx({"1/4 uF": 0.25e-6, "2-1/2 mfd": 2.5e-6}[mark])
