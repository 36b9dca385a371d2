"""What a line says of how a range is read: taken for that, or asked about."""

import pytest

from candor.core.errors import CandorError
from candor.core.jot.range_fields import fields_of, range_line
from candor.core.jot.range_line import understand_range
from candor.core.jot.range_series import series


@pytest.mark.parametrize(
    ("text", "sentence"),
    [
        ("ohms 10 ohm centre", "At which end of the ohms arc does zero stand"),
        ("AC 3 V square law 5 div", "Where does the square law end"),
        ("leak 1 mA marks 0 1 2 5 10 5 div", "Where do the marks stand"),
        ("leak 1 mA marks 0@0 0.1@8 0.2 0.5@40 1@90 5 div", "A mark has no place"),
        ("level +2..-20 dB", "the lower first was expected"),
        ("R 5 V 50 div mid-scale", "is not clear"),
        ("volts 30 V 30 div 3% of arc 2%fs", "two ways that do not add up"),
        ("volts 30 V 30 div factor 1", "above 1"),
        ("vertical 0.5 V/div 8 div edges 3", "Expected a part of one"),
        ("vertical 0.5 V/div 100 div", "A screen of 100 divisions"),
        ("volts 30 V 30 div at least 3 ohm", "not in the unit of the range"),
    ],
)
def test_what_is_said_by_halves_is_asked_about(text, sentence):
    with pytest.raises(CandorError, match=sentence):
        understand_range(text)


@pytest.mark.parametrize(
    ("text", "unit", "end"),
    [
        ("volts marks 0@0 1@20 2@40 5@60 10@90 V 5 div 3%", "V", 10.0),
        ("volts marks 0@0 1k@20 2k@40 5k@60 10k@90 V 5 div 3%", "V", 10e3),
        ("current 2 mA marks 0@0 2@20 4@40 6@60 10@90 5 div 3%", "A", 2e-3),
        ("bias marks 0@0 1@20 2@40 5@60 10@90 5 div 3%", "1", 10.0),
        ("quality 0..100 40 div 3%", "1", 100.0),
    ],
)
def test_the_unit_behind_marks_is_theirs_and_they_say_where_the_range_ends(text, unit, end):
    jot = understand_range(text)
    assert (jot.unit, jot.full_scale, max(jot.how.marks or (end,))) == (unit, pytest.approx(end), pytest.approx(end))


def test_an_ohms_arc_by_its_marks_is_in_ohms():
    jot = understand_range("ohms marks 0@0 5@33.3 10@50 20@66.7 50@83.3 inf@100 ohm 5 div 3% of arc")
    assert (jot.unit, jot.how.marks[2]) == ("ohm", 10.0)
    assert jot.full_scale == pytest.approx(10.0, rel=0.01)


@pytest.mark.parametrize(
    "text",
    [
        "ohms marks 0@0 1@20 2@40 5@60 inf@90 5 div",
        "DC volts 0..100 40 div 3%",
        "volts 0..10 10 div dial at its mark",
    ],
)
def test_numbers_of_volts_without_a_unit_are_no_ratio(text):
    with pytest.raises(CandorError, match="In which unit are the numbers"):
        understand_range(text)


@pytest.mark.parametrize(
    ("written", "plain"),
    [
        ("0-30 V 30 div 3%", "0..30 V 30 div 3%"),
        ("DC volts 2-1/2 V 50 div 3 per cent", "DC volts 2.5 V 50 div 3%"),
        ("1/2 A 50 div 3%", "0.5 A 50 div 3%"),
        ("300 mA f.s. 60 div 3 % fs", "300 mA 60 div 3%fs"),
        ("300 mA full scale, 60 div", "300 mA 60 div"),
        ("capacity 100 pF to 1 nF 40 div dial at a null 5%", "capacity 0.1..1 nF 40 div dial at a null 5%"),
        ("capacity 10 mmf - 400 mmf 39 div dial at a null 5%", "capacity 10..400 mmf 39 div dial at a null 5%"),
        ("Ohms R x 1k 10 k ohm centre zero right 5 div", 'Ohms called "R×1k" 10 kohm centre zero right 5 div'),
        ("R×10 100 ohm centre zero left 5 div", 'called "R×10" 100 ohm centre zero left 5 div'),
    ],
)
def test_a_range_as_people_write_it_is_the_range_that_is_meant(written, plain):
    assert understand_range(written) == understand_range(plain)


@pytest.mark.parametrize("text", ["3/10 V 30 div", "30-10 V 30 div", "volts 30 V 30 div 3 1/2 digits"])
def test_what_may_mean_two_things_is_not_rewritten(text):
    with pytest.raises(CandorError, match="does not understand"):
        understand_range(text)


def test_a_dip_meter_is_not_read_at_a_null_for_its_name():
    assert understand_range("dip 1 mA 50 div").how.kind == "needle"
    assert understand_range("source 1 mA 50 div").how.kind == "needle"
    assert understand_range("null 10 mV 50 div").function == "null"
    assert understand_range("gain factor 3 V 30 div").function == "gain factor"


def test_a_series_goes_on_as_it_began_and_comes_to_its_end():
    assert series("1.5 5 15 ... 1500") == (1.5, 5, 15, 50, 150, 500, 1500)
    assert series("1 3 10 … 1000") == (1, 3, 10, 30, 100, 300, 1000)
    assert series("2.5, 10, 50") == (2.5, 10, 50)
    jot = understand_range("DC volts 1.5 5 15 ... 150 V 30 div 3%fs usual points")
    assert [r.full_scale for r in (jot, *jot.beside)] == [1.5, 5, 15, 50, 150]
    assert [len(r.points) for r in (jot, *jot.beside)] == [5, 3, 3, 3, 3]
    with pytest.raises(CandorError, match="does not come to 700"):
        series("1.5 5 15 ... 700")
    with pytest.raises(CandorError, match="do not rise"):
        series("15 5 1.5")


@pytest.mark.parametrize(
    ("line", "end"),
    [
        ("power factor 0..50 % 50 div dial at a null 5% of reading", 0.5),
        ("modulation 0 to 100% 50 div 3%fs usual points", 1.0),
        ("loss 0..5 % 50 div 5%fs", 0.05),
    ],
)
def test_a_scale_in_per_cent_ends_in_per_cent(line, end):
    """A dial numbered 0 to 50 %: the value is a share, its numbers are per cent, and its fields say it again."""
    jot = understand_range(line)
    assert (jot.unit, jot.full_scale, jot.name) == ("1", end, f"{100 * end:g} %")
    way, said, limit = fields_of(jot)
    again = understand_range(range_line(way, jot.function, said, limit, jot.limit.by))
    assert (again.full_scale, again.name, again.how, again.limit) == (jot.full_scale, jot.name, jot.how, jot.limit)
    of_volts = understand_range("volts 0..50 V 50 div 3% of reading")
    assert (of_volts.unit, of_volts.limit.percent_of_reading) == ("V", 3)  # a limit is no end
