"""The plan made: every open job's next deeds put into the shop's hours, and how its promise stands."""

from __future__ import annotations

import datetime as dt
import math
from collections.abc import Callable, Iterable, Mapping
from dataclasses import replace
from typing import TypeVar

from candor.core.errors import CandorError
from candor.core.late_dataclass import dataclass
from candor.core.plan.in_order import Starts, ready_at
from candor.core.plan.keeping_promises import plan_to_keep
from candor.core.plan.placed_why import Why, why_there
from candor.core.plan.promise_risk import promises, rescue
from candor.core.plan.replan import FREE_MOVES, replan
from candor.core.plan.shop import SLOT, Deed, Shop, misfits
from candor.core.plan.shop_hours import USUAL_HOURS, USUAL_SHARED, Opening, Shared, open_from, read_hours, read_shared
from candor.core.plan.usual_times import Took, Work
from candor.notebook.entries.shop_entries import shop_record
from candor.notebook.entries.standing_entries import Standing
from candor.notebook.parts.parts_list import list_parts
from candor.notebook.plan.checks_due import checks_due
from candor.notebook.plan.day import Day, JobTime, PlannedDeed, Unplanned
from candor.notebook.plan.deeds_of_job import TESTER, TRANSFORMER, Ahead, deeds_of, hands_for
from candor.notebook.plan.job_time import job_time
from candor.notebook.plan.learned_times import WORK_OF, times_of
from candor.notebook.shelf import ShelfLine, shelf
from candor.notebook.standards.standards import Standard, standards
from candor.notebook.storage.rows import Row
from candor.notebook.store import Notebook
from candor.notebook.work.description import base_of, described
from candor.notebook.work.job import Job, fold
from candor.notebook.work.settings import Settings, settings_of
from candor.notebook.work.states import ABOUT_THE_JOB

T = TypeVar("T")
STANDARD = "standard:"  # before the key of a standard, where a deed is of one and of no job
DAYS = 14  # planned ahead, more where they do not hold it all
MOST_DAYS = 450
FARTHEST = 366  # days ahead that a job may wait for, or a deed be put by hand
AT_HAND = dt.timedelta(minutes=20)  # since its last entry: so long the hands are still at a job


@dataclass(frozen=True)
class Seen:
    """What the plan rests on besides the jobs: the shop's details, its standards, how long work takes here."""

    details: Mapping[str, str]
    known: Mapping[str, Standard]
    times: Mapping[Work, Took]
    rows: tuple[Row, ...] = ()

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
        return {TRANSFORMER: 1, TESTER: 1, **{s.name: 1 for s in self.known.values()}, **self._shared.many}

    @property
    def when(self) -> Mapping[str, Opening]:
        """When there is what is not there always: dim light, a quiet line."""
        return self._shared.when

    @property
    def _shared(self) -> Shared:
        return _read(read_shared, self.details.get("shared", ""), read_shared(USUAL_SHARED))


def _read(read: Callable[[str], T], text: str, usual: T) -> T:
    try:
        return read(text) if text else usual
    except CandorError:
        return usual


def seen_in(notebook: Notebook) -> Seen:
    """Return what the plan of a notebook rests on."""
    details = shop_record(Standing(notebook.entries_of(""))).details
    rows = notebook.store.of_kinds(tuple(WORK_OF))
    return Seen(details, standards(notebook), times_of(rows), tuple(rows))


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
        Where the notebook cannot be read.
    PlanError
        Where the hours are too few.
    """
    seen = seen_in(notebook)
    begins = _on_grid(now)
    jobs, unplanned = _opened(notebook, seen, now)
    work = _Work(seen, begins=begins, now=now, jobs=jobs, checks=checks_due(notebook, seen.known, now))
    misfit = {m.deed.key: m for m in misfits(work.deeds, work.shop)}
    held = set(misfit) | _behind(work.deeds, set(misfit))
    deeds = [d for d in work.deeds if d.key not in held]
    unplanned += [
        Unplanned(
            job=m.deed.job, name=work.names[m.deed.job], why=m.why, deed=work.ahead[m.deed.key].work, text=m.thing
        )
        for m in misfit.values()
    ]
    stood = {key: max(_minutes(at, begins), 0) for key, at in before.items()} if before is not None else {}
    stood = {d.key: stood[d.key] for d in deeds if d.key in stood}
    fixed = {key: at for key, at in (work.pinned | work.begun).items() if key not in held}
    while True:
        if stood:
            anew = replan(deeds, work.shop, work.promised, stood, fixed)
            starts, moved, besides = anew.starts, anew.moved, anew.besides
            told = promises(deeds, work.shop, work.promised, starts, is_outdated=is_outdated)
        else:
            kept = plan_to_keep(deeds, work.shop, work.promised, begun=fixed, is_outdated=is_outdated)
            starts, told, moved, besides = kept.planned.starts, kept.promises, (), ()
        by_key = {d.key: d for d in deeds}
        early = [k for k in fixed if k in work.pinned and starts[k] < ready_at(by_key[k], starts, by_key)]
        if not early:
            break
        fixed = {key: at for key, at in fixed.items() if key not in early}  # what comes before it is not over by then
    risky = [p.job for p in told if p.standing != "kept"][:FREE_MOVES]
    return Day(
        made=now, begins=begins, deeds=work.placed(deeds, starts), promises=told,
        rescues={job: rescue(deeds, work.shop, work.promised, starts, job) for job in risky},
        unplanned=tuple(unplanned), names=work.names, times=_times(notebook, jobs, seen),
        hands=work.shop.hands, moved=moved, besides=besides,
        open=tuple((begins + dt.timedelta(minutes=a), begins + dt.timedelta(minutes=b)) for a, b in work.shop.open),
    )  # fmt: skip


def _times(notebook: Notebook, jobs: Iterable[_Open], seen: Seen) -> Mapping[str, JobTime]:
    """Return the hours of every open job, beside those of its type that are over."""
    over: dict[str, list[str]] = {}
    for line in shelf(notebook, notebook.clock()):
        if line.group == "gone home":
            over.setdefault(line.name, []).append(line.job)
    return {x.line.job: job_time(x.job, x.ahead, seen.times, seen.rows, over.get(x.line.name, ())) for x in jobs}


def _last_at(opened: _Open) -> dt.datetime:
    """Return when somebody was last at a job: what is only said of it, on the shelf or to its owner, is no work on it."""
    worked = [e.at for e in opened.job.entries if not isinstance(e.body, ABOUT_THE_JOB)]
    return max(worked, default=opened.job.entries[0].at)


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
        elif until is not None and (until - now.date()).days > FARTHEST:
            unplanned.append(Unplanned(line.job, line.name, "far", text=f"{until:%d %b %Y}"))
        elif job.stay.status == "waiting" and until is None:
            unplanned.append(Unplanned(line.job, line.name, "waiting", text=job.stay.status_text))
        else:
            ends = [t.ends for t in line.timers if t.left(now) > 0]
            here = dt.datetime.combine(until, dt.time(), now.astimezone().tzinfo) if until is not None else now
            try:
                ahead = _ahead(notebook, job, seen, now)
            except CandorError:  # its pack cannot be read: the others are planned all the same
                unplanned.append(Unplanned(line.job, line.name, "unreadable"))
                continue
            jobs.append(_Open(line, job, ahead, max(now, here, *ends)))
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

    def __init__(
        self, seen: Seen, begins: dt.datetime, now: dt.datetime, jobs: Iterable[_Open], checks: Mapping[str, Ahead]
    ) -> None:
        self.names: dict[str, str] = {}
        self.ahead: dict[str, Ahead] = {}
        self.deeds: list[Deed] = []
        self.promised: dict[str, int] = {}
        self.begun: dict[str, int] = {}
        self.pinned: dict[str, int] = {}
        self._begins, self._times = begins, seen.times
        opened_jobs = tuple(jobs)
        ready = [x for x in opened_jobs if x.not_before <= now]
        newest = sorted(ready, key=_last_at, reverse=True)[: seen.hands]
        at_hand = {x.line.job for x in newest if now - _last_at(x) < AT_HAND}
        for opened in opened_jobs:
            self._take(opened, now, seen.opening, at_hand)
        for of, check in checks.items():
            self._take_check(of, check)
        # From the last day that something waits for on, hours enough for all there is, twice over.
        waits = max((d.not_before for d in self.deeds), default=0)
        needed = 2 * sum(d.hands for d in self.deeds) / max(seen.hands, 1) + sum(d.runs for d in self.deeds)
        days = DAYS + waits // (24 * 60)
        spans = open_from(seen.opening, begins, days)
        while days < MOST_DAYS and sum(b - a for a, b in spans if a >= waits) < needed:
            days = min(MOST_DAYS, 2 * days)
            spans = open_from(seen.opening, begins, days)
        when = {thing: open_from(opening, begins, days) for thing, opening in seen.when.items()}
        self.shop = Shop(spans, seen.hands, seen.things, when)

    def _take(self, opened: _Open, now: dt.datetime, opening: Opening, at_hand: set[str]) -> None:
        job, after = opened.line.job, tuple[str, ...]()
        self.names[job] = f"{opened.line.name} {opened.line.serial}".strip()
        due = opened.job.plan.due
        if due is not None and opened.ahead:
            self.promised[job] = _minutes(_closing(due, opening, self._begins), self._begins)
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
                    not_before=max(
                        0, _minutes(opened.not_before, self._begins) if not place else 0, self._back(ahead)
                    ),
                    never_last=ahead.never_last,
                    set_up=ahead.set_up,
                    spread=spread,
                )
            )
            after = (key,)
            if pinned is not None and now <= pinned <= now + dt.timedelta(days=FARTHEST):
                self.pinned[key] = _minutes(pinned, self._begins)
                self.deeds[-1] = replace(self.deeds[-1], not_before=self.pinned[key])
            elif place == 0 and job in at_hand and not opened.line.timers:
                self.begun[key] = 0

    def _back(self, ahead: Ahead) -> int:
        """Return when what a deed needs is back, in minutes from the plan's beginning."""
        if ahead.not_before is None:
            return 0
        return _minutes(dt.datetime.combine(ahead.not_before, dt.time(), self._begins.tzinfo), self._begins)

    def _take_check(self, of: str, check: Ahead) -> None:
        """A check of a standard is a job of its own."""
        key, (hands, spread) = f"{STANDARD}{of} {check.key}", hands_for(check, self._times)
        self.names[f"{STANDARD}{of}"], self.ahead[key] = check.needs[0], check
        self.deeds.append(Deed(key=key, job=f"{STANDARD}{of}", hands=hands, needs=check.needs, spread=spread))

    def placed(self, deeds: Iterable[Deed], starts: Starts) -> tuple[PlannedDeed, ...]:
        """Return the deeds in their places, with why."""
        stands = {key: at for key, at in self.pinned.items() if starts.get(key) == at}
        whys = why_there(tuple(deeds), self.shop, starts, self.begun, stands)
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
