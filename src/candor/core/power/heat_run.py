"""How warm a winding became, by its own resistance; and what a transformer takes with nothing connected to it.

Copper's resistance grows in a straight line from a temperature at which it would be nothing, so that
theta2 = R2/R1 (K + theta1) - K, K = 234.5 degC (IEC 60076-2 takes 235; from memory). The room's own change is taken off.
"""

from __future__ import annotations

import math
from typing import Literal

from candor.core.late_dataclass import dataclass

COPPER_C = 234.5
OHMS_U, ROOM_U_C = (
    0.004,
    0.5,
)  # of each reading, standard uncertainty: a bench meter on tens of ohm; a room thermometer
CLASS_A_C = 105.0  # what paper and varnish of the period bear at their hottest, IEC 60085 class 105, from memory
HOT_SPOT_C = 10.0  # by which the hottest turn is above the mean of the winding: IEC 60076-2, from memory
LIGHT, HEAVY = 0.10, 0.20  # of its rated watts, with all secondaries open: common practice, no source


@dataclass(frozen=True)
class WindingRise:
    """A winding after a heat run: its mean temperature, degC; how far above the room, K; expanded uncertainty of both (k = 2)."""

    celsius: float
    rise: float
    expanded: float

    @property
    def state(self) -> Literal["within", "over", "cannot tell"]:
        """Its hottest turn against what paper and varnish of the period bear."""
        hottest = self.celsius + HOT_SPOT_C
        if hottest + self.expanded <= CLASS_A_C:
            return "within"
        return "over" if hottest - self.expanded > CLASS_A_C else "cannot tell"


def winding_rise(cold_ohms: float, cold_celsius: float, hot_ohms: float, room_celsius: float) -> WindingRise:
    """Return how warm a winding became (IEC 60076-2).

    Parameters
    ----------
    cold_ohms, cold_celsius : float
        Before it was on, ohm; as warm as the room then, degC.
    hot_ohms, room_celsius : float
        Just after it was off, ohm; and the room then, degC.
    """
    ratio, above = hot_ohms / cold_ohms, COPPER_C + cold_celsius
    celsius = ratio * above - COPPER_C
    u = math.hypot(ratio * above * OHMS_U * math.sqrt(2), ratio * ROOM_U_C)
    return WindingRise(celsius, celsius - room_celsius, 2 * math.hypot(u, ROOM_U_C))


def judge_open(watts: float, rated_watts: float) -> Literal["light", "cannot tell", "heavy", "no rating"]:
    """Judge what a transformer takes with all its secondaries open, W, against what the instrument takes by its plate, W."""
    if rated_watts <= 0:
        return "no rating"
    share = watts / rated_watts
    return "light" if share <= LIGHT else "heavy" if share > HEAVY else "cannot tell"
