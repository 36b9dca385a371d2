"""A list of checks: what is still missing, and each written where it stands; with a way past it for a written reason."""

from __future__ import annotations

import re
from collections.abc import Sequence
from functools import partial
from typing import Generic, Protocol, TypeVar

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeySequence, QShortcut
from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from candor.core.severity import Severity
from candor.desktop.bench.voice import Voice
from candor.desktop.frame.local_numbers import in_field
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import button, shortcut
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.row_list import Row, RowList
from candor.notebook.work.check_findings import CheckFinding
from candor.words.checks import say_found

SHAPES = {"good": "full", "missing": "ring", "bad": "cross", "does not apply": "skipped"}
OUTCOMES = (
    ("good", "As it should be", "It was looked at, and is so", "F7"),
    ("bad", "Not as it should be", "It was looked at, and is not so: write what", "F8"),
    ("does not apply", "Does not apply", "This instrument has none, or it is of no matter here", ""),
)
_FIGURE = re.compile(r"[<>=~]?\s*[+−-]?\s*[\d.,]+\s*(?:[kMGmuµn]?\s*(?:ohms?|Ω|V|A|W|F|Hz)?)?", re.IGNORECASE)


class Check(Protocol):
    """A line of such a list."""

    @property
    def key(self) -> str: ...
    @property
    def title(self) -> str: ...
    @property
    def state(self) -> str: ...
    @property
    def found(self) -> CheckFinding: ...
    @property
    def by_hand(self) -> bool: ...
    @property
    def is_open(self) -> bool: ...
    @property
    def may_be_let_go(self) -> bool: ...


C = TypeVar("C", bound=Check)


class CheckList(QWidget, Generic[C]):
    """A list of checks; what it lists and writes is said by those that are built on it.

    Signals
    -------
    chosenAnew()
        Another line is in hand.
    """

    chosenAnew = Signal()

    def __init__(self, theme: Theme, *, voice: Voice, title: str, hint: str, reason: str, tip: str) -> None:
        super().__init__()
        self._voice, self._why = voice, reason
        self._chosen = ""
        self.summary = label("", "heading", bold=True)
        self.list = RowList(theme, title, wrap=True)
        self.ask = label("", "text")
        self.text = Field()
        self.text.setPlaceholderText(in_field(hint))
        self.text.setAccessibleName("What was seen or measured")
        self.outcomes = {key: button(words, tip_, key_) for key, words, tip_, key_ in OUTCOMES}
        self._asked = ("", "")
        self.reason = Field()
        self.reason.setPlaceholderText(f"{reason}; it stands on page one of the certificate")
        self.reason.setAccessibleName(reason[0].upper() + reason[1:])
        self.override = button("Let this one go", tip)
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
        self.text.returnPressed.connect(self._enter)
        for key_, step in (
            ("Up", -1),
            ("Down", 1),
        ):  # along the list from the field too: the hand stays where it writes
            along = QShortcut(QKeySequence(key_), self.text)
            along.setContext(Qt.ShortcutContext.WidgetShortcut)
            along.activated.connect(partial(self._step, step))
        self.override.clicked.connect(self._override)
        for key, made in self.outcomes.items():
            made.clicked.connect(lambda _=False, outcome=key: self._settle(outcome))
        for key, _, _, key_ in OUTCOMES:
            if key_:
                shortcut(self, key_, partial(self._press, key))

    # --- said by those that are built on it -----------------------------------------------------------

    def items(self) -> tuple[C, ...]:
        """The list as it stands."""
        raise NotImplementedError

    def still(self) -> Sequence[C]:
        """What is open and not overridden."""
        raise NotImplementedError

    def done_words(self) -> str:
        """What is said where nothing is open."""
        raise NotImplementedError

    def is_measured(self, item: C, outcome: str) -> bool:
        """Whether a line is settled so by a reading from the field."""
        raise NotImplementedError

    def takes(self, item: C, outcome: str) -> bool:
        """Whether an outcome can be said of a line."""
        raise NotImplementedError

    def measure(self, item: C, text: str) -> bool:
        """Write the reading in the field; False, with a sentence, where it is none."""
        raise NotImplementedError

    def settle(self, item: C, outcome: str, text: str) -> bool:
        """Write that a line was looked at."""
        raise NotImplementedError

    def let(self, item: C, reason: str) -> bool:
        """Write that one line is let go."""
        raise NotImplementedError

    # --- the list -------------------------------------------------------------------------------------

    def item(self) -> C | None:
        """The line in hand."""
        return next((i for i in self.items() if i.key == self._chosen), None)

    def show_items(self) -> None:
        """Show how the list stands; the first open line is in hand where none is."""
        items, still = self.items(), self.still()
        if self._chosen not in [i.key for i in items]:
            self._chosen = next((i.key for i in items if i.is_open), items[0].key if items else "")
        bad = sum(i.state == "bad" for i in still)
        words = f"Not ready: {len(still)} open" + (f", {bad} failed" if bad else "")
        self.summary.setText(words if still else self.done_words())
        rows = [
            Row(
                i.key,
                i.title,
                say_found(i.found) if i.state != "missing" else "",
                SHAPES[i.state],
                strong=i.key == self._chosen,
            )
            for i in items
        ]
        self.list.show_rows(tuple(rows), self._chosen)
        self.list.fit(len(rows))
        item = self.item()
        by_hand = item is not None and item.by_hand
        self.ask.setText(say_found(item.found) if item is not None else "")
        self.text.setVisible(by_hand)
        for key, made in self.outcomes.items():
            made.setVisible(by_hand and item is not None and self.takes(item, key))
        measured = item is not None and self.is_measured(item, "good")
        self.outcomes["good"].setText("Write it" if measured else f"{OUTCOMES[0][1]}  {OUTCOMES[0][3]}")
        overridable = item is not None and item.may_be_let_go and item.key in [i.key for i in still]
        self.reason.setVisible(overridable)
        self.override.setVisible(overridable)

    def choose(self, key: str) -> None:
        """Take a line in hand."""
        self._chosen = key
        self.show_items()
        (self.text if self.text.isVisible() else self.list).setFocus()
        self.chosenAnew.emit()

    def _step(self, by: int) -> None:
        keys = [item.key for item in self.items()]
        at = keys.index(self._chosen) + by if self._chosen in keys else 0
        if 0 <= at < len(keys):
            self.choose(keys[at])

    def _enter(self) -> None:
        """Enter writes a measurement; it never says that something is as it should be."""
        item, text = self.item(), self.text.text().strip()
        if item is None or not item.by_hand or not text:
            return
        if self.is_measured(item, "good"):
            self._settle("good")
            return
        self._voice.say(
            f"“{text}”: is {item.title} as it should be (F7), or not (F8)? Nothing was written; your words are still here.",
            Severity.ASK,
        )

    def _press(self, outcome: str) -> None:
        if self.outcomes[outcome].isVisible():
            self._settle(outcome)

    def _is_astray(self, item: C, text: str) -> bool:
        """Ask once where a bare figure stands in a line that is not measured: it may belong to another."""
        if not _FIGURE.fullmatch(text) or self._asked == (item.key, text):
            return False
        self._asked = (item.key, text)
        self._voice.say(
            f"“{text}” is a figure, and {item.title} is looked at, not measured. Does it belong to another line? "
            "Press again to write it here.",
            Severity.ASK,
        )
        return True

    def _settle(self, outcome: str) -> None:
        item, text = self.item(), self.text.text().strip()
        if item is None or not item.by_hand:
            return
        if text and not self.is_measured(item, outcome) and self._is_astray(item, text):
            return
        if self.is_measured(item, outcome):
            if not self.measure(item, text):
                return
        elif outcome == "bad" and not text:
            self._voice.refuse("Write first what is not as it should be; nothing was written.")
            self.text.setFocus()
            return
        elif not self.settle(item, outcome, text):
            return
        self.text.clear()
        self.choose(item.key)  # the highlight stays: what was written is read where it stands

    def _override(self) -> None:
        reason, item = self.reason.text().strip(), self.item()
        if item is None or not item.may_be_let_go:
            return
        if not reason:
            self._voice.refuse(f"Write first {self._why}; nothing was written.")
            self.reason.setFocus()
        elif self.let(item, reason):
            self.reason.clear()
