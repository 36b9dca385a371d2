"""The reading in hand: where the needle stands on the drawn dial before it is taken."""

from __future__ import annotations

from dataclasses import replace

from PySide6.QtCore import QObject, Signal

from candor.core.calibration.made_points import nominal_of, point_at
from candor.core.calibration.point import TestPoint
from candor.core.calibration.result import PointResult
from candor.core.calibration.run import last_read
from candor.core.errors import CandorError
from candor.core.jot import ReadingJot
from candor.core.jot.range_line import check_nominal
from candor.core.quantities import engineering, parse_quantity
from candor.core.reading.kinds import reading_of
from candor.core.reading.reading import INDICATED, Direction, Reading
from candor.core.severity import Severity
from candor.desktop.bench.clock import Clock
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.place import PlaceInHand
from candor.desktop.bench.shop import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.notebook.assessment import assess_draft
from candor.notebook.barriers import barrier
from candor.notebook.entries.calibrate import (
    AdjustmentMade,
    Means,
    ReadingTaken,
    ReferenceFrom,
    StepDone,
    TimerStarted,
)
from candor.notebook.entries.ranges import PointsPlanned
from candor.packs.procedure import ProcedureStep, point_step, points_of_range


class Hand(QObject):
    """What is about to be taken at the step in hand.

    Signals
    -------
    changed()
        Needle, reference or direction moved; nothing was written.
    taken()
        A reading was written.
    """

    changed = Signal()
    taken = Signal()

    def __init__(
        self, *, in_hand: JobInHand, place: PlaceInHand, writer: Writer, voice: Voice, shop: Shop, clock: Clock
    ) -> None:
        super().__init__()
        self._in_hand, self._place, self._writer, self._voice = in_hand, place, writer, voice
        self._shop, self._now = shop, clock.now
        self.indicated: float | None = None
        self.reference = 0.0
        self.reference_from: ReferenceFrom = ""
        self.direction: Direction = ""
        self.means: Means = "number"
        self.written = ""
        self._step_key = ""
        place.changed.connect(self._arrive)
        in_hand.changed.connect(self._arrive)
        in_hand.changed.connect(self.changed)
        self._arrive()

    @property
    def step(self) -> ProcedureStep | None:
        """The step in hand."""
        return self._place.step

    @property
    def point(self) -> TestPoint | None:
        """The test point in hand."""
        step = self.step
        return step.point if step else None

    @property
    def readings(self) -> tuple[Reading, ...]:
        """The readings that stand at this point."""
        step = self.step
        if step is None or step.point is None or step.kind != "point" or self._in_hand.job is None:
            return ()
        phase = "as left" if step.phase == "as left" else "as found"
        point = step.point
        return tuple(r.reading(point) for r in self._in_hand.states.readings(step.point.key, phase))

    @property
    def is_set(self) -> bool:
        """Whether the reference stands as it was set, a source or a fixed part; a meter must be read."""
        standard = self._in_hand.standard()
        return standard is not None and standard.body.role != "meter"

    @property
    def moved(self) -> bool:
        """Whether the needle was set since the last reading was taken."""
        return self.indicated is not None

    @property
    def expected(self) -> float:
        """Where the needle should stand: at the reference; at zero while nobody has said which further point is made."""
        unsaid = self.step is not None and self.step.kind == "next" and not self.reference_from
        return 0.0 if unsaid else self.reference

    @property
    def shown_needle(self) -> float | None:
        """Where to draw the needle: in hand, or as last read."""
        if self.indicated is not None:
            return self.indicated
        return self.readings[-1].indicated if self.readings else None

    def result(self) -> PointResult | None:
        """Return what the readings say, the one in hand included where needle and reference were read.

        Where a further point is made, that of its range that was read last.
        """
        step, job, pack = self.step_read(), self._in_hand.job, self._in_hand.pack
        if step is None or step.point is None or job is None or pack is None:
            return None
        run = self._in_hand.run(step.phase)
        if self.indicated is None or not self.reference_from:
            if step.kind == "adjust" or run is None:
                return None
            return last_read(run, step.point) if step.kind == "next" else run.results.get(step.point.key)
        draft = reading_of(step.point, {INDICATED: self.indicated}, self.reference, direction=self.direction)
        return assess_draft(job=job, pack=pack, known=self._shop.standards, step=step, draft=draft, now=self._now())

    def step_read(self) -> ProcedureStep | None:
        """Return the step that the reading in hand is of: where a further point is made, that of the point it makes."""
        step, pack = self.step, self._in_hand.pack
        read = self.indicated is not None and bool(self.reference_from)
        if step is None or step.kind != "next" or step.point is None or pack is None or not read:
            return step
        known = points_of_range(pack, step.point)
        made = point_at(step.point, nominal_of(step.point, self.indicated or 0.0, self.reference, known))
        return replace(step, kind="point", key=f"{step.key}/{made.nominal:g}", point=made)

    # --- moving ---------------------------------------------------------------------------------------

    def nudge(self, ticks: float) -> None:
        """Move the needle by so many ticks."""
        point = self.point
        if point is None:
            return
        start = self.shown_needle if self.shown_needle is not None else self.expected
        self._set(point.indicator.ticks_from(start, ticks), "ticks")

    def drag_to(self, value: float) -> None:
        """Put the needle where it was dragged."""
        self._set(value, "drag")

    def type_indicated(self, text: str) -> bool:
        """Take a typed needle value; False, with a sentence, where it cannot be."""
        point = self.point
        if point is None:
            return False
        try:
            value = parse_quantity(text, point.unit).value
            value = abs(value) if point.polarity < 0 else value
            point.indicator.check(value)
        except CandorError as error:
            self._voice.refuse(str(error))
            return False
        self.written = text
        self._set(value, "number")
        return True

    def on_the_mark(self) -> None:
        """Put the needle on the mark: said by a press of its own, never by the pedal."""
        point = self.point
        if point is not None and self.step is not None:
            self._set(self.reference if self.step.kind == "next" else point.nominal, "ticks")

    def confirm_reference(self) -> None:
        """The meter shows what stands in the field: said by a press of its own, never by the pedal."""
        if self.point is not None:
            self.reference_from = "as set" if self.is_set else "confirmed"
            self.changed.emit()

    def type_reference(self, text: str) -> bool:
        """Take a typed reference value; False, with a sentence, where it cannot be."""
        point = self.point
        if point is None:
            return False
        try:
            self.reference = point.reference_magnitude(parse_quantity(text, point.unit).value)
        except CandorError as error:
            self._voice.refuse(str(error))
            return False
        self.reference_from = "typed"
        self.changed.emit()
        return True

    def turn(self, direction: Direction) -> None:
        """Note whether the needle comes from below or from above."""
        self.direction = direction
        self.changed.emit()

    def preview(self, jot: object) -> None:
        """Let the drawn needle follow the jot line while it is typed; nothing is written."""
        if isinstance(jot, ReadingJot) and not jot.point and self.point is not None:
            if jot.indicated is not None:
                self.indicated, self.means = jot.indicated, "jot"
            if jot.reference is not None:
                self.reference, self.reference_from = jot.reference, "typed"
            self.changed.emit()
        elif self.means == "jot" and self.moved:
            self.indicated, self.means = None, "ticks"
            self.changed.emit()

    def take_jot(self, jot: ReadingJot, text: str) -> bool:
        """Take a jotted reading: a reference alone is only set, a needle value is written."""
        if jot.reference is not None:
            self.reference, self.reference_from = jot.reference, "typed"
        if jot.direction:
            self.direction = jot.direction
        if jot.indicated is None:
            self.changed.emit()
            return True
        self.indicated, self.means, self.written = jot.indicated, "jot", text
        return self.take()

    def _set(self, value: float, means: Means) -> None:
        point = self.point
        if point is None:
            return
        try:
            self.indicated = point.indicator.check(value)
        except CandorError as error:
            self._voice.refuse(str(error))
            return
        self.means = means
        self.changed.emit()

    # --- taking ---------------------------------------------------------------------------------------

    def press(self) -> None:
        """The foot switch or Space: take the reading, confirm the step, start the wait, or go on."""
        step = self.step
        if step is None or self._in_hand.job is None:
            return
        if step.kind in ("point", "adjust", "next"):
            done = bool(self.readings) if step.kind == "point" else step.key in self._in_hand.job.calibrate.done
            if done and not self.moved:
                self._place.go_along(1)
            else:
                self.take()
        elif step.kind == "wait" and self._in_hand.job.calibrate.timer_of(step.key) is None:
            self.start_wait()
        elif step.kind == "check" and step.key not in self._in_hand.job.calibrate.done:
            self.confirm()
        else:
            self._place.go_along(1)

    def barred(self) -> bool:
        """Say whether something bars the work, and why, in a sentence."""
        found = barrier(self._in_hand.job, self._in_hand.parts())
        if found is not None:
            self._voice.refuse(found.sentence)
        return found is not None

    def take(self) -> bool:
        """Write the reading in hand. What was not read, needle or meter, is asked for: nothing is taken as read."""
        step = self.step_read()
        if step is None or step.point is None or self._in_hand.job is None or self.barred():
            return False
        point = step.point
        body: AdjustmentMade | ReadingTaken
        if step.kind == "adjust":
            read = self.indicated is not None and bool(self.reference_from)
            body = AdjustmentMade(
                step=step.key, trim=step.trim, indicated=self.indicated if read else None,
                reference=self.reference if read else None,
            )  # fmt: skip
        elif self.indicated is None:
            self._voice.say(
                "Where does the needle stand? Type it, move it with the arrows, or press M where it stands on the mark.",
                Severity.ASK,
            )
            return False
        elif step.kind == "next":
            return self.plan((self.indicated,))
        elif not self.reference_from:
            standard = self._in_hand.standard()
            name = standard.body.name if standard else "the reference"
            self._voice.say(
                f"What does {name} show? Type it (ref …), or press C where it shows "
                f"{engineering(self.reference, point.unit, 7)}.",
                Severity.ASK,
            )
            return False
        else:
            body = ReadingTaken(
                step=step.key, phase="as left" if step.phase == "as left" else "as found", point=point.key,
                indicated=self.indicated, reference=self.reference, direction=self.direction,
                standard=self._in_hand.job.calibrate.standard, reference_from=self.reference_from, means=self.means,
                written=self.written,
            )  # fmt: skip
        kept, came = self.indicated, self.reference_from
        self.indicated = None
        self.reference_from = "as set" if self.is_set and self.step is step else ""
        if not self._writer.write(body):
            self.indicated, self.reference_from = kept, came
            return False
        self.means, self.written = "ticks", ""
        self.taken.emit()
        return True

    def plan(self, values: tuple[float, ...]) -> bool:
        """Write points to be read on the range in hand, and go to the first of them."""
        step, point = self.step, self.point
        if step is None or point is None:
            return False
        try:
            wanted = tuple(check_nominal(value, point) for value in values)
        except CandorError as error:
            self._voice.refuse(error)
            return False
        function, range_ = point.key.split("/")[:2]
        if not self._writer.write(PointsPlanned(function=function, range=range_, values=wanted)):
            return False
        self.indicated = None
        phase = "as left" if step.phase == "as left" else "as found"
        target = point_step(self._in_hand.pack, point_at(point, wanted[0]).key, phase) if self._in_hand.pack else None
        if target is not None:
            self._place.go("calibrate", target.key)
        return True

    def again(self) -> None:
        """Start another reading at this point, from where the needle stands."""
        point = self.point
        if point is not None:
            self._set(self.shown_needle if self.shown_needle is not None else self.reference, "ticks")

    def back(self) -> None:
        """Put the needle back, or strike the last reading here, or go one step back."""
        job, step = self._in_hand.job, self.step
        if job is None or step is None:
            return
        if self.moved:
            self.indicated = None
            self.changed.emit()
        elif self.readings or (step.kind == "next" and self.result() is not None):
            result = self.result()
            last = (
                self.readings[-1].entry if self.readings or result is None else max(r.entry for r in result.readings)
            )
            self._writer.strike(next(e.id for e in job.entries if e.number == last))
        elif step.key in job.calibrate.done:
            self._writer.strike(job.calibrate.done[step.key].id)
        else:
            self._place.go_along(-1)

    def confirm(self) -> bool:
        """Confirm that a step was done, and go on; False where it is barred or could not be written."""
        step = self.step
        if step is None or self.barred() or not self._writer.write(StepDone(step=step.key)):
            return False
        self._place.go_along(1)
        return True

    def start_wait(self) -> None:
        """Start the timer of a wait."""
        step = self.step
        if step is not None and not self.barred():
            self._writer.write(TimerStarted(step=step.key, label=step.title, seconds=step.seconds))

    def _arrive(self) -> None:
        key = f"{self._in_hand.job.id if self._in_hand.job else ''} {self._place.step_key} {self.is_set}"
        if key == self._step_key:
            return
        self._step_key = key
        self.indicated, self.means, self.written = None, "ticks", ""
        point = self.point
        readings = self.readings
        self.reference = readings[-1].reference if readings else (point.nominal if point else 0.0)
        if self.is_set and point is not None:
            self.reference = point.nominal
        # Where a further point is made, nobody knows yet what the source was set to.
        set_ = self.is_set and self.step is not None and self.step.kind != "next"
        self.reference_from = "as set" if set_ else ""
        self.changed.emit()
