"""A line of values: where something should stand, the window it may stand in, what was read, and the bracket of a threshold."""

from __future__ import annotations

import math

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen

from candor.core.quantities import engineering
from candor.desktop.frame.local_numbers import local
from candor.desktop.widgets.card import begin_card, caption_height, draw_caption
from candor.desktop.widgets.drawn import Drawing
from candor.desktop.widgets.glyphs import draw_glyph

ROOM = 0.35  # of what is shown, left free at either end


class NumberLine(Drawing):
    """Values on a line; a lamp that is lit is full, one that is dark a ring."""

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = begin_card(self, self._theme)
        point, state = self._point, self._state
        if point is None or state is None:
            return
        theme = self._theme
        height = self.height() - caption_height(theme, self._large)
        y = height * 0.58
        self._paint_number(painter, height)
        low, high = self._ends()
        painter.setPen(QPen(theme.colour("rule"), 1.5))
        painter.drawLine(QPointF(theme.px(30), y), QPointF(self.width() - theme.px(30), y))
        self._paint_window(painter, y, low, high)
        if math.isfinite(state.expected):
            self._paint_mark(painter, y, state.expected, "should be")
        if "on" in state.figures or "off" in state.figures:
            self._paint_bracket(painter, y)
        elif state.indicated is not None:
            draw_glyph(
                painter, theme, "full", QPointF(self._x(state.indicated), y), theme.px(9 if self._large else 6)
            )
        draw_caption(
            painter, self, theme, self._large, state.words or point.range_name, "← → one step · N the other figure"
        )

    def _values(self) -> list[float]:
        state = self._state
        if state is None:
            return []
        values = [state.expected, state.low, state.high, *state.figures.values()]
        values += [state.indicated] if state.indicated is not None else []
        return [v for v in values if math.isfinite(v)]

    def _ends(self) -> tuple[float, float]:
        values = self._values() or [0.0, 1.0]
        low, high = min(values), max(values)
        room = (high - low) * ROOM or abs(high) * ROOM or 1.0
        return low - room, high + room

    def _x(self, value: float) -> float:
        low, high = self._ends()
        left, right = self._theme.px(30), self.width() - self._theme.px(30)
        bounded = min(max(value, low), high)
        return left + (right - left) * (bounded - low) / (high - low)

    def _paint_window(self, painter: QPainter, y: float, low: float, high: float) -> None:
        state, theme = self._state, self._theme
        if state is None or not state.low < state.high:
            return
        left, right = self._x(max(state.low, low)), self._x(min(state.high, high))
        half = theme.px(26 if self._large else 17)
        painter.fillRect(QRectF(left, y - half, right - left, 2 * half), theme.colour("inside"))
        painter.setPen(QPen(theme.colour("petrol"), 1))
        painter.setFont(theme.font("arm-soft" if self._large else "note"))
        unit = self._point.unit if self._point is not None else ""
        for value in (state.low, state.high):
            if math.isfinite(value):
                x = self._x(value)
                painter.drawLine(QPointF(x, y - half), QPointF(x, y + half))
                self._paint_text(painter, x, y + half + theme.px(14), engineering(value, unit, 4))

    def _paint_mark(self, painter: QPainter, y: float, value: float, words: str) -> None:
        theme = self._theme
        half = theme.px(30 if self._large else 20)
        painter.setPen(QPen(theme.colour("petrol"), 1.5, Qt.PenStyle.DashLine))
        x = self._x(value)
        painter.drawLine(QPointF(x, y - half), QPointF(x, y + half))
        painter.setFont(theme.font("arm-soft" if self._large else "note"))
        unit = self._point.unit if self._point is not None else ""
        self._paint_text(painter, x, y - half - theme.px(5), f"{words} {engineering(value, unit, 4)}")

    def _paint_bracket(self, painter: QPainter, y: float) -> None:
        state, theme = self._state, self._theme
        if state is None:
            return
        spots = {name: self._x(state.figures[name]) for name in ("on", "off") if name in state.figures}
        if len(spots) == 2:
            painter.setPen(QPen(theme.colour("ink"), theme.px(3)))
            painter.drawLine(QPointF(spots["on"], y), QPointF(spots["off"], y))
        painter.setFont(theme.font("arm-soft" if self._large else "note"))
        for name, x in spots.items():
            size = theme.px(10 if self._large else 7) * (1.25 if name == state.active else 1.0)
            draw_glyph(painter, theme, "full" if name == "on" else "ring", QPointF(x, y), size)
            painter.setPen(theme.colour("ink"))
            metrics = painter.fontMetrics()
            away = size + theme.px(4) + metrics.horizontalAdvance(name) / 2  # on the far side of the other
            right = len(spots) < 2 or x == max(spots.values())
            self._paint_text(painter, x + (away if right else -away), y + metrics.capHeight() / 2, name)

    def _paint_text(self, painter: QPainter, x: float, y: float, text: str) -> None:
        width = painter.fontMetrics().horizontalAdvance(text)
        left = min(max(x - width / 2, self._theme.px(6)), self.width() - width - self._theme.px(6))
        painter.drawText(QPointF(left, y), local(text))

    def _paint_number(self, painter: QPainter, height: float) -> None:
        point, state, theme = self._point, self._state, self._theme
        if point is None or state is None:
            return
        painter.setFont(theme.font("arm-hand" if self._large else "hand"))
        painter.setPen(theme.colour("ink" if state.indicated is not None else "faint"))
        value = state.expected if state.indicated is None else state.indicated
        digits = 3 if {"on", "off"} & state.figures.keys() else 5  # the middle of a bracket is not known better
        text = engineering(value, point.unit, digits) if math.isfinite(value) else "–"
        painter.drawText(
            QRectF(0, height * 0.06, self.width(), height * 0.3), Qt.AlignmentFlag.AlignCenter, local(text)
        )
