"""What is next of a job, as deeds for the plan: what each is, how long it takes the hands, what it needs, what then runs."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterable, Mapping, Sequence

from candor.core.late_dataclass import dataclass
from candor.core.parts.reasons import Action
from candor.core.plan.usual_times import Took, Work
from candor.core.power.live_limits import DRY
from candor.notebook.parts.parts_list import PartLine, PartsList
from candor.notebook.power.may_power import open_items
from candor.notebook.power.powering import held_at_full_line
from candor.notebook.standards.standard_choice import away_for, chosen_for
from candor.notebook.standards.standards import Standard
from candor.notebook.work.assessment import unfinished
from candor.notebook.work.barriers import missing_fasteners
from candor.notebook.work.job import Job
from candor.notebook.work.states import standing_certificate
from candor.packs.model import Pack
from candor.packs.procedure import ProcedureStep

SITTING = 90.0  # min: what is longer is done in several sittings, each with its own place in the day
WORTH_ITS_OWN = 30.0  # min: with less done, what is read against another standard joins the sitting, which holds both
REFORM_MIN, HELD_MIN, SOAK_MIN = 60, 30, 240  # what goes on by itself: usual, common practice, no source
BETWEEN = 8  # steps: the light is not turned up for so few
TRANSFORMER, TESTER = "variable transformer", "leakage tester"
ELECTROLYTICS = frozenset(("electrolytic",))


@dataclass(frozen=True)
class Ahead:
    """One deed that lies ahead of a job, before it has a place in the day.

    Attributes
    ----------
    key : str
        Which of the job's deeds it is: the same as long as it is the same deed.
    work : Work
    many : int
        How many of it: parts, steps.
    of : str
        What it is of: designators, a section of the procedure.
    runs : int
        Minutes that then go on by themselves.
    watched, never_last : bool
        As `core.plan.shop.Deed` has them.
    needs : tuple of str
    set_up : str
    not_before : date, optional
        When what it needs is back.
    """

    key: str
    work: Work
    many: int = 1
    of: str = ""
    runs: int = 0
    watched: bool = False
    never_last: bool = False
    needs: tuple[str, ...] = ()
    set_up: str = ""
    not_before: dt.date | None = None


def deeds_of(
    job: Job,
    pack: Pack,
    parts: PartsList | None,
    times: Mapping[Work, Took],
    known: Mapping[str, Standard],
    now: dt.datetime,
) -> tuple[Ahead, ...]:
    """Return what lies ahead of a job, in order: each after the one before it; nothing where its certificate stands."""
    if standing_certificate(job) is not None:
        return ()
    proven = held_at_full_line(job)
    reading = bool(job.calibrate.readings or job.calibrate.done)
    made: list[Ahead] = [*_arrive(job), *_parts(parts, times)]
    if job.stay.unproven:
        made.append(Ahead("prove", "prove", len(job.stay.unproven), never_last=True))
    if not (reading or proven or _no_mains(job)):
        made += _power(job, parts)
    steps = unfinished(job, pack, now)
    made += _read(steps, job, times, known, proven or _no_mains(job))
    if job.stay.changes and not job.soak.read:
        made.append(Ahead("soaking", "soaking", runs=SOAK_MIN, watched=not (proven or _no_mains(job))))
    made.append(Ahead("release", "release"))
    return tuple(made)


def _no_mains(job: Job) -> bool:
    return job.power.supply is not None and job.power.supply.body.no_mains


def _arrive(job: Job) -> Iterable[Ahead]:
    told = job.stay.told_by
    if not job.arrive.findings and all(number == told.get("opened") for number in told.values()):
        yield Ahead("walk", "walk")
    loose = (
        sum(f.open for f in job.arrive.findings) + len(missing_fasteners(job)) + (job.cleaning.untested is not None)
    )
    if loose:
        yield Ahead("settle", "settle", loose)


def _parts(parts: PartsList | None, times: Mapping[Work, Took]) -> Iterable[Ahead]:
    lines = parts.lines if parts is not None else ()
    open_ = [line for line in lines if line.action is Action.CANNOT_TELL and not line.fate]
    plain = [line.part.ref for line in open_ if not _reforms(line)]
    yield from _sittings("parts", "part", plain, times)
    for line in filter(_reforms, open_):
        # What it is charged to can kill above the live limits: then somebody is there as long as it runs.
        yield Ahead(
            f"reform {line.part.ref}", "reform", of=line.part.ref, runs=REFORM_MIN, watched=_is_live(line),
            never_last=_is_live(line), needs=(TESTER,),
        )  # fmt: skip
    yield from _sittings(
        "fit", "fit", [x.part.ref for x in lines if x.action is Action.REPLACE and not x.fate], times
    )


def _reforms(line: PartLine) -> bool:
    return line.part.kind == "capacitor" and line.part.make in ELECTROLYTICS


def _is_live(line: PartLine) -> bool:
    return not 0 < line.part.volts <= DRY.direct  # of which nothing is said counts as above


def _sittings(key: str, work: Work, refs: Sequence[str], times: Mapping[Work, Took]) -> Iterable[Ahead]:
    most = max(1, int(SITTING // times[work].minutes))
    for at, first in enumerate(range(0, len(refs), most)):
        some = refs[first : first + most]
        yield Ahead(f"{key} {at + 1}" if at else key, work, len(some), ", ".join(some))


def _power(job: Job, parts: PartsList | None) -> Iterable[Ahead]:
    if open_items(job, parts):
        yield Ahead("before power", "before power", of=str(len(open_items(job, parts))))
    yield Ahead("power up", "power up", runs=HELD_MIN, watched=True, never_last=True, needs=(TRANSFORMER,))


def _read(
    steps: Sequence[ProcedureStep],
    job: Job,
    times: Mapping[Work, Took],
    known: Mapping[str, Standard],
    proven: bool,
) -> list[Ahead]:
    """The steps to go, in sittings: a wait ends one, and so does another standard once it is worth its own, or SITTING."""
    made: list[Ahead] = []
    some: list[ProcedureStep] = []
    held: list[str] = []  # the standards of this sitting
    back: list[dt.date] = []  # when those of them that are away are expected

    def close(runs: int = 0) -> None:
        if some or runs:
            work: Work = "adjust" if some and all(s.trim or s.adjuster for s in some) else "step"
            section = some[0].section if some else ""
            made.append(
                Ahead(
                    f"read {some[0].key}" if some else f"wait {len(made)}",
                    work,
                    len(some),
                    section,
                    runs=runs,
                    watched=bool(runs) and not proven,
                    needs=(*held, *(needed if some else ())),
                    set_up=" ".join((*held, section)) if held else "",
                    not_before=max(back, default=None),
                )
            )
        some.clear()
        held.clear()
        back.clear()

    needed: tuple[str, ...] = ()
    for step, needs in zip(steps, _needs(steps), strict=True):
        if step.kind == "wait":
            close(round(step.seconds / 60))
            continue
        away = away_for(job, known, step.point) if step.point is not None else None
        back_on = away.back if away is not None else None
        standard = away or (chosen_for(job, known, step.point) if step.point is not None else None)
        if some and needs != needed:
            close()
        needed = needs
        name, so_far = standard.name if standard is not None else "", len(some) * times["step"].minutes
        waits = back_on is not None and name not in held
        if so_far >= SITTING or (name and held and name not in held and so_far >= WORTH_ITS_OWN) or (some and waits):
            close()  # what can be read today does not wait for what is away
        if name and name not in held:
            held.append(name)
        if back_on is not None:
            back.append(back_on)
        some.append(step)
    close()
    return made


def _needs(steps: Sequence[ProcedureStep]) -> list[tuple[str, ...]]:
    """Return what of room or line each step is done with: the few between two that need something are done with it."""
    found = [step.needs for step in steps]
    last: int | None = None
    for at, needs in enumerate(found):
        if not needs:
            continue
        if last is not None and found[last] == needs and at - last <= BETWEEN:
            found[last:at] = [needs] * (at - last)
        last = at
    return found


def hands_for(ahead: Ahead, times: Mapping[Work, Took]) -> tuple[int, float]:
    """Return the minutes of hands that a deed takes, the median, and the spread of their logarithm."""
    one = times[ahead.work]
    return max(1, round(one.minutes * ahead.many)) if ahead.many else 1, one.spread
