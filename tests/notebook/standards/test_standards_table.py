"""Rows of a handbook's table and the lines of text are one thing; what is pasted is read as it stands in a spreadsheet."""

import pytest

from candor.notebook.entries.standards_entries import StandardRecorded
from candor.notebook.standards.standards import to_references
from candor.notebook.standards.standards_table import faults_of, is_by_certificate, lines_of_rows, pasted, rows_of
from candor.notebook.standards.standards_text import read_functions
from candor.notebook.standards.usual_classes import USUAL_CLASSES

BY_CERTIFICATE = (
    "V d.c.\nat 10 V: correction 0.2 mV U 0.4 mV k 2\nat 100 V: U 3m\nV a.c., rms responding\nat 1 V, 1 kHz: U 1m"
)


@pytest.mark.parametrize("text", [*(c.lines for c in USUAL_CLASSES), BY_CERTIFICATE], ids=lambda text: text[:12])
def test_rows_say_what_the_lines_say(text):
    functions = read_functions(text)
    kind = is_by_certificate(functions)
    rows = rows_of(functions)
    again = read_functions(lines_of_rows(rows, kind))
    for old, new in zip(functions, again, strict=True):
        assert old.model_dump(exclude={"ranges", "points"}) == new.model_dump(exclude={"ranges", "points"})
        for one, other in zip((*old.ranges, *old.points), (*new.ranges, *new.points), strict=True):
            assert one.model_dump() == pytest.approx(other.model_dump(), rel=1e-6)
    assert faults_of(rows, kind) == {}


@pytest.mark.parametrize(
    "text",
    [
        "Function\tRange\tResolution\tAccuracy\nV d.c.\t6 V\t1 mV\t0.5 % + 2 digits\nV d.c.\t60 V\t10 mV\t±(0.5% + 2)",
        "V d.c.\t6 V\t1 mV\t0.5\t2\n\t60 V\t10 mV\t0.5 %\t2",
        "range;resolution;% rdg;digits;function\n6 V;1 mV;0.5;2;V d.c.\n60 V;10 mV;0.5;2;",
        "V d.c.\n6 V, 1 mV: 0.5 % + 2 digits\n60.00 V: 0.5 % + 2 digits",
        "V d.c.   6 V   1 mV   0.5   2\nV d.c.   60 V   10 mV   0.5   2",
    ],
)
def test_what_is_pasted_is_read_whatever_it_was_copied_from(text):
    rows = pasted(text, by_certificate=False)
    (volts,) = read_functions(lines_of_rows(rows, by_certificate=False))
    assert (volts.unit, volts.current) == ("V", "d.c.")
    assert [(r.upper, r.percent_of_reading, r.counts) for r in volts.ranges] == [(6, 0.5, 2), (60, 0.5, 2)]
    assert [r.resolution for r in volts.ranges] == pytest.approx([1e-3, 1e-2])


def test_good_rows_are_kept_and_bad_ones_say_which_cell_is_wrong():
    keys = ("range", "digit", "reading", "digits")
    rows = pasted("6 V\t1 mV\t0.5\t2\n60 V\t10 mV\tx\t2\n600 V\t\t0.8\t3\n\t1 mV\t1\t\n6 V\t1 mV\t\t", False, keys)
    faults = faults_of(rows, by_certificate=False)
    assert {row: column for row, (column, _) in faults.items()} == {
        1: "reading",
        2: "digit",
        3: "range",
        4: "reading",
    }
    assert faults[1][1] == "“x %” is not understood. Example: 0.5"
    assert "how much is a digit" in faults[2][1]


def test_usual_classes_are_as_wide_as_their_digits_and_never_narrower_than_a_better_class():
    """Half-widths of the three meters at 10 V d.c. and 10 kohm fall by class."""
    meters = [
        to_references(StandardRecorded(key="m", name=c.name, functions=read_functions(c.lines)))
        for c in USUAL_CLASSES[:3]
    ]
    for unit, value in (("V", 10.0), ("ohm", 1e4)):
        widths = []
        for functions in meters:
            served = next(f for f in functions if f.unit == unit)
            widths.append(min(line.half_width(value) for line in served.ranges if line.upper >= value))
        assert widths[0] > 3 * widths[1] > 9 * widths[2]
