"""Power: may it see mains, the way up, what the supply does, on the way, and after the plug is out."""

from __future__ import annotations

from PySide6.QtWidgets import QWidget

from candor.desktop.bench.clock import Clock
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.meters_in_hand import PowerMeters
from candor.desktop.bench.place import PlaceInHand
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.speech import Speech
from candor.desktop.frame.theme import Theme
from candor.desktop.frame.viewed_page import Panel, ViewedPage
from candor.desktop.stops.power.after_power import After
from candor.desktop.stops.power.barrier import Barrier
from candor.desktop.stops.power.before_power import MayList
from candor.desktop.stops.power.power_up_plan import WayUp
from candor.desktop.stops.power.powering_up import Going
from candor.desktop.stops.power.supply_panel import SupplyPanel
from candor.notebook.store import Notebook

VIEWS = (
    ("may", "Before power"),
    ("way", "Power-up plan"),
    ("supply", "Supply"),
    ("going", "Powering up"),
    ("after", "After power"),
)


class PowerPage(ViewedPage):
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
        panels: dict[str, Panel] = {"may": self.may, "way": self.way, "supply": self.supply}
        panels |= {"going": self.going, "after": self.after}
        first: dict[str, QWidget] = {"may": self.may.text, "way": self.way.watts, "supply": self.supply.typed}
        first |= {"going": self.going.read, "after": self.after.read}
        self.lay_out(theme, VIEWS, panels, first, above=(self.barrier,))
        self._wire()

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
            self.shown = "going"
        elif job is not None and job.power.out is not None:
            self.shown = "after"
        self.show_view(self.shown)

    def show_job(self) -> None:
        """Show the view in hand; quietly nothing while another stop is."""
        job = self._in_hand.job
        if job is None or self._place.stop != "power":
            return
        self.title.setText(f"{job.name}: power")
        self.barrier.show_job()
        self.barrier.setVisible(self.barrier.stands and self.shown in ("may", "going"))
        super().show_job()

    def _tick(self) -> None:
        """What counts by the clock is looked at every second, wherever the hands are; an alarm is never missed."""
        job = self._in_hand.job
        if job is None:
            return
        if self._place.stop == "power" and self.shown in ("going", "after"):
            (self.going if self.shown == "going" else self.after).show_job()
        elif job.power.is_live:
            self.going.show_job()

    def finish(self) -> None:
        """Stop what is being calculated."""
        self.supply.work.finish()
        self.supply.rails.finish()
        self.going.links.finish()
