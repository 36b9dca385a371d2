"""CSV readings, photos and the lines of a standard: understood before written, and read back as written."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from candor.notebook.csv_readings import preview_csv

GOOD = "point,reading,reference\ndc+/150/75,72.6,75.012\ndc-/150/75,-74.3 V,-75.1\n"


def preview(text: str | bytes, pack):
    return preview_csv(text.encode() if isinstance(text, str) else text, pack, "as found", "std")


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
        ("dc+/150/76,72.6,75", "line 3: “dc+/150/76” is not a test point"),
        ("dc+/150/75,6.72X,75", "line 3: “6.72X”: “X” is neither a prefix nor a unit"),
        ("dc+/150/75,,75", "line 3: Nothing was entered"),
        ("dc+/150/75,200,75", "line 3: 200 V is past the stop"),
        ("dc+/150/75,72.6 mA,75", "line 3: “72.6 mA” is a current"),
        ("dc+/150/75,72.6,-75", "line 3: −75 V is negative"),
        ("dc+/150/75,72.6", "line 3: Nothing was entered"),
        ("dc+/150/75,72,6,75,012", "line 3: 5 cells, expected 3: “75” has no column. Is a comma"),
        ("dc+/150/75,7.26,75", "line 3: The reading is 7.26 V at a point of 75 V; has a comma or a prefix slipped?"),
        ("dc+/150/75,72.6,7.5", "line 3: The reference is 7.5 V at a point of 75 V"),
    ],
)
def test_one_bad_line_and_nothing_is_taken_in(pack, line, words):
    found = preview(f"point,reading,reference\ndc+/150/30,30,30\n{line}\ndc+/150/150,150,150\n", pack)
    assert found.readings == ()
    assert [f for f in found.faults if f.startswith(words)], found.faults
    assert len(found.lines) == 3


def test_a_slip_of_a_thousand_is_refused_by_its_line(pack):
    """In a tab file the comma is the decimal point: 1,498 at 1500 V is no reading but a thousand written with a comma."""
    found = preview("point\treading\treference\ndc+/1500/1500\t1,498\t1500.2\n", pack)
    assert found.faults == ("line 2: The reading is 1.498 V at a point of 1.5 kV; has a comma or a prefix slipped?",)
    assert preview("point,reading,reading,reference\n", pack).fault.startswith(
        "line 1: the column “reading” is named twice"
    )


def test_a_missing_column_and_an_empty_file(pack):
    assert (
        preview("point,value\na,1\n", pack)
        .faults[0]
        .startswith(
            "line 1: the column “reading”, “reference” is missing; expected point, reading, reference; found point, value."
        )
    )
    assert preview("", pack).faults
    assert preview("point,reading,reference\n", pack).faults == ("There is no reading in the file.",)


def test_directions_and_phases_of_a_line(pack):
    head = "point,reading,reference,direction,phase\n"
    found = preview(head + "dc+/150/75,72.6,75,down,as left\n", pack)
    assert (found.readings[0].phase, found.readings[0].direction) == ("as left", "down")
    assert "not a direction; expected up or down" in preview(head + "dc+/150/75,72.6,75,left,\n", pack).faults[0]
    assert "not a phase" in preview(head + "dc+/150/75,72.6,75,,later\n", pack).faults[0]


@given(st.binary(max_size=200))
def test_no_file_crashes_the_preview(content):
    from candor.packs.bundled import bundled_packs

    assert preview(content, next(p for p in bundled_packs() if p.procedure)).faults
