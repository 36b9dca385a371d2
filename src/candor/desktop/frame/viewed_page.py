"""A stop of several views, one shown at a time: its title, a row of choices, and a panel for each."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Protocol

from PySide6.QtWidgets import QHBoxLayout, QPushButton, QSizePolicy, QWidget

from candor.desktop.frame.because import Because
from candor.desktop.frame.page import Page
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import Column, button, line
from candor.desktop.widgets.flow import Flow


class Panel(Protocol):
    """What a view shows."""

    def show_job(self) -> None:
        """Show how things stand."""

    def explain(self, because: Because) -> None:
        """Give its reasons."""

    def setVisible(self, visible: bool) -> None: ...
    def sizePolicy(self) -> QSizePolicy: ...


class ViewedPage(Page):
    """The page of a stop with several views."""

    def __init__(self) -> None:
        super().__init__()
        self.title = label("", "heading", bold=True)
        self.views: dict[str, QPushButton] = {}
        self.shown = ""
        self._panels: Mapping[str, Panel] = {}
        self._first: Mapping[str, QWidget] = {}

    def lay_out(
        self, theme: Theme, titles: Sequence[tuple[str, str]], panels: Mapping[str, Panel], first: Mapping[str, QWidget],
        above: Sequence[QWidget] = (),
    ) -> None:  # fmt: skip
        """Lay out the views: their titles by key, a panel for each, where the keyboard goes first, and what stands above all."""
        self._panels, self._first, self.shown = panels, first, titles[0][0]
        outer = QHBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        area = Column(theme.px(16), theme.px(7))
        column = area.column
        column.setContentsMargins(theme.px(18), theme.px(12), theme.px(16), theme.px(12))
        column.addWidget(self.title)
        choices = Flow(theme.px(6))
        for key, title in titles:
            made = button(title, title, name="choice")
            made.setCheckable(True)
            made.clicked.connect(lambda _=False, view=key: self.show_view(view))
            choices.addWidget(made)
            self.views[key] = made
        column.addLayout(choices)
        column.addWidget(line())
        for widget in above:
            column.addWidget(widget)
        for panel in panels.values():
            column.addWidget(panel)  # type: ignore[arg-type]  # every panel is a widget
            if panel.sizePolicy().verticalPolicy() == QSizePolicy.Policy.Expanding:
                column.setStretchFactor(panel, 1)  # type: ignore[call-overload]  # it has something that grows
        column.addStretch()
        outer.addWidget(area, 1)

    def show_view(self, view: str) -> None:
        """Show one of the views, and put the keyboard where it begins."""
        self.shown = view
        self.show_job()
        self.explainAsked.emit()
        self._first[view].setFocus()

    def show_job(self) -> None:
        """Show the view in hand."""
        for key, panel in self._panels.items():
            self.views[key].setChecked(key == self.shown)
            panel.setVisible(key == self.shown)
        self._panels[self.shown].show_job()

    def explain(self, because: Because) -> None:
        """Give the reasons of the view in hand."""
        self._panels[self.shown].explain(because)
