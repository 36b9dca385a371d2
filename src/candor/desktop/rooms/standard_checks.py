"""Checks of one standard against another: their chart, out of service and back, and what hangs on the last good one."""

from __future__ import annotations

import datetime as dt

from PySide6.QtCore import QPointF, QSize, Qt, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QComboBox, QLineEdit, QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.core.quantities import engineering
from candor.core.severity import Severity
from candor.desktop.bench.clock import Clock
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.local_numbers import in_field, local
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.worker import Work
from candor.notebook.standards.compared import comparison
from candor.notebook.standards.standards import Check, HangsOn, Standard
from candor.sitting.commands import shop_commands

TOP = 2.0  # E_n shown either side of zero; what is beyond stands at the edge


class CheckChart(QWidget):
    """E_n of every check in order, between its limits of one."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._checks: tuple[Check, ...] = ()
        self.setAccessibleName("Checks against other standards")

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(240), self._theme.px(84))

    def show_checks(self, checks: tuple[Check, ...]) -> None:
        """Show checks, the oldest on the left."""
        self._checks = checks
        last = f"; the last one {'agrees' if checks[-1].agrees else 'does not agree'}" if checks else ""
        self.setAccessibleDescription(f"{len(checks)} checks{last}")
        self.setVisible(bool(checks))
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter, theme = QPainter(self), self._theme
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        left, right = theme.px(44), self.width() - theme.px(60)
        middle, half = self.height() / 2, self.height() / 2 - theme.px(8)

        def y(number: float) -> float:
            return middle - half * min(max(number / TOP, -1.0), 1.0)

        painter.setFont(theme.font("note"))
        for number, words in ((1.0, "E_n +1"), (0.0, "0"), (-1.0, "−1")):
            painter.setPen(QPen(theme.colour("rule"), 1, Qt.PenStyle.SolidLine if number else Qt.PenStyle.DotLine))
            painter.drawLine(QPointF(left, y(number)), QPointF(right, y(number)))
            painter.setPen(theme.colour("soft"))
            painter.drawText(QPointF(0, y(number) + theme.px(4)), local(words))
        step = (right - left) / max(len(self._checks), 1)
        for index, check in enumerate(self._checks):
            spot = QPointF(left + step * (index + 0.5), y(check.number))
            painter.setPen(QPen(theme.colour("petrol" if check.agrees else "brick"), 2))
            painter.setBrush(theme.colour("petrol") if check.agrees else Qt.BrushStyle.NoBrush)
            size = theme.px(4)
            if check.agrees:
                painter.drawEllipse(spot, size, size)
            else:  # a square, so that the colour is not all
                painter.drawRect(int(spot.x() - size), int(spot.y() - size), 2 * size, 2 * size)
        if self._checks:
            painter.setPen(theme.colour("soft"))
            painter.drawText(
                QPointF(right + theme.px(6), middle + theme.px(4)), local(f"{self._checks[-1].entry.at:%d %b %y}")
            )


class StandardChecks(QWidget):
    """What is under a standard: its checks, and whether it is in service.

    Signals
    -------
    written()
        Something about the standard was written.
    counted()
        What was read by it is known.
    """

    written = Signal()
    counted = Signal()

    def __init__(self, theme: Theme, *, writer: Writer, voice: Voice, shop: Shop, clock: Clock) -> None:
        super().__init__()
        self._writer, self._voice, self._shop, self._clock = writer, voice, shop, clock
        self._standard: Standard | None = None
        self.chart = CheckChart(theme)
        self.against = QComboBox()
        self.against.setAccessibleName("Checked against")
        self.against.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToContents)
        self.shown, self.reference = QLineEdit(), QLineEdit()
        for edit, name, hint in (
            (self.shown, "What this one shows", "this one shows, 10.0004 V"),
            (self.reference, "What the other shows", "the other shows, 10.0001 V"),
        ):
            edit.setAccessibleName(name)
            edit.setPlaceholderText(in_field(hint))
        self.check = button("Note the check", "Both of one thing, one after the other")
        self.reason = QLineEdit()
        self.reason.setAccessibleName("Why it is out of service")
        self.reason.setPlaceholderText("why you take it out of service")
        self.back = QLineEdit()
        self.back.setAccessibleName("Expected back")
        self.back.setPlaceholderText(in_field("expected back, Friday"))
        self.withdraw = button("Out of service", "It is not used for new readings; Candor lists what depends on it")
        column = QVBoxLayout(self)
        column.setContentsMargins(0, theme.px(4), 0, 0)
        column.setSpacing(theme.px(5))
        column.addWidget(label("Checks against another standard", "soft"))
        column.addWidget(self.chart)
        for widgets in (
            (self.against, self.shown, self.reference, self.check),
            (self.reason, self.back, self.withdraw),
        ):
            column.addLayout(flow(theme.px(8), *widgets))
        self._fit(theme)
        theme.changed.connect(lambda: self._fit(theme))
        self.work = Work(self)
        self.work.answered.connect(self._counted)
        self.work.failed.connect(voice.refuse)
        self._hangs: tuple[object, dt.date | None, tuple[HangsOn, ...]] | None = None
        self._looked_for: object = None
        self.check.clicked.connect(self._note)
        self.withdraw.clicked.connect(self._withdraw)

    def _fit(self, theme: Theme) -> None:
        for edit in (self.shown, self.reference, self.reason, self.back):
            edit.setFixedWidth(theme.px(170))

    def show_standard(self, standard: Standard | None) -> None:
        """Show what is known of a standard; nothing while a new one is written."""
        self._standard = standard
        self.setVisible(standard is not None)
        if standard is None:
            return
        self.chart.show_checks(self._shop.checks(standard.body.key))
        self.against.clear()
        for other in self._shop.standards.values():
            if other.current and other.body.key != standard.body.key and not other.fault:
                self.against.addItem(other.name, other.entry.id)
        self.check.setEnabled(self.against.count() > 0)
        out = bool(standard.withdrawn)
        self.withdraw.setText("Back in service" if out else "Out of service")
        for edit in (self.reason, self.back):
            edit.setVisible(not out)
        for edit in (self.shown, self.reference, self.reason, self.back):
            edit.clear()

    def words(self) -> list[str]:
        """Say what hangs on the standard: what waits for it, and what was read by it since its last good check."""
        standard = self._standard
        if standard is None:
            return []
        said = [check_words(c) for c in self._shop.checks(standard.body.key)[-1:]]
        jobs = self._shop.read_against(standard.body.key)
        said += [f"Read against it now: {', '.join(jobs)}."] if jobs else []
        asked = (standard.body.key, self._shop.revision)
        if self._hangs is None or self._hangs[0] != asked:
            if self._looked_for != asked:
                self._looked_for, shop = (
                    asked,
                    self._shop,
                )  # every reading of the notebook is looked through, beside the window
                self.work.start(lambda _: (asked, *shop.since_last_good(asked[0])))
            return [*said, "Looking for what was read by it …"]
        _, last, hangs = self._hangs
        since = f"since {last.isoformat()}, its last good check" if last else "ever: it has no good check"
        if not hangs:
            return [*said, f"No reading was taken by it {since}."]
        names = self._shop.job_names()
        by_job: dict[str, int] = {}
        for one in hangs:
            by_job[names.get(one.job, one.job)] = by_job.get(names.get(one.job, one.job), 0) + 1
        listed = "; ".join(f"{job}: {count}" for job, count in by_job.items())
        return [*said, f"{len(hangs)} readings were taken by it {since}: {listed}."]

    def _counted(self, answer: object) -> None:
        if isinstance(answer, tuple):
            self._hangs = answer
            self.counted.emit()

    def _note(self) -> None:
        standard = self._standard
        other = self._shop.standards.get(str(self.against.currentData()))
        if standard is None or other is None:
            return
        try:
            body = comparison(standard, other, self.shown.text(), self.reference.text(), self._clock.now().date())
        except CandorError as error:
            self._voice.refuse(str(error))
            return
        if self._writer.do(shop_commands.compare_standard(body)):
            last = self._shop.checks(standard.body.key)[-1]
            self._voice.say(check_words(last), Severity.DONE if last.agrees else Severity.ASK)
            self.written.emit()

    def _withdraw(self) -> None:
        standard, reason = self._standard, self.reason.text().strip()
        if standard is None:
            return
        if not standard.withdrawn and not reason:
            self._voice.refuse("A reason is needed to take a standard out of service; nothing was written.")
            return
        kept = "" if standard.withdrawn else reason
        try:
            asked = shop_commands.withdraw_standard(
                standard.body.key, kept, self.back.text(), self._clock.now().date()
            )
        except CandorError as error:
            self._voice.refuse(str(error))
            return
        if self._writer.do(asked):
            self.written.emit()


def check_words(check: Check) -> str:
    """Say what a check found."""
    body = check.entry.body
    verdict = (
        "they agree"
        if check.agrees
        else "the two results disagree: find out which one is wrong, and take it out of service"
    )
    return (
        f"Last check, {check.entry.at:%Y-%m-%d}: {engineering(check.difference, body.unit, 2)} apart, E_n "
        f"{check.number:.2f}, {verdict}."
    )
