"""What would have barred an entry that waited for the server, as its job stands when it comes in."""

from __future__ import annotations

from collections.abc import Callable

from candor.notebook.entries.entry import AnyEntry, Draft
from candor.notebook.storage.bodies import said_by
from candor.notebook.storage.rows import Judge, Row
from candor.notebook.work.description import PackShelf


def judge_by(packs: PackShelf, entries_of: Callable[[str], tuple[AnyEntry, ...]]) -> Judge:
    """Return what judges an entry by a notebook: the sentence of what bars it; empty where nothing does, and always for a fact."""

    def judged(row: Row) -> str:
        from candor.notebook.work.barriers import BarredError
        from candor.notebook.work.guards import refuse_barred

        body, at = said_by(row)

        def before(job: str) -> tuple[AnyEntry, ...]:
            return tuple(e for e in entries_of(job) if e.number < row.number)

        try:
            refuse_barred((Draft(row.job, body),), packs, before, at)
        except BarredError as error:
            return str(error)
        return ""

    return judged
