"""May it be powered: the list, what is still missing, and each check written where it stands."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.core.jot.power_line import understand_power
from candor.core.jot.power_meaning import RailOhmsJot, WindingJot
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.rows import Row, RowList
from candor.notebook.entries.parts import BarOverridden
from candor.notebook.entries.power import PowerChecked
from candor.notebook.may_power import PowerItem, open_items, power_list
from candor.notebook.powering import power_bodies

SHAPES = {"good": "full", "missing": "ring", "bad": "cross", "does not apply": "skipped"}
OUTCOMES = (("good", "As it should be", "It was looked at, and is so"), ("bad", "It is not", "It was looked at, "
    "and is not so: no power"),
            ("does not apply", "Does not apply", "This instrument has none, or it is of no matter here"))  # fmt: skip


class MayList(QWidget):
    """The list before power.

    Signals
    -------
    chosenAnew()
        Another line is in hand.
    """

    chosenAnew = Signal()

    def __init__(self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice) -> None:
        super().__init__()
        self._in_hand, self._writer, self._voice = in_hand, writer, voice
        self._chosen = ""
        self.summary = label("", "heading", bold=True)
        self.list = RowList(theme, "May it be powered", wrap=True)
        self.ask = label("", "text")
        self.text = Field()
        self.text.setPlaceholderText("what was seen or measured; 45k by manual 50k for a rail")
        self.text.setAccessibleName("What was seen or measured")
        self.outcomes = {key: button(title, tip) for key, title, tip in OUTCOMES}
        self.reason = Field()
        self.reason.setPlaceholderText(
            "why it may see power although a check is missing; it stands on page one of the certificate"
        )
        self.reason.setAccessibleName("Why it may see power although a check is missing")
        self.override = button("Override", "Power although not every check was made, for the reason written")
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(7))
        for widget in (self.summary, self.list, self.ask, self.text):
            column.addWidget(widget)
        column.addLayout(flow(theme.px(8), *self.outcomes.values()))
        row = QHBoxLayout()
        row.addWidget(self.reason, 1)
        row.addWidget(self.override)
        column.addLayout(row)
        column.addStretch()
        self.list.picked.connect(self.choose)
        self.text.returnPressed.connect(lambda: self._settle("good"))
        self.override.clicked.connect(self._override)
        for key, made in self.outcomes.items():
            made.clicked.connect(lambda _=False, outcome=key: self._settle(outcome))

    def items(self) -> tuple[PowerItem, ...]:
        """The list as it stands."""
        job = self._in_hand.job
        return power_list(job, self._in_hand.parts()) if job is not None else ()

    def item(self) -> PowerItem | None:
        """The line in hand."""
        return next((i for i in self.items() if i.key == self._chosen), None)

    def show_job(self) -> None:
        """Show how the list stands; the first open line is in hand where none is."""
        job, items = self._in_hand.job, self.items()
        if job is None:
            return
        still = open_items(job, self._in_hand.parts())
        if self._chosen not in [i.key for i in items]:
            self._chosen = next((i.key for i in items if i.is_open), items[0].key if items else "")
        bad = sum(i.state == "bad" for i in still)
        words = f"Not yet: {len(still)} open" + (f", {bad} not as it should be" if bad else "")
        self.summary.setText(words if still else "It may be powered, as far as was looked.")
        rows = [
            Row(
                i.key, i.title, i.words if i.state != "missing" else "", SHAPES[i.state], strong=i.key == self._chosen
            )
            for i in items
        ]
        self.list.show_rows(tuple(rows), self._chosen)
        self.list.fit(len(rows))
        item = self.item()
        by_hand = item is not None and item.by_hand
        self.ask.setText(item.words if item is not None else "")
        self.text.setVisible(by_hand)
        for key, made in self.outcomes.items():
            made.setVisible(by_hand and not (key != "good" and item is not None and _is_measured(item)))
        overridable = bool(still) and all(i.by_hand for i in still)
        self.reason.setVisible(overridable)
        self.override.setVisible(overridable)

    def choose(self, key: str) -> None:
        """Take a line in hand."""
        self._chosen = key
        self.show_job()
        if self.text.isVisible():
            self.text.setFocus()
        self.chosenAnew.emit()

    def _settle(self, outcome: str) -> None:
        item, text = self.item(), self.text.text().strip()
        if item is None or not item.by_hand:
            return
        if _is_measured(item) or (item.key == "rails" and outcome == "good"):
            if not self._measured(item, text):
                return
        elif outcome == "bad" and not text:
            self._voice.refuse("Write first what is not as it should be; nothing was written.")
            self.text.setFocus()
            return
        elif not self._writer.write(
            PowerChecked.model_validate({"item": item.key, "outcome": outcome, "text": text})
        ):
            return
        self.text.clear()
        self._next(item.key)

    def _measured(self, item: PowerItem, text: str) -> bool:
        """Write the ohms of a rail or a winding from the field."""
        verb, _, name = item.key.partition(" ")
        said = f"winding {name} {text}" if verb == "winding" else f"chassis {name} {text}"
        try:
            jot = understand_power(said)
        except CandorError as error:
            self._voice.refuse(error)
            return False
        if not isinstance(jot, RailOhmsJot | WindingJot):
            example = "140 ohm" if verb == "winding" else "45k by manual 50k" if name else "b1 45k by manual 50k"
            self._voice.refuse(f"That is no resistance of a {verb.rstrip('s')}; expected such as: {example}")
            return False
        return self._writer.write(*power_bodies(jot))

    def _next(self, key: str) -> None:
        """Go on to the next open line."""
        items = self.items()
        after = (
            [i.key for i in items][[i.key for i in items].index(key) + 1 :] if key in [i.key for i in items] else []
        )
        self.choose(next((i.key for i in items if i.is_open and i.key in after), key))

    def _override(self) -> None:
        reason = self.reason.text().strip()
        if not reason:
            self._voice.refuse("Write first why it may see power; nothing was written.")
            self.reason.setFocus()
        elif self._writer.write(BarOverridden(bar="checks", reason=reason)):
            self.reason.clear()

    def explain(self, because: Because) -> None:
        """Say what the line in hand asks for and why."""
        item = self.item()
        because.show_whole(None)
        if item is None:
            because.show_words("May it be powered", ["Open a job first."])
            return
        where = "" if item.by_hand else " It is settled at Arrive or at Parts."
        closing = "Local codes and licensed practice come first; this list advises, it does not certify safety."
        because.show_words(item.title, [f"{item.words.rstrip('.')}.{where}", closing], SHAPES[item.state])


def _is_measured(item: PowerItem) -> bool:
    return item.key.startswith(("rail ", "winding "))
