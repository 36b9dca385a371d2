"""The dial of the instrument, drawn from its pack: arcs, mirror, needle, limit."""

from __future__ import annotations

import math
from dataclasses import dataclass

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPainterPath, QPen, QPixmap
from PySide6.QtWidgets import QSizePolicy, QWidget

from candor.core.calibration.point import TestPoint
from candor.core.quantities import engineering
from candor.core.quantities.show import trimmed
from candor.core.reading.needle import dial_of
from candor.core.reading.scale import Scale
from candor.desktop.frame.theme import Theme
from candor.packs.model import Dial as DialFace


@dataclass(frozen=True)
class NeedleState:
    """What the dial shows: SI magnitudes.

    Attributes
    ----------
    expected : float
        Where the needle should stand: the reference.
    indicated : float or None
        Where it was read, or is being read.
    limit : float
    """

    expected: float
    indicated: float | None
    limit: float


class Dial(QWidget):
    """A meter face with its needle.

    Signals
    -------
    nudged(float)
        The needle is to move by so many ticks (arrow keys).
    dragged(float)
        The needle was dragged to a value, SI.
    """

    nudged = Signal(float)
    dragged = Signal(float)

    def __init__(self, theme: Theme, large: bool = False) -> None:
        super().__init__()
        self._theme = theme
        self._large = large
        self._face: DialFace | None = None
        self._scales: tuple[Scale, ...] = ()
        self._point: TestPoint | None = None
        self._state: NeedleState | None = None
        self._fits: tuple[object, ...] = ()
        self._laid = (QPointF(), 1.0)
        self._printed: tuple[tuple[object, ...], QPixmap] | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("Dial")
        self.setToolTip("Drag the needle, or ← → one tick, Shift half a tick, Ctrl a fifth")

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(450), self._theme.px(250))

    def minimumSizeHint(self) -> QSize:
        return QSize(self._theme.px(240), self._theme.px(190))

    def show_face(self, face: DialFace) -> None:
        """Take the printed scales of a pack."""
        if face is not self._face:
            self._face = face
            self._scales = tuple(s.scale() for s in face.scales)
            self._printed = None
            self.update()

    def show_needle(self, point: TestPoint, state: NeedleState) -> None:
        """Show one point with its needle."""
        self._point, self._state = point, state
        read = "not read" if state.indicated is None else f"needle {engineering(state.indicated, point.unit)}"
        self.setAccessibleDescription(
            f"{point.range_name} range, reference {engineering(state.expected, point.unit)}, {read}"
        )
        self.update()

    # --- geometry -----------------------------------------------------------------------------------

    def _caption_height(self) -> float:
        return self._theme.px(42 if self._large else 28)

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
        high = self.height() - top - self._caption_height()
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

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = {Qt.Key.Key_Left: -1.0, Qt.Key.Key_Right: 1.0}.get(Qt.Key(event.key()))
        if step is None:
            super().keyPressEvent(event)
            return
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            step /= 2
        elif event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            step /= 5
        self.nudged.emit(step)

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
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme = self._theme
        card = QRectF(0.5, 0.5, self.width() - 1, self.height() - 1)
        focus = self.hasFocus()
        painter.setPen(QPen(theme.colour("petrol" if focus else "rule"), 1.5 if focus else 1.2))
        painter.setBrush(theme.colour("dial"))
        painter.drawRoundedRect(card, theme.px(10), theme.px(10))
        if self._face is None or self._point is None or self._state is None:
            return
        clip = QPainterPath()
        clip.addRoundedRect(card, theme.px(10), theme.px(10))
        painter.setClipPath(clip)
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
            for scale, printed in zip(self._scales, face.scales, strict=True):
                self._paint_scale(painter, scale, printed.radius, scale.name == active)
            painter.end()
            self._printed = asked, picture
        return self._printed[1]

    def _paint_limit(self, painter: QPainter) -> None:
        point, state = self._point, self._state
        if point is None or state is None:
            return
        pivot, radius = self._geometry()
        ends = [dial_of(point).deflection_of(state.expected + side * state.limit) for side in (-1, 1)]
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
        colour = theme.colour("ink" if active else "soft")
        painter.setPen(QPen(colour, 1.6 if active else 1.1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(self._arc(share))
        unit = theme.px(10 if self._large else 6)
        painter.setFont(theme.font("arm" if self._large else "reading" if active else "text"))
        metrics = painter.fontMetrics()
        long, numbered = set(scale.long), set(scale.numbered)
        for value, deflection in zip(scale.ticks, scale.deflections, strict=True):
            length = unit * (2.6 if value in numbered else 2.0 if value in long else 1.2)
            weight = 2.0 if value in numbered else 1.5 if value in long else 1.0
            painter.setPen(QPen(colour, weight if active else weight * 0.8))
            painter.drawLine(self._spot(deflection, r), self._spot(deflection, r + outward * length))
            if value in numbered:
                text = trimmed(value)
                spot = self._spot(deflection, r + outward * (length + metrics.height() * 0.72))
                at = QPointF(spot.x() - metrics.horizontalAdvance(text) / 2, spot.y() + metrics.capHeight() / 2)
                painter.setPen(colour)
                painter.drawText(at, text)

    def _paint_needle(self, painter: QPainter) -> None:
        point, state = self._point, self._state
        if point is None or state is None:
            return
        pivot, radius = self._geometry()
        width = 3.2 if self._large else 2.2
        should = self._spot(dial_of(point).deflection_of(state.expected), radius * 1.05)
        painter.setPen(QPen(self._theme.colour("petrol"), width * 0.8, Qt.PenStyle.DashLine))
        painter.drawLine(should, pivot)
        if state.indicated is not None:
            tip = self._spot(dial_of(point).deflection_of(state.indicated), radius * 1.04)
            painter.setPen(QPen(self._theme.colour("ink"), width, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
            painter.drawLine(tip, pivot)

    def _paint_caption(self, painter: QPainter) -> None:
        point = self._point
        if point is None:
            return
        theme, height = self._theme, self._caption_height()
        band = QRectF(0, self.height() - height, self.width(), height)
        painter.fillRect(band, theme.colour("panel"))
        painter.setFont(theme.font("arm-soft" if self._large else "note"))
        painter.setPen(theme.colour("soft"))
        scale = dial_of(point).scale
        division = engineering(dial_of(point).division_at(point.nominal), point.unit)
        mirror = " · mirror" if dial_of(point).mirror else ""
        text = f"{scale.name} · {len(scale.ticks) - 1} divisions of {division}{mirror}"
        inner = band.adjusted(theme.px(14), 0, -theme.px(14), 0)
        painter.drawText(inner, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, text)
        keys = "← → one tick · Shift half"
        metrics = painter.fontMetrics()
        if metrics.horizontalAdvance(text + keys) + theme.px(20) < inner.width():
            painter.drawText(inner, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, keys)
