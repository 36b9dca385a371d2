"""The arm's-length view: the step in hand filling the screen, worked by pedal and arrows alone."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QPainter, QPaintEvent, QResizeEvent, QShowEvent
from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from candor.core.quantities.show import trimmed
from candor.core.severity import Severity
from candor.desktop.bench.clock import Clock
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.place import PlaceInHand
from candor.desktop.bench.reading_in_hand import Hand
from candor.desktop.bench.voice import Voice
from candor.desktop.frame.speech import Speech
from candor.desktop.frame.theme import Theme, label, retint
from candor.desktop.stops.calibrate.readout import place_words, reference_text, shown_value
from candor.desktop.stops.calibrate.waiting import StepCard
from candor.desktop.widgets.caution import Caution
from candor.desktop.widgets.controls import line
from candor.desktop.widgets.elided import Elided
from candor.desktop.widgets.glyphs import Glyph
from candor.desktop.widgets.livestrip import LiveStrip
from candor.desktop.widgets.surface import Surface
from candor.desktop.widgets.warning import WarningStrip
from candor.notebook.work.barriers import barrier
from candor.packs.pack_points import face_of
from candor.packs.procedure import procedure
from candor.words.settling_words import say_settlement

PEDAL_KEYS = (Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_PageDown, Qt.Key.Key_F13)


class Progress(QWidget):
    """How much of the procedure is behind."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._share = 0.0
        self.setFixedSize(theme.px(240), theme.px(14))
        self.setAccessibleName("Progress")

    def show_share(self, share: float) -> None:
        """Show a share of 0 to 1."""
        self._share = share
        self.setAccessibleDescription(f"{100 * share:.0f} per cent")
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self._theme.colour("rule"))
        done = QRectF(QPointF(0, 0), QPointF(self.width() * self._share, self.height()))
        painter.fillRect(done, self._theme.colour("petrol"))


class ArmsLength(QWidget):
    """The view for a hand that holds a probe.

    Signals
    -------
    left()
        Back to the bench (Esc or F11).
    """

    left = Signal()

    def __init__(
        self,
        theme: Theme,
        in_hand: JobInHand,
        place: PlaceInHand,
        voice: Voice,
        clock: Clock,
        hand: Hand,
        speech: Speech,
    ) -> None:
        super().__init__()
        self.setObjectName("page")
        self._shared, self._hand, self._speech = theme, hand, speech
        self._pressed = hand.keys()
        self._in_hand, self._place, self._voice, self._clock = in_hand, place, voice, clock
        # Its own sizes: it fills whatever screen there is, whatever the text size on the bench.
        self._theme = theme = Theme(theme.mode, 1.0)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Arm's length")
        self.top = Elided(theme, "arm-soft", tint="soft")
        self.caution = Caution(theme, role="arm-soft")
        self.warning = WarningStrip(theme, "arm")
        self.live = LiveStrip(theme, "arm")
        self.title = label("", "arm-title", bold=True)
        self.do = label("", "arm-soft")
        self.surface = Surface(theme, large=True)
        self.card = StepCard(theme, in_hand=in_hand, clock=clock, hand=hand)
        self.reference_words, self.reference = label("reference", "arm-soft"), label("", "arm-title", bold=True)
        self.needle_words, self.needle = label("", "arm-soft"), label("", "arm-hand", bold=True, wrap=False)
        self.glyph, self.verdict = Glyph(theme, 28), label("", "arm", wrap=True)
        self.figures = label("", "arm-soft")
        self.next = label("", "arm")
        self.keys = label("", "arm-soft")
        self.progress = Progress(theme)
        self._build()
        hand.changed.connect(self.show_hand)
        place.changed.connect(self.show_hand)
        clock.ticked.connect(self.card.show_time)
        hand.taken.connect(self._say_verdict)
        voice.told.connect(self._show_trouble)
        self._shared.changed.connect(self._fit)

    def _build(self) -> None:
        theme = self._theme
        self._column = column = QVBoxLayout(self)
        column.setSpacing(theme.px(10))
        head = QHBoxLayout()
        head.addWidget(self.top, 5)
        head.addWidget(self.caution, 6)
        column.addLayout(head)
        column.addWidget(self.live)
        column.addWidget(self.title)
        column.addWidget(self.do)
        middle = QHBoxLayout()
        middle.setSpacing(theme.px(40))
        middle.addWidget(self.surface, 16)
        middle.addWidget(self.card, 16)
        figures = QVBoxLayout()
        figures.setSpacing(theme.px(2))
        for widget in (self.reference_words, self.reference, self.needle_words, self.needle):
            figures.addWidget(widget)
        row = QHBoxLayout()
        row.setSpacing(theme.px(12))
        row.addWidget(self.glyph)
        row.addWidget(self.verdict, 1)
        figures.addLayout(row)
        figures.addWidget(self.figures)
        figures.addStretch()
        self.side = QWidget()
        self.side.setLayout(figures)
        middle.addWidget(self.side, 10)
        column.addLayout(middle, 1)
        column.addWidget(line())
        column.addWidget(self.warning)
        column.addWidget(self.next)
        foot = QHBoxLayout()
        foot.addWidget(self.keys, 1)
        foot.addWidget(self.progress)
        column.addLayout(foot)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._fit()

    def _fit(self) -> None:
        """Scale everything with the window, as designed at 1280 x 800."""
        self._theme.mode = self._shared.mode
        self._theme.scale = max(min(self.width() / 1280, self.height() / 800), 0.4)
        self._theme.dress(self)
        self.progress.setFixedSize(self._theme.px(240), self._theme.px(14))
        margin = self._theme.px(40)
        self._column.setContentsMargins(margin, self._theme.px(24), margin, self._theme.px(24))

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self.show_hand()

    def show_hand(self) -> None:
        """Show the step in hand."""
        step, job, pack = self._hand.step, self._in_hand.job, self._in_hand.pack
        if step is None or job is None or pack is None or not self.isVisible():
            return
        steps = procedure(pack)
        index = next(i for i, s in enumerate(steps) if s.key == step.key)
        self.top.say(f"{job.name} · {step.section} · {index + 1} of {len(steps)}")
        bar = barrier(job, self._in_hand.parts())
        cautions = self._hand.cautions()
        self.caution.say(f"barred: {bar.short}" if bar else cautions[0].short if cautions else "")
        point = step.point
        applies = point is not None and step.kind == "point" and self._hand.draft.read_as(point).has_friction
        changed = f"Set {step.set_words}. " if step.changes else ""
        self.title.setText(
            changed + (f"{point.range_name} range. Apply {point.applied}." if point and applies else step.title)
        )
        # A danger in full; the first of the others stands above, in short, the rest here: across the bench, too, all are said.
        danger = cautions[0].text if cautions and cautions[0].level == "danger" else ""
        more = " ".join(f"{c.short}." for c in cautions[1:])
        said = danger, more, "" if danger or applies else self._hand.words(set_first=False)
        self.do.setText(" ".join(filter(None, said)))
        retint(self.do, "brick" if danger or more else "soft")
        self.do.setVisible(bool(danger or more) or not applies)
        for widget in (self.surface, self.side):
            widget.setVisible(point is not None)
        self.card.setVisible(point is None)
        self.card.show_step()
        self.next.setText(f"then: {steps[index + 1].title}." if index + 1 < len(steps) else "then: nothing more.")
        self.progress.show_share((index + 1) / len(steps))
        linked = "V apply it     " if self._hand.source_link else "C meter shows it     "
        self.keys.setText(
            "pedal or Space take it, go on     ← → a tick     N next figure     M on the mark     "
            f"{linked}↑ ↓ step     Backspace strike     Esc back"
        )
        if point is not None:
            self._show_point()

    def _show_point(self) -> None:
        step, pack = self._hand.step, self._in_hand.pack
        if step is None or step.point is None or pack is None:
            return
        point, shown, hand = step.point, self._hand.shown_needle, self._hand
        kind = hand.draft.read_as(point)
        self.surface.show_reading(point, hand.drawn(), face_of(pack, point))
        self.surface.current.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        beside = kind.compares == "reference" and point.needs_reference
        for widget in (self.reference_words, self.reference):
            widget.setVisible(beside)
        self.reference.setText(reference_text(hand.reference if hand.expected else 0.0, hand.read_unit))
        how = hand.reference_from or ("not applied: V" if hand.source_link else "not read")
        self.reference_words.setText(f"reference, {how}")
        retint(self.reference, "" if hand.reference_from else "faint")
        self.needle.setText(shown_value(point, hand.expected if shown is None else shown))
        retint(self.needle, "faint" if shown is None else "")
        self.needle_words.setText(f"{place_words(hand, point)}{'' if hand.moved or shown is None else ', taken'}")
        result = self._hand.result()
        self.glyph.setVisible(result is not None)
        self.verdict.setText("")
        self.figures.setText("")
        if result is not None:
            self.glyph.show_outcome(result.verdict.outcome)
            word = result.word
            self.verdict.setText(f"{word}, if taken" if self._hand.moved else word)
            why = (
                f"\n{say_settlement(result.settlement, result.unit)}"
                if result.settlement
                else f"\n{result.remark}"
                if result.remark
                else ""
            )
            self.figures.setText(f"{result.shown}, limit {result.limit_shown}{why}")

    def _say_verdict(self) -> None:
        result = self._hand.result()
        if self.isVisible() and result is not None:
            self._speech.say(f"{result.seen or trimmed(result.indicated, 4)}, {result.word}")

    def _show_trouble(self, sentence: str, severity: Severity) -> None:
        if self.isVisible() and severity in (Severity.REFUSED, Severity.ASK):
            self.next.setText(sentence)
            self._speech.say(sentence)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = Qt.Key(event.key())
        if key in PEDAL_KEYS:
            self._hand.press()
        elif key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            size = 0.5 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1.0
            size = 0.2 if event.modifiers() & Qt.KeyboardModifier.ControlModifier else size
            self._hand.nudge(size if key == Qt.Key.Key_Right else -size)
        elif key in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            self._place.go_along(1 if key == Qt.Key.Key_Down else -1)
        elif key == Qt.Key.Key_Backspace:
            self._hand.back()
        elif key in self._pressed:
            self._pressed[key]()
        elif key == Qt.Key.Key_S:
            self._voice.say(self._speech.toggle())
        elif key == Qt.Key.Key_Escape and self._hand.can_stop:
            self._hand.stop()
        elif key in (Qt.Key.Key_Escape, Qt.Key.Key_F11):
            self.left.emit()
        else:
            super().keyPressEvent(event)
