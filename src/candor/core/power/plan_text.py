"""A plan as lines that can be read and edited: a step begins with its name, what it says stands below it, set in.

`heaters: line 161 V; hold 2 min; set intensity down`
`  read watts 15..30`
`  expect click at 30 s`
`  cut b1 beyond 350 V`
"""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import replace
from functools import lru_cache

from candor.core.errors import CandorError
from candor.core.power.plan import Band, Cut, Expected, Plan, PlanError, PlanStep, Way, unit_of
from candor.core.quantities import engineering, parse_quantity
from candor.core.quantities.show import in_unit, trimmed
from candor.core.worded import worded

EXPECTED = worded("power.line_hold_set_read_expect_cut")
EXAMPLE = "warm: line 230 V; hold 5 min; read watts 20..40; cut watts beyond 60 W; then read every rail"
_NUMBER = r"[+−-]?[\d.,]+\s?[A-Za-zµΩ]*"


def plan_lines(plan: Plan) -> str:
    """Return the steps of a plan as lines."""
    return "\n".join(_line(step) for step in plan.steps)


def _line(step: PlanStep) -> str:
    first = [worded("power.line_v", line_volts=trimmed(step.line_volts)) if step.line_volts else "line off"]
    first += [f"hold {say_seconds(step.hold_s)}"] if step.hold_s else []
    said = [f"set {words}" for words in step.settings]
    bands = [f"{b.name} {trimmed(b.low)}..{trimmed(b.high)} {unit_of(b.name)}" for b in step.bands]
    said += ["; ".join(f"read {band}" for band in bands)] if bands else []
    events = [f"expect {e.words}" + (f" at {say_seconds(e.at_s)}" if e.at_s else "") for e in step.events]
    said += ["; ".join(events)] if events else []
    for cut in step.cuts:
        after = f" after {say_seconds(cut.after_s)}" if cut.after_s else ""
        why = f", {cut.why}" if cut.why else ""
        said.append(
            worded(
                "power.cut_beyond",
                name=cut.name,
                beyond=trimmed(cut.beyond),
                unit_of=unit_of(cut.name),
                after=after,
                why=why,
            )
        )
    said += [f"then {step.then}"] if step.then else []
    said += [f"caution {step.caution}"] if step.caution else []
    return "\n".join([f"{step.title}: {'; '.join(first)}", *(f"  {words}" for words in said)])


def say_seconds(seconds: float) -> str:
    """Return s as people write a time: ``30 s``, ``2 min``."""
    return in_unit(seconds / 60, "min") if seconds >= 60 and seconds % 30 == 0 else in_unit(seconds, "s")


@lru_cache(maxsize=64)
def read_plan(text: str, way: Way, why: str) -> Plan:
    """Read a plan from its lines.

    Raises
    ------
    PlanError
        With the line, what stands there and what was expected; and where the plan contradicts itself.
    """
    steps: list[PlanStep] = []
    for number, line in enumerate(text.splitlines(), 1):
        if not line.strip():
            continue
        if line[0].isspace() and steps:
            steps[-1] = _with_clauses(number, steps[-1], line)
        else:
            title, colon, rest = line.partition(":")
            if not colon or not title.strip():
                raise PlanError(worded("power.line_has_no_name_before_a", number=number, example=EXAMPLE))
            if title.strip() in {step.title for step in steps}:
                raise PlanError(worded("power.line_is_there_twice_each_step", number=number, title=title.strip()))
            steps.append(_with_clauses(number, PlanStep(title.strip(), 0.0), rest))
    return Plan(way, why, tuple(steps)).checked()


def _with_clauses(number: int, step: PlanStep, text: str) -> PlanStep:
    # Words to the hands may have semicolons of their own: on a line by themselves they go to its end.
    whole = text.split()[:1] in (["then"], ["caution"])
    for clause in filter(None, (c.strip() for c in ([text] if whole else text.split(";")))):
        word, _, said = clause.partition(" ")
        reader = _READERS.get(word.lower())
        try:
            if reader is None:
                raise PlanError(worded("power.begins_with_none_of", clause=clause, expected=EXPECTED))
            step = reader(step, said.strip())
        except CandorError as error:
            raise PlanError(
                worded("power.line_the_plan_stays_as_it", number=number, clause=clause, error=str(error).rstrip("."))
            ) from None
    return step


def _seconds(text: str) -> float:
    match = re.fullmatch(r"([\d.,]+)\s*(s|sec|seconds?|min|minutes?|h|hours?)?", text.strip(), re.I)
    if match is None:
        raise PlanError(worded("power.is_not_a_time_examples_s", text=text))
    value = parse_quantity(match[1], "s").value
    return value * {"m": 60, "h": 3600}.get((match[2] or "s")[0].lower(), 1)


def _line_volts(step: PlanStep, said: str) -> PlanStep:
    if said.lower() == "off":
        return replace(step, line_volts=0.0)
    return replace(step, line_volts=parse_quantity(said, "V").value)


def _read(step: PlanStep, said: str) -> PlanStep:
    match = re.fullmatch(rf"(\S+)\s+({_NUMBER})\s*\.\.\s*({_NUMBER})", said)
    if match is None:
        raise PlanError(worded("power.expected_a_name_and_both_ends"))
    name, unit = match[1].lower(), unit_of(match[1].lower())
    band = Band(name, parse_quantity(match[2], unit).value, parse_quantity(match[3], unit).value)
    return replace(step, bands=(*(b for b in step.bands if b.name != name), band))


def _cut(step: PlanStep, said: str) -> PlanStep:
    match = re.fullmatch(rf"(\S+)\s+(?:beyond|over|above)?\s*({_NUMBER}?)(?:\s+after\s+([^,]+))?(?:,\s*(.*))?", said)
    if match is None:
        raise PlanError(worded("power.expected_a_name_and_a_value"))
    name = match[1].lower()
    cut = Cut(
        name,
        abs(parse_quantity(match[2], unit_of(name)).value),
        match[4] or "",
        _seconds(match[3]) if match[3] else 0.0,
    )
    return replace(step, cuts=(*(c for c in step.cuts if (c.name, c.after_s) != (name, cut.after_s)), cut))


def _expect(step: PlanStep, said: str) -> PlanStep:
    match = re.fullmatch(r"(.*?)(?:\s+at\s+([\d.,]+\s*\w*))?", said)
    if match is None or not match[1]:
        raise PlanError(worded("power.expected_what_should_happen_such_as"))
    at = _seconds(match[2]) if match[2] else 0.0
    return replace(step, events=(*step.events, Expected(match[1], at, at / 2)))


_READERS: dict[str, Callable[[PlanStep, str], PlanStep]] = {
    "line": _line_volts,
    "hold": lambda step, said: replace(step, hold_s=_seconds(said)),
    "set": lambda step, said: replace(step, settings=(*step.settings, said)),
    "read": _read,
    "expect": _expect,
    "cut": _cut,
    "then": lambda step, said: replace(step, then=said),
    "caution": lambda step, said: replace(step, caution=said),
}


def say_band(band: Band) -> str:
    """Return a band in words, V, W or A."""
    unit = unit_of(band.name)
    return f"{engineering(band.low, unit, 3)} to {engineering(band.high, unit, 3)}"
