"""The menu bar, for who looks for one: every place with its key, and what can be done on the page that is shown."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QMainWindow, QWidget

from candor.desktop.frame.route import TITLES
from candor.desktop.frame.shelfpanel import ROOMS
from candor.desktop.widgets.row_menu import Deed, add_deed, buttons_of, said_by


class Menus:
    """The menus of a window. What the page offers is asked when its menu is opened: nothing is kept.

    Parameters
    ----------
    window : QMainWindow
    page : callable
        Gives the page that is shown.
    go, enter : callable
        Walk to a stop, enter a room, by name.
    deeds : tuple of (str, str, callable)
        What can be done anywhere: its name, its key, and what it does. The keys are the window's; here they are shown.
    """

    def __init__(
        self,
        window: QMainWindow,
        page: Callable[[], QWidget | None],
        go: Callable[[str], object],
        enter: Callable[[str], object],
        deeds: tuple[tuple[str, str, Deed], ...],
    ) -> None:
        self._page, self._deeds = page, deeds
        bar = window.menuBar()
        bar.setNativeMenuBar(False)
        self.here = bar.addMenu("&Here")
        self.here.aboutToShow.connect(self._offer)
        stops, rooms = bar.addMenu("&Stops"), bar.addMenu("&Rooms")
        for number, (stop, title) in enumerate(TITLES.items(), 1):
            add_deed(stops, title, f"Ctrl+{number}", partial(go, stop))
        for room, title, key in ROOMS:
            add_deed(rooms, title, key, partial(enter, room))
        anywhere = bar.addMenu("&Anywhere")
        for name, key, deed in deeds:
            add_deed(anywhere, name, key, deed)
        self.all = (self.here, stops, rooms, anywhere)
        self._bar = bar
        bar.hide()  # until it is asked for: the page has the room
        for menu in self.all:
            menu.aboutToHide.connect(lambda: QTimer.singleShot(0, bar, self._put_away))

    def open(self) -> None:
        """Show the bar, and open its first menu."""
        self._bar.show()
        self._bar.setFocus()
        self._bar.setActiveAction(self._bar.actions()[0])

    def _put_away(self) -> None:
        """Hide the bar where none of its menus is open any more."""
        if not any(menu.isVisible() for menu in self.all):
            self._bar.hide()

    def _offer(self) -> None:
        """List what can be pressed on the page that is shown, in the order in which it stands there."""
        self.here.clear()
        pressed = buttons_of(self._page())
        for made in pressed:
            name, key = said_by(made)
            add_deed(self.here, name, key, made.click).setEnabled(made.isEnabled())
        if not pressed:
            self.here.addAction("Nothing to press here").setEnabled(False)
