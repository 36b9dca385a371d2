"""What a line of what is measured before an instrument goes means: protective earth and touch current."""

from __future__ import annotations

from candor.core.late_dataclass import dataclass


@dataclass(frozen=True)
class EarthJot:
    """An earth bond, ohm, the lead's ohm in it, and the test current, A; 0 where nobody said."""

    ohms: float
    lead_ohms: float = 0.0
    amperes: float = 0.0
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class TouchJot:
    """A touch current: A rms, or V across the network (the other is 0); plug reversed, switch on."""

    amperes: float
    volts: float
    is_reversed: bool
    is_on: bool
    chips: tuple[str, ...] = ()


LeavingJot = EarthJot | TouchJot
