"""The way to help and to the menus: where one was, and back there."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Protocol

from PySide6.QtWidgets import QMainWindow, QStackedWidget

from candor.desktop.frame.jotbar import JotBar
from candor.desktop.frame.menus import Deed, Menus
from candor.desktop.frame.pages import Pages
from candor.desktop.frame.shelfpanel import ShelfPanel
from candor.desktop.widgets.controls import shortcut

ROOM = "help"
# What the menus say of the window's own keys, in their order.
ANYWHERE = (
    ("Help for this place", "F1"), ("Take back what was done last", "Ctrl+Z"), ("Do it again", "Ctrl+Shift+Z"),
    ("To the line below", "Ctrl+J"), ("To the list of jobs", "Ctrl+L"), ("Arm's length", "F11"), ("Larger text", "Ctrl++"),
    ("Smaller text", "Ctrl+-"), ("Text as designed", "Ctrl+0"), ("Close the window", "Ctrl+Q"),
)  # fmt: skip


class Places(Protocol):
    """What a window has of stops and rooms."""

    work: QStackedWidget
    stops: Pages
    rooms: Pages
    shelf: ShelfPanel
    jot: JotBar

    def go_to_stop(self, stop: str) -> None:
        """Walk to a stop."""

    def enter_room(self, room: str) -> None:
        """Enter a room."""

    def show_stop(self) -> None:
        """Show the stop in hand."""


class Guide:
    """Help and menus of a window, `at` its places; `keys` are the window's own, by key, and get three more."""

    def __init__(self, window: QMainWindow, at: Places, keys: Mapping[str, Callable[[], object]]) -> None:
        self._window, self._from = at, ""
        self.menus: Menus
        more: dict[str, Deed] = {"F1": self.show, "Ctrl+Q": window.close, "F10": lambda: self.menus.open()}
        for key, deed in more.items():
            shortcut(window, key, deed)
        every = {**keys, **more}
        at.shelf.help.clicked.connect(self.show)
        at.shelf.menus.clicked.connect(lambda: self.menus.open())
        deeds = tuple((name, key, every[key]) for name, key in ANYWHERE)
        self.menus = Menus(window, page=at.work.currentWidget, go=at.go_to_stop, enter=at.enter_room, deeds=deeds)

    def wire(self) -> None:
        """Join what the page of help asks for, once it is made."""
        page = self._window.rooms[ROOM]
        page.jotBegun.connect(self._begin)  # type: ignore[attr-defined]
        page.left.connect(self.leave)  # type: ignore[attr-defined]

    def show(self) -> None:
        """Show what the place in hand is for, what can be typed there, and its keys."""
        window, page = self._window, self._window.rooms[ROOM]
        here = self._name_of(window.stops) or self._name_of(window.rooms)
        if here != ROOM:
            self._from = here
            page.about(here)  # type: ignore[attr-defined]
        window.enter_room(ROOM)

    def leave(self) -> None:
        """Go back to where one was."""
        if self._from in self._window.rooms:
            self._window.enter_room(self._from)
        else:
            self._window.show_stop()

    def _begin(self, text: str) -> None:
        self.leave()
        self._window.jot.edit.clear()
        self._window.jot.begin(text)

    def _name_of(self, pages: Pages) -> str:
        shown = self._window.work.currentWidget()
        return next((name for name in pages if pages.has(name) and pages[name] is shown), "")
