"""Beside a field for an instrument's address: look what there is, and test what is named, both off the interface thread."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QComboBox, QLineEdit, QVBoxLayout, QWidget

from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.worker import Work

SIMULATED = "simulated"


class LinkTools(QWidget):
    """Looks for instruments and tests the one whose address stands in a field.

    Parameters
    ----------
    theme : Theme
    edit : QLineEdit
        The field; what is chosen of what was found is put there.

    Signals
    -------
    chosen()
        One of those found stands in the field now.
    """

    chosen = Signal()

    def __init__(self, theme: Theme, edit: QLineEdit) -> None:
        super().__init__()
        self._edit = edit
        self.look = button(
            "Look for instruments",
            "This machine's serial ports, its USB, and what answers on the network around it",
            name="choice",
        )
        self.test = button(
            "Test it", "Ask what is there what it is, and for one reading; nothing is set", name="choice"
        )
        self.stop = button("Stop", "Give it up", name="choice")
        self.found = QComboBox()
        self.found.setAccessibleName("Instruments found")
        self.said = label("", "soft")
        self._looking, self._testing = Work(self), Work(self)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(6))
        self._row = flow(theme.px(8), self.look, self.test, self.stop)
        column.addLayout(self._row)
        column.addWidget(self.found)
        column.addWidget(self.said)
        self.found.hide()
        self.said.hide()
        self.stop.hide()
        self.look.clicked.connect(self._look)
        self.test.clicked.connect(self._test)
        self.stop.clicked.connect(self.give_up)
        self.found.activated.connect(self._choose)
        self._looking.answered.connect(self._show_found)
        self._testing.answered.connect(self._show_identified)
        for work in (self._looking, self._testing):
            work.failed.connect(self._end)
        edit.textChanged.connect(lambda: self._say(""))

    def beside(self, widget: QWidget) -> None:
        """Put something else into the row of buttons."""
        self._row.addWidget(widget)

    def finish(self) -> None:
        """Stop the work in hand."""
        self._looking.finish()
        self._testing.finish()

    def give_up(self) -> None:
        """Leave off looking or testing."""
        self._looking.cancel()
        self._testing.cancel()
        self._end("")

    def _look(self) -> None:
        from candor.links.looking_for import look_for_instruments  # only who looks waits for the driver

        self._begin("Looking …", self._looking, lambda _: look_for_instruments())

    def _test(self) -> None:
        address = self._edit.text().strip()
        if not address:
            self._say("Name its address first, or look for instruments and choose one.")
        elif address == SIMULATED:
            self._say("It comes with Candor: it answers on this machine, and what it reads is invented.")
        else:
            from candor.links.looking_for import identify

            self._begin("Asking it …", self._testing, lambda stopped: identify(address, stopped))

    def _begin(self, words: str, work: Work, deed: Callable[[Callable[[], bool]], object]) -> None:
        self._say(words)
        for made in (self.look, self.test):
            made.setEnabled(False)
        self.stop.show()
        work.start(deed)

    def _end(self, words: str) -> None:
        self._say(words)
        for made in (self.look, self.test):
            made.setEnabled(True)
        self.stop.hide()

    def _say(self, words: str) -> None:
        self.said.setText(words)
        self.said.setVisible(bool(words))

    def _show_found(self, names: object) -> None:
        from candor.words.links_words import say_found

        assert isinstance(names, tuple)
        self.found.clear()
        self.found.addItems(["choose one …", *names])
        self.found.setVisible(bool(names))
        self._end(say_found(names))

    def _choose(self, place: int) -> None:
        if place:
            self._edit.setText(self.found.itemText(place))
            self._edit.setModified(True)
            self.chosen.emit()

    def _show_identified(self, said: object) -> None:
        from candor.links.looking_for import Identified
        from candor.words.links_words import say_identified

        assert isinstance(said, Identified)
        self._end(say_identified(said))
