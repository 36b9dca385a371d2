"""What is said of which parts to measure first."""

from __future__ import annotations

from typing import Any

from candor.core.suspects.measure_first import MeasureFirst

FEWEST = 3  # parts from which an order is worth saying


def say_first(first: MeasureFirst) -> str:
    """Return which parts to measure first, and what that is worth; nothing where there are too few to choose from."""
    if len(first.order) < FEWEST:
        return ""
    half = first.half
    names = ", ".join(ref for ref, _ in first.order[:half])
    return (
        f"To find what is off, measure these first: {names}. Where one part alone is to blame, it is one of these in "
        f"{round(100 * first.found(half))} of 100 ({half} at random: {round(100 * first.at_random(half))}). {say_next(first)}"
    )


def say_next(first: MeasureFirst) -> str:
    """Return which come after those, and how far that goes."""
    names = ", ".join(ref for ref, _ in first.order[first.half : first.least])
    share = f"{round(100 * first.found(first.least))} of 100 are among {first.least} of {len(first.order)}"
    return f"Then {names}: {share}." if names else f"{share[:1].upper()}{share[1:]}."


def first_json(first: MeasureFirst) -> dict[str, Any]:
    """Return it as JSON has it."""
    return {
        "order": [{"part": ref, "share": share} for ref, share in first.order], "least": first.least, "half": first.half,
        "sentence": say_first(first),
    }  # fmt: skip
