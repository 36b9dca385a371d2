"""What can be done with any chart: its picture or its figures copied, or saved as PNG, SVG or CSV; by mouse and by keys."""

from __future__ import annotations

import io
from collections.abc import Sequence
from pathlib import Path
from typing import Protocol

from PySide6.QtCore import QBuffer, QIODevice, QObject, QPoint, QRect, QSize, Qt
from PySide6.QtGui import QGuiApplication, QImage, QKeySequence, QPainter, QShortcut
from PySide6.QtWidgets import QMenu, QWidget

from candor.core.severity import Severity
from candor.desktop.bench.voice import Voice
from candor.desktop.frame.file_names import save_name
from candor.durably import write_durably
from candor.notebook.exchange.csv_table import write_table

PIXELS = 2  # of a saved picture for each of the screen's: it stays sharp in print
Table = tuple[Sequence[str], Sequence[Sequence[object]]]


class Tabled(Protocol):
    """A chart that can give its figures."""

    def table(self) -> Table:
        """Return heads and rows of what is drawn."""


class ChartMenu(QObject):
    """The menu of a chart: right click, the menu key, or Ctrl+C for its picture."""

    def __init__(self, chart: QWidget, name: str, voice: Voice) -> None:
        super().__init__(chart)
        self._chart, self._name, self._voice = chart, name, voice
        chart.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
        chart.customContextMenuRequested.connect(self._ask)
        if chart.focusPolicy() == Qt.FocusPolicy.NoFocus:
            chart.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        copying = QShortcut(QKeySequence(QKeySequence.StandardKey.Copy), chart)
        copying.setContext(Qt.ShortcutContext.WidgetShortcut)
        copying.activated.connect(self.copy_picture)
        tip = "Right click or the menu key: copy it, or save it"
        chart.setToolTip(f"{chart.toolTip()}. {tip}" if chart.toolTip() else tip)
        self.menu = QMenu(chart)
        for words, deed in (
            ("Copy picture", self.copy_picture), ("Copy figures", self.copy_table), ("Save picture …", self._ask_picture),
            ("Save figures …", self._ask_table),
        ):  # fmt: skip
            self.menu.addAction(words, deed)

    def _ask(self, at: QPoint) -> None:
        self.menu.popup(self._chart.mapToGlobal(at))

    def copy_picture(self) -> None:
        """Put the picture on the clipboard."""
        QGuiApplication.clipboard().setImage(self._image())
        self._voice.say("The picture is on the clipboard.", Severity.DONE)

    def copy_table(self) -> None:
        """Put the figures on the clipboard, as a spreadsheet takes them."""
        heads, rows = self._table()
        lines = ["\t".join(map(str, line)) for line in (heads, *rows)]
        QGuiApplication.clipboard().setText("\n".join(lines))
        self._voice.say(f"{len(rows)} rows are on the clipboard.", Severity.DONE)

    def _ask_picture(self) -> None:
        name = save_name(self._chart, "Save the picture", f"{self._name}.png", "PNG (*.png);;SVG (*.svg)")
        if name:
            self.save(Path(name))

    def _ask_table(self) -> None:
        name = save_name(self._chart, "Save the figures", f"{self._name}.csv", "CSV (*.csv)")
        if name:
            self.save(Path(name))

    def save(self, path: Path) -> None:
        """Save as the ending says: CSV the figures, SVG or else PNG the picture."""
        ending = path.suffix.lower()
        content = self._csv() if ending == ".csv" else self._svg() if ending == ".svg" else self._png()
        try:
            write_durably(path, content)
        except OSError as error:
            self._voice.refuse(f"{path} could not be written: {error.strerror}. Nothing was lost.")
            return
        self._voice.say(f"Saved as {path.name}.", Severity.DONE)

    def _table(self) -> Table:
        chart: Tabled = self._chart  # type: ignore[assignment]
        return chart.table()

    def _csv(self) -> bytes:
        heads, rows = self._table()
        return write_table(heads, rows).encode()

    def _image(self) -> QImage:
        image = QImage(self._chart.size() * PIXELS, QImage.Format.Format_RGB32)
        image.setDevicePixelRatio(PIXELS)
        image.fill(0xFFFFFFFF)
        painter = QPainter(image)
        self._chart.render(painter, QPoint())
        painter.end()
        return image

    def _png(self) -> bytes:
        held = QBuffer()
        held.open(QIODevice.OpenModeFlag.WriteOnly)
        self._image().save(held, "PNG")  # type: ignore[call-overload]
        return bytes(held.data().data())

    def _svg(self) -> bytes:
        from PySide6.QtSvg import QSvgGenerator  # only who asks for one waits for it

        held = QBuffer()
        held.open(QIODevice.OpenModeFlag.WriteOnly)
        size: QSize = self._chart.size()
        made = QSvgGenerator()
        made.setOutputDevice(held)
        made.setSize(size)
        made.setViewBox(QRect(QPoint(0, 0), size))
        made.setTitle(self._chart.accessibleName())
        made.setDescription(self._chart.accessibleDescription())
        painter = QPainter(made)
        self._chart.render(painter, QPoint())
        painter.end()
        return io.BytesIO(held.data().data()).getvalue()
