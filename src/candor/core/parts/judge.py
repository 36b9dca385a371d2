"""Keep, watch, replace or cannot tell yet: what to do with a part, and why.

Each reason names the rule that set its limit.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import replace

from candor.core.finding import Figure
from candor.core.late_dataclass import dataclass
from candor.core.parts.judge_capacitor import HEAT_BAD, HEAT_WATCH, capacitor_reasons, heat_of
from candor.core.parts.judge_other import other_reasons
from candor.core.parts.judge_resistor import Circuit, resistor_reasons
from candor.core.parts.part import Measured, Part
from candor.core.parts.policy import Policy
from candor.core.parts.reasons import Action, Reason, compare


@dataclass(frozen=True)
class PartVerdict:
    """What to do with a part.

    Attributes
    ----------
    action : Action
    reasons : tuple of Reason
        The most pressing first; the first one decides.
    """

    action: Action
    reasons: tuple[Reason, ...]


def judge(part: Part, measured: Measured, policy: Policy, circuit: Circuit | None = None) -> PartVerdict:
    """Say what to do with one part by itself; what its can mates say is added by `judge_all`.

    Raises
    ------
    RangeError
        Where a value or a voltage of the part cannot be.
    """
    if part.kind == "capacitor":
        found = list(capacitor_reasons(part, measured, policy))
    elif part.kind == "resistor":
        found = list(resistor_reasons(part, measured, circuit, policy))
    else:
        found = list(other_reasons(part, measured))
    order = list(Action)
    reasons = tuple(sorted(found, key=lambda r: (order.index(r.action), r.by_policy)))
    return PartVerdict(reasons[0].action, reasons)


def judge_all(
    parts: Iterable[tuple[Part, Measured]], policy: Policy, circuit: Circuit | None = None
) -> dict[str, PartVerdict]:
    """Judge every part of a list, by designator; the sections of a can share the worst of their fates.

    Raises
    ------
    RangeError
        Where a value or a voltage of the part cannot be.
    """
    listed = [(part, measured) for part, measured in parts if part.fitted]
    verdicts = {part.ref: judge(part, measured, policy, circuit) for part, measured in listed}
    _add_heat_of_cans(listed, verdicts)
    bad: dict[str, str] = {}
    for part, _ in listed:
        if part.can and verdicts[part.ref].action is Action.REPLACE:
            bad.setdefault(part.can, part.ref)
    for part, _ in listed:
        if part.can in bad and verdicts[part.ref].action is not Action.REPLACE:
            mates = {"can": part.can, "bad": bad[part.can]}
            reason = Reason(
                action=Action.REPLACE, found="can.mate", rule="can.mate", change="can.mate", figures=mates
            )
            old = verdicts[part.ref]
            verdicts[part.ref] = replace(old, action=Action.REPLACE, reasons=(reason, *old.reasons))
    return verdicts


def _add_heat_of_cans(listed: list[tuple[Part, Measured]], verdicts: dict[str, PartVerdict]) -> None:
    """The sections of a can heat one another: their heat is added before it is held against what a can stands."""
    cans: dict[str, list[tuple[Part, Measured]]] = {}
    for part, m in listed:
        if part.can and heat_of(part, m) > 0:
            cans.setdefault(part.can, []).append((part, m))
    for can, sections in cans.items():
        heat = sum(heat_of(part, m) for part, m in sections)
        share = max(m.leakage_share for _, m in sections)
        if len(sections) < 2 or compare(heat, HEAT_WATCH, share) <= 0:
            continue
        hot = compare(heat, HEAT_BAD, share) > 0
        figures: dict[str, Figure] = {"can": can, "heat": heat, "bad": HEAT_BAD, "watch": HEAT_WATCH}
        reason = Reason(
            action=Action.REPLACE if hot else Action.WATCH,
            found="can.heat",
            rule="can.heat",
            change="can.heat",
            figures=figures,
        )
        for part, _ in sections:
            old = verdicts[part.ref]
            reasons = tuple(sorted((*old.reasons, reason), key=lambda r: (list(Action).index(r.action), r.by_policy)))
            verdicts[part.ref] = replace(old, action=reasons[0].action, reasons=reasons)


def moved_verdicts(
    before: Mapping[str, PartVerdict], after: Mapping[str, PartVerdict]
) -> dict[Action, tuple[str, ...]]:
    """Return which parts are judged otherwise now, by what is to be done with them."""
    moved: dict[Action, list[str]] = {}
    for ref, verdict in after.items():
        if ref in before and before[ref].action is not verdict.action:
            moved.setdefault(verdict.action, []).append(ref)
    return {action: tuple(moved[action]) for action in Action if action in moved}
