"""Parts from a CSV table or a netlist: understood line by line before anything is written, and then all or none."""

from __future__ import annotations

import string
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from pydantic import Field, ValidationError

from candor.core.circuit.netlist import NetlistError, parse_netlist
from candor.core.errors import CandorError
from candor.core.parts.codes import Marked, read_sections
from candor.core.parts.part import VALUED, Kind
from candor.core.parts.part_kinds import kind_of, read_value
from candor.notebook.entries.body import Body
from candor.notebook.entries.parts import CircuitTaken, PartListed, to_part
from candor.notebook.exchange.columns import (
    Amperes,
    Folded,
    Ohms,
    Preview,
    R,
    ReadTable,
    TableRow,
    Volts,
    Watts,
    read_rows,
    say_invalid,
)
from candor.notebook.exchange.csv_table import decoded

_OF_ELEMENT = {"C": "capacitor", "R": "resistor", "L": "inductor", "D": "diode"}  # what a netlist calls them


class PartRow(TableRow):
    """The columns of a table of parts."""

    part: str
    value: str
    kind: str = ""
    what: str = ""
    type: str = ""
    make: Folded = ""
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
    """What a file or paste of parts says. It may be written only where there is no fault."""

    lines: tuple[ImportLine, ...]
    bodies: tuple[Body, ...]
    fault: str = ""


def preview_parts(content: bytes) -> PartsImport:
    """Understand a table with the columns part and value, or else a netlist.

    Further columns of a table: make, role, volts, watts, can, mains, across, no load, grid, leak limit, note.
    """
    first = next((line for line in decoded(content).split("\n") if line.strip()), "")
    if "part" in first.lower() and any(mark in first for mark in ",;\t"):
        return understood_rows(
            read_rows(content, PartRow), listed_of_row, _understood, "There is no part in the file."
        )
    return _netlist(content)


def understood_rows(
    table: ReadTable[R], make: Callable[[R], Any], say: Callable[[Any], str], nothing: str
) -> PartsImport:
    """Understand a table line by line: `make` makes an entry, or several, of a row or raises; `say` puts one in words."""
    if table.fault:
        return PartsImport((), (), table.fault)
    lines: list[ImportLine] = []
    bodies: list[Body] = []
    for line in table.lines:
        try:
            if line.row is None:
                raise CandorError(line.fault)
            body = make(line.row)
        except CandorError as error:
            lines.append(ImportLine(line.number, line.text, "", str(error)))
        except ValidationError as error:
            lines.append(ImportLine(line.number, line.text, "", say_invalid(error)))
        else:
            made = body if isinstance(body, tuple) else (body,)
            bodies += made
            lines.append(ImportLine(line.number, line.text, "; ".join(say(one) for one in made)))
    fault = "" if lines else nothing
    return PartsImport((*_not_read(table), *lines), tuple(bodies), fault)


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
        lines.append(ImportLine(0, "", f"In the circuit, not on the list: {told}."))
    return PartsImport(tuple(lines), tuple(bodies))


def _understood(body: PartListed) -> str:
    words = [body.ref, to_part(body).words, *([body.make or "make not said"] if body.what in VALUED else [])]
    return ", ".join([*words, body.role] if body.role != "other" else words)
