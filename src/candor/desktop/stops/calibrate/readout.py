"""Reference, needle and error beside the dial; the first two can be typed into."""

from __future__ import annotations

import math
from collections.abc import Mapping

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from candor.core.calibration.point import TestPoint
from candor.core.calibration.result import PointResult
from candor.core.errors import CandorError
from candor.core.jot.ticks_line import say_ticks
from candor.core.quantities import engineering
from candor.core.quantities.show import decimals, plain, scaled, trimmed
from candor.core.reading.kinds import kind_of
from candor.core.reading.reading import Asked
from candor.desktop.bench.clock import Clock
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.reading_in_hand import Hand
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.frame.local_numbers import in_field
from candor.desktop.frame.theme import Theme, label, retint
from candor.desktop.stops.calibrate.beside import Beside
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.fitting_field import FittingField

MOST_FIGURES = 4  # that any kind of reading asks for


class Readout(QWidget):
    """The figures of the point in hand.

    Signals
    -------
    standardChosen(str)
        Another standard, by the entry that recorded it; empty to record a new one.
    """

    standardChosen = Signal(str)

    def __init__(
        self, theme: Theme, *, in_hand: JobInHand, shop: Shop, clock: Clock, hand: Hand, beside: Beside
    ) -> None:
        super().__init__()
        self.beside = beside
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
        self.apply = button("", "The source on its link goes to this point's value", "V", "choice")
        self.stands = label("", "reading", bold=True)
        self.mark = button("On the mark", "The needle stands on the mark (M)", name="choice")
        self.needle = FittingField(theme, "hand")
        self.needle.setAccessibleName("Needle")
        self.needle.setToolTip("What it shows; Enter takes the reading")
        self.title = label("needle", "soft")
        self.more = tuple(self._another_figure(place) for place in range(1, MOST_FIGURES))
        self.needle_words = label("", "soft")
        self.error = label("", "reading")
        self.below, self.above = self._way("from below", "B", "up"), self._way("from above", "A", "down")
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(3))
        self.reference_title = label("reference", "soft")
        for widget in (
            self.reference_title, self.stands, self.apply, self.reference, self.confirm, self.standard,
        ):  # fmt: skip
            column.addWidget(widget)
        column.addSpacing(theme.px(5))
        column.addWidget(self.title)
        column.addWidget(self.needle)
        for words, edit in self.more:
            column.addWidget(words)
            column.addWidget(edit)
        column.addWidget(self.needle_words)
        column.addWidget(self.mark)
        ways = QHBoxLayout()
        ways.setSpacing(theme.px(5))
        ways.addWidget(self.below)
        ways.addWidget(self.above)
        ways.addStretch()
        column.addLayout(ways)
        column.addSpacing(theme.px(5))
        self.error_title = label("error", "soft")
        column.addWidget(self.error_title)
        column.addWidget(self.error)
        column.addWidget(self.beside)
        column.addStretch()
        self._wire()

    def needed_height(self) -> int:
        """Return the least height in which nothing of it is cut, px."""
        self.needle.setMinimumHeight(self._theme.px(42))
        self.reference.setMinimumHeight(self._theme.px(26))
        layout = self.layout()
        if layout is None:
            return 0
        wrapped = layout.minimumHeightForWidth(self.width()) if layout.hasHeightForWidth() else 0
        return max(layout.minimumSize().height(), wrapped) + self._theme.px(8)

    def _another_figure(self, place: int) -> tuple[QLabel, Field]:
        words, edit = label("", "soft"), Field()
        edit.textEdited.connect(lambda _: edit.setModified(True))
        edit.returnPressed.connect(lambda: self._enter_figure(place, edit) and self._hand.take())
        edit.editingFinished.connect(lambda: edit.isModified() and self._enter_figure(place, edit))
        return words, edit

    def _enter_figure(self, place: int, edit: Field) -> bool:
        point = self._hand.point
        asked = self._hand.draft.asked(point) if point is not None else ()
        if place >= len(asked) or not edit.text().strip():
            return False
        done = self._hand.type_figure(asked[place].name, edit.text())
        if done:
            edit.setModified(False)
        return done

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
        self.apply.clicked.connect(self._hand.apply)
        self.mark.clicked.connect(self._hand.on_the_mark)
        self.needle.textEdited.connect(self._follow_needle)
        self.reference.editingFinished.connect(self._enter_reference)
        self.standard.activated.connect(lambda index: self.standardChosen.emit(self.standard.itemData(index)))

    def _follow_needle(self, text: str) -> None:
        """Let the drawing follow what is typed as soon as it can be read."""
        point = self._hand.point
        if point is None or not self._hand.draft.read_as(point).has_friction:
            return
        try:
            point.indicator.check(abs(point.quantity(text)))
        except CandorError:
            return
        self._hand.type_indicated(text)

    def _enter_needle(self) -> None:
        point = self._hand.point
        names = [a.name for a in self._hand.draft.asked(point)] if point is not None else []
        if names and self._hand.type_figure(names[0], self.needle.text()) and self._hand.take():
            self.needle.clearFocus()
            self.show_hand()

    def _enter_reference(self) -> None:
        if self.reference.isModified() and self._hand.type_reference(self.reference.text()):
            self.reference.setModified(False)

    def show_hand(self) -> None:
        """Show the figures in hand without touching the field that is being typed into."""
        point, step, hand = self._hand.point, self._hand.step, self._hand
        if point is None or step is None:
            return
        kind = hand.draft.read_as(point)
        beside = kind.compares == "reference" and point.needs_reference
        for widget in (self.reference_title, self.reference, self.confirm):
            widget.setVisible(beside)
        self.standard.setVisible(point.needs_reference)
        if not self.reference.hasFocus():
            value = hand.reference if hand.expected else 0.0
            self.reference.setText(in_field(reference_text(value, hand.read_unit)) if value else "")
            self.reference.setModified(False)
        self.confirm.setChecked(bool(hand.reference_from))
        self.confirm.setText(hand.reference_from or "Use this value")
        self.confirm.setEnabled(not hand.is_set and hand.expected != 0)
        self._show_source()
        self._show_figures(point)
        # Where there are several figures the drawing says what they come to.
        several = len(hand.draft.asked(point)) > 1 and hand.shown_needle is not None
        self.needle_words.setText("" if several else place_words(hand, point))
        self.needle_words.setVisible(not several)
        self.mark.setVisible(kind.has_friction)
        for made, direction in ((self.below, "up"), (self.above, "down")):
            made.setChecked(hand.direction == direction)
            made.setVisible(kind.has_sides)
        for widget in (self.error_title, self.error):
            widget.setVisible(not kind.named)
        self.error_title.setText("value" if point.limit.on_value or point.noted else "error")
        self._show_error(hand.result())
        self.beside.show_hand()

    def _show_source(self) -> None:
        """A source on a link: what it stands at, large, and the deed that applies the point's value."""
        hand = self._hand
        linked = bool(hand.source_link)
        self.confirm.setVisible(self.confirm.isVisibleTo(self) and not linked)
        self.apply.setVisible(linked and not hand.source_agrees())
        self.apply.setText(f"Apply {engineering(hand.to_apply, hand.read_unit, 5)}  V")
        self.apply.setAccessibleName(f"Apply {engineering(hand.to_apply, hand.read_unit, 5)}")
        self.stands.setText(hand.capture.words or "Source off")
        retint(self.stands, "brick" if hand.capture.live else "soft")
        self.stands.setVisible(linked)

    def _show_figures(self, point: TestPoint) -> None:
        """One field for every figure that the kind asks for, the first one large."""
        hand, asked = self._hand, self._hand.draft.asked(point)
        figures, kind = hand.shown_figures, self._hand.draft.read_as(point)
        title = "seen" if kind.named else asked[0].title if asked else "figured"
        self.needle.setAccessibleName(title.capitalize())
        self.title.setText(title if hand.moved or hand.shown_needle is None else f"{title}, taken")
        self.needle.setReadOnly(not asked)
        if not self.needle.hasFocus():
            self.needle.setText(in_field(figure_text(point, asked[0], figures)) if asked else "")
            self.needle.setPlaceholderText(
                in_field(shown_value(point, hand.expected, with_unit=False) if kind.has_friction else "")
            )
        self.needle.setVisible(not kind.named and not kind.figured)
        for place, (words, edit) in enumerate(self.more, 1):
            shown = place < len(asked)
            words.setVisible(shown)
            edit.setVisible(shown)
            if shown:
                words.setText(asked[place].title)
                edit.setAccessibleName(asked[place].title.capitalize())
                if not edit.hasFocus():
                    edit.setText(in_field(figure_text(point, asked[place], figures)))
                    edit.setModified(False)

    def _show_error(self, result: PointResult | None) -> None:
        if result is None:
            self.error.setText("–")
            return
        # Where the column is narrower than the figure, U stands below: a number is never parted from its unit, and none is cut off.
        whole, wide = result.shown, self._theme.width_of(result.shown, "reading")
        self.error.setText(whole.replace(" ±", "\n±").replace("\u00a0±", "\n±") if wide > self.width() else whole)

    def show_standards(self) -> None:
        """List the standards that can be chosen."""
        self.standard.blockSignals(True)
        self.standard.clear()
        chosen = self._in_hand.standard(self._hand.point)
        if chosen is None:
            self.standard.addItem("choose …", "")
        # The best first: by what it would make of this point.
        for candidate in self._in_hand.candidates(self._hand.point, self._clock.now().date()):
            standard = self._shop.standards[candidate.key]
            how_old = standard.age(self._clock.now().date())
            words = "" if how_old.state == "in date" else f", {how_old.state}"
            self.standard.addItem(f"{standard.name}{words}", standard.entry.id)
            self.standard.setItemData(self.standard.count() - 1, candidate.words, Qt.ItemDataRole.ToolTipRole)
            if standard is chosen:
                self.standard.setCurrentIndex(self.standard.count() - 1)
        if chosen is not None and self.standard.findData(chosen.entry.id) < 0:
            self.standard.insertItem(0, chosen.name, chosen.entry.id)
            self.standard.setCurrentIndex(0)
        self.standard.addItem("record another …", "new")
        self.standard.blockSignals(False)


def figure_text(point: TestPoint, asked: Asked, figures: Mapping[str, float]) -> str:
    """Return a figure as it stands in its field, empty where it was not read."""
    if asked.name not in figures:
        return ""
    value = figures[asked.name]
    if asked.unit == point.unit:
        return shown_value(point, value, with_unit=False)
    return trimmed(value, 4) if asked.unit in ("div", "1") else engineering(value, asked.unit, 4)


def reference_text(value: float, unit: str) -> str:
    """Return what a reference shows, to all its digits, with a prefix where it is read more easily so."""
    factor, symbol = scaled(unit, value)
    return f"{trimmed(value / factor, 7)} {symbol}".rstrip()


def shown_value(point: TestPoint, value: float, with_unit: bool = True) -> str:
    """Return a value to the digits that its indicator can be read to."""
    if not math.isfinite(value):
        return engineering(value, point.unit)
    # What the field shows is read again when Enter is pressed in it: a bare number is in the unit that the range is named in.
    factor, unit = point.marked_factor, point.marked_unit
    small = factor == 1.0 and scaled(point.unit, point.full_scale)[0] != 1.0
    if not kind_of(point).has_friction or point.indicator.is_open or small:
        return engineering(value, point.unit, 5)
    bare = plain(value / factor, decimals(point.indicator.division_at(value) / (5 * factor)))
    return f"{bare} {unit}" if with_unit else bare


def place_words(hand: Hand, point: TestPoint) -> str:
    """Say where it stands: how far from the mark, or what was read in words."""
    shown, kind = hand.shown_needle, hand.draft.read_as(point)
    if shown is None:
        return "not read"
    if not kind.has_friction:
        return kind.say(point, hand.shown_figures)
    if not hand.expected and point.polarity:
        return "against what?"
    ticks = point.indicator.ticks_between(hand.expected, shown)
    where = "on the mark" if abs(ticks) < 0.05 else f"{say_ticks(abs(ticks))} {'high' if ticks > 0 else 'low'}"
    # A bare number in the field leaves its unit to this line.
    bare = shown_value(point, shown, with_unit=False)[-1].isdigit()
    return f"{point.marked_unit} · {where}" if bare else where
