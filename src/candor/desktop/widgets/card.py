"""The card that every drawing stands on, and the line of words at its foot."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPainterPath, QPen
from PySide6.QtWidgets import QWidget

from candor.desktop.frame.local_numbers import local
from candor.desktop.frame.theme import Theme


def begin_card(widget: QWidget, theme: Theme) -> QPainter:
    """Return a painter on a card the size of a widget, clipped to it."""
    painter = QPainter(widget)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    card = QRectF(0.5, 0.5, widget.width() - 1, widget.height() - 1)
    focus = widget.hasFocus()
    painter.setPen(QPen(theme.colour("petrol" if focus else "rule"), 1.5 if focus else 1.2))
    painter.setBrush(theme.colour("dial"))
    painter.drawRoundedRect(card, theme.px(10), theme.px(10))
    clip = QPainterPath()
    clip.addRoundedRect(card, theme.px(10), theme.px(10))
    painter.setClipPath(clip)
    return painter


def caption_height(theme: Theme, large: bool) -> int:
    """Return the height of the line of words at the foot of a card, px."""
    return theme.px(42 if large else 28)


def draw_caption(painter: QPainter, widget: QWidget, theme: Theme, large: bool, words: str, keys: str) -> None:
    """Write what stands at the foot of a card; the keys give way where there is no room, or nothing to move."""
    height = caption_height(theme, large)
    band = QRectF(0, widget.height() - height, widget.width(), height)
    painter.fillRect(band, theme.colour("panel"))
    painter.setFont(theme.font("arm-soft" if large else "note"))
    painter.setPen(theme.colour("soft"))
    inner = band.adjusted(theme.px(14), 0, -theme.px(14), 0)
    metrics = painter.fontMetrics()
    shown = metrics.elidedText(words, Qt.TextElideMode.ElideRight, int(inner.width()))
    painter.drawText(inner, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, local(shown))
    if widget.isEnabled() and metrics.horizontalAdvance(words + keys) + theme.px(20) < inner.width():
        painter.drawText(inner, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, local(keys))


def draw_note(painter: QPainter, theme: Theme, place: QPointF, words: str, inside: QRectF) -> None:
    """Write what is read off at a place, above it where there is room, within the width of a plot."""
    painter.setFont(theme.font("note"))
    metrics = painter.fontMetrics()
    wide, high = metrics.horizontalAdvance(words) + theme.px(14), metrics.height() + theme.px(6)
    left = min(max(place.x() - wide / 2, inside.left()), max(inside.right() - wide, inside.left()))
    above = place.y() - theme.px(14) - high
    box = QRectF(left, above if above > theme.px(2) else place.y() + theme.px(14), wide, high)
    painter.fillRect(box, theme.colour("panel"))
    painter.setPen(QPen(theme.colour("rule"), 1))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawRect(box)
    painter.setPen(theme.colour("ink"))
    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, local(words))
