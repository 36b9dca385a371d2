"""Adjustments that move each other: what each does at every point, from one measured turn of it; all at once, or in rounds.

For small turns errors are linear in them, e = e0 + M t, with a column of M from one turn of each adjuster. All at once: the turns
that make the largest error, in limits, least (a linear programme, exact). In rounds: each in turn is set to nothing at the point it
moves most (Gauss-Seidel); they come to rest where the round's matrix has no eigenvalue of 1 or more (by definition).
"""

from __future__ import annotations

import math
import re
from collections.abc import Sequence
from itertools import permutations

import numpy as np
from numpy.typing import NDArray

from candor.core.errors import ValueTextError
from candor.core.late_dataclass import dataclass
from candor.core.quantities import parse_number
from candor.core.worded import worded

Floats = NDArray[np.float64]
NEAR = 0.2  # of a limit: an aim that is met
FAR = 10.0  # times a turn that was tried, beyond which nothing is known to be linear
MOST_ROUNDS = 40
MOST_ADJUSTERS = 5  # whose orders are all tried
TURNS, OF_THE_PART = "turns", "%"
EXAMPLE = "start 3.2 -1.8\ncoil 1/2: 1.1 -2.4\ntrimmer 1/4: 3.0 1.2\nlimit 1 1"


@dataclass(frozen=True)
class Turned:
    """What was read, or what a circuit says.

    Errors at the points as they stood, by each adjuster how far it was turned from there and the errors then; the limits of the
    points, all in one unit; the standard uncertainty of a reading; and in what an adjuster is turned.
    """

    start: tuple[float, ...]
    turns: tuple[tuple[str, float, tuple[float, ...]], ...]
    limits: tuple[float, ...]
    u: float = 0.0
    unit: str = TURNS


@dataclass(frozen=True)
class Interacting:
    """How adjusters that move each other are set.

    Attributes
    ----------
    names : tuple of str
    matrix : array, shape (points, adjusters)
        Error for a turn.
    at_once : tuple of float
        Turns from where it stood at the start.
    left, expanded : tuple of float
        The errors that leaves, and their U (k = 2) by what was read.
    order : tuple of (str, int)
        The best order of single adjustments, each with the point it is set at (0 the first).
    rounds : int or None
        Until every error is under a fifth of its limit, in that order; None where no number of rounds does it.
    diverges : bool
        Whether each round makes it worse.
    beyond : bool
        Whether the turns go much farther than what was tried: they do nearly the same, and no setting of them is known to do it.
    unit : "turns" or "%"
        In what they are told: per cent of the part that an adjuster acts on, where the circuit said what it does.
    """

    names: tuple[str, ...]
    matrix: Floats
    at_once: tuple[float, ...]
    left: tuple[float, ...]
    expanded: tuple[float, ...]
    order: tuple[tuple[str, int], ...]
    rounds: int | None
    diverges: bool
    beyond: bool = False
    unit: str = TURNS


def read_turned(text: str) -> Turned:
    """Read what was measured, a line each; see EXAMPLE.

    Raises
    ------
    ValueTextError
        With the line that cannot be read.
    """
    start: tuple[float, ...] = ()
    limits: tuple[float, ...] = ()
    turns: list[tuple[str, float, tuple[float, ...]]] = []
    u, unit = 0.0, TURNS
    for number, line in enumerate(text.splitlines(), 1):
        words = line.strip()
        if not words or words.startswith("#"):
            continue
        if re.fullmatch(r"in\s+per\s?cent\b.*", words, re.I):
            unit = OF_THE_PART
        elif match := re.fullmatch(r"(start|limits?|u)\s*:?\s+(.+)", words, re.I):
            values = _numbers(match[2], number)
            if match[1].lower() == "start":
                start = values
            elif match[1].lower() == "u":
                u = values[0]
            else:
                limits = values
        elif match := re.fullmatch(r"(.+?)\s+([-+−]?\s*\d[\d./,]*)\s*(?:turns?|div|marks?)?\s*:\s*(.+)", words):
            by = _turn(match[2].replace("−", "-").replace(" ", ""), number)
            turns.append((match[1].strip(), by, _numbers(match[3], number)))
        else:
            raise ValueTextError(
                worded("calibration.candor_cannot_read_line_example", number=number, words=words, example=EXAMPLE),
                value=words,
            )
    limits = limits * len(start) if len(limits) == 1 else limits
    if not start or not turns or not limits:
        raise ValueTextError(
            worded("calibration.a_line_with_start_one_with", example=EXAMPLE),
            value=text[:60],
        )
    if any(len(e) != len(start) for *_, e in turns) or len(limits) != len(start):
        raise ValueTextError(worded("calibration.every_line_has_errors_one_for", start=len(start)), value=text[:60])
    if len({n.casefold() for n, *_ in turns}) < len(turns) or min(limits) <= 0 or any(t == 0 for _, t, _ in turns):
        raise ValueTextError(worded("calibration.each_adjuster_stands_once_turned_by"), value=text[:60])
    return Turned(start=start, turns=tuple(turns), limits=limits, u=abs(u), unit=unit)


def set_together(read: Turned) -> Interacting:
    """Return the turns that set all at once, and what single adjustments in rounds would come to."""
    e0, limits = np.array(read.start), np.array(read.limits)
    steps = np.array([t for _, t, _ in read.turns])
    matrix: Floats = np.stack([(np.array(e) - e0) / t for _, t, e in read.turns], axis=1)
    turns = _least_largest(e0 / limits, matrix / limits[:, None])
    shares = turns / steps
    spread = 2 * read.u * math.sqrt((1 - shares.sum()) ** 2 + float((shares**2).sum()))
    names = tuple(n for n, *_ in read.turns)
    order, rounds, diverges = _best_order(e0 / limits, matrix / limits[:, None])
    return Interacting(
        names=names, matrix=matrix, at_once=tuple(map(float, turns)), left=tuple(map(float, e0 + matrix @ turns)),
        expanded=(spread,) * len(e0), order=tuple((names[a], p) for a, p in order), rounds=rounds, diverges=diverges,
        beyond=bool(np.abs(shares).max() > FAR), unit=read.unit,
    )  # fmt: skip


def _numbers(text: str, number: int) -> tuple[float, ...]:
    found = re.split(r"[;\s]+", text.replace("−", "-").strip())
    return tuple(parse_number(w, worded("calibration.line_errors_such_as", number=number)) for w in found if w)


def _turn(text: str, number: int) -> float:
    if match := re.fullmatch(r"([-+]?)(\d+)/(\d+)", text):
        return (-1 if match[1] == "-" else 1) * int(match[2]) / max(int(match[3]), 1)
    return parse_number(text, worded("calibration.line_a_turn_such_as_or", number=number))


def _least_largest(e0: Floats, matrix: Floats) -> Floats:
    """The turns that make the largest error least: min z, |e0 + M t| <= z; of those the smallest turns."""
    from scipy.optimize import linprog  # imported here: slow to load, and only needed once something is set

    points, count = matrix.shape
    one = np.ones((points, 1))
    found = linprog(
        np.r_[np.zeros(count), 1.0], A_ub=np.block([[matrix, -one], [-matrix, -one]]), b_ub=np.r_[-e0, e0],
        bounds=[(None, None)] * count + [(0, None)],
    )  # fmt: skip
    least = float(found.x[-1]) * (1 + 1e-9) + 1e-12
    ones, none = np.eye(count), np.zeros((points, count))
    small = linprog(
        np.r_[np.zeros(count), np.ones(count)],
        A_ub=np.block([[matrix, none], [-matrix, none], [ones, -ones], [-ones, -ones]]),
        b_ub=np.r_[least - e0, least + e0, np.zeros(2 * count)], bounds=[(None, None)] * count + [(0, None)] * count,
    )  # fmt: skip
    made: Floats = (small.x if small.success else found.x)[:count].astype(np.float64)
    return made


def _best_order(e0: Floats, matrix: Floats) -> tuple[list[tuple[int, int]], int | None, bool]:
    """The order, with the point that each is set at, that comes to rest in the fewest rounds."""
    count = matrix.shape[1]
    best: tuple[float, list[tuple[int, int]], int | None, bool] | None = None
    which = permutations(range(count)) if count <= MOST_ADJUSTERS else [tuple(range(count))]
    for order in which:
        for at in _points_for(matrix, order):
            pairs = list(zip(order, at, strict=True))
            rounds, radius = _rounds(e0, matrix, pairs)
            weight = (rounds if rounds is not None else MOST_ROUNDS + 1) + radius
            if best is None or weight < best[0] - 1e-9:
                best = weight, pairs, rounds, radius >= 1
    assert best is not None
    return best[1:]


def _points_for(matrix: Floats, order: Sequence[int]) -> list[tuple[int, ...]]:
    """Which point each may be set at: distinct ones where there are enough, those that it moves."""
    points, count = matrix.shape
    if points < count or count > 4:
        return [tuple(int(np.argmax(np.abs(matrix[:, a]))) for a in order)]
    moved = np.abs(matrix) > 1e-9 * np.abs(matrix).max(initial=1e-12)
    ranked = np.argsort(-np.abs(matrix), axis=0)[: max(count, 3)]
    found: list[tuple[int, ...]] = [
        at
        for at in permutations(sorted({int(p) for p in ranked.ravel()}), count)
        if all(moved[p, a] for p, a in zip(at, order, strict=True))
    ]
    alone: tuple[int, ...] = tuple(int(np.argmax(np.abs(matrix[:, a]))) for a in order)
    return found or [alone]


def _rounds(e0: Floats, matrix: Floats, pairs: Sequence[tuple[int, int]]) -> tuple[int | None, float]:
    """How many rounds until every error is near nothing; and by how much each round leaves of the last, at worst."""
    once = np.eye(len(e0))
    for adjuster, point in pairs:
        step = np.eye(len(e0))
        step[:, point] -= matrix[:, adjuster] / matrix[point, adjuster]
        once = step @ once
    radius = float(np.abs(np.linalg.eigvals(once)).max(initial=0.0)) if len(e0) == len(pairs) else 0.0
    errors = e0.copy()
    for count in range(1, MOST_ROUNDS + 1):
        errors = once @ errors
        if np.abs(errors).max() <= NEAR:
            return count, radius
    return None, radius
