"""Over the hours: since when it is on, what is watched, by hand, by a link or from a file, and when it is ready."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtWidgets import QSizePolicy, QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.core.jot.line import understand_at
from candor.core.jot.rows.soak_rows import BY_LINK
from candor.core.jot.soak_meaning import SoakJot, UnwatchJot, WatchJot
from candor.core.severity import Severity
from candor.desktop.bench.clock import Clock
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.watching import SoakWatch
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.chart_menu import ChartMenu
from candor.desktop.frame.file_names import open_name
from candor.desktop.frame.local_numbers import in_field
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.fanchart import SoakChart
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.flow import flow
from candor.notebook.soak.soaking import CAUTIONS, soak_view
from candor.notebook.soak.stability_table import soak_readings
from candor.notebook.storage.files import read_bytes_of
from candor.notebook.work.job import Job
from candor.sitting.commands import soak_commands


class SettlingPanel(QWidget):
    """The on-clock, what is watched, and when it is ready."""

    def __init__(
        self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice, clock: Clock, watch: SoakWatch
    ) -> None:
        super().__init__()
        self._in_hand, self._writer, self._voice, self._clock = in_hand, writer, voice, clock
        self._watch = watch
        self._of = ""  # the job whose meter is named
        self.clock = label("", "text", bold=True)
        self.ready = label("", "text")
        self.chart = SoakChart(theme)
        self.chart_menu = ChartMenu(self.chart, "soak", voice)
        self.beside = label("", "soft")
        self.on = button("It is on", "Switched on, and somebody is here (jot: on)")
        self.alone = button("On, unattended", "Switched on, and left alone (jot: on unattended)")
        self.off = button("It is off", "Switched off (jot: off)")
        self.read = Field()
        self.read.setAccessibleName("What is watched, as read now")
        self.read.setPlaceholderText(
            in_field("as read now: 10.0231 V, or 10.0231 V of DC volts; earlier: 10.0231 V after 15 min")
        )
        self.write = button("Write it", "Write what was read (jot: soak 10.0231 V)", name="main")
        self.link = Field()
        self.link.setAccessibleName("The meter that is read by itself")
        self.link.setPlaceholderText(in_field(f"or {BY_LINK.removeprefix('soak ')} of DC volts"))
        self.by_link = button(
            "Read by link", "Have this meter read by itself from now on (jot: soak by … every 5 min)"
        )
        self.by_hand = button("By hand again", "Read it by link no more (jot: soak by hand)")
        self.by_file = button(
            "Readings from a file …", "A table of a logger: seconds since it was switched on, and value"
        )
        self.linked = label("", "soft")
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(6))
        for widget in (self.clock, self.ready, self.chart, self.beside, self.read):
            column.addWidget(widget)
        column.addLayout(flow(theme.px(8), self.write, self.on, self.alone, self.off))
        for widget in (self.linked, self.link):
            column.addWidget(widget)
        column.addLayout(flow(theme.px(8), self.by_link, self.by_hand, self.by_file))
        column.setStretchFactor(self.chart, 1)  # on a large screen the chart grows
        column.addStretch()
        self.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Expanding)
        self.on.clicked.connect(lambda: self._writer.do(soak_commands.switch_on()))
        self.alone.clicked.connect(lambda: self._writer.do(soak_commands.switch_on(attended=False)))
        self.off.clicked.connect(lambda: self._writer.do(soak_commands.switch_off()))
        self.write.clicked.connect(self._write)
        self.read.returnPressed.connect(self._write)
        self.by_link.clicked.connect(self._start)
        self.link.returnPressed.connect(self._start)
        self.by_hand.clicked.connect(self._watch.stop)
        self.by_file.clicked.connect(self._ask)
        self._watch.changed.connect(self._show_watch)

    def _write(self) -> None:
        line = f"soak {self.read.text().strip()}"
        try:
            jot = understand_at("soak", line)
        except CandorError as error:
            self._voice.refuse(error)
            return
        if isinstance(jot, WatchJot | UnwatchJot):
            self._watch.obey(jot)
            self.read.clear()
        elif isinstance(jot, SoakJot) and self._writer.jot(jot, line, "soak"):
            self.read.clear()

    def _start(self) -> None:
        """Have the meter of the line read by itself; the line stays, to be changed."""
        text = self.link.text().strip()
        try:
            jot = understand_at("soak", f"soak {text if text.casefold().startswith('by ') else f'by {text}'}")
        except CandorError as error:
            self._voice.refuse(error)
            return
        if isinstance(jot, WatchJot) and self._watch.start(jot):
            self._voice.say(f"It is {jot.chips[0]}.", Severity.DONE)

    def _ask(self) -> None:
        name = open_name(self, "Readings", "Tables (*.csv *.tsv *.txt)")
        if name:
            self.read_file(Path(name))

    def read_file(self, path: Path) -> None:
        """Take in what a logger read while it soaks."""
        job = self._in_hand.job
        if job is None:
            return
        if not job.soak.on:
            self._voice.refuse(
                "Say first when it was switched on (jot: on): the seconds of the file count from there."
            )
            return
        try:
            readings, words = soak_readings(read_bytes_of(path, "readings"), _watched(job))
        except CandorError as error:
            self._voice.refuse(error)
            return
        if self._writer.take_in(path.name, readings):
            self._voice.say(
                f"{len(readings)} readings of {path.name} are in the soak. {words}".rstrip(), Severity.DONE
            )

    def _show_watch(self) -> None:
        job = self._in_hand.job
        ours = job is not None and self._watch.job == job.id
        elsewhere = bool(self._watch.job) and not ours
        self.linked.setText(f"{self._watch.words} For another job." if elsewhere else self._watch.words)
        self.linked.setVisible(bool(self._watch.job))
        self.by_hand.setEnabled(bool(self._watch.job))

    def show_job(self) -> None:
        """Show the soak as it stands now."""
        job = self._in_hand.job
        if job is None:
            return
        view = soak_view(job, self._in_hand.pack, self._clock.now())
        self.clock.setText(view.on_words)
        self.ready.setText(view.ready_words)
        self.beside.setText("\n".join(view.beside))
        self.beside.setVisible(bool(view.beside))
        self.chart.show_soak(view, view.ready_words)
        is_on = job.soak.since is not None
        self.on.setEnabled(not is_on)
        self.alone.setEnabled(not is_on or job.soak.attended)
        self.off.setEnabled(is_on)
        if job.id != self._of:  # a line that was written for another job says nothing here
            self._of = job.id
            self.link.clear()
        last = next((e.body for e in reversed(job.soak.read) if e.body.link), None)
        if last is not None and not self.link.text():
            self.link.setText(
                f"by {last.link} every 5 min in {last.unit}" + (f" of {last.what}" if last.what else "")
            )
        self._show_watch()

    def explain(self, because: Because) -> None:
        """Say what settled means, and what is looked at before it is left alone."""
        because.show_whole(None)
        words = [
            "Settled: with 95 % probability less than a tenth of the limit is left to settle, by one process or by two.",
            "Candor gives no answer before the record spans two time constants of the slower one, or while a curve that never "
            "settles fits as well. It cannot see a process slower than three times the record.",
            *CAUTIONS,
        ]
        because.show_words("Two clocks", words)


def _watched(job: Job) -> str:
    return job.soak.read[-1].body.what if job.soak.read else ""
