"""What every drawing of a reading is given, and tells: the work surface draws any kind through this alone."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import field

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from candor.core.calibration.point import TestPoint
from candor.core.late_dataclass import dataclass
from candor.desktop.frame.theme import Theme
from candor.packs.model import Dial as DialFace


@dataclass(frozen=True)
class Drawn:
    """What is to be drawn of a reading, SI.

    Attributes
    ----------
    expected : float
        Where it should stand; no number where nobody knows.
    indicated : float or None
        The value that was read, or is being read.
    low, high : float
        From where to where it may stand; infinite, or no number, where there is no such end.
    figures : mapping of str to float
        What was read, by name.
    active : str
        The figure that arrows move.
    words : str
        What was read in words.
    """

    expected: float
    indicated: float | None
    low: float
    high: float
    figures: Mapping[str, float] = field(default_factory=dict)
    active: str = ""
    words: str = ""


class Drawing(QWidget):
    """A drawing of one kind of reading.

    Signals
    -------
    nudged(float)
        The figure in hand is to move by so many ticks (arrow keys).
    dragged(float)
        It was dragged to a value, SI.
    chosen(int)
        An outcome was chosen by its place.
    """

    nudged = Signal(float)
    dragged = Signal(float)
    chosen = Signal(int)

    def __init__(self, theme: Theme, large: bool = False) -> None:
        super().__init__()
        self._theme, self._large = theme, large
        self._point: TestPoint | None = None
        self._state: Drawn | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setToolTip("← → one tick, Shift half a tick, Ctrl a fifth, N the next figure")

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(450), self._theme.px(250))

    def minimumSizeHint(self) -> QSize:
        return QSize(self._theme.px(240), self._theme.px(190))

    def show_face(self, face: DialFace | None) -> None:
        """Take the printed face of the pack, where the kind is drawn on it."""

    def show_reading(self, point: TestPoint, state: Drawn) -> None:
        """Show one point with what was read."""
        self._point, self._state = point, state
        self.setAccessibleDescription(f"{point.name}, {state.words or 'not read'}")
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = {Qt.Key.Key_Left: -1.0, Qt.Key.Key_Right: 1.0}.get(Qt.Key(event.key()))
        if step is None:
            super().keyPressEvent(event)
            return
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            step /= 2
        elif event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            step /= 5
        self.nudged.emit(step)
