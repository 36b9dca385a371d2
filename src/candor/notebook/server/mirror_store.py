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
from dataclasses import dataclass
from pathlib import Path

from candor.core.worded import worded
from candor.notebook.entries.body import Body
from candor.notebook.entries.stay_entries import BroughtIn
from candor.notebook.notebook_errors import NotebookError, ReadOnlyNotebookError
from candor.notebook.server.server_link import ServerAwayError, ServerLink, Shop
from candor.notebook.server.server_schema import SIGNED
from candor.notebook.storage.bodies import body_of, moment_of
from candor.notebook.storage.chain import chained
from candor.notebook.storage.files import is_plain_name
from candor.notebook.storage.folders import Folders
from candor.notebook.storage.kept_files import final_files
from candor.notebook.storage.rows import NewRow, PackRow, PlaceRow, Row, Store, is_as_kept
from candor.notebook.storage.schema import MIRROR_TABLES
from candor.notebook.storage.sqlite import COLUMNS, SqliteStore, as_row, text_of

AGAIN_S = 2.0  # until a server that was away is tried again
WAITS = 1 << 52  # numbers from here on are of entries that wait: the server gives them their own


@dataclass(frozen=True)
class Told:
    """What is known of the server here.

    Attributes
    ----------
    url : str
        Without a password.
    id : str
        The notebook's own.
    who : str
        Who the server last said is writing.
    may : str
        What that person may: some of `writes`, `signs`, `keeps`.
    """

    url: str
    id: str
    who: str
    may: str


_away: set[Path] = set()  # copies whose server did not answer when it was last tried


class MirrorStore(SqliteStore):
    """A notebook on a server with its copy at `path`; see `rows.Store`.

    Parameters
    ----------
    path : Path
        The copy: `mirrors.make_mirror` makes it.
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
        super().__init__(path, patience_s, later)
        self.told = told_by(self._connection)
        self.link = ServerLink(url or self.told.url)
        self._at = path.absolute()
        self._patient, self._again_at = True, 0.0
        self.who = self.told.who
        self._who = self.told.who  # by which what this window wrote was signed when it was opened
        self._met = False
        self._depth = 0
        self._up = False  # whether the open transaction is the server's
        self._written: list[Row] = []
        self._asked: list[NewRow] = []

    @property
    def server(self) -> str:
        """The server and the notebook on it."""
        return self.link.name

    @property
    def reachable(self) -> bool:
        """Whether the server answered when it was last tried, by any store of this program on the same copy."""
        return self._at not in _away

    @reachable.setter
    def reachable(self, answers: bool) -> None:
        (_away.discard if answers else _away.add)(self._at)

    @property
    def away(self) -> str:
        """Why what is written now does not reach the server; empty where it does, as far as is known."""
        if count := self.waiting:
            return worded("server.so_many_wait", count=count, name=self.link.name)
        return "" if self.reachable else worded("server.is_away", name=self.link.name)

    @property
    def read_only(self) -> str:
        """Why it may only be read; empty where it may be written."""
        if not self._read_only and "writes" not in self.told.may:
            return worded("server.a_guest_reads", who=self.told.who)
        return self._read_only

    @property
    def waiting(self) -> int:
        """How many entries are not on the server yet."""
        return int(self._read("select count(*) from waiting")[0][0])

    @property
    def waiting_since(self) -> str:
        """When the oldest entry that is not on the server was written, UTC, ISO 8601; empty where there is none."""
        found = self._read("select at from waiting order by place limit 1")
        return text_of(found[0][0]) if found else ""

    def do_not_wait(self) -> None:
        """From here on wait for nobody: a server that was away is not tried again before whoever watches it says so."""
        super().do_not_wait()
        self._patient = False

    def close(self) -> None:
        """Let go of the copy and of the server."""
        with self._lock:
            self.link.close()
        super().close()

    # --- reading --------------------------------------------------------------------------------------

    def _source(self) -> str:
        if not self._read("select exists (select 1 from waiting)")[0][0]:
            return "entries"
        return (
            f"(select {COLUMNS} from entries union all "
            f"select {WAITS} + place, id, job, kind, at, who, body, chain from waiting)"
        )

    def kinds(self) -> frozenset[str]:
        """Return every kind that occurs, readings aside."""
        return super().kinds() | {text_of(row[0]) for row in self._read("select distinct kind from waiting")}

    def head(self, job: str) -> str:
        """Return the link of a job's newest row; empty where it has none, or where one waits whose link the server may change."""
        return "" if self._waiting_link(job) else super().head(job)

    def _waiting_link(self, job: str) -> str:
        found = self._read("select chain from waiting where job = ? order by place desc limit 1", (job,))
        return text_of(found[0][0]) if found else ""

    # --- from the server ------------------------------------------------------------------------------

    def meet(self) -> Shop:
        """Ask the server who it is and who asks; what it says is known here from then on.

        Raises
        ------
        NotebookError
            Where it does not answer, refuses, or its notebook is not the one whose copy this is.
        """
        with self._lock:
            shop = self.link.meet()
            if shop.id != self.told.id:
                raise NotebookError(worded("server.is_another_notebook", name=self.link.name), place=self.link.name)
            self._refuse_turned_back()
            may = " ".join(
                w for w, may in (("writes", shop.writes), ("signs", shop.signs), ("keeps", shop.keeps)) if may
            )
            if (shop.who, may) != (self.told.who, self.told.may):
                with SqliteStore.transaction(self) as here:
                    here.execute("update server set who = ?, may = ?", (shop.who, may))
                self.told = told_by(self._connection)
                self.who = self.told.who
            self._met = True
            return shop

    def _refuse_turned_back(self) -> None:
        """Refuse a server on which entries that it gave this bench are gone, or are others."""
        newest = self._read("select number, chain from entries order by number desc limit 1")
        if newest and self.link.link_of(int(newest[0][0])) != newest[0][1]:
            raise NotebookError(
                worded("server.was_turned_back", name=self.link.name, number=newest[0][0]), place=self.link.name
            )

    def pull(self) -> int:
        """Bring what is new on the server here, files before the entries that name them; return how many entries.

        Raises
        ------
        NotebookError
            Where the server does not answer, or what it gave does not follow what is here.
        """
        with self._lock:
            if not self._met or not self.link.is_up:
                self.meet()
            return self._pull()

    def _pull(self) -> int:
        self._pull_files()
        for number, pack in self.link.packs_after(self._seen("packs")):
            with SqliteStore.transaction(self) as here:
                here.execute("insert or ignore into packs (digest, id, edition, body) values (?, ?, ?, ?)", pack)
                here.execute("update server set packs = ?", (number,))
        count = 0
        while rows := self.link.rows_after(int(self._read("select coalesce(max(number), 0) from entries")[0][0])):
            self._keep(rows)
            count += len(rows)
        return count

    def _pull_files(self) -> None:
        folders = Folders(self._path)
        for row in self.link.files_after(self._seen("files")):
            target = folders.of(row.folder) / row.name
            if not (target.is_file() and target.stat().st_size == row.size):
                self.link.fetch_file(row, target)
            with SqliteStore.transaction(self) as here:
                here.execute("update server set files = ?", (row.number,))

    def _seen(self, what: str) -> int:
        return int(self._read(f"select {what} from server")[0][0])

    def _keep(self, rows: Sequence[Row]) -> None:
        """Put entries of the server into the copy; each must follow the one of its job that stands here."""
        links: dict[str, str] = {}
        with SqliteStore.transaction(self) as here:
            there = here.execute("select coalesce(max(number), 0) from entries").fetchone()[0]
            for row in rows:
                if row.number <= there:  # another window of this bench was sooner
                    continue
                before = links.get(row.job)
                if before is None:
                    before = super().head(row.job)
                link = links[row.job] = chained(before, row.id, row.job, row.kind, row.at, row.who, row.body)
                if link != row.chain:
                    raise NotebookError(
                        worded("server.does_not_follow", name=self.link.name, number=row.number), place=self.link.name
                    )
                here.execute(f"insert into entries ({COLUMNS}) values (?, ?, ?, ?, ?, ?, ?, ?)", row)
                here.execute("delete from waiting where id = ?", (row.id,))

    # --- to the server --------------------------------------------------------------------------------

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
                    with SqliteStore.transaction(self):
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
            self.link.begin()
            self._pull()
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
            with SqliteStore.transaction(self) as here:
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
                    with SqliteStore.transaction(self) as copy:
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
            link = chained(self._waiting_link(row.job) or super().head(row.job), *row)
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
        there = self.link.written([row.id for row in waiting])
        rows = [NewRow(*row[1:7]) for row in waiting if row.id not in there]
        notes = [self._note(job, waiting) for job in dict.fromkeys(row.job for row in waiting if row.id not in there)]
        self._send_files(rows)
        self._written.extend(self.link.append([*rows, *(n for n in notes if n is not None)]))
        with SqliteStore.transaction(self) as here:  # those that it had: it has no more to say of them
            here.executemany("delete from waiting where id = ?", [(id,) for id in there])

    def _note(self, job: str, waiting: Sequence[Row]) -> NewRow | None:
        """Return the entry that says what was written elsewhere while a job's entries waited; None where nothing was."""
        of_job = [row for row in waiting if row.job == job]
        stands = super().head(job)
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


def told_by(connection: sqlite3.Connection) -> Told:
    """Return what a copy knows of its server."""
    return Told(*map(text_of, connection.execute("select url, id, who, may from server").fetchone()))


def make_tables(connection: sqlite3.Connection, told: Told) -> None:
    """Make an empty notebook file the copy of one on a server."""
    for table in MIRROR_TABLES:
        connection.execute(table)
    connection.execute(
        "insert into server (url, id, who, may) values (?, ?, ?, ?)", (told.url, told.id, told.who, told.may)
    )
