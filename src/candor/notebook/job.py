"""The fold: from a job's entries to the job as it stands."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from types import MappingProxyType

from candor.core.jot.meaning import Mark
from candor.core.reading.dial import NeedleReading
from candor.core.verdict.rules import Rule
from candor.notebook.entries import (
    AdjustmentMade,
    ArrivedDead,
    CertificateIssued,
    ChangeMade,
    ChangeProven,
    ConditionNoted,
    DetailWritten,
    Entry,
    FindingNoted,
    FindingSettled,
    ItemLookedAt,
    JobOpened,
    NoteWritten,
    PhotoAdded,
    PutBack,
    ReadingTaken,
    RuleChosen,
    StandardChosen,
    Status,
    StatusSet,
    StepDone,
    StepSkipped,
    Struck,
    TakenOff,
    TimerStarted,
    Unstruck,
)
from candor.notebook.parts_record import PartsGathered, PartsRecord


@dataclass(frozen=True)
class Finding:
    """A finding with its photos and, where it was settled, how and why."""

    entry: Entry
    zone: str
    mark: Mark
    text: str
    photos: tuple[str, ...] = ()
    settled: str = ""
    reason: str = ""

    @property
    def open(self) -> bool:
        """Whether a hazard or fix still stands."""
        return self.mark != "note" and not self.settled


@dataclass(frozen=True)
class Taken:
    """A step of the take-apart map, with its photos and, where it was put back, the entry that says so."""

    entry: Entry
    body: TakenOff
    photos: tuple[str, ...] = ()
    back: Entry | None = None

    @property
    def count(self) -> int:
        """How many fasteners came off."""
        return sum(f.count for f in self.body.fasteners)


@dataclass(frozen=True)
class Timer:
    """A wait that was started."""

    entry: Entry
    step: str
    label: str
    ends: dt.datetime

    def left(self, now: dt.datetime) -> float:
        """Return the seconds that are left, 0 where it is over."""
        return max((self.ends - now).total_seconds(), 0.0)


@dataclass(frozen=True)
class TakenReading:
    """A reading with what stood when it was taken: later entries and strikes do not change it.

    Attributes
    ----------
    entry : Entry
    body : ReadingTaken
    place : int
        Among the job's entries, in order.
    noted : mapping of str to Entry
        The conditions of room and line that had been noted by then, and not struck.
    """

    entry: Entry
    body: ReadingTaken
    place: int
    noted: Mapping[str, Entry] = field(default_factory=dict)

    @property
    def celsius(self) -> float | None:
        """The room then, None where it was not noted before."""
        entry = self.noted.get("celsius")
        return entry.body.value if entry else None

    def needle(self) -> NeedleReading:
        """Return it as the core knows readings."""
        return NeedleReading(self.body.indicated, self.body.reference, self.body.direction, self.entry.number)


@dataclass(frozen=True)
class Opening:
    """What opened a state of the instrument.

    Attributes
    ----------
    entry : Entry
    place : int
        Among the job's entries, in order.
    moves : frozenset of str
        The adjuster or the part by name; empty where it may be anything.
    trim : bool
        An adjuster was moved.
    """

    entry: Entry
    place: int
    moves: frozenset[str]
    trim: bool


@dataclass(frozen=True)
class Job:
    """A job as its entries leave it. Struck entries count for nothing but stay in `entries`.

    `told_by` holds the number of the entry that a detail (or "opened", "rule") comes from; `openings` what opened each
    state after the first; `inoperative` that it arrived dead.
    """

    id: str
    entries: tuple[Entry, ...]
    struck: frozenset[str]
    opened: dt.datetime | None = None
    maker: str = ""
    type: str = ""
    pack_digest: str = ""
    details: Mapping[str, str] = field(default_factory=dict)
    told_by: Mapping[str, int] = field(default_factory=dict)
    findings: tuple[Finding, ...] = ()
    looked: Mapping[tuple[str, str], Entry] = field(default_factory=dict)
    taken: tuple[Taken, ...] = ()
    done: Mapping[str, Entry] = field(default_factory=dict)
    skipped: Mapping[str, tuple[str, Entry]] = field(default_factory=dict)
    timers: tuple[Timer, ...] = ()
    readings: tuple[TakenReading, ...] = ()
    openings: tuple[Opening, ...] = ()
    inoperative: Entry | None = None
    adjustments: tuple[Entry, ...] = ()
    conditions: Mapping[str, tuple[float, Entry]] = field(default_factory=dict)
    rule: Rule = Rule.GUARDED
    standard: str = ""
    changes: tuple[Entry, ...] = ()
    proofs: Mapping[str, Entry] = field(default_factory=dict)
    notes: tuple[Entry, ...] = ()
    status: Status = "wants hands"
    status_text: str = ""
    certificates: tuple[Entry, ...] = ()
    parts: PartsRecord = field(default_factory=PartsRecord)

    @property
    def name(self) -> str:
        """Maker and type of the instrument."""
        return f"{self.maker} {self.type}".strip()

    @property
    def serial(self) -> str:
        """Serial number, or an empty string."""
        return self.details.get("serial", "")

    @property
    def open_hazards(self) -> tuple[Finding, ...]:
        """Hazards that were neither cleared nor overridden."""
        return tuple(f for f in self.findings if f.mark == "hazard" and f.open)

    @property
    def overridden(self) -> tuple[Finding, ...]:
        """Findings overridden with a reason."""
        return tuple(f for f in self.findings if f.settled == "overridden")

    @property
    def unproven(self) -> tuple[Entry, ...]:
        """Changes that no check has proven yet, the newest last."""
        return tuple(e for e in self.changes if e.id not in self.proofs)

    @property
    def fasteners_off(self) -> int:
        """How many fasteners are off and not back."""
        return sum(t.count for t in self.taken if t.back is None)

    @property
    def left_over(self) -> int:
        """How many fasteners found no place when their step was put back."""
        return sum(t.back.body.left_over for t in self.taken if t.back is not None)

    def timer_of(self, step: str) -> Timer | None:
        """Return the last timer started for a step."""
        return next((t for t in reversed(self.timers) if t.step == step), None)

    def may_strike(self, entry: Entry) -> bool:
        """Say whether an entry can be struck: all but strikes, the opening and a signed certificate."""
        return _strikable(entry)

    def last_standing(self) -> Entry | None:
        """Return the newest entry that could be struck."""
        return next(
            (e for e in reversed(self.entries) if e.id not in self.struck and _strikable(e)),
            None,
        )

    def last_struck(self) -> Entry | None:
        """Return the entry struck last that is still struck."""
        for entry in reversed(self.entries):
            if isinstance(entry.body, Struck) and entry.body.target in self.struck:
                return next(e for e in self.entries if e.id == entry.body.target)
        return None


def _strikable(entry: Entry) -> bool:
    return not isinstance(entry.body, Struck | Unstruck | JobOpened | CertificateIssued)


def struck_ids(entries: Iterable[Entry]) -> frozenset[str]:
    """Return the ids of entries that are struck: the last word on each counts."""
    struck: dict[str, bool] = {}
    for entry in entries:
        if isinstance(entry.body, Struck):
            struck[entry.body.target] = True
        elif isinstance(entry.body, Unstruck):
            struck[entry.body.target] = False
    return frozenset(target for target, is_struck in struck.items() if is_struck)


def fold(job: str, entries: Iterable[Entry], until: dt.datetime | None = None) -> Job:
    """Fold a job's entries, in order, into the job.

    Parameters
    ----------
    job : str
        Its id.
    entries : iterable of Entry
        All of them; strikes are found among them.
    until : datetime, optional
        The job as it stood at that moment.
    """
    kept = tuple(e for e in entries if until is None or e.at <= until)
    struck = struck_ids(kept)
    found = _Gathered()
    room = _Room()
    for place, entry in enumerate(kept):
        room.take(entry)
        if entry.id not in struck:
            found.place, found.noted = place, room.noted
            found.take(entry)
    return found.job(job, kept, struck)


class _Room:
    """What had been noted of room and line at each moment: a strike counts from when it was made."""

    def __init__(self) -> None:
        self._entries: list[Entry] = []
        self._struck: set[str] = set()
        self.noted: Mapping[str, Entry] = {}

    def take(self, entry: Entry) -> None:
        match entry.body:
            case ConditionNoted():
                self._entries.append(entry)
            case Struck() as body:
                self._struck.add(body.target)
            case Unstruck() as body:
                self._struck.discard(body.target)
            case _:
                return
        self.noted = {e.body.which: e for e in self._entries if e.id not in self._struck}


class _Gathered:
    """What has been gathered of a job so far; lives only while a fold runs."""

    def __init__(self) -> None:
        self.opened: Entry | None = None
        self.details: dict[str, str] = {}
        self.told_by: dict[str, int] = {}
        self.findings: dict[str, Entry] = {}
        self.photos: dict[str, list[str]] = {}
        self.settled: dict[str, FindingSettled] = {}
        self.looked: dict[tuple[str, str], Entry] = {}
        self.taken: dict[str, Entry] = {}
        self.back: dict[str, Entry] = {}
        self.done: dict[str, Entry] = {}
        self.skipped: dict[str, tuple[str, Entry]] = {}
        self.timers: list[Timer] = []
        self.readings: list[TakenReading] = []
        self.openings: list[Opening] = []
        self.place = 0
        self.noted: Mapping[str, Entry] = {}
        self.inoperative: Entry | None = None
        self.adjustments: list[Entry] = []
        self.conditions: dict[str, tuple[float, Entry]] = {}
        self.rule = Rule.GUARDED
        self.standard = ""
        self.changes: list[Entry] = []
        self.proofs: dict[str, Entry] = {}
        self.notes: list[Entry] = []
        self.status: StatusSet | None = None
        self.certificates: list[Entry] = []
        self.parts = PartsGathered()

    def take(self, entry: Entry) -> None:
        match entry.body:
            case ReadingTaken() as body:
                self.readings.append(TakenReading(entry, body, self.place, self.noted))
                self.skipped.pop(body.step, None)
            case JobOpened() as body:
                self.opened = entry
                self.details["serial"] = body.serial
                self.told_by.update(opened=entry.number, serial=entry.number)
            case DetailWritten() as body:
                self.details[body.field] = body.text
                self.told_by[body.field] = entry.number
            case FindingNoted():
                self.findings[entry.id] = entry
            case PhotoAdded() as body:
                self.photos.setdefault(body.finding, []).append(body.file)
            case FindingSettled() as body:
                self.settled[body.finding] = body
            case StepDone() as body:
                self.done[body.step] = entry
                self.skipped.pop(body.step, None)
            case StepSkipped() as body:
                self.skipped[body.step] = (body.reason, entry)
            case TimerStarted() as body:
                ends = entry.at + dt.timedelta(seconds=body.seconds)
                self.timers.append(Timer(entry, body.step, body.label, ends))
            case _:
                self._take_rest(entry)

    def _take_rest(self, entry: Entry) -> None:
        match entry.body:
            case ItemLookedAt() as body:
                self.looked[body.zone, body.item] = entry
            case TakenOff():
                self.taken[entry.id] = entry
            case PutBack() as body:
                self.back[body.step] = entry
            case AdjustmentMade() as body:
                self.adjustments.append(entry)
                self.openings.append(Opening(entry, self.place, frozenset({body.trim}), trim=True))
                self.done[body.step] = entry
            case ConditionNoted() as body:
                self.conditions[body.which] = (body.value, entry)
            case RuleChosen() as body:
                self.rule = body.rule
                self.told_by["rule"] = entry.number
            case StandardChosen() as body:
                self.standard = body.standard
            case ArrivedDead():
                self.inoperative = entry
            case ChangeMade() as body:
                self.changes.append(entry)
                moves = frozenset({body.part or body.touches}) - {""}
                self.openings.append(Opening(entry, self.place, moves, trim=False))
                self.parts.take(entry)
            case ChangeProven() as body:
                self.proofs[body.change] = entry
            case NoteWritten():
                self.notes.append(entry)
            case StatusSet() as body:
                self.status = body
            case CertificateIssued():
                self.certificates.append(entry)
            case _:
                self.parts.take(entry)

    def job(self, job: str, entries: tuple[Entry, ...], struck: frozenset[str]) -> Job:
        opened = self.opened.body if self.opened else None
        return Job(
            id=job,
            entries=entries,
            struck=struck,
            opened=self.opened.at if self.opened else None,
            maker=opened.maker if opened else "",
            type=opened.type if opened else "",
            pack_digest=opened.pack_digest if opened else "",
            details=MappingProxyType(self.details),
            told_by=MappingProxyType(self.told_by),
            findings=tuple(self._finding(entry) for entry in self.findings.values()),
            looked=MappingProxyType(self.looked),
            taken=tuple(
                Taken(e, e.body, tuple(self.photos.get(e.id, ())), self.back.get(e.id)) for e in self.taken.values()
            ),
            done=MappingProxyType(self.done),
            skipped=MappingProxyType(self.skipped),
            timers=tuple(self.timers),
            readings=tuple(self.readings),
            openings=tuple(self.openings),
            inoperative=self.inoperative,
            adjustments=tuple(self.adjustments),
            conditions=MappingProxyType(self.conditions),
            rule=self.rule,
            standard=self.standard,
            changes=tuple(self.changes),
            proofs=MappingProxyType(self.proofs),
            notes=tuple(self.notes),
            status=self.status.status if self.status else "wants hands",
            status_text=self.status.text if self.status else "",
            certificates=tuple(self.certificates),
            parts=self.parts.record(),
        )

    def _finding(self, entry: Entry) -> Finding:
        settled = self.settled.get(entry.id)
        body: FindingNoted = entry.body
        return Finding(
            entry, body.zone, body.mark, body.text, tuple(self.photos.get(entry.id, ())),
            settled.how if settled else "", settled.reason if settled else "",
        )  # fmt: skip
