"""The states of a job: what each change opened, and to which state of its point a reading belongs.

A job begins in state 1. Every trim, part change, thing disturbed, clean-and-reseat opens the next; what the maker prescribes
before every use (mechanical and front zero) opens none. A change counts for the points that depend on what it changed, and
for all where nothing is said. Nothing of this is written: it follows from the entries, so old notebooks have it too.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import field
from functools import lru_cache
from operator import is_
from types import MappingProxyType
from typing import Literal, NamedTuple

from candor.core.late_dataclass import dataclass
from candor.core.worded import worded
from candor.notebook.entries.calibrate_entries import AdjustmentMade, Opening, TakenReading
from candor.notebook.entries.entry import Entry
from candor.notebook.entries.plan_entries import DeedPinned, Promised
from candor.notebook.entries.release_entries import CertificateIssued, SecondSignature
from candor.notebook.entries.stay_entries import CameIn, ChangeMade, PriceAgreed, Spent, StatusSet
from candor.notebook.work.job import Job
from candor.packs.model import Pack
from candor.packs.procedure import ProcedureStep, next_step, point_step, procedure

Readings = tuple[TakenReading, ...]
LINE_NEAR = 0.02  # of the line: as near as a variable transformer is turned to a mark by a meter
LINE_APART = 0.05  # of the line: what a line does by itself in a day is less; it is set 10 % up and down for this
# What is said of a job and is no work on it: where it stands, what it costs, what was promised, who signed too.
ABOUT_THE_JOB = (StatusSet, Spent, PriceAgreed, CameIn, SecondSignature, Promised, DeedPinned)
FirstWord = Literal["as found", "as received after repair", "first read after adjustment"]


@dataclass(frozen=True)
class FirstRead:
    """What the first reading of a point is, and what came before it.

    Attributes
    ----------
    word : "as found", "as received after repair" or "first read after adjustment"
    after : tuple of Opening
        The changes before it that touch the point, in order; none where it is as found.
    """

    word: FirstWord
    after: tuple[Opening, ...] = ()


@dataclass(frozen=True)
class States:
    """The readings of a job by what they say of each point.

    Attributes
    ----------
    found : mapping of point key to readings
        As found: of the first state of the point that was read before any adjuster of it was moved.
    left : mapping of point key to readings
        Of the last state of the point; only where it was read after a change, or once more as left.
    older : mapping of point key to readings
        The newest that are history: read as left or after a change, and something changed since.
    first : mapping of point key to FirstRead
        What the first reading of every point that was read is: as found only where nothing it depends on was changed before.
    waiting : mapping of point key to Opening
        Points that were read, and changed since: the newest change that voids them.
    changed : frozenset of str
        Points that something was changed for since they were first read.
    line : mapping of point key to readings
        Of the last state of the point, at another line than its first reading: how the line moves it, no repeats.
    base : mapping of point key to float
        The line at its first reading, V, where it was noted.
    """

    found: Mapping[str, Readings] = field(default_factory=dict)
    left: Mapping[str, Readings] = field(default_factory=dict)
    older: Mapping[str, Readings] = field(default_factory=dict)
    first: Mapping[str, FirstRead] = field(default_factory=dict)
    waiting: Mapping[str, Opening] = field(default_factory=dict)
    changed: frozenset[str] = frozenset()
    line: Mapping[str, Readings] = field(default_factory=dict)
    base: Mapping[str, float] = field(default_factory=dict)

    def readings(self, point: str, phase: str) -> Readings:
        """Return the readings that stand at a point in a phase."""
        return (self.left if phase == "as left" else self.found).get(point, ())

    def at_line(self, point: str, share: float) -> Readings:
        """Return the readings of a point at a line that is off by a share from that of its first reading."""
        return tuple(r for r in self.line.get(point, ()) if is_at(r.line_volts, self.base.get(point, 0.0), share))

    def step_is_read(self, point: str, phase: str) -> bool:
        """Say whether a step of the procedure needs no more reading: as left it does after every change."""
        return bool(self.readings(point, phase))


@dataclass(frozen=True)
class _Asked:
    """A job as it stands and its pack, known by the name of its last entry: what was sorted once is not sorted again."""

    last: str
    count: int
    readings: int
    digest: str
    job: Job = field(compare=False)
    pack: Pack = field(compare=False)


def is_apart(volts: float, base: float) -> bool:
    """Whether a line, V, is another than that of the first reading: the influence of the line is looked at, 5 % or more away."""
    return bool(volts and base) and abs(volts / base - 1) >= LINE_APART


def is_at(volts: float, base: float, share: float) -> bool:
    """Whether a line, V, is off by a share from another one, within LINE_NEAR."""
    return bool(volts and base) and abs(volts / base - 1 - share) <= LINE_NEAR


def _of_point(every: Readings, openings: tuple[Opening, ...]) -> _OfPoint:
    base = next((r.line_volts for r in every if r.line_volts), 0.0)
    readings = tuple(r for r in every if not is_apart(r.line_volts, base))
    found: Readings = ()
    older: Readings = ()
    waiting = None
    first = _first_valid(readings, openings)
    epochs = [(r, sum(o.place < r.place for o in openings)) for r in readings]
    if first is not None:
        found = tuple(r for r, epoch in epochs if epoch == first and (epoch or r.body.phase == "as found"))
    last, begun = len(openings), epochs[0][1]
    # Read first after an adjuster was moved, it is not a finding, but it is what the instrument is now.
    counts = last > begun or first is None
    left = tuple(r for r, epoch in epochs if epoch == last and (counts or r.body.phase == "as left"))
    if not left and last > begun:
        waiting = openings[-1]
        history = [(r, epoch) for r, epoch in epochs if epoch != first or r.body.phase == "as left"]
        older = tuple(r for r, epoch in history if epoch == history[-1][1])
    return _OfPoint(
        found=found,
        left=left,
        older=older,
        first=_first_read(readings[0], openings),
        waiting=waiting,
        changed=last > begun,
        line=tuple(
            r for r in every if is_apart(r.line_volts, base) and sum(o.place < r.place for o in openings) == last
        ),
        base=base,
    )


def states_of(job: Job, pack: Pack) -> States:
    """Sort the readings of a job into the states of their points."""
    last, read = job.entries[-1].id if job.entries else "", len(job.calibrate.readings)
    return _sorted(_Asked(last=last, count=len(job.entries), readings=read, digest=pack.digest, job=job, pack=pack))


@dataclass(frozen=True)
class _OfPoint:
    """One point of `States`."""

    found: Readings
    left: Readings
    older: Readings
    first: FirstRead
    waiting: Opening | None
    changed: bool
    line: Readings
    base: float


class _Last(NamedTuple):
    """What was sorted last of a job: where only readings were added since, the points they are of are sorted alone."""

    readings: Readings
    openings: tuple[Opening, ...]
    pack: Pack
    by_point: dict[str, Readings]
    states: States

    def began(self, readings: Readings, openings: tuple[Opening, ...], pack: Pack) -> bool:
        """Whether these go on from it: the same pack and changes, and all its readings, by identity, before any new one."""
        same = self.openings == openings and self.pack is pack and len(self.readings) <= len(readings)
        return same and all(map(is_, self.readings, readings))


_LAST: dict[str, _Last] = {}
_MOST = 8  # jobs whose sorting is kept: a window holds one, a paper or two gather others


@lru_cache(maxsize=8)
def _sorted(asked: _Asked) -> States:
    job, pack = asked.job, asked.pack
    readings, openings = tuple(job.calibrate.readings), tuple(job.calibrate.openings)
    last = _LAST.get(job.id)
    last = last if last is not None and last.began(readings, openings, pack) else None
    by_point = dict(last.by_point) if last else {}
    added = readings[len(last.readings) :] if last else readings
    states = _States(last.states if last else States())
    uses, adjusters = uses_of(pack), {a.name: a.every_use for a in pack.adjusters}
    by_key: dict[str, list[TakenReading]] = {}
    for reading in added:
        by_key.setdefault(reading.body.point, []).append(reading)
    for point, new in by_key.items():
        by_point[point] = (*by_point.get(point, ()), *new)
        used = uses.get(point, frozenset())
        states.put(point, _of_point(by_point[point], tuple(o for o in openings if _matters(o, used, adjusters))))
    if len(_LAST) >= _MOST:
        _LAST.clear()
    _LAST[job.id] = _Last(readings=readings, openings=openings, pack=pack, by_point=by_point, states=states.done())
    return _LAST[job.id].states


class _States:
    """States under way, from those of before."""

    def __init__(self, before: States) -> None:
        self.found, self.left, self.older = dict(before.found), dict(before.left), dict(before.older)
        self.first, self.waiting, self.changed = dict(before.first), dict(before.waiting), set(before.changed)
        self.line, self.base = dict(before.line), dict(before.base)

    def put(self, point: str, of: _OfPoint) -> None:
        """Take in what one point is now."""
        self.first[point] = of.first
        for where, kept in (
            (self.found, of.found),
            (self.left, of.left),
            (self.older, of.older),
            (self.line, of.line),
        ):
            where.pop(point, None)
            if kept:
                where[point] = kept
        self.base[point] = of.base
        self.changed.discard(point)
        if of.changed:
            self.changed.add(point)
        self.waiting.pop(point, None)
        if of.waiting is not None:
            self.waiting[point] = of.waiting

    def done(self) -> States:
        """Return them as they stand."""
        return States(
            found=MappingProxyType(self.found),
            left=MappingProxyType(self.left),
            older=MappingProxyType(self.older),
            first=MappingProxyType(self.first),
            waiting=self.waiting,
            changed=frozenset(self.changed),
            line=MappingProxyType(self.line),
            base=MappingProxyType(self.base),
        )


def _first_valid(readings: Iterable[TakenReading], openings: Sequence[Opening]) -> int | None:
    """Return the state of the first reading that no adjuster of its point was moved before, None where there is none."""
    for reading in readings:
        before = [o for o in openings if o.place < reading.place]
        if not any(o.trim for o in before):
            return len(before)
    return None


def _first_read(reading: TakenReading, openings: Sequence[Opening]) -> FirstRead:
    before = tuple(o for o in openings if o.place < reading.place)
    if not before:
        return FirstRead("as found")
    turned = tuple(o for o in before if o.trim)
    return (
        FirstRead("first read after adjustment", turned) if turned else FirstRead("as received after repair", before)
    )


def depends(job: Job, pack: Pack, point: str) -> tuple[Opening, ...]:
    """Return the changes of a job that touch a point, in order, whether it was read or not."""
    adjusters = {a.name: a.every_use for a in pack.adjusters}
    uses = uses_of(pack).get(point, frozenset())
    return tuple(o for o in job.calibrate.openings if _matters(o, uses, adjusters))


def _matters(opening: Opening, uses: frozenset[str], adjusters: Mapping[str, bool]) -> bool:
    """Say whether an opening touches a point: what names nothing, or nothing the pack knows, touches everything.

    What the maker has set before every use touches nothing: `adjusters` says of each by its name whether it is such a one.
    """
    moves = opening.moves
    if opening.trim:
        moves = frozenset(filter(None, (adjuster_named(m, adjusters) for m in moves)))
        if moves and all(adjusters[name] for name in moves):
            return False
    if not uses or not moves:
        return True
    return bool(moves & uses)


def left_instead(job: Job, pack: Pack, step: ProcedureStep) -> ProcedureStep | None:
    """Return the step as left that stands for one as found once something its point depends on was changed; None for itself."""
    if step.point is None or step.line or step.phase != "as found" or step.kind not in ("point", "next"):
        return None
    if not depends(job, pack, step.point.key):
        return None
    if step.kind == "next":
        function, range_ = step.point.key.split("/")[:2]
        return next_step(pack, function, range_, "as left")
    return point_step(pack, step.point.key, "as left")


def adjuster_named(text: str, adjusters: Iterable[str]) -> str:
    """Return the adjuster that some words name, the longest name that stands in them; nothing where none does."""
    folded = f" {' '.join(text.casefold().split())} "
    found = [name for name in adjusters if f" {name.casefold()} " in folded]
    return max(found, key=len, default="")


def trims_to_repeat(job: Job, pack: Pack) -> list[tuple[str, int]]:
    """Return a sentence, and the entry, for every trim that another was turned after which it hangs on."""
    names = {a.key: a.name for a in pack.adjusters}
    after = {a.name: [names[key] for key in a.after] for a in pack.adjusters}
    last = {e.body.trim: e.number for e in job.calibrate.adjustments}
    return [
        (worded("work.was_turned_after_was_set_which", first=first, trim=trim), last[first])
        for trim, number in last.items()
        for first in after.get(trim, ())
        if last.get(first, 0) > number
    ]


@lru_cache(maxsize=8)
def uses_of(pack: Pack) -> Mapping[str, frozenset[str]]:
    """Return what every test point depends on, by the names of adjusters and designators; empty for everything.

    A part that is a section of a can depends on the can.
    """
    names = {a.key: a.name for a in pack.adjusters}
    cans = {p.ref: p.can for p in pack.parts if p.can}
    found: dict[str, frozenset[str]] = {}
    for step in procedure(pack):
        if step.point is None or step.kind != "point":
            continue
        said = {names.get(use, use) for use in step.uses}
        said |= {cans[use] for use in step.uses if use in cans}
        found[step.point.key] = frozenset(said)
    return found


def words_of(opening: Opening) -> str:
    """Say what opened a state."""
    body = opening.entry.body
    if isinstance(body, AdjustmentMade):
        return f"{body.trim} was turned"
    return body.text if isinstance(body, ChangeMade) else ""


def say_first(states: States, name_of: Mapping[str, str]) -> list[tuple[str, int]]:
    """Return a sentence, and the entry it rests on, for the points whose first reading is not as found: which, after what.

    `name_of` says what each point is called.
    """
    groups: dict[tuple[str, tuple[Opening, ...]], list[str]] = {}
    for point, first in states.first.items():
        if first.after and point in name_of:
            groups.setdefault((first.word, first.after), []).append(name_of[point])
    said = []
    for (word, after), names in groups.items():
        which = ", ".join(names[:4]) + (f" and {len(names) - 4} more" if len(names) > 4 else "")
        what = "; ".join(f"{words_of(o)}, entry {o.entry.number}" for o in after[:3]) + (
            worded("work.and_more", after=len(after) - 3) if len(after) > 3 else ""
        )
        were = "was" if len(names) == 1 else "were"
        state = "as received after repair" if word == "as received after repair" else "first read after adjustment"
        said.append(
            (
                worded("work.first_read_after_a_change_not", which=which, were=were, what=what, state=state),
                after[-1].entry.number,
            )
        )
    return said


def standing_certificate(job: Job) -> Entry[CertificateIssued] | None:
    """Return the certificate signed last, where no entry came after it but where the job stands and what it cost."""
    if not job.release.certificates:
        return None
    last = job.release.certificates[-1]
    later = job.entries[job.entries.index(last) + 1 :]
    return last if all(isinstance(e.body, ABOUT_THE_JOB) for e in later) else None
