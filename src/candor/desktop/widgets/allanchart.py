"""How steady something is over how long it is averaged: deviations with their u, both axes by decades."""

from __future__ import annotations

import math
from collections.abc import Sequence

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QPaintEvent, QPen, QPolygonF

from candor.core.quantities.show import pair_in_powers, power_of_ten, trimmed
from candor.desktop.frame.theme import Theme
from candor.desktop.widgets.card import draw_caption
from candor.desktop.widgets.chartcard import ChartCard

Row = tuple[float, float, float]  # averaging time, s; deviation; its u


class AllanChart(ChartCard):
    """Deviations over averaging times; the least is marked."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme, "Deviation over averaging time")
        self._rows: tuple[Row, ...] = ()
        self._average = 0.0

    def table(self) -> tuple[tuple[str, ...], list[tuple[object, ...]]]:
        """Return each averaging time, s, its deviation and the standard uncertainty of that."""
        return ("averaging time", "deviation", "u"), [tuple(row) for row in self._rows]

    def show_rows(self, rows: Sequence[Row], average: float) -> None:
        """Show deviations, and the averaging time at which they are least."""
        self._rows, self._average = tuple(r for r in rows if r[1] > 0), average
        said = f"least at {average:g} s" if self._rows else "nothing yet"
        self.describe(f"{len(self._rows)} deviations, {said}")
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter, theme, rows = self.begin(), self._theme, self._rows
        plot = self.plot(left=70, right=30)  # the last decade's words stand half beyond it
        if not rows:
            draw_caption(painter, self, theme, False, "no readings at equal times yet", "")
            return
        times = [math.log10(r[0]) for r in rows]
        sizes = [math.log10(v) for _, d, u in rows for v in (d + u, max(d - u, d / 3))]
        left, right = math.floor(min(times) - 1e-9), math.ceil(max(times) + 1e-9)
        low, high = math.floor(min(sizes)), math.ceil(max(sizes))

        def share_of(seconds: float) -> float:
            return (math.log10(seconds) - left) / (right - left)

        def at(seconds: float, deviation: float) -> QPointF:
            up = (math.log10(deviation) - low) / (high - low)
            return QPointF(self.x_of(share_of(seconds)), plot.bottom() - plot.height() * up)

        painter.setPen(QPen(theme.colour("rule"), 1))
        for power in range(low, high + 1):
            height = at(1.0, 10.0**power).y()
            painter.drawLine(QPointF(plot.left(), height), QPointF(plot.right(), height))
        for power in range(left, right + 1):
            x = at(10.0**power, 10.0**low).x()
            if plot.left() <= x <= plot.right():
                painter.drawLine(QPointF(x, plot.top()), QPointF(x, plot.bottom()))
        for power in range(low, high + 1, max(1, (high - low) // 5)):
            place = QPointF(plot.left() - theme.px(8), at(1.0, 10.0**power).y() + theme.px(4))
            self.words(painter, place, _decade(power), right=True)
        for power in range(left, right + 1):
            foot = at(10.0**power, 10.0**low) + QPointF(0, theme.px(18))
            if plot.left() - 1 <= foot.x() <= plot.right() + 1:
                self.words(painter, foot, f"{_decade(power)} s")
        self.clip(painter)
        painter.setPen(QPen(theme.colour("soft"), 1, Qt.PenStyle.DotLine))
        painter.drawPolyline(QPolygonF([at(t, d) for t, d, _ in rows]))
        for t, d, u in rows:
            best = t == self._average
            painter.setPen(QPen(theme.colour("petrol"), 1.6))
            painter.drawLine(at(t, d + u), at(t, max(d - u, d / 3)))
            painter.setBrush(theme.colour("brass" if best else "dial"))
            painter.drawEllipse(at(t, d), theme.px(4), theme.px(4))
            self.spot(at(t, d), share_of(t), f"{trimmed(t)} s: {pair_in_powers(d, u)}{', the least' if best else ''}")
        painter.restore()
        self.draw_read_off(painter)
        draw_caption(painter, self, theme, False, "overlapping deviation, bar: its u", "over averaging time")


def _decade(power: int) -> str:
    return power_of_ten(power) if power not in (0, 1) else f"{10**power}"
