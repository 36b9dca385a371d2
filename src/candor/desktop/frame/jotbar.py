"""The jot bar: one typed line, shown as it is understood before it is written."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from typing import TYPE_CHECKING

from PySide6.QtCore import QSize, Qt, QTimer, Signal
from PySide6.QtGui import QKeyEvent, QResizeEvent
from PySide6.QtWidgets import QApplication, QHBoxLayout, QLayout, QLineEdit, QPushButton, QVBoxLayout, QWidget
from shiboken6 import isValid

from candor.core.errors import CandorError
from candor.core.jot import Jot, JotContext, NoteJot, understand
from candor.core.jot.line import examples_at, words_to_complete
from candor.core.reading.kinds import kind_of
from candor.core.severity import Severity
from candor.desktop.frame.local_numbers import in_field
from candor.desktop.frame.theme import TINTS, Theme, Words, label, plain_tip, repolish, retint
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.flow import Flow

if TYPE_CHECKING:
    from candor.desktop.frame.linefields import LineFields

# What stands within lines, behind their verbs.
WITHIN = ("ref ", "leak ", "warm", "cold", "in circuit", "from below", "from above", "hazard", "fix")
READING_EXAMPLES = ("72.6", "-1/4t", "found …", "did …", "ref 75.004")
SHOWN = 5  # examples in an empty line
CHIPS_BESIDE = 0.45  # of the width: chips that need more stand above the line


class JotLine(QLineEdit):
    """The line itself; Tab completes a word or a designator of `refs`, Escape empties it."""

    refs: tuple[str, ...] = ()
    left = Signal()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            if self.text():
                self.clear()
            else:
                self.clearFocus()
                self.left.emit()
                event.ignore()
            return
        super().keyPressEvent(event)

    def focusNextPrevChild(self, forward: bool) -> bool:
        return self.complete() if forward and self.text().strip() else super().focusNextPrevChild(forward)

    def complete(self) -> bool:
        """Complete the last word; True where there was something to complete."""
        head, _, last = self.text().rpartition(" ")
        known = WITHIN if head else (*(f"{ref} " for ref in self.refs), *words_to_complete())
        begun = last.lower()
        found = [word for word in known if begun and word.lower().startswith(begun) and word.strip().lower() != begun]
        if not found:
            return super().focusNextPrevChild(True)
        self.setText(f"{head} {found[0]}".lstrip())
        return True


class NextLine(QPushButton):
    """What is next, in one line as long as there is room; the whole stands in its tooltip."""

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("quiet")
        self.setAccessibleName("What is next")
        self._whole = ""

    def say(self, sentence: str) -> None:
        """Say a sentence, or nothing."""
        self._whole = sentence
        self.setAccessibleDescription(sentence)
        self.setToolTip(plain_tip(f"{sentence} Press to go there."))
        self._fit()

    def whole(self) -> str:
        """Return all that it says."""
        return self._whole

    def _fit(self) -> None:
        room = max(self.width() - 8, 0)
        self.setText(self.fontMetrics().elidedText(self._whole, Qt.TextElideMode.ElideRight, room))

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._fit()

    def sizeHint(self) -> QSize:
        return QSize(self.fontMetrics().horizontalAdvance(self._whole) + 12, super().sizeHint().height())

    def minimumSizeHint(self) -> QSize:
        return QSize(0, super().minimumSizeHint().height())


class JotBar(QWidget):
    """The bottom of the window.

    Signals
    -------
    jotted(object, str)
        A line was understood and entered: the Jot and its text.
    understood(object)
        What the line in hand says so far: a Jot, or None.
    nextAsked(str)
        What is next was pressed: the stop where it is done.
    describeAsked()
        A range is to be described: its fields stand on its page.
    """

    jotted = Signal(object, str)
    understood = Signal(object)
    describeAsked = Signal()
    nextAsked = Signal(str)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.setObjectName("panel")
        self._theme = theme
        self._context = JotContext()
        self._from: QWidget | None = None  # where the keyboard was before it came here
        self._column, self._row = QVBoxLayout(self), QHBoxLayout()
        self.edit = JotLine()
        self.edit.setObjectName("jot")
        self.edit.setAccessibleName("Jot")
        self.edit.setToolTip("Jot a reading, a finding or a note; Enter writes it (Ctrl+J)")
        self.show_examples("")
        self.chips: QLayout = QHBoxLayout()
        self._beside, self._above = self.chips, Flow(theme.px(6))  # where they stand: what is typed keeps its room
        self.message = label(
            "", "text"
        )  # a line of its own, as high as its words need: nothing that warns is cut off
        self.next = NextLine()
        self.next.hide()
        self._next_stop = ""
        self.reason = label("", "text", tint="brick")  # why the line is not understood, whole: it is not a chip
        self.reason.hide()
        self._row.addWidget(label("jot", "soft", wrap=False))
        self._row.addWidget(self.edit, 3)
        self.in_fields = button("Fields", "The same line in fields, each named", "F2", "quiet")
        self.fields: LineFields | None = None  # made when they are first asked for
        self.known: Callable[[], Mapping[str, tuple[str, ...]]] = dict
        self._needed: tuple[str, ...] = ()  # what the fields still need
        self._row.addWidget(self.in_fields)
        self._row.addLayout(self._beside, 0)
        self._row.addStretch(4)
        self._column.addWidget(self.message)
        self._column.addWidget(self.next)
        self._column.addWidget(self.reason)
        self._column.addLayout(self._above)
        self._column.addLayout(self._row)
        self._forget = QTimer(self)
        self._forget.setSingleShot(True)
        self._forget.setInterval(12_000)
        self._wire()
        self.resize_to_theme()

    def _wire(self) -> None:
        self.edit.textChanged.connect(self._show_chips)
        self.edit.returnPressed.connect(self._enter)
        self.edit.textEdited.connect(self._follow)
        self.edit.left.connect(self._go_back)
        self.next.clicked.connect(lambda: self.nextAsked.emit(self._next_stop))
        QApplication.instance().focusChanged.connect(self._remember)  # type: ignore[union-attr]
        self.in_fields.clicked.connect(self.toggle_fields)
        self._forget.timeout.connect(self._let_go)
        self._theme.changed.connect(self.resize_to_theme)

    def _remember(self, old: QWidget | None, now: QWidget | None) -> None:
        """Remember where the keyboard was before it came to the line."""
        if now is self.edit and old is not None and not self.isAncestorOf(old):
            self._from = old

    def _go_back(self) -> None:
        """Give the keyboard back to where it was: the page's own keys work again."""
        if self._from is not None and isValid(self._from) and self._from.isVisible():
            self._from.setFocus(Qt.FocusReason.OtherFocusReason)

    def resize_to_theme(self) -> None:
        """Take the height of the text size in force."""
        px = self._theme.px
        self.setMinimumHeight(px(62))
        self.message.setMinimumHeight(px(18))
        self._column.setContentsMargins(px(16), px(5), px(16), px(6))
        self._column.setSpacing(px(2))
        self._row.setSpacing(self._theme.px(10))

    def show_examples(self, stop: str) -> None:
        """Show, while the line is empty, what can be jotted at a stop."""
        self._stop = stop
        point = self._context.point
        if point is not None and not kind_of(point).has_friction:
            self.edit.setPlaceholderText(in_field(f"{kind_of(point).example(point)}   found …   did …"))
            return
        lines = examples_at(stop) if stop not in ("", "calibrate") else READING_EXAMPLES
        self.edit.setPlaceholderText(in_field("   ".join(sorted(lines, key=len)[:SHOWN])))

    def set_context(self, context: JotContext) -> None:
        """Say what is in hand."""
        self._context = context
        self.show_examples(self._stop)
        self.edit.refs = tuple(context.parts)
        self._show_chips(self.edit.text())

    def tell(self, sentence: str, severity: Severity = Severity.NOTE) -> None:
        """Say a sentence above the line; errors stay until the next line."""
        self.message.setText(sentence)
        self._make_room()
        self.message.setToolTip(plain_tip(sentence))
        self.message.setAccessibleName(sentence)
        retint(self.message, TINTS[severity])
        if severity is Severity.REFUSED:
            self._forget.stop()
        else:
            self._forget.start()

    def _let_go(self) -> None:
        self.message.setText("")
        self._make_room()

    def show_next(self, stop: str, sentence: str) -> None:
        """Show what is next in the job, where nothing else is said; a press goes there."""
        self._next_stop = stop
        self.next.say(sentence)
        self._make_room()

    def _make_room(self) -> None:
        """One line above the line that is typed: why it is not understood, else what was said, else what is next."""
        said = bool(self.message.text())
        idle = not said and self.reason.isHidden()
        self.next.setVisible(idle and bool(self.next.whole()))
        self.message.setVisible(said or (idle and self.next.isHidden()))

    def begin(self, text: str) -> None:
        """Start a line with what was typed elsewhere."""
        self.edit.setFocus(Qt.FocusReason.ShortcutFocusReason)
        self.edit.insert(text)

    def _understand(self, text: str) -> Jot | None:
        try:
            jot = understand(text, self._context)
        except CandorError as error:
            fields = self._open_fields
            at_field = fields is not None and fields.blame(getattr(error, "value", ""), str(error))
            self._say_reason("" if at_field else str(error))
            self._offer(getattr(error, "meant", ()))
            return None
        if isinstance(jot, NoteJot) and jot.ask:
            self._say_reason(jot.ask)
            self._offer(jot.meant)
        return jot

    def _offer(self, lines: Iterable[str]) -> None:
        """Offer lines that may have been meant: a press puts one in place of what was typed, nothing is written by it."""
        for line in lines:
            choice = button(line, f"Type instead: {line}")
            choice.setObjectName("chip")
            choice.clicked.connect(lambda _=False, line=line: self.edit.setText(line))
            self.chips.addWidget(choice)

    def _say_reason(self, sentence: str) -> None:
        """Say why the line is not understood, in the room of the message where that says nothing: the line stays where it is."""
        self.reason.setText(sentence)
        self.reason.setAccessibleName(sentence)
        self.reason.setMinimumHeight(self._theme.px(18))
        self.reason.setVisible(bool(sentence))
        self._make_room()

    def _show_chips(self, text: str) -> None:
        self._clear()
        self._say_reason("")
        if self._needed:
            self._chip([f"still needed: {', '.join(self._needed)}"])
            self.understood.emit(None)
            return
        jot = self._understand(text) if text.strip() else None
        if jot is not None and not (isinstance(jot, NoteJot) and jot.meant):
            self._chip(jot.chips)
        self.understood.emit(jot)

    def _clear(self) -> None:
        self._row.setStretchFactor(self.edit, 3)
        while (item := self.chips.takeAt(0)) is not None:
            widget = item.widget()
            if widget is not None:
                widget.hide()
                widget.deleteLater()

    def _chip(self, texts: Iterable[str]) -> None:
        made = [Words(text) for text in texts]
        wide = sum(self._theme.width_of(chip.text(), "note") + self._theme.px(24) for chip in made)
        above = wide > CHIPS_BESIDE * self.width()
        self.chips = self._above if above else self._beside
        self._row.setStretchFactor(self.edit, 30 if above else 3)
        for chip in made:
            chip.setObjectName("chip")
            chip.setTextFormat(Qt.TextFormat.PlainText)
            chip.setToolTip(plain_tip(chip.text()))
            repolish(chip)
            self.chips.addWidget(chip)

    def _enter(self) -> None:
        text = self.edit.text()
        fields = self._open_fields
        if fields is not None and fields.ask():
            return
        if not text.strip():
            return
        self._clear()
        if not self._forget.isActive():  # what was refused before stays until here
            self._let_go()
        jot = self._understand(text)
        if jot is not None:
            self.jotted.emit(jot, text)

    def written(self) -> None:
        """Empty the line: what it said is on disk."""
        self.edit.clear()
        fields = self._open_fields
        if fields is not None:
            fields.again()

    # --- the same in fields -----------------------------------------------------------------------------------

    @property
    def _open_fields(self) -> LineFields | None:
        return self.fields if self.fields is not None and not self.fields.isHidden() else None

    def toggle_fields(self) -> None:
        """Show the line in fields, or put them away: the line stays."""
        if self._open_fields is not None:
            self._leave_fields()
            return
        if self.fields is None:
            from candor.desktop.frame.linefields import LineFields  # only who asks for fields waits for them

            self.fields = LineFields(self._theme)
            self.fields.said.connect(self._say_in_fields)
            self.fields.entered.connect(self._enter)
            self.fields.left.connect(self._leave_fields)
            self.fields.elsewhere.connect(self._describe)
            self._column.insertWidget(0, self.fields)
        self.fields.known = self.known
        self.fields.show()
        self.fields.begin(self._stop, self.edit.text())

    def _leave_fields(self) -> None:
        if self.fields is not None:
            self.fields.hide()
        self._needed = ()
        self._show_chips(self.edit.text())
        self.edit.setFocus(Qt.FocusReason.OtherFocusReason)

    def _describe(self) -> None:
        self._leave_fields()
        self.describeAsked.emit()

    def _say_in_fields(self, line: str, needed: tuple[str, ...]) -> None:
        self._needed = needed
        if line == self.edit.text():
            self._show_chips(line)
        else:
            self.edit.setText(line)

    def _follow(self, line: str) -> None:
        """A line typed beside its fields fills them."""
        fields = self._open_fields
        if fields is not None:
            self._needed = ()
            fields.take(line)
            self._show_chips(line)
