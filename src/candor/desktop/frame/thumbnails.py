"""Thumbnails of a finding's photos, made off the interface thread."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QBuffer, QByteArray, QIODevice, QSize, Qt, QUrl
from PySide6.QtGui import QDesktopServices, QGuiApplication, QImage, QImageReader, QMouseEvent, QPixmap
from PySide6.QtWidgets import QHBoxLayout, QLabel, QWidget

from candor.core.errors import CandorError
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.theme import Theme
from candor.desktop.widgets.controls import empty
from candor.desktop.widgets.worker import Work
from candor.notebook.arrive.photos import keep_photo, keep_picture
from candor.notebook.storage.files import is_plain_name
from candor.notebook.store import Notebook
from candor.sitting.commands import arrive_commands

SIDE = 108
PICTURES = "Pictures (*.jpg *.jpeg *.png *.webp *.gif *.bmp)"


def attach_photos(
    paths: list[Path], entry: str, *, missing: str, writer: Writer, voice: Voice, notebook: Notebook
) -> None:
    """Keep pictures and attach them to an entry; what is not a picture is said and left out.

    `missing` is said where there is no entry to attach them to.
    """
    if not entry:
        voice.refuse(missing)
        return
    for path in paths:
        try:
            name = keep_photo(notebook.photo_folder, path)
        except (CandorError, OSError) as error:
            voice.refuse(str(error))
            continue
        writer.do(arrive_commands.photo(entry, name))


def pasted_picture(voice: Voice, notebook: Notebook) -> str:
    """Keep the picture on the clipboard, and return its name; empty, with a sentence, where there is none."""
    image = QGuiApplication.clipboard().image()
    if image.isNull():
        voice.refuse("There is no picture on the clipboard.")
        return ""
    data = QByteArray()
    buffer = QBuffer(data)
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    image.save(buffer, "PNG")  # type: ignore[call-overload]  # the stub asks for bytes, the library for text
    try:
        return keep_picture(notebook.photo_folder, bytes(data.data()), "the pasted picture")
    except (CandorError, OSError) as error:
        voice.refuse(str(error))
        return ""


def thumbnail(path: Path, side: int) -> QImage:
    """Return a picture at most `side` px wide and high, turned as the camera held it."""
    reader = QImageReader(str(path))
    reader.setAutoTransform(True)
    size = reader.size()
    if size.isValid() and max(size.width(), size.height()) > side:  # never larger than it is
        reader.setScaledSize(size.scaled(QSize(side, side), Qt.AspectRatioMode.KeepAspectRatio))
    return reader.read()


class Thumbnail(QLabel):
    """One photo; a click opens the file with the desktop's own viewer."""

    def __init__(self, path: Path, image: QImage) -> None:
        super().__init__()
        self._path = path
        self.setAccessibleName(f"Photo {path.name}")
        if image.isNull():
            self.setText(f"{path.name[:8]} …\ncannot be shown")
        else:
            self.setPixmap(QPixmap.fromImage(image))
            self.setToolTip("Click opens the photo")

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        QDesktopServices.openUrl(QUrl.fromLocalFile(str(self._path)))


class PhotoStrip(QWidget):
    """The photos of one finding side by side."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._shown: tuple[Path, ...] = ()
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(0, 0, 0, 0)
        self._work = Work(self)
        self._work.answered.connect(self._show)
        self.setVisible(False)

    def finish(self) -> None:
        """Stop the work in hand."""
        self._work.finish()

    def show_photos(self, folder: Path, names: tuple[str, ...]) -> None:
        """Show the photos of these names."""
        paths = tuple(folder / name for name in names if is_plain_name(name))
        if paths == self._shown:
            return
        self._shown = paths
        self.setVisible(bool(paths))
        self.setFixedHeight(self._theme.px(SIDE) if paths else 0)
        empty(self._row)
        side = self._theme.px(SIDE)

        def load(should_stop: Callable[[], bool]) -> list[tuple[Path, QImage]]:
            made = []
            for path in paths:
                if should_stop():
                    break
                made.append((path, thumbnail(path, side)))
            return made

        if paths:
            self._work.start(load)
        else:
            self._work.cancel()

    def _show(self, loaded: object) -> None:
        empty(self._row)
        if isinstance(loaded, list):
            for path, image in loaded:
                self._row.addWidget(Thumbnail(path, image))
        self._row.addStretch()
