"""The digest that is chained from entry to entry of a job, so that ink cannot be changed unseen."""

from __future__ import annotations

import hashlib
from collections.abc import Iterable

from candor.core.worded import worded
from candor.notebook.storage.rows import Row


def chained(before: str, id: str, job: str, kind: str, at: str, who: str, body: str) -> str:
    """Return the SHA-256 (hex) of an entry and of the chain `before` it; each field with its length before it."""
    fields = (
        f"{before}{len(id)}:{id}{len(job)}:{job}{len(kind)}:{kind}{len(at)}:{at}{len(who)}:{who}{len(body)}:{body}"
    )
    if fields.isascii():  # then lengths in characters are those in bytes: the same digest, at once
        return hashlib.sha256(fields.encode()).hexdigest()
    digest = hashlib.sha256(before.encode())
    for field in (id, job, kind, at, who, body):
        text = field.encode("utf-8", "surrogatepass")
        digest.update(b"%d:" % len(text))
        digest.update(text)
    return digest.hexdigest()


def broken_links(rows: Iterable[Row]) -> tuple[int, ...]:
    """Return the numbers of the entries of one job, in order, that are not as they were written or follow a gap."""
    found, before = [], ""
    for row in rows:
        if row.chain != chained(before, row.id, row.job, row.kind, row.at, row.who, row.body):
            found.append(row.number)
        before = row.chain
    return tuple(found)


def say_broken(numbers: tuple[int, ...]) -> str:
    """Say which entries are not as they were written."""
    listed = ", ".join(str(n) for n in numbers[:8]) + (" and more" if len(numbers) > 8 else "")
    what = (
        worded("storage.entry_of_this_job_is", listed=listed)
        if len(numbers) == 1
        else worded("storage.entries_of_this_job_are", listed=listed)
    )
    return worded("storage.not_as_written_or_what_stood", what=what)
