"""Looking a notebook over whole: its pages, every entry's digest, its numbers, its packs and the files beside it.

Nothing is changed: it is read as it lies, an older form too. Words: `candor.words.faults`.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Iterator, Sequence
from itertools import groupby
from pathlib import Path
from typing import TypeVar

from candor.core.errors import CancelledError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded
from candor.notebook.entries.body import Body, Unreadable
from candor.notebook.entries.stay_entries import JobOpened
from candor.notebook.notebook_errors import NotebookError
from candor.notebook.storage.bodies import body_of
from candor.notebook.storage.fault import Fault
from candor.notebook.storage.folders import Folders
from candor.notebook.storage.head_words import DIGITS, head_of
from candor.notebook.storage.job_faults import faults_of_files
from candor.notebook.storage.kept_files import files_of, strangers
from candor.notebook.storage.looking import Look, look_at
from candor.notebook.storage.rows import Row, is_as_kept
from candor.notebook.storage.uncollected import uncollected

T = TypeVar("T")
_PACK = re.compile(r'"pack_digest":\s*"([0-9a-f]{64})"')


@dataclass(frozen=True)
class Checked:
    """What was looked at, and every fault."""

    entries: int
    jobs: int
    packs: int
    files: int
    faults: tuple[Fault, ...]


@dataclass(frozen=True)
class Head:
    """Where the words of a paper stand in a notebook.

    Attributes
    ----------
    job : str
    number : int
        Of the entry up to which all is as it was when the paper was printed.
    at : str
        When that entry was written, UTC, ISO 8601.
    since : int
        How many entries of the job came after it.
    name : str
        Maker, type and number of the instrument, as it was opened.
    sound : bool
        Whether every digest up to it fits; where not, the entries were changed and the links left standing.
    """

    job: str
    number: int
    at: str
    since: int
    name: str
    sound: bool


def check_notebook(path: Path, should_stop: Callable[[], bool] = lambda: False) -> Checked:
    """Look a notebook over; `should_stop` is asked now and then whether it is still wanted.

    Raises
    ------
    NotebookError
        Where it cannot be read at all; its sentence says why.
    CancelledError
    """
    if path.is_file() and not path.stat().st_size:
        beside = tuple(Folders(path).made)
        fault = Fault("empty", name=path.name, what=", ".join(beside))
        return Checked(entries=0, jobs=0, packs=0, files=0, faults=(fault,))
    with uncollected():
        return _check(path, should_stop)


def _check(path: Path, should_stop: Callable[[], bool]) -> Checked:
    look = look_at(path)
    bodies = [(row.number, body_of(row)) for row in _while_wanted(look.rows, should_stop, 500)]
    files = files_of(bodies)
    folders = Folders(path)
    faults = [
        *(Fault("gone", numbers=span) for span in look.gone),
        *(Fault("foreign", what=what, name=name) for what, name in look.strange),
        *_of_entries(look, bodies),
        *_of_packs(look),
        *faults_of_files(folders, _while_wanted(files, should_stop, 1), lambda number: _job_of(look, number)),
        *(Fault("not named", what=folder, name=name) for folder, name in strangers(folders, files)),
    ]
    jobs = {row.job for row in look.rows if row.job}
    return Checked(
        entries=len(look.rows), jobs=len(jobs), packs=len(look.packs), files=len(files), faults=tuple(faults)
    )


def _while_wanted(items: Iterable[T], should_stop: Callable[[], bool], every: int) -> Iterator[T]:
    for place, item in enumerate(items):
        if place % every == 0 and should_stop():
            raise CancelledError(worded("storage.the_check_was_stopped_nothing_was"))
        yield item


def _of_entries(look: Look, bodies: Sequence[tuple[int, Body]]) -> Iterator[Fault]:
    broken, said = set(look.broken), dict(bodies)
    for job, group in groupby(look.rows, key=lambda row: row.job):
        of_job = [row.number for row in group]
        if wrong := tuple(number for number in of_job if number in broken):
            yield Fault("not as written", job, wrong)
        for number in of_job:
            body = said[number]
            if isinstance(body, Unreadable):
                yield Fault("unreadable", job, (number,), name=body.says, why=body.why)


def _of_packs(look: Look) -> Iterator[Fault]:
    kept = set()
    for pack in look.packs:
        kept.add(pack.digest)
        if not is_as_kept(pack):
            yield Fault("pack changed", what="pack", name=pack.id)
    asked: dict[str, Row] = {}
    for row in look.rows:
        for digest in _PACK.findall(row.body):
            asked.setdefault(digest, row)
    for digest, row in asked.items():
        if digest not in kept:
            yield Fault(kind="pack missing", job=row.job, numbers=(row.number,), what="pack", name=digest[:12])


def _name_of(rows: Sequence[Row]) -> str:
    opened = next((b for row in rows if row.kind == "job_opened" and isinstance(b := body_of(row), JobOpened)), None)
    return " ".join(filter(None, (opened.maker, opened.type, opened.serial))) if opened is not None else ""


def _job_of(look: Look, number: int) -> str:
    return next((row.job for row in look.rows if row.number == number), "")


def find_head(path: Path, words: str) -> Head | None:
    """Return where the eight words of a paper stand in a notebook; None where no entry has that head.

    A paper of a job was printed when its newest entry had this head: where it is found and sound, every entry before it, with the
    digests of packs and files that they name, is as it was then.

    Raises
    ------
    HeadWordsError
        Where they are no eight words of the list.
    NotebookError
        Where the notebook cannot be read.
    """
    wanted = head_of(words)
    if path.is_file() and not path.stat().st_size:
        raise NotebookError(worded("storage.is_empty", path=path), place=str(path))
    look = look_at(path)
    broken = set(look.broken)
    for job, group in groupby(look.rows, key=lambda row: row.job):
        of_job = list(group)
        for place, row in enumerate(of_job):
            if row.chain[:DIGITS] == wanted:
                sound = not any(r.number in broken for r in of_job[: place + 1])
                since = len(of_job) - place - 1
                return Head(job=job, number=row.number, at=row.at, since=since, name=_name_of(of_job), sound=sound)
    return None
