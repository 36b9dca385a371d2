"""A photo with pins: looked at closely by wheel and drag, marked by a click or by the arrow keys."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QSizePolicy, QWidget

from candor.desktop.frame.local_numbers import local
from candor.desktop.frame.theme import Theme

CLOSEST = 12.0  # times the size at which all of it is seen
STEP = 0.8
NEAR_PX = 16  # from a pin, within which a click is meant for it
NUDGE, FINE = 0.01, 0.002  # of its width and height, that an arrow key moves the mark by
DRAG_PX = 4  # a press that moved by less is a click


class Pin(NamedTuple):
    """A mark: its name, and where it stands, as shares of width and height."""

    name: str
    x: float
    y: float


class PinBoard(QWidget):
    """One photo.

    Signals
    -------
    placed(float, float)
        A place was clicked, or confirmed by Enter: shares of width and height.
    chosen(str)
        A pin was clicked, while nothing is to be marked.
    """

    placed = Signal(float, float)
    chosen = Signal(str)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._image, self._pins, self._in_hand = QImage(), tuple[Pin, ...](), ""
        self._line: tuple[tuple[float, float], ...] = ()
        self._scale, self._middle = 1.0, QPointF(0.5, 0.5)
        self._pressed: QPointF | None = None
        self._moved = False
        self._mark: QPointF | None = None  # where the keys would place it
        self.marking = False
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("Photo with places")
        self.setToolTip("Wheel: closer. Drag: along it. Double-click: all of it. Arrow keys and Enter mark a place")

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(560), self._theme.px(320))

    def minimumSizeHint(self) -> QSize:
        return QSize(self._theme.px(220), self._theme.px(150))

    def show_photo(self, image: QImage) -> None:
        """Show another photo, whole."""
        self._image, self._mark = image, None
        self.show_all()

    def show_pins(self, pins: Sequence[Pin], in_hand: str) -> None:
        """Show the pins; that in hand is ringed, and brought into sight."""
        self._pins, self._in_hand = tuple(pins), in_hand
        own = next((p for p in self._pins if p.name.casefold() == in_hand.casefold()), None)
        if own is not None and self._scale > 1 and not self._box().contains(self._at(own.x, own.y)):
            self._middle = QPointF(own.x, own.y)
        self.setAccessibleDescription(
            f"{len(self._pins)} marked; {f'{own.name} is one of them' if own else 'none in hand'}"
        )
        self.update()

    def show_line(self, line: Sequence[tuple[float, float]]) -> None:
        """Draw a line over the photo: places as shares of width and height."""
        self._line = tuple(line)
        self.update()

    def show_all(self) -> None:
        """Show all of the photo."""
        self._scale, self._middle = 1.0, QPointF(0.5, 0.5)
        self.update()

    # --- geometry -------------------------------------------------------------------------------------

    def _box(self) -> QRectF:
        return QRectF(0, 0, self.width(), self.height())

    def _picture(self) -> QRectF:
        """Where the whole photo would stand, px."""
        if self._image.isNull():
            return QRectF()
        size = self._image.size()
        fit = min(self.width() / size.width(), self.height() / size.height()) * self._scale
        wide, high = size.width() * fit, size.height() * fit
        return QRectF(
            self.width() / 2 - self._middle.x() * wide, self.height() / 2 - self._middle.y() * high, wide, high
        )

    def _at(self, x: float, y: float) -> QPointF:
        box = self._picture()
        return QPointF(box.left() + x * box.width(), box.top() + y * box.height())

    def _shares(self, place: QPointF) -> QPointF | None:
        box = self._picture()
        if box.isEmpty() or not box.contains(place):
            return None
        return QPointF((place.x() - box.left()) / box.width(), (place.y() - box.top()) / box.height())

    def _keep_inside(self) -> None:
        """No farther along than the photo reaches."""
        box = self._picture()
        for wide, own, name in ((box.width(), self.width(), "x"), (box.height(), self.height(), "y")):
            half = min(own / 2 / wide, 0.5) if wide else 0.5
            now = self._middle.x() if name == "x" else self._middle.y()
            kept = min(max(now, half), 1 - half)
            (self._middle.setX if name == "x" else self._middle.setY)(kept)

    # --- input ----------------------------------------------------------------------------------------

    def zoom(self, factor: float, about: QPointF) -> None:
        """Look closer, or from farther; what stands at a place stays there."""
        before = self._shares(about)
        self._scale = min(max(self._scale * factor, 1.0), CLOSEST)
        if before is not None:
            box = self._picture()
            moved = self._at(before.x(), before.y()) - about
            self._middle += QPointF(moved.x() / box.width(), moved.y() / box.height())
        self._keep_inside()
        self.update()

    def wheelEvent(self, event: QWheelEvent) -> None:
        self.zoom(STEP ** (-event.angleDelta().y() / 120), event.position())
        event.accept()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._pressed, self._moved = event.position(), False

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._pressed is None:
            return
        by = event.position() - self._pressed
        if not self._moved and by.manhattanLength() < DRAG_PX:
            return
        self._moved, self._pressed = True, event.position()
        box = self._picture()
        if not box.isEmpty():
            self._middle -= QPointF(by.x() / box.width(), by.y() / box.height())
            self._keep_inside()
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        clicked, self._pressed = self._pressed is not None and not self._moved, None
        if not clicked or event.button() != Qt.MouseButton.LeftButton:
            return
        shares = self._shares(event.position())
        if self.marking and shares is not None:
            self.placed.emit(shares.x(), shares.y())
            return
        near = [((self._at(p.x, p.y) - event.position()).manhattanLength(), p.name) for p in self._pins]
        distance, name = min(near, default=(1e9, ""))
        if distance <= self._theme.px(NEAR_PX):
            self.chosen.emit(name)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        self.show_all()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = Qt.Key(event.key())
        by = {
            Qt.Key.Key_Left: (-1, 0),
            Qt.Key.Key_Right: (1, 0),
            Qt.Key.Key_Up: (0, -1),
            Qt.Key.Key_Down: (0, 1),
        }.get(key)
        if by is not None and self.marking and not self._image.isNull():
            own = next(
                (QPointF(p.x, p.y) for p in self._pins if p.name.casefold() == self._in_hand.casefold()),
                QPointF(self._middle),
            )
            mark = self._mark or own
            step = FINE if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else NUDGE
            self._mark = QPointF(min(max(mark.x() + by[0] * step, 0), 1), min(max(mark.y() + by[1] * step, 0), 1))
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.marking and self._mark is not None:
            mark, self._mark = self._mark, None
            self.placed.emit(mark.x(), mark.y())
        elif key in (Qt.Key.Key_Plus, Qt.Key.Key_Equal):
            self.zoom(1 / STEP, self._box().center())
        elif key == Qt.Key.Key_Minus:
            self.zoom(STEP, self._box().center())
        elif key == Qt.Key.Key_Home:
            self.show_all()
        else:
            super().keyPressEvent(event)
            return
        self.update()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._keep_inside()

    # --- painting -------------------------------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent) -> None:
        painter, theme = QPainter(self), self._theme
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        painter.fillRect(self.rect(), theme.colour("dial"))
        if self._image.isNull():
            painter.setPen(theme.colour("soft"))
            painter.setFont(theme.font("soft"))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, "no photo yet")
        else:
            painter.drawImage(self._picture(), self._image)
        if self._line:
            along = QPolygonF([self._at(x, y) for x, y in self._line])
            for colour, width in ((QColor(0, 0, 0, 150), 4), (theme.colour("brass"), 2)):
                painter.setPen(QPen(colour, theme.px(width)))
                painter.drawPolyline(along)
        for pin in self._pins:
            in_hand = bool(pin.name) and pin.name.casefold() == self._in_hand.casefold()
            draw_pin(painter, theme, self._at(pin.x, pin.y), pin.name, in_hand)
        if self._mark is not None:
            place = self._at(self._mark.x(), self._mark.y())
            painter.setPen(QPen(theme.colour("brass"), theme.px(2)))
            for far in (QPointF(theme.px(14), 0), QPointF(0, theme.px(14))):
                painter.drawLine(place - far, place + far)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(theme.colour("petrol" if self.hasFocus() else "rule"), 1.4))
        painter.drawRect(self.rect().adjusted(0, 0, -1, -1))


def draw_pin(painter: QPainter, theme: Theme, place: QPointF, name: str, in_hand: bool) -> None:
    """Draw one pin with its name on a ground of its own: it is read on any photo."""
    radius = theme.px(9 if in_hand else 5)
    painter.setPen(QPen(QColor(0, 0, 0, 170), theme.px(4)))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawEllipse(place, radius, radius)
    painter.setPen(QPen(theme.colour("brass") if in_hand else QColor(255, 255, 255), theme.px(2)))
    painter.drawEllipse(place, radius, radius)
    if not name:
        return
    painter.setFont(theme.font("note", in_hand))
    metrics = painter.fontMetrics()
    box = QRectF(
        place.x() + radius + theme.px(3),
        place.y() - metrics.height() / 2,
        metrics.horizontalAdvance(name) + theme.px(8),
        metrics.height(),
    )
    painter.fillRect(box, theme.colour("panel"))
    painter.setPen(theme.colour("ink"))
    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, local(name))
