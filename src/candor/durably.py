"""Files that are written whole or not at all: under another name, to the disk, and renamed."""

from __future__ import annotations

import contextlib
import os
import shutil
import uuid
from collections.abc import Iterator
from pathlib import Path
from typing import IO


def mode_of(folder: Path) -> int:
    """Return the mode of a file kept in a folder: the owner's only, unless the folder is one where others write too."""
    shared = folder.stat().st_mode
    return 0o600 | (0o060 if shared & 0o020 else 0) | (0o006 if shared & 0o002 and not shared & 0o1000 else 0)


def private(path: str, flags: int) -> int:
    """Open a file that is kept, as `open`'s own opener: nobody reads it who may not write beside it."""
    return os.open(path, flags, mode_of(Path(path).parent))


@contextlib.contextmanager
def replacing(target: Path, is_kept: bool = False) -> Iterator[IO[bytes]]:
    """Yield a stream to what takes the place of `target` when all of it is on the disk: until then what stood there stands.

    One that `is_kept` beside the notebook is the owner's; one given away is as all files are.

    Raises
    ------
    OSError
        Where it cannot be written; whatever is raised, nothing is left behind.
    """
    part = target.with_name(f".{target.name[:80]}.{uuid.uuid4().hex[:8]}.part")
    try:
        with open(part, "xb", opener=private if is_kept else None) as file:
            yield file
            file.flush()
            os.fsync(file.fileno())
        part.replace(target)
    except BaseException:
        with contextlib.suppress(OSError):  # on a full disk what was begun is only in the way
            part.unlink(missing_ok=True)
        raise
    sync_folder(target.parent)


def write_durably(target: Path, content: bytes, is_kept: bool = False) -> None:
    """Write a file as `replacing` does. Raises as it does."""
    with replacing(target, is_kept) as file:
        file.write(content)


def copy_durably(source: Path, target: Path) -> None:
    """Copy a file of any size, to be kept, as `replacing` does. Raises as it does."""
    with source.open("rb") as held, replacing(target, is_kept=True) as file:
        shutil.copyfileobj(held, file, 1 << 20)


def make_private(folder: Path) -> None:
    """Make a folder for the owner alone, unless the one it lies in is shared; one that is there stays as it is.

    Raises
    ------
    OSError
    """
    folder.parent.mkdir(parents=True, exist_ok=True)
    shared = folder.parent.stat().st_mode & 0o022
    folder.mkdir(mode=0o777 if shared else 0o700, exist_ok=True)


def sync_folder(folder: Path) -> None:
    """Write a folder's own entries to the disk, so that a renamed file outlives a pulled plug."""
    with contextlib.suppress(OSError):  # some file systems have no folders to sync
        handle = os.open(folder, os.O_RDONLY)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)
