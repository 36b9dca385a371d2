"""Two cards that go with an instrument: corrections for its case, and three points for its owner to repeat after the journey."""

from __future__ import annotations

import math
from itertools import groupby

from reportlab.lib.pagesizes import A5, A6
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, Spacer

from candor.core.errors import CandorError
from candor.core.late_dataclass import dataclass
from candor.core.power.live_limits import say_live
from candor.core.quantities import engineering, parse_quantity
from candor.core.quantities.show import decimals, plain, round_up, scaled, signed
from candor.core.verdict.rules import Outcome
from candor.core.worded import worded
from candor.paper.drawn_ribbon import RULE, SOFT
from candor.paper.label import NotSignedError
from candor.paper.record import CertificateRecord, PointLine
from candor.paper.sheet import Rows, laid, pages, register_fonts, text
from candor.words.proof_words import PROOF

REPEATED = 3  # points on the owner's card
USUAL_METER = 30.0  # V up to which a point is preferred for an owner: dry and not live by far
_REPEATABLE = ("needle", "mark")  # kinds that an owner can read again with a meter of his own
_LEAST = 0.25  # of the largest value on a range: lower, a needle says little


class NothingToRepeatError(CandorError, ValueError):
    """No point that an owner could read again with a meter alone."""


@dataclass(frozen=True)
class Correction:
    """What a reading of the instrument means at a point, SI: `reads`, the `true` value and its U (k of the certificate)."""

    point: PointLine
    reads: float
    true: float
    expanded: float


@dataclass(frozen=True)
class Repeat:
    """A point to read again: what to apply, what it read here, and by how much that may differ where nothing changed, SI."""

    point: PointLine
    applied: float
    expected: float
    within: float


def corrections(record: CertificateRecord) -> tuple[Correction, ...]:
    """Return the corrections of every point as left that was read against a reference in its own unit."""
    return tuple(
        Correction(p, p.indicated, p.indicated - p.error, p.expanded_uncertainty)
        for p in record.as_left.points
        if p.indicated is not None
        and p.error is not None
        and p.judged_in in ("", p.unit)
        and p.outcome != str(Outcome.NOTED)
    )


def repeats(record: CertificateRecord) -> tuple[Repeat, ...]:
    """Return the points that an owner can best repeat: on different functions and ranges, well up the scale, at safe volts.

    What may differ is √2 U: the new reading brings at most what ours did, and ours is in what is expected (JCGM 100:2008, 5.1.2).
    The error of the owner's meter comes on top and is the owner's to add.
    """
    known = []
    for c in corrections(record):
        applied = _applied(c.point)
        if c.point.kind in _REPEATABLE and applied is not None and c.point.outcome != str(Outcome.FAIL):
            known.append(Repeat(c.point, applied, applied + c.reads - c.true, math.sqrt(2) * c.expanded))
    top = {place: max(abs(r.applied) for r in group) for place, group in groupby(known, key=_place)}
    good = [r for r in known if abs(r.applied) >= _LEAST * top[_place(r)]]
    chosen: list[Repeat] = []
    while good and len(chosen) < REPEATED:
        functions, places = {r.point.function for r in chosen}, {_place(r) for r in chosen}
        best = min(
            good,
            key=lambda r: (
                r.point.function in functions,
                _place(r) in places,
                r.point.unit == "V" and abs(r.applied) > USUAL_METER,
                r.within / abs(r.applied) if r.applied else math.inf,
            ),
        )
        chosen.append(best)
        good = [r for r in good if r is not best]
    return tuple(sorted(chosen, key=lambda r: record.as_left.points.index(r.point)))


def _place(of: Repeat) -> tuple[str, str]:
    return of.point.function, of.point.range


def _applied(point: PointLine) -> float | None:
    try:
        applied = parse_quantity(point.applied, point.unit).value
    except CandorError:
        return None
    # A "−" range is read as magnitudes, its lead says the sign; left of a centre zero the reading itself is negative.
    return applied if point.indicated is not None and point.indicated < 0 else abs(applied)


def _head(record: CertificateRecord, title: str) -> list[Flowable]:
    signed_by = f"certificate {record.number}" + (f", {record.measured[-1]:%Y-%m-%d}" if record.measured else "")
    return [
        text(f"{title}: {record.maker} {record.type}", 12, bold=True),
        text(f"No. {record.serial or 'none'}, {signed_by}. {record.shop or 'Candor'}", 7.5, SOFT),
        Spacer(1, 2.5 * mm),
    ]


def _foot(record: CertificateRecord, *sentences: str) -> list[Flowable]:
    said = [
        *sentences,
        *(f"{line.text}" for line in record.remarks),
        *([f"{PROOF} {record.head}"] if record.head else []),
    ]
    return [Spacer(1, 2.5 * mm), *(text(sentence, 7, SOFT) for sentence in said)]


def correction_card(record: CertificateRecord, digest: str) -> bytes:
    """Return the card for the case as PDF, A6: by range what it reads, what that means, and how sure that is.

    Raises
    ------
    NotSignedError
        Where nothing was signed, or no point has a correction.
    """
    _signed(digest)
    found = corrections(record)
    if not found:
        raise NotSignedError(worded("paper.no_point_of_the_certificate_has"))
    register_fonts()
    rows: list[list[Flowable]] = [[text(word, 7, SOFT) for word in ("", "it reads", "true value", "±U")]]
    for (function, name), group in groupby(found, key=lambda c: (c.point.function, c.point.range)):
        first = True
        for c in group:
            factor, symbol = scaled(c.point.unit, c.true, c.expanded)
            places = decimals(c.expanded / factor)
            failed = " *" if c.point.outcome == str(Outcome.FAIL) else ""
            cells = (
                f"{function} {name}" if first else "",
                f"{plain(c.reads / factor, places)} {symbol}",
                f"{plain(c.true / factor, places)} {symbol}{failed}",
                f"{plain(c.expanded / factor, places)} {symbol}",
            )
            rows.append([text(cell, 7.5) for cell in cells])
            first = False
    marks = (
        [worded("paper.out_of_tolerance_as_left")] if any(c.point.outcome == str(Outcome.FAIL) for c in found) else []
    )
    story = [
        *_head(record, "Corrections"),
        laid(
            Rows(rows, (34 * mm, 21 * mm, 24 * mm, 14 * mm), repeatRows=1, hAlign="LEFT"),
            1.2,
            "TOP",
            ("LINEBELOW", (0, 0), (-1, -1), 0.3, RULE),
        ),
        *_foot(
            record,
            *marks,
            worded("paper.these_hold_at_the_points_shown"),
        ),
    ]
    return pages(story, f"Corrections {record.number}", A6, 6 * mm)


def owner_card(record: CertificateRecord, digest: str) -> bytes:
    """Return the card for the owner as PDF, A5: what to read again on arrival, what to expect, and how far off is still fine.

    Raises
    ------
    NotSignedError
        Where nothing was signed.
    NothingToRepeatError
        Where no point can be read again with a meter alone.
    """
    _signed(digest)
    found = repeats(record)
    if not found:
        raise NothingToRepeatError(worded("paper.no_point_of_the_certificate_can"))
    register_fonts()
    heads = ("function, range", "apply", "it should read", "still fine, ±", "it reads")
    rows: list[list[Flowable]] = [[text(word, 7.5, SOFT) for word in heads]]
    for r in found:
        unit, within = r.point.unit, round_up(r.within)
        factor, symbol = scaled(unit, r.expected, within)
        places = decimals(within / factor)
        cells = (
            f"{r.point.function} {r.point.range}",
            r.point.applied,
            f"{plain(r.expected / factor, places)} {symbol}",
            f"{plain(within / factor, places)} {symbol}",
            "",
        )
        rows.append([text(cell, 9) for cell in cells])
    volts = max((abs(r.applied) for r in found if r.point.unit == "V"), default=0.0)
    caution = (
        [text(say_live(engineering(volts, "V")), 8.5, bold=True), Spacer(1, 2 * mm)] if volts > USUAL_METER else []
    )
    story = [
        *_head(record, worded("paper.when_it_has_arrived")),
        *caution,
        text(
            worded("paper.let_it_warm_up_set_its"),
            9,
        ),
        Spacer(1, 2 * mm),
        laid(
            Rows(rows, (38 * mm, 20 * mm, 27 * mm, 23 * mm, 20 * mm), repeatRows=1, hAlign="LEFT"),
            3,
            "MIDDLE",
            ("LINEBELOW", (0, 0), (-1, -1), 0.3, RULE),
        ),
        Spacer(1, 2 * mm),
        text(worded("paper.a_reading_outside_it_do_not"), 9),
        *_foot(record),
    ]
    return pages(story, f"On arrival {record.number}", A5, 9 * mm)


def _signed(digest: str) -> None:
    if not digest:
        raise NotSignedError(worded("paper.there_is_no_card_yet_sign"))


def say_repeat(r: Repeat) -> str:
    """Return a point to repeat in words: ``DC volts + 150 V: apply 75 V, it should read 73.8 ± 1.1 V``."""
    unit, within = r.point.unit, round_up(r.within)
    factor, symbol = scaled(unit, r.expected, within)
    places = decimals(within / factor)
    shown = f"{plain(r.expected / factor, places)} ± {plain(within / factor, places)} {symbol}"
    return worded(
        "paper.apply_it_should_read",
        function=r.point.function,
        range=r.point.range,
        applied=r.point.applied,
        shown=shown,
    )


def say_correction(c: Correction) -> str:
    """Return a correction in words: ``DC volts + 150 V: reads 73.8 V, add +1.2 ± 0.5 V``."""
    factor, symbol = scaled(c.point.unit, c.true, c.expanded)
    places = decimals(c.expanded / factor)
    added = f"{signed((c.true - c.reads) / factor, places)} ± {plain(c.expanded / factor, places)} {symbol}"
    return worded(
        "paper.reads_add",
        function=c.point.function,
        range=c.point.range,
        reads=plain(c.reads / factor, places),
        symbol=symbol,
        added=added,
    )
