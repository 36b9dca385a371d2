"""Beside a test of a tube: the line of its tester, read by a meter on a link while the button is held."""

from __future__ import annotations

import threading
from typing import TYPE_CHECKING

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.desktop.bench.voice import Voice
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.caution import Caution
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.link_tools import LinkTools
from candor.words.tubes_words import say_line_log

if TYPE_CHECKING:  # loaded when a meter is connected: the window is up before
    from candor.core.tubes.held_line import HeldLine
    from candor.links.line_log import LineLog

POLL_MS = 200
BEFORE = (
    "This meter is on the mains: a closed adapter and leads rated for it, put there with the plug out, never open clips. "
    "Local codes and licensed practice rule."
)
HOW = "While it is logged, hold the tester's button and release it, then write the test: the fall of the line goes with it."


class TubeLineLog(QWidget):
    """The meter's address, what the line does, and the newest press of the button in it."""

    def __init__(self, theme: Theme, voice: Voice) -> None:
        super().__init__()
        self._voice = voice
        self._log: LineLog | None = None
        self._ending: threading.Thread | None = None
        self.address = Field()
        self.address.setAccessibleName("The meter on the tester's line")
        self.address.setPlaceholderText("the meter on the tester's line, such as USB0::…::INSTR, or simulated")
        self.links = LinkTools(theme, self.address)
        self.start = button(
            "Log the line", "Read the line of the tester by this meter, five times a second", name="choice"
        )
        self.end = button("Stop logging", "Read the line no more", name="choice")
        self.links.beside(self.start)
        self.links.beside(self.end)
        self.caution = Caution(theme)
        self.said = label(HOW, "soft")
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(5))
        for widget in (self.caution, self.address, self.links, self.said):
            column.addWidget(widget)
        self.caution.say(BEFORE)
        self.end.hide()
        self._timer = QTimer(self)
        self._timer.setInterval(POLL_MS)
        self._timer.timeout.connect(self._look)
        self.start.clicked.connect(self._begin)
        self.address.returnPressed.connect(self._begin)
        self.end.clicked.connect(self.stop)

    def held(self) -> HeldLine | None:
        """Return the newest press since the last test; None where none stands out, or what is logged is invented."""
        return self._log.held() if self._log is not None and not self._log.is_simulated else None

    def forget(self) -> None:
        """The test was written: the next has a press of its own."""
        if self._log is not None:
            self._log.forget()

    def stop(self) -> None:
        """Read the line no more."""
        self._timer.stop()
        if self._log is not None:
            # A meter that hangs is waited for, but not by the window.
            self._ending = threading.Thread(target=self._log.close, name="candor-line-log", daemon=True)
            self._ending.start()
            self._log = None
        self.start.show()
        self.end.hide()
        self.said.setText(HOW)

    def finish(self) -> None:
        """Stop as the window closes."""
        self.stop()
        if self._ending is not None:
            self._ending.join(3.0)
        self.links.finish()

    def _begin(self) -> None:
        from candor.links.line_log import LineLog

        address = self.address.text().strip()
        try:
            if not address:
                raise CandorError(
                    "Name the meter's address first, or look for instruments and choose one.", expected="simulated"
                )
            self.stop()
            self._log = LineLog(address)
        except CandorError as error:
            self._voice.refuse(error)
            return
        self.start.hide()
        self.end.show()
        self._timer.start()
        self._look()

    def _look(self) -> None:
        if self._log is not None:
            state, press, simulated = self._log.state(), self._log.held(), self._log.is_simulated
            self.said.setText(say_line_log(state.value, state.fault, press, simulated))
