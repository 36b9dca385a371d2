"""What a live run needs of instruments: meters by channel, and a source or none."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from types import TracebackType
from typing import Protocol, Self

from candor.core.live import Reading


class Source(Protocol):
    """Something that drives what is measured. Raises LinkError where it cannot be told."""

    def set_level(self, level: float) -> None:
        """Set what it gives, SI."""

    def switch(self, on: bool) -> None:
        """Switch its output."""


class Rig(Protocol):
    """Meters and a source on links, opened together; `with rig:` lets go of them, and touches no source.

    Attributes
    ----------
    stopped : callable
        While it says so, a question is given up at once.
    """

    stopped: Callable[[], bool]

    @property
    def source(self) -> Source | None:
        """What drives, None where that is done by hand."""

    @property
    def traits(self) -> Mapping[str, float]:
        """What it says of itself, by name with its unit: ``series_ohms``."""

    def read(self) -> Reading | None:
        """Return one reading of every channel; None where there is none (overload, not a number). Raises LinkError."""

    def __enter__(self) -> Self: ...

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None: ...
