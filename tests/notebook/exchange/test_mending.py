"""Rows of a table written anew or left out: every other cell stays as it was, and every row in its line."""

from hypothesis import given
from hypothesis import strategies as st

from candor.notebook.exchange.csv_table import read_table
from candor.notebook.exchange.mending import only_rows, raw_table, with_rows

CELL = st.text("ab,;\t\"1.5 \nµ'", max_size=6).filter(lambda cell: cell == cell.strip())


@given(st.lists(st.tuples(CELL.filter(bool), CELL, CELL), min_size=1, max_size=6), st.data(), st.sampled_from(",;\t"))
def test_what_is_not_mended_stays_as_it_is(rows, data, mark):
    content = with_rows(f"part{mark}value{mark}note\n".encode(), dict(zip(range(3, 99, 9), rows, strict=False)))
    table = raw_table(content)
    assert [tuple(row) for row in table.rows.values()] == rows
    number = data.draw(st.sampled_from(sorted(table.rows)))
    mended = raw_table(with_rows(content, {number: ("R9", "1k", "")}))
    assert len(mended.rows) == len(rows)
    others = [row for n, row in table.rows.items() if n != number]
    assert [row for row in mended.rows.values() if row != ("R9", "1k", "")] == [
        r for r in others if r != ("R9", "1k", "")
    ]
    alone = raw_table(only_rows(content, {number}))
    assert list(alone.rows.values()) == [table.rows[number]]


def test_a_row_keeps_its_line_and_lines_with_no_heads_stay_lines():
    content = b"part,value\nR1,1k\nR2,x\nR3,y\n"
    kept = only_rows(content, {4})
    assert [row.number for row in read_table(kept, ("part", "value")).rows] == [4]
    lines = with_rows(b"R1 1k\nR2 what\n", {2: ("R2 2k",)}, has_heads=False)
    assert lines == b"R1 1k\nR2 2k"
    assert raw_table(lines, has_heads=False).rows == {1: ("R1 1k",), 2: ("R2 2k",)}
