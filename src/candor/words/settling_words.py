"""What would settle a "cannot tell", in words."""

from __future__ import annotations

import math
from typing import Any

from candor.core.quantities import engineering
from candor.core.verdict.would_settle import Remedy, Settlement


def say_settlement(found: Settlement, unit: str) -> str:
    """Say the U that decides, and the best way there with its chance; `unit` is that of the result."""
    if found.on_limit:
        words = "The error is exactly at its limit: while it stays there, no U decides. "
    else:
        words = f"At this error it needs U of at most {engineering(found.expanded_needed, unit, 2)}. "
    if found.remedies:
        first = found.remedies[0]
        return f"{words}{say_remedy(first, unit)} would settle it, {say_chance(first.chance)}."
    if found.on_limit:
        return f"{words}Trim it, or read it again."
    return f"{words}No single contribution is enough. Cut the largest first: {', then '.join(found.largest)}."


def settlement_json(found: Settlement, unit: str) -> dict[str, Any]:
    """Return the same with its numbers, in `unit`."""
    return {
        "U_needed": found.expanded_needed or None,
        "unit": unit,
        "remedies": [
            {"kind": r.kind, "half_width": r.half_width or None, "readings": r.readings or None, "chance": r.chance}
            for r in found.remedies
        ],
        "sentence": say_settlement(found, unit),
    }


def say_remedy(remedy: Remedy, unit: str) -> str:
    """Say one way to settle it, the beginning of a sentence."""
    if remedy.kind == "repeats":
        return f"About {remedy.readings} readings in all"
    half = engineering(remedy.half_width, unit, 2)
    if remedy.kind == "needle":
        return f"Reading the needle to ±{half} (by a magnifier or a camera, or by setting it on a mark and reading the reference)"
    if remedy.kind == "reference":
        return f"A reference good to ±{half}"
    if remedy.kind == "bracket":
        return f"A bracket of at most {engineering(2 * remedy.half_width, unit, 2)} from on to off"
    if remedy.kind == "friction":
        return f"Friction known to be at most ±{half} (read from below and from above)"
    return f"Bringing “{remedy.kind}” down to ±{half}"


def say_chance(chance: float) -> str:
    """Say a chance as times in ten, never more than it is."""
    return "nearly always" if chance >= 0.95 else f"about {math.floor(10 * chance + 0.05)} times in 10"
