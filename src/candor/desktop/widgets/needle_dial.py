"""The dial of the instrument, drawn from its pack: arcs, mirror, needle, limit."""

from __future__ import annotations

import math

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QMouseEvent, QPainter, QPainterPath, QPen, QPixmap

from candor.core.calibration.point import TestPoint
from candor.core.quantities import engineering
from candor.core.quantities.show import trimmed
from candor.core.reading.needle import dial_of
from candor.core.reading.scale import Scale
from candor.desktop.frame.local_numbers import local
from candor.desktop.frame.theme import Theme
from candor.desktop.widgets.card import begin_card, caption_height, draw_caption
from candor.desktop.widgets.drawn import Drawing, Drawn
from candor.packs.model import Dial as DialFace


class Dial(Drawing):
    """A meter face with its needle."""

    def __init__(self, theme: Theme, large: bool = False) -> None:
        super().__init__(theme, large)
        self._face: DialFace | None = None
        self._scales: tuple[Scale, ...] = ()
        self._fits: tuple[object, ...] = ()
        self._laid = (QPointF(), 1.0)
        self._printed: tuple[tuple[object, ...], QPixmap] | None = None
        self.setAccessibleName("Dial")
        self.setToolTip("Drag the needle, or ← → one tick, Shift half a tick, Ctrl a fifth")

    def show_face(self, face: DialFace | None) -> None:
        """Take the printed scales of a pack."""
        if face is not None and face is not self._face:
            self._face = face
            self._scales = tuple(s.scale() for s in face.scales)
            self._printed = None
            self.update()

    def show_reading(self, point: TestPoint, state: Drawn) -> None:
        """Show one point with its needle."""
        super().show_reading(point, state)
        read = "not read" if state.indicated is None else f"needle {engineering(state.indicated, point.unit)}"
        self.setAccessibleDescription(
            f"{point.range_name} range, reference {engineering(state.expected, point.unit)}, {read}"
        )

    # --- geometry -----------------------------------------------------------------------------------

    def _geometry(self) -> tuple[QPointF, float]:
        """Return the needle's pivot and the radius of the largest arc, laid out once for a size."""
        fits = (self.size(), self._theme.scale, id(self._face))
        if fits != self._fits:
            self._fits, self._laid = fits, self._laid_out()
        return self._laid

    def _laid_out(self) -> tuple[QPointF, float]:
        face = self._face
        half = math.radians((face.span_degrees if face else 90) / 2)
        margin_x = self._theme.px(62 if self._large else 46)
        top = self._theme.px(62 if self._large else 40)
        wide = (self.width() - 2 * margin_x) / (2 * math.sin(half)) if half < math.pi / 2 else self.width() / 2
        high = self.height() - top - caption_height(self._theme, self._large)
        lowest = min((s.radius for s in face.scales), default=1.0) if face else 1.0
        # The pivot may lie below the card: only the lowest arc's ends and their numbers must stay on it.
        numbers = self._theme.px(58 if self._large else 30)
        radius = min(wide, (high - numbers) / max(1 - lowest * math.cos(half), 0.2))
        return QPointF(self.width() / 2, top + radius), radius

    def _angle(self, deflection: float) -> float:
        span = self._face.span_degrees if self._face else 90
        return math.radians(90 + span / 2 - deflection * span)

    def _spot(self, deflection: float, radius: float) -> QPointF:
        pivot, _ = self._geometry()
        angle = self._angle(deflection)
        return QPointF(pivot.x() + radius * math.cos(angle), pivot.y() - radius * math.sin(angle))

    # --- input --------------------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus(Qt.FocusReason.MouseFocusReason)
        self._drag_to(event)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if event.buttons() & Qt.MouseButton.LeftButton:
            self._drag_to(event)

    def _drag_to(self, event: QMouseEvent) -> None:
        if self._point is None or self._face is None:
            return
        pivot, _ = self._geometry()
        away = event.position() - pivot
        angle = math.degrees(math.atan2(-away.y(), away.x()))
        deflection = (90 + self._face.span_degrees / 2 - angle) / self._face.span_degrees
        dial = dial_of(self._point)
        bounded = min(max(deflection, dial.low_stop), dial.high_stop)
        self.dragged.emit(dial.value_at_deflection(bounded))

    # --- painting -----------------------------------------------------------------------------------

    def paintEvent(self, event: object) -> None:
        painter = begin_card(self, self._theme)
        if self._face is None or self._point is None or self._state is None:
            return
        self._paint_limit(painter)
        painter.drawPixmap(0, 0, self._print(self._face, dial_of(self._point).scale.name))
        self._paint_needle(painter)
        self._paint_caption(painter)

    def _print(self, face: DialFace, active: str) -> QPixmap:
        """Return mirror and scales, printed once for a size, a theme and the scale in use: only the needle moves."""
        ratio, ink = self.devicePixelRatioF(), self._theme.colour("ink").rgba()
        asked = (self.size(), ratio, self._theme.scale, ink, id(face), active)
        if self._printed is None or self._printed[0] != asked:
            picture = QPixmap(self.size() * ratio)
            picture.setDevicePixelRatio(ratio)
            picture.fill(Qt.GlobalColor.transparent)
            painter = QPainter(picture)
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            if face.mirror:
                self._paint_mirror(painter)
            arcs = zip(self._scales, face.scales, strict=True)
            for scale, printed in sorted(arcs, key=lambda arc: arc[0].name == active):  # the one in use last
                self._paint_scale(painter, scale, printed.radius, scale.name == active)
            painter.end()
            self._printed = asked, picture
        return self._printed[1]

    def _paint_limit(self, painter: QPainter) -> None:
        point, state = self._point, self._state
        if point is None or state is None:
            return
        dial = dial_of(point)
        if not state.low < state.high:
            return
        pivot, radius = self._geometry()
        # An open end of a limit is the stop.
        stops = (dial.value_at_deflection(dial.low_stop), dial.value_at_deflection(dial.high_stop))
        low, high = max(state.low, min(stops)), min(state.high, max(stops))
        ends = sorted(dial.deflection_of(value) for value in (low, high))
        wedge = QPainterPath(pivot)
        steps = 12
        for i in range(steps + 1):
            wedge.lineTo(self._spot(ends[0] + (ends[1] - ends[0]) * i / steps, radius * 1.0))
        wedge.closeSubpath()
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self._theme.colour("inside"))
        painter.drawPath(wedge)
        edge = self._theme.colour("petrol")
        edge.setAlpha(110)  # the wedge itself is faint in the dark; its edges are the limits
        painter.setPen(QPen(edge, 1))
        for end in ends:
            painter.drawLine(pivot, self._spot(end, radius))

    def _paint_mirror(self, painter: QPainter) -> None:
        face = self._face
        if face is None:
            return
        radii = sorted((s.radius for s in face.scales), reverse=True)
        inner = radii[1] if len(radii) > 1 else radii[0] * 0.8
        middle = (radii[0] + inner) / 2
        colour = self._theme.colour("faint")
        colour.setAlpha(60)
        painter.setPen(
            QPen(colour, self._theme.px(12 if self._large else 7), Qt.PenStyle.SolidLine, Qt.PenCapStyle.FlatCap)
        )
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(self._arc(middle))

    def _arc(self, share: float) -> QPainterPath:
        pivot, radius = self._geometry()
        span = self._face.span_degrees if self._face else 90
        box = QRectF(pivot.x() - radius * share, pivot.y() - radius * share, 2 * radius * share, 2 * radius * share)
        path = QPainterPath()
        path.arcMoveTo(box, 90 + span / 2)
        path.arcTo(box, 90 + span / 2, -span)
        return path

    def _paint_scale(self, painter: QPainter, scale: Scale, share: float, active: bool) -> None:
        _, radius = self._geometry()
        theme, r = self._theme, radius * share
        outward = 1 if share == 1.0 else -1
        colour = theme.colour("ink" if active else "faint" if len(self._scales) > 3 else "soft")
        painter.setPen(QPen(colour, 1.6 if active else 1.1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(self._arc(share))
        unit = theme.px(10 if self._large else 6)
        painter.setFont(theme.font("arm" if self._large else "reading" if active else "text"))
        metrics = painter.fontMetrics()
        long, numbered = set(scale.long), set(scale.numbered)
        busy = (
            not active and len(self._scales) > 3
        )  # many arcs: those not in use keep their longer ticks, without numbers
        gap = metrics.averageCharWidth() / 2
        # Numbers that would run into one another are left out, those of the ends never.
        ends = (scale.ticks[0], scale.ticks[-1])
        widest = metrics.horizontalAdvance("∞" if math.isinf(ends[1]) else trimmed(ends[1]))
        end_at = (
            self._spot(scale.deflections[-1], r + outward * (unit * 2.6 + metrics.height() * 0.72)).x() - widest / 2
        )
        written = -math.inf  # where the last number ended
        for value, deflection in zip(scale.ticks, scale.deflections, strict=True):
            if busy and value not in long:
                continue
            length = unit * (2.6 if value in numbered else 2.0 if value in long else 1.2)
            weight = 2.0 if value in numbered else 1.5 if value in long else 1.0
            painter.setPen(QPen(colour, weight if active else weight * 0.8))
            painter.drawLine(self._spot(deflection, r), self._spot(deflection, r + outward * length))
            if value in numbered and not busy:
                text = "∞" if math.isinf(value) else trimmed(value)
                spot = self._spot(deflection, r + outward * (length + metrics.height() * 0.72))
                width = metrics.horizontalAdvance(text)
                at = QPointF(spot.x() - width / 2, spot.y() + metrics.capHeight() / 2)
                if value in ends or (at.x() > written and at.x() + width + gap < end_at):
                    if active and outward < 0:  # the arc that lies there gives way to the number
                        painter.setCompositionMode(QPainter.CompositionMode.CompositionMode_Clear)
                        painter.fillRect(
                            QRectF(at.x() - 2, at.y() - metrics.capHeight() - 2, width + 4, metrics.capHeight() + 4),
                            colour,
                        )
                        painter.setCompositionMode(QPainter.CompositionMode.CompositionMode_SourceOver)
                    painter.setPen(colour)
                    painter.drawText(at, local(text))
                    written = at.x() + width + gap

    def _paint_needle(self, painter: QPainter) -> None:
        point, state = self._point, self._state
        if point is None or state is None:
            return
        pivot, radius = self._geometry()
        width = 3.2 if self._large else 2.2
        should = self._spot(self._within(state.expected), radius * 1.05)
        painter.setPen(QPen(self._theme.colour("petrol"), width * 0.8, Qt.PenStyle.DashLine))
        painter.drawLine(should, pivot)
        if state.indicated is not None:
            tip = self._spot(self._within(state.indicated), radius * 1.04)
            painter.setPen(QPen(self._theme.colour("ink"), width, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
            painter.drawLine(tip, pivot)

    def _within(self, value: float) -> float:
        """Where the needle stands, its stops being where it can go no further."""
        dial = dial_of(self._point) if self._point is not None else None
        return 0.0 if dial is None else min(max(dial.deflection_of(value), dial.low_stop), dial.high_stop)

    def _paint_caption(self, painter: QPainter) -> None:
        point = self._point
        if point is None:
            return
        dial = dial_of(point)
        at = point.nominal if math.isfinite(point.nominal) else point.full_scale
        division = engineering(dial.division_at(at), point.unit)
        mirror = " · mirror" if dial.mirror else ""
        uneven = " there" if dial.scale.law is not None or dial.scale.is_open else ""
        text = f"{dial.scale.name} · {len(dial.scale.ticks) - 1} divisions of {division}{uneven}{mirror}"
        draw_caption(painter, self, self._theme, self._large, text, "← → one tick · Shift half")
