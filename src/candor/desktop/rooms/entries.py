"""Entries: every line of the job as it was written, struck ones included."""

from __future__ import annotations

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import QLineEdit, QVBoxLayout

from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.place import PlaceInHand
from candor.desktop.bench.shop import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.page import Page
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import button, shortcut
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.rows import Row, RowList
from candor.notebook.entries.entry import AnyEntry
from candor.notebook.entries.kinds import in_words
from candor.notebook.work.facts import facts_in_words
from candor.notebook.work.job import may_strike
from candor.sitting.commands import stay


class EntriesPage(Page):
    """The notebook in ink: what certificates refer to by number."""

    def __init__(
        self, theme: Theme, in_hand: JobInHand, place: PlaceInHand, writer: Writer, voice: Voice, shop: Shop
    ) -> None:
        super().__init__()
        self._in_hand, self._place, self._writer, self._voice, self._shop = in_hand, place, writer, voice, shop
        self._chosen = ""
        self.title = label("", "heading", bold=True)
        self.words = label(
            "Certificates refer to these by number. A struck entry stays readable but no longer counts.", "soft"
        )
        self.search = QLineEdit()
        self.search.setPlaceholderText("a number, or words to look for")
        self.search.setAccessibleName("Look for entries")
        self.search.setClearButtonEnabled(True)
        self.list = RowList(theme, "Entries")
        self.strike = button("Strike", "Strike the entry chosen out; it stays readable", "Del")
        self.unstrike = button("Let it stand", "Take the strike of the entry chosen back")
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(18), theme.px(12), theme.px(16), theme.px(12))
        column.setSpacing(theme.px(8))
        for widget in (self.title, self.words, self.search):
            column.addWidget(widget)
        column.addWidget(self.list, 1)
        column.addLayout(flow(theme.px(8), self.strike, self.unstrike))
        self.search.textChanged.connect(lambda _: self._show())
        self.list.picked.connect(self._choose)
        self.list.currentItemChanged.connect(self._follow)
        self.strike.clicked.connect(self._strike)
        self.unstrike.clicked.connect(self._unstrike)
        in_hand.changed.connect(self._refresh)
        shortcut(self, "Del", self.strike.click)

    def enter(self) -> None:
        """Show every entry, the newest in view."""
        job = self._in_hand.job
        if job is not None and self.entry() is None and job.entries:
            self._chosen = job.entries[-1].id
        self._show()
        QTimer.singleShot(0, self.list.scrollToBottom)
        self.list.setFocus(Qt.FocusReason.OtherFocusReason)

    def entry(self) -> AnyEntry | None:
        """Return the entry chosen."""
        job = self._in_hand.job
        return next((e for e in job.entries if e.id == self._chosen), None) if job else None

    def _refresh(self) -> None:
        if self.isVisible():
            self._show()

    def _show(self) -> None:
        job = self._in_hand.job
        name = f"{job.name or 'a job that cannot be read'} {job.serial}".rstrip() if job else ""
        self.title.setText(f"Entries of {name}" if job else "No job is open")
        rows = tuple(row for row in map(self._row, job.entries) if self._wanted(row)) if job else ()
        self.list.show_rows(rows, self._chosen)
        self._name_buttons()

    def _row(self, entry: AnyEntry) -> Row:
        job = self._in_hand.job
        numbers = self._numbers()
        struck = job is not None and entry.id in job.struck
        moment = f"{entry.at.astimezone():%Y-%m-%d %H:%M}"
        text = f"{entry.number}   {in_words(entry, numbers)}"
        under = f"{moment}, {entry.who}{', struck' if struck else ''}"
        return Row(entry.id, text, under, struck=struck)

    def _numbers(self) -> dict[str, int]:
        job = self._in_hand.job
        own = {e.id: e.number for e in job.entries} if job else {}
        return {**{s.entry.id: s.entry.number for s in self._shop.standards.values()}, **own}

    def _wanted(self, row: Row) -> bool:
        sought = self.search.text().strip().lower()
        if sought.isdigit():
            return row.text.split()[0] == sought
        return sought in row.text.lower()

    def _choose(self, key: str) -> None:
        self._chosen = key
        self._name_buttons()
        self.explainAsked.emit()

    def _follow(self) -> None:
        item = self.list.currentItem()
        if item is not None and self.list.hasFocus():
            self._chosen = item.data(Qt.ItemDataRole.UserRole).key
            self._name_buttons()

    def _name_buttons(self) -> None:
        job, entry = self._in_hand.job, self.entry()
        struck = job is not None and entry is not None and entry.id in job.struck
        strikable = job is not None and entry is not None and may_strike(entry)
        self.strike.setEnabled(strikable and not struck)
        self.unstrike.setEnabled(struck)

    def _strike(self) -> None:
        entry = self.entry()
        if entry is not None and self._writer.do(stay.strike(entry)):
            self._voice.say(f"Entry {entry.number} struck.")

    def _unstrike(self) -> None:
        entry = self.entry()
        if entry is not None and self._writer.do(stay.unstrike(entry)):
            self._voice.say(f"Entry {entry.number} stands again.")

    def explain(self, because: Because) -> None:
        """Say all of the entry chosen."""
        because.show_whole(None)
        entry, job = self.entry(), self._in_hand.job
        if entry is None or job is None:
            words = ["Choose a line to see all of it. Type a number above to find what a certificate refers to."]
            because.show_words("Every line, in order", words)
            return
        said = "\n".join(facts_in_words(entry.body, self._numbers()))
        words = [f"{entry.at.astimezone():%Y-%m-%d %H:%M:%S}, {entry.who}.", said]
        state = "struck" if entry.id in job.struck else entry.body.kind.replace("_", " ")
        because.show_words(f"Entry {entry.number}, {state}", words, "skipped" if entry.id in job.struck else "")
