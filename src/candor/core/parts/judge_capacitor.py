"""The reasons that speak for keeping or replacing a capacitor."""

from __future__ import annotations

from collections.abc import Iterator

from candor.core.parts.capacitor import (
    BAD_LEAK,
    GOOD_LEAK,
    LOSSES,
    corner_hertz,
    grid_shift,
    leakage_limit,
    touch_current,
)
from candor.core.parts.part import Measured, Part
from candor.core.parts.policy import Electrolytics, Policy, Sight
from candor.core.parts.reasons import PRACTICE, Action, Reason, compare
from candor.core.quantities import engineering
from candor.core.quantities.show import plain, signed, trimmed

GRID_GOOD, GRID_BAD = 0.1, 0.5  # V of grid shift
HEAT_WATCH, HEAT_BAD = 0.5, 1.0  # W in one capacitor
ENOUGH = 0.8  # of the working voltage: what a leakage test must reach to say anything
DWELL_S = 120.0  # before the leakage of an electrolytic is held against it
MAINS_VOLTS, MAINS_HERTZ = 120.0, 60.0


def capacitor_reasons(part: Part, m: Measured, policy: Policy) -> Iterator[Reason]:
    """Yield every reason there is, in no order; at least one."""
    if part.mains:
        yield _mains(part)
    if m.state:
        yield Reason(
            Action.REPLACE,
            f"replace: it is {m.state}",
            f"A capacitor that is {m.state} is none.",
            "No reading would.",
        )
        return
    yield from _by_policy(part, policy)
    yield from _value(part, m)
    yield from _loss(part, m)
    if m.leakage is not None:
        yield from _leakage(part, m, policy)
    else:
        yield _to_measure(part, m)


def run_limit(part: Part, volts: float, policy: Policy) -> float:
    """Return the leakage limit of a run at `volts`, A: by the rule of the job, by what the grid stands, or 1 µA.

    Raises
    ------
    RangeError
        Where the voltage is not above zero.
    """
    if part.make in ("electrolytic", "tantalum"):
        return leakage_limit(part.nominal, volts, policy.rule)
    if part.role == "coupling" and part.grid_ohms:
        return GRID_GOOD / part.grid_ohms * (volts / part.working_volts if part.working_volts else 1.0)
    return GOOD_LEAK


def _mains(part: Part) -> Reason:
    if part.mains == "line to chassis":
        leak = engineering(touch_current(10e-9, MAINS_VOLTS, MAINS_HERTZ), "A", 2)
        says = "safety part: class Y, 10 nF at most"
        rule = f"Fails to a live chassis. Class Y, IEC 60384-14; 10 nF passes {leak} at 120 V 60 Hz."
    else:
        says, rule = "safety part: class X2", "It fails across the mains. Class X, IEC 60384-14."
    return Reason(
        Action.REPLACE, says, f"{rule} Local codes come first.", "No reading would: only a safety class stays here."
    )


def _by_policy(part: Part, policy: Policy) -> Iterator[Reason]:
    on_sight = policy.sight is Sight.REPLACE
    if on_sight and (
        part.make == "paper" or (part.make == "electrolytic" and policy.electrolytics is Electrolytics.REPLACE)
    ):
        kind = "paper" if part.make == "paper" else "electrolytic"
        yield Reason(Action.REPLACE, "policy: replace on sight", f"The job's policy for {kind} capacitors ({PRACTICE}).",
                     "No reading would, only the policy: test and keep lets it be measured.", by_policy=True)  # fmt: skip


def _value(part: Part, m: Measured) -> Iterator[Reason]:
    if m.value is None:
        return
    low, high = part.limits
    ratio = m.value / part.nominal
    shown = f"{signed(100 * (ratio - 1), 0)} % of its value"
    span = f"{engineering(low, 'F')} to {engineering(high, 'F')}"
    rule = f"Limits {span}, the tolerance {'marked' if part.below is not None else 'usual for its make'}"
    if m.in_circuit:
        yield Reason(Action.CANNOT_TELL, "value read in circuit: lift one end", "What lies beside it adds to the reading.",
                     f"With one end lifted, {span}.")  # fmt: skip
    elif ratio > 2:
        yield Reason(Action.REPLACE, f"reads {trimmed(ratio, 2)} times its value: it leaks or is wet",
                     f"Over twice the marked value ({PRACTICE}).", f"A value of {span}.")  # fmt: skip
    elif compare(low, m.value, m.value_share) > 0:
        worse = part.role == "timing" or ratio < 0.7
        yield Reason(Action.REPLACE if worse else Action.WATCH, f"{shown}{_effect(part, ratio)}",
                     f"{rule}; under 70 % goes ({PRACTICE}).", f"A value of {span}.")  # fmt: skip
    elif compare(m.value, high, m.value_share) > 0:
        yield Reason(Action.REPLACE if part.role == "timing" else Action.WATCH, f"{shown}{_effect(part, ratio)}", f"{rule}.",
                     f"A value of {span}.")  # fmt: skip
    else:
        yield Reason(Action.KEEP, f"{engineering(m.value, 'F')}: inside", f"{rule}.", f"A value outside {span}.")


def _effect(part: Part, ratio: float) -> str:
    if part.role == "filter":
        return f": ripple {trimmed(1 / ratio, 2)} times"
    if part.role == "coupling" and part.grid_ohms:
        was = corner_hertz(part.nominal, part.grid_ohms)
        return f": low corner from {engineering(was, 'Hz', 2)} to {engineering(was / ratio, 'Hz', 2)}"
    return ""


def _loss(part: Part, m: Measured) -> Iterator[Reason]:
    limits = LOSSES.get(part.make)
    if m.dissipation is None:
        return
    if limits is None:
        yield Reason(Action.CANNOT_TELL, "say what it is made of", "The limit of D depends on the dielectric.",
                     "Electrolytic, paper, film, mica or ceramic.")  # fmt: skip
        return
    share = max(m.value_share, 0.02)
    shown = f"D {trimmed(m.dissipation, 3)}"
    spans = f"up to {limits.good:g} good, over {limits.bad:g} bad, near {limits.hertz:g} Hz"
    rule = f"{part.make.capitalize()}: {spans} ({PRACTICE})."
    if compare(m.dissipation, limits.bad, share) > 0:
        yield Reason(
            Action.REPLACE,
            f"{shown}: over {limits.bad:g}, it has dried out or is wet",
            rule,
            f"D under {limits.good:g}.",
        )
    elif compare(m.dissipation, limits.good, share) > 0:
        yield Reason(Action.WATCH, f"{shown}: over {limits.good:g}", rule, f"D under {limits.good:g}.")
    else:
        yield Reason(Action.KEEP, f"{shown}: good", rule, f"D over {limits.good:g}.")


def _leakage(part: Part, m: Measured, policy: Policy) -> Iterator[Reason]:
    leak, share = m.leakage or 0.0, m.leakage_share
    needed = ENOUGH * part.working_volts
    reached = not part.working_volts or m.leakage_volts >= needed
    if part.make in ("electrolytic", "tantalum"):
        found = _electrolytic(part, m, policy)
    else:
        found = _into_a_grid(part, m) if part.role == "coupling" and part.grid_ohms else _dry(m)
    if not reached and found.action in (Action.KEEP, Action.WATCH):
        yield Reason(Action.CANNOT_TELL, f"only at {trimmed(m.leakage_volts)} V: read it at {trimmed(part.working_volts)} V",
                     "A low voltage can call good what breaks down in use; the test must reach 80 % of it "
                     f"({PRACTICE}).", f"Leakage at {trimmed(needed)} V or more.")  # fmt: skip
    else:
        yield found
    if found.action is Action.CANNOT_TELL:  # it will fall yet: heat is judged when the leakage is
        return
    volts = part.working_volts or m.leakage_volts
    heat = leak * volts * (volts / m.leakage_volts if m.leakage_volts else 1.0)
    if compare(heat, HEAT_WATCH, share) > 0:
        hot = compare(heat, HEAT_BAD, share) > 0
        says = f"makes {engineering(heat, 'W', 2)} of heat at {trimmed(volts)} V"
        yield Reason(Action.REPLACE if hot else Action.WATCH, says,
                     f"Over {HEAT_BAD:g} W a can boils, over {HEAT_WATCH:g} W it ages ({PRACTICE}).",
                     f"Under {engineering(HEAT_WATCH / volts, 'A', 2)} at {trimmed(volts)} V.")  # fmt: skip


def _electrolytic(part: Part, m: Measured, policy: Policy) -> Reason:
    limit = leakage_limit(part.nominal, m.leakage_volts, policy.rule)
    says = f"limit {engineering(limit, 'A', 3)} at {trimmed(m.leakage_volts)} V"
    rule = f"{policy.rule}, C in µF, V in volts, µA ({PRACTICE})."
    side = compare(m.leakage or 0.0, limit, m.leakage_share)
    if side < 0:
        return Reason(Action.KEEP, f"{says}: under it", rule, "Leakage above it, or heat.")
    if side == 0:
        return Reason(Action.CANNOT_TELL, f"{says}: too near to tell", rule, "A longer dwell, or a better meter.")
    times = f"{trimmed((m.leakage or 0.0) / limit, 2)} times the limit of {engineering(limit, 'A', 3)}"
    if m.dwell_s < DWELL_S and not m.reformed:
        return Reason(Action.CANNOT_TELL, f"{times} after {trimmed(m.dwell_s)} s: read it after 2 to 5 min",
                      rule, "The same after 2 min: it falls while the oxide reforms.")  # fmt: skip
    if policy.electrolytics is Electrolytics.REFORM and not m.reformed:
        return Reason(
            Action.CANNOT_TELL, f"{times}: reform it, then judge", rule, "A reforming run that brings it under."
        )
    why = f", reforming: {m.reformed}" if m.reformed else ""
    return Reason(
        Action.REPLACE, f"{times}{why}", rule, "A policy that reforms." if not m.reformed else "No reading would."
    )


def _into_a_grid(part: Part, m: Measured) -> Reason:
    volts = part.working_volts or m.leakage_volts
    at_work = (m.leakage or 0.0) * (volts / m.leakage_volts if m.leakage_volts else 1.0)
    shift = grid_shift(at_work, part.grid_ohms)
    grid = engineering(part.grid_ohms, "ohm", 3)
    stays = engineering(GRID_GOOD / part.grid_ohms, "A", 2)
    rule = (f"I R = {engineering(at_work, 'A', 3)} × {grid} at {trimmed(volts)} V; up to {GRID_GOOD:g} V serves, over "
            f"{GRID_BAD:g} V the tube runs elsewhere ({PRACTICE}).")  # fmt: skip
    change = f"Under {stays} it could stay."
    if compare(shift, GRID_BAD, m.leakage_share) > 0:
        return Reason(Action.REPLACE, f"moves the grid {plain(shift, 1)} V in {grid}", rule, change)
    if compare(shift, GRID_GOOD, m.leakage_share) > 0:
        return Reason(Action.WATCH, f"moves the grid {plain(shift, 2)} V in {grid}", rule, change)
    return Reason(Action.KEEP, f"shift {plain(shift, 2)} V: under {GRID_GOOD:g} V", rule, f"Over {stays}.")


def _dry(m: Measured) -> Reason:
    leak = m.leakage or 0.0
    rule = f"Paper, film, mica, ceramic at voltage: about 1 µA good, several replace ({PRACTICE})."
    if compare(leak, BAD_LEAK, m.leakage_share) > 0:
        return Reason(Action.REPLACE, f"{engineering(leak, 'A', 3)}: several µA", rule, "About 1 µA.")
    if compare(leak, GOOD_LEAK, m.leakage_share) > 0:
        return Reason(Action.WATCH, f"{engineering(leak, 'A', 3)}: over 1 µA", rule, "1 µA or less.")
    return Reason(Action.KEEP, "1 µA or less: good", rule, "Over 1 µA.")


def _to_measure(part: Part, m: Measured) -> Reason:
    at = f" at {trimmed(part.working_volts)} V" if part.working_volts else " at its working voltage"
    rule = "ESR says nothing of leakage and leakage says nothing of ESR: each is measured."
    if part.make == "electrolytic" and (m.value is None or m.dissipation is None):
        missing = "value and ESR" if m.value is None else "ESR"
        return Reason(Action.CANNOT_TELL, f"measure {missing}, then leakage{at}", rule, "Those readings.")
    return Reason(Action.CANNOT_TELL, f"measure leakage{at}", rule, "That reading.")
