"""After power: the plug out, a countdown where the bleeder is known, a meter that was proved, and the wait for what climbs back.

*Safe* is a measurement below the safe volts and one at least 60 s later that still is, with a meter that was seen live: it
followed the rail down, or was proved since. Nothing else is.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Literal

from candor.core.finding import Figure, Finding
from candor.core.late_dataclass import dataclass

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
    """Where a rail stands after power-off: the stage, what is known of it, and s until the next thing."""

    stage: Stage
    found: Finding
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
    figures: dict[str, Figure] = {"safe": safe_volts}

    def at(stage: Stage, kind: str, left_s: float = 0.0) -> Safety:
        return Safety(stage, Finding(f"after.{kind}", {**figures, "left": left_s}), left_s)

    if not is_out:
        return at("on", "on")
    if not readings:
        if bleed_s is None:
            return at("unknown", "unknown")
        left = bleed_s - out_s
        return at("counting", "counting", left) if left > 0 else at("measure", "calculated")
    last = readings[-1]
    figures["volts"] = last.volts
    if abs(last.volts) > safe_volts:
        climbed = any(abs(r.volts) <= safe_volts for r in readings[:-1])
        return at("climbed", "climbed") if climbed else at("measure", "over")
    if last.ago_s is None:
        return at("again", "before start")
    followed = any(r.ago_s is not None and abs(r.volts) > LIVE_VOLTS * safe_volts for r in readings[:-1])
    if not (proved or followed):
        return at("measure", "not proved")
    begins = next(
        i
        for i in range(len(readings))
        if all(abs(r.volts) <= safe_volts and r.ago_s is not None for r in readings[i:])
    )
    began_s = readings[begins].ago_s or 0.0
    waited = began_s - last.ago_s
    if waited >= WAIT_S:
        figures["waited"] = waited
        return at("safe", "safe")
    left = WAIT_S - began_s
    return at("wait", "wait", left) if left > 0 else at("again", "again")
