"""Opening a notebook file with care: what is foreign, damaged or newer is refused and left untouched."""

from __future__ import annotations

import contextlib
import errno
import fcntl
import os
import sqlite3
import time
import uuid
from collections.abc import Iterator
from pathlib import Path

from candor.core.worded import worded
from candor.durably import mode_of, sync_folder
from candor.notebook.notebook_errors import (
    BusyNotebookError,
    DamagedNotebookError,
    ForeignFileError,
    NewerNotebookError,
    NotebookError,
)
from candor.notebook.storage.folders import Folders
from candor.notebook.storage.schema import NEWEST, REVISIONS, TABLES

_HEADER = b"SQLite format 3\x00"
MANY_BYTES = 8_000_000  # of a notebook file: looking through so many takes three frames
PATIENCE_S = 5.0  # how long a command waits for another program to let go
AT_ONCE_S = (
    0.03  # two frames: another window's commit of one entry is over by then, a program that holds the file is not
)


def open_file(path: Path, patience_s: float, later: bool = False) -> tuple[sqlite3.Connection, str, bool]:
    """Open or make the notebook at `path`.

    What a crash left half written is rolled back, as SQLite does it; an empty file may become a notebook. Where its pages may be
    looked through `later` and are many, it is opened without that.

    Returns
    -------
    connection : sqlite3.Connection
        Without transactions of its own.
    read_only : str
        Why the notebook may only be read; empty where it may be written.
    unlooked : bool
        Whether its pages are still to be looked through: `refuse_damaged`.

    Raises
    ------
    NotebookError
        Where it cannot be opened; the file is left as it was.
    """
    try:
        if not path.exists() or (path.is_file() and path.stat().st_size == 0):
            if path.exists() and (beside := Folders(path).made):
                raise _damaged(path, worded("storage.it_is_empty_though_its_lie", listed=", ".join(beside)))
            _make(path, patience_s)
        if not path.is_file():
            what = "a folder" if path.is_dir() else worded("storage.no_file_but_a_device_or")
            raise ForeignFileError(
                worded("storage.is_expected_a_notebook_file", path=path, what=what), place=str(path)
            )
        locked = _why_read_only(path)
        unlooked = later and path.stat().st_size > MANY_BYTES
        revision = inspect_file(path, locked, patience_s, whole=not unlooked)
    except OSError as error:
        if isinstance(error, NotebookError):
            raise
        raise NotebookError(
            worded("storage.cannot_be_opened", path=_shortened(path), strerror=error.strerror), place=str(path)
        ) from None
    if locked and revision != NEWEST:
        raise NotebookError(worded("storage.is_of_an_older_version_and", path=path, locked=locked))
    if revision != NEWEST:
        migrate(path, patience_s)
    return connect(path, bool(locked), patience_s), locked, unlooked


def refuse_damaged(path: Path) -> None:
    """Look through every page of a notebook file, read only, while others write.

    First without a lock, which would refuse what is written meanwhile; a page that changes under it may look damaged, so that only
    what is found again with one counts.

    Raises
    ------
    DamagedNotebookError, BusyNotebookError
    """
    try:
        if _verdict(f"{path.absolute().as_uri()}?mode=ro&immutable=1") == "ok":
            return
    except sqlite3.DatabaseError:
        pass
    try:
        verdict = _verdict(f"{path.absolute().as_uri()}?mode=ro")
    except sqlite3.DatabaseError as error:
        raise busy(path) if is_busy(error) else _damaged(path, str(error)) from None
    if verdict != "ok":
        raise _damaged(path, verdict)


def _verdict(uri: str) -> str:
    with contextlib.closing(sqlite3.connect(uri, uri=True, timeout=PATIENCE_S)) as connection:
        return str(connection.execute("pragma integrity_check(1)").fetchone()[0])


def inspect_file(path: Path, locked: str = "", patience_s: float = PATIENCE_S, whole: bool = True) -> str:
    """Return the revision of a notebook file. A sound one is left as it is to the byte; of one that a crash left half
    written, SQLite rolls back what was not finished, unless it is `locked`.

    Raises
    ------
    ForeignFileError, DamagedNotebookError, NewerNotebookError, BusyNotebookError, NotebookError
    """
    with path.open("rb") as file:
        header = file.read(len(_HEADER))
    if header != _HEADER:
        raise ForeignFileError(
            worded("storage.is_not_a_candor_notebook_it", path=path),
            place=str(path),
        )
    try:
        with contextlib.closing(connect(path, bool(locked), patience_s)) as connection:
            tables = {row[0] for row in connection.execute("select name from sqlite_master where type = 'table'")}
            if not {"alembic_version", "entries", "packs"} <= tables:
                raise ForeignFileError(worded("storage.is_a_database_but_not_a", path=path), place=str(path))
            row = connection.execute("select version_num from alembic_version").fetchone()
            asked = "pragma integrity_check(1)" if whole else "select 'ok'"
            verdict = connection.execute(asked).fetchone()[0]
    except sqlite3.OperationalError as error:
        raise _explained(path, error, locked) from None
    except sqlite3.DatabaseError as error:
        raise _damaged(path, str(error)) from None
    if verdict != "ok" or row is None:
        raise _damaged(path, verdict)
    if row[0] not in REVISIONS:
        raise NewerNotebookError(
            worded("storage.was_written_by_a_newer_candor", path=path, first=row[0], newest=NEWEST),
            place=str(path),
        )
    return str(row[0])


def busy(path: Path) -> BusyNotebookError:
    """Return the error of a notebook that another program holds."""
    return BusyNotebookError(
        worded("storage.is_in_use_by_another_program", path=path),
        place=str(path),
    )


def is_busy(error: BaseException) -> bool:
    """Whether an error of SQLite's says that another program holds the file."""
    return "locked" in str(error) or "busy" in str(error)


def _explained(path: Path, error: sqlite3.OperationalError, locked: str) -> NotebookError:
    if is_busy(error):
        return busy(path)
    if locked and "readonly" in str(error):
        return NotebookError(
            worded("storage.was_being_written_when_its_program", path=path, locked=locked),
            place=str(path),
        )
    return _damaged(path, str(error))


def _damaged(path: Path, detail: str) -> DamagedNotebookError:
    return DamagedNotebookError(
        worded("storage.is_damaged_it_was_left_untouched", path=path, detail=detail.splitlines()[0]),
        place=str(path),
    )


def _why_read_only(path: Path) -> str:
    # The mode bits count even for root, who could write: a protected notebook is meant to be protected.
    if not os.access(path, os.W_OK) or not path.stat().st_mode & 0o222:
        return worded("storage.the_file_is_write_protected")
    if not os.access(path.parent, os.W_OK):
        return worded("storage.its_folder_is_write_protected")
    return ""


def _make(path: Path, patience_s: float) -> None:
    """Make a notebook under another name, to the disk, and give it its name only then, never over another's."""
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        _sweep(path.parent)
        part = path.with_name(f".candor-{uuid.uuid4().hex}.new")
        os.close(os.open(part, os.O_CREAT | os.O_EXCL | os.O_WRONLY, mode_of(path.parent)))
        try:
            _fill(part, path, patience_s)
            # An empty file is held while it is replaced: of two windows that find it, the second finds a notebook.
            with _empty(path) as ours:
                if ours:
                    part.replace(path)
                else:
                    _name(part, path)
        finally:
            part.unlink(missing_ok=True)
        sync_folder(path.parent)
    except OSError as error:
        if isinstance(error, NotebookError):
            raise
        raise NotebookError(
            worded("storage.no_notebook_can_be_made_at_2", path=_shortened(path), strerror=error.strerror)
        ) from None


def _sweep(folder: Path) -> None:
    """Remove what was begun over an hour ago and cut off."""
    for left in folder.glob(".candor-*.new*"):
        with contextlib.suppress(OSError):
            if time.time() - left.stat().st_mtime > 3600:
                left.unlink()


@contextlib.contextmanager
def _empty(path: Path) -> Iterator[bool]:
    """Hold an empty file at `path`; False where there is none, or where somebody else has made a notebook of it."""
    try:
        file = path.open("r+b")
    except FileNotFoundError:
        yield False
        return
    with file:
        fcntl.flock(file, fcntl.LOCK_EX)
        held = os.fstat(file.fileno())
        there = path.stat()
        yield held.st_size == 0 and (held.st_dev, held.st_ino) == (there.st_dev, there.st_ino)


def _name(part: Path, path: Path) -> None:
    """Give a file its name, unless there is one of that name: then that one stands."""
    try:
        path.hardlink_to(part)
    except FileExistsError:
        return
    except OSError as error:
        if error.errno not in (errno.EPERM, errno.EOPNOTSUPP, errno.ENOSYS) or path.exists():
            raise
        part.rename(path)  # a file system without links, such as a memory stick's


def _shortened(path: Path) -> str:
    text = str(path)
    return text if len(text) <= 200 else f"{text[:100]} … {text[-60:]}"


def connect(path: Path, read_only: bool, patience_s: float) -> sqlite3.Connection:
    """Connect to a notebook that is there."""
    uri = f"{path.absolute().as_uri()}?mode={'ro' if read_only else 'rw'}"
    return sqlite3.connect(uri, uri=True, timeout=patience_s, isolation_level=None, check_same_thread=False)


def _fill(part: Path, path: Path, patience_s: float) -> None:
    """Make the tables of a new notebook, on the disk."""
    try:
        with contextlib.closing(connect(part, False, patience_s)) as connection:
            connection.execute("pragma synchronous = extra")
            connection.execute("begin immediate")
            for table in TABLES:
                connection.execute(table)
            connection.execute("insert into alembic_version values (?)", (NEWEST,))
            connection.execute("commit")
    except sqlite3.OperationalError as error:
        raise NotebookError(worded("storage.no_notebook_can_be_made_at", path=path, error=error)) from None


def migrate(path: Path, patience_s: float) -> None:
    """Bring an older notebook up to date, in one transaction.

    Raises
    ------
    BusyNotebookError, NotebookError
    """
    # Imported here: only an older notebook needs them, and they are slow to load.
    import sqlalchemy as sa
    from alembic import command
    from alembic.config import Config

    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent.parent / "migrations"))
    engine = sa.create_engine(
        "sqlite://", creator=lambda: connect(path, False, patience_s), poolclass=sa.pool.NullPool
    )
    try:
        with engine.connect() as connection:
            connection.exec_driver_sql("pragma synchronous = extra")
            connection.exec_driver_sql("begin immediate")
            config.attributes["connection"] = connection
            command.upgrade(config, "head")
            connection.commit()
    except sa.exc.OperationalError as error:
        if is_busy(error.orig or error):
            raise busy(path) from None
        raise NotebookError(worded("storage.could_not_be_brought_up_to", path=path, orig=error.orig)) from None
