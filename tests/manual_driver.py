"""Does what a page of the manual says, step by step, in the real window.

In a numbered step a name in *italics* is a button that is clicked or a field that is gone to, keys stand in **bold**, what is typed
as `code`; a line behind `>` must be seen after it.
"""

from __future__ import annotations

import re
from collections.abc import Iterator

from PySide6.QtCore import QCoreApplication, QPoint, Qt
from PySide6.QtGui import QKeySequence
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractItemView,
    QApplication,
    QCheckBox,
    QComboBox,
    QLabel,
    QLineEdit,
    QPlainTextEdit,
    QWidget,
)

_TOKEN = re.compile(r"\*\*(?P<key>[^*]+)\*\*|\*(?P<name>[^*]+)\*|`(?P<typed>[^`]+)`")
_NAMED = (QAbstractButton, QLineEdit, QComboBox, QPlainTextEdit, QAbstractItemView)


def steps_of(page: str) -> Iterator[tuple[str, list[str]]]:
    """Yield each numbered step of a page with what must be seen after it."""
    step, seen = "", []
    for line in [*page.splitlines(), "1. "]:
        if re.match(r"\d+\. ", line):
            if step:
                yield step, seen
            step, seen = line.split(" ", 1)[1], []
        elif step and line.strip().startswith(">"):
            seen.append(line.strip(" >"))
        elif step and line.startswith("   "):
            step += " " + line.strip()
        elif step and line.strip():
            yield step, seen
            step, seen = "", []


def do(window: QWidget, step: str) -> None:
    """Do one step."""
    for token in _TOKEN.finditer(step):
        if token["key"]:
            sequence = QKeySequence(token["key"])
            assert not sequence.isEmpty(), token["key"]
            combination = sequence[0]
            target = QApplication.focusWidget() or window
            QTest.keyClick(target, combination.key(), combination.keyboardModifiers())
        elif token["name"]:
            _go(window, token["name"])
        else:
            if isinstance(QApplication.focusWidget(), QAbstractItemView):  # a list looks for all letters of one go
                QTest.qWait(QApplication.keyboardInputInterval() + 50)
            for letter in token["typed"]:
                QTest.keyClicks(QApplication.focusWidget() or window, letter)
        QCoreApplication.processEvents()


def _go(window: QWidget, name: str) -> None:
    found = [w for kind in _NAMED for w in window.findChildren(kind) if w.isVisible() and _is_named(w, name)]
    assert found, f"nothing that can be seen is called “{name}”"
    widget = found[0]
    if isinstance(widget, QAbstractButton):
        assert widget.isEnabled(), f"“{name}” cannot be pressed"
        at = (
            QPoint(8, widget.height() // 2) if isinstance(widget, QCheckBox) else QPoint()
        )  # its box, not the room beside it
        QTest.mouseClick(widget, Qt.MouseButton.LeftButton, pos=at)
    else:
        widget.setFocus(Qt.FocusReason.MouseFocusReason)
        line = widget.lineEdit() if isinstance(widget, QComboBox) and widget.isEditable() else widget
        if line is not widget:
            QTest.mouseClick(line, Qt.MouseButton.LeftButton)
        elif isinstance(line, QLineEdit):
            line.selectAll()


def _is_named(widget: QWidget, name: str) -> bool:
    words = {widget.accessibleName(), getattr(widget, "text", str)() if isinstance(widget, QAbstractButton) else ""}
    return any(word == name or word.split("  ")[0] == name for word in words)


def is_seen(window: QWidget, words: str) -> bool:
    """Whether words stand on the screen, in a label or a row."""
    plain = " ".join(words.split())
    return any(plain in " ".join(text.split()) for text in texts(window))


def texts(window: QWidget) -> Iterator[str]:
    """Yield every text that can be seen."""
    for label in window.findChildren(QLabel):
        if label.isVisible():
            yield label.text().replace("\u00a0", " ")
    for view in window.findChildren(QAbstractItemView):
        if view.isVisible() and view.model() is not None:
            for row in range(view.model().rowCount()):
                yield str(
                    view.model().index(row, 0).data(Qt.ItemDataRole.AccessibleTextRole)
                    or view.model().index(row, 0).data()
                )
    for drawn in window.findChildren(QWidget):
        if drawn.isVisible() and drawn.accessibleName():
            yield f"{drawn.accessibleName()} {drawn.accessibleDescription()}"
