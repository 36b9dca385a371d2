"""The embedded store: one SQLite file, every transaction on disk before it is shown.

Plain `sqlite3`, because a window opens it before it shows anything; what brings older notebooks up to date is loaded only where
one is opened.
"""

from __future__ import annotations

import contextlib
import sqlite3
from collections.abc import Iterable, Iterator, Sequence
from pathlib import Path
from threading import RLock
from typing import Any

from candor.core.worded import worded
from candor.notebook.notebook_errors import (
    BusyNotebookError,
    DamagedNotebookError,
    DiskFullError,
    NotebookError,
    ReadOnlyNotebookError,
)
from candor.notebook.storage.chain import chained
from candor.notebook.storage.opening import AT_ONCE_S, busy, is_busy, open_file, refuse_damaged
from candor.notebook.storage.rows import Judge, NewRow, PackRow, PlaceRow, Revision, Row, is_as_kept
from candor.notebook.storage.uncollected import uncollected

COLUMNS = "number, id, job, kind, at, who, body, chain"
_KINDS = [int, *(str,) * 7]


def text_of(value: object) -> str:
    """Return what stands in a column as text, with marks for bytes that are none."""
    return value.decode("utf-8", "replace") if isinstance(value, bytes) else "" if value is None else str(value)


def as_row(columns: Sequence[object]) -> Row:
    """Return an entry from its columns, whatever stands in them."""
    if [*map(type, columns)] == _KINDS:  # all but those that are broken
        return Row._make(columns)
    number, *rest = columns
    return Row(int(str(number)), *map(text_of, rest))


def fetched(connection: sqlite3.Connection, query: str, values: tuple[str, ...] = ()) -> list[tuple[Any, ...]]:
    """Return what a query finds. Bytes that are no text spoil the entry they stand in, and no other."""
    try:
        return connection.execute(query, values).fetchall()
    except sqlite3.OperationalError as error:
        if "decode" not in str(error):
            raise
    connection.text_factory = text_of  # four times slower
    try:
        return connection.execute(query, values).fetchall()
    finally:
        connection.text_factory = str


class SqliteStore:
    """A notebook in one file; see `rows.Store`.

    Parameters
    ----------
    path : Path
        Made where it does not exist.
    patience_s : float
        How long to wait for another program to let go of it.
    later : bool
        Whether a large file may be opened before all of its pages are looked through; `look_through` does it then.

    Raises
    ------
    NotebookError
        Where it cannot be opened; the file is left as it was.
    """

    def __init__(self, path: Path, patience_s: float, later: bool = False) -> None:
        self._path = path
        self._connection, self._read_only, self.unlooked = open_file(path, patience_s, later)
        # A rollback journal, synced with its folder: one file at rest, and no entry lost to a pulled plug.
        self._connection.execute("pragma synchronous = extra")
        self._read_only = self._read_only or self._foreign()
        self.judge: Judge = lambda _: ""  # asked of what comes in late, which into a file nothing does
        self.who = ""  # a file does not know who writes
        self._lock = RLock()
        self._own = 0

    def _foreign(self) -> str:
        """Why nothing may be written where another program has put in what would run, or hide, when something is."""
        asked = "select type, name from sqlite_master where type in ('trigger', 'view') order by name limit 1"
        found = self._connection.execute(asked).fetchone()
        return worded("storage.there_is_a_in_it_that", first=found[0], found=found[1]) if found else ""

    @property
    def away(self) -> str:
        """Why what is written now does not reach all who write in it: a file is never away."""
        return ""

    @property
    def server(self) -> str:
        """The server that it lies on: none."""
        return ""

    @property
    def is_copy(self) -> bool:
        """Whether the file is a bench's copy of a notebook on a server."""
        asked = "select 1 from sqlite_master where type = 'table' and name = 'server'"
        return bool(self._connection.execute(asked).fetchone())

    @property
    def read_only(self) -> str:
        """Why it may only be read; empty where it may be written."""
        return self._read_only

    def look_through(self) -> None:
        """Look through every page, where that is still to be done; what is damaged is from then on only read.

        Raises
        ------
        DamagedNotebookError, BusyNotebookError
        """
        if self.unlooked:
            try:
                refuse_damaged(self._path)
            except DamagedNotebookError:
                self._read_only, self.unlooked = worded("storage.the_file_is_damaged"), False
                raise
            self.unlooked = False

    def do_not_wait(self) -> None:
        """From here on wait for another program two frames at most: whoever asks must not stand still for it."""
        self._connection.execute(f"pragma busy_timeout = {round(1000 * AT_ONCE_S)}")

    def close(self) -> None:
        """Let go of the file; whoever reads beside it comes to the end of that first."""
        with self._lock:  # a connection that is closed under a query ends the whole program
            self._connection.close()

    # --- reading --------------------------------------------------------------------------------------

    def of_job(self, job: str) -> list[Row]:
        """Return the rows of a job, in order."""
        return self._rows("where job = ? order by number", (job,))

    def of_kinds(self, kinds: Sequence[str]) -> list[Row]:
        """Return the rows of some kinds, of all jobs, in the order of their numbers."""
        indexed = "" if "reading" in kinds else "kind <> 'reading' and "
        return self._rows(f"where {indexed}kind in ({', '.join('?' * len(kinds))}) order by number", tuple(kinds))

    def naming(self, kind: str, words: Sequence[str], since: str = "") -> list[Row]:
        """Return the rows of a kind, of all jobs, in whose body one of some words stands, from a moment on (ISO 8601, UTC)."""
        if not words:
            return []
        named = " or ".join(("instr(body, ?)",) * len(words))
        return self._rows(f"where kind = ? and at >= ? and ({named}) order by number", (kind, since, *words))

    def everything(self) -> list[Row]:
        """Return all rows, job by job."""
        return self._rows("order by job, number")

    def kinds(self) -> frozenset[str]:
        """Return every kind that occurs, readings aside."""
        # From one kind to the next along the index: a plain "distinct" would read all of it.
        query = (
            "with recursive found(kind) as (select min(kind) from entries where kind <> 'reading' union all "
            "select (select min(kind) from entries where kind <> 'reading' and kind > found.kind) from found "
            "where kind is not null) "
            "select kind from found where kind is not null"
        )
        return frozenset(text_of(row[0]) for row in self._read(query))

    def revision(self, patient: bool = True) -> Revision:
        """Return what tells whether anything was written; not `patient`, without waiting for who writes."""
        if patient:
            return Revision(self._own, self._read("pragma data_version")[0][0])
        with self._lock:
            patience = self._connection.execute("pragma busy_timeout").fetchone()[0]
            self._connection.execute("pragma busy_timeout = 0")
            try:
                return self.revision()
            finally:
                self._connection.execute(f"pragma busy_timeout = {patience}")

    def head(self, job: str) -> str:
        """Return the link of a job's newest row; empty where it has none."""
        found = self._read("select chain from entries where job = ? order by number desc limit 1", (job,))
        return text_of(found[0][0]) if found else ""

    def gone(self) -> int:
        """Return how many of the numbers that were given have no entry any more."""
        counted = self._read("select count(*), coalesce(max(number), 0) from entries")[0]
        last = self._read("select seq from sqlite_sequence where name = 'entries'")
        return max(int(counted[1]), int(last[0][0]) if last else 0) - int(counted[0])

    def packs(self) -> list[PackRow]:
        """Return every pack that was kept, by its id."""
        return [
            PackRow(*map(text_of, row))
            for row in self._read("select digest, id, edition, body from packs order by id")
        ]

    def pack(self, digest: str) -> PackRow | None:
        """Return a pack that was kept."""
        found = self._read("select digest, id, edition, body from packs where digest = ?", (digest,))
        return PackRow(*map(text_of, found[0])) if found else None

    def places(self) -> list[PlaceRow]:
        """Return the bookmark of every job, the newest first."""
        return [
            PlaceRow(*map(text_of, row))
            for row in self._read("select job, stop, step, at from places order by at desc")
        ]

    def _source(self) -> str:
        """Return what entries are read from."""
        return "entries"

    def _rows(self, where: str, values: tuple[str, ...] = ()) -> list[Row]:
        with uncollected():
            return [as_row(row) for row in self._read(f"select {COLUMNS} from {self._source()} {where}", values)]

    def _read(self, query: str, values: tuple[str, ...] = ()) -> list[tuple[Any, ...]]:
        try:
            with self._lock:
                return fetched(self._connection, query, values)
        except sqlite3.DatabaseError as error:
            if is_busy(error):
                raise busy(self._path) from None
            raise DamagedNotebookError(
                worded("storage.could_not_be_read_nothing_was", path=self._path, error=error), place=str(self._path)
            ) from None

    # --- writing --------------------------------------------------------------------------------------

    def append(self, rows: Iterable[NewRow]) -> list[int]:
        """Write rows of any jobs in one transaction, all or none, on disk when it ends; return their numbers."""
        numbers, links = [], dict[str, str]()
        with self.transaction() as connection:
            for row in rows:
                if row.job not in links:
                    # Read inside the transaction that writes: between the two nobody else can put a link.
                    newest = "select chain from entries where job = ? order by number desc limit 1"
                    found = connection.execute(newest, (row.job,)).fetchone()
                    links[row.job] = found[0] if found else ""
                links[row.job] = link = chained(links[row.job], *row)
                cursor = connection.execute(
                    "insert into entries (id, job, kind, at, who, body, chain) values (?, ?, ?, ?, ?, ?, ?)",
                    (*row, link),
                )
                numbers.append(int(cursor.lastrowid or 0))
        self._own += 1
        return numbers

    def keep_pack(self, row: PackRow) -> None:
        """Keep a pack; one that is there stays, unless its bytes are no longer those of its digest."""
        with self.transaction() as connection:
            kept = self.pack(row.digest)
            if kept is None or not is_as_kept(kept):
                connection.execute(
                    "insert or replace into packs (digest, id, edition, body) values (?, ?, ?, ?)", row
                )

    def keep_place(self, row: PlaceRow) -> None:
        """Put the bookmark of a job."""
        with self.transaction() as connection:
            connection.execute("insert or replace into places (job, stop, step, at) values (?, ?, ?, ?)", row)

    @contextlib.contextmanager
    def transaction(self) -> Iterator[sqlite3.Connection]:
        """One transaction: committed at the end of the outermost, rolled back where anything raises."""
        if self._read_only:
            raise ReadOnlyNotebookError(
                worded("storage.this_notebook_can_only_be_read", read_only=self._read_only),
                place=str(self._path),
            )
        connection = self._connection
        with self._lock:
            try:
                if connection.in_transaction:  # of this thread, which holds the lock: part of the one that is open
                    yield connection
                    return
                connection.execute("begin immediate")
                try:
                    yield connection
                    connection.execute("commit")
                except BaseException:
                    if connection.in_transaction:  # SQLite rolls back by itself where the disk is full
                        connection.execute("rollback")
                    raise
            except sqlite3.DatabaseError as error:
                raise self._explained(error) from None

    def _explained(self, error: sqlite3.DatabaseError) -> NotebookError:
        kept, detail, place = (
            worded("storage.the_entry_was_not_written_what"), str(error), str(self._path),
        )  # fmt: skip
        if "full" in detail:
            return DiskFullError(worded("storage.the_disk_is_full_make_room", kept=kept), place=place)
        if "readonly" in detail or "read-only" in detail:
            return ReadOnlyNotebookError(
                worded("storage.the_notebook_has_become_write_protected", kept=kept), place=place
            )
        if is_busy(error):
            return BusyNotebookError(worded("storage.the_notebook_is_in_use_by", kept=kept), place=place)
        return NotebookError(
            worded("storage.the_notebook_could_not_be_written", detail=detail, kept=kept), place=place
        )
