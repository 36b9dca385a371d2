"""How the window is laid out: route above, shelf, work and because side by side, warnings and the jot line below."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFrame, QHBoxLayout, QStackedWidget, QVBoxLayout, QWidget

from candor.desktop.frame.because import Because
from candor.desktop.frame.firststrip import FirstStrip
from candor.desktop.frame.jotbar import JotBar
from candor.desktop.frame.notestrip import NoteStrip
from candor.desktop.frame.route import Route
from candor.desktop.frame.shelfpanel import ShelfPanel
from candor.desktop.frame.theme import Theme
from candor.desktop.widgets.controls import line
from candor.desktop.widgets.livestrip import LiveStrip
from candor.desktop.widgets.warning import WarningStrip

# Widths, in px at 100 %, below which something gives way to the work.
SHELF_NEEDS = 1130
STEPS_NEED = 790
BECAUSE_NEEDS = 640


class Table(QWidget):
    """The whole of the window but for the view at arm's length."""

    def __init__(
        self,
        theme: Theme,
        *,
        route: Route,
        shelf: ShelfPanel,
        work: QStackedWidget,
        because: Because,
        warning: WarningStrip,
        live: LiveStrip,
        jot: JotBar,
        first: FirstStrip,
        notes: NoteStrip,
    ) -> None:
        super().__init__()
        self.setObjectName("page")
        self._theme, self._route, self._shelf, self._because = theme, route, shelf, because
        self._work, self._warning, self._live, self._jot = work, warning, live, jot
        self._first, self._notes = first, notes
        self._shelf_line, self._because_line = line(vertical=True), line(vertical=True)
        middle = QHBoxLayout()
        middle.setSpacing(0)
        middle.addWidget(shelf)
        middle.addWidget(self._shelf_line)
        middle.addWidget(work, 1)
        middle.addWidget(self._because_line)
        middle.addWidget(because)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(route)
        column.addWidget(line())
        holder = QVBoxLayout()
        holder.setContentsMargins(theme.px(16), 0, theme.px(16), 0)
        holder.addWidget(route.whole)
        column.addLayout(holder)
        column.addWidget(live)
        column.addLayout(middle, 1)
        column.addWidget(warning)
        column.addWidget(first)
        column.addWidget(notes)
        column.addWidget(line())
        column.addWidget(jot)

    def dress(self) -> None:
        """Dress what is shown: the frame and the page in hand."""
        lines = self.findChildren(QFrame, "line", Qt.FindChildOption.FindDirectChildrenOnly)
        strips = (self._route.whole, self._warning, self._first, self._notes, self._live)
        shown = (self._route, self._shelf, self._because, *strips, self._jot, self._work.currentWidget())
        for part in (*lines, *shown):
            if part is not None:
                self._theme.dress(part)
        self._shelf.setFixedWidth(self._theme.px(200))

    def fit(self, width: int) -> bool:
        """Where the window is narrow for the text size, shelf and reasons give way; True where the pages must, too."""
        wide = width / self._theme.scale
        shelf = wide >= SHELF_NEEDS
        self._shelf.setVisible(shelf)
        self._route.shelf.setVisible(not shelf)
        self._shelf_line.setVisible(shelf)
        self._because.setVisible(wide >= BECAUSE_NEEDS)
        self._because_line.setVisible(wide >= BECAUSE_NEEDS)
        self._because.setFixedWidth(self._theme.px(300 if wide >= 980 else 250))
        return wide < STEPS_NEED + (200 if shelf else 0)

    def show_shelf(self) -> None:
        """Where there is no room for it, it stands in front until a job is chosen."""
        self._shelf.setVisible(True)
        self._shelf_line.setVisible(True)
