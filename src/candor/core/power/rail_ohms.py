"""A rail's resistance to the chassis, power off: high is fine, far too low is a short."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from candor.core.quantities import engineering

SHORT_SHARE = 0.3  # of the manual's figure, under which something shorts it: common practice, no source
LOOK_SHARE = 0.7
SHORT_OHMS = 1000.0  # where no figure is known, a rail of tubes under this is a short: common practice, no source
LOOK_OHMS = 5000.0
HOW = (
    "Power off, discharged, the red lead on the rail where it is positive. The reading climbs while the filter charges: read when "
    "it has stopped. Turned round, an electrolytic leaks and reads low."
)


@dataclass(frozen=True)
class RailOhms:
    """What a resistance says: "good", "look" or "bad", and the sentence."""

    outcome: Literal["good", "look", "bad"]
    sentence: str


def judge_rail(ohms: float, expected_ohms: float = 0.0) -> RailOhms:
    """Judge a rail's ohm to the chassis against the manual's figure, 0 where none is known."""
    read = engineering(ohms, "ohm", 3)
    if expected_ohms > 0:
        against = f"{read} against the manual's {engineering(expected_ohms, 'ohm', 3)}"
        if ohms < SHORT_SHARE * expected_ohms:
            return RailOhms("bad", f"{against}: far too low, a short. Find it before power.")
        if ohms < LOOK_SHARE * expected_ohms:
            return RailOhms("look", f"{against}: low. Turn the leads, wait until it stops, and look at the filter.")
        return RailOhms("good", f"{against}: high is fine." if ohms > expected_ohms else f"{against}.")
    if ohms < SHORT_OHMS:
        return RailOhms(
            "bad", f"{read} and no figure in the manual: a rail of tubes is not that low. Find it before power."
        )
    if ohms < LOOK_OHMS:
        return RailOhms(
            "look", f"{read} and no figure in the manual: a bleeder or heavy load may be that low. See what is there."
        )
    return RailOhms("good", f"{read}: not shorted.")
