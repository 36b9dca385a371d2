"""A day as a strip of hours: a lane for each pair of hands, below them what runs by itself."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterable, Sequence

from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QHelpEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QToolTip, QWidget

from candor.core.late_dataclass import dataclass
from candor.desktop.frame.local_numbers import local
from candor.desktop.frame.theme import Theme

GRID = 5  # min that a drag moves by
AFTER_H = 1.0  # shown behind closing


@dataclass(frozen=True)
class Block:
    """What takes a stretch of a lane.

    Attributes
    ----------
    key : str
        The deed it is of.
    lane : str
    begins, ends : datetime
    text : str
        Drawn in it as far as it fits.
    told : str
        All of it, when the pointer rests on it.
    runs, watched : bool
        Whether it goes on by itself; whether somebody must be there.
    """

    key: str
    lane: str
    begins: dt.datetime
    ends: dt.datetime
    text: str
    told: str
    runs: bool = False
    watched: bool = False


class HoursStrip(QWidget):
    """The strip.

    Signals
    -------
    picked(str)
        A deed was chosen, by its key.
    opened(str)
        It is to be gone to.
    dragged(str, object)
        It was put at a time by hand: a datetime.
    """

    picked = Signal(str)
    opened = Signal(str)
    dragged = Signal(str, object)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._blocks: tuple[Block, ...] = ()
        self._open: tuple[tuple[dt.datetime, dt.datetime], ...] = ()
        self._now: dt.datetime | None = None
        self._current = ""
        self._drag: tuple[Block, float, float] | None = None  # the block, where it was taken, where the pointer is
        self.setAccessibleName("The day by hours")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        theme.changed.connect(self.updateGeometry)

    def show_day(
        self,
        blocks: Sequence[Block],
        open_: Iterable[tuple[dt.datetime, dt.datetime]],
        now: dt.datetime,
        current: str,
    ) -> None:
        """Show the blocks of a day, in the order of their lanes; the one chosen is framed."""
        self._blocks, self._open, self._now, self._current = tuple(blocks), tuple(open_), now, current
        told = "; ".join(f"{b.begins:%H:%M} {b.told}" for b in blocks if not b.runs)
        self.setAccessibleDescription(told or "nothing is planned")
        self.updateGeometry()
        self.update()

    @property
    def blocks(self) -> tuple[Block, ...]:
        """What is shown."""
        return self._blocks

    @property
    def lanes(self) -> tuple[str, ...]:
        """The lanes from above down."""
        return tuple(dict.fromkeys(b.lane for b in self._blocks))

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(420), self._theme.px(30) + self._step() * max(len(self.lanes), 1))

    def minimumSizeHint(self) -> QSize:
        return QSize(self._theme.px(260), self.sizeHint().height())

    def _step(self) -> int:
        return self._theme.px(34)

    def _left(self) -> float:
        return max((self._theme.width_of(lane, "note") for lane in self.lanes), default=0.0) + self._theme.px(16)

    def _ends(self) -> tuple[dt.datetime, dt.datetime]:
        if not self._open:
            at = self._now or dt.datetime.now().astimezone()
            return at, at + dt.timedelta(hours=8)
        first, last = self._open[0][0], self._open[-1][1] + dt.timedelta(hours=AFTER_H)
        return first.replace(minute=0), last

    def x_of(self, at: dt.datetime) -> float:
        """Return where a time stands."""
        first, last = self._ends()
        left = self._left()
        share = (at - first).total_seconds() / max((last - first).total_seconds(), 1)
        return left + (self.width() - left - self._theme.px(8)) * min(max(share, 0.0), 1.0)

    def _at_x(self, x: float) -> dt.datetime:
        first, last = self._ends()
        left = self._left()
        share = (x - left) / max(self.width() - left - self._theme.px(8), 1)
        minutes = share * (last - first).total_seconds() / 60
        return first + dt.timedelta(minutes=GRID * round(minutes / GRID))

    def box_of(self, block: Block) -> QRectF:
        """Return where a block is drawn."""
        top = self._theme.px(22) + self._step() * self.lanes.index(block.lane)
        left, right = self.x_of(block.begins), self.x_of(block.ends)
        return QRectF(left, top + 2, max(right - left, 3.0), self._step() - self._theme.px(6))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme = self._theme
        below = theme.px(22) + self._step() * max(len(self.lanes), 1)
        painter.fillRect(QRectF(self._left(), theme.px(20), self.width(), below - theme.px(20)), theme.colour("rule"))
        for begin, end in self._open:
            left, right = self.x_of(begin), self.x_of(end)
            painter.fillRect(QRectF(left, theme.px(20), right - left, below - theme.px(20)), theme.colour("panel"))
        painter.setFont(theme.font("note"))
        self._paint_hours(painter, below)
        painter.setPen(theme.colour("soft"))
        for row, lane in enumerate(self.lanes):
            box = QRectF(0, theme.px(22) + row * self._step(), self._left() - theme.px(8), self._step())
            painter.drawText(box, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, local(lane))
        for block in self._blocks:
            self._paint_block(painter, block)
        if self._now is not None and self._open and self._open[0][0] <= self._now <= self._ends()[1]:
            x = self.x_of(self._now)
            painter.setPen(QPen(theme.colour("brick"), 1.5))
            painter.drawLine(QPointF(x, theme.px(16)), QPointF(x, below))

    def _paint_hours(self, painter: QPainter, below: float) -> None:
        first, last = self._ends()
        wide = self._theme.width_of("00:00", "note") + self._theme.px(10)
        apart = self.x_of(first + dt.timedelta(hours=1)) - self.x_of(first)
        every = next((n for n in (1, 2, 3, 4, 6) if n * apart >= wide), 12)
        at, count = first, 0
        while at <= last:
            x = self.x_of(at)
            painter.setPen(QPen(self._theme.colour("rule"), 1))
            painter.drawLine(QPointF(x, self._theme.px(20)), QPointF(x, below))
            if count % every == 0:
                painter.setPen(self._theme.colour("soft"))
                room = QRectF(x, 0, wide, self._theme.px(18))
                if x + wide <= self.width():
                    painter.drawText(room, Qt.AlignmentFlag.AlignVCenter, local(f"{at:%H:%M}"))
            at, count = at + dt.timedelta(hours=1), count + 1

    def _paint_block(self, painter: QPainter, block: Block) -> None:
        theme, box = self._theme, self.box_of(block)
        if self._drag is not None and self._drag[0] is block:
            box.translate(self._drag[2] - self._drag[1], 0)
        chosen = block.key == self._current
        if block.runs:
            painter.setPen(QPen(theme.colour("brass" if block.watched else "petrol"), 1.2, Qt.PenStyle.DashLine))
            painter.setBrush(theme.colour("inside"))
        else:
            painter.setPen(QPen(theme.colour("ground"), 1))
            painter.setBrush(theme.colour("petrol"))
        painter.drawRect(box)
        if chosen:
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(theme.colour("brass"), theme.px(3)))
            painter.drawRect(box)
        painter.setPen(theme.colour("ink" if block.runs else "ground"))
        inner = box.adjusted(theme.px(5), 0, -theme.px(3), 0)
        cut = painter.fontMetrics().elidedText(block.text, Qt.TextElideMode.ElideRight, int(inner.width()))
        if len(cut) > 2:
            painter.drawText(inner, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, local(cut))

    # --- hands on it ------------------------------------------------------------------------------------

    def _block_at(self, place: QPointF) -> Block | None:
        return next((b for b in reversed(self._blocks) if self.box_of(b).contains(place)), None)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        block = self._block_at(event.position())
        if block is None:
            return
        self.picked.emit(block.key)
        if not block.runs and event.button() is Qt.MouseButton.LeftButton:
            self._drag = (
                next((b for b in self._blocks if b == block), block),
                event.position().x(),
                event.position().x(),
            )

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._drag is not None:
            self._drag = self._drag[0], self._drag[1], event.position().x()
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        taken, self._drag = self._drag, None
        if taken is None:
            return
        block, was, now = taken
        if abs(now - was) > self._theme.px(6):
            self.dragged.emit(block.key, self._at_x(self.x_of(block.begins) + now - was))
        self.update()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        block = self._block_at(event.position())
        if block is not None:
            self.opened.emit(block.key)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        keys = list(dict.fromkeys(b.key for b in sorted(self._blocks, key=lambda b: b.begins) if not b.runs))
        step = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()), 0)
        if step and keys:
            at = keys.index(self._current) + step if self._current in keys else 0
            self.picked.emit(keys[min(max(at, 0), len(keys) - 1)])
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self._current:
            self.opened.emit(self._current)
        else:
            super().keyPressEvent(event)

    def event(self, event: QEvent) -> bool:
        if isinstance(event, QHelpEvent):
            block = self._block_at(QPointF(event.pos()))
            QToolTip.showText(event.globalPos(), block.told if block else "", self)
            return True
        return super().event(event)
