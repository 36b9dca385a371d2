"""One connection to the server of a notebook: what is asked of it, and what its answers mean.

Whatever fails is said: the server is away (nothing is known of what was asked last), or it refuses.
"""

from __future__ import annotations

import contextlib
import datetime as dt
import hashlib
import ipaddress
import logging
import os
from collections.abc import Callable, Iterable, Sequence
from pathlib import Path
from typing import Any, NamedTuple, TypeVar

import psycopg
from psycopg.conninfo import conninfo_to_dict, make_conninfo

from candor.core.late_dataclass import dataclass
from candor.core.worded import worded
from candor.durably import make_private, replacing
from candor.notebook.notebook_errors import (
    ForeignFileError,
    NewerNotebookError,
    NotebookError,
)
from candor.notebook.server.server_errors import explained
from candor.notebook.server.server_schema import BENCH, CHANNEL, FORM, KEEPER, ONE_WRITER, SIGNER
from candor.notebook.storage.rows import NewRow, PackRow, Row

T = TypeVar("T")
logging.getLogger("psycopg").addHandler(
    logging.NullHandler()
)  # a link that is lost is said once, in words, not on the terminal
CONNECT_S = 3  # to reach a server, at most; libpq's own least is 2
SILENT_MS = 4000  # a link on which nothing is acknowledged for so long is gone
WAIT_MS = 4000  # for the other benches' writing to end
# What the server is told of this connection: a bench whose plug was pulled lets go of its lock and is gone within half a minute.
_SETTINGS = {
    "client_encoding": "UTF8",
    "lock_timeout": str(WAIT_MS),
    "idle_in_transaction_session_timeout": "15000",
    "tcp_keepalives_idle": "10",
    "tcp_keepalives_interval": "5",
    "tcp_keepalives_count": "3",
}
PIECE = 1 << 20  # bytes of a file that travel at once


AT_ONCE = 5000  # entries
_NEWS = (
    f"select number, id, job, kind, at, who, body, chain from candor.entries where number > %s order by number limit {AT_ONCE}",
    "select number, digest, id, edition, body from candor.packs where number > %s order by number",
    "select number, folder, name, digest, size from candor.files where number > %s order by number",
)


@dataclass(frozen=True)
class Shop:
    """What a server says of its notebook and of who asks.

    Attributes
    ----------
    id : str
        The notebook's own.
    who : str
        Who the server says is writing.
    writes, signs, keeps : bool
        What that person may: write entries, sign, bring in what others wrote.
    ahead_s : float
        By how many seconds the server's clock is ahead of this computer's.
    """

    id: str
    who: str
    writes: bool
    signs: bool
    keeps: bool
    ahead_s: float

    @property
    def may(self) -> str:
        """What that person may, as a copy remembers it."""
        return " ".join(word for word in ("writes", "signs", "keeps") if getattr(self, word))


@dataclass(frozen=True)
class FileRow:
    """A file of the notebook on the server: `number` counts them in the order they came, `digest` is the SHA-256 of its bytes."""

    number: int
    folder: str
    name: str
    digest: str
    size: int


class News(NamedTuple):
    """What is new on the server: entries, packs with their numbers, files."""

    rows: tuple[Row, ...]
    packs: tuple[tuple[int, PackRow], ...]
    files: tuple[FileRow, ...]


@dataclass(frozen=True)
class BenchRow:
    """Another bench that is there now: who, its computer, the job and stop in hand, files of runs it holds, and since when."""

    who: str
    bench: str
    job: str
    stop: str
    held: tuple[str, ...]
    since: dt.datetime


def is_near(host: str) -> bool:
    """Whether a host is this computer: a socket's folder, `localhost` or an address of the loopback."""
    if not host or host.startswith("/") or host == "localhost":
        return True
    try:
        return ipaddress.ip_address(host).is_loopback
    except ValueError:
        return False


def conninfo_of(url: str) -> str:
    """Return how a server is connected to; beyond this computer always encrypted.

    Raises
    ------
    NotebookError
        Where the address is none.
    """
    try:
        asked = {k: str(v) for k, v in conninfo_to_dict(url).items() if v is not None}
    except psycopg.ProgrammingError as error:
        raise NotebookError(worded("server.is_no_address", url=url[:200], why=str(error).strip())) from None
    hosts = [*asked.get("host", "").split(","), *asked.get("hostaddr", "").split(",")]
    if not all(map(is_near, hosts)) and asked.get("sslmode") not in ("require", "verify-ca", "verify-full"):
        asked["sslmode"] = "require"
    asked.setdefault("connect_timeout", str(CONNECT_S))
    asked.setdefault("tcp_user_timeout", str(SILENT_MS))
    asked.setdefault("keepalives_idle", "5")
    asked.setdefault("application_name", "candor")
    return make_conninfo("", **asked)


class ServerLink:
    """A connection, made where it is first needed; not for two threads at once.

    Parameters
    ----------
    url : str
        `postgresql://person@host/notebook`; a password in it, or where libpq finds it (`~/.pgpass`, `PGPASSWORD`).
    """

    def __init__(self, url: str) -> None:
        self._conninfo = conninfo_of(url)
        asked = conninfo_to_dict(self._conninfo)
        self.name = f"{asked.get('host') or 'this computer'}/{asked.get('dbname', '')}"
        self._connection: psycopg.Connection[Any] | None = None

    @property
    def is_up(self) -> bool:
        """Whether there is a connection, as far as is known."""
        return self._connection is not None and not self._connection.closed

    def close(self) -> None:
        """Let go of the connection."""
        if self._connection is not None:
            self._connection.close()
            self._connection = None

    def meet(self) -> Shop:
        """Return what the server says of its notebook and of who asks.

        Raises
        ------
        ServerAwayError, ServerRefusedError, ForeignFileError, NewerNotebookError
        """
        there = self._one("select to_regclass('candor.notebook') is not null")[0]
        if not there:
            raise ForeignFileError(worded("server.holds_no_notebook", name=self.name), place=self.name)
        may = ", ".join(f"pg_has_role(session_user, '{role}', 'member')" for role in (BENCH, SIGNER, KEEPER))
        sent = dt.datetime.now(dt.UTC)
        found = self._one(f"select id, form, session_user, {may}, clock_timestamp() from candor.notebook")
        if int(found[1]) > FORM:
            raise NewerNotebookError(
                worded("server.is_of_a_newer_form", name=self.name, form=found[1], own=FORM), place=self.name
            )
        return Shop(
            id=str(found[0]), who=str(found[2]), writes=found[3], signs=found[4], keeps=found[5],
            ahead_s=(found[6] - sent).total_seconds(),
        )  # fmt: skip

    # --- reading --------------------------------------------------------------------------------------

    def last_number(self) -> int:
        """Return the number of the newest entry."""
        return int(self._one("select coalesce(max(number), 0) from candor.entries")[0])

    def news(self, entries: int, packs: int, files: int, alone: bool = False) -> News:
        """Return what came after so many entries, packs and files, in order, in one question.

        Numbers of entries have no gaps: who writes holds the one lock to the end. `alone` begins a transaction that nobody else
        writes beside, from which on that is all there is; it is ended by `commit` or `roll_back`.
        """

        def ask(connection: psycopg.Connection[Any]) -> News:
            with connection.pipeline():
                if alone:
                    connection.execute("begin")
                    connection.execute("select pg_advisory_xact_lock(%s)", (ONE_WRITER,))
                found = [
                    connection.execute(asked.encode(), (after,))
                    for asked, after in zip(_NEWS, (entries, packs, files), strict=True)
                ]
            rows, kept, sent = (cursor.fetchall() for cursor in found)
            return News(
                tuple(Row._make(row) for row in rows),
                tuple((int(row[0]), PackRow._make(row[1:])) for row in kept),
                tuple(FileRow(*row) for row in sent),
            )

        return self._run(ask)

    def link_of(self, number: int) -> str:
        """Return the link of an entry; empty where there is none."""
        found = self._all("select chain from candor.entries where number = %s", (number,))
        return str(found[0][0]) if found else ""

    def fetch_file(self, row: FileRow, target: Path) -> None:
        """Put a file of the server where it belongs, whole or not at all, a piece at a time.

        Raises
        ------
        ServerAwayError, ServerRefusedError, OSError
        NotebookError
            Where its bytes are not those of its digest.
        """
        make_private(target.parent)
        digest, place = hashlib.sha256(), 0
        with replacing(target, is_kept=True) as file:
            asked = "select bytes from candor.pieces where digest = %s and place = %s"
            while found := self._all(asked, (row.digest, place)):
                digest.update(found[0][0])
                file.write(found[0][0])
                place += 1
            if digest.hexdigest() != row.digest:
                raise NotebookError(worded("server.file_is_not_what_was_kept", file=row.name, name=self.name))

    def benches(self) -> tuple[BenchRow, ...]:
        """Return the other benches that are there now."""
        asked = (
            "select b.who, b.bench, b.job, b.stop, b.held, b.since from candor.benches b "
            "join pg_stat_activity a on a.pid = b.backend where b.backend <> pg_backend_pid() "
            "and b.told > now() - interval '75 s' order by b.since"
        )
        return tuple(
            BenchRow(who=who, bench=bench, job=job, stop=stop, held=tuple(held), since=since)
            for who, bench, job, stop, held, since in self._all(asked)
        )

    def be_at(self, job: str, stop: str, held: Sequence[str]) -> None:
        """Tell the other benches what is in hand here, and which files of runs are held."""
        self._all("select candor.be_at(%s, %s, %s, %s)", (os.uname().nodename, job, stop, list(held)))

    def listen(self) -> None:
        """From here on be told when anything is written."""
        self._run(lambda c: c.execute(f"listen {CHANNEL}"))

    def heard(self, wait_s: float) -> bool:
        """Wait so long at most; whether anything was written meanwhile."""
        return self._run(lambda c: bool(list(c.notifies(timeout=wait_s, stop_after=1))))

    # --- writing --------------------------------------------------------------------------------------

    def begin(self) -> None:
        """Begin a transaction, alone: nobody else writes from here to its end."""
        self._run(lambda c: c.execute("begin"))
        self._all("select pg_advisory_xact_lock(%s)", (ONE_WRITER,))

    def commit(self) -> None:
        """End it; where the server does not answer it is not known whether it was."""
        self._run(lambda c: c.execute("commit"))

    def roll_back(self) -> None:
        """Undo it; a server that is away does so by itself."""
        if self.is_up:
            with contextlib.suppress(NotebookError):
                self._run(lambda c: c.execute("rollback"))

    def append(self, rows: Sequence[NewRow]) -> list[Row]:
        """Write entries; return them as they stand there, numbered and linked. Within a transaction."""
        asked = (
            "insert into candor.entries (id, job, kind, at, who, body) values (%s, %s, %s, %s, %s, %s) "
            "returning number, id, job, kind, at, who, body, chain"
        )

        def write(connection: psycopg.Connection[Any]) -> list[Row]:
            if len(rows) == 1:  # nearly always: one question, one answer
                return [Row._make(found) for found in connection.execute(asked.encode(), tuple(rows[0])).fetchall()]
            made: list[Row] = []
            with connection.cursor() as cursor:
                cursor.executemany(asked.encode(), [tuple(row) for row in rows], returning=True)
                while True:
                    made.extend(Row._make(found) for found in cursor.fetchall())
                    if not cursor.nextset():
                        return made

        return self._run(write) if rows else []

    def keep_pack(self, row: PackRow) -> None:
        """Keep a pack; one that is there stays."""
        asked = "insert into candor.packs (digest, id, edition, body) values (%s, %s, %s, %s) on conflict (digest) do nothing"
        self._do(asked, row)

    def send_file(self, folder: str, path: Path) -> None:
        """Give the server a file, a piece at a time; bytes that it has are not sent again.

        Raises
        ------
        ServerAwayError, ServerRefusedError, OSError
        """
        with path.open("rb") as file:
            digest = hashlib.file_digest(file, "sha256").hexdigest()
            size = file.tell()
            asked = "select 1 from candor.files where digest = %s limit 1"
            if not self._all(asked, (digest,)):
                file.seek(0)
                for place, piece in enumerate(iter(lambda: file.read(PIECE), b"")):
                    put = "insert into candor.pieces values (%s, %s, %s) on conflict do nothing"
                    self._do(put, (digest, place, piece))
        self._do(
            "insert into candor.files (folder, name, digest, size) values (%s, %s, %s, %s) on conflict do nothing",
            (folder, path.name, digest, size),
        )

    # --- the connection -------------------------------------------------------------------------------

    def _one(self, asked: str) -> tuple[Any, ...]:
        return self._all(asked)[0]

    def _all(self, asked: str, values: Iterable[object] = ()) -> list[tuple[Any, ...]]:
        return self._run(lambda c: c.execute(asked.encode(), tuple(values)).fetchall())

    def _do(self, asked: str, values: Iterable[object]) -> None:
        self._run(lambda c: c.execute(asked.encode(), tuple(values)))

    def _run(self, deed: Callable[[psycopg.Connection[Any]], T]) -> T:
        try:
            return deed(self._connected())
        except psycopg.Error as error:
            gone, failed = explained(error, self.name, never_met=self._connection is None)
            if gone:
                self.close()
            raise failed from None

    def _connected(self) -> psycopg.Connection[Any]:
        if self._connection is None or self._connection.closed:
            self._connection = psycopg.connect(self._conninfo, autocommit=True)
            for name, value in _SETTINGS.items():
                self._connection.execute("select set_config(%s, %s, false)", (name, value))
        return self._connection
