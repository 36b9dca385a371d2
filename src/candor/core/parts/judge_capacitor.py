"""The reasons that speak for keeping or replacing a capacitor."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace

from candor.core.leakage.capacitor import (
    INSULATION,
    LOSSES,
    SMALLEST_JUDGED,
    LeakageRule,
    corner_hertz,
    dissipation_from_esr,
    grid_shift,
    insulation_limit,
    leakage_limit,
    loss_at,
    tantalum_limit,
)
from candor.core.parts.mains import LINE_HIGH, TOUCH_AMPERES, Mains, most_to_chassis
from candor.core.parts.part import Measured, Part
from candor.core.parts.policy import Electrolytics, Policy, Sight
from candor.core.parts.reasons import PRACTICE, Action, Rank, Reason, compare, rank
from candor.core.quantities import engineering
from candor.core.quantities.show import plain, signed, trimmed

GRID_GOOD, GRID_BAD = 0.1, 0.5  # V of grid shift
HEAT_WATCH, HEAT_BAD = 0.5, 1.0  # W in one capacitor
ENOUGH = 0.8  # of the working voltage: what a leakage test must reach to say anything
DWELL_S = 120.0  # before the leakage of an electrolytic is held against it
NEAR = 0.75  # of the frequency of a limit: from there on a reading is near it
TOO_NEAR = "A longer dwell, or a better meter."


def capacitor_reasons(part: Part, m: Measured, policy: Policy) -> Iterator[Reason]:
    """Yield every reason there is, in no order; at least one."""
    if part.mains:
        yield _mains(part, policy.mains)
    if m.state:
        yield Reason(
            Action.REPLACE,
            f"replace: it is {m.state}",
            f"A capacitor that is {m.state} is none.",
            "No reading would change this.",
        )
        return
    yield from _by_policy(part, policy)
    yield from _value(part, m)
    yield from _loss(part, m, policy)
    if m.simulated:  # practice acquits nothing and condemns nothing
        asked = _to_measure(part, replace(m, leakage=None, reformed=""))
        yield replace(asked, says=f"{asked.says}: what was read is of the simulated tester, no evidence")
    elif m.leakage is not None:
        yield from _leakage(part, m, policy)
    else:
        yield _to_measure(part, m)


def run_limit(part: Part, volts: float, policy: Policy) -> float:
    """Return the leakage limit of a run at `volts`, A: of its sheet or the job's rule, of what its grid stands, or by R x C
    (common practice, no source).

    Raises
    ------
    RangeError
        Where the voltage is not above zero.
    """
    if part.make in ("electrolytic", "tantalum") or part.leakage_limit:
        return _limit(part, volts, policy)[0]
    if part.role == "coupling" and part.grid_ohms:
        return GRID_GOOD / part.grid_ohms * (volts / part.working_volts if part.working_volts else 1.0)
    return insulation_limit(part.nominal, volts, INSULATION.get(part.make, INSULATION["film"])[0])


def _limit(part: Part, volts: float, policy: Policy) -> tuple[float, str]:
    """Return the limit of leakage at `volts`, A, and whose it is."""
    if part.leakage_limit:
        share = volts / part.volts if part.volts else 1.0
        return part.leakage_limit * min(share, 1.0), f"By the sheet of {part.ref}."
    if part.make == "tantalum":
        return tantalum_limit(part.nominal, volts), "Tantalum: the greater of 0.01 CV and 0.5 µA (from memory)."
    limit = leakage_limit(part.nominal, volts, policy.rule, part.volts)
    source = "from memory" if policy.rule is LeakageRule.PERIOD else PRACTICE
    return limit, f"{policy.rule.words}, C in µF, V in volts, µA ({source})."


def heat_of(part: Part, m: Measured) -> float:
    """Return the heat leakage makes in a capacitor at its working voltage, W: V I, by definition; 0 where that is not known yet."""
    fallen = part.make not in ("electrolytic", "tantalum") or m.dwell_s >= DWELL_S or bool(m.reformed)
    if m.leakage is None or not fallen:
        return 0.0
    volts = part.working_volts or m.leakage_volts
    return m.leakage * volts * (volts / m.leakage_volts if m.leakage_volts else 1.0)


def _mains(part: Part, mains: Mains | None) -> Reason:
    if part.mains == "line to chassis":
        most, said = most_to_chassis(mains)
        says = f"safety part: class Y, {engineering(most, 'F', 2)} at most"
        rule = (
            f"Fails to a live chassis. Class Y, IEC 60384-14; {1000 * TOUCH_AMPERES:g} mA through a person (IEC 61010-1, from "
            f"memory), I = 2π f C V at {said}, and {100 * (LINE_HIGH - 1):.0f} % more."
        )
    else:
        says, rule = "safety part: class X2", "It fails across the mains. Class X, IEC 60384-14."
    return Reason(
        Action.REPLACE,
        says,
        f"{rule} Local codes come first.",
        "No reading would change this: only a safety-class capacitor may stay.",
    )


def _by_policy(part: Part, policy: Policy) -> Iterator[Reason]:
    on_sight = policy.sight is Sight.REPLACE
    if on_sight and (
        part.make == "paper" or (part.make == "electrolytic" and policy.electrolytics is Electrolytics.REPLACE)
    ):
        kind = "paper" if part.make == "paper" else "electrolytic"
        yield Reason(Action.REPLACE, "policy: replace on sight", f"The job's policy for {kind} capacitors ({PRACTICE}).",
                     "The policy decides this, not a reading. Choose “test and keep” to test it instead.",
                     by_policy=True)  # fmt: skip


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
    elif 0 in (compare(low, m.value, m.value_share), compare(m.value, high, m.value_share)):
        yield Reason(
            Action.CANNOT_TELL,
            f"{shown}: too near its limit to tell",
            f"{rule}.",
            "A better meter, or another reading.",
        )
    elif compare(low, m.value, m.value_share) > 0:
        # Electrolytics fall before they fail: 70 % of the marked value is where a filter begins to hum.
        worse = part.role == "timing" or ratio < 0.7
        yield Reason(Action.REPLACE if worse else Action.WATCH, f"{shown}{_effect(part, ratio)}",
                     f"{rule}; under 70 % goes ({PRACTICE}).", f"A value of {span}.")  # fmt: skip
    elif compare(m.value, high, m.value_share) > 0 and part.make == "electrolytic" and m.leakage is None:
        looks = f"{rule}. Leakage can look like capacitance to a meter ({PRACTICE})."
        yield Reason(
            Action.CANNOT_TELL, f"{shown}: measure its leakage first", looks, "Leakage at its working voltage."
        )
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


def _loss(part: Part, m: Measured, policy: Policy) -> Iterator[Reason]:
    limits = LOSSES.get(part.make)
    if m.dissipation is None:
        return
    if limits is None:
        yield Reason(Action.CANNOT_TELL, "say what it is made of", "The limit of D depends on the dielectric.",
                     "Electrolytic, paper, film, mica or ceramic.")  # fmt: skip
        return
    span = loss_of(part, m, limits.hertz)
    spans = f"up to {limits.good:g} good, over {limits.bad:g} bad, at {limits.hertz:g} Hz"
    rule = f"{part.make.capitalize()}: {spans} ({PRACTICE}).{_read_at(m, span)}"
    good = f"D under {limits.good:g} at {limits.hertz:g} Hz."
    # No bridge in a workshop reads D better than to two in a hundred of it.
    share = max(m.value_share, 0.02)
    at_low, at_high = (rank(d, limits.good, limits.bad, share) for d in (span.low, span.high))
    shown = span.words
    if at_low == "bad":
        yield Reason(Action.REPLACE, f"{shown}: over {limits.bad:g}, it has dried out or is wet", rule, good)
    elif at_high == "good":
        yield Reason(Action.KEEP, f"{shown}: good", rule, f"D over {limits.good:g}.")
    elif at_low == at_high == "watch":
        yield Reason(Action.WATCH, f"{shown}: over {limits.good:g}", rule, good)
    elif math.isinf(span.high) and is_sound_filter(part, m, policy):
        inside = f"{rule} Value, leakage at its volts and {shown} are inside."
        says = f"sound as a filter; loss at {limits.hertz:g} Hz not measured"
        yield Reason(Action.KEEP, says, inside, f"D read near {limits.hertz:g} Hz.")
    elif at_low != at_high:
        asked = "ESR" if m.esr is not None else "D"
        yield Reason(Action.CANNOT_TELL, f"{shown}: read {asked} near {limits.hertz:g} Hz", rule, good)
    else:
        near = limits.bad if at_low == "near bad" else limits.good
        yield Reason(Action.CANNOT_TELL, f"{shown}: too near {near:g} to tell", rule, f"A better meter. {good}")


@dataclass(frozen=True)
class LossSpan:
    """Between what D lies at a frequency, a ratio: `high` is infinite where it was read higher up, or nobody said where."""

    low: float
    high: float

    @property
    def words(self) -> str:
        """``D 0.12``, ``D at least 0.12``, ``D at most 0.12``, ``D 0.10 to 0.12``."""
        if math.isinf(self.high):
            return f"D at least {trimmed(self.low, 3)}"
        if self.low == self.high:
            return f"D {trimmed(self.low, 3)}"
        return (
            f"D {trimmed(self.low, 3)} to {trimmed(self.high, 3)}"
            if self.low
            else f"D at most {trimmed(self.high, 3)}"
        )


def loss_of(part: Part, m: Measured, hertz: float) -> LossSpan:
    """Return between what D lies at `hertz` (Hz) by what was read, ESR or D.

    Losses lie between a dissipation that stays (the dielectric's) and a resistance that stays (leads, dried electrolyte): read at
    100 Hz, D at 120 Hz is D to 1.2 D. Read much higher up it is only at least that, read much lower only at most. By definition of
    D = ω C ESR of both.
    """
    farads = m.value if m.value is not None and not m.in_circuit else part.nominal
    at = m.hertz or hertz
    read = m.dissipation or 0.0 if m.esr is None else dissipation_from_esr(farads, m.esr, at)
    moved, bound = loss_at(hertz, read, m.hertz)
    if m.hertz and NEAR <= m.hertz / hertz <= 1 / NEAR:
        return LossSpan(min(read, moved), max(read, moved))
    if bound == "at most":
        return LossSpan(0.0, max(read, moved))
    return LossSpan(moved, math.inf) if bound else LossSpan(moved, moved)


def is_sound_filter(part: Part, m: Measured, policy: Policy) -> bool:
    """Whether an electrolytic is sound as a filter though its loss at mains frequency was not measured: its value is inside, its
    leakage at its working volts is under its limit, and what is known of D condemns nothing (common practice, no source)."""
    limits = LOSSES.get(part.make)
    if (
        limits is None
        or part.make != "electrolytic"
        or m.value is None
        or m.in_circuit
        or m.leakage is None
        or m.simulated
    ):
        return False
    low, high = part.limits
    inside = compare(low, m.value, m.value_share) < 0 and compare(m.value, high, m.value_share) < 0
    reached = part.working_volts > 0 and m.leakage_volts >= ENOUGH * part.working_volts
    span = loss_of(part, m, limits.hertz)
    tight = _electrolytic(part, m, policy).action is Action.KEEP
    return (
        inside and reached and tight and rank(span.low, limits.good, limits.bad, max(m.value_share, 0.02)) == "good"
    )


def _read_at(m: Measured, span: LossSpan) -> str:
    if span.low and not math.isinf(span.high):
        return ""
    at = f"{engineering(m.hertz, 'Hz')}" if m.hertz else "a frequency nobody said"
    can = "condemn, never acquit" if math.isinf(span.high) else "acquit, never condemn"
    return f" Read at {at}: ESR falls with frequency, so it may {can}."


def _leakage(part: Part, m: Measured, policy: Policy) -> Iterator[Reason]:
    share = m.leakage_share
    needed = ENOUGH * part.working_volts
    reached = not part.working_volts or m.leakage_volts >= needed
    if part.make in ("electrolytic", "tantalum") or part.leakage_limit:
        found = _electrolytic(part, m, policy)
    else:
        found = _into_a_grid(part, m) if part.role == "coupling" and part.grid_ohms else _dry(part, m)
    if not reached and found.action in (Action.KEEP, Action.WATCH):
        yield Reason(Action.CANNOT_TELL, f"only at {trimmed(m.leakage_volts)} V: read it at {trimmed(part.working_volts)} V",
                     "A low voltage can call good what breaks down in use; the test must reach 80 % of it "
                     f"({PRACTICE}).", f"Leakage at {trimmed(needed)} V or more.")  # fmt: skip
    else:
        yield found
    heat, volts = heat_of(part, m), part.working_volts or m.leakage_volts
    if compare(heat, HEAT_WATCH, share) > 0:
        hot = compare(heat, HEAT_BAD, share) > 0
        says = f"makes {engineering(heat, 'W', 2)} of heat at {trimmed(volts)} V"
        yield Reason(Action.REPLACE if hot else Action.WATCH, says,
                     f"Over {HEAT_BAD:g} W a can boils, over {HEAT_WATCH:g} W it ages ({PRACTICE}).",
                     f"Under {engineering(HEAT_WATCH / volts, 'A', 2)} at {trimmed(volts)} V.")  # fmt: skip


def _electrolytic(part: Part, m: Measured, policy: Policy) -> Reason:
    limit, rule = _limit(part, m.leakage_volts, policy)
    says = f"limit {engineering(limit, 'A', 3)} at {trimmed(m.leakage_volts)} V"
    side = compare(m.leakage or 0.0, limit, m.leakage_share)
    if side < 0:
        return Reason(Action.KEEP, f"{says}: under it", rule, "Leakage above it, or heat.")
    if side == 0:
        return Reason(Action.CANNOT_TELL, f"{says}: too near to tell", rule, TOO_NEAR)
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
        Action.REPLACE,
        f"{times}{why}",
        rule,
        "A policy that reforms." if not m.reformed else "No reading would change this.",
    )


def _into_a_grid(part: Part, m: Measured) -> Reason:
    volts = part.working_volts or m.leakage_volts
    at_work = (m.leakage or 0.0) * (volts / m.leakage_volts if m.leakage_volts else 1.0)
    shift = grid_shift(at_work, part.grid_ohms)
    grid = engineering(part.grid_ohms, "ohm", 3)
    stays = engineering(GRID_GOOD / part.grid_ohms, "A", 2)
    rule = (f"I R = {engineering(at_work, 'A', 3)} × {grid} at {trimmed(volts)} V; up to {GRID_GOOD:g} V serves, over "
            f"{GRID_BAD:g} V the operating point shifts ({PRACTICE}).")  # fmt: skip
    change = f"Under {stays} it could stay."
    moves = f"moves the grid {plain(shift, 2)} V"
    says: dict[Rank, str] = {
        "bad": f"moves the grid {plain(shift, 1)} V in {grid}",
        "watch": f"{moves} in {grid}",
        "good": f"shift {plain(shift, 2)} V: under {GRID_GOOD:g} V",
        "near bad": f"{moves}: too near {GRID_BAD:g} V to tell",
        "near good": f"{moves}: too near {GRID_GOOD:g} V to tell",
    }
    return _by_rank(
        place=rank(shift, GRID_GOOD, GRID_BAD, m.leakage_share),
        says=says,
        rule=rule,
        lower=change,
        higher=f"Over {stays}.",
    )


def _by_rank(place: Rank, says: Mapping[Rank, str], rule: str, lower: str, higher: str) -> Reason:
    """Return the reason for where a figure lies among its limits; `lower` and `higher` are what would change it."""
    action = {"bad": Action.REPLACE, "watch": Action.WATCH, "good": Action.KEEP}.get(place, Action.CANNOT_TELL)
    change = TOO_NEAR if action is Action.CANNOT_TELL else higher if action is Action.KEEP else lower
    return Reason(action, says[place], rule, change)


def _dry(part: Part, m: Measured) -> Reason:
    """Where its circuit does not say what a leak does: by insulation resistance times capacitance."""
    limits = INSULATION.get(part.make)
    leak = m.leakage or 0.0
    if limits is None:
        good = INSULATION["film"][0]
        stays = insulation_limit(part.nominal, m.leakage_volts, good)
        if compare(leak, stays, m.leakage_share) < 0:
            return Reason(
                Action.KEEP, f"over {good:g} MΩ·µF: good whatever it is made of", f"{PRACTICE.capitalize()}.", ""
            )
        return Reason(Action.CANNOT_TELL, "say what it is made of", "The limit of R × C depends on the dielectric.",
                      "Paper, film, mica or ceramic.")  # fmt: skip
    good, bad = limits
    at_good, at_bad = (insulation_limit(part.nominal, m.leakage_volts, product) for product in limits)
    product = f"{trimmed(good * at_good / leak, 2)} MΩ·µF" if leak else "no leak to be seen"
    small = f", judged as {engineering(SMALLEST_JUDGED, 'F')}" if part.nominal < SMALLEST_JUDGED else ""
    rule = f"R × C: {part.make} serves from about {good:g} MΩ·µF, under {bad:g} it goes{small} ({PRACTICE}, from memory)."
    serves, at = engineering(at_good, "A", 2), f"at {trimmed(m.leakage_volts)} V"
    says: dict[Rank, str] = {
        "bad": f"{product}: poor",
        "watch": f"{product}: under {good:g}",
        "good": f"{product}: good",
        "near bad": f"{product}: too near {bad:g} to tell",
        "near good": f"{product}: too near {good:g} to tell",
    }
    place = rank(leak, at_good, at_bad, m.leakage_share)
    return _by_rank(place=place, says=says, rule=rule, lower=f"{serves} or less {at}.", higher=f"Over {serves} {at}.")


def _to_measure(part: Part, m: Measured) -> Reason:
    at = f" at {trimmed(part.working_volts)} V" if part.working_volts else " at its working voltage"
    rule = "ESR says nothing of leakage and leakage says nothing of ESR: each is measured."
    if part.make == "electrolytic" and (m.value is None or m.dissipation is None):
        missing = "value and ESR" if m.value is None else "ESR"
        return Reason(Action.CANNOT_TELL, f"measure {missing}, then leakage{at}", rule, "Those readings.")
    return Reason(Action.CANNOT_TELL, f"measure leakage{at}", rule, "That reading.")
