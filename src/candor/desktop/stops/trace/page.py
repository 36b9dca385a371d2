"""Trace: the circuit as nodes, ohms between them, the signal along its stages, one change and one check."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QApplication, QHBoxLayout, QLineEdit, QPushButton, QWidget

from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.place import PlaceInHand
from candor.desktop.bench.shop import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.page import Page
from candor.desktop.frame.theme import Theme, label
from candor.desktop.stops.trace.changes import ChangesPanel
from candor.desktop.stops.trace.nodes import NodesPanel
from candor.desktop.stops.trace.ohms import OhmsPanel
from candor.desktop.stops.trace.signal import SignalPanel
from candor.desktop.widgets.controls import Column, button, line
from candor.desktop.widgets.flow import Flow
from candor.notebook.store import Notebook

VIEWS = (("nodes", "Nodes"), ("ohms", "Ohms"), ("signal", "Signal"), ("changes", "Changes"))


class TracePage(Page):
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
        self._view = "nodes"
        self.title = label("", "heading", bold=True)
        self.nodes = NodesPanel(theme, in_hand=in_hand, writer=writer, voice=voice, shop=shop, notebook=notebook)
        self.ohms = OhmsPanel(theme, in_hand=in_hand, writer=writer, voice=voice)
        self.signal = SignalPanel(theme, in_hand=in_hand, writer=writer, voice=voice)
        self.changes = ChangesPanel(theme, in_hand=in_hand, writer=writer, voice=voice)
        self.panels: dict[str, NodesPanel | OhmsPanel | SignalPanel | ChangesPanel] = {
            "nodes": self.nodes, "ohms": self.ohms, "signal": self.signal, "changes": self.changes,
        }  # fmt: skip
        self.views: dict[str, QPushButton] = {}
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
        for panel in self.panels.values():
            column.addWidget(panel)
        column.addStretch()
        outer.addWidget(area, 1)
        in_hand.changed.connect(self.show_job)
        place.changed.connect(self.show_job)
        self.nodes.chosenAnew.connect(self.explainAsked)
        self.signal.chosenAnew.connect(self.explainAsked)

    def enter(self) -> None:
        """Come to the stop."""
        self.show_view(self._view)

    def show_view(self, view: str) -> None:
        """Show one of the views."""
        self._view = view
        self.show_job()
        self.explainAsked.emit()
        first: dict[str, QWidget] = {"nodes": self.nodes.read, "ohms": self.ohms.read, "changes": self.changes.change}
        first["signal"] = self.signal.stage if self.signal.view() is None else self
        first[view].setFocus()

    def finish(self) -> None:
        """Stop loading photos."""
        self.nodes.photos.finish()

    def show_job(self) -> None:
        """Show the view in hand; quietly nothing while another stop is."""
        job = self._in_hand.job
        if job is None or self._place.stop != "trace":
            return
        self.title.setText(f"{job.name}: trace")
        for key, panel in self.panels.items():
            self.views[key].setChecked(key == self._view)
            panel.setVisible(key == self._view)
        self.panels[self._view].show_job()

    def explain(self, because: Because) -> None:
        """Give the reasons of the view in hand."""
        self.panels[self._view].explain(because)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        looks = {Qt.Key.Key_G: self.signal.good, Qt.Key.Key_B: self.signal.bad, Qt.Key.Key_O: self.signal.odd}
        key = Qt.Key(event.key())
        if self._view == "signal" and key in looks and not isinstance(QApplication.focusWidget(), QLineEdit):
            looks[key].click()
            return
        super().keyPressEvent(event)
