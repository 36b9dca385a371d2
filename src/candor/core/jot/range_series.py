"""Several ranges in one line: a series of ends, or the multipliers of ohms arcs."""

from __future__ import annotations

import itertools
import math
import re
from collections.abc import Callable
from dataclasses import replace

from candor.core.errors import RangeError, ValueTextError
from candor.core.instrument.how import OHMS
from candor.core.instrument.points import proposed_points
from candor.core.jot.meaning import RangeJot
from candor.core.jot.range_chips import range_chips
from candor.core.late_pattern import late_pattern
from candor.core.quantities import engineering, parse_number
from candor.core.quantities.show import trimmed
from candor.core.worded import worded

MOST_RANGES = 24  # of a series
_NUMBER = r"(?:\d+(?:[.,]\d+)?|[.,]\d+)"
_SERIES = late_pattern(
    rf"(?<![\w.@×+-])(?P<list>{_NUMBER}(?:[\s,;]+(?:\.{{3}}|…)?[\s,;]*{_NUMBER}){{2,}}|{_NUMBER}(?:\s*,\s+{_NUMBER})+)"
    r"\s*(?P<unit>[^\W\d_]+|Ω)(?=\s|,|$)"
)
_LISTS = late_pattern(r"\b(?:marks?|steps?|look)\b", re.I)  # whose numbers are no ends of ranges
_CALLED = late_pattern(r"\bcalled\s+(?:\"(?P<names>[^\"]+)\"|“(?P<other>[^”]+)”)", re.I)
_MULTIPLIER = late_pattern(r"\s*R?\s*[x×*]\s*(?P<times>\d+(?:\.\d+)?)\s?(?P<prefix>[kKM]?)(?=[\s,;]|$)[,;]?")


def lines_of_series(text: str, known: Callable[[str], bool]) -> list[str]:
    """Return the line of each range of a series of ends; the line alone where it says one range.

    Parameters
    ----------
    text : str
    known : callable
        Whether a word is a unit that a range can end in.

    Raises
    ------
    ValueTextError, RangeError
        Where the series cannot be read, or does not rise.
    """
    match = _SERIES.search(text) if not _LISTS.search(text) else None
    if match is None or not known(match["unit"]):
        return [text]
    before, after = text[: match.start()], text[match.end() :]
    return [f"{before}{trimmed(end, 6)} {match['unit']}{after}" for end in series(match["list"])]


def counted(first: RangeJot, others: tuple[RangeJot, ...]) -> RangeJot:
    """Return a range with those beside it, how many they are in front of what was understood of the first."""
    each = ", ".join(r.name or engineering(r.full_scale, r.unit) for r in (first, *others))
    return replace(first, beside=others, chips=(f"{1 + len(others)} ranges: {each}", *first.chips))


def multipliers(text: str) -> tuple[tuple[str, ...], str]:
    """Return what the ranges of several multipliers are called, and the line of the first alone; nothing where one is named.

    ``called "R×1 R×10 R×1k"``: each a multiplier of what is printed on one ohms arc.
    """
    match = _CALLED.search(text)
    said = (match["names"] or match["other"]) if match is not None else ""
    found = list(_MULTIPLIER.finditer(said))
    if match is None or len(found) < 2 or "".join(m[0] for m in found).strip() != said.strip():
        return (), text
    names = tuple(f"R×{m['times']}{m['prefix']}" for m in found)
    return names, f'{text[: match.start()]}called "{names[0]}"{text[match.end() :]}'


def multiplied(first: RangeJot, names: tuple[str, ...]) -> tuple[RangeJot, ...]:
    """Return the further ranges of an ohms arc: the same arc, each value times its multiplier over the first's.

    Raises
    ------
    ValueTextError, RangeError
        Where it is no ohms arc, or the multipliers do not rise.
    """
    times = [_times(name) for name in names]
    if first.how.shape not in OHMS:
        raise ValueTextError(worded("jot.multipliers_belong_to_an_ohms_arc", listed=" ".join(names)), value=names[1])
    if any(after <= before for before, after in itertools.pairwise(times)) or len(names) > MOST_RANGES:
        raise RangeError(
            worded("jot.the_ends_do_not_rise_or", words=" ".join(names), most_ranges=MOST_RANGES), value=names[1]
        )
    return tuple(
        _times_first(first, name, share / times[0]) for name, share in zip(names[1:], times[1:], strict=True)
    )


def _times(name: str) -> float:
    match = _MULTIPLIER.fullmatch(name)
    assert match is not None
    return float(match["times"]) * {"": 1.0, "k": 1e3, "K": 1e3, "M": 1e6}[match["prefix"]]


def _times_first(first: RangeJot, name: str, share: float) -> RangeJot:
    centre = float(f"{first.full_scale * share:.12g}")
    how = replace(first.how, marks=tuple(float(f"{mark * share:.12g}") for mark in first.how.marks))
    points = proposed_points(how, centre, first.divisions, False) if first.points else ()
    found = replace(first, name=name, full_scale=centre, how=how, points=points)
    return replace(found, chips=range_chips(found))


def series(words: str) -> tuple[float, ...]:
    """Return the ends of a series as it is written, in the unit that stands behind them, rising.

    ``1.5 5 15 ... 500`` goes on by the steps of its first numbers.

    Raises
    ------
    ValueTextError, RangeError
        Where it does not rise, or does not go on to its last number.
    """
    head, dots, tail = words.replace("…", "...").partition("...")
    # Where nothing else parts them, commas do; else a comma between digits is a decimal comma.
    parted = r"\d[\d.]*" if head.count(",") > 1 and " " not in head.strip() else _NUMBER
    read = [parse_number(word, "the end of a range") for word in re.findall(parted, head)]
    if dots:
        last = parse_number(re.search(_NUMBER, tail)[0], "the end of a range") if re.search(_NUMBER, tail) else 0.0  # type: ignore[index]
        ratios = [after / before for before, after in itertools.pairwise(read) if before]
        while ratios and read[-1] < last * (1 - 1e-3) and len(read) < MOST_RANGES:
            # 1.5 5 15 goes on with 50: the steps alternate.
            ratio = ratios[(len(read) - 1) % len(ratios)] if len(ratios) % 2 == 0 else ratios[0]
            read.append(_round(read[-1] * ratio, read))
        if not ratios or not math.isclose(read[-1], last, rel_tol=1e-3):
            raise ValueTextError(
                worded("jot.the_series_does_not_come_to", words=words.strip(), last=trimmed(last)), value=words
            )
    if any(after <= before for before, after in itertools.pairwise(read)) or len(read) > MOST_RANGES:
        raise RangeError(
            worded("jot.the_ends_do_not_rise_or", words=words.strip(), most_ranges=MOST_RANGES), value=words
        )
    return tuple(read)


def _round(value: float, before: list[float]) -> float:
    """The number that is printed: of the digits of those before it where they come near."""
    power = 10.0 ** math.floor(math.log10(value))
    digits = {round(v / 10.0 ** math.floor(math.log10(v)), 6) for v in before}
    near = min(digits, key=lambda d: abs(d - value / power))
    return float(f"{near * power:.6g}") if abs(near * power / value - 1) < 0.1 else float(f"{value:.3g}")
