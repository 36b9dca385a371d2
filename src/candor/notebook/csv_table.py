"""Tables from CSV as people's programs write them: comma, semicolon or tab; UTF-8 or Latin-1; decimal point or comma."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass


@dataclass(frozen=True)
class CsvRow:
    """One line of a table: its number in the file, its text, and its cells by column."""

    number: int
    text: str
    cells: Mapping[str, str]


@dataclass(frozen=True)
class CsvTable:
    """A table, or what is wrong with the whole of it."""

    rows: tuple[CsvRow, ...]
    fault: str = ""


def read_table(content: bytes, required: Sequence[str]) -> CsvTable:
    """Read a table with a heading. Where the comma does not separate, it is the decimal point."""
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError:
        text = content.decode("latin-1")
    header = next((row for row in text.splitlines() if row.strip()), "")
    delimiter = max((",", ";", "\t"), key=header.count)
    names = [name.strip().lower() for name in next(csv.reader([header], delimiter=delimiter), [])]
    missing = [name for name in required if name not in names]
    if missing:
        listed = ", ".join(name for name in names if name) or "nothing"
        return CsvTable(
            (),
            f"line 1: the column “{'”, “'.join(missing)}” is missing; expected {', '.join(required)}; "
            f"found {listed}. Nothing was taken in.",
        )
    reader = csv.reader(io.StringIO(text), delimiter=delimiter)
    rows: list[CsvRow] = []
    passed_header = False
    for cells in reader:
        if not any(cell.strip() for cell in cells):
            continue
        if not passed_header:
            passed_header = True
            continue
        shown = delimiter.join(cells)
        plain = cells if delimiter == "," else [cell.replace(",", ".") for cell in cells]
        rows.append(CsvRow(reader.line_num, shown, {n: c.strip() for n, c in zip(names, plain, strict=False)}))
    return CsvTable(tuple(rows))


def write_table(header: Sequence[str], rows: Iterable[Sequence[object]]) -> str:
    """Return a table as CSV, comma between, lines ended by a line feed."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(header)
    writer.writerows(rows)
    return out.getvalue()
