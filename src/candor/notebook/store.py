"""The notebook: entries in, entries out, typed; packs and places beside them."""

from __future__ import annotations

import contextlib
import datetime as dt
from collections.abc import Callable, Iterable, Sequence
from dataclasses import replace
from pathlib import Path
from typing import cast

from pydantic import ValidationError
from pydantic_core import PydanticSerializationError

from candor.core.late_dataclass import dataclass
from candor.core.late_pattern import late_pattern
from candor.core.worded import worded
from candor.notebook.entries.body import Timed, Unreadable
from candor.notebook.entries.entry import AnyEntry, B, Draft, Entry
from candor.notebook.entries.kinds_entries import BODIES, UPGRADES
from candor.notebook.entries.release_entries import CertificateIssued, SecondSignature
from candor.notebook.entries.stay_entries import FilesGone
from candor.notebook.notebook_errors import NotebookError, UnreadableEntryError, UnsoundJobError
from candor.notebook.storage.bodies import said_by
from candor.notebook.storage.chain import broken_links
from candor.notebook.storage.drafts import makes_safe, plain_draft
from candor.notebook.storage.fault import Fault
from candor.notebook.storage.folders import Folders
from candor.notebook.storage.head_words import words_of
from candor.notebook.storage.job_faults import job_file_faults, pack_faults
from candor.notebook.storage.moments import Moment, moment_now
from candor.notebook.storage.opened import open_store
from candor.notebook.storage.opening import PATIENCE_S
from candor.notebook.storage.remembered import Remembered
from candor.notebook.storage.rows import NewRow, PackRow, PlaceRow, Revision, Row, Store, is_as_kept
from candor.notebook.storage.uncollected import uncollected
from candor.packs.model import Pack, read_kept

Clock = Callable[[], dt.datetime]


def utc_now() -> dt.datetime:
    """Return the time, UTC."""
    return dt.datetime.now(dt.UTC)


HEAD_LETTERS = 1000  # of a pack's JSON, in which its kind stands
_KIND = late_pattern(r'"kind":"([^"\\]*)"')


@dataclass(frozen=True)
class Place:
    """Where a job was left: its stop and step."""

    job: str
    stop: str
    step: str


class Notebook:
    """A notebook on disk.

    Parameters
    ----------
    path : Path
        Made where it does not exist.
    who : str
        Who writes.
    clock : callable
        Gives the time, UTC.
    patience_s : float
        How long to wait for another program to let go of it.
    moment : callable
        Gives the moment by the clock that nobody sets.
    later : bool
        Whether a large file may be opened before it was looked through for damage: who opens it so calls `look_through`.

    Raises
    ------
    NotebookError
        Where it cannot be opened; the file is left as it was.
    """

    def __init__(
        self,
        path: Path,
        who: str,
        clock: Clock = utc_now,
        patience_s: float = PATIENCE_S,
        moment: Callable[[], Moment] = moment_now,
        later: bool = False,
    ) -> None:
        self.path = path
        self.clock = clock
        self.moment = moment
        self.store: Store = open_store(path, patience_s, later)
        self.who = self.store.who or who
        if self.is_shared:
            from candor.notebook.server.judging import judge_by

            self.store.judge = judge_by(self, self.entries_of)
        self._packs: dict[str, Pack] = {}
        self._kinds: dict[str, str] = {}
        self._closed: dict[str, UnreadableEntryError] = {}
        self._unsound: dict[str, tuple[Fault, ...]] = {}
        self._remembered = Remembered()
        self.held_elsewhere: frozenset[str] | None = (
            None  # files of runs and sources that other benches hold, once that is known
        )

    @property
    def read_only(self) -> str:
        """Why the notebook may only be read; empty where it may be written."""
        return self.store.read_only

    @property
    def is_shared(self) -> bool:
        """Whether several benches write in it."""
        return bool(self.store.server)

    def catch_up(self) -> None:
        """Bring here what other benches wrote, where there are any and the server answers."""
        if self.is_shared:
            from candor.notebook.server.mirror_store import catch_up

            catch_up(self.store)

    @property
    def away(self) -> str:
        """Why what is written now does not reach the other benches; empty where it does, or there are none."""
        return self.store.away

    @property
    def unlooked(self) -> bool:
        """Whether its file is still to be looked through for damage."""
        return self.store.unlooked

    def look_through(self) -> None:
        """Look its file through for damage, where that is still to be done; see `Store.look_through`."""
        self.store.look_through()

    @property
    def gone(self) -> int:
        """How many entries that were written are no longer there."""
        return self.store.gone()

    @property
    def photo_folder(self) -> Path:
        """Where photos lie: a folder beside the notebook."""
        return Folders(self.path).of("photos")

    @property
    def kinds_folder(self) -> Path:
        """Where the shop's own kinds of instrument lie."""
        return self.path.with_name("kinds")

    @property
    def waveform_folder(self) -> Path:
        """Where samples lie: a folder beside the notebook."""
        return Folders(self.path).of("waveforms")

    @property
    def certificate_folder(self) -> Path:
        """Where signed certificates lie, each by the digest of its bytes: a folder beside the notebook."""
        return Folders(self.path).of("certificates")

    @property
    def run_folder(self) -> Path:
        """Where the readings of runs lie as CSV: a folder beside the notebook."""
        return Folders(self.path).of("runs")

    def do_not_wait(self) -> None:
        """From here on say at once that another program holds the notebook: whoever asks must not stand still for it."""
        self.store.do_not_wait()

    def close(self) -> None:
        """Let go of the file."""
        self.store.close()

    # --- entries --------------------------------------------------------------------------------------

    def write(self, job: str, body: B, at: dt.datetime | None = None) -> Entry[B]:
        """Write one entry; when this returns it is on disk. Raises as `append` does."""
        return cast(Entry[B], self.append([Draft(job, body, at)])[0])

    def append(self, drafts: Iterable[Draft]) -> list[AnyEntry]:
        """Write entries of any jobs in one transaction: all of them or none.

        Raises
        ------
        BarredError
            A deed that something bars (`guards`).
        ReadOnlyNotebookError, DiskFullError, BusyNotebookError, UnreadableEntryError, NotebookError
            Nothing was written then.
        """
        asked = tuple(plain_draft(self._stamped(draft)) for draft in drafts)
        now = self.clock()
        moments = [(draft.at or now).astimezone(dt.UTC) for draft in asked]
        for draft in asked:
            if draft.job in self._closed and not makes_safe(draft.body):
                raise self._closed[draft.job]
            self._refuse_unsound(draft)
        from candor.notebook.work.guards import refuse_barred  # here: a window is up before its first write

        rows = [self._row(draft, moment) for draft, moment in zip(asked, moments, strict=True)]
        with (
            self.store.transaction()
        ):  # what the guards read still stands when the deed is written, whoever else writes
            refuse_barred(asked, self, self.entries_of, now.astimezone(dt.UTC))
            numbers = self.store.append(rows)
        return [
            Entry(number=number, id=draft.id, job=draft.job, at=moment, who=self.who, body=draft.body)
            for number, draft, moment in zip(numbers, asked, moments, strict=True)
        ]

    def faults_of(self, job: str, entries: Sequence[AnyEntry], files: bool = True) -> tuple[Fault, ...]:
        """Return what a job, by its entries, stands on that is not what was kept: its pack, and its `files`, each read whole."""
        bodies = [(e.number, e.body) for e in entries]
        packs = tuple(pack_faults(job, bodies, self.store.pack))
        return (*packs, *job_file_faults(job, bodies, Folders(self.path))) if files else packs

    def close_job(self, job: str, faults: tuple[Fault, ...]) -> None:
        """From here on refuse what is written in a job that stands on what is no longer what was kept; without faults no longer."""
        self._unsound.pop(job, None)
        if faults:
            self._unsound[job] = faults

    def _refuse_unsound(self, draft: Draft) -> None:
        faults = self._unsound.get(draft.job, ())
        if isinstance(draft.body, CertificateIssued | SecondSignature):
            faults = self.faults_of(draft.job, self.entries_of(draft.job))
        if makes_safe(draft.body):
            return
        if isinstance(draft.body, FilesGone):
            faults = tuple(fault for fault in faults if not fault.file)
        if faults:
            what = "the pack" if not faults[0].file else faults[0].file
            raise UnsoundJobError(
                worded("notebook.this_job_stands_on_what_is", what=what),
                place=what,
            )

    def append_rows(self, rows: Iterable[NewRow], drafts: Iterable[Draft]) -> None:
        """Write entries as they were written elsewhere, and one's own after them, all or none. Raises as `append` does."""
        now = self.clock().astimezone(dt.UTC)
        self.store.append([*rows, *(self._row(self._stamped(draft), now) for draft in drafts)])

    def _stamped(self, draft: Draft) -> Draft:
        """Return a draft with its moment where it is timed and happens now: what is told of another time has none."""
        if not isinstance(draft.body, Timed) or draft.at is not None or draft.body.boot:
            return draft
        now = self.moment()
        return replace(draft, body=draft.body.model_copy(update={"boot": now.boot, "boot_s": round(now.seconds, 3)}))

    def _row(self, draft: Draft, moment: dt.datetime) -> NewRow:
        if draft.body.kind not in BODIES:
            raise NotebookError(
                worded("notebook.is_not_a_kind_of_entry", kind=draft.body.kind), value=draft.body.kind
            )
        try:
            text = draft.body.model_dump_json()
        except (PydanticSerializationError, UnicodeEncodeError):
            raise NotebookError(worded("notebook.a_character_in_it_is_none")) from None
        at = moment.isoformat(timespec="milliseconds")
        return NewRow(id=draft.id, job=draft.job, kind=draft.body.kind, at=at, who=self.who, body=text)

    def entries_of(self, job: str) -> tuple[AnyEntry, ...]:
        """Return every entry of a job, struck ones included, in order; the shop's own have job "".

        One that cannot be read has the body `Unreadable`; its job is from then on only read.
        """
        self._closed.pop(job, None)
        return self._remembered.made(job, self.store.of_job(job), self._entry)

    def entries_of_kinds(self, kinds: Sequence[str]) -> tuple[AnyEntry, ...]:
        """Return every entry of some kinds, of all jobs and the shop, in order."""
        older = {kind for kind, _ in UPGRADES}  # what an upgrade makes of them may be of these kinds
        asked = (*kinds, *sorted(older - set(kinds)))
        wanted = {BODIES[kind] for kind in kinds} | {Unreadable}
        return tuple(e for e in self._entries(self.store.of_kinds(asked)) if type(e.body) in wanted)

    def rows_naming(self, kind: str, words: Sequence[str], since: str = "") -> list[Row]:
        """Return the rows of a kind, of all jobs, in whose body one of some words stands, from a moment on; see `Store`."""
        return self.store.naming(kind, words, since)

    def unknown_kinds(self) -> tuple[str, ...]:
        """Return the kinds in the notebook that this version does not know."""
        return tuple(sorted(self.store.kinds() - set(BODIES) - {kind for kind, _ in UPGRADES}))

    def unknown_entries(self) -> tuple[AnyEntry, ...]:
        """Return the entries of kinds that this version does not know."""
        kinds = self.unknown_kinds()
        return self._entries(self.store.of_kinds(kinds)) if kinds else ()

    def broken_links(self, job: str) -> tuple[int, ...]:
        """Return the numbers of the entries of a job that are not as they were written, or follow one that is gone."""
        return broken_links(self.store.of_job(job))

    def head_words(self, job: str) -> str:
        """Return the eight words of a job as it stands, for a paper: `storage.head_words`; empty where nothing is written of it."""
        return words_of(self.store.head(job))

    def revision(self, patient: bool = True) -> Revision:
        """Return what tells whether anything was written, by this window or by others.

        Raises
        ------
        BusyNotebookError
            Where another program holds the notebook; not `patient`, at once.
        """
        return self.store.revision(patient)

    def _entries(self, rows: Iterable[Row]) -> tuple[AnyEntry, ...]:
        with uncollected():
            return tuple([self._entry(row) for row in rows])

    def _entry(self, row: Row) -> AnyEntry:
        body, at = said_by(row)
        if isinstance(body, Unreadable) and row.job and row.job not in self._closed:
            self._closed[row.job] = UnreadableEntryError(
                worded("notebook.entry_of_this_job_cannot_be", number=row.number, why=body.why),
                value=row.body[:200],
                place=f"entry {row.number}",
            )
        return Entry(number=row.number, id=row.id, job=row.job, at=at, who=row.who, body=body)

    # --- packs ----------------------------------------------------------------------------------------

    def keep_pack(self, pack: Pack) -> str:
        """Keep a pack as it is now, so that a job can always be read with it, and return its digest.

        One whose bytes in the notebook are no longer those of its digest is put right by this.
        """
        digest, kept = pack.digest, self.store.pack(pack.digest)
        if kept is None or not is_as_kept(kept):
            self.store.keep_pack(PackRow(digest, pack.id, pack.edition, pack.to_json()))
            self._packs.pop(digest, None)
        return digest

    def pack(self, digest: str) -> Pack:
        """Return a pack that was kept.

        Raises
        ------
        NotebookError
            Where it is not there, or cannot be read.
        """
        if digest not in self._packs:
            row = self.store.pack(digest)
            if row is None:
                raise NotebookError(worded("notebook.the_pack_is_not_in_this", digest=digest[:8]), value=digest)
            self._packs[digest] = _read_pack(row)
        return self._packs[digest]

    def kind_of_pack(self, digest: str) -> str:
        """Return what a kept pack says its instrument is, without reading all of it; empty where it does not say."""
        if digest not in self._kinds:
            row = self.store.pack(digest) if digest else None
            said = _KIND.search(row.body[:HEAD_LETTERS]) if row is not None else None
            self._kinds[digest] = said[1] if said else ""
        return self._kinds[digest]

    def kept_packs(self) -> tuple[Pack, ...]:
        """Return every pack that was kept and can be read."""
        found = []
        for row in self.store.packs():
            with contextlib.suppress(NotebookError):  # said when a job of it is opened
                found.append(self.pack(row.digest))
        return tuple(found)

    # --- places ---------------------------------------------------------------------------------------

    def place(self, job: str) -> Place | None:
        """Return where a job was left."""
        return next((place for place in self.places() if place.job == job), None)

    def places(self) -> tuple[Place, ...]:
        """Return where every job was left, the newest first."""
        return tuple(Place(row.job, row.stop, row.step) for row in self.store.places())

    def keep_place(self, place: Place, at: dt.datetime | None = None) -> None:
        """Put the bookmark of a job; quietly nothing where the notebook may only be read."""
        if not self.read_only:
            moment = (at or self.clock()).isoformat()
            self.store.keep_place(PlaceRow(place.job, place.stop, place.step, moment))


def _read_pack(row: PackRow) -> Pack:
    try:
        return read_kept(row.body, row.digest)
    except ValidationError as error:
        raise NotebookError(
            worded("notebook.the_pack_of_this_job_cannot", digest=row.digest[:8], msg=error.errors()[0]["msg"]),
            value=row.digest,
        ) from None
