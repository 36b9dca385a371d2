"""State by shape: filled, half, square with a cross, ring, triangle; a dot for what is only noted. Never by colour alone."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPainterPath, QPen, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QWidget

from candor.core.verdict.rules import Outcome
from candor.desktop.frame.theme import Theme

SHAPES = {
    Outcome.PASS: "full",
    Outcome.FAIL: "cross",
    Outcome.CANNOT_TELL: "half",
    Outcome.NOT_MEASURED: "ring",
    Outcome.NOTED: "dot",
}
COLOURS = {
    "full": "petrol", "half": "brass", "begun": "petrol", "cross": "brick", "ring": "faint", "hazard": "brick",
    "barred": "brick", "skipped": "soft", "fix": "brass", "note": "soft", "running": "petrol", "watch": "brass",
    "dot": "soft",
}  # fmt: skip


DOT = 0.45  # of the other shapes: what is noted is not a verdict


def draw_glyph(painter: QPainter, theme: Theme, shape: str, centre: QPointF, radius: float) -> None:
    """Draw one state shape about `centre`; `radius` in px."""
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    colour = theme.colour(COLOURS[shape])
    box = QRectF(centre.x() - radius, centre.y() - radius, 2 * radius, 2 * radius)
    painter.setPen(QPen(colour, max(radius * 0.26, 1.1)))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    if shape == "full":
        painter.setBrush(colour)
        painter.drawEllipse(box)
    elif shape in ("half", "begun", "running"):
        painter.drawEllipse(box)
        painter.setBrush(colour)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.drawPie(box, 90 * 16, 180 * 16 if shape != "running" else -90 * 16)
    elif shape == "cross":
        side = box.adjusted(radius * 0.1, radius * 0.1, -radius * 0.1, -radius * 0.1)
        painter.drawRect(side)
        inset = side.adjusted(radius * 0.45, radius * 0.45, -radius * 0.45, -radius * 0.45)
        painter.drawLine(inset.topLeft(), inset.bottomRight())
        painter.drawLine(inset.topRight(), inset.bottomLeft())
    elif shape == "hazard":
        painter.setBrush(colour)
        path = QPainterPath()
        path.addPolygon(QPolygonF([QPointF(centre.x(), box.top()), box.bottomRight(), box.bottomLeft()]))
        path.closeSubpath()
        painter.drawPath(path)
    elif shape == "fix":
        painter.drawPolygon(
            QPolygonF(
                [
                    QPointF(centre.x(), box.top()),
                    QPointF(box.right(), centre.y()),
                    QPointF(centre.x(), box.bottom()),
                    QPointF(box.left(), centre.y()),
                ]
            )
        )
    elif shape == "dot":
        painter.setBrush(colour)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.drawEllipse(centre, radius * DOT, radius * DOT)
    elif shape in ("note", "skipped"):
        painter.drawLine(QPointF(box.left(), centre.y()), QPointF(box.right(), centre.y()))
    elif shape == "watch":
        painter.drawEllipse(box)
        painter.setBrush(colour)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.drawEllipse(centre, radius * 0.42, radius * 0.42)
    else:
        painter.drawEllipse(box)
        if shape == "barred":
            half = radius * 0.5
            painter.drawLine(QPointF(centre.x() - half, centre.y()), QPointF(centre.x() + half, centre.y()))
    painter.restore()


class Glyph(QWidget):
    """A state shape by itself; the word beside it says the same."""

    def __init__(self, theme: Theme, size: float = 15.0) -> None:
        super().__init__()
        self._theme = theme
        self._size = size
        self._shape = "ring"
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)

    def show_outcome(self, outcome: Outcome) -> None:
        """Take the shape of an outcome."""
        self.show_shape(SHAPES[outcome])
        self.setAccessibleName(str(outcome))

    def show_shape(self, shape: str) -> None:
        """Take a shape by its name."""
        self._shape = shape
        self.update()

    def sizeHint(self) -> QSize:
        side = self._theme.px(self._size)
        return QSize(side, side)

    def paintEvent(self, event: object) -> None:
        painter = QPainter(self)
        centre = QPointF(self.width() / 2, self.height() / 2)
        draw_glyph(painter, self._theme, self._shape, centre, min(self.width(), self.height()) / 2 - 1.5)
