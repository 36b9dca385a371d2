"""Backups: the notebook by the database's own backup while one works, with the files beside it; each read back whole.

A backup is one file, named by the moment it was made; the files of all backups of a notebook lie once, beside them, in `files`.
Kept are the newest of each of the last 7 days and of each of the last 4 weeks.
"""

from __future__ import annotations

import contextlib
import datetime as dt
import os
import re
import shutil
import sqlite3
import time
import uuid
from collections.abc import Callable, Iterable, Iterator
from pathlib import Path

from candor.core.late_dataclass import dataclass
from candor.core.worded import worded
from candor.durably import copy_durably, make_private, sync_folder
from candor.notebook.notebook_errors import NotebookError
from candor.notebook.storage.bodies import body_of
from candor.notebook.storage.checking import check_notebook
from candor.notebook.storage.fault import Fault
from candor.notebook.storage.folders import KEPT, Folders
from candor.notebook.storage.kept_files import KeptFile, file_faults, files_of
from candor.notebook.storage.looking import look_at
from candor.notebook.storage.opening import PATIENCE_S, connect
from candor.notebook.storage.plain_copy import make_plain

DAYS, WEEKS = 7, 4
OLD = dt.timedelta(days=2)  # from there on backups are missed
FILES = "files"
_NAME = re.compile(r"(?P<stem>.+) (?P<at>\d{4}-\d{2}-\d{2} \d{6})\.candor")
_PAGES = 2048  # at a time: whoever writes waits no longer than these take
_STEPWISE_S = 20.0


class BackupError(NotebookError):
    """A backup that could not be made or restored; what it would have stood beside or in place of is as it was."""


@dataclass(frozen=True)
class Backup:
    """A backup that lies somewhere.

    Attributes
    ----------
    path : Path
    at : datetime
        When it was made, UTC.
    """

    path: Path
    at: dt.datetime


@dataclass(frozen=True)
class Made:
    """A backup that was made now: how much is in it, and what was already wrong with the notebook."""

    backup: Backup
    entries: int
    files: int
    faults: tuple[Fault, ...]


def own_folder(path: Path) -> Path:
    """Return where a notebook's daily backups lie: a folder beside it."""
    return Folders(path).of("backups")


def backups(path: Path, folder: Path) -> tuple[Backup, ...]:
    """Return the backups of a notebook in a folder, the newest first."""
    found = []
    with contextlib.suppress(OSError):
        for entry in folder.iterdir():
            named = _NAME.fullmatch(entry.name)
            if named is not None and named["stem"] == path.stem:
                at = dt.datetime.strptime(named["at"], "%Y-%m-%d %H%M%S").replace(tzinfo=dt.UTC)
                found.append(Backup(entry, at))
    return tuple(sorted(found, key=lambda b: b.at, reverse=True))


def is_due(path: Path, folder: Path, now: dt.datetime) -> bool:
    """Whether the newest backup there is of another day, or there is none."""
    made = backups(path, folder)
    return not made or made[0].at.astimezone().date() != now.astimezone().date()


@dataclass(frozen=True)
class Missed:
    """A place where the newest backup is too old, or where the last could not be made.

    Attributes
    ----------
    folder : Path
    last : datetime or None
        When the newest there was made, UTC; None where there is none.
    why : str
        Why the last could not be made; empty where none was tried.
    """

    folder: Path
    last: dt.datetime | None
    why: str = ""


def missed(path: Path, folder: Path, now: dt.datetime, why: str = "") -> Missed | None:
    """Return that backups are missed in a folder: the last failed (`why`), or the newest is over two days old."""
    made = backups(path, folder)
    last = made[0].at if made else None
    return Missed(folder, last, why) if why or (last is not None and now - last > OLD) else None


def back_up(
    path: Path, folder: Path, now: dt.datetime, should_stop: Callable[[], bool] = lambda: False
) -> Made | None:
    """Make a backup of a notebook in a folder, read it back whole, and let go of older ones; None where it was stopped.

    Raises
    ------
    BackupError
        Where it cannot be made: nothing of it is left behind, and every older one is.
    """
    if not path.is_file():
        raise BackupError(worded("storage.is_no_file_expected_a_notebook", path=path), place=str(path))
    name = f"{path.stem} {now.astimezone(dt.UTC):%Y-%m-%d %H%M%S}.candor"
    part = folder / f".{name}.{uuid.uuid4().hex[:8]}.part"
    try:
        if not folder.parent.is_dir():  # a stick that is not plugged in: nothing is made where it would be
            raise FileNotFoundError(2, worded("storage.is_not_there", parent=folder.parent))
        make_private(folder)
        if not copy_pages(path, part, should_stop):
            return None
        make_plain(part)
        look = look_at(part)
        files = files_of((row.number, body_of(row)) for row in look.rows)
        _keep_files(Folders(path), folder / FILES, files, should_stop)
        if should_stop():
            return None
        part.replace(folder / name)
        sync_folder(folder)
        made = Backup(folder / name, now.astimezone(dt.UTC).replace(microsecond=0))
        for old in _outlived(backups(path, folder)):
            old.path.unlink(missing_ok=True)
        faults = tuple(
            Fault(kind=f.ail, numbers=(f.file.number,), what=f.file.folder, name=f.file.name, why=f.why)
            for f in file_faults(Folders(path), files)
        )
        return Made(backup=made, entries=len(look.rows), files=len(files), faults=faults)
    except (OSError, sqlite3.Error) as error:
        why = getattr(error, "strerror", None) or str(error)
        raise BackupError(
            worded("storage.no_backup_could_be_made_in", folder=folder, why=why), place=str(folder)
        ) from None
    finally:
        with contextlib.suppress(OSError):
            part.unlink(missing_ok=True)


def restore(backup: Path, target: Path) -> int:
    """Put a backup where no notebook is, with its files, and look it over; return how many entries it has.

    Raises
    ------
    BackupError
        Where something stands there already, or it cannot be written: then nothing of it is left there.
    """
    folders = Folders(target)
    there = [target, *(folders.of(folder) for folder in KEPT)]
    standing = next((p for p in there if p.exists()), None)
    if standing is not None:
        raise BackupError(
            worded("storage.is_there_already_and_nothing_is", standing=standing),
            place=str(standing),
        )
    look = look_at(backup)
    files = files_of((row.number, body_of(row)) for row in look.rows)
    kept = backup.parent / FILES
    try:
        make_private(target.parent)
        for file in files:
            held = kept / file.folder / file.name
            if held.is_file():
                make_private(folders.of(file.folder))
                copy_durably(held, folders.of(file.folder) / file.name)
        copy_durably(backup, target)  # last: what is cut off before is no notebook yet
    except OSError as error:
        for path in there:
            shutil.rmtree(path, ignore_errors=True) if path.is_dir() else path.unlink(missing_ok=True)
        raise BackupError(
            worded("storage.it_could_not_be_restored_to", target=target, strerror=error.strerror), place=str(target)
        ) from None
    return check_notebook(target).entries


def copy_pages(path: Path, part: Path, should_stop: Callable[[], bool] = lambda: False) -> bool:
    """Copy the pages of a notebook while others write in it; False where it was stopped.

    What is written meanwhile makes the database begin anew: after a while it is copied in one go, and who writes waits.
    """
    until = time.monotonic() + _STEPWISE_S

    def look(_: int, __: int, ___: int) -> None:
        if should_stop() or time.monotonic() > until:
            raise InterruptedError

    os.close(os.open(part, os.O_CREAT | os.O_EXCL | os.O_WRONLY, 0o600))
    with (
        contextlib.closing(connect(path, True, PATIENCE_S)) as source,
        contextlib.closing(connect(part, False, PATIENCE_S)) as copy,
    ):
        try:
            source.backup(copy, pages=_PAGES, progress=look, sleep=0.002)
        except InterruptedError:
            if should_stop():
                return False
            source.backup(copy)
    with part.open("rb") as file:
        os.fsync(file.fileno())
    return True


def _keep_files(folders: Folders, kept: Path, files: Iterable[KeptFile], should_stop: Callable[[], bool]) -> None:
    """Copy what is not kept yet. What was changed beside the notebook since never takes the place of what was kept as it was."""
    broken = {f.file for f in file_faults(folders, files)}
    for file in files:
        source, target = folders.of(file.folder) / file.name, kept / file.folder / file.name
        if should_stop():
            return
        if file in broken or not source.is_file() or _is_same(source, target):
            continue
        make_private(target.parent)
        copy_durably(source, target)


def _is_same(source: Path, target: Path) -> bool:
    try:
        one, other = source.stat(), target.stat()
    except OSError:
        return False
    return one.st_size == other.st_size and one.st_mtime_ns <= other.st_mtime_ns


def _outlived(made: tuple[Backup, ...]) -> Iterator[Backup]:
    """Yield those that are the newest of none of the last 7 days nor of the last 4 weeks that have one; the newest stays always."""
    days: dict[dt.date, Backup] = {}
    weeks: dict[tuple[int, int], Backup] = {}
    for backup in made:  # the newest first
        day = backup.at.astimezone().date()
        days.setdefault(day, backup)
        weeks.setdefault(day.isocalendar()[:2], backup)
    stay = {*list(days.values())[:DAYS], *list(weeks.values())[:WEEKS]}
    yield from (backup for backup in made if backup not in stay)
