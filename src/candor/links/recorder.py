"""Keeping the readings of a run as CSV: written at once, through to the disk once a second."""

from __future__ import annotations

import os
import time
from pathlib import Path
from typing import IO, Self

from candor.core.live import Reading
from candor.durably import private


class Recorder:
    """The file of one run; `with Recorder(...) as recorder:` closes it.

    Parameters
    ----------
    file : Path
        Written after what stands in it.
    channels : tuple of str
        In the order of its columns, after the seconds.
    level_name : str
        What the source's level is called, the last column.
    heading : bool
        Whether the file begins here.

    Raises
    ------
    OSError
        Here, and from `keep`, where it cannot be written.
    """

    def __init__(self, file: Path, channels: tuple[str, ...], level_name: str, heading: bool = True) -> None:
        self._path, self._channels = file, channels
        self._head = ",".join(("seconds", *channels, level_name))
        self._heading = heading
        self._file: IO[str] | None = None
        self._synced = 0.0

    def __enter__(self) -> Self:
        self._file = open(self._path, "a", encoding="ascii", opener=private)
        if self._heading:
            self._file.write(f"{self._head}\n")
        self._synced = time.monotonic()
        return self

    def __exit__(self, *_: object) -> None:
        if self._file is not None:
            self._file.close()

    def keep(self, reading: Reading, level: float) -> None:
        """Keep a reading; it is on the disk within a second."""
        if self._file is None:
            return
        values = ",".join(f"{reading.values[channel]:.6g}" for channel in self._channels)
        self._file.write(f"{reading.seconds:.3f},{values},{level:.6g}\n")
        now = time.monotonic()
        if now - self._synced >= 1.0:
            self._synced = now
            self.sync()

    def sync(self) -> None:
        """Have what was written on the disk now."""
        if self._file is not None:
            self._file.flush()
            os.fsync(self._file.fileno())
