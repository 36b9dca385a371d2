"""A rail's resistance to the chassis, power off: high is fine, far too low is a short."""

from __future__ import annotations

from typing import Literal

from candor.core.late_dataclass import dataclass

SHORT_SHARE = 0.3  # of the manual's figure, under which something shorts it: common practice, no source
LOOK_SHARE = 0.7
SHORT_OHMS = 1000.0  # where no figure is known, a rail of tubes under this is a short: common practice, no source
LOOK_OHMS = 5000.0


@dataclass(frozen=True)
class RailOhms:
    """A rail's ohm to the chassis, and the manual's figure, 0 where none is known."""

    ohms: float
    expected_ohms: float = 0.0

    @property
    def outcome(self) -> Literal["good", "look", "bad"]:
        """Bad where it is a short; a look where it is low."""
        known = self.expected_ohms > 0
        short, low = (
            s * self.expected_ohms if known else o for s, o in ((SHORT_SHARE, SHORT_OHMS), (LOOK_SHARE, LOOK_OHMS))
        )
        if self.ohms < short:
            return "bad"
        return "look" if self.ohms < low else "good"
