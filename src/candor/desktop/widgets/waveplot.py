"""A waveform drawn: the lowest and highest of what falls on each pixel, the levels that were used, a stretch of it by the wheel."""

from __future__ import annotations

import math
from typing import overload

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QEvent, QLineF, QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPainterPath, QPaintEvent, QPen, QWheelEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from candor.core.quantities import engineering
from candor.core.waves.analysis import Analysis
from candor.desktop.frame.local_numbers import local
from candor.desktop.frame.theme import Theme
from candor.desktop.widgets.card import begin_card, caption_height, draw_caption, draw_note
from candor.desktop.widgets.chartcard import KEYS, MOUSE

Floats = NDArray[np.float64]
CLOSEST = 16.0  # samples that the widget's width may show at the least


class WavePlot(QWidget):
    """One channel."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._shown: Analysis | None = None
        self._begin, self._end = 0.0, 1.0  # of the record, in samples
        self._dragged_from: float | None = None
        self._read: int | None = None  # the sample that is read off
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("Waveform")
        self.setToolTip(f"{MOUSE}. {KEYS}")

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(560), self._theme.px(260))

    def minimumSizeHint(self) -> QSize:
        return QSize(self._theme.px(240), self._theme.px(150))

    def table(self) -> tuple[tuple[str, ...], list[tuple[object, ...]]]:
        """Return the samples of the stretch that is drawn: s, and the value, SI."""
        if self._shown is None:
            return ("seconds", "value"), []
        wave = self._shown.wave
        first, last = max(math.floor(self._begin), 0), min(math.ceil(self._end), wave.count - 1)
        values = wave.values[first : last + 1]
        return ("seconds", wave.name), [
            (wave.start_s + (first + n) * wave.interval_s, float(v)) for n, v in enumerate(values)
        ]

    def show_analysis(self, found: Analysis | None) -> None:
        """Show a channel with its levels, whole."""
        self._shown = found
        self._begin, self._end = 0.0, float(found.wave.count - 1) if found is not None else 1.0
        self.setAccessibleDescription(
            f"{found.wave.name}: {found.wave.count} samples, {found.levels.method}" if found is not None else ""
        )
        self.update()

    @property
    def shown(self) -> Analysis | None:
        """The channel that is drawn."""
        return self._shown

    @property
    def stretch(self) -> tuple[float, float]:
        """From which sample to which it is drawn."""
        return self._begin, self._end

    def _plot(self) -> QRectF:
        px = self._theme.px
        return QRectF(
            px(64), px(10), self.width() - px(74), self.height() - px(16) - caption_height(self._theme, False)
        )

    def _values(self) -> tuple[float, float]:
        if self._shown is None:
            return 0.0, 1.0
        low, high = self._shown.wave.low, self._shown.wave.high
        room = 0.06 * (high - low) or abs(high) or 1.0
        return low - room, high + room

    @overload
    def _y(self, value: float) -> float: ...
    @overload
    def _y(self, value: Floats) -> Floats: ...
    def _y(self, value: float | Floats) -> float | Floats:
        plot, (low, high) = self._plot(), self._values()
        return plot.bottom() - (value - low) / (high - low) * plot.height()

    def _x(self, sample: float) -> float:
        plot = self._plot()
        return plot.left() + (sample - self._begin) / (self._end - self._begin) * plot.width()

    # --- input --------------------------------------------------------------------------------------

    def wheelEvent(self, event: QWheelEvent) -> None:
        if self._shown is None:
            return
        plot = self._plot()
        share = min(max((event.position().x() - plot.left()) / plot.width(), 0.0), 1.0)
        self.zoom(0.8 ** (event.angleDelta().y() / 120), share)
        event.accept()

    def zoom(self, factor: float, share: float = 0.5) -> None:
        """Show a stretch `factor` times as long; the place at `share` of the width stays where it is."""
        if self._shown is None:
            return
        most = float(self._shown.wave.count - 1)
        width = min(max((self._end - self._begin) * factor, min(CLOSEST, most)), most)
        at = self._begin + share * (self._end - self._begin)
        self._begin = min(max(at - share * width, 0.0), most - width)
        self._end = self._begin + width
        self.update()

    @property
    def read_off(self) -> str:
        """What is read off: time and value of the sample at the pointer; empty where nothing is."""
        found, at = self._shown, self._read
        if found is None or at is None:
            return ""
        return f"{engineering(found.wave.seconds(at), 's', 5)}: {engineering(float(found.wave.values[at]), found.wave.unit, 4)}"

    def read_at(self, sample: int | None) -> None:
        """Read off a sample, or none; one that is not shown is brought into sight."""
        if self._shown is None:
            return
        most = self._shown.wave.count - 1
        self._read = None if sample is None else min(max(sample, 0), most)
        if self._read is not None and not self._begin <= self._read <= self._end:
            width = self._end - self._begin
            self._begin = min(max(self._read - width / 2, 0.0), most - width)
            self._end = self._begin + width
        self.setAccessibleDescription(self.read_off)
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = Qt.Key(event.key())
        step = max(round((self._end - self._begin) / 100), 1)
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            middle = round((self._begin + self._end) / 2)
            turn = -step if key == Qt.Key.Key_Left else step
            self.read_at(middle if self._read is None else self._read + turn)
        elif key in (Qt.Key.Key_Plus, Qt.Key.Key_Equal):
            self.zoom(0.8)
        elif key == Qt.Key.Key_Minus:
            self.zoom(1.25)
        elif key == Qt.Key.Key_Home:
            self.show_analysis(self._shown)
        else:
            super().keyPressEvent(event)

    def leaveEvent(self, event: QEvent) -> None:
        self.read_at(None)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._dragged_from = event.position().x()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._shown is None:
            return
        if self._dragged_from is None:
            plot = self._plot()
            along = (event.position().x() - plot.left()) / max(plot.width(), 1)
            at = round(self._begin + along * (self._end - self._begin))
            self.read_at(at if 0 <= along <= 1 else None)
            return
        moved = (self._dragged_from - event.position().x()) / self._plot().width() * (self._end - self._begin)
        width, most = self._end - self._begin, float(self._shown.wave.count - 1)
        self._begin = min(max(self._begin + moved, 0.0), most - width)
        self._end, self._dragged_from = self._begin + width, event.position().x()
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._dragged_from = None

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        self.show_analysis(self._shown)

    # --- painting -----------------------------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent) -> None:
        theme, found = self._theme, self._shown
        painter = begin_card(self, theme)
        if found is None:
            draw_caption(painter, self, theme, False, "no samples yet", "")
            return
        plot, levels = self._plot(), found.levels
        painter.setFont(theme.font("note"))
        names = [(levels.base, "base"), (levels.top, "top")]
        names += [(levels.at(share), f"{100 * share:.0f} %") for share in (0.1, 0.5, 0.9)]
        for value, name in names:
            y = self._y(value)
            style = Qt.PenStyle.SolidLine if name in ("top", "base") else Qt.PenStyle.DashLine
            painter.setPen(QPen(theme.colour("petrol"), 1, style))
            painter.drawLine(QPointF(plot.left(), y), QPointF(plot.right(), y))
            painter.setPen(theme.colour("soft"))
            box = QRectF(0, y - 10, plot.left() - theme.px(6), 20)
            painter.drawText(box, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, local(name))
        painter.setPen(QPen(theme.colour("ink"), 1.2))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        if self._end - self._begin > 2 * plot.width():
            painter.setRenderHint(
                QPainter.RenderHint.Antialiasing, False
            )  # upright lines: a path of them takes a second
            painter.setPen(QPen(theme.colour("ink"), 1))
            painter.drawLines(self._columns(found, plot))
        else:
            painter.drawPath(self._path(found, plot))
        self._draw_read_off(painter, plot)
        first, last = (engineering(found.wave.seconds(i), "s", 4) for i in (self._begin, self._end))
        span = (
            f"{engineering(found.wave.low, found.wave.unit, 3)} to {engineering(found.wave.high, found.wave.unit, 3)}"
        )
        draw_caption(
            painter, self, theme, False, f"{found.wave.name} · {first} to {last} · {span}", "wheel: a shorter stretch"
        )

    def _draw_read_off(self, painter: QPainter, plot: QRectF) -> None:
        """A line at the sample that is read off, and what it says beside it."""
        theme, found, at = self._theme, self._shown, self._read
        if found is None or at is None or not self._begin <= at <= self._end:
            return
        place = QPointF(self._x(at), self._y(float(found.wave.values[at])))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing, True)
        painter.setPen(QPen(theme.colour("brass"), 1))
        painter.drawLine(QPointF(place.x(), plot.top()), QPointF(place.x(), plot.bottom()))
        painter.drawEllipse(place, theme.px(4), theme.px(4))
        draw_note(painter, theme, place, self.read_off, plot)

    def _part(self, found: Analysis) -> tuple[int, Floats]:
        """The first sample that is drawn, and all of them."""
        first, last = math.floor(self._begin), min(math.ceil(self._end) + 1, len(found.wave.values))
        return first, found.wave.values[first:last]

    def _columns(self, found: Analysis, plot: QRectF) -> list[QLineF]:
        """A line for each pixel across, from the lowest to the highest of its samples, to those beside it."""
        _, part = self._part(found)
        width = max(int(plot.width()), 1)
        edges = np.linspace(0, len(part), width + 1).astype(int)[:-1]
        lows, highs = np.minimum.reduceat(part, edges), np.maximum.reduceat(part, edges)
        # From one column to the next the trace has no gap: each reaches to where the last sample before it was.
        before = np.concatenate((part[:1], part[edges[1:] - 1]))
        lows, highs = np.minimum(lows, before), np.maximum(highs, before)
        tops, bottoms = (self._y(highs), self._y(lows))
        return [
            QLineF(x, top, x, bottom + 1)
            for x, (top, bottom) in enumerate(zip(tops.tolist(), bottoms.tolist(), strict=True), int(plot.left()))
        ]

    def _path(self, found: Analysis, plot: QRectF) -> QPainterPath:
        """A line through every sample, where they are few."""
        first, part = self._part(found)
        path = QPainterPath()
        for index, value in enumerate(part):
            x = self._x(first + index)
            at = QPointF(min(max(x, plot.left()), plot.right()), self._y(float(value)))
            if index:
                path.lineTo(at)
            else:
                path.moveTo(at)
        return path
