"""What is a bench's copy of a notebook on a server made a notebook of its own: a backup, or what was moved to a file."""

from __future__ import annotations

import contextlib
from pathlib import Path

from candor.notebook.storage.opening import PATIENCE_S, connect


def make_plain(path: Path) -> None:
    """Let a file forget its server: entries that wait for it become the newest ones, in their order, linked as they are.

    Raises
    ------
    sqlite3.Error
    """
    with contextlib.closing(connect(path, False, PATIENCE_S)) as connection:
        if not connection.execute("select 1 from sqlite_master where type = 'table' and name = 'server'").fetchone():
            return
        connection.execute("pragma journal_mode = delete")
        connection.execute("begin immediate")
        connection.execute(
            "insert into entries (id, job, kind, at, who, body, chain) "
            "select id, job, kind, at, who, body, chain from waiting order by place"
        )
        connection.execute("drop table waiting")
        connection.execute("drop table server")
        connection.execute("commit")
