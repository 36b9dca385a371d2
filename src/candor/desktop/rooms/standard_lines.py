"""What a standard is good for: a table as its handbook or its certificate prints it, or the same as lines of text."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QComboBox, QPlainTextEdit, QSizePolicy, QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.core.reference.reach import reach
from candor.desktop.bench.voice import Voice
from candor.desktop.frame.chart_menu import ChartMenu
from candor.desktop.frame.local_numbers import in_field
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.edit_table import EditTable
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.reachchart import ReachChart
from candor.notebook.entries.standards_entries import StandardFunction
from candor.notebook.standards.standards import to_reference
from candor.notebook.standards.standards_table import (
    CERTIFICATE,
    SPECIFICATION,
    faults_of,
    is_by_certificate,
    lines_of_rows,
    pasted,
    quantities_before,
    rows_of,
)
from candor.notebook.standards.standards_text import read_functions, say_heading, write_functions
from candor.notebook.standards.usual_classes import USUAL_CLASSES, UsualClass

TABLE_HINT = (
    "A row for each range, as it stands in the handbook; paste a table from a spreadsheet or the handbook's page. "
    "An empty quantity is that of the row above. "
    "Quantities: V d.c. · V a.c. · A d.c. · A a.c. · ohm · F · H · Hz · s · siemens · dB · ratio."
)
TEXT_HINT = (
    "A heading for each quantity (V d.c. · V a.c., rms responding · ohm · F …), then a line for each range: "
    "“6 V, 1 mV: 0.5 % + 2 digits”, “40 Hz to 1 kHz, to 10 V: 0.2 % + 0.1 % of range”, or of a certificate “at 10 V: "
    "correction 0.2 mV U 0.4 mV k 2”."
)
CHAIN_HINT = "Its formula and what comes out, then a line for every name; the one without a value is read each time."
PLACEHOLDERS = {
    False: "V d.c., loads 10M, 6000 counts\n6 V: 0.5 % + 2 digits\nohm\nat 4.7 kohm: correction 2 U 1 k 2",
    True: "= V / R in A d.c.\nV: bench meter A, V d.c.\nR: shunt, ohm",
}
SOURCES = (("its handbook", False), ("its certificate", True))
MOST_SHOWN = 9  # rows, before the table scrolls
CHART = 190  # px of the picture at the text size as designed


class StandardLines(QWidget):
    """The table, the text that says the same, the usual classes to start from; beside them what is done with it all.

    Signals
    -------
    started(object)
        A usual class was chosen to start from: the UsualClass.
    """

    started = Signal(object)

    def __init__(self, theme: Theme, *deeds: QWidget, voice: Voice | None = None) -> None:
        super().__init__()
        self._theme = theme
        self._is_chain = False
        self.start = QComboBox()
        self.start.setAccessibleName("Start from a usual class")
        self.start.setToolTip("What meters of a class usually hold, until you have the handbook of your own")
        self.start.addItem("start from a usual class …", None)
        for usual in USUAL_CLASSES:
            self.start.addItem(usual.name, usual)
        self.source = QComboBox()
        self.source.setAccessibleName("Its figures are from")
        for words, by_certificate in SOURCES:
            self.source.addItem(f"figures from {words}", by_certificate)
        self.as_text = button("As text", "The same as lines of text", name="quiet")
        self.as_text.setCheckable(True)
        self.table = EditTable(theme, "What it is good for")
        self.table.paste_as = lambda text, keys: pasted(text, self.by_certificate, keys)
        self.table.inherited = ("quantity", "condition")
        self.text = QPlainTextEdit()
        self.text.setAccessibleName("What it is good for, line by line")
        self.text.setTabChangesFocus(True)
        self.text.setMinimumHeight(theme.px(90))
        self.chart = ReachChart(theme)
        self.chart.setFixedHeight(theme.px(CHART))
        self.chart_menu = ChartMenu(self.chart, "standard", voice) if voice is not None else None
        self.hint = label("", "soft")
        self.error = label("", "text", tint="brick")
        head = flow(theme.px(10), self.start, self.source, self.as_text, *deeds)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(5))
        column.addLayout(head)
        column.addWidget(self.hint)
        column.addWidget(self.error)
        column.addWidget(self.table, 1)
        column.addWidget(self.chart)
        column.addWidget(self.text, 1)
        self.start.activated.connect(self._start)
        self.source.activated.connect(lambda _: self._show_table(()))
        self.as_text.toggled.connect(self._turn)
        self.table.currentCellChanged.connect(lambda *_: self._draw())
        self.table.edited.connect(self._look_over)
        self.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Maximum)
        self._show_table(())
        self._show_parts()

    @property
    def by_certificate(self) -> bool:
        """Whether its figures are from its certificate."""
        return bool(self.source.currentData())

    def show_functions(self, functions: Sequence[StandardFunction]) -> None:
        """Show what a standard is good for."""
        self._is_chain = False
        self.start.setCurrentIndex(0)
        self.source.setCurrentIndex(int(is_by_certificate(functions)))
        self.text.setPlainText(write_functions(functions) if functions else "")
        mixed = any(f.ranges for f in functions) and self.by_certificate
        self.as_text.blockSignals(True)
        self.as_text.setChecked(
            mixed
        )  # a quantity by its handbook beside one by its certificate: the table has one kind
        self.as_text.blockSignals(False)
        self._show_table(rows_of(functions))
        self._show_parts()

    def show_chain(self, text: str) -> None:
        """Show a chain's formula and links, which are text alone."""
        self._is_chain = True
        self.text.setPlainText(text)
        self._show_parts()

    def show_kind(self, is_chain: bool) -> None:
        """Be a chain's, or a standard's; what was typed stays."""
        self._is_chain = is_chain
        self._show_parts()

    def lines(self) -> str:
        """Return what is shown as lines of text."""
        return self.text.toPlainText() if self._text_shown else lines_of_rows(self.table.rows(), self.by_certificate)

    def say(self, sentence: str) -> None:
        """Say what is wrong above the table, whole; it goes when something is changed."""
        self.error.setText(sentence)
        self.error.setAccessibleName(sentence)
        self.error.setVisible(bool(sentence))
        self.hint.setVisible(not sentence)

    @property
    def _text_shown(self) -> bool:
        return self._is_chain or self.as_text.isChecked()

    def _show_parts(self) -> None:
        text = self._text_shown
        self.table.setVisible(not text)
        self._draw()
        self.text.setVisible(text)
        for widget in (self.start, self.as_text):
            widget.setVisible(not self._is_chain)
        self.source.setVisible(not text)
        self.hint.setText(CHAIN_HINT if self._is_chain else TEXT_HINT if text else TABLE_HINT)
        self.text.setPlaceholderText(in_field(PLACEHOLDERS[self._is_chain]))
        if text:
            self.say("")
        else:
            self._look_over()

    def _show_table(self, rows: Sequence[dict[str, str]]) -> None:
        columns = CERTIFICATE if self.by_certificate else SPECIFICATION
        self.table.show_columns([(c.key, c.title, c.example) for c in columns], [c.width for c in columns])
        self.table.show_rows(rows)
        self._look_over()

    def _turn(self, as_text: bool) -> None:
        """Show the table as text or the text as a table; a text that cannot be read stays as it is."""
        if as_text:
            self.text.setPlainText(lines_of_rows(self.table.rows(), self.by_certificate))
        else:
            typed = self.text.toPlainText()
            try:
                functions = read_functions(typed) if typed.strip() else ()
            except CandorError as error:
                self.as_text.blockSignals(True)
                self.as_text.setChecked(True)
                self.as_text.blockSignals(False)
                self.say(str(error))
                return
            self.source.setCurrentIndex(int(is_by_certificate(functions)))
            self._show_table(rows_of(functions))
        self._show_parts()

    def _look_over(self) -> None:
        """Mark what cannot be read, and say the first of it."""
        faults = faults_of(self.table.rows(), self.by_certificate)
        self.table.mark(faults)
        self.table.fit(MOST_SHOWN)
        self._draw()
        first = min(faults, default=None)
        more = f" ({len(faults) - 1} more)" if len(faults) > 1 else ""
        self.say("" if first is None else f"Row {first + 1}: {faults[first][1]}{more}")

    def _draw(self) -> None:
        """Draw the quantity that the row in hand is of; nothing while it cannot be read, or beside the text."""
        rows = self.table.rows()
        at = max(self.table.currentRow(), 0)
        try:
            functions = (
                read_functions(lines_of_rows(rows, self.by_certificate)) if rows and not self._text_shown else ()
            )
        except CandorError:
            functions = ()
        number = max(quantities_before(rows, at), 0)
        if not functions:
            self.chart.show_reach((), "", "")
            return
        function = functions[min(number, len(functions) - 1)]
        self.chart.show_reach(
            reach(to_reference(function)), function.unit, say_heading(function.unit, function.current)
        )

    def _start(self, index: int) -> None:
        usual = self.start.itemData(index)
        if isinstance(usual, UsualClass):
            self.show_functions(read_functions(usual.lines))
            self.start.setCurrentIndex(index)  # the arrow keys go on from here
            self.started.emit(usual)
