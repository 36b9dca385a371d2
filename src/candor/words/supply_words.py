"""A supply's answer in words and as JSON: every node cold and warm, the rectifier, another one in its place."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from candor.core.power.first_capacitor import FirstCapacitor
from candor.core.power.supply import SupplyAnswer
from candor.core.power.supply_answer import SupplyReport
from candor.core.power.swap import HEATER_RELIEF, HEATERLESS, WARM_UP_S, LineControl, SwapAnswer
from candor.core.power.typed import CapacitorStress
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
        "warnings": list(_warnings(answer)),
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
    return (*lines, *_warnings(answer))


def say_held(capacitors: Sequence[str]) -> str:
    """Say which capacitors nothing discharges."""
    held = "it holds its charge" if len(capacitors) == 1 else "they hold their charge"
    return f"Nothing discharges {' and '.join(capacitors)}: {held} after the plug is out."


def say_still_moving(seconds: float) -> str:
    """Say that a supply had not settled after so many s."""
    return f"It still moves after {seconds:.3g} s: the figures are of its last ten cycles, not of where it ends."


def _warnings(answer: SupplyAnswer) -> tuple[str, ...]:
    said = [say_held(answer.undischarged)] if answer.undischarged else []
    return (*said, *(() if answer.settled else (say_still_moving(answer.ran_s),)))


def report_lines(report: SupplyReport) -> tuple[str, ...]:
    """Return a typed supply as sentences, the worst first, then every capacitor cold and warm."""
    answer, asked = report.answer, report.asked
    lines = [*say_stresses(answer.stresses)]
    lines.append(f"With nothing drawn, regulation and +10 % line included: {answer.no_load_volts:.0f} V.")
    lines += [say_node(s) for s in answer.stresses]
    peak, first = engineering(answer.peak_amperes, "A", 2), engineering(answer.first_peak_amperes, "A", 2)
    lines.append(f"Peaks through the rectifier: {peak} running, {first} at switch-on.")
    if report.first is not None:
        lines.append(say_first_capacitor(report.first, asked.rated_peak_amperes))
    if report.control is not None:
        lines.append(say_line_control(report.control))
    return (*lines, *_warnings(answer.cold), *(say_swap(report.swap) if report.swap else ()))


def say_stresses(stresses: tuple[CapacitorStress, ...]) -> tuple[str, ...]:
    """Say which capacitors are over their rating, else that none is; and of which no rating is known."""
    over = [s for s in stresses if s.is_over]
    unknown = [s.name for s in stresses if not s.rated]
    lines = []
    if over:
        names, worst = " and ".join(s.name for s in over), max(s.peak_volts for s in over)
        rated = min(s.rated for s in over)
        them = "it" if len(over) == 1 else "them"
        lines.append(
            f"{names}: {worst:.0f} V before anything draws, at +10 % line, over {rated:.0f} V. Replace {them} by a higher "
            "rating, or make sure that the load comes first."
        )
    elif not unknown:
        lines.append("Every capacitor is rated for what it meets.")
    if unknown:
        lines.append(f"No rating is given for {', '.join(unknown)}.")
    return tuple(lines)


def say_node(found: CapacitorStress) -> str:
    """Say what stands on one capacitor of the filter: warm at nominal and at high line, and cold before the tubes draw."""
    loaded, ripple = engineering(found.loaded_volts, "V", 4), engineering(found.ripple_volts, "V", 2)
    high, cold = engineering(found.high_line_volts, "V", 4), f"{found.peak_volts:.0f} V"
    rated = f", rated {found.rated:.0f} V" if found.rated else ""
    return (
        f"{found.name}: {loaded} warm, ripple {ripple} p-p; {high} at +10 % line; {cold} cold at +10 % line{rated}."
    )


def say_first_capacitor(found: FirstCapacitor, rated_amperes: float) -> str:
    """Say up to what size the first capacitor may grow before the rectifier's peaks are over what it is rated for, A."""
    rated = engineering(rated_amperes, "A", 2)
    if not found.farad:
        return f"Even the smallest usual input capacitor draws peaks of {engineering(found.next_amperes, 'A', 2)}, above {rated}."
    largest, passes = engineering(found.farad, "F", 2), engineering(found.amperes, "A", 2)
    beyond = f"; the next size {engineering(found.next_amperes, 'A', 2)}" if found.next_amperes else ""
    return f"The first capacitor may be up to {largest}: peaks of {passes}, of {rated} allowed{beyond}."


def say_swap(answer: SwapAnswer) -> tuple[str, ...]:
    """Say what another rectifier does: three numbers in V, then the resistor in ohm and W, and what it does not mend."""
    low, high = answer.relief_volts
    lines = [
        f"The smaller drop: the rail goes from {answer.before_volts:.0f} V to {answer.after_volts:.0f} V.",
        f"The heater that is gone: {low:.0f} to {high:.0f} V more, and every heater with it, 1 to 3 % "
        "(common practice, no source).",
        f"The delay that is gone: {answer.cold_volts:.0f} V on every capacitor for {WARM_UP_S[0]:.0f} to {WARM_UP_S[1]:.0f} s at "
        "+10 % line.",
    ]
    if answer.dropper_ohms > 0:
        lines.append(
            f"{answer.dropper_ohms:.0f} Ω after the first capacitor mends the first alone: it takes {answer.dropper_watts:.1f} W, "
            f"choose {answer.chosen_watts:.0f} W. Cold it drops nothing, {answer.dropped_cold_volts:.0f} V; warm at +10 % line the "
            f"rail is {answer.dropped_high_volts:.0f} V."
        )
    return tuple(lines)


def say_swapped(old: str, crest_volts: float) -> str:
    """Say at once what silicon in place of another rectifier does: drop, heater load, delay; V of the crest at +10 % line, or 0."""
    drop = {
        "selenium": "selenium drops about 1 V a plate, more with age, silicon 1 V in all",
        "mercury vapour": "mercury vapour drops about 15 V, silicon 1 V",
        "vacuum": "a vacuum rectifier drops 17 to 60 V at its load, silicon 1 V",
    }[old]
    what = "a vacuum rectifier" if old == "vacuum" else old
    crest = f" of {crest_volts:.0f} V at +10 % line" if crest_volts else ""
    if old in HEATERLESS:
        return (
            f"Silicon for {what}: the rails rise ({drop}). No heater and no delay are lost, but hold every rail "
            "and heater to its rating before the instrument is used, and fit a dropping resistor where a rail is too high."
        )
    low, high = HEATER_RELIEF
    return (
        f"Silicon for {what}. The rails rise ({drop}). The heater that is gone lifts every winding by {100 * low:.0f} to "
        f"{100 * high:.0f} %. The delay that is gone puts the open-circuit crest{crest} on every capacitor "
        f"for {WARM_UP_S[0]:.0f} to {WARM_UP_S[1]:.0f} s after switch-on. A dropping resistor mends the first alone. The plan and "
        "the ratings are changed to match."
    )


def say_line_control(found: LineControl) -> str:
    """Say whether a control of the line can take a rail back, and what that does to the heaters."""
    heaters = f"heaters then stand at {100 * found.heaters:.0f} %"
    if found.is_enough:
        return f"The line control takes it back at {100 * found.ratio:.0f} % of the line; {heaters}."
    return f"The line control ends at {100 * found.lowest:.0f} %: the rail stays {100 * found.left:.0f} % too high, and {heaters}."
