"""The curve of a run: current against time, the fitted fall, the limit as a line, and what is still charging."""

from __future__ import annotations

import math
from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF

from candor.core.leakage.leakage_run import Calculated, Sample
from candor.core.quantities import engineering
from candor.core.quantities.show import trimmed
from candor.desktop.frame.local_numbers import local
from candor.desktop.frame.theme import Theme
from candor.desktop.widgets.card import draw_caption
from candor.desktop.widgets.chartcard import ChartCard
from candor.desktop.widgets.fanchart import said_time

MOST_SPOTS = 400  # samples that can be read off in one picture


class RunCurve(ChartCard):
    """Current in A over seconds, on a logarithmic scale of current: charging and leakage are decades apart."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme, "Leakage current against time")
        self._samples: tuple[Sample, ...] = ()
        self._calculated: Calculated | None = None
        self._limit = 0.0

    def table(self) -> tuple[tuple[str, ...], list[tuple[object, ...]]]:
        """Return each sample: s since the run began, V, A."""
        return ("seconds", "volts", "amperes"), [(s.seconds, s.volts, s.amperes) for s in self._samples]

    def show_run(self, samples: tuple[Sample, ...], calculated: Calculated | None, limit: float) -> None:
        """Show what was read so far."""
        if len(samples) < len(self._samples):
            self.stretch.whole()  # another run
        self._samples, self._calculated, self._limit = samples, calculated, limit
        last = (
            f"{engineering(samples[-1].amperes, 'A', 3)} after {trimmed(samples[-1].seconds)} s"
            if samples
            else "no reading yet"
        )
        self.describe(f"{last}; limit {engineering(limit, 'A', 3)}")
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(240), self._theme.px(130))

    def minimumSizeHint(self) -> QSize:
        return QSize(self._theme.px(40), self._theme.px(40))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter, theme = self.begin(), self._theme
        box = self.plot(left=58, right=12)
        if not self._samples or box.width() < 20 or box.height() < 20:
            painter.setPen(theme.colour("soft"))
            painter.setFont(theme.font("soft"))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, "no reading yet")
            return
        end = max(self._samples[-1].seconds, 10.0)
        low, high = self._decades()

        def at(seconds: float, amperes: float) -> QPointF:
            share = (math.log10(max(amperes, 1e-10)) - low) / (high - low)
            return QPointF(self.x_of(seconds / end), box.bottom() - box.height() * min(max(share, 0), 1))

        self._grid(painter, box, low, high, end)
        self.clip(painter)
        painter.setPen(QPen(theme.colour("brick"), 1.2, Qt.PenStyle.DashLine))
        painter.drawLine(at(0, self._limit), at(end, self._limit))
        painter.setPen(QPen(theme.colour("ink"), 1.6))
        painter.drawPolyline(QPolygonF([at(s.seconds, s.amperes) for s in self._samples]))
        self._fit(painter, at, end)
        for s in self._samples[:: max(len(self._samples) // MOST_SPOTS, 1)]:
            said = f"{said_time(s.seconds, 0.0)}: {engineering(s.amperes, 'A', 3)} at {trimmed(s.volts)} V"
            self.spot(at(s.seconds, s.amperes), s.seconds / end, said)
        painter.restore()
        self._name_limit(painter, box, at)
        self.draw_read_off(painter)
        draw_caption(painter, self, theme, False, "current over time; dotted: the fitted fall", "")

    def _decades(self) -> tuple[float, float]:
        values = [s.amperes for s in self._samples if s.amperes > 1e-9] or [1e-9]
        low = math.floor(math.log10(min(*values, self._limit) * 0.7) * 2) / 2
        return low, max(math.ceil(math.log10(max(*values, self._limit) * 1.2) * 2) / 2, low + 1)

    def _grid(self, painter: QPainter, box: QRectF, low: float, high: float, end: float) -> None:
        theme = self._theme
        painter.setFont(theme.font("note"))
        for decade in range(math.ceil(low), math.floor(high) + 1):
            y = box.bottom() - box.height() * (decade - low) / (high - low)
            painter.setPen(QPen(theme.colour("rule"), 1))
            painter.drawLine(QPointF(box.left(), y), QPointF(box.right(), y))
            painter.setPen(theme.colour("soft"))
            place = QRectF(0, y - theme.px(9), box.left() - theme.px(6), theme.px(18))
            words = engineering(10.0**decade, "A", 2)
            painter.drawText(place, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, local(words))
        painter.setPen(theme.colour("soft"))
        below = QRectF(box.left(), box.bottom() + theme.px(3), box.width(), theme.px(16))
        begins, ends = (end * share for share in (self.stretch.begin, self.stretch.end))
        for side, seconds in ((Qt.AlignmentFlag.AlignLeft, begins), (Qt.AlignmentFlag.AlignRight, ends)):
            words = (
                "0" if not seconds else f"{trimmed(seconds, 3)} s" if end < 120 else f"{trimmed(seconds / 60, 3)} min"
            )
            painter.drawText(below, side, local(words))
        calculated = self._calculated
        if calculated is not None and math.isfinite(calculated.charging_until) and calculated.charging_until < end:
            self._charging(
                painter, box, self.x_of(calculated.since / end), self.x_of(calculated.charging_until / end)
            )

    def _name_limit(self, painter: QPainter, box: QRectF, at: Callable[[float, float], QPointF]) -> None:
        """Write the limit at its line, on the side and end where the curve is farthest from the words."""
        theme, words = self._theme, f"limit {engineering(self._limit, 'A', 3)}"
        painter.setFont(theme.font("note"))
        wide, high = painter.fontMetrics().horizontalAdvance(words), theme.px(16)
        y = at(0, self._limit).y()
        tops = [t for t in (y - high - 1, y + 1) if box.top() <= t <= box.bottom() - high] or [y + 1]
        places = [QRectF(left, top, wide, high) for left in (box.right() - wide, box.left() + 4) for top in tops]
        curve = [at(s.seconds, s.amperes) for s in self._samples[:: max(len(self._samples) // 500, 1)]]

        def clear(place: QRectF) -> float:
            inside = [p.y() for p in curve if place.left() - 8 <= p.x() <= place.right() + 8]
            return min((abs(v - place.center().y()) for v in inside), default=math.inf)

        painter.setPen(theme.colour("brick"))
        painter.drawText(max(places, key=clear), Qt.AlignmentFlag.AlignCenter, local(words))

    def _charging(self, painter: QPainter, box: QRectF, left: float, right: float) -> None:
        """Mark where charging was over at the voltage in force; `left` and `right` in px."""
        theme = self._theme
        if not box.left() <= right <= box.right():
            return
        painter.setPen(QPen(theme.colour("faint"), 1, Qt.PenStyle.DotLine))
        painter.drawLine(QPointF(right, box.top()), QPointF(right, box.bottom()))
        if right - left > theme.px(56):
            painter.setPen(theme.colour("soft"))
            place = QRectF(left + theme.px(4), box.bottom() - theme.px(17), right - left, theme.px(16))
            painter.drawText(place, Qt.AlignmentFlag.AlignLeft, "charging")

    def _fit(self, painter: QPainter, at: Callable[[float, float], QPointF], end: float) -> None:
        calculated = self._calculated
        if calculated is None or calculated.decay is None or calculated.charging_until >= end:
            return
        start = calculated.charging_until
        times = [start + (end - start) * i / 60 for i in range(61)]
        values = calculated.decay.at([max(t - calculated.since, 1e-3) for t in times])
        painter.setPen(QPen(self._theme.colour("petrol"), 2.2, Qt.PenStyle.DotLine))
        painter.drawPolyline(QPolygonF([at(t, float(v)) for t, v in zip(times, values, strict=True)]))
