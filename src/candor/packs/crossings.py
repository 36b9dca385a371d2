"""What one part of a pack says of another: names that must exist, keys that must be unique.

Works on the file's own tree, before validation, so that these faults are found beside all others.
"""

from __future__ import annotations

import math
import re
import string
from collections.abc import Iterator
from typing import Any

from candor.core.power.power_states import STATES
from candor.core.worded import worded

Path = tuple[int | str, ...]
NAMED_BY_MIDDLE = ("ohms falling", "ohms rising", "bridge")
BORROWED = ("cord", "old-cord")  # cautions that every kind may borrow
HAVE_A_GRID = ("triode", "pentode", "beam power")  # a figure of these holds at one bias alone
PLACEHOLDERS = {"range", "applied", "nominal"}


def crossing_faults(data: Any) -> Iterator[tuple[Path, str]]:
    """Yield (path, message) for every reference that leads nowhere and every key used twice."""
    yield from _unique(data, ("cautions",))
    yield from _unique(data, ("zones",))
    yield from _unique(data, ("dial", "scales"))
    yield from _unique(data, ("functions",))
    yield from _unique(data, ("procedure",))
    yield from _unique(data, ("parts",), "ref")
    yield from _unique(data, ("adjusters",))
    scales = _keys(_at(data, ("dial", "scales")))
    for f, function in _items(data, ("functions",)):
        yield from _unique(data, ("functions", f, "ranges"))
        for r, range_ in _items(function, ("ranges",)):
            path = ("functions", f, "ranges", r, "scale")
            yield from _must_exist(path, range_.get("scale"), scales, "a printed scale")
            second = range_.get("second")
            if isinstance(second, dict):
                yield from _must_exist(
                    (*path[:-1], "second", "scale"), second.get("scale"), scales, "a printed scale"
                )
            if data.get("pack") == 2:
                yield from _says_how_they_add((*path[:-1], "limit"), range_.get("limit"))
    yield from _unique(data, ("controls",))
    for a, adjuster in _items(data, ("adjusters",)):
        for name in _strings(adjuster.get("after")):
            yield from _must_exist(("adjusters", a, "after"), name, _keys(data.get("adjusters")), "an adjuster")
    for state in data.get("bands") or {}:
        yield from _must_exist(("bands", state), state, list(STATES), worded("packs.a_state_of_the_supply"))
    yield from _roll(data)
    yield from _steps(data)


def _says_how_they_add(path: Path, limit: Any) -> Iterator[tuple[Path, str]]:
    """In format 2 a limit of several terms says how they add up: makers mean both."""
    terms = limit if isinstance(limit, dict) else {}
    parts = [
        key for key in ("percent_of_full_scale", "percent_of_reading", "absolute", "divisions") if terms.get(key)
    ]
    if len(parts) > 1 and terms.get("combine") not in ("sum", "greater"):
        yield path, worded("packs.say_with_combine_whether_it_is", listed=" and ".join(parts))


def _scale_ends(data: Any) -> dict[Any, float]:
    """How many times full scale each scale goes on to: infinity, or where its range is named by its middle beyond that."""
    found = {}
    for _, scale in _items(data, ("dial", "scales")):
        marks = [*(_at(scale, ("by_law", "marks")) or []), *(_at(scale, ("uneven", "marks")) or [])]
        if any(m == "infinity" or (isinstance(m, list) and m and m[0] == "infinity") for m in marks):
            found[scale.get("key")] = math.inf
        centre = _at(scale, ("by_law", "centre"))
        if _at(scale, ("by_law", "law")) in NAMED_BY_MIDDLE and isinstance(centre, int | float) and centre > 0:
            highest = max((m for m in marks if isinstance(m, int | float)), default=centre)
            found.setdefault(scale.get("key"), highest / centre)
    return found


def kind_faults(data: Any) -> Iterator[tuple[Path, str]]:
    """Yield (path, message) for every key used twice in a kind of instrument, and for a caution that is not there."""
    yield from _unique(data, ("cautions",))
    yield from _unique(data, ("zones",))
    work = data.get("work")
    cautions = [*_keys(data.get("cautions")), *BORROWED]
    for part in ("preparation", "functions", "trims") if isinstance(work, dict) else ():
        if part != "functions":
            yield from _unique(data, ("work", part))
        for index, item in _items(data, ("work", part)):
            for name in _strings(item.get("cautions")):
                yield from _must_exist(("work", part, index, "cautions"), name, cautions, "a caution")


def _steps(data: Any) -> Iterator[tuple[Path, str]]:
    cautions = _keys(data.get("cautions"))
    functions = {f.get("key"): f for _, f in _items(data, ("functions",))}
    things = [*_keys(data.get("adjusters")), *(p.get("ref") for _, p in _items(data, ("parts",)))]
    names = [a.get("name") for _, a in _items(data, ("adjusters",))]
    controls = {c.get("key"): c.get("positions") or [] for _, c in _items(data, ("controls",))}
    seen: set[Any] = set()
    earlier: dict[Any, list[Any]] = {}
    for s, section in _items(data, ("procedure",)):
        for t, step in _items(section, ("steps",)):
            path: Path = ("procedure", s, "steps", t)
            if step.get("key") in seen:
                yield (*path, "key"), worded("packs.the_step_key_is_used_twice", key=step.get("key"))
            seen.add(step.get("key"))
            if step.get("line") and not any(_reads(before, step) for before in earlier.get(section.get("phase"), ())):
                yield (*path, "line"), worded("packs.nothing_reads_it_at_the_line_there_is")
            earlier.setdefault(section.get("phase"), []).append(step)
            for name in _strings(step.get("cautions")):
                yield from _must_exist((*path, "cautions"), name, cautions, "a caution")
            for name in step.get("caution_above") or {}:
                yield from _must_exist((*path, "caution_above"), name, cautions, "a caution")
            for name in _strings(step.get("uses")):
                yield from _must_exist((*path, "uses"), name, things, worded("packs.an_adjuster_or_part"))
            if names and step.get("kind") == "adjust":
                yield from _must_exist(
                    (*path, "trim"), step.get("trim"), names, worded("packs.the_name_of_an_adjuster")
                )
            yield from _turns((*path,), step, section.get("phase"), data)
            yield from _point_faults(path, step, functions, section.get("phase"), _scale_ends(data))
            known = _keys(data.get("modifiers"))
            yield from _must_exist((*path, "modifier"), step.get("modifier"), known, "a modifier")
            for control, position in (step.get("set") or {}).items():
                yield from _must_exist((*path, "set"), control, list(controls), "a control")
                if controls.get(control):
                    yield from _must_exist(
                        (*path, "set"), position, controls[control], worded("packs.a_position_of", control=control)
                    )
            yield from _placeholder_faults(path, step)


def _reads(step: Any, again: Any) -> bool:
    """Whether a step reads all points that another one reads again at other lines."""

    def given(of: Any, name: str) -> set[str]:
        return {str(x) for x in of.get(name) or ()}

    ranges = given(step, "ranges")
    return (
        step.get("kind") == "points"
        and not step.get("line")
        and step.get("function") == again.get("function")
        and (not ranges or (bool(given(again, "ranges")) and given(again, "ranges") <= ranges))
        and all(given(again, name) <= given(step, name) for name in ("at", "values"))
    )


def _turns(path: Path, step: Any, phase: Any, data: Any) -> Iterator[tuple[Path, str]]:
    """A step that turns an adjuster names it: else nobody knows afterwards that what was read before is history."""
    adjusters = [a for _, a in _items(data, ("adjusters",)) if isinstance(a, dict) and not a.get("every_use")]
    names = [str(a.get("name")) for a in adjusters]
    if step.get("kind") == "check":
        said = step.get("trims")
        for name in said or ():
            yield from _must_exist((*path, "trims"), name, names, worded("packs.the_name_of_an_adjuster"))
        if phase == "adjustment" and said is None:
            yield (
                (*path, "trims"),
                worded("packs.a_check_among_the_adjustments_says"),
            )
    told = [str(step.get("trim")), *map(str, step.get("trims") or ())]
    words = f"{step.get('title', '')} {step.get('do', '')}"
    for name in sorted({*names, *told}, key=len, reverse=True):  # MAG GAIN is not GAIN
        spoken = re.compile(rf"(?<!\w){re.escape(name)}(?!\w)")
        found, words = spoken.search(words), spoken.sub("", words)
        if found and name not in told:
            yield (
                (*path, "do"),
                worded("packs.it_speaks_of_the_adjuster_a", name=name),
            )


def _roll(data: Any) -> Iterator[tuple[Path, str]]:
    """Lines of a chart name functions, ranges and controls that there are; a tube has a line for each of its sections."""
    positions = {
        c.get("key"): c.get("positions") or [] for _, c in _items(data, ("controls",)) if isinstance(c, dict)
    }
    functions = {f.get("key"): f for _, f in _items(data, ("functions",))}
    seen: set[Any] = set()
    for i, line in _items(data, ("roll",)):
        path: Path = ("roll", i)
        name = (line.get("tube"), line.get("section"))
        if name in seen:
            yield (
                (*path, "tube"),
                worded("packs.the_chart_has_twice_a_second", tube=line.get("tube")),
            )
        seen.add(name)
        yield from _must_exist((*path, "function"), line.get("function"), list(functions), "a function")
        if line.get("function") in functions:
            known = _keys(functions[line.get("function")].get("ranges"))
            yield from _must_exist(
                (*path, "range"), line.get("range"), known, worded("packs.a_range_of_its_function")
            )
        settings = line.get("set") or {}
        for control, position in settings.items():
            yield from _must_exist((*path, "set"), control, list(positions), "a control")
            if positions.get(control):
                yield from _must_exist(
                    (*path, "set"), position, positions[control], worded("packs.a_position_of", control=control)
                )
        if "bias" in positions and "bias" not in settings and str(line.get("generic", "")).startswith(HAVE_A_GRID):
            yield (*path, "set"), worded("packs.has_a_grid_and_the_tester", tube=line.get("tube"))


def _point_faults(
    path: Path, step: Any, functions: dict[Any, Any], phase: Any, ends: dict[Any, float]
) -> Iterator[tuple[Path, str]]:
    if step.get("kind") not in ("points", "adjust"):
        return
    if step.get("kind") == "points" and phase not in ("as found", "as left"):
        yield (*path, "kind"), worded("packs.test_points_belong_to_the_phase", phase=phase)
    name = step.get("function")
    yield from _must_exist((*path, "function"), name, list(functions), "a function")
    if name in functions:
        known = _keys(functions[name].get("ranges"))
        field = "ranges" if step.get("kind") == "points" else "range"
        wanted = _strings(step.get(field)) if field == "ranges" else [step.get(field)]
        for range_ in wanted:
            yield from _must_exist((*path, field), range_, known, worded("packs.a_range_of", name=name))
        yield from _past_the_end(
            path,
            step,
            [r for _, r in _items(functions[name], ("ranges",)) if not wanted or r.get("key") in wanted],
            ends,
        )


def _past_the_end(path: Path, step: Any, ranges: list[Any], ends: dict[Any, float]) -> Iterator[tuple[Path, str]]:
    """A share of full scale above 1, or infinity, is a point only where the scale goes on so far."""
    at = step.get("at")
    shares = at if isinstance(at, list) else [at]
    end = min((ends.get(r.get("scale"), 1.0) for r in ranges if r.get("scale")), default=math.inf)
    beyond = [x for x in shares if (x == "infinity" and end < math.inf) or (isinstance(x, int | float) and x > end)]
    if beyond:
        yield (
            (*path, "at"),
            worded("packs.a_share_of_full_scale_should", end=end, first=beyond[0]),
        )


def _placeholder_faults(path: Path, step: Any) -> Iterator[tuple[Path, str]]:
    allowed = PLACEHOLDERS if step.get("kind") in ("points", "adjust") else set()
    for field in ("title", "do", "aim", "mistake"):
        text = step.get(field)
        if not isinstance(text, str):
            continue
        try:
            names = {name for _, name, _, _ in string.Formatter().parse(text) if name is not None}
        except ValueError:
            yield (*path, field), "a brace stands alone; write {range}, {applied} or {nominal}"
            continue
        for name in sorted(names - allowed):
            expected = (
                "{range}, {applied} or {nominal}" if allowed else worded("packs.no_placeholder_in_this_kind_of")
            )
            yield (*path, field), worded("packs.is_not_known_here_expected", name=name, expected=expected)


def _must_exist(path: Path, name: Any, known: list[Any], what: str) -> Iterator[tuple[Path, str]]:
    if name is not None and name not in known:
        listed = ", ".join(str(k) for k in known) or "none is defined"
        yield path, worded("packs.is_not_of_this_pack_use", name=name, what=what, listed=listed)


def _unique(data: Any, path: Path, name: str = "key") -> Iterator[tuple[Path, str]]:
    seen: set[Any] = set()
    for index, item in _items(data, path):
        key = item.get(name)
        if key is not None and key in seen:
            yield (*path, index, name), worded("packs.the_is_used_twice_each_needs", name=name, key=key)
        seen.add(key)


def _at(data: Any, path: Path) -> Any:
    for part in path:
        try:
            data = data[part]
        except (KeyError, IndexError, TypeError):
            return None
    return data


def _items(data: Any, path: Path) -> list[tuple[int, Any]]:
    found = _at(data, path)
    return [(i, v) for i, v in enumerate(found) if isinstance(v, dict)] if isinstance(found, list) else []


def _keys(found: Any) -> list[Any]:
    return [v.get("key") for v in found if isinstance(v, dict)] if isinstance(found, list) else []


def _strings(found: Any) -> list[str]:
    return [v for v in found if isinstance(v, str)] if isinstance(found, list) else []
