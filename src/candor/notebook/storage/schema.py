"""The tables of a notebook in their newest form, and the history of their shape.

A new notebook is made with these lines; an older one is brought here by the migrations, which a test holds against them.
"""

from __future__ import annotations

REVISIONS = ("0001", "0002", "0003")
NEWEST = REVISIONS[-1]

TABLES = (
    """
    create table entries (
        number integer not null primary key autoincrement,
        id varchar(32) not null unique,
        job varchar(32) not null,
        kind varchar(32) not null,
        at varchar(32) not null,
        who varchar(80) not null,
        body text not null,
        chain varchar(64) default '' not null
    )
    """,
    "create index entries_of_job on entries (job, number)",
    # Readings are the bulk of a notebook and are never asked for across jobs: left out, they cost no check of the index.
    "create index entries_of_kind on entries (kind) where kind <> 'reading'",
    """
    create table packs (
        digest varchar(64) not null primary key,
        id varchar(80) not null,
        edition varchar(80) not null,
        body text not null
    )
    """,
    # Where each job was left: a bookmark, not a fact, so it may be written over.
    """
    create table places (
        job varchar(32) not null primary key,
        stop varchar(20) not null,
        step varchar(200) not null,
        at varchar(32) not null
    )
    """,
    "create table alembic_version (version_num varchar(32) not null primary key)",
)

# Of the copy of a notebook that is on a server: what it knows of that, how far that was read, and what waits to be brought there.
MIRROR_TABLES = (
    """
    create table server (
        url text not null,
        id varchar(32) not null,
        who varchar(80) not null,
        may varchar(40) not null,
        packs integer default 0 not null,
        files integer default 0 not null
    )
    """,
    """
    create table waiting (
        place integer not null primary key autoincrement,
        id varchar(32) not null unique,
        job varchar(32) not null,
        kind varchar(32) not null,
        at varchar(32) not null,
        who varchar(80) not null,
        body text not null,
        chain varchar(64) not null
    )
    """,
)
