"""A point over the years: its results with their U, the fan of what is expected, the limits; and what settles over the hours."""

from __future__ import annotations

import datetime as dt
import math
from typing import Protocol

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPen, QPolygonF

from candor.core.drift.forecast import PointForecast
from candor.core.drift.history import DAYS, PointHistory
from candor.core.quantities import engineering
from candor.core.quantities.show import pair
from candor.core.stability.settle import Settling
from candor.desktop.frame.theme import Theme
from candor.desktop.widgets.card import draw_caption
from candor.desktop.widgets.chartcard import ChartCard

TOP = 1.6  # limits shown either side of zero
AHEAD = 3.0  # years of the fan
WHOLE_MINUTES_S = 600.0  # from which span on times under it stand in whole minutes
HALF, NEARLY_ALL = 0.6745, 1.96  # of a normal: 50 and 95 per cent
STEPS = 60
EVERY_MONTHS = (1, 2, 3, 6, 12, 24, 60)
MOST_TICKS = 8


class Record(Protocol):
    """What a soak has to show: what is watched, s since it is on, values, and the fit."""

    @property
    def what(self) -> str: ...
    @property
    def unit(self) -> str: ...
    @property
    def seconds(self) -> tuple[float, ...]: ...
    @property
    def values(self) -> tuple[float, ...]: ...
    @property
    def found(self) -> Settling | None: ...


class FanChart(ChartCard):
    """One point's history and forecast, in limits."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme, "History and forecast")
        self._point: PointHistory | None = None
        self._found: PointForecast | None = None
        self._due: dt.date | None = None

    def table(self) -> tuple[tuple[str, ...], list[tuple[object, ...]]]:
        """Return each result, and each year that is forecast: its day, error, U (k = 2) and limit, SI."""
        point, found = self._point, self._found
        results = [r for s in point.segments for r in s.results] if point is not None else []
        limit = point.limit if point is not None else math.nan
        rows: list[tuple[object, ...]] = [(r.on.isoformat(), r.error, r.expanded, limit, "result") for r in results]
        if found is not None and results:
            for year in range(1, int(AHEAD) + 1):
                on = results[-1].on + dt.timedelta(days=round(year * DAYS))
                expected, u = found.at(on)
                rows.append((on.isoformat(), expected, 2 * u, limit, "forecast"))
        return ("date", "error", "U", "limit", "what"), rows

    def show_point(self, point: PointHistory | None, found: PointForecast | None, due: dt.date | None) -> None:
        """Show a point, its forecast, and the day it is due."""
        if self._point is None or point is None or self._point.name != point.name:
            self.stretch.whole()
        self._point, self._found, self._due = point, found, due
        count = sum(len(s.results) for s in point.segments) if point is not None else 0
        self.describe(f"{point.name}: {count} results in {len(point.segments)} segments" if point is not None else "")
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter, theme = self.begin(), self._theme
        point, plot = self._point, self.plot()
        results = [r for s in point.segments for r in s.results] if point is not None else []
        if point is None or not results:
            draw_caption(painter, self, theme, False, "no result yet", "")
            return
        first, last = results[0].on.toordinal(), results[-1].on.toordinal() + AHEAD * DAYS

        def share_of(day: float) -> float:
            return (day - first) / max(last - first, 1)

        def x(day: float) -> float:
            return self.x_of(share_of(day))

        def y(error: float) -> float:
            share = min(max(error / point.limit, -TOP), TOP)
            return plot.center().y() - plot.height() / 2 * share / TOP

        shown = [first + (last - first) * share for share in (self.stretch.begin, self.stretch.end)]
        self._axes(painter, plot, x, y, *(dt.date.fromordinal(round(day)) for day in shown))
        self.clip(painter)
        if self._found is not None:
            self._fan(painter, x, y, results[-1].on)
        for segment in point.segments:
            painter.setPen(QPen(theme.colour("soft"), 1, Qt.PenStyle.DotLine))
            painter.drawPolyline(QPolygonF([QPointF(x(r.on.toordinal()), y(r.error)) for r in segment.results]))
            for r in segment.results:
                at = QPointF(x(r.on.toordinal()), y(r.error))
                painter.setPen(QPen(theme.colour("petrol"), 1.6))
                painter.drawLine(QPointF(at.x(), y(r.error - r.expanded)), QPointF(at.x(), y(r.error + r.expanded)))
                painter.setBrush(theme.colour("petrol" if r.when == "left" else "dial"))
                painter.drawEllipse(at, theme.px(4), theme.px(4))
                said = pair(r.error, r.expanded, point.unit)
                self.spot(at, share_of(r.on.toordinal()), f"{r.on:%d %b %Y}, as {r.when}: {said}")
        if self._due is not None and first <= self._due.toordinal() <= last:
            painter.setPen(QPen(theme.colour("brass"), 1.6, Qt.PenStyle.DashLine))
            painter.drawLine(
                QPointF(x(self._due.toordinal()), plot.top()), QPointF(x(self._due.toordinal()), plot.bottom())
            )
        painter.restore()
        if self._due is not None and plot.left() <= x(self._due.toordinal()) <= plot.right():
            self.words(painter, QPointF(x(self._due.toordinal()), plot.top() - theme.px(2)), "due")
        self.draw_read_off(painter)
        draw_caption(painter, self, theme, False, point.name, "ring: as found   dot: as left   fan: 50 and 95 %")

    def _axes(self, painter: QPainter, plot: QRectF, x: object, y: object, first: dt.date, last: dt.date) -> None:
        theme = self._theme
        point = self._point
        if point is None:
            return
        for share, words in ((1.0, "+limit"), (0.0, "0"), (-1.0, "−limit")):
            painter.setPen(
                QPen(
                    theme.colour("petrol" if share else "rule"),
                    1,
                    Qt.PenStyle.DashLine if share else Qt.PenStyle.SolidLine,
                )
            )
            at = y(share * point.limit)  # type: ignore[operator]
            painter.drawLine(QPointF(plot.left(), at), QPointF(plot.right(), at))
            self.words(painter, QPointF(plot.left() - theme.px(8), at + theme.px(4)), words, right=True)
        for day, words in ticks_of(first, last):
            at = x(day.toordinal())  # type: ignore[operator]
            if plot.left() <= at <= plot.right():
                self.words(painter, QPointF(at, plot.bottom() + theme.px(18)), words)

    def _fan(self, painter: QPainter, x: object, y: object, since: dt.date) -> None:
        found = self._found
        if found is None:
            return
        start = (since - found.start).days / DAYS
        years = np.linspace(start, start + AHEAD, STEPS)
        mean, variance = found.over(years)
        days = found.start.toordinal() + years * DAYS
        for times, depth in ((NEARLY_ALL, 40), (HALF, 70)):
            u = times * np.sqrt(variance)
            above = [QPointF(x(d), y(m)) for d, m in zip(days, mean + u, strict=True)]  # type: ignore[operator]
            below = [QPointF(x(d), y(m)) for d, m in zip(days, mean - u, strict=True)]  # type: ignore[operator]
            colour = QColor(self._theme.colour("petrol"))
            colour.setAlpha(depth)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(colour)
            painter.drawPolygon(QPolygonF([*above, *reversed(below)]))
        painter.setPen(QPen(self._theme.colour("petrol"), 1.4))
        painter.drawPolyline(QPolygonF([QPointF(x(d), y(m)) for d, m in zip(days, mean, strict=True)]))  # type: ignore[operator]


def ticks_of(first: dt.date, last: dt.date) -> list[tuple[dt.date, str]]:
    """Return the days that stand under a stretch of time, with their words: years, or months where it is short; nine at most."""
    months = (last.year - first.year) * 12 + last.month - first.month
    every = next((n for n in EVERY_MONTHS if months <= MOST_TICKS * n), 12 * math.ceil(months / 12 / MOST_TICKS))
    begin = first.year * 12 + first.month - 1
    made = []
    for count in range(begin - begin % every, last.year * 12 + last.month, every):
        day = dt.date(count // 12, count % 12 + 1, 1)
        if first <= day <= last:
            made.append((day, str(day.year) if every >= 12 else f"{day:%b %Y}"))
    return made


class SoakChart(ChartCard):
    """What is watched while it soaks, and the curve it settles along."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme, "While it soaks")
        self._view: Record | None = None

    def table(self) -> tuple[tuple[str, ...], list[tuple[object, ...]]]:
        """Return each reading: s since it is on, and its value, SI."""
        view = self._view
        pairs = zip(view.seconds, view.values, strict=True) if view is not None else ()
        return ("seconds", view.what if view is not None else "value"), [tuple(pair) for pair in pairs]

    def show_soak(self, view: Record, words: str) -> None:
        """Show a record of a soak; `words` say how it stands."""
        if self._view is None or self._view.what != view.what:
            self.stretch.whole()
        self._view = view
        self.describe(f"{len(view.values)} readings. {words}")
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter, theme, view = self.begin(), self._theme, self._view
        plot = self.plot(left=96)  # values of six figures and their unit stand there
        if view is None or not view.values:
            draw_caption(painter, self, theme, False, "nothing read yet", "")
            return
        begin = view.seconds[0]
        end = begin + max(view.seconds[-1] - begin, 60.0) * 1.15
        shown = [begin + (end - begin) * share for share in (self.stretch.begin, self.stretch.end)]
        inside = [
            v for s, v in zip(view.seconds, view.values, strict=True) if shown[0] <= s <= shown[1]
        ] or view.values
        lowest, highest = min(inside), max(inside)
        room = max((highest - lowest) * 0.15, abs(highest) * 1e-9, 1e-15)
        low, high = lowest - room, highest + room

        def at(seconds: float, value: float) -> QPointF:
            height = plot.height() * (value - low) / (high - low)
            return QPointF(self.x_of((seconds - begin) / (end - begin)), plot.bottom() - height)

        for value in (lowest, highest):
            said = engineering(value, view.unit, 6) if view.unit else f"{value:.6g}"
            self.words(
                painter, QPointF(plot.left() - theme.px(8), at(begin, value).y() + theme.px(4)), said, right=True
            )
        painter.setPen(QPen(theme.colour("rule"), 1))
        painter.drawLine(plot.bottomLeft(), plot.bottomRight())
        for share in (0.0, 0.25, 0.5, 0.75):
            foot = QPointF(plot.left() + plot.width() * share, plot.bottom() + theme.px(18))
            self.words(painter, foot, said_time(shown[0] + (shown[1] - shown[0]) * share, shown[1] - shown[0]))
        self.clip(painter)
        self._curve(painter, view.found, view.seconds[0], end, at)
        painter.setPen(QPen(theme.colour("petrol"), 1.4))
        painter.setBrush(theme.colour("dial"))
        for seconds, value in zip(view.seconds, view.values, strict=True):
            painter.drawEllipse(at(seconds, value), theme.px(3), theme.px(3))
            said = engineering(value, view.unit, 6) if view.unit else f"{value:.6g}"
            self.spot(at(seconds, value), (seconds - begin) / (end - begin), f"{said_time(seconds, 0.0)}: {said}")
        painter.restore()
        self.draw_read_off(painter)
        draw_caption(painter, self, theme, False, view.what or "what is watched", "since it was switched on")

    def _curve(self, painter: QPainter, found: Settling | None, first: float, end: float, at: object) -> None:
        if found is None or not found.can_say or not math.isfinite(found.tau) or found.tau <= 0:
            return
        view = self._view
        if view is None:
            return
        size = found.rest * math.exp(min((view.seconds[-1] - first) / found.tau, 300))
        seconds = np.linspace(first, end, STEPS)
        values = found.final + size * np.exp(-(seconds - first) / found.tau)
        painter.setPen(QPen(self._theme.colour("brass"), 1.6))
        painter.drawPolyline(QPolygonF([at(s, v) for s, v in zip(seconds, values, strict=True)]))  # type: ignore[operator]


def said_time(seconds: float, span: float) -> str:
    """Say a time since it was switched on: ``1 h 25 min``, with seconds where the span beside it is short."""
    if span >= WHOLE_MINUTES_S:
        hours, minutes = divmod(round(seconds / 60), 60)
        return f"{hours} h {minutes} min" if hours else f"{minutes} min"
    minutes, rest = divmod(round(seconds), 60)
    hours, minutes = divmod(minutes, 60)
    parts = ((hours, "h"), (minutes, "min"), (rest, "s"))
    return " ".join(f"{n} {unit}" for n, unit in parts if n) or "0 s"
