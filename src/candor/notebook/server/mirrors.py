"""Which copy belongs to which server, and opening either: whoever opens a notebook need not know where it lies."""

from __future__ import annotations

import hashlib
from pathlib import Path

from psycopg.conninfo import conninfo_to_dict, make_conninfo

from candor.core.worded import worded
from candor.notebook.notebook_errors import NotebookError
from candor.notebook.server.mirror_copy import Told, make_tables
from candor.notebook.server.mirror_store import MirrorStore
from candor.notebook.server.server_link import ServerLink, conninfo_of
from candor.notebook.storage.files import plain_name
from candor.notebook.storage.opening import PATIENCE_S
from candor.notebook.storage.sqlite import SqliteStore

_with_password: dict[Path, str] = {}  # how this program was told to reach the server of a copy


def address_without_password(url: str) -> str:
    """Return an address that may be written down."""
    asked = {k: str(v) for k, v in conninfo_to_dict(url).items() if v is not None and k != "password"}
    host, user = asked.pop("host", ""), asked.pop("user", "")
    port, name = asked.pop("port", ""), asked.pop("dbname", "")
    rest = "&".join(f"{k}={v}" for k, v in sorted(asked.items()))
    if host.startswith("/"):
        rest, host = "&".join(filter(None, (f"host={host}", rest))), ""
    at = f"{user}@" if user else ""
    return f"postgresql://{at}{host}{f':{port}' if port else ''}/{name}{f'?{rest}' if rest else ''}"


def copy_of(url: str, folder: Path) -> Path:
    """Return where the copy of the notebook at `url` lies: by server, notebook and person."""
    asked = conninfo_to_dict(conninfo_of(url))
    named = "-".join(plain_name(str(asked.get(k) or "")) for k in ("host", "dbname"))
    told = "\n".join(str(asked.get(k) or "") for k in ("host", "port", "dbname", "user"))
    return folder / f"{named}-{hashlib.sha256(told.encode()).hexdigest()[:8]}.candor"


def make_copy(url: str, folder: Path, password: str = "") -> Path:
    """Return the copy of the notebook at `url`; the first time it is made, whole. A `password` is remembered by this program alone.

    Raises
    ------
    NotebookError
        Where the server refuses; or does not answer, and there is no copy yet.
    """
    path = copy_of(url, folder)
    url = make_conninfo(url, password=password) if password else url
    _with_password[path.absolute()] = url
    if path.exists():
        with_tables = SqliteStore(path, PATIENCE_S)
        made = with_tables.is_copy
        with_tables.close()
        if made:
            return path
    link = ServerLink(url)
    try:
        shop = link.meet()
    finally:
        link.close()
    plain = SqliteStore(path, PATIENCE_S)
    try:
        if plain.everything():
            raise NotebookError(worded("server.a_notebook_of_ones_own_is_there", path=path), place=str(path))
        with plain.transaction() as here:
            make_tables(here, Told(address_without_password(url), shop.id, shop.who, shop.may))
    finally:
        plain.close()
    copy = open_copy(path, PATIENCE_S)
    try:
        copy.pull()
    finally:
        copy.close()
    return path


def open_copy(path: Path, patience_s: float, later: bool = False) -> MirrorStore:
    """Open a copy with its server behind it. Raises NotebookError where it cannot be opened."""
    return MirrorStore(path, patience_s, later, _with_password.get(path.absolute(), ""))
