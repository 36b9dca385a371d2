"""The combiner: what was asked, put to the exact searches, with what each answer carries."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence

from candor.core.combine.exact import OPERATIONS, Combination, Operation, Piece, Tree, best, combination
from candor.core.combine.preferred import nearest, values_between
from candor.core.combine.trims import (
    NEW_RESISTOR_VOLTS,
    Kind,
    Load,
    Trim,
    loads,
    say_tree,
    split_resistor,
    trim,
)
from candor.core.combine.worst_case import best_worst_case
from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded

SPAN = 1000.0  # series values from a thousandth to a thousand times the target are searched
SERIES_MOST = 3  # pieces, where a series is searched
SERIES_TOLERANCE = {"E3": 0.2, "E6": 0.2, "E12": 0.1, "E24": 0.05, "E48": 0.02, "E96": 0.01, "E192": 0.005}


@dataclass(frozen=True)
class Asked:
    """What is to be made.

    Attributes
    ----------
    kind : "resistor" or "capacitor"
    target : float
        Ohm or F.
    below, above : float
        The window that serves, as shares.
    measured : float or None
        A part that is there and is to be trimmed to the target.
    volts : float
        Across the whole; 0 where unknown.
    most : int
        Pieces, 1 to 4.
    series : str
        A series of preferred values to search beside what is on hand, or an empty string.
    """

    kind: Kind
    target: float
    below: float = 0.01
    above: float = 0.01
    measured: float | None = None
    volts: float = 0.0
    most: int = 4
    series: str = ""


@dataclass(frozen=True)
class Answer:
    """One arrangement, in words and figures.

    Attributes
    ----------
    combination : Combination
    pieces : tuple of Piece
        Those the arrangement names.
    text : str
        ``22 kΩ + (1 MΩ ∥ 4.7 MΩ)``.
    value, low, high : float
        Of the whole, a part to be trimmed included.
    serves : bool
        The nominal value lies in the window.
    always : bool
        So does the worst case.
    loads : tuple of Load
        Of each piece; empty where no voltage is known.
    """

    combination: Combination
    pieces: tuple[Piece, ...]
    text: str
    value: float
    low: float
    high: float
    serves: bool
    always: bool
    loads: tuple[Load, ...]

    @property
    def to_order(self) -> tuple[Piece, ...]:
        """The pieces that are not on hand."""
        return tuple(p for p in self.pieces if p.to_order)

    @property
    def is_over(self) -> bool:
        """Whether a piece carries more than its rating."""
        return any(load.is_over for load in self.loads)


@dataclass(frozen=True)
class Covered:
    """What a search covered.

    Attributes
    ----------
    most, count : int
        Arrangements of 1 to `most` pieces, of `count` values.
    beside : bool
        Whether the part that is there was counted in in every one.
    gap : float
        By how much another could be better by worst case, as a share of the target; 0 where all were tried.
    """

    most: int
    count: int
    beside: bool
    gap: float


@dataclass(frozen=True)
class Split:
    """A resistor that must be several: `count` of `ohms` in series, with `volts` V across them all."""

    count: int
    ohms: float
    volts: float


@dataclass(frozen=True)
class Found:
    """All answers: the nearest for each number of pieces, the best by worst case, and the trim where one was asked.

    `standard` is one new piece of the coarsest of E24, E96 and E192 (IEC 60063) that serves, of E24 where none does: no drawer is
    needed for it, and where nothing is on hand and no series is searched it is all there is.
    `rated` is there where every answer that serves has a piece over its rating: the nearest of all resistors in series of
    which none is over its own, or of all capacitors that each stand the whole voltage.
    """

    asked: Asked
    trim: Trim | None
    answers: tuple[Answer, ...]
    worst: Answer | None
    covered: Covered | None
    split: Split | None = None
    rated: Answer | None = None
    standard: Answer | None = None


def search(asked: Asked, on_hand: Sequence[Piece], should_stop: Callable[[], bool] = lambda: False) -> Found:
    """Return the best arrangements for what was asked.

    Resistors to order count as rated `NEW_RESISTOR_VOLTS` (common practice, no source); capacitors to order as rated for what
    they must carry.

    Raises
    ------
    RangeError
        Where a value is not above zero.
    CancelledError
    """
    wanted, made = asked.target, None
    if not 0 < asked.target < math.inf:
        raise RangeError(worded("combine.the_value_wanted_is_expected_one", target=asked.target))
    if asked.measured is not None:
        made = trim(
            measured=asked.measured, target=asked.target, below=asked.below, above=asked.above, kind=asked.kind
        )
        wanted = made.exact
        if math.isinf(wanted):
            return Found(asked=asked, trim=made, answers=(), worst=None, covered=None)
    pieces, most, standard = list(on_hand), asked.most, _standard(asked, made, wanted)
    if not pieces and not asked.series:
        return Found(asked=asked, trim=made, answers=(), worst=None, covered=None, standard=standard)
    if asked.series:
        known = {f"{p.value:.4g}" for p in pieces}
        share = SERIES_TOLERANCE[asked.series]
        new = values_between(asked.series, wanted / SPAN, wanted * SPAN)
        volts = NEW_RESISTOR_VOLTS if asked.kind == "resistor" else 0.0
        pieces += [
            Piece(value=v, tolerance=share, count=4, volts=volts, to_order=True)
            for v in new
            if f"{v:.4g}" not in known
        ]
        most = min(most, SERIES_MOST)
    beside = _beside(asked, made)
    found = best(wanted, pieces, most, should_stop, beside=beside)
    worst = best_worst_case(target=wanted, pieces=pieces, most=most, should_stop=should_stop, beside=beside)
    answers = tuple(_answer(c, pieces, asked, made) for c in found)
    rated = (
        _rated(asked=asked, made=made, wanted=wanted, pieces=pieces, should_stop=should_stop)
        if _all_over(answers)
        else None
    )
    gap = 0.0 if worst.proved else (worst.worst - worst.floor) / asked.target
    return Found(
        asked=asked,
        trim=made,
        answers=answers,
        worst=_answer(worst.combination, pieces, asked, made),
        covered=Covered(most, len(pieces), asked.measured is not None, gap),
        split=_split(asked, made, wanted, pieces),
        rated=rated,
        standard=standard,
    )


def _standard(asked: Asked, made: Trim | None, wanted: float) -> Answer:
    """One new piece: of the coarsest series that serves, of E24 where none does."""
    found = []
    for series in ("E24", "E96", "E192"):
        volts = NEW_RESISTOR_VOLTS if asked.kind == "resistor" else 0.0
        share = SERIES_TOLERANCE[series]
        piece = Piece(value=nearest(wanted, series), tolerance=share, volts=volts, to_order=True, name=series)
        found.append(_answer(combination(0, [piece]), [piece], asked, made))
    return next((a for a in found if a.serves), found[0])


def _beside(asked: Asked, made: Trim | None) -> float:
    """Return the part to be trimmed where the added one bends the whole, infinite where it only adds."""
    if made is None or asked.measured is None:
        return math.inf
    bends = (made.how == "across") == (asked.kind == "resistor")
    return asked.measured if bends else math.inf


def _all_over(answers: Sequence[Answer]) -> bool:
    return any(a.is_over for a in answers) and not any(a.serves and not a.is_over for a in answers)


def _rated(
    asked: Asked, made: Trim | None, wanted: float, pieces: Sequence[Piece], should_stop: Callable[[], bool]
) -> Answer | None:
    """Return the nearest arrangement that serves and has no piece over its rating, if there is one.

    Resistors in series, each by what it carries in that series; what is over even in the longest that serves is left out
    first. Capacitors that each stand the whole voltage.
    """
    low, high = (made.low, made.high) if made else (wanted * (1 - asked.below), wanted * (1 + asked.above))
    ends = [_volts(asked, made, end) / end for end in (low, high) if 0 < end < math.inf]
    amperes, volts = min(ends, default=0.0), _volts(asked, made, wanted)
    if asked.kind == "resistor":
        usable = [
            p for p in pieces
            if (not p.volts or amperes * p.value <= p.volts) and (not p.watts or amperes**2 * p.value <= p.watts)
        ]  # fmt: skip
    else:
        usable = [p for p in pieces if not p.volts or volts <= p.volts]
    if not usable:
        return None
    beside = _beside(asked, made)

    def stands(tree: Tree) -> bool:
        answer = _answer(combination(tree, usable), usable, asked, made)
        return answer.serves and not answer.is_over

    operations: tuple[Operation, ...] = ("sum",) if asked.kind == "resistor" else OPERATIONS
    off = asked.target * max(asked.below, asked.above) * (1 + 1e-6)
    found = best(
        target=wanted,
        pieces=usable,
        most=asked.most,
        should_stop=should_stop,
        operations=operations,
        beside=beside,
        allowed=stands,
        within=off,
    )
    answers = [_answer(c, usable, asked, made) for c in found]
    return min(answers, key=lambda a: abs(a.value - asked.target), default=None)


def _split(asked: Asked, made: Trim | None, wanted: float, pieces: Sequence[Piece]) -> Split | None:
    """Return into how many equal resistors what is added must be split so that none has more volts than it may."""
    rated = [p.volts for p in pieces if p.volts]
    volts = _volts(asked, made, wanted)
    if asked.kind != "resistor" or not volts or not rated or volts <= max(rated):
        return None
    low, high = (made.low, made.high) if made else (wanted * (1 - asked.below), wanted * (1 + asked.above))
    number, each = split_resistor(value=wanted, low=low, high=high, volts=volts, rating=max(rated))
    return Split(number, each, volts)


def _answer(found: Combination, pieces: Sequence[Piece], asked: Asked, made: Trim | None) -> Answer:
    value, low, high = found.value, found.low, found.high
    if made is not None and asked.measured is not None:
        beside = (made.how == "across") == (asked.kind == "resistor")
        value, low, high = (_joined(asked.measured, x, beside) for x in (value, low, high))
    volts = _volts(asked, made, found.value)
    bottom, top = asked.target * (1 - asked.below), asked.target * (1 + asked.above)
    return Answer(
        combination=found,
        pieces=tuple(pieces[i] for i in found.pieces),
        text=say_tree(found.tree, pieces, asked.kind),
        value=value,
        low=low,
        high=high,
        serves=bottom <= value <= top,
        always=bottom <= low and high <= top,
        loads=loads(found.tree, pieces, asked.kind, volts) if volts else (),
    )


def _volts(asked: Asked, made: Trim | None, value: float) -> float:
    """Return the voltage across what is added: all of it, or its share where it stands in series with the old part."""
    if made is None or asked.measured is None or made.how == "across":
        return asked.volts
    share = value if asked.kind == "resistor" else asked.measured
    return asked.volts * share / (asked.measured + value)


def _joined(a: float, b: float, beside: bool) -> float:
    return a * b / (a + b) if beside else a + b
