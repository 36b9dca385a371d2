"""Waveforms from the text that digital oscilloscopes write: headers of any kind, time and channels found, decimal commas."""

from __future__ import annotations

import csv
import io
import itertools
import re
from collections.abc import Iterator

import numpy as np

from candor.core.errors import CandorError, ValueTextError
from candor.core.late_dataclass import dataclass
from candor.core.quantities import parse_quantity
from candor.core.waves.waveform import FEWEST, Floats, Waveform
from candor.core.worded import worded

HEAD_LINES = 200  # in which samples must have begun
MORE = 4  # lines looked at behind those
UNEVEN = 0.02  # of an interval, that one may differ from the mean where the file writes few digits
_TIME = re.compile(r"\b(time|seconds?|sec|t|x)\b|zeit|temps|\((s|ms|us|µs|ns)\)", re.I)
_INTERVAL = re.compile(
    r"(sample|sampling|record)?\s*(interval|period|increment|delta[ _]?t|dt|step)\b|\b(x|h)[ _]?(incr|increment|inc)\b",
    re.I,
)
_RATE = re.compile(r"(sample|sampling)\s*(rate|frequency|freq)|\bfs\b", re.I)
_UNIT = re.compile(r"^\(?\[?\s*(?P<unit>[a-zA-Zµ%°/]{1,9})\s*\]?\)?$|[\(\[]\s*(?P<inner>[a-zA-Zµ%°/]{1,9})\s*[\)\]]")
_SCALES = {
    "s": 1.0,
    "ms": 1e-3,
    "us": 1e-6,
    "µs": 1e-6,
    "ns": 1e-9,
    "ps": 1e-12,
    "second": 1.0,
    "seconds": 1.0,
    "sec": 1.0,
}
_VALUES = {"v": ("V", 1.0), "volt": ("V", 1.0), "volts": ("V", 1.0), "mv": ("V", 1e-3), "uv": ("V", 1e-6), "µv": ("V", 1e-6),
           "a": ("A", 1.0), "ma": ("A", 1e-3), "w": ("W", 1.0), "ampere": ("A", 1.0)}  # fmt: skip


@dataclass(frozen=True)
class _Table:
    """The rows before the samples, what stands beside them, and the samples, of shape (samples, columns)."""

    head: tuple[tuple[str, ...], ...]
    samples: Floats
    beside: tuple[tuple[str, ...], ...] = ()


def read_waveforms(text: str, name: str = "waveform") -> tuple[Waveform, ...]:
    """Return the channels of a file.

    Comma, semicolon or tab; a decimal comma where the comma does not separate. The time is a column that its heading names or that
    rises evenly; else the heading gives an interval or a rate.

    Parameters
    ----------
    text : str
    name : str
        Stands in the sentences.

    Raises
    ------
    ValueTextError
        Naming the line, where there are no samples, or a row is not like the others; where no time is to be found, or it runs back.
    RangeError
        Where there are too few samples.
    """
    table = _read(text, name)
    samples, head = table.samples, table.head
    if len(samples) < FEWEST:
        raise ValueTextError(
            worded("waves.samples_at_least_were_expected", name=name, samples=len(samples), fewest=FEWEST),
            value=str(len(samples)),
            place=name,
        )
    titles, units = _headings(head, samples.shape[1])
    column = _time_column(samples, titles)
    if column is None:
        interval, start, kept = _said_interval((*head, *table.beside), name), 0.0, list(range(samples.shape[1]))
    else:
        scale = _SCALES.get(units[column].lower(), 1.0)
        interval, start = _interval(samples[:, column] * scale, name)
        if np.array_equal(
            samples[:, column], np.arange(len(samples))
        ):  # a count of samples is not a time, where one is said
            interval = _said_or(head, name, interval)
        kept = [i for i in range(samples.shape[1]) if i != column]
    if not kept:
        raise ValueTextError(worded("waves.there_is_a_time_and_nothing", name=name), place=name)
    found = []
    for number, index in enumerate(kept, 1):
        values = samples[:, index]
        if np.isnan(values).all():
            continue
        unit, scale = _VALUES.get(units[index].lower(), ("V", 1.0))
        title = titles[index] or f"channel {number}"
        found.append(Waveform(title, unit, values * scale, interval_s=interval, start_s=start))
    return tuple(found)


def _read(text: str, name: str) -> _Table:
    text = text.lstrip("\ufeff")
    lines = _first_lines(text)
    separator, decimal_comma = _separator(lines)
    labels = _label_columns(lines, separator, decimal_comma)
    beside: tuple[tuple[str, ...], ...] = ()
    if labels:
        split = [_cells(line, separator) for line in text.splitlines()]
        beside = tuple(tuple(row[:labels]) for row in split[:HEAD_LINES] if any(row[:labels]))
        text = "\n".join(separator.join(row[labels:]) for row in split)
        lines = _first_lines(text)
    head: list[tuple[str, ...]] = []
    first = None
    for number, line in enumerate(lines[:HEAD_LINES]):
        cells = _cells(line, separator)
        if _numeric(cells, decimal_comma) and all(
            _numeric(_cells(later, separator), decimal_comma)
            for later in lines[number + 1 : number + 4]
            if later.strip()
        ):
            first = number
            break
        head.append(tuple(cells))
    if first is None:
        raise ValueTextError(
            worded("waves.no_samples_in_the_first_lines", name=name, lines=min(len(lines), HEAD_LINES)),
            place=name,
        )
    body = text[sum(map(len, lines[:first])) :]
    if decimal_comma:
        body = body.replace(",", ".")
    return _Table(tuple(head), _numbers(body, separator, first + 1, name), beside)


def _first_lines(text: str) -> list[str]:
    """The lines in which samples must begin, and some more, each with its end: of millions the rest is never split."""
    return list(itertools.islice(_lines(text), HEAD_LINES + MORE))


def _lines(text: str) -> Iterator[str]:
    if "\n" not in text:  # as old desktop machines end their lines
        yield from text.splitlines(keepends=True)
        return
    at = 0
    while at < len(text):
        end = text.find("\n", at) + 1 or len(text)
        yield text[at:end]
        at = end


def _label_columns(lines: list[str], separator: str, decimal_comma: bool) -> int:
    """How many columns stand before the samples, with labels or what a heading says: as many as have no number in the last rows."""
    if separator == " ":
        return 0
    rows = [_cells(line, separator) for line in lines[:HEAD_LINES] if line.strip()]
    last = rows[len(rows) // 2 :]
    wide = len(last[-1]) if last else 0
    if wide < 2 or any(len(row) != wide for row in last):
        return 0
    return next((i for i in range(wide) if all(_numeric(row[i : i + 1], decimal_comma) for row in last)), 0)


def _numbers(body: str, separator: str, first_line: int, name: str) -> Floats:
    """The samples: quickly where every row is alike, else line by line for the sentence."""
    delimiter = None if separator == " " else separator
    try:
        # As bytes: held as text a file of five million samples takes four times as much.
        found: Floats = np.loadtxt(io.TextIOWrapper(io.BytesIO(body.encode()), "utf-8"), delimiter=delimiter, ndmin=2)
    except ValueError:
        rows: list[list[float]] = []
        for number, line in enumerate(body.splitlines(), first_line):
            if not line.strip():
                continue
            cells = _cells(line, separator)
            while len(cells) > 1 and not cells[-1]:
                cells.pop()
            if rows and len(cells) != len(rows[0]):
                raise ValueTextError(
                    worded(
                        "waves.line_values_were_expected",
                        name=name,
                        number=number,
                        cells=len(cells),
                        first=len(rows[0]),
                    ),
                    value=line[:80],
                    place=name,
                ) from None
            try:
                rows.append([float(c) for c in cells])
            except ValueError:
                raise ValueTextError(
                    worded("waves.line_is_not_a_row_of", name=name, number=number, line=line[:60]),
                    value=line[:80],
                    place=name,
                ) from None
        found = np.array(rows)
    return found


def _separator(lines: list[str]) -> tuple[str, bool]:
    """What separates values, and whether a comma is the decimal point."""
    looked_at = [line for line in lines[:HEAD_LINES] if re.match(r"\s*[-+]?[\d.,]", line)][-20:] or lines[:20]
    joined = "\n".join(looked_at)
    if ";" in joined:
        return ";", bool(re.search(r"\d,\d", joined))
    if "\t" in joined:
        return "\t", bool(re.search(r"\d,\d", joined))
    if "," in joined:
        return ",", False
    return " ", False


def _cells(line: str, separator: str) -> list[str]:
    if separator == " ":
        return line.split()
    return [cell.strip() for cell in next(csv.reader([line], delimiter=separator), [])]


def _numeric(cells: list[str], decimal_comma: bool) -> bool:
    filled = [c.replace(",", ".") if decimal_comma else c for c in cells if c]
    if not filled or not cells[0]:
        return False
    try:
        [float(c) for c in filled]
    except ValueError:
        return False
    return True


def _headings(head: tuple[tuple[str, ...], ...], columns: int) -> tuple[list[str], list[str]]:
    """Title and unit of every column: from the last row before the samples that has as many, and a row of units under it."""
    titles, units = [""] * columns, [""] * columns
    if columns == 1:
        head = tuple((" ".join(row),) for row in head)
    rows = [row for row in head if sum(bool(c) for c in row[:columns]) >= min(columns, 2)]
    if len(rows) > 1 and any(_unit(c)[0] and not _unit(c)[1] for c in rows[-1][:columns]):
        units = [_unit(c)[0] for c in (*rows[-1][:columns], *[""] * columns)][:columns]
        rows = rows[:-1]
    for index, cell in enumerate(rows[-1][:columns] if rows else ()):
        unit, rest = _unit(cell)
        titles[index] = rest if unit and rest else cell
        units[index] = units[index] or (unit if rest else "")
    return titles, units


def _unit(cell: str) -> tuple[str, str]:
    """The unit that a heading says, empty for none, and what stands before it."""
    match = _UNIT.search(cell)
    said = (match["unit"] or match["inner"]) if match else ""
    if match is None or not (said.lower() in _SCALES or said.lower() in _VALUES):
        return "", cell
    return said, cell[: match.start()].strip() if match["inner"] else ""


def _time_column(samples: Floats, titles: list[str]) -> int | None:
    """The column that is named so, or the first that rises evenly; None where none does."""
    named = [i for i, title in enumerate(titles) if _TIME.search(title)]
    if named:
        return named[0]
    for index in range(samples.shape[1] if samples.shape[1] > 1 else 0):
        steps = np.diff(samples[:, index])
        mean = float(steps.mean())
        if mean > 0 and float(np.abs(steps - mean).max()) < 0.5 * mean:
            return index
    return None


def _interval(times: Floats, name: str) -> tuple[float, float]:
    steps = np.diff(times)
    mean = float(times[-1] - times[0]) / (len(times) - 1)
    back = np.flatnonzero(steps < 0)
    if mean <= 0 or len(back):
        at = int(back[0]) + 2 if len(back) else 2
        raise ValueTextError(
            worded("waves.time_runs_back_or_stands_still", name=name, at=at, times=times[at - 1]),
            value=f"{times[at - 1]:g}",
            place=name,
        )
    worst = int(np.abs(steps - mean).argmax())
    # A file of few digits repeats times: that is not a gap. Nothing evenly spaced jumps by more than half a step, and its digits.
    digits = float(np.abs(times).max()) * 1e-5
    if abs(float(steps[worst]) - mean) > max(0.5 * mean, digits, UNEVEN * mean):
        raise ValueTextError(
            worded(
                "waves.samples_are_not_evenly_spaced_s", name=name, steps=steps[worst], worst=worst + 1, mean=mean
            ),
            value=f"{steps[worst]:g}",
            place=name,
        )
    return mean, float(times[0])


def _said_interval(head: tuple[tuple[str, ...], ...], name: str) -> float:
    """The interval that the heading says, s: beside its words, or under them."""
    for row, below in zip(head, (*head[1:], ()), strict=True):
        whole = " ".join(row)
        rate = _RATE.search(whole)
        if not rate and not _INTERVAL.search(whole):
            continue
        unit, pattern = ("Hz", _RATE) if rate else ("s", _INTERVAL)
        beside = [whole[match.end() :].strip(" :=,;") for match in [pattern.search(whole)] if match]
        under = [below[i] for i, cell in enumerate(row) if pattern.search(cell) and i < len(below)]
        for said in (*under, *beside, *(b.split(" ")[0] for b in beside)):
            value = _quantity(said, unit)
            if value and value > 0:
                return 1 / value if rate else value
    raise ValueTextError(
        worded("waves.no_time_is_to_be_found", name=name),
        place=name,
    )


def _said_or(head: tuple[tuple[str, ...], ...], name: str, otherwise: float) -> float:
    try:
        return _said_interval(head, name)
    except ValueTextError:
        return otherwise


def _quantity(text: str, unit: str) -> float | None:
    clean = text.strip().replace("Sa/s", "Hz")
    try:
        return float(clean.replace(",", "."))
    except ValueError:
        pass
    try:
        return parse_quantity(clean, unit).value if clean else None
    except CandorError:
        return None
