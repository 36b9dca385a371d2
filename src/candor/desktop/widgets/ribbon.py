"""The error ribbon: every test point side by side, as found hollow, as left filled, bar = U."""

from __future__ import annotations

from itertools import groupby

from PySide6.QtCore import QEvent, QPointF, QRect, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QHelpEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QToolTip, QWidget

from candor.core.calibration.run import RibbonPoint, RunResult, ribbon
from candor.core.quantities.show import trimmed
from candor.core.verdict.rules import Outcome
from candor.desktop.frame.theme import Theme

TOP = 1.75  # limits shown either side of zero; points beyond are drawn at the edge with an arrow


class Ribbon(QWidget):
    """All points of an instrument in one picture.

    Signals
    -------
    chosen(str)
        A point was clicked or walked to with the arrow keys, by its key.
    """

    chosen = Signal(str)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._found: tuple[RibbonPoint, ...] = ()
        self._left: dict[str, RibbonPoint] = {}
        self._voided: dict[str, RibbonPoint] = {}
        self._limit_words = "limit"
        self._in_hand = ""
        self._fits: tuple[object, ...] = ()
        self._area = QRectF()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("Error ribbon")

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(560), self._theme.px(190))

    def minimumSizeHint(self) -> QSize:
        return QSize(self._theme.px(240), self._theme.px(110))

    def show_runs(self, found: RunResult, left: RunResult, in_hand: str, function: str) -> None:
        """Show the points of one function; `in_hand` is the key of the point being read."""
        before = (self._found, self._left, self._in_hand, self._limit_words)
        self._found = tuple(p for p in ribbon(found) if p.group.split("|")[0] == function)
        self._left = {p.key: p for p in ribbon(left) if p.result is not None and left.phase == "as left"}
        voided = {p.key: p for p in ribbon(left, voided=True) if p.result is not None}
        if voided.keys() != self._voided.keys():
            self.update()
        self._voided = voided
        self._in_hand = in_hand
        shares = {round(100 * p.nominal_limit / p.full_scale, 6) for p in found.points if p.function == function}
        self._limit_words = f"{trimmed(shares.pop(), 3)} %" if len(shares) == 1 else "limit"
        read = sum(p.result is not None for p in self._found)
        self.setAccessibleDescription(f"{function}: {read} of {len(self._found)} points read. {found.sentence}.")
        self._update_what_changed(*before)

    def _update_what_changed(
        self, found: tuple[RibbonPoint, ...], left: dict[str, RibbonPoint], in_hand: str, limit_words: str
    ) -> None:
        """Ask for the columns that differ from before to be painted; for all where the points are others."""
        if [p.key for p in found] != [p.key for p in self._found] or limit_words != self._limit_words:
            self.update()
            return
        hands = {in_hand, self._in_hand} if in_hand != self._in_hand else set()
        for index, (old, new) in enumerate(zip(found, self._found, strict=True)):
            one, other = left.get(new.key), self._left.get(new.key)
            same = old.result is new.result and (one and one.result) is (other and other.result)
            if not same or new.key in hands:
                self.update(self._column(index))

    # --- geometry -----------------------------------------------------------------------------------

    def _plot(self) -> QRectF:
        fits = (self.size(), self._theme.scale, self._limit_words)
        if fits != self._fits:
            self._fits, self._area = fits, self._laid_plot()
        return self._area

    def _laid_plot(self) -> QRectF:
        left = max(self._theme.width_of(f"+{self._limit_words}", "note"), self._theme.px(24)) + self._theme.px(10)
        return QRectF(left, self._theme.px(4), self.width() - left - 2, self.height() - self._theme.px(26))

    def _x(self, index: int) -> float:
        plot = self._plot()
        return plot.left() + plot.width() * (index + 0.5) / max(len(self._found), 1)

    def _column(self, index: int) -> QRect:
        """Where a point's marks may stand; those of neighbours may overlap."""
        reach = self._theme.px(12)
        return QRectF(self._x(index) - reach, 0, 2 * reach, self.height()).toAlignedRect()

    def _y(self, share: float) -> float:
        plot = self._plot()
        return plot.center().y() - max(min(share, TOP), -TOP) / TOP * plot.height() / 2

    def _index_at(self, x: float) -> int:
        plot = self._plot()
        share = (x - plot.left()) / max(plot.width(), 1)
        return min(max(int(share * len(self._found)), 0), len(self._found) - 1)

    # --- input --------------------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self._found:
            self.chosen.emit(self._found[self._index_at(event.position().x())].key)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()))
        keys = [p.key for p in self._found]
        if step is None or self._in_hand not in keys:
            super().keyPressEvent(event)
            return
        self.chosen.emit(keys[min(max(keys.index(self._in_hand) + step, 0), len(keys) - 1)])

    def event(self, event: QEvent) -> bool:
        if isinstance(event, QHelpEvent) and self._found:
            point = self._found[self._index_at(event.pos().x())]
            words = point.key if point.result is None else f"{point.result.point.name}: {point.result.sentence}"
            QToolTip.showText(event.globalPos(), words, self)
            return True
        return super().event(event)

    # --- painting -----------------------------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme, plot = self._theme, self._plot()
        inside = QRectF(plot.left(), self._y(1), plot.width(), self._y(-1) - self._y(1))
        painter.fillRect(inside, theme.colour("inside"))
        painter.setFont(theme.font("note"))
        for share, words in ((1, f"+{self._limit_words}"), (0, "0"), (-1, f"−{self._limit_words}")):
            style = Qt.PenStyle.DashLine if share else Qt.PenStyle.SolidLine
            painter.setPen(QPen(theme.colour("petrol" if share else "rule"), 1, style))
            painter.drawLine(QPointF(plot.left(), self._y(share)), QPointF(plot.right(), self._y(share)))
            painter.setPen(theme.colour("soft"))
            box = QRectF(0, self._y(share) - 20, plot.left() - theme.px(7), 40)
            painter.drawText(box, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, words)
        self._paint_groups(painter, plot)
        for index, point in enumerate(self._found):
            if event.region().intersects(self._column(index)):
                self._paint_point(painter, index, point)
        if self.hasFocus():
            painter.setPen(QPen(theme.colour("petrol"), 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(plot)

    def _paint_groups(self, painter: QPainter, plot: QRectF) -> None:
        theme, start = self._theme, 0
        for number, (group, members) in enumerate(groupby(self._found, key=lambda p: p.group)):
            count = len(list(members))
            width = plot.width() / max(len(self._found), 1)
            left = plot.left() + start * width
            if number:
                painter.setPen(QPen(theme.colour("rule"), 1))
                painter.drawLine(QPointF(left, plot.top()), QPointF(left, plot.bottom()))
            painter.setPen(theme.colour("ink"))
            box = QRectF(left, plot.bottom() + theme.px(3), width * count, theme.px(20))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, group.split("|")[1])
            start += count

    def _paint_point(self, painter: QPainter, index: int, point: RibbonPoint) -> None:
        theme, x = self._theme, self._x(index)
        left = self._left.get(point.key)
        if point.key == self._in_hand:
            painter.setPen(QPen(theme.colour("ink"), 1))
            y = self._plot().bottom()
            painter.drawLine(QPointF(x - theme.px(6), y), QPointF(x + theme.px(6), y))
        if point.result is None and left is None and point.key not in self._voided:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(theme.colour("faint"))
            painter.drawEllipse(QPointF(x, self._y(0)), 1.6, 1.6)
            return
        shift = theme.px(3.5) if left is not None and point.result is not None else 0
        if point.key in self._voided and left is None:  # history: it was read, and something changed since
            painter.setOpacity(0.3)
            self._paint_mark(painter, x + theme.px(3.5), self._voided[point.key], filled=True)
            painter.setOpacity(1.0)
        if point.result is not None:
            self._paint_mark(painter, x - shift, point, filled=False)
        if left is not None:
            self._paint_mark(painter, x + shift, left, filled=True)

    def _paint_mark(self, painter: QPainter, x: float, point: RibbonPoint, filled: bool) -> None:
        if point.result is None:
            return
        theme = self._theme
        outcome = point.result.verdict.outcome
        colour = theme.outcome_colour(outcome)
        painter.setPen(QPen(colour, theme.px(2)))
        painter.drawLine(QPointF(x, self._y(point.height + point.bar)), QPointF(x, self._y(point.height - point.bar)))
        # Half a circle says "cannot tell" as found and as left alike: a filled one would say that it passes.
        half_circle = outcome is Outcome.CANNOT_TELL
        painter.setBrush(colour if filled and not half_circle else theme.colour("ground"))
        radius, spot = theme.px(4.4), QPointF(x, self._y(point.height))
        if outcome is Outcome.FAIL:
            painter.drawRect(QRectF(spot.x() - radius, spot.y() - radius, 2 * radius, 2 * radius))
            painter.setPen(QPen(theme.colour("ground") if filled else colour, theme.px(1.4)))
            half = radius * 0.55
            for up in (-1, 1):
                painter.drawLine(QPointF(x - half, spot.y() - up * half), QPointF(x + half, spot.y() + up * half))
        else:
            painter.drawEllipse(spot, radius, radius)
        if outcome is Outcome.CANNOT_TELL:
            painter.setBrush(colour)
            painter.drawPie(QRectF(spot.x() - radius, spot.y() - radius, 2 * radius, 2 * radius), 90 * 16, 180 * 16)
        if abs(point.height) > TOP:
            up = 1 if point.height > 0 else -1
            tip = self._y(up * TOP)
            painter.drawLine(QPointF(x, tip), QPointF(x - theme.px(4), tip + up * theme.px(5)))
            painter.drawLine(QPointF(x, tip), QPointF(x + theme.px(4), tip + up * theme.px(5)))
