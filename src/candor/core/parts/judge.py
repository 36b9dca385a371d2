"""Keep, watch, replace or cannot tell yet: what to do with a part, and why.

Limits marked common practice have no source; each reason says which rule set it.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from enum import StrEnum
from functools import lru_cache

from candor.core.circuit.netlist import Netlist
from candor.core.circuit.resistance import InCircuit, all_in_circuit, divider_ratio, say_in_circuit
from candor.core.parts.part import Measured, Part
from candor.core.parts.policy import Policy
from candor.core.quantities import engineering
from candor.core.quantities.show import plain, signed, trimmed

PRACTICE = "common practice, no source"


class Action(StrEnum):
    """What to do with a part, the most pressing first."""

    REPLACE = "replace"
    CANNOT_TELL = "cannot tell yet"
    WATCH = "watch"
    KEEP = "keep"


@dataclass(frozen=True)
class Reason:
    """One thing that speaks for an action.

    Attributes
    ----------
    action : Action
    says : str
        The consequence or the limit, in a few words.
    rule : str
        Which limit and who set it.
    change : str
        What would change it.
    by_policy : bool
        Nothing measured speaks for it: what is measured goes before.
    """

    action: Action
    says: str
    rule: str
    change: str = ""
    by_policy: bool = False


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


@dataclass(frozen=True, eq=False)
class Circuit:
    """A circuit as parts are judged in it; compared by identity, so that what was reckoned is remembered."""

    netlist: Netlist
    tolerances: Mapping[str, float]


@lru_cache(maxsize=16)
def _expected(circuit: Circuit) -> Mapping[str, InCircuit]:
    return all_in_circuit(circuit.netlist, circuit.tolerances)


def expected_in_circuit(circuit: Circuit, ref: str) -> InCircuit | None:
    """Return what should be read across a resistor in its circuit, None where the circuit has no such resistor."""
    return _expected(circuit).get(ref.upper())


@lru_cache(maxsize=4096)
def _shift_of_divider(circuit: Circuit, part: Part, value: float) -> float | None:
    """Return by what share the tapped voltage moves when a part of a divider has another value."""
    top, tap, bottom = part.tap
    nodes = circuit.netlist.nodes
    if not top or {top, tap, bottom or "0"} - set(nodes) or circuit.netlist.element(part.ref) is None:
        return None
    nominal = divider_ratio(circuit.netlist, top, tap, bottom or "0")
    moved = divider_ratio(circuit.netlist.with_value(part.ref, value), top, tap, bottom or "0")
    return moved / nominal - 1 if nominal else None


def judge(part: Part, measured: Measured, policy: Policy, circuit: Circuit | None = None) -> PartVerdict:
    """Say what to do with one part by itself; what its can mates say is added by `judge_all`."""
    from candor.core.parts.judge_capacitor import capacitor_reasons

    if part.kind == "capacitor":
        found = list(capacitor_reasons(part, measured, policy))
    else:
        found = list(_resistor_reasons(part, measured, circuit))
    order = list(Action)
    reasons = tuple(sorted(found, key=lambda r: (order.index(r.action), r.by_policy)))
    return PartVerdict(reasons[0].action, say_measured(part, measured), reasons, _how_sure(measured))


def judge_all(
    parts: Iterable[tuple[Part, Measured]], policy: Policy, circuit: Circuit | None = None
) -> dict[str, PartVerdict]:
    """Judge every part of a list, by designator; the sections of a can share the worst of their fates."""
    listed = [(part, measured) for part, measured in parts if part.fitted]
    verdicts = {part.ref: judge(part, measured, policy, circuit) for part, measured in listed}
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


def say_changes(before: Mapping[str, PartVerdict], after: Mapping[str, PartVerdict]) -> str:
    """Say which parts are judged otherwise now: ``3 now replace (C4, C7, C9); 1 now keep (C2)``."""
    moved: dict[Action, list[str]] = {}
    for ref, verdict in after.items():
        if ref in before and before[ref].action is not verdict.action:
            moved.setdefault(verdict.action, []).append(ref)
    if not moved:
        return "No part is judged otherwise."
    parts = []
    for action in Action:
        refs = moved.get(action, [])
        if refs:
            more = f" and {len(refs) - 6} more" if len(refs) > 6 else ""
            parts.append(f"{len(refs)} now {action} ({', '.join(refs[:6])}{more})")
    return "; ".join(parts) + "."


def say_measured(part: Part, m: Measured) -> str:
    """Return what was measured in one line: ``18.4 µF · 6.1 Ω · 2.9 mA at 400 V``."""
    words: list[str] = [m.state] if m.state else []
    if m.value is not None:
        where = " in circuit" if m.in_circuit else ""
        cold = " cold" if m.warm_value is not None else ""
        words.append(f"{engineering(m.value, part.unit)}{cold}{where}")
    if m.warm_value is not None:
        words.append(f"{engineering(m.warm_value, part.unit)} warm")
    if m.dissipation is not None:
        words.append(f"D {trimmed(m.dissipation, 3)} at {trimmed(m.hertz)} Hz")
    if m.leakage is not None:
        simulated = " (simulated)" if m.simulated else ""
        words.append(f"{engineering(m.leakage, 'A', 3)} at {trimmed(m.leakage_volts)} V{simulated}")
    if m.reformed:
        words.append("reformed" if m.reformed == "came back" else f"reforming: {m.reformed}")
    return " · ".join(words) or "not measured"


def compare(value: float, limit: float, share: float) -> int:
    """Return 1 where a value is surely above a limit, -1 where surely not, 0 where U (a share of it) decides neither."""
    if value * (1 - share) > limit:
        return 1
    return -1 if value * (1 + share) <= limit else 0


def _how_sure(m: Measured) -> str:
    if m.nothing:
        return "Nothing is measured."
    shares = [f"value to ±{trimmed(100 * m.value_share)} %"] if m.value is not None else []
    shares += [f"leakage to ±{trimmed(100 * m.leakage_share)} %"] if m.leakage is not None else []
    if not shares:
        return ""
    taken = "taken as usual for a bench meter, as nothing was said" if m.assumed else "as stated with the reading"
    return f"{' and '.join(shares).capitalize()} (k = 2), {taken}."


# --- resistors --------------------------------------------------------------------------------------------------------


def _resistor_reasons(part: Part, m: Measured, circuit: Circuit | None) -> Iterable[Reason]:
    high = part.limits[1]
    if m.state:
        yield Reason(Action.REPLACE, f"replace: it is {m.state}", f"A resistor that is {m.state} does nothing for its circuit.",
                     "A reading with one end lifted." if m.in_circuit else "")  # fmt: skip
        return
    if m.value is None:
        limits = expected_in_circuit(circuit, part.ref) if circuit else None
        hint = ""
        if limits is not None:
            hint = f": {engineering(limits.low, 'ohm')} to {engineering(limits.high, 'ohm')} expected in circuit"
        yield Reason(
            Action.CANNOT_TELL, f"measure it{hint}", f"Limits {_span(part)}.", f"A reading from {_span(part)}."
        )
    elif m.in_circuit:
        yield _read_in_circuit(part, m, circuit)
    else:
        yield _read_lifted(part, m, circuit)
        if m.warm_value is not None:
            climb = m.warm_value / m.value - 1
            if compare(m.warm_value, high, m.value_share) > 0 >= compare(m.value, high, m.value_share):
                yield Reason(Action.REPLACE, f"{signed(100 * climb, 1)} % warm: out of tolerance once warm",
                             f"Limit {engineering(high, 'ohm')}, warm as in use.", "A warm reading inside.")  # fmt: skip
            elif climb > 0.01 and part.make in ("carbon composition", ""):
                yield Reason(Action.WATCH, f"climbs {plain(100 * climb, 1)} % when warm: on its way out",
                             f"Carbon composition that rises over 1 % in ten minutes ({PRACTICE}).",
                             "A rise under 1 %.")  # fmt: skip


def _span(part: Part) -> str:
    low, high = part.limits
    return f"{engineering(low, part.unit)} to {engineering(high, part.unit)}"


def _read_in_circuit(part: Part, m: Measured, circuit: Circuit | None) -> Reason:
    value = m.value or 0.0
    limits = expected_in_circuit(circuit, part.ref) if circuit else None
    if limits is None:
        high = part.limits[1]
        if compare(value, high, m.value_share) > 0:
            return Reason(Action.REPLACE, f"{signed(100 * (value / part.nominal - 1), 0)} % even in circuit",
                          f"Above {engineering(high, 'ohm')}; what lies beside it can only lower the reading.",
                          "Nothing measured in circuit.")  # fmt: skip
        return Reason(Action.CANNOT_TELL, "says nothing in circuit: lift one end",
                      "A reading in circuit is only trusted when it is too high; too low may be a parallel path.",
                      f"With one end lifted, {_span(part)}.")  # fmt: skip
    verdict, sentence = say_in_circuit(part.ref, value, value * m.value_share, limits)
    rule = "Nodal analysis of the circuit, every part at its limits (Rayleigh's monotonicity law)."
    if verdict == "high":
        return Reason(Action.REPLACE, sentence, rule, "Nothing measured in circuit.")
    return Reason(Action.CANNOT_TELL, sentence, rule, f"With one end lifted, {_span(part)}.")


def _read_lifted(part: Part, m: Measured, circuit: Circuit | None) -> Reason:
    value, (low, high) = m.value or 0.0, part.limits
    off = value / part.nominal - 1
    shown = f"{signed(100 * off, 1)} %"
    moved = _shift_of_divider(circuit, part, value) if circuit else None
    effect = f"; its tap reads {signed(100 * moved, 1)} %" if moved is not None and abs(moved) > 5e-4 else ""
    climbing = ", still climbing" if m.warm_value is not None and m.warm_value > value * 1.005 and off > 0 else ""
    rule = f"Limits {_span(part)}, the tolerance {'marked' if part.below is not None else 'usual for its make'}."
    reach = value * m.value_share
    if low <= value - reach and value + reach <= high:
        return Reason(Action.KEEP, f"{shown}, inside{effect}", rule, f"A reading outside {_span(part)}.")
    if value - reach <= high and value + reach >= low:
        needed = 100 * min(abs(value - low), abs(high - value)) / value
        return Reason(Action.CANNOT_TELL, f"{shown}: too near its limit to tell", rule,
                      f"A meter good to ±{trimmed(needed, 2)} %, or another reading.")  # fmt: skip
    twice = abs(off) > 2 * (part.tolerance[1] if off > 0 else part.tolerance[0])
    strict = part.role in ("divider", "timing")
    if strict or twice or climbing:
        return Reason(Action.REPLACE, f"{shown}{climbing}{effect}", rule, f"A reading from {_span(part)}.")
    heat = f", {engineering(part.volts_across**2 / value, 'W', 3)} in it" if part.volts_across else ""
    return Reason(Action.WATCH, f"{shown}, outside{heat}", f"{rule} Here up to twice that serves ({PRACTICE}).",
                  "A value that decides the accuracy, or twice as far off.")  # fmt: skip
