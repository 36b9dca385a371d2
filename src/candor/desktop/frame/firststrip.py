"""Before the first change of an instrument that was never read: what is lost, and what can be done instead; asked once."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QVBoxLayout, QWidget

from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.flow import flow


class FirstStrip(QWidget):
    """A strip over the jot line, there only while a change waits for it.

    Signals
    -------
    readAsked(str)
        It is to be read first: the key of the step to stand at, empty where there is none yet.
    """

    readAsked = Signal(str)

    def __init__(self, theme: Theme, *, writer: Writer, voice: Voice) -> None:
        super().__init__()
        self._writer, self._voice = writer, voice
        self.setObjectName("warning")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.words = label("", "text", bold=True)
        self.read = button("Read them now", "Nothing is written yet; stands at the first of them", name="main")
        self.dead = button("It arrived dead", "Written with its reason: there is no as found, and page one says why")
        self.reason = Field()
        self.reason.setPlaceholderText("why: no rail comes up")
        self.reason.setAccessibleName("Why nothing could be read as found")
        self.without = button("Go on without", "The change is written; page one says that it was not read as found")
        self.leave = button("Not now", "Nothing is written; what was typed stays")
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(16), theme.px(6), theme.px(16), theme.px(6))
        column.setSpacing(theme.px(6))
        column.addWidget(self.words)
        self.reason.setFixedWidth(theme.px(300))
        column.addLayout(flow(theme.px(8), self.read, self.without, self.leave, self.dead, self.reason))
        for made in (self.read, self.dead, self.without, self.leave):
            made.setFocusPolicy(Qt.FocusPolicy.TabFocus)  # neither the pedal nor a stray Enter answers
        writer.firstAsked.connect(self.show_asked)
        writer.wentOn.connect(self.show_asked)
        self.read.clicked.connect(self._read)
        self.dead.clicked.connect(self._dead)
        self.reason.returnPressed.connect(self._dead)
        self.without.clicked.connect(lambda: self._writer.go_on())
        self.leave.clicked.connect(self._drop)
        self.show_asked()

    def show_asked(self) -> None:
        """Show what waits, or nothing."""
        asked = self._writer.first
        self.setVisible(asked is not None)
        if asked is None:
            return
        self.words.setText(asked.words)
        self.words.setAccessibleName(f"Question: {asked.words}")
        self.read.setText("Read them now" if asked.steps else "Write a range first")
        self.read.setVisible(not asked.bar)
        self.reason.clear()

    def _read(self) -> None:
        asked = self._writer.first
        self._drop()
        if asked is not None:
            self.readAsked.emit(asked.steps[0].key if asked.steps else "")

    def _drop(self) -> None:
        self._writer.drop()
        self.show_asked()

    def _dead(self) -> None:
        reason = self.reason.text().strip()
        if not reason:
            self._voice.refuse("Write first why nothing could be read. Nothing was written.")
            self.reason.setFocus()
            return
        self._writer.go_on(dead=reason)
