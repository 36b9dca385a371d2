"""The error ribbon: every test point side by side, as found hollow, as left filled, bar = U."""

from __future__ import annotations

from collections.abc import Mapping

from PySide6.QtCore import QEvent, QPointF, QRect, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QHelpEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QToolTip, QWidget

from candor.core.calibration.ribbon import TOP, Column, Mark, Place, lay_out, marks_of
from candor.core.calibration.ribbon import Ribbon as Layout
from candor.core.calibration.run import RunResult
from candor.core.verdict.rules import Outcome
from candor.desktop.frame.local_numbers import local
from candor.desktop.frame.theme import Theme
from candor.desktop.widgets.glyphs import DOT
from candor.words.results import say_result


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
        self._laid = Layout("")
        self._run: RunResult | None = None
        self._in_hand = ""
        self._fits: tuple[object, ...] = ()
        self._shown: tuple[RunResult, RunResult, str, str] | None = None
        self._only = ""  # the one range that is shown; empty for all
        self._ghost: dict[str, float] = {}  # by point, in limits: what would explain the errors
        self._cause = ""
        self._area = QRectF()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("Error ribbon")
        self.setToolTip(
            "Hollow: as found. Filled: as left. Bar: U. Click a point to walk to it; double-click: its range alone, and all again"
        )

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(560), self._theme.px(190))

    def minimumSizeHint(self) -> QSize:
        return QSize(self._theme.px(240), self._theme.px(110))

    def table(self) -> tuple[tuple[str, ...], list[tuple[object, ...]]]:
        """Return each point with its marks, as shares of its limit: error and U as found, error and U as left, and the outcomes."""
        rows: list[tuple[object, ...]] = []
        for column in self._laid.columns:
            cells: list[object] = [column.key]
            for mark in (column.found, column.left):
                cells += ["", "", ""] if mark is None else [mark.height, mark.bar, str(mark.outcome)]
            rows.append(tuple(cells))
        return (
            "point",
            "found: error / limit",
            "U / limit",
            "outcome",
            "left: error / limit",
            "U / limit",
            "outcome",
        ), rows

    def show_runs(self, found: RunResult, left: RunResult, in_hand: str, function: str) -> None:
        """Show the points of one function; `in_hand` is the key of the point being read."""
        if self._shown is None or self._shown[3] != function:
            self._only = ""
        self._shown = found, left, in_hand, function
        before, was_in_hand = self._laid, self._in_hand
        own = [p for p in found.points if p.function == function and self._only in ("", p.range_name)]
        places = (Place(p.key, p.function, p.range_name, p.limit_percent) for p in own)
        read, read_left, old = (
            marks_of({p.key: results[p.key] for p in own if p.key in results})
            for results in (found.results, left.results if left.phase == "as left" else {}, left.voided)
        )
        self._laid = lay_out(function, places, read, read_left, old)
        self._run, self._in_hand = found, in_hand
        count = len(self._laid.columns)
        where = f"{function}, {self._only} alone" if self._only else function
        self.setAccessibleDescription(f"{where}: {self._laid.read} of {count} points read. {found.sentence}.")
        self._update_what_changed(before, was_in_hand)

    @property
    def only(self) -> str:
        """The one range that is shown; empty where all are."""
        return self._only

    def show_range(self, title: str) -> None:
        """Show the points of one range alone, wider; of all where it is empty, or shown already."""
        if self._shown is None:
            return
        self._only = "" if title == self._only else title
        self.show_runs(*self._shown)
        self.update()

    def _range_of(self, key: str) -> str:
        """The range of a point, by its key."""
        points = self._shown[0].points if self._shown is not None else ()
        return next((p.range_name for p in points if p.key == key), "")

    def show_ghost(self, ghost: Mapping[str, float], words: str) -> None:
        """Draw through the points the errors that the likeliest cause would make, in limits, with its name; nothing where empty."""
        if (dict(ghost), words) != (self._ghost, self._cause):
            self._ghost, self._cause = dict(ghost), words
            self.update()

    def show_laid(self, laid: Layout, words: str) -> None:
        """Show a ribbon that was laid out already, and say it in words."""
        self._laid, self._run, self._in_hand = laid, None, ""
        self.setAccessibleDescription(words)
        self.update()

    def _update_what_changed(self, before: Layout, was_in_hand: str) -> None:
        """Ask for the columns that differ from before to be painted; for all where the points are others."""
        now = self._laid
        if (before.groups, before.lines, before.function) != (now.groups, now.lines, now.function):
            self.update()
            return
        hands = {was_in_hand, self._in_hand} if was_in_hand != self._in_hand else set()
        for index, (old, new) in enumerate(zip(before.columns, now.columns, strict=True)):
            if old != new or new.key in hands:
                self.update(self._column(index))

    # --- geometry -----------------------------------------------------------------------------------

    def _plot(self) -> QRectF:
        fits = (self.size(), self._theme.scale, self._laid.lines)
        if fits != self._fits:
            self._fits, self._area = fits, self._laid_plot()
        return self._area

    def _laid_plot(self) -> QRectF:
        widest = max((self._theme.width_of(words, "note") for _, words in self._laid.lines), default=0)
        left = max(widest, self._theme.px(24)) + self._theme.px(10)
        return QRectF(left, self._theme.px(4), self.width() - left - 2, self.height() - self._theme.px(26))

    def _x(self, index: int) -> float:
        plot = self._plot()
        return plot.left() + plot.width() * (index + 0.5) / max(len(self._laid.columns), 1)

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
        return min(max(int(share * len(self._laid.columns)), 0), len(self._laid.columns) - 1)

    # --- input --------------------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self._laid.columns:
            self.chosen.emit(self._laid.columns[self._index_at(event.position().x())].key)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        if self._laid.columns:
            self.show_range(self._range_of(self._laid.columns[self._index_at(event.position().x())].key))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Plus, Qt.Key.Key_Minus, Qt.Key.Key_Home):
            wanted = self._range_of(self._in_hand) if event.key() == Qt.Key.Key_Plus else ""
            if wanted != self._only:
                self.show_range(wanted)
            return
        step = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()))
        keys = [column.key for column in self._laid.columns]
        if step is None or self._in_hand not in keys:
            super().keyPressEvent(event)
            return
        self.chosen.emit(keys[min(max(keys.index(self._in_hand) + step, 0), len(keys) - 1)])

    def event(self, event: QEvent) -> bool:
        if isinstance(event, QHelpEvent) and self._laid.columns:
            key = self._laid.columns[self._index_at(event.pos().x())].key
            result = self._run.results.get(key) if self._run else None
            words = key if result is None else f"{result.point.name}: {say_result(result)}"
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
        for share, words in self._laid.lines:
            style = Qt.PenStyle.DashLine if share else Qt.PenStyle.SolidLine
            painter.setPen(QPen(theme.colour("petrol" if share else "rule"), 1, style))
            painter.drawLine(QPointF(plot.left(), self._y(share)), QPointF(plot.right(), self._y(share)))
            painter.setPen(theme.colour("soft"))
            box = QRectF(0, self._y(share) - 20, plot.left() - theme.px(7), 40)
            painter.drawText(box, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, local(words))
        self._paint_groups(painter, plot)
        self._paint_ghost(painter)
        for index, column in enumerate(self._laid.columns):
            if event.region().intersects(self._column(index)):
                self._paint_column(painter, index, column)
        if self.hasFocus():
            painter.setPen(QPen(theme.colour("petrol"), 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(plot)

    def _paint_groups(self, painter: QPainter, plot: QRectF) -> None:
        theme, width = self._theme, plot.width() / max(len(self._laid.columns), 1)
        for group in self._laid.groups:
            left = plot.left() + group.start * width
            if group.start:
                painter.setPen(QPen(theme.colour("rule"), 1))
                painter.drawLine(QPointF(left, plot.top()), QPointF(left, plot.bottom()))
            painter.setPen(theme.colour("ink"))
            box = QRectF(left, plot.bottom() + theme.px(3), width * group.count, theme.px(20))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, local(group.title))

    def _paint_ghost(self, painter: QPainter) -> None:
        """A pale line within each range: across ranges it would claim what lies between them."""
        painter.setPen(QPen(self._theme.colour("soft"), self._theme.px(1.6), Qt.PenStyle.DotLine))
        for group in self._laid.groups:
            spots = [
                QPointF(self._x(index), self._y(self._ghost[column.key]))
                for index, column in enumerate(self._laid.columns)
                if group.start <= index < group.start + group.count and column.key in self._ghost
            ]
            if len(spots) == 1:
                reach = QPointF(self._theme.px(9), 0)
                spots = [spots[0] - reach, spots[0] + reach]
            painter.drawPolyline(spots)
        if any(column.key in self._ghost for column in self._laid.columns):
            plot, wide = self._plot(), self._theme.px(22)
            cut = painter.fontMetrics().elidedText(
                self._cause, Qt.TextElideMode.ElideRight, int(plot.width()) - wide - 12
            )
            left, y = plot.right() - painter.fontMetrics().horizontalAdvance(cut) - 4, plot.top() + self._theme.px(8)
            painter.drawLine(QPointF(left - wide, y), QPointF(left - 6, y))
            painter.drawText(QRectF(left, y - 20, plot.right() - left, 40), Qt.AlignmentFlag.AlignVCenter, local(cut))

    def _paint_column(self, painter: QPainter, index: int, column: Column) -> None:
        theme, x = self._theme, self._x(index)
        if column.key == self._in_hand:
            painter.setPen(QPen(theme.colour("ink"), 1))
            y = self._plot().bottom()
            painter.drawLine(QPointF(x - theme.px(6), y), QPointF(x + theme.px(6), y))
        if column.is_empty:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(theme.colour("faint"))
            painter.drawEllipse(QPointF(x, self._y(0)), 1.6, 1.6)
            return
        shift = theme.px(3.5) if column.left is not None and column.found is not None else 0
        if column.voided is not None and column.left is None:  # history: it was read, and something changed since
            painter.setOpacity(0.3)
            self._paint_mark(painter, x + theme.px(3.5), column.voided, filled=True)
            painter.setOpacity(1.0)
        if column.found is not None:
            self._paint_mark(painter, x - shift, column.found, filled=False)
        if column.left is not None:
            self._paint_mark(painter, x + shift, column.left, filled=True)

    def _paint_mark(self, painter: QPainter, x: float, mark: Mark, filled: bool) -> None:
        theme, outcome = self._theme, mark.outcome
        colour = theme.outcome_colour(outcome)
        painter.setPen(QPen(colour, theme.px(2)))
        painter.drawLine(QPointF(x, self._y(mark.height + mark.bar)), QPointF(x, self._y(mark.height - mark.bar)))
        # Half a circle says "cannot tell" as found and as left alike: a filled one would say that it passes.
        half_circle = outcome is Outcome.CANNOT_TELL
        painter.setBrush(colour if filled and not half_circle else theme.colour("ground"))
        radius, spot = theme.px(4.4), QPointF(x, self._y(mark.height))
        if outcome is Outcome.FAIL:
            painter.drawRect(QRectF(spot.x() - radius, spot.y() - radius, 2 * radius, 2 * radius))
            painter.setPen(QPen(theme.colour("ground") if filled else colour, theme.px(1.4)))
            half = radius * 0.55
            for up in (-1, 1):
                painter.drawLine(QPointF(x - half, spot.y() - up * half), QPointF(x + half, spot.y() + up * half))
        elif outcome is Outcome.NOTED:
            painter.setBrush(colour)
            painter.drawEllipse(spot, radius * DOT, radius * DOT)
        else:
            painter.drawEllipse(spot, radius, radius)
        if outcome is Outcome.CANNOT_TELL:
            painter.setBrush(colour)
            painter.drawPie(QRectF(spot.x() - radius, spot.y() - radius, 2 * radius, 2 * radius), 90 * 16, 180 * 16)
        if up := mark.beyond:
            tip = self._y(up * TOP)
            painter.drawLine(QPointF(x, tip), QPointF(x - theme.px(4), tip + up * theme.px(5)))
            painter.drawLine(QPointF(x, tip), QPointF(x + theme.px(4), tip + up * theme.px(5)))
