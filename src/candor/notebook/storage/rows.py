"""What every store of a notebook must do: entries as rows in, rows out. The embedded store is SQLite's; see `sqlite.py`."""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Iterable, Sequence
from contextlib import AbstractContextManager
from typing import NamedTuple, Protocol


class Row(NamedTuple):
    """An entry as it lies in the table; `at` is UTC in ISO 8601, `body` JSON, `chain` see `chain.py`."""

    number: int
    id: str
    job: str
    kind: str
    at: str
    who: str
    body: str
    chain: str


class NewRow(NamedTuple):
    """An entry about to be written: the store gives it its number and its link of the chain."""

    id: str
    job: str
    kind: str
    at: str
    who: str
    body: str


class PackRow(NamedTuple):
    """A pack that was kept."""

    digest: str
    id: str
    edition: str
    body: str


def is_as_kept(pack: PackRow) -> bool:
    """Whether a pack's bytes are still those that its digest is of."""
    return hashlib.sha256(pack.body.encode("utf-8", "replace")).hexdigest() == pack.digest


class PlaceRow(NamedTuple):
    """The bookmark of a job."""

    job: str
    stop: str
    step: str
    at: str


class Revision(NamedTuple):
    """Tells whether anything was written since: `own` counts what this window appended, `others` changes with everybody else's."""

    own: int
    others: int


Judge = Callable[[Row], str]  # what bars an entry as the notebook stands now; empty where nothing does


class Store(Protocol):
    """A notebook's rows.

    Numbers grow from row to row of a job, but may have gaps, and rows of other jobs may become visible out of the order of
    their numbers: nothing may count on either. Every method raises NotebookError, with a sentence, where it cannot.
    """

    judge: Judge

    @property
    def who(self) -> str:
        """Who the store itself says is writing; empty where it does not know."""

    @property
    def server(self) -> str:
        """The server that several benches write it on, in words; empty where it is a file."""

    @property
    def away(self) -> str:
        """Why what is written now does not reach all who write in it; empty where it does."""

    @property
    def read_only(self) -> str:
        """Why it may only be read; empty where it may be written."""

    @property
    def unlooked(self) -> bool:
        """Whether what it lies in is still to be looked through for damage."""

    def look_through(self) -> None:
        """Look through all of what it lies in, where that is still to be done; what is damaged is from then on only read."""

    def of_job(self, job: str) -> list[Row]:
        """Return the rows of a job, in order."""

    def of_kinds(self, kinds: Sequence[str]) -> list[Row]:
        """Return the rows of some kinds, of all jobs, in the order of their numbers."""

    def kinds(self) -> frozenset[str]:
        """Return every kind that occurs; that of readings may be left out."""

    def naming(self, kind: str, words: Sequence[str], since: str = "") -> list[Row]:
        """Return the rows of a kind, of all jobs, in whose body one of some words stands, from a moment on (ISO 8601, UTC)."""

    def everything(self) -> list[Row]:
        """Return all rows, job by job."""

    def transaction(self) -> AbstractContextManager[object]:
        """What is read and written within is one: nobody else writes from its beginning to its end, all of it or none."""

    def append(self, rows: Iterable[NewRow]) -> list[int]:
        """Write rows of any jobs in one transaction, all or none, on disk when it ends; return their numbers."""

    def revision(self, patient: bool = True) -> Revision:
        """Return what tells whether anything was written; not `patient`, without waiting for who writes."""

    def head(self, job: str) -> str:
        """Return the link of a job's newest row; empty where it has none."""

    def gone(self) -> int:
        """Return how many entries that were written are no longer there; 0 where the store cannot tell."""

    def packs(self) -> list[PackRow]:
        """Return every pack that was kept, by its id."""

    def pack(self, digest: str) -> PackRow | None:
        """Return a pack that was kept."""

    def keep_pack(self, row: PackRow) -> None:
        """Keep a pack; one that is there stays."""

    def places(self) -> list[PlaceRow]:
        """Return the bookmark of every job, the newest first."""

    def keep_place(self, row: PlaceRow) -> None:
        """Put the bookmark of a job."""

    def do_not_wait(self) -> None:
        """From here on wait for another program two frames at most."""

    def close(self) -> None:
        """Let go of it."""
