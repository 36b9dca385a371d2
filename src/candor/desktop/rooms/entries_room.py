"""Entries: every line of the job as it was written, struck ones included."""

from __future__ import annotations

import time
from collections.abc import Iterator, Sequence

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import QHBoxLayout, QLineEdit, QVBoxLayout

from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.place import PlaceInHand
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.page import Page
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import button, shortcut
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.long_list import LongList
from candor.desktop.widgets.order_choice import OrderChoice
from candor.desktop.widgets.row_list import Row
from candor.notebook.entries.entry import AnyEntry
from candor.notebook.work.facts import facts_in_words
from candor.notebook.work.job import may_strike
from candor.notebook.work.lookup import Lookup
from candor.sitting.commands import stay_commands

WORDS = "Certificates refer to these by number. A struck entry stays readable but no longer counts."
SLICE_S = 0.012  # of looking through entries at a time: less than a frame


class EntriesPage(Page):
    """The notebook in ink: what certificates refer to by number."""

    def __init__(
        self, theme: Theme, in_hand: JobInHand, place: PlaceInHand, writer: Writer, voice: Voice, shop: Shop
    ) -> None:
        super().__init__()
        self._in_hand, self._place, self._writer, self._voice, self._shop = in_hand, place, writer, voice, shop
        self._chosen = ""
        self.title = label("", "heading", bold=True)
        self.words = label(WORDS, "soft")
        self.search = QLineEdit()
        self.search.setPlaceholderText("a number, or words to look for")
        self.search.setAccessibleName("Look for entries")
        self.search.setClearButtonEnabled(True)
        self.order = OrderChoice("Order of the entries", ("oldest first", "newest first"))
        self.list = LongList(theme, "Entries")
        self._lookup, self._pack = Lookup(), in_hand.pack
        self._found: list[int] = []
        self._ahead: Iterator[int] = iter(())
        self._slices = QTimer(self)
        self._slices.setSingleShot(True)
        self.strike = button("Strike", "Strike the entry chosen out; it stays readable", "Del")
        self.unstrike = button("Let it stand", "Take the strike of the entry chosen back")
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(18), theme.px(12), theme.px(16), theme.px(12))
        column.setSpacing(theme.px(8))
        for widget in (self.title, self.words):
            column.addWidget(widget)
        row = QHBoxLayout()
        row.addWidget(self.search, 1)
        row.addWidget(self.order)
        column.addLayout(row)
        column.addWidget(self.list, 1)
        column.addLayout(flow(theme.px(8), self.strike, self.unstrike))
        self.search.textChanged.connect(lambda _: self._show())
        self.order.changed.connect(self.enter)
        self._slices.timeout.connect(lambda: self._slice(self.search.text().strip().lower()))
        self.list.picked.connect(self._choose)
        self.list.moved.connect(self._follow)
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
        newest = self.list.scrollToBottom if self.order.choice == "oldest first" else self.list.scrollToTop
        QTimer.singleShot(0, self.list, newest)
        self.list.setFocus(Qt.FocusReason.OtherFocusReason)

    def entry(self) -> AnyEntry | None:
        """Return the entry chosen."""
        self._take()
        place = self._lookup.place(self._chosen)
        return self._lookup.entries[place] if place is not None else None

    def _take(self) -> None:
        job = self._in_hand.job
        entries = job.entries if job is not None else ()
        if entries is not self._lookup.entries or self._in_hand.pack is not self._pack:
            others = {s.entry.id: s.entry.number for s in self._shop.standards.values()}
            self._pack = self._in_hand.pack
            self._lookup.take(entries, others, self._pack)

    def _refresh(self) -> None:
        if self.isVisible():
            self._show()

    def _show(self) -> None:
        job = self._in_hand.job
        name = f"{job.name or 'a job that cannot be read'} {job.serial}".rstrip() if job else ""
        self.title.setText(f"Entries of {name}" if job else "No job is open")
        self._take()
        self._look()
        self._name_buttons()

    # --- looking --------------------------------------------------------------------------------------

    def _look(self) -> None:
        """Show every entry; of those that are looked for the ones found so far, the rest in slices that nobody waits for."""
        sought, everything = self.search.text().strip().lower(), range(len(self._lookup.entries))
        self._slices.stop()
        if not sought:
            self._show_found(everything)
        elif sought.isdigit():
            place = self._lookup.numbered(int(sought))
            self._show_found(() if place is None else (place,))
        else:
            self._found, self._ahead = [], iter(everything)
            self._slice(sought)

    def _slice(self, sought: str) -> None:
        until, found, looked = time.perf_counter() + SLICE_S, len(self._found), 0
        for place in self._ahead:
            looked = place + 1
            if self._lookup.has(place, sought):
                self._found.append(place)
            if time.perf_counter() > until:
                break
        else:
            looked = 0  # all were looked at
        if len(self._found) > found or not looked or self.list.count() > len(self._found):
            self._show_found(list(self._found))
        self._say_found(looked)
        if looked:
            self._slices.start(0)

    def _say_found(self, looked: int) -> None:
        far = f" so far, {100 * looked // len(self._lookup.entries)} % looked through" if looked else ""
        self.words.setText(f"{len(self._found)} found{far}.")

    def _show_found(self, places: Sequence[int]) -> None:
        self.words.setText(WORDS if not self.search.text().strip() else f"{len(places)} found.")
        shown = places if self.order.choice == "oldest first" else places[::-1]
        self.list.show_rows(shown, self._row, self._lookup.place(self._chosen))

    def _row(self, place: int) -> Row:
        job, entry = self._in_hand.job, self._lookup.entries[place]
        struck = job is not None and entry.id in job.struck
        moment = f"{entry.at.astimezone():%Y-%m-%d %H:%M}"
        under = f"{moment}, {entry.who}{', struck' if struck else ''}"
        return Row(entry.id, self._lookup.line(place), under, struck=struck)

    def _choose(self, key: str) -> None:
        self._chosen = key
        self._name_buttons()
        self.explainAsked.emit()

    def _follow(self, key: str) -> None:
        self._chosen = key
        self._name_buttons()

    def _name_buttons(self) -> None:
        job, entry = self._in_hand.job, self.entry()
        struck = job is not None and entry is not None and entry.id in job.struck
        strikable = job is not None and entry is not None and may_strike(entry)
        self.strike.setEnabled(strikable and not struck)
        self.unstrike.setEnabled(struck)

    def _strike(self) -> None:
        entry = self.entry()
        if entry is not None and self._writer.do(stay_commands.strike(entry)):
            self._voice.say(f"Entry {entry.number} struck.")

    def _unstrike(self) -> None:
        entry = self.entry()
        if entry is not None and self._writer.do(stay_commands.unstrike(entry)):
            self._voice.say(f"Entry {entry.number} stands again.")

    def explain(self, because: Because) -> None:
        """Say all of the entry chosen."""
        because.show_whole(None)
        entry, job = self.entry(), self._in_hand.job
        if entry is None or job is None:
            words = ["Choose a line to see all of it. Type a number above to find what a certificate refers to."]
            because.show_words("Every line, in order", words)
            return
        said = "\n".join(facts_in_words(entry.body, self._lookup.numbers))
        words = [f"{entry.at.astimezone():%Y-%m-%d %H:%M:%S}, {entry.who}.", said]
        state = "struck" if entry.id in job.struck else entry.body.kind.replace("_", " ")
        because.show_words(f"Entry {entry.number}, {state}", words, "skipped" if entry.id in job.struck else "")
