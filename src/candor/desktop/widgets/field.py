"""A line to type in whose Return stays in it: the page behind must not take it for a press of the pedal."""

from __future__ import annotations

from PySide6.QtCore import QEvent, Qt, Signal
from PySide6.QtGui import QFocusEvent, QKeyEvent, QMouseEvent
from PySide6.QtWidgets import QLineEdit


class Field(QLineEdit):
    """A line edit that keeps Return and Enter to itself."""

    def keyPressEvent(self, event: QKeyEvent) -> None:
        super().keyPressEvent(event)
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            event.accept()


class ReplacedField(Field):
    """A line whose words are nearly always replaced whole: a click into it chooses them all, as Tab does.

    `is_left` is true while what its being left does is done: a choice then takes what stands there for chosen.
    """

    def __init__(self) -> None:
        super().__init__()
        self._clicked_into = self.is_left = False

    def focusOutEvent(self, event: QFocusEvent) -> None:
        self.is_left = True
        super().focusOutEvent(event)
        self.is_left = False

    def focusInEvent(self, event: QFocusEvent) -> None:
        super().focusInEvent(event)
        self._clicked_into = event.reason() == Qt.FocusReason.MouseFocusReason

    def mousePressEvent(self, event: QMouseEvent) -> None:
        super().mousePressEvent(event)
        if self._clicked_into:  # only now: the press has put the cursor where it fell
            self.selectAll()
        self._clicked_into = False


class SearchField(Field):
    """A line of words that are looked for, above a list: Down goes into the list, Escape empties the line before it does more.

    Signals
    -------
    wentDown()
        Down was pressed.
    """

    wentDown = Signal()

    def __init__(self, name: str, placeholder: str, tip: str) -> None:
        super().__init__()
        self.setAccessibleName(name)
        self.setPlaceholderText(placeholder)
        self.setToolTip(tip)
        self.setClearButtonEnabled(True)

    def event(self, event: QEvent) -> bool:
        if isinstance(event, QKeyEvent) and event.key() == Qt.Key.Key_Escape and self.text():
            if event.type() == QEvent.Type.ShortcutOverride:  # else the page's own Escape takes it
                event.accept()
                return True
            if event.type() == QEvent.Type.KeyPress:
                self.clear()
                return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Down:
            self.wentDown.emit()
            return
        super().keyPressEvent(event)
