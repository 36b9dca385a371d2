"""The tables of a notebook, and the history of their shape."""

from __future__ import annotations

import sqlalchemy as sa

REVISIONS = ("0001", "0002")
NEWEST = REVISIONS[-1]

metadata = sa.MetaData()

entries = sa.Table(
    "entries",
    metadata,
    sa.Column("number", sa.Integer, primary_key=True, autoincrement=True),
    sa.Column("id", sa.String(32), nullable=False, unique=True),
    sa.Column("job", sa.String(32), nullable=False),
    sa.Column("kind", sa.String(32), nullable=False),
    sa.Column("at", sa.String(32), nullable=False),
    sa.Column("who", sa.String(80), nullable=False),
    # True for the few entries the shelf reads; decided once, when the entry is written, and never changed.
    sa.Column("shelf", sa.Boolean, nullable=False),
    sa.Column("body", sa.Text, nullable=False),
    # SHA-256 over the entry and the chain of the one before it in its job: ink that is changed is seen.
    sa.Column("chain", sa.String(64), nullable=False, server_default=""),
    sqlite_autoincrement=True,
)
sa.Index("entries_of_job", entries.c.job, entries.c.number)
sa.Index("entries_on_shelf", entries.c.number, sqlite_where=entries.c.shelf, postgresql_where=entries.c.shelf)

packs = sa.Table(
    "packs",
    metadata,
    sa.Column("digest", sa.String(64), primary_key=True),
    sa.Column("id", sa.String(80), nullable=False),
    sa.Column("edition", sa.String(80), nullable=False),
    sa.Column("body", sa.Text, nullable=False),
)

# Where each job was left: a bookmark, not a fact, so it may be written over.
places = sa.Table(
    "places",
    metadata,
    sa.Column("job", sa.String(32), primary_key=True),
    sa.Column("stop", sa.String(20), nullable=False),
    sa.Column("step", sa.String(200), nullable=False),
    sa.Column("at", sa.String(32), nullable=False),
)
