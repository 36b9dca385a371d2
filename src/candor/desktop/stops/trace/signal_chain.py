"""The chain of a signal, drawn: how likely each stage is the faulty one, what was seen behind it, and where to look next."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from candor.desktop.frame.local_numbers import local
from candor.desktop.frame.theme import Theme
from candor.desktop.widgets.glyphs import draw_glyph
from candor.notebook.trace.trace_view import SignalView

SEEN = {"good": "full", "bad": "cross", "odd": "half"}


class Chain(QWidget):
    """Stages along lines that wrap.

    Signals
    -------
    picked(str)
        A stage was pressed: the look behind it.
    """

    picked = Signal(str)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._view: SignalView | None = None
        self._chosen = ""
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName("The chain of the signal")

    def show_chain(self, view: SignalView | None, chosen: str) -> None:
        """Show the chain, and the stage behind which the next look is written."""
        self._view, self._chosen = view, chosen
        if view is not None:
            said = [f"{s.name} {100 * p:.0f} %" for s, p in zip(view.stages, view.belief, strict=False)]
            self.setAccessibleDescription("; ".join(said))
        self.setFixedHeight(self._high())
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(320), self._high())

    def resizeEvent(self, event: object) -> None:
        self.setFixedHeight(self._high())

    def _across(self) -> int:
        return max(self.width() // self._theme.px(126), 1)

    def _high(self) -> int:
        count = len(self._view.stages) if self._view else 0
        return max(-(-count // self._across()), 1) * self._theme.px(74)

    def _box(self, index: int) -> QRectF:
        px = self._theme.px
        row, column = divmod(index, self._across())
        return QRectF(column * px(126), row * px(74) + px(6), px(98), px(50))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        for index, stage in enumerate(self._view.stages if self._view else ()):
            if self._box(index).adjusted(0, 0, self._theme.px(28), 0).contains(event.position()):
                self.picked.emit(stage.name)

    def paintEvent(self, event: QPaintEvent) -> None:
        view, theme = self._view, self._theme
        if view is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        seen = {look.behind: look for look in view.looks}
        for index, stage in enumerate(view.stages):
            box, p = self._box(index), view.belief[index]
            painter.fillRect(box, theme.colour("panel"))
            full = QRectF(box.left(), box.bottom() - box.height() * p, box.width(), box.height() * p)
            painter.fillRect(full, theme.colour("inside"))
            chosen = stage.name == self._chosen
            painter.setPen(QPen(theme.colour("petrol" if chosen else "rule"), 2 if chosen else 1))
            painter.drawRect(box)
            painter.setPen(theme.colour("ink"))
            painter.setFont(theme.font("text"))
            inner = box.adjusted(theme.px(5), theme.px(3), -theme.px(5), -theme.px(3))
            name = painter.fontMetrics().elidedText(stage.name, Qt.TextElideMode.ElideRight, int(inner.width()))
            painter.drawText(inner, Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft, local(name))
            painter.setPen(theme.colour("soft"))
            painter.setFont(theme.font("note"))
            painter.drawText(
                inner, Qt.AlignmentFlag.AlignBottom | Qt.AlignmentFlag.AlignLeft, local(f"{100 * p:.0f} %")
            )
            middle = QPointF(box.right() + theme.px(14), box.center().y())
            if index + 1 < len(view.stages):
                painter.setPen(QPen(theme.colour("faint"), 1.2))
                painter.drawLine(QPointF(box.right(), middle.y()), QPointF(box.right() + theme.px(28), middle.y()))
            if index in seen:
                draw_glyph(painter, theme, SEEN[seen[index].outcome], middle, theme.px(7))
            elif view.next is not None and view.next.behind == index:
                draw_glyph(painter, theme, "watch", middle, theme.px(8))
                painter.setPen(theme.colour("brass"))
                below = QRectF(middle.x() - theme.px(40), box.bottom() + 1, theme.px(80), theme.px(15))
                painter.drawText(below, Qt.AlignmentFlag.AlignCenter, "look here")
