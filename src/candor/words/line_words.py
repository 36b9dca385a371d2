"""The influence of the line in words: how it moves a point, and that a reading was kept for it."""

from __future__ import annotations

from candor.core.quantities import pair
from candor.core.quantities.show import signed, trimmed
from candor.notebook.work.line_influence import LineInfluence


def say_line_influence(found: LineInfluence) -> str:
    """Say by how much another line moves a point, and whether that is more than its U."""
    share = signed(100 * (found.volts / found.base_volts - 1), 0)
    change = pair(found.change, found.expanded, found.result.unit)
    surely = "" if abs(found.change) > found.expanded else ", which is within its uncertainty"
    line = f"{trimmed(found.volts, 4)} V line ({share} %)"
    base = f"{trimmed(found.base_volts, 4)} V line"
    return f"{found.point.name} at {line}: the error changes by {change} from that at {base}{surely}."


def say_kept_for_line(volts: float, base: float) -> str:
    """Say that a reading at another line is no repeat, when it was just taken."""
    share = trimmed(abs(100 * (volts / base - 1)), 2)
    side = "below" if volts < base else "above"
    return (
        f"Read at a line of {trimmed(volts, 4)} V, {share} % {side} the {trimmed(base, 4)} V of its first reading: "
        "kept as the influence of the line, not averaged."
    )
