"""What is said of which parts to measure first."""

from __future__ import annotations

from typing import Any

from candor.core.suspects.measure_first import MeasureFirst

FEWEST = 3  # parts from which an order is worth saying


def say_first(first: MeasureFirst) -> str:
    """Return which parts to measure first, and what that is worth; nothing where there are too few to choose from."""
    if len(first.order) < FEWEST:
        return ""
    names = ", ".join(ref for ref, _ in first.order[: first.least])
    half, many = first.half, len(first.order)
    return (
        f"To find what is off, measure in this order: {names}. Where one part alone is to blame, it is among the first {half} in "
        f"{round(100 * first.found(half))} of 100 ({half} at random: {round(100 * first.at_random(half))}), among the first "
        f"{first.least} of {many} in {round(100 * first.found(first.least))}."
    )


def first_json(first: MeasureFirst) -> dict[str, Any]:
    """Return it as JSON has it."""
    return {
        "order": [{"part": ref, "share": share} for ref, share in first.order], "least": first.least, "half": first.half,
        "sentence": say_first(first),
    }  # fmt: skip
