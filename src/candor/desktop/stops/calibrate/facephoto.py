"""An arc from a photo of its face: its marks clicked in turn, and what straightens the photo."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtGui import QDragEnterEvent, QDropEvent, QGuiApplication, QImage, QKeyEvent
from PySide6.QtWidgets import QComboBox, QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.core.reading.face_clicks import FaceClicks, Place, marks_text, read_numbers
from candor.core.reading.face_photo import CORNERS, Straightened
from candor.desktop.bench.voice import Voice
from candor.desktop.frame.file_names import open_name
from candor.desktop.frame.local_numbers import in_field
from candor.desktop.frame.theme import Theme, label
from candor.desktop.frame.thumbnails import PICTURES, thumbnail
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.pinboard import Pin, PinBoard
from candor.desktop.widgets.worker import Work
from candor.notebook.arrive.photos import LARGEST
from candor.words.face_photo_words import FACE, say_straightened

SIDE = 4000  # px, to which a larger photo is made smaller: a click is not better than that
CLICKS = (
    ("mark", "the next mark of the arc"), ("axis", "where the needle turns"),
    ("even", "a mark of an even arc on the face"), ("corner", "a corner of a rectangle on it"),
)  # fmt: skip
FIRST = "Choose a photo of the face, taken as straight as you can; or drop it here, or paste it."


class FacePhoto(QWidget):
    """The photo with what was clicked in it.

    Signals
    -------
    used(str)
        The marks with their places, as a range's line has them.
    left()
        It was put away.
    """

    used = Signal(str)
    left = Signal()

    def __init__(self, theme: Theme, *, voice: Voice) -> None:
        super().__init__()
        self.setAcceptDrops(True)
        self._theme, self._voice = theme, voice
        self._image = QImage()
        self._clicked: list[tuple[str, float, float]] = []  # which, and where, shares of the picture; in their order
        self._found: Straightened | None = None
        self.words = label(FIRST, "soft")
        self.numbers = self._field("0 1 2 5 10 20 50 inf", "The numbers of the arc, from one end to the other", 190)
        self.sides = self._field("80 x 60", "Sides of the rectangle: from corner 1 to 2, then from 2 to 3", 84)
        self.what = QComboBox()
        self.what.setAccessibleName("What the next click is")
        self.what.setToolTip(
            "What the next click is. One of the last three straightens the photo; more of them say more"
        )
        for key, words in CLICKS:
            self.what.addItem(words, key)
        self.open = button("Photo …", "A photo of the face; it can also be dropped here")
        self.paste = button("Paste", "The picture on the clipboard")
        self.back = button("Take back", "Take the last click back", "Bksp")
        self.use = button("Use it", "Take the marks and their places into the range", name="main")
        self.leave = button("Leave it", "Back to the fields; what was clicked stays")
        self.board = PinBoard(theme)
        self.board.setAccessibleName("Photo of the face")
        self.board.setMinimumHeight(theme.px(220))  # a page that has less is scrolled
        self._work, self._soon = Work(self), QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.timeout.connect(self._straighten)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(7))
        column.addLayout(flow(theme.px(8), self.open, self.paste, self.what, self.sides))
        column.addWidget(self.numbers)
        column.addWidget(self.board, 1)
        column.addWidget(self.words)
        column.addLayout(flow(theme.px(8), self.use, self.back, self.leave))
        self._wire()
        self._show()

    def _field(self, example: str, what: str, width: int) -> Field:
        made = Field()
        made.setPlaceholderText(in_field(example))
        made.setAccessibleName(what)
        made.setToolTip(what)
        made.setMinimumWidth(self._theme.px(width))
        made.textEdited.connect(self._show)
        return made

    def _wire(self) -> None:
        self._work.answered.connect(self._answer)
        self._work.failed.connect(self.words.setText)
        self.open.clicked.connect(self._ask)
        self.paste.clicked.connect(lambda: self.take_photo(QGuiApplication.clipboard().image()))
        self.back.clicked.connect(self.take_back)
        self.use.clicked.connect(self._use)
        self.leave.clicked.connect(self.left)
        self.what.currentIndexChanged.connect(self._show)
        self.board.placed.connect(self.click)

    def finish(self) -> None:
        """Stop what is being calculated."""
        self._soon.stop()
        self._work.finish()

    def clear(self) -> None:
        """Begin anew: another job is in hand."""
        self._image, self._clicked = QImage(), []
        self.numbers.clear()
        self.sides.clear()
        self.board.show_photo(self._image)
        self._show()

    # --- the photo ------------------------------------------------------------------------------------

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        for url in event.mimeData().urls()[:1]:
            self.read(Path(url.toLocalFile()))

    def _ask(self) -> None:
        if name := open_name(self, "Photo of the face", PICTURES):
            self.read(Path(name))

    def read(self, path: Path) -> None:
        """Show the photo of a file; a large one is made smaller first."""

        def load(_: Callable[[], bool]) -> QImage:
            return thumbnail(path, SIDE)

        self.words.setText(f"Reading {path.name} …")
        self._work.start(load)

    def take_photo(self, image: QImage) -> None:
        """Begin with a photo; what was clicked in the one before is no longer there."""
        if image.isNull():
            self._voice.refuse(
                f"That is no picture that can be shown. Expected a photo: JPEG, PNG or WebP, of up to {LARGEST} megapixels."
            )
            self._show()
            return
        self._image, self._clicked = image, []
        self.board.show_photo(image)
        self.board.setFocus()
        self._show()

    # --- clicks ---------------------------------------------------------------------------------------

    def click(self, x: float, y: float) -> None:
        """Take a click, shares of the picture's width and height, as what is chosen."""
        what = str(self.what.currentData())
        if what == "axis":
            self._clicked = [c for c in self._clicked if c[0] != "axis"]
        self._clicked.append((what, x, y))
        if what == "corner" and len(self._of("corner")) > CORNERS:
            self._clicked.pop()
        self._show()

    def take_back(self) -> None:
        """Take the last click of the chosen kind back."""
        what = str(self.what.currentData())
        last = next((i for i in reversed(range(len(self._clicked))) if self._clicked[i][0] == what), None)
        if last is not None:
            del self._clicked[last]
        self._show()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Backspace:
            self.take_back()
        elif event.key() == Qt.Key.Key_Escape:
            self.left.emit()
        else:
            super().keyPressEvent(event)

    def _of(self, what: str) -> tuple[Place, ...]:
        size = self._image.size()
        return tuple((x * size.width(), y * size.height()) for kind, x, y in self._clicked if kind == what)

    def clicks(self) -> FaceClicks:
        """Return what was clicked, px of the photo."""
        size = self._image.size()
        axis = self._of("axis")
        return FaceClicks(
            size=(size.width(), size.height()), marks=self._of("mark"), axis=axis[0] if axis else None,
            even=self._of("even"), corners=self._of("corner"), sides=self.sides.text(),
        )  # fmt: skip

    # --- what it says ---------------------------------------------------------------------------------

    def _show(self) -> None:
        self._found = None
        has = not self._image.isNull()
        self.board.marking = has
        self.board.setCursor(Qt.CursorShape.CrossCursor if has else Qt.CursorShape.ArrowCursor)
        self.sides.setVisible(self.what.currentData() == "corner" or bool(self._of("corner")))
        self.use.setEnabled(False)
        self.back.setEnabled(any(c[0] == self.what.currentData() for c in self._clicked))
        self.board.show_line(())
        try:
            numbers: tuple[str, ...] = read_numbers(self.numbers.text())
            to_do = self.clicks().left(self.numbers.text())
            said = FIRST if not has else FACE.of(to_do) if to_do else ""
        except CandorError as error:
            numbers, said = (), str(error)
        self._show_pins(numbers)
        self._work.cancel()
        self._soon.stop()
        if said:
            self.words.setText(said)
        else:
            self._soon.start(0)

    def _show_pins(self, numbers: tuple[str, ...]) -> None:
        pins, seen = [], {"mark": 0, "axis": 0, "even": 0, "corner": 0}
        for kind, x, y in self._clicked:
            at = seen[kind]
            seen[kind] += 1
            names = {
                "mark": numbers[at] if at < len(numbers) else "?",
                "axis": "axis",
                "even": "",
                "corner": f"corner {at + 1}",
            }
            pins.append(Pin(names[kind], x, y))
        self.board.show_pins(pins, "")

    def _straighten(self) -> None:
        clicks = self.clicks()
        self._work.start(lambda _: clicks.straightened())

    def _answer(self, found: object) -> None:
        if isinstance(found, QImage):
            self.take_photo(found)
        elif isinstance(found, Straightened):
            self._found = found
            self.words.setText(say_straightened(found))
            size = self._image.size()
            self.board.show_line([(x / size.width(), y / size.height()) for x, y in found.drawn_px])
            self.use.setEnabled(True)

    def _use(self) -> None:
        if self._found is not None:
            self.used.emit(marks_text(self.numbers.text(), self._found))
