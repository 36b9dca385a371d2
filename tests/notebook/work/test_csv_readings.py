"""CSV readings, photos and the lines of a standard: understood before written, and read back as written."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from candor.notebook.entries.entry import Entry
from candor.notebook.entries.ranges_entries import RangeMade, RangesRecord
from candor.notebook.work.csv_readings import preview_csv
from candor.notebook.work.description import described
from candor.notebook.work.job import Job
from candor.packs.bundled import bundled_pack
from workbench import NOW

GOOD = "point,reading,reference\ndc+/150/75,72.6,75.012\ndc-/150/75,-74.3 V,-75.1\n"


def preview(text: str | bytes, pack):
    return preview_csv(text.encode() if isinstance(text, str) else text, pack, "as found", lambda _: ("std", None))


def test_a_good_file_is_understood_line_by_line(pack):
    found = preview(GOOD, pack)
    assert found.faults == ()
    assert found.lines[0].understood == "DC volts +, 150 V range at 75 V, as found: needle 72.6 V, reference 75.012 V"
    assert [(r.point, r.indicated, r.reference, r.means) for r in found.readings] == [
        ("dc+/150/75", 72.6, 75.012, "csv"),
        ("dc-/150/75", 74.3, 75.1, "csv"),
    ]
    assert found.readings[0].step == "plus:as-found:dc+/150/75"


@pytest.mark.parametrize(
    "content",
    [
        "Reference;Point;Reading;Direction\n75,012;dc+/150/75;72,6;up\n".encode("latin-1"),
        "\ufeffpoint\treading\treference\tdirection\ndc+/150/75\t72.6\t75.012\tfrom below\n".encode(),
        b"\npoint,reading,reference,direction\n\ndc+/150/75, 72.6 , 75.012 ,up\n\n",
    ],
)
def test_other_hands_at_csv(pack, content):
    """Semicolons and decimal commas, tabs, a byte order mark, blank lines, columns in another order."""
    found = preview(content, pack)
    assert found.faults == ()
    assert (found.readings[0].indicated, found.readings[0].reference, found.readings[0].direction) == (
        72.6,
        75.012,
        "up",
    )


@pytest.mark.parametrize(
    ("line", "words"),
    [
        ("dc+/150/76,72.6,75", "line 3: Tarnholm VM-6 has no test point “dc+/150/76”"),
        ("dc+/150/75,6.72X,75", "line 3: “6.72X”: “X” is neither a prefix nor a unit"),
        ("dc+/150/75,,75", "line 3: Nothing was entered"),
        ("dc+/150/75,200,75", "line 3: 200 V is off the scale"),
        ("dc+/150/75,72.6 mA,75", "line 3: “72.6 mA” is a current"),
        ("dc+/150/75,72.6,-75", "line 3: −75 V is negative"),
        ("dc+/150/75,72.6", "line 3: Nothing was entered"),
        ("dc+/150/75,72,6,75,012", "line 3: 5 cells, expected 3: “75” has no column. Is one of the commas"),
        (
            "dc+/150/75,7.26,75",
            "line 3: The reading is 7.26 V at a point of 75 V; has a decimal point or a prefix slipped?",
        ),
        ("dc+/150/75,72.6,7.5", "line 3: The reference is 7.5 V at a point of 75 V"),
    ],
)
def test_one_bad_line_and_nothing_is_taken_in(pack, line, words):
    found = preview(f"point,reading,reference\ndc+/150/30,30,30\n{line}\ndc+/150/150,150,150\n", pack)
    assert found.readings == ()
    assert [f for f in found.faults if f.startswith(words)], found.faults
    assert len(found.lines) == 3


def test_a_slip_of_a_thousand_is_refused_by_its_line(pack):
    """In a tab file the comma is the decimal point: 1,498 at 1500 V is not a reading but a thousand written with a comma."""
    found = preview("point\treading\treference\ndc+/1500/1500\t1,498\t1500.2\n", pack)
    assert found.faults == (
        "line 2: The reading is 1.498 V at a point of 1.5 kV; has a decimal point or a prefix slipped?",
    )
    assert preview("point,reading,reading,reference\n", pack).fault.startswith(
        "line 1: the column “reading” is named twice"
    )


def test_a_missing_column_and_an_empty_file(pack):
    assert (
        preview("point,value\na,1\n", pack)
        .faults[0]
        .startswith(
            "line 1: the column “reading”, “reference” is missing. Expected: point, reading, reference; found point, value."
        )
    )
    assert preview("", pack).faults
    assert preview("point,reading,reference\n", pack).faults == ("There is no reading in the file.",)


def test_directions_and_phases_of_a_line(pack):
    head = "point,reading,reference,direction,phase\n"
    found = preview(head + "dc+/150/75,72.6,75,down,as left\n", pack)
    assert (found.readings[0].phase, found.readings[0].direction) == ("as left", "down")
    assert "not a direction. Expected: up or down" in preview(head + "dc+/150/75,72.6,75,left,\n", pack).faults[0]
    assert "not a phase" in preview(head + "dc+/150/75,72.6,75,,later\n", pack).faults[0]


@given(st.binary(max_size=200))
def test_no_file_crashes_the_preview(content):
    from candor.packs.bundled import bundled_packs

    assert preview(content, next(p for p in bundled_packs() if p.procedure)).faults


MADE = RangeMade(function="DC volts", unit="V", full_scale=30.0, divisions=30, percent_of_full_scale=3.0)


MILLI = RangeMade(function="Current", unit="A", full_scale=0.06, divisions=30, percent_of_full_scale=3.0)


def with_made(pack, made):
    entry = Entry(number=1, id="r", job="j", at=NOW, who="x", body=made)
    return described(Job("j", ranges=RangesRecord({(made.function_key, made.range_key): entry})), pack)


@pytest.fixture
def own(pack):
    return with_made(pack, MADE)


def test_a_bare_number_is_what_is_printed_as_on_the_bench(pack):
    """Of a 60 mA range 40 is 40 mA; 0.04 of another program's file is not taken for 40 µA, nor for 40 mA, unasked."""
    milli = with_made(pack, MILLI)
    head = "range,reading,reference\n"
    for line in ("60 mA,40,41", "60 mA,40 mA,41 mA", "60 mA,40,0.041 A", "60 mA,0.04 A,41"):
        (reading,) = preview(f"{head}{line}\n", milli).readings
        assert (reading.indicated, reading.reference) == (pytest.approx(0.04), pytest.approx(0.041)), line
    for line, says in (
        ("60 mA,0.04,0.041", "“0.04” is 40 µA by the numbers of the scale, and 40 mA in A. Write it with its unit."),
        ("60 mA,40,0.041", "says only where zero stands"),
        ("60 mA,40,33 mV over 820", "is made of two values, and its U is that of both"),
    ):
        found = preview(f"{head}{line}\n", milli)
        assert (found.readings, says in found.faults[0]) == ((), True), found.faults
    assert preview(f"{head}30 V,0.04,0.041\n", with_made(pack, MADE)).readings == ()  # a point that near zero is none


def test_a_table_by_range_makes_its_points_as_the_bench_does(own):
    found = preview(
        "range;reading;reference;direction\n30 V;10,2;10,03;up\n30V;10,1;10,03;down\n30 v;19,4;20,02;\n", own
    )
    assert found.faults == ()
    assert [(r.point, r.direction) for r in found.readings] == [
        ("dc-volts/30v/10", "up"), ("dc-volts/30v/10", "down"), ("dc-volts/30v/20", ""),
    ]  # fmt: skip
    assert found.readings[0].step == "own-dc-volts-30v:as-found:dc-volts/30v/10"
    assert (
        found.lines[0].understood
        == "DC volts, 30 V range at 10 V, as found: needle 10.2 V, reference 10.03 V, from below"
    )


@pytest.mark.parametrize(
    ("line", "sentence"),
    [
        ("40 V,10,10", "is not a range; there are DC volts"),
        ("150 V,10,10", "names several ranges; a column function tells them apart"),
        ("30 V,40,40", "off the scale"),
        ("30 V,0,0.001", "only where zero stands"),
        ("30 V,10,1", "has a decimal point or a prefix slipped"),
    ],
)
def test_a_line_that_fits_no_range_is_said_with_its_number(own, line, sentence):
    found = preview(f"range,reading,reference\n{line}\n", own)
    assert "line 2" in found.faults[0]
    assert sentence in found.faults[0]
    assert found.readings == ()


def test_points_of_a_packs_range_are_named(own):
    found = preview("range,function,reading,reference\n150 V,DC volts +,75,75\n", own)
    assert "are the pack's: name each in a column point" in found.faults[0]


def test_a_needle_that_is_read_without_a_reference_needs_none_in_a_file():
    """It was refused: the reference is 0 at a point of 0.0008."""
    pack = bundled_pack("corvane-da6")
    table = b"point\treading\treference\nnull/1khz/0.0008\t0.08 %\t\n"
    preview = preview_csv(table, pack, "as found", lambda _: ("", None))
    assert (preview.faults, [r.indicated for r in preview.readings]) == ((), [pytest.approx(0.0008)])
