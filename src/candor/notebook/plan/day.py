"""The plan of the shop's days: every open job's next deeds put into the hours, and how its promise stands."""

from __future__ import annotations

import datetime as dt
import math
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field, replace
from typing import TypeVar

from candor.core.errors import CandorError
from candor.core.plan.in_order import Starts
from candor.core.plan.placed_why import Why, why_there
from candor.core.plan.promises import Promise, Rescue, promises, rescue
from candor.core.plan.replan import FREE_MOVES, replan
from candor.core.plan.shop import SLOT, Deed, misfits
from candor.core.plan.shop_hours import USUAL_HOURS, USUAL_SHARED, Opening, read_hours, read_shared, shop_from
from candor.core.plan.solve import plan
from candor.core.plan.usual_times import Took, Work
from candor.notebook.parts.parts_list import list_parts
from candor.notebook.plan.deeds_of_job import TESTER, TRANSFORMER, Ahead, deeds_of, hands_for
from candor.notebook.plan.learned_times import WORK_OF, times_of
from candor.notebook.shelf import ShelfLine, shelf
from candor.notebook.standards.standards import Standard, standards
from candor.notebook.store import Notebook
from candor.notebook.work.description import base_of, described
from candor.notebook.work.job import Job, fold
from candor.notebook.work.settings import Settings, settings_of

T = TypeVar("T")
DAYS = 14  # planned ahead, more where they do not hold it all
MOST_DAYS = 200
AT_HAND = dt.timedelta(minutes=20)  # since its last entry: so long the hands are still at a job


@dataclass(frozen=True)
class PlannedDeed:
    """A deed in its place.

    Attributes
    ----------
    key : str
        Of the job and the deed.
    job, name : str
        The instrument.
    work, of : str
        What it is.
    many : int
    begins : datetime
    hands, runs : int
        Minutes.
    watched : bool
    needs : tuple of str
    why : Why
    learned : int
        Sittings of this shop that its minutes rest on; 0 where they are what is usual.
    likely : tuple of (float, float)
        Two thirds of such sittings take so many minutes.
    """

    key: str
    job: str
    name: str
    work: Work
    of: str
    many: int
    begins: dt.datetime
    hands: int
    runs: int
    watched: bool
    needs: tuple[str, ...]
    why: Why
    learned: int
    likely: tuple[float, float]

    @property
    def hands_end(self) -> dt.datetime:
        """When the hands are free again."""
        return self.begins + dt.timedelta(minutes=self.hands)

    @property
    def ends(self) -> dt.datetime:
        """When it has run."""
        return self.hands_end + dt.timedelta(minutes=self.runs)


@dataclass(frozen=True)
class Unplanned:
    """A job, or a deed of it, that has no place: what it waits for, or why it fits into no day."""

    job: str
    name: str
    why: str
    deed: Work | None = None
    text: str = ""


@dataclass(frozen=True)
class Day:
    """The plan.

    Attributes
    ----------
    made, begins : datetime
        When it was made, and from when it counts its minutes.
    deeds : tuple of PlannedDeed
        By when they begin.
    promises : tuple of Promise
        The least likely first.
    rescues : mapping of job to Rescue
        Of those at risk.
    unplanned : tuple of Unplanned
    names : mapping of job to str
    open : tuple of (datetime, datetime)
    hands : int
    moved, besides : tuple of str
        What stands elsewhere than in the plan before: because it must, and because it is better so.
    """

    made: dt.datetime
    begins: dt.datetime
    deeds: tuple[PlannedDeed, ...] = ()
    promises: tuple[Promise, ...] = ()
    rescues: Mapping[str, Rescue] = field(default_factory=dict)
    unplanned: tuple[Unplanned, ...] = ()
    names: Mapping[str, str] = field(default_factory=dict)
    open: tuple[tuple[dt.datetime, dt.datetime], ...] = ()
    hands: int = 1
    moved: tuple[str, ...] = ()
    besides: tuple[str, ...] = ()

    def of_day(self, day: dt.date) -> tuple[PlannedDeed, ...]:
        """Return the deeds whose hands begin on a day, by the clock on the wall."""
        return tuple(d for d in self.deeds if d.begins.astimezone().date() == day)

    @property
    def starts(self) -> Mapping[str, dt.datetime]:
        """When each deed begins: what the next plan goes on from."""
        return {d.key: d.begins for d in self.deeds}


@dataclass(frozen=True)
class Seen:
    """What the plan rests on besides the jobs: the shop's details, its standards, how long work takes here."""

    details: Mapping[str, str]
    known: Mapping[str, Standard]
    times: Mapping[Work, Took]

    @property
    def settings(self) -> Settings:
        """What the shop has said for all its jobs."""
        return settings_of(self.details)

    @property
    def opening(self) -> Opening:
        """When the shop is open: as it said, else what is usual."""
        return _read(read_hours, self.details.get("hours", ""), read_hours(USUAL_HOURS))

    @property
    def hands(self) -> int:
        """How many pairs of hands there are."""
        text = self.details.get("hands", "").strip()
        return int(text) if text.isdigit() and 0 < int(text) < 100 else 1

    @property
    def things(self) -> Mapping[str, int]:
        """How many there are of each shared thing; of each standard there is one."""
        said = _read(read_shared, self.details.get("shared", ""), read_shared(USUAL_SHARED))
        return {TRANSFORMER: 1, TESTER: 1, **{s.name: 1 for s in self.known.values()}, **said}


def _read(read: Callable[[str], T], text: str, usual: T) -> T:
    try:
        return read(text) if text else usual
    except CandorError:
        return usual


def seen_in(notebook: Notebook) -> Seen:
    """Return what the plan of a notebook rests on."""
    from candor.notebook.entries.stay_entries import DetailWritten

    details = {e.body.field: e.body.text for e in notebook.entries_of("") if isinstance(e.body, DetailWritten)}
    rows = notebook.store.of_kinds(tuple(WORK_OF))
    return Seen(details, standards(notebook), times_of(rows))


@dataclass(frozen=True)
class _Open:
    """A job that lies before the shop."""

    line: ShelfLine
    job: Job
    ahead: tuple[Ahead, ...]
    not_before: dt.datetime


def plan_day(
    notebook: Notebook,
    now: dt.datetime,
    *,
    before: Mapping[str, dt.datetime] | None = None,
    is_outdated: Callable[[], bool] = lambda: False,
) -> Day:
    """Return the plan of a notebook's open jobs from a moment on.

    Parameters
    ----------
    notebook : Notebook
    now : datetime
    before : mapping of key to datetime, optional
        When each deed was to begin by the plan before: it is kept as far as it can be.
    is_outdated : callable
        Asked meanwhile: whether nobody waits for it any more.

    Raises
    ------
    NotebookError
        Where a pack cannot be read.
    PlanError
        Where the hours are too few.
    """
    seen = seen_in(notebook)
    begins = _on_grid(now)
    jobs, unplanned = _opened(notebook, seen, now)
    work = _Work(seen, begins, now, jobs)
    misfit = {m.deed.key: m for m in misfits(work.deeds, work.shop)}
    held = set(misfit) | _behind(work.deeds, set(misfit))
    deeds = [d for d in work.deeds if d.key not in held]
    unplanned += [
        Unplanned(m.deed.job, work.names[m.deed.job], m.why, work.ahead[m.deed.key].work, m.thing)
        for m in misfit.values()
    ]
    if before is not None and any(d.key in before for d in deeds):
        kept = {key: _minutes(at, begins) for key, at in before.items()}
        anew = replan(deeds, work.shop, work.promised, {k: max(m, 0) for k, m in kept.items()}, work.begun)
        starts, moved, besides = anew.starts, anew.moved, anew.besides
    else:
        starts = plan(deeds, work.shop, work.promised, begun=work.begun, is_outdated=is_outdated).starts
        moved, besides = (), ()
    told = promises(deeds, work.shop, work.promised, starts, is_outdated=is_outdated)
    risky = [p.job for p in told if p.standing != "kept"][:FREE_MOVES]
    return Day(
        made=now, begins=begins, deeds=work.placed(deeds, starts), promises=told,
        rescues={job: rescue(deeds, work.shop, work.promised, starts, job) for job in risky},
        unplanned=tuple(unplanned), names=work.names, hands=work.shop.hands, moved=moved, besides=besides,
        open=tuple((begins + dt.timedelta(minutes=a), begins + dt.timedelta(minutes=b)) for a, b in work.shop.open),
    )  # fmt: skip


def _on_grid(now: dt.datetime) -> dt.datetime:
    local = now.astimezone()
    return local.replace(minute=local.minute - local.minute % SLOT, second=0, microsecond=0)


def _minutes(at: dt.datetime, begins: dt.datetime) -> int:
    return math.floor((at - begins).total_seconds() / 60)


def _opened(notebook: Notebook, seen: Seen, now: dt.datetime) -> tuple[list[_Open], list[Unplanned]]:
    jobs: list[_Open] = []
    unplanned: list[Unplanned] = []
    for line in shelf(notebook, now):
        if line.group == "gone home":
            continue
        job = fold(line.job, notebook.entries_of(line.job))
        until = job.stay.status_until
        if job.unreadable:
            unplanned.append(Unplanned(line.job, line.name, "unreadable"))
        elif job.stay.status == "waiting" and until is None:
            unplanned.append(Unplanned(line.job, line.name, "waiting", text=job.stay.status_text))
        else:
            ends = [t.ends for t in line.timers if t.left(now) > 0]
            here = dt.datetime.combine(until, dt.time(), now.astimezone().tzinfo) if until is not None else now
            jobs.append(_Open(line, job, _ahead(notebook, job, seen, now), max(now, here, *ends)))
    return jobs, unplanned


def _ahead(notebook: Notebook, job: Job, seen: Seen, now: dt.datetime) -> tuple[Ahead, ...]:
    pack = described(job, base_of(notebook, job))
    settings = seen.settings
    parts = list_parts(job, pack, mains=settings.mains, esr_hertz=settings.esr_hertz)
    return deeds_of(job, pack, parts, seen.times, seen.known, now)


def _behind(deeds: Iterable[Deed], keys: set[str]) -> set[str]:
    """Return the deeds that come after some, near or far."""
    found: set[str] = set()
    for deed in deeds:  # each stands behind those it comes after
        if found.union(keys).intersection(deed.after):
            found.add(deed.key)
    return found


class _Work:
    """All that is to be planned, in minutes from the plan's beginning."""

    def __init__(self, seen: Seen, begins: dt.datetime, now: dt.datetime, jobs: Iterable[_Open]) -> None:
        self.names: dict[str, str] = {}
        self.ahead: dict[str, Ahead] = {}
        self.deeds: list[Deed] = []
        self.promised: dict[str, int] = {}
        self.begun: dict[str, int] = {}
        self.pinned: dict[str, int] = {}
        self._begins, self._times = begins, seen.times
        for opened in jobs:
            self._take(opened, now, seen.opening)
        days = DAYS
        self.shop = shop_from(seen.opening, begins, days, seen.hands, seen.things)
        needed = sum(d.hands for d in self.deeds) / max(seen.hands, 1) * 2 + sum(d.runs for d in self.deeds)
        while days < MOST_DAYS and sum(b - a for a, b in self.shop.open) < needed + max(
            (d.not_before for d in self.deeds), default=0
        ):
            days = min(MOST_DAYS, 2 * days)
            self.shop = shop_from(seen.opening, begins, days, seen.hands, seen.things)

    def _take(self, opened: _Open, now: dt.datetime, opening: Opening) -> None:
        job, after = opened.line.job, tuple[str, ...]()
        self.names[job] = f"{opened.line.name} {opened.line.serial}".strip()
        due = opened.job.plan.due
        if due is not None and opened.ahead:
            self.promised[job] = _minutes(_closing(due, opening, self._begins), self._begins)
        at_hand = bool(opened.job.entries) and now - opened.job.entries[-1].at < AT_HAND
        for place, ahead in enumerate(opened.ahead):
            key = f"{job} {ahead.key}"
            hands, spread = hands_for(ahead, self._times)
            pinned = opened.job.plan.pinned.get(ahead.key)
            self.ahead[key] = ahead
            self.deeds.append(
                Deed(
                    key=key,
                    job=job,
                    hands=hands,
                    runs=ahead.runs,
                    watched=ahead.watched,
                    needs=ahead.needs,
                    after=after,
                    not_before=max(0, _minutes(opened.not_before, self._begins) if not place else 0),
                    never_last=ahead.never_last,
                    set_up=ahead.set_up,
                    spread=spread,
                )
            )
            after = (key,)
            if place == 0 and at_hand and not opened.line.timers:
                self.begun[key] = 0
            elif pinned is not None and pinned >= now:
                self.pinned[key] = _minutes(pinned, self._begins)
                self.deeds[-1] = replace(self.deeds[-1], not_before=self.pinned[key])

    def placed(self, deeds: Iterable[Deed], starts: Starts) -> tuple[PlannedDeed, ...]:
        """Return the deeds in their places, with why."""
        whys = why_there(tuple(deeds), self.shop, starts, self.begun, self.pinned)
        made = [self._placed(deed, starts[deed.key], whys[deed.key]) for deed in deeds]
        return tuple(sorted(made, key=lambda d: (d.begins, d.key)))

    def _placed(self, deed: Deed, at: int, why: Why) -> PlannedDeed:
        ahead = self.ahead[deed.key]
        one = self._times[ahead.work]
        return PlannedDeed(
            key=deed.key, job=deed.job, name=self.names[deed.job], work=ahead.work, of=ahead.of, many=ahead.many,
            begins=self._begins + dt.timedelta(minutes=at), hands=deed.hands, runs=deed.runs, watched=deed.watched,
            needs=deed.needs, why=why, learned=one.count, likely=one.likely(max(ahead.many, 1)),
        )  # fmt: skip


def _closing(day: dt.date, opening: Opening, begins: dt.datetime) -> dt.datetime:
    """Return when the shop shuts on a day; where it does not open, the last time before that it does."""
    for back in range(7):
        date = day - dt.timedelta(days=back)
        spans = opening.days[date.weekday()]
        if spans:
            return dt.datetime.combine(date, dt.time(), begins.tzinfo) + dt.timedelta(minutes=spans[-1][1])
    return dt.datetime.combine(day, dt.time(), begins.tzinfo)
