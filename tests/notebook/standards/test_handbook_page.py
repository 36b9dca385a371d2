"""Pages of handbooks as they are pasted, of many shapes: each says what lines say, or is refused with its line."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from candor.core.errors import CandorError
from candor.notebook.standards.standards_table import pasted, rows_of
from candor.notebook.standards.standards_text import read_functions, write_functions

DIGITS = "V d.c.\n200 mV, 0.1 mV: 0.5 % + 1 digit\n2 V, 1 mV: 0.5 % + 1 digit\n20 V, 10 mV: 0.5 % + 1 digit"


@pytest.mark.parametrize(
    ("page", "lines"),
    [
        ("DC Voltage\nRange Resolution Accuracy\n200 mV 0.1 mV ±0.5%+1\n2 V 1 mV ±0.5%+1\n20 V 10 mV ±0.5%+1", DIGITS),
        ("DC volts\nRanges: 200 mV, 2 V, 20 V\nResolution: 0.1 mV, 1 mV, 10 mV\nAccuracy: ±0.5 % + 1 digit", DIGITS),
        ("DC volts: 200 mV, 2 V, 20 V ±(0.5% + 1 digit), 2000 counts", DIGITS),
        ("Measurement function: DCV (1 year)\n200 mV 0.1 mV 0.5 % + 1 dgt (1 year)\n2 V 1 mV 0.5 % + 1 dgt\n20 V 10 mV 0.5 % + 1",
         DIGITS),
        ("AC volts 45 Hz - 1 kHz\n2 V 1 mV 1% + 5\n200 V 0.1 V 1% + 5",
         "V a.c.\n45 Hz to 1 kHz, 2 V, 1 mV: 1 % + 5 digits\n45 Hz to 1 kHz, 200 V, 0.1 V: 1 % + 5 digits"),
        ("AC current (45-400 Hz): 2 mA 1 uA 1.5% + 3", "A a.c.\n45 Hz to 400 Hz, 2 mA, 1 uA: 1.5 % + 3 digits"),
        ("Resistance: 0.1 % rdg + 0.01 % range, ranges 100, 1k, 1M",
         "ohm\n100: 0.1 % + 0.01 % of range\n1k: 0.1 % + 0.01 % of range\n1M: 0.1 % + 0.01 % of range"),
        ("DC voltage (% of reading + % of range)\n0.1 V 0.0050 + 0.0035\n1 V: 0.0040 + 0.0007",
         "V d.c.\n0.1 V: 0.005 % + 0.0035 % of range\n1 V: 0.004 % + 0.0007 % of range"),
        ("DC volts (ppm of output + ppm of range)\n10 V 12 + 3", "V d.c.\n10 V: 12 ppm + 3 ppm of range"),
        ("DC volts (% of reading + % of range)\n1 V 0.004 + 0.0007\nOhms, 2000 counts\n200 0.5 % + 2",
         "V d.c.\n1 V: 0.004 % + 0.0007 % of range\nohm\n200, 0.1: 0.5 % + 2 digits"),
        ("calibrator dcv 0-10 V 0.01% + 20 uV", "V d.c.\nto 10 V: 0.01 % + 20 uV"),
        ("decade resistor up to 10k 0.1 %\ncapacitor 1 nF 0.5 %", "ohm\nto 10k: 0.1 %\nF\n1 nF: 0.5 %"),
        ("DC current 2 mA, 1 uA: 0.8 % + 1 dgt; 10 A, 10 mA: 1.5 % + 3 dgt",
         "A d.c.\n2 mA, 1 uA: 0.8 % + 1 digit\n10 A, 10 mA: 1.5 % + 3 digits"),
    ],
)  # fmt: skip
def test_a_page_says_what_lines_say(page, lines):
    assert read_functions(page) == read_functions(lines)
    assert pasted(page, by_certificate=False) == rows_of(read_functions(lines))  # in the table it is the same


@pytest.mark.parametrize(
    ("page", "says"),
    [
        ("DC current\n2 mA to 200 mA: 0.8% + 1 dgt", "Line 2: .*a line holds from zero to its end.*write to 200 mA"),
        ("Frequency\n10 Hz to 1 MHz 5 ppm", "Line 2: .*holds from zero"),
        ("dcv\n10 V: 0.0035 + 0.0005", "Line 2: .*how much is a digit"),
        ("DC volts (% of reading + % of range)\n1 V 0.004 + 0.0007\nOhms\n100 0.5 + 2", "Line 4: "),
        ("dcv 0.5 % + 2 digits", "Line 1: Candor cannot"),
        ("DC volts\nRanges: 2 V, 20 V", "Line 2: Candor cannot read “ranges 2 V, 20 V”"),
        ("DC volts\n\n2 V 1 mV 0.5 % + 1\nbanana", "Line 4: "), ("DC volts\n2 V 1 mV 0.5 % + 1; 20 V rot", "Line 2: "),
    ],
)  # fmt: skip
def test_what_cannot_be_told_is_refused_with_its_line(page, says):
    with pytest.raises(CandorError, match=says):
        read_functions(page)


@given(
    st.lists(
        st.sampled_from(["DC volts", "AC volts 45 Hz - 1 kHz", "2 V", "1 mV", "0.5 %", "±(", ")", "+", "3", "digits", ",", ";",
                         ":", "ranges", "Accuracy:", "Resolution:", "Range", "ohm", "to", "0-10 V", "ppm", "4000 counts",
                         "(1 year)", "\n"]),
        max_size=14,
    ).map(" ".join)
)  # fmt: skip
def test_any_page_is_read_or_refused_with_a_sentence_and_what_is_read_is_written_back(page):
    try:
        read = read_functions(page)
    except CandorError as error:
        assert str(error)
    else:
        assert read_functions(write_functions(read)) == read
