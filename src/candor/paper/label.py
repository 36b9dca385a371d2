"""The label on the instrument, in two sizes: what it is, how it left, until when, and what the certificate does not cover."""

from __future__ import annotations

import io
from bisect import bisect_right
from itertools import groupby
from typing import Literal

from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfgen.canvas import Canvas

from candor.core.errors import CandorError
from candor.core.verdict.rules import Outcome
from candor.core.worded import worded
from candor.paper.drawn_ribbon import INK, draw_outcome
from candor.paper.record import CertificateRecord
from candor.paper.sheet import printable, register_fonts
from candor.words.proof_words import PROOF

Size = Literal["small", "large"]
SIZES: dict[Size, tuple[float, float, float]] = {"small": (54 * mm, 25 * mm, 6.0), "large": (89 * mm, 50 * mm, 8.0)}
EDGE, LEADING, INDENT, BOLD = 2.5 * mm, 1.3, 1.3, 2  # points; of the type; of the type; lines
SMALLEST = 4.75  # points that still can be read
MORE = worded("paper.more_is_not_covered_read_the")


class NotSignedError(CandorError, ValueError):
    """A label of what nobody signed."""


def not_covered(record: CertificateRecord) -> tuple[str, ...]:
    """Return what must not be relied on: ranges that were not measured, that fail, or of which nobody can tell."""
    outcomes = {p.point: p.outcome for p in record.as_left.points}  # as found is among them where it still stands
    unread = [(line.function, line.range) for line in record.unread]
    said = [worded("paper.not_measured", function=function, name=name) for function, name in unread]
    for (function, name), group in groupby(record.places, key=lambda p: (p.function, p.range)):
        found = [outcomes.get(p.point, str(Outcome.NOT_MEASURED)) for p in group]
        if set(found) == {str(Outcome.NOTED)}:
            continue  # nobody reads the instrument there: it is for what is figured from it
        words = next(
            (w for o, w in ((Outcome.FAIL, "out of tolerance"), (Outcome.NOT_MEASURED, "not measured"),
                            (Outcome.CANNOT_TELL, "cannot tell")) if str(o) in found),
            "",
        )  # fmt: skip
        if words == "not measured" and (function, name) in unread:
            continue
        if words:
            part = "" if all(o == found[0] for o in found) else " in part"
            said.append(f"{function} {name} {words}{part}")
    return tuple(said)


def label_lines(record: CertificateRecord, digest: str) -> tuple[str, ...]:
    """Return what stands on a label, the most telling first.

    Raises
    ------
    NotSignedError
        Where nothing was signed: a label states what a certificate states.
    """
    if not digest:
        raise NotSignedError(worded("paper.there_is_no_label_yet_sign"))
    days = record.measured
    lines = [f"{record.maker} {record.type}, no. {record.serial or 'none'}", f"As left {record.as_left.word}"]
    lines.append(
        worded("paper.measured_certificate", last=days[-1], number=record.number)
        if days
        else f"Certificate {record.number}"
    )
    due = record.due.on if record.due is not None else None
    lines.append(f"Due {due:%d %b %Y}" if due is not None else worded("paper.no_due_date_was_set"))
    lines += [f"Not covered: {'; '.join(limits)}"] if (limits := not_covered(record)) else []
    lines += [record.most] if record.most else []
    # Ranges that were not read stand among what is not covered; all else that page one states follows, in short.
    proof = [f"{PROOF} {record.head}"] if record.head else []
    return (*lines, *dict.fromkeys(r.short for r in record.remarks if r.short), *proof)


def label_pdf(record: CertificateRecord, digest: str, size: Size) -> bytes:
    """Return a label as PDF, of its own size; smaller type where there is much to say, and that there is more where it is too much.

    Raises
    ------
    NotSignedError
        Where nothing was signed.
    """
    lines = label_lines(record, digest)
    register_fonts()
    width, height, largest = SIZES[size]
    out = io.BytesIO()
    canvas = Canvas(out, (width, height), initialFontName="B612")
    canvas.setTitle(f"Label of {record.number}")
    points, rows = _fitting(lines, width - 2 * EDGE, height - 2 * EDGE, largest)
    y = height - EDGE - points
    for number, words in rows:
        left = EDGE
        if number == 1:
            draw_outcome(
                canvas, Outcome(record.as_left.outcome), EDGE + points * 0.4, y + points * 0.36, points * 0.34
            )
            left += points * INDENT
        canvas.setFillColor(INK)
        canvas.setFont(_font(number), points)
        canvas.drawString(left, y, printable(words))
        y -= points * LEADING
    canvas.showPage()
    canvas.save()
    return out.getvalue()


def _font(number: int) -> str:
    return "B612-Bold" if number < BOLD else "B612"


def _fitting(
    lines: tuple[str, ...], width: float, height: float, largest: float
) -> tuple[float, list[tuple[int, str]]]:
    """The type, points, and the rows that fit, each with the number of its line; where not all do, the last says so."""
    points = largest
    while True:
        rows = [
            (number, part)
            for number, words in enumerate(lines)
            for part in _wrapped(words, _font(number), points, width - (points * INDENT if number == 1 else 0.0))
        ]
        room = int((height - points) / (points * LEADING)) + 1
        if len(rows) <= room:
            return points, rows
        if points - 0.25 < SMALLEST:
            last = [
                row for row in rows if row[0] == len(lines) - 1 and lines[-1].startswith(PROOF)
            ]  # it always stands
            return points, [*rows[: room - 1 - len(last)], (len(lines), MORE), *last]
        points -= 0.25


def _wrapped(words: str, font: str, points: float, width: float) -> list[str]:
    """The words in lines that fit, points; a word longer than a line is cut with dots."""
    lines: list[str] = [""]
    for word in words.split():
        longer = f"{lines[-1]} {word}".strip()
        if pdfmetrics.stringWidth(longer, font, points) <= width:
            lines[-1] = longer
        else:
            lines.append(word)
    return [_cut(line, font, points, width) for line in lines if line]


def _cut(line: str, font: str, points: float, width: float) -> str:
    """The longest beginning that fits, with dots: halved, not shortened letter by letter, for a word may be as long as a page."""

    def cut(kept: int) -> str:
        return line[:kept].rstrip() + "…"

    if pdfmetrics.stringWidth(line, font, points) <= width:
        return line
    return cut(
        bisect_right(range(1, len(line)), width, key=lambda kept: pdfmetrics.stringWidth(cut(kept), font, points))
        or 1
    )
