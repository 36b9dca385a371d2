"""The supply, typed in a line and calculated beside the window: rails, ripple, what each capacitor meets, another rectifier."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtWidgets import QFormLayout, QVBoxLayout, QWidget

from candor.core.circuit.netlist import Netlist, parse_netlist
from candor.core.errors import CandorError
from candor.core.parts.mains import WORSE
from candor.core.power.supply import SupplyAnswer, calculate_supply, is_supply
from candor.core.power.supply_answer import SupplyReport, report_supply
from candor.core.power.supply_read import EXAMPLE as MEASURED
from candor.core.power.supply_read import read_measured
from candor.core.power.supply_text import EXAMPLE, read_supply, say_supply
from candor.core.suspects.rails import explain_rails
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.file_names import open_name
from candor.desktop.frame.local_numbers import in_field
from candor.desktop.frame.theme import Theme, label
from candor.desktop.stops.power.envelope import EnvelopeCurve
from candor.desktop.stops.power.supply_chain import SupplyChain
from candor.desktop.widgets.answer_lines import AnswerLines
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.worker import Work
from candor.notebook.storage.files import read_words
from candor.sitting.commands import power_commands
from candor.words.rails_words import say_rails
from candor.words.supply_stages import supply_stages
from candor.words.supply_words import report_lines, supply_lines

MOST_LINES = 7


class SupplyPanel(QWidget):
    """A supply and its answer."""

    def __init__(self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice, shop: Shop) -> None:
        super().__init__()
        self._in_hand, self._writer, self._voice, self._shop = in_hand, writer, voice, shop
        self._calculated: tuple[str, str, str, float] = ("", "", "", 0.0)
        self.report: SupplyReport | None = None
        self.work = Work(self)
        self.typed = Field()
        self.typed.setPlaceholderText(in_field(EXAMPLE))
        self.typed.setAccessibleName("The supply")
        self.typed.setToolTip(f"Winding, its ohms or regulation, rectifier, filter, load. Such as: {EXAMPLE}")
        self.instead = Field()
        self.instead.setPlaceholderText("another rectifier instead, such as: silicon")
        self.instead.setAccessibleName("Another rectifier instead")
        self.measured = Field()
        self.measured.setPlaceholderText(in_field(f"measured of it, such as: {MEASURED}"))
        self.measured.setAccessibleName("What was measured of the supply")
        self.rails = AnswerLines("what explains the rails", MOST_LINES, say_rails)
        self.calculate = button("Calculate it", "From cold, warm, and at +10 % line", "Enter", "main")
        self.stop = button("Stop", "Leave it")
        self.file = button(
            "A netlist …", "A supply from a netlist file: transformer, rectifiers, filter, load", name="choice"
        )
        self.drawn = button("The circuit's own", "The supply in this job's netlist, where it has one", name="choice")
        self.understood = label("", "soft")
        self.answer = label("", "text")
        self.chain = SupplyChain(theme)
        self.curve = EnvelopeCurve(theme)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(7))
        fields = QFormLayout()
        fields.setContentsMargins(0, 0, 0, 0)
        fields.setVerticalSpacing(theme.px(6))
        for title, widget in (
            ("supply", self.typed),
            ("", self.understood),
            ("instead", self.instead),
            ("measured", self.measured),
        ):
            fields.addRow(label(title, "soft"), widget)
        column.addLayout(fields)
        column.addLayout(flow(theme.px(8), self.calculate, self.stop, self.file, self.drawn))
        column.addWidget(self.chain)
        column.addWidget(self.rails)
        column.addWidget(self.answer)
        column.addWidget(self.curve, 1)
        self.stop.hide()
        self.typed.textEdited.connect(self._follow)
        self.typed.returnPressed.connect(self._write)
        self.instead.returnPressed.connect(self._write)
        self.measured.returnPressed.connect(self._write)
        self.calculate.clicked.connect(self._write)
        self.stop.clicked.connect(self._leave)
        self.file.clicked.connect(self._ask_file)
        self.drawn.clicked.connect(self._calculate_drawn)
        self.work.answered.connect(self._show)
        self.work.failed.connect(self._fail)

    def _hertz(self) -> float:
        return (self._shop.settings.mains or WORSE).hertz

    def show_job(self) -> None:
        """Show the supply that was typed last, and calculate it where that was not done yet."""
        job = self._in_hand.job
        typed = job.power.typed.body if job is not None and job.power.typed else None
        line, instead, measured = (typed.line, typed.instead, typed.measured) if typed else ("", "", "")
        self.drawn.setVisible(self._netlist() is not None)
        if (line, instead, measured, self._hertz()) == self._calculated:
            return
        self._calculated, self.report = (line, instead, measured, self._hertz()), None
        self.typed.setText(line)
        self.typed.setCursorPosition(0)
        self.instead.setText(instead)
        self.measured.setText(measured)
        self.measured.setCursorPosition(0)
        self._weigh(line, measured)
        self.answer.setText("")
        self._draw(None)
        self._follow()
        if line:
            self._start(line, instead)

    def _follow(self) -> None:
        text = self.typed.text().strip()
        try:
            self.understood.setText(" · ".join(say_supply(read_supply(text, self._hertz()))) if text else "")
        except CandorError as error:
            self.understood.setText(str(error))

    def _write(self) -> None:
        line, instead, measured = (f.text().strip() for f in (self.typed, self.instead, self.measured))
        try:
            asked = read_supply(f"{line}, {instead}" if instead else line, self._hertz())
            read_measured(measured, len(asked.sections))
        except CandorError as error:
            self._voice.refuse(error)
            return
        job = self._in_hand.job
        typing = power_commands.type_supply(line, instead, measured)
        if job is None or (job.power.typed is not None and (job.power.typed.body,) == typing.bodies):
            self._start(line, instead)
            return
        self._writer.do(typing)

    def _weigh(self, line: str, measured: str) -> None:
        """Calculate beside the window what explains what was measured."""
        if not line or not measured:
            self.rails.ask((), None)
            return
        hertz = self._hertz()
        self.rails.ask((line, measured, hertz), lambda should_stop: explain_rails(line, measured, hertz, should_stop))

    def _start(self, line: str, instead: str) -> None:
        hertz = self._hertz()
        self.answer.setText("calculating …")
        self.stop.show()
        self.work.start(lambda should_stop: report_supply(line, instead, hertz, should_stop))

    def _netlist(self) -> Netlist | None:
        """The job's own netlist, where something swings and something rectifies in it."""
        parts = self._in_hand.parts()
        netlist = parts.circuit.netlist if parts is not None and parts.circuit is not None else None
        return netlist if netlist is not None and is_supply(netlist) else None

    def _calculate_drawn(self) -> None:
        netlist = self._netlist()
        if netlist is not None:
            self._start_netlist(netlist)

    def _ask_file(self) -> None:
        name = open_name(self, "A netlist", "Netlists (*.cir *.net *.sp *.txt);;All files (*)")
        if name:
            self.calculate_file(Path(name))

    def calculate_file(self, path: Path) -> None:
        """Calculate a supply from a netlist file."""
        try:
            self._start_netlist(parse_netlist(read_words(path)))
        except CandorError as error:
            self._voice.refuse(error)

    def _start_netlist(self, netlist: Netlist) -> None:
        self.answer.setText("calculating …")
        self.stop.show()
        self.work.start(lambda should_stop: calculate_supply(netlist, should_stop=should_stop))

    def _show(self, report: SupplyReport | SupplyAnswer) -> None:
        self.stop.hide()
        if isinstance(report, SupplyAnswer):
            self.answer.setText("\n".join(supply_lines(report)))
            self._draw(None)
            return
        self.report = report
        self.answer.setText("\n".join(report_lines(report)))
        self._draw(report)

    def _draw(self, report: SupplyReport | None) -> None:
        """Draw a supply and its cold start; nothing where none was typed."""
        if report is None:
            self.chain.show_stages(())
            self.curve.show_envelope(None, ())
            return
        measured = read_measured(self._calculated[2], len(report.asked.sections))  # as it was written with it
        self.chain.show_stages(supply_stages(report, measured))
        self.curve.show_envelope(
            report.answer.cold.envelope, tuple((s.name, s.rated) for s in report.answer.stresses if s.rated)
        )

    def _fail(self, sentence: str) -> None:
        self.stop.hide()
        self.answer.setText(sentence)

    def _leave(self) -> None:
        self.work.cancel()
        self.stop.hide()
        self.answer.setText("Stopped.")

    def explain(self, because: Because) -> None:
        """Say how it is calculated."""
        because.show_whole(None)
        because.show_words(
            "How it is calculated",
            ["The circuit itself, stepped through time from everything uncharged: silicon by its exponential, mercury "
                "vapour by its drop, vacuum "
             "by its three-halves law, selenium by a volt a plate.",
             "Open-circuit peak: √2 times the winding voltage, its regulation and +10 % line. A capacitor is judged by the "
                 "voltage before anything draws current.",
             "Regulation where none is given: 8 % [common practice, no source: 5 to 15 %]."],
        )  # fmt: skip
