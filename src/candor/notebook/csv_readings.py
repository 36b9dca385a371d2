"""Readings from CSV: understood line by line before anything is written, and then all or none."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from candor.core.calibration.point import Phase, TestPoint
from candor.core.errors import CandorError
from candor.core.quantities import engineering, parse_quantity
from candor.notebook.csv_table import CsvRow, read_table
from candor.notebook.entries.calibrate import ReadingTaken
from candor.packs.model import Pack
from candor.packs.procedure import point_by_name, procedure

REQUIRED = ("point", "reading", "reference")
FAR_OFF = 10.0  # times its point, or a tenth of it: a slip of the comma, no reading
_DIRECTIONS = {"": "", "up": "up", "from below": "up", "down": "down", "from above": "down"}


@dataclass(frozen=True)
class CsvLine:
    """One line: what it was understood to say, or what is wrong with it."""

    number: int
    text: str
    understood: str
    fault: str
    reading: ReadingTaken | None


@dataclass(frozen=True)
class CsvPreview:
    """What a file of readings says. It may be written only where there is no fault."""

    lines: tuple[CsvLine, ...]
    fault: str = ""

    @property
    def faults(self) -> tuple[str, ...]:
        """Every fault with its line."""
        of_file = (self.fault,) if self.fault else ()
        return of_file + tuple(f"line {line.number}: {line.fault}" for line in self.lines if line.fault)

    @property
    def readings(self) -> tuple[ReadingTaken, ...]:
        """All readings where nothing is wrong, none otherwise."""
        return () if self.faults else tuple(line.reading for line in self.lines if line.reading)


def preview_csv(content: bytes, pack: Pack, phase: Phase, standard: str) -> CsvPreview:
    """Understand a file of readings with the columns point, reading, reference.

    Parameters
    ----------
    content : bytes
        UTF-8 or Latin-1; separated by comma, semicolon or tab.
    pack : Pack
    phase : "as found" or "as left"
        For lines that name none in a column `phase`.
    standard : str
        Entry id of the standard they were read against.
    """
    table = read_table(content, REQUIRED)
    if table.fault:
        return CsvPreview((), table.fault)
    lines = tuple(_line(row, pack, phase, standard) for row in table.rows)
    return CsvPreview(lines, "" if lines else "There is no reading in the file.")


def _line(row: CsvRow, pack: Pack, phase: Phase, standard: str) -> CsvLine:
    try:
        if row.fault:
            raise CandorError(row.fault)
        reading = _reading(row.cells, pack, phase, standard, row.text)
    except CandorError as error:
        return CsvLine(number=row.number, text=row.text, understood="", fault=str(error), reading=None)
    point = point_by_name(pack, reading.point)
    understood = (
        f"{point.function}, {point.name}, {reading.phase}: needle {engineering(reading.indicated, point.unit, 6)}, "
        f"reference {engineering(reading.reference, point.unit, 7)}"
    )
    return CsvLine(number=row.number, text=row.text, understood=understood, fault="", reading=reading)


def _reading(cells: Mapping[str, str], pack: Pack, phase: Phase, standard: str, shown: str) -> ReadingTaken:
    named = cells.get("phase", "").strip().lower() or phase
    if named not in ("as found", "as left"):
        raise CandorError(f"“{named}” is not a phase; expected as found or as left.", value=named)
    direction = cells.get("direction", "").strip().lower()
    if direction not in _DIRECTIONS:
        raise CandorError(f"“{direction}” is not a direction; expected up or down.", value=direction)
    point = point_by_name(pack, cells.get("point", "").strip())
    value = parse_quantity(cells.get("reading", ""), point.unit).value
    indicated = point.dial.check(abs(value) if point.polarity < 0 else value)
    _near(point, "reading", indicated)
    reference = point.reference_magnitude(parse_quantity(cells.get("reference", ""), point.unit).value)
    _near(point, "reference", reference)
    steps = (s for s in procedure(pack) if s.kind == "point" and s.phase == named and s.point)
    step = next((s.key for s in steps if s.point is not None and s.point.key == point.key), None)
    if step is None:
        raise CandorError(f"The procedure has no point {point.key} {named}.", value=point.key)
    return ReadingTaken.model_validate(
        {
            "step": step, "phase": named, "point": point.key, "indicated": indicated, "reference": reference,
            "direction": _DIRECTIONS[direction], "standard": standard, "reference_from": "typed", "means": "csv", "written": shown,
        }
    )  # fmt: skip


def _near(point: TestPoint, what: str, value: float) -> None:
    """Refuse what lies so far from its point that a comma or a prefix must have slipped.

    Raises
    ------
    CandorError
    """
    if point.nominal and not 1 / FAR_OFF < value / abs(point.nominal) < FAR_OFF:
        raise CandorError(
            f"The {what} is {engineering(value, point.unit, 6)} at a point of {engineering(abs(point.nominal), point.unit)}; "
            "has a comma or a prefix slipped?",
            value=f"{value:g}",
        )
