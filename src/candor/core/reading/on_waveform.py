"""A figure of a waveform, rise or overshoot or period, as its samples have it: the value and what it is uncertain by."""

from __future__ import annotations

import re

from candor.core.calibration.point import TestPoint
from candor.core.errors import RangeError, ValueTextError
from candor.core.late_pattern import late_pattern
from candor.core.reading.judged import Judged
from candor.core.reading.kind import Figures, ReadingKind, Readings, scatter, shown, the_value, typed
from candor.core.reading.means import means_of
from candor.core.reading.reading import INDICATED, Asked
from candor.core.uncertainty.budget import Contribution
from candor.core.worded import worded

UNCERTAIN = "u"
COVERS = 2  # what a U that is typed is taken for: certificates state k = 2 where they say nothing else
_PLUS_MINUS = late_pattern(r"(?:[a-z]+\s+)?[-+−]?[\d.,]+\s*[A-Za-zµΩ%]*\s*(?:±|\+-|\+/-)\s*[\d.,]+\s*[A-Za-zµΩ%]*")
_LINE = late_pattern(
    r"(?:wave(?:form)?\s+)?(?P<value>[-+−]?[\d.,]+\s*[A-Za-zµΩ%]*)(?:\s+(?P<letter>u)\s+(?P<u>[\d.,]+\s*[A-Za-zµΩ%]*))?",
    re.I,
)


def _read(text: str, point: TestPoint) -> dict[str, float] | None:
    return with_its_u(_LINE.fullmatch(text.strip()), text, point)


def with_its_u(match: re.Match[str] | None, text: str, point: TestPoint) -> dict[str, float] | None:
    """Return a figure and the uncertainty that was typed behind it, by "value", "letter" and "u" of a match; None where it is none.

    Parameters
    ----------
    match : Match or None
    text : str
        As it was typed.
    point : TestPoint
        Both come in its unit, SI.

    Raises
    ------
    ValueTextError
        Where ± stands between them: it does not say whether u or U is meant.
    CandorError
        As `typed`.
    """
    if _PLUS_MINUS.fullmatch(text.strip()):
        raise ValueTextError(worded("reading.plus_minus_does_not_say_which", text=text.strip()), value=text)
    if match is None:
        return None
    found = {INDICATED: typed(match["value"], point)}
    if match["u"]:
        found[UNCERTAIN] = _uncertain(match["letter"], match["u"], point, match["value"])
    return found


def _uncertain(letter: str, text: str, point: TestPoint, value: str) -> float:
    """Return the standard uncertainty that was typed, in the point's unit: behind u as it is, behind U half of it (k = 2).

    A bare number is in the unit of the value before it: 930p u 8 is 8 ps.

    Raises
    ------
    RangeError
        Where it is under zero.
    ValueTextError, UnitError
        Where it is no quantity of the point.
    """
    said = re.search(r"[A-Za-zµΩ%].*$", value)
    is_bare = said is not None and not re.search(r"[A-Za-zµΩ%]", text)
    found = point.quantity(text + said[0] if said is not None and is_bare else text)
    if found < 0:
        raise RangeError(worded("reading.a_standard_uncertainty_is_zero_or"), value=text)
    return found / COVERS if letter == "U" else found


def _contributions(
    point: TestPoint, readings: Readings, judged: Judged, friction: float | None
) -> list[Contribution]:
    at = means_of(readings, judged.place).indicated
    us = [dict(r.figures).get(UNCERTAIN, 0.0) for r in readings]
    size = (sum(u * u for u in us) ** 0.5 / len(us)) * judged.slope(at)
    reason = worded("reading.noise_resolution_and_sampling_of_the")
    found = [Contribution("samples", size, reason=reason, kind="needle")] if size else []
    return found + scatter(point, readings, judged)


def _say(point: TestPoint, figures: Figures) -> str:
    u = f", u {shown(point, figures[UNCERTAIN], 2)}" if figures.get(UNCERTAIN) else ""
    return worded("reading.from_a_waveform", shown=shown(point, the_value(point, figures), 4), u=u)


def _remark(point: TestPoint, readings: Readings) -> str:
    if all(dict(r.figures).get(UNCERTAIN) for r in readings):
        return ""
    return worded("reading.how_uncertain_the_figure_is_was")


WAVEFORM = ReadingKind(
    key="waveform",
    title=worded("reading.figure_of_a_waveform"),
    drawn="digits",
    read_on=("digits", "screen"),
    compares="nominal",
    asks=lambda point: (
        Asked(INDICATED, point.figure or "figure", point.unit),
        Asked(UNCERTAIN, "standard uncertainty", point.unit, needed=False),
    ),
    example=lambda point: f"{shown(point, point.nominal * 0.9, 3)} u {shown(point, point.nominal * 0.01, 2)}",
    understand=_read,
    indicated=the_value,
    contributions=_contributions,
    say=_say,
    remark=_remark,
    prompt=worded("reading.which_waveform_open_its_file_waveforms"),
)
