"""What a filter capacitor bears: its rating for good, a surge for half a minute where it was measured good."""

from __future__ import annotations

SURGE_S = 30.0  # that a surge may last: IEC 60384-4, from memory
SURGE_LOW, SURGE_HIGH, SURGE_EDGE = (
    1.15,
    1.10,
    315.0,
)  # times the rating, to 315 V and above: IEC 60384-4, from memory


def surge_volts(rated_volts: float, measured_good: bool, printed: float = 0.0) -> float:
    """Return what a capacitor bears for at most SURGE_S, V.

    The surge figure printed on it, else 1.15 times its rating to 315 V and 1.10 times above (IEC 60384-4, from memory); an old one
    that was not measured good bears its rating and no more.
    """
    if not measured_good:
        return rated_volts
    return printed or rated_volts * (SURGE_LOW if rated_volts <= SURGE_EDGE else SURGE_HIGH)
