"""Pages by name, each made when it is first entered and given what it asks for: the window is up before the rest."""

from __future__ import annotations

import inspect
from collections.abc import Callable, Iterator, Mapping
from importlib import import_module

from candor.desktop.frame.page import Page

# Where each page is, by module and class: a new stop or room is a line here and one in its title's table.
STOP_PAGES = {
    "arrive": ("candor.desktop.stops.arrive.arrive_page", "ArrivePage"),
    "parts": ("candor.desktop.stops.parts.parts_page", "PartsPage"),
    "power": ("candor.desktop.stops.power.power_page", "PowerPage"),
    "trace": ("candor.desktop.stops.trace.trace_page", "TracePage"),
    "calibrate": ("candor.desktop.stops.calibrate.calibrate_page", "CalibratePage"),
    "soak": ("candor.desktop.stops.soak.soak_page", "SoakPage"),
    "release": ("candor.desktop.stops.release.release_page", "ReleasePage"),
}
ROOM_PAGES = {
    "new job": ("candor.desktop.rooms.newjob", "NewJobPage"),
    "day": ("candor.desktop.rooms.day_room", "DayPage"),
    "standards": ("candor.desktop.rooms.standards_room", "StandardsPage"),
    "stock": ("candor.desktop.rooms.stock_room", "StockPage"),
    "order": ("candor.desktop.rooms.order_room", "OrderPage"),
    "packs": ("candor.desktop.rooms.packs_room", "PacksPage"),
    "entries": ("candor.desktop.rooms.entries_room", "EntriesPage"),
    "look": ("candor.desktop.rooms.settings_room", "LookPage"),
    "waveform": ("candor.desktop.rooms.waveform_room", "WaveformPage"),
    "tubes": ("candor.desktop.rooms.tubes_room", "TubesPage"),
    "notebook": ("candor.desktop.rooms.notebook_room", "NotebookPage"),
    "find": ("candor.desktop.rooms.find_room", "FindPage"),
    "manual": ("candor.desktop.rooms.manual_room", "ManualRoom"),
    "print": ("candor.desktop.rooms.print_room", "PrintPage"),
    "help": ("candor.desktop.rooms.help_room", "HelpPage"),
    "from file": ("candor.desktop.rooms.from_file", "FromFilePage"),
}
SHOP_ROOMS = ("tubes", "stock", "standards", "order", "look", "notebook")  # what is written there is the shop's


class Pages(Mapping[str, Page]):
    """Pages by name; one that is not there yet is made when it is asked for.

    Parameters
    ----------
    places : mapping of str to (str, str)
        Module and class of each page.
    given : mapping of str to object
        What a page can be made with, by the names of its parameters; it gets those it names.
    added : callable
        Called with name and page when one is made.
    """

    def __init__(
        self, places: Mapping[str, tuple[str, str]], given: Mapping[str, object], added: Callable[[str, Page], None]
    ) -> None:
        self._places, self._given, self._added = places, given, added
        self._made: dict[str, Page] = {}

    def __getitem__(self, name: str) -> Page:
        if name not in self._made:
            module, kind = self._places[name]
            page = getattr(import_module(module), kind)
            asked = inspect.signature(page).parameters
            self._made[name] = page(**{key: self._given[key] for key in asked})
            self._added(name, self._made[name])
        return self._made[name]

    def __iter__(self) -> Iterator[str]:
        return iter(self._places)

    def __len__(self) -> int:
        return len(self._places)

    def there(self, name: str) -> Page | None:
        """The page of a name, where it is made already."""
        return self._made.get(name)

    def has(self, name: str) -> bool:
        """Whether a page is there already."""
        return name in self._made

    @property
    def made(self) -> tuple[Page, ...]:
        """The pages that are there."""
        return tuple(self._made.values())
