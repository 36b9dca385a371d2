"""A quiet list: headings, and rows of one or two lines with a state shape before them."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Protocol, cast

from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QPointF, QRect, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QContextMenuEvent, QFontMetrics, QPainter
from PySide6.QtWidgets import (
    QAbstractItemView,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QWidget,
)

from candor.core.late_dataclass import dataclass
from candor.desktop.frame.local_numbers import local
from candor.desktop.frame.theme import Theme
from candor.desktop.widgets.glyphs import draw_glyph
from candor.desktop.widgets.row_bars import Bar, draw_bars, room_for
from candor.desktop.widgets.row_menu import Offer, ask

ROW = Qt.ItemDataRole.UserRole


@dataclass(frozen=True)
class Row:
    """One line of a quiet list.

    Attributes
    ----------
    key : str
        What is told when it is chosen; empty for a heading.
    text, under : str
        The line, and a smaller one under it.
    shape : str
        A state shape of `widgets.glyphs`, empty for none.
    strong : bool
        Set in bold: the one in hand.
    says : str
        What a screen reader says of the shape.
    struck : bool
        Drawn with a line through it.
    bars : tuple of Bar
        Its figures against nominal, drawn at its right where there is room; `under` says them in words.
    """

    key: str
    text: str
    under: str = ""
    shape: str = ""
    strong: bool = False
    says: str = ""
    struck: bool = False
    bars: tuple[Bar, ...] = ()

    @property
    def spoken(self) -> str:
        """What a screen reader says of it."""
        return ", ".join(part for part in (self.text, self.under, self.says) if part)

    @property
    def told(self) -> str:
        """What stands in its tooltip: all of what may be cut."""
        return "\n".join(part for part in (self.text, self.under) if part)


class Wrapping(Protocol):
    """A list of rows, of which the smaller line may run over several lines."""

    wrap: bool

    def viewport(self) -> QWidget:
        """Where the rows are drawn."""


class RowList(QListWidget):
    """A list of rows.

    Signals
    -------
    picked(str)
        A row was chosen, by its key.
    """

    picked = Signal(str)

    def __init__(self, theme: Theme, name: str, wrap: bool = False) -> None:
        super().__init__()
        self.wrap = wrap
        self.deeds: Sequence[QPushButton] | None = None
        self.offers: Callable[[str], Sequence[Offer]] | None = None
        self.setResizeMode(QListWidget.ResizeMode.Adjust)
        self._theme = theme
        self._rows: tuple[Row, ...] = ()
        self._current = ""
        self.setAccessibleName(name)
        self.setItemDelegate(RowDelegate(theme, self))
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollMode(QListWidget.ScrollMode.ScrollPerPixel)
        self.itemClicked.connect(self._tell)
        self.itemActivated.connect(self._tell)

    def show_rows(self, rows: tuple[Row, ...], current: str) -> None:
        """Show rows and mark the current one, keeping the place of the scroll bar.

        Where keys are on their way in the list, and what is chosen is the same as before, they stay at the row they reached.
        """
        if rows == self._rows and current == self._current:
            return
        place = self.verticalScrollBar().value()
        had_focus_on = self.currentRow()
        on_its_way = self.hasFocus() and current == self._current and 0 <= had_focus_on < len(self._rows)
        reached = self._rows[had_focus_on].key if on_its_way else ""
        self.blockSignals(True)
        shown = [(r.key, bool(r.under)) for r in self._rows]
        if [(r.key, bool(r.under)) for r in rows[: len(shown)]] != shown:
            self.clear()
            self._rows = ()
        for index, (row, before) in enumerate(zip(rows, self._rows, strict=False)):
            if row != before:
                self._fill(self.item(index), row)
        for row in rows[len(self._rows) :]:
            self.addItem(self._item(row))
        keys = [row.key for row in rows]
        if reached and reached in keys and current in keys:
            target = keys.index(reached)
        else:
            target = keys.index(current) if current in keys else had_focus_on
        self.setCurrentRow(target if 0 <= target < len(rows) and current in keys else -1)
        self.verticalScrollBar().setValue(place)
        if current != self._current and self.currentItem() is not None:
            self.scrollToItem(self.currentItem())
        self._rows, self._current = rows, current
        self.blockSignals(False)

    def fit(self, at_most: int) -> None:
        """Take just the height of the rows, of the first `at_most` where there are more."""
        heights = [self.sizeHintForRow(index) for index in range(min(self.count(), at_most))]
        self.setFixedHeight(sum(heights) + 2)

    def _item(self, row: Row) -> QListWidgetItem:
        item = QListWidgetItem()
        item.setFlags(
            Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable if row.key else Qt.ItemFlag.NoItemFlags
        )
        self._fill(item, row)
        return item

    def _fill(self, item: QListWidgetItem, row: Row) -> None:
        item.setData(ROW, row)
        item.setText(row.spoken)
        item.setToolTip(local(row.told))

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        ask(self, self.picked.emit, event, ROW)

    def _tell(self, item: QListWidgetItem) -> None:
        row: Row = item.data(ROW)
        if row.key:
            self.picked.emit(row.key)


def height_of(row: Row, theme: Theme) -> int:
    """Return the height, px, of a row whose smaller line takes one line."""
    return theme.px(45 if row.under else 23.5)


class RowDelegate(QStyledItemDelegate):
    """Paints rows; the widest text is cut with an ellipsis and stands whole in the tooltip."""

    def __init__(self, theme: Theme, parent: QAbstractItemView) -> None:
        super().__init__(parent)
        self._theme, self._list = theme, cast(Wrapping, parent)

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex) -> QSize:
        row: Row = index.data(ROW)
        if not row.key:
            return QSize(10, self._theme.px(28 if index.row() else 22))
        if row.under and self._list.wrap:
            metrics = QFontMetrics(self._theme.font("note"))
            wide = max(self._list.viewport().width() - self._theme.px(46), 80)
            needed = metrics.boundingRect(0, 0, wide, 10_000, Qt.TextFlag.TextWordWrap, row.under).height()
            return QSize(10, self._theme.px(29) + needed)
        return QSize(10, height_of(row, self._theme))

    def paint(
        self, painter: QPainter, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> None:
        theme, row, box = self._theme, index.data(ROW), option.rect
        painter.save()
        if not row.key:
            painter.setFont(theme.font("soft"))
            painter.setPen(theme.colour("soft"))
            place = box.adjusted(theme.px(16), 0, -theme.px(6), -theme.px(3))
            self._text(painter, place, row.text, Qt.AlignmentFlag.AlignBottom)
            painter.restore()
            return
        if option.state & QStyle.StateFlag.State_Selected:
            painter.fillRect(box, theme.colour("panel"))
            painter.fillRect(QRect(box.left(), box.top(), theme.px(3), box.height()), theme.colour("petrol"))
        elif option.state & QStyle.StateFlag.State_MouseOver:
            painter.fillRect(box, theme.colour("inside"))
        left = theme.px(16)
        if row.shape:
            centre = QPointF(box.left() + theme.px(22), box.top() + theme.px(11.75))
            draw_glyph(painter, theme, row.shape, centre, theme.px(4.6))
            left = theme.px(36)
        place = box.adjusted(left, theme.px(4), -theme.px(6), -theme.px(3))
        if (wide := room_for(theme, QRectF(box), row.bars)) > 0:
            at = QRectF(place.right() - wide, place.top() + theme.px(2), wide, place.height() - theme.px(4))
            draw_bars(painter, theme, at, row.bars)
            place.setRight(round(place.right() - wide - theme.px(16)))
        font = theme.font("text", bold=row.strong)
        font.setStrikeOut(row.struck)
        painter.setFont(font)
        painter.setPen(theme.colour("soft" if row.struck else "ink"))
        self._text(painter, place, row.text, Qt.AlignmentFlag.AlignTop)
        if row.under:
            painter.setFont(theme.font("note"))
            painter.setPen(theme.colour("soft"))
            if self._list.wrap:
                below = place.adjusted(0, self._theme.px(20), 0, 0)
                painter.drawText(below, Qt.TextFlag.TextWordWrap, local(row.under))
            else:
                self._text(painter, place, row.under, Qt.AlignmentFlag.AlignBottom)
        painter.restore()

    def _text(self, painter: QPainter, box: QRect, text: str, vertical: Qt.AlignmentFlag) -> None:
        shown = painter.fontMetrics().elidedText(text, Qt.TextElideMode.ElideRight, box.width())
        painter.drawText(box, vertical | Qt.AlignmentFlag.AlignLeft, local(shown))
