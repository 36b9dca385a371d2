"""A standard's ranges: how sure it is over what it reads, both by their decades."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence

from PySide6.QtCore import QPointF, QSize
from PySide6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF

from candor.core.quantities import engineering
from candor.core.quantities.show import trimmed
from candor.core.reference.reach import Reach
from candor.desktop.frame.theme import Theme
from candor.desktop.widgets.card import draw_caption
from candor.desktop.widgets.chartcard import ChartCard

LEAST = 1e-9  # of a value: what is surer is drawn so


class ReachChart(ChartCard):
    """U over the value, a curve for each range; what is lower is surer."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme, "How sure it is over its ranges")
        self._reach: tuple[Reach, ...] = ()
        self._unit, self._words = "", ""

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(560), self._theme.px(200))

    def table(self) -> tuple[tuple[str, ...], list[tuple[object, ...]]]:
        """Return each end: the range, SI, the value, SI, and U over the value."""
        rows = [(r.upper, value, share) for r in self._reach for value, share in zip(r.values, r.shares, strict=True)]
        return ("range", f"value, {self._unit}", "U / value"), list(rows)

    def show_reach(self, found: Sequence[Reach], unit: str, words: str) -> None:
        """Show one quantity of a standard."""
        self._reach, self._unit, self._words = tuple(found), unit, words
        ends = "; ".join(f"{engineering(r.upper, unit, 4)}: {_percent(r.shares[-1])}" for r in self._reach)
        self.describe(f"{words}: {ends}" if ends else "")
        self.setVisible(bool(self._reach))
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter, theme = self.begin(), self._theme
        if not self._reach:
            return
        plot = self.plot(left=70, right=30)
        values = [math.log10(v) for r in self._reach for v in r.values]
        shares = [math.log10(max(s, LEAST)) for r in self._reach for s in r.shares]
        left, right = math.floor(min(values) - 1e-9), math.ceil(max(values) + 1e-9)
        low, high = math.floor(min(shares) - 1e-9), math.ceil(max(shares) + 1e-9)
        right, high = max(right, left + 1), max(high, low + 1)

        def share_of(value: float) -> float:
            return (math.log10(value) - left) / (right - left)

        def at(value: float, share: float) -> QPointF:
            up = (math.log10(max(share, LEAST)) - low) / (high - low)
            return QPointF(self.x_of(share_of(value)), plot.bottom() - plot.height() * up)

        self._decades(painter, at, range(left, right + 1), range(low, high + 1))
        self.clip(painter)
        for r in self._reach:
            painter.setPen(QPen(theme.colour("petrol"), 2))
            if r.is_point:
                painter.setBrush(theme.colour("petrol"))
                painter.drawEllipse(at(r.values[0], r.shares[0]), theme.px(3.5), theme.px(3.5))
            else:
                painter.drawPolyline(QPolygonF([at(v, s) for v, s in zip(r.values, r.shares, strict=True)]))
                painter.setBrush(theme.colour("dial"))
                painter.drawEllipse(at(r.values[-1], r.shares[-1]), theme.px(3), theme.px(3))
            for v, s in zip(r.values, r.shares, strict=True):
                self.spot(at(v, s), share_of(v), f"{engineering(v, self._unit, 4)}: U {_percent(s)}")
        painter.restore()
        self.draw_read_off(painter)
        draw_caption(painter, self, theme, False, f"{self._words}: U over the value; lower is surer", "")

    def _decades(self, painter: QPainter, place: Callable[[float, float], QPointF], along: range, up: range) -> None:
        theme = self._theme
        painter.setPen(QPen(theme.colour("rule"), 1))
        plot = self._plot
        shown = [power for power in along if plot.left() - 1 <= place(10.0**power, 1.0).x() <= plot.right() + 1]
        for power in up:
            height = place(1.0, 10.0**power).y()
            painter.drawLine(QPointF(plot.left(), height), QPointF(plot.right(), height))
        for power in shown:
            painter.drawLine(place(10.0**power, 10.0 ** up[0]), place(10.0**power, 10.0 ** up[-1]))
        for power in up[:: max(1, len(up) // 4)]:
            spot = QPointF(plot.left() - theme.px(8), place(1.0, 10.0**power).y() + theme.px(4))
            self.words(painter, spot, _percent(10.0**power), right=True)
        for power in shown[:: max(1, len(shown) // 8)]:
            spot = place(10.0**power, 10.0 ** up[0]) + QPointF(0, theme.px(18))
            self.words(painter, spot, engineering(10.0**power, self._unit, 2))


def _percent(share: float) -> str:
    return f"{trimmed(100 * share, 7)} %" if share >= 1e-6 else f"{trimmed(1e6 * share, 4)} ppm"
