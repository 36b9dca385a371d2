"""A table that is edited in place, copied from and pasted to a spreadsheet; rows that are wrong are marked where they stand."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence

from PySide6.QtCore import QEvent, QModelIndex, QPersistentModelIndex, Qt, QTimer, Signal
from PySide6.QtGui import (
    QBrush,
    QColor,
    QFocusEvent,
    QGuiApplication,
    QKeyEvent,
    QKeySequence,
    QPalette,
    QResizeEvent,
)
from PySide6.QtWidgets import (
    QAbstractItemDelegate,
    QAbstractItemView,
    QHeaderView,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QTableWidget,
    QTableWidgetItem,
    QToolTip,
    QWidget,
)

from candor.desktop.frame.theme import Theme, plain_tip

LEAST = 58  # px of a column at the text size as designed
MOST_ROWS = 500  # of a table that is typed; a longer one comes as a file


class _Cell(QStyledItemDelegate):
    """A cell; in the empty row at the end it shows an example of what goes there."""

    def __init__(self, table: EditTable, theme: Theme) -> None:
        super().__init__(table)
        self._table, self._theme = table, theme

    def initStyleOption(self, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex) -> None:
        super().initStyleOption(option, index)
        if self._table.grows and not index.data() and index.row() == self._table.rowCount() - 1:
            option.text = self._table.example(index.column())
            option.palette.setColor(QPalette.ColorRole.Text, QColor(self._theme.colour("soft")))


class EditTable(QTableWidget):
    """Rows of cells; the last row is always empty and waits to be filled.

    Signals
    -------
    edited()
        A cell has other words, a row came or went.
    """

    edited = Signal()

    def __init__(self, theme: Theme, name: str) -> None:
        super().__init__(0, 0)
        self._theme = theme
        self._keys: tuple[str, ...] = ()
        self._examples: tuple[str, ...] = ()
        self._widths: tuple[float, ...] = ()
        self.paste_as: Callable[[str, Sequence[str]], Sequence[Mapping[str, str]]] | None = None
        self.grows = True  # an empty row waits at its end
        self.inherited: tuple[str, ...] = ()  # columns whose empty cells are those of the row above
        self.setAccessibleName(name)
        self.setCornerButtonEnabled(False)
        self.setAlternatingRowColors(False)
        self.verticalHeader().setDefaultSectionSize(theme.px(26))
        self.verticalHeader().setFixedWidth(theme.px(26))
        self.verticalHeader().setMinimumSectionSize(theme.px(20))
        self.horizontalHeader().setDefaultAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
        self.setEditTriggers(
            QAbstractItemView.EditTrigger.AnyKeyPressed
            | QAbstractItemView.EditTrigger.DoubleClicked
            | QAbstractItemView.EditTrigger.EditKeyPressed
        )
        self.setTabKeyNavigation(True)
        self.setItemDelegate(_Cell(self, theme))
        self.itemChanged.connect(lambda _: self._changed())

    def example(self, column: int) -> str:
        """Return what a column shows in the empty row."""
        return self._examples[column] if column < len(self._examples) else ""

    def show_columns(self, columns: Sequence[tuple[str, str, str]], widths: Sequence[float] = ()) -> None:
        """Have columns: of each its key, its head and an example, which the empty row shows; and how wide each is of the whole."""
        self._widths = tuple(widths) or (1.0,) * len(columns)
        self._keys = tuple(key for key, _, _ in columns)
        self._examples = tuple(example for _, _, example in columns)
        self.blockSignals(True)
        self.setColumnCount(len(columns))
        self.setHorizontalHeaderLabels([title for _, title, _ in columns])
        self.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Interactive)
        self._share_width()
        self.blockSignals(False)

    def _share_width(self) -> None:
        """Give each column its share of the width, and no less than it can be read at."""
        whole, least = sum(self._widths), self._theme.px(LEAST)
        room = self.viewport().width()
        for column, share in enumerate(self._widths):
            self.setColumnWidth(column, max(int(room * share / whole), least))

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._share_width()

    def show_rows(self, rows: Sequence[Mapping[str, str]]) -> None:
        """Show rows by the keys of the columns, and an empty one behind them; nothing is said of it."""
        self.blockSignals(True)
        self.setRowCount(0)
        self.setRowCount(len(rows) + self.grows)
        for number, row in enumerate(rows):
            for column, key in enumerate(self._keys):
                self._put(number, column, row.get(key, ""))
        self.blockSignals(False)

    def rows(self) -> list[dict[str, str]]:
        """Return what stands in it; the empty row at its end is none."""
        return [
            {key: self._text(number, column) for column, key in enumerate(self._keys)}
            for number in range(self.rowCount() - self.grows)
        ]

    def mark(self, faults: Mapping[int, tuple[str, str]]) -> None:
        """Mark the cells that are wrong, a whole row where no cell alone is, each with its sentence; the others are right."""
        self.blockSignals(True)
        for number in range(self.rowCount()):
            key, sentence = faults.get(number, ("", ""))
            for column, each in enumerate(self._keys):
                item = self._item(number, column)
                wrong = bool(sentence) and (not key or key == each)
                item.setForeground(QBrush(QColor(self._theme.colour("brick"))) if wrong else QBrush())
                item.setBackground(
                    QBrush(QColor(self._theme.colour("inside"))) if wrong and not item.text() else QBrush()
                )
                item.setToolTip(plain_tip(sentence) if wrong else "")
        self.blockSignals(False)

    def fit(self, most: int) -> None:
        """Take the height of its rows, so many at most."""
        shown = min(max(self.rowCount(), 3 if self.grows else 1), most)
        height = self.horizontalHeader().sizeHint().height() + shown * self.verticalHeader().defaultSectionSize()
        self.setFixedHeight(height + 2 * self.frameWidth() + 2)

    def paste(self, text: str) -> None:
        """Put what was copied elsewhere from the cell in hand on; rows that are there are written over, the others come."""
        at_row, at_column = max(self.currentRow(), 0), max(self.currentColumn(), 0)
        keys = self._keys[at_column:]
        as_rows = self.paste_as or _cells
        rows = list(as_rows(text, keys))
        # Whole or not at all: half of a table would look like all of it.
        if self.grows and at_row + len(rows) > MOST_ROWS:
            too_many = f"Nothing was pasted: {len(rows)} rows from row {at_row + 1} on, and the table takes {MOST_ROWS} in all."
            QToolTip.showText(
                self.mapToGlobal(self.rect().center()), f"{too_many} Paste fewer, or read them from a file.", self
            )
            return
        self.blockSignals(True)
        while self.grows and self.rowCount() < at_row + len(rows) + 1:
            self.insertRow(self.rowCount())
        for offset, row in enumerate(rows):
            for key, cell in row.items():
                if key in self._keys and at_row + offset < self.rowCount():
                    self._put(at_row + offset, self._keys.index(key), cell)
        self.blockSignals(False)
        self._changed()

    def copy(self) -> None:
        """Copy the chosen cells, as a spreadsheet takes them."""
        chosen = sorted((i.row(), i.column()) for i in self.selectedIndexes())
        lines: dict[int, list[str]] = {}
        for row, column in chosen:
            lines.setdefault(row, []).append(self._text(row, column))
        QGuiApplication.clipboard().setText("\n".join("\t".join(cells) for cells in lines.values()))

    def remove_chosen(self) -> None:
        """Take the chosen rows away."""
        rows = sorted(
            {index.row() for index in self.selectedIndexes()} - ({self.rowCount() - 1} if self.grows else set()),
            reverse=True,
        )
        self.blockSignals(True)
        for row in rows:
            self._hand_down(row)
            self.removeRow(row)
        self.blockSignals(False)
        if rows:
            self._changed()

    def _hand_down(self, row: int) -> None:
        """Give the row below what it had from a row that goes: an empty cell of such a column is that of the row above."""
        columns = [self._keys.index(key) for key in self.inherited]
        if row + 1 < self.rowCount() - 1 and columns and not self._text(row + 1, columns[0]):
            for column in columns:
                self._put(row + 1, column, self._text(row, column))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.matches(QKeySequence.StandardKey.Paste):
            self.paste(QGuiApplication.clipboard().text())
        elif event.matches(QKeySequence.StandardKey.Copy):
            self.copy()
        elif event.key() == Qt.Key.Key_Delete and event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.remove_chosen()
        elif event.key() == Qt.Key.Key_Delete:
            self._empty_chosen()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            if self.state() != QAbstractItemView.State.EditingState:  # else the editor ends first, and goes on itself
                self._go_down()
        else:
            super().keyPressEvent(event)

    def focusInEvent(self, event: QFocusEvent) -> None:
        super().focusInEvent(event)
        if self.currentRow() < 0:  # what is typed next goes somewhere
            self.setCurrentCell(0, 0)

    def focusNextPrevChild(self, forward: bool) -> bool:
        """Leave the table by Tab from its last cell, and back from its first."""
        last = self.currentRow() == self.rowCount() - 1 and self.currentColumn() == self.columnCount() - 1
        first = self.currentRow() <= 0 and self.currentColumn() <= 0
        if (forward and last) or (not forward and first):
            return QWidget.focusNextPrevChild(self, forward)
        return super().focusNextPrevChild(forward)

    def changeEvent(self, event: QEvent) -> None:
        super().changeEvent(event)
        if event.type() == QEvent.Type.StyleChange and self._keys:
            self.verticalHeader().setDefaultSectionSize(self._theme.px(26))

    def closeEditor(self, editor: QWidget, hint: QAbstractItemDelegate.EndEditHint) -> None:
        super().closeEditor(editor, hint)
        if hint == QAbstractItemDelegate.EndEditHint.SubmitModelCache:  # by Enter
            self._go_down()

    def _go_down(self) -> None:
        self.setCurrentCell(min(self.currentRow() + 1, self.rowCount() - 1), self.currentColumn())

    def _empty_chosen(self) -> None:
        self.blockSignals(True)
        for index in self.selectedIndexes():
            self._put(index.row(), index.column(), "")
        self.blockSignals(False)
        self._changed()

    def _item(self, row: int, column: int) -> QTableWidgetItem:
        found = self.item(row, column)
        if found is None:
            found = QTableWidgetItem("")
            self.setItem(row, column, found)
        return found

    def _put(self, row: int, column: int, text: str) -> None:
        self._item(row, column).setText(" ".join(text.split()))

    def _text(self, row: int, column: int) -> str:
        item = self.item(row, column)
        return "" if item is None else item.text().strip()

    def _changed(self) -> None:
        self.blockSignals(True)
        last = self.rowCount() - 1
        if self.grows and (last < 0 or any(self._text(last, column) for column in range(len(self._keys)))):
            self.insertRow(last + 1)
        self.blockSignals(False)
        if self.state() == QAbstractItemView.State.EditingState:  # the cell's own editor is closed first
            QTimer.singleShot(0, self, self.edited.emit)
        else:
            self.edited.emit()


def _cells(text: str, keys: Sequence[str]) -> list[dict[str, str]]:
    return [dict(zip(keys, line.split("\t"), strict=False)) for line in text.splitlines() if line.strip()]
