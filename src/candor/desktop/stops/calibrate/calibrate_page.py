"""Calibrate: the procedure with its place, the dial, the ribbon, and the reading in hand."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent, QResizeEvent
from PySide6.QtWidgets import QApplication, QComboBox, QHBoxLayout, QLineEdit, QStackedWidget, QVBoxLayout, QWidget

from candor.desktop.bench.clock import Clock
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.place import PlaceInHand
from candor.desktop.bench.reading_in_hand import Hand
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.chart_menu import ChartMenu
from candor.desktop.frame.page import Page
from candor.desktop.frame.theme import Theme, label
from candor.desktop.stops.calibrate.barred import Barred
from candor.desktop.stops.calibrate.beside import Beside
from candor.desktop.stops.calibrate.point_explained import button_words, explain_step
from candor.desktop.stops.calibrate.rangeform import RangeForm
from candor.desktop.stops.calibrate.readout import Readout
from candor.desktop.stops.calibrate.step_foot import StepFoot
from candor.desktop.stops.calibrate.steps_panel import current_row, step_rows
from candor.desktop.stops.calibrate.waiting import StepCard
from candor.desktop.widgets.caution import Caution
from candor.desktop.widgets.controls import Column, button, line, shortcut
from candor.desktop.widgets.drawn import Drawing
from candor.desktop.widgets.error_ribbon import Ribbon
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.row_list import RowList
from candor.desktop.widgets.surface import Surface
from candor.notebook.store import Notebook
from candor.notebook.work.assessment import step_state
from candor.packs.pack_points import face_of
from candor.packs.procedure import ProcedureStep, point_step
from candor.sitting.commands import calibrate_commands

FORM = 2  # of what stands in the middle: the fields of a range
DIAL_SHARE = 0.4  # of the page's height; the ribbon has what the words leave


class CalibratePage(Page):
    """The stop where readings are taken.

    Signals
    -------
    jotBegun(str)
        Something was typed that belongs to the jot line.
    armsLength()
    importAsked(), pasted(), powerAsked()
        Readings are to come from a file, or from the clipboard.
    standardsAsked()
    """

    jotBegun = Signal(str)
    armsLength = Signal()
    importAsked = Signal()
    pasted = Signal()
    powerAsked = Signal()
    standardsAsked = Signal()

    def __init__(
        self, theme: Theme, in_hand: JobInHand, place: PlaceInHand, writer: Writer, voice: Voice, shop: Shop, clock: Clock,
        hand: Hand, notebook: Notebook,
    ) -> None:  # fmt: skip
        super().__init__()
        self._theme, self._hand, self._clock = theme, hand, clock
        self._in_hand, self._place, self._writer, self._voice, self._shop = in_hand, place, writer, voice, shop
        self._function, self._pressed = "", hand.keys()
        self.steps = RowList(theme, "Steps of the procedure")
        self.title, self.do, self.aim = label("", "heading", bold=True), label("", "text"), label("", "soft")
        self.caution = Caution(theme)
        self.surface, self.ribbon = Surface(theme), Ribbon(theme)
        self.chart_menu = ChartMenu(self.ribbon, "errors", voice)
        beside = Beside(theme, in_hand=in_hand, writer=writer, voice=voice, notebook=notebook, hand=hand)
        self.readout = Readout(theme, in_hand=in_hand, shop=shop, clock=clock, hand=hand, beside=beside)
        self.card = StepCard(theme, in_hand=in_hand, clock=clock, hand=hand)
        self.range_form = RangeForm(theme, in_hand=in_hand, place=place, writer=writer, voice=voice)
        self.run_title, self.run_words = label("All ranges", "text", bold=True, wrap=False), label("", "soft")
        self._build_actions()
        self._build()
        self._wire()

    def _build_actions(self) -> None:
        self.take = button("Take the reading", "Write the reading in hand", "Space", "main")
        self.again = button("Again", "Another reading at this point", "R")
        self.back = button("Back", "Put the needle back, or strike the last reading here", "Bksp")
        self.arm = button("Arm's length", "Read it from across the bench", "F11")
        self.skip = button("Skip …", "Leave this step out, with a reason")
        self.another = button("A range …", "Write down a range that the list has not")
        self._actions = (self.take, self.again, self.back, self.arm, self.skip, self.another)
        self.file = button("From a file …", "Readings from a CSV file", name="quiet")
        self.paste = button("Paste", "A table of readings: range, reading, reference (Ctrl+Shift+V)", name="quiet")
        self.reason = Field()
        self.reason.setPlaceholderText("Why is it left out? Enter keeps the reason, Esc leaves it open.")
        self.reason.setAccessibleName("Reason for leaving the step out")
        self.reason.hide()

    def _build(self) -> None:
        theme = self._theme
        outer = QHBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(0)
        outer.addWidget(self.steps)
        outer.addWidget(line(vertical=True))
        self.area = Column(theme.px(16), theme.px(6))
        column = self.area.column
        column.setContentsMargins(theme.px(18), theme.px(12), theme.px(16), theme.px(6))
        self.barred = Barred(theme, in_hand=self._in_hand)
        for widget in (self.barred, self.title, self.caution, self.do, self.aim):
            column.addWidget(widget)
        reading = QWidget()
        row = QHBoxLayout(reading)
        row.setContentsMargins(0, theme.px(4), 0, 0)
        row.setSpacing(theme.px(14))
        row.addWidget(self.surface, 1)
        row.addWidget(self.readout)
        self.middle = QStackedWidget()
        self.middle.addWidget(reading)
        self.middle.addWidget(self.card)
        self.middle.addWidget(self.range_form)
        column.addWidget(self.middle, 5)
        heading = QHBoxLayout()
        heading.setSpacing(theme.px(9))
        heading.addWidget(self.run_title, 0, Qt.AlignmentFlag.AlignBaseline)
        heading.addWidget(self.run_words, 1, Qt.AlignmentFlag.AlignBaseline)
        heading.addWidget(self.file, 0, Qt.AlignmentFlag.AlignBaseline)
        heading.addWidget(self.paste, 0, Qt.AlignmentFlag.AlignBaseline)
        column.addLayout(heading)
        column.addWidget(self.ribbon, 4)
        self.below = self.range_form.place  # has the place of the ribbon while there is none
        column.addWidget(self.below, 4)
        self.foot = StepFoot(theme, self.reason, *self._actions)
        whole = QVBoxLayout(spacing=0)  # type: ignore[call-overload]  # the stub lacks its properties
        whole.addWidget(self.area, 1)
        whole.addWidget(self.foot)
        outer.addLayout(whole, 1)
        self.resize_to_theme()

    def _wire(self) -> None:
        self._hand.changed.connect(self.show_hand)
        self._place.changed.connect(self.show_step)
        self._in_hand.changed.connect(self.show_steps)
        self._clock.ticked.connect(self.card.show_time)
        self._theme.changed.connect(self.resize_to_theme)
        self.steps.picked.connect(lambda key: self._place.go("calibrate", key))
        self.surface.nudged.connect(self._hand.nudge)
        self.surface.dragged.connect(self._hand.drag_to)
        self.surface.chosen.connect(self._hand.choose)
        self.ribbon.chosen.connect(self._go_to_point)
        self.readout.standardChosen.connect(self._choose_standard)
        self.take.clicked.connect(self._hand.press)
        self.again.clicked.connect(self._hand.again)
        self.back.clicked.connect(self._hand.back)
        self.arm.clicked.connect(self.armsLength)
        self.file.clicked.connect(self.importAsked)
        self.barred.powerAsked.connect(self.powerAsked)
        self.paste.clicked.connect(self.pasted)
        # Wherever the keyboard is: a scrolled page would eat them.
        shortcut(self, "PgDown", lambda: self._place.go_along(1))
        shortcut(self, "PgUp", lambda: self._place.go_along(-1))
        shortcut(self, "Ctrl+Shift+V", self.pasted.emit)
        self.another.clicked.connect(self.ask_range)
        self.range_form.left.connect(self.show_step)
        self.range_form.grown.connect(self._fit_middle)
        self.skip.clicked.connect(self._ask_reason)
        self.reason.returnPressed.connect(self._skip)

    def resize_to_theme(self) -> None:
        """Take the widths of the text size in force."""
        self.steps.setFixedWidth(self._theme.px(180))
        self.readout.setFixedWidth(self._theme.px(132))
        self.ribbon.setMinimumHeight(self._theme.px(94))
        self._fit_middle()

    def _fit_middle(self) -> None:
        """A dial needs its height; a check or a wait leaves it to the ribbon."""
        px = self._theme.px
        if self.middle.currentIndex() == 0:  # by the window's height alone: from point to point the dial stays
            self.middle.setFixedHeight(max(px(236), self.readout.needed_height(), round(DIAL_SHARE * self.height())))
        else:
            least = self.range_form.needed_height() if self.middle.currentIndex() == FORM else 0
            self.middle.setFixedHeight(max(px(140), least))

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._fit_middle()

    @property
    def dial(self) -> Drawing:
        """What is drawn in the middle."""
        return self.surface.current

    def enter(self) -> None:
        """Come to the stop: the keyboard is where the hands are."""
        self.show_step()
        self.take_focus()

    def narrow(self, is_narrow: bool) -> None:
        """Leave the list of steps out where the window is narrow; PgUp and PgDn walk it."""
        self.steps.setVisible(not is_narrow)

    # --- showing --------------------------------------------------------------------------------------

    def show_step(self) -> None:
        """Show the words of the step in hand and everything under them; quietly nothing while another stop is in hand."""
        step, job = self._place.step, self._in_hand.job
        if job is None or self._place.stop != "calibrate":
            return
        if step is None:
            self._show_empty()
            return
        self.reason.hide()
        self._show_actions(True)
        self.title.setText(step.title)
        self.do.setText(self._hand.words())
        self.aim.setText(f"Aim: {step.aim} Usual mistake: {step.mistake}")
        self.caution.say("".join(f" Also: {c.short}." if i else c.text for i, c in enumerate(self._hand.cautions())))
        self.middle.setCurrentIndex(0 if step.point is not None else 1)
        if step.point is not None:
            self._function = step.point.function
        self.show_steps()
        self.show_hand()
        self._fit_middle()

    def _show_form(self, title: str) -> None:
        """Show the fields of a range in place of what is read."""
        self.title.setText(title)
        self.do.setText(self._in_hand.asks_first or "Say how it is read, and what is marked on its face.")
        self.aim.setText(
            "Or type it below: range 30 V 30 div 3%fs. The range is kept; you add test points as you go."
        )
        self.caution.say("")
        self._show_actions(False)
        self.middle.setCurrentIndex(FORM)
        self.range_form.show_job()
        self._fit_middle()

    def _show_empty(self) -> None:
        """Nothing says yet how this instrument is read: its first range is asked for."""
        self._show_form("Which range is read first?")
        self.steps.show_rows((), "")
        self.barred.show_job()
        found, left = self._in_hand.found, self._in_hand.left_read
        if found is not None and left is not None:
            self.ribbon.show_runs(found, left, "", "")
        self.run_title.setText("")
        self.run_words.setText("")

    def _show_actions(self, shown: bool) -> None:
        for widget in (*self._actions, self.ribbon, self.foot):
            widget.setVisible(shown)
        job = self._in_hand.job  # a pack has its ranges; another can still be jotted
        self.another.setVisible(shown and not (job is not None and job.pack_digest))
        self.below.setVisible(not shown)

    def ask_range(self) -> None:
        """Show the fields of a range; who leaves them has the step in hand again."""
        self._show_form("A range, as it stands on the instrument")
        self.take_focus()

    def show_steps(self) -> None:
        """Show how far every step is."""
        job, pack, key = self._in_hand.job, self._in_hand.pack, self._place.step_key
        found, left = self._in_hand.found, self._in_hand.left_read
        if job is None or self._place.stop != "calibrate":
            return
        if self._place.step is None:
            self._show_empty()
            return
        if pack is None or found is None or left is None or not key:
            return
        runs = {"as found": found, "as left": left}
        rows = step_rows(
            job=job, pack=pack, states=self._in_hand.states, runs=runs, in_hand=key, now=self._clock.now()
        )
        self.steps.show_rows(rows, current_row(rows, pack, key))
        self.readout.show_standards()
        self.barred.show_job()

    def show_hand(self) -> None:
        """Show needle, reference, error, ribbon and what the main button would do."""
        step, pack = self._hand.step if self._place.stop == "calibrate" else None, self._in_hand.pack
        found, left = self._in_hand.found, self._in_hand.left_read
        if step is None or pack is None or found is None or left is None:
            return
        point = step.point
        if point is not None:
            self.surface.show_reading(point, self._hand.drawn(), face_of(pack, point))
            self.readout.show_hand()
        else:
            self.card.show_step()
        function = self._function or (found.points[0].function if found.points else "")
        self.ribbon.show_runs(found, left, point.key if point else "", function)
        self.run_title.setText(function)
        read = left if step.phase == "as left" else found
        self.run_words.setText(read.sentence)
        self._name_buttons(step)

    def _name_buttons(self, step: ProcedureStep) -> None:
        job = self._in_hand.job
        if job is None:
            return
        words = button_words(step, self._hand, job)
        self.take.setText(f"{words}  Space")
        self.take.setAccessibleName(words)
        self.again.setVisible(step.kind == "point")
        self.skip.setVisible(
            step.kind != "next" and step_state(job, step, self._clock.now(), self._in_hand.states) == "open"
        )

    def explain(self, because: Because) -> None:
        """Fill the reasons panel for the step in hand."""
        because.explained.ghost = self.ribbon.show_ghost
        explain_step(because, in_hand=self._in_hand, hand=self._hand, now=self._clock.now())

    # --- doing ----------------------------------------------------------------------------------------

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key, text = event.key(), event.text()
        hands = QApplication.focusWidget() in (None, self, self.surface.current, self.ribbon, self.take)
        if key == Qt.Key.Key_Escape and (self._hand.can_stop or self.reason.isVisible()):
            self._hand.stop()
            self.reason.hide()
            self.take_focus()
        elif isinstance(QApplication.focusWidget(), QLineEdit | QComboBox):
            # A field answers its keys itself; what it leaves is not meant for the needle.
            super().keyPressEvent(event)
        elif hands and key in (Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._hand.press()
        elif key == Qt.Key.Key_Backspace:
            self._hand.back()
        elif key in self._pressed:
            self._pressed[Qt.Key(key)]()
        elif key in (Qt.Key.Key_B, Qt.Key.Key_A):
            self._hand.turn("up" if key == Qt.Key.Key_B else "down")
        elif (
            text
            and (text.isdigit() or text in "+-−.@")
            and not event.modifiers() & Qt.KeyboardModifier.ControlModifier
        ):
            self.jotBegun.emit(text)
        else:
            super().keyPressEvent(event)

    def finish(self) -> None:
        """Stop loading pictures."""
        self.readout.beside.finish()
        self.range_form.face.finish()

    def take_focus(self) -> None:
        """Put the keyboard where the hands are: in the first field, on the dial, or on the main button."""
        step, is_form = self._place.step, self.middle.currentIndex() == FORM
        hands = self.surface.current if step is not None and step.point is not None else self.take
        (self.range_form.first if is_form else hands).setFocus()

    def _go_to_point(self, key: str) -> None:
        step, pack = self._place.step, self._in_hand.pack
        if pack is None:
            return
        phase = step.phase if step is not None and step.kind == "point" else "as found"
        target = point_step(pack, key, phase)
        if target is not None:
            self._place.go("calibrate", target.key)

    def _choose_standard(self, entry: str) -> None:
        if entry == "new":
            self.standardsAsked.emit()
            self.readout.show_standards()
        elif entry:
            self._writer.do(calibrate_commands.choose_standard(entry))

    def choose_rule(self, rule: str) -> None:
        """Take another decision rule for the job."""
        if self._in_hand.job is not None and self._in_hand.job.calibrate.rule != rule:
            self._writer.do(calibrate_commands.choose_rule(rule))

    def strike_reading(self, number: int) -> None:
        """Strike a reading by the number of its entry."""
        job = self._in_hand.job
        entry = next((e for e in job.entries if e.number == number), None) if job else None
        if entry is not None:
            self._writer.strike(entry)

    def _ask_reason(self) -> None:
        self.reason.setText("")
        self.reason.show()
        self.reason.setFocus()

    def _skip(self) -> None:
        step = self._place.step
        if step is None or not self.reason.text().strip():
            self._voice.refuse("A reason is needed to leave a step out; nothing was written.")
            return
        if self._writer.do(calibrate_commands.skip_step(step.key, self.reason.text().strip())):
            self.reason.hide()
            self._place.go_along(1)
