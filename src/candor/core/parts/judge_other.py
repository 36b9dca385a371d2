"""Keep or replace for what is neither resistor nor capacitor: by what was found, and its value where it has one."""

from __future__ import annotations

from collections.abc import Iterator

from candor.core.finding import Figure
from candor.core.parts.part import Measured, Part
from candor.core.parts.reasons import Action, Reason

BAD = ("open", "short", "intermittent", "leaky")


def other_reasons(part: Part, m: Measured) -> Iterator[Reason]:
    """Yield what speaks for an action; at least one."""
    low, high = part.limits
    figures: dict[str, Figure] = {"kind": part.kind, "state": m.state, "low": low, "high": high, "unit": part.unit}
    if m.state in BAD:
        yield Reason(action=Action.REPLACE, found="state", rule="state", change="none", figures=figures)
    elif m.state in ("worn", "weak"):
        yield Reason(action=Action.WATCH, found="state.worn", rule="by hand", change="another", figures=figures)
    elif m.value is not None and part.nominal and not m.in_circuit:
        if low <= m.value <= high:
            yield Reason(
                action=Action.KEEP, found="marked.inside", rule="marked", change="marked.outside", figures=figures
            )
        else:
            yield Reason(
                action=Action.REPLACE, found="marked.outside", rule="marked", change="marked.inside", figures=figures
            )
    elif m.state == "good":
        yield Reason(action=Action.KEEP, found="state.good", rule="by hand", change="otherwise", figures=figures)
    else:
        yield Reason(
            action=Action.CANNOT_TELL, found=f"tell.{part.kind}", rule="tell", change="tell", figures=figures
        )
