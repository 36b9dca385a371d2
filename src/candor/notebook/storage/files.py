"""Files kept beside a notebook, and files given away: whole on disk or not there at all."""

from __future__ import annotations

import re
from pathlib import Path

from candor.core.errors import CandorError
from candor.core.worded import worded
from candor.notebook.exchange.csv_table import decoded

LARGEST_TEXT = 1_000_000  # bytes
LARGEST_TABLE = 40_000_000  # bytes of what people keep in a table
LARGEST_SAMPLES = 400_000_000  # bytes of a table of samples: some ten million of them
_PLAIN = re.compile(r"[\w+-][\w+. -]{0,200}")


class FileError(CandorError, OSError):
    """A file that cannot be read."""


def is_plain_name(name: str) -> bool:
    """Whether a name from a notebook is one of a file in a folder of its own, and leads nowhere else."""
    return bool(_PLAIN.fullmatch(name))


def plain_name(text: str) -> str:
    """Return a text with everything that has no place in a file's name made an underscore: ``C1/2`` gives ``C1_2``."""
    return re.sub(r"[^\w+-]+", "_", text).strip("_")[:60] or "part"


def read_bytes_of(path: Path, what: str, most: int = LARGEST_SAMPLES) -> bytes:
    """Return what a file holds, so many bytes at most; `what` was expected. A pipe or a device, which may never end, is refused.

    Raises
    ------
    FileError
        Where it is no file, is larger, or cannot be read.
    """
    try:
        if path.exists() and not path.is_file():
            raise FileError(worded("storage.is_no_file_was_expected", path=path, what=what), value=str(path))
        if path.stat().st_size > most:
            size = f"{most // 1_000_000} MB" if most >= 1_000_000 else f"{most // 1000} kB"
            raise FileError(
                worded("storage.is_larger_than_was_expected", name=path.name, size=size, what=what), value=path.name
            )
        return path.read_bytes()
    except FileError:
        raise
    except OSError as error:
        raise FileError(
            worded("storage.cannot_be_read_was_expected", path=path, strerror=error.strerror, what=what),
            value=str(path),
        ) from None


def read_words(path: Path, most: int = LARGEST_TEXT, what: str = "a netlist") -> str:
    """Return a text file that somebody wrote, UTF-8 or Latin-1, of so many bytes at most. Raises as `read_bytes_of`."""
    return decoded(read_bytes_of(path, what, most))
