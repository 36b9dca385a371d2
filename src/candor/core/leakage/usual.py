"""A leakage run as it is usually done, as its fields say it, and what must be said before it begins."""

from __future__ import annotations

from collections.abc import Mapping

from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.leakage.leakage_run import Plan
from candor.core.parts.part import Part
from candor.core.quantities import parse_quantity
from candor.core.quantities.show import in_unit, trimmed
from candor.core.worded import worded

TESTER_MOST_VOLTS = 1000.0  # common practice, no source: no capacitor tester for the bench gives more


@dataclass(frozen=True)
class UsualRun:
    """What a run on a part usually is: V, s and s (common practice, no source)."""

    target_volts: float
    dwell_s: float
    most_s: float


def usual_run(part: Part, reform: bool) -> UsualRun:
    """Return what a run on a part usually is.

    An electrolytic's leakage is read after five minutes, as makers state it; others settle within one. Reforming takes hours.
    """
    dwell = 300.0 if part.make == "electrolytic" else 60.0
    return UsualRun(part.working_volts or 50.0, dwell, 7200.0 if reform else 1800.0)


def read_plan(text: Mapping[str, str], part: Part, safe_volts: float, reform: bool) -> Plan:
    """Return the run as its fields say it.

    Parameters
    ----------
    text : mapping of str to str
        ``target`` (V), ``limit`` (A), ``dwell`` and ``most`` (s), as people write them.
    part : Part
    safe_volts : float
        V, of the policy.
    reform : bool

    Raises
    ------
    CandorError
        Where a field cannot be read, or the plan cannot be.
    """
    return Plan(
        target_volts=parse_quantity(text["target"], "V").value,
        capacitance=part.nominal,
        limit_amperes=parse_quantity(text["limit"], "A").value,
        dwell_s=parse_quantity(text["dwell"], "s").value,
        most_s=parse_quantity(text["most"], "s").value,
        reform=reform,
        safe_volts=safe_volts,
    )


def may_run(plan: Plan, part: Part, reason: str = "") -> None:
    """See that a run may be begun: nothing over the rating of its part without a written reason, nothing over what a tester gives.

    Raises
    ------
    RangeError
        Saying what bars it.
    """
    if plan.target_volts > TESTER_MOST_VOLTS:
        raise RangeError(
            worded(
                "leakage.v_is_more_than_any_capacitor",
                target_volts=trimmed(plan.target_volts),
                tester_most_volts=trimmed(TESTER_MOST_VOLTS),
            ),
            value=in_unit(plan.target_volts, "V", 6),
            expected=worded("leakage.at_most_v_2", tester_most_volts=TESTER_MOST_VOLTS),
        )
    over = over_rating(plan.target_volts, part)
    if over and not reason.strip():
        raise RangeError(
            worded("leakage.write_why_it_must_be_so", over=over, volts=trimmed(part.volts)),
            value=in_unit(plan.target_volts, "V", 6),
            expected=worded("leakage.at_most_v", volts=part.volts),
        )


def over_rating(volts: float, part: Part) -> str:
    """Say that a voltage is above the rating of a part, V; nothing where it is not, or where there is none."""
    if not 0 < part.volts < volts:
        return ""
    return worded("leakage.v_is_above_its_rating_of", volts=trimmed(volts), volts_2=trimmed(part.volts))


def caution_before(volts: float, part: Part, safe_volts: float) -> str:
    """Return what must be said before so many V are put on a part; nothing where they are safe."""
    words = [over_rating(volts, part)]
    if volts > safe_volts:
        words.append(worded("leakage.up_to_v_on_the_clips", volts=trimmed(volts)))
    return " ".join(filter(None, words))
