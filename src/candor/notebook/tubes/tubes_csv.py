"""Tubes on hand as a table, out and in: a line for each tube, and one for each test."""

from __future__ import annotations

import datetime as dt
import re
from collections.abc import Iterable
from dataclasses import replace

from pydantic import Field

from candor.core.errors import CandorError
from candor.core.quantities.show import trimmed
from candor.core.tubes.order import FIGURES
from candor.core.tubes.ratings import kind_of_tube
from candor.core.worded import worded
from candor.notebook.entries.body import Body
from candor.notebook.entries.entry import Entry
from candor.notebook.entries.kinds_entries import WORDS
from candor.notebook.entries.tubes_entries import TubeRecorded, TubeTested, say_figure
from candor.notebook.exchange.columns import Number, TableRow, all_rows, read_rows
from candor.notebook.exchange.csv_table import write_table
from candor.notebook.parts.parts_import import PartsImport, understood_rows
from candor.notebook.tubes.tubes import TubeShop
from candor.notebook.tubes.tubes_text import read_test, read_tube


class TubeRow(TableRow):
    """The columns of a table of tubes: of a test as it is written in a line, which reads it."""

    tube: str
    type: str
    generic: str = ""
    section: str = ""
    nominal: str = ""
    unit: str = ""
    reject: str = ""
    test: str = ""
    outcome: str = ""
    figure: str = ""
    tester: str = ""
    line_min: str = Field(default="", alias="line min")
    line_v: str = Field(default="", alias="line v")
    held_s: str = Field(default="", alias="held s")
    repeats: str = ""
    scatter: str = ""
    looks: str = ""
    date: str = ""


HEADER = TubeRow.columns()


class LineRow(TableRow):
    """The columns of a log of a line."""

    s: Number
    v: Number


def read_line_log(content: bytes) -> tuple[tuple[float, float], ...]:
    """Return a log of a line, s and V, in the order of its time.

    Raises
    ------
    ValueTextError
        With every fault by its line.
    """
    return tuple(sorted(all_rows(content, LineRow, lambda row: (row.s, row.v), "The log")))


def write_tubes(shop: TubeShop) -> str:
    """Return all tubes on hand as CSV, which `preview_tubes` reads back."""
    rows: list[list[object]] = []
    for tube in shop.here:
        b = tube.body
        nominal = _plain(b.nominal, b.unit) if b.nominal else ""
        reject = f"{trimmed(100 * b.reject)} %" if b.reject else ""
        rows += [
            [b.key, b.type, b.generic, section, nominal, b.unit, reject, *[""] * 9, b.looks, ""]
            for section in b.sections
        ]
        for entry in tube.tests:
            t = entry.body
            figure = "" if t.figure is None else _plain(t.figure, t.unit)
            line = "" if t.line_age_s is None else trimmed(t.line_age_s / 60)
            fell = (
                f"{trimmed(t.line_before_volts, 5)} to {trimmed(t.line_held_volts, 5)}" if t.line_held_volts else ""
            )
            held = trimmed(t.hold_s) if t.hold_s else ""
            count, scatter = (t.count, _plain(t.scatter, t.unit)) if t.count > 1 else ("", "")
            rows.append(
                [b.key, b.type, b.generic, t.section, nominal, b.unit, reject, t.test, t.outcome, figure, t.tester, line, fell,
                 held, count, scatter, "", day_of(entry).isoformat()]
            )  # fmt: skip
    return write_table(HEADER, rows)


def _plain(value: float, unit: str) -> str:
    return say_figure(value, unit).replace("µ", "u")


def preview_tubes(content: bytes, shop: TubeShop) -> PartsImport:
    """Understand a table of tubes and tests; of a tube that is there already only the tests that are not there are added.

    A test is recognised by tube, section, what it says and its day; of a table without days by all but the day.
    """
    table = read_rows(content, TubeRow)
    sections: dict[str, list[str]] = {}
    for row in (line.row for line in table.lines if line.row is not None):
        names = sections.setdefault(row.tube, [])
        if row.test not in ("", *FIGURES):
            continue  # of the whole tube
        if row.section not in names:
            names.append(row.section)
    there = {_same(t.body, day) for tube in shop.tubes.values() for t in tube.tests for day in (day_of(t), None)}
    made = {key: tube.body for key, tube in shop.tubes.items()}

    def bodies(row: TubeRow) -> tuple[Body, ...]:
        key, own, new = row.tube, sections[row.tube], ()
        if key not in made:
            made[key] = _recorded(row, own)
            new = (made[key],)  # type: ignore[assignment]
        if not row.test:
            return new
        if "" in own and len(own) > 1 and row.test in FIGURES:
            words = worded("tubes.some_lines_name_a_section_and", key=key)
            raise CandorError(words, value=key, expected=worded("tubes.a_section_in_every_line_or"))
        test = read_test(_line(row), made[key])
        day = dt.date.fromisoformat(row.date) if re.fullmatch(r"\d{4}-\d\d-\d\d", row.date) else None
        if _same(test, day) in there:
            return new
        return (*new, test.model_copy(update={"on": day}))

    found = understood_rows(
        table, bodies, lambda body: WORDS[type(body)](body, {}), worded("tubes.there_is_no_tube_in_the")
    )
    lines = tuple(
        line
        if line.understood or line.fault
        else replace(line, understood=worded("tubes.is_there_already_not_taken_in"))
        for line in found.lines
    )
    return PartsImport(lines, found.bodies, found.fault)


def day_of(entry: Entry[TubeTested]) -> dt.date:
    """Return the day of a test: as it was written with it, where it was taken in later."""
    return entry.body.on or entry.at.date()


def _same(test: TubeTested, day: dt.date | None) -> tuple[object, ...]:
    figure = None if test.figure is None else float(f"{test.figure:.3g}")
    return test.tube, test.section, test.test, test.outcome, figure, test.unit, test.tester, day


def _line(row: TubeRow) -> str:
    parts = (
        ("section {}", row.section),
        ("{}", row.test),
        ("{}", row.outcome or row.figure),
        ("line {} min", row.line_min),
        ("{} V", row.line_v.removesuffix("V").strip()),
        ("held {} s", row.held_s),
        ("{} times scatter " + row.scatter, row.repeats if row.scatter else ""),
        ("on {}", row.tester),
    )
    return " ".join(shape.format(value) for shape, value in parts if value)


def _recorded(row: TubeRow, sections: Iterable[str]) -> TubeRecorded:
    clauses = (("nominal {}", row.nominal), ("reject {}", row.reject))
    said = "".join(f", {shape.format(value)}" for shape, value in clauses if value)
    made = read_tube(f"{row.tube} {row.type}{said}; {row.looks}")
    kind = kind_of_tube(row.generic)
    generic = kind.name if kind is not None else row.generic
    return made.model_copy(update={"generic": generic, "sections": tuple(sections) or ("",)})
