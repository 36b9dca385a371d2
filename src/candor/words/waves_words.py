"""What waveforms come to, as JSON and as lines."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from candor.core.errors import RangeError
from candor.core.quantities import parse_quantity
from candor.core.waves.analysis import Analysis, analyse_all
from candor.core.waves.floors import AT_FLOOR, AnalyserReading, Compared
from candor.core.waves.scope_csv import read_waveforms
from candor.core.waves.times import source_rise
from candor.core.waves.wave_figure import Figure


def waveforms_told(text: str, name: str, scope: str = "") -> list[dict[str, Any]]:
    """Return each channel's figures, with U (k = 2), the levels that were used, and what cannot be told and why; SI.

    Parameters
    ----------
    text : str
        As an oscilloscope writes it.
    name : str
        Of the file.
    scope : str
        The oscilloscope's own rise time, where that of what stands before it is asked for.

    Raises
    ------
    ValueTextError, RangeError, UnitError
        Where the file, or the rise time, cannot be read; where channels are not sampled together.
    """
    return [_told(one, scope) for one in analyse_all(read_waveforms(text, name))]


def _told(found: Analysis, scope: str) -> dict[str, Any]:
    figures = list(found.figures)
    untold = [{"figure": u.name, "why": u.why} for u in found.untold]
    rise = found.figure("rise")
    if scope and rise is not None:
        own = parse_quantity(scope, "s").value
        try:
            figures.append(source_rise(rise.value, rise.u, own, 0.02 * own))
        except RangeError as error:
            untold.append({"figure": "rise of the source", "why": str(error)})
    levels, wave = found.levels, found.wave
    return {
        "channel": wave.name,
        "samples": wave.count,
        "interval_s": wave.interval_s,
        "noise": wave.noise,
        "resolution": wave.resolution,
        "levels": {
            "base": levels.base, "top": levels.top, "low": levels.at(0.1), "middle": levels.at(0.5), "high": levels.at(0.9),
            "method": levels.method, "unit": wave.unit,
        },
        "figures": {f.name: _figure(f) for f in figures},
        "untold": untold,
        "warnings": list(found.warnings),
    }  # fmt: skip


def _figure(figure: Figure) -> dict[str, Any]:
    of_field = {"value": figure.value, "u": figure.u, "U": figure.expanded, "unit": figure.unit}
    return {**of_field, "count": figure.count, "words": figure.words}


def waveform_lines(text: str, name: str, scope: str = "") -> list[str]:
    """Return the same as lines. Raises as waveforms_told."""
    lines = []
    for told in waveforms_told(text, name, scope):
        lines.append(
            f"{told['channel']}: {told['samples']} samples of {told['interval_s']:.4g} s; levels by {told['levels']['method']}"
        )
        lines += [f"  {warning}" for warning in told["warnings"]]
        for key, f in told["figures"].items():
            lines.append(f"  {key}: {Figure(key, f['value'], f['unit'], f['u']).shown} ({f['words']})")
        lines += [f"  {u['figure']}: cannot be told, {u['why']}" for u in told["untold"]]
    return lines


def floors_json(readings: Sequence[AnalyserReading], found: Compared) -> dict[str, Any]:
    """Return what analysers say of one source, per cent."""
    each = [
        {"shown": r.shown, "own": r.own, "U": r.expanded, "between": r.between, "at_floor": r.is_at_floor}
        for r in readings
    ]
    return {"readings": each, "between": found.between, "outcome": found.outcome}


def say_floors(readings: Sequence[AnalyserReading], found: Compared) -> list[str]:
    """Return a sentence for each reading, and what they come to together."""
    lines = []
    for number, r in enumerate(readings, 1):
        floor = f", at its floor: under {AT_FLOOR:g} times its own {_percent(r.own)}" if r.is_at_floor else ""
        lines.append(f"Analyser {number} shows {_percent(r.shown)}: the source lies in {_between(r.between)}{floor}.")
    if found.between is None:
        return [*lines, "No distortion goes with all of them: they differ, and at least one of them is wrong."]
    by_all = f"All of them go with {_between(found.between)}."
    if found.outcome == "cannot tell":
        return [
            *lines,
            by_all,
            "Whether they agree cannot be told: what stands at its floor shows itself, not the source.",
        ]
    return [*lines, by_all, "They agree."]


def _between(ends: tuple[float, float]) -> str:
    return f"{ends[0]:.3g} to {ends[1]:.3g} %"


def _percent(value: float) -> str:
    return f"{value:.3g} %"
