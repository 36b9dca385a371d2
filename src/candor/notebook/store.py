"""The store: one transaction for every entry, on disk before it is shown."""

from __future__ import annotations

import contextlib
import datetime as dt
import uuid
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import sqlalchemy as sa
from pydantic import ValidationError
from pydantic_core import PydanticSerializationError

from candor.notebook.chain import broken_links, chained
from candor.notebook.entries import (
    Body,
    Entry,
    Struck,
    UnreadableEntryError,
    Unstruck,
    matters_on_shelf,
    read_body,
)
from candor.notebook.errors import (
    BusyNotebookError,
    DamagedNotebookError,
    DiskFullError,
    NotebookError,
    ReadOnlyNotebookError,
)
from candor.notebook.opening import AT_ONCE_S, PATIENCE_S, busy, connect_lazily, is_busy, open_engine
from candor.notebook.schema import entries, packs, places
from candor.packs.model import Pack

Clock = Callable[[], dt.datetime]


def utc_now() -> dt.datetime:
    """Return the time, UTC."""
    return dt.datetime.now(dt.UTC)


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

    Raises
    ------
    NotebookError
        Where it cannot be opened; the file is left as it was.
    """

    def __init__(self, path: Path, who: str, clock: Clock = utc_now, patience_s: float = PATIENCE_S) -> None:
        self.path = path
        self.who = who
        self.clock = clock
        self._engine, self.read_only = open_engine(path, patience_s)
        self._packs: dict[str, Pack] = {}
        self._together: sa.Connection | None = None
        self.unreadable: dict[int, str] = {}

    @property
    def photo_folder(self) -> Path:
        """Where photos lie: a folder beside the notebook."""
        return self.path.with_name(self.path.stem + " photos")

    @property
    def certificate_folder(self) -> Path:
        """Where signed certificates lie, each by the digest of its bytes: a folder beside the notebook."""
        return self.path.with_name(self.path.stem + " certificates")

    def do_not_wait(self) -> None:
        """From here on say at once that another program holds the notebook: whoever asks must not stand still for it."""
        self._engine.dispose()
        self._engine = connect_lazily(self.path, bool(self.read_only), AT_ONCE_S)

    def close(self) -> None:
        """Let go of the file."""
        self._engine.dispose()

    def append(self, job: str, body: Body, at: dt.datetime | None = None) -> Entry:
        """Write one entry; when this returns it is on disk."""
        return self.append_many(job, [body], at)[0]

    def append_many(self, job: str, bodies: Sequence[Body], at: dt.datetime | None = None) -> list[Entry]:
        """Write several entries in one transaction: all of them or none.

        Raises
        ------
        ReadOnlyNotebookError, DiskFullError, NotebookError
            Nothing was written then.
        """
        moment = (at or self.clock()).astimezone(dt.UTC)
        try:
            texts = [body.model_dump_json() for body in bodies]
        except (PydanticSerializationError, UnicodeEncodeError):
            raise NotebookError(
                "A character in it is none that can be kept (half of one). Nothing was written; take it out and enter it again."
            ) from None
        rows = [
            {
                "id": uuid.uuid4().hex,
                "job": job,
                "kind": body.kind,  # type: ignore[attr-defined]
                "at": moment.isoformat(timespec="milliseconds"),
                "who": self.who,
                "shelf": matters_on_shelf(body),
                "body": text,
            }
            for body, text in zip(bodies, texts, strict=True)
        ]

        def write(connection: sa.Connection) -> list[Entry]:
            written = []
            # Read inside the transaction that writes: between the two nobody else can put a link.
            newest = sa.select(entries.c.chain).where(entries.c.job == job).order_by(entries.c.number.desc()).limit(1)
            chain = connection.execute(newest).scalar() or ""
            for row, body in zip(rows, bodies, strict=True):
                if isinstance(body, Struck | Unstruck):
                    query = sa.select(entries.c.shelf).where(entries.c.id == body.target)
                    row["shelf"] = bool(connection.execute(query).scalar_one())
                row["chain"] = chain = chained(chain, **row)
                number = connection.execute(entries.insert().returning(entries.c.number), row).scalar_one()
                written.append(Entry(number, str(row["id"]), job, moment, self.who, body))
            return written

        result: list[Entry] = self._write(write)
        return result

    @contextlib.contextmanager
    def together(self) -> Iterator[None]:
        """Write what is appended inside, for however many jobs, in one transaction: all of it or nothing.

        Raises
        ------
        ReadOnlyNotebookError, DiskFullError, NotebookError
            Nothing was written then; also where something inside raises.
        """
        self._must_be_writable()
        try:
            with self._engine.connect().execution_options(writes=True) as connection, connection.begin():
                self._together = connection
                try:
                    yield
                finally:
                    self._together = None
        except sa.exc.OperationalError as error:
            raise self._explained(str(error.orig)) from None

    def entries_of(self, job: str) -> tuple[Entry, ...]:
        """Return every entry of a job, struck ones included, in order.

        The shop's own have job ""; of them, what cannot be read is left out and said in `unreadable`.

        Raises
        ------
        UnreadableEntryError
            Where one of a job's cannot be read: the job is closed then.
        """
        query = sa.select(entries).where(entries.c.job == job).order_by(entries.c.number)
        return tuple(e for e in self._read_entries(query, strict=bool(job)) if e.body is not None)

    def broken_links(self, job: str) -> tuple[int, ...]:
        """Return the numbers of the entries of a job that are not as they were written, or follow one that is gone."""
        query = sa.select(entries).where(entries.c.job == job).order_by(entries.c.number)
        return broken_links(self.read(lambda c: c.execute(query).all()))

    def shelf_entries(self) -> tuple[Entry, ...]:
        """Return the entries the shelf is folded from; what cannot be read has the body None."""
        return self._read_entries(sa.select(entries).where(entries.c.shelf).order_by(entries.c.number), strict=False)

    def entries_of_kinds(self, kinds: Sequence[str]) -> tuple[Entry, ...]:
        """Return every entry of some kinds, of all jobs and the shop, in order, but those that cannot be read."""
        query = sa.select(entries).where(entries.c.kind.in_(kinds)).order_by(entries.c.number)
        return tuple(e for e in self._read_entries(query, strict=False) if e.body is not None)

    @property
    def run_folder(self) -> Path:
        """Where the readings of runs lie as CSV: a folder beside the notebook."""
        return self.path.with_name(self.path.stem + " runs")

    def newest(self, patient: bool = True) -> int:
        """Return the number of the newest entry, 0 for none: tells when another window has written.

        Raises
        ------
        BusyNotebookError
            Where another program holds the notebook; not `patient`, at once.
        """
        newest = sa.select(sa.func.max(entries.c.number))
        return int(self.read(lambda c: c.execute(newest).scalar(), patient) or 0)

    def keep_pack(self, pack: Pack) -> str:
        """Keep a pack as it is now, so that a job can always be read with it, and return its digest."""
        digest = pack.digest
        if self.read(lambda c: c.execute(sa.select(packs.c.digest).where(packs.c.digest == digest)).first()):
            return digest
        row = {"digest": digest, "id": pack.id, "edition": pack.edition, "body": pack.to_json()}
        self._write(lambda c: c.execute(packs.insert().prefix_with("or ignore", dialect="sqlite").values(row)))
        return digest

    def pack(self, digest: str) -> Pack:
        """Return a pack that was kept, or raise NotebookError."""
        if digest not in self._packs:
            query = sa.select(packs.c.body).where(packs.c.digest == digest)
            body = self.read(lambda c: c.execute(query).scalar())
            if body is None:
                raise NotebookError(f"The pack {digest[:8]} is not in this notebook.", value=digest)
            try:
                pack = Pack.model_validate_json(body)
            except ValidationError as error:
                raise NotebookError(
                    f"The pack {digest[:8]} of this job cannot be read ({error.errors()[0]['msg']}); it was left as it is.",
                    value=digest,
                ) from None
            # Of the bytes that were kept: a field that packs have gained since changes no old digest.
            pack.__dict__["digest"] = digest
            self._packs[digest] = pack
        return self._packs[digest]

    def kept_packs(self) -> tuple[Pack, ...]:
        """Return every pack that was kept and can be read."""
        digests = self.read(lambda c: c.execute(sa.select(packs.c.digest).order_by(packs.c.id)).scalars().all())
        found = []
        for digest in digests:
            with contextlib.suppress(NotebookError):  # said when a job of it is opened
                found.append(self.pack(digest))
        return tuple(found)

    def place(self, job: str) -> Place | None:
        """Return where a job was left."""
        row = self.read(lambda c: c.execute(sa.select(places).where(places.c.job == job)).first())
        return Place(row.job, row.stop, row.step) if row else None

    def places(self) -> tuple[Place, ...]:
        """Return where every job was left, the newest first."""
        rows = self.read(lambda c: c.execute(sa.select(places).order_by(places.c.at.desc())).all())
        return tuple(Place(row.job, row.stop, row.step) for row in rows)

    def keep_place(self, place: Place, at: dt.datetime | None = None) -> None:
        """Put the bookmark of a job; quietly nothing where the notebook may only be read."""
        if self.read_only:
            return
        row = {"job": place.job, "stop": place.stop, "step": place.step, "at": (at or self.clock()).isoformat()}

        def write(connection: sa.Connection) -> None:
            connection.execute(places.delete().where(places.c.job == place.job))
            connection.execute(places.insert().values(row))

        self._write(write)

    def _read_entries(self, query: sa.Select[Any], strict: bool = True) -> tuple[Entry, ...]:
        rows = self.read(lambda c: c.execute(query).all())
        return tuple(
            Entry(r.number, r.id, r.job, dt.datetime.fromisoformat(r.at), r.who, self._body(r.body, r.number, strict))
            for r in rows
        )

    def _body(self, text: str, number: int, strict: bool) -> Any:
        try:
            return read_body(text, number)
        except UnreadableEntryError as error:
            if strict:
                raise
            self.unreadable[number] = str(error)
            return None

    def read(self, work: Callable[[sa.Connection], Any], patient: bool = True) -> Any:
        """Return what `work` reads on a connection; not `patient`, without waiting for who writes.

        Raises
        ------
        BusyNotebookError, DamagedNotebookError
        """
        if self._together is not None:
            return work(self._together)
        try:
            with self._engine.connect() as connection:
                if patient:
                    return work(connection)
                patience = connection.exec_driver_sql("pragma busy_timeout").scalar()
                connection.exec_driver_sql("pragma busy_timeout = 0")
                try:
                    return work(connection)
                finally:
                    connection.exec_driver_sql(f"pragma busy_timeout = {patience}")
        except sa.exc.DatabaseError as error:
            if is_busy(error.orig or error):
                raise busy(self.path) from None
            raise DamagedNotebookError(
                f"{self.path} could not be read ({error.orig}). Nothing was changed.", place=str(self.path)
            ) from None

    def _must_be_writable(self) -> None:
        if self.read_only:
            raise ReadOnlyNotebookError(
                f"This notebook can only be read, because {self.read_only}. Nothing was written; "
                "what you typed is still where you typed it.",
                place=str(self.path),
            )

    def _write(self, work: Callable[[sa.Connection], Any]) -> Any:
        self._must_be_writable()
        if self._together is not None:
            return work(self._together)
        try:
            with self._engine.connect().execution_options(writes=True) as connection, connection.begin():
                return work(connection)
        except sa.exc.OperationalError as error:
            raise self._explained(str(error.orig)) from None

    def _explained(self, detail: str) -> NotebookError:
        kept = "The entry was not written; what you typed is still where you typed it."
        if "full" in detail:
            return DiskFullError(f"The disk is full. {kept} Make room and enter it again.", place=str(self.path))
        if "readonly" in detail or "read-only" in detail:
            return ReadOnlyNotebookError(f"The notebook has become write-protected. {kept}", place=str(self.path))
        if is_busy(NotebookError(detail)):
            return BusyNotebookError(
                f"The notebook is in use by another program. {kept} Try again.", place=str(self.path)
            )
        return NotebookError(f"The notebook could not be written ({detail}). {kept}", place=str(self.path))
