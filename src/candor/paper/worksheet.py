"""A worksheet of the procedure: blank, to be filled at a bench without a computer, or with what was read."""

from __future__ import annotations

import datetime as dt
from typing import TypeAlias

from reportlab.lib.units import mm
from reportlab.platypus import Flowable, Spacer

from candor.core.quantities.show import trimmed
from candor.notebook.entries.calibrate_entries import ReadingTaken
from candor.notebook.entries.entry import Entry
from candor.notebook.work.job import Job
from candor.packs.base import Caution
from candor.packs.model import Pack
from candor.packs.procedure import ProcedureStep, procedure
from candor.paper.drawn_ribbon import RULE, SOFT
from candor.paper.record import Statement
from candor.paper.sheet import Rows, laid, pages, printable, register_fonts, text
from candor.words.greatest_words import cautions_at
from candor.words.proof_words import say_proof

Cell: TypeAlias = "Flowable | list[Flowable] | str"
SHORT = 15  # characters of the type that fit the narrowest column, whatever they are
WIDTHS = (9 * mm, 62 * mm, 36 * mm, 33 * mm, 34 * mm)


def worksheet_pdf(
    job: Job, pack: Pack, shop: str, on: dt.date, filled: bool, statements: tuple[Statement, ...] = (), head: str = ""
) -> bytes:
    """Return the procedure as a table: each step with what is done, cautions before it, the limit, and room for two readings.

    Filled, it says first what a certificate states on its page one, and last the eight words of the job.
    """
    register_fonts()
    named = f"{job.name}, no. {job.serial or '______'}"
    when = on.isoformat() if filled else "date ____________"
    story: list[Flowable] = [
        text(f"Worksheet: {named}", 14, bold=True),
        text(f"{shop or 'Candor'}, {when} · by ____________ · {pack.id}, {pack.edition}", 8, SOFT),
        text(
            "Room ______ °C · humidity ______ % · line ______ V · standard ______________________",
            8,
            SOFT,
            spaceBefore=4,
        ),
        Spacer(1, 3 * mm),
    ]
    if filled and statements:
        story.append(text("To be read with what was read", 9, bold=True, spaceAfter=2))
        story += [
            text(f"– {line.text}" + (f" (entry {line.entry})" if line.entry else ""), 8.5) for line in statements
        ]
        story.append(Spacer(1, 3 * mm))
    read: dict[tuple[str, str], list[Entry[ReadingTaken]]] = {}
    for reading in job.calibrate.readings if filled else ():
        read.setdefault((reading.body.point, reading.body.phase), []).append(reading.entry)
    section = ""
    rows: list[list[Cell]] = []
    for number, step in enumerate(procedure(pack), 1):
        here = step.section
        if here != section:
            story += _table(rows)
            rows, section = [], here
            story.append(text(here, 10.5, bold=True, spaceBefore=6, spaceAfter=2))
        taken = read.get((step.point.key, step.phase), []) if step.point else []
        rows.append(_row(step, cautions_at(pack, step), number, filled and step.key in job.calibrate.done, taken))
    proof = [text(say_proof(head), 6.5, SOFT, spaceBefore=6)] if head else []
    return pages([*story, *_table(rows), *proof], f"Worksheet {named}")


def _table(rows: list[list[Cell]]) -> list[Flowable]:
    if not rows:
        return []
    head: list[Cell] = [text(word, 7.5, SOFT) for word in ("", "step", "limit", "read", "reference")]
    table = Rows([head, *rows], WIDTHS, repeatRows=1)
    return [laid(table, 2.5, "TOP", ("LINEBELOW", (0, 0), (-1, -1), 0.4, RULE))]


def _row(
    step: ProcedureStep, cautions: tuple[Caution, ...], number: int, done: bool, taken: list[Entry[ReadingTaken]]
) -> list[Cell]:
    words = [text(f"Caution: {c.text}", 7.5) for c in cautions]
    what: list[Flowable] = [
        *words,
        text(step.title, 8.5, bold=bool(step.point)),
        *([text(step.do, 7.5, SOFT)] if step.do else []),
    ]
    point = step.point
    if point is None:
        return [str(number), what, "", "done" if done else "____ done", ""]
    read, reference = "______   ______", "______   ______"
    if taken:
        read = "; ".join(_read(entry.body) for entry in taken)
        against = [f"{trimmed(entry.body.reference, 6)} (entry {entry.number})" for entry in taken]
        reference = "; ".join(against) if point.needs_reference else ""
    limit = point.limit_words if point.limit.given else ""
    return [str(number), what, _cell(limit), _cell(read), _cell(reference)]


def _cell(words: str) -> Cell:
    """Words that fit a line need no paragraph, which takes ten times as long to lay out."""
    return printable(words) if len(words) <= SHORT else text(words, 8)


def _read(body: ReadingTaken) -> str:
    if body.word or body.indicated is not None:
        return body.word or trimmed(body.indicated or 0.0, 6)
    return ", ".join(f"{name} {trimmed(value, 6)}" for name, value in body.figures)
