"""Where something is: the piece of a chassis photo around its pin, beside the sentence that names it."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QPointF, QRect, QSize, Qt
from PySide6.QtGui import QImage, QPainter, QPixmap
from PySide6.QtWidgets import QLabel

from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.frame.theme import Theme
from candor.desktop.frame.thumbnails import thumbnail
from candor.desktop.widgets.pinboard import draw_pin
from candor.desktop.widgets.worker import Work
from candor.notebook.entries.places_entries import names_in
from candor.notebook.store import Notebook

WIDE, HIGH = 240, 150  # px of the piece
SIDE = 1400  # px, to which a photo is made smaller before the piece is taken
KEPT = 2  # photos that are held


class PlaceCrop(QLabel):
    """The place of the first thing that a text names; not there where none of them is marked."""

    def __init__(self, theme: Theme, in_hand: JobInHand, notebook: Notebook) -> None:
        super().__init__()
        self._theme, self._in_hand, self._notebook = theme, in_hand, notebook
        self._images: dict[str, QImage] = {}
        self._shown: tuple[str, str, float, float] | None = None
        self._work = Work(self)
        self._work.answered.connect(self._loaded)
        self.setAccessibleName("Where it is")
        self.hide()

    def finish(self) -> None:
        """Stop the work in hand."""
        self._work.finish()

    @property
    def named(self) -> str:
        """What it shows the place of."""
        return self._shown[1] if self._shown is not None and not self.isHidden() else ""

    def show_for(self, text: str) -> None:
        """Show where the first thing is that a text names."""
        job = self._in_hand.job
        name = next(iter(names_in(text, job.places)), "") if job is not None and job.places.pins else ""
        pin = job.places.of(name) if name and job is not None else None
        if pin is None:
            self._shown = None
            self.hide()
            return
        body = pin.body
        wanted = (body.file, body.name, body.x, body.y)
        if wanted == self._shown:
            return
        self._shown = wanted
        if body.file in self._images:
            self._draw()
            return
        path: Path = self._notebook.photo_folder / body.file

        def load(_: Callable[[], bool]) -> tuple[str, QImage]:
            return path.name, thumbnail(path, SIDE)

        self._work.start(load)

    def _loaded(self, found: object) -> None:
        if isinstance(found, tuple):
            self._images[found[0]] = found[1]
            while len(self._images) > KEPT:
                self._images.pop(next(iter(self._images)))
            self._draw()

    def _draw(self) -> None:
        if self._shown is None:
            return
        file, name, x, y = self._shown
        image = self._images.get(file, QImage())
        if image.isNull():
            self.hide()
            return
        size = QSize(self._theme.px(WIDE), self._theme.px(HIGH))
        at = QPointF(x * image.width(), y * image.height())
        left = min(max(round(at.x() - size.width() / 2), 0), max(image.width() - size.width(), 0))
        top = min(max(round(at.y() - size.height() / 2), 0), max(image.height() - size.height(), 0))
        piece = QPixmap.fromImage(
            image.copy(QRect(left, top, min(size.width(), image.width()), min(size.height(), image.height())))
        )
        painter = QPainter(piece)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        draw_pin(painter, self._theme, at - QPointF(left, top), name, in_hand=True)
        painter.end()
        self.setPixmap(piece)
        self.setAccessibleDescription(f"{name}, in the photo of the chassis")
        self.setAlignment(Qt.AlignmentFlag.AlignLeft)
        self.show()
