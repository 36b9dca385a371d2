"""What may be applied to a range at most, in words: at its step, before a lead moves, on papers, on the command line."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from itertools import groupby
from typing import Any

from candor.core.quantities import engineering
from candor.core.quantities.show import trimmed
from candor.packs.base import Caution
from candor.packs.greatest_of_range import Applied, Greatest, OnTheLine, applied_before, greatest_at
from candor.packs.model import Pack
from candor.packs.procedure import ProcedureStep

LEAD = "greatest"  # key of the caution before a lead or a range switch is moved
TELLING = 1.5  # from here the times are said
ABOVE = "Above it nothing is known to hold."


def say_greatest(found: Greatest) -> str:
    """Say what a range bears at most, and by what that is known."""
    most = f"At most {_amount(found)}"
    if found.basis == "nothing":
        return "No volts on the terminals: an ohms range is not known to hold any."
    held = f" for {trimmed(found.seconds, 3)} s" if found.seconds else ""
    if found.basis == "maker":
        return f"{most}{held}, by its maker. {ABOVE}"
    if found.basis == "rating":
        below = ", below full scale" if found.value < found.full_scale else ""
        return f"{most}{held}: there {found.part} reaches {_reached(found)}{below}. {ABOVE}"
    return f"{most}, its full scale. {ABOVE}"


def say_line(on_line: OnTheLine) -> str:
    """Say what a line on the terminals of a range does to it, at ten per cent more than nominal."""
    volts = f"{trimmed(on_line.volts, 3)} V line on it"
    if on_line.holds:
        return f"{volts}: within what it is known to hold."
    if not on_line.part:
        return f"{volts}: more than it is known to hold."
    times = f"{trimmed(on_line.times, 2)} times what" if on_line.times >= TELLING else "more than"
    return f"{volts}: {on_line.part} gets {times} it is known to bear."


def say_lead(applied: float, found: Greatest) -> str:
    """Say, before a lead or a range switch is moved, that what was applied last is more than this range bears."""
    least = "no volts" if not found.value else f"{_amount(found)} at most"
    return (
        f"{engineering(abs(applied), 'V')} was applied last, and this range is known to hold {least}: source to zero and off "
        "before the range or a lead is changed."
    )


def cautions_at(pack: Pack, step: ProcedureStep, applied: Applied | None = None) -> tuple[Caution, ...]:
    """Return what is to be said before a step: its own cautions, and that what was applied last is too much for its range.

    `applied` is what was applied last; None for what the procedure applies before the step.
    """
    if step.point is None or not (found := _of_step(pack, step)):
        return step.cautions
    last = applied_before(pack, step.key) if applied is None else applied
    if last.peak <= found.peak * (1 + 1e-9):
        return step.cautions
    lead = Caution(
        key="greatest",
        level="attention",
        text=say_lead(last.volts, found),
        short="Source to zero before the range is changed",
    )
    return (*step.cautions, lead) if step.cautions else (lead,)


def greatest_words(pack: Pack, step: ProcedureStep, *, frail: bool | None = None) -> str:
    """Say at a step what its range bears at most, and of an ohms or current range what the line does to it.

    `frail` asks for ranges alone that a wrong lead ends at once, of ohms and of currents and those that bear less than full scale;
    False for the others alone.
    """
    found = _of_step(pack, step)
    if found is None or (
        frail is not None and frail != (found.unit == "A" or found.value < found.full_scale or not found.full_scale)
    ):
        return ""
    lines = found.on_line if not found.full_scale or found.unit == "A" else ()
    told = {say_line(one) for one in lines if one.part}
    return " ".join((say_greatest(found), *sorted(told)))


def greatest_lines(found: Iterable[Greatest]) -> list[str]:
    """Return the greatest of every range, a line each under its function."""
    lines = []
    for function, ranges in groupby(found, key=lambda one: one.function):
        lines.append(function)
        lines += [
            f"  {one.range}: {say_greatest(one)} {' '.join(say_line(o) for o in one.on_line)}" for one in ranges
        ]
    return lines or ["Nothing is applied to it: it has no range of volts, amperes or ohms."]


def greatest_json(found: Iterable[Greatest]) -> list[dict[str, Any]]:
    """Return it as fields, with its sentence."""
    return [
        {
            "function": one.function, "range": one.range, "greatest": one.value, "unit": one.unit,
            "marked": one.marked, "basis": one.basis, "part": one.part, "reaches": one.why, "seconds": one.seconds,
            "full_scale": one.full_scale, "sentence": say_greatest(one),
            "line": [{"volts": o.volts, "holds": o.holds, "part": o.part, "times": o.times, "sentence": say_line(o)} for o in one.on_line],
        }
        for one in found
    ]  # fmt: skip


def say_most(found: Iterable[Greatest]) -> tuple[str, str]:
    """Return what an instrument bears at most, whole and in short for its label; empty where nothing is applied to it."""
    ranges = list(found)
    if not ranges:
        return "", ""
    none = list(dict.fromkeys(one.function for one in ranges if one.basis == "nothing"))
    plain = any(one.basis == "full scale" for one in ranges)
    said = ["full scale of the range that is set"] if plain else []
    more = [one for one in ranges if one.basis in ("maker", "rating")]
    for function, group in groupby(more, key=lambda one: one.function):
        amounts = {
            one.range: _amount(one) + (f" for {trimmed(one.seconds, 3)} s" if one.seconds else "") for one in group
        }
        by_range = len(set(amounts.values())) > 1
        listed = ", ".join(f"{name} range {amount}" for name, amount in amounts.items())
        said.append(f"{function} {listed if by_range else next(iter(amounts.values()))}")
    said += [f"no volts on {', '.join(none)}"] if none else []
    by_line = {
        volts: _listed(ranges, volts) for volts in dict.fromkeys(o.volts for one in ranges for o in one.on_line)
    }
    lines = [
        f"{' and '.join(trimmed(v, 3) for v in same)} V line: on {held}"
        for held in dict.fromkeys(by_line.values())
        if (same := [v for v, h in by_line.items() if h == held])
    ]
    first = said[0] if plain else "what its papers say"
    short = f"At most {first}" + (f"; no volts on {', '.join(none)}" if none else "")
    return f"At most: {'; '.join(said)}. {ABOVE} {'. '.join(lines)}.", short


def _listed(ranges: list[Greatest], volts: float) -> str:
    """The ranges that bear a line, by function; of a function that bears it on all of them the name alone."""
    said = []
    for function, group in groupby(ranges, key=lambda one: one.function):
        all_of = list(group)
        held = [one.range for one in all_of if any(o.volts == volts and o.holds for o in one.on_line)]
        said += [function if len(held) == len(all_of) else f"{function} {', '.join(held)}"] if held else []
    return f"{'; '.join(said)} alone" if said else "no range"


def _of_step(pack: Pack, step: ProcedureStep) -> Greatest | None:
    point = step.point
    if point is None or not point.needs_reference:
        return None
    function, range_ = point.key.split("/")[:2]
    name, *modified = range_.split("*")
    found = greatest_at(pack, function, name)
    if found is None or not modified:
        return found
    return replace(
        found,
        range=point.range_name,
        value=point.full_scale,
        full_scale=point.full_scale,
        basis="full scale",
        part="",
    )


def _amount(found: Greatest) -> str:
    kind = {"": "", "rms": " r.m.s.", "peak": " peak", "peak to peak": " p-p", "average": " average"}[found.marked]
    return f"{engineering(found.value, found.unit)}{kind}"


def _reached(found: Greatest) -> str:
    if found.why == "watts":
        return f"its {engineering(found.bears, 'W')}"
    volts = engineering(found.bears, "V")
    if found.why == "usual":
        return f"{volts}, which is usual of its watts [common practice, no source]"
    return f"its {volts}" if found.why == "rating" else f"{volts}, what full scale of another range gives it"
