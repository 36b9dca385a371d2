"""Trace: the circuit as nodes, ohms between them, the signal along its stages, one change and one check."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QApplication, QLineEdit, QWidget

from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.place import PlaceInHand
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.theme import Theme
from candor.desktop.frame.viewed_page import Panel, ViewedPage
from candor.desktop.stops.trace.changes import ChangesPanel
from candor.desktop.stops.trace.nodes_panel import NodesPanel
from candor.desktop.stops.trace.ohms import OhmsPanel
from candor.desktop.stops.trace.places_panel import PlacesPanel
from candor.desktop.stops.trace.signal_panel import SignalPanel
from candor.desktop.stops.trace.turns_panel import TurnsPanel
from candor.notebook.store import Notebook

VIEWS = (
    ("nodes", "Nodes"),
    ("ohms", "Ohms"),
    ("signal", "Signal"),
    ("changes", "Changes"),
    ("turns", "Adjusters"),
    ("places", "Where it is"),
)


class TracePage(ViewedPage):
    """The page of the stop Trace."""

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
    ) -> None:
        super().__init__()
        self._in_hand, self._place = in_hand, place
        self.nodes = NodesPanel(theme, in_hand=in_hand, writer=writer, voice=voice, shop=shop, notebook=notebook)
        self.ohms = OhmsPanel(theme, in_hand=in_hand, writer=writer, voice=voice)
        self.signal = SignalPanel(theme, in_hand=in_hand, writer=writer, voice=voice)
        self.changes = ChangesPanel(theme, in_hand=in_hand, writer=writer, voice=voice)
        self.turns = TurnsPanel(theme, in_hand=in_hand, writer=writer, voice=voice)
        self.places = PlacesPanel(theme, in_hand=in_hand, writer=writer, voice=voice, notebook=notebook)
        panels: dict[str, Panel] = {
            "nodes": self.nodes,
            "ohms": self.ohms,
            "signal": self.signal,
            "changes": self.changes,
            "turns": self.turns,
            "places": self.places,
        }
        first: dict[str, QWidget] = {
            "nodes": self.nodes.read,
            "ohms": self.ohms.read,
            "changes": self.changes.change,
            "turns": self.turns.lines,
            "places": self.places.name,
        }
        self.lay_out(theme, VIEWS, panels, {**first, "signal": self})
        in_hand.changed.connect(self.show_job)
        place.changed.connect(self.show_job)
        self.nodes.chosenAnew.connect(self.explainAsked)
        self.signal.chosenAnew.connect(self.explainAsked)

    def enter(self) -> None:
        """Come to the stop."""
        self.show_view(self.shown)

    def show_view(self, view: str) -> None:
        """Show one of the views; a chain begins with its first stage."""
        super().show_view(view)
        if view == "signal" and self.signal.view() is None:
            self.signal.stage.setFocus()

    def finish(self) -> None:
        """Stop loading photos, and what is calculated."""
        self.nodes.explained.finish()
        self.nodes.photos.finish()
        self.places.finish()
        self.turns.finish()

    def show_job(self) -> None:
        """Show the view in hand; quietly nothing while another stop is."""
        job = self._in_hand.job
        if job is None or self._place.stop != "trace":
            return
        self.title.setText(f"{job.name}: trace")
        super().show_job()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        looks = {Qt.Key.Key_G: self.signal.good, Qt.Key.Key_B: self.signal.bad, Qt.Key.Key_O: self.signal.odd}
        key = Qt.Key(event.key())
        if self.shown == "signal" and key in looks and not isinstance(QApplication.focusWidget(), QLineEdit):
            looks[key].click()
            return
        super().keyPressEvent(event)
