"""Reading and showing values: what is refused is refused with a sentence; what is shown can be read back."""

import datetime as dt

import pytest
from hypothesis import given
from hypothesis import strategies as st

from candor.core.errors import CandorError, DateError, UnitError, ValueTextError
from candor.core.quantities import engineering, pair, parse_date, parse_number, parse_quantity, plain, signed
from candor.core.quantities.show import countdown, decimals, round_down, round_up, showing_old, trimmed, unparted


@pytest.mark.parametrize(
    ("text", "unit", "words"),
    [
        ("6.72X", "V", "“6.72X”: “X” is neither a prefix nor a unit. Expected: a voltage such as 72.6 V."),
        ("", "V", "Nothing was entered. Expected: a voltage such as 72.6 V."),
        ("   ", "ohm", "Nothing was entered. Expected: a resistance"),
        ("volts", "V", "“volts” does not begin with a number"),
        ("1/0", "V", "divides by zero"),
        ("1,500", "V", "could mean thousands or decimals"),
        ("1e999", "V", "too large"),
        ("9e305M", "ohm", "too large"),
        ("4k7k", "ohm", "neither a prefix nor a unit"),
    ],
)
def test_bad_values_are_answered_with_a_sentence(text, unit, words):
    with pytest.raises(ValueTextError) as caught:
        parse_quantity(text, unit)
    assert words in str(caught.value)
    assert caught.value.value == text


@pytest.mark.parametrize(
    ("text", "kind"), [("72.6 mA", "current"), ("10 mfd", "capacitance"), ("50 cps", "frequency")]
)
def test_a_wrong_unit_says_what_it_is_and_what_was_expected(text, kind):
    with pytest.raises(UnitError, match=f"is a {kind}; this place expects a voltage in V"):
        parse_quantity(text, "V")


@given(st.floats(min_value=-9.9e5, max_value=9.9e5, allow_nan=False).filter(lambda x: x == 0 or abs(x) > 1e-9))
def test_what_is_shown_in_engineering_notation_reads_back(value):
    assert parse_quantity(engineering(value, "V", 9), "V").value == pytest.approx(value, rel=1e-7, abs=1e-15)


@given(st.text(max_size=20))
def test_no_text_crashes_the_reader(text):
    """Either a finite number or a sentence."""
    try:
        found = parse_quantity(text, "V")
    except CandorError as error:
        assert str(error)
    else:
        assert abs(found.value) < float("inf")


@given(st.integers(0, 99), st.integers(0, 9), st.sampled_from("kMR"))
def test_a_letter_stands_for_the_point(whole, part, letter):
    factor = {"k": 1e3, "M": 1e6, "R": 1.0}[letter]
    expected = float(f"{whole}.{part}") * factor
    assert parse_quantity(f"{whole}{letter}{part}", "ohm").value == pytest.approx(expected, rel=1e-12)


def test_bare_numbers():
    assert parse_number("2 1/2") == 2.5
    assert parse_number("-¼") == -0.25
    assert parse_number("45,5") == 45.5
    with pytest.raises(ValueTextError, match="“x” is not part of a number"):
        parse_number("12x")


def test_dates():
    today = dt.date(2026, 6, 15)
    assert parse_date("2026-06-15", today) == today
    with pytest.raises(
        DateError, match="2027-01-01 is in the future: the last check cannot be after today, 2026-06-15"
    ):
        parse_date("2027-01-01", today, "the last check")
    with pytest.raises(DateError, match="year-month-day"):
        parse_date("31.3.26", today)


def test_rounding_follows_the_uncertainty():
    assert pair(-1.24, 0.953, "V") == "−1.24 ± 0.95 V"
    assert pair(0.0, 0.0312, "V") == "0.000 ± 0.031 V"
    assert pair(12.3, 0.0, "V") == "+12.300 ± 0.000 V"
    assert [decimals(u) for u in (0.0996, 0.0994, 12.0, 150.0, 0.0, float("nan"))] == [2, 3, 0, 0, 3, 3]


def test_zero_has_no_sign_and_minus_is_a_minus():
    assert (plain(-0.0001, 2), signed(0.0, 1), signed(1.0, 0), signed(-1.0, 0)) == ("0.00", "0.0", "+1", "−1")
    assert (engineering(-0.047, "V"), engineering(float("inf"), "V"), engineering(10e-6, "F")) == (
        "−47 mV",
        "∞",
        "10 µF",
    )
    assert (trimmed(75.0), trimmed(75.004, 7), trimmed(1500000.0)) == ("75", "75.004", "1500000")


@given(st.floats(-9, 9), st.integers(1, 6))
def test_no_digit_is_lost_however_small_or_large(exponent, digits):
    value = 1.23456 * 10**exponent
    assert float(trimmed(value, digits)) == pytest.approx(value, rel=10.0 ** (1 - digits))
    assert "e" not in trimmed(value, digits)


def test_rounding_to_the_safe_side():
    assert (round_down(0.1999), round_up(0.1911), round_up(0.19), round_down(0.0)) == (0.19, 0.20, 0.19, 0.0)


@pytest.mark.parametrize(
    ("text", "unit", "value"),
    [
        ("0,047 uF", "F", 0.047e-6), ("3 henries", "H", 3), ("1.5 Henry", "H", 1.5), ("12 hy", "H", 12), ("130 Volts", "V", 130),
        ("130 VDC", "V", 130), ("6.3 VAC", "V", 6.3), ("8 mfd.", "F", 8e-6), ("4 ufd", "F", 4e-6), ("0.5 Mfd.", "F", 0.5e-6),
        ("200 uufd", "F", 200e-12), ("7 minutes", "s", 420), ("2 hrs", "s", 7200), ("5m", "s", 300), ("1.5h", "s", 5400),
        ("90 secs", "s", 90), ("2-1/2", "V", 2.5), ("-2-1/2", "V", -2.5), ("3\u215c", "V", 3.375), ("\u215d", "A", 0.625),
        ("\u215e W", "W", 0.875), ("400 c/s", "Hz", 400), ("2 kc/s", "Hz", 2e3), ("50 ppm", "1", 50e-6), ("2200 OHMS", "ohm", 2200),
        ("40 Amps", "A", 40), ("800 umho", "S", 800e-6), ("3 KC", "Hz", 3e3),
    ],
)  # fmt: skip
def test_what_people_write(text, unit, value):
    """Common practice, no source."""
    assert parse_quantity(text, unit).value == pytest.approx(value, rel=1e-12)


@pytest.mark.parametrize(
    ("text", "unit", "value", "note"),
    [
        ("12 MA", "A", 0.012, "M read as milli"),
        ("450 MV", "V", 0.45, "M read as milli"),
        ("2.5 MH", "H", 2.5e-3, "M read as milli"),
        ("12M", "A", 0.012, "M read as milli"),
        ("3.3M", "ohm", 3.3e6, ""),
        ("2 MHz", "Hz", 2e6, ""),
        ("12 mA", "A", 0.012, ""),
        (".05", "F", 0.05e-6, "without a unit, read as µF"),
        (".05 mfd", "F", 0.05e-6, ""),
    ],
)
def test_what_is_taken_for_granted_is_noted(text, unit, value, note):
    """Old prints write milli in capitals; a capacitor below 1 without a unit is in µF. Common practice, no source."""
    found = parse_quantity(text, unit)
    assert (found.value, found.note) == (pytest.approx(value, rel=1e-12), note)


@pytest.mark.parametrize("text", ["500", "20", "7.5", "1"])
def test_a_capacitance_without_a_unit_is_a_question(text):
    with pytest.raises(ValueTextError, match=rf"“{text}” of what\? Write the unit: {text}p, {text}n or {text}u"):
        parse_quantity(text, "F")


@pytest.mark.parametrize("text", ["1" * 300, "1/" + "3" * 300, "9" * 80 + "/2", "0." + "0" * 90 + "1"])
def test_a_number_nobody_read_is_refused(text):
    with pytest.raises(ValueTextError, match="characters long"):
        parse_quantity(text, "V")


@pytest.mark.parametrize(
    ("seconds", "words"),
    [(0, "0:00"), (1745, "29:05"), (7199, "119:59"), (7200, "2 h"), (18001, "6 h"), (47 * 3600, "47 h"), (259200, "3 d"),
     (259201, "4 d")],
)  # fmt: skip
def test_what_is_left_of_a_wait_reads_at_a_glance(seconds, words):
    assert countdown(seconds) == words


@pytest.mark.parametrize(
    ("text", "kept"),
    [
        ("error −1.25 V, U 0.95 V", ("−1.25 V", "0.95 V")), ("+4.7 ± 1.3 V of 15 mA", ("+4.7 ± 1.3 V", "15 mA")),
        ("k = 1.65 here", ("k = 1.65",)),
        ("45 % at 23 °C for 30 min", ("45 %", "23 °C", "30 min")), ("entry 212 Vera wrote", ()), ("13 pass, 1 undecided", ()),
    ],
)  # fmt: skip
def test_a_number_is_never_parted_from_its_unit(text, kept):
    found = unparted(text)
    assert found.replace("\u00a0", " ") == text
    for both in kept:
        assert both.replace(" ", "\u00a0") in found
    assert kept or "\u00a0" not in found


@pytest.mark.parametrize("value", [1.14e-40, -3e-18, 1e-12, 0.0, 7e14, 1e15, 1.2e25, 1e300, 5e-324])
def test_no_number_has_more_zeros_than_can_be_counted(value):
    """Whatever is measured, it reads at a glance, and is read back as the same."""
    for text in (trimmed(value, 3), plain(value, 3), plain(value, 60)):
        assert len(text) < 25, text
    assert float(trimmed(value, 4).replace("−", "-")) == pytest.approx(value, rel=1e-3)


def test_who_works_in_old_units_is_shown_them_and_they_are_read_back():
    """umho and mmf as charts and drawings of the trade have them; what is calculated is the SI's (common practice, no source)."""
    assert (engineering(3e-3, "S"), engineering(500e-12, "F")) == ("3 mS", "500 pF")
    with showing_old(("umho", "mmf")):
        shown = {engineering(3e-3, "S"): 3e-3, engineering(12e-6, "S"): 12e-6, engineering(500e-12, "F"): 500e-12}
        assert list(shown) == ["3000 µmho", "12 µmho", "500 mmf"]
        assert (engineering(4.7e-9, "F"), engineering(10e-6, "F"), engineering(3.0, "V")) == (
            "4.7 nF",
            "10 µF",
            "3 V",
        )
        assert pair(2.9e-3, 0.1e-3, "S") == "+2900 ± 100 µmho"
        assert "\u00a0µmho" in unparted("at 3000 µmho")
        for text, value in shown.items():
            assert parse_quantity(text, "S" if "mho" in text else "F").value == pytest.approx(value)
    assert engineering(3e-3, "S") == "3 mS"
