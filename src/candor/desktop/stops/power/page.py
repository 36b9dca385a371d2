"""Power: may it see mains, the way up, what the supply does, on the way, and after the plug is out."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from candor.desktop.bench.clock import Clock
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.meters import PowerMeters
from candor.desktop.bench.place import PlaceInHand
from candor.desktop.bench.shop import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.page import Page
from candor.desktop.frame.speech import Speech
from candor.desktop.frame.theme import Theme, label
from candor.desktop.stops.power.after import After
from candor.desktop.stops.power.barrier import Barrier
from candor.desktop.stops.power.going import Going
from candor.desktop.stops.power.maylist import MayList
from candor.desktop.stops.power.supply import SupplyPanel
from candor.desktop.stops.power.wayup import WayUp
from candor.desktop.widgets.controls import Column, button, line
from candor.desktop.widgets.flow import Flow
from candor.notebook.store import Notebook

VIEWS = (("may", "May it"), ("way", "Way up"), ("supply", "Supply"), ("going", "On the way"), ("after", "After"))


class PowerPage(Page):
    """The page of the stop Power."""

    def __init__(
        self,
        theme: Theme,
        *,
        in_hand: JobInHand,
        place: PlaceInHand,
        writer: Writer,
        voice: Voice,
        clock: Clock,
        shop: Shop,
        speech: Speech,
        meters: PowerMeters,
        notebook: Notebook,
    ) -> None:
        super().__init__()
        self._theme, self._in_hand, self._place, self._clock = theme, in_hand, place, clock
        self._view = "may"
        self.title = label("", "heading", bold=True)
        self.barrier = Barrier(theme, in_hand=in_hand, writer=writer, voice=voice)
        self.may = MayList(theme, in_hand=in_hand, writer=writer, voice=voice)
        self.way = WayUp(theme, in_hand=in_hand, writer=writer, voice=voice, shop=shop)
        self.supply = SupplyPanel(theme, in_hand=in_hand, writer=writer, voice=voice, shop=shop)
        self.going = Going(
            theme,
            in_hand=in_hand,
            writer=writer,
            voice=voice,
            clock=clock,
            shop=shop,
            speech=speech,
            meters=meters,
            notebook=notebook,
        )
        self.after = After(theme, in_hand=in_hand, writer=writer, voice=voice, clock=clock)
        self.panels: dict[str, MayList | WayUp | SupplyPanel | Going | After] = {
            "may": self.may, "way": self.way, "supply": self.supply, "going": self.going, "after": self.after,
        }  # fmt: skip
        self.views: dict[str, QPushButton] = {}
        self._build()
        self._wire()

    def _build(self) -> None:
        theme = self._theme
        outer = QHBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        area = Column(theme.px(16), theme.px(7))
        column = area.column
        column.setContentsMargins(theme.px(18), theme.px(12), theme.px(16), theme.px(12))
        column.addWidget(self.title)
        choices = Flow(theme.px(6))
        for key, title in VIEWS:
            made = button(title, title, name="choice")
            made.setCheckable(True)
            made.clicked.connect(lambda _=False, view=key: self.show_view(view))
            choices.addWidget(made)
            self.views[key] = made
        column.addLayout(choices)
        column.addWidget(line())
        column.addWidget(self.barrier)
        for panel in self.panels.values():
            column.addWidget(panel)
        column.addStretch()
        outer.addWidget(area, 1)

    def _wire(self) -> None:
        self._in_hand.changed.connect(self.show_job)
        self._place.changed.connect(self.show_job)
        self._clock.ticked.connect(self._tick)
        self.may.chosenAnew.connect(self.explainAsked)
        self.going.mayAsked.connect(lambda: self.show_view("may"))
        self.going.afterAsked.connect(lambda: self.show_view("after"))

    def enter(self) -> None:
        """Come to the stop: where it is live, the state in hand; else the list."""
        job = self._in_hand.job
        if job is not None and job.power.is_live:
            self._view = "going"
        elif job is not None and job.power.out is not None:
            self._view = "after"
        self.show_view(self._view)

    def show_view(self, view: str) -> None:
        """Show one of the views."""
        self._view = view
        self.show_job()
        self.explainAsked.emit()
        first: dict[str, QWidget] = {"may": self.may.text, "way": self.way.watts, "supply": self.supply.typed}
        first |= {"going": self.going.read, "after": self.after.read}
        first[view].setFocus()

    def show_job(self) -> None:
        """Show the view in hand; quietly nothing while another stop is."""
        job = self._in_hand.job
        if job is None or self._place.stop != "power":
            return
        self.title.setText(f"{job.name}: power")
        self.barrier.show_job()
        self.barrier.setVisible(self.barrier.stands and self._view in ("may", "going"))
        for key, panel in self.panels.items():
            self.views[key].setChecked(key == self._view)
            panel.setVisible(key == self._view)
        self.panels[self._view].show_job()

    def _tick(self) -> None:
        """What counts by the clock is looked at every second, wherever the hands are; an alarm is never missed."""
        job = self._in_hand.job
        if job is None:
            return
        if self._place.stop == "power" and self._view in ("going", "after"):
            self.panels[self._view].show_job()
        elif job.power.is_live:
            self.going.show_job()

    def explain(self, because: Because) -> None:
        """Give the reasons of the view in hand."""
        self.panels[self._view].explain(because)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        job = self._in_hand.job
        if event.key() == Qt.Key.Key_Escape and job is not None and job.power.state is not None:
            self.going.plug_out()
            return
        super().keyPressEvent(event)

    def finish(self) -> None:
        """Stop what is being reckoned."""
        self.supply.work.finish()
        self.going.links.work.finish()
