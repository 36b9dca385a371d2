"""Parts from a CSV table or a netlist: understood line by line before anything is written, and then all or none."""

from __future__ import annotations

import re
import string
from collections.abc import Callable, Iterable, Mapping, Sequence
from functools import partial
from typing import Annotated, Any, ClassVar, get_args

from pydantic import BeforeValidator, Field, ValidationError

from candor.core.circuit.netlist import NetlistError, parse_netlist
from candor.core.errors import CandorError, ValueTextError
from candor.core.jot.board_line import listed
from candor.core.late_dataclass import dataclass
from candor.core.late_pattern import late_pattern
from candor.core.parts.codes import Marked, read_sections
from candor.core.parts.part import VALUED, Kind, Make
from candor.core.parts.part_kinds import kind_of, make_said, read_value
from candor.core.worded import worded
from candor.notebook.entries.body import Body
from candor.notebook.entries.parts_entries import CircuitTaken, PartListed, to_part
from candor.notebook.exchange.columns import (
    Amperes,
    Folded,
    Ohms,
    Preview,
    R,
    ReadLine,
    ReadTable,
    TableRow,
    Volts,
    Watts,
    read_cells,
    read_rows,
    say_invalid,
)
from candor.notebook.exchange.csv_table import decoded

# A part as one types it begins with its designator and a value with its unit; an element of a netlist with two nodes.
_LISTED = late_pattern(
    r"[A-Za-z]{1,4}\d+[a-z]?[\s,;]+[\d.,/]+\s*(?:[kKMmunpµμ]?(?:F|fd|ohms?|Ω|Hy?)|mfd|mmfd?|meg|[kKMunpµμ])(?![\w])|"
    r"[A-Za-z]{1,4}\d+[a-z]?[\s,;]+\d+[kKMRunpµμ]\d*(?![\w])"
)
_OF_ELEMENT = {"C": "capacitor", "R": "resistor", "L": "inductor", "D": "diode"}  # what a netlist calls them


def _make(cell: object) -> object:
    made = make_said(cell) if isinstance(cell, str) else cell
    if made and made not in get_args(Make):
        makes = ", ".join(filter(None, get_args(Make)))
        raise ValueTextError(worded("parts.is_not_a_make_of_part", cell=cell, makes=makes), value=str(cell))
    return made


class PartRow(TableRow):
    """The columns of a table of parts."""

    heads: ClassVar[Mapping[str, str]] = {
        "ref": "part", "reference": "part", "designator": "part", "refdes": "part", "symbol": "part", "component": "part",
        "item": "part", "part no": "part", "val": "value", "nominal": "value", "capacitance": "value", "resistance": "value",
        "rating": "volts", "voltage": "volts", "v": "volts", "working volts": "volts", "wv": "volts", "rated volts": "volts",
        "power": "watts", "wattage": "watts", "w": "watts", "material": "make", "dielectric": "make", "composition": "make",
        "construction": "make", "function": "role", "remarks": "note", "remark": "note", "notes": "note", "comment": "note",
        "description": "note", "category": "kind",
    }  # fmt: skip
    part: str
    value: str
    kind: str = ""
    what: str = ""
    type: str = ""
    make: Annotated[str, BeforeValidator(_make)] = ""
    role: Folded = ""
    mains: Folded = ""
    can: str = ""
    note: str = ""
    volts: Volts = 0.0
    volts_across: Volts = Field(default=0.0, alias="across")
    no_load_volts: Volts = Field(default=0.0, alias="no load")
    watts: Watts = 0.0
    grid_ohms: Ohms = Field(default=0.0, alias="grid")
    leakage_limit: Amperes = Field(default=0.0, alias="leak limit")


@dataclass(frozen=True)
class ImportLine:
    """One line: what it was understood to say, or what is wrong with it."""

    number: int
    text: str
    understood: str
    fault: str = ""


@dataclass(frozen=True)
class PartsImport(Preview):
    """What a file or paste of parts says: `bodies` of the lines without a fault, `has_heads` where its first names columns."""

    lines: tuple[ImportLine, ...]
    bodies: tuple[Body, ...]
    fault: str = ""
    has_heads: bool = True


def preview_parts(content: bytes) -> PartsImport:
    """Understand a table with the columns part and value, or else a netlist.

    Further columns of a table: make, role, volts, watts, can, mains, across, no load, grid, leak limit, note.
    """
    lines = [line for line in decoded(content).split("\n") if line.strip()]
    first = lines[0] if lines else ""
    heads = {cell.strip().lower() for cell in re.split(r"[,;\t]", first)}
    if any(mark in first for mark in ",;\t") and heads & {
        "part",
        *(h for h, name in PartRow.heads.items() if name == "part"),
    }:
        return understood_rows(
            read_rows(content, PartRow), listed_of_row, _understood, worded("parts.there_is_no_part_in_the")
        )
    if 2 * sum(_LISTED.match(line.strip()) is not None for line in lines) > len(lines):
        return _part_lines(lines)
    return _netlist(content)


def _of_line(line: str) -> tuple[PartListed, ...]:
    ref, _, rest = " ".join(re.sub(r"[\t;]|,(?!\d)", " ", line).split()).partition(" ")
    if not re.fullmatch(r"[A-Za-z]{1,4}\d+[a-z]?", ref):
        raise CandorError(worded("parts.candor_cannot_read_here_example_c", line=line.strip()))
    cells = listed(ref.upper(), rest, {}).cells
    return listed_of_row(read_cells(PartRow, cells))


def _part_lines(lines: Sequence[str]) -> PartsImport:
    """Understand parts that stand a line each, with no heading."""
    each = ((number, line.strip(), partial(_of_line, line)) for number, line in enumerate(lines, 1))
    return PartsImport(*_understood_each(each, _understood), has_heads=False)


def understood_rows(
    table: ReadTable[R], make: Callable[[R], Any], say: Callable[[Any], str], nothing: str
) -> PartsImport:
    """Understand a table line by line: `make` makes an entry, or several, of a row or raises; `say` puts one in words."""
    if table.fault:
        return PartsImport((), (), table.fault)

    def made_of(line: ReadLine[R]) -> Any:
        if line.row is None:
            raise CandorError(line.fault)
        return make(line.row)

    lines, bodies = _understood_each(((x.number, x.text, partial(made_of, x)) for x in table.lines), say)
    return PartsImport((*_not_read(table), *lines), bodies, "" if lines else nothing)


def _understood_each(
    rows: Iterable[tuple[int, str, Callable[[], Any]]], say: Callable[[Any], str]
) -> tuple[tuple[ImportLine, ...], tuple[Body, ...]]:
    """Understand rows, each by its number, its text and what makes entries of it: all lines, and entries of those without fault."""
    lines: list[ImportLine] = []
    bodies: list[Body] = []
    for number, text, make in rows:
        try:
            body = make()
        except CandorError as error:
            lines.append(ImportLine(number, text, "", str(error)))
        except ValidationError as error:
            lines.append(ImportLine(number, text, "", say_invalid(error)))
        else:
            made = body if isinstance(body, tuple) else (body,)
            bodies += made
            lines.append(ImportLine(number, text, "; ".join(say(one) for one in made)))
    return tuple(lines), tuple(bodies)


def _not_read(table: ReadTable[Any]) -> tuple[ImportLine, ...]:
    """Say which columns nobody reads: one that is misspelt would be lost without a word."""
    return (ImportLine(0, "", table.unread_words),) if table.unread else ()


def listed_of_row(row: PartRow) -> tuple[PartListed, ...]:
    """Return the part of a row; of a can whose sections stand together (`20/20 uF`), each section."""
    sections = read_sections(row.value)
    if len(sections) == 1 or _kind(row) != "capacitor":
        return (_one(row),)
    names = [f"{row.part} {letter}" for letter in string.ascii_lowercase[: len(sections)]]
    return tuple(
        _one(row.model_copy(update={"part": name, "value": mark}), row.part)
        for name, mark in zip(names, sections, strict=True)
    )


def _kind(row: PartRow) -> Kind:
    return kind_of(row.part, row.kind or row.what, row.value, row.make)


def _one(row: PartRow, can: str = "") -> PartListed:
    what = _kind(row)
    type_, marks = read_value(row.value, what)
    marked = marks[0] if marks else Marked(0.0)
    said = row.said(
        "make",
        "role",
        "mains",
        "note",
        "can",
        "volts",
        "volts_across",
        "no_load_volts",
        "watts",
        "grid_ohms",
        "leakage_limit",
    )
    return PartListed.model_validate(
        {
            "ref": row.part,
            "what": what,
            "type": row.type or type_,
            "nominal": marked.value,
            "below": marked.below,
            "above": marked.above,
            **said,
            **({"can": can} if can else {}),
        }
    )


def _netlist(content: bytes) -> PartsImport:
    text = decoded(content)
    try:
        netlist = parse_netlist(text)
    except NetlistError as error:
        return PartsImport((), (), str(error))
    lines: list[ImportLine] = []
    bodies: list[Body] = [CircuitTaken(netlist=text)]
    others: dict[str, int] = {}
    for number, e in enumerate(netlist.elements, 1):
        what = _OF_ELEMENT.get(e.LETTER)
        if what is None:
            others[e.LETTER] = others.get(e.LETTER, 0) + 1
            continue
        body = PartListed.model_validate({"ref": e.name, "what": what, "nominal": e.value})
        bodies.append(body)
        lines.append(ImportLine(number, f"{e.name} {e.plus} {e.minus}", _understood(body)))
    if others:
        told = ", ".join(f"{count} {kind}" for kind, count in sorted(others.items()))
        lines.append(ImportLine(0, "", worded("parts.in_the_circuit_not_on_the", told=told)))
    return PartsImport(tuple(lines), tuple(bodies))


def _understood(body: PartListed) -> str:
    words = [body.ref, to_part(body).words, *([body.make or "make not said"] if body.what in VALUED else [])]
    return ", ".join([*words, body.role] if body.role != "other" else words)
