"""The menu of a row, by a right click or the menu key: its words copied, and what can be pressed for it on its page."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from typing import Protocol, cast

from PySide6.QtCore import QPoint
from PySide6.QtGui import QAction, QContextMenuEvent, QGuiApplication
from PySide6.QtWidgets import QAbstractButton, QAbstractItemView, QMenu, QPushButton, QWidget

Deed = Callable[[], object]
Offer = tuple[str, str, Deed]  # what it is called, its key, what it does


def add_deed(menu: QMenu, name: str, key: str, deed: Deed) -> QAction:
    """Add a line with its key beside it; the key itself works elsewhere, and is not taken twice."""
    made = menu.addAction(f"{name.replace('&', '&&')}\t{key}" if key else name.replace("&", "&&"))
    made.triggered.connect(lambda _=False: deed())
    return made


def said_by(made: QAbstractButton) -> tuple[str, str]:
    """Return what a button says, and the key that stands beside it."""
    name, text = made.accessibleName(), made.text()
    return (name, text.removeprefix(name).strip()) if text.startswith(name) else (text, "")


def buttons_of(page: QWidget | None) -> list[QPushButton]:
    """Return what can be seen and pressed on a page, in the order in which it stands there."""
    return [b for b in page.findChildren(QPushButton) if b.isVisible() and b.accessibleName()] if page else []


def deeds_beside(rows: QWidget) -> list[QPushButton]:
    """Return the deeds of the nearest part of the page around a list that has some: views and choices are none."""
    around = rows.parentWidget()
    while around is not None and not around.isWindow():
        deeds = [b for b in buttons_of(around) if b.objectName() != "choice" and b.isEnabled()]
        if deeds:
            return deeds
        around = around.parentWidget()
    return []


class Offering(Protocol):
    """A list of rows that can be in hand, and what it says of its menu: the buttons that are for its row, or deeds by its key."""

    deeds: Sequence[QPushButton] | None
    offers: Callable[[str], Sequence[Offer]] | None


def ask(
    view: QAbstractItemView, picked: Callable[[str], object], event: QContextMenuEvent, role: int
) -> QMenu | None:
    """Have the row under the pointer in hand, with the menu key the one in hand, and show its menu; None where there is no row.

    Where the list says nothing else, the menu has the deeds of the nearest part of the page around it. A list with offers of
    its own takes no row in hand: there a row that is chosen leads away.
    """
    by_key = event.reason() == QContextMenuEvent.Reason.Keyboard
    index = view.currentIndex() if by_key else view.indexAt(event.pos())
    row = index.data(role) if index.isValid() else None
    if row is None or not row.key:
        return None
    at = view.viewport().mapToGlobal(view.visualRect(index).bottomLeft()) if by_key else event.globalPos()
    said = cast(Offering, view)
    if said.offers is not None:
        return offer(view, at, row.spoken, said.offers(row.key))
    view.setCurrentIndex(index)
    picked(row.key)
    pressed = deeds_beside(view) if said.deeds is None else [b for b in said.deeds if b.isVisible() and b.isEnabled()]
    return offer(view, at, row.spoken, [(*said_by(b), b.click) for b in pressed])


def offer(rows: QWidget, at: QPoint, words: str, deeds: Iterable[Offer]) -> QMenu:
    """Show the menu of a row: what can be done with it, and its words copied.

    Parameters
    ----------
    rows : QWidget
        The list; its row is in hand already.
    at : QPoint
        On the screen.
    words : str
        What the row says.
    deeds : iterable of (str, str, callable)
        Name, key, deed.
    """
    menu = QMenu(rows)
    for name, key, deed in deeds:
        add_deed(menu, name, key, deed)
    if not menu.isEmpty():
        menu.addSeparator()
    add_deed(menu, "Copy what it says", "Ctrl+C", lambda: QGuiApplication.clipboard().setText(words))
    menu.aboutToHide.connect(menu.deleteLater)
    menu.popup(at)
    return menu
