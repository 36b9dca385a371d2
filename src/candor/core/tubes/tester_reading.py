"""One reading of a tube on a tester: what a dash of each control, line and scale are worth; per cent of nominal; a verdict."""

from __future__ import annotations

import math
from collections.abc import Sequence

from candor.core.late_dataclass import dataclass
from candor.core.uncertainty.budget import Budget, Contribution, rectangular
from candor.core.uncertainty.coverage import Coverage
from candor.core.verdict.rules import Outcome
from candor.core.worded import worded

HALF_DASH = 0.5  # how well a dash is set by eye
LINE_UNSAID = 0.025  # of the line, where nobody stamped it; common practice, no source
LINE_DRIFT = 0.01  # of the line for each ten minutes since it was set, up to the above; common practice, no source
STEEP = {"emission": 2.0, "gm": 1.0}  # by how much a share of line moves a reading; common practice, no source
# Of the reading, where nobody tried what a dash of its controls is worth and no repeat shows it; common practice, no source.
UNTRIED = 0.03
# A figure on a scale nobody named stands at a third of it at worst, and is read to a quarter of one of fifty divisions.
SCALE_UNKNOWN = 3 / 50 / 4
# Of full scale, where no calibration of the tester is known; common practice, no source.
SCALE = {"emission": 0.05, "gm": 0.1}


@dataclass(frozen=True)
class Nudge:
    """What one dash of a control is worth in the reading, in its unit; of the line also a volt of it, where that was tried."""

    control: str
    per_dash: float
    per_volt: float | None = None


@dataclass(frozen=True)
class LineStamp:
    """The line as it was set: how long before the reading, s."""

    age_s: float


def line_share(stamp: LineStamp | None) -> float:
    """Return by what share the line may be off at a reading: unsaid, or drifted since it was set (common practice, no source)."""
    return LINE_UNSAID if stamp is None else min(LINE_DRIFT * stamp.age_s / 600, LINE_UNSAID)


def budget_of(
    shown: float,
    test: str,
    *,
    division: float,
    full_scale: float,
    nudges: Sequence[Nudge] = (),
    stamp: LineStamp | None = None,
    scale_u: float | None = None,
    scatter: tuple[float, int] | None = None,
    u_held: float = 0.0,
) -> Budget:
    """Return what a reading of a tube is uncertain by, in its unit (JCGM 100:2008, 4.3.7; figures: common practice, no source).

    Parameters
    ----------
    shown : float
    test : "emission" or "gm"
    division : float
        Of the scale: read to a quarter of it; 0 where it is not known.
    full_scale : float
    nudges : sequence of Nudge
        Each set by eye to half a dash.
    stamp : LineStamp or None
        None where nobody stamped the line.
    scale_u : float, optional
        Standard uncertainty of the tester's scale from its own calibration; where none is known a part of full scale is assumed.
    scatter : (float, int), optional
        Standard deviation and number of repeats.
    u_held : float
        Standard uncertainty of what was added for the line that fell while the button was held (`held_line`); 0 where nothing was.
    """
    parts: list[Contribution] = []
    if division > 0:
        parts.append(
            rectangular("needle, ¼ division", division / 4, worded("tubes.read_to_a_quarter_of_a"), "needle")
        )
    else:
        reason = worded("tubes.nobody_said_how_its_scale_is")
        parts.append(
            rectangular(
                worded("tubes.needle_scale_not_known"),
                max(full_scale / 200, SCALE_UNKNOWN * abs(shown)),
                reason,
                "needle",
            )
        )
    parts += [
        rectangular(
            worded("tubes.half_a_dash", control=n.control),
            HALF_DASH * abs(n.per_dash),
            worded("tubes.by_the_nudge_sheet_rectangular"),
            "setting",
        )
        for n in nudges
        if n.control != "line" and n.per_dash
    ]
    if not any(n.per_dash for n in nudges) and (scatter is None or scatter[1] < 2):
        reason = worded("tubes.what_a_dash_of_its_controls", untried=100 * UNTRIED)
        parts.append(rectangular("settings, not tried", UNTRIED * abs(shown), reason, "setting"))
    share = line_share(stamp)
    by_dash = next((abs(n.per_dash) for n in nudges if n.control == "line" and n.per_dash), 0.0)
    if by_dash:
        parts.append(
            rectangular(
                worded("tubes.line_half_a_dash"),
                HALF_DASH * by_dash,
                worded("tubes.by_the_nudge_sheet_rectangular"),
                "setting",
            )
        )
    if share:
        words = (
            worded("tubes.nobody_stamped_the_line")
            if stamp is None
            else worded("tubes.set_min_before", age_s=stamp.age_s / 60)
        )
        by = worded("tubes.a_reading_goes_with_it_fold", test=test, steep=STEEP[test])
        reason = worded("tubes.within_as", share=100 * share, words=words, by=by)
        half = abs(shown) * share * STEEP[test]
        parts.append(rectangular(worded("tubes.line_since_it_was_set"), half, reason, "setting"))
    if u_held > 0:
        reason = worded("tubes.read_before_and_while_it_was_held")
        parts.append(Contribution(worded("tubes.line_while_held"), u_held, reason=reason, kind="setting"))
    if scale_u is None:
        reason = worded("tubes.no_calibration_of_the_tester_is")
        parts.append(rectangular("tester, not calibrated", SCALE[test] * full_scale, reason, "common"))
    elif scale_u > 0:
        reason = worded("tubes.as_its_own_calibration_left_it")
        parts.append(Contribution("tester, as calibrated", scale_u, shape="normal", reason=reason, kind="common"))
    if scatter is not None and scatter[1] > 1:
        of, count = scatter
        reason = "s/√n (JCGM 100, 4.2.3)."
        parts.append(Contribution("repeats", of / math.sqrt(count), dof=count - 1, reason=reason, kind="scatter"))
    return Budget(tuple(parts))


def own_part(budget: Budget) -> float:
    """Return the standard uncertainty of a reading without what all readings of one sitting share, in its unit."""
    return Budget(tuple(c for c in budget.contributions if c.kind != "common")).combined


@dataclass(frozen=True)
class TubeVerdict:
    """What a figure says of a tube.

    Attributes
    ----------
    percent, expanded : float
        Of the nominal figure, and its U, in per cent.
    reject : float
        Below what it is weak, in per cent of nominal; 0 where nobody gave one.
    outcome : Outcome
    whose : str
        Where nominal and reject come from.
    """

    percent: float
    expanded: float
    reject: float
    outcome: Outcome
    whose: str = ""


def judge_tube(
    figure: float, coverage: Coverage | float, nominal: float, reject: float, whose: str = ""
) -> TubeVerdict:
    """Judge a figure against the reject level with its U: pass above it by U, fail below it by U, else it cannot be told.

    One-sided as JCGM 106, 8.3.2; with a whole U (k of 95.45 per cent two-sided) the guard is wider than the one-sided 1.645 u.

    Parameters
    ----------
    figure, nominal, reject : float
        In one unit; reject 0 where nobody gave one: then it cannot be told.
    coverage : Coverage or float
        Or U itself, in that unit.
    whose : str
        Where nominal and reject come from.
    """
    expanded = coverage if isinstance(coverage, float) else coverage.expanded
    percent, share = 100 * figure / nominal, 100 * expanded / nominal
    if not reject > 0:
        outcome = Outcome.CANNOT_TELL
    elif figure - expanded >= reject:
        outcome = Outcome.PASS
    elif figure + expanded < reject:
        outcome = Outcome.FAIL
    else:
        outcome = Outcome.CANNOT_TELL
    level = 100 * max(reject, 0.0) / nominal
    return TubeVerdict(percent=percent, expanded=share, reject=level, outcome=outcome, whose=whose)
