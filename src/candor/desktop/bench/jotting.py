"""A line that was understood goes where it belongs: to the hand, to the watch, or to the sitting."""

from __future__ import annotations

from pydantic import ValidationError
from PySide6.QtCore import QObject, Qt, Signal

from candor.core.jot import DecisionJot, Jot, LimitJot, PartJot, PointsJot, RangeJot, ReadingJot, ShopJot
from candor.core.jot.line import examples_at
from candor.core.jot.meaning import AdjusterJot, FindingJot, HelpJot, JoinJot, ListedJot, NoteJot
from candor.core.jot.power_meaning import EventJot
from candor.core.jot.soak_meaning import UnwatchJot, WatchJot
from candor.core.power.danger_words import danger_now_in, is_stop
from candor.core.severity import Severity
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.live_now import LiveNow
from candor.desktop.bench.place import PlaceInHand
from candor.desktop.bench.reading_in_hand import Hand
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.watching import SoakWatch
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.jotbar import JotBar
from candor.notebook.entries.entry import AnyEntry
from candor.notebook.entries.stay_entries import note_text
from candor.notebook.work.job import Job
from candor.packs.procedure import first_step, next_step, point_step, procedure
from candor.sitting.commands.calibrate_commands import range_of
from candor.words.power_words import say_heard


def go_to_range(place: PlaceInHand, in_hand: JobInHand, jot: RangeJot) -> None:
    """Stand at the first point of a range that is to be read, or where a further one is made."""
    made, pack = range_of(jot, in_hand.job), in_hand.pack
    if pack is None:
        return
    key = (made.function_key, made.range_key)
    step = (next_step(pack, *key) if not jot.points else None) or first_step(pack, *key)
    if step is not None:
        place.go("calibrate", step.key)


def expected_of(job: Job | None) -> tuple[str, ...]:
    """What the plan that was kept expects to happen."""
    if job is None or job.power.plan is None:
        return ()
    from candor.notebook.power.powering import expected_events  # only where there is a plan: the window is up before

    return expected_events(job)


class JotWriter(QObject):
    """Takes what was jotted to where it belongs.

    Signals
    -------
    chosen(str)
        Something was written about a part: its designator.
    """

    chosen = Signal(str)

    def __init__(
        self,
        bar: JotBar,
        *,
        in_hand: JobInHand,
        place: PlaceInHand,
        writer: Writer,
        voice: Voice,
        hand: Hand,
        watch: SoakWatch,
        live_now: LiveNow,
    ) -> None:
        super().__init__()
        self._live_now = live_now
        self._hand, self._bar, self._watch = hand, bar, watch
        self._in_hand, self._place, self._writer, self._voice = in_hand, place, writer, voice
        self._waits = ""  # the line that waits for what is said of the first reading
        self._of: AnyEntry | None = None  # the note that the line is to stand for
        bar.edit.textChanged.connect(self._changed)
        writer.wentOn.connect(self._went_on)

    def make_fact(self, note: AnyEntry) -> None:
        """Put a note in the line: what is entered from it stands in its place, at its time."""
        self._bar.edit.setText(note_text(note))
        self._bar.edit.setFocus(Qt.FocusReason.OtherFocusReason)
        self._of = note

    def _changed(self, text: str) -> None:
        if not text:
            self._of = None

    def take(self, jot: Jot, text: str) -> None:
        """Take what a line says to where it belongs; where it cannot be, the line stays and a sentence says why."""
        seen = isinstance(jot, NoteJot | FindingJot | EventJot) and danger_now_in(
            text
        )  # a spark gap that was cleaned is none
        if (is_stop(text) or seen) and self._stop() and is_stop(text):
            self._bar.written()
        elif self._in_hand.job is None and not isinstance(jot, ShopJot):
            heard = say_heard(text)
            if heard:
                self._voice.warn(heard)
            self._voice.refuse("Open a job first; your line is still here.")
        elif isinstance(jot, HelpJot):
            self._voice.say(f"You can type here: {'   '.join(examples_at(self._place.stop))}")
            self._bar.written()
        elif isinstance(jot, ReadingJot):
            self._take_reading(jot, text)
        elif isinstance(jot, AdjusterJot):
            if self._hand.take_adjuster(jot):
                self._bar.written()
        elif isinstance(jot, WatchJot | UnwatchJot):
            self._watch.obey(jot)
            self._bar.written()
        elif isinstance(jot, PointsJot):
            if self._hand.plan(jot.values):
                self._bar.written()
        else:
            self._write(jot, text)

    def _stop(self) -> bool:
        """Stop what is live of this window, and say so; False where nothing is. A source goes to zero first, whatever follows."""
        live = [thing for thing in self._live_now.things() if thing.own and thing.deed]
        for thing in live:
            thing.stop()
            self._voice.say(f"Stopped: {thing.words}", Severity.ASK)
        return bool(live)

    def _write(self, jot: Jot, text: str) -> None:
        self._waits = text
        try:
            written = self._writer.jot(jot, text, self._place.stop, self._of)
        except ValidationError as error:
            why = error.errors()[0]["msg"].removeprefix("Value error, ")
            self._voice.refuse(f"This cannot be written: {why[0].lower()}{why[1:]}. Your line is still here.")
            return
        if not written:
            return
        self._of = None
        self._bar.written()
        if isinstance(jot, ShopJot):
            self._voice.say(f"Kept for all jobs: {jot.chips[0]}.", Severity.DONE)
        if isinstance(jot, PartJot | DecisionJot | JoinJot):
            self.chosen.emit(jot.ref)
        if isinstance(jot, ListedJot):
            self.chosen.emit(jot.cells.get("part", ""))
        if isinstance(jot, LimitJot):
            self.chosen.emit(jot.part.ref)
        if isinstance(jot, RangeJot):
            go_to_range(self._place, self._in_hand, jot)

    def _went_on(self) -> None:
        """The line that waited is written: it is taken out of the bar, where it still stands."""
        if self._waits and self._bar.edit.text() == self._waits:
            self._bar.written()
        self._waits = ""

    def _take_reading(self, jot: ReadingJot, text: str) -> None:
        if jot.point and not self._go_to_point(jot.point, text):
            return
        if self._place.step is None or self._place.step.point is None or self._place.stop != "calibrate":
            self._voice.refuse("A reading needs a test point in hand: walk to Calibrate. Your line is still here.")
            return
        if self._hand.take_jot(jot, text):
            self._bar.written()

    def preview(self, jot: object) -> None:
        """Show on the dial what the line in hand would read."""
        if self._place.stop == "calibrate":
            self._hand.preview(jot)

    def _go_to_point(self, key: str, text: str) -> bool:
        """Walk to a point named in a jot; the line is then understood again with that point in hand."""
        pack, step = self._in_hand.pack, self._place.step
        if pack is not None:
            folded = key.casefold()
            key = next((s.point.key for s in procedure(pack) if s.point and s.point.key.casefold() == folded), key)
        if pack is None or step is None or (step.point is not None and step.point.key == key):
            return True
        target = point_step(pack, key, step.phase if step.kind == "point" else "as found")
        if target is None:
            self._voice.refuse(f"{pack.name} has no test point “{key}”. Example: dc+/150/75")
            return False
        self._place.go("calibrate", target.key)
        self._bar.edit.setText(text)
        self._bar.edit.returnPressed.emit()
        return False
