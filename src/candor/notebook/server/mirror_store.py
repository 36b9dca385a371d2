"""The store of a bench whose notebook is on a server: all of it lies in a file here too, and is read from that.

What is written goes to the server first, in one transaction that nobody else writes beside; then it stands here. Where the server
is away it waits here, on the disk, in a table of its own. It is brought in when the server is back, in its order, after what others
wrote.
"""

from __future__ import annotations

import contextlib
import datetime as dt
import sqlite3
import time
import uuid
from collections.abc import Iterable, Iterator, Sequence
from pathlib import Path

from candor.core.worded import worded
from candor.notebook.entries.body import Body
from candor.notebook.entries.stay_entries import BroughtIn
from candor.notebook.notebook_errors import NotebookError, ReadOnlyNotebookError
from candor.notebook.server.mirror_copy import WAITS, MirrorCopy
from candor.notebook.server.server_errors import ServerAwayError
from candor.notebook.server.server_schema import SIGNED
from candor.notebook.storage.bodies import body_of, moment_of
from candor.notebook.storage.chain import chained
from candor.notebook.storage.files import is_plain_name
from candor.notebook.storage.folders import Folders
from candor.notebook.storage.kept_files import final_files
from candor.notebook.storage.rows import NewRow, PackRow, PlaceRow, Row, Store, is_as_kept
from candor.notebook.storage.sqlite import SqliteStore, as_row, text_of

AGAIN_S = 2.0  # until a server that was away is tried again


class MirrorStore(MirrorCopy):
    """A notebook on a server with its copy at `path`; see `rows.Store`.

    Parameters
    ----------
    path : Path
        The copy: `mirrors.make_copy` makes it.
    patience_s : float
        How long to wait for another program to let go of the copy.
    later : bool
        As `SqliteStore`.
    url : str
        How the server is reached, with a password where it has to be; without one the copy's own word.

    Raises
    ------
    NotebookError
        Where the copy cannot be opened.
    """

    def __init__(self, path: Path, patience_s: float, later: bool = False, url: str = "") -> None:
        super().__init__(path, patience_s, later, url)
        self._depth = 0
        self._up = False  # whether the open transaction is the server's
        self._written: list[Row] = []
        self._asked: list[NewRow] = []

    @contextlib.contextmanager
    def transaction(self) -> Iterator[sqlite3.Connection]:
        """One transaction at the server, with all that others wrote before it here; in the copy alone where the server is away."""
        if self.read_only:
            raise ReadOnlyNotebookError(
                worded("storage.this_notebook_can_only_be_read", read_only=self.read_only), place=str(self._path)
            )
        with self._lock:
            if self._depth:
                yield self._connection
                return
            self._depth, self._written, self._asked = 1, [], []
            try:
                self._up = self._begun()
                if self._up:
                    yield self._connection
                    self._commit()
                else:
                    with self.durably():
                        yield self._connection
            except BaseException:
                if self._up:
                    self.link.roll_back()
                raise
            finally:
                self._depth, self._up = 0, False

    def _begun(self) -> bool:
        """Begin at the server, where it can be reached, with what waited here brought in."""
        if not (self.reachable or self.link.is_up or (self._patient and time.monotonic() > self._again_at)):
            return False
        try:
            if not self._met or not self.link.is_up:
                self.meet()
            self._pull(alone=True)
            self._bring_in()
        except ServerAwayError:
            self.link.roll_back()
            self.reachable, self._written = False, []
            self._again_at = time.monotonic() + AGAIN_S
            return False
        except BaseException:
            self.link.roll_back()
            raise
        self.reachable = True
        return True

    def _commit(self) -> None:
        if not self._up:  # the server went away while it was written to: it waits here
            return
        try:
            self.link.commit()
        except ServerAwayError:
            # Whether it took them is not known. They wait; those that it did take are not brought in twice.
            self.reachable = self._up = False
            with self.durably() as here:
                self._wait(here, self._asked)
            return
        with contextlib.suppress(
            NotebookError
        ):  # they are on the server: what could not be kept here is read from there again
            self._keep(self._written)

    def append(self, rows: Iterable[NewRow]) -> list[int]:
        """Write rows of any jobs in one transaction, all or none; return their numbers.

        Raises
        ------
        NotebookError
            Where the server refuses, or one of them is a signature and the server is away.
        """
        asked = [self._signed_by(row) for row in rows]
        with self.transaction() as here:
            if self._up:
                try:
                    self._send_files(asked)
                    written = self.link.append(asked)
                    self._asked.extend(asked)
                    self._written.extend(written)
                    numbers = [row.number for row in written]
                except ServerAwayError:
                    self.reachable = self._up = False
                    with self.durably() as copy:
                        numbers = self._wait(copy, [*self._asked, *asked])[len(self._asked) :]
            else:
                numbers = self._wait(here, asked)
        self._own += 1
        return numbers

    def _signed_by(self, row: NewRow) -> NewRow:
        """Return an entry under the name that the server knows who writes by."""
        if row.who in (self._who, self.told.who):
            return row._replace(who=self.told.who)
        if "keeps" not in self.told.may:
            raise NotebookError(worded("server.a_keeper_brings_in", who=row.who), place=self.link.name, value=row.who)
        return row

    def _wait(self, here: sqlite3.Connection, rows: Sequence[NewRow]) -> list[int]:
        """Let entries wait here for the server, linked as they would be if nobody else wrote."""
        numbers = []
        for row in rows:
            if row.kind in SIGNED:
                raise NotebookError(
                    worded("server.nothing_is_signed_while_away", name=self.link.name), place=self.link.name
                )
            link = chained(self._waiting_link(row.job) or SqliteStore.head(self, row.job), *row)
            cursor = here.execute(
                "insert into waiting (id, job, kind, at, who, body, chain) values (?, ?, ?, ?, ?, ?, ?)", (*row, link)
            )
            numbers.append(WAITS + int(cursor.lastrowid or 0))
        return numbers

    def join(self) -> int:
        """Bring in what waits, where the server is back; return how many entries were. Raises as `pull` does."""
        with self._lock:
            if not self.waiting:
                return 0
            self.reachable = True
            before = self.waiting
            with self.transaction():
                pass
            return before - self.waiting

    def _bring_in(self) -> None:
        """Give the server what waits, in its order, and for every job what was written there meanwhile; within a transaction."""
        waiting = [as_row((WAITS + row[0], *row[1:])) for row in self._read(
            "select place, id, job, kind, at, who, body, chain from waiting order by place"
        )]  # fmt: skip
        if not waiting:
            return
        for pack in self.packs():
            if is_as_kept(pack):
                self.link.keep_pack(pack)
        # What a lost answer left here though the server took it came with what is new there, and waits no more (`_keep`).
        rows = [NewRow(*row[1:7]) for row in waiting]
        notes = [self._note(job, waiting) for job in dict.fromkeys(row.job for row in waiting)]
        self._send_files(rows)
        self._written.extend(self.link.append([*rows, *(n for n in notes if n is not None)]))

    def _note(self, job: str, waiting: Sequence[Row]) -> NewRow | None:
        """Return the entry that says what was written elsewhere while a job's entries waited; None where nothing was."""
        of_job = [row for row in waiting if row.job == job]
        stands = SqliteStore.head(self, job)
        if of_job[0].chain == chained(stands, *of_job[0][1:7]):
            return None
        others = self._written_since(job, of_job[0])
        barred = tuple(dict.fromkeys(filter(None, (self.judge(row) for row in of_job))))
        body: Body = BroughtIn(entries=len(of_job), since=moment_of(of_job[0].at), others=others, barred=barred)
        now = dt.datetime.now(dt.UTC).isoformat(timespec="milliseconds")
        return NewRow(
            id=uuid.uuid4().hex, job=job, kind=body.kind, at=now, who=self.told.who, body=body.model_dump_json()
        )

    def _written_since(self, job: str, first: Row) -> int:
        """Return how many entries of a job stand here after the one that the first of those that wait followed."""
        links = [
            text_of(row[0]) for row in self._read("select chain from entries where job = ? order by number", (job,))
        ]
        for count, link in enumerate(["", *links][::-1]):
            if chained(link, *first[1:7]) == first.chain:
                return count
        return len(links)

    def _send_files(self, rows: Iterable[NewRow]) -> None:
        """Give the server the files that are whole from these entries on."""
        folders = Folders(self._path)
        for folder, name in final_files((body_of(Row(0, *row, chain="")) for row in rows), self._said_in):
            path = folders.of(folder) / name
            if is_plain_name(name) and path.is_file():
                self.link.send_file(folder, path)

    def _said_in(self, id: str) -> Body | None:
        found = self._rows("where id = ?", (id,))
        return body_of(found[0]) if found else None

    def keep_pack(self, row: PackRow) -> None:
        """Keep a pack; one that is there stays. Where the server is away it waits."""
        with self.transaction() as here:
            kept = self.pack(row.digest)
            if self._up:
                self.link.keep_pack(row)
            if kept is None or not is_as_kept(kept):
                with SqliteStore.transaction(self):
                    here.execute("insert or replace into packs (digest, id, edition, body) values (?, ?, ?, ?)", row)

    def keep_place(self, row: PlaceRow) -> None:
        """Put the bookmark of a job: this bench's own."""
        with SqliteStore.transaction(self) as here:
            here.execute("insert or replace into places (job, stop, step, at) values (?, ?, ?, ?)", row)


def catch_up(store: Store) -> None:
    """Bring what is new on the server to a copy; where it does not answer, that is known from then on."""
    if isinstance(store, MirrorStore):
        try:
            store.pull()
            store.reachable = True
        except ServerAwayError:
            store.reachable = False
