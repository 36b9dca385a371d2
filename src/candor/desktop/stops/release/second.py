"""A second signature: another pair of eyes on what was signed."""

from __future__ import annotations

from PySide6.QtWidgets import QHBoxLayout, QWidget

from candor.core.severity import Severity
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.field import Field
from candor.sitting.commands import release_commands


class Second(QWidget):
    """Whose eyes, and the button; shown where a certificate stands signed and nobody else went over it."""

    def __init__(self, *, writer: Writer, voice: Voice) -> None:
        super().__init__()
        self._writer, self._voice = writer, voice
        self._digest, self._by = "", ""
        self.name = Field()
        self.name.setPlaceholderText("who went over it as well")
        self.name.setAccessibleName("Who went over the certificate as well")
        self.sign = button("Sign second", "Optional: another name than the first, under the certificate")
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(self.name, 1)
        row.addWidget(self.sign)
        self.sign.clicked.connect(self._sign)
        self.name.returnPressed.connect(self._sign)
        self.hide()

    def show_signed(self, digest: str, by: str, second: str) -> None:
        """Show it for what is signed, by whom, and where nobody has signed second yet."""
        self._digest, self._by = digest, by
        self.setVisible(bool(digest) and not second)

    def _sign(self) -> None:
        if not self._digest:
            return  # nothing is signed that a second name could stand under
        name = " ".join(self.name.text().split())
        if not name or name.casefold() == self._by.casefold():
            why = (
                "Write first who"
                if not name
                else f"{name} signed it first. Another pair of eyes is asked for: write who"
            )
            self._voice.refuse(f"{why} went over it as well; nothing was written.")
            self.name.setFocus()
        elif self._writer.do(release_commands.sign_second(self._digest, name)):
            self.name.clear()
            self._voice.say(f"Signed second by {name}.", Severity.DONE)
