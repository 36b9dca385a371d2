"""What a line of a checklist found, before power and before release: values, put into words by `candor.words.checks`."""

from __future__ import annotations

from typing import Literal

from candor.core.finding import Finding
from candor.core.late_dataclass import dataclass
from candor.core.leaving.electrical import EarthFound, InsulationFound, TouchFound
from candor.core.power.rail_ohms import RailOhms

Outcome = Literal["good", "bad", "does not apply"]


@dataclass(frozen=True)
class NotLooked:
    """Nobody has looked: `ask` names what to do, "power fuse" or "release shake"; `mass` that of what two people lift."""

    ask: str
    mass: str = ""


@dataclass(frozen=True)
class Looked:
    """It was looked at by hand: the outcome, what was written with it, and whether that was before power."""

    outcome: Outcome
    text: str = ""
    before_power: bool = False


@dataclass(frozen=True)
class NoMains:
    """Batteries feed it: nothing of the mains applies."""


@dataclass(frozen=True)
class NoTransformer:
    """It has none, so what is asked of one does not apply."""


@dataclass(frozen=True)
class Outdated:
    """What was measured says nothing of now: `text` was done since, in `entry`."""

    text: str
    entry: int


@dataclass(frozen=True)
class Hazards:
    """The hazards that are open."""

    texts: tuple[str, ...] = ()


@dataclass(frozen=True)
class Fasteners:
    """Fasteners that are missing, or what is not put back; of neither, whether anything was taken apart."""

    missing: int = 0
    not_back: tuple[str, ...] = ()
    taken_apart: bool = True


@dataclass(frozen=True)
class Overridden:
    """It was let go for a reason."""

    reason: str


@dataclass(frozen=True)
class LineCapacitors:
    """Capacitors on the mains: old ones of no class, those of a class nobody wrote down, and those that are as they should be."""

    old: tuple[str, ...] = ()
    unknown: tuple[str, ...] = ()
    held: tuple[str, ...] = ()


@dataclass(frozen=True)
class PlannedParts:
    """Parts that were chosen: those that are not fitted yet, and whether any were planned."""

    waiting: tuple[str, ...] = ()
    any_planned: bool = True


@dataclass(frozen=True)
class Ratings:
    """Whether any rail's volts and its capacitor's rating are both known; none passes it."""

    known: bool


@dataclass(frozen=True)
class EarthUncertain:
    """Looked at as good, yet nobody said at which test current."""


@dataclass(frozen=True)
class WashedInsulation:
    """What was washed: the ohm it needs, and whether it was measured since."""

    least_ohms: float
    measured: bool


@dataclass(frozen=True)
class RailUnread:
    """A rail whose ohm to the chassis is not read yet; without a name none is listed."""

    name: str = ""


@dataclass(frozen=True)
class Winding:
    """A winding's ohm; None where it is open."""

    ohms: float | None


@dataclass(frozen=True)
class MeterProved:
    """The meter was proved on something live; `on` says what, where it was written."""

    on: str = ""


@dataclass(frozen=True)
class OverRated:
    """What is known before power to pass a capacitor's rating."""

    over: tuple[Finding, ...]


@dataclass(frozen=True)
class Told:
    """What is said elsewhere too, in its words."""

    words: tuple[str, ...]


CheckFinding = (
    NotLooked | Looked | NoMains | NoTransformer | Outdated | Hazards | Fasteners | Overridden | LineCapacitors | PlannedParts
    | Ratings | EarthUncertain | WashedInsulation | RailUnread | Winding | MeterProved | OverRated | Told
    | EarthFound | InsulationFound | TouchFound | RailOhms
)  # fmt: skip
