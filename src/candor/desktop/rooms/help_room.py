"""Help for where one is: what the place is for, what can be typed there, and its keys."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QLineEdit, QVBoxLayout

from candor.desktop.frame.because import Because
from candor.desktop.frame.page import Page
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import button, shortcut
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.long_list import LongList
from candor.desktop.widgets.row_list import Row
from candor.words.help import PLACES, HelpLine, help_lines


class HelpPage(Page):
    """What F1 shows.

    Signals
    -------
    jotBegun(str)
        A line was chosen: it is put where lines are typed, to be changed there.
    left()
        Back to where one was.
    manualAsked()
        The manual is to be shown.
    """

    jotBegun = Signal(str)
    left = Signal()
    manualAsked = Signal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._of = ""
        self._lines: tuple[HelpLine, ...] = ()
        self.title = label("", "heading", bold=True)
        self.purpose, self.first = label("", "text"), label("", "soft")
        self.search = QLineEdit()
        self.search.setPlaceholderText("words to look for, in all lines and keys")
        self.search.setAccessibleName("Look for help")
        self.search.setClearButtonEnabled(True)
        self.list = LongList(theme, "What can be typed here")
        self.back = button("Back", "Back to where you were", "Esc", "main")
        self.manual = button("Manual", "A page for each task", "Shift+F1")
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(18), theme.px(12), theme.px(16), theme.px(12))
        column.setSpacing(theme.px(8))
        for widget in (self.title, self.purpose, self.first, self.search):
            column.addWidget(widget)
        column.addWidget(self.list, 1)
        column.addLayout(flow(theme.px(8), self.back, self.manual))
        self.search.textChanged.connect(lambda _: self._show())
        self.list.picked.connect(self._pick)
        self.list.offers = lambda key: (("Begin this line", "Enter", lambda: self._pick(key)),)
        self.back.clicked.connect(self.left)
        self.manual.clicked.connect(self.manualAsked)
        shortcut(self, "Esc", self.left.emit)

    def about(self, place: str) -> None:
        """Show the help of a stop or a room."""
        self._of = place
        self.search.clear()
        self._show()

    def enter(self) -> None:
        """Show it, the keyboard where one looks for words."""
        self._show()
        self.search.setFocus(Qt.FocusReason.OtherFocusReason)

    def _show(self) -> None:
        place = PLACES.get(self._of)
        self.title.setText(f"Help: {place.title}" if place is not None else "Help")
        self.purpose.setText(place.purpose if place is not None else "")
        self.first.setText(place.first if place is not None else "")
        self._lines = tuple(help_lines(self._of, self.search.text()))
        self.list.show_rows(range(len(self._lines)), self._row, None)

    def _row(self, index: int) -> Row:
        line = self._lines[index]
        return Row(str(index), line.says, f"key: {line.does}" if line.is_key else line.does)

    def _pick(self, key: str) -> None:
        line = self._lines[int(key)]
        if not line.is_key:
            self.jotBegun.emit(line.says)

    def explain(self, because: Because) -> None:
        """Say how to use it."""
        because.show_whole(None)
        because.show_words(
            "Help",
            [
                "Choose a line, and it stands in the field below, to be changed and entered.",
                "Keys are marked so. Words that you look for are looked for in the lines of all stops.",
            ],
        )
