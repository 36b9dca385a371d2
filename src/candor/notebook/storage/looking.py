"""Looking at a notebook file without touching it: any form of it, damaged or whole. Not a byte is written beside it or into it."""

from __future__ import annotations

import contextlib
import shutil
import sqlite3
import tempfile
from collections.abc import Callable, Iterator
from pathlib import Path

from candor.core.late_dataclass import dataclass
from candor.core.worded import worded
from candor.notebook.notebook_errors import ForeignFileError, NotebookError
from candor.notebook.storage.chain import chained
from candor.notebook.storage.opening import PATIENCE_S, connect, inspect_file
from candor.notebook.storage.rows import PackRow, Row
from candor.notebook.storage.schema import NEWEST
from candor.notebook.storage.sqlite import as_row, fetched, text_of

OURS = frozenset(
    (
        "entries",
        "packs",
        "places",
        "alembic_version",
        "sqlite_sequence",
        "entries_of_job",
        "entries_of_kind",
        "entries_on_shelf",
        "server",
        "waiting",
    )
)
_LOOK = worded("storage.it_is_only_looked_at")


@dataclass(frozen=True)
class Look:
    """What lies in a notebook file.

    Attributes
    ----------
    rows : tuple of Row
        Job by job, in order.
    broken : tuple of int
        The numbers of the entries whose digest does not fit, or that follow a gap; of the oldest form, which had no digests, none.
    packs : tuple of PackRow
    strange : tuple of (str, str)
        Tables, indexes, triggers and views that Candor does not make: what and name.
    last : int
        The number that was given last, by the database's own count.
    """

    rows: tuple[Row, ...]
    broken: tuple[int, ...]
    packs: tuple[PackRow, ...]
    strange: tuple[tuple[str, str], ...]
    last: int

    @property
    def gone(self) -> tuple[tuple[int, int], ...]:
        """First and last number of every run of entries that are no longer there: numbers have no gaps."""
        found, before = [], 0
        for number in sorted(row.number for row in self.rows):
            if number > before + 1:
                found.append((before + 1, number - 1))
            before = number
        return (*found, (before + 1, self.last)) if self.last > before else tuple(found)


def look_at(path: Path) -> Look:
    """Read a notebook file whole.

    Raises
    ------
    ForeignFileError, DamagedNotebookError, NewerNotebookError, BusyNotebookError, NotebookError
        Where it cannot be read.
    """
    if not path.exists():
        raise NotebookError(worded("storage.there_is_no_notebook_at", path=path), place=str(path))
    if not path.is_file():
        raise ForeignFileError(worded("storage.is_no_file_expected_a_notebook_file", path=path), place=str(path))
    try:
        with _at_rest(path) as still:
            form = inspect_file(still, _LOOK)
            with contextlib.closing(connect(still, True, PATIENCE_S)) as connection:
                return _look(connection, form)
    except NotebookError:
        raise
    except (OSError, sqlite3.Error) as error:
        why = getattr(error, "strerror", None) or str(error)
        raise NotebookError(
            worded("storage.cannot_be_read_it_was_left", path=path, why=why), place=str(path)
        ) from None


@contextlib.contextmanager
def _at_rest(path: Path) -> Iterator[Path]:
    """Yield a file that may be read as it lies. What a crash left half written is rolled back in a copy, never in the file."""
    journal = path.with_name(f"{path.name}-journal")
    if not journal.exists() or not journal.stat().st_size:
        yield path
        return
    with tempfile.TemporaryDirectory(prefix="candor-look-") as folder:
        copy = Path(folder) / path.name
        shutil.copyfile(path, copy)
        with contextlib.suppress(FileNotFoundError):  # whoever wrote has come to the end
            shutil.copyfile(journal, copy.with_name(journal.name))
        with contextlib.closing(connect(copy, False, PATIENCE_S)) as connection:
            connection.execute("select 1 from sqlite_master").fetchall()  # this rolls back
        yield copy


def _look(connection: sqlite3.Connection, form: str) -> Look:
    connection.execute("begin")  # one moment for all of it, whoever else writes
    columns = {"0001": "'', shelf", "0002": "chain, shelf"}.get(form, "chain, 0")
    asked = f"select number, id, job, kind, at, who, body, {columns} from entries order by job, number"
    found = [(as_row(row[:8]), row[8]) for row in fetched(connection, asked)]
    packs = fetched(connection, "select digest, id, edition, body from packs order by id")
    made = fetched(connection, "select type, name from sqlite_master")
    last = connection.execute("select seq from sqlite_sequence where name = 'entries'").fetchone()
    return Look(
        rows=tuple(row for row, _ in found),
        broken=() if form == "0001" else tuple(_broken(found, _digest(form))),
        packs=tuple(PackRow(*map(text_of, row)) for row in packs),
        strange=tuple(
            (str(k), str(n)) for k, n in made if n not in OURS and not str(n).startswith("sqlite_autoindex_")
        ),
        last=int(str(last[0])) if last else 0,
    )


Digest = Callable[[str, Row, object], str]


def _digest(form: str) -> Digest:
    """Return how the chain of a form is made."""
    if form == NEWEST:
        return lambda before, row, _: chained(before, row.id, row.job, row.kind, row.at, row.who, row.body)
    from candor.notebook.migrations.versions.v0002_chained import chained as chained_then

    return lambda before, row, flag: chained_then(
        before, row.id, row.job, row.kind, row.at, row.who, int(str(flag)), row.body
    )


def _broken(found: list[tuple[Row, object]], digest: Digest) -> Iterator[int]:
    job, before = None, ""
    for row, flag in found:
        if row.job != job:
            job, before = row.job, ""
        if row.chain != digest(before, row, flag):
            yield row.number
        before = row.chain
