"""The way to help and to the menus: where one was, and back there."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import TYPE_CHECKING, Protocol

from PySide6.QtWidgets import QMainWindow, QStackedWidget, QWidget

from candor.desktop.bench.bench import Bench
from candor.desktop.frame.jotbar import JotBar
from candor.desktop.frame.menus import Menus
from candor.desktop.frame.pages import Pages
from candor.desktop.frame.route import Route
from candor.desktop.frame.shelfpanel import ShelfPanel
from candor.desktop.widgets.controls import shortcut
from candor.desktop.widgets.row_menu import Deed

if TYPE_CHECKING:  # what prints is loaded when something is printed
    from candor.desktop.frame.drawn_pdf import Printable

HELP, FIND, PRINT, MANUAL = ASIDE = ("help", "find", "print", "manual")  # pages that one comes back from
# What the menus say of the window's own keys, in their order.
ANYWHERE = (
    ("Help for this place", "F1"), ("The manual", "Shift+F1"), ("Find anything", "Ctrl+K"), ("Settings", "Ctrl+,"),
    ("Take back what was done last", "Ctrl+Z"),
    ("Do it again", "Ctrl+Shift+Z"),
    ("To the line below", "Ctrl+J"), ("The line in fields", "F2"),
    ("To the list of jobs", "Ctrl+L"), ("Arm's length", "F11"), ("Larger text", "Ctrl++"),
    ("Smaller text", "Ctrl+-"), ("Text as designed", "Ctrl+0"), ("Close the window", "Ctrl+Q"),
)  # fmt: skip


class Places(Protocol):
    """What a window has of stops and rooms."""

    work: QStackedWidget
    stops: Pages
    rooms: Pages
    shelf: ShelfPanel
    jot: JotBar
    route: Route
    bench: Bench

    def go_to_stop(self, stop: str) -> None:
        """Walk to a stop."""

    def enter_room(self, room: str) -> None:
        """Enter a room."""

    def show_stop(self) -> None:
        """Show the stop in hand."""


class Guide:
    """Help and menus of a window, `at` its places; `keys` are the window's own, by key, and get five more."""

    def __init__(self, window: QMainWindow, at: Places, keys: Mapping[str, Callable[[], object]]) -> None:
        self._window, self._from = at, ""
        self.menus: Menus
        more: dict[str, Deed] = {
            "F1": self.show,
            "Shift+F1": self.manual,
            "Ctrl+K": self.find,
            "Ctrl+,": lambda: at.enter_room("look"),
            "Ctrl+Q": window.close,
            "F2": at.jot.toggle_fields,
            "F10": lambda: self.menus.open(),
        }
        for key, deed in more.items():
            shortcut(window, key, deed)
        every = {**keys, **more}
        at.jot.known = self._known
        at.route.nextKnown.connect(at.jot.show_next)
        at.jot.nextAsked.connect(at.go_to_stop)
        at.jot.describeAsked.connect(self._describe_range)
        at.shelf.help.clicked.connect(self.show)
        at.shelf.stopAsked.connect(self.open_at)
        at.shelf.menus.clicked.connect(lambda: self.menus.open())
        deeds = tuple((name, key, every[key]) for name, key in ANYWHERE)
        self.menus = Menus(window, page=at.work.currentWidget, go=at.go_to_stop, enter=at.enter_room, deeds=deeds)

    def _known(self) -> Mapping[str, tuple[str, ...]]:
        """Return the names that fields complete from."""
        from candor.notebook.work.known_names import known_names  # only who asks for fields waits for it

        in_hand = self._window.bench.in_hand
        return known_names(in_hand.job, in_hand.pack, in_hand.parts()) if in_hand.job is not None else {}

    def _describe_range(self) -> None:
        self._window.go_to_stop("calibrate")
        self._window.stops["calibrate"].ask_range()  # type: ignore[attr-defined]

    def open_at(self, job: str, stop: str) -> None:
        """Open a job at a stop of its route; without a stop it is a standard that is asked for."""
        if not stop:
            self._window.enter_room("standards")
            return
        self._window.shelf.job.emit(job)
        opened = self._window.bench.in_hand.job
        if opened is not None and opened.id == job:  # one that cannot be read stays shut
            self._window.go_to_stop(stop)

    def join(self, page: QWidget) -> None:
        """Join what any page may ask for: a paper to be printed, a job to be opened at a stop, a room."""
        if hasattr(page, "printAsked"):
            page.printAsked.connect(self.print_paper)
        if hasattr(page, "openAsked"):
            page.openAsked.connect(self.open_at)
        if hasattr(page, "roomAsked"):
            page.roomAsked.connect(self._window.enter_room)

    def wire(self, room: str) -> None:
        """Join what a page of these asks for, once it is made."""
        page = self._window.rooms[room]
        page.left.connect(self.leave)  # type: ignore[attr-defined]
        if room == HELP:
            page.jotBegun.connect(self._begin)  # type: ignore[attr-defined]
            page.manualAsked.connect(self.manual)  # type: ignore[attr-defined]
        elif room == FIND:
            page.chosen.connect(self.go)  # type: ignore[attr-defined]

    def print_paper(self, paper: Printable) -> None:
        """Show a paper before it is printed."""
        self._remember()
        self._window.enter_room(PRINT)
        self._window.rooms[PRINT].show_paper(paper)  # type: ignore[attr-defined]

    def manual(self, page: str = "") -> None:
        """Show the manual, at a page of it where one is named."""
        self._remember()
        self._window.enter_room(MANUAL)
        if page:
            self._window.rooms[MANUAL].open(page)  # type: ignore[attr-defined]

    def find(self) -> None:
        """Look for anything by its words."""
        self._remember()
        self._window.enter_room(FIND)

    def _remember(self) -> str:
        """Keep where one is, to come back to it; return that."""
        here = self._name_of(self._window.stops) or self._name_of(self._window.rooms)
        if here not in ASIDE:
            self._from = here
        return self._from

    def go(self, kind: str, key: str) -> None:
        """Go to what was found."""
        window = self._window
        deeds: dict[str, Callable[[], object]] = {
            "place": lambda: window.go_to_stop(key) if key in window.stops else window.enter_room(key),
            "job": lambda: window.shelf.job.emit(key),
            "step": lambda: window.bench.place.go("calibrate", key),
            "part": lambda: self._to_part(key),
            "standard": lambda: window.enter_room("standards"),
            "tube": lambda: self._to_tube(key),
            "entry": lambda: self._to_entry(key),
            "line": lambda: self._begin(key),
            "key": self.leave,
            "page": lambda: self.manual(key),
        }
        if kind == "step":
            window.go_to_stop("calibrate")
        deeds[kind]()

    def _to_part(self, ref: str) -> None:
        self._window.go_to_stop("parts")
        self._window.stops["parts"].choose(ref)  # type: ignore[attr-defined]

    def _to_tube(self, key: str) -> None:
        self._window.enter_room("tubes")
        self._window.rooms["tubes"].choose(key)  # type: ignore[attr-defined]

    def _to_entry(self, number: str) -> None:
        self._window.enter_room("entries")
        self._window.rooms["entries"].search.setText(number)  # type: ignore[attr-defined]

    def show(self) -> None:
        """Show what the place in hand is for, what can be typed there, and its keys."""
        page = self._window.rooms[HELP]
        if self._window.work.currentWidget() is not page:
            page.about(self._remember())  # type: ignore[attr-defined]
        self._window.enter_room(HELP)

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
