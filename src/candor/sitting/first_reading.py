"""Before the first change of a job that was never read: what is lost, and what could still be read, now or cold."""

from __future__ import annotations

from collections.abc import Iterable

from candor.core.late_dataclass import dataclass
from candor.core.worded import worded
from candor.notebook.entries.body import Body
from candor.notebook.entries.calibrate_entries import AdjustmentMade
from candor.notebook.entries.stay_entries import ChangeMade
from candor.notebook.parts.parts_list import PartsList
from candor.notebook.work.barriers import barrier
from candor.notebook.work.job import Job
from candor.notebook.work.states import uses_of
from candor.packs.model import Pack
from candor.packs.procedure import ProcedureStep, procedure

A_READING_MIN = 1.0  # minutes that one takes, set and read: common practice, no source
COLD = worded("sitting.cold_the_pointer_s_rest_mechanical")


@dataclass(frozen=True)
class FirstReading:
    """What is asked before the first change, once.

    Attributes
    ----------
    lost : str
        What nobody can say any more after it.
    steps : tuple of ProcedureStep
        What could be read now: zero, middle and full scale of what the change would void; none where power is barred.
    minutes : float
        How long that takes, warm-up included.
    bar : str
        Why no more than what can be read cold; empty where nothing bars power.
    """

    lost: str
    steps: tuple[ProcedureStep, ...] = ()
    minutes: float = 0.0
    bar: str = ""

    @property
    def words(self) -> str:
        """What is lost and what could be read, in sentences."""
        if self.bar:
            return worded("sitting.no_more_than_that_now", lost=self.lost, cold=COLD, bar=self.bar)
        if not self.steps:
            return worded("sitting.write_a_range_first_at_calibrate", lost=self.lost)
        by_range: dict[str, list[str]] = {}
        for step in self.steps:
            if step.point is not None:
                by_range.setdefault(f"{step.point.function} {step.point.range_name}", []).append(step.point.applied)
        names = "; ".join(f"{name} at {', '.join(dict.fromkeys(values))}" for name, values in by_range.items())
        return worded("sitting.zero_middle_and_full_scale_of", lost=self.lost, minutes=self.minutes, names=names)


def first_reading(
    job: Job, pack: Pack | None, parts: PartsList | None, bodies: Iterable[Body]
) -> FirstReading | None:
    """Return what is to be asked before entries are written; None where nothing is: nothing is changed, or it is not the first.

    Asked is once, of a job with no reading: not where it arrived dead, nor where somebody said to go on without.
    """
    changes = [b for b in bodies if isinstance(b, ChangeMade | AdjustmentMade)]
    seen = job.calibrate
    if not changes or seen.readings or seen.openings or seen.inoperative or seen.waived or job.stay.opened is None:
        return None
    lost = worded("sitting.nothing_has_been_read_as_found")
    bar = barrier(job, parts)
    if bar is not None:
        return FirstReading(lost, bar=bar.sentence)
    steps = _worth_reading(pack, changes) if pack is not None else ()
    warm_up = (
        sum(s.seconds for s in procedure(pack) if s.kind == "wait" and s.phase == "preparation") / 60 if pack else 0.0
    )
    return FirstReading(lost, steps, warm_up + A_READING_MIN * len(steps))


def _worth_reading(pack: Pack, changes: list[ChangeMade | AdjustmentMade]) -> tuple[ProcedureStep, ...]:
    """Of each function that the change touches the lowest, the middle and the highest point of the range it reads first."""
    uses = uses_of(pack)
    moved = {b.trim if isinstance(b, AdjustmentMade) else b.turned or b.part or b.touches for b in changes}
    by_range: dict[str, list[ProcedureStep]] = {}
    for step in procedure(pack):
        if step.kind == "point" and step.phase == "as found" and step.point and not step.point.formula.text:
            needs = uses.get(step.point.key, frozenset())
            if not needs or "" in moved or moved & needs or not moved & frozenset().union(*uses.values()):
                by_range.setdefault(step.point.key.rsplit("/", 1)[0], []).append(step)
    found: dict[str, tuple[ProcedureStep, ...]] = {}
    for key, steps in by_range.items():
        rising = sorted(steps, key=lambda s: s.point.nominal if s.point else 0.0)
        few = dict.fromkeys((rising[0], rising[len(rising) // 2], rising[-1]))
        found.setdefault(key.split("/")[0], tuple(few))
    return tuple(step for steps in found.values() for step in steps)
