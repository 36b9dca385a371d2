"""Tables from CSV as people's programs write them: comma, semicolon or tab; UTF-8 or Latin-1; decimal point or comma."""

from __future__ import annotations

import csv
import io
import re
from collections import Counter
from collections.abc import Iterable, Mapping, Sequence

from candor.core.late_dataclass import dataclass
from candor.core.worded import worded

MOST_COLUMNS = 1000


@dataclass(frozen=True)
class CsvRow:
    """One line of a table: its number in the file, its text, its cells by column, and what is wrong with the whole of it."""

    number: int
    text: str
    cells: Mapping[str, str]
    fault: str = ""


@dataclass(frozen=True)
class CsvTable:
    """A table and its columns, or what is wrong with the whole of it."""

    rows: tuple[CsvRow, ...]
    fault: str = ""
    columns: tuple[str, ...] = ()


def read_table(content: bytes, required: Sequence[str], heads: Mapping[str, str] | None = None) -> CsvTable:
    """Read a table with a heading; `heads` are other words for its columns, with their names.

    Where the comma does not separate, it is the decimal point of what is a number.

    A row of another length than the heading is kept with its fault; a column named twice is a fault of the whole.
    """
    text = decoded(content)
    header = next((row for row in text.split("\n") if row.strip()), "")
    delimiter = max((",", ";", "\t"), key=header.count)
    try:
        names = [name.strip().lower() for name in next(csv.reader([header], delimiter=delimiter), [])]
    except csv.Error as error:
        return CsvTable(
            (), worded("exchange.line_it_cannot_be_read_expected", error=error, listed=", ".join(required))
        )
    names = _named(names, heads or {})
    if len(names) > MOST_COLUMNS:
        return CsvTable(
            (), worded("exchange.line_columns_a_table_has_at", names=len(names), most_columns=MOST_COLUMNS)
        )
    twice = sorted(name for name, count in Counter(names).items() if name and count > 1)
    if twice:
        return CsvTable((), worded("exchange.line_the_column_is_named_twice", first=twice[0]))
    missing = [name for name in required if name not in names]
    if missing:
        listed = ", ".join(name for name in names if name) or "nothing"
        return CsvTable(
            (),
            worded(
                "exchange.line_the_column_is_missing_expected",
                listed="”, “".join(missing),
                listed_2=", ".join(required),
                listed_3=listed,
            ),
        )
    reader = csv.reader(io.StringIO(text), delimiter=delimiter)
    rows: list[CsvRow] = []
    passed_header = False
    try:
        for cells in reader:
            if not any(cell.strip() for cell in cells):
                continue
            if passed_header:
                rows.append(_row(reader.line_num, cells, names, delimiter))
            passed_header = True
    except csv.Error as error:
        return CsvTable((), worded("exchange.line_it_cannot_be_read_nothing", line_num=reader.line_num, error=error))
    return CsvTable(tuple(rows), "", tuple(name for name in names if name))


def _named(names: list[str], heads: Mapping[str, str]) -> list[str]:
    """Return columns by their names here; a word of other programs stands for one that is not there by its own name."""
    taken = set(names)
    found = []
    for name in names:
        plain = re.sub(r"\s*[(\[].*[)\]]\s*$", "", name).rstrip(".:") or name
        own = name if name not in heads and plain not in heads else heads.get(name, heads.get(plain, name))
        found.append(own if own == name or own not in taken else name)
        taken.add(found[-1])
    return found


def _row(number: int, cells: list[str], names: list[str], delimiter: str) -> CsvRow:
    shown = delimiter.join(cells)
    cells = [*cells, *[""] * (len(names) - len(cells))]  # what a short line lacks is empty, not absent
    named, beyond = cells[: len(names)], [cell for cell in cells[len(names) :] if cell.strip()]
    plain = named if delimiter == "," else [_with_point(cell) for cell in named]
    fault = ""
    if beyond:
        comma = worded("exchange.is_a_comma_of_a_number") if delimiter == "," else ""
        fault = worded(
            "exchange.cells_expected_has_no_column", cells=len(cells), names=len(names), first=beyond[0], comma=comma
        )
    found = {name: unguarded(cell.strip()) for name, cell in zip(names, plain, strict=False) if name}
    return CsvRow(number, shown, found, fault)


def _with_point(cell: str) -> str:
    """Turn a decimal comma into a point where the cell begins like a number; words keep their commas."""
    match = re.match(r"\s*[+-]?\d*,\d+(?=\D|$)", cell)
    return cell[: match.end()].replace(",", ".") + cell[match.end() :] if match else cell


def decoded(content: bytes) -> str:
    """Return a text in UTF-8 or Latin-1, its line ends brought to one form."""
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError:
        text = content.decode("latin-1")
    return text.replace("\r\n", "\n").replace("\r", "\n").replace("\0", "")


_FORMULA = ("=", "+", "-", "@", "\t", "\r")


def guarded(cell: object) -> object:
    """Return a cell that a spreadsheet shows and does not run: words that begin like a formula get an apostrophe before them."""
    if not isinstance(cell, str) or not cell.lstrip().startswith(_FORMULA) or _is_number(cell):
        return f"'{cell}" if isinstance(cell, str) and re.match(r"'+\s*[=+@\t\r-]", cell) else cell
    return f"'{cell}"


def unguarded(cell: str) -> str:
    """Return a cell as it was before `guarded`."""
    return cell[1:] if re.match(r"'+\s*[=+@\t\r-]", cell) else cell


def _is_number(text: str) -> bool:
    return bool(re.fullmatch(r"\s*[+-]?\d*[.,]?\d+(?:[eE][+-]?\d+)?\s*", text))


def write_table(header: Sequence[str], rows: Iterable[Sequence[object]]) -> str:
    """Return a table as CSV (RFC 4180: comma between, lines ended by both); a spreadsheet runs nothing of it."""
    out = io.StringIO()
    writer = csv.writer(out)  # its own ending, so that a cell with either half of it is quoted
    writer.writerow(header)
    writer.writerows([guarded(cell) for cell in row] for row in rows)
    return out.getvalue()
