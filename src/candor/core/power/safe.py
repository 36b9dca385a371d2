"""After power: the plug out, a countdown where the bleeder is known, a meter that was proved, and the wait for what climbs back.

*Safe* is a measurement below the safe volts and one at least 60 s later that still is, with a meter that was seen live: it
followed the rail down, or was proved since. Nothing else is.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from candor.core.quantities import engineering
from candor.core.quantities.show import countdown, trimmed

SAFE_VOLTS = 60.0  # d.c.: IEC 61010-1, from memory; a shop may set less
WAIT_S = 60.0  # for dielectric absorption: common practice, no source
LIVE_VOLTS = 2.0  # times the safe volts, from which on a meter that read them counts as seen live

Stage = Literal["on", "plug", "unknown", "counting", "measure", "wait", "again", "climbed", "safe"]


@dataclass(frozen=True)
class AfterReading:
    """Volts of a rail measured after the plug was out, and how many s ago by the program's own clock.

    None where that is not known: it was measured before the computer was started anew, or at another one.
    """

    volts: float
    ago_s: float | None


@dataclass(frozen=True)
class Safety:
    """Where a rail stands after power-off: the stage, what to do, and s until the next thing."""

    stage: Stage
    sentence: str
    left_s: float = 0.0

    @property
    def is_safe(self) -> bool:
        """Whether the word may be said."""
        return self.stage == "safe"


def bleed_seconds(volts: float, ohms: float, farad: float, safe_volts: float = SAFE_VOLTS) -> float:
    """Return t = R C ln(V/Vs), s: until a bleeder of so many ohm has brought V to the safe volts (by definition of RC)."""
    return 0.0 if abs(volts) <= safe_volts else ohms * farad * math.log(abs(volts) / safe_volts)


def after_power(
    *,
    is_out: bool,
    out_s: float,
    bleed_s: float | None,
    readings: Sequence[AfterReading],
    proved: bool,
    safe_volts: float = SAFE_VOLTS,
) -> Safety:
    """Say how safe a rail is.

    Parameters
    ----------
    is_out : bool
        Whether the plug, not the switch, is out.
    out_s : float
        Since when, s.
    bleed_s : float or None
        How long a known bleeder takes, s; None where none is known.
    readings : sequence of AfterReading
        In order.
    proved : bool
        Whether the meter was seen live in this sitting: proved on something, or it followed this rail down.
    safe_volts : float
        V d.c.
    """
    if not is_out:
        return Safety("on", "Pull the plug: a switch may be in the wrong conductor, or leave the transformer live.")
    limit = f"{trimmed(safe_volts)} V"
    if not readings:
        if bleed_s is None:
            return Safety(
                "unknown", "No known bleeder: how long it holds is unknown. Measure, with a meter that was proved."
            )
        left = bleed_s - out_s
        if left > 0:
            return Safety(
                "counting", f"The bleeder needs {countdown(left)} more to bring it under {limit}. Then measure.", left
            )
        return Safety("measure", f"By the bleeder it is under {limit}. That is calculated, not measured: measure.")
    last = readings[-1]
    if abs(last.volts) > safe_volts:
        climbed = any(abs(r.volts) <= safe_volts for r in readings[:-1])
        words = f"{engineering(last.volts, 'V', 3)} is over {limit}."
        if climbed:
            return Safety("climbed", f"It climbed back: {words} Discharge it through a resistor and measure again.")
        return Safety("measure", f"{words} Discharge it through a resistor and measure again.")
    if last.ago_s is None:
        return Safety(
            "again",
            f"Under {limit} when it was measured, before this computer was started. Measure again: the minute begins anew.",
        )
    followed = any(r.ago_s is not None and abs(r.volts) > LIVE_VOLTS * safe_volts for r in readings[:-1])
    if not (proved or followed):
        return Safety("measure", "A dead meter reads 0 too. Prove it on something live, then measure again.")
    begins = next(
        i
        for i in range(len(readings))
        if all(abs(r.volts) <= safe_volts and r.ago_s is not None for r in readings[i:])
    )
    began_s = readings[begins].ago_s or 0.0
    waited = began_s - last.ago_s
    if waited >= WAIT_S:
        return Safety(
            "safe",
            f"Measured at {engineering(last.volts, 'V', 3)}, and still under {limit} after {countdown(waited)}.",
        )
    left = WAIT_S - began_s
    if left > 0:
        return Safety("wait", f"Below {limit}. Capacitors recover charge: measure again in {countdown(left)}.", left)
    return Safety("again", f"It was below {limit} a minute ago. Measure again: capacitors recover charge.")
