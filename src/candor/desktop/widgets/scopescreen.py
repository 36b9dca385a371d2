"""A screen with its lines: the trace between two edges, and where they should stand."""

from __future__ import annotations

import math

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPainterPath, QPaintEvent, QPen

from candor.core.quantities import engineering
from candor.core.quantities.show import trimmed
from candor.core.reading.indicators import Graticule
from candor.desktop.frame.local_numbers import local
from candor.desktop.widgets.card import begin_card, caption_height, draw_caption
from candor.desktop.widgets.drawn import Drawing

ACROSS = 10  # divisions along the other axis
CYCLES = 4


class ScopeScreen(Drawing):
    """Divisions along one axis, and the trace that was read on them."""

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = begin_card(self, self._theme)
        point, state = self._point, self._state
        if point is None or state is None or not isinstance(point.indicator, Graticule):
            return
        screen = point.indicator
        box, tall, wide = self._box(screen)
        self._paint_lines(painter, box, tall, wide)
        first, last = self._edges(screen)
        if math.isfinite(state.expected):
            half = abs(state.expected) / screen.per_division / 2
            middle = (first + last) / 2 if not math.isnan(first) else screen.divisions / 2
            for place in (middle - half, middle + half):
                self._paint_edge(painter, box, screen, place, dashed=True)
        if not math.isnan(first):
            self._paint_trace(painter, box, screen, first, last)
        axis = "up" if screen.axis == "vertical" else "across"
        words = f"{engineering(screen.per_division, point.unit)} a division {axis} · {state.words or 'not read'}"
        draw_caption(painter, self, self._theme, self._large, words, "← → a fifth of a division · N next")

    def _box(self, screen: Graticule) -> tuple[QRectF, int, int]:
        tall, wide = (screen.divisions, ACROSS) if screen.axis == "vertical" else (8, screen.divisions)
        margin = self._theme.px(14)
        height = self.height() - caption_height(self._theme, self._large) - 2 * margin
        side = min(height / tall, (self.width() - 2 * margin) / wide)
        box = QRectF(
            self.width() / 2 - side * wide / 2, margin + (height - side * tall) / 2, side * wide, side * tall
        )
        return box, tall, wide

    def _edges(self, screen: Graticule) -> tuple[float, float]:
        """Where the two edges stand, in divisions from the bottom or the left; no numbers where nothing was read."""
        state = self._state
        if state is None:
            return math.nan, math.nan
        if "from" in state.figures and "to" in state.figures:
            return state.figures["from"], state.figures["to"]
        count = state.figures.get("divisions", math.nan)
        return screen.divisions / 2 - count / 2, screen.divisions / 2 + count / 2

    def _paint_lines(self, painter: QPainter, box: QRectF, tall: int, wide: int) -> None:
        theme = self._theme
        side = box.width() / wide
        for i in range(wide + 1):
            painter.setPen(QPen(theme.colour("rule"), 1.6 if i in (0, wide // 2, wide) else 0.8))
            painter.drawLine(QPointF(box.left() + i * side, box.top()), QPointF(box.left() + i * side, box.bottom()))
        for i in range(tall + 1):
            painter.setPen(QPen(theme.colour("rule"), 1.6 if i in (0, tall // 2, tall) else 0.8))
            painter.drawLine(QPointF(box.left(), box.top() + i * side), QPointF(box.right(), box.top() + i * side))
        painter.setPen(QPen(theme.colour("soft"), 0.8))
        tick = theme.px(3)
        for i in range(wide * 5 + 1):
            x = box.left() + i * side / 5
            painter.drawLine(QPointF(x, box.center().y() - tick), QPointF(x, box.center().y() + tick))
        for i in range(tall * 5 + 1):
            y = box.top() + i * side / 5
            painter.drawLine(QPointF(box.center().x() - tick, y), QPointF(box.center().x() + tick, y))

    def _paint_edge(self, painter: QPainter, box: QRectF, screen: Graticule, place: float, dashed: bool) -> None:
        theme = self._theme
        style = Qt.PenStyle.DashLine if dashed else Qt.PenStyle.SolidLine
        painter.setPen(QPen(theme.colour("petrol"), 1.6, style))
        share = place / screen.divisions
        if screen.axis == "vertical":
            y = box.bottom() - share * box.height()
            painter.drawLine(QPointF(box.left(), y), QPointF(box.right(), y))
        else:
            x = box.left() + share * box.width()
            painter.drawLine(QPointF(x, box.top()), QPointF(x, box.bottom()))

    def _paint_trace(self, painter: QPainter, box: QRectF, screen: Graticule, first: float, last: float) -> None:
        theme = self._theme
        painter.setPen(QPen(theme.colour("ink"), theme.px(2.2 if self._large else 1.6)))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        path = QPainterPath()
        if screen.axis == "vertical":
            levels = [box.bottom() - place / screen.divisions * box.height() for place in (first, last)]
            step = box.width() / (2 * CYCLES)
            path.moveTo(box.left(), levels[0])
            for i in range(2 * CYCLES):
                x = box.left() + i * step
                path.lineTo(x, levels[i % 2])
                path.lineTo(x + step, levels[i % 2])
        else:
            for place in (first, last):
                x = box.left() + place / screen.divisions * box.width()
                path.moveTo(x, box.bottom() - box.height() * 0.25)
                path.lineTo(x, box.top() + box.height() * 0.25)
        painter.drawPath(path)
        painter.setFont(theme.font("arm" if self._large else "reading"))
        painter.drawText(
            QPointF(box.left() + theme.px(8), box.top() + theme.px(20)), local(f"{trimmed(abs(last - first), 4)} div")
        )
