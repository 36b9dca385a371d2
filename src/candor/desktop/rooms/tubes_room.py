"""Tubes: every one on hand with its tests in order, its figure in per cent of nominal, who matches, and where it sits."""

from __future__ import annotations

from functools import partial
from pathlib import Path

from PySide6.QtCore import Signal
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QButtonGroup, QPushButton, QVBoxLayout

from candor.core.errors import CandorError
from candor.core.severity import Severity
from candor.desktop.bench.clock import Clock
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.file_names import open_name, save_name
from candor.desktop.frame.local_numbers import in_field
from candor.desktop.frame.page import Page
from candor.desktop.frame.theme import Theme, label
from candor.desktop.rooms.from_file import Preview
from candor.desktop.rooms.tube_panels import KnownPanel, MatchPanel, PlacePanel, TubePanel
from candor.desktop.rooms.tube_test_panel import TestPanel
from candor.desktop.widgets.controls import Column, button, line
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.glyphs import SHAPES
from candor.desktop.widgets.long_list import LongList
from candor.desktop.widgets.order_choice import OrderChoice
from candor.desktop.widgets.row_bars import NARROWEST, Bar
from candor.desktop.widgets.row_list import Row
from candor.durably import write_durably
from candor.notebook.storage.files import LARGEST_TABLE, FileError, read_bytes_of
from candor.notebook.store import Notebook
from candor.notebook.tubes.tubes_csv import preview_tubes, write_tubes
from candor.notebook.tubes.tubes_text import TUBE_LINE, read_tube
from candor.sitting.commands import shop_commands
from candor.words.tube_lines import TUBE_ORDERS, balance_words, explain_tube, tube_line, tubes_with

PANELS = (("test", "Test"), ("known", "Known figure"), ("match", "Match"), ("place", "Socket"))
BELOW = 690  # px at the text size as designed: of all that stands around the list
BARS = "At the right each figure with its U, from 0 to 140 % of nominal; the line is 100 %, grey is below the reject level."
HOW = (
    "Tubes from a table",
    [
        "The columns tube and type are needed; generic, section, nominal, reject, test, outcome, figure, tester, line min, "
        "line v (120 to 118.6), held s, repeats, scatter and looks may be added. A line without a test is the tube itself.",
        "Of a tube that is there already only the tests are added.",
    ],
)


class TubesPage(Page):
    """The room.

    Signals
    -------
    previewAsked(object)
        A file is to be shown as it is understood.
    """

    previewAsked = Signal(object)

    def __init__(
        self,
        theme: Theme,
        *,
        in_hand: JobInHand,
        writer: Writer,
        voice: Voice,
        shop: Shop,
        notebook: Notebook,
        clock: Clock,
    ) -> None:
        super().__init__()
        self._theme, self._writer, self._voice, self._shop = theme, writer, voice, shop
        self._key = ""
        self.words = label("", "soft")
        self.filter = Field()
        self.filter.setPlaceholderText("show only, such as MT-1 or next: gas")
        self.filter.setAccessibleName("Show only")
        self.filter.setMinimumWidth(theme.px(320))
        self.order = OrderChoice("Order of the tubes", TUBE_ORDERS)
        self.list = LongList(theme, "Tubes")
        self.list.deeds = ()  # what is written of a tube is said in the panel below
        self.new = Field()
        self.new.setPlaceholderText(in_field(f"a new tube: {TUBE_LINE}"))
        self.new.setAccessibleName("A new tube")
        self.record = button("Record it", "Record the tube that is written, or write it anew")
        self.take_in = button("From a file …", "Tubes and their tests as CSV")
        self.give_out = button("Save as CSV …", "All tubes on hand as a table")
        self.test = TestPanel(theme, in_hand=in_hand, writer=writer, voice=voice, shop=shop, notebook=notebook)
        self.known = KnownPanel(theme, in_hand=in_hand, writer=writer, voice=voice, shop=shop, clock=clock)
        self.match = MatchPanel(theme, in_hand=in_hand, writer=writer, voice=voice, shop=shop)
        self.place = PlacePanel(theme, in_hand=in_hand, writer=writer, voice=voice, shop=shop)
        self.panels: dict[str, TubePanel] = {
            "test": self.test,
            "known": self.known,
            "match": self.match,
            "place": self.place,
        }
        self.tabs: dict[str, QPushButton] = {}
        self._build(theme)
        self._wire()

    def finish(self) -> None:
        self.test.log.finish()

    def _build(self, theme: Theme) -> None:
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        self.area = Column(theme.px(16), theme.px(7))
        column = self.area.column
        column.setContentsMargins(theme.px(18), theme.px(12), theme.px(16), theme.px(12))
        for widget in (label("Tubes", "heading", bold=True), self.words):
            column.addWidget(widget)
        column.addLayout(flow(theme.px(8), self.filter, self.order))
        column.addWidget(self.list)
        column.addWidget(self.new)
        column.addLayout(flow(theme.px(8), self.record, self.take_in, self.give_out))
        column.addWidget(line())
        group = QButtonGroup(self)
        for key, title in PANELS:
            made = button(title, title, name="choice")
            made.setCheckable(True)
            made.clicked.connect(lambda _=False, panel=key: self.show_panel(panel))
            group.addButton(made)
            self.tabs[key] = made
        column.addLayout(flow(theme.px(6), *self.tabs.values()))
        for panel in self.panels.values():
            column.addWidget(panel)
        column.addStretch()
        outer.addWidget(self.area)
        self.tabs["test"].setChecked(True)

    def _wire(self) -> None:
        self.filter.textChanged.connect(self.show_tubes)
        self.order.changed.connect(self.show_tubes)
        self.list.picked.connect(self.choose)
        self.new.returnPressed.connect(self._record)
        self.record.clicked.connect(self._record)
        self.take_in.clicked.connect(self._ask_in)
        self.give_out.clicked.connect(self._ask_out)
        for panel in self.panels.values():
            panel.written.connect(self.show_tubes)
            panel.chosen.connect(self.choose)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        if self.isVisible() and event.size() != event.oldSize():
            self.show_tubes()

    def _rows_shown(self) -> int:
        """As many tubes as leave room for what is done with one."""
        return max(5, int((self.height() - self._theme.px(BELOW)) // self._theme.px(45)))

    def enter(self) -> None:
        """Come to the room."""
        self.show_tubes()
        self.test.line.setFocus()

    def show_panel(self, key: str) -> None:
        """Show what can be done: a test, a known figure, a match, a socket."""
        self.tabs[key].setChecked(True)
        for name, panel in self.panels.items():
            panel.setVisible(name == key)
        self.panels[key].show_tube(self._key)

    def choose(self, key: str) -> None:
        """Have a tube in hand."""
        self._key = key
        self.show_tubes()

    @property
    def shown(self) -> str:
        """The panel that is shown."""
        return next((name for name, tab in self.tabs.items() if tab.isChecked()), "test")

    @property
    def key(self) -> str:
        """The tube in hand."""
        return self._key

    def show_tubes(self) -> None:
        """Show what is on hand."""
        shop = self._shop.tubes()
        names = self._shop.job_names()
        tubes = tubes_with(shop, names, self.filter.text(), self.order.choice)
        keys = [tube.body.key for tube in tubes]
        if self._key not in keys:
            self._key = keys[0] if keys else ""

        def row(place: int) -> Row:
            x = tube_line(tubes[place], shop, names)
            return Row(
                x.key, x.text, x.under, SHAPES[x.outcome], strong=x.key == self._key, says=str(x.outcome), struck=x.ended,
                bars=tuple(
                    Bar(v.percent / 100, v.expanded / 100, v.reject / 100, SHAPES[v.outcome]) for v in x.verdicts
                ),
            )  # fmt: skip

        self.list.show_rows(range(len(tubes)), row, keys.index(self._key) if self._key else None)
        self.list.fit(self._rows_shown())
        count = len(shop.here)
        told = (
            f"{count} on hand."
            if count
            else "No tube is recorded yet: write one below, or take a table in from a file."
        )
        if len(tubes) != count:
            told += f" {len(tubes)} shown."
        has_room = self.list.viewport().width() >= self._theme.px(NARROWEST)
        is_told = has_room and any(tube.body.nominal for tube in tubes)
        self.words.setText(f"{told} {BARS}" if is_told else told)
        for widget in (self.list, self.filter, self.order, self.give_out, *self.tabs.values()):
            widget.setVisible(bool(count))
        for name, panel in self.panels.items():
            panel.setVisible(bool(count) and self.tabs[name].isChecked())
        self.panels[self.shown].show_tube(self._key)
        self.explainAsked.emit()

    def _record(self) -> None:
        try:
            tube = read_tube(self.new.text())
        except CandorError as error:
            self._voice.refuse(error)
            return
        if self._writer.do(shop_commands.record_tube(tube)):
            self.new.clear()
            self.filter.clear()
            self.choose(tube.key)
            self.test.line.setFocus()

    def _ask_in(self) -> None:
        name = open_name(self, "Tubes", "Tables (*.csv *.tsv *.txt)")
        if name:
            self.preview_file(Path(name))

    def preview_file(self, path: Path) -> None:
        """Show how a table of tubes is understood."""
        try:
            content = read_bytes_of(path, "a table of tubes", LARGEST_TABLE)
        except FileError as error:
            self._voice.refuse(f"{error} Nothing was imported.")
            return
        self.previewAsked.emit(self._previewed(path.name, content))

    def _previewed(self, name: str, content: bytes) -> Preview:
        found = preview_tubes(content, self._shop.tubes())
        return Preview(
            title=f"{name}: {found.count} lines", noun="line", lines=found.lines, faults=found.faults, bodies=found.bodies, why=HOW,
            of_shop=True, source=content, again=partial(self._previewed, name),
        )  # fmt: skip

    def _ask_out(self) -> None:
        name = save_name(self, "Tubes", "tubes.csv", "Tables (*.csv)")
        if name:
            self.save(Path(name))

    def save(self, path: Path) -> None:
        """Write all tubes as a table."""
        try:
            write_durably(path, write_tubes(self._shop.tubes()).encode())
        except OSError as error:
            self._voice.refuse(f"{path} could not be written: {error.strerror}.")
            return
        self._voice.say(f"The tubes are in {path.name}.", Severity.DONE)

    def explain(self, because: Because) -> None:
        """Give what is known of the tube in hand."""
        because.show_whole(None)
        shop = self._shop.tubes()
        tube = shop.tubes.get(self._key)
        if tube is None:
            because.show_words("A tube is as good as its tests", [HOW_TESTED])
            return
        title, said, sections = explain_tube(tube, shop)
        balance = balance_words(tube, shop)
        because.show_words(title, [*said, *([balance] if balance else [])], sections=sections)


HOW_TESTED = (
    "Look, heater, shorts, gas, then emission or transconductance, balance, noise: what could hurt a tube or the tester comes "
    "first, and one that fails shorts meets no other test."
)
