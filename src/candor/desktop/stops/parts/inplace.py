"""What goes in the part's place: from stock, from the series, or made of several."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.core.parts.piece_text import read_piece
from candor.core.parts.replacement import Proposal, own, propose
from candor.core.quantities import parse_number
from candor.core.severity import Severity
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.theme import TINTS, Theme, label, retint
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.row_list import Row, RowList
from candor.notebook.parts.parts_list import PartLine
from candor.notebook.parts.replacing import of_proposal
from candor.sitting.commands import parts_commands
from candor.words.parts_words import say_proposal


class InPlacePanel(QWidget):
    """Proposals for the part chosen.

    Signals
    -------
    combine(str)
        The value is to be made of several: the designator.
    written()
    """

    combine = Signal(str)
    written = Signal()

    def __init__(self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice, shop: Shop) -> None:
        super().__init__()
        self._in_hand, self._writer, self._voice, self._shop = in_hand, writer, voice, shop
        self._line: PartLine | None = None
        self._proposals: tuple[Proposal, ...] = ()
        self._current = 0
        self.words = label("", "text")
        self.list = RowList(theme, "What would serve")
        self.own, self.own_words = Field(), label("", "soft")
        self.own.setPlaceholderText("or your own: 22u 500V")
        self.own.setAccessibleName("your own replacement")
        self.own.setToolTip("Value, tolerance, ratings and make; 2 x before it for two in series")
        self.own.setMinimumWidth(theme.px(200))
        self.own.textChanged.connect(self._show_own)
        self.own.returnPressed.connect(self._choose)
        self.supplier, self.price = Field(), Field()
        for edit, title in ((self.supplier, "supplier"), (self.price, "price of one")):
            edit.setPlaceholderText(title)
            edit.setAccessibleName(title)
            edit.setMaximumWidth(theme.px(108))
        self.choose = button("This goes in", "Take it from stock, or put it on the order", name="main")
        self.several = button("Make it of several …", "The best of one to four pieces, from stock and series")
        self.fitted = button("It is fitted", "The part is replaced; then it asks for its check")
        self.back = button("Not that", "Take the choice back")
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(6))
        column.addWidget(self.words)
        column.addWidget(self.list)
        column.addWidget(self.own_words)
        column.addLayout(flow(theme.px(8), self.own, self.supplier, self.price, self.choose, self.several))
        column.addLayout(flow(theme.px(8), self.fitted, self.back))
        column.addStretch()
        self.list.picked.connect(self._pick)
        self.choose.clicked.connect(self._choose)
        self.several.clicked.connect(lambda: self.combine.emit(self._line.part.ref if self._line else ""))
        self.fitted.clicked.connect(self._fit)
        self.back.clicked.connect(self._take_back)

    def show_line(self, line: PartLine | None) -> None:
        """Take another part in hand."""
        if line is None or self._line is None or line.part.ref != self._line.part.ref:
            self._current = 0
            self.price.clear()
            self.own.clear()
        self._line = line
        self.setEnabled(line is not None and not line.fate)
        if line is None:
            return
        self._proposals = propose(
            line.part,
            [item.piece for item in self._in_hand.free_stock(line.part.ref)],
            self._shop.settings.mains,
        )
        rows = [Row(str(i), p.text, say_proposal(p)) for i, p in enumerate(self._proposals)]
        self._current = min(self._current, len(rows) - 1)
        self.list.show_rows(tuple(rows), str(self._current))
        self.list.fit(3)
        choice = line.choice.body if line.choice else None
        chosen = f"Goes in: {choice.arrangement} (entry {line.choice.number})." if choice and line.choice else ""
        self.words.setText(chosen or f"In place of {line.part.ref}, {line.part.words}:")
        self.back.setVisible(choice is not None)
        self.fitted.setVisible(choice is not None)
        self._show_own()

    def _show_own(self) -> None:
        """Say what stands against one's own choice as it is typed; supplier and price where it is not from stock."""
        line, typed = self._line, bool(self.own.text().strip())
        if line is None or not self._proposals:
            return
        words, severity = "", Severity.NOTE
        if typed:
            try:
                made = self._own(line)
                words = f"{made.text}. {say_proposal(made)}"
                severity = made.severity
            except CandorError as error:
                words = str(error)
        self.own_words.setText(words)
        retint(self.own_words, TINTS[severity])
        self.own_words.setVisible(typed)
        from_stock = not typed and bool(self._proposals[self._current].piece.key)
        self.supplier.setVisible(not from_stock)
        self.price.setVisible(not from_stock)

    def _own(self, line: PartLine) -> Proposal:
        return own(line.part, read_piece(self.own.text(), line.part.kind), self._shop.settings.mains)

    def _pick(self, key: str) -> None:
        self._current = int(key)
        self.show_line(self._line)

    def _choose(self) -> None:
        line = self._line
        if line is None:
            return
        try:
            proposal = self._own(line) if self.own.text().strip() else self._proposals[self._current]
            typed = parse_number(self.price.text(), "a price such as 1.20") if self.price.text().strip() else 0.0
        except CandorError as error:
            self._voice.refuse(str(error))
            return
        body = of_proposal(
            ref=line.part.ref, proposal=proposal, stock=self._shop.stock(),
            supplier=self.supplier.text().strip(), price=typed,
        )  # fmt: skip
        if self._writer.do(parts_commands.choose_replacement(body)):
            self.own.clear()
            self.written.emit()

    def _take_back(self) -> None:
        if self._line is not None and self._writer.do(parts_commands.take_choice_back(self._line.part.ref)):
            self.written.emit()

    def _fit(self) -> None:
        """The part is in: what came from stock is gone from it by that, and the change waits for its check."""
        line = self._line
        if line is None or line.choice is None:
            return
        if self._writer.do(parts_commands.fit(line.part.ref, line.choice.body.arrangement)):
            self.written.emit()
