"""Stock: what is on hand, counted and moved; CSV in and out; and a value made of it."""

from __future__ import annotations

from functools import partial
from pathlib import Path

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout

from candor.core.errors import CandorError
from candor.core.severity import Severity
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.place import PlaceInHand
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.file_names import open_name, save_name
from candor.desktop.frame.page import Page
from candor.desktop.frame.theme import Theme, label
from candor.desktop.rooms.combiner import Combiner
from candor.desktop.rooms.from_file import Preview
from candor.desktop.widgets.controls import Column, button, line
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.long_list import LongList
from candor.desktop.widgets.order_choice import OrderChoice
from candor.desktop.widgets.row_list import Row
from candor.durably import write_durably
from candor.notebook.parts.stock import STOCK_ORDERS, preview_stock, read_recount, stock_shown, write_stock
from candor.notebook.storage.files import LARGEST_TABLE, FileError, read_bytes_of
from candor.sitting.commands import shop_commands

HOW = (
    "Stock from a table",
    [
        "The columns what (resistor, tube, lamp …), value and count are needed; tolerance, make, volts, watts, safety, celsius, "
        "place, supplier and price may be added. Comma, semicolon or tab; decimal point or comma.",
        "An item that is there already is counted anew.",
    ],
)


class StockPage(Page):
    """The room.

    Signals
    -------
    previewAsked(object)
        A file is to be shown as it is understood.
    chosen()
        An arrangement was taken for a part.
    """

    previewAsked = Signal(object)
    chosen = Signal()

    def __init__(
        self, theme: Theme, in_hand: JobInHand, place: PlaceInHand, writer: Writer, voice: Voice, shop: Shop
    ) -> None:
        super().__init__()
        self._in_hand, self._place, self._writer, self._voice, self._shop = in_hand, place, writer, voice, shop
        self._key = ""
        self.title = label("Stock", "heading", bold=True)
        self.words = label("", "soft")
        self.filter = Field()
        self.filter.setPlaceholderText("show only, such as 47 n or film")
        self.filter.setAccessibleName("Show only")
        self.order = OrderChoice("Order of the stock", STOCK_ORDERS)
        self.list = LongList(theme, "Stock")
        self.list.deeds = ()  # its count is typed first
        self.count = Field()
        self.count.setPlaceholderText("count, or +5")
        self.count.setAccessibleName("How many are there, or how many more or fewer")
        self.count.setMaximumWidth(theme.px(150))
        self.recount = button("Write it", "Write the count of the item chosen")
        self.take_in = button("From a file …", "A table of stock as CSV")
        self.give_out = button("Save as CSV …", "The whole stock as a table")
        self.combiner = Combiner(theme, in_hand=in_hand, writer=writer, voice=voice, shop=shop)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        self.area = Column(theme.px(16), theme.px(7))
        column = self.area.column
        column.setContentsMargins(theme.px(18), theme.px(12), theme.px(16), theme.px(12))
        found = QHBoxLayout()
        found.addWidget(self.filter, 1)
        found.addWidget(self.order)
        column.addWidget(self.title)
        column.addWidget(self.words)
        column.addLayout(found)
        column.addWidget(self.list)
        column.addLayout(flow(theme.px(8), self.count, self.recount, self.take_in, self.give_out))
        column.addWidget(line())
        column.addWidget(self.combiner)
        column.addStretch()
        outer.addWidget(self.area)
        self._wire()

    def _wire(self) -> None:
        self.filter.textChanged.connect(self.show_stock)
        self.order.changed.connect(self.show_stock)
        self.list.picked.connect(self._pick)
        self.recount.clicked.connect(self._recount)
        self.count.returnPressed.connect(self._recount)
        self.take_in.clicked.connect(self._ask_in)
        self.give_out.clicked.connect(self._ask_out)
        self.combiner.chosen.connect(self.chosen)
        self.combiner.answered.connect(lambda: self.explainAsked.emit())

    def finish(self) -> None:
        """Stop the work in hand."""
        self.combiner.finish()

    def enter(self) -> None:
        """Come to the room."""
        self.show_stock()
        self.combiner.fields["target"].setFocus()

    def combine_for(self, ref: str) -> None:
        """Make a value for a part of the job in hand."""
        parts = self._in_hand.parts()
        found = parts.line(ref) if parts else None
        if found is not None:
            self.combiner.show_part(found)

    def show_stock(self) -> None:
        """Show what is on hand."""
        supplies = self._shop.supplies()
        items, free = supplies.stock, {i.body.key: i.count for i in supplies.free("", "")}
        shown = stock_shown(items, self.filter.text(), self.order.choice)
        keys = [item.body.key for item in shown]
        if self._key not in keys:
            self._key = keys[0] if keys else ""

        def row(place: int) -> Row:
            item = shown[place]
            claimed = item.count - free[item.body.key]
            here = f"{item.count} here" + (f", {claimed} spoken for" if claimed else "")
            here += f", {item.missing} more taken than counted" if item.missing else ""
            under = " · ".join(x for x in (here, item.body.place, item.body.supplier,
                                           f"{item.body.price:.2f} each" if item.body.price else "") if x)  # fmt: skip
            return Row(item.body.key, item.text, under, "full" if item.count else "ring", says=f"{item.count} pieces")

        self.list.show_rows(range(len(shown)), row, keys.index(self._key) if self._key else None)
        self.list.fit(5)
        pieces = sum(i.count for i in items)
        told = (
            f"{len(items)} items, {pieces} pieces."
            if items
            else "Nothing is counted yet: take a table in from a file."
        )
        self.words.setText(told if len(shown) == len(items) else f"{told} {len(shown)} shown.")
        for widget in (self.list, self.count, self.recount, self.filter, self.order, self.give_out):
            widget.setVisible(bool(items))

    def _pick(self, key: str) -> None:
        self._key = key
        self.count.setFocus()

    def _recount(self) -> None:
        item = next((i for i in self._shop.stock() if i.body.key == self._key), None)
        text = self.count.text()
        if item is None:
            return
        try:
            by = read_recount(text, item.count)
        except CandorError as error:
            self._voice.refuse(str(error))
            return
        if by and self._writer.do(shop_commands.move_stock(self._key, by, "counted")):
            self.count.clear()
            self.show_stock()

    def _ask_in(self) -> None:
        name = open_name(self, "Stock", "Tables (*.csv *.tsv *.txt)")
        if name:
            self.preview_file(Path(name))

    def preview_file(self, path: Path) -> None:
        """Show how a table of stock is understood."""
        try:
            content = read_bytes_of(path, "a table of stock", LARGEST_TABLE)
        except FileError as error:
            self._voice.refuse(f"{error} Nothing was imported.")
            return
        self.previewAsked.emit(self._previewed(path.name, content))

    def _previewed(self, name: str, content: bytes) -> Preview:
        found = preview_stock(content, self._shop.stock())
        return Preview(
            title=f"{name}: {found.count} items", noun="item", lines=found.lines, faults=found.faults, bodies=found.bodies, why=HOW,
            of_shop=True, source=content, again=partial(self._previewed, name),
        )  # fmt: skip

    def _ask_out(self) -> None:
        name = save_name(self, "Stock", "stock.csv", "Tables (*.csv)")
        if name:
            self.save(Path(name))

    def save(self, path: Path) -> None:
        """Write the whole stock as a table."""
        try:
            write_durably(path, write_stock(self._shop.stock()).encode())
        except OSError as error:
            self._voice.refuse(f"{path} could not be written: {error.strerror}.")
            return
        self._voice.say(f"The stock is in {path.name}.", Severity.DONE)

    def explain(self, because: Because) -> None:
        """Say how the combiner searches, and what it proved."""
        because.show_whole(None)
        words = [
            "Candor tries every arrangement in series, in parallel and mixed; + is in series, ∥ in parallel.",
            "Worst case: every part at the unfavourable end of its tolerance. In parallel each has the full voltage; in series "
            "resistors share it in proportion to their values, capacitors inversely.",
            "Electrolytics in series leak unequally: put an equalising resistor across each.",
        ]
        because.show_words("Exact, not sampled", words)


def _plain(text: str) -> str:
    return text.lower().replace("µ", "u")
