"""Opening a notebook file with care: what is foreign, damaged or newer is refused and left untouched."""

from __future__ import annotations

import os
import sqlite3
from pathlib import Path
from typing import Any

import sqlalchemy as sa

from candor.notebook.errors import DamagedNotebookError, ForeignFileError, NewerNotebookError, NotebookError
from candor.notebook.schema import NEWEST, REVISIONS

_HEADER = b"SQLite format 3\x00"
BUSY_MILLISECONDS = 5000


def open_engine(path: Path) -> tuple[sa.Engine, str]:
    """Open or make the notebook at `path`.

    Returns
    -------
    engine : sqlalchemy.Engine
    read_only : str
        Why the notebook may only be read; empty where it may be written.

    Raises
    ------
    NotebookError
        Where it cannot be opened; the file is left as it was.
    """
    existed = path.exists()
    if existed:
        revision = inspect_file(path)
        locked = _why_read_only(path)
        if locked and revision != NEWEST:
            raise NotebookError(f"{path} is of an older version and cannot be brought up to date: {locked}.")
    else:
        locked = ""
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
        except OSError as error:
            raise NotebookError(f"No notebook can be made at {path}: {error.strerror}.") from None
    engine = _engine(path, bool(locked))
    if not existed or revision != NEWEST:
        _migrate(engine, path)
    return engine, locked


def inspect_file(path: Path) -> str:
    """Return the revision of a notebook file without changing a byte of it.

    Raises
    ------
    ForeignFileError, DamagedNotebookError, NewerNotebookError, NotebookError
    """
    try:
        with path.open("rb") as file:
            header = file.read(len(_HEADER))
    except OSError as error:
        raise NotebookError(f"{path} cannot be read: {error.strerror}.") from None
    if header != _HEADER:
        raise ForeignFileError(
            f"{path} is not a Candor notebook. It was left untouched; open another file, or name a new one.",
            place=str(path),
        )
    try:
        connection = sqlite3.connect(f"{path.absolute().as_uri()}?mode=ro", uri=True)
        try:
            tables = {row[0] for row in connection.execute("select name from sqlite_master where type = 'table'")}
            if not {"alembic_version", "entries", "packs"} <= tables:
                raise ForeignFileError(
                    f"{path} is a database, but not a Candor notebook. It was left untouched.", place=str(path)
                )
            row = connection.execute("select version_num from alembic_version").fetchone()
            verdict = connection.execute("pragma quick_check(1)").fetchone()[0]
        finally:
            connection.close()
    except sqlite3.DatabaseError as error:
        raise _damaged(path, str(error)) from None
    if verdict != "ok" or row is None:
        raise _damaged(path, verdict)
    if row[0] not in REVISIONS:
        raise NewerNotebookError(
            f"{path} was written by a newer Candor (form {row[0]}; this one knows up to {NEWEST}). "
            "It was left untouched; update Candor to open it.",
            place=str(path),
        )
    return str(row[0])


def _damaged(path: Path, detail: str) -> DamagedNotebookError:
    return DamagedNotebookError(
        f"{path} is damaged ({detail.splitlines()[0]}). It was left untouched; keep a copy of it, "
        "and open the last good backup.",
        place=str(path),
    )


def _why_read_only(path: Path) -> str:
    # The mode bits count even for root, who could write: a protected notebook is meant to be protected.
    if not os.access(path, os.W_OK) or not path.stat().st_mode & 0o222:
        return "the file is write-protected"
    if not os.access(path.parent, os.W_OK):
        return "its folder is write-protected"
    return ""


def _engine(path: Path, read_only: bool) -> sa.Engine:
    uri = f"{path.absolute().as_uri()}?mode={'ro' if read_only else 'rwc'}"

    def connect() -> sqlite3.Connection:
        connection = sqlite3.connect(
            uri, uri=True, timeout=BUSY_MILLISECONDS / 1000, isolation_level=None, check_same_thread=False
        )
        # A rollback journal, synced with its folder: one file at rest, and no entry lost to a pulled plug.
        connection.execute("pragma synchronous = extra")
        return connection

    engine = sa.create_engine("sqlite://", creator=connect, poolclass=sa.pool.QueuePool)

    @sa.event.listens_for(engine, "begin")
    def begin(connection: sa.Connection) -> None:
        writes = connection.get_execution_options().get("writes", False)
        connection.exec_driver_sql("begin immediate" if writes else "begin")

    return engine


def _migrate(engine: sa.Engine, path: Path) -> None:
    from alembic import command  # imported here: only a new or older notebook needs it, and it is slow
    from alembic.config import Config

    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    try:
        with engine.connect().execution_options(writes=True) as connection, connection.begin():
            config.attributes["connection"] = connection
            command.upgrade(config, "head")
    except sa.exc.OperationalError as error:
        raise NotebookError(f"No notebook can be made at {path}: {_reason(error)}.") from None


def _reason(error: Any) -> str:
    return str(error.orig).splitlines()[0]
