"""A tube tester of the shop as it stands: what its own calibration left of its scale, and what its chart says of a tube."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping

from candor.core.errors import CandorError
from candor.core.late_dataclass import dataclass
from candor.core.verdict.rules import Outcome
from candor.core.worded import worded
from candor.notebook.entries.tubes_entries import FigureUnit, TubeRecorded, TubeTested
from candor.notebook.standards.standards import Standard
from candor.notebook.store import Notebook
from candor.notebook.work.assessment import as_left_run, assess_run
from candor.notebook.work.evidence import evidence_of
from candor.notebook.work.job import Job, fold
from candor.packs.model import Function, Pack, Range
from candor.packs.pack_points import indicator_of
from candor.packs.steps import RollLine


@dataclass(frozen=True)
class Tester:
    """A tester for one type of tube.

    Attributes
    ----------
    name : str
    line : RollLine or None
        Of its chart; None where the type is not on it.
    unit : str
    full_scale, division : float
        Of the range the chart names, in the unit of the figure; 0 where it names none.
    scale_u : float or None
        Standard uncertainty of that range as its calibration left it; None where nothing was read.
    state : str
        Its calibration in words.
    settings : str
        What the chart has set.
    """

    name: str
    line: RollLine | None
    unit: FigureUnit
    full_scale: float
    division: float
    scale_u: float | None
    state: str
    settings: str

    def taken(self, test: TubeTested) -> TubeTested:
        """Return a test with what the tester was when it was taken."""
        if test.figure is None:
            return test.model_copy(update={"tester": test.tester or self.name})
        return test.model_copy(
            update={
                "tester": test.tester or self.name, "tester_state": self.state, "settings": self.settings, "scale_u": self.scale_u,
                "full_scale": self.full_scale, "division": self.division,
            }
        )  # fmt: skip


def is_tester(kind: str) -> bool:
    """Whether a kind of instrument tests tubes."""
    return kind.casefold().startswith("tube tester")


def tester_of(job: Job, pack: Pack, known: Mapping[str, Standard], tube: TubeRecorded, section: str = "") -> Tester:
    """Return a tester of the shop for a type of tube, as its calibration stands.

    The standard uncertainty of a range is that of its points' errors as they were left, taken as a rectangle about zero, with
    their own u beside it (JCGM 100, F.2.4.5: errors that are not corrected are in the uncertainty).
    """
    lines = [line for line in pack.roll if line.tube.casefold() == tube.type.casefold()]
    line = next((x for x in lines if x.section == section), lines[0] if lines else None)
    function = next((f for f in pack.functions if line is not None and f.key == line.function), None)
    range_ = next(
        (r for r in (function.ranges if function else ()) if line is not None and r.key == line.range), None
    )
    full_scale = range_.full_scale if range_ is not None else 0.0
    division = _division(pack, function, range_, tube.nominal or full_scale)
    scale_u, state = _state(job, pack, known, function, range_)
    unit: FigureUnit = "S" if function is not None and function.unit == "S" else "1"
    settings = ", ".join(f"{control} {position}" for control, position in (line.set if line else {}).items())
    name = f"{job.name}"
    return Tester(
        name=name,
        line=line,
        unit=unit,
        full_scale=full_scale,
        division=division,
        scale_u=scale_u,
        state=state,
        settings=settings,
    )


def _division(pack: Pack, function: Function | None, range_: Range | None, at: float) -> float:
    if function is None or range_ is None:
        return 0.0
    try:
        return indicator_of(pack, function, range_).division_at(min(at, range_.full_scale))
    except CandorError:
        return 0.0


def _state(
    job: Job, pack: Pack, known: Mapping[str, Standard], function: Function | None, range_: Range | None
) -> tuple[float | None, str]:
    if function is None or range_ is None:
        return None, worded("tubes.its_chart_does_not_name_the")
    job = evidence_of(job, known)
    found = assess_run(job, pack, known, "as found")
    left = as_left_run(job, pack, found, assess_run(job, pack, known, "as left"))
    start = f"{function.key}/{range_.key}/"
    read = [r for key, r in left.results.items() if key.startswith(start) and not r.remark]
    if not read:
        return None, worded("tubes.was_not_calibrated", title=range_.title)
    worst = max(abs(r.error) for r in read)
    own = math.sqrt(sum(r.budget.combined**2 for r in read) / len(read))
    day = max(reading.entry for r in read for reading in r.readings)
    when = next((e.at for e in job.entries if e.number == day), None)
    outcomes = {r.verdict.outcome for r in read}
    words = "fails" if Outcome.FAIL in outcomes else "cannot be told" if Outcome.CANNOT_TELL in outcomes else "passes"
    return math.hypot(worst / math.sqrt(3), own), f"{range_.title} read {when:%d %b %Y}, {words}" if when else words


def shop_testers(jobs: Iterable[Job], notebook: Notebook) -> tuple[tuple[str, str], ...]:
    """Return job and name of every tube tester among jobs."""
    return tuple((job.id, job.name) for job in jobs if is_tester(_kind_of(job, notebook)))


def _kind_of(job: Job, notebook: Notebook) -> str:
    digest = job.pack_digest
    return notebook.pack(digest).kind if digest else ""


def tester_for(
    notebook: Notebook, job_id: str, known: Mapping[str, Standard], tube: TubeRecorded, section: str
) -> Tester:
    """Return a tester by its job; see tester_of."""
    job = fold(job_id, notebook.entries_of(job_id))
    return tester_of(job, notebook.pack(job.pack_digest), known, tube, section)
