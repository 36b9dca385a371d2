"""The standards we own and chains of them: what each is good for, how old its last check is, and what hangs on it."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping

from PySide6.QtWidgets import QComboBox, QGridLayout, QHBoxLayout, QLineEdit, QPlainTextEdit, QVBoxLayout

from candor.core.errors import CandorError
from candor.core.quantities.show import trimmed
from candor.core.severity import Severity
from candor.desktop.bench.clock import Clock
from candor.desktop.bench.place import PlaceInHand
from candor.desktop.bench.shop import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.page import Page
from candor.desktop.frame.theme import Theme, label
from candor.desktop.rooms.standard_checks import StandardChecks
from candor.desktop.widgets.controls import Column, button, line
from candor.desktop.widgets.rows import Row, RowList
from candor.notebook.standards.chain_text import newest, read_chain, write_chain
from candor.notebook.standards.standards import Recording, Standard, history_of, is_chain, links_of, name_of
from candor.notebook.standards.standards_text import read_standard, write_standard_lines
from candor.sitting.commands import shop

FIELDS = (
    ("name", "Name", "bench meter A"),
    ("serial", "Serial number", ""),
    ("calibrated_on", "Last checked on", "2026-03-31, or empty: never"),
    ("valid_days", "Good for, days", "365"),
    ("traceability", "By whom, certificate no.", "laboratory, certificate, to what it is traceable"),
    ("drift_percent_per_year", "Drift allowed, % a year", "0, for a certificate"),
    ("link", "On a link", "a VISA name, or simulated; empty: read by eye"),
)
CHAIN = "chain"
ROLES = {
    "meter": "a meter: each value is read from it",
    "source": "a source: it stands as set",
    "fixed part": "a fixed part: it has one value",
    "box": "a box of steps: it stands as set",
    CHAIN: "a chain: standards joined by a formula",
}
TIPS = {
    "role": "You type, capture or confirm a meter's value at each reading; a source or a fixed part keeps its set value",
}
SHAPES = {"in date": "full", "expired": "half", "never checked": "ring"}
HINT = (
    "What it is good for: a heading for each quantity (V d.c. · V a.c., rms responding · ohm · F …), then a line for each range: "
    "“to 10 V: 0.005 % + 0.001 % of range”, “40 Hz to 1 kHz, to 10 V: 0.2 %”, or of a certificate “at 10 V: "
    "correction 0.2 mV U 0.4 mV k 2”. What it bears in a line of its own: “bears 600 V, 400 V to earth”."
)
CHAIN_HINT = "Its formula and what comes out, then a line for every name; the one without a value is read each time."
PLACEHOLDERS = {
    False: "V d.c., loads 10M\nto 10 V: 0.005 % + 0.001 % of range\nohm\nat 4.7 kohm: correction 2 U 1 k 2",
    True: "= V / R in A d.c.\nV: bench meter A, V d.c.\nR: shunt, ohm",
}


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
        self.role = QComboBox()
        self.hint = label(HINT, "soft")
        self.lines = QPlainTextEdit()
        self.lines.setAccessibleName("What it is good for, line by line")
        self.lines.setTabChangesFocus(True)
        self.record = button(
            "Record it", "Record the standard as shown here; it replaces the earlier record", name="main"
        )
        self.another = button("Another standard", "Empty the fields for a new one, or a chain")
        self.checks = StandardChecks(theme, writer=writer, voice=voice, shop=shop, clock=clock)
        self._build()
        self.list.picked.connect(self._choose)
        self.record.clicked.connect(self._record)
        self.another.clicked.connect(lambda: self._choose(""))
        self.role.currentIndexChanged.connect(self._show_kind)
        self.checks.written.connect(lambda: self._choose(self._key))
        self.checks.counted.connect(self.explainAsked)

    def _build(self) -> None:
        theme = self._theme
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        self.area = Column(theme.px(16), theme.px(7))
        inner = self.area.column
        inner.setContentsMargins(theme.px(18), theme.px(12), theme.px(16), theme.px(12))
        inner.addWidget(label("Standards", "heading", bold=True))
        inner.addWidget(
            label(
                "What your readings are compared with. Recording one again keeps its history.",
                "soft",
            )
        )
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
        row, place = 2 * (len(FIELDS) // 2), len(FIELDS) % 2
        for value, words in ROLES.items():
            self.role.addItem(words, value)
        self.role.setAccessibleName("It is")
        self.role.setToolTip(TIPS["role"])
        grid.addWidget(label("It is", "soft", wrap=False), row, place)
        grid.addWidget(self.role, row + 1, place)
        inner.addLayout(grid)
        inner.addWidget(self.hint)
        self.lines.setMinimumHeight(theme.px(90))
        inner.addWidget(self.lines, 1)
        buttons = QHBoxLayout()
        buttons.addWidget(self.record)
        buttons.addWidget(self.another)
        buttons.addStretch()
        inner.addLayout(buttons)
        inner.addWidget(self.checks)
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
            how_old = standard.age(today)
            words = (
                f"out of service: {standard.withdrawn}" if standard.withdrawn else standard.fault or how_old.sentence
            )
            shape = "cross" if standard.withdrawn or standard.fault else SHAPES[how_old.state]
            rows.append(Row(standard.body.key, standard.name, words, shape, says=how_old.state))
        self.list.show_rows(tuple(rows), key)
        self.list.fit(4)
        chosen = self._chosen()
        body = chosen.body if chosen else None
        for name, edit in self.fields.items():
            value = getattr(body, name, None)
            edit.setText("" if value is None else trimmed(value) if isinstance(value, float) else str(value))
            edit.setCursorPosition(0)
        role = "meter" if body is None else CHAIN if is_chain(body) else body.role
        self.role.setCurrentIndex(max(self.role.findData(role), 0))
        self._show_kind()
        if body is None:
            self.lines.setPlainText("")
        elif is_chain(body):
            self.lines.setPlainText(write_chain(body, self._shop.standards))
        else:
            self.lines.setPlainText(write_standard_lines(body))
        if not chosen:
            self.fields["valid_days"].setText("365")
            self.fields["name"].setFocus()
        self.checks.show_standard(chosen)
        self.explainAsked.emit()

    def _chosen(self) -> Standard | None:
        return next((s for s in self._current() if s.body.key == self._key), None)

    def _show_kind(self) -> None:
        """A chain has a name and a formula; the other fields are its links'."""
        chain = self.role.currentData() == CHAIN
        for name, edit in self.fields.items():
            edit.setEnabled(not chain or name == "name")
        self.hint.setText(CHAIN_HINT if chain else HINT)
        self.lines.setPlaceholderText(PLACEHOLDERS[chain])

    def _record(self) -> None:
        chosen = self._chosen()
        try:
            body = self._body()
        except CandorError as error:
            self._voice.refuse(str(error))
            return
        older = chosen.entry.id if chosen is not None else ""
        recording = shop.record_standard(body, older, self._shop.standards)
        if not self._writer.do(recording):
            return
        again = [name_of(d.body) for d in recording.drafts[1:]]
        words = f" Recorded again with it: {', '.join(again)}." if again else ""
        jobs = self._shop.read_against(body.key, chains=False) if older else ()
        if jobs:
            words += (
                f" {', '.join(jobs)} will be read against what it is now; readings taken before keep what it was."
            )
        self._voice.say(f"{body.name} is recorded.{words}", Severity.DONE)
        self._choose(body.key)

    def _body(self) -> Recording:
        chosen = self._chosen()
        older = chosen.body if chosen else None
        if self.role.currentData() == CHAIN:
            key = older.key if is_chain(older) else ""
            name = self.fields["name"].text().strip()
            return read_chain(name, self.lines.toPlainText(), newest(self._shop.standards.values()), key)
        text = {name: edit.text().strip() for name, edit in self.fields.items()}
        return read_standard(
            text, self.lines.toPlainText(), role=self.role.currentData(),
            older=None if is_chain(older) else older, today=self._clock.now().date(),
        )  # fmt: skip

    def finish(self) -> None:
        """Stop counting."""
        self.checks.work.finish()

    def explain(self, because: Because) -> None:
        """Say how the chosen standard enters a budget, and what hangs on it."""
        because.show_whole(None)
        chosen = self._chosen()
        if chosen is None:
            words = [
                "A standard is written here once and again after each check. Without one nothing can be decided.",
                "A specification is taken as rectangular, a certificate as U/k plus a rectangular drift.",
                "A chain joins several by a formula: a current is a voltage over a measured resistor.",
            ]
            because.show_words("No standard chosen", words, "ring")
            return
        how_old = chosen.age(self._clock.now().date())
        because.show_words(
            how_old.state.capitalize(),
            [
                how_old.sentence,
                *about_standard(chosen, self._shop.standards, self._clock.now().date()),
                *self.checks.words(),
                *history_of(chosen.body.key, self._shop.standards),
            ],
            SHAPES[how_old.state],
        )


def about_standard(standard: Standard, known: Mapping[str, Standard], on: dt.date) -> list[str]:
    """Say what a standard is, how it enters a budget, and where it is written."""
    body = standard.body
    if is_chain(body):
        links = ", ".join(known[x.standard].name for x in body.links if x.standard in known)
        return [
            f"A chain: {body.formula}, of {links}. Every link brings its own uncertainty; what two share adds up.",
            *links_of(standard, on),
            standard.fault or f"Entry {standard.entry.number}.",
        ]
    certified = any(f.points for f in body.functions)
    return [
        f"{ROLES[body.role].capitalize()}. {TIPS['role']}.",
        "Its certificate enters as U/k, corrected, with the drift allowed since."
        if certified
        else "Its specification enters as a rectangular term, u = a/√3 (JCGM 100, 4.3.7).",
        body.traceability or "No traceability is stated.",
        *(
            [f"Its maximum input is {trimmed(body.most_volts)} V. Steps that exceed it are blocked."]
            if body.most_volts
            else []
        ),
        f"Entry {standard.entry.number}. You may use an expired standard; page one of the certificate will say so.",
    ]
