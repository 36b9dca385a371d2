"""A quiet list of any length: a row is made when it is seen."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PySide6.QtCore import QAbstractListModel, QModelIndex, QPersistentModelIndex, Qt, Signal
from PySide6.QtGui import QContextMenuEvent
from PySide6.QtWidgets import QAbstractItemView, QHeaderView, QPushButton, QTableView

from candor.desktop.frame.theme import Theme
from candor.desktop.widgets.row_list import ROW, Row, RowDelegate, height_of
from candor.desktop.widgets.row_menu import Offer, ask

KEPT = 400  # rows that are remembered: some screens of them


class _Rows(QAbstractListModel):
    """Rows by their place, made when they are first asked for."""

    def __init__(self) -> None:
        super().__init__()
        self.places: Sequence[int] = ()
        self.make: Callable[[int], Row] = lambda _: Row("", "")
        self._made: dict[int, Row] = {}

    def show(self, places: Sequence[int], make: Callable[[int], Row]) -> None:
        """Show the rows of some places; those that stand before others that are new stay where they are."""
        self._made.clear()
        known, self.make = self.places, make
        if len(places) > len(known) > 0 and places[: len(known)] == known:
            self.beginInsertRows(QModelIndex(), len(known), len(places) - 1)
            self.places = places
            self.endInsertRows()
            self.dataChanged.emit(self.index(0), self.index(len(known) - 1))
        elif places == known:
            if known:
                self.dataChanged.emit(self.index(0), self.index(len(known) - 1))
        else:
            self.beginResetModel()
            self.places = places
            self.endResetModel()

    def rowCount(self, parent: QModelIndex | QPersistentModelIndex = QModelIndex()) -> int:  # noqa: B008
        return 0 if parent.isValid() else len(self.places)

    def row(self, index: int) -> Row:
        """Return a row by where it is shown."""
        place = self.places[index]
        if place not in self._made:
            if len(self._made) >= KEPT:
                self._made.clear()
            self._made[place] = self.make(place)
        return self._made[place]

    def data(self, index: QModelIndex | QPersistentModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        if not index.isValid():
            return None
        row = self.row(index.row())
        if role == ROW:
            return row
        if role == Qt.ItemDataRole.DisplayRole:
            return row.spoken
        return row.told if role == Qt.ItemDataRole.ToolTipRole else None


class LongList(QTableView):
    """A list of rows of one height, as many as there are: a table of one column, which lays out what is seen alone.

    Signals
    -------
    picked(str)
        A row was chosen, by its key.
    moved(str)
        The row in hand is another one, by its key.
    """

    picked = Signal(str)
    moved = Signal(str)

    def __init__(self, theme: Theme, name: str) -> None:
        super().__init__()
        self.wrap = False
        self.deeds: Sequence[QPushButton] | None = None
        self.offers: Callable[[str], Sequence[Offer]] | None = None
        self.setObjectName("long")
        self._theme, self._rows = theme, _Rows()
        self._current: int | None = None  # the place that was in hand when rows were shown last
        self.setAccessibleName(name)
        self.setModel(self._rows)
        self.setItemDelegate(RowDelegate(theme, self))
        self.horizontalHeader().hide()
        self.horizontalHeader().setStretchLastSection(True)
        self.verticalHeader().hide()
        self.verticalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Fixed)
        self.setShowGrid(False)
        self.setTabKeyNavigation(False)
        self.setMouseTracking(True)  # the row under the pointer is shown
        self.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollMode(QTableView.ScrollMode.ScrollPerPixel)
        self.clicked.connect(lambda index: self.picked.emit(self._rows.row(index.row()).key))
        self.activated.connect(lambda index: self.picked.emit(self._rows.row(index.row()).key))
        self.selectionModel().currentChanged.connect(self._tell)

    def show_rows(self, places: Sequence[int], make: Callable[[int], Row], current: int | None) -> None:
        """Show the rows of some places, `make` gives each; `current` is the place in hand, None for none."""
        scrolled = self.verticalScrollBar().value()
        if len(places):
            self.verticalHeader().setDefaultSectionSize(height_of(make(places[0]), self._theme))
        self.selectionModel().blockSignals(True)
        self._rows.show(places, make)
        at = places.index(current) if current is not None and current in places else -1
        self.selectionModel().blockSignals(False)
        if at != self.currentIndex().row():
            blocked = self.blockSignals(True)
            self.setCurrentIndex(self._rows.index(at) if at >= 0 else QModelIndex())
            self.blockSignals(blocked)
        self.verticalScrollBar().setValue(scrolled)
        if current != self._current and at >= 0:
            self.scrollTo(self._rows.index(at))
        self._current = current

    def fit(self, at_most: int) -> None:
        """Take just the height of the rows, of the first `at_most` where there are more."""
        self.setFixedHeight(self.verticalHeader().defaultSectionSize() * min(self.count(), at_most) + 2)

    def count(self) -> int:
        """Return how many rows there are."""
        return self._rows.rowCount()

    def row(self, index: int) -> Row:
        """Return a row by where it is shown."""
        return self._rows.row(index)

    def moveCursor(self, action: QAbstractItemView.CursorAction, modifiers: Qt.KeyboardModifier) -> QModelIndex:
        ends = {QAbstractItemView.CursorAction.MoveHome: 0, QAbstractItemView.CursorAction.MoveEnd: self.count() - 1}
        if action in ends:
            return self._rows.index(ends[action])
        return super().moveCursor(action, modifiers)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        ask(self, self.picked.emit, event, ROW)

    def _tell(self, index: QModelIndex) -> None:
        if index.isValid() and self.hasFocus():
            self.moved.emit(self._rows.row(index.row()).key)
