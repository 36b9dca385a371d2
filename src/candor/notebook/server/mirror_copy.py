"""A bench's copy of a notebook on a server: what stands in it, what waits in it for the server, and what comes from there."""

from __future__ import annotations

import contextlib
import sqlite3
from collections.abc import Iterable, Iterator, Sequence
from pathlib import Path

from candor.core.late_dataclass import dataclass
from candor.core.worded import worded
from candor.notebook.notebook_errors import NotebookError
from candor.notebook.server.server_link import AT_ONCE, FileRow, ServerLink, Shop
from candor.notebook.storage.chain import chained
from candor.notebook.storage.folders import Folders
from candor.notebook.storage.rows import Row
from candor.notebook.storage.schema import MIRROR_TABLES
from candor.notebook.storage.sqlite import COLUMNS, SqliteStore, text_of

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


class MirrorCopy(SqliteStore):
    """What stands here of a notebook on a server; `MirrorStore` is it with what goes there. Parameters as there."""

    def __init__(self, path: Path, patience_s: float, later: bool = False, url: str = "") -> None:
        super().__init__(path, patience_s, later)
        # What came from the server is there still; only what waits must be on this disk at once (`durably`).
        if not self._read_only:
            self._connection.execute("pragma journal_mode = wal")
        self._connection.execute("pragma synchronous = normal")
        self.told = told_by(self._connection)
        self.link = ServerLink(url or self.told.url)
        self._at = path.absolute()
        self._patient, self._again_at = True, 0.0
        self.who = self.told.who
        self._who = self.told.who  # by which what this window wrote was signed when it was opened
        self._met = False

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
        """Let it be known to all of them."""
        (_away.discard if answers else _away.add)(self._at)

    @property
    def away(self) -> str:
        """Why what is written now does not reach the server; empty where it does, as far as is known."""
        if count := self.waiting:
            return worded(
                "server.so_many_wait", entries=f"{count} entr{'y' if count == 1 else 'ies'}", name=self.link.name
            )
        return "" if self.reachable else worded("server.is_away", name=self.link.name)

    @property
    def read_only(self) -> str:
        """Why it may only be read; empty where it may be written."""
        if "writes" not in self.told.may:  # what a guest may is asked again whenever the server is met
            self.told = told_by(self._connection)
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

    @contextlib.contextmanager
    def durably(self) -> Iterator[sqlite3.Connection]:
        """One transaction in the copy alone, on this disk when it ends: what is in it is nowhere else."""
        with self._lock:
            self._connection.execute("pragma synchronous = full")
            try:
                with SqliteStore.transaction(self) as here:
                    yield here
            finally:
                self._connection.execute("pragma synchronous = normal")

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
            if (shop.who, shop.may) != (self.told.who, self.told.may):
                with SqliteStore.transaction(self) as here:
                    here.execute("update server set who = ?, may = ?", (shop.who, shop.may))
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

    def _pull(self, alone: bool = False) -> int:
        """Take in what is new; `alone` in a transaction that is begun with the question."""
        count = 0
        while True:
            seen = self._read("select (select coalesce(max(number), 0) from entries), packs, files from server")[0]
            news = self.link.news(int(seen[0]), int(seen[1]), int(seen[2]), alone and not count)
            self._take_files(news.files)
            for number, pack in news.packs:
                with SqliteStore.transaction(self) as here:
                    here.execute("insert or ignore into packs (digest, id, edition, body) values (?, ?, ?, ?)", pack)
                    here.execute("update server set packs = ?", (number,))
            if news.rows:
                self._keep(news.rows)
            count += len(news.rows)
            if len(news.rows) < AT_ONCE:
                return count

    def _take_files(self, rows: Iterable[FileRow]) -> None:
        folders = Folders(self._path)
        for row in rows:
            target = folders.of(row.folder) / row.name
            if not (target.is_file() and target.stat().st_size == row.size):
                self.link.fetch_file(row, target)
            with SqliteStore.transaction(self) as here:
                here.execute("update server set files = ?", (row.number,))

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
