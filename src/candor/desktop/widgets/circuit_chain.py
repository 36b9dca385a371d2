"""The chain a node stands in, drawn: from its rail through it to the chassis, with what each was measured at."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from candor.core.trace.path import NodeChain
from candor.desktop.frame.local_numbers import local
from candor.desktop.frame.theme import Theme


class CircuitChain(QWidget):
    """Nodes in a row that wraps.

    Signals
    -------
    picked(str)
        A node was pressed.
    """

    WIDE, TALL, LINK, HIGH = 74, 44, 70, 62  # px at 100 %: a node, what joins it to the next, a row

    picked = Signal(str)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._chain = NodeChain((), ())
        self._said: dict[str, tuple[str, str]] = {}
        self._chosen = self._part = ""
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName("The chain this node stands in")

    def show_chain(self, chain: NodeChain, said: dict[str, tuple[str, str]], chosen: str, part: str = "") -> None:
        """Show a chain; `said` has for a node its volts and a tint, for what joins two its value; `part` is drawn strong."""
        self._chain, self._said, self._chosen, self._part = chain, said, chosen, part
        words = [f"{n} {said.get(n, ('', ''))[0]}".strip() for n in chain.nodes]
        self.setAccessibleDescription(", ".join(words))
        self.setVisible(len(chain.nodes) > 1)
        self.setFixedHeight(self._rows() * self._theme.px(self.HIGH))
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(320), self._rows() * self._theme.px(self.HIGH))

    def resizeEvent(self, event: object) -> None:
        self.setFixedHeight(self._rows() * self._theme.px(self.HIGH))

    def _across(self) -> int:
        return max(self.width() // self._theme.px(self.WIDE + self.LINK), 1)

    def _rows(self) -> int:
        return max(-(-len(self._chain.nodes) // self._across()), 1)

    def _box(self, index: int) -> QRectF:
        px = self._theme.px
        row, column = divmod(index, self._across())
        return QRectF(column * px(self.WIDE + self.LINK), row * px(self.HIGH) + px(6), px(self.WIDE), px(self.TALL))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        for index, node in enumerate(self._chain.nodes):
            if self._box(index).contains(event.position()):
                self.picked.emit(node)

    def paintEvent(self, event: QPaintEvent) -> None:
        theme, painter = self._theme, QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for index, node in enumerate(self._chain.nodes):
            box = self._box(index)
            is_chosen = node == self._chosen
            painter.fillRect(box, theme.colour("inside" if is_chosen else "panel"))
            painter.setPen(QPen(theme.colour("petrol" if is_chosen else "rule"), 2 if is_chosen else 1))
            painter.drawRect(box)
            words, tint = self._said.get(node, ("", "ink"))
            inner = box.adjusted(theme.px(5), theme.px(3), -theme.px(4), -theme.px(3))
            painter.setFont(theme.font("note"))
            painter.setPen(theme.colour("soft"))
            name = "chassis" if node == "0" else node
            top = Qt.AlignmentFlag.AlignTop if words else Qt.AlignmentFlag.AlignVCenter
            painter.drawText(inner, top | Qt.AlignmentFlag.AlignLeft, local(name))
            painter.setFont(theme.font("text", bold=True))
            painter.setPen(theme.colour(tint))
            painter.drawText(inner, Qt.AlignmentFlag.AlignBottom | Qt.AlignmentFlag.AlignLeft, local(words))
            if index < len(self._chain.names):
                middle = box.center().y()
                is_part = self._chain.names[index] == self._part
                painter.setPen(QPen(theme.colour("petrol" if is_part else "faint"), 2.4 if is_part else 1.4))
                painter.drawLine(QPointF(box.right(), middle), QPointF(box.right() + theme.px(self.LINK), middle))
                painter.setPen(theme.colour("ink"))
                painter.setFont(theme.font("note", bold=is_part))
                joins = self._chain.names[index]
                above = QRectF(box.right() + 2, middle - theme.px(18), theme.px(self.LINK) - 4, theme.px(16))
                painter.drawText(above, Qt.AlignmentFlag.AlignCenter, local(joins))
                below = QRectF(box.right() + 2, middle + theme.px(2), theme.px(self.LINK) - 4, theme.px(16))
                painter.drawText(below, Qt.AlignmentFlag.AlignCenter, local(self._said.get(joins, ("", ""))[0]))
