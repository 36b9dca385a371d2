"""A cold start as it was calculated: the highest and lowest of every cycle of the first seconds, and what capacitors bear."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QWidget

from candor.core.circuit.time_steps import Envelope
from candor.core.quantities.show import trimmed
from candor.desktop.frame.local_numbers import local
from candor.desktop.frame.theme import Theme

RAIL_NODES = ("k", "n")  # what a typed supply calls the nodes of its capacitors begins so


class EnvelopeCurve(QWidget):
    """Volts of the rails over the seconds of a cold start."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._envelope: Envelope | None = None
        self._ratings: tuple[tuple[str, float], ...] = ()
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("Rails from cold with nothing drawn, at +10 % line")

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(240), self._theme.px(150))

    def show_envelope(self, envelope: Envelope | None, ratings: tuple[tuple[str, float], ...]) -> None:
        """Show a run, and what each capacitor is rated for, V."""
        of_volts: dict[float, list[str]] = {}
        for name, volts in ratings:  # one line for those that are rated alike
            of_volts.setdefault(volts, []).append(name)
        self._envelope = envelope
        self._ratings = tuple((f"{', '.join(names)} {volts:.0f}", volts) for volts, names in of_volts.items())
        self.setVisible(envelope is not None)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        envelope, theme = self._envelope, self._theme
        if envelope is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        widest = max([theme.width_of(words, "note") for words, _ in self._ratings], default=0)
        left = max(widest + theme.px(10), theme.px(54))
        box = QRectF(left, theme.px(8), self.width() - left - theme.px(16), self.height() - theme.px(30))
        columns = [i for i, n in enumerate(envelope.nodes) if n.startswith(RAIL_NODES)]
        top = 1.1 * max([float(envelope.high[:, columns].max()), *(volts for _, volts in self._ratings)])
        end = _shown_s(envelope, columns)

        def at(seconds: float, volts: float) -> QPointF:
            return QPointF(box.left() + box.width() * seconds / end, box.bottom() - box.height() * volts / top)

        painter.setFont(theme.font("note"))
        painter.setPen(QPen(theme.colour("rule"), 1))
        painter.drawLine(at(0, 0), at(end, 0))
        painter.setPen(theme.colour("soft"))
        below = QRectF(box.left(), box.bottom() + theme.px(4), box.width(), theme.px(16))
        painter.drawText(below, Qt.AlignmentFlag.AlignLeft, "cold, nothing drawn, +10 % line")
        painter.drawText(below, Qt.AlignmentFlag.AlignRight, local(f"{trimmed(end, 3)} s"))
        for words, volts in self._ratings:
            y = at(0, volts).y()
            painter.setPen(QPen(theme.colour("brick"), 1.2, Qt.PenStyle.DashLine))
            painter.drawLine(QPointF(box.left(), y), QPointF(box.right(), y))
            painter.setPen(theme.colour("brick"))
            place = QRectF(0, y - theme.px(8), box.left() - theme.px(5), theme.px(16))
            painter.drawText(place, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, local(words))
        painter.setPen(QPen(theme.colour("petrol"), 1.8))
        for column in columns:
            painter.setClipRect(box.adjusted(-1, -4, 1, 4))
            painter.drawPolyline(
                QPolygonF([at(t, v) for t, v in zip(envelope.at_s, envelope.high[:, column], strict=True)])
            )


def _shown_s(envelope: Envelope, columns: list[int]) -> float:
    """How much of it is shown, s: three times what the slowest rail takes to near its end, and all of a short one."""
    high = envelope.high[:, columns]
    near = (high >= 0.98 * high[-1]).all(1)
    return (
        float(min(3 * envelope.at_s[int(near.argmax())], envelope.at_s[-1]))
        if near.any()
        else float(envelope.at_s[-1])
    )
