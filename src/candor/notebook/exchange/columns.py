"""The one reader of people's tables: a pydantic model names the columns and what each takes."""

from __future__ import annotations

import datetime as dt
from collections.abc import Callable, Mapping
from typing import Annotated, Any, ClassVar, Generic, TypeVar

from pydantic import BaseModel, BeforeValidator, ConfigDict, ValidationError, ValidationInfo

from candor.core.errors import CandorError, ValueTextError
from candor.core.late_dataclass import dataclass
from candor.core.quantities import parse_date, parse_number, parse_quantity
from candor.core.worded import worded
from candor.notebook.exchange.csv_table import read_table


class TableRow(BaseModel):
    """A line of a table. A field is a column, by its alias where it has one; an empty cell is a cell that was not written."""

    model_config = ConfigDict(frozen=True, extra="ignore", populate_by_name=True)
    heads: ClassVar[Mapping[str, str]] = {}  # as other programs head a column, by lower case, with its name here

    @classmethod
    def columns(cls) -> tuple[str, ...]:
        """Every column that is read."""
        return tuple(field.alias or name for name, field in cls.model_fields.items())

    @classmethod
    def required(cls) -> tuple[str, ...]:
        """The columns that a table must have."""
        return tuple(field.alias or name for name, field in cls.model_fields.items() if field.is_required())

    def said(self, *names: str) -> dict[str, Any]:
        """Return of these fields what the line says, and nothing of what it leaves open."""
        return {name: getattr(self, name) for name in names if name in self.model_fields_set}


def _in(unit: str) -> BeforeValidator:
    return BeforeValidator(lambda cell: parse_quantity(cell, unit).value if isinstance(cell, str) else cell)


def _number(cell: object, info: ValidationInfo) -> object:
    return parse_number(cell, f"{info.field_name}, a number") if isinstance(cell, str) else cell


def _day(cell: object, info: ValidationInfo) -> object:
    return parse_date(cell, (info.context or {})["today"]) if isinstance(cell, str) else cell


Volts = Annotated[float, _in("V")]
Amperes = Annotated[float, _in("A")]
Watts = Annotated[float, _in("W")]
Ohms = Annotated[float, _in("ohm")]
Number = Annotated[float, BeforeValidator(_number)]
Day = Annotated[dt.date, BeforeValidator(_day)]  # one that is not ahead
Folded = Annotated[str, BeforeValidator(lambda cell: cell.casefold() if isinstance(cell, str) else cell)]


R = TypeVar("R", bound=TableRow)
T = TypeVar("T")


@dataclass(frozen=True)
class ReadLine(Generic[R]):
    """A line of a file: its number and text, and what it says, or what is wrong with it."""

    number: int
    text: str
    row: R | None
    fault: str = ""


@dataclass(frozen=True)
class ReadTable(Generic[R]):
    """A whole file: its lines, what is wrong with all of it, and the columns nobody reads."""

    lines: tuple[ReadLine[R], ...]
    fault: str = ""
    unread: tuple[str, ...] = ()

    @property
    def unread_words(self) -> str:
        """What is said of the columns that are not read; nothing where all are."""
        listed = "”, “".join(self.unread)
        one = len(self.unread) == 1
        said = worded(
            "exchange.the_column_not_read_what_stands",
            plural="" if one else "s",
            listed=listed,
            plural_2="is" if one else "are",
        )
        return said if self.unread else ""


class Preview:
    """What every preview of a file tells; it may be written only where there is no fault."""

    lines: tuple[Any, ...]
    fault: str

    @property
    def count(self) -> int:
        """How many lines the file has, heading and remarks apart."""
        return sum(line.number > 0 for line in self.lines)

    @property
    def faults(self) -> tuple[str, ...]:
        """Every fault with its line."""
        of_file = (self.fault,) if self.fault else ()
        return of_file + tuple(f"line {line.number}: {line.fault}" for line in self.lines if line.fault)


def read_cells(shape: type[R], cells: Mapping[str, str], today: dt.date | None = None) -> R:
    """Read one line, its cells by column.

    Raises
    ------
    CandorError
        With what is wrong in which column.
    """
    written = {name: cell.strip() for name, cell in cells.items()}
    needed = dict.fromkeys(shape.required(), "")
    given = {name: cell for name, cell in {**needed, **written}.items() if cell or name in needed}
    try:
        return shape.model_validate(given, context={"today": today or dt.date.max})
    except ValidationError as error:
        raise CandorError(say_invalid(error)) from error


def say_invalid(error: ValidationError) -> str:
    """Say what is wrong first: a sentence of ours as it stands, else the column, why, and what was found."""
    first = error.errors()[0]
    ours = first.get("ctx", {}).get("error")
    if isinstance(ours, CandorError):
        return ours.sentence
    why = first["msg"].removeprefix("Value error, ").lower()
    return f"{first['loc'][-1]}: {why}, found {first['input']!r}." if first["loc"] else f"{why}."


def read_rows(content: bytes, *shapes: type[R], today: dt.date | None = None) -> ReadTable[R]:
    """Read a file as the first of these shapes whose columns it has; where it has those of none, the fault is that of the first."""
    tables = [(shape, read_table(content, shape.required(), shape.heads)) for shape in shapes]
    shape, table = next(((s, t) for s, t in tables if not t.fault), tables[0])
    if table.fault:
        return ReadTable((), table.fault)
    lines = []
    for line in table.rows:
        try:
            if line.fault:
                raise ValueTextError(line.fault)
            lines.append(ReadLine(line.number, line.text, read_cells(shape, line.cells, today)))
        except CandorError as error:
            lines.append(ReadLine(line.number, line.text, None, str(error)))
    return ReadTable(tuple(lines), "", tuple(name for name in table.columns if name not in shape.columns()))


def columns_left_out(content: bytes, *shapes: type[R]) -> str:
    """Return what is said of the columns of a file that its rows do not read; nothing where all are read."""
    return read_rows(content, *shapes).unread_words


def all_rows(
    content: bytes, shape: type[R], make: Callable[[R], T], what: str, today: dt.date | None = None
) -> tuple[T, ...]:
    """Return what is made of every line, or of none.

    Raises
    ------
    ValueTextError
        With every fault by its line.
    """
    table = read_rows(content, shape, today=today)
    faults = [table.fault] if table.fault else []
    found: list[T] = []
    for line in table.lines:
        try:
            if line.row is None:
                raise ValueTextError(line.fault)
            found.append(make(line.row))
        except CandorError as error:
            faults.append(f"line {line.number}: {error}")
    refuse_faults(what, faults)
    return tuple(found)


def refuse_faults(what: str, faults: list[str]) -> None:
    """Refuse a file with all that is wrong with it.

    Raises
    ------
    ValueTextError
        Where anything is.
    """
    if faults:
        raise ValueTextError("\n".join((worded("exchange.cannot_be_taken", what=what), *(f"  {f}" for f in faults))))
