"""What a row of the table says, whatever stands in it: a body, and when it was written."""

from __future__ import annotations

import datetime as dt

from candor.core.worded import worded
from candor.notebook.entries.body import Body, Unreadable
from candor.notebook.entries.kinds_entries import read_body
from candor.notebook.storage.rows import Row

NEVER = dt.datetime.fromtimestamp(0, dt.UTC)


def moment_of(text: str) -> dt.datetime | None:
    """Return a moment from ISO 8601 with its offset; None where it is none."""
    try:
        at = dt.datetime.fromisoformat(text)
    except ValueError:
        return None
    return at if at.tzinfo is not None else None


def body_of(row: Row) -> Body:
    """Return the body of an entry; `Unreadable`, with why, where it or its moment cannot be read."""
    return said_by(row)[0]


def said_by(row: Row) -> tuple[Body, dt.datetime]:
    """Return the body of an entry and its moment, UTC; `Unreadable` where it cannot be read, 1970 where its moment cannot."""
    at = moment_of(row.at)
    return _body(row, at), at or NEVER


def _body(row: Row, at: dt.datetime | None) -> Body:
    if at is None:
        return Unreadable(says=row.kind, why=worded("storage.its_time_is_none", at=row.at[:40]), text=row.body)
    return read_body(row.body)
