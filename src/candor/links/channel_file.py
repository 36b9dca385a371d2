"""What a meter said, kept on disk as it comes: pairs of little-endian doubles, seconds since the start and the value in SI.

16 bytes a reading: a day of one meter at ten a second is 14 MB. Written through to the disk once a second; what a pulled plug cut
in the middle of a pair is left out when it is read.
"""

from __future__ import annotations

import csv
import io
import os
import struct
import time
from collections.abc import Callable, Mapping
from pathlib import Path
from typing import IO, Self

import numpy as np
from numpy.typing import NDArray

from candor.core.errors import CancelledError
from candor.core.worded import worded
from candor.durably import private, replacing

PAIR = struct.Struct("<dd")
CSV_ROWS = 20_000  # that are held at once while a file is exported


class ChannelFile:
    """The file of one meter, written to; `with` closes it.

    Raises
    ------
    OSError
        Here, and from `keep`, where it cannot be written.
    """

    def __init__(self, path: Path) -> None:
        self.path = path
        self._file: IO[bytes] = open(path, "ab", opener=private)  # noqa: SIM115 - closed by `close`
        self._synced = time.monotonic()

    def __enter__(self) -> Self:
        return self

    def __exit__(self, *_: object) -> None:
        self.close()

    def keep(self, seconds: float, value: float) -> None:
        """Keep a reading, s and SI; it is on the disk within a second."""
        self._file.write(PAIR.pack(seconds, value))
        now = time.monotonic()
        if now - self._synced >= 1.0:
            self._synced = now
            self.sync()

    def sync(self) -> None:
        """Put all that was kept on the disk."""
        self._file.flush()
        os.fsync(self._file.fileno())

    def close(self) -> None:
        """Close it, all on disk."""
        if not self._file.closed:
            self.sync()
            self._file.close()


def read_channel(path: Path) -> NDArray[np.float64]:
    """Return the readings of a file, mapped and not read into memory: an array of shape (readings, 2), s and SI."""
    count = path.stat().st_size // PAIR.size if path.is_file() else 0
    if not count:
        return np.zeros((0, 2))
    return np.memmap(path, dtype="<f8", mode="r", shape=(count, 2))


def export_channels(files: Mapping[str, Path], target: Path, should_stop: Callable[[], bool] = lambda: False) -> int:
    """Write the readings of several meters as CSV, `name,seconds,value`, a meter after the other; return how many.

    Held in memory are some thousands at once, however long the files.

    Raises
    ------
    CancelledError
        When it was stopped; what stood there before stands.
    OSError
        Where it cannot be written; what stood there before stands.
    """
    written = 0
    with replacing(target) as file:
        stream = io.TextIOWrapper(file, encoding="utf-8", newline="")
        writer = csv.writer(stream)
        writer.writerow(("name", "seconds", "value"))
        for name, path in files.items():
            readings = read_channel(path)
            for begin in range(0, len(readings), CSV_ROWS):
                if should_stop():
                    raise CancelledError(worded("links.the_export_was_stopped_what_stood"))
                part = np.array(readings[begin : begin + CSV_ROWS])
                writer.writerows((name, f"{s:.4f}", f"{v:.8g}") for s, v in part)
                written += len(part)
        stream.detach()  # flushed; the file under it goes to the disk before it takes its name
    return written
