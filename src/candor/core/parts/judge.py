"""Keep, watch, replace or cannot tell yet: what to do with a part, and why.

Limits marked common practice have no source; each reason says which rule set it.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace

from candor.core.parts.judge_capacitor import HEAT_BAD, HEAT_WATCH, capacitor_reasons, heat_of
from candor.core.parts.judge_other import other_reasons
from candor.core.parts.judge_resistor import Circuit, resistor_reasons
from candor.core.parts.part import Measured, Part
from candor.core.parts.policy import Policy
from candor.core.parts.reasons import PRACTICE, Action, Reason, compare
from candor.core.quantities import engineering
from candor.core.quantities.show import trimmed


@dataclass(frozen=True)
class PartVerdict:
    """What to do with a part.

    Attributes
    ----------
    action : Action
    measured : str
        What was measured, in one line.
    reasons : tuple of Reason
        The most pressing first; the first one decides.
    sure : str
        How sure that is.
    """

    action: Action
    measured: str
    reasons: tuple[Reason, ...]
    sure: str

    @property
    def says(self) -> str:
        """The deciding reason in a few words."""
        return self.reasons[0].says


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
    return PartVerdict(reasons[0].action, say_measured(part, measured), reasons, _how_sure(measured))


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
            reason = Reason(
                Action.REPLACE,
                f"can {part.can} fails as one: {bad[part.can]} is bad",
                f"The sections of a can share seal, age and electrolyte ({PRACTICE}).",
                f"{bad[part.can]} that passes.",
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
        reason = Reason(
            Action.REPLACE if hot else Action.WATCH,
            f"can {can} makes {engineering(heat, 'W', 2)} of heat in all",
            f"Its sections together; over {HEAT_BAD:g} W a can boils, over {HEAT_WATCH:g} W it ages ({PRACTICE}).",
            f"Under {HEAT_WATCH:g} W in all.",
        )
        for part, _ in sections:
            old = verdicts[part.ref]
            reasons = tuple(sorted((*old.reasons, reason), key=lambda r: (list(Action).index(r.action), r.by_policy)))
            verdicts[part.ref] = replace(old, action=reasons[0].action, reasons=reasons)


def say_changes(before: Mapping[str, PartVerdict], after: Mapping[str, PartVerdict]) -> str:
    """Say which parts are judged otherwise now: ``3 now replace (C4, C7, C9); 1 now keep (C2)``."""
    moved: dict[Action, list[str]] = {}
    for ref, verdict in after.items():
        if ref in before and before[ref].action is not verdict.action:
            moved.setdefault(verdict.action, []).append(ref)
    if not moved:
        return "No verdict on a part changes."
    said = []
    for action in Action:
        refs = moved.get(action, [])
        if refs:
            more = f" and {len(refs) - 6} more" if len(refs) > 6 else ""
            said.append(f"{len(refs)} now “{action}”: {', '.join(refs[:6])}{more}")
    return "; ".join(said) + "."


def say_measured(part: Part, m: Measured) -> str:
    """Return what was measured in one line: ``18.4 µF · 6.1 Ω · 2.9 mA at 400 V``."""
    words: list[str] = [m.state] if m.state else []
    if m.value is not None:
        where = " in circuit" if m.in_circuit else ""
        cold = " cold" if m.warm_value is not None else ""
        words.append(f"{engineering(m.value, part.unit or '1')}{cold}{where}")
    if m.warm_value is not None:
        words.append(f"{engineering(m.warm_value, part.unit)} warm")
    at = f" at {engineering(m.hertz, 'Hz')}" if m.hertz else ""
    if m.esr is not None:
        words.append(f"ESR {engineering(m.esr, 'ohm', 3)}{at}")
    elif m.dissipation is not None:
        words.append(f"D {trimmed(m.dissipation, 3)}{at}")
    if m.leakage is not None:
        simulated = " (simulated)" if m.simulated else ""
        words.append(f"{engineering(m.leakage, 'A', 3)} at {trimmed(m.leakage_volts)} V{simulated}")
    if m.reformed:
        words.append("reformed" if m.reformed == "came back" else f"reforming: {m.reformed}")
    return " · ".join(words) or "not measured"


def _how_sure(m: Measured) -> str:
    if m.nothing:
        return "Nothing is measured."
    shares = [f"value to ±{trimmed(100 * m.value_share, 2)} %"] if m.value is not None else []
    shares += [f"leakage to ±{trimmed(100 * m.leakage_share, 2)} %"] if m.leakage is not None else []
    if not shares:
        return ""
    what = " and ".join(sorted(m.assumed, reverse=True))
    taken = f"; for the {what} nothing was said: as usual for a bench meter" if what else ", as stated"
    return f"{' and '.join(shares).capitalize()} (k\u00a0=\u00a02){taken}."
