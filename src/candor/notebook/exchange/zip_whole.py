"""Whether a zip's list of files is whole: a flipped length in it makes one entry swallow the next, which nobody would miss."""

from __future__ import annotations

import struct
import zipfile
from pathlib import Path

from candor.core.worded import worded

# The record at the end of a zip, and how long it is at most with its comment: APPNOTE.TXT 4.3.16.
_END, _LONGEST = b"PK\x05\x06", 22 + 65535


def refuse_swallowed(path: Path, packed: zipfile.ZipFile) -> None:
    """Do nothing where a zip has as many files as it says at its end.

    Raises
    ------
    BadZipFile
    """
    with path.open("rb") as file:
        file.seek(max(path.stat().st_size - _LONGEST, 0))
        tail = file.read()
    at = tail.rfind(_END)
    said = struct.unpack_from("<H", tail, at + 10)[0] if 0 <= at <= len(tail) - 22 else -1
    if said not in (len(packed.filelist), 0xFFFF):  # more than are counted there are counted elsewhere (ZIP64)
        raise zipfile.BadZipFile(worded("exchange.zip_list_is_not_whole", said=said, found=len(packed.filelist)))
