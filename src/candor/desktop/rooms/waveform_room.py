"""Waveforms: a file of samples drawn with its levels, every figure with its U, and one of them taken at the step in hand."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QComboBox, QVBoxLayout

from candor.core.errors import CandorError
from candor.core.jot.meaning import ReadingJot
from candor.core.quantities import engineering
from candor.core.reading.on_waveform import UNCERTAIN
from candor.core.reading.reading import INDICATED
from candor.core.waves.analysis import Analysis, analyse_all
from candor.core.waves.captured import SIMULATED
from candor.core.waves.scope_csv import read_waveforms
from candor.core.waves.wave_figure import Figure
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.reading_in_hand import Hand
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.chart_menu import ChartMenu
from candor.desktop.frame.file_names import open_name
from candor.desktop.frame.page import Page
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.row_list import Row, RowList
from candor.desktop.widgets.waveplot import WavePlot
from candor.desktop.widgets.worker import Work
from candor.links.oscilloscope import read_captured
from candor.notebook.soak.waveforms import keep_waveform
from candor.notebook.storage.files import LARGEST_SAMPLES, read_words
from candor.notebook.store import Notebook
from candor.sitting.commands import calibrate_commands

Opened = tuple[str, bytes, tuple[Analysis, ...]]


class WaveformPage(Page):
    """A file of samples.

    Signals
    -------
    shown()
        A file was read and is drawn, or could not be.
    taken()
        A figure was taken at the step in hand.
    """

    shown = Signal()
    taken = Signal()

    def __init__(
        self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice, notebook: Notebook, hand: Hand,
        shop: Shop,
    ) -> None:  # fmt: skip
        super().__init__()
        self._in_hand, self._writer, self._voice, self._notebook, self._hand = in_hand, writer, voice, notebook, hand
        self._shop, self._is_simulated = shop, False
        self._name, self._content = "", b""
        self._channels: tuple[Analysis, ...] = ()
        self._chosen = ""
        self.plot = WavePlot(theme)
        self.chart_menu = ChartMenu(self.plot, "waveform", voice)
        self.channel = QComboBox()
        self.channel.setAccessibleName("Channel")
        self.figures = RowList(theme, "Figures")
        self.words = label("", "soft")
        self.open = button("Open samples …", "A CSV file as oscilloscopes write it", name="main")
        self.capture = button("Read the oscilloscope", "Its samples over the link that Settings names")
        self.stop = button("Stop reading", "Give up what is being read")
        self.take = button("Take it at the step", "The figure chosen becomes the reading of the step in hand")
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(18), theme.px(12), theme.px(16), theme.px(12))
        column.setSpacing(theme.px(8))
        column.addWidget(label("Waveforms", "heading", bold=True))
        column.addWidget(self.words)
        column.addWidget(self.channel)
        column.addWidget(self.plot, 3)
        column.addWidget(self.figures, 2)
        column.addLayout(flow(theme.px(8), self.open, self.capture, self.stop, self.take))
        self._work = Work(self)
        self._work.answered.connect(self._show)
        self._work.failed.connect(self._refuse)
        self.open.clicked.connect(self._ask)
        self.capture.clicked.connect(self.read_link)
        self.stop.clicked.connect(self._give_up)
        self.take.clicked.connect(self._take)
        self.channel.activated.connect(lambda _: self._show_channel())
        self.figures.picked.connect(self._choose)
        self._show_channel()

    def enter(self) -> None:
        """Show what was opened, and what the step in hand asks for."""
        point = self._hand.point
        if point is not None and point.figure:
            self._chosen = point.figure
        self._show_channel()
        self.open.setFocus()

    def finish(self) -> None:
        """Stop the work in hand."""
        self._work.finish()

    def read(self, path: Path) -> None:
        """Read a file beside the window; `shown` comes when it is drawn."""
        self.words.setText(f"{path.name} is being read …")

        def load(should_stop: Callable[[], bool]) -> Opened:
            text = read_words(path, LARGEST_SAMPLES, "a table of samples")
            waves = read_waveforms(text, path.name)
            return path.name, text.encode("utf-8"), () if should_stop() else analyse_all(waves)

        self._work.start(load)

    def read_link(self) -> None:
        """Read the oscilloscope that Settings names, beside the window; `shown` comes when it is drawn."""
        address, at = self._shop.record.details.get("oscilloscope", ""), self._notebook.clock()
        name = (
            f"oscilloscope {at.astimezone():%Y-%m-%d %H:%M:%S}" if address != SIMULATED else "simulated oscilloscope"
        )
        self.words.setText("The oscilloscope is being read …")

        def load(should_stop: Callable[[], bool]) -> Opened:
            text = read_captured(address, should_stop).as_table()
            return name, text.encode("utf-8"), () if should_stop() else analyse_all(read_waveforms(text, name))

        self._work.start(load)
        self.stop.setVisible(True)

    def _give_up(self) -> None:
        self._work.cancel()
        self._show_channel()
        self.words.setText("Reading was given up; nothing was taken.")

    def _refuse(self, sentence: str) -> None:
        self.stop.setVisible(False)
        self.words.setText(sentence)
        self._voice.refuse(sentence)
        self.shown.emit()

    def _show(self, found: object) -> None:
        if not isinstance(found, tuple):
            return
        self._name, self._content, self._channels = found
        self._is_simulated = self._name == "simulated oscilloscope"
        self.channel.clear()
        self.channel.addItems([c.wave.name for c in self._channels])
        self._show_channel()
        self.shown.emit()
        self.explainAsked.emit()

    def analysis(self) -> Analysis | None:
        """Return the channel that is shown."""
        index = max(self.channel.currentIndex(), 0)
        return self._channels[index] if index < len(self._channels) else None

    def chosen(self) -> Figure | None:
        """Return the figure that is chosen, where the channel has it."""
        found = self.analysis()
        return found.figure(self._chosen) if found is not None else None

    def _show_channel(self) -> None:
        found = self.analysis()
        self.channel.setVisible(len(self._channels) > 1)
        if found is not self.plot.shown:  # a stretch that was zoomed to stays while the same is shown
            self.plot.show_analysis(found)
        rows = []
        if found is not None:
            rows = [
                Row(f.name, f"{f.name}   {f.shown}", f.words, strong=f.name == self._chosen) for f in found.figures
            ]
            rows += [Row("", f"{u.name}   cannot be told", u.why, "half") for u in found.untold]
        self.figures.show_rows(tuple(rows), self._chosen)
        if found is not None:
            self.words.setText(f"{self._name}: {found.wave.count} samples of {engineering(found.wave.interval_s, 's', 4)}. "
                               f"{' '.join(found.warnings)}")  # fmt: skip
        elif not self.words.text():
            self.words.setText("Samples as an oscilloscope writes them: time and channels, in a table.")
        self.stop.setVisible(False)
        self.capture.setVisible(bool(self._shop.record.details.get("oscilloscope")))
        self.take.setEnabled(self._fitting())
        self.take.setVisible(self._waits())

    def _waits(self) -> bool:
        point = self._hand.point
        return point is not None and self._hand.draft.read_as(point).key == "waveform"

    def _fitting(self) -> bool:
        point, figure = self._hand.point, self.chosen()
        return self._waits() and point is not None and figure is not None and figure.unit == point.unit

    def _choose(self, name: str) -> None:
        if name:
            self._chosen = name
            self._show_channel()
            self.explainAsked.emit()

    def _ask(self) -> None:
        name = open_name(self, "Samples", "Samples (*.csv *.tsv *.txt)")
        if name:
            self.read(Path(name))

    def _take(self) -> None:
        """Write the figure as the reading of the step in hand, and keep the samples beside the notebook."""
        figure, found, job = self.chosen(), self.analysis(), self._in_hand.job
        if self._is_simulated:
            self._voice.refuse("What a simulated oscilloscope shows is no evidence; nothing was written.")
            return
        if figure is None or found is None or job is None or not self._fitting():
            self._voice.refuse("No step in hand is read from a waveform in this unit; nothing was written.")
            return
        jot = ReadingJot(indicated=figure.value, figures=((INDICATED, figure.value), (UNCERTAIN, figure.u)))
        if not self._hand.take_jot(jot, f"{self._name}: {figure.name}"):
            return
        reading = self._in_hand.job.calibrate.readings[-1].entry.id if self._in_hand.job else ""
        try:
            kept = keep_waveform(
                self._notebook.waveform_folder, self._content, name=self._name, reading=reading, channel=found.wave.name,
                figure=figure.name,
            )  # fmt: skip
        except CandorError as error:
            self._voice.refuse(error)
            return
        self._writer.do(calibrate_commands.keep_samples(kept))
        self.taken.emit()

    @property
    def _of_it(self) -> tuple[str, ...]:
        return ("A simulated oscilloscope: nothing of it is taken for a reading.",) if self._is_simulated else ()

    def explain(self, because: Because) -> None:
        """Say how the chosen figure comes about."""
        because.show_whole(None)
        found, figure = self.analysis(), self.chosen()
        if found is None:
            because.show_words("No waveform yet", [
                "Each figure has the U of its noise, resolution and sampling. Errors of the oscilloscope's own scale and time "
                "base are not included.",
            ], "ring")  # fmt: skip
            return
        if figure is None:
            because.show_words(
                found.wave.name, [f"Levels by {found.levels.method}.", *self._of_it, *found.warnings], "ring"
            )
            return
        wave = found.wave
        noise, count = (engineering(size, wave.unit, 2) for size in (wave.noise, wave.resolution))
        words = [
            f"{figure.words[:1].upper()}{figure.words[1:]}.",
            f"U = 2 u, u {engineering(figure.u, figure.unit, 2)}"
            + (f", of {figure.count}." if figure.count > 1 else "."),
            f"Noise {noise}, a count {count}, a sample {engineering(wave.interval_s, 's', 3)}. The oscilloscope's own scale and "
            "time base are not in it.",
            *self._of_it,
            *found.warnings,
        ]
        because.show_words(f"{figure.name}: {figure.shown}", words, "half" if found.warnings else "full")
