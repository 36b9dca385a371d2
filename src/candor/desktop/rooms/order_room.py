"""The order: what all jobs need, less stock, plus spares; what is on its way; what arrived frees the jobs that waited."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.core.jot import JotContext, PriceJot, SpentJot, understand
from candor.core.severity import Severity
from candor.desktop.bench.clock import Clock
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.shelf_in_hand import Shelf
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.drawn_pdf import Printable
from candor.desktop.frame.file_names import save_name
from candor.desktop.frame.page import Page
from candor.desktop.frame.theme import TINTS, Theme, label, retint
from candor.desktop.widgets.controls import Column, button, line, shortcut
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.order_choice import OrderChoice
from candor.desktop.widgets.row_list import Row, RowList
from candor.durably import write_durably
from candor.notebook.parts.orders import (
    LINE_ORDERS,
    DraftLine,
    Placing,
    Spares,
    arriving,
    draft,
    in_order,
    next_number,
    order_csv,
    to_order,
)
from candor.notebook.parts.supplies import Order
from candor.sitting.commands import shop_commands, stay_commands


class TimeAndMoney(QWidget):
    """What the job in hand has cost so far, against the price agreed; the jots spent, agreed and rate say the same."""

    def __init__(self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice) -> None:
        super().__init__()
        self._in_hand, self._writer, self._voice = in_hand, writer, voice
        self.title = label("", "heading", bold=True)
        self.words = label("", "text")
        self.fields: dict[str, Field] = {}
        for key, title in (
            ("agreed", "price agreed"),
            ("rate", "an hour costs"),
            ("spent", "spent: 45 min"),
        ):
            edit = Field()
            edit.setPlaceholderText(title)
            edit.setAccessibleName(title)
            edit.setMaximumWidth(theme.px(190))
            edit.returnPressed.connect(lambda key=key: self._write(key))
            self.fields[key] = edit
        self.write = button("Write it", "Write what stands in the fields", "Enter")
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(6))
        column.addWidget(self.title)
        column.addWidget(self.words)
        column.addLayout(flow(theme.px(8), *self.fields.values(), self.write))
        self.write.clicked.connect(self._write_all)

    def show_job(self) -> None:
        """Show how the job in hand stands."""
        job = self._in_hand.job
        self.setVisible(job is not None)
        if job is not None:
            self.title.setText(f"Time and money: {job.name}")
            words, state = self._in_hand.money()
            self.words.setText(f"{words[:1].upper()}{words[1:]}.".replace("..", "."))
            retint(self.words, TINTS[state])

    def _write_all(self) -> None:
        for key, edit in self.fields.items():
            if edit.text().strip():
                self._write(key)

    def _write(self, key: str) -> None:
        job, text = self._in_hand.job, self.fields[key].text().strip()
        if job is None or not text:
            return
        try:
            jot = understand(f"{key} {text}", JotContext())
            if not isinstance(jot, SpentJot | PriceJot):
                raise CandorError(f"“{text}” is neither a time nor an amount. Examples: 45 min, 12.50", value=text)
        except CandorError as error:
            self._voice.refuse(str(error))
            return
        if self._writer.jot(jot):
            self.fields[key].clear()
            self.show_job()


class OrderPage(Page):
    """The room.

    Signals
    -------
    printAsked(object)
        The order is to be looked at and printed: a Printable.
    """

    printAsked = Signal(object)

    def __init__(
        self, theme: Theme, in_hand: JobInHand, writer: Writer, voice: Voice, shelf: Shelf, shop: Shop, clock: Clock
    ) -> None:
        super().__init__()
        self._in_hand, self._writer, self._voice, self._shelf, self._shop = in_hand, writer, voice, shelf, shop
        self._clock = clock
        self._chosen = ""
        self.words = label("", "text")
        self.sorting = OrderChoice("Order of the lines", LINE_ORDERS)
        self.list = RowList(theme, "To order")
        self.share, self.upto = Field(), Field()
        for edit, title in ((self.share, "spares, %"), (self.upto, "costing up to")):
            edit.setPlaceholderText(title)
            edit.setAccessibleName(title)
            edit.setToolTip("So many per cent more, rounded up, of what costs no more than this each")
            edit.setMaximumWidth(theme.px(150))
            edit.textEdited.connect(lambda _: self.show_order())
            edit.editingFinished.connect(self._keep_spares)
        self.place = button("It is ordered", "Write the order; the jobs wait for their parts", name="main")
        self.csv = button("Save as CSV …", "The order as a table")
        self.print_ = button("Print …", "The order, its pages shown first", "Ctrl+P")
        self.pdf = button("Save as PDF …", "The order as a page", "Ctrl+S")
        self.coming = RowList(theme, "On its way", wrap=True)
        self.coming_words = label("", "soft")
        self.arrived = button("It is here", "The line chosen arrived")
        self.all_arrived = button("All of it is here", "Every line of that order arrived")
        self.list.deeds, self.coming.deeds = (), (self.arrived, self.all_arrived)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        self.area = Column(theme.px(16), theme.px(7))
        column = self.area.column
        column.setContentsMargins(theme.px(18), theme.px(12), theme.px(16), theme.px(12))
        column.addWidget(label("One order for all jobs", "heading", bold=True))
        column.addWidget(self.words)
        column.addLayout(flow(theme.px(8), self.sorting))
        column.addWidget(self.list)
        column.addLayout(flow(theme.px(8), self.share, self.upto, self.place, self.print_, self.pdf, self.csv))
        column.addWidget(line())
        column.addWidget(label("On its way", "heading", bold=True))
        column.addWidget(self.coming_words)
        column.addWidget(self.coming)
        column.addLayout(flow(theme.px(8), self.arrived, self.all_arrived))
        self.money = TimeAndMoney(theme, in_hand=in_hand, writer=writer, voice=voice)
        column.addWidget(line())
        column.addWidget(self.money)
        column.addStretch()
        outer.addWidget(self.area)
        self.print_.clicked.connect(self._print)
        self.sorting.changed.connect(self.show_order)
        shortcut(self, "Ctrl+P", self.print_.click)
        shortcut(self, "Ctrl+S", self.pdf.click)
        self.place.clicked.connect(self._place)
        self.csv.clicked.connect(lambda: self._ask("csv"))
        self.pdf.clicked.connect(lambda: self._ask("pdf"))
        self.coming.picked.connect(self._pick)
        self.arrived.clicked.connect(lambda: self._arrive(False))
        self.all_arrived.clicked.connect(lambda: self._arrive(True))

    def enter(self) -> None:
        """Come to the room."""
        for edit, text in zip((self.share, self.upto), self._shop.spares, strict=True):
            edit.setText(text)
        self.show_order()
        self.place.setFocus()

    def spares(self) -> Spares:
        """Return the spares policy as it stands in its fields; none while they cannot be read."""
        try:
            return Spares.read(self.share.text(), self.upto.text())
        except CandorError:
            return Spares()

    def _keep_spares(self) -> None:
        """Write the policy where it was changed, so that it holds for the next order too."""
        typed = (self.share.text().strip(), self.upto.text().strip())
        try:
            Spares.read(*typed)
        except CandorError as error:
            self._voice.refuse(str(error))
            return
        held = zip(("spares", "spares_up_to"), typed, self._shop.spares, strict=True)
        changed = {field: new for field, new, old in held if new != old}
        if changed:
            self._writer.do(stay_commands.shop_details(**changed))

    def draft(self) -> tuple[DraftLine, ...]:
        """Return the order to be."""
        supplies = self._shop.supplies()
        return draft(supplies.needs, supplies.stock, self.spares())

    def show_order(self) -> None:
        """Show what is to be ordered and what is on its way."""
        lines = in_order(self.draft(), self.sorting.choice)
        rows, supplier = [], None
        for index, x in enumerate(lines):
            if x.supplier != supplier:
                supplier = x.supplier
                rows.append(Row("", supplier or "supplier not said"))
            jobs = ", ".join(f"{n.ref} of {n.instrument}" for n in x.needs)
            here = f"{x.on_hand} of {x.needed} from stock · " if x.on_hand else ""
            spare = f"{x.spares} spare · " if x.spares else ""
            cost = f"{x.cost:.2f} · " if x.cost else ""
            lead = f"{x.count} x {x.text}" if x.count else f"none to order: {x.text}"
            rows.append(Row(str(index), lead, f"{here}{spare}{cost}for {jobs}", "ring" if x.count else "full"))
        self.list.show_rows(tuple(rows), "")
        self.list.setVisible(bool(rows))
        self.sorting.setVisible(len(lines) > 1)
        self.list.fit(8)
        total, count = sum(x.cost for x in lines), sum(bool(x.count) for x in lines)
        cost = f", {total:.2f} together" if total else ""
        self.words.setText(
            f"{count} kind{'' if count == 1 else 's'} to order{cost}." if count else "Nothing is to be ordered."
        )
        for widget in (self.place, self.csv, self.pdf):
            widget.setEnabled(bool(count))
        self._show_coming()
        self.money.show_job()

    def _show_coming(self) -> None:
        rows = []
        names = self._shelf.instruments()
        for order in self._shop.orders():
            if not order.open:
                continue
            rows.append(
                Row(
                    "",
                    f"order {order.body.number}, {order.entry.at.astimezone():%Y-%m-%d}, entry {order.entry.number}",
                )
            )
            for place, x in enumerate(order.body.lines):
                here = place in order.arrived
                whose = f"{x.ref} of {names.get(x.job, 'a returned job')}" if x.job else "spare"
                state = "here" if here else "on its way"
                rows.append(
                    Row(
                        f"{order.entry.id}:{place}",
                        f"{x.count} x {x.text}",
                        f"{whose} · {state}",
                        "full" if here else "ring",
                    )
                )
        if not self._chosen or self._chosen not in [r.key for r in rows]:
            self._chosen = next((r.key for r in rows if r.key), "")
        self.coming.show_rows(tuple(rows), self._chosen)
        self.coming.fit(8)
        self.coming_words.setText("" if rows else "Nothing is on its way.")
        self.coming_words.setVisible(not rows)
        for widget in (self.coming, self.arrived, self.all_arrived):
            widget.setVisible(bool(rows))

    def _pick(self, key: str) -> None:
        self._chosen = key

    # --- doing ------------------------------------------------------------------------------------------

    def number(self) -> str:
        """Return the number the next order gets: the day and its place in it."""
        return next_number(self._shop.orders(), self._clock.now().astimezone())

    def order(self) -> Placing | None:
        """Return the order as it would be placed."""
        return to_order(self.number(), self.draft())

    def _place(self) -> None:
        body = self.order()
        if body is None or not self._writer.do(shop_commands.place_order(body)):
            return
        self._voice.say(f"Order {body.number} is written; its jobs wait for their parts.", Severity.DONE)
        self.show_order()

    def _arrive(self, whole: bool) -> None:
        order, place = self._chosen_line()
        if order is None:
            return
        places = tuple(range(len(order.body.lines))) if whole else (place,)
        drafts, freed = arriving(self._shop.orders(), order, places)
        if not self._writer.do(shop_commands.receive_order(drafts)):
            return
        names = self._shelf.instruments()
        if freed:
            told = ", ".join(names.get(job, job) for job in freed)
            self._voice.say(f"All its parts are here: {told}.", Severity.DONE)
        self.show_order()

    def _chosen_line(self) -> tuple[Order | None, int]:
        key, _, place = self._chosen.partition(":")
        order = next((o for o in self._shop.orders() if o.entry.id == key), None)
        return order, int(place or 0)

    def _print(self) -> None:
        """Show the order before it is printed."""
        body = self.order()
        if body is None:
            self._voice.refuse("There is no order to print: nothing is to be ordered.")
            return
        names, name, today = self._shelf.instruments(), self._shop.name, self._clock.now().date()

        def make(_should_stop: Callable[[], bool]) -> bytes:
            from candor.paper.order_sheet import order_pdf  # the library of pages is slow to load

            return order_pdf(body, names, name, today)

        words = ("One order for all jobs, as it stands now.",)
        self.printAsked.emit(Printable(f"Order {body.number}", f"order_{body.number}.pdf", make, words))

    def _ask(self, kind: str) -> None:
        name = save_name(self, "Order", f"order_{self.number()}.{kind}", f"*.{kind}")
        if name:
            self.save(Path(name))

    def save(self, path: Path) -> None:
        """Write the order as CSV or PDF, by the ending of the name."""
        body = self.order()
        if body is None:
            return
        try:
            if path.suffix == ".pdf":
                from candor.paper.order_sheet import order_pdf  # the library of pages is slow to load

                today = self._clock.now().date()
                write_durably(path, order_pdf(body, self._shelf.instruments(), self._shop.name, today))
            else:
                write_durably(path, order_csv(body, self._shelf.instruments()).encode())
        except OSError as error:
            self._voice.refuse(f"{path} could not be written: {error.strerror}.")
            return
        self._voice.say(f"The order is in {path.name}.", Severity.DONE)

    def explain(self, because: Because) -> None:
        """Say how the order comes about."""
        because.show_whole(None)
        words = [
            "The parts you chose as replacements, over all open jobs. The same part is ordered once, and what you have in stock "
            "is left out.",
            "Spares: this many per cent more, rounded up, of parts that cost no more than stated.",
            "When everything a job waited for has arrived, it moves back to “to do”.",
        ]
        because.show_words("One order, once", words)
