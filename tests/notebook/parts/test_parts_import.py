"""Parts from tables and netlists."""

import csv
import io

import pytest

from candor.notebook.entries.entry import drafts_of
from candor.notebook.entries.stay_entries import JobOpened
from candor.notebook.parts.parts_import import preview_parts
from candor.notebook.parts.parts_list import list_parts
from candor.notebook.parts.stock import preview_stock, write_stock
from candor.notebook.work.job import fold
from candor.packs.bundled import bundled_packs
from candor.words.parts_words import say_verdict
from stockroom import film, supplied

SCOPE = next(p for p in bundled_packs() if p.id == "marrowby-os40")


@pytest.fixture
def scope(notebook):
    """Write entries of a job on the oscilloscope; returns a function that lists its parts."""
    notebook.write("s", JobOpened(maker="M", type="OS-40", serial="1", pack_digest=notebook.keep_pack(SCOPE)))

    def write(*bodies):
        if bodies:
            notebook.append(drafts_of("s", bodies))
        job = fold("s", notebook.entries_of("s"))
        return list_parts(job, SCOPE)

    return write


def test_a_table_in_latin_1_with_semicolons_and_decimal_commas():
    """What a spreadsheet on another continent writes."""
    content = "Part;Value;Make;Volts;Note\nC1;0,05 µF 10%;Paper;400;Kondensator für Gitter\nR2;4,7 k;;;\n".encode(
        "latin-1"
    )
    found = preview_parts(content)
    assert found.faults == ()
    first, second = found.bodies
    assert (first.nominal, first.below, first.make, first.volts) == (pytest.approx(0.05e-6), 0.1, "paper", 400)
    assert first.note == "Kondensator für Gitter"
    assert second.nominal == 4700


@pytest.mark.parametrize(
    ("content", "fault"),
    [
        (b"part,value\nQ1,5\n", "line 2: What kind of part is Q1?"),
        (b"part,value\nC1,0\n", "line 2: a capacitor has a value above 0"),
        (b"part,value,make\nC1,1u,wood\n", "line 2: “wood” is not a make of part"),
        (b"part,value\n", "There is no part"),
        (b"part,size\nC1,2\n", "the column “value” is missing"),
        (b"R1 a 0 1k\nC2 a (b) 1u\n", "Line 2"),
        (b"R1 a 0 1e999\n", "Line 1"),
        (b"part,value\nR1,4k7 1..5%\n", "line 2: “1..5”: “.5” is not part of a number"),
        (b"part,value\nC1," + b"7" * 200_000 + b"\n", "line 2: it cannot be read (field larger"),
        (
            b"part,value\nC1,0,047u\n",
            "line 2: 3 cells, expected 2: “047u” has no column. Is one of the commas a decimal comma",
        ),
        (b"part,value,value\nC1,1u,2u\n", "line 1: the column “value” is named twice"),
        (b"part,value\nC1,500\n", "line 2: “500” is 500 pF, or the code for 50 pF? Write 500p or 50p."),
        (b"", "There is no element"),
    ],
)
def test_what_cannot_be_taken_in_says_where(content, fault):
    found = preview_parts(content)
    assert fault in " ".join(found.faults)


def test_words_keep_their_commas_and_old_line_ends_are_line_ends():
    found = preview_parts(b"part;value;note\rC1;0,047 uF;moulded, cracked, brown\rR2;3,3k;1,5 W, old\r")
    assert found.faults == ()
    assert [(b.ref, b.nominal, b.note) for b in found.bodies] == [
        ("C1", pytest.approx(47e-9), "moulded, cracked, brown"),
        ("R2", 3300, "1.5 W, old"),
    ]


def test_what_a_spreadsheet_would_run_is_shown_and_reads_back(notebook):
    """Common practice, no source: an apostrophe before what begins like a formula."""
    bad = ("=cmd|' /C calc'!A0", "+1+1", "@SUM(A1)", "-2+3", "'=1", "''@x")
    bodies = [film(f"k{n}", place=text, supplier=text) for n, text in enumerate(bad)]
    notebook.append(drafts_of("", bodies))
    items = supplied(notebook).stock
    text = write_stock(items)
    for row in list(csv.reader(io.StringIO(text)))[1:]:
        assert not any(cell.strip().startswith(("=", "+", "@")) for cell in row)
        assert all(cell.replace(".", "").lstrip("-").isdigit() for cell in row if cell.startswith("-"))
    back = preview_stock(text.encode(), ())
    assert back.faults == ()
    assert [b.place for b in back.bodies] == [i.body.place.strip() for i in items]


def test_a_netlist_becomes_parts_and_circuit(scope):
    found = preview_parts(b"* mine\nR1 a 0 330k\nR2 a 0 1meg\nC1 a b 0.05u\nL1 b 0 8\n")
    assert found.faults == ()
    assert found.lines[-1].understood == "L1, inductor 8 H"
    parts = scope(*found.bodies)
    assert say_verdict(parts.line("R1").verdict).startswith("measure it: 198.5 kΩ to 297.7 kΩ expected in circuit")
