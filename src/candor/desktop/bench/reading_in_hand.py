"""The reading in hand: where the needle stands on the drawn dial before it is taken."""

from __future__ import annotations

import contextlib
from collections.abc import Callable, Mapping
from dataclasses import replace

from PySide6.QtCore import Qt, Signal

from candor.core.calibration.made_points import point_at
from candor.core.calibration.result import PointResult
from candor.core.calibration.run import last_read
from candor.core.errors import CandorError
from candor.core.jot import ReadingJot
from candor.core.jot.adjuster_line import parse_turns
from candor.core.jot.meaning import AdjusterJot
from candor.core.jot.range_line import check_nominal
from candor.core.reading.repeated import Captured
from candor.core.reference.chains import Chain
from candor.core.reference.choice import set_value, shown_for
from candor.core.severity import Severity
from candor.desktop.bench.capture import Capture
from candor.desktop.bench.clock import Clock
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.live_in_hand import SIMULATED, Live
from candor.desktop.bench.place import PlaceInHand
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.source_in_hand import Applying
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.notebook.power.retrimming import retrim_at
from candor.notebook.soak.soaking import warm_up_left
from candor.notebook.work.assessment import assess_draft
from candor.notebook.work.line_influence import line_then, result_at
from candor.notebook.work.placing import Placed
from candor.packs.base import Caution
from candor.packs.procedure import ProcedureStep, point_step
from candor.packs.retrim import Retrim
from candor.sitting.command import Command
from candor.sitting.commands import calibrate_commands
from candor.sitting.taking import ReadingInHand, is_done, is_read_enough, pressed, read_step
from candor.words.combining import say_retrim
from candor.words.greatest_words import cautions_at, greatest_words
from candor.words.step_notes import notes_of
from candor.words.step_words import applied_last, load_words, no_standard_words


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
        self._step_key = self._read_by = ""
        place.changed.connect(self._arrive)
        in_hand.changed.connect(self._look)
        self._arrive()

    def result(self) -> PointResult | None:
        """Return what the readings say, the one in hand included where it is whole.

        Where a further point is made, that of its range that was read last.
        """
        in_hand, job, pack = self.in_hand(), self._in_hand.job, self._in_hand.pack
        step = read_step(in_hand) if in_hand is not None else None
        if in_hand is None or step is None or step.point is None or job is None or pack is None:
            return None
        run = self._in_hand.run(step.phase)
        if not self.draft.is_whole(step.point):
            if step.kind == "adjust" or run is None:
                return None
            if step.line:
                known = self._shop.standards
                return result_at(job, pack, known, run, step.point.key, step.line) if run is not None else None
            return last_read(run, step.point) if step.kind == "next" else run.results.get(step.point.key)
        draft = replace(self.draft.reading(step.point), simulated=in_hand.is_simulated)
        return assess_draft(job=job, pack=pack, known=self._shop.standards, step=step, draft=draft, now=self._now())

    def in_hand(self) -> ReadingInHand | None:
        """Return the reading in hand with all that decides what becomes of it."""
        if self.step is None:
            return None
        return ReadingInHand(
            step=self.step, draft=self.draft, pack=self._in_hand.pack, served=self.served,
            standard=self._in_hand.standard(self.point), read_unit=self.read_unit, link=self._in_hand.link(self.point),
            apply_first=self.apply_first() if self.source_link else "", source_live=self.capture.live,
            source_agrees=self.source_agrees(), simulated=self._in_hand.link(self.point) == SIMULATED,
            lines=self._lines(),
        )  # fmt: skip

    def _lines(self) -> tuple[float, float]:
        job, pack = self._in_hand.job, self._in_hand.pack
        if job is None or pack is None or self.step is None or not self.step.line or self.point is None:
            return 0.0, 0.0
        return line_then(job, pack, self.point.key)

    def step_read(self) -> ProcedureStep | None:
        """Return the step that the reading in hand is of: it goes where what was applied says, not simply where the hand is."""
        in_hand = self.in_hand()
        return read_step(in_hand) if in_hand is not None else None

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
        load, missing = load_words(step, self.served), self._missing(step)
        pack = self._in_hand.pack
        most = greatest_words(pack, step, frail=True) if pack is not None else ""
        said = (self.too_much(), missing, f"{setting}{step.do}", load, notes_of(step), self._retrim(step), most)
        return " ".join(filter(None, said))

    def cautions(self) -> tuple[Caution, ...]:
        """Return what is said before the step in hand: its own cautions, and that what was read last is too much for its range."""
        step, job, pack = self.step, self._in_hand.job, self._in_hand.pack
        if step is None or job is None or pack is None:
            return ()
        return cautions_at(pack, step, applied_last(job, pack))

    def _missing(self, step: ProcedureStep) -> str:
        return no_standard_words(step, self._in_hand.standard(step.point), self._in_hand.job, self._shop.standards)

    def _retrim(self, step: ProcedureStep) -> str:
        job, pack = self._in_hand.job, self._in_hand.pack
        if step.adjuster is None or not step.adjuster.acts or job is None or pack is None:
            return ""
        found = retrim_at(job, pack, step, self._in_hand.found, self._shop.stock())
        return say_retrim(found) if isinstance(found, Retrim) else str(found or "")

    # --- taking ---------------------------------------------------------------------------------------

    def press(self) -> None:
        """The foot switch or Space: take the reading, confirm the step, start the wait, or go on."""
        step, job = self.step, self._in_hand.job
        if step is None or job is None:
            return
        match pressed(step, job, self.is_done(step), self.moved):
            case "take":
                self.take()
            case "wait":
                self.start_wait()
            case "confirm":
                self.confirm()
            case "go on":
                self._go_on()

    def _go_on(self) -> None:
        """Walk on; past where a further point could be made of a range that was read enough."""
        before = self._place.step
        self._place.go_along(1)
        after = self._place.step
        if after is not None and after is not before and after.kind == "next" and self.is_done(after):
            self._go_on()

    def is_done(self, step: ProcedureStep) -> bool:
        """Say whether the step in hand needs nothing more: it was read, or trimmed, or is calculated from others."""
        enough = is_read_enough(step, self._in_hand.run(step.phase))
        return is_done(step, self._in_hand.job, enough or (step.kind != "next" and bool(self.readings)))

    def take(self) -> bool:
        """Write the reading in hand. What was not read, needle or meter, is asked for: nothing is taken as read."""
        in_hand = self.in_hand()
        if in_hand is None or in_hand.step.point is None or self._in_hand.job is None:
            return False
        taking = in_hand.taken()
        if taking.refused:
            self._voice.refuse(taking.refused)
        elif taking.ask:
            self._voice.say(taking.ask, Severity.ASK)
        elif taking.capture:
            self._capture(in_hand)
        elif taking.plan is not None:
            return self.plan((taking.plan,))
        return taking.command is not None and self._write(in_hand, taking.command, taking.where)

    def _write(self, in_hand: ReadingInHand, taking: Command, where: Placed | None) -> bool:
        draft, kept, stands = self.draft, self.draft.kept(), in_hand.stands(where)
        draft.clear()
        draft.reference_from = "as set" if stands else ""
        came_from, elsewhere = self._step_key, where is not None and bool(where.words)
        if elsewhere:
            self._step_key = ""  # the point in hand is as it was: its reference is none that was read here
        if not self._writer.do(taking):
            self._step_key = came_from
            draft.put_back(kept)
            return False
        draft.means, draft.written = "ticks", ""
        self._before = None
        if where is not None and elsewhere:
            self._voice.say(where.words, Severity.ASK)
        self.say_barred()
        self.taken.emit()
        return True

    def _capture(self, in_hand: ReadingInHand) -> None:
        """Read the reference from its link: the reading is taken when that has come."""
        point = in_hand.step.point
        if point is not None and not self.capture.running:
            wanted = self.to_apply or self._expected()
            self.capture.read(in_hand.link, point, wanted, self.read_unit)

    def _captured(self, found: object) -> None:
        if isinstance(found, Captured) and self.point is not None:
            self.take_captured(found)
            self._voice.say(
                f"Captured {found.sentence(self.read_unit)}.", Severity.NOTE if found.settled else Severity.ASK
            )
            if self.draft.moved:
                self.take()

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
        if not self._writer.do(calibrate_commands.plan_points(function, range_, wanted)):
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
        if not self._writer.do(calibrate_commands.step_done(step)):
            return False
        self.say_barred()
        self._place.go_along(1)
        return True

    def start_wait(self) -> None:
        """Start the timer of a wait."""
        step, job = self.step, self._in_hand.job
        if step is not None and job is not None:
            left = warm_up_left(job, step.title, step.seconds, self._now())
            self._writer.do(calibrate_commands.start_timer(step.key, step.title, left))

    def _look(self) -> None:
        """The job changed: what is in hand is shown anew, once."""
        if not self._arrive():
            if self._standard_key() != self._read_by:  # another standard: what it would show is another number
                self._read_by = self._standard_key()
                if not self.draft.reference_from and not self.readings:
                    self.draft.reference = self._expected()
            self.changed.emit()

    def _standard_key(self) -> str:
        standard = self._in_hand.standard(self.point) if self.point is not None else None
        return standard.entry.id if standard is not None else ""

    def _expected(self) -> float:
        """What the reference shows at a point that is as it should be, in the unit that is read: of a chain that of its link."""
        point, served = self.point, self.served
        if point is None:
            return 0.0
        value = point.reference_for(point.nominal)
        if isinstance(served, Chain):
            with contextlib.suppress(CandorError):
                return shown_for(served, value)
        return value

    def _arrive(self) -> bool:
        """Take the step in hand where it is another one, and say so; False where it is the one of before."""
        key = f"{self._in_hand.job.id if self._in_hand.job else ''} {self._place.step_key} {self.is_set}"
        if key == self._step_key:
            return False
        self._step_key = key
        self.capture.give_up()  # what was being read belonged to another point
        draft, point, readings = self.draft, self.point, self.readings
        self._before = None
        draft.clear()
        draft.means, draft.written = "ticks", ""
        draft.reference = readings[-1].reference if readings else self._expected()
        self._read_by = self._standard_key()
        if self.is_set and point is not None and self.served is not None:
            draft.reference = set_value(self.served, point)
        # Where a further point is made, nobody knows yet what the source was set to.
        set_ = (
            self.is_set and self.step is not None and self.step.kind != "next" and not self._in_hand.link(self.point)
        )
        draft.reference_from = "as set" if set_ else ""
        self.changed.emit()
        return True
