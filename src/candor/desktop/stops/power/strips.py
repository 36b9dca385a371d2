"""Strips: every rail and the watts of a state, the figure large, its course between the band and the cut line."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QWidget

from candor.core.late_dataclass import dataclass
from candor.core.power.plan import PlanStep, unit_of
from candor.core.power.watch import Watched
from candor.core.quantities import engineering
from candor.desktop.frame.local_numbers import local
from candor.desktop.frame.theme import Theme
from candor.desktop.widgets.glyphs import draw_glyph
from candor.words.power_words import say_watched

SHAPES = {
    "in band": "full",
    "low": "begun",
    "high": "begun",
    "cut": "cross",
    "no band": "ring",
    "unknown": "ring",
    "dead": "cross",
}
TINTS = {"cut": "brick", "dead": "brick", "low": "brass", "high": "brass"}


@dataclass(frozen=True)
class Strip:
    """What one strip shows: what is watched, its values in s and V, W or A."""

    watched: Watched
    values: tuple[tuple[float, float], ...]


class Strips(QWidget):
    """The strips of a state, one below the other."""

    def __init__(self, theme: Theme, high: int = 56) -> None:
        super().__init__()
        self._theme, self._high = theme, high
        self._step: PlanStep | None = None
        self._strips: tuple[Strip, ...] = ()
        self._since_s = 0.0
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName("Rails and watts of this state")

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(320), self._theme.px(self._high) * max(len(self._strips), 1))

    def grow(self, high: int) -> None:
        """Let each strip be so many px high at 100 %: where the screen is large the courses are."""
        self._high = high

    def show_strips(self, step: PlanStep | None, strips: Sequence[Strip], since_s: float) -> None:
        """Show the readings of a state, s since it began."""
        self._step, self._strips, self._since_s = step, tuple(strips), since_s
        self.setAccessibleDescription("; ".join(say_watched(s.watched) for s in strips))
        self.setToolTip("\n".join(say_watched(s.watched) for s in strips))
        self.updateGeometry()
        self.setFixedHeight(self.sizeHint().height())
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        high = self._theme.px(self._high)
        for index, strip in enumerate(self._strips):
            self._paint(painter, QRectF(0, index * high, self.width(), high - self._theme.px(6)), strip)

    def _paint(self, painter: QPainter, box: QRectF, strip: Strip) -> None:
        theme, watched = self._theme, strip.watched
        tint = TINTS.get(watched.state, "ink")
        radius = theme.px(6)
        draw_glyph(painter, theme, SHAPES[watched.state], QPointF(box.left() + radius + 2, box.center().y()), radius)
        left = box.left() + theme.px(24)
        painter.setPen(theme.colour("soft"))
        painter.setFont(theme.font("soft"))
        painter.drawText(
            QRectF(left, box.top(), theme.px(70), box.height()), Qt.AlignmentFlag.AlignVCenter, local(watched.name)
        )
        painter.setPen(theme.colour(tint if strip.values else "faint"))
        painter.setFont(theme.font("hand", bold=True))
        figure = engineering(strip.values[-1][1], unit_of(watched.name), 4) if strip.values else "–"
        place = QRectF(left + theme.px(72), box.top(), theme.px(168), box.height())
        painter.drawText(place, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, local(figure))
        course = QRectF(
            place.right() + theme.px(16), box.top() + 3, box.right() - place.right() - theme.px(20), box.height() - 6
        )
        if course.width() > theme.px(60):
            self._course(painter, course, strip)

    def _course(self, painter: QPainter, box: QRectF, strip: Strip) -> None:
        theme, step = self._theme, self._step
        band = step.band(strip.watched.name) if step else None
        cut = step.cut(strip.watched.name, self._since_s) if step else None
        sign = -1.0 if (band and band.low + band.high < 0) or (strip.values and strip.values[-1][1] < 0) else 1.0
        tops = [abs(v) for _, v in strip.values]
        tops += ([cut.beyond] if cut else []) + ([max(abs(band.low), abs(band.high))] if band else [])
        top = 1.08 * max([*tops, 1e-6])
        end = max(self._since_s, 30.0)

        def at(seconds: float, value: float) -> QPointF:
            share = min(max(sign * value / top, 0.0), 1.0)
            return QPointF(box.left() + box.width() * seconds / end, box.bottom() - box.height() * share)

        painter.fillRect(box, theme.colour("panel"))
        if band is not None:
            painter.fillRect(QRectF(at(0, band.low), at(end, band.high)).normalized(), theme.colour("inside"))
        if cut is not None:
            painter.setPen(QPen(theme.colour("brick"), 1.4, Qt.PenStyle.DashLine))
            painter.drawLine(
                at(cut.after_s if cut.after_s < end else 0, sign * cut.beyond), at(end, sign * cut.beyond)
            )
            painter.setFont(theme.font("note"))
            words = f"cut {engineering(cut.beyond, unit_of(cut.name), 3)}"
            place = QRectF(box.left() + 4, at(0, sign * cut.beyond).y(), box.width() - 8, theme.px(15))
            painter.drawText(place, Qt.AlignmentFlag.AlignRight, local(words))
        painter.setPen(QPen(theme.colour("ink"), 1.8))
        points = [at(t, v) for t, v in strip.values]
        if len(points) > 1:
            painter.drawPolyline(QPolygonF(points))
        painter.setBrush(theme.colour("ink"))
        for point in points[-40:]:
            painter.drawEllipse(point, 1.6, 1.6)
        painter.setBrush(Qt.BrushStyle.NoBrush)
