"""A supply's answer in words and as JSON, no figure finer than the calculating is."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from candor.core.power.supply import SupplyAnswer
from candor.core.quantities import engineering

LEAST_SHARE = 1e-6  # of the peak, below which a mean is what rounding left of nothing


def supply_json(answer: SupplyAnswer) -> Mapping[str, Any]:
    """Return the answer as plain values: V, A, s."""
    return {
        "nodes": {
            node: {
                "mean": round(volts.mean, 4), "min": round(volts.low, 4), "max": round(volts.high, 4),
                "ripple": round(volts.ripple, 5), "peak": round(volts.peak, 4),
            }
            for node, volts in answer.nodes.items()
        },
        "rectifiers": {
            name: {"peak": round(steady, 5), "peak_ever": round(ever, 5)}
            for name, (steady, ever) in answer.rectifier_peaks.items()
        },
        "ran_s": round(answer.ran_s, 6),
        "settled": answer.settled,
        "warnings": list(answer.warnings),
    }  # fmt: skip


def supply_lines(answer: SupplyAnswer) -> tuple[str, ...]:
    """Return the answer as lines to be read: four figures for a rail, three for its ripple; V, A, s."""
    lines = [f"After {engineering(answer.ran_s, 's', 3)} from cold{'' if answer.settled else ', not settled'}:"]
    for node, volts in answer.nodes.items():
        mean = volts.mean if abs(volts.mean) > LEAST_SHARE * abs(volts.peak) else 0.0
        mean_words, ripple = engineering(mean, "V", 4), engineering(volts.ripple, "V", 3)
        lines.append(
            f"  {node}: mean {mean_words}, ripple {ripple} p-p, never beyond {engineering(volts.peak, 'V', 4)}"
        )
    for name, (steady, ever) in answer.rectifier_peaks.items():
        lines.append(f"  {name}: peaks of {engineering(steady, 'A', 3)}, when cold {engineering(ever, 'A', 3)}")
    return (*lines, *answer.warnings)
