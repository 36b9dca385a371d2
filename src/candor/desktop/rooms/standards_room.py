"""The standards we own and chains of them: what each is good for, how old its last check is, and what hangs on it."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping

from PySide6.QtWidgets import QCheckBox, QComboBox, QHBoxLayout, QLineEdit, QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.core.quantities.show import trimmed
from candor.core.severity import Severity
from candor.desktop.bench.clock import Clock
from candor.desktop.bench.place import PlaceInHand
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.local_numbers import in_field
from candor.desktop.frame.page import Page
from candor.desktop.frame.theme import Theme, label
from candor.desktop.rooms.standard_checks import StandardChecks
from candor.desktop.rooms.standard_lines import StandardLines
from candor.desktop.widgets.controls import Column, button, line
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.link_tools import LinkTools
from candor.desktop.widgets.row_list import Row, RowList
from candor.notebook.standards.chain_text import newest, read_chain, write_chain
from candor.notebook.standards.standards import Recording, Standard, history_of, is_chain, links_of, name_of
from candor.notebook.standards.standards_text import lines_of_whole, read_standard
from candor.notebook.standards.usual_classes import USUAL_CLASSES, UsualClass
from candor.sitting.commands import shop_commands
from candor.words.step_words import out_of_service

# Key, title, what stands in it while it is empty, and its width in px at the text size as designed.
FIELDS = (
    ("name", "Name", "bench meter A", 196),
    ("role", "It is", "", 300),
    ("serial", "Serial number", "", 190),
    ("calibrated_on", "Last checked on", "2026-03-31; empty: never", 196),
    ("valid_days", "Good for, days", "365", 110),
    ("traceability", "By whom, certificate no.", "laboratory, certificate, to what traceable", 380),
    ("drift_percent_per_year", "Drift, % a year", "0", 120),
    ("bears", "Maximum input", "600 V, 400 V to earth", 178),
    ("holds", "Holds at", "18 to 28 °C", 170),
    ("link", "On a link", "a VISA name, or simulated", 208),
)
WHOLE = ("bears", "holds")  # fields that say lines of it whole
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
        self.record = button(
            "Record it", "Record the standard as shown here; it replaces the earlier record", name="main"
        )
        self.another = button("Another standard", "Empty the fields for a new one, or a chain")
        self.typical = QCheckBox("typical: replace by your own meter's figures")
        self.typical.setAccessibleName("Typical")
        self.typical.setToolTip("Figures usual for its class: page one says so, and nothing it decides counts as 4:1")
        self.good_for = StandardLines(theme, self.record, voice=voice)
        self.checks = StandardChecks(theme, writer=writer, voice=voice, shop=shop, clock=clock)
        self._build()
        self.list.picked.connect(self._choose)
        self.list.deeds = (self.checks.check, self.checks.withdraw)
        self.record.clicked.connect(self._record)
        self.another.clicked.connect(lambda: self._choose(""))
        self.role.currentIndexChanged.connect(self._show_kind)
        self.good_for.started.connect(self._start_from)
        self.checks.written.connect(lambda: self._choose(self._key))
        self.checks.counted.connect(self.explainAsked)

    def _build(self) -> None:
        theme = self._theme
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        self.area = Column(theme.px(16), theme.px(7))
        inner = self.area.column
        inner.setContentsMargins(theme.px(18), theme.px(12), theme.px(16), theme.px(12))
        head = QHBoxLayout()
        head.addWidget(label("Standards", "heading", bold=True), 1)
        head.addWidget(self.another)
        inner.addLayout(head)
        inner.addWidget(
            label(
                "What your readings are compared with. Recording one again keeps its history.",
                "soft",
            )
        )
        inner.addWidget(self.list)
        inner.addWidget(line())
        for value, words in ROLES.items():
            self.role.addItem(words, value)
        self.role.setAccessibleName("It is")
        self.role.setToolTip(TIPS["role"])
        cells = []
        for key, title, hint, width in FIELDS:
            edit = self.role if key == "role" else QLineEdit()
            if isinstance(edit, QLineEdit):
                edit.setPlaceholderText(in_field(hint))
                edit.setAccessibleName(title)
                self.fields[key] = edit
            cells.append(self._cell(title, edit, width))
        inner.addLayout(flow(theme.px(10), *cells))
        self.tools = LinkTools(theme, self.fields["link"])
        inner.addWidget(self.tools)
        inner.addWidget(self.good_for)
        inner.addWidget(self.typical)
        inner.addWidget(self.checks)
        inner.addStretch(1)
        column.addWidget(self.area)

    def _cell(self, title: str, edit: QWidget, width: int) -> QWidget:
        cell = QWidget()
        cell.setFixedWidth(self._theme.px(width))
        under = QVBoxLayout(cell)
        under.setContentsMargins(0, 0, 0, 0)
        under.setSpacing(self._theme.px(2))
        under.addWidget(label(title, "soft", wrap=False))
        under.addWidget(edit)
        return cell

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
            words = out_of_service(standard) if standard.withdrawn else standard.fault or how_old.sentence
            shape = "cross" if standard.withdrawn or standard.fault else SHAPES[how_old.state]
            rows.append(Row(standard.body.key, standard.name, words, shape, says=how_old.state))
        self.list.show_rows(tuple(rows), key)
        self.list.fit(3)
        chosen = self._chosen()
        body = chosen.body if chosen else None
        for name, edit in self.fields.items():
            value = getattr(body, name, None)
            edit.setText("" if value is None else trimmed(value) if isinstance(value, float) else str(value))
            edit.setCursorPosition(0)
        role = "meter" if body is None else CHAIN if is_chain(body) else body.role
        self.role.setCurrentIndex(max(self.role.findData(role), 0))
        self._show_kind()
        self.typical.setChecked(body is not None and not is_chain(body) and body.typical)
        for name, whole in zip(
            WHOLE, ("", "") if body is None or is_chain(body) else lines_of_whole(body), strict=True
        ):
            self.fields[name].setText(whole)
        if is_chain(body):
            self.good_for.show_chain(write_chain(body, self._shop.standards))
        else:
            self.good_for.show_functions(body.functions if body is not None else ())
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
        self.typical.setVisible(not chain)
        self.tools.setVisible(not chain)
        self.good_for.show_kind(chain)

    def _start_from(self, usual: UsualClass) -> None:
        """Begin with what is usual for a class: marked as such, until the figures of the meter itself are there."""
        self.role.setCurrentIndex(self.role.findData(usual.role))
        self.typical.setChecked(True)
        if self.fields["name"].text().strip() in ("", *(other.name for other in USUAL_CLASSES)):
            self.fields["name"].setText(usual.name)

    def _record(self) -> None:
        chosen = self._chosen()
        try:
            body = self._body()
        except CandorError as error:
            self.good_for.say(str(error))
            self._voice.refuse(str(error))
            return
        older = chosen.entry.id if chosen is not None else ""
        recording = shop_commands.record_standard(body, older, self._shop.standards)
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
            return read_chain(name, self.good_for.lines(), newest(self._shop.standards.values()), key)
        text = {name: edit.text().strip() for name, edit in self.fields.items()}
        whole = [f"{word} {text[word]}" for word in WHOLE if text[word]]
        return read_standard(
            text, "\n".join((*whole, self.good_for.lines())), role=self.role.currentData(),
            older=None if is_chain(older) else older, today=self._clock.now().date(),
            is_typical=self.typical.isChecked(),
        )  # fmt: skip

    def finish(self) -> None:
        """Stop counting, and looking for instruments."""
        self.checks.work.finish()
        self.tools.finish()

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
            "Out of service" if chosen.withdrawn else how_old.state.capitalize(),
            [
                *([f"{chosen.name} is {out_of_service(chosen)}."] if chosen.withdrawn else []),
                how_old.sentence,
                *about_standard(chosen, self._shop.standards, self._clock.now().date()),
                *self.checks.words(),
                *history_of(chosen.body.key, self._shop.standards),
            ],
            "cross" if chosen.withdrawn else SHAPES[how_old.state],
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
