"""From which volts a bare conductor is live to touch (IEC 61010-1, 6.3.1, from memory), and what work at one needs."""

from __future__ import annotations

from candor.core.late_dataclass import dataclass
from candor.core.worded import worded


@dataclass(frozen=True)
class LiveLimits:
    """V r.m.s. and V peak of a.c., V of d.c."""

    rms: float
    peak: float
    direct: float


DRY = LiveLimits(30.0, 42.4, 60.0)  # IEC 61010-1, 6.3.1, normal condition, from memory
WET = LiveLimits(16.0, 22.6, 35.0)  # the same, in wet places and outdoors, from memory
LIVE_WORK = worded("power.live_clip_on_dead_one_hand")  # in a line: fits where there is little room
HOW = worded("power.source_at_zero_and_off_or")


def is_live(volts: float, alternating: bool, crest: float = 2**0.5, limits: LiveLimits = DRY) -> bool:
    """Say whether so many V are live to touch.

    Parameters
    ----------
    volts : float
        V r.m.s. of a.c., V of d.c.; the sign does not matter.
    alternating : bool
    crest : float
        Of an a.c. waveform, peak over r.m.s.
    limits : LiveLimits
        Those of a dry place by default.
    """
    if not alternating:
        return abs(volts) > limits.direct
    return abs(volts) > limits.rms or abs(volts) * crest > limits.peak * (1 + 1e-3)


def say_live(applied: str) -> str:
    """Return the caution before a step at which something is live."""
    return worded(
        "power.is_live_to_touch_over_v",
        applied=applied,
        rms=DRY.rms,
        peak=DRY.peak,
        direct=DRY.direct,
        wet_rms=WET.rms,
        wet_peak=WET.peak,
        wet_direct=WET.direct,
        how=HOW,
    )
