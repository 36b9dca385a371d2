"""The outcomes of a look, one below the other: which was seen, and by what it is judged."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QMouseEvent, QPaintEvent

from candor.core.reading.indicators import Outcomes
from candor.desktop.frame.local_numbers import local
from candor.desktop.widgets.card import begin_card, caption_height, draw_caption
from candor.desktop.widgets.drawn import Drawing
from candor.desktop.widgets.glyphs import draw_glyph


class Looks(Drawing):
    """Named outcomes to choose from."""

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = begin_card(self, self._theme)
        point, state = self._point, self._state
        if point is None or state is None or not isinstance(point.indicator, Outcomes):
            return
        theme, outcomes = self._theme, point.indicator
        seen = -1 if state.indicated is None else int(state.indicated)
        painter.setFont(theme.font("arm" if self._large else "reading"))
        for place, word in enumerate(outcomes.words):
            row = self._row(place)
            if place == seen:
                painter.fillRect(row, theme.colour("inside"))
            shape = ("full" if word in outcomes.passes else "cross") if place == seen else "ring"
            draw_glyph(
                painter,
                theme,
                shape,
                QPointF(row.left() + theme.px(26), row.center().y()),
                theme.px(10 if self._large else 7),
            )
            painter.setPen(theme.colour("ink"))
            text = row.adjusted(theme.px(50), 0, -theme.px(10), 0)
            painter.drawText(text, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, local(word))
        words = f"judged by: {outcomes.criterion}" if outcomes.criterion else point.range_name
        draw_caption(painter, self, theme, self._large, words, "← → choose")

    def _row(self, place: int) -> QRectF:
        count = len(self._point.indicator.words) if self._point and isinstance(self._point.indicator, Outcomes) else 1
        top = self._theme.px(12)
        room = self.height() - caption_height(self._theme, self._large) - 2 * top
        height = min(room / count, self._theme.px(64 if self._large else 40))
        return QRectF(0, top + place * height, self.width(), height)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus(Qt.FocusReason.MouseFocusReason)
        count = len(self._point.indicator.words) if self._point and isinstance(self._point.indicator, Outcomes) else 0
        for place in range(count):
            if self._row(place).contains(event.position()):
                self.chosen.emit(place)
