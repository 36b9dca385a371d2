"""What stands beside a reading: where an adjuster stood and how far it was turned, and pictures of what was seen."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtWidgets import QVBoxLayout, QWidget

from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.reading_in_hand import Hand
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.file_names import open_names
from candor.desktop.frame.theme import Theme, label
from candor.desktop.frame.thumbnails import PICTURES, PhotoStrip, attach_photos
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.field import Field
from candor.notebook.store import Notebook


class Beside(QWidget):
    """Fields of an adjuster where one is turned, and the pictures of the last reading where a picture belongs to it."""

    def __init__(
        self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice, notebook: Notebook, hand: Hand
    ) -> None:
        super().__init__()
        self._in_hand, self._writer, self._voice, self._notebook = in_hand, writer, voice, notebook
        self._hand = hand
        self.stood_title, self.stood = label("stood, as found", "soft"), Field()
        self.stood.setAccessibleName("Where the adjuster stood, as found")
        self.stood.setPlaceholderText("3 o'clock")
        self.stood.setToolTip("Before it is moved (jot: stood 3 o'clock)")
        self.turned_title, self.turned = label("turned, + clockwise", "soft"), Field()
        self.turned.setAccessibleName("How far it was turned")
        self.turned.setPlaceholderText("+1/8")
        self.turned.setToolTip("Turns, + clockwise (jot: turned +1/8)")
        self.picture = button("Picture …", "A picture of what was seen, for the last reading here")
        self.strip = PhotoStrip(theme)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(3))
        for widget in (self.stood_title, self.stood, self.turned_title, self.turned, self.picture, self.strip):
            column.addWidget(widget)
        self.stood.editingFinished.connect(self._enter)
        self.turned.editingFinished.connect(self._enter)
        self.picture.clicked.connect(self._ask)

    def finish(self) -> None:
        """Stop loading pictures."""
        self.strip.finish()

    def show_hand(self) -> None:
        """Show what belongs to the step in hand."""
        step, job = self._hand.step, self._in_hand.job
        turns = step is not None and step.kind == "adjust"
        for widget in (self.stood_title, self.stood, self.turned_title, self.turned):
            widget.setVisible(turns)
        for field, text in ((self.stood, self._hand.draft.stood), (self.turned, self._hand.turned_text())):
            if not field.hasFocus():
                field.setText(text)
                field.setModified(False)
        point = self._hand.point
        seen = point is not None and self._hand.draft.read_as(point).named
        asks = step is not None and step.kind == "point" and (step.picture or seen)
        self.picture.setVisible(asks)
        entry = self._entry() if asks else ""
        self.strip.show_photos(self._notebook.photo_folder, job.calibrate.photos.get(entry, ()) if job else ())

    def attach(self, paths: list[Path]) -> None:
        """Attach pictures to the last reading of the point in hand."""
        attach_photos(
            paths, self._entry(), missing="Take the reading first, then add its picture.", writer=self._writer, voice=self._voice,
            notebook=self._notebook,
        )  # fmt: skip

    def _enter(self) -> None:
        if self.stood.isModified() or self.turned.isModified():
            self._hand.say_adjuster(self.stood.text(), self.turned.text())

    def _ask(self) -> None:
        names = open_names(self, "Pictures of what was seen", PICTURES)
        self.attach([Path(name) for name in names])

    def _entry(self) -> str:
        """The id of the last reading here."""
        job, numbers = self._in_hand.job, [r.entry for r in self._hand.readings]
        if job is None or not numbers:
            return ""
        return next((e.id for e in reversed(job.entries) if e.number == numbers[-1]), "")
