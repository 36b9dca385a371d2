"""A live run: readings come from meters by channel, a watch says what comes next, a source may follow it.

No link and no clock here. A leakage run is one watch; an instrument's first power is another.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Protocol, TypeVar

from candor.core.late_dataclass import dataclass

S_co = TypeVar("S_co", covariant=True)


@dataclass(frozen=True)
class Reading:
    """One reading of all meters.

    Attributes
    ----------
    seconds : float
        Of the meters' own clock, rising; of the run once it goes on.
    values : mapping of str to float
        By channel, SI: ``{"volts": 12.1, "amperes": 3e-6}``.
    """

    seconds: float
    values: Mapping[str, float]


@dataclass(frozen=True)
class Advice:
    """What to do next.

    Attributes
    ----------
    level : float
        What the source should give, SI.
    stop : str
        Why the run is over, empty while it is not.
    outcome : str
        What it came to, in the words of its kind; empty while it is not over.
    """

    level: float
    stop: str = ""
    outcome: str = ""


class Watch(Protocol[S_co]):
    """Follows a run: readings in, advice out."""

    @property
    def channels(self) -> tuple[str, ...]:
        """The channels it needs, in the order they are kept."""

    @property
    def level_name(self) -> str:
        """What the source's level is called where readings are kept: ``source_volts``."""

    @property
    def level(self) -> float:
        """What the source should give now, SI."""

    @property
    def longest_s(self) -> float:
        """How long the run may take at most, s."""

    def begin(self, traits: Mapping[str, float]) -> None:
        """Note what meters and source say of themselves, such as their series resistor."""

    def take(self, reading: Reading) -> Advice:
        """Take a reading and say what comes next."""

    def seen(self) -> S_co:
        """Return what the readings say so far."""

    def is_safe(self, reading: Reading) -> bool:
        """Say whether what was read after the source was off may be touched."""

    @property
    def unproved(self) -> str:
        """Why what the meters say after the source is off is not believed, a sentence; empty where it is."""

    def stood(self, reading: Reading | None) -> str:
        """Say what was left on the clips by the last reading: ``12.3 V stood on the part``."""
