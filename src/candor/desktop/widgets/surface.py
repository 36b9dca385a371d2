"""The work surface: what the instrument in hand is read on, drawn by the kind of reading."""

from __future__ import annotations

from collections.abc import Mapping

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QStackedWidget

from candor.core.calibration.point import TestPoint
from candor.core.reading.kinds import kind_of
from candor.desktop.frame.theme import Theme
from candor.desktop.widgets.drawn import Drawing, Drawn
from candor.desktop.widgets.knob import KnobDial
from candor.desktop.widgets.looks import Looks
from candor.desktop.widgets.needle_dial import Dial
from candor.desktop.widgets.numberline import NumberLine
from candor.desktop.widgets.scopescreen import ScopeScreen
from candor.packs.model import Dial as DialFace

# A further kind of drawing is one widget and one line here.
DRAWINGS: Mapping[str, type[Drawing]] = {
    "dial": Dial,
    "knob": KnobDial,
    "steps": NumberLine,
    "digits": NumberLine,
    "screen": ScopeScreen,
    "look": Looks,
}


class Surface(QStackedWidget):
    """The drawing of the point in hand; each is made when first needed.

    Signals
    -------
    nudged(float), dragged(float), chosen(int)
        As the drawings tell them.
    """

    nudged = Signal(float)
    dragged = Signal(float)
    chosen = Signal(int)

    def __init__(self, theme: Theme, large: bool = False) -> None:
        super().__init__()
        self._theme, self._large = theme, large
        self._made: dict[str, Drawing] = {}
        self.dial = self.drawing("dial")

    def drawing(self, name: str) -> Drawing:
        """Return a drawing by its name."""
        if name not in self._made:
            made = DRAWINGS[name](self._theme, self._large)
            made.nudged.connect(self.nudged)
            made.dragged.connect(self.dragged)
            made.chosen.connect(self.chosen)
            self._made[name] = made
            self.addWidget(made)
            made.setAccessibleName(made.accessibleName() or name.capitalize())
        return self._made[name]

    @property
    def current(self) -> Drawing:
        """The drawing that is shown."""
        widget = self.currentWidget()
        return widget if isinstance(widget, Drawing) else self.dial

    def show_reading(self, point: TestPoint, state: Drawn, face: DialFace | None) -> None:
        """Draw one point with what was read."""
        drawing = self.drawing(kind_of(point).drawn)
        drawing.show_face(face)
        drawing.show_reading(point, state)
        if self.currentWidget() is not drawing:
            focused = self.current.hasFocus()
            self.setCurrentWidget(drawing)
            if focused:
                drawing.setFocus()
