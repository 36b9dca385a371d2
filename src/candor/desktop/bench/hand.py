"""The reading in hand: where the needle stands on the drawn dial before it is taken."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace

from PySide6.QtCore import Qt, Signal

from candor.core.calibration.made_points import point_at
from candor.core.calibration.point import TestPoint
from candor.core.calibration.result import PointResult
from candor.core.calibration.run import last_read
from candor.core.errors import CandorError
from candor.core.jot import ReadingJot
from candor.core.jot.adjuster_line import parse_turns
from candor.core.jot.meaning import AdjusterJot
from candor.core.jot.range_line import check_nominal
from candor.core.quantities import engineering
from candor.core.reading.kind import ask_for
from candor.core.reading.kinds import kind_of
from candor.core.reading.reading import INDICATED
from candor.core.reading.repeated import Captured
from candor.core.reference.chain import comes_to
from candor.core.reference.choice import set_value
from candor.core.severity import Severity
from candor.desktop.bench.applying import Applying
from candor.desktop.bench.capture import Capture
from candor.desktop.bench.clock import Clock
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.live import SIMULATED, Live
from candor.desktop.bench.place import PlaceInHand
from candor.desktop.bench.shop import Shop
from candor.desktop.bench.step_words import load_words, no_standard_words
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.notebook.power.retrimming import retrim_words
from candor.notebook.soak.soaking import warm_up_left
from candor.notebook.work.assessment import agrees, assess_draft
from candor.notebook.work.placing import Placed, placed
from candor.packs.procedure import ProcedureStep, notes_of, point_step
from candor.sitting.command import Command
from candor.sitting.commands import calibrate


class Hand(Applying):
    """What is about to be taken at the step in hand.

    Signals
    -------
    changed()
        A figure, the reference or the direction moved; nothing was written.
    taken()
        A reading was written.
    """

    taken = Signal()

    def __init__(
        self, *, in_hand: JobInHand, place: PlaceInHand, writer: Writer, voice: Voice, shop: Shop, clock: Clock,
        capture: Capture, live: Live,
    ) -> None:  # fmt: skip
        super().__init__(in_hand, place, voice, capture, live)
        self._writer = writer
        self._shop, self._now = shop, clock.now
        capture.captured.connect(self._captured)
        self._step_key = ""
        place.changed.connect(self._arrive)
        in_hand.changed.connect(self._arrive)
        in_hand.changed.connect(self.changed)
        self._arrive()

    def result(self) -> PointResult | None:
        """Return what the readings say, the one in hand included where it is whole.

        Where a further point is made, that of its range that was read last.
        """
        step, job, pack = self.step_read(), self._in_hand.job, self._in_hand.pack
        if step is None or step.point is None or job is None or pack is None:
            return None
        run = self._in_hand.run(step.phase)
        if not self.draft.is_whole(step.point):
            if step.kind == "adjust" or run is None:
                return None
            return last_read(run, step.point) if step.kind == "next" else run.results.get(step.point.key)
        draft = replace(self.draft.reading(step.point), simulated=self._is_simulated(step.point))
        return assess_draft(job=job, pack=pack, known=self._shop.standards, step=step, draft=draft, now=self._now())

    def step_read(self) -> ProcedureStep | None:
        """Return the step that the reading in hand is of: it goes where what was applied says, not simply where the hand is."""
        try:
            found = self._placed()
        except CandorError:
            return self.step
        return found.step if found is not None else self.step

    def _placed(self) -> Placed | None:
        """Say where the reading in hand goes; None where it is not whole. Raises CandorError where it goes nowhere."""
        step, pack, served = self.step, self._in_hand.pack, self.served
        if step is None or step.point is None or pack is None or self.indicated is None or not self.reference_from:
            return None
        shows = self.reference if served is None else comes_to(served, self.reference)
        return placed(pack, step, self.draft.read_as(step.point), self.indicated, shows)

    def keys(self) -> Mapping[Qt.Key, Callable[[], object]]:
        """Return what single keys do to the reading in hand, on the bench and from across it."""
        return {
            Qt.Key.Key_R: self.again,
            Qt.Key.Key_M: self.on_the_mark,
            Qt.Key.Key_C: self.confirm_reference,
            Qt.Key.Key_N: self.next_figure,
            Qt.Key.Key_V: self.apply,
        }

    def words(self, set_first: bool = True) -> str:
        """Return what to do at the step in hand: what to set, the step's own words, the load it asks for, how long it may last."""
        step = self.step
        if step is None:
            return ""
        setting = f"Set {step.set_words}. " if step.changes and set_first else ""
        load, missing = load_words(step, self.served), no_standard_words(step, self._in_hand.standard(step.point))
        said = (self.too_much(), missing, f"{setting}{step.do}", load, notes_of(step), self._retrim(step))
        return " ".join(filter(None, said))

    def _retrim(self, step: ProcedureStep) -> str:
        job, pack = self._in_hand.job, self._in_hand.pack
        if step.adjuster is None or not step.adjuster.acts or job is None or pack is None:
            return ""
        return retrim_words(job, pack, step, self._in_hand.found, self._shop.stock())

    # --- taking ---------------------------------------------------------------------------------------

    def press(self) -> None:
        """The foot switch or Space: take the reading, confirm the step, start the wait, or go on."""
        step = self.step
        if step is None or self._in_hand.job is None:
            return
        if step.kind in ("point", "adjust", "next"):
            done = self.is_done(step)
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

    def is_done(self, step: ProcedureStep) -> bool:
        """Say whether the step in hand needs nothing more: it was read, or trimmed, or is figured from others."""
        if step.kind == "point" and step.point is not None:
            return bool(self.readings) or kind_of(step.point).figured
        job = self._in_hand.job
        return job is not None and step.key in job.calibrate.done and agrees(job, step)

    def take(self) -> bool:
        """Write the reading in hand. What was not read, needle or meter, is asked for: nothing is taken as read."""
        try:
            where = self._placed()
        except CandorError as error:
            self._voice.refuse(error)
            return False
        step = where.step if where is not None else self.step
        if step is None or step.point is None or self._in_hand.job is None:
            return False
        if self.too_much():
            self._voice.refuse(self.too_much())
            return False
        point, draft = step.point, self.draft
        if step.kind == "adjust":
            read = draft.is_whole(point)
            taking = calibrate.turn(
                step.key, step.trim, indicated=self.indicated if read else None,
                reference=self.reference if read else None, stood=draft.stood, turns=draft.turns,
            )  # fmt: skip
        elif self.source_link and self.capture.live and not self.source_agrees():
            self._voice.refuse(self.apply_first())
            return False
        elif self.indicated is None and self.is_set and draft.lacks_reference(point) and self._capture_first(point):
            return False
        elif self.indicated is None:
            self._voice.say(ask_for(draft.read_as(point), point), Severity.ASK)
            return False
        elif step.kind == "next":
            return self.plan((self.indicated,))
        elif draft.lacks_reference(point) and self._capture_first(point):
            return False
        elif draft.lacks_reference(point):
            standard = self._in_hand.standard(point)
            name = standard.name if standard else "the reference"
            self._voice.say(
                f"What does {name} show? Type it (ref …), or press C where it shows "
                f"{engineering(self.reference, self.read_unit, 7)}.",
                Severity.ASK,
            )
            return False
        else:
            taking = self._taking(step, point, where)
        kept, kind, came = dict(draft.figures), draft.kind, draft.reference_from
        adjuster = draft.stood, draft.turns
        draft.clear()
        stands = (
            self.is_set and self.step is step and came == "as set" and (not self.source_link or self.source_agrees())
        )
        draft.reference_from = "as set" if stands else ""
        if not self._writer.do(taking):
            draft.figures, draft.kind, draft.reference_from = kept, kind, came
            draft.stood, draft.turns = adjuster
            return False
        draft.means, draft.written = "ticks", ""
        self._before = None
        if where is not None and where.words:
            self._voice.say(where.words, Severity.ASK)
            self._step_key = ""  # the point in hand is as it was: its reference is none that was read here
            self._arrive()
        self.say_barred()
        self.taken.emit()
        return True

    def _capture_first(self, point: TestPoint) -> bool:
        """Read the reference from its link, where it has one: the reading is taken when that has come.

        A source is never applied here: who presses for a reading has not asked for volts.
        """
        link = self._in_hand.link(point)
        if not link or self.capture.running:
            return self.capture.running
        if self.is_set:
            self._voice.say(self.apply_first(), Severity.ASK)
        else:
            self.capture.read(link, point, self.to_apply or point.reference_for(point.nominal), self.read_unit)
        return True

    def _captured(self, found: object) -> None:
        if isinstance(found, Captured) and self.point is not None:
            self.take_captured(found)
            self._voice.say(
                f"Captured {found.sentence(self.read_unit)}.", Severity.NOTE if found.settled else Severity.ASK
            )
            if self.draft.moved:
                self.take()

    def _taking(self, step: ProcedureStep, point: TestPoint, where: Placed | None) -> Command:
        draft, standard = self.draft, self._in_hand.standard(point)
        beside = draft.read_as(point).compares == "reference" and point.needs_reference
        return calibrate.take_reading(
            where.made if where is not None else None, simulated=beside and self._is_simulated(point),
            step=step.key, phase="as left" if step.phase == "as left" else "as found", point=point.key,
            indicated=draft.figures.get(INDICATED), reference=draft.reference if beside else 0.0,
            figures=tuple((name, value) for name, value in draft.figures.items() if name != INDICATED),
            read_as=draft.kind, word=draft.word(point), direction=draft.direction,
            standard=standard.entry.id if standard and point.needs_reference else "",
            reference_from=draft.reference_from if beside else "", means=draft.means, written=draft.written,
            reference_u=draft.captured[0] if beside and draft.reference_from == "captured" else 0.0,
            reference_count=draft.captured[1] if beside and draft.reference_from == "captured" else 0,
        )  # fmt: skip

    def _is_simulated(self, point: TestPoint) -> bool:
        """Whether the reference in hand came from a simulated meter or source, and not from what was typed."""
        return self.draft.reference_from not in ("", "typed") and self._in_hand.link(point) == SIMULATED

    def take_jot(self, jot: ReadingJot, text: str) -> bool:
        """Take a jotted reading: a reference alone is only set, a reading is written."""
        self.draft.take_over(jot, "jot")
        if jot.indicated is None and not jot.figures:
            self._before = None
            self.changed.emit()
            return True
        self.draft.written = text
        return self.take()

    def take_adjuster(self, jot: AdjusterJot) -> bool:
        """Keep where the adjuster in hand stood and how far it was turned, for when its trim is taken."""
        if self.step is None or self.step.kind != "adjust":
            self._voice.refuse("No adjuster is in hand: walk to the step that turns it. Your line is still here.")
            return False
        self.draft.stood = jot.stood or self.draft.stood
        self.draft.turns = self.draft.turns if jot.turns is None else jot.turns
        self.changed.emit()
        return True

    def say_adjuster(self, stood: str, turned: str) -> None:
        """Take what was typed into the fields of an adjuster."""
        try:
            turns = parse_turns(turned) if turned.strip() else None
        except CandorError as error:
            self._voice.refuse(error)
            return
        self.take_adjuster(AdjusterJot(stood=stood.strip(), turns=turns))

    def turned_text(self) -> str:
        """Return how far the adjuster in hand was turned, as it stands in its field."""
        return "" if self.draft.turns is None else f"{self.draft.turns:+g}"

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
        if not self._writer.do(calibrate.plan_points(function, range_, wanted)):
            return False
        self.draft.clear()
        phase = "as left" if step.phase == "as left" else "as found"
        target = point_step(self._in_hand.pack, point_at(point, wanted[0]).key, phase) if self._in_hand.pack else None
        if target is not None:
            self._place.go("calibrate", target.key)
        return True

    def again(self) -> None:
        """Start another reading at this point, from where the needle stands."""
        point = self.point
        if point is not None:
            self._put(
                self.draft.active(point),
                self.shown_needle if self.shown_needle is not None else self.reference,
                "ticks",
            )

    def back(self) -> None:
        """Put the needle back, or strike the last reading here, or go one step back."""
        job, step = self._in_hand.job, self.step
        if job is None or step is None:
            return
        if self.moved:
            self.draft.clear()
            self.changed.emit()
        elif self.readings or (step.kind == "next" and self.result() is not None):
            result = self.result()
            last = (
                self.readings[-1].entry if self.readings or result is None else max(r.entry for r in result.readings)
            )
            self._writer.strike(next(e for e in job.entries if e.number == last))
        elif step.key in job.calibrate.done:
            self._writer.strike(job.calibrate.done[step.key])
        else:
            self._place.go_along(-1)

    def confirm(self) -> bool:
        """Confirm that a step was done, and go on; False where it could not be written."""
        step = self.step
        if step is None:
            return False
        if not self._writer.do(calibrate.step_done(step)):
            return False
        self.say_barred()
        self._place.go_along(1)
        return True

    def start_wait(self) -> None:
        """Start the timer of a wait."""
        step, job = self.step, self._in_hand.job
        if step is not None and job is not None:
            left = warm_up_left(job, step.title, step.seconds, self._now())
            self._writer.do(calibrate.start_timer(step.key, step.title, left))

    def _arrive(self) -> None:
        key = f"{self._in_hand.job.id if self._in_hand.job else ''} {self._place.step_key} {self.is_set}"
        if key == self._step_key:
            return
        self._step_key = key
        self.capture.give_up()  # what was being read belonged to another point
        draft, point, readings = self.draft, self.point, self.readings
        self._before = None
        draft.clear()
        draft.means, draft.written = "ticks", ""
        draft.reference = (
            readings[-1].reference if readings else (point.reference_for(point.nominal) if point else 0.0)
        )
        if self.is_set and point is not None and self.served is not None:
            draft.reference = set_value(self.served, point)
        # Where a further point is made, nobody knows yet what the source was set to.
        set_ = (
            self.is_set and self.step is not None and self.step.kind != "next" and not self._in_hand.link(self.point)
        )
        draft.reference_from = "as set" if set_ else ""
        self.changed.emit()
