"""What a standard is good for as rows of a table, as its handbook or its certificate prints them; the same as its lines of text.

A row is its cells as they are typed. Rows become the lines that `standards_text` reads, and lines become rows again.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping, Sequence

from candor.core.errors import CandorError
from candor.core.late_dataclass import dataclass
from candor.core.quantities import engineering
from candor.core.quantities.show import trimmed
from candor.core.worded import worded
from candor.notebook.entries.standards_entries import SpecificationLine, StandardFunction
from candor.notebook.standards.quantity_heading import read_heading
from candor.notebook.standards.specification_line import read_specification
from candor.notebook.standards.standards_text import head_of, read_functions, write_functions

Cells = Mapping[str, str]


@dataclass(frozen=True)
class Column:
    """A column: its key, its head, an example, other heads that spreadsheets have for it, and its width beside the others."""

    key: str
    title: str
    example: str
    heads: tuple[str, ...] = ()
    width: float = 1.0


_QUANTITY = Column("quantity", "quantity", "V d.c.", ("function", "quantity", "measurement", "parameter", "mode"))
_CONDITION = Column("condition", "condition", "loads 10M", ("condition", "conditions", "remark", "note"), width=2.2)
SPECIFICATION = (
    _QUANTITY,
    Column("range", "range", "6 V", ("range", "full scale", "fs")),
    Column("digit", "a digit is", "1 mV", ("resolution", "digit", "a digit is", "lsd", "least digit")),
    Column(
        "reading", "% reading", "0.5", ("% of reading", "% reading", "% rdg", "reading", "of reading", "% of rdg")
    ),
    Column("digits", "digits", "2", ("digits", "counts", "dgt", "digit count", "lsd count"), width=0.7),
    Column(
        "of_range", "% range", "", ("% of range", "% range", "% fs", worded("standards.of_full_scale"), "of range")
    ),
    Column("band", "band", "", ("band", "frequency", "frequency range", "bandwidth"), width=1.4),
    _CONDITION,
)
CERTIFICATE = (
    _QUANTITY,
    Column("value", "at", "10 V", ("value", "at", "nominal", "applied", "setting")),
    Column("hertz", "frequency", "", ("frequency", "hz")),
    Column("correction", "correction", "0.2 mV", ("correction", "corr")),
    Column("expanded", "U", "0.4 mV", ("u", "uncertainty", "expanded uncertainty")),
    Column("factor", "k", "2", ("k", "coverage factor")),
    _CONDITION,
)
_ACCURACY = ("accuracy", "specification", "uncertainty spec", "tolerance", "± accuracy")


def is_by_certificate(functions: Sequence[StandardFunction]) -> bool:
    """Whether what is known of a standard stands on its certificate, not in its handbook."""
    return any(function.points for function in functions)


def rows_of(functions: Iterable[StandardFunction]) -> list[dict[str, str]]:
    """Return what a standard is good for as rows, each cell as it is typed."""
    rows = []
    for function in functions:
        quantity, _, condition = head_of(function).partition(", ")
        head = {"quantity": quantity, "condition": condition}
        rows += [{**head, **_cells_of(line, function.unit)} for line in function.ranges]
        for point in function.points:
            rows.append(
                {
                    **head,
                    "value": _typed(point.value, function.unit),
                    "hertz": _typed(point.hertz, "Hz") if point.hertz else "",
                    "correction": _typed(point.correction, function.unit),
                    "expanded": _typed(point.expanded, function.unit),
                    "factor": trimmed(point.factor),
                }
            )
    return rows


def lines_of_rows(rows: Iterable[Cells], by_certificate: bool) -> str:
    """Return the lines of text that rows say; empty rows say nothing, an empty quantity is that of the row above."""
    lines, head, before = [], "", ""
    for row in rows:
        if is_empty(row):
            continue
        head = _head(row, head)
        if head != before:
            lines.append(head)
            before = head
        lines.append(_line(row, by_certificate))
    return "\n".join(lines)


def quantities_before(rows: Sequence[Cells], at: int) -> int:
    """Return which quantity, from 0, a row is of: a new one begins where a heading differs from the row above."""
    head, before, count = "", "", -1
    for row in rows[: at + 1]:
        if not is_empty(row):
            head = _head(row, head)
            count += head != before or count < 0
            before = head
    return count


def is_empty(row: Cells) -> bool:
    """Whether a row says nothing."""
    return not any(text.strip() for text in row.values())


def faults_of(rows: Sequence[Cells], by_certificate: bool) -> dict[int, tuple[str, str]]:
    """Return what is wrong with rows: by number from 0 the column that it stands in (empty: the row) and a sentence."""
    found: dict[int, tuple[str, str]] = {}
    head = ""
    for number, row in enumerate(rows):
        if is_empty(row):
            continue
        head = _head(row, head)
        try:
            read_functions(f"{head}\n{_line(row, by_certificate)}" if head else _line(row, by_certificate))
        except CandorError as error:
            sentence = re.sub(r"^(?:Line \d+: )+", "", str(error))
            column = _cell_at_fault(row, error) or _missing(row, by_certificate)
            found[number] = (
                column,
                _with_example(sentence, column, CERTIFICATE if by_certificate else SPECIFICATION),
            )
    return found


def _cell_at_fault(row: Cells, error: CandorError) -> str:
    """Return the column of the cell that an error speaks of; nothing where it is none alone."""
    value = str(getattr(error, "value", "") or "").strip()
    if "how much is a digit" in str(error):
        return "digit"
    said = {value, value.removesuffix(" %"), value.removesuffix(" digits"), value.removesuffix(" % of range")}
    return next((key for key, text in row.items() if text.strip() in said - {""}), "")


def _with_example(sentence: str, column: str, known: Sequence[Column]) -> str:
    """A sentence with the example of a cell, where it has one of a line."""
    example = next((each.example for each in known if each.key == column), "")
    head = re.split(r"\s*\bExamples?: ", sentence)[0]
    return f"{head} Example: {example}" if example and head != sentence else sentence


def pasted(text: str, by_certificate: bool, columns: Sequence[str] = ()) -> list[dict[str, str]]:
    """Return the rows of what was copied from a spreadsheet, a handbook or a list of lines.

    Parameters
    ----------
    text : str
        Cells between tabs, semicolons or wide gaps; a first row of heads says which is which, else they stand in the order of
        `columns`. Lines such as ``6 V: 0.5 % + 2 digits`` are read as such.
    by_certificate : bool
    columns : sequence of str
        Keys of the columns from the cell on that it is pasted at; all of them where it is empty.
    """
    known = CERTIFICATE if by_certificate else SPECIFICATION
    lines = [line for line in text.replace("\r\n", "\n").replace("\r", "\n").split("\n") if line.strip()]
    if not any("\t" in line for line in lines):
        as_lines = _pasted_lines(lines, by_certificate)
        if as_lines is not None:
            return as_lines
    grid = [_split(line) for line in lines]
    heads = [_key_of_head(cell, known) for cell in grid[0]] if grid else []
    has_heads = sum(bool(key) for key in heads) >= min(2, len(heads)) > 0
    keys = heads if has_heads else list(columns or [column.key for column in known])
    return [_row(cells, keys) for cells in grid[has_heads:]]


def _row(cells: Sequence[str], keys: Sequence[str]) -> dict[str, str]:
    row = {key: cell.strip() for key, cell in zip(keys, cells, strict=False) if key}
    accuracy = row.pop("accuracy", "")
    if accuracy and "range" in row:
        digit = f", {row['digit']}" if row.get("digit") else ""
        for unit in _units_of(row):
            try:
                return {**row, **_cells_of(read_specification(f"to {row['range']}{digit}: {accuracy}", unit), unit)}
            except CandorError:
                continue
        row["reading"] = accuracy
    return row


def _units_of(row: Cells) -> tuple[str, ...]:
    heading = read_heading(row.get("quantity", ""))
    return (heading.unit,) if heading is not None else ("V", "A", "ohm", "F", "H", "Hz", "s", "S")


def _pasted_lines(lines: Sequence[str], by_certificate: bool) -> list[dict[str, str]] | None:
    """Return the rows of lines of text; None where they are none."""
    if not any(
        re.search(r"\d\s*(?:%|ppm)|(?:%|ppm)\s*(?:of|rdg)", line) or line.strip().lower().startswith("at ")
        for line in lines
    ):
        return None
    try:
        functions = read_functions("\n".join(lines))
    except CandorError:
        return None
    return rows_of(functions) if is_by_certificate(functions) == by_certificate else None


def _split(line: str) -> list[str]:
    for mark in ("\t", ";", "|"):
        if mark in line:
            return line.split(mark)
    return re.split(r"\s{2,}", line.strip())


def _key_of_head(cell: str, known: Sequence[Column]) -> str:
    words = " ".join(cell.lower().replace("(", " ").replace(")", " ").split())
    if words in _ACCURACY:
        return "accuracy"
    return next((column.key for column in known if words in (column.key, column.title, *column.heads)), "")


def _head(row: Cells, before: str) -> str:
    quantity, condition = row.get("quantity", "").strip(), row.get("condition", "").strip(" ,")
    if not quantity:
        return before
    return f"{quantity}, {condition}" if condition else quantity


def _line(row: Cells, by_certificate: bool) -> str:
    said = {key: text.strip() for key, text in row.items()}
    if by_certificate:
        hertz = f", {said['hertz']}" if said.get("hertz") else ""
        correction = f"correction {said['correction']} " if said.get("correction") else ""
        factor = f" k {said['factor']}" if said.get("factor") else ""
        return worded(
            "standards.at_u",
            value=said.get("value", ""),
            hertz=hertz,
            correction=correction,
            expanded=said.get("expanded", ""),
            factor=factor,
        )
    shares = [f"{said['reading'].removesuffix('%').strip()} %"] if said.get("reading") else []
    if said.get("reading", "").casefold().endswith("ppm"):
        shares = [said["reading"]]
    shares += (
        [worded("standards.of_range_2", of_range=said["of_range"].removesuffix("%").strip())]
        if said.get("of_range")
        else []
    )
    digits = said.get("digits", "")
    shares += [digits if re.search(r"[A-Za-z]", digits) else f"{digits} digits"] if digits else []
    digit = f", {said['digit']}" if said.get("digit") else ""
    band = f"{said['band']}, " if said.get("band") else ""
    return f"{band}to {said.get('range', '')}{digit}: {' + '.join(shares)}"


def _missing(row: Cells, by_certificate: bool) -> str:
    needed = ("value", "expanded") if by_certificate else ("range", "reading")
    return next((key for key in needed if not row.get(key, "").strip()), "")


def _cells_of(line: SpecificationLine, unit: str) -> dict[str, str]:
    band = f"{_typed(line.low_hertz, 'Hz')} to {_typed(line.high_hertz, 'Hz')}" if line.high_hertz else ""
    return {
        "range": _typed(line.upper, unit),
        "digit": _typed(line.resolution, unit) if line.counts else "",
        "reading": trimmed(line.percent_of_reading, 9),
        "digits": trimmed(line.counts, 6) if line.counts else "",
        "of_range": trimmed(line.percent_of_range, 9) if line.percent_of_range else "",
        "band": band,
    }


def _typed(value: float, unit: str) -> str:
    return engineering(value, unit, 8).replace("−", "-").replace("Ω", "ohm")


def text_of_rows(rows: Iterable[Cells], by_certificate: bool) -> str:
    """Return rows as the lines that Candor prints, where all can be read; else as they were typed."""
    text = lines_of_rows(rows, by_certificate)
    try:
        return write_functions(read_functions(text))
    except CandorError:
        return text
