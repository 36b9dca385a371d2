"""Meters on links: which, where, connected; what each says now; their long curves, and a file of all that was read."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtWidgets import QComboBox, QHBoxLayout, QPlainTextEdit, QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.core.jot.meter_line import EXAMPLE, read_meters
from candor.core.parts.mains import WORSE
from candor.core.power.plan import UNITS, unit_of
from candor.core.power.supply_text import read_supply
from candor.core.power.watch import proposed_rails
from candor.core.quantities import engineering
from candor.core.severity import Severity
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.meters_in_hand import SIMULATED, PowerMeters
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.frame.file_names import save_name
from candor.desktop.frame.local_numbers import in_field
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.link_tools import LinkTools
from candor.desktop.widgets.long_curves import LongCurves
from candor.desktop.widgets.worker import Work
from candor.notebook.storage.files import is_plain_name
from candor.notebook.store import Notebook

# What stands on the simulated bench where the job has no supply of its own; invented.
USUAL_SUPPLY = (
    "240-0-240 V, 180 ohm, vacuum 45 V at 110 mA, 16 uF 450 V, choke 7 H 240 ohm, 32 uF 450 V, bleeder "
    "220k, 35 mA, tubes after 11 s"
)


class MeterPanel(QWidget):
    """The meters of the way up."""

    def __init__(
        self, theme: Theme, *, in_hand: JobInHand, meters: PowerMeters, voice: Voice, shop: Shop, notebook: Notebook
    ) -> None:
        super().__init__()
        self._in_hand, self._meters, self._voice, self._shop = in_hand, meters, voice, shop
        self._notebook = notebook
        self.reads = QComboBox()
        self.reads.setEditable(True)
        self.reads.setAccessibleName("What the meter reads")
        self.reads.setToolTip("A rail, or watts, amperes or line")
        self.address = Field()
        self.address.setAccessibleName("Where the meter answers")
        self.address.setPlaceholderText("a VISA name, or simulated")
        self.add = button("Add this meter", "Put it among the meters below")
        self.tools = LinkTools(theme, self.address)
        self.lines = QPlainTextEdit()
        self.lines.setPlaceholderText(in_field(f"a meter a line: {EXAMPLE}\nor: b1 simulated"))
        self.lines.setAccessibleName("Meters")
        self.lines.setTabChangesFocus(True)
        self.lines.setFixedHeight(theme.px(84))
        self.as_lines = button(
            "As lines", "The meters as they are written, one a line: to paste or to mend", name="choice"
        )
        self.as_lines.setCheckable(True)
        self.fault = QComboBox()
        self.fault.setAccessibleName("What hides on the simulated bench")
        self.fault.setToolTip("What hides in the supply of the simulated bench")
        self.connect_ = button("Connect", "Read these meters from now on")
        self.stop = button("Let go", "Read them no more; what was read stays on disk")
        self.curves = button("Curves", "All that was read, to scroll and zoom", name="choice")
        self.curves.setCheckable(True)
        self.newest = button("Newest", "Go along with the newest again", name="choice")
        self.export = button("To a file …", "All that was read, as CSV", name="choice")
        self.words = label("", "soft")
        self.long = LongCurves(theme)
        self.work = Work(self)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(6))
        self.form = QWidget()
        form = QVBoxLayout(self.form)
        form.setContentsMargins(0, 0, 0, 0)
        form.setSpacing(theme.px(6))
        row = QHBoxLayout()
        row.setSpacing(theme.px(8))
        row.addWidget(self.reads)
        row.addWidget(self.address, 1)
        row.addWidget(self.add)
        form.addLayout(row)
        form.addWidget(self.tools)
        self.tools.beside(self.as_lines)
        column.addWidget(self.form)
        column.addWidget(self.lines)
        column.addLayout(
            flow(theme.px(8), self.connect_, self.stop, self.fault, self.curves, self.newest, self.export)
        )
        column.addWidget(self.words)
        column.addWidget(self.long)
        self.long.hide()
        column.addStretch()
        self.add.clicked.connect(self._add)
        self.as_lines.clicked.connect(self.show_meters)
        self.lines.textChanged.connect(self.show_meters)
        self.address.returnPressed.connect(self._add)
        self.connect_.clicked.connect(self._connect)
        self.stop.clicked.connect(self._meters.stop)
        self.curves.clicked.connect(self.show_meters)
        self.newest.clicked.connect(self.long.follow)
        self.export.clicked.connect(self._ask_file)
        self._meters.changed.connect(self.show_meters)
        self.work.answered.connect(lambda count: self._voice.say(f"{count} readings are written.", Severity.DONE))
        self.work.failed.connect(self._voice.refuse)

    def show_meters(self) -> None:
        """Show how the meters stand."""
        if not self.isVisible():
            return
        if not self.fault.count():
            from candor.links.simulated_supply import FAULTS  # only where somebody looks

            self.fault.addItems(["no fault", *FAULTS[1:]])
        running = self._meters.running
        self.form.setVisible(not running)
        self._offer()
        named = bool(self.lines.toPlainText().strip())
        self.lines.setVisible(not running and (named or self.as_lines.isChecked()))
        self.connect_.setVisible(self.lines.isVisibleTo(self))
        self.fault.setVisible(not running and SIMULATED in self.lines.toPlainText())
        files = self.files()
        self.stop.setVisible(running)
        for widget in (self.curves, self.newest, self.export):
            widget.setVisible(bool(files))
        said = []
        for name, state in self._meters.states().items():
            known = state.value is not None
            said.append(
                f"{name} {engineering(state.value or 0.0, unit_of(name), 4)}"
                if known
                else f"{name} unknown: {state.fault}"
            )
        self.words.setText(" · ".join(said) if running else self._proposal())
        self.long.setVisible(bool(files) and self.curves.isChecked())
        if self.long.isVisible():
            from candor.links.channel_file import read_channel

            self.long.show_records({name: read_channel(path) for name, path in files.items()})

    def files(self) -> dict[str, Path]:
        """The readings that can be looked at: of the meters that are read, else of those that were read last for this job."""
        job = self._in_hand.job
        if self._meters.running and job is not None and self._meters.job == job.id:
            return self._meters.files
        if job is None or not job.power.meters:
            return {}
        last = job.power.meters[-1].body
        kept = {
            name: self._notebook.run_folder / file
            for name, file in zip(last.names, last.files, strict=False)
            if is_plain_name(file)
        }
        return {name: path for name, path in kept.items() if path.is_file()}

    def _proposal(self) -> str:
        job = self._in_hand.job
        rails = tuple(job.power.rails) if job is not None else ()
        if len(rails) < 2:
            return ""
        return f"With two meters: {' and '.join(proposed_rails(rails, 2, rails[0]))}; the other rails depend on the first."

    def finish(self) -> None:
        """Stop the work in hand."""
        self.work.finish()
        self.tools.finish()

    def _offer(self) -> None:
        """Offer the job's rails, the line and its watts; what was typed stays."""
        job, typed = self._in_hand.job, self.reads.currentText()
        offered = [*(job.power.rails if job is not None else ()), *UNITS]
        if [self.reads.itemText(place) for place in range(self.reads.count())] != offered:
            self.reads.clear()
            self.reads.addItems(offered)
            self.reads.setEditText(typed or offered[0])

    def _add(self) -> None:
        """Put a meter among the lines, each rail once: what stood there of it gives way."""
        name, address = self.reads.currentText().strip().lower(), self.address.text().strip()
        if not name or not address:
            self._voice.say("Say what the meter reads, and where it answers.", Severity.ASK)
            return
        kept = [line for line in self.lines.toPlainText().splitlines() if line.split(maxsplit=1)[:1] != [name]]
        self.lines.setPlainText("\n".join((*filter(str.strip, kept), f"{name} {address}")))
        self.address.clear()
        read = {line.split(maxsplit=1)[0].lower() for line in self.lines.toPlainText().splitlines()}
        offered = (self.reads.itemText(place) for place in range(self.reads.count()))
        self.reads.setEditText(next((other for other in offered if other not in read), ""))
        self.show_meters()

    def _connect(self) -> None:
        job = self._in_hand.job
        if job is None:
            return
        from candor.links.meters import MeterPlan
        from candor.links.simulated_supply import FAULTS, Bench

        try:
            meters = read_meters(self.lines.toPlainText())
            mains = self._shop.settings.mains or WORSE
            line = job.power.typed.body.line if job.power.typed else USUAL_SUPPLY
            supply = read_supply(line, mains.hertz)
            plans = [MeterPlan(m.name, m.resource, m.query or "READ?", 1 / m.every_s) for m in meters]
            bench = Bench(supply, FAULTS[max(self.fault.currentIndex(), 0)], mains.volts)
            self._meters.start(job.id, plans, bench)
        except CandorError as error:
            self._voice.refuse(error)
            return
        state = job.power.state
        self._meters.set_line(state.body.line_volts if state is not None else 0.0)

    def _ask_file(self) -> None:
        name = save_name(self, "All that was read, as CSV", "readings.csv", "CSV (*.csv)")
        if name:
            self.export_to(Path(name))

    def export_to(self, target: Path) -> None:
        """Write all that was read to a CSV file, beside the window."""
        from candor.links.channel_file import export_channels

        files = self.files()
        self.work.start(lambda should_stop: export_channels(files, target, should_stop))
