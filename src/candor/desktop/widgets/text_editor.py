"""A text with the numbers of its lines and its faults marked where they stand; whatever changes it can be undone."""

from __future__ import annotations

from collections.abc import Mapping
from itertools import takewhile

from PySide6.QtCore import QRect, QSize, Qt, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QResizeEvent, QTextCursor, QTextFormat
from PySide6.QtWidgets import QPlainTextEdit, QTextEdit, QWidget

from candor.desktop.frame.theme import Theme


class _Numbers(QWidget):
    """The column of line numbers."""

    def __init__(self, editor: TextEditor) -> None:
        super().__init__(editor)
        self._editor = editor

    def sizeHint(self) -> QSize:
        return QSize(self._editor.numbers_width(), 0)

    def paintEvent(self, event: QPaintEvent) -> None:
        self._editor.paint_numbers(event)


class TextEditor(QPlainTextEdit):
    """A plain text in lines.

    Signals
    -------
    stoodOn(int)
        The cursor went to another line, from 1, by hand.
    """

    stoodOn = Signal(int)

    def __init__(self, theme: Theme, name: str) -> None:
        super().__init__()
        self._theme = theme
        self._faults: Mapping[int, str] = {}
        self._line = 1
        self._is_told = False
        self._numbers = _Numbers(self)
        self.setAccessibleName(name)
        self.setLineWrapMode(QPlainTextEdit.LineWrapMode.NoWrap)
        self.setTabChangesFocus(True)
        self.setObjectName("code")
        self.blockCountChanged.connect(lambda _: self._make_room())
        self.updateRequest.connect(self._follow)
        self.cursorPositionChanged.connect(self._stand)
        self._make_room()

    def show_text(self, text: str) -> None:
        """Show another text: what differs is exchanged, so that it can be undone and the place in it stays."""
        before = self.toPlainText()
        if text == before:
            return
        head = sum(1 for _ in takewhile(lambda pair: pair[0] == pair[1], zip(before, text, strict=False)))
        rest = min(len(before), len(text)) - head
        tail = sum(1 for _ in takewhile(lambda n: before[-1 - n] == text[-1 - n], range(rest)))
        cursor = self.textCursor()
        cursor.setPosition(_units(before[:head]))
        cursor.setPosition(_units(before[: len(before) - tail]), QTextCursor.MoveMode.KeepAnchor)
        self._is_told = True
        cursor.insertText(text[head : len(text) - tail])
        self._is_told = False

    def begin(self, text: str) -> None:
        """Begin with a text: nothing before it can be brought back."""
        self._is_told = True
        self.setPlainText(text)
        self._is_told = False

    def show_faults(self, faults: Mapping[int, str]) -> None:
        """Mark the lines of faults; each is said when the mouse rests on it."""
        self._faults = faults
        self._mark()
        self._numbers.update()

    def go_to_line(self, line: int) -> None:
        """Put the cursor on a line, from 1, and bring it into view."""
        block = self.document().findBlockByNumber(max(line - 1, 0))
        if block.isValid():
            self._is_told = True
            cursor = self.textCursor()
            cursor.setPosition(block.position())
            self.setTextCursor(cursor)
            self.centerCursor()
            self._is_told = False

    def line_in_hand(self) -> int:
        """Return the line of the cursor, from 1."""
        return self.textCursor().blockNumber() + 1

    # --- lines --------------------------------------------------------------------------------------

    def numbers_width(self) -> int:
        """Return how wide the column of numbers is."""
        return self.fontMetrics().horizontalAdvance("0" * (len(str(self.blockCount())) + 1)) + self._theme.px(12)

    def paint_numbers(self, event: QPaintEvent) -> None:
        """Draw the numbers that are in view, a mark before those with a fault."""
        painter = QPainter(self._numbers)
        painter.fillRect(event.rect(), self._theme.colour("ground"))
        painter.setFont(self.font())
        block = self.firstVisibleBlock()
        top = round(self.blockBoundingGeometry(block).translated(self.contentOffset()).top())
        while block.isValid() and top <= event.rect().bottom():
            bottom = top + round(self.blockBoundingRect(block).height())
            number = block.blockNumber() + 1
            wrong = number in self._faults
            painter.setPen(self._theme.colour("brick" if wrong else "soft"))
            place = QRect(0, top, self._numbers.width() - self._theme.px(6), self.fontMetrics().height())
            painter.drawText(place, Qt.AlignmentFlag.AlignRight, f"▸{number}" if wrong else str(number))
            top, block = bottom, block.next()

    def _make_room(self) -> None:
        self.setViewportMargins(self.numbers_width(), 0, 0, 0)

    def _follow(self, area: QRect, moved: int) -> None:
        if moved:
            self._numbers.scroll(0, moved)
        else:
            self._numbers.update(0, area.y(), self._numbers.width(), area.height())

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        inside = self.contentsRect()
        self._numbers.setGeometry(QRect(inside.left(), inside.top(), self.numbers_width(), inside.height()))

    def _stand(self) -> None:
        self._mark()
        line = self.line_in_hand()
        if line != self._line:
            self._line = line
            if not self._is_told:
                self.stoodOn.emit(line)

    def _mark(self) -> None:
        marks = [self._marked(line, "brick") for line in self._faults]
        self.setExtraSelections([self._marked(self.line_in_hand(), "inside"), *[m for m in marks if m is not None]])
        here = self._faults.get(self.line_in_hand(), "")
        self.setToolTip(here)
        self.setAccessibleDescription(here)

    def _marked(self, line: int, colour: str) -> QTextEdit.ExtraSelection:
        made = QTextEdit.ExtraSelection()
        block = self.document().findBlockByNumber(min(line, self.blockCount()) - 1)
        cursor = QTextCursor(block)
        if colour == "inside":
            made.format.setBackground(self._theme.colour("inside"))
            made.format.setProperty(QTextFormat.Property.FullWidthSelection, True)
        else:
            cursor.select(QTextCursor.SelectionType.LineUnderCursor)
            made.format.setUnderlineColor(self._theme.colour(colour))
            made.format.setUnderlineStyle(made.format.UnderlineStyle.WaveUnderline)
        made.cursor = cursor
        return made


def _units(text: str) -> int:
    """How many places a text takes as Qt counts them, in UTF-16."""
    return len(text.encode("utf-16-le")) // 2
