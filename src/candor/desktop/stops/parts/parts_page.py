"""Parts: every part worth a look, riskiest first; what was measured, what that means, what to do."""

from __future__ import annotations

import operator
from functools import partial
from pathlib import Path

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent, QResizeEvent
from PySide6.QtWidgets import (
    QApplication,
    QButtonGroup,
    QHBoxLayout,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
)

from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.live_in_hand import Live
from candor.desktop.bench.place import PlaceInHand
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.file_names import open_name
from candor.desktop.frame.page import Page
from candor.desktop.frame.theme import TINTS, Theme, label
from candor.desktop.rooms.from_file import Preview
from candor.desktop.stops.parts.facts_panel import FactsPanel
from candor.desktop.stops.parts.first_parts import FirstParts
from candor.desktop.stops.parts.inplace import InPlacePanel
from candor.desktop.stops.parts.measure import DecidePanel, MeasurePanel
from candor.desktop.stops.parts.outstanding import Outstanding
from candor.desktop.stops.parts.part_explained import explain_list, explain_part, explain_run
from candor.desktop.stops.parts.parts_table import PartTable
from candor.desktop.stops.parts.policies import PolicyRow
from candor.desktop.stops.parts.tester_panel import TesterPanel
from candor.desktop.widgets.caution import Caution
from candor.desktop.widgets.controls import Column, button, line, shortcut
from candor.desktop.widgets.elided import Elided
from candor.desktop.widgets.flow import flow
from candor.notebook.parts.orders import draft
from candor.notebook.parts.parts_import import preview_parts
from candor.notebook.parts.parts_list import PartLine, say_counts
from candor.notebook.storage.files import LARGEST_TABLE, FileError, read_bytes_of
from candor.notebook.store import Notebook
from candor.sitting.commands import parts_commands
from candor.words.parts_words import say_moved
from candor.words.run_words import say_on_the_list

Panel = MeasurePanel | InPlacePanel | TesterPanel | DecidePanel | FactsPanel
PANELS = (("measure", "Measured", "Alt+M"), ("place", "In its place", "Alt+P"), ("tester", "On the tester", "Alt+T"),
          ("decide", "Decide", "Alt+D"), ("facts", "About it", "Alt+A"))  # fmt: skip
HEIGHTS = {"measure": 92, "decide": 92, "place": 168, "tester": 196, "facts": 146}  # px at 100 %
HELD = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier
HOW = (
    "Parts from a table or a netlist",
    [
        "A table has the columns part and value; make, role, volts, watts, can, mains, across, no load, grid and note may be "
        "added.",
        "A netlist is a SPICE subset: R24 grid 0 330k, one element a line; R, C, L, V, I, D. It becomes the circuit that "
        "readings in circuit are held against.",
        "A part can stand in a line of its own too: C12 0.05 uF 600 V paper coupling. A row that is not understood is mended here; "
        "the others can be written meanwhile.",
    ],
)


class PartsPage(Page):
    """The second stop of a job.

    Signals
    -------
    previewAsked(object)
        A file or paste is to be shown as it is understood.
    combineAsked(str)
        A value is to be made of several pieces: the designator.
    orderAsked()
    jotBegun(str)
        A character typed on the list: it begins a jot about the part chosen.
    """

    previewAsked = Signal(object)
    combineAsked = Signal(str)
    orderAsked = Signal()
    jotBegun = Signal(str)

    def __init__(
        self,
        theme: Theme,
        in_hand: JobInHand,
        place: PlaceInHand,
        writer: Writer,
        voice: Voice,
        shop: Shop,
        live: Live,
        notebook: Notebook,
    ) -> None:
        super().__init__()
        self._theme = theme
        self._in_hand, self._place, self._writer, self._voice, self._shop = in_hand, place, writer, voice, shop
        self._live, self._notebook = live, notebook
        self._job, self._ref, self._running = "", "", False
        self._drawn: tuple[object, ...] | None = None
        self._changed = ""  # what the last change of policy did, until a part is chosen
        self.title = label("", "heading", bold=True, wrap=False)
        self.counts = Elided(theme, "soft", tint="soft")
        self.policies = PolicyRow(theme, lambda field, value: self._choose_policy(**{field: value}))
        self.sight, self.electrolytics, self.rule = (
            self.policies.sight,
            self.policies.electrolytics,
            self.policies.rule,
        )
        self.sample = Caution(theme)
        self.sample_words = label("", "soft")
        self.first = FirstParts(in_hand)
        self.table = PartTable(theme)
        self.money = Elided(theme, "text")
        self.order = button("Order …", "One order for all jobs", "Alt+O", "quiet")
        self.file = button("From a file …", "A table or a netlist of parts", name="quiet")
        self.paste = button("Paste", "A table or a netlist from the clipboard (Ctrl+Shift+V)", name="quiet")
        self.outstanding = Outstanding(theme, in_hand=in_hand, writer=writer)
        self.tabs: dict[str, QPushButton] = {}
        self.measure = MeasurePanel(theme, in_hand=in_hand, writer=writer, voice=voice, shop=shop)
        self.place = InPlacePanel(theme, in_hand=in_hand, writer=writer, voice=voice, shop=shop)
        self.tester = TesterPanel(theme, in_hand=in_hand, voice=voice, live=live, notebook=notebook)
        self.facts = FactsPanel(theme, in_hand=in_hand, place=place, writer=writer, voice=voice)
        self.decide = DecidePanel(theme, in_hand=in_hand, writer=writer, voice=voice, shop=shop)
        self.panels: dict[str, Panel] = {
            "measure": self.measure, "place": self.place, "tester": self.tester, "decide": self.decide, "facts": self.facts,
        }  # fmt: skip
        self.areas: dict[str, Column] = {}
        self.panel = QStackedWidget()
        self._build()
        self._wire()

    def _build(self) -> None:
        theme = self._theme
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        self.area = Column(0, theme.px(5))
        outer.addWidget(self.area)
        column = self.area.column
        column.setContentsMargins(0, theme.px(10), 0, theme.px(8))
        top = QVBoxLayout()
        top.setContentsMargins(theme.px(18), 0, theme.px(14), 0)
        top.setSpacing(theme.px(4))
        head = QHBoxLayout()
        head.addWidget(self.title)
        head.addWidget(self.counts, 1)
        head.addWidget(self.file)
        head.addWidget(self.paste)
        top.addLayout(head)
        top.addLayout(self.policies)
        top.addWidget(self.sample)
        top.addWidget(self.sample_words)
        top.addWidget(self.first.label)
        column.addLayout(top)
        column.addWidget(self.table, 1)
        column.addWidget(line())
        bottom = QVBoxLayout()
        bottom.setContentsMargins(theme.px(18), theme.px(2), theme.px(14), 0)
        bottom.setSpacing(theme.px(6))
        choices = []
        group = QButtonGroup(self)
        for key, title, keys in PANELS:
            made = button(title, title, name="choice")
            made.setToolTip(f"{title} ({keys})")
            made.setCheckable(True)
            made.clicked.connect(lambda _=False, panel=key: self.show_panel(panel))
            shortcut(self, keys, made.click)
            group.addButton(made)
            self.tabs[key] = made
            choices.append(made)
            self.areas[key] = Column(0, 0)
            self.areas[key].column.addWidget(self.panels[key])
            self.panel.addWidget(self.areas[key])
        bottom.addLayout(flow(theme.px(6), *choices))
        bottom.addWidget(self.panel)
        foot = QHBoxLayout()
        foot.addWidget(self.money, 1)
        foot.addWidget(self.order)
        bottom.addWidget(line())
        bottom.addWidget(self.outstanding)
        bottom.addLayout(foot)
        column.addLayout(bottom)
        self.tabs["measure"].setChecked(True)
        self.resize_to_theme()

    def _wire(self) -> None:
        self._in_hand.changed.connect(self.show_job)
        self._place.changed.connect(self.show_job)
        self._live.changed.connect(self._show_live)
        self._live.ended.connect(lambda *_: self.show_job())
        self._theme.changed.connect(self.resize_to_theme)
        self.table.picked.connect(self.choose)
        self.table.currentItemChanged.connect(self._walk)
        self.table.keyPressEvent = self._table_key  # type: ignore[method-assign]
        self.measure.written.connect(lambda: self.show_panel("measure"))
        self.place.combine.connect(self.combineAsked)
        self.facts.written.connect(self.choose)
        self.order.clicked.connect(self.orderAsked)
        self.file.clicked.connect(self._ask_file)
        self.paste.clicked.connect(self._paste)
        shortcut(self, "Ctrl+Shift+V", self._paste)
        shortcut(self, "Alt+O", self.order.click)

    def resize_to_theme(self) -> None:
        """Take the heights of the text size in force."""
        self.rule.setFixedWidth(self._theme.px(150))
        self.table.setMinimumHeight(self._theme.px(100))
        self.panel.setFixedHeight(self._theme.px(HEIGHTS.get(self.shown, 100)))

    @property
    def shown(self) -> str:
        """Name of the panel under the list."""
        return next((key for key, area in self.areas.items() if area is self.panel.currentWidget()), "measure")

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.resize_to_theme()

    def narrow(self, is_narrow: bool) -> None:
        """Nothing gives way here but the columns of the list, by their own width."""

    # --- showing ----------------------------------------------------------------------------------------

    @property
    def ref(self) -> str:
        """Designator of the part chosen."""
        return self._ref

    def line(self) -> PartLine | None:
        """Return the part chosen."""
        parts = self._in_hand.parts()
        return parts.line(self._ref) if parts else None

    def enter(self) -> None:
        """Come to the stop."""
        self.show_job()
        self.table.setFocus()

    def show_job(self) -> None:
        """Show the list as it stands; quietly nothing while another stop is in hand."""
        job, parts = self._in_hand.job, self._in_hand.parts() if self._place.stop == "parts" else None
        if job is None or parts is None:
            return
        if self._job != job.id:
            self._job, self._ref = job.id, ""
        if parts.line(self._ref) is None:
            self._ref = parts.lines[0].part.ref if parts.lines else ""
        # Opening a job says so on several ways; what is drawn already is not drawn again.
        standing = (job, parts, self._shop.supplies(), self._live.started, (self._theme.scale, self._ref))
        same = self._drawn is not None and all(map(operator.is_, self._drawn[:-1], standing[:-1]))
        if same and self._drawn is not None and self._drawn[-1] == standing[-1]:
            return
        self._drawn = standing
        count = len(parts.lines)
        self.title.setText(f"{count} part{'' if count == 1 else 's'} worth a look" if count else "No part listed yet")
        self.counts.say(say_counts(parts))
        self.policies.show_policy(parts.policy)
        self.sample.say(parts.sample_words if parts.sample == "bad" else "")
        self.sample_words.setText(parts.sample_words if parts.sample in ("to measure", "good") else "")
        self.sample_words.setVisible(bool(self.sample_words.text()))
        self.first.show_job()
        empty = "Take a table or a netlist from a file or the clipboard, or write one part after the other under About it."
        self.table.show_parts(parts, self._ref, empty, self._live_words())
        words, state = self._in_hand.money()
        supplies = self._shop.supplies()
        short = [x for x in draft(supplies.needs, supplies.stock) if x.count]
        own = sum(any(n.job == job.id for n in x.needs) for x in short)
        of_all = len(short)
        kinds = (
            f"To order: {own} kind{'' if own == 1 else 's'} for this job, {of_all} with all jobs. "
            if of_all
            else "Nothing to order. "
        )
        told = f"{kinds}{words[:1].upper()}{words[1:]}.".replace("..", ".")
        self.outstanding.show_job()
        self.money.say(told, TINTS[state] or "ink")
        self._show_panel()

    def _live_words(self) -> dict[str, tuple[str, str]]:
        live, status = self._live, self._live.status()
        if status is None or self._in_hand.job is None or live.job != self._in_hand.job.id or live.plan is None:
            return {}
        return {live.ref: say_on_the_list(status, live.plan)}

    def _show_live(self) -> None:
        live = self._live
        parts = self._in_hand.parts() if self.isVisible() else None
        found = parts.line(live.ref) if parts is not None else None
        if found is not None:
            self.table.show_live(found, self._live_words().get(live.ref))
        if self._running != live.running:
            self._running = live.running
            self.explainAsked.emit()

    def show_panel(self, panel: str) -> None:
        """Show one of the panels under the list."""
        self.tabs[panel].setChecked(True)
        self.panel.setCurrentWidget(self.areas[panel])
        self.resize_to_theme()
        self._show_panel()
        self.area.ensureWidgetVisible(self.panel)
        if panel == "measure":
            self.measure.take_focus()

    def _show_panel(self) -> None:
        self.panels[self.shown].show_line(self.line())

    def choose(self, ref: str) -> None:
        """Take a part in hand."""
        if ref and (ref != self._ref or self._changed):
            self._ref, self._changed = ref, ""
            self.show_job()
            self.explainAsked.emit()

    def _walk(self, item: object, _before: object) -> None:
        row = item.data(Qt.ItemDataRole.UserRole) if item is not None else None  # type: ignore[attr-defined]
        if row is not None and row.key:
            self.choose(row.key)

    def _table_key(self, event: QKeyEvent) -> None:
        """A character begins a jot about the part; Return goes to the fields; the arrows walk the list."""
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.show_panel("measure")
        elif event.text().isalnum() and not event.modifiers() & HELD:
            self.jotBegun.emit(f"{self._ref} {event.text()}" if self._ref else event.text())
        else:
            PartTable.keyPressEvent(self.table, event)

    def finish(self) -> None:
        self.first.finish()

    def explain(self, because: Because) -> None:
        """Fill the reasons panel for what is chosen."""
        parts, found = self._in_hand.parts(), self.line()
        live, job = self._live, self._in_hand.job
        if parts is not None and self._changed:
            explain_list(because, parts, self._changed)
        elif (
            found is not None
            and job is not None
            and live.plan is not None
            and (live.job, live.ref) == (job.id, found.part.ref)
        ):
            explain_run(because, found, live.plan)
        elif found is not None:
            explain_part(because, found, self._in_hand.free_stock(found.part.ref), self._shop.settings.mains)
        elif parts is not None:
            explain_list(because, parts)

    # --- doing ------------------------------------------------------------------------------------------

    def _choose_policy(self, **changes: object) -> None:
        job, before = self._in_hand.job, self._in_hand.parts()
        if job is None or before is None:
            return
        if self._writer.do(parts_commands.choose_policy(job.parts.policy, changes)):
            after = self._in_hand.parts()
            if after is not None:
                self._changed = say_moved(before.verdicts, after.verdicts)
                self._voice.say(self._changed)
                self.explainAsked.emit()

    def _ask_file(self) -> None:
        name = open_name(self, "Parts", "Tables and netlists (*.csv *.tsv *.txt *.cir *.net *.sp)")
        if name:
            self.preview_file(Path(name))

    def preview_file(self, path: Path) -> None:
        """Show how a file of parts is understood."""
        try:
            self._preview(read_bytes_of(path, "a table of parts or a netlist", LARGEST_TABLE), path.name)
        except FileError as error:
            self._voice.refuse(f"{error} Nothing was imported.")

    def _paste(self) -> None:
        text = QApplication.clipboard().text()
        if not text.strip():
            self._voice.refuse("The clipboard holds no text. Expected: a table or a netlist.")
            return
        self._preview(text.encode("utf-8"), "The clipboard")

    def _preview(self, content: bytes, name: str) -> None:
        if self._in_hand.job is None:
            return
        self.previewAsked.emit(_previewed(name, content))


def _previewed(name: str, content: bytes) -> Preview:
    found = preview_parts(content)
    return Preview(
        title=f"{name}: {found.count} parts", noun="part", lines=found.lines, faults=found.faults, bodies=found.bodies, why=HOW,
        source=content, again=partial(_previewed, name), has_heads=found.has_heads,
    )  # fmt: skip
