"""How steady it is: readings at equal times or a log of phase, from a file or as watched; deviations, offset and ageing."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QSizePolicy, QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.core.quantities import parse_number, parse_quantity
from candor.core.severity import Severity
from candor.desktop.bench.clock import Clock
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.chart_menu import ChartMenu
from candor.desktop.frame.file_names import open_name
from candor.desktop.frame.local_numbers import in_field
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.allanchart import AllanChart
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.worker import Work
from candor.notebook.soak.soaking import NOT_REAL, soak_view
from candor.notebook.soak.stability_table import allan_told, stability_found, stability_told
from candor.notebook.soak.waveforms import keep_samples
from candor.notebook.storage.files import read_bytes_of
from candor.notebook.store import Notebook
from candor.sitting.command import Command
from candor.sitting.commands import soak_commands

NOTHING = (
    "Readings at equal times (seconds, value) say how long it is worth averaging; a log of phase (seconds, phase) what the "
    "frequency is off by."
)


class StabilityPanel(QWidget):
    """Deviations over averaging times, and of a log of phase the frequency's offset and ageing."""

    def __init__(
        self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice, notebook: Notebook, clock: Clock
    ) -> None:
        super().__init__()
        self._in_hand, self._writer, self._voice = in_hand, writer, voice
        self._notebook, self._clock = notebook, clock
        self.words = label("", "text")
        self.chart = AllanChart(theme)
        self.chart_menu = ChartMenu(self.chart, "deviation", voice)
        self.what, self.period, self.path = Field(), Field(), Field()
        for field, name, example in (
            (self.what, "What it is of", "of what: crystal at 1 MHz"),
            (self.period, "Period of the signal compared", "of phase: 1 us"),
            (self.path, "Uncertainty of the reference's path", "by its path: 1e-9"),
        ):
            field.setAccessibleName(name)
            field.setPlaceholderText(in_field(example))
        self.take_in = button(
            "Readings from a file …", "A table: seconds and value, or seconds and phase", name="main"
        )
        self.watched = button("Of what is watched", "By the readings of this soak, where they are at equal times")
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(6))
        for widget in (self.words, self.chart, self.what):
            column.addWidget(widget)
        wraps, known = label("it wraps by", "soft"), label("the reference's own u", "soft")
        column.addLayout(flow(theme.px(8), wraps, self.period, known, self.path))
        for words, field in ((wraps, self.period), (known, self.path)):
            field.setFixedWidth(theme.px(150))
            words.setMinimumHeight(field.sizeHint().height())  # beside the field, not above it
            words.setAlignment(Qt.AlignmentFlag.AlignVCenter)
        column.addLayout(flow(theme.px(8), self.take_in, self.watched))
        column.setStretchFactor(self.chart, 1)  # on a large screen the chart grows
        column.addStretch()
        self.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Expanding)
        self._asked_of = ""
        self._work = Work(self)
        self._work.answered.connect(self._take)
        self._work.failed.connect(self._voice.refuse)
        self.take_in.clicked.connect(self._ask)
        self.watched.clicked.connect(self._of_what_is_watched)

    def finish(self) -> None:
        """Stop the work in hand."""
        self._work.finish()

    def show_job(self) -> None:
        """Show what was found last."""
        job = self._in_hand.job
        found = job.soak.steady[-1].body if job is not None and job.soak.steady else None
        self.words.setText(found.words if found is not None else NOTHING)
        self.chart.setVisible(found is not None)
        if found is not None:
            self.chart.show_rows(tuple(zip(found.taus, found.deviations, found.us, strict=True)), found.average)
        self.watched.setEnabled(job is not None and len(job.soak.read) > 3)

    def _ask(self) -> None:
        name = open_name(self, "Readings", "Tables (*.csv *.tsv *.txt)")
        if name:
            self.read_file(Path(name))

    def read_file(self, path: Path) -> None:
        """Calculate a file's readings beside the window; it is kept, and what was found written, once that is done."""
        try:
            content = read_bytes_of(path, "readings")
            period = parse_quantity(self.period.text(), "s").value if self.period.text().strip() else 0.0
            own = parse_number(self.path.text(), "a number such as 1e-9") if self.path.text().strip() else 0.0
        except CandorError as error:
            self._voice.refuse(error)
            return
        what, folder = self.what.text().strip(), self._notebook.waveform_folder

        def work(stopped: Callable[[], bool]) -> Command | None:
            told = allan_told(content, period, own)
            if stopped():
                return None
            kept = keep_samples(folder, content, path.name)
            return soak_commands.keep_stability(
                stability_found(told, what=what, name=path.name, file=kept, period=period)
            )

        self._start(work)

    def _of_what_is_watched(self) -> None:
        job = self._in_hand.job
        if job is None:
            return
        view = soak_view(job, self._in_hand.pack, self._clock.now())
        if view.simulated:  # what is found goes on the certificate
            self._voice.refuse(f"{NOT_REAL} Nothing was written.")
            return
        self._start(
            lambda _: soak_commands.keep_stability(
                stability_found(stability_told(view.seconds, view.values), what=view.what, name="as watched")
            )
        )

    def _start(self, work: Callable[[Callable[[], bool]], Command | None]) -> None:
        job = self._in_hand.job
        self._asked_of = job.id if job is not None else ""
        self._voice.say("The readings are calculated …", Severity.NOTE)
        self._work.start(work)

    def _take(self, found: object) -> None:
        job = self._in_hand.job
        if not isinstance(found, Command):
            return
        if job is None or job.id != self._asked_of:
            self._voice.say("Another job is in hand now: nothing was written of these readings.")
        elif self._writer.do(found):
            self._voice.say("Calculated and written.", Severity.DONE)

    def explain(self, because: Because) -> None:
        """Say what the deviations and the offset rest on."""
        because.show_whole(None)
        words = [
            "How much successive averages differ, for each averaging time. At the minimum, longer averaging no longer helps.",
            "The offset of a frequency is the slope of its phase: 2 µs gained in an hour is 5.6 × 10⁻¹⁰. Ageing is the curvature.",
            "Phase wanders. Candor fits the offset with wander and noise in the proportion that the log itself shows. The figure "
            "after ± is 2.7 u, which held in 95 of 100 simulated logs or more.",
            "Give the uncertainty of the reference over the path it came by; without it, Candor says that it is missing.",
        ]
        because.show_words("How steady it is", words)
