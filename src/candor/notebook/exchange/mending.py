"""A table whose wrong rows are mended before it is taken in: its rows by number, some of them written anew, some left out."""

from __future__ import annotations

import csv
import io
from collections.abc import Collection, Mapping, Sequence

from candor.core.late_dataclass import dataclass
from candor.notebook.exchange.csv_table import decoded


@dataclass(frozen=True)
class RawTable:
    """The cells of a table as they were written: its heads, its rows by the line they stand in, and what divides its cells."""

    heads: tuple[str, ...]
    rows: Mapping[int, tuple[str, ...]]
    delimiter: str = ","


def raw_table(content: bytes, has_heads: bool = True) -> RawTable:
    """Return the cells of a table; none where it cannot be read as one. Without heads each line is a cell."""
    text = decoded(content)
    if not has_heads:
        return RawTable(("as typed",), {n: (line,) for n, line in enumerate(text.split("\n"), 1) if line.strip()}, "")
    header = next((row for row in text.split("\n") if row.strip()), "")
    delimiter = max((",", ";", "\t"), key=header.count)
    heads: tuple[str, ...] = ()
    rows: dict[int, tuple[str, ...]] = {}
    reader = csv.reader(io.StringIO(text), delimiter=delimiter)
    try:
        for cells in reader:
            if not any(cell.strip() for cell in cells):
                continue
            if heads:
                rows[reader.line_num] = tuple(cells)
            else:
                heads = tuple(cells)
    except csv.Error:
        return RawTable((), {})
    return RawTable(heads, rows, delimiter)


def with_rows(content: bytes, mended: Mapping[int, Sequence[str]], has_heads: bool = True) -> bytes:
    """Return a table with some rows, by their line, written anew; the others stay as they are, in their lines."""
    table = raw_table(content, has_heads)
    return _written(table, {**table.rows, **{number: tuple(cells) for number, cells in mended.items()}})


def only_rows(content: bytes, numbers: Collection[int], has_heads: bool = True) -> bytes:
    """Return a table with some of its rows alone, each in its line."""
    table = raw_table(content, has_heads)
    return _written(table, {number: cells for number, cells in table.rows.items() if number in numbers})


def _written(table: RawTable, rows: Mapping[int, Sequence[str]]) -> bytes:
    if not table.delimiter:
        return "\n".join(" ".join(rows.get(number, ())) for number in range(1, max(rows, default=0) + 1)).encode()
    out = io.StringIO()
    writer = csv.writer(out, delimiter=table.delimiter, lineterminator="\n")
    writer.writerow(table.heads)
    at = 1
    for number in sorted(rows):
        cells = [*rows[number]]
        lines = 1 + sum(cell.count("\n") for cell in cells)
        while at + lines < number:  # an empty line for what is left out: every row keeps its number
            out.write("\n")
            at += 1
        writer.writerow(cells)
        at += lines
    return out.getvalue().encode()
