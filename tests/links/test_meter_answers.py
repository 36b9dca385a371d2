"""What an instrument answers is one whole number of the unit expected, or no reading: never the number it begins with."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from candor.links.link_errors import LinkError, NoReadingError, NotANumberError, OverloadError
from candor.links.meter_answers import AnswerForm, read_address, read_answer


@pytest.mark.parametrize(
    ("answer", "unit", "value"),
    [
        ("+1.2345E+02", "V", 123.45), (" 12.5 ", "V", 12.5), ("-.5", "V", -0.5), ("230 mV", "V", 0.23), ("230mV", "V", 0.23),
        ("12.5 VDC", "V", 12.5), ("12.5 V DC", "V", 12.5), ("3.3 kV", "V", 3300.0), ("4.7 Mohm", "ohm", 4.7e6),
        ("4.7 MOHM", "ohm", 4.7e6), ("10 MHz", "Hz", 1e7), ("850 uA", "A", 850e-6), ("850 µA", "A", 850e-6), ("31 W", "W", 31.0),
        ("2.2E+1 V", "V", 22.0), ("7", "", 7.0), ("-8.4 mV", "", -0.0084),
    ],
)  # fmt: skip
def test_a_whole_number_with_or_without_its_unit_is_a_reading(answer, unit, value):
    assert read_answer(answer, unit) == pytest.approx(value, rel=1e-15)


@pytest.mark.parametrize(
    "answer",
    ["0L", "OL", "-OL", "O.L", ".OL", "0 OVERLOAD", "+1.2E+1,OVLD", "OVER RANGE", "overload", "OL V", "9.9E37", "+9.90000000E+37",
     "-9.9E37", "1E38", "inf", "-INFINITY", "Overflow", "OVR.", "12.1;OVRNG"],
)  # fmt: skip
def test_what_says_that_it_is_over_its_range_is_overload_and_no_number(answer):
    with pytest.raises(OverloadError, match="Overload"):
        read_answer(answer, "V")


@pytest.mark.parametrize(
    "answer",
    ["1,234.5", '-113,"Undefined header"', "12:34:56", "12 34", "1.2.3", "", "nan", "hello", "0x10", "12V3", "+", "1e", "12 A",
     "5 parsecs", "9.5E37", "9.91E37", "-9.91E+37", "230 MV", "4.7 mohm", "10 mHz", "12,0", "1.0,2.0", "10L"],
)  # fmt: skip
def test_all_else_is_no_reading_and_says_what_came(answer):
    with pytest.raises(NoReadingError) as told:
        read_answer(answer, "V")
    assert not isinstance(told.value, OverloadError)
    assert answer.strip()[:40] in str(told.value)
    assert isinstance(told.value, NotANumberError) == ("9.91E" in answer or answer == "nan")


@given(st.text(max_size=20))
def test_no_text_is_taken_by_what_it_begins_with(text):
    """Whatever is answered: a number only where the whole of it is one."""
    try:
        value = read_answer(text)
    except LinkError:
        return
    assert math.isfinite(value)
    assert any(c.isdigit() for c in text)
    assert not set(text) & set(",;:\"'")


@given(st.floats(min_value=-1e29, max_value=1e29, allow_nan=False))
def test_every_number_comes_back(value):
    assert read_answer(f"{value:+.16E}") == value


@pytest.mark.parametrize(
    ("address", "answer", "value"),
    [
        ("X; field 2", "1,12.5,3", 12.5),
        ('X; prefix "NDCV"', "NDCV+12.5E+0", 12.5),
        ("X; prefix “V=”; suffix “/Q”", "V=12.5/Q", 12.5),
        ("X; field 1", "+1.25E+1VDC,+12.3SECS,+00001RDNG#", 12.5),
        ("X; ask MEAS:VOLT?; suffix , 0", "12.5, 0", 12.5),
    ],
)
def test_a_standard_may_state_the_form_of_its_answer(address, answer, value):
    found = read_address(address)
    assert found.resource == "X"
    assert found.ask == ("MEAS:VOLT?" if "ask" in address else "")
    assert read_answer(answer, "V", found.form) == value


@pytest.mark.parametrize(
    ("form", "answer"),
    [
        (AnswerForm(field=3), "1,2"),
        (AnswerForm(prefix="V"), "12"),
        (AnswerForm(prefix="1", suffix="1"), "1"),
        (AnswerForm(field=2), "1,x"),
    ],
)
def test_a_form_that_does_not_fit_is_no_reading(form, answer):
    with pytest.raises(NoReadingError, match="No reading"):
        read_answer(answer, "V", form)


@pytest.mark.parametrize("text", ["X; feld 2", "X; field two", "X; 2"])
def test_an_address_that_cannot_be_read_is_said(text):
    with pytest.raises(LinkError, match="Example"):
        read_address(text)
