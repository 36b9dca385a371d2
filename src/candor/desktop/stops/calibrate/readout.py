"""Reference, needle and error beside the dial; the first two can be typed into."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from candor.core.calibration.result import PointResult
from candor.core.errors import CandorError
from candor.core.jot.line import say_ticks
from candor.core.quantities import parse_quantity
from candor.core.quantities.show import decimals, plain, trimmed
from candor.core.reference.reference import age
from candor.desktop.bench.clock import Clock
from candor.desktop.bench.hand import Hand
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.shop import Shop
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.field import Field


class Readout(QWidget):
    """The figures of the point in hand.

    Signals
    -------
    standardChosen(str)
        Another standard, by the entry that recorded it; empty to record a new one.
    """

    standardChosen = Signal(str)

    def __init__(self, theme: Theme, *, in_hand: JobInHand, shop: Shop, clock: Clock, hand: Hand) -> None:
        super().__init__()
        self._theme, self._hand = theme, hand
        self._in_hand, self._shop, self._clock = in_hand, shop, clock
        self.reference = Field()
        self.reference.setObjectName("reference")
        self.reference.setAccessibleName("Reference")
        self.reference.setToolTip("What the reference shows (jot: ref 75.004)")
        self.standard = QComboBox()
        self.standard.setObjectName("quiet")
        self.standard.setAccessibleName("Standard")
        self.standard.setToolTip("The standard it is read against")
        self.confirm = button("", "The meter shows what stands in the field (C)", name="choice")
        self.confirm.setAccessibleName("The reference was read")
        self.confirm.setCheckable(True)
        self.mark = button("On the mark", "The needle stands on the mark (M)", name="choice")
        self.needle = Field()
        self.needle.setObjectName("hand")
        self.needle.setAccessibleName("Needle")
        self.needle.setToolTip("What the needle shows; Enter takes the reading")
        self.needle_words = label("", "soft")
        self.error = label("", "reading", wrap=False)
        self.below, self.above = self._way("from below", "B", "up"), self._way("from above", "A", "down")
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(3))
        for widget in (label("reference", "soft"), self.reference, self.confirm, self.standard):
            column.addWidget(widget)
        column.addSpacing(theme.px(5))
        for widget in (label("needle", "soft"), self.needle, self.needle_words, self.mark):
            column.addWidget(widget)
        ways = QHBoxLayout()
        ways.setSpacing(theme.px(5))
        ways.addWidget(self.below)
        ways.addWidget(self.above)
        ways.addStretch()
        column.addLayout(ways)
        column.addSpacing(theme.px(5))
        column.addWidget(label("error", "soft"))
        column.addWidget(self.error)
        column.addStretch()
        self._wire()

    def needed_height(self) -> int:
        """Return the least height in which nothing of it is cut, px."""
        self.needle.setMinimumHeight(self._theme.px(42))
        self.reference.setMinimumHeight(self._theme.px(26))
        layout = self.layout()
        return layout.minimumSize().height() + self._theme.px(8) if layout else 0

    def _way(self, words: str, key: str, direction: str) -> QPushButton:
        made = button(words.removeprefix("from "), f"The needle comes {words}", name="choice")
        made.setAccessibleName(words)
        made.setToolTip(f"The needle comes {words} ({key})")
        made.setCheckable(True)
        made.clicked.connect(lambda checked: self._hand.turn(direction if checked else ""))  # type: ignore[arg-type]
        return made

    def _wire(self) -> None:
        self.needle.returnPressed.connect(self._enter_needle)
        self.confirm.clicked.connect(self._hand.confirm_reference)
        self.mark.clicked.connect(self._hand.on_the_mark)
        self.needle.textEdited.connect(self._follow_needle)
        self.reference.editingFinished.connect(self._enter_reference)
        self.standard.activated.connect(lambda index: self.standardChosen.emit(self.standard.itemData(index)))

    def _follow_needle(self, text: str) -> None:
        """Let the drawn needle follow what is typed as soon as it can be read."""
        point = self._hand.point
        if point is None:
            return
        try:
            point.indicator.check(abs(parse_quantity(text, point.unit).value))
        except CandorError:
            return
        self._hand.type_indicated(text)

    def _enter_needle(self) -> None:
        if self._hand.type_indicated(self.needle.text()) and self._hand.take():
            self.needle.clearFocus()
            self.show_hand()

    def _enter_reference(self) -> None:
        if self.reference.isModified() and self._hand.type_reference(self.reference.text()):
            self.reference.setModified(False)

    def show_hand(self) -> None:
        """Show the figures in hand without touching the field that is being typed into."""
        point, step = self._hand.point, self._hand.step
        if point is None or step is None:
            return
        division = point.indicator.division_at(point.nominal)
        places = decimals(division / 5)
        if not self.reference.hasFocus():
            self.reference.setText(f"{trimmed(self._hand.expected, 7)} {point.unit}" if self._hand.expected else "")
            self.reference.setModified(False)
        self.confirm.setChecked(bool(self._hand.reference_from))
        self.confirm.setText(self._hand.reference_from or "It shows that")
        self.confirm.setEnabled(not self._hand.is_set and self._hand.expected > 0)
        shown = self._hand.shown_needle
        if not self.needle.hasFocus():
            self.needle.setText("" if shown is None else plain(shown, places))
            self.needle.setPlaceholderText(plain(self._hand.expected, places))
        self.needle_words.setText(self._tick_words(shown))
        for made, direction in ((self.below, "up"), (self.above, "down")):
            made.setChecked(self._hand.direction == direction)
        self._show_error(self._hand.result())

    def _tick_words(self, shown: float | None) -> str:
        point = self._hand.point
        if point is None:
            return ""
        if shown is None:
            return f"{point.unit} · not read"
        if not self._hand.expected:
            return f"{point.unit} · against what?"
        ticks = point.indicator.ticks_between(self._hand.expected, shown)
        taken = "" if self._hand.moved else " · taken"
        if abs(ticks) < 0.05:
            return f"{point.unit} · on the mark{taken}"
        return f"{point.unit} · {say_ticks(abs(ticks))} {'high' if ticks > 0 else 'low'}{taken}"

    def _show_error(self, result: PointResult | None) -> None:
        if result is None:
            self.error.setText("–")
            return
        self.error.setText(result.shown)

    def show_standards(self) -> None:
        """List the standards that can be chosen."""
        job = self._in_hand.job
        self.standard.blockSignals(True)
        self.standard.clear()
        chosen = self._in_hand.standard()
        listed = [s for s in self._shop.standards.values() if s.current or s is chosen]
        if chosen is None:
            self.standard.addItem("choose …", "")
        for standard in listed:
            how_old = age(standard.reference, self._clock.now().date())
            words = "" if how_old.state == "in date" else f", {how_old.state}"
            self.standard.addItem(f"{standard.body.name}{words}", standard.entry.id)
            if job is not None and standard.entry.id == job.calibrate.standard:
                self.standard.setCurrentIndex(self.standard.count() - 1)
        self.standard.addItem("record another …", "new")
        self.standard.blockSignals(False)
