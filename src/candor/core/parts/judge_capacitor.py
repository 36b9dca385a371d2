"""The reasons that speak for keeping or replacing a capacitor. Limits without a source beside them are common practice."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from dataclasses import replace

from candor.core.finding import Figure, Finding
from candor.core.late_dataclass import dataclass
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
from candor.core.parts.mains import LINE_HIGH, TOUCH_AMPERES, WORSE, Mains, most_to_chassis
from candor.core.parts.part import Measured, Part, whose_tolerance
from candor.core.parts.policy import Electrolytics, Policy, Sight
from candor.core.parts.reasons import Action, Rank, Reason, compare, rank

GRID_GOOD, GRID_BAD = 0.1, 0.5  # V of grid shift
HEAT_WATCH, HEAT_BAD = 0.5, 1.0  # W in one capacitor
ENOUGH = 0.8  # of the working voltage: what a leakage test must reach to say anything
DWELL_S = 120.0  # before the leakage of an electrolytic is held against it
NEAR = 0.75  # of the frequency of a limit: from there on a reading is near it


def capacitor_reasons(part: Part, m: Measured, policy: Policy) -> Iterator[Reason]:
    """Yield every reason there is, in no order; at least one."""
    if part.mains:
        yield _mains(part, policy.mains)
    if m.state:
        yield Reason(
            action=Action.REPLACE,
            found="state",
            rule="state",
            change="none",
            figures={"state": m.state, "kind": part.kind},
        )
        return
    yield from _by_policy(part, policy)
    yield from _value(part, m)
    yield from _loss(part, m, policy)
    if m.simulated:  # practice acquits nothing and condemns nothing
        yield replace(_to_measure(part, replace(m, leakage=None, reformed="")), simulated=True)
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
        return part.leakage_limit * min(share, 1.0), "leakage.sheet"
    if part.make == "tantalum":
        return tantalum_limit(part.nominal, volts), "leakage.tantalum"
    whose = "leakage.period" if policy.rule is LeakageRule.PERIOD else "leakage.practice"
    return leakage_limit(part.nominal, volts, policy.rule, part.volts), whose


def heat_of(part: Part, m: Measured) -> float:
    """Return the heat leakage makes in a capacitor at its working voltage, W: V I, by definition; 0 where that is not known yet."""
    fallen = part.make not in ("electrolytic", "tantalum") or m.dwell_s >= DWELL_S or bool(m.reformed)
    if m.leakage is None or not fallen:
        return 0.0
    volts = part.working_volts or m.leakage_volts
    return m.leakage * volts * (volts / m.leakage_volts if m.leakage_volts else 1.0)


def _mains(part: Part, mains: Mains | None) -> Reason:
    if part.mains == "line to line":
        return Reason(action=Action.REPLACE, found="mains.across", rule="mains.across", change="mains")
    figures: dict[str, Figure] = {
        "most": most_to_chassis(mains),
        "amperes": TOUCH_AMPERES,
        "high": LINE_HIGH - 1,
        "line": Finding("line.known" if mains else "line.worse", {"line": (mains or WORSE).words}),
    }
    return Reason(action=Action.REPLACE, found="mains.chassis", rule="mains.chassis", change="mains", figures=figures)


def _by_policy(part: Part, policy: Policy) -> Iterator[Reason]:
    replaced = part.make == "electrolytic" and policy.electrolytics is Electrolytics.REPLACE
    if policy.sight is Sight.REPLACE and (part.make == "paper" or replaced):
        yield Reason(
            action=Action.REPLACE,
            found="policy",
            rule="policy.capacitor",
            change="policy.capacitor",
            figures={"make": part.make},
            by_policy=True,
        )


def _value(part: Part, m: Measured) -> Iterator[Reason]:
    if m.value is None:
        return
    low, high = part.limits
    ratio, share = m.value / part.nominal, m.value_share
    figures: dict[str, Figure] = {
        "value": m.value, "unit": part.unit, "low": low, "high": high, "ratio": ratio, "off": ratio - 1,
        "whose": whose_tolerance(part), "effect": _effect(part, ratio),
    }  # fmt: skip
    above = compare(m.value, high, share) > 0
    if m.in_circuit:
        yield Reason(
            action=Action.CANNOT_TELL,
            found="value.connected",
            rule="value.connected",
            change="value.lifted",
            figures=figures,
        )
    elif ratio > 2:
        yield Reason(
            action=Action.REPLACE, found="value.twice", rule="value.twice", change="value.inside", figures=figures
        )
    elif 0 in (compare(low, m.value, share), compare(m.value, high, share)):
        yield Reason(action=Action.CANNOT_TELL, found="value.near", rule="value", change="meter", figures=figures)
    elif compare(low, m.value, share) > 0:
        # Electrolytics fall before they fail: 70 % of the marked value is where a filter begins to hum.
        worse = part.role == "timing" or ratio < 0.7
        action = Action.REPLACE if worse else Action.WATCH
        yield Reason(action=action, found="value.off", rule="value.low", change="value.inside", figures=figures)
    elif above and part.make == "electrolytic" and m.leakage is None:
        yield Reason(
            action=Action.CANNOT_TELL,
            found="value.leak",
            rule="value.leak",
            change="leakage.working",
            figures=figures,
        )
    elif above:
        action = Action.REPLACE if part.role == "timing" else Action.WATCH
        yield Reason(action=action, found="value.off", rule="value", change="value.inside", figures=figures)
    else:
        yield Reason(action=Action.KEEP, found="value.good", rule="value", change="value.outside", figures=figures)


def _effect(part: Part, ratio: float) -> Finding | str:
    if part.role == "filter":
        return Finding("effect.ripple", {"times": 1 / ratio})
    if part.role == "coupling" and part.grid_ohms:
        was = corner_hertz(part.nominal, part.grid_ohms)
        return Finding("effect.corner", {"was": was, "now": was / ratio})
    return ""


def _loss(part: Part, m: Measured, policy: Policy) -> Iterator[Reason]:
    limits = LOSSES.get(part.make)
    if m.dissipation is None:
        return
    if limits is None:
        yield Reason(action=Action.CANNOT_TELL, found="loss.make", rule="loss.make", change="loss.make")
        return
    span = loss_of(part, m, limits.hertz)
    # No bridge in a workshop reads D better than to two in a hundred of it.
    share = max(m.value_share, 0.02)
    at_low, at_high = (rank(d, limits.good, limits.bad, share) for d in (span.low, span.high))
    figures: dict[str, Figure] = {
        "make": part.make, "loss": span.found, "good": limits.good, "bad": limits.bad, "hertz": limits.hertz,
        "read": _read_at(m, span), "asked": "ESR" if m.esr is not None else "D",
    }  # fmt: skip
    if at_low == "bad":
        yield Reason(action=Action.REPLACE, found="loss.bad", rule="loss", change="loss.under", figures=figures)
    elif at_high == "good":
        yield Reason(action=Action.KEEP, found="loss.good", rule="loss", change="loss.over", figures=figures)
    elif at_low == at_high == "watch":
        yield Reason(action=Action.WATCH, found="loss.watch", rule="loss", change="loss.under", figures=figures)
    elif math.isinf(span.high) and is_sound_filter(part, m, policy):
        yield Reason(action=Action.KEEP, found="loss.sound", rule="loss.sound", change="loss.read", figures=figures)
    elif at_low != at_high:
        yield Reason(action=Action.CANNOT_TELL, found="loss.read", rule="loss", change="loss.under", figures=figures)
    else:
        near = {"near": limits.bad if at_low == "near bad" else limits.good}
        yield Reason(
            action=Action.CANNOT_TELL, found="loss.near", rule="loss", change="loss.meter", figures=figures | near
        )


@dataclass(frozen=True)
class LossSpan:
    """Between what D lies at a frequency, a ratio: `high` is infinite where it was read higher up, or nobody said where."""

    low: float
    high: float

    @property
    def found(self) -> Finding:
        """Which of the four it is: from a value on, a value, up to a value, between two."""
        which = "at least" if math.isinf(self.high) else "is" if self.low == self.high else "between"
        which = which if self.low or which != "between" else "at most"
        return Finding(f"loss.{which}", {"low": self.low, "high": self.high})


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


def _read_at(m: Measured, span: LossSpan) -> Finding | str:
    """What a reading at another frequency than the limit's can say: higher up only condemn, lower down only acquit."""
    if span.low and not math.isinf(span.high):
        return ""
    if not m.hertz:
        return Finding("loss.anywhere")
    return Finding("loss.higher" if math.isinf(span.high) else "loss.lower", {"hertz": m.hertz})


def _leakage(part: Part, m: Measured, policy: Policy) -> Iterator[Reason]:
    share, working = m.leakage_share, part.working_volts
    reached = not working or m.leakage_volts >= ENOUGH * working
    if part.make in ("electrolytic", "tantalum") or part.leakage_limit:
        found = _electrolytic(part, m, policy)
    else:
        found = _into_a_grid(part, m) if part.role == "coupling" and part.grid_ohms else _dry(part, m)
    if not reached and found.action in (Action.KEEP, Action.WATCH):
        figures = {"volts": m.leakage_volts, "working": working, "needed": ENOUGH * working, "enough": ENOUGH}
        yield Reason(
            action=Action.CANNOT_TELL,
            found="leakage.low volts",
            rule="leakage.low volts",
            change="leakage.needed",
            figures=figures,
        )
    else:
        yield found
    heat, volts = heat_of(part, m), working or m.leakage_volts
    if compare(heat, HEAT_WATCH, share) > 0:
        hot = compare(heat, HEAT_BAD, share) > 0
        figures = {"heat": heat, "volts": volts, "bad": HEAT_BAD, "watch": HEAT_WATCH, "amperes": HEAT_WATCH / volts}
        yield Reason(
            action=Action.REPLACE if hot else Action.WATCH, found="heat", rule="heat", change="heat", figures=figures
        )


def _electrolytic(part: Part, m: Measured, policy: Policy) -> Reason:
    leak = m.leakage or 0.0
    limit, whose = _limit(part, m.leakage_volts, policy)
    figures: dict[str, Figure] = {
        "limit": limit, "volts": m.leakage_volts, "times": leak / limit, "dwell": m.dwell_s, "ref": part.ref,
        "rule": policy.rule.words, "reformed": Finding("reforming", {"how": m.reformed}) if m.reformed else "",
    }  # fmt: skip
    side = compare(leak, limit, m.leakage_share)
    if side < 0:
        return Reason(action=Action.KEEP, found="leakage.good", rule=whose, change="leakage.above", figures=figures)
    if side == 0:
        return Reason(
            action=Action.CANNOT_TELL, found="leakage.near", rule=whose, change="leakage.meter", figures=figures
        )
    if m.dwell_s < DWELL_S and not m.reformed:
        return Reason(
            action=Action.CANNOT_TELL, found="leakage.early", rule=whose, change="leakage.early", figures=figures
        )
    if policy.electrolytics is Electrolytics.REFORM and not m.reformed:
        return Reason(
            action=Action.CANNOT_TELL, found="leakage.reform", rule=whose, change="leakage.reform", figures=figures
        )
    return Reason(
        action=Action.REPLACE,
        found="leakage.over",
        rule=whose,
        change="none" if m.reformed else "leakage.policy",
        figures=figures,
    )


def _into_a_grid(part: Part, m: Measured) -> Reason:
    volts = part.working_volts or m.leakage_volts
    at_work = (m.leakage or 0.0) * (volts / m.leakage_volts if m.leakage_volts else 1.0)
    shift = grid_shift(at_work, part.grid_ohms)
    figures: dict[str, Figure] = {
        "shift": shift, "ohms": part.grid_ohms, "leak": at_work, "volts": volts, "good": GRID_GOOD, "bad": GRID_BAD,
        "stays": GRID_GOOD / part.grid_ohms,
    }  # fmt: skip
    return _by_rank("grid", rank(shift, GRID_GOOD, GRID_BAD, m.leakage_share), figures)


def _by_rank(topic: str, place: Rank, figures: Mapping[str, Figure]) -> Reason:
    """Return the reason for where a figure lies among its limits."""
    action = {"bad": Action.REPLACE, "watch": Action.WATCH, "good": Action.KEEP}.get(place, Action.CANNOT_TELL)
    changes = {Action.CANNOT_TELL: "leakage.meter", Action.KEEP: f"{topic}.over"}
    return Reason(
        action=action,
        found=f"{topic}.{place}",
        rule=topic,
        change=changes.get(action, f"{topic}.under"),
        figures=figures,
    )


def _dry(part: Part, m: Measured) -> Reason:
    """Where its circuit does not say what a leak does: by insulation resistance times capacitance."""
    limits = INSULATION.get(part.make)
    leak = m.leakage or 0.0
    if limits is None:
        good = INSULATION["film"][0]
        stays = insulation_limit(part.nominal, m.leakage_volts, good)
        if compare(leak, stays, m.leakage_share) < 0:
            return Reason(
                action=Action.KEEP,
                found="insulation.any",
                rule="practice",
                change="leakage.above",
                figures={"good": good},
            )
        return Reason(
            action=Action.CANNOT_TELL, found="insulation.make", rule="insulation.make", change="insulation.make"
        )
    good, bad = limits
    at_good, at_bad = (insulation_limit(part.nominal, m.leakage_volts, product) for product in limits)
    small = Finding("insulation.small", {"farads": SMALLEST_JUDGED}) if part.nominal < SMALLEST_JUDGED else ""
    product = (
        Finding("insulation.product", {"seconds": good * at_good / leak}) if leak else Finding("insulation.none")
    )
    figures: dict[str, Figure] = {
        "product": product, "good": good, "bad": bad, "make": part.make, "small": small, "serves": at_good,
        "volts": m.leakage_volts,
    }  # fmt: skip
    return _by_rank("insulation", rank(leak, at_good, at_bad, m.leakage_share), figures)


def _to_measure(part: Part, m: Measured) -> Reason:
    missing = "value and ESR" if m.value is None else "ESR"
    to_read = part.make == "electrolytic" and (m.value is None or m.dissipation is None)
    at = Finding("at.volts", {"volts": part.working_volts}) if part.working_volts else Finding("at.working")
    which = "measure.first" if to_read else "measure.leakage"
    return Reason(
        action=Action.CANNOT_TELL, found=which, rule="measure", change=which, figures={"missing": missing, "at": at}
    )
