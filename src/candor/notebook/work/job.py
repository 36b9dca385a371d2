"""The fold: from a job's entries to the job as it stands, one record for each topic side by side."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterable
from dataclasses import field, replace
from types import MappingProxyType

from candor.core.late_dataclass import dataclass
from candor.notebook.entries.arrive_entries import ArriveRecord, arrive_record
from candor.notebook.entries.body import Unreadable
from candor.notebook.entries.calibrate_entries import CalibrateRecord, ReadingTaken, TakenReading, calibrate_record
from candor.notebook.entries.cleaning_entries import CleaningRecord, cleaning_record
from candor.notebook.entries.entry import AnyEntry, Entry, says
from candor.notebook.entries.parts_entries import PartsRecord, parts_record
from candor.notebook.entries.places_entries import PlacesRecord, places_record
from candor.notebook.entries.plan_entries import PlanRecord, plan_record
from candor.notebook.entries.power_entries import PowerRecord, power_record
from candor.notebook.entries.ranges_entries import RangesRecord, ranges_record
from candor.notebook.entries.release_entries import CertificateIssued, ReleaseRecord, release_record
from candor.notebook.entries.runs_entries import RunsRecord, runs_record
from candor.notebook.entries.soak_entries import SoakRead, SoakRecord, soak_record
from candor.notebook.entries.sources_entries import SourceApplied, SourceReleased, SourcesRecord, sources_record
from candor.notebook.entries.standing_entries import Standing
from candor.notebook.entries.stay_entries import JobOpened, StayRecord, stay_record
from candor.notebook.entries.strikes_entries import Struck, Unstruck
from candor.notebook.entries.trace_entries import TraceRecord, trace_record
from candor.notebook.entries.unit_entries import UnitRecord, unit_record
from candor.notebook.storage.uncollected import uncollected


@dataclass(frozen=True)
class Job:
    """A job as its entries leave it. Struck entries count for nothing but stay in `entries`.

    `unreadable` are those that this version cannot read: the job is only looked at then.
    """

    id: str
    entries: tuple[AnyEntry, ...] = ()
    struck: frozenset[str] = frozenset()
    unreadable: tuple[Entry[Unreadable], ...] = ()
    stay: StayRecord = field(default_factory=StayRecord)
    plan: PlanRecord = field(default_factory=PlanRecord)
    arrive: ArriveRecord = field(default_factory=ArriveRecord)
    unit: UnitRecord = field(default_factory=UnitRecord)
    places: PlacesRecord = field(default_factory=PlacesRecord)
    cleaning: CleaningRecord = field(default_factory=CleaningRecord)
    parts: PartsRecord = field(default_factory=PartsRecord)
    power: PowerRecord = field(default_factory=PowerRecord)
    trace: TraceRecord = field(default_factory=TraceRecord)
    runs: RunsRecord = field(default_factory=RunsRecord)
    sources: SourcesRecord = field(default_factory=SourcesRecord)
    ranges: RangesRecord = field(default_factory=RangesRecord)
    calibrate: CalibrateRecord = field(default_factory=CalibrateRecord)
    soak: SoakRecord = field(default_factory=SoakRecord)
    release: ReleaseRecord = field(default_factory=ReleaseRecord)

    @property
    def name(self) -> str:
        """Maker and type of the instrument."""
        return self.stay.name

    @property
    def serial(self) -> str:
        """Serial number, or an empty string."""
        return self.stay.details.get("serial", "")

    @property
    def pack_digest(self) -> str:
        """The pack it was opened with, or went over to; empty where there is none."""
        taken = self.stay.pack_taken or self.stay.opened
        return taken.body.pack_digest if taken else ""

    def last_standing(self) -> AnyEntry | None:
        """Return the newest entry that somebody wrote and that could be struck: not what a link reads by itself meanwhile."""
        return next(
            (e for e in reversed(self.entries) if e.id not in self.struck and may_strike(e) and not _by_itself(e)),
            None,
        )

    def last_struck(self) -> AnyEntry | None:
        """Return the entry struck last that is still struck."""
        for entry in reversed(self.entries):
            body = entry.body
            if isinstance(body, Struck) and body.target in self.struck:
                return next((e for e in self.entries if e.id == body.target), None)
        return None


def _by_itself(entry: AnyEntry) -> bool:
    return isinstance(entry.body, SoakRead) and bool(entry.body.link)


def may_strike(entry: AnyEntry) -> bool:
    """Say whether an entry can be struck.

    All but strikes, the opening, a signed certificate, what was done to a source on a link, and what cannot be read.
    """
    kept = Struck | Unstruck | JobOpened | CertificateIssued | Unreadable | SourceApplied | SourceReleased
    return not isinstance(entry.body, kept)


def fold(job: str, entries: Iterable[AnyEntry], until: dt.datetime | None = None) -> Job:
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
    with uncollected():  # some records of a long job are as many objects as it has entries
        return _folded(job, Standing(entries, until))


def _folded(job: str, standing: Standing) -> Job:
    return Job(
        id=job,
        entries=standing.entries,
        struck=standing.struck,
        unreadable=standing.unreadable,
        stay=stay_record(standing),
        plan=plan_record(standing),
        arrive=arrive_record(standing),
        unit=unit_record(standing),
        places=places_record(standing),
        cleaning=cleaning_record(standing),
        parts=parts_record(standing),
        power=power_record(standing),
        trace=trace_record(standing),
        runs=runs_record(standing),
        sources=sources_record(standing),
        ranges=ranges_record(standing),
        calibrate=calibrate_record(standing),
        soak=soak_record(standing),
        release=release_record(standing),
    )


def extend(job: Job, written: Iterable[AnyEntry]) -> Job:
    """Fold a job with entries written after it: the same as `fold` with all, but cheap where those are readings.

    A reading changes no record but that of the calibration, and when the instrument went on.
    """
    new = tuple(written)
    on_since = job.soak.since
    simple = on_since is not None and all(
        says(e, ReadingTaken) and e.at >= on_since and e.id not in job.struck for e in new
    )
    if not simple:
        return fold(job.id, (*job.entries, *new))
    record, place = job.calibrate, len(job.entries)
    for entry in new:
        if says(entry, ReadingTaken):
            record, place = _with_reading(record, entry, place), place + 1
    return replace(job, entries=(*job.entries, *new), calibrate=record)


def _with_reading(record: CalibrateRecord, entry: Entry[ReadingTaken], place: int) -> CalibrateRecord:
    """Return the record with a reading that was taken after all of it, at a place among the job's entries."""
    skipped = record.skipped
    if entry.body.step in skipped:
        skipped = MappingProxyType({step: e for step, e in skipped.items() if step != entry.body.step})
    return replace(
        record, readings=(*record.readings, TakenReading(entry, place, record.conditions)), skipped=skipped
    )
