"""A part of the room Notebook: the shop's notebook on a server, who is there, and opening one."""

from __future__ import annotations

import sys
from pathlib import Path

from platformdirs import user_data_path
from PySide6.QtCore import QProcess, QProcessEnvironment
from PySide6.QtWidgets import QLineEdit, QVBoxLayout, QWidget

from candor.core.severity import Severity
from candor.desktop.bench.benches import Benches
from candor.desktop.bench.voice import Voice
from candor.desktop.frame.local_numbers import in_field
from candor.desktop.frame.theme import Theme, label, retint
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.worker import Work
from candor.notebook.store import Notebook


class ServerPanel(QWidget):
    """Says how it stands with the server, and opens a notebook on one in a window of its own."""

    def __init__(self, theme: Theme, notebook: Notebook, voice: Voice, benches: Benches) -> None:
        super().__init__()
        self._notebook, self._voice, self._benches = notebook, voice, benches
        self.state = label("", "text")
        self.address = QLineEdit()
        self.address.setAccessibleName("Address of the shop's notebook")
        self.address.setPlaceholderText(in_field("postgresql://your-name@server/notebook"))
        self.word = QLineEdit()
        self.word.setAccessibleName("Password at the server")
        self.word.setPlaceholderText("password; empty where it is kept in ~/.pgpass")
        self.word.setEchoMode(QLineEdit.EchoMode.Password)
        self.open = button("Open it", "Copy it here and open it in a window of its own")
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(8))
        column.addWidget(self.state)
        column.addWidget(self.address)
        column.addWidget(self.word)
        column.addLayout(flow(theme.px(8), self.open))
        self.copying = Work(self)
        self.copying.answered.connect(self._copied)
        self.copying.failed.connect(self._refused)
        self.open.clicked.connect(self._open)
        for field in (self.address, self.word):
            field.returnPressed.connect(self._open)
        benches.changed.connect(self.enter)

    def enter(self) -> None:
        """Say how it stands."""
        store = self._notebook.store
        if not self._notebook.is_shared:
            self.state.setText(
                "This notebook is a file, for one bench. Several benches write one notebook on a PostgreSQL server; candor move "
                "brings this one there."
            )
            return
        there = self._benches.there()
        lines = [f"{store.server}, as {self._notebook.who}.", *(there or ("Nobody else is there now.",))]
        if self._benches.is_away:
            lines = [self._benches.words_whole, self._benches.why_away]
        self.state.setText("\n".join(filter(None, lines)))
        retint(self.state, "brick" if self._benches.is_away else "")

    def finish(self) -> None:
        """Stop the work in hand."""
        self.copying.finish()

    def _open(self) -> None:
        url, word = self.address.text().strip(), self.word.text()
        self.open.setEnabled(False)
        self.open.setText("It is copied here …")
        folder = user_data_path("candor") / "benches"

        def copy(_: object) -> tuple[Path, str]:
            from candor.notebook.server.mirrors import make_copy

            return make_copy(url, folder, word), word

        self.copying.start(copy)

    def _copied(self, made: object) -> None:
        self._ready()
        if isinstance(made, tuple):
            path, word = made
            self.show_copy(path, word)

    def show_copy(self, path: Path, word: str) -> None:
        """Show a copy in a window of its own; the password goes with it, and is written nowhere."""
        process = QProcess()
        environment = QProcessEnvironment.systemEnvironment()
        if word:
            environment.insert("PGPASSWORD", word)
        process.setProcessEnvironment(environment)
        process.setProgram(sys.executable)
        process.setArguments(["-m", "candor", "open", str(path.absolute())])
        started = process.startDetached()
        if started[0] if isinstance(started, tuple) else started:
            self.word.clear()
            self._voice.say("The shop's notebook opens in a window of its own.", Severity.DONE)
        else:
            self._voice.refuse(f"Candor could not start a window. Start it by hand: candor open {path}")

    def _refused(self, sentence: str) -> None:
        self._ready()
        self._voice.refuse(sentence)

    def _ready(self) -> None:
        self.open.setEnabled(True)
        self.open.setText("Open it")
