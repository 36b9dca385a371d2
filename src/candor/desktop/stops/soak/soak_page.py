"""Soak: since when it is on, when it is ready; how steady it is; and over the years, what it drifts by."""

from __future__ import annotations

from PySide6.QtCore import Signal

from candor.desktop.bench.clock import Clock
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.place import PlaceInHand
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.watching import SoakWatch
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.theme import Theme
from candor.desktop.frame.viewed_page import Panel, ViewedPage
from candor.desktop.stops.soak.drift_panel import DriftPanel
from candor.desktop.stops.soak.settling_panel import SettlingPanel
from candor.desktop.stops.soak.stability import StabilityPanel
from candor.notebook.store import Notebook

VIEWS = (("now", "Settling"), ("steady", "Stability"), ("drift", "Drift"))


class SoakPage(ViewedPage):
    """The page of the stop Soak.

    Signals
    -------
    previewAsked(object)
        A table is to be shown as it is understood.
    """

    previewAsked = Signal(object)

    def __init__(
        self,
        theme: Theme,
        *,
        in_hand: JobInHand,
        place: PlaceInHand,
        writer: Writer,
        voice: Voice,
        shop: Shop,
        notebook: Notebook,
        clock: Clock,
        watch: SoakWatch,
    ) -> None:
        super().__init__()
        self._in_hand, self._place = in_hand, place
        self.now = SettlingPanel(theme, in_hand=in_hand, writer=writer, voice=voice, clock=clock, watch=watch)
        self.steady = StabilityPanel(
            theme, in_hand=in_hand, writer=writer, voice=voice, notebook=notebook, clock=clock
        )
        self.drift = DriftPanel(
            theme, in_hand=in_hand, writer=writer, voice=voice, shop=shop, notebook=notebook, clock=clock
        )
        self.drift.previewAsked.connect(self.previewAsked)
        panels: dict[str, Panel] = {"now": self.now, "steady": self.steady, "drift": self.drift}
        first = {"now": self.now.read, "steady": self.steady.take_in, "drift": self.drift.points}
        self.lay_out(theme, VIEWS, panels, first)
        in_hand.changed.connect(self.show_job)
        place.changed.connect(self.show_job)
        clock.ticked.connect(self._tick)

    def enter(self) -> None:
        """Come to the stop."""
        self.show_view(self.shown)

    def finish(self) -> None:
        """Stop the work in hand."""
        self.drift.finish()
        self.steady.finish()

    def _tick(self) -> None:
        if self.isVisible() and self.shown == "now":
            self.now.show_job()

    def show_job(self) -> None:
        """Show the view in hand; quietly nothing while another stop is."""
        job = self._in_hand.job
        if job is None or self._place.stop != "soak":
            return
        self.title.setText(f"{job.name}: soak")
        super().show_job()
