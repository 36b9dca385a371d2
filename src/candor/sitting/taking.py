"""What the foot switch takes: the deed at the step in hand, and the reading in hand as a command, a question or a capture."""

from __future__ import annotations

from typing import Literal

from candor.core.calibration.run import RunResult
from candor.core.errors import CandorError
from candor.core.late_dataclass import dataclass
from candor.core.quantities import engineering
from candor.core.reading.kind import ask_for
from candor.core.reading.kinds import kind_of
from candor.core.reading.reading import INDICATED
from candor.core.reference.chains import Chain, comes_to
from candor.core.reference.reference import Reference
from candor.core.worded import worded
from candor.notebook.standards.standards import Standard
from candor.notebook.work.assessment import agrees
from candor.notebook.work.job import Job
from candor.notebook.work.placing import Placed, placed
from candor.notebook.work.states import is_at
from candor.packs.model import Pack
from candor.packs.procedure import ProcedureStep
from candor.sitting.command import Command
from candor.sitting.commands import calibrate_commands
from candor.sitting.draft import Draft
from candor.words.step_words import too_much

Deed = Literal["take", "wait", "confirm", "go on"]


@dataclass(frozen=True)
class Taking:
    """What becomes of the reading in hand when it is taken: exactly one of these.

    Attributes
    ----------
    command : Command or None
        It is written.
    where : Placed or None
        Where it goes, when that is not the step in hand.
    ask : str
        What is still to be read.
    refused : str
        Why it cannot be taken.
    capture : bool
        The reference is to be read from its link first.
    plan : float or None
        A point to be read at this value, SI.
    """

    command: Command | None = None
    where: Placed | None = None
    ask: str = ""
    refused: str = ""
    capture: bool = False
    plan: float | None = None


@dataclass(frozen=True)
class ReadingInHand:
    """The reading in hand, and all that decides what becomes of it.

    Attributes
    ----------
    step : ProcedureStep
    draft : Draft
    pack : Pack or None
    served : Reference, Chain or None
        What its point is read against.
    standard : Standard or None
        The standard that this belongs to.
    read_unit : str
        The unit of what the reference shows.
    link : str
        Where the meter or source answers; empty where it is read, or set, by hand.
    apply_first : str
        What is said where the source on the link is to be applied before a reading is taken.
    source_live : bool
        The source on the link gives volts.
    source_agrees : bool
        It stands where the reference in hand says, by its own answer.
    simulated : bool
        The link is to a simulated meter or source.
    lines : tuple of float
        The line now, and when the point was first read, V, as they were noted; 0 where they were not.
    """

    step: ProcedureStep
    draft: Draft
    pack: Pack | None = None
    served: Reference | Chain | None = None
    standard: Standard | None = None
    read_unit: str = "V"
    link: str = ""
    apply_first: str = ""
    source_live: bool = False
    source_agrees: bool = False
    simulated: bool = False
    lines: tuple[float, float] = (0.0, 0.0)

    @property
    def is_set(self) -> bool:
        """Whether the reference stands as it was set, a source or a fixed part; a meter must be read."""
        return self.served is not None and not self.served.is_read

    @property
    def is_simulated(self) -> bool:
        """Whether the reference in hand came from a simulated meter or source, and not from what was typed."""
        return self.draft.reference_from not in ("", "typed") and self.simulated

    def placed(self) -> Placed | None:
        """Say where the reading goes; None where it is not whole.

        Raises
        ------
        CandorError
            Where it goes nowhere.
        """
        point, indicated = self.step.point, self.draft.value(self.step.point) if self.step.point is not None else None
        if point is None or self.pack is None or indicated is None or not self.draft.reference_from:
            return None
        shows = self.draft.reference if self.served is None else comes_to(self.served, self.draft.reference)
        return placed(self.pack, self.step, self.draft.read_as(point), indicated, shows)

    def taken(self) -> Taking:
        """Say what becomes of it. What was not read, needle or meter, is asked for: nothing is taken as read."""
        try:
            where = self.placed()
        except CandorError as error:
            return Taking(refused=str(error))
        step = where.step if where is not None else self.step
        point, draft = step.point, self.draft
        if point is None:
            return Taking(refused=worded("sitting.nothing_is_read_at_this_step"))
        over = too_much(self.step.point, self.served)
        if over:
            return Taking(refused=over)
        if step.line and not is_at(*self.lines, step.line):
            return Taking(refused=self._other_line(step.line))
        indicated = draft.value(point)
        if step.kind == "adjust":
            read = draft.is_whole(point)
            return Taking(
                calibrate_commands.turn(
                    step.key, step.trim, indicated=indicated if read else None,
                    reference=draft.reference if read else None, stood=draft.stood, turns=draft.turns,
                )
            )  # fmt: skip
        set_link = self.link if self.is_set else ""
        if set_link and self.source_live and not self.source_agrees:
            return Taking(refused=self.apply_first)
        asks_link = self.is_set if indicated is None else step.kind != "next"
        if draft.lacks_reference(point) and self.link and asks_link:
            # A source is never applied here: who presses for a reading has not asked for volts.
            return Taking(ask=self.apply_first) if self.is_set else Taking(capture=True)
        if indicated is None:
            return Taking(ask=ask_for(draft.read_as(point), point))
        if step.kind == "next":
            return Taking(plan=indicated)
        if draft.lacks_reference(point):
            name = self.standard.name if self.standard else "the reference"
            shows = engineering(draft.reference, self.read_unit, 7)
            return Taking(ask=worded("sitting.what_does_show_type_it_ref", name=name, shows=shows))
        return Taking(self._reading(step, where), where)

    def _other_line(self, share: float) -> str:
        """Say what must be noted before a point is read at another line: else it would be taken for a repeat."""
        volts, base = self.lines
        if not base:
            return worded("sitting.at_which_line_was_it_read")
        wanted = f"{base * (1 + share):.0f}"
        now = worded("sitting.volts", volts=volts) if volts else worded("sitting.not_noted")
        return worded("sitting.set_the_line_first", wanted=wanted, now=now)

    def _reading(self, step: ProcedureStep, where: Placed | None) -> Command:
        point, draft, standard = step.point, self.draft, self.standard
        assert point is not None
        beside = draft.read_as(point).compares == "reference" and point.needs_reference
        captured = beside and draft.reference_from == "captured"
        return calibrate_commands.take_reading(
            where.made if where is not None else None, simulated=beside and self.is_simulated,
            step=step.key, phase="as left" if step.phase == "as left" else "as found", point=point.key,
            indicated=draft.figures.get(INDICATED), reference=draft.reference if beside else 0.0,
            figures=tuple((name, value) for name, value in draft.figures.items() if name != INDICATED),
            read_as=draft.kind, word=draft.word(point), direction=draft.direction,
            standard=standard.entry.id if standard and point.needs_reference else "",
            reference_from=draft.reference_from if beside else "", means=draft.means, written=draft.written,
            reference_u=draft.captured[0] if captured else 0.0, reference_count=draft.captured[1] if captured else 0,
        )  # fmt: skip

    def stands(self, where: Placed | None) -> bool:
        """Whether the reference still stands as it was set once this reading is taken, where it was taken at the step in hand."""
        here = where is None or where.step is self.step
        return (
            here and self.is_set and self.draft.reference_from == "as set" and (not self.link or self.source_agrees)
        )


ENOUGH = 3  # points of a range, after which a further one is nothing that waits: common practice, no source


def is_read_enough(step: ProcedureStep, run: RunResult | None) -> bool:
    """Say whether a range was read at so many points that the walk need not stop where a further one is made."""
    if step.kind != "next" or step.point is None or run is None:
        return False
    of_range = step.point.key.rpartition("/")[0] + "/"
    return sum(key.startswith(of_range) for key in run.results) >= ENOUGH


def is_done(step: ProcedureStep, job: Job | None, read: bool) -> bool:
    """Say whether a step needs nothing more: it was `read`, or trimmed, or is calculated from others."""
    if step.kind == "next":
        return read
    if step.kind == "point" and step.point is not None:
        return read or kind_of(step.point).figured
    return job is not None and step.key in job.calibrate.done and agrees(job, step)


def pressed(step: ProcedureStep, job: Job, done: bool, moved: bool) -> Deed:
    """Say what the foot switch does at a step that is `done` or not, with a reading in hand that was `moved` or not."""
    if step.kind in ("point", "adjust", "next"):
        return "go on" if done and not moved else "take"
    if step.kind == "wait" and job.calibrate.timer_of(step.key) is None:
        return "wait"
    if step.kind == "check" and step.key not in job.calibrate.done:
        return "confirm"
    return "go on"


def read_step(in_hand: ReadingInHand) -> ProcedureStep:
    """Return the step that the reading in hand is of: it goes where what was applied says, not simply where the hand is."""
    try:
        found = in_hand.placed()
    except CandorError:
        return in_hand.step
    return found.step if found is not None else in_hand.step
