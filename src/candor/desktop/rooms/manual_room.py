"""The manual in the window: its pages by task, looked through by words."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QColor, QTextBlockFormat, QTextCharFormat, QTextCursor, QTextFormat
from PySide6.QtWidgets import QBoxLayout, QLineEdit, QTextBrowser, QVBoxLayout

from candor.desktop.frame.because import Because
from candor.desktop.frame.page import Page
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import button, shortcut
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.row_list import Row, RowList
from candor.words.manual_words import ManualPage, manual_pages

CONTENTS = 250  # px of the list at the text size as designed
WIDEST = 16777215  # px: as wide, or high, as there is room
HEADINGS = {1: 2, 2: 1}  # steps of size above the text


class ManualRoom(Page):
    """What Shift+F1 shows.

    Signals
    -------
    left()
        Back to where one was.
    """

    left = Signal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._key = manual_pages()[0].key
        self._is_narrow = False
        self.search = QLineEdit()
        self.search.setPlaceholderText("words to look for, in all pages")
        self.search.setAccessibleName("Look in the manual")
        self.search.setClearButtonEnabled(True)
        self.none = label("", "soft")
        self.list = RowList(theme, "Pages of the manual", wrap=True)
        self.text = QTextBrowser()
        self.text.setObjectName("manual")
        self.text.setAccessibleName("The page")
        self.text.setOpenLinks(False)
        self.back = button("Back", "Back to where you were", "Esc", "main")
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(18), theme.px(12), theme.px(16), theme.px(12))
        column.setSpacing(theme.px(8))
        column.addWidget(label("Manual", "heading", bold=True))
        column.addWidget(self.search)
        column.addWidget(self.none)
        self._both = QBoxLayout(QBoxLayout.Direction.LeftToRight)
        self._both.setSpacing(theme.px(14))
        self._both.addWidget(self.list)
        self._both.addWidget(self.text, 1)
        column.addLayout(self._both, 1)
        column.addLayout(flow(theme.px(8), self.back))
        self.search.textChanged.connect(lambda _: self._show())
        self.list.picked.connect(self.open)
        self.back.clicked.connect(self.left)
        theme.changed.connect(self._show)
        shortcut(self, "Esc", self.left.emit)
        self._show()

    def enter(self) -> None:
        """Come to it: the keyboard is at the page, to scroll it."""
        self._show()
        self.text.setFocus(Qt.FocusReason.OtherFocusReason)

    def narrow(self, is_narrow: bool) -> None:
        """Put the contents above the page where the window is narrow."""
        self._is_narrow = is_narrow
        way = QBoxLayout.Direction
        self._both.setDirection(way.TopToBottom if is_narrow else way.LeftToRight)
        self._fit()

    def _fit(self) -> None:
        if self._is_narrow:
            self.list.setMinimumWidth(0)
            self.list.setMaximumWidth(WIDEST)
            self.list.fit(2)
        else:
            self.list.setFixedWidth(self._theme.px(CONTENTS))
            self.list.setMinimumHeight(0)
            self.list.setMaximumHeight(WIDEST)

    def open(self, key: str) -> None:
        """Show a page."""
        self._key = key
        self._show()
        self.text.verticalScrollBar().setValue(0)

    def _show(self) -> None:
        pages = [page for page in manual_pages() if page.has(self.search.text())]
        self.none.setText("" if pages else "No page has all these words. Help (F1) looks through all lines and keys.")
        self.none.setVisible(not pages)
        if pages and self._key not in [page.key for page in pages]:
            self._key = pages[0].key
        self.list.show_rows(tuple(Row(p.key, p.title, "") for p in pages), self._key)
        self._fit()
        self._draw(next((page for page in pages if page.key == self._key), None))

    def _draw(self, page: ManualPage | None) -> None:
        document = self.text.document()
        document.setDefaultFont(self.font())
        document.setMarkdown(page.text if page is not None else "")
        cursor = QTextCursor(document)
        spaced = QTextBlockFormat()
        spaced.setLineHeight(128.0, QTextBlockFormat.LineHeightTypes.ProportionalHeight.value)
        cursor.select(QTextCursor.SelectionType.Document)
        cursor.mergeBlockFormat(spaced)
        block = document.begin()
        while block.isValid():
            level = block.blockFormat().headingLevel()
            if level in HEADINGS:
                sized = QTextCharFormat()
                sized.setProperty(QTextFormat.Property.FontSizeAdjustment, HEADINGS[level])
                cursor = QTextCursor(block)
                cursor.select(QTextCursor.SelectionType.BlockUnderCursor)
                cursor.mergeCharFormat(sized)
                apart = QTextBlockFormat()
                apart.setTopMargin(self._theme.px(10) if level > 1 else 0)
                cursor.mergeBlockFormat(apart)
            if block.blockFormat().intProperty(QTextFormat.Property.BlockQuoteLevel):  # what Candor shows
                cursor = QTextCursor(block)
                cursor.select(QTextCursor.SelectionType.BlockUnderCursor)
                shown = QTextCharFormat()
                shown.setForeground(QColor(self._theme.colour("petrol")))
                cursor.mergeCharFormat(shown)
            block = block.next()
        document.setDocumentMargin(self._theme.px(12))

    def explain(self, because: Because) -> None:
        """Say how to use it."""
        because.show_whole(None)
        because.show_words(
            "Manual",
            [
                "Keys are bold, buttons and fields slanted, what you type is in the letters of a typewriter.",
                "Every step of these pages is done by a test in the real window before Candor is given away.",
                "F1 says what a place is for and what can be typed there.",
            ],
        )
