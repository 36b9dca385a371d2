"""Drift in words: when an instrument is due and why, and whether to adjust."""

from __future__ import annotations

from candor.core.drift.due import ADJUST_BELOW, LONGEST, Advice, Due
from candor.core.quantities.show import signed

NAMED = 2  # points that a sentence names before it counts
STAIRS = {
    "cut": "it came back out of tolerance: the interval is cut",
    "longer": "it was well within limits, so the interval grows by a fifth",
    "kept": "it came back near its limit: the interval stays",
}


def say_due(found: Due) -> str:
    """Say why a day, the beginning of it in small letters; and which points were too coarse to count."""
    why = found.why
    if not why.left_out:
        return _say_day(found)
    named = ", ".join(f"“{name}”" for name in why.left_out[:NAMED])
    more = f" and {len(why.left_out) - NAMED} more" if len(why.left_out) > NAMED else ""
    too = f"whose readings are too coarse to decide at {_percent(why.target)} on any day"
    return f"{_say_day(found)}; not included: {named}{more}, {too}"


def _say_day(found: Due) -> str:
    why = found.why
    if why.kind == "jumped":
        return f"due now: the latest result for {why.point} is far from its history; repeat it, or find out what happened"
    if why.kind == "holds":
        return f"after {LONGEST:g} years it is still {_percent(why.target)} likely to be in tolerance; do not wait longer than that"
    if why.kind == "under":
        return f"due now: {why.point} is only {_percent(why.chance)} likely to be in tolerance"
    if why.kind == "custom":
        return f"{why.months:g} months, usual for this kind: there is no history yet"
    if why.kind != "falls":
        return STAIRS[why.kind]
    words = f"on that date the probability that every point is in tolerance falls to {_percent(why.target)}. {why.point} limits it"
    return f"{words}: expected error {signed(100 * why.share, 0)} % of its limit, ±{100 * why.spread:.0f} %"


def _percent(share: float) -> str:
    """Never more certain than it is: what rounds to all or nothing is over 99 or under 1 per cent."""
    if share >= 0.995 or share < 0.005:
        return "over 99 %" if share > 0.5 else "under 1 %"
    return f"{100 * share:.0f} %"


def advice_word(found: Advice) -> str:
    """Say what to do with a point in a word or two."""
    return "Read it again" if found.kind == "jumped" else "Adjust it" if found.adjust else "Leave it"


def say_advice(found: Advice) -> str:
    """Say whether to adjust a point that is in tolerance, and why."""
    word = advice_word(found)
    if found.kind == "jumped":
        return f"{word}: its newest result is far from its history. Adjusting would hide what happened."
    if found.kind == "coarse":
        return (
            f"{word}: U alone is {100 * found.share:.0f} % of its limit, so adjusting by this reading would not make it surer. "
            "Get a better reading first."
        )
    why = f"{_percent(found.chance)} likely to be in tolerance on {found.due:%d %b %Y}"
    if found.kind == "alone":
        side = "not below" if found.adjust else "below"
        why = f"|error| + U is {side} {ADJUST_BELOW:g} of its limit, and it has no history"
    cost = "" if found.adjust else " Adjusting starts a new history."
    return f"{word}: {why}. Due {found.left:%d %b %Y} if left, {found.adjusted:%d %b %Y} if adjusted.{cost}"
