"""The standards we own: what each is good for, and how old its last check is."""

from __future__ import annotations

from PySide6.QtWidgets import QComboBox, QGridLayout, QHBoxLayout, QLineEdit, QPlainTextEdit, QVBoxLayout

from candor.core.errors import CandorError
from candor.core.quantities.show import trimmed
from candor.core.reference.reference import age
from candor.core.severity import Severity
from candor.desktop.bench.clock import Clock
from candor.desktop.bench.place import PlaceInHand
from candor.desktop.bench.shop import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.page import Page
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import Column, button, line
from candor.desktop.widgets.rows import Row, RowList
from candor.notebook.assessment import Standard
from candor.notebook.entries.shop import StandardRecorded
from candor.notebook.standards_text import read_standard, write_lines

FIELDS = (
    ("name", "Name", "bench meter A"),
    ("serial", "Serial number", ""),
    ("calibrated_on", "Last checked on", "2026-03-31, or empty: never"),
    ("valid_days", "Good for, days", "365"),
    ("traceability", "By whom, certificate no.", "laboratory, certificate, to what it is traceable"),
    ("drift_percent_per_year", "Drift allowed, % a year", "0, for a certificate"),
)
ROLES = {
    "meter": "a meter: each value is read from it",
    "source": "a source: it stands as set",
    "fixed part": "a fixed part: it has one value",
}
UNITS = {"V": "volts", "A": "amperes", "ohm": "ohms", "F": "farads", "H": "henries", "Hz": "hertz", "S": "siemens", "s": "seconds",
         "1": "a ratio"}  # fmt: skip
TIPS = {
    "role": "A meter's value must be typed, captured or confirmed at each reading; a source or a fixed part stands as set",
    "unit": "At a point of another quantity it decides nothing",
}
SHAPES = {"in date": "full", "expired": "half", "never checked": "ring"}


class StandardsPage(Page):
    """A list of standards and the one chosen, to read or to record anew."""

    def __init__(
        self, theme: Theme, place: PlaceInHand, writer: Writer, voice: Voice, shop: Shop, clock: Clock
    ) -> None:
        super().__init__()
        self._theme = theme
        self._place, self._writer, self._voice, self._shop, self._clock = place, writer, voice, shop, clock
        self._key = ""
        self.list = RowList(theme, "Standards")
        self.fields: dict[str, QLineEdit] = {}
        self.role, self.unit = QComboBox(), QComboBox()
        self.lines = QPlainTextEdit()
        self.lines.setAccessibleName("Specification or certificate, line by line")
        self.lines.setTabChangesFocus(True)
        self.lines.setPlaceholderText("to 10 V: 0.005 % + 0.001 % of range\nat 10 V: correction 0.0002 U 0.0004 k 2")
        self.record = button(
            "Record it", "Write the standard as it stands here; an older state is superseded", name="main"
        )
        self.another = button("Another standard", "Empty the fields for a new one")
        self._build()
        self.list.picked.connect(self._choose)
        self.record.clicked.connect(self._record)
        self.another.clicked.connect(lambda: self._choose(""))

    def _build(self) -> None:
        theme = self._theme
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        self.area = Column(theme.px(16), theme.px(7))
        inner = self.area.column
        inner.setContentsMargins(theme.px(18), theme.px(12), theme.px(16), theme.px(12))
        inner.addWidget(label("Standards", "heading", bold=True))
        inner.addWidget(label("What the readings are compared with. Recording one again keeps its history.", "soft"))
        inner.addWidget(self.list)
        inner.addWidget(line())
        grid = QGridLayout()
        grid.setHorizontalSpacing(theme.px(14))
        grid.setVerticalSpacing(theme.px(2))
        for index, (key, title, hint) in enumerate(FIELDS):
            edit = QLineEdit()
            edit.setPlaceholderText(hint)
            edit.setAccessibleName(title)
            self.fields[key] = edit
            row, place = 2 * (index // 2), index % 2
            grid.addWidget(label(title, "soft", wrap=False), row, place)
            grid.addWidget(edit, row + 1, place)
        row = 2 * (len(FIELDS) // 2)
        for place, (key, title, box, options) in enumerate(
            (("role", "It is", self.role, ROLES), ("unit", "Of a quantity in", self.unit, UNITS))
        ):
            for value, words in options.items():
                box.addItem(words, value)
            box.setAccessibleName(title)
            box.setToolTip(TIPS[key])
            grid.addWidget(label(title, "soft", wrap=False), row, place)
            grid.addWidget(box, row + 1, place)
        inner.addLayout(grid)
        inner.addWidget(label("Specification (“to 10 V: 0.005 % + 0.001 % of range + 2 x 0.1 mV”) or certificate "
                              "(“at 10 V: correction 0.2 mV U 0.4 mV k 2”), one line each", "soft"))  # fmt: skip
        self.lines.setMinimumHeight(theme.px(90))
        inner.addWidget(self.lines, 1)
        buttons = QHBoxLayout()
        buttons.addWidget(self.record)
        buttons.addWidget(self.another)
        buttons.addStretch()
        inner.addLayout(buttons)
        column.addWidget(self.area)

    def enter(self) -> None:
        """Show the standards there are."""
        current = self._current()
        if self._key not in [s.body.key for s in current]:
            self._key = current[0].body.key if current else ""
        self._choose(self._key)
        self.list.setFocus()

    def _current(self) -> list[Standard]:
        return [s for s in self._shop.standards.values() if s.current]

    def _choose(self, key: str) -> None:
        self._key = key
        today = self._clock.now().date()
        rows = []
        for standard in self._current():
            how_old = age(standard.reference, today)
            rows.append(
                Row(
                    standard.body.key, standard.body.name, how_old.sentence, SHAPES[how_old.state], says=how_old.state
                )
            )
        self.list.show_rows(tuple(rows), key)
        self.list.fit(6)
        chosen = next((s.body for s in self._current() if s.body.key == key), None)
        for name, edit in self.fields.items():
            value = getattr(chosen, name) if chosen else None
            edit.setText("" if value is None else trimmed(value) if isinstance(value, float) else str(value))
            edit.setCursorPosition(0)
        self.role.setCurrentIndex(max(self.role.findData(chosen.role if chosen else "meter"), 0))
        self.unit.setCurrentIndex(max(self.unit.findData(chosen.unit if chosen else "V"), 0))
        self.lines.setPlainText(write_lines(chosen) if chosen else "")
        if not chosen:
            self.fields["valid_days"].setText("365")
            self.fields["name"].setFocus()
        self.explainAsked.emit()

    def _record(self) -> None:
        try:
            body = self._body()
        except CandorError as error:
            self._voice.refuse(str(error))
            return
        if self._writer.write_shop(body):
            self._voice.say(f"{body.name} is recorded.", Severity.DONE)
            self._choose(body.key)

    def _body(self) -> StandardRecorded:
        text = {name: edit.text().strip() for name, edit in self.fields.items()}
        older = next((s.body for s in self._current() if s.body.key == self._key), None)
        return read_standard(
            text, self.lines.toPlainText(), role=self.role.currentData(), unit=self.unit.currentData(), older=older,
            today=self._clock.now().date(),
        )  # fmt: skip

    def explain(self, because: Because) -> None:
        """Say how the chosen standard enters a budget."""
        because.show_whole(None)
        chosen = next((s for s in self._current() if s.body.key == self._key), None)
        if chosen is None:
            words = [
                "A standard is written here once and again after each check. Without one nothing can be decided.",
                "A specification is taken as rectangular, a certificate as U/k plus a rectangular drift.",
            ]
            because.show_words("No standard chosen", words, "ring")
            return
        how_old = age(chosen.reference, self._clock.now().date())
        kind = "Its certificate enters as U/k, corrected, with the drift allowed since." if chosen.body.points else (
            "Its specification enters as a rectangular term, u = a/√3 (JCGM 100, 4.3.7).")  # fmt: skip
        words = [
            how_old.sentence,
            f"{ROLES[chosen.body.role].capitalize()}. {TIPS['role']}.",
            kind,
            chosen.body.traceability or "No traceability is stated.",
            f"Entry {chosen.entry.number}. An expired standard may be used: the certificate says so on page one.",
        ]
        because.show_words(how_old.state.capitalize(), words, SHAPES[how_old.state])
