"""The fields of a line: each thing that it says named, with an example, completion from what is known, and its error below it.

They write nothing: what stands in them is the line beside them, understood and entered as if it had been typed.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping

from PySide6.QtCore import QEvent, Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QComboBox, QCompleter, QHBoxLayout, QVBoxLayout, QWidget

from candor.core.jot.rows import VERBS
from candor.core.jot.rows.stay_rows import STAY
from candor.core.jot.verb import Verb, by_first_word
from candor.core.jot.verb_fields import LineField, fields_of, has_fields, line_of, texts_of
from candor.desktop.frame.local_numbers import in_field
from candor.desktop.frame.theme import Theme, label, repolish
from candor.desktop.widgets.controls import button, empty
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.flow import flow

NARROW, WIDE = 132, 264  # px at the text size as designed
OWN_FIELDS = "range"  # a verb whose fields stand where it is drawn while it is said


class Cell(QWidget):
    """One field under its title; what is wrong with it is said below them all."""

    def __init__(self, theme: Theme, field: LineField, known: tuple[str, ...]) -> None:
        super().__init__()
        self.field = field
        self.edit: Field | QComboBox = self._picked() if field.choices else self._typed(known)
        self.edit.setAccessibleName(f"{field.title}, needed" if field.needed else field.title)
        self.error = ""
        width = theme.px(WIDE if field.is_wide else NARROW)
        self.setFixedWidth(width)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(2))
        over = label(field.title, "soft", bold=field.needed, wrap=False)
        over.setBuddy(self.edit)
        if over.sizeHint().width() > width:
            self.setFixedWidth(over.sizeHint().width())
        for widget in (over, self.edit):
            column.addWidget(widget)

    def _picked(self) -> QComboBox:
        made = QComboBox()
        for choice in self.field.choices:
            made.addItem(choice or "—", choice)
        return made

    def _typed(self, known: tuple[str, ...]) -> Field:
        made = Field()
        made.setPlaceholderText(in_field(self.field.example))
        if known:
            completer = QCompleter(list(known), made)
            completer.setCaseSensitivity(Qt.CaseSensitivity.CaseInsensitive)
            completer.setFilterMode(Qt.MatchFlag.MatchContains)
            made.setCompleter(completer)
        return made

    @property
    def text(self) -> str:
        """What stands in it."""
        return str(self.edit.currentData()) if isinstance(self.edit, QComboBox) else self.edit.text()

    @text.setter
    def text(self, text: str) -> None:
        if isinstance(self.edit, QComboBox):
            known = [choice.casefold() for choice in self.field.choices]
            self.edit.setCurrentIndex(known.index(text.casefold()) if text.casefold() in known else 0)
        else:
            self.edit.setText(text)

    def say(self, error: str) -> None:
        """Mark it as wrong, or as right again where the error is empty."""
        self.error = error
        if bool(self.edit.property("wrong")) != bool(error):
            self.edit.setProperty("wrong", bool(error))
            repolish(self.edit)
        self.edit.setAccessibleDescription(error)


class LineFields(QWidget):
    """What a line can say at a stop, and the fields of what is chosen.

    Signals
    -------
    said(str, tuple)
        The line that the fields say, and the titles of what it still needs.
    entered()
        Enter was pressed in one.
    left()
        They were put away.
    elsewhere(str)
        A verb was chosen whose fields are on a page: its name.
    """

    said = Signal(str, tuple)
    entered = Signal()
    left = Signal()
    elsewhere = Signal(str)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.known: Callable[[], Mapping[str, tuple[str, ...]]] = dict
        self.cells: tuple[Cell, ...] = ()
        self.what = QComboBox()
        self.what.setAccessibleName("What the line says")
        self.what.setToolTip("What can be written at this stop, then at the others")
        self.what.setMaxVisibleItems(24)
        self.what.setMinimumContentsLength(20)
        self.what.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.close_ = button("Close", "Put the fields away; the line stays", "Esc", "quiet")
        head = QHBoxLayout()
        head.setSpacing(theme.px(10))
        head.addWidget(label("write", "soft", wrap=False))
        head.addWidget(self.what, 1)
        head.addWidget(self.close_)
        self._row = flow(theme.px(10))
        self.error = label("", "text", tint="brick")
        column = QVBoxLayout(self)
        column.setContentsMargins(0, theme.px(4), 0, theme.px(4))
        column.setSpacing(theme.px(4))
        column.addLayout(head)
        column.addLayout(self._row)
        column.addWidget(self.error)
        self.what.activated.connect(self._chosen)
        self.close_.clicked.connect(self.left)

    @property
    def verb(self) -> Verb:
        """What the line says."""
        return VERBS[self.what.currentData() or 0]

    def begin(self, stop: str, line: str) -> None:
        """Show the fields of a line that was begun; of nothing yet, what is said first at a stop."""
        self._list(stop)
        verb = self._verb_of(line, stop)
        self._show(verb or self.verb, texts_of(verb, line) if verb is not None else {})
        first = next((cell.edit for cell in self.cells if verb is not None), self.what)
        first.setFocus(Qt.FocusReason.ShortcutFocusReason)

    def take(self, line: str) -> None:
        """Follow a line that is typed beside them."""
        verb = self._verb_of(line, "", self.verb)
        if verb is None:
            self.fill({})
        elif verb is self.verb:
            self.fill(texts_of(verb, line))
        else:
            self._show(verb, texts_of(verb, line))

    def fill(self, texts: Mapping[str, str]) -> None:
        """Put something else in the fields; nothing is said of it."""
        for cell in self.cells:
            cell.edit.blockSignals(True)
            cell.text = texts.get(cell.field.key, "")
            cell.edit.blockSignals(False)
        self._look_over()

    def _look_over(self) -> None:
        """Mark each field that cannot be read."""
        for cell in self.cells:
            cell.say(cell.field.wrong(cell.text))
        self._show_error()

    def _show_error(self) -> None:
        """Say what is wrong, whole, below the fields: it goes when that is changed."""
        said = "\n".join(f"{cell.field.title}: {cell.error}" for cell in self.cells if cell.error)
        self.error.setText(said)
        self.error.setAccessibleName(said)
        self.error.setVisible(bool(said))

    def again(self) -> None:
        """Begin the next of the same: the line was written."""
        self.fill({})
        if self.cells:
            self.cells[0].edit.setFocus(Qt.FocusReason.OtherFocusReason)

    def needed(self) -> tuple[str, ...]:
        """Return the keys of what the line still needs."""
        return line_of(self.verb, self._texts())[1]

    def ask(self) -> bool:
        """Go to the first field that is still needed, and say so below it; False where none is."""
        needed = self.needed()
        for cell in self.cells:
            if cell.field.key in needed:
                cell.say(f"needed. Example: {cell.field.example}")
        self._show_error()
        first = next((cell for cell in self.cells if cell.field.key in needed), None)
        if first is not None:
            first.edit.setFocus(Qt.FocusReason.OtherFocusReason)
        return first is not None

    def blame(self, value: object, sentence: str) -> bool:
        """Say what is wrong with a line below the field that it is wrong with; False where that is none of them alone."""
        wrong = [cell for cell in self.cells if cell.field.wrong(cell.text)]
        said = [
            cell for cell in self.cells if not cell.field.choices and cell.text.strip() == str(value).strip() != ""
        ]
        for cell in said if not wrong else ():
            cell.say(sentence)
        self._show_error()
        return bool(wrong or said)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.left.emit()
        else:
            super().keyPressEvent(event)

    def _list(self, stop: str) -> None:
        self.what.clear()
        here = sorted((n for n, v in enumerate(VERBS) if v.stop == stop), key=lambda n: VERBS[n] in STAY)
        apart = not here
        for n in (*here, *(n for n in range(len(VERBS)) if n not in here)):
            verb = VERBS[n]
            if not has_fields(verb):
                continue
            if n not in here and not apart:
                self.what.insertSeparator(self.what.count())
                apart = True
            self.what.addItem(f"{verb.name} · {verb.does}", n)

    def _verb_of(self, line: str, stop: str, kept: Verb | None = None) -> Verb | None:
        """Return the verb that a line is of, or begins like; of several the one in hand, then that of the stop."""
        if not line.strip():
            return kept
        near = [verb for verb in by_first_word(VERBS, line.strip()) if has_fields(verb)]
        fits = [verb for verb in near if any(form.texts(line.strip()) is not None for form in verb.read_forms)]
        begun = [verb for verb in near if verb.first_words]
        for found in (fits, begun):
            if kept in found:
                return kept
            if found:
                return min(found, key=lambda verb: verb.stop != stop)
        return None

    def _chosen(self) -> None:
        if self.verb.name == OWN_FIELDS:
            self.elsewhere.emit(OWN_FIELDS)
            return
        self._show(self.verb, {})
        self._say()
        if self.cells:
            self.cells[0].edit.setFocus(Qt.FocusReason.OtherFocusReason)

    def _show(self, verb: Verb, texts: Mapping[str, str]) -> None:
        self.what.setCurrentIndex(self.what.findData(VERBS.index(verb)))
        empty(self._row)
        known = self.known()
        self.cells = tuple(Cell(self._theme, field, known.get(field.slot, ())) for field in fields_of(verb))
        before: QWidget = self.what
        for cell in self.cells:
            self._row.addWidget(cell)
            QWidget.setTabOrder(before, cell.edit)
            before = cell.edit
            if isinstance(cell.edit, QComboBox):
                cell.edit.activated.connect(self._say)
            else:
                cell.edit.textEdited.connect(self._say)
                cell.edit.returnPressed.connect(self.entered)
                if (completer := cell.edit.completer()) is not None:
                    completer.activated.connect(self._say)
        QWidget.setTabOrder(before, self.close_)
        self.fill(texts)

    def _texts(self) -> dict[str, str]:
        return {cell.field.key: cell.text for cell in self.cells}

    def _say(self) -> None:
        self._look_over()
        line, needed = line_of(self.verb, self._texts())
        anything = any(text.strip() for text in self._texts().values())
        titles = tuple(cell.field.title for cell in self.cells if cell.field.key in needed)
        self.said.emit(line if anything else "", titles if anything else ())

    def changeEvent(self, event: QEvent) -> None:
        super().changeEvent(event)
        if event.type() == QEvent.Type.FontChange:
            self.updateGeometry()
