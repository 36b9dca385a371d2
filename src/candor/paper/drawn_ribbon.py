"""The ribbon and the state shapes on paper."""

from __future__ import annotations

from collections.abc import Iterable

from reportlab.lib.colors import HexColor
from reportlab.platypus import Flowable

from candor.core.calibration.ribbon import TOP, Mark, Place, lay_out
from candor.core.verdict.rules import Outcome
from candor.paper.record import INOPERATIVE, CertificateRecord, PointLine

INK, SOFT, RULE = HexColor("#1D2A30"), HexColor("#55646A"), HexColor("#CFCABD")
PETROL, BRASS, BRICK, INSIDE = HexColor("#0E6670"), HexColor("#8C5A0C"), HexColor("#A8321F"), HexColor("#E0ECEA")
COLOURS = {
    Outcome.PASS: PETROL, Outcome.FAIL: BRICK, Outcome.CANNOT_TELL: BRASS, Outcome.NOT_MEASURED: SOFT, Outcome.NOTED: SOFT,
}  # fmt: skip
DOT = 0.45  # of the other shapes: what is noted is not a verdict


def draw_outcome(canvas, outcome: Outcome, x: float, y: float, radius: float, filled: bool = True) -> None:  # type: ignore[no-untyped-def]
    """Draw the shape of an outcome about (x, y) in points."""
    colour = COLOURS[outcome]
    canvas.setStrokeColor(colour)
    solid = outcome is Outcome.NOTED or (filled and outcome is not Outcome.NOT_MEASURED)
    canvas.setFillColor(colour if solid else HexColor("#FFFFFF"))
    canvas.setLineWidth(max(radius * 0.3, 0.7))
    if outcome is Outcome.FAIL:
        canvas.rect(x - radius, y - radius, 2 * radius, 2 * radius, fill=0 if filled else 1)
        canvas.line(x - radius / 2, y - radius / 2, x + radius / 2, y + radius / 2)
        canvas.line(x - radius / 2, y + radius / 2, x + radius / 2, y - radius / 2)
    elif outcome is Outcome.CANNOT_TELL:
        canvas.setFillColor(HexColor("#FFFFFF"))
        canvas.circle(x, y, radius, fill=1)
        canvas.setFillColor(colour)
        canvas.wedge(x - radius, y - radius, x + radius, y + radius, 90, 180, fill=1, stroke=0)
    else:
        canvas.circle(x, y, radius * (DOT if outcome is Outcome.NOTED else 1.0), fill=1)


class OutcomeMark(Flowable):
    """An outcome's shape for a table cell."""

    def __init__(self, outcome: str, radius: float = 3.0) -> None:
        super().__init__()
        self.outcome = Outcome.NOT_MEASURED if outcome == INOPERATIVE else Outcome(outcome)
        self.radius = radius
        self.width = self.height = 2 * radius + 2

    def draw(self) -> None:
        """Draw it."""
        draw_outcome(self.canv, self.outcome, self.radius + 1, self.radius + 1, self.radius)


class RibbonFigure(Flowable):
    """One function's error ribbon, drawn from what a certificate states: as found hollow, as left filled, bar = U."""

    def __init__(self, record: CertificateRecord, function: str, width: float, height: float = 118) -> None:
        super().__init__()
        self.width, self.height = width, height
        places = (Place(p.point, p.function, p.range, p.limit_percent) for p in record.places)
        left = record.as_left.points if record.as_left.phase == "as left" else ()
        self.laid = lay_out(function, places, _marks(record.as_found.points), _marks(left))

    def _y(self, share: float) -> float:
        half = (self.height - 30) / 2
        return 16 + half + max(min(share, TOP), -TOP) / TOP * half

    def draw(self) -> None:
        """Draw axis, limits, ranges and points."""
        c, start = self.canv, 42.0
        wide = self.width - start
        c.setFont("B612", 7)
        c.setFillColor(INSIDE)
        c.rect(start, self._y(-1), wide, self._y(1) - self._y(-1), stroke=0, fill=1)
        for share, words in self.laid.lines:
            c.setStrokeColor(PETROL if share else RULE)
            c.setLineWidth(0.6)
            c.setDash([3, 2] if share else [])
            c.line(start, self._y(share), self.width, self._y(share))
            c.setFillColor(SOFT)
            c.drawRightString(start - 5, self._y(share) - 2.4, words)
        c.setDash([])
        step = wide / max(len(self.laid.columns), 1)
        for group in self.laid.groups:
            if group.start:
                c.setStrokeColor(RULE)
                c.line(start + group.start * step, 14, start + group.start * step, self.height - 12)
            c.setFillColor(INK)
            c.drawCentredString(start + (group.start + group.count / 2) * step, 4, group.title)
        c.setFillColor(INK)
        c.setFont("B612-Bold", 8)
        c.drawString(0, self.height - 8, self.laid.function)
        for index, column in enumerate(self.laid.columns):
            x = start + (index + 0.5) * step
            shift = 3.0 if column.left is not None and column.found is not None else 0.0
            if column.is_empty:
                c.setFillColor(SOFT)
                c.circle(x, self._y(0), 0.8, stroke=0, fill=1)
            if column.found is not None:
                self._mark(x - shift, column.found, filled=False)
            if column.left is not None:
                self._mark(x + shift, column.left, filled=True)

    def _mark(self, x: float, read: Mark, filled: bool) -> None:
        c = self.canv
        outcome, height, bar = read.outcome, read.height, read.bar
        c.setStrokeColor(COLOURS[outcome])
        c.setLineWidth(1.2)
        c.line(x, self._y(height - bar), x, self._y(height + bar))
        draw_outcome(c, outcome, x, self._y(height), 2.6, filled)


def _marks(points: Iterable[PointLine]) -> dict[str, Mark]:
    return {p.point: Mark(p.share_of_limit, p.uncertainty_share, Outcome(p.outcome)) for p in points}
