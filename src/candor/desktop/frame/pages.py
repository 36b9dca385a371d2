"""Pages that are made when they are first entered: the window is up before the rooms nobody asked for."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from importlib import import_module

from PySide6.QtWidgets import QWidget

from candor.desktop.bench.bench import Bench
from candor.desktop.frame.theme import Theme

# Where each room's page is, by module and class.
ROOM_PAGES = {
    "new job": ("candor.desktop.rooms.newjob", "NewJobPage"),
    "standards": ("candor.desktop.rooms.standards", "StandardsPage"),
    "stock": ("candor.desktop.rooms.stock", "StockPage"),
    "order": ("candor.desktop.rooms.order", "OrderPage"),
    "packs": ("candor.desktop.rooms.packs", "PacksPage"),
    "entries": ("candor.desktop.rooms.entries", "EntriesPage"),
    "look": ("candor.desktop.rooms.look", "LookPage"),
}
STOP_PAGES = {
    "parts": ("candor.desktop.stops.parts.page", "PartsPage"),
    "release": ("candor.desktop.stops.release.page", "ReleasePage"),
}


class Pages(Mapping[str, QWidget]):
    """Pages by name; one that is not there yet is made when it is asked for.

    Parameters
    ----------
    places : mapping of str to (str, str)
        Module and class of each page.
    theme, bench
        What a page is made with.
    added : callable
        Called with name and page when one is made.
    there : mapping of str to QWidget
        Pages that are made already, by name.
    """

    def __init__(
        self,
        places: Mapping[str, tuple[str, str]],
        theme: Theme,
        bench: Bench,
        added: Callable[[str, QWidget], None],
        there: Mapping[str, QWidget] | None = None,
    ) -> None:
        self._places, self._theme, self._bench, self._added = dict(places), theme, bench, added
        self._made: dict[str, QWidget] = dict(there or {})

    def __getitem__(self, name: str) -> QWidget:
        if name not in self._made:
            module, kind = self._places[name]
            page = getattr(import_module(module), kind)(self._theme, self._bench)
            self._made[name] = page
            self._added(name, page)
        return self._made[name]

    def __iter__(self) -> Iterator[str]:
        return iter(dict.fromkeys((*self._places, *self._made)))

    def __len__(self) -> int:
        return len(set(self._places) | set(self._made))

    @property
    def made(self) -> tuple[QWidget, ...]:
        """The pages that are there."""
        return tuple(self._made.values())
