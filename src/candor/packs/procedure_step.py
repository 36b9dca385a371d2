"""One step of a procedure as it is done."""

from __future__ import annotations

from typing import Literal

from candor.core.calibration.point import TestPoint
from candor.core.late_dataclass import dataclass
from candor.packs.base import Caution
from candor.packs.model import ProcedurePhase
from candor.packs.steps import Adjuster, Expected, Load

StepKind = Literal["check", "wait", "point", "adjust", "next"]


@dataclass(frozen=True)
class ProcedureStep:
    """One step as it is done.

    Attributes
    ----------
    key : str
        Unique in the procedure; test points add phase and point to the pack's key.
    kind : StepKind
        "check", "wait", "point", "adjust", or "next": a further point of a range, which its reading says. Its `point` shows the
        range at full scale.
    section, section_key : str
    phase : str
    title, do, aim, mistake : str
        With placeholders filled in.
    cautions : tuple of Caution
        To be said before the step.
    row : str
        What the list of steps calls it: points of one range share a row.
    point : TestPoint or None
    seconds : float
        How long to wait; 0 where it is not a wait.
    trim : str
    uses : tuple of str
        Keys of adjusters and designators of parts that a point depends on; empty for everything.
    controls : tuple of (str, str)
        Control and position, as they stand at this step.
    changes : tuple of (str, str)
        Those that are other than at the step before.
    load : Load or None
        The meter that the procedure assumed.
    picture : bool
        A picture belongs to it.
    hold_at_most_s, hands_off_s : float
        How long it may last, and how long it is left alone before it is read; 0 where nothing is said.
    only_below : str
        What must be below what before the next step.
    repeat_until : float
        Of an adjustment: done again until two rounds agree within this share of the limit; 0 for once.
    expects : tuple of Expected
        What should happen by itself.
    needs : tuple of str
        What it needs of the room or the line.
    adjuster : Adjuster or None
        What an adjustment turns, where the pack has it as a thing.
    trims : tuple of str
        Names of the adjusters that a check turns, judged by a look alone: done, they count as turned.
    usual : bool
        Advice of its kind: nothing asks for it.
    line : float
        By which share the line is off from that at which the point was read before: -0.1 for 10 % below; 0 at any line.
    """

    key: str
    kind: StepKind
    section: str
    section_key: str
    phase: ProcedurePhase
    title: str
    do: str
    aim: str
    mistake: str
    cautions: tuple[Caution, ...]
    row: str
    point: TestPoint | None = None
    seconds: float = 0.0
    trim: str = ""
    uses: tuple[str, ...] = ()
    controls: tuple[tuple[str, str], ...] = ()
    changes: tuple[tuple[str, str], ...] = ()
    load: Load | None = None
    picture: bool = False
    hold_at_most_s: float = 0.0
    hands_off_s: float = 0.0
    only_below: str = ""
    repeat_until: float = 0.0
    expects: tuple[Expected, ...] = ()
    needs: tuple[str, ...] = ()
    adjuster: Adjuster | None = None
    trims: tuple[str, ...] = ()
    usual: bool = False
    line: float = 0.0

    @property
    def set_words(self) -> str:
        """What to set, only what changes: ``FUNCTION to OHMS, RANGE to R×10``; empty where nothing does."""
        return ", ".join(f"{control} to {position}" for control, position in self.changes)
