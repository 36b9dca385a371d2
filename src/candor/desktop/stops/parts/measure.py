"""What was measured on the part chosen, by fields; the jot line takes the same."""

from __future__ import annotations

from pydantic import ValidationError
from PySide6.QtCore import Signal
from PySide6.QtWidgets import QGridLayout, QPushButton, QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.core.jot import DecisionJot, JotContext, LimitJot, PartJot, understand
from candor.core.jot.fields import said_of, volts_typed
from candor.core.leakage.usual import over_rating
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.local_numbers import in_field
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.caution import Caution
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.flow import flow
from candor.notebook.parts.parts_list import PartLine
from candor.sitting.commands import parts_commands

# Field, its title and an example.
FIELDS = (("value", "Value", "8.8u"), ("esr", "ESR, or D, or PF", "11 ohm"), ("leak", "Leakage, or IR", "310u"),
          ("at", "at V", "400"), ("after", "after", "5 min"), ("warm", "after ten minutes' warmth", "374k"))  # fmt: skip


class MeasurePanel(QWidget):
    """Fields for the part chosen; they become a jot, so both ways say the same.

    Signals
    -------
    written()
        Something was written about the part.
    """

    written = Signal()

    def __init__(self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice, shop: Shop) -> None:
        super().__init__()
        self._theme = theme
        self._in_hand, self._writer, self._voice, self._shop = in_hand, writer, voice, shop
        self._line: PartLine | None = None
        self.fields: dict[str, Field] = {}
        self._titles: dict[str, QWidget] = {}
        self.caution = Caution(theme)
        self.circuit = button("In circuit", "The value was read with everything connected", name="choice")
        self.open = button("Open", "It is open", name="choice")
        self.short = button("Short", "It is short", name="choice")
        self.intermittent = button("Intermittent", "It comes and goes: tapped, warmed or bent", name="choice")
        self.write = button("Write it", "Write what was measured", "Enter", "main")
        self._build()

    def _build(self) -> None:
        theme = self._theme
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(6))
        grid = QGridLayout()
        grid.setHorizontalSpacing(theme.px(10))
        grid.setVerticalSpacing(theme.px(2))
        for index, (key, title, hint) in enumerate(FIELDS):
            edit = Field()
            edit.setPlaceholderText(in_field(f"such as {hint}"))
            edit.setAccessibleName(title)
            edit.returnPressed.connect(self._write)
            edit.textChanged.connect(self._warn)
            self.fields[key] = edit
            self._titles[key] = label(title, "soft", wrap=False)
            grid.addWidget(self._titles[key], 0, index)
            grid.addWidget(edit, 1, index)
            grid.setColumnStretch(index, 3 if key == "esr" else 2)
        column.addLayout(grid)
        column.addWidget(self.caution)
        for made in (self.circuit, *self._states):
            made.setCheckable(True)
        column.addLayout(flow(theme.px(8), self.circuit, *self._states, self.write))
        column.addStretch()
        self.write.clicked.connect(self._write)
        for made in self._states:
            made.clicked.connect(lambda _=False, chosen=made: self._only(chosen))

    @property
    def _states(self) -> tuple[QPushButton, ...]:
        return self.open, self.short, self.intermittent

    def _only(self, chosen: QPushButton) -> None:
        for other in self._states:
            if other is not chosen:
                other.setChecked(False)

    def show_line(self, line: PartLine | None) -> None:
        """Take another part in hand; what was typed for it but not written stays while it is the same part."""
        same = line is not None and self._line is not None and line.part.ref == self._line.part.ref
        self._line = line
        if not same:
            for edit in self.fields.values():
                edit.clear()
            for made in (self.circuit, *self._states):
                made.setChecked(False)
        self.setEnabled(line is not None and not line.fate)
        if line is None:
            return
        resistor = line.part.kind == "resistor"
        for key, edit in self.fields.items():
            shown = key in ("value", "warm") if resistor else key != "warm"
            edit.setVisible(shown)
            self._titles[key].setVisible(shown)
        self.fields["at"].setPlaceholderText(in_field(f"such as {line.part.working_volts or 400:g}"))
        self._warn()

    def take_focus(self) -> None:
        """Put the cursor where the next figure goes."""
        self.fields["value"].setFocus()

    def said(self) -> str:
        """Return what the fields say, as a jot without its designator."""
        text = {key: edit.text().strip() for key, edit in self.fields.items() if not edit.isHidden()}
        state = next((made.text().lower() for made in self._states if made.isChecked()), "")
        return said_of(text, self.circuit.isChecked(), state)

    def _warn(self) -> None:
        """Say before it is done that a voltage is above the rating."""
        line, volts = self._line, volts_typed(self.fields["at"].text())
        over = over_rating(volts, line.part) if line else ""
        self.caution.say(f"{over} Cover it, or test lower." if over else "")

    def _write(self) -> None:
        line, said = self._line, self.said()
        if line is None:
            return
        if not said:
            self._voice.refuse(f"Write first what was measured on {line.part.ref}; nothing was written.")
            return
        self._enter(f"{line.part.ref} {said}")

    def _enter(self, text: str) -> None:
        if self._line is not None and enter_line(
            self._line, text, in_hand=self._in_hand, writer=self._writer, voice=self._voice
        ):
            self._line = None  # what was typed is on disk now
            self.written.emit()


class DecidePanel(QWidget):
    """The restorer decides otherwise, and says why."""

    def __init__(self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice, shop: Shop) -> None:
        super().__init__()
        self._in_hand, self._writer, self._voice, self._shop = in_hand, writer, voice, shop
        self._line: PartLine | None = None
        self.words = label("", "text")
        self.reason = Field()
        self.reason.setPlaceholderText("why you decide otherwise")
        self.reason.setAccessibleName("Why you decide otherwise")
        self.keep = button("Keep it all the same", "Your own decision, for the reason written above")
        self.replace = button("Replace it all the same", "Your own decision, for the reason written above")
        self.back = button("Go by the figures", "Take your decision back")
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(6))
        column.addWidget(self.words)
        column.addWidget(self.reason)
        column.addLayout(flow(theme.px(8), self.keep, self.replace, self.back))
        column.addStretch()
        self.keep.clicked.connect(lambda: self._decide("keep"))
        self.replace.clicked.connect(lambda: self._decide("replace"))
        self.back.clicked.connect(self._take_back)

    def show_line(self, line: PartLine | None) -> None:
        """Take another part in hand."""
        if line is None or self._line is None or line.part.ref != self._line.part.ref:
            self.reason.clear()
        self._line = line
        self.setEnabled(line is not None and not line.fate)
        if line is None or line.verdict is None:
            self.words.setText("")
            return
        self.words.setText(f"Calculated: {line.verdict.action}. Your decision overrides it and is shown beside it.")
        self.back.setVisible(line.decided is not None)

    def _decide(self, action: str) -> None:
        line = self._line
        text = f"{line.part.ref} {action} {self.reason.text().strip()}" if line else ""
        if line is not None and enter_line(line, text, in_hand=self._in_hand, writer=self._writer, voice=self._voice):
            self.reason.clear()

    def _take_back(self) -> None:
        if self._line is not None:
            self._writer.do(parts_commands.decide(self._line.part.ref, ""))


def enter_line(line: PartLine, text: str, *, in_hand: JobInHand, writer: Writer, voice: Voice) -> bool:
    """Enter a jot about a part; False, with a sentence, where it cannot be."""
    job = in_hand.job
    if job is None:
        return False
    try:
        jot = understand(text, JotContext(parts={line.part.ref: line.part}))
        return isinstance(jot, PartJot | DecisionJot | LimitJot) and writer.jot(jot, text)
    except ValidationError as error:
        voice.refuse(f"{line.part.ref}: {error.errors()[0]['msg']}. Nothing was written.")
        return False
    except CandorError as error:
        voice.refuse(str(error))
        return False
