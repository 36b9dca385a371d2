"""Looking for a fault along a chain of stages: what each look tells, and which look next.

One fault is taken to be somewhere in the chain, in a stage by its prior, or in the lead that looks. A look behind a stage is good
where the fault lies after it. Looks are right with a reliability; belief follows by Bayes' rule. The next look is the one with the
most expected information for its minutes (C. E. Shannon, Bell System Tech. J. 27, 1948): half-way where all is equal.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Literal

from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded

RELIABLE = 0.98  # that a look says what is so: common practice, no source
ODD = 0.7  # an odd look speaks for bad so much: common practice, no source
ENOUGH = 0.85  # belief at which the cause is said
LEAD = 0.05  # that the lead or the injected signal is at fault, until it was proved: common practice, no source

Outcome = Literal["good", "bad", "odd"]


@dataclass(frozen=True)
class Stage:
    """A stage: its name, how likely it is the faulty one beside the others, and what a look behind it costs, min.

    `low` and `high` are the band of a number read behind it, such as a gain; both 0 where a look has none.
    """

    name: str
    weight: float = 1.0
    minutes: float = 3.0
    low: float = 0.0
    high: float = 0.0

    def outcome_of(self, value: float) -> Outcome:
        """Say what a number read behind it means: within its band it is good, within a tenth outside it is odd."""
        if self.low <= value <= self.high:
            return "good"
        room = 0.1 * (self.high - self.low)
        return "odd" if self.low - room <= value <= self.high + room else "bad"


@dataclass(frozen=True)
class Look:
    """A look: behind which stage, and what was seen. `lifted` is a connection that was lifted or a tube pulled there: what is seen
    then speaks of what lies before it alone, and surely.
    """

    behind: int
    outcome: Outcome
    lifted: bool = False


@dataclass(frozen=True)
class Advice:
    """Which look next: behind which stage, how many bits it is expected to tell, and its minutes."""

    behind: int
    bits: float
    minutes: float


def belief(stages: Sequence[Stage], looks: Sequence[Look], lead_proved: bool = True) -> tuple[float, ...]:
    """Return the probability (1) that each stage is the faulty one, and last that the lead is (Bayes' rule).

    Raises
    ------
    RangeError
        Where there is no stage, or no weight is above zero.
    """
    total = sum(stage.weight for stage in stages)
    if not stages or total <= 0 or any(stage.weight < 0 for stage in stages):
        raise RangeError(worded("trace.a_chain_has_at_least_one"))
    lead = 0.0 if lead_proved else LEAD
    weights = [(1 - lead) * stage.weight / total for stage in stages]
    for look in looks:
        weights = [w * _likelihood(index, look) for index, w in enumerate(weights)]
        lead *= 1 - RELIABLE if look.outcome == "good" else 0.9  # through a bad lead nearly all looks bad
    whole = sum(weights) + lead
    return (*(w / whole for w in weights), lead / whole)


def _likelihood(fault: int, look: Look) -> float:
    reliable = RELIABLE if not look.lifted else 0.5 * (1 + RELIABLE)
    is_behind = fault <= look.behind  # the fault lies before the place of the look
    if look.outcome == "odd":
        return ODD if is_behind else 1 - ODD
    return reliable if (look.outcome == "bad") == is_behind else 1 - reliable


def next_look(stages: Sequence[Stage], looks: Sequence[Look]) -> Advice | None:
    """Return the look with the most bits for a minute; None where one stage is believed enough already.

    Raises
    ------
    RangeError
        As `belief`.
    """
    now = belief(stages, looks)[:-1]
    if max(now) >= ENOUGH:
        return None
    best: Advice | None = None
    before = 0.0
    for index, stage in enumerate(stages[:-1]):
        before += now[index]
        p_bad = RELIABLE * before + (1 - RELIABLE) * (1 - before)
        bits = _entropy(p_bad) - _entropy(RELIABLE)
        if bits > 1e-6 and (best is None or bits / stage.minutes > best.bits / best.minutes):
            best = Advice(index, bits, stage.minutes)
    return best


def _entropy(p: float) -> float:
    return 0.0 if p <= 0 or p >= 1 else -p * math.log2(p) - (1 - p) * math.log2(1 - p)


def fewest_looks(weights: Sequence[float]) -> float:
    """Return the mean number of looks of the best plan there is, where every look is right and costs the same.

    By dynamic programming over all runs of stages (D. E. Knuth, Acta Informatica 1, 1971, with leaves alone).
    """
    total = sum(weights)
    count = len(weights)
    sums = [0.0]
    for weight in weights:
        sums.append(sums[-1] + weight / total)
    cost = [[0.0] * (count + 1) for _ in range(count + 1)]
    for span in range(2, count + 1):
        for begin in range(count - span + 1):
            end = begin + span
            split = min(cost[begin][cut] + cost[cut][end] for cut in range(begin + 1, end))
            cost[begin][end] = sums[end] - sums[begin] + split
    return cost[0][count]


@dataclass(frozen=True)
class Trail:
    """Where the looks lead: the stage, its probability (1), the stages good before it and bad from it on."""

    stage: str
    probability: float
    good: tuple[str, ...]
    bad: tuple[str, ...]


def trail(stages: Sequence[Stage], looks: Sequence[Look]) -> Trail | None:
    """Return the cause, the looks that speak for it, and what excluded the others; None while it is open.

    Raises
    ------
    RangeError
        As `belief`.
    """
    now = belief(stages, looks)[:-1]
    which = max(range(len(stages)), key=lambda i: now[i])
    if now[which] < ENOUGH or not looks:
        return None
    good = [stages[x.behind].name for x in looks if x.outcome == "good" and x.behind < which]
    bad = [stages[x.behind].name for x in looks if x.outcome != "good" and x.behind >= which]
    return Trail(stages[which].name, now[which], tuple(dict.fromkeys(good)), tuple(dict.fromkeys(bad)))
