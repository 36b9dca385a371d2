"""Where things are: photos of the chassis, marked; what is chosen anywhere is shown beside its reasons."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtGui import QDragEnterEvent, QDropEvent, QImage
from PySide6.QtWidgets import QComboBox, QCompleter, QSizePolicy, QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.file_names import open_names
from candor.desktop.frame.theme import Theme, label
from candor.desktop.frame.thumbnails import PICTURES, pasted_picture, thumbnail
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.pinboard import Pin, PinBoard
from candor.desktop.widgets.worker import Work
from candor.notebook.arrive.photos import keep_photo
from candor.notebook.store import Notebook
from candor.notebook.work.markable import markable
from candor.sitting.commands import arrive_commands

SIDE = 2400  # px, to which a photo is made smaller for the board
FIRST = "Add a photo of the chassis, then mark on it where each part, node and adjuster is."


class PlacesPanel(QWidget):
    """The view of Trace."""

    def __init__(self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice, notebook: Notebook) -> None:
        super().__init__()
        self.setAcceptDrops(True)
        self._in_hand, self._writer, self._voice, self._notebook = in_hand, writer, voice, notebook
        self._file, self._job = "", ""
        self.words = label(FIRST, "soft")
        self.photo = QComboBox()
        self.photo.setAccessibleName("Photo of the chassis")
        self.name = Field()
        self.name.setPlaceholderText("what to mark: C8, n3, ZERO")
        self.name.setAccessibleName("What to mark")
        self.name.setMinimumWidth(theme.px(190))
        self.mark = button(
            "Mark it", "The next click in the photo is its place; arrow keys and Enter do the same", name="choice"
        )
        self.mark.setCheckable(True)
        self.add = button("Add a photo …", "A photo of the chassis; it can also be dropped here")
        self.paste = button("Paste", "The picture on the clipboard, as a photo of the chassis")
        self.board = PinBoard(theme)
        self._work = Work(self)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(7))
        column.addWidget(self.words)
        column.addLayout(flow(theme.px(8), self.photo, self.name, self.mark, self.add, self.paste))
        column.addWidget(self.board, 1)
        self.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Expanding)
        self._work.answered.connect(self._loaded)
        self._work.failed.connect(voice.refuse)
        self.photo.activated.connect(self._pick)
        self.name.textChanged.connect(lambda _: self._show_pins())
        self.name.returnPressed.connect(lambda: self.mark.setChecked(True))
        self.mark.toggled.connect(self._marking)
        self.add.clicked.connect(self._ask)
        self.paste.clicked.connect(self._paste)
        self.board.placed.connect(self.place)
        self.board.chosen.connect(self.name.setText)

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        self.attach([Path(url.toLocalFile()) for url in event.mimeData().urls() if url.isLocalFile()])

    def finish(self) -> None:
        """Stop loading photos."""
        self._work.finish()

    def show_job(self) -> None:
        """Show the photos there are, and what is marked in the one in hand."""
        job = self._in_hand.job
        if job is None:
            return
        files = [e.body.file for e in job.places.photos]
        if job.id != self._job or self._file not in files:
            self._job, self._file = job.id, ""
            self._load(files[-1] if files else "")
        titles = [e.body.title or f"photo {n}" for n, e in enumerate(job.places.photos, 1)]
        if [self.photo.itemText(i) for i in range(self.photo.count())] != titles:
            self.photo.clear()
            self.photo.addItems(titles)
        if self._file in files:
            self.photo.setCurrentIndex(files.index(self._file))
        self.photo.setVisible(len(files) > 1)
        for widget in (self.name, self.mark):
            widget.setVisible(bool(files))
        known = markable(job, self._in_hand.pack, self._in_hand.parts())
        completer = QCompleter(list(known), self.name)
        completer.setCaseSensitivity(Qt.CaseSensitivity.CaseInsensitive)
        self.name.setCompleter(completer)
        left = [n for n in known if job.places.of(n) is None]
        marked = len({p.body.name.casefold() for p in job.places.pins.values()})
        open_ = f" Not marked yet: {', '.join(left[:8])}{' …' if len(left) > 8 else '.'}" if left and files else ""
        self.words.setText(f"{marked} marked.{open_}" if files else FIRST)
        self._show_pins()

    def _show_pins(self) -> None:
        job = self._in_hand.job
        if job is not None:
            pins = tuple(Pin(e.body.name, e.body.x, e.body.y) for e in job.places.on(self._file))
            self.board.show_pins(pins, self.name.text().strip())

    def _load(self, file: str) -> None:
        self._file = file
        self.board.show_photo(QImage())
        if file:
            path = self._notebook.photo_folder / file

            def load(_: Callable[[], bool]) -> tuple[str, QImage]:
                return path.name, thumbnail(path, SIDE)

            self._work.start(load)

    def _loaded(self, found: object) -> None:
        if isinstance(found, tuple) and found[0] == self._file:
            self.board.show_photo(found[1])
            self._show_pins()

    def _pick(self, index: int) -> None:
        job = self._in_hand.job
        if job is not None and 0 <= index < len(job.places.photos):
            self._load(job.places.photos[index].body.file)
            self.show_job()

    def _marking(self, on: bool) -> None:
        if on and not self.name.text().strip():
            self.mark.setChecked(False)
            self._voice.refuse("Write first what to mark: a part, a node, an adjuster. Example: C8")
            self.name.setFocus()
            return
        self.board.marking = on
        if on:
            self.words.setText(
                f"Click where {self.name.text().strip()} is, or move the mark with the arrow keys and press Enter."
            )
        else:
            self.show_job()
        self.board.setCursor(Qt.CursorShape.CrossCursor if on else Qt.CursorShape.ArrowCursor)
        if on:
            self.board.setFocus()

    def place(self, x: float, y: float) -> None:
        """What is in hand is at this place of the photo."""
        name = self.name.text().strip()
        if (
            name
            and self._file
            and self._writer.do(arrive_commands.place_pin(self._file, round(x, 5), round(y, 5), name))
        ):
            self.mark.setChecked(False)
            self.name.setFocus()
            self.name.selectAll()

    def _ask(self) -> None:
        self.attach([Path(name) for name in open_names(self, "Photos of the chassis", PICTURES)])

    def attach(self, paths: list[Path]) -> None:
        """Keep photos of the chassis; what is not a picture is said and left out."""
        for path in paths:
            try:
                self._add(keep_photo(self._notebook.photo_folder, path), path.stem)
            except (CandorError, OSError) as error:
                self._voice.refuse(str(error))

    def _paste(self) -> None:
        if file := pasted_picture(self._voice, self._notebook):
            self._add(file, "")

    def _add(self, file: str, title: str) -> None:
        if self._writer.do(arrive_commands.chassis_photo(file, title)):
            self._load(file)
            self.show_job()

    def explain(self, because: Because) -> None:
        """Say what marks are for."""
        because.show_whole(None)
        because.show_words(
            "Where it is",
            [
                "A part, a node, an adjuster or a test point that is marked is shown beside every sentence that names it.",
                "Another unit of the type that is set up as this one has the photos and the marks too.",
                "Ohms that fit a neighbouring lug name it: the neighbours are those that are marked beside it.",
            ],
        )
