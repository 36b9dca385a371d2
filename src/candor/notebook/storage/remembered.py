"""The entries read last, kept with the rows they were made of: a job read again has only what is new made again."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Sequence

from candor.notebook.entries.body import Unreadable
from candor.notebook.entries.entry import AnyEntry
from candor.notebook.storage.rows import Row
from candor.notebook.storage.uncollected import uncollected

MOST = 4  # jobs: the one in hand, the shop, and two that are looked into beside it


class Remembered:
    """Entries of the jobs read last. What lies in the file decides: an entry is taken from here only where its row is the same."""

    def __init__(self) -> None:
        self._jobs: OrderedDict[str, tuple[Sequence[Row], tuple[AnyEntry, ...]]] = OrderedDict()

    def made(self, job: str, rows: Sequence[Row], make: Callable[[Row], AnyEntry]) -> tuple[AnyEntry, ...]:
        """Return the entries of all rows of a job, in order; `make` makes what was not made before, or could not be read."""
        known_rows, known = self._jobs.get(job, ((), ()))
        with uncollected():
            same = [
                entry
                for row, old, entry in zip(rows, known_rows, known, strict=False)
                if row == old and not isinstance(entry.body, Unreadable)
            ]
            # Rows are only ever added behind those that are there; where one was changed or taken out, all are made anew.
            kept = same if len(same) == min(len(known), len(rows)) else []
            entries = (*kept, *(make(row) for row in rows[len(kept) :]))
        self._jobs[job] = rows, entries
        self._jobs.move_to_end(job)
        while len(self._jobs) > MOST:
            self._jobs.popitem(last=False)
        return entries
