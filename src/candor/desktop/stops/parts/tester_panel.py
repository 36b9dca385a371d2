"""On the tester: leakage and reforming, live, with the caution before the start and "safe" said only of a measurement."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.core.leakage.leakage_run import Plan
from candor.core.leakage.usual import caution_before, over_rating, read_plan, usual_run
from candor.core.parts.judge_capacitor import run_limit
from candor.core.parts.part import Part
from candor.core.parts.policy import Policy
from candor.core.quantities import engineering, parse_quantity
from candor.core.quantities.show import trimmed
from candor.core.severity import Severity
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.live_in_hand import BY_HAND, SIMULATED, Live
from candor.desktop.bench.voice import Voice
from candor.desktop.frame.chart_menu import ChartMenu
from candor.desktop.frame.file_names import save_name
from candor.desktop.frame.theme import Theme, label
from candor.desktop.stops.parts.curve import RunCurve
from candor.desktop.widgets.caution import Caution
from candor.desktop.widgets.controls import button, shortcut
from candor.desktop.widgets.field import Field
from candor.notebook.entries.runs_entries import Run
from candor.notebook.parts.parts_list import PartLine
from candor.notebook.runs.run_files import export_run
from candor.notebook.store import Notebook
from candor.notebook.work.barriers import barrier
from candor.notebook.work.facts import say_seconds
from candor.words.run_words import say_last, say_status

FIELDS = (("target", "to V"), ("dwell", "for"), ("limit", "limit"), ("most", "at most"), ("resource", "tester"))


class TesterPanel(QWidget):
    """Sets a run, follows it, ends it."""

    def __init__(self, theme: Theme, *, in_hand: JobInHand, voice: Voice, live: Live, notebook: Notebook) -> None:
        super().__init__()
        self._theme = theme
        self._in_hand, self._voice, self._live, self._notebook = in_hand, voice, live, notebook
        self._line: PartLine | None = None
        self.fields: dict[str, Field] = {}
        self.reform = button("Reform", "Raise the voltage in steps while the leakage falls", name="choice")
        self.leak = button("Leakage", "Straight to the voltage, read after the dwell", name="choice")
        self.start = button("Start", "Source on, through the tester's series resistor", name="main")
        self.stop = button("Stop", "Source to zero, discharge, measure", "Esc", "main")
        self.leave = button("End it, not measured safe", "It is written, and warned of")
        self.export = button("Save readings …", "The readings of the last run on this part, as CSV")
        self.volts, self.current = Field(), Field()
        self.reason = Field()
        self.reason.setPlaceholderText("why above the part's rating")
        self.reason.setAccessibleName("Reason for a voltage above the rating")
        self.reason.hide()
        self.take = button("Take it", "A reading of the run by hand", "Enter")
        self.caution = Caution(theme)
        self.words = label("", "text")
        self.sum = label("", "note")
        self.curve = RunCurve(theme)
        self.chart_menu = ChartMenu(self.curve, "leakage", voice)
        self._build()
        self._wire()

    def _build(self) -> None:
        theme = self._theme
        outer = QHBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(theme.px(14))
        column = QVBoxLayout()
        column.setSpacing(theme.px(5))
        for made in (self.leak, self.reform):
            made.setCheckable(True)
        modes = QHBoxLayout()
        modes.setSpacing(theme.px(6))
        modes.addWidget(self.leak)
        modes.addWidget(self.reform)
        modes.addStretch()
        column.addLayout(modes)
        self.setting = QWidget()
        grid = QGridLayout(self.setting)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setHorizontalSpacing(theme.px(8))
        grid.setVerticalSpacing(theme.px(2))
        for index, (key, title) in enumerate(FIELDS):
            edit = Field()
            edit.setAccessibleName(title)
            visa = "VISA name such as TCPIP::192.168.1.20::5025::SOCKET, or simulated, or by hand"
            edit.setToolTip(visa if key == "resource" else title)
            self.fields[key] = edit
            grid.addWidget(label(title, "soft", wrap=False), 0, index)
            grid.addWidget(edit, 1, index)
            grid.setColumnStretch(index, 5 if key == "resource" else 3)
        column.addWidget(self.setting)
        column.addWidget(self.caution)
        column.addWidget(self.reason)
        self.typing = QWidget()
        typed = QHBoxLayout(self.typing)
        typed.setContentsMargins(0, 0, 0, 0)
        typed.setSpacing(theme.px(8))
        for edit, title in ((self.volts, "V on the part"), (self.current, "current, such as 310u")):
            edit.setPlaceholderText(title)
            edit.setAccessibleName(title)
            typed.addWidget(edit)
        typed.addWidget(self.take)
        column.addWidget(self.typing)
        starts = QHBoxLayout()
        starts.setSpacing(theme.px(8))
        for made in (self.start, self.stop, self.leave, self.export):
            starts.addWidget(made)
        starts.addStretch()
        column.addLayout(starts)
        column.addWidget(self.words)
        column.addWidget(self.sum)
        column.addStretch()
        outer.addLayout(column, 5)
        outer.addWidget(self.curve, 4)

    def _wire(self) -> None:
        self.leak.clicked.connect(lambda: self._set_mode(False))
        self.reform.clicked.connect(lambda: self._set_mode(True))
        self.start.clicked.connect(self._start)
        self.take.clicked.connect(self._take)
        for edit in (self.volts, self.current):
            edit.returnPressed.connect(self._take)
        self.stop.clicked.connect(self._live.cancel)
        self.leave.clicked.connect(self._live.leave)
        self.export.clicked.connect(self._export)
        shortcut(self, "Esc", self._live.cancel)
        self._live.changed.connect(self.follow)
        self._live.ended.connect(lambda *_: self.follow())
        for edit in self.fields.values():
            edit.textChanged.connect(self._warn)
        self.fields["target"].textEdited.connect(self._show_limit)

    def show_line(self, line: PartLine | None) -> None:
        """Take another part in hand, with what its run would need."""
        same = line is not None and self._line is not None and line.part.ref == self._line.part.ref
        self._line = line
        capacitor = line is not None and line.part.kind == "capacitor"
        self.setEnabled(capacitor and line is not None and not line.fate)
        if line is None or not capacitor:
            self.words.setText("The tester is for capacitors.")
            return
        if not same:
            old = line.part.make == "electrolytic" and str(self._policy().electrolytics) == "reform"
            self._fill(line.part, old)
        self.follow()

    def _policy(self) -> Policy:
        return self._in_hand.job.parts.policy if self._in_hand.job else Policy()

    def _fill(self, part: Part, reform: bool) -> None:
        usual = usual_run(part, reform)
        self.fields["target"].setText(trimmed(usual.target_volts))
        self.fields["dwell"].setText(say_seconds(usual.dwell_s))
        if not self.fields["resource"].text():
            self.fields["resource"].setText(SIMULATED)
        self._set_mode(reform)

    def _set_mode(self, reform: bool) -> None:
        self.reform.setChecked(reform)
        self.leak.setChecked(not reform)
        line = self._line
        if line is not None:
            self._show_limit()
            self.fields["most"].setText(say_seconds(usual_run(line.part, reform).most_s))

    def _show_limit(self) -> None:
        """Follow the target with the limit, until a limit is typed."""
        line, job = self._line, self._in_hand.job
        if line is None or job is None:
            return
        try:
            volts = parse_quantity(self.fields["target"].text(), "V").value
            limit = run_limit(line.part, volts, job.parts.policy)
        except CandorError:
            return
        self.fields["limit"].setText(engineering(limit, "A", 3))

    # --- before -----------------------------------------------------------------------------------------

    def plan(self) -> Plan | None:
        """Return the run as the fields say it; None, with a sentence, where they cannot be read."""
        line = self._line
        if line is None or self._in_hand.job is None:
            return None
        try:
            text = {key: edit.text() for key, edit in self.fields.items()}
            return read_plan(text, line.part, self._policy().safe_volts, self.reform.isChecked())
        except CandorError as error:
            self._voice.refuse(f"{error} The run was not started.")
            return None

    def _warn(self) -> None:
        """The caution comes before the start, never after."""
        line = self._line
        if line is None or self._live.running:
            return
        try:
            volts = parse_quantity(self.fields["target"].text(), "V").value
        except CandorError:
            self.caution.say("")
            return
        self.reason.setVisible(bool(over_rating(volts, line.part)))
        self.caution.say(caution_before(volts, line.part, self._policy().safe_volts))

    def _start(self) -> None:
        plan, line, job = self.plan(), self._line, self._in_hand.job
        if plan is None or line is None or job is None:
            return
        found = barrier(job, self._in_hand.parts(), "tester")
        if found is not None:
            self._voice.refuse(f"{found.sentence} The run was not started.")
            return
        resource = self.fields["resource"].text().strip()
        if resource not in (SIMULATED, BY_HAND) and "::" not in resource:
            expected = "a VISA name such as TCPIP::192.168.1.20::5025::SOCKET, or simulated, or by hand"
            self._voice.refuse(f"“{resource}” is not a tester. Expected: {expected}.")
            return
        try:
            started = self._live.start(job.id, line.part, plan, resource, reason=self.reason.text())
        except CandorError as error:
            self._voice.refuse(str(error))
            return
        if started:
            self.reason.clear()
            (self.volts if resource == BY_HAND else self.stop).setFocus()

    def _take(self) -> None:
        """Take what was typed; while it discharges the volts alone, until they are safe."""
        live = self._live
        status = live.status()
        try:
            volts = parse_quantity(self.volts.text(), "V").value
            typed = self.current.text().strip()
            running = status is not None and status.phase == "running"
            live.take(volts, parse_quantity(typed, "A").value if running or typed else 0.0)
        except CandorError as error:
            self._voice.refuse(str(error))
            return
        self.volts.clear()
        self.current.clear()
        self.volts.setFocus()

    # --- while ------------------------------------------------------------------------------------------

    def follow(self) -> None:
        """Show how the run stands."""
        live, line = self._live, self._line
        own = (
            live.running
            and line is not None
            and live.ref == line.part.ref
            and live.job == (self._in_hand.job.id if self._in_hand.job else "")
        )
        others = self._elsewhere()
        self.start.setVisible(not live.running)
        self.start.setEnabled(not others)
        self.stop.setVisible(own)
        self.setting.setVisible(not own)
        if own:
            self.reason.hide()
        self.leave.hide()
        self.typing.setVisible(own and live.by_hand)
        self.leak.setVisible(not own)
        self.reform.setVisible(not own)
        last = self._last_run()
        self.export.setVisible(last is not None and not own)
        status = live.status() if own else None
        if status is None:
            self._show_rest(last is not None)
            return
        discharging = status.phase == "discharging"
        self.current.setVisible(not discharging)
        self.stop.setVisible(not (discharging and live.by_hand))
        self.leave.setVisible(discharging and live.by_hand)
        by_hand = (
            "Source to zero by hand, discharge, then type the volts you measure. "
            if discharging and live.by_hand
            else ""
        )
        self.caution.say(
            " ".join(filter(None, (f"{by_hand}{live.caution()}.", live.unproved if live.by_hand else "")))
        )
        plan, seen = live.plan, status.seen
        if plan is None:
            return
        self.words.setText(say_status(status, plan, live.by_hand))
        limit = plan.limit_amperes
        self.sum.setText(seen.calculated.say(limit) if seen and status.phase == "running" else "")
        self.curve.show_run(seen.curve if seen else (), seen.calculated if seen else None, limit)

    def _show_rest(self, there: bool) -> None:
        live, line = self._live, self._line
        others = self._elsewhere()
        if live.running:
            self.words.setText(f"{live.ref} is on the tester.")
        elif others:
            self.words.setText(others)
        elif line is not None and there:
            self.words.setText(say_last(self._last_run()))
        else:
            self.words.setText("")
        self.sum.setText("")
        if not there:
            self.curve.show_run((), None, 1e-3)
        self._warn()

    def _elsewhere(self) -> str:
        """Say that another window is at this part, nothing where none is: what an earlier run came to is history then."""
        job, line = self._in_hand.job, self._line
        if job is None or line is None:
            return ""
        open_runs = [r for r in job.runs.cut_off() if r.started.body.ref == line.part.ref]
        return " ".join(r.words for r in self._live.elsewhere_of(open_runs)) if open_runs else ""

    def _last_run(self) -> Run | None:
        job, line = self._in_hand.job, self._line
        if job is None or line is None:
            return None
        runs = [r for r in job.runs.runs if r.started.body.ref == line.part.ref and r.ended is not None]
        return runs[-1] if runs else None

    def _export(self) -> None:
        run, line = self._last_run(), self._line
        if run is None or line is None:
            return
        name = save_name(self, "Readings of the run", f"{line.part.ref}.csv", "CSV (*.csv)")
        if name:
            try:
                export_run(self._notebook.run_folder, run.started.body, Path(name))
                self._voice.say(f"The readings are in {name}.", Severity.DONE)
            except CandorError as error:
                self._voice.refuse(str(error))
