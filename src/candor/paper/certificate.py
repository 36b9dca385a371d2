"""The certificate as PDF: text selectable, fonts embedded, pages numbered."""

from __future__ import annotations

import io
from collections.abc import Callable
from itertools import groupby
from pathlib import Path
from typing import Any

from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import (
    BaseDocTemplate,
    CondPageBreak,
    Flowable,
    Frame,
    HRFlowable,
    PageTemplate,
    Spacer,
    Table,
)

from candor.core.errors import CancelledError
from candor.core.quantities import plain, signed
from candor.core.quantities.show import decimals, scaled, trimmed
from candor.core.worded import worded
from candor.paper.drawn_ribbon import BRICK, INK, PETROL, RULE, SOFT, OutcomeMark, RibbonFigure
from candor.paper.pictures import picture_block
from candor.paper.record import CertificateRecord, PointLine, RunLines
from candor.paper.sheet import Rows, laid, register_fonts, text
from candor.words.proof_words import say_proof

WIDTH = A4[0] - 36 * mm
RIBBON_HEIGHTS = (118, 92, 78)  # points; lower where there are two or three functions, so that page one holds them
MOST_OF_A_PAGE = 0.55 * A4[1]  # a table that finds less begins a page; after a few words left over it does not
FITS = 10  # characters of a limit that still fit its cell
LONG = 120  # characters that still fit a cell of the head


def certificate_pdf(
    record: CertificateRecord,
    digest: str = "",
    should_stop: Callable[[], bool] = lambda: False,
    second: str = "",
    photos: Path | None = None,
) -> bytes:
    """Set a certificate from what it states, and from nothing else; without a digest it is a draft, and says so.

    `second` is who signed it as well, and when; `photos` the folder of the pictures that it names.

    Raises
    ------
    CancelledError
        When `should_stop` answers True between parts.
    """
    register_fonts()
    buffer = io.BytesIO()
    document = BaseDocTemplate(
        buffer, pagesize=A4, leftMargin=18 * mm, rightMargin=18 * mm, topMargin=16 * mm, bottomMargin=18 * mm,
        title=worded("paper.certificate_of_calibration", number=record.number), author=record.shop or record.issued_by,
        subject=f"{record.maker} {record.type} {record.serial}", creator="Candor",
    )  # fmt: skip
    frame = Frame(document.leftMargin, document.bottomMargin, document.width, document.height, 0, 0, 0, 0)
    document.addPageTemplates(PageTemplate(frames=[frame]))
    story = _page_one(record, digest)
    if should_stop():
        raise CancelledError(worded("paper.setting_the_certificate_was_stopped"))
    story += _tables(record)
    if record.pictures:
        story += picture_block(record.pictures, photos, should_stop)
    story += _ending(record, digest, second)
    document.build(story, canvasmaker=_numbered(record, digest))
    return buffer.getvalue()


def _numbered(record: CertificateRecord, digest: str) -> type[Canvas]:
    """Return a canvas that writes number and page of pages at the foot, once their count is known."""

    class NumberedCanvas(Canvas):
        def __init__(self, *arguments: Any, **named: Any) -> None:
            super().__init__(*arguments, **{**named, "initialFontName": "B612"})
            self._pages: list[dict[str, Any]] = []

        def showPage(self) -> None:  # noqa: N802 - the name is the library's
            self._pages.append(dict(self.__dict__))
            self._startPage()

        def save(self) -> None:
            for number, page in enumerate(self._pages, 1):
                self.__dict__.update(page)
                self.setFont("B612", 7.5)
                self.setFillColor(SOFT)
                what = f"{record.maker} {record.type} {record.serial}"
                what = what if len(what) < 60 else f"{what[:58]} …"
                kind = "Certificate" if digest else worded("paper.draft_not_signed")
                self.drawString(18 * mm, 10 * mm, f"{kind} {record.number} · {what} · {record.issued_at:%Y-%m-%d}")
                self.drawRightString(
                    A4[0] - 18 * mm, 10 * mm, worded("paper.page_of", number=number, pages=len(self._pages))
                )
                super().showPage()
            super().save()

    return NumberedCanvas


def _page_one(record: CertificateRecord, digest: str) -> list[Flowable]:
    story: list[Flowable] = [
        text(record.shop or "Calibration", 10, SOFT),
        text(
            "Certificate of calibration" if digest else "Certificate of calibration: draft",
            22,
            INK,
            bold=True,
            spaceAfter=2,
        ),
        text(f"No. {record.number}", 10, SOFT),
        Spacer(0, 8),
        HRFlowable(width="100%", color=PETROL, thickness=1.4, spaceAfter=9),
        _facts(record),
        *[text(f"{title}: {words}", 9, spaceBefore=3) for title, words in _long_facts(record)],
        Spacer(0, 9),
        _outcomes(record),
        Spacer(0, 7),
    ]
    if record.remarks:
        story += [*_remark_block(record), Spacer(0, 8)]
    functions = list(dict.fromkeys(p.function for p in record.places))
    tall = RIBBON_HEIGHTS[min(len(functions), len(RIBBON_HEIGHTS)) - 1]
    for function in functions:
        story += [RibbonFigure(record, function, WIDTH, tall), Spacer(0, 4)]
    story += [
        text(worded("paper.error_of_every_test_point_against"), 7.5, SOFT),
        Spacer(0, 7),
        _references(record),
        Spacer(0, 6),
        text(f"Decision rule: {record.rule_words}{_traced((record.told_by.get('rule', 0),))}", 8, SOFT),
        text(record.coverage_words, 8, SOFT, spaceBefore=3),
        *([text(record.reference_words, 8, SOFT, spaceBefore=3)] if record.reference_words else []),
        text(record.advice, 8, SOFT, spaceBefore=3),
    ]
    return story


def _facts(record: CertificateRecord) -> Table:
    days = [f"{day:%Y-%m-%d}" for day in record.measured]
    measured = "no reading yet" if not days else days[0] if len(days) == 1 else f"{days[0]} to {days[-1]}"
    left = (
        ("Instrument", _short(f"{record.maker} {record.type}")),
        ("", record.kind),
        ("Serial no.", (_short(record.serial) or "not noted") + _traced((record.told_by.get("serial", 0),))),
        ("Owner", (_short(record.owner) or "not noted") + _traced((record.told_by.get("owner", 0),))),
    )
    right = (
        (
            "Received",
            f"{record.received:%Y-%m-%d}{_traced((record.told_by.get('opened', 0),))}"
            if record.received
            else "not noted",
        ),
        ("Measured", measured),
        (
            "Conditions",
            " · ".join(line.text for line in record.conditions)
            + _traced(tuple(line.entry for line in record.conditions)),
        ),
        ("Procedure", record.procedure_words),
    )
    rows = [
        [text(a, 8, SOFT), text(b, 9.5), text(c, 8, SOFT), text(d, 9)]
        for (a, b), (c, d) in zip(left, right, strict=True)
    ]
    table = Rows(rows, colWidths=[20 * mm, WIDTH / 2 - 26 * mm, 21 * mm, WIDTH / 2 - 15 * mm])
    return laid(table, 1, "TOP")


def _short(words: str) -> str:
    return words if len(words) <= LONG else "whole below"


def _long_facts(record: CertificateRecord) -> list[tuple[str, str]]:
    """What does not fit a cell is printed whole under the table, over as many pages as it needs."""
    facts = (("Instrument", f"{record.maker} {record.type}"), ("Serial no.", record.serial), ("Owner", record.owner))
    return [(title, words) for title, words in facts if len(words) > LONG]


def _outcomes(record: CertificateRecord) -> Table:
    rows = []
    for title, run in (("As found", record.as_found), ("As left", record.as_left)):
        note = record.as_left_note if title == "As left" and record.as_left_note else run.sentence
        rows.append([OutcomeMark(run.outcome, 4.5), text(f"{title}: {run.word}", 13, bold=True), text(note, 9, SOFT)])
    table = Rows(rows, colWidths=[7 * mm, 62 * mm, WIDTH - 69 * mm])
    return laid(table, 2, "MIDDLE")


def _remark_block(record: CertificateRecord) -> list[Flowable]:
    """Paragraphs, not cells: one of any length goes on over the page."""
    lines = [
        text(f"– {line.text}{_traced((line.entry,))}", 9, leftIndent=8, borderPadding=0, spaceAfter=1.5)
        for line in record.remarks
    ]
    return [text("To be read with the verdicts", 9, BRICK, bold=True, spaceAfter=2), *lines]


def _references(record: CertificateRecord) -> Table:
    rows = [[text(words, 8, SOFT) for words in ("Reference", "Good for", "Age and traceability")]]
    for line in record.references:
        serial = f", no. {line.serial}" if line.serial else ""
        rows.append(
            [
                text(f"{line.name}{serial}", 8.5),
                text(line.good_for, 8),
                text(f"{line.age} {line.traceability}.{_traced((line.entry,))}", 8),
            ]
        )
    if not record.references:
        rows.append([text("none was named", 8.5), text("", 8), text("", 8)])
    table = Rows(rows, colWidths=[WIDTH * 0.22, WIDTH * 0.36, WIDTH * 0.42])
    return laid(table, 2, "TOP", ("LINEBELOW", (0, 0), (-1, 0), 0.6, RULE))


def _tables(record: CertificateRecord) -> list[Flowable]:
    story: list[Flowable] = [CondPageBreak(MOST_OF_A_PAGE)]
    before: list[Flowable] = []
    runs = [record.as_found] + ([record.as_left] if record.as_left.phase == "as left" else [])
    for run in runs:
        if not run.points:
            continue
        story += [*before, text(run.phase.capitalize(), 13, INK, bold=True, spaceBefore=10, spaceAfter=2)]
        before = [CondPageBreak(MOST_OF_A_PAGE)]
        story.append(text(f"{run.word.capitalize()}. {run.sentence}.", 9, SOFT, spaceAfter=3))
        for function, points in groupby(run.points, key=lambda p: p.function):
            story += _function_table(function, list(points), run)
    return story


def _function_table(function: str, points: list[PointLine], run: RunLines) -> list[Flowable]:
    heads = ("range", "reference", "shown", "error", "± U", "k", "limit", "TUR", "", "verdict", "entries")
    rows: list[list[Any]] = [list(heads)]
    before = ""
    for point in points:
        ratio = point.test_uncertainty_ratio
        own = point.judged_in in ("", point.unit)  # the error in the unit of the value; else it says its own
        sizes = [v for v in (point.reference, point.indicated, point.limit if own else None) if v is not None]
        factor, symbol = scaled(point.unit, *sizes)
        judged = factor if own else 1.0
        expanded = point.expanded_uncertainty / judged
        places = decimals(expanded)
        limit, shown = _limit(point, factor=judged, own=own), _shown(point, factor, places if own else None)
        if point.reference is None and not point.seen and point.indicated is not None:
            shown = f"{shown} {symbol}".strip()  # nothing else in the row says it
        rows.append(
            [
                point.range if point.range != before else "",
                "–" if point.reference is None else f"{trimmed(point.reference / factor, 6)} {symbol}".strip(),
                shown,
                "–"
                if point.error is None
                else signed(point.error / judged, places) + ("" if own else f" {point.judged_in}"),
                "–" if point.seen else plain(expanded, places),
                "–" if point.seen else f"{point.coverage_factor:.2f}",
                limit,
                "" if ratio is None else f"{ratio:.1f}",
                OutcomeMark(point.outcome),
                point.outcome,
                ", ".join(str(r.entry) for r in point.readings),
            ]
        )
        before = point.range
        if words := _under(point, limit, run.phase):
            rows.append(["", text(words, 7.5, SOFT), *[""] * (len(heads) - 2)])
    widths = [15, 24, 17, 17, 15, 10, 14, 11, 6, 22, 23]
    table = Rows(rows, colWidths=[w * mm for w in widths], repeatRows=1)
    style: list[tuple[Any, ...]] = [
        ("TEXTCOLOR", (0, 0), (-1, 0), SOFT), ("TEXTCOLOR", (0, 1), (-1, -1), INK),
        ("TEXTCOLOR", (10, 1), (10, -1), SOFT), ("ALIGN", (1, 0), (7, -1), "RIGHT"),
        ("LINEBELOW", (0, 0), (-1, 0), 0.6, RULE), ("RIGHTPADDING", (0, 0), (-1, -1), 4),
    ]  # fmt: skip
    for index, row in enumerate(rows[1:], 1):
        if not isinstance(row[1], str):  # what stands under a point goes over the whole width
            style += [("SPAN", (1, index), (-1, index)), ("ALIGN", (1, index), (-1, index), "LEFT")]
        if row[0] and index > 1:
            style.append(("LINEABOVE", (0, index), (-1, index), 0.3, RULE))
    laid(table, 1.6, "MIDDLE", *style)
    return [text(f"{function}, {run.phase}", 9.5, INK, bold=True, spaceBefore=5, spaceAfter=1), table, Spacer(0, 4)]


def _shown(point: PointLine, factor: float, places: int | None) -> str:
    """What the instrument showed, in the row's prefix: a word, a value, or infinity."""
    if point.seen:
        return point.seen
    if point.indicated is None:
        return "∞"
    return trimmed(point.indicated / factor, 5) if places is None else plain(point.indicated / factor, places)


def _limit(point: PointLine, factor: float, own: bool) -> str:
    if point.probability_in_tolerance is None:
        return "–"
    if point.limit is not None and own and point.error is not None and point.limit_words.startswith("±"):
        return trimmed(point.limit / factor, 3)
    short = point.limit_words.replace("at most ", "≤ ").replace("at least ", "≥ ")
    return short if len(short) <= FITS else "below"  # where it is whole: it would run into its neighbour


def _under(point: PointLine, limit: str, phase: str) -> str:
    """What is said under a point: its own state, a limit too long for its cell, both directions, the friction, another standard."""
    words = point.notes
    if point.state not in ("", phase):
        words = f"{point.state[:1].upper()}{point.state[1:]}. {words}"
    if limit == "below":
        words = f"Limit {point.limit_words}. {words}"
    if point.rising is not None and point.falling is not None and point.friction_divisions is not None:
        places = decimals(point.expanded_uncertainty)
        both = worded(
            "paper.rising_falling",
            rising=signed(point.rising, places),
            falling=signed(point.falling, places),
            unit=point.unit,
        )
        words = worded(
            "paper.friction_division", both=both, friction_divisions=trimmed(point.friction_divisions, 2), words=words
        )
    return words.strip()


def _ending(record: CertificateRecord, digest: str, second: str) -> list[Flowable]:
    story: list[Flowable] = [text("What was changed", 11, INK, bold=True, spaceBefore=8, spaceAfter=2)]
    if record.changes:
        story += [text(f"{line.text}{_traced((line.entry,))}", 9) for line in record.changes]
    else:
        story.append(text("Nothing.", 9))
    if record.steady:
        story.append(text("How steady it is", 11, INK, bold=True, spaceBefore=8, spaceAfter=2))
        story += [text(f"{line.text}{_traced((line.entry,))}", 9) for line in record.steady]
    if record.due is not None:
        story.append(text("Due again", 11, INK, bold=True, spaceBefore=8, spaceAfter=2))
        story.append(text(f"{record.due.text}{_traced((record.due.entry,))}", 9))
    if record.leaving:
        story.append(text("Looked at before it goes", 11, INK, bold=True, spaceBefore=8, spaceAfter=2))
        story.append(text(worded("paper.as_a_bench_looks_at_it"), 8.5, SOFT, spaceAfter=2))
        story += [text(f"{line.text}{_traced((line.entry,)) if line.entry else ''}", 9) for line in record.leaving]
    if record.not_as_drawn:
        story.append(
            text("Not as drawn: it stays with the instrument", 11, INK, bold=True, spaceBefore=8, spaceAfter=2)
        )
        story += [
            text(f"{line.text}{_traced((line.entry,)) if line.entry else ''}", 9) for line in record.not_as_drawn
        ]
    if record.cautions:
        story.append(
            text("Cautions for whoever opens it or uses it", 10.5, INK, bold=True, spaceBefore=8, spaceAfter=2)
        )
        story += [text(words, 8.5, spaceAfter=2) for words in record.cautions]
    story += [
        Spacer(0, 26),
        HRFlowable(width="45%", color=INK, thickness=0.6, hAlign="LEFT", spaceAfter=2),
        text(f"{record.issued_by}, {record.issued_at:%Y-%m-%d}", 8.5, SOFT),
        *([text(f"Second signature: {second}", 8.5, SOFT)] if second else []),
        text(
            worded("paper.entries_are_lines_of_the_notebook", digest=digest)
            if digest
            else worded("paper.draft_nothing_is_signed_entries_are"),
            6.5,
            SOFT,
        ),
        *([text(say_proof(record.head), 6.5, SOFT)] if record.head else []),
    ]
    return story


def _traced(entries: tuple[int, ...]) -> str:
    known = [str(entry) for entry in entries if entry]
    return f" (entr{'y' if len(known) == 1 else 'ies'} {', '.join(known)})" if known else ""
