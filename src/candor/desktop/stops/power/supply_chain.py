"""The supply as a chain: winding, rectifier, each capacitor with its volts and what it bears, the load."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from candor.desktop.frame.local_numbers import local
from candor.desktop.frame.theme import Theme
from candor.words.supply_stages import Stage

WIDE, LINK, HIGH, ROW = 122, 66, 86, 100  # px at 100 %: a place, what joins it to the next, its height, a row's


class SupplyChain(QWidget):
    """Places in a row that wraps."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.stages: Sequence[Stage] = ()
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName("The supply from its winding to its load")
        self.hide()

    def show_stages(self, stages: Sequence[Stage]) -> None:
        """Show a supply; hidden where there is none."""
        self.stages = stages
        said = (", ".join(filter(None, (s.title, s.volts, s.measured, s.cold))) for s in stages)
        self.setAccessibleDescription("; ".join(said))
        self.setVisible(bool(stages))
        self._fit()
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(320), self._rows() * self._theme.px(ROW))

    def resizeEvent(self, event: object) -> None:
        self._fit()

    def _fit(self) -> None:
        self.setFixedHeight(self._rows() * self._theme.px(ROW))

    def _across(self) -> int:
        return max((self.width() + self._theme.px(LINK)) // self._theme.px(WIDE + LINK), 1)

    def _rows(self) -> int:
        return max(-(-len(self.stages) // self._across()), 1)

    def paintEvent(self, event: QPaintEvent) -> None:
        theme, painter, across = self._theme, QPainter(self), self._across()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for index, stage in enumerate(self.stages):
            row, column = divmod(index, across)
            box = QRectF(
                column * theme.px(WIDE + LINK) + 1, row * theme.px(ROW) + theme.px(6), theme.px(WIDE), theme.px(HIGH)
            )
            self._place(painter, box, stage)
            if index + 1 < len(self.stages):
                self._link(painter, box, stage.joined, ends_row=column + 1 == across)

    def _place(self, painter: QPainter, box: QRectF, stage: Stage) -> None:
        theme = self._theme
        painter.fillRect(box, theme.colour("panel"))
        painter.setPen(QPen(theme.colour("brick" if stage.is_over else "rule"), 2 if stage.is_over else 1))
        painter.drawRect(box)
        inner = box.adjusted(theme.px(6), theme.px(3), -theme.px(5), -theme.px(8))
        lines = ((stage.title, "note", "soft", False), (stage.volts, "text", "ink", True),
                 (stage.measured, "note", "petrol", False),
                 (stage.cold, "note", "brick" if stage.is_over else "soft", False))  # fmt: skip
        high = inner.height() / len(lines)
        for place, (words, role, tint, bold) in enumerate(lines):
            painter.setFont(theme.font(role, bold=bold))
            painter.setPen(theme.colour(tint))
            at = QRectF(inner.left(), inner.top() + place * high, inner.width(), high)
            shown = painter.fontMetrics().elidedText(local(words), Qt.TextElideMode.ElideRight, int(at.width()))
            painter.drawText(at, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, shown)
        if stage.filled:  # what it meets against what it bears
            bar = QRectF(inner.left(), box.bottom() - theme.px(6), inner.width(), theme.px(3))
            painter.fillRect(bar, theme.colour("rule"))
            bar.setWidth(bar.width() * min(stage.filled, 1.0))
            painter.fillRect(bar, theme.colour("brick" if stage.is_over else "petrol"))

    def _link(self, painter: QPainter, box: QRectF, words: str, ends_row: bool) -> None:
        theme, middle = self._theme, box.center().y()
        painter.setPen(QPen(theme.colour("faint"), 1.4))
        wide = min(theme.px(LINK), self.width() - box.right()) if ends_row else theme.px(LINK)
        painter.drawLine(QPointF(box.right(), middle), QPointF(box.right() + wide, middle))
        painter.setFont(theme.font("note"))
        painter.setPen(theme.colour("ink"))
        above = QRectF(box.right() + 2, middle - theme.px(34), wide - 4, theme.px(33))
        painter.drawText(
            above,
            Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignBottom | Qt.TextFlag.TextWordWrap,
            local(words),
        )
