"""A notebook moved from a file to a server, or from a server to a file: entries, digests, packs and files as they are."""

from __future__ import annotations

import contextlib
from collections.abc import Callable
from pathlib import Path

from candor.core.late_dataclass import dataclass
from candor.core.worded import worded
from candor.durably import copy_durably, make_private
from candor.notebook.notebook_errors import NotebookError
from candor.notebook.server.mirrors import make_copy, open_copy
from candor.notebook.server.server_link import ServerLink
from candor.notebook.storage.backup import copy_pages
from candor.notebook.storage.bodies import body_of
from candor.notebook.storage.checking import check_notebook
from candor.notebook.storage.folders import Folders
from candor.notebook.storage.kept_files import files_of
from candor.notebook.storage.looking import look_at
from candor.notebook.storage.opening import PATIENCE_S
from candor.notebook.storage.plain_copy import make_plain
from candor.notebook.storage.rows import NewRow

AT_ONCE = 1000  # entries


@dataclass(frozen=True)
class Moved:
    """How much was moved."""

    entries: int
    packs: int
    files: int


def is_address(text: str) -> bool:
    """Whether what is named is a notebook on a server, not a file."""
    return text.startswith(("postgresql://", "postgres://"))


def move(old: str, new: str, folder: Path, tell: Callable[[str], None] = lambda _: None) -> Moved:
    """Copy a notebook to where none is, whole or not at all; the old one stays as it is.

    Parameters
    ----------
    old, new : str
        A file, and the address of a server, or the other way round.
    folder : Path
        Where copies of notebooks on servers lie.
    tell : callable
        Is told how far it is.

    Raises
    ------
    NotebookError
        Where either cannot be reached, the old one has faults, or something stands at the new one.
    """
    if is_address(old) == is_address(new):
        raise NotebookError(worded("server.moved_between_file_and_server"))
    return _to_file(old, Path(new), folder) if is_address(old) else _to_server(Path(old), new, tell)


def _to_server(path: Path, url: str, tell: Callable[[str], None]) -> Moved:
    found = check_notebook(path)
    if faults := [f for f in found.faults if f.kind != "not named"]:
        raise NotebookError(worded("server.has_faults_and_stays", path=path, count=len(faults)), place=str(path))
    look = look_at(path)
    link = ServerLink(url)
    try:
        shop = link.meet()
        if not shop.keeps:
            raise NotebookError(worded("server.a_keeper_moves", who=shop.who), value=shop.who)
        link.begin()
        if link.last_number():
            raise NotebookError(worded("server.something_is_written_there", name=link.name), place=link.name)
        for pack in look.packs:
            link.keep_pack(pack)
        files = files_of((row.number, body_of(row)) for row in look.rows)
        folders, sent = Folders(path), 0
        for file in files:
            lies = folders.of(file.folder) / file.name
            if lies.is_file():
                link.send_file(file.folder, lies)
                sent += 1
        rows = sorted(look.rows, key=lambda row: row.number)
        for first in range(0, len(rows), AT_ONCE):
            part = rows[first : first + AT_ONCE]
            if link.append([NewRow(*row[1:7]) for row in part]) != part:
                raise NotebookError(worded("server.would_not_be_the_same", name=link.name), place=link.name)
            tell(worded("server.so_many_moved", count=first + len(part), of=len(rows)))
        link.commit()
    except BaseException:
        link.roll_back()
        raise
    finally:
        link.close()
    return Moved(entries=len(look.rows), packs=len(look.packs), files=sent)


def _to_file(url: str, target: Path, folder: Path) -> Moved:
    folders = Folders(target)
    if standing := next((p for p in (target, *folders.made.values()) if p.exists()), None):
        raise NotebookError(worded("storage.is_there_already_and_nothing_is", standing=standing), place=str(standing))
    path = make_copy(url, folder)
    copy = open_copy(path, PATIENCE_S)
    try:
        copy.pull()
        if copy.waiting:
            copy.join()
    finally:
        copy.close()
    make_private(target.parent)
    part = target.with_name(f".{target.name}.part")
    try:
        copy_pages(path, part)
        make_plain(part)
        look = look_at(part)
        files = files_of((row.number, body_of(row)) for row in look.rows)
        for file in files:
            lies = Folders(path).of(file.folder) / file.name
            if lies.is_file():
                make_private(folders.of(file.folder))
                copy_durably(lies, folders.of(file.folder) / file.name)
        part.replace(target)
    finally:
        with contextlib.suppress(OSError):
            part.unlink(missing_ok=True)
    return Moved(entries=len(look.rows), packs=len(look.packs), files=len(files))
