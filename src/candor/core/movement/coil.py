"""What a movement is by measurement: its resistance by half deflection, its balance from where the needle lies."""

from __future__ import annotations

import math
from collections.abc import Mapping

from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.quantities import engineering
from candor.core.worded import worded

BALANCED = 0.5  # of a division between positions: common practice, no source
POSITIONS = ("lying", "standing", "left", "right")


@dataclass(frozen=True)
class CoilResistance:
    """The resistance of a movement, ohm, with its standard uncertainty, and what the short formula would have said."""

    ohms: float
    standard_uncertainty: float
    short_formula: float


def half_deflection(
    series_ohms: float, across_ohms: float, series_u: float = 0.0, across_u: float = 0.0
) -> CoilResistance:
    """Return a movement's resistance by half deflection: R_m = R1 R2/(R1 - R2), the source's volts unchanged (Ohm's law).

    Parameters
    ----------
    series_ohms : float
        R1, in series at full scale, ohm.
    across_ohms : float
        R2, across the movement with the same R1 at half scale, ohm. R2 alone is the movement only where R1 has no end.
    series_u, across_u : float
        Their standard uncertainties, ohm; the two are independent.

    Raises
    ------
    RangeError
        Where they cannot be: R1 must be the larger, both above zero.
    """
    if not (0 < across_ohms < series_ohms and math.isfinite(series_ohms)):
        raise RangeError(
            worded(
                "movement.r_in_series_and_r_across",
                series_ohms=engineering(series_ohms, "ohm"),
                across_ohms=engineering(across_ohms, "ohm"),
            ),
            value=f"{series_ohms:g}, {across_ohms:g}",
            expected="R1 > R2 > 0",
        )
    gap = series_ohms - across_ohms
    by_series, by_across = -((across_ohms / gap) ** 2), (series_ohms / gap) ** 2
    return CoilResistance(
        ohms=series_ohms * across_ohms / gap,
        standard_uncertainty=math.hypot(by_series * series_u, by_across * across_u),
        short_formula=across_ohms,
    )


def sensitivity_of(terminal_ohms: Mapping[float, float]) -> tuple[float, float]:
    """Return ohm per volt and the full-scale current, A, of a voltmeter from the resistance at its terminals by range (Ohm's law).

    Parameters
    ----------
    terminal_ohms : mapping of float to float
        Range, V: resistance, ohm. The mean of what each range says.

    Raises
    ------
    RangeError
        Where there is no range, or one of nothing.
    """
    if not terminal_ohms or min((*terminal_ohms, *terminal_ohms.values())) <= 0:
        raise RangeError(
            worded("movement.the_sensitivity_needs_ranges_and_resistances"), value=str(dict(terminal_ohms))
        )
    per_volt = sum(ohms / volts for volts, ohms in terminal_ohms.items()) / len(terminal_ohms)
    return per_volt, 1 / per_volt


def say_balance(zeros: Mapping[str, float]) -> str:
    """Say what the zero in several positions tells: "lying", "standing", "left", "right", each in divisions from the mark.

    Lying, weight does not turn the coil: what is off there is the zero screw. Standing it turns it by what is out of balance across
    the needle, on its sides by what is along it (common practice, no source).

    Raises
    ------
    RangeError
        Where lying is not among them, or a position is none.
    """
    unknown = [name for name in zeros if name not in POSITIONS]
    if unknown or "lying" not in zeros:
        raise RangeError(
            worded(
                "movement.the_balance_needs_the_zero_lying",
                listed=", ".join(POSITIONS[1:]),
                listed_2=", ".join(zeros) or "none",
            ),
            value=", ".join(zeros),
        )
    flat = zeros["lying"]
    moved = {name: zeros[name] - flat for name in POSITIONS[1:] if name in zeros}
    words = worded("movement.lying_the_zero_is_off_by", flat=flat) if abs(flat) > BALANCED / 2 else ""
    if not moved:
        return worded("movement.stand_it_up_only_then_balance", words=words)
    name, worst = max(moved.items(), key=lambda pair: abs(pair[1]))
    if abs(worst) <= BALANCED:
        return worded("movement.in_balance_at_most_division_between", words=words, worst=abs(worst))
    heavy = "across the needle" if name == "standing" else "along the needle"
    return worded("movement.out_of_balance_division_the_weights", words=words, heavy=heavy, worst=worst, name=name)
