"""Tables of people: what a line says by column, what is wrong with it, and which columns nobody reads."""

from __future__ import annotations

import datetime as dt

import pytest

from candor.core.errors import CandorError, ValueTextError
from candor.notebook.exchange.columns import TableRow, Volts, all_rows, read_cells, read_rows
from candor.notebook.exchange.csv_table import read_table
from candor.notebook.parts.parts_import import PartRow, preview_parts
from candor.notebook.parts.stock import StockRow, preview_stock
from candor.notebook.soak.drift_table import HistoryRow
from candor.notebook.soak.past_import import PastRow
from candor.notebook.soak.stability_table import PhaseRow, RecordRow, SoakRow
from candor.notebook.tubes.tube_table import MeasuredRow, ShownRow
from candor.notebook.tubes.tubes_csv import TubeRow
from candor.notebook.work.csv_readings import RangeReadingRow, ReadingRow

SHAPES: tuple[type[TableRow], ...] = (
    PartRow, StockRow, TubeRow, ReadingRow, RangeReadingRow, HistoryRow, PastRow, RecordRow, PhaseRow, SoakRow,
    MeasuredRow, ShownRow,
)  # fmt: skip


@pytest.mark.parametrize("shape", SHAPES)
def test_every_table_says_which_column_it_lacks_and_which_it_does_not_read(shape: type[TableRow]) -> None:
    needed = shape.required()
    lacking = read_rows((";".join(needed[1:] or ("x",)) + "\n1\n").encode(), shape)
    assert f"“{needed[0]}” is missing" in lacking.fault
    table = read_rows((";".join((*needed, "voltz")) + "\n").encode(), shape)
    assert table.unread == ("voltz",)
    assert "voltz" in table.unread_words


@pytest.mark.parametrize("shape", SHAPES)
def test_every_column_is_read_by_the_name_it_has_in_a_file(shape: type[TableRow]) -> None:
    assert read_rows((";".join(shape.columns()) + "\n").encode(), shape).unread == ()
    assert all(name == name.strip().lower() for name in shape.columns())


def test_a_misspelt_column_is_said_before_anything_is_taken_in() -> None:
    parts = preview_parts(b"part,value,volt\nC4,47n,630 V\n")
    assert "“volt”" in parts.lines[0].understood
    assert not parts.faults
    assert len(parts.bodies) == 1
    assert "“colour”" in preview_stock(b"what;value;count;colour\nresistor;4.7k;3;red\n").lines[0].understood


def test_an_empty_cell_leaves_a_field_open_and_a_wrong_one_says_its_column() -> None:
    row = read_cells(PartRow, {"part": "C4", "value": "47n", "volts": "", "across": "350"})
    assert row.said("volts", "volts_across") == {"volts_across": 350.0}
    with pytest.raises(CandorError, match="47 ohm"):
        read_cells(PartRow, {"part": "C4", "value": "47n", "volts": "47 ohm"})


def test_all_rows_takes_all_or_none_with_every_fault_by_its_line() -> None:
    class Row(TableRow):
        volts: Volts

    assert all_rows(b"volts\n1,5 mV\n2 V\n".replace(b",", b"."), Row, lambda row: row.volts, "It") == (0.0015, 2.0)
    with pytest.raises(ValueTextError) as refused:
        all_rows(b"volts\nabc\n2 V\n3 A\n", Row, lambda row: row.volts, "The lot")
    said = str(refused.value)
    assert said.startswith("The lot cannot be taken:")
    assert "line 2:" in said
    assert "line 4:" in said
    assert "line 3:" not in said


def test_a_history_asks_for_its_u_and_for_no_day_ahead() -> None:
    cells = {"date": "2024-03-01", "point": "range 3", "error": "0.2", "u": "", "limit": "1", "when": "as found"}
    today = dt.date(2026, 1, 1)
    with pytest.raises(CandorError, match="U is missing"):
        read_cells(HistoryRow, cells, today)
    dead = read_cells(HistoryRow, {**cells, "error": ""}, today)
    assert dead.error is None
    assert dead.when == "found"
    with pytest.raises(CandorError):
        read_cells(HistoryRow, {**cells, "u": "0.1", "date": "2027-03-01"}, today)


def test_a_table_of_more_columns_than_anybody_keeps_is_refused():
    names = ",".join(f"c{number}" for number in range(1001))
    assert read_table(f"{names}\n1\n".encode(), ("c1",)).fault.startswith(
        "line 1: 1001 columns; a table has 1000 at most."
    )
