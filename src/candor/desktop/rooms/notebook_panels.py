"""Two parts of the room Notebook: other notebooks, each in a window of its own; and a report where something went wrong."""

from __future__ import annotations

import sys
from pathlib import Path

from PySide6.QtCore import QProcess
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QPlainTextEdit, QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.core.severity import Severity
from candor.desktop.bench.voice import Voice
from candor.desktop.frame.file_names import open_name, recent_notebooks, save_name
from candor.desktop.frame.theme import Theme, label
from candor.desktop.frame.unforeseen import log_path
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.row_list import Row, RowList
from candor.durably import write_durably
from candor.notebook.storage.trouble_report import newest_of, trouble_report
from candor.notebook.store import Notebook

KIND = "Notebooks (*.candor)"


class OtherNotebooks(QWidget):
    """Opens another notebook, or a new one, in a window of its own; this one stays as it is."""

    def __init__(self, theme: Theme, notebook: Notebook, voice: Voice) -> None:
        super().__init__()
        self._notebook, self._voice = notebook, voice
        self.open = button("Open another …", "A notebook of yours, in a window of its own")
        self.new = button("New notebook …", "An empty one, in a window of its own")
        self.recent = RowList(theme, "Notebooks that were open")
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(8))
        column.addLayout(flow(theme.px(8), self.open, self.new))
        column.addWidget(self.recent)
        self.open.clicked.connect(self._ask)
        self.new.clicked.connect(self._ask_new)
        self.recent.picked.connect(lambda key: self.show_notebook(Path(key)))

    def enter(self) -> None:
        """Show which were open."""
        rows = tuple(Row(str(p), p.stem, str(p.parent)) for p in recent_notebooks(self._notebook.path))
        self.recent.show_rows(rows, "")
        self.recent.setVisible(bool(rows))
        self.recent.fit(4)

    def _ask(self) -> None:
        if name := open_name(self, "Open a notebook", KIND):
            self.show_notebook(Path(name))

    def _ask_new(self) -> None:
        if name := save_name(self, "A new notebook", "shop.candor", KIND):
            self.make(Path(name))

    def make(self, path: Path) -> None:
        """Make an empty notebook where none is, and show it."""
        path = path if path.suffix else path.with_suffix(".candor")
        if path.exists():
            self._voice.refuse(
                f"{path.name} is there already. Open it instead, or give the new notebook another name."
            )
            return
        try:
            Notebook(path, self._notebook.who).close()
        except CandorError as error:
            self._voice.refuse(error)
            return
        self.show_notebook(path)

    def show_notebook(self, path: Path) -> None:
        """Show a notebook in a window of its own."""
        if path.absolute() == self._notebook.path.absolute():
            self._voice.refuse(f"{path.name} is the notebook of this window.")
            return
        started = QProcess.startDetached(sys.executable, ["-m", "candor", "open", str(path.absolute())])
        if started[0] if isinstance(started, tuple) else started:
            self._voice.say(f"{path.name} opens in a window of its own.", Severity.DONE)
        else:
            self._voice.refuse(
                f"Candor could not start a window for {path.name}. Start it by hand: candor open {path}"
            )


class TroublePanel(QWidget):
    """What went wrong that was not foreseen: looked at, copied, saved for who helps."""

    def __init__(self, theme: Theme, notebook: Notebook, voice: Voice) -> None:
        super().__init__()
        self._notebook, self._voice = notebook, voice
        self._log = log_path(notebook.path)
        self.state = label("", "text")
        self.look = button(
            "Look at the report", "Versions, sizes and the newest of the log; nothing of the work itself"
        )
        self.copy = button("Copy the report", "Put it on the clipboard")
        self.save = button("Save the report …", "As a text file, for who helps")
        self.text = QPlainTextEdit()
        self.text.setReadOnly(True)
        self.text.setAccessibleName("Report of what went wrong")
        self.text.setMinimumHeight(theme.px(180))
        self.text.hide()
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(8))
        column.addWidget(self.state)
        column.addLayout(flow(theme.px(8), self.look, self.copy, self.save))
        column.addWidget(self.text)
        self.look.clicked.connect(self._look)
        self.copy.clicked.connect(self._copy)
        self.save.clicked.connect(self._ask)

    def enter(self) -> None:
        """Say whether there is anything in the log."""
        lines = newest_of(self._log)
        self.state.setText(
            f"Something was kept in “{self._log.name}” beside the notebook. No entry is in the report; a value that could not be "
            "read may be."
            if lines
            else "Nothing went wrong that was not foreseen."
        )
        if self.text.isVisible():
            self.text.setPlainText(self.report())

    def report(self) -> str:
        """Return the report; a sentence where the notebook cannot be read."""
        try:
            return trouble_report(self._notebook, self._log)
        except (CandorError, OSError) as error:
            return f"The notebook could not be read: {error}"

    def _look(self) -> None:
        self.text.setPlainText(self.report())
        self.text.setVisible(not self.text.isVisible())
        self.look.setText("Put the report away" if self.text.isVisible() else "Look at the report")

    def _copy(self) -> None:
        QGuiApplication.clipboard().setText(self.report())
        self._voice.say("The report is on the clipboard.", Severity.DONE)

    def _ask(self) -> None:
        if name := save_name(self, "Save the report", "candor report.txt", "Text (*.txt)"):
            self.keep(Path(name))

    def keep(self, path: Path) -> None:
        """Save the report as a file."""
        try:
            write_durably(path, self.report().encode())
        except OSError as error:
            self._voice.refuse(f"{path} could not be written: {error.strerror}. Nothing was lost.")
            return
        self._voice.say(f"Saved as {path.name}.", Severity.DONE)
