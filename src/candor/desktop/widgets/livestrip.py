"""A strip for what is live: its words whole, however narrow, and a button that stops it."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Protocol

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.glyphs import Glyph

MOST = 4  # things that one bench can have live


class Live(Protocol):
    """What the strip shows."""

    @property
    def words(self) -> str:
        """What must be known."""

    @property
    def deed(self) -> str:
        """What its button says; empty for none."""

    @property
    def stop(self) -> Callable[[], object]:
        """What its button does."""


class LiveStrip(QWidget):
    """There only while something is live."""

    def __init__(self, theme: Theme, role: str = "text") -> None:
        super().__init__()
        self.setObjectName("warning")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(16), theme.px(6), theme.px(16), theme.px(6))
        column.setSpacing(theme.px(4))
        self._things: tuple[Live, ...] = ()
        self.lines: list[tuple[QWidget, QLabel, QPushButton]] = []
        for place in range(MOST):
            holder = QWidget()
            row = QHBoxLayout(holder)
            row.setContentsMargins(0, 0, 0, 0)
            row.setSpacing(theme.px(10))
            glyph = Glyph(theme, 15)
            glyph.show_shape("hazard")
            words = label("", role, bold=True, tint="brick")
            stop = button("", "Stops it at once: the source goes to zero", name="main")
            stop.setFocusPolicy(Qt.FocusPolicy.TabFocus)
            stop.clicked.connect(lambda _=False, at=place: self._stop(at))
            row.addWidget(glyph, 0, Qt.AlignmentFlag.AlignVCenter)
            row.addWidget(words, 1)
            row.addWidget(stop, 0, Qt.AlignmentFlag.AlignVCenter)
            column.addWidget(holder)
            self.lines.append((holder, words, stop))
        self.show_things(())

    def show_things(self, things: Sequence[Live]) -> None:
        """Show what is live; nothing where nothing is."""
        self._things = tuple(things[:MOST])
        for place, (holder, words, stop) in enumerate(self.lines):
            shown = place < len(self._things)
            holder.setVisible(shown)
            if shown:
                thing = self._things[place]
                words.setText(thing.words)
                words.setAccessibleName(f"Live: {thing.words}")
                stop.setText(thing.deed)
                stop.setAccessibleName(thing.deed)
                stop.setVisible(bool(thing.deed))
        self.setVisible(bool(self._things))

    def text(self) -> str:
        """Return all that is said."""
        return "\n".join(thing.words for thing in self._things)

    def _stop(self, place: int) -> None:
        if place < len(self._things):
            self._things[place].stop()
