"""After power: the plug out, the countdown, the meter that was proved, and the wait. Only then the word safe."""

from __future__ import annotations

from PySide6.QtWidgets import QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.core.jot.line import understand_at
from candor.core.power.safe import SAFE_VOLTS, WAIT_S
from candor.core.quantities.show import trimmed
from candor.desktop.bench.clock import Clock
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.local_numbers import in_field
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.row_list import Row, RowList
from candor.notebook.power.powering import safety_of
from candor.sitting.commands import power_commands
from candor.words.power_words import say_safety
from candor.words.transformer_words import transformer_lines

SHAPES = {"safe": "full", "on": "cross", "plug": "cross", "climbed": "cross"}


def _word(safe: bool, is_out: bool, is_live: bool) -> str:
    if safe:
        return "Safe, as measured"
    return "Not known to be safe" if is_out else "Plugged in" if is_live else ""


class After(QWidget):
    """What still holds a charge, rail by rail."""

    def __init__(self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice, clock: Clock) -> None:
        super().__init__()
        self._in_hand, self._writer, self._voice, self._clock = in_hand, writer, voice, clock
        self.word = label("", "hand", bold=True)
        self.sentence = label("", "text")
        self.out = button("The plug is out", "Pull the plug, not the switch", name="main")
        self.proved = button("Meter proved", "It was seen live on something just now")
        self.list = RowList(theme, "Rails after power", wrap=True)
        self.read = Field()
        self.read.setPlaceholderText(in_field("b1 3.2: a rail as measured now"))
        self.read.setAccessibleName("A rail as measured now")
        self.bleeder = Field()
        self.bleeder.setPlaceholderText("b1 220k on 33 uF: its bleeder, where it is known")
        self.bleeder.setAccessibleName("Bleeder of a rail")
        self.heat = Field()
        self.heat.setPlaceholderText(
            "hv 158 ohm hot at 24 C: a winding just after a run, plug out and discharged, in a room of 24 °C"
        )
        self.heat.setAccessibleName("A winding hot")
        self.transformer = label("", "text")
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(7))
        column.addWidget(self.word)
        column.addWidget(self.sentence)
        column.addLayout(flow(theme.px(8), self.out, self.proved))
        for widget in (self.list, self.read, self.bleeder, self.heat):
            column.addWidget(widget)
        column.addWidget(self.transformer)
        column.addStretch()
        self.out.clicked.connect(lambda: self._writer.do(power_commands.plug_out()))
        self.proved.clicked.connect(lambda: self._writer.do(power_commands.prove_meter()))
        self.read.returnPressed.connect(lambda: self._jot(self.read, "rail"))
        self.heat.returnPressed.connect(lambda: self._jot(self.heat, "winding"))
        self.bleeder.returnPressed.connect(lambda: self._jot(self.bleeder, "bleeder"))

    def show_job(self) -> None:
        """Show how safe each rail is now."""
        job = self._in_hand.job
        if job is None:
            return
        safe_volts = self._safe_volts()
        safety = safety_of(job, self._clock.moment(), safe_volts)
        rows = tuple(Row(name, name, say_safety(s), SHAPES.get(s.stage, "ring")) for name, s in safety.items())
        self.list.show_rows(rows, "")
        self.list.setVisible(bool(rows))
        self.list.fit(8)
        is_out = job.power.out is not None
        self.out.setEnabled(not is_out)
        safe = bool(safety) and all(s.is_safe for s in safety.values())
        self.word.setText(_word(safe, is_out, job.power.is_live))
        if not safety:
            words = "No rail is named, so Candor does not know what holds a charge. Name each one. Example: rail b1 is 285 V"
        elif safe:
            words = (
                f"Every rail named is under {trimmed(safe_volts)} V d.c., and still was after a minute. A picture "
                "tube's anode is its own matter."
            )
        else:
            words = next(say_safety(s) for s in safety.values() if not s.is_safe)
        self.sentence.setText(words)
        said = transformer_lines(job)
        self.transformer.setText("\n".join(said))
        self.transformer.setVisible(bool(said))

    def _safe_volts(self) -> float:
        """What is safe by the policy of the job: IEC 61010-1's figure, or what the shop set lower."""
        parts = self._in_hand.parts()
        return parts.policy.safe_volts if parts is not None else SAFE_VOLTS

    def _jot(self, field: Field, verb: str) -> None:
        try:
            jot = understand_at("power", f"{verb} {field.text().strip()}")
        except CandorError as error:
            self._voice.refuse(error)
            return
        if jot is None:
            self._voice.refuse(f"Candor cannot read this. Example: {field.placeholderText().split(':')[0]}")
        elif self._writer.jot(jot):
            field.clear()

    def explain(self, because: Because) -> None:
        """Say when something is safe."""
        because.show_whole(None)
        because.show_words(
            "When is it safe?",
            [f"Measured below {trimmed(self._safe_volts())} V d.c. [IEC 61010-1, from memory], and still below {WAIT_S:.0f} s "
                "later: an electrolytic "
             "recovers up to a tenth of its voltage, oil-paper a few per cent [from memory].",
             "The meter must be proved: it followed this rail down, or you checked it on a known live source. A dead meter "
                 "reads 0 too.",
             "A clock that cannot be set counts the minute. If this computer restarts, the minute starts again: measure again.",
             "Candor counts down only where the bleeder is known. Local codes and licensed practice come first."],
        )  # fmt: skip
