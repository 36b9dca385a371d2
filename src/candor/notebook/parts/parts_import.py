"""Parts from a CSV table or a netlist: understood line by line before anything is written, and then all or none."""

from __future__ import annotations

import string
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError

from candor.core.circuit.netlist import NetlistError, parse_netlist
from candor.core.errors import CandorError
from candor.core.parts.codes import Marked, read_sections
from candor.core.parts.part import VALUED, Kind
from candor.core.parts.part_kinds import kind_of, read_value
from candor.core.quantities import parse_quantity
from candor.notebook.entries.body import Body
from candor.notebook.entries.parts import CircuitTaken, PartListed, to_part
from candor.notebook.exchange.csv_table import CsvRow, CsvTable, decoded, read_table

REQUIRED = ("part", "value")
_OF_ELEMENT = {"C": "capacitor", "R": "resistor", "L": "inductor", "D": "diode"}  # what a netlist calls them
_VOLTS = {"volts": "volts", "across": "volts_across", "no load": "no_load_volts"}


@dataclass(frozen=True)
class ImportLine:
    """One line: what it was understood to say, or what is wrong with it."""

    number: int
    text: str
    understood: str
    fault: str = ""


@dataclass(frozen=True)
class PartsImport:
    """What a file or paste of parts says. It may be written only where there is no fault."""

    lines: tuple[ImportLine, ...]
    bodies: tuple[Body, ...]
    fault: str = ""

    @property
    def faults(self) -> tuple[str, ...]:
        """Every fault with its line."""
        return ((self.fault,) if self.fault else ()) + tuple(
            f"line {line.number}: {line.fault}" for line in self.lines if line.fault
        )


def preview_parts(content: bytes) -> PartsImport:
    """Understand a table with the columns part and value, or else a netlist.

    Further columns of a table: make, role, volts, watts, can, mains, across, no load, grid, leak limit, note.
    """
    first = next((line for line in decoded(content).split("\n") if line.strip()), "")
    if "part" in first.lower() and any(mark in first for mark in ",;\t"):
        return _table(content)
    return _netlist(content)


def understood_rows(
    table: CsvTable, read: Callable[[CsvRow], Any], say: Callable[[Any], str], nothing: str
) -> PartsImport:
    """Understand a table line by line: `read` makes an entry, or several, of a row or raises; `say` puts one in words."""
    if table.fault:
        return PartsImport((), (), table.fault)
    lines: list[ImportLine] = []
    bodies: list[Body] = []
    for row in table.rows:
        try:
            if row.fault:
                raise CandorError(row.fault)
            body = read(row)
        except CandorError as error:
            lines.append(ImportLine(row.number, row.text, "", str(error)))
        except ValidationError as error:
            first = error.errors()[0]
            why = first["msg"].removeprefix("Value error, ").lower()
            fault = f"{first['loc'][-1]}: {why}, found {first['input']!r}." if first["loc"] else f"{why}."
            lines.append(ImportLine(row.number, row.text, "", fault))
        else:
            made = body if isinstance(body, tuple) else (body,)
            bodies += made
            lines.append(ImportLine(row.number, row.text, "; ".join(say(one) for one in made)))
    return PartsImport(tuple(lines), tuple(bodies), "" if lines else nothing)


def _table(content: bytes) -> PartsImport:
    return understood_rows(read_table(content, REQUIRED), listed_of_row, _understood, "There is no part in the file.")


def listed_of_row(row: CsvRow) -> tuple[PartListed, ...]:
    """Return the part of a row; of a can whose sections stand together (`20/20 uF`), each section."""
    ref, sections = row.cells.get("part", ""), read_sections(row.cells.get("value", ""))
    if len(sections) == 1 or _kind(row.cells) != "capacitor":
        return (_one(row, {}),)
    names = [f"{ref} {letter}" for letter in string.ascii_lowercase[: len(sections)]]
    return tuple(
        _one(row, {"part": name, "value": mark, "can": ref}) for name, mark in zip(names, sections, strict=True)
    )


def _kind(cells: Mapping[str, str]) -> Kind:
    said = cells.get("kind") or cells.get("what") or ""
    return kind_of(cells.get("part", ""), said, cells.get("value", ""), cells.get("make", "").lower())


def _one(row: CsvRow, over: dict[str, str]) -> PartListed:
    cells = {**row.cells, **over}
    ref = cells.get("part", "")
    what = _kind(cells)
    type_, marks = read_value(cells.get("value", ""), what)
    marked = marks[0] if marks else Marked(0.0)
    found: dict[str, object] = {
        name: parse_quantity(cells[column], "V").value for column, name in _VOLTS.items() if cells.get(column)
    }
    if cells.get("watts"):
        found["watts"] = parse_quantity(cells["watts"], "W").value
    if cells.get("grid"):
        found["grid_ohms"] = parse_quantity(cells["grid"], "ohm").value
    if cells.get("leak limit"):
        found["leakage_limit"] = parse_quantity(cells["leak limit"], "A").value
    for name in ("make", "role", "can", "mains", "note"):
        if cells.get(name):
            found[name] = cells[name] if name in ("note", "can") else cells[name].lower()
    return PartListed.model_validate(
        {
            "ref": ref,
            "what": what,
            "type": cells.get("type") or type_,
            "nominal": marked.value,
            "below": marked.below,
            "above": marked.above,
            **found,
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
        lines.append(ImportLine(0, "", f"in the circuit, not on the list: {told}"))
    return PartsImport(tuple(lines), tuple(bodies))


def _understood(body: PartListed) -> str:
    words = [body.ref, to_part(body).words, *([body.make or "make not said"] if body.what in VALUED else [])]
    return ", ".join([*words, body.role] if body.role != "other" else words)
