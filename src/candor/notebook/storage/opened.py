"""Opening a notebook, wherever it lies."""

from __future__ import annotations

from pathlib import Path

from candor.notebook.storage.rows import Store
from candor.notebook.storage.sqlite import SqliteStore


def open_store(path: Path, patience_s: float, later: bool) -> Store:
    """Open the file at `path`; where it is the copy of a notebook on a server, with that behind it.

    Parameters
    ----------
    path : Path
        Made where it does not exist.
    patience_s : float
        How long to wait for another program to let go of it, s.
    later : bool
        Whether a large file may be opened before it was looked through for damage.

    Raises
    ------
    NotebookError
    """
    own = SqliteStore(path, patience_s, later)
    if not own.is_copy:
        return own
    own.close()
    from candor.notebook.server.mirrors import open_copy  # here: loaded where there is a server

    return open_copy(path, patience_s, later)
