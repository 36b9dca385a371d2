"""Moments by a clock that nobody sets: the start of this computer, and how long ago it was, sleep included."""

from __future__ import annotations

import time
import uuid
from pathlib import Path
from typing import NamedTuple

_BOOT_ID = Path("/proc/sys/kernel/random/boot_id")  # made anew by the kernel at each start
_NO_BOOT = f"program {uuid.uuid4().hex}"  # where there is none: this program's own start


class Moment(NamedTuple):
    """A moment: which start of which computer, and s since it. Two of different starts cannot be compared."""

    boot: str
    seconds: float

    def since(self, boot: str, seconds: float) -> float | None:
        """Return how many s ago an earlier one was; None where it was of another start, or of none that is known."""
        return self.seconds - seconds if boot and boot == self.boot else None


def moment_now() -> Moment:
    """Return the moment it is: CLOCK_BOOTTIME goes on in sleep and is never set."""
    try:
        boot = _BOOT_ID.read_text(encoding="ascii").strip()
    except OSError:
        boot = _NO_BOOT
    return Moment(boot or _NO_BOOT, time.clock_gettime(time.CLOCK_BOOTTIME))
