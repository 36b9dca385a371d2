"""Readings from CSV: understood line by line before anything is written, and then all or none."""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Mapping

from candor.core.calibration.belonging import applied_for, is_at
from candor.core.calibration.made_points import nominal_of, point_at
from candor.core.calibration.point import Phase, TestPoint
from candor.core.errors import CandorError
from candor.core.jot import ReadingJot
from candor.core.jot.range_line import check_nominal
from candor.core.jot.reading_line import split_tail, understand_reading
from candor.core.late_dataclass import dataclass
from candor.core.quantities import engineering
from candor.core.quantities.derived import of_one_standard
from candor.core.reading.kind import ReadingKind
from candor.core.reading.kinds import kind_named, kind_of
from candor.core.reading.look import word_at
from candor.core.reading.reading import INDICATED, Direction
from candor.core.reference.chains import Chain, comes_to, read_unit_of
from candor.core.reference.choice import kept_reading
from candor.core.reference.reference import Reference
from candor.core.worded import worded
from candor.notebook.entries.calibrate_entries import ReadingTaken
from candor.notebook.exchange.columns import Folded, Preview, ReadLine, TableRow, read_rows
from candor.notebook.work.reading_words import say_reading
from candor.packs.model import Pack
from candor.packs.procedure import next_step, point_by_name, point_step, points_of_range

# Entry id of the standard that a point is read against, and what serves there.
StandardOf = Callable[[TestPoint], tuple[str, Reference | Chain | None]]
SLIPPED = 0.02  # of a range: a bare number under it, that in SI is on the scale, is asked for with its unit
FAR_OFF = 10.0  # times its point, or a tenth of it: a slip of the comma, no reading
_DIRECTIONS: Mapping[str, Direction] = {"": "", "up": "up", "from below": "up", "down": "down", "from above": "down"}


class ReadingRow(TableRow):
    """The columns of a table of readings, each at a point of the procedure."""

    point: str
    reading: str
    reference: str
    range: str = ""
    function: str = ""
    phase: Folded = ""
    direction: Folded = ""


class RangeReadingRow(ReadingRow):
    """The same by range: each reading makes its point where the line names none."""

    point: str = ""
    range: str


@dataclass(frozen=True)
class CsvLine:
    """One line: what it was understood to say, or what is wrong with it."""

    number: int
    text: str
    understood: str
    fault: str
    reading: ReadingTaken | None


@dataclass(frozen=True)
class CsvPreview(Preview):
    """What a file of readings says."""

    lines: tuple[CsvLine, ...]
    fault: str = ""

    @property
    def good(self) -> tuple[ReadingTaken, ...]:
        """The readings of the lines without a fault."""
        return tuple(line.reading for line in self.lines if line.reading)

    @property
    def readings(self) -> tuple[ReadingTaken, ...]:
        """All readings where nothing is wrong, none otherwise."""
        return () if self.faults else self.good


def preview_csv(content: bytes, pack: Pack, phase: Phase, standard: StandardOf) -> CsvPreview:
    """Understand a file of readings with the columns point, reading, reference; or range, reading, reference.

    With a range alone each reading makes its point, as it does at the bench. A column function tells ranges of one name apart.

    Parameters
    ----------
    content : bytes
        UTF-8 or Latin-1; separated by comma, semicolon or tab.
    pack : Pack
    phase : "as found" or "as left"
        For lines that name none in a column `phase`.
    standard : function of (TestPoint)
        Entry id of the standard that a point is read against, empty where none is, and what of it serves.
    """
    table = read_rows(content, ReadingRow, RangeReadingRow)
    if table.fault:
        return CsvPreview((), table.fault)
    made: dict[str, set[float]] = {}
    lines = tuple(_line(line, _Asked(pack, phase, standard), made) for line in table.lines)
    left = (CsvLine(number=0, text="", understood=table.unread_words, fault="", reading=None),)
    return CsvPreview(
        (*(left if table.unread else ()), *lines), "" if lines else worded("work.there_is_no_reading_in_the")
    )


@dataclass(frozen=True)
class _Asked:
    """What every line is read against."""

    pack: Pack
    phase: Phase
    standard: StandardOf


def _line(line: ReadLine[ReadingRow], asked: _Asked, made: dict[str, set[float]]) -> CsvLine:
    try:
        if line.row is None:
            raise CandorError(line.fault)
        point, reading = _reading(line.row, line.text, asked, made)
    except CandorError as error:
        return CsvLine(number=line.number, text=line.text, understood="", fault=str(error), reading=None)
    said = say_reading(point, reading)
    return CsvLine(number=line.number, text=line.text, understood=said, fault="", reading=reading)


def _reading(
    row: ReadingRow, written: str, asked: _Asked, made: dict[str, set[float]]
) -> tuple[TestPoint, ReadingTaken]:
    phase = _phase(row.phase, asked.phase)
    direction = row.direction
    if direction not in _DIRECTIONS:
        raise CandorError(worded("work.is_not_a_direction_expected_up", direction=direction), value=direction)
    by_range = isinstance(row, RangeReadingRow) and not row.point
    point = _end(row, asked.pack, phase) if by_range else point_by_name(asked.pack, row.point)
    against, served = asked.standard(point)
    reading, reference = _read(row, point, served)
    indicated = math.nan if reading.indicated is None else reading.indicated
    shows = reference if served is None else comes_to(served, reference)
    if not by_range:
        found = point_step(asked.pack, point.key, phase)
        if found is None:
            raise CandorError(worded("work.the_procedure_has_no_point", key=point.key, phase=phase), value=point.key)
        step = found.key
        applied = applied_for(point, _read_as(point, reading), indicated, shows)
    else:
        applied = applied_for(point, _read_as(point, reading), indicated, shows)
        point, step = _made(asked.pack, point, phase, indicated if applied is None else applied, made)
    if kind_of(point).has_friction:
        _near(point, "reading", indicated)
        if point.needs_reference:
            _near(point, "reference", shows / point.worth)
    if applied is not None and not is_at(point, applied):
        raise CandorError(
            worded(
                "work.was_applied_and_is_a_reading",
                applied=engineering(applied, point.unit, 6),
                key=point.key,
                nominal=engineering(point.nominal, point.unit, 6),
            ),
            value=f"{applied:g}",
        )
    figures = tuple((name, value) for name, value in reading.figures if name != INDICATED)
    whole = dict(reading.figures).get(INDICATED, indicated if not figures else None)
    return point, ReadingTaken(
        step=step, phase=phase, point=point.key, indicated=whole, figures=figures, read_as=reading.read_as,
        word=word_at(point, indicated) if kind_of(point).named else "", reference=reference,
        direction=_DIRECTIONS[direction] or reading.direction,
        standard=against if point.needs_reference else "",
        reference_from="typed" if point.needs_reference else "", means="csv", written=written,
    )  # fmt: skip


def _read(row: ReadingRow, point: TestPoint, served: Reference | Chain | None) -> tuple[ReadingJot, float]:
    """Return what a line says was read, as it would be jotted, and the reference, SI."""
    text = row.reading
    kind = kind_of(point)
    reading = understand_reading(text, point, served)
    if reading is None and not kind.has_friction:
        raise CandorError(
            worded("work.is_not_a_reading_of_example", text=text, name=point.name, example=kind.example(point)),
            value=text,
        )
    if reading is None:
        head, reference, direction = split_tail(text, point, served)
        value = point.indicator.check(point.signed(_as_printed(head, point)))
        reading = ReadingJot(indicated=value, reference=reference, direction=direction)
    if reading.reference is not None:
        return reading, reading.reference
    if kind.compares != "reference" or not point.needs_reference:
        return reading, 0.0
    unit = read_unit_of(served) if served is not None else point.asked_unit
    return reading, kept_reading(served, point, point.quantity(of_one_standard(row.reference), unit))


def _as_printed(text: str, point: TestPoint) -> float:
    """A reading, SI: a bare number is what is printed on the scale, as on the bench.

    Raises
    ------
    CandorError
        Where it is so small there that a file of another program has probably written it in A or V.
    """
    value, of = point.quantity(text, point.unit), abs(point.nominal)
    as_si = value / point.marked_factor
    is_bare = re.fullmatch(r"[-+−]?[\d.,]+", text.strip()) is not None
    if is_bare and point.marked_factor != 1 and 0 < abs(value) < SLIPPED * of and abs(as_si) <= 1.1 * of < math.inf:
        printed, other = engineering(value, point.unit, 6), engineering(as_si, point.unit, 6)
        raise CandorError(
            worded("work.is_by_the_numbers_of_the", text=text.strip(), printed=printed, other=other, unit=point.unit),
            value=text, expected=other,
        )  # fmt: skip
    return value


def _read_as(point: TestPoint, reading: ReadingJot) -> ReadingKind:
    return kind_named(reading.read_as) if reading.read_as else kind_of(point)


def _phase(said: str, otherwise: Phase) -> Phase:
    named = said or otherwise
    if named not in ("as found", "as left"):
        raise CandorError(worded("work.is_not_a_phase_expected_as", named=named), value=named)
    return "as left" if named == "as left" else "as found"


def _end(row: ReadingRow, pack: Pack, phase: Phase) -> TestPoint:
    """Return the end of the range that a line names; it must be one on which points are made."""
    asked, function = _plain(row.range), _plain(row.function)
    found = [
        (f, r) for f in pack.functions for r in f.ranges
        if asked in (_plain(r.title), r.key) and function in ("", _plain(f.title), f.key)
    ]  # fmt: skip
    listed = ", ".join(f"{f.title} {r.title}" for f in pack.functions for r in f.ranges) or worded(
        "work.none_write_a_range_first"
    )
    if len(found) != 1:
        what = worded("work.is_not_a_range") if not found else worded("work.names_several_ranges_a_column_function")
        raise CandorError(worded("work.there_are", range=row.range, what=what, listed=listed), value=row.range)
    step = next_step(pack, found[0][0].key, found[0][1].key, phase)
    if step is None or step.point is None:
        raise CandorError(worded("work.the_points_of_the_range_are", title=found[0][1].title), value=asked)
    return step.point


def _made(
    pack: Pack, end: TestPoint, phase: Phase, applied: float, made: dict[str, set[float]]
) -> tuple[TestPoint, str]:
    """Return the point that a reading is of, and its step: one that is there, or was made by a line before, or a new one."""
    known = made.setdefault(end.key, set(points_of_range(pack, end)))
    nominal = nominal_of(end, applied, known)
    known.add(check_nominal(nominal, end))
    function, range_ = end.key.split("/")[:2]
    step = next_step(pack, function, range_, phase)
    point = point_at(end, nominal)
    return point, f"{step.key if step else range_}/{nominal:g}"


def _plain(words: str) -> str:
    return "".join(words.replace("µ", "u").replace("μ", "u").split()).casefold()


def _near(point: TestPoint, what: str, value: float) -> None:
    """Refuse what lies so far from its point that a comma or a prefix must have slipped.

    Raises
    ------
    CandorError
    """
    away = abs(value) / abs(point.nominal) if point.nominal and math.isfinite(point.nominal) else 1.0
    if not 1 / FAR_OFF < away < FAR_OFF:
        raise CandorError(
            worded(
                "work.the_is_at_a_point_of",
                what=what,
                value=engineering(value, point.unit, 6),
                nominal=engineering(abs(point.nominal), point.unit),
            ),
            value=f"{value:g}",
        )
