"""What the charts have in common: a card with a plot, a stretch of it by wheel, drag and keys, and what is read off in it."""

from __future__ import annotations

import math
from typing import NamedTuple

from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QFocusEvent, QKeyEvent, QMouseEvent, QPainter, QPen, QWheelEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from candor.desktop.frame.local_numbers import local
from candor.desktop.frame.theme import Theme
from candor.desktop.widgets.card import begin_card, caption_height, draw_note

CLOSEST = 0.02  # of the whole width, the shortest stretch that is shown
STEP = 0.8  # of the stretch, by which one notch of the wheel or one key shortens it
NEAR_PX = 26  # from a reading, within which the pointer reads it off
MOUSE = "Wheel: a shorter or longer stretch. Drag: along it. Double-click: all of it"
KEYS = "Keys: + and − for the stretch, Home for all of it, arrows from reading to reading"


class Stretch:
    """The part of a width that is shown, from one share of it to another."""

    def __init__(self) -> None:
        self.begin, self.end = 0.0, 1.0

    @property
    def is_whole(self) -> bool:
        """Whether all of it is shown."""
        return self.end - self.begin > 1 - 1e-9

    def zoom(self, factor: float, share: float = 0.5) -> None:
        """Show a stretch `factor` times as long; what stands at `share` of the width stays there."""
        width = min(max((self.end - self.begin) * factor, CLOSEST), 1.0)
        at = self.begin + share * (self.end - self.begin)
        self._place(at - share * width, width)

    def move(self, by: float) -> None:
        """Move along by a share of what is shown."""
        self._place(self.begin + by * (self.end - self.begin), self.end - self.begin)

    def to(self, share: float) -> None:
        """Move along so far that a share of the whole is shown."""
        width = self.end - self.begin
        if not self.begin <= share <= self.end:
            self._place(share - width / 2, width)

    def whole(self) -> None:
        """Show all of it."""
        self.begin, self.end = 0.0, 1.0

    def along(self, share: float) -> float:
        """Return where a share of the whole stands in what is shown; outside 0 to 1 it does not."""
        return (share - self.begin) / (self.end - self.begin)

    def at(self, along: float) -> float:
        """Return what share of the whole stands at a place of what is shown."""
        return self.begin + along * (self.end - self.begin)

    def _place(self, begin: float, width: float) -> None:
        self.begin = min(max(begin, 0.0), 1.0 - width)
        self.end = self.begin + width


class Spot(NamedTuple):
    """A reading in the picture: where it stands, at which share of the whole width, and what it says."""

    place: QPointF
    share: float
    words: str


class ChartCard(QWidget):
    """A card with a plot in it."""

    def __init__(self, theme: Theme, name: str) -> None:
        super().__init__()
        self._theme = theme
        self.stretch = Stretch()
        self._spots: list[Spot] = []
        self._in_hand = -1
        self._dragged_from: float | None = None
        self._plot = QRectF(0, 0, 1, 1)
        self._said = ""
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setAccessibleName(name)
        self.setToolTip(f"{MOUSE}. {KEYS}")

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(560), self._theme.px(250))

    def minimumSizeHint(self) -> QSize:
        return QSize(self._theme.px(240), self._theme.px(170))

    @property
    def spots(self) -> tuple[Spot, ...]:
        """What can be read off, as it was last drawn."""
        return tuple(self._spots)

    @property
    def read_off(self) -> str:
        """What is read off now; empty where nothing is."""
        return self._spots[self._in_hand].words if 0 <= self._in_hand < len(self._spots) else ""

    def describe(self, words: str) -> None:
        """Say what the chart shows to who cannot see it."""
        self._said = words
        self.setAccessibleDescription(words)

    # --- for those that draw ------------------------------------------------------------------------

    def plot(self, left: float = 64, right: float = 16) -> QRectF:
        """Return where the plot is, `left` px (of the text's size) of room for the values beside it, `right` at its end."""
        px = self._theme.px
        self._plot = QRectF(
            px(left),
            px(14),
            self.width() - px(left + right),
            self.height() - caption_height(self._theme, False) - px(40),
        )
        return self._plot

    def begin(self) -> QPainter:
        """Return a painter on the card; what could be read off before is forgotten."""
        self._spots = []
        return begin_card(self, self._theme)

    def x_of(self, share: float) -> float:
        """Return where a share of the whole width stands, px."""
        return self._plot.left() + self._plot.width() * self.stretch.along(share)

    def clip(self, painter: QPainter) -> None:
        """From here on only what is inside the plot is drawn, until the painter is restored."""
        painter.save()
        reach = self._theme.px(6)
        painter.setClipRect(self._plot.adjusted(-reach, -reach, reach, reach), Qt.ClipOperation.IntersectClip)

    def spot(self, place: QPointF, share: float, words: str) -> None:
        """A reading stands here: it can be read off."""
        self._spots.append(Spot(QPointF(place), share, words))

    def draw_read_off(self, painter: QPainter) -> None:
        """Ring the reading that is read off, and write what it says over the plot."""
        words = self.read_off
        if not words:
            return
        theme, place = self._theme, self._spots[self._in_hand].place
        if not -1e-6 <= self.stretch.along(self._spots[self._in_hand].share) <= 1 + 1e-6:
            return
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(theme.colour("ink"), 1.4))
        painter.drawEllipse(place, theme.px(8), theme.px(8))
        draw_note(painter, theme, place, words, self._plot)

    def words(self, painter: QPainter, at: QPointF, words: str, right: bool = False) -> None:
        """Write words under, or to the left of, a place."""
        painter.setFont(self._theme.font("note"))
        painter.setPen(self._theme.colour("soft"))
        width = painter.fontMetrics().horizontalAdvance(words)
        painter.drawText(at - QPointF(width if right else width / 2, 0), local(words))

    # --- input --------------------------------------------------------------------------------------

    def show_all(self) -> None:
        """Show the whole width."""
        self.stretch.whole()
        self.update()

    def read_next(self, by: int) -> None:
        """Read off the reading after, or before, the one that is; the first where none is."""
        if not self._spots:
            return
        self._take(min(max(self._in_hand + by, 0), len(self._spots) - 1) if self._in_hand >= 0 else 0)
        self.stretch.to(self._spots[self._in_hand].share)

    def wheelEvent(self, event: QWheelEvent) -> None:
        share = (event.position().x() - self._plot.left()) / max(self._plot.width(), 1)
        self.stretch.zoom(STEP ** (event.angleDelta().y() / 120), min(max(share, 0.0), 1.0))
        self.update()
        event.accept()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._dragged_from = event.position().x() if event.button() == Qt.MouseButton.LeftButton else None

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._dragged_from is not None and not self.stretch.is_whole:
            self.stretch.move((self._dragged_from - event.position().x()) / max(self._plot.width(), 1))
            self._dragged_from = event.position().x()
            self.update()
            return
        near = [
            (math.hypot(s.place.x() - event.position().x(), s.place.y() - event.position().y()), i)
            for i, s in enumerate(self._spots)
        ]
        distance, index = min(near, default=(math.inf, -1))
        self._take(index if distance <= self._theme.px(NEAR_PX) else -1)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._dragged_from = None

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        self.show_all()

    def leaveEvent(self, event: QEvent) -> None:
        self._take(-1)

    def focusOutEvent(self, event: QFocusEvent) -> None:
        self._take(-1)
        super().focusOutEvent(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = Qt.Key(event.key())
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            self.read_next(-1 if key == Qt.Key.Key_Left else 1)
        elif key in (Qt.Key.Key_Plus, Qt.Key.Key_Equal):
            self.stretch.zoom(STEP)
        elif key == Qt.Key.Key_Minus:
            self.stretch.zoom(1 / STEP)
        elif key == Qt.Key.Key_Home:
            self.stretch.whole()
        else:
            super().keyPressEvent(event)
            return
        self.update()

    def _take(self, index: int) -> None:
        if index != self._in_hand:
            self._in_hand = index
            self.setAccessibleDescription(". ".join(filter(None, (self.read_off, self._said))))
            self.update()
