"""The instrument's stay: how it came, what was done to it, what it waits for, time and money."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping
from dataclasses import field
from types import MappingProxyType
from typing import Annotated, Literal

from pydantic import Field, model_validator

from candor.core.late_dataclass import dataclass
from candor.core.quantities.show import in_unit
from candor.core.worded import worded
from candor.notebook.entries.body import Body
from candor.notebook.entries.entry import AnyEntry, Entry, said
from candor.notebook.entries.fields_entries import NotBelow
from candor.notebook.entries.standing_entries import Standing

Status = Literal["wants hands", "waiting", "gone home"]


class JobOpened(Body):
    """An instrument came to the bench: of a pack's type, or of a kind alone, by its id."""

    kind: Literal["job_opened"] = "job_opened"
    maker: str
    type: str
    serial: str
    pack_digest: str = ""
    instrument_kind: str = ""


class PackTaken(Body):
    """The job goes over to a pack; its readings stay as they are."""

    kind: Literal["pack_taken"] = "pack_taken"
    pack_digest: Annotated[str, Field(min_length=1)]


class CameIn(Body):
    """The job travelled: it was taken in from another notebook, where its entries had the numbers from `first` to `last`."""

    kind: Literal["came_in"] = "came_in"
    shop: str = ""
    made: str = ""
    first: Annotated[int, Field(ge=0)]
    last: Annotated[int, Field(ge=0)]


class DetailWritten(Body):
    """A detail of the instrument or its stay; the last one written for a field holds."""

    kind: Literal["detail"] = "detail"
    field: str
    text: str


class ChangeMade(Body):
    """Something done to the instrument; `part` is the designator of a part it replaced, `touches` of those only disturbed.

    `joints` are the entries of poor joints that it re-soldered; `turned` is the adjuster that was moved, as it was named.
    """

    kind: Literal["change"] = "change"
    text: str
    part: str = ""
    touches: str = ""
    joints: tuple[str, ...] = ()
    turned: str = ""


class ChangeProven(Body):
    """The check that proves a change: one change, one check."""

    kind: Literal["change_proven"] = "change_proven"
    change: str
    check: Annotated[str, Field(min_length=1)]


class NoteWritten(Body):
    """Anything else; at which stop it was written, where that was at one."""

    kind: Literal["note"] = "note"
    text: str
    stop: str = ""


class FilesGone(Body):
    """Files beside the notebook, by folder and name, that are missing or no longer what was kept: the job goes on without them."""

    kind: Literal["files_gone"] = "files_gone"
    files: Annotated[tuple[str, ...], Field(min_length=1)]
    reason: Annotated[str, Field(min_length=1)]


class BroughtIn(Body):
    """Entries that a bench wrote while its server was away are on the server now, after `others` that other benches wrote.

    `barred` says what would have barred one of them as the job stood when they came in.
    """

    kind: Literal["brought_in"] = "brought_in"
    entries: Annotated[int, Field(ge=1)]
    since: dt.datetime | None = None
    others: Annotated[int, Field(ge=0)] = 0
    barred: tuple[str, ...] = ()


class StatusSet(Body):
    """What the job waits for, and until which day where that is known."""

    kind: Literal["status"] = "status"
    status: Status
    text: str = ""
    until: dt.date | None = None


class Spent(Body):
    """Time or money spent on a job; minutes, and the currency of the price agreed."""

    kind: Literal["spent"] = "spent"
    minutes: NotBelow = 0.0
    money: NotBelow = 0.0
    text: str = ""

    @model_validator(mode="after")
    def _something(self) -> Spent:
        if not self.minutes and not self.money:
            raise ValueError(worded("entries.neither_a_time_nor_an_amount"))
        return self


class PriceAgreed(Body):
    """The price agreed with the owner, and what an hour costs."""

    kind: Literal["price"] = "price"
    agreed: NotBelow = 0.0
    an_hour: NotBelow = 0.0


def _described(b: JobOpened) -> str:
    return (
        f"pack {b.pack_digest[:12]}"
        if b.pack_digest
        else worded("entries.no_pack_kind", instrument_kind=b.instrument_kind or "not said")
    )


def _status(b: StatusSet) -> str:
    until = f", until {b.until:%d %b %Y}" if b.until else ""
    return f"{b.status}{': ' + b.text if b.text else ''}{until}"


def _spent(b: Spent) -> str:
    words = " and ".join([in_unit(b.minutes, "min")] * bool(b.minutes) + [f"{b.money:.2f}"] * bool(b.money))
    return f"spent: {words}{', ' + b.text if b.text else ''}"


def _brought_in(b: BroughtIn) -> str:
    barred = worded("entries.brought_in_barred", barred=" ".join(b.barred)) if b.barred else ""
    return worded("entries.brought_in", count=b.entries, others=b.others) + barred


WORDS = dict(
    (
        said(
            JobOpened,
            lambda b, _: (
                f"{b.maker} {b.type}".strip()
                + worded("entries.no_on_the_bench", serial=b.serial or "none", described=_described(b))
            ),
        ),
        said(PackTaken, lambda b, _: worded("entries.from_here_on_with_pack", pack_digest=b.pack_digest[:12])),
        said(
            CameIn,
            lambda b, _: worded(
                "entries.came_in_from_entries_to_there", shop=b.shop or "another notebook", first=b.first, last=b.last
            ),
        ),
        said(DetailWritten, lambda b, _: f"{b.field}: {b.text}"),
        said(ChangeMade, lambda b, _: worded("entries.done_to_it", text=b.text)),
        said(
            ChangeProven, lambda b, n: worded("entries.change_of_entry_checked", n=n.get(b.change, 0), check=b.check)
        ),
        said(NoteWritten, lambda b, _: f"note: {b.text}"),
        said(FilesGone, lambda b, _: worded("entries.goes_on_without", listed=", ".join(b.files), reason=b.reason)),
        said(BroughtIn, lambda b, _: _brought_in(b)),
        said(StatusSet, lambda b, _: _status(b)),
        said(Spent, lambda b, _: _spent(b)),
        said(PriceAgreed, lambda b, _: worded("entries.price_agreed_an_hour", agreed=b.agreed, an_hour=b.an_hour)),
    )
)


@dataclass(frozen=True)
class StayRecord:
    """What stands of the stay.

    `told_by` holds the number of the entry that a detail (or "opened") comes from.
    """

    opened: Entry[JobOpened] | None = None
    pack_taken: Entry[PackTaken] | None = None
    details: Mapping[str, str] = field(default_factory=dict)
    told_by: Mapping[str, int] = field(default_factory=dict)
    changes: tuple[Entry[ChangeMade], ...] = ()
    proofs: Mapping[str, Entry[ChangeProven]] = field(default_factory=dict)
    notes: tuple[Entry[NoteWritten], ...] = ()
    without: tuple[Entry[FilesGone], ...] = ()
    status: Status = "wants hands"
    status_text: str = ""
    status_until: dt.date | None = None
    spent: tuple[Entry[Spent], ...] = ()
    agreed: float = 0.0
    an_hour: float = 0.0

    @property
    def name(self) -> str:
        """Maker and type, as they were last written."""
        return f"{self.details.get('maker', '')} {self.details.get('type', '')}".strip()

    @property
    def unproven(self) -> tuple[Entry[ChangeMade], ...]:
        """Changes that no check has proven yet, the newest last."""
        return tuple(e for e in self.changes if e.id not in self.proofs)

    @property
    def received(self) -> dt.date | None:
        """The day it came."""
        return self.opened.at.date() if self.opened else None

    @property
    def minutes(self) -> float:
        """Time spent, min."""
        return sum(e.body.minutes for e in self.spent)

    @property
    def money(self) -> float:
        """Money written as spent, parts on order left aside."""
        return sum(e.body.money for e in self.spent)


def stay_record(standing: Standing) -> StayRecord:
    """Return what stands of the stay."""
    opened = standing.newest(JobOpened)
    written = standing.by(DetailWritten, lambda b: b.field)
    first = opened.body if opened else JobOpened(maker="", type="", serial="")
    details = {"serial": first.serial, "maker": first.maker, "type": first.type}
    told_by = dict.fromkeys(("opened", *details), opened.number) if opened else {}
    status, price = standing.newest(StatusSet), standing.newest(PriceAgreed)
    return StayRecord(
        opened=opened,
        pack_taken=standing.newest(PackTaken),
        details=MappingProxyType(
            {**(details if opened else {}), **{name: e.body.text for name, e in written.items()}}
        ),
        told_by=MappingProxyType({**told_by, **{name: e.number for name, e in written.items()}}),
        changes=standing.of(ChangeMade),
        proofs=standing.by(ChangeProven, lambda b: b.change),
        notes=standing.of(NoteWritten),
        without=standing.of(FilesGone),
        status=status.body.status if status else "wants hands",
        status_text=status.body.text if status else "",
        status_until=status.body.until if status else None,
        spent=standing.of(Spent),
        agreed=price.body.agreed if price else 0.0,
        an_hour=price.body.an_hour if price else 0.0,
    )


def notes_at(record: StayRecord, stop: str) -> tuple[Entry[NoteWritten], ...]:
    """Return the notes that stand and were written at a stop, in order."""
    return tuple(note for note in record.notes if stop and note.body.stop == stop)


def note_text(entry: AnyEntry) -> str:
    """Return what a note says; nothing of an entry that is not a note."""
    return entry.body.text if isinstance(entry.body, NoteWritten) else ""
