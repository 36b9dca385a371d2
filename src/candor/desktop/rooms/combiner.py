"""The combiner: a value made of one to four pieces, or a measured part trimmed to it."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QComboBox, QGridLayout, QVBoxLayout, QWidget

from candor.core.combine.combiner_fields import asked_for, read_asked
from candor.core.combine.preferred import SERIES
from candor.core.combine.search import Answer, Asked, Found, search
from candor.core.errors import CandorError
from candor.core.parts.part import Part
from candor.core.parts.replacement import needs
from candor.core.severity import Severity
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.local_numbers import in_field
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.row_list import Row, RowList
from candor.desktop.widgets.worker import Work
from candor.notebook.parts.parts_list import PartLine
from candor.notebook.parts.replacing import of_answer
from candor.notebook.parts.stock import StockItem, pieces
from candor.sitting.commands import parts_commands
from candor.words.combining import named_answers, say_answer, say_search, say_to_order

FIELDS = (("target", "value wanted", "7 M"), ("window", "serves within ± %", "1"), ("measured", "trim a part that reads", "6.72 M"),
          ("volts", "V across", "300"))  # fmt: skip


class Combiner(QWidget):
    """What is asked above, the answers below.

    Signals
    -------
    chosen()
        An arrangement was taken for the part in hand.
    answered()
    """

    chosen = Signal()
    answered = Signal()

    def __init__(self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice, shop: Shop) -> None:
        super().__init__()
        self._in_hand, self._writer, self._voice, self._shop = in_hand, writer, voice, shop
        self._ref = ""
        self._found: Found | None = None
        self._current = ""
        self._items: tuple[StockItem, ...] = ()
        self._work = Work(self)
        self.fields: dict[str, Field] = {}
        self.kind, self.series, self.most = QComboBox(), QComboBox(), QComboBox()
        self.search = button("Find the best", "Tries every arrangement", "Enter", "main")
        self.take = button("This goes in", "Take it for the part in hand")
        self.words = label("", "text")
        self.list = RowList(theme, "Arrangements", wrap=True)
        self._build(theme)
        self._work.answered.connect(self._show)
        self._work.failed.connect(self._fail)

    def _build(self, theme: Theme) -> None:
        for box, name, items in (
            (self.kind, "resistor or capacitor", (("resistor", "resistor"), ("capacitor", "capacitor"))),
            (self.series, "series beside stock", (("stock alone", ""), *((f"and {s}", s) for s in SERIES))),
            (self.most, "pieces at most", tuple((f"up to {n}", n) for n in (4, 3, 2, 1))),
        ):
            box.setAccessibleName(name)
            box.setToolTip(name)
            for text, data in items:
                box.addItem(text, data)
        grid = QGridLayout()
        grid.setHorizontalSpacing(theme.px(10))
        grid.setVerticalSpacing(theme.px(2))
        for index, (key, title, hint) in enumerate(FIELDS):
            edit = Field()
            edit.setPlaceholderText(in_field(hint))
            edit.setAccessibleName(title)
            edit.returnPressed.connect(self.ask)
            self.fields[key] = edit
            grid.addWidget(label(title, "soft", wrap=False), 0, index)
            grid.addWidget(edit, 1, index)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(6))
        column.addWidget(label("Make a value", "heading", bold=True))
        column.addLayout(grid)
        column.addLayout(flow(theme.px(8), self.kind, self.series, self.most, self.search, self.take))
        column.addWidget(self.words)
        column.addWidget(self.list)
        self.search.clicked.connect(self.ask)
        self.take.clicked.connect(self._take)
        self.list.picked.connect(self._pick)
        self.take.setVisible(False)
        self.words.setVisible(False)
        self.list.setVisible(False)

    def finish(self) -> None:
        """Stop the work in hand."""
        self._work.finish()

    def show_part(self, line: PartLine) -> None:
        """Take what a part needs as what is wanted; a resistor that was measured lifted is to be trimmed."""
        part: Part = line.part
        self._ref, self._found = part.ref, None
        self.kind.setCurrentIndex(self.kind.findData(part.kind))
        for key, text in asked_for(part, line.measured).items():
            self.fields[key].setText(text)
        self.list.show_rows((), "")
        self.ask()

    def asked(self) -> Asked:
        """Return what the fields ask.

        Raises
        ------
        CandorError
            Where they cannot be read.
        """
        text = {key: edit.text().strip() for key, edit in self.fields.items()}
        return read_asked(
            text, kind=self.kind.currentData(), most=self.most.currentData(), series=self.series.currentData()
        )

    def ask(self) -> None:
        """Search, beside the window."""
        try:
            asked = self.asked()
        except CandorError as error:
            self._fail(str(error))
            return
        parts = self._in_hand.parts()
        line = parts.line(self._ref) if parts and self._ref else None
        mains = self._shop.settings.mains
        wanted = needs(line.part, mains) if line is not None and line.part.kind == asked.kind else None
        self._items, on_hand = pieces(self._in_hand.free_stock(self._ref), asked.kind, wanted)
        self._say("Searching …")
        self._work.start(lambda should_stop: search(asked, on_hand, should_stop))

    def _say(self, words: str) -> None:
        self.words.setText(words)
        self.words.setVisible(bool(words))

    def _fail(self, sentence: str) -> None:
        self._say("")
        self._voice.refuse(sentence)

    def _show(self, found: Found) -> None:
        self._found = found
        self._say(say_search(found))
        answers = named_answers(found)
        rows = [self._row(key, what, answer, found.asked) for key, what, answer in answers]
        serving = [key for key, _, a in answers if a.serves and not a.is_over]
        on_hand = [key for key, _, a in answers if key in serving and not a.to_order]
        self._current = (on_hand or serving)[0] if serving else rows[-1].key if rows else ""
        self.list.show_rows(tuple(rows), self._current)
        self.list.setVisible(bool(rows))
        self.list.fit(6)
        self.take.setVisible(bool(self._ref and rows))
        self.take.setText(f"This goes in for {self._ref}" if self._ref else "This goes in")
        self.answered.emit()

    def _row(self, key: str, lead: str, answer: Answer, asked: Asked) -> Row:
        shape = "cross" if answer.is_over or not answer.serves else "full" if answer.always else "watch"
        missing = say_to_order(answer, asked)
        order = f" · {missing}" if missing else ""
        return Row(key, f"{lead}:  {answer.text}{order}", say_answer(answer, asked), shape)

    def answer(self) -> Answer | None:
        """Return the arrangement chosen."""
        if self._found is None or not self._current:
            return None
        return next(answer for key, _, answer in named_answers(self._found) if key == self._current)

    def _pick(self, key: str) -> None:
        self._current = key

    def _take(self) -> None:
        answer, found = self.answer(), self._found
        if answer is None or found is None or not self._ref:
            return
        body = of_answer(self._ref, found, answer, self._items)
        if self._writer.do(parts_commands.choose_replacement(body)):
            self._voice.say(f"{self._ref}: {body.arrangement} goes in.", Severity.DONE)
            self.chosen.emit()
