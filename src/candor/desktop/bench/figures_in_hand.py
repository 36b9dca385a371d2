"""The figures in hand as they are moved, typed and confirmed; nothing of it is written."""

from __future__ import annotations

import math
from collections.abc import Mapping

from PySide6.QtCore import QObject, Signal

from candor.core.calibration.point import TestPoint
from candor.core.errors import CandorError
from candor.core.jot import ReadingJot
from candor.core.reading.judged import Judged
from candor.core.reading.reading import INDICATED, Direction, Reading
from candor.core.reading.repeated import Captured
from candor.core.reading.screen import SCREEN_FIGURES
from candor.core.reference.chains import Chain, read_unit_of
from candor.core.reference.reference import Reference
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.place import PlaceInHand
from candor.desktop.bench.voice import Voice
from candor.desktop.widgets.drawn import Drawn
from candor.notebook.entries.calibrate_entries import Means, ReferenceFrom
from candor.packs.procedure import ProcedureStep
from candor.sitting.draft import Draft, reference_typed


class Moving(QObject):
    """The reading in hand at the step in hand.

    Signals
    -------
    changed()
        A figure, the reference or the direction moved; nothing was written.
    """

    changed = Signal()

    def __init__(self, in_hand: JobInHand, place: PlaceInHand, voice: Voice) -> None:
        super().__init__()
        self._in_hand, self._place, self._voice = in_hand, place, voice
        self.draft = Draft()
        self._before: Mapping[str, object] | None = None  # what was in hand before the line that is being typed

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
        point, states = step.point, self._in_hand.states
        standing = states.at_line(point.key, step.line) if step.line else states.readings(point.key, phase)
        return tuple(r.reading(point) for r in standing)

    @property
    def indicated(self) -> float | None:
        """The value that the figures in hand say, SI; None where they say none yet."""
        return self.draft.value(self.point) if self.point is not None else None

    @property
    def reference(self) -> float:
        """What the reference shows, SI."""
        return self.draft.reference

    @property
    def reference_from(self) -> ReferenceFrom:
        """How it came; empty where it was not read."""
        return self.draft.reference_from

    @property
    def direction(self) -> Direction:
        """From which side it is approached."""
        return self.draft.direction

    @property
    def served(self) -> Reference | Chain | None:
        """What the point in hand is read against."""
        return self._in_hand.served(self.point)

    @property
    def is_set(self) -> bool:
        """Whether the reference stands as it was set, a source or a fixed part; a meter must be read."""
        served = self.served
        return served is not None and not served.is_read

    @property
    def read_unit(self) -> str:
        """The unit of what the reference shows: of a chain that of the link that is read."""
        served, point = self.served, self.point
        if served is not None:
            return read_unit_of(served)
        return point.asked_unit if point is not None else "V"

    @property
    def moved(self) -> bool:
        """Whether anything was read since the last reading was taken."""
        return self.draft.moved

    @property
    def expected(self) -> float:
        """Where it should stand: at the reference; at zero while nobody has said which further point is made."""
        unsaid = self.step is not None and self.step.kind == "next" and not self.reference_from
        if self.point is not None and (
            self.draft.read_as(self.point).compares != "reference" or isinstance(self.served, Chain)
        ):
            return self.point.nominal
        worth = self.point.worth if self.point is not None else 1.0
        return 0.0 if unsaid else self.reference / worth

    @property
    def shown_needle(self) -> float | None:
        """The value to draw: in hand, or as last read."""
        if self.indicated is not None:
            return self.indicated
        return self.readings[-1].indicated if self.readings else None

    @property
    def shown_figures(self) -> dict[str, float]:
        """The figures to draw: in hand, or as last read."""
        if self.moved or not self.readings:
            return dict(self.draft.figures)
        return dict(self.readings[-1].figures)

    def drawn(self) -> Drawn:
        """Return what the work surface draws."""
        point = self.point
        if point is None:
            return Drawn(expected=math.nan, indicated=None, low=math.nan, high=math.nan)
        expected, figures, shown = self.expected, self.shown_figures, self.shown_needle
        kind = self.draft.read_as(point)
        low = high = math.nan
        if (
            point.limit.given
            and (expected or point.limit.on_value or not point.polarity)
            and not math.isnan(expected)
        ):
            low, high = Judged(point).inside(expected)
        words = kind.say(point, figures) if figures and shown is not None else ""
        return Drawn(
            expected=expected,
            indicated=shown,
            low=low,
            high=high,
            figures=figures,
            active=self.draft.active(point),
            words=words,
        )

    # --- moving ---------------------------------------------------------------------------------------

    def nudge(self, ticks: float) -> None:
        """Move the figure in hand by so many ticks."""
        point = self.point
        if point is None:
            return
        name = self.draft.active(point)
        stands = self.shown_figures.get(name, self.shown_needle if self.shown_needle is not None else self.expected)
        if name in SCREEN_FIGURES:  # in divisions, not in the unit of the point
            self._put(name, self.shown_figures.get(name, 0.0) + ticks / 5, "ticks")
            return
        self._put(name, point.indicator.ticks_from(stands, ticks), "ticks")

    def next_figure(self) -> None:
        """Let the arrows move the next figure of the reading."""
        if self.point is not None:
            self.draft.go_to_next(self.point)
            self.changed.emit()

    def drag_to(self, value: float) -> None:
        """Put the figure in hand where it was dragged."""
        if self.point is not None:
            self._put(self.draft.active(self.point), value, "drag")

    def choose(self, place: int) -> None:
        """Choose an outcome of a look by its place."""
        self._put(INDICATED, float(place), "number")

    def type_indicated(self, text: str) -> bool:
        """Take a typed value, or a whole reading; False, with a sentence, where it cannot be."""
        return self.point is not None and self.type_figure(self.draft.active(self.point), text)

    def type_figure(self, name: str, text: str) -> bool:
        """Take a figure as it was typed into its field; False, with a sentence, where it cannot be."""
        if self.point is None:
            return False
        try:
            self.draft.type_figure(self.point, name, text)
        except CandorError as error:
            self._voice.refuse(str(error))
            return False
        self.changed.emit()
        return True

    def on_the_mark(self) -> None:
        """Put the needle on the mark: said by a press of its own, never by the pedal."""
        point = self.point
        if point is not None and self.step is not None and not self.draft.read_as(point).named:
            self._put(INDICATED, self.reference if self.step.kind == "next" else point.nominal, "ticks")

    def confirm_reference(self) -> None:
        """The meter shows what stands in the field: said by a press of its own, never by the pedal."""
        if self.point is not None:
            self.draft.reference_from = "as set" if self.is_set else "confirmed"
            self.changed.emit()

    def take_captured(self, found: Captured) -> None:
        """Take what the reference shows from its link, with its scatter."""
        self.draft.reference, self.draft.reference_from = found.mean, "captured"
        self.draft.captured = (found.standard_uncertainty, found.count)
        self.changed.emit()

    def type_reference(self, text: str) -> bool:
        """Take a typed reference value; False, with a sentence, where it cannot be."""
        point = self.point
        if point is None:
            return False
        try:
            self.draft.reference = reference_typed(text, point, self.served, self.read_unit)
        except CandorError as error:
            self._voice.refuse(str(error))
            return False
        self.draft.reference_from = "typed"
        self.changed.emit()
        return True

    def turn(self, direction: Direction) -> None:
        """Note whether it is approached from below or from above."""
        self.draft.direction = direction
        self.changed.emit()

    def preview(self, jot: object) -> None:
        """Let the drawing follow the jot line while it is typed; nothing is written, and what is erased leaves nothing."""
        before, self._before = self._before, None
        if before is not None:
            self.draft.put_back(before)
        if isinstance(jot, ReadingJot) and not jot.point and self.point is not None:
            self._before = self.draft.kept()
            self.draft.take_over(jot, "jot")
        if before is not None or self._before is not None:
            self.changed.emit()

    def _put(self, name: str, value: float, means: Means) -> None:
        if self.point is None:
            return
        try:
            self.draft.put(self.point, name, value, means)
        except CandorError as error:
            self._voice.refuse(str(error))
            return
        self.changed.emit()
