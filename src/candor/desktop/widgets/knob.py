"""A dial that is turned: its scale round it, the pointer, both sides of a null, and how wide the eye should be."""

from __future__ import annotations

import math

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent, QPen

from candor.core.quantities import engineering
from candor.core.quantities.show import trimmed
from candor.core.reading.dial import DialRange
from candor.desktop.frame.local_numbers import local
from candor.desktop.widgets.card import begin_card, caption_height, draw_caption
from candor.desktop.widgets.drawn import Drawing

SPAN = 300.0  # degrees that the dial goes round


class KnobDial(Drawing):
    """A round dial with its pointer."""

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = begin_card(self, self._theme)
        point, state = self._point, self._state
        if point is None or state is None:
            return
        dial = point.indicator
        if isinstance(dial, DialRange):
            self._paint_scale(painter, dial)
            if state.low < state.high and math.isfinite(state.low) and math.isfinite(state.high):
                self._paint_window(painter, dial, state.low, state.high)
            if math.isfinite(state.expected):
                self._paint_pointer(painter, dial, state.expected, self._theme.colour("petrol"), 0.9, dashed=True)
            for name in ("low", "high"):
                if name in state.figures:
                    self._paint_pointer(painter, dial, state.figures[name], self._theme.colour("soft"), 0.82)
            if state.indicated is not None:
                self._paint_pointer(painter, dial, state.indicated, self._theme.colour("ink"), 0.95)
        self._paint_number(painter)
        caption = f"{point.range_name} · {dial.scale.name}" if isinstance(dial, DialRange) else point.range_name
        draw_caption(painter, self, self._theme, self._large, caption, "← → one division · N the other side")

    def _centre(self) -> tuple[QPointF, float]:
        margin = self._theme.px(34 if not self._large else 54)
        height = self.height() - caption_height(self._theme, self._large)
        radius = max(min(self.width() - self._theme.px(90), height * 1.06) / 2 - margin, self._theme.px(40))
        return QPointF(self.width() / 2, height / 2 + radius * 0.06), radius

    def _spot(self, share: float, radius: float) -> QPointF:
        centre, _ = self._centre()
        angle = math.radians(90 + SPAN / 2 - share * SPAN)
        return QPointF(centre.x() + radius * math.cos(angle), centre.y() - radius * math.sin(angle))

    def _paint_scale(self, painter: QPainter, dial: DialRange) -> None:
        centre, radius = self._centre()
        theme, scale = self._theme, dial.scale
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(theme.colour("ink"), 1.4))
        box = QRectF(centre.x() - radius, centre.y() - radius, 2 * radius, 2 * radius)
        painter.drawArc(box, int((90 - SPAN / 2) * 16), int(SPAN * 16))
        painter.setFont(theme.font("arm-soft" if self._large else "text"))
        metrics = painter.fontMetrics()
        numbered, long = set(scale.numbered), set(scale.long)
        for value, place in zip(scale.ticks, scale.deflections, strict=True):
            length = theme.px(12 if value in numbered else 9 if value in long else 5) * (1.6 if self._large else 1.0)
            painter.drawLine(self._spot(place, radius), self._spot(place, radius + length))
            if value in numbered:
                text = "∞" if math.isinf(value) else trimmed(value)
                spot = self._spot(place, radius + length + metrics.height() * 0.75)
                painter.drawText(
                    QPointF(spot.x() - metrics.horizontalAdvance(text) / 2, spot.y() + metrics.capHeight() / 2),
                    local(text),
                )

    def _paint_window(self, painter: QPainter, dial: DialRange, low: float, high: float) -> None:
        centre, radius = self._centre()
        places = sorted(min(max(dial.deflection_of(v), 0.0), 1.0) for v in (low, high))
        box = QRectF(centre.x() - radius * 0.88, centre.y() - radius * 0.88, 1.76 * radius, 1.76 * radius)
        painter.setPen(
            QPen(self._theme.colour("inside"), self._theme.px(10), Qt.PenStyle.SolidLine, Qt.PenCapStyle.FlatCap)
        )
        start = 90 + SPAN / 2 - places[1] * SPAN
        painter.drawArc(box, int(start * 16), int((places[1] - places[0]) * SPAN * 16))

    def _paint_pointer(
        self, painter: QPainter, dial: DialRange, value: float, colour: QColor, length: float, dashed: bool = False
    ) -> None:
        _, radius = self._centre()
        place = min(max(dial.deflection_of(value), -0.02), 1.02)
        style = Qt.PenStyle.DashLine if dashed else Qt.PenStyle.SolidLine
        painter.setPen(QPen(colour, self._theme.px(2.4 if self._large else 1.8), style, Qt.PenCapStyle.RoundCap))
        painter.drawLine(self._spot(place, radius * 0.42), self._spot(place, radius * length))

    def _paint_number(self, painter: QPainter) -> None:
        point, state = self._point, self._state
        if point is None or state is None:
            return
        centre, radius = self._centre()
        theme = self._theme
        painter.setPen(theme.colour("ink" if state.indicated is not None else "faint"))
        value = state.expected if state.indicated is None else state.indicated
        text = engineering(value, point.unit, 4) if math.isfinite(value) else "–"
        roles = ("arm", "arm-soft") if self._large else ("reading", "note")
        fits = next((role for role in roles if theme.width_of(text, role) < 0.8 * radius), roles[-1])
        painter.setFont(theme.font(fits))
        box = QRectF(centre.x() - radius * 0.8, centre.y() - theme.px(20), radius * 1.6, theme.px(40))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, local(text))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus(Qt.FocusReason.MouseFocusReason)
        self._turn_to(event)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if event.buttons() & Qt.MouseButton.LeftButton:
            self._turn_to(event)

    def _turn_to(self, event: QMouseEvent) -> None:
        point = self._point
        if point is None or not isinstance(point.indicator, DialRange):
            return
        centre, _ = self._centre()
        away = event.position() - centre
        angle = math.degrees(math.atan2(-away.y(), away.x()))
        share = ((90 + SPAN / 2 - angle) % 360) / SPAN
        if share <= 1.1:
            self.dragged.emit(point.indicator.value_at_deflection(min(share, 1.0)))
