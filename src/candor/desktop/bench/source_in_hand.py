"""The source on a link, for the point in hand: applied by a deed of its own, and believed only where it says so itself."""

from __future__ import annotations

import math

from candor.core.quantities import engineering
from candor.core.reference.choice import set_value, shown_for
from candor.core.severity import Severity
from candor.desktop.bench.capture import Capture
from candor.desktop.bench.figures_in_hand import Moving
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.live_in_hand import Live
from candor.desktop.bench.place import PlaceInHand
from candor.desktop.bench.voice import Voice
from candor.notebook.work.barriers import barrier
from candor.words.step_words import too_much


class Applying(Moving):
    """The figures in hand, and the source that stands behind them.

    Signals
    -------
    changed()
        A figure, the reference, the direction or the source moved; nothing was written of a reading.
    """

    def __init__(self, in_hand: JobInHand, place: PlaceInHand, voice: Voice, capture: Capture, live: Live) -> None:
        super().__init__(in_hand, place, voice)
        self.capture, self._live = capture, live
        capture.applied.connect(self._applied)
        capture.changed.connect(self._source_changed)

    @property
    def can_stop(self) -> bool:
        """Whether something runs that Esc stops: a reading by link, a source, a run on the tester."""
        status = self._live.status()
        runs = status is not None and status.phase != "discharging"
        return self.capture.running or self.capture.live or runs

    def stop(self) -> None:
        """Esc: every source to zero, what is being read given up."""
        self.capture.give_up()
        self._live.cancel()

    def barred(self) -> bool:
        """Say whether something bars the work, and why, in a sentence."""
        found = barrier(self._in_hand.job, self._in_hand.parts())
        if found is not None:
            self._voice.refuse(found.sentence)
        return found is not None

    def say_barred(self) -> None:
        """Warn where something bars power: what was done all the same is a fact, and was written."""
        found = barrier(self._in_hand.job, self._in_hand.parts())
        if found is not None:
            self._voice.warn(f"It was written. {found.sentence}")

    def too_much(self) -> str:
        """Say which standard the step in hand would give more volts than it bears, or nothing."""
        return too_much(self.point, self.served)

    @property
    def source_link(self) -> str:
        """Where the source of the point in hand answers; empty where it is set by hand, or is not a source."""
        return self._in_hand.link(self.point) if self.is_set else ""

    @property
    def to_apply(self) -> float:
        """What the source is to be set to for the point in hand, in the unit that is read; 0 where it is not a source."""
        served, point = self.served, self.point
        return set_value(served, point) if served is not None and point is not None else 0.0

    def apply(self) -> bool:
        """Apply the point's value by the source on its link: a deed of its own, never a part of taking a reading."""
        point, served, job = self.point, self.served, self._in_hand.job
        if point is None or served is None or job is None or not self.source_link:
            self._voice.say("No source on a link belongs to this point: set it by hand.", Severity.REFUSED)
            return False
        if self.barred():
            return False
        if self.too_much():
            self._voice.refuse(self.too_much())
            return False
        most = 1.1 * abs(shown_for(served, point.reference_for(point.full_scale)))
        return self.capture.apply(self.source_link, self.to_apply, most, self.read_unit, point.key, job.id)

    def confirm_reference(self) -> None:
        """The reference stands where its field says; a source on a link is asked, not believed."""
        if self.source_link and not self.source_agrees():
            self._voice.refuse(self.apply_first())
            return
        super().confirm_reference()

    def source_agrees(self) -> bool:
        """Say whether the source on a link stands where the reference in hand says, by its own answer."""
        stands = self.capture.stands_at
        return stands is not None and math.isclose(stands, self.reference, rel_tol=1e-4, abs_tol=1e-9)

    def apply_first(self) -> str:
        """Say where the source stands, and what to apply before a reading is taken."""
        wanted = engineering(self.to_apply, self.read_unit, 5)
        stands = self.capture.words or "The source was not switched on here"
        return f"{stands}. Apply {wanted} first (V)."

    def _applied(self, value: float) -> None:
        self.draft.reference, self.draft.reference_from = value, "as set"
        self._voice.say(
            f"The source is at {engineering(value, self.read_unit, 7)}. Read the instrument.", Severity.DONE
        )
        self.changed.emit()

    def _source_changed(self) -> None:
        """What the source no longer stands at is not a reference any more."""
        if self.source_link and self.draft.reference_from == "as set" and not self.source_agrees():
            self.draft.reference_from = ""
        self.changed.emit()
