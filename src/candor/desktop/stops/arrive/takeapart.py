"""The take-apart map: what came off in which order, and the same backwards until nothing is left over."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.file_names import open_names
from candor.desktop.frame.local_numbers import in_field
from candor.desktop.frame.theme import Theme, label
from candor.desktop.frame.thumbnails import PICTURES, PhotoStrip, attach_photos
from candor.desktop.widgets.caution import Caution
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.row_list import Row, RowList
from candor.notebook.arrive.arrivals import heavy_mass
from candor.notebook.arrive.fasteners_text import read_fasteners
from candor.notebook.entries.arrive_entries import Taken, say_fasteners
from candor.notebook.store import Notebook
from candor.sitting.commands import arrive_commands
from candor.words.checks import say_lift


class TakeApart(QWidget):
    """The map, forwards while it is taken apart and backwards while it is put together.

    Signals
    -------
    chosenAnew()
        Another step is chosen, or the one chosen stands otherwise.
    """

    chosenAnew = Signal()

    def __init__(self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice, notebook: Notebook) -> None:
        super().__init__()
        self._in_hand, self._writer, self._voice, self._notebook = in_hand, writer, voice, notebook
        self._backwards = False
        self._chosen = ""
        self.title = label("", "heading", bold=True)
        self.count = label("", "text")
        self.lift = Caution(theme)
        self.steps = RowList(theme, "Take-apart map", wrap=True)
        self.what = self._field("What comes off", "case bottom")
        self.fasteners = self._field("Fasteners", "4 x 12 mm pan, case bottom; 1 x 20 mm pan, beside the cord")
        self.wires = self._field("Wires and tags", "red to tag 3, black to the chassis")
        self.off = button("It is off", "Write this step on the map", "Enter", "main")
        self.left = self._field("Fasteners left over", "0")
        self.back = button("It is back on", "Tick off the step; Candor counts any fasteners left over", name="main")
        self.photo = button("Add a photo …", "A picture of the step chosen; it can also be dropped here")
        self.strike = button("Strike", "Strike the step chosen; it stays readable")
        self.photos = PhotoStrip(theme)
        self.entering, self.ticking = QWidget(), QWidget()
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(8))
        for widget in (self.title, self.lift, self.count, self.entering, self.ticking, self.steps, self.photos):
            column.addWidget(widget)
        column.addLayout(flow(theme.px(8), self.photo, self.strike))
        column.addStretch()
        enter, tick = QVBoxLayout(self.entering), QVBoxLayout(self.ticking)
        for inner in (enter, tick):
            inner.setContentsMargins(0, 0, 0, 0)
            inner.setSpacing(theme.px(4))
        for title, field in (("what comes off", self.what), ("what holds it", self.fasteners), ("wires", self.wires)):
            enter.addWidget(label(title, "soft"))
            enter.addWidget(field)
        enter.addLayout(flow(theme.px(8), self.off))
        tick.addWidget(label("fasteners left over from this step", "soft"))
        tick.addWidget(self.left)
        tick.addLayout(flow(theme.px(8), self.back))
        self._wire()

    def _field(self, name: str, hint: str) -> Field:
        made = Field()
        made.setAccessibleName(name)
        made.setPlaceholderText(in_field(hint))
        made.setToolTip(f"{name}: {hint}")
        return made

    def _wire(self) -> None:
        for field in (self.what, self.fasteners, self.wires):
            field.returnPressed.connect(self._take_off)
        self.off.clicked.connect(self._take_off)
        self.left.returnPressed.connect(self._put_back)
        self.back.clicked.connect(self._put_back)
        self.steps.picked.connect(self._choose)
        self.strike.clicked.connect(self._strike)
        self.photo.clicked.connect(self._pick_photo)

    def show_map(self, backwards: bool) -> None:
        """Show the map in one direction."""
        job = self._in_hand.job
        if job is None:
            return
        self._backwards = backwards
        self.lift.say(say_lift(heavy_mass(job)))
        self.entering.setVisible(not backwards)
        self.ticking.setVisible(backwards and any(t.back is None for t in job.arrive.taken))
        self.title.setText("Put together" if backwards else "Take apart")
        steps = tuple(reversed(job.arrive.taken)) if backwards else job.arrive.taken
        open_keys = [t.entry.id for t in steps if t.back is None]
        if self._chosen not in [t.entry.id for t in steps] or (backwards and self._chosen not in open_keys):
            self._chosen = (open_keys[0] if backwards and open_keys else steps[-1].entry.id) if steps else ""
        self.steps.show_rows(tuple(self._row(i, t) for i, t in enumerate(steps, 1)), self._chosen)
        self.steps.fit(7)
        self.count.setText(self._count_words())
        chosen = self.step()
        for widget in (self.photo, self.strike):
            widget.setVisible(chosen is not None)
        self.photos.show_photos(self._notebook.photo_folder, chosen.photos if chosen else ())

    def _row(self, number: int, taken: Taken) -> Row:
        said = [part for part in (say_fasteners(taken.entry.body.fasteners), taken.entry.body.wires) if part]
        said.append(f"entry {taken.entry.number}")
        if taken.back is not None:
            left = taken.back.body.left_over
            said.append(f"back on{f', {left} left over' if left else ''}")
        shape = ("full" if not taken.back.body.left_over else "half") if taken.back is not None else "ring"
        return Row(
            taken.entry.id,
            f"{number}   {taken.entry.body.what}",
            " · ".join(said),
            shape,
            says="back" if taken.back else "off",
        )

    def _count_words(self) -> str:
        job = self._in_hand.job
        if job is None or not job.arrive.taken:
            return "Nothing has been taken off yet. Write each step as you do it; read backwards, the list puts it together again."
        back = sum(t.back is not None for t in job.arrive.taken)
        if back < len(job.arrive.taken):
            off, steps = job.arrive.fasteners_off, len(job.arrive.taken)
            return f"{off} fasteners off, {steps - back} of {steps} steps to go back."
        if job.arrive.left_over:
            return (
                f"All back on, and {job.arrive.left_over} fasteners left over: one of the steps is missing something."
            )
        return "All back on, nothing left over."

    def step(self) -> Taken | None:
        """Return the step chosen."""
        job = self._in_hand.job
        return next((t for t in job.arrive.taken if t.entry.id == self._chosen), None) if job else None

    def explain(self, because: Because) -> None:
        """Say what the chosen step holds, or how the map is used."""
        chosen = self.step()
        because.show_whole(None)
        if chosen is None:
            words = [
                "Write each thing as it comes off: what held it, and which wire went where. A photograph helps.",
                "The one longer screw and the connector at the bottom are what people forget.",
            ]
            because.show_words("The map is empty", words, "ring")
            return
        words = [
            say_fasteners(chosen.entry.body.fasteners).replace("; ", "\n") or "No fasteners.",
            chosen.entry.body.wires or "No wires noted.",
        ]
        because.show_words(chosen.entry.body.what.capitalize(), words, "full" if chosen.back else "ring")

    def _take_off(self) -> None:
        what = self.what.text().strip()
        if not what:
            self._voice.refuse("Write what comes off first; nothing was written.")
            self.what.setFocus()
            return
        try:
            fasteners = read_fasteners(self.fasteners.text())
        except CandorError as error:
            self._voice.refuse(str(error))
            self.fasteners.setFocus()
            return
        if self._writer.do(arrive_commands.take_off(what, fasteners, self.wires.text().strip())):
            for field in (self.what, self.fasteners, self.wires):
                field.clear()
            job = self._in_hand.job
            self._chosen = job.arrive.taken[-1].entry.id if job else ""
            self._again()
            self.what.setFocus()

    def _put_back(self) -> None:
        chosen = self.step()
        text = self.left.text().strip() or "0"
        if chosen is None or chosen.back is not None:
            return
        if not text.isdigit() or int(text) > chosen.count:
            self._voice.refuse(
                f"“{text}” cannot be left over: this step has {chosen.count} fasteners. Expected: 0 to {chosen.count}."
            )
            self.left.setFocus()
            return
        if self._writer.do(arrive_commands.put_back(chosen.entry.id, int(text))):
            self.left.clear()
            self._again()

    def _choose(self, key: str) -> None:
        self._chosen = key
        self._again()

    def _again(self) -> None:
        self.show_map(self._backwards)
        self.chosenAnew.emit()

    def _strike(self) -> None:
        chosen = self.step()
        if chosen is not None:
            self._writer.strike(chosen.back or chosen.entry)

    def _pick_photo(self) -> None:
        names = open_names(self, "Photos of the step", PICTURES)
        self.attach([Path(name) for name in names])

    def attach(self, paths: list[Path]) -> None:
        """Attach pictures to the step chosen."""
        chosen = self.step()
        attach_photos(
            paths, chosen.entry.id if chosen else "", missing="Write the step first, then add its photo.",
            writer=self._writer, voice=self._voice, notebook=self._notebook,
        )  # fmt: skip
