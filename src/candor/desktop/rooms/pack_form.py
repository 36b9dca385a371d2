"""What can be said of one thing of a description, in fields: what is said first, all that could be said on request."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import (
    QComboBox,
    QGridLayout,
    QLabel,
    QLineEdit,
    QPlainTextEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from candor.desktop.frame.theme import Theme, label, plain_tip
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.field import Field
from candor.packs.draft_fields import DraftField

LONG = 60  # characters: longer words get lines


class PackForm(QWidget):
    """The fields of one thing.

    Signals
    -------
    said(object, str)
        A field was left with another value: the field, and what stands in it.
    """

    said = Signal(object, str)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._fields: tuple[DraftField, ...] = ()
        self._all = False
        self.edits: dict[str, QLineEdit | QPlainTextEdit | QComboBox] = {}
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, theme.px(8), 0)
        self._grid = QGridLayout()
        self._grid.setHorizontalSpacing(theme.px(9))
        self._grid.setVerticalSpacing(theme.px(6))
        self.more: QPushButton = button("More …", "Show all that can be said of it", name="quiet")
        column.addLayout(self._grid)
        column.addWidget(self.more)
        column.addStretch(1)
        self.more.clicked.connect(self._turn)

    def show_fields(self, fields: Sequence[DraftField], anew: bool = True) -> None:
        """Show the fields of a thing; where it is the same thing as before, only the values that changed."""
        fields = tuple(fields)
        self._all = self._all and not anew
        same = not anew and [f.path for f in fields] == [f.path for f in self._fields]
        self._fields = fields
        if same and {f.title for f in self._shown()} == set(self.edits):
            for field in self._shown():
                self._put(self.edits[field.title], field)
            return
        had = next((title for title, edit in self.edits.items() if edit.hasFocus()), "")
        while (item := self._grid.takeAt(0)) is not None:
            if (widget := item.widget()) is not None:
                widget.hide()
                widget.deleteLater()
        self.edits = {}
        for row, field in enumerate(self._shown()):
            self._add(row, field)
        hidden = len(fields) - len(self._shown())
        self.more.setVisible(bool(fields) and (hidden > 0 or self._all))
        self.more.setText(f"More … ({hidden})" if hidden else "Less")
        if had in self.edits:
            self.edits[had].setFocus()

    def forget(self) -> None:
        """Show what is said alone of what comes next."""
        self._all, self._fields = False, ()

    def _shown(self) -> tuple[DraftField, ...]:
        return self._fields if self._all else tuple(f for f in self._fields if f.value or f.needed)

    def _turn(self) -> None:
        self._all = not self._all
        fields, self._fields = self._fields, ()
        kept = self._all
        self.show_fields(fields, anew=False)
        self._all = kept

    def _add(self, row: int, field: DraftField) -> None:
        title: QLabel = label(field.title, "note", tint="" if field.value or not field.needed else "brick")
        edit = self._made(field)
        edit.setAccessibleName(field.title)
        edit.setAccessibleDescription(field.tip)
        edit.setToolTip(plain_tip(field.tip or field.title))
        title.setBuddy(edit)
        self._grid.addWidget(title, row, 0, Qt.AlignmentFlag.AlignTop)
        self._grid.addWidget(edit, row, 1)
        self._grid.setColumnStretch(1, 1)
        self.edits[field.title] = edit
        self._put(edit, field)

    def _made(self, field: DraftField) -> QLineEdit | QPlainTextEdit | QComboBox:
        if field.kind in ("choice", "yes"):
            box = QComboBox()
            words = field.choices or ("true", "false")
            box.addItems(words if field.needed or "" in words else ("", *words))
            box.activated.connect(lambda _: self._tell(field.title, box.currentText()))
            return box
        if field.kind == "text" or (field.kind == "words" and len(field.value) > LONG):
            made = _Lines()
            made.setTabChangesFocus(True)
            made.setFixedHeight(self._theme.px(78))
            made.left.connect(lambda: self._tell(field.title, made.toPlainText()))
            return made
        line = Field()
        line.editingFinished.connect(lambda: self._tell(field.title, line.text()))
        return line

    def _put(self, edit: QLineEdit | QPlainTextEdit | QComboBox, field: DraftField) -> None:
        edit.blockSignals(True)
        if isinstance(edit, QComboBox):
            edit.setCurrentText(field.value)
        elif isinstance(edit, QPlainTextEdit):
            if edit.toPlainText() != field.value:
                edit.setPlainText(field.value)
        elif edit.text() != field.value:
            edit.setText(field.value)
            edit.setCursorPosition(0)
        edit.blockSignals(False)

    def _tell(self, title: str, value: str) -> None:
        field = next((f for f in self._fields if f.title == title), None)
        if field is not None and value.strip() != field.value.strip():
            self.said.emit(field, value)


class _Lines(QPlainTextEdit):
    """Lines that tell when they are left."""

    left = Signal()

    def focusOutEvent(self, event: object) -> None:
        super().focusOutEvent(event)  # type: ignore[arg-type]
        self.left.emit()
