"""A standard's specification and certificate as lines people write: ``to 10 V: 0.005 % + 0.001 % of range``."""

from __future__ import annotations

import datetime as dt
import re
import uuid
from collections.abc import Iterable, Mapping
from typing import Any

from pydantic import ValidationError

from candor.core.errors import ValueTextError
from candor.core.quantities import engineering, parse_date, parse_number, parse_quantity
from candor.core.quantities.show import trimmed
from candor.core.reference.reference import Current, Role
from candor.core.worded import worded
from candor.notebook.entries.standards_entries import (
    CertificateLine,
    SpecificationLine,
    StandardFunction,
    StandardRecorded,
    StandardUnit,
)
from candor.notebook.standards.handbook_page import PageLine, lines_of_page
from candor.notebook.standards.quantity_heading import read_heading
from candor.notebook.standards.specification_line import (
    EXPECTED,
    read_specification,
    unit_of_line,
    write_specification,
)

# Of a standard whole, in lines of its own: what it bears, and the room it holds in.
_BEARS = re.compile(r"bears\s+(?P<most>[^,]+?)(?:\s*,\s*(?P<earth>[^,]+?)\s+to\s+earth)?", re.I)
_HOLDS = re.compile(
    r"holds\s+(?P<low>\S+)\s+to\s+(?P<high>\S+)\s*°\s*C(?:\s*,\s*(?P<kelvin>\S+)\s*%\s+a\s+kelvin\s+outside)?", re.I
)
_AT = re.compile(
    r"at\s+(?P<value>[^:,]+)(?:,\s*(?P<hertz>[^:]+))?:\s*(?:correction\s+(?P<correction>.+?)\s+)?"
    r"U\s+(?P<expanded>.+?)(?:\s+k\s+(?P<factor>\S+))?\s*"
)
_UNITS: tuple[StandardUnit, ...] = ("V", "A", "ohm", "F", "H", "Hz", "s", "S", "dB", "1")
_SAYS = {
    "responds": re.compile(r"(average|peak to peak|peak|rms)[\s-]+responding", re.I),
    "marked": re.compile(r"marked\s+(?:in\s+)?(rms|average|peak to peak|peak)", re.I),
    "crest_factor": re.compile(r"crest factor\s+(\S+)", re.I),
    "loads": re.compile(r"loads\s+(\S+)(?:\s+(\S+))?", re.I),
    "display": re.compile(r"([\d ,.]+?)\s*counts?", re.I),
    "step": re.compile(r"steps?\s+(?:of\s+)?(.+)", re.I),
}
_NAMES = {"1": "ratio", "S": "siemens"}
HEADS = worded("standards.v_d_c_v_a_c")


def read_lines_of_whole(text: str) -> tuple[dict[str, float], str]:
    """Return what lines say of a standard whole, by the names of its fields, and the other lines, each in its place.

    ``bears 600 V, 400 V to earth`` and ``holds 20 to 26 °C, 0.002 % a kelvin outside``.

    Raises
    ------
    ValueTextError, UnitError
        Where such a line cannot be read.
    """
    found: dict[str, float] = {}
    rest = []
    for number, line in enumerate(text.splitlines(), 1):
        word = line.strip().lower().partition(" ")[0]
        pattern = {"bears": _BEARS, "holds": _HOLDS}.get(word)
        if pattern is None:
            rest.append(line)
            continue
        match = pattern.fullmatch(line.strip())
        if match is None:
            raise ValueTextError(
                worded("standards.line_is_not_understood_examples_bears", number=number, line=line.strip()),
                value=line,
            )
        said = match.groupdict()
        if word == "bears":
            found["most_volts"] = parse_quantity(said["most"], "V").value
            found["most_to_earth"] = parse_quantity(said["earth"], "V").value if said["earth"] else 0.0
        else:
            found["low_celsius"], found["high_celsius"] = (parse_number(said[end], "°C") for end in ("low", "high"))
            found["percent_per_kelvin"] = parse_number(said["kelvin"], "per cent") if said["kelvin"] else 0.0
        rest.append("")
    return found, "\n".join(rest)


def write_standard_lines(body: StandardRecorded) -> str:
    """Return the lines that `read_standard` would read back: of the standard whole, then of each function."""
    whole = [f"{word} {said}" for word, said in zip(("bears", "holds"), lines_of_whole(body), strict=True) if said]
    return "\n".join((*whole, write_functions(body.functions)))


def lines_of_whole(body: StandardRecorded) -> tuple[str, str]:
    """Return what stands behind *bears* and *holds* of a standard whole; nothing of what nobody said."""
    bears = holds = ""
    if body.most_volts:
        to_earth = trimmed(body.most_to_earth)
        earth = worded("standards.v_to_earth", most_to_earth=to_earth) if body.most_to_earth else ""
        bears = worded("standards.v", most_volts=trimmed(body.most_volts), earth=earth)
    usual = StandardRecorded.model_fields
    if any(
        getattr(body, name) != usual[name].default for name in ("low_celsius", "high_celsius", "percent_per_kelvin")
    ):
        outside = (
            worded("standards.a_kelvin_outside", percent_per_kelvin=trimmed(body.percent_per_kelvin, 6))
            if body.percent_per_kelvin
            else ""
        )
        low, high = trimmed(body.low_celsius), trimmed(body.high_celsius)
        holds = worded("standards.to_c", low_celsius=low, high_celsius=high, outside=outside)
    return bears, holds


def read_functions(text: str, unit: StandardUnit = "V") -> tuple[StandardFunction, ...]:
    """Read what a standard is good for: lines of each quantity under a heading such as ``V a.c., average responding``.

    Lines before any heading are of `unit`.

    Raises
    ------
    ValueTextError
        Naming the line, where one cannot be read, or a quantity has no line.
    """
    blocks: list[tuple[int, str, list[PageLine]]] = [(0, "", [])]
    for number, line in lines_of_page(text):
        if ":" not in line and read_heading(line):
            blocks.append((number, line, []))
        else:
            blocks[-1][2].append(PageLine(number, line))
    if not blocks[0][2] and len(blocks) > 1:
        blocks.pop(0)
    return tuple(_function(number, head, lines, unit) for number, head, lines in blocks)


def _function(number: int, head: str, lines: list[PageLine], unit: StandardUnit) -> StandardFunction:
    said: dict[str, Any] = {"unit": unit}
    if head:
        heading = read_heading(head)
        if heading is None:
            raise ValueTextError(
                worded("standards.line_is_not_a_quantity_use", number=number, head=head, heads=HEADS), value=head
            )
        of = heading.unit
        said = {"unit": of, "current": heading.current, **_says(heading.rest, number, of)}
    else:
        said["unit"] = next(filter(None, (unit_of_line(line.text, _UNITS) for line in lines)), unit)
    display = int(said.pop("display", 0))
    ranges, points = _read_lines(lines, said["unit"], display)
    return StandardFunction(**said, ranges=ranges, points=points)


def heading_of(text: str) -> tuple[StandardUnit, Current]:
    """Return unit and current of a quantity as it is headed: ``V a.c.``, ``ohm``.

    Raises
    ------
    ValueTextError
        Where it is none.
    """
    heading = read_heading(text)
    if heading is None or heading.rest:
        raise ValueTextError(
            worded("standards.is_not_a_quantity_use_one", text=text.strip(), heads=HEADS), value=text
        )
    return heading.unit, heading.current


def say_heading(unit: str, current: str) -> str:
    """Return a quantity as it is headed."""
    return f"{_NAMES.get(unit, unit)} {current}".strip()


def _says(text: str, number: int, unit: str) -> dict[str, Any]:
    found: dict[str, Any] = {}
    for part in filter(None, (words.strip() for words in text.split(","))):
        key, match = next(((k, m) for k, pattern in _SAYS.items() if (m := pattern.fullmatch(part))), ("", None))
        if match is None:
            raise ValueTextError(
                worded("standards.line_is_not_understood_examples_average", number=number, part=part),
                value=part,
            )
        if key == "loads":
            found["input_ohms"] = parse_quantity(match[1], "ohm").value
            found["input_farads"] = parse_quantity(match[2], "F").value if match[2] else 0.0
        elif key == "display":
            found[key] = parse_number(
                re.sub(r"[\s,.](?=\d{3}\b)", "", match[1]), worded("standards.the_counts_of_the_display_such")
            )
        elif key in ("responds", "marked"):
            found[key] = match[1].lower()
        else:
            found[key] = (
                parse_number(match[1], "a number") if key == "crest_factor" else parse_quantity(match[1], unit).value
            )
    return found


def write_functions(functions: Iterable[StandardFunction]) -> str:
    """Return the lines that `read_functions` would read back."""
    blocks = []
    for function in functions:
        head = head_of(function)
        lines = write_lines(function)
        blocks.append(lines if head == "V" else f"{head}\n{lines}")
    return "\n".join(blocks)


def head_of(function: StandardFunction) -> str:
    """Return the heading of a quantity with all that is said of it: ``V a.c., rms responding, loads 1M``."""
    said = [say_heading(function.unit, function.current)]
    said += [f"{function.responds} responding"] if function.responds else []
    said += [f"marked {function.marked}"] if function.responds and function.marked != "rms" else []
    said += [f"crest factor {trimmed(function.crest_factor)}"] if function.crest_factor else []
    if function.input_ohms:
        farads = f" {_value(function.input_farads, 'F')}" if function.input_farads else ""
        said.append(f"loads {_value(function.input_ohms, 'ohm')}{farads}")
    said += [f"steps {_value(function.step, function.unit)}"] if function.step else []
    return ", ".join(said)


def _value(value: float, unit: str) -> str:
    """A value as it is typed: without a space, so that two stand side by side."""
    return engineering(value, unit, 6).replace(" ", "").replace("Ω", "ohm").replace("−", "-")


def read_lines(
    text: str, unit: str = "V", display: int = 0
) -> tuple[tuple[SpecificationLine, ...], tuple[CertificateLine, ...]]:
    """Read specification and certificate lines of one quantity; values without a unit are in `unit`.

    `display` is how many counts the meter shows, 0 where that is not known.

    Raises
    ------
    ValueTextError
        Naming the line, where one cannot be read or both kinds are mixed.
    """
    return _read_lines(
        [PageLine(n, line) for n, line in enumerate(text.splitlines(), 1) if line.strip()], unit, display
    )


def _read_lines(
    lines: Iterable[PageLine], unit: str, display: int
) -> tuple[tuple[SpecificationLine, ...], tuple[CertificateLine, ...]]:
    ranges, points = [], []
    for number, line in lines:
        try:
            if match := _AT.fullmatch(line.strip()):
                points.append(_certified(match, unit))
            else:
                ranges.append(read_specification(line.strip(), unit, display))
        except ValidationError as error:
            raise ValueTextError(f"Line {number}: {error.errors()[0]['msg']}.", value=line) from None
        except ValueTextError as error:
            raise ValueTextError(
                f"Line {number}: {error}", value=error.value or line, place=f"line {number}"
            ) from None
    if ranges and points:
        raise ValueTextError(worded("standards.a_standard_is_used_by_its"))
    if not ranges and not points:
        raise ValueTextError(worded("standards.what_the_standard_is_good_for", expected=EXPECTED))
    return tuple(ranges), tuple(points)


def write_lines(function: StandardFunction) -> str:
    """Return the lines that `read_lines` would read back."""
    lines, unit = [], function.unit
    for r in function.ranges:
        lines.append(write_specification(r, unit))
    for p in function.points:
        correction = engineering(p.correction, unit, 6).replace("−", "-")
        expanded = engineering(p.expanded, unit, 6)
        at = f", {engineering(p.hertz, 'Hz', 6)}" if p.hertz else ""
        lines.append(
            worded(
                "standards.at_correction_u_k",
                value=engineering(p.value, unit, 8),
                at=at,
                correction=correction,
                expanded=expanded,
                factor=trimmed(p.factor),
            )
        )
    return "\n".join(lines)


def good_for(body: StandardRecorded) -> str:
    """Say what a standard is good for, in one line."""
    return "; ".join(_good_for(f) for f in body.functions)


def _good_for(function: StandardFunction) -> str:
    head = "" if head_of(function) == "V" else f"{head_of(function)}: "
    if function.points:
        return worded(
            "standards.by_certificate_point",
            head=head,
            points=len(function.points),
            plural="" if len(function.points) == 1 else "s",
        )
    said: dict[str, list[str]] = {}  # what holds, and to which ranges' ends: many hold the same
    for line in sorted(function.ranges, key=lambda r: r.upper):
        unit = "" if function.unit == "1" else function.unit
        text = worded("standards.of_reading", percent_of_reading=line.percent_of_reading)
        text += (
            worded("standards.of_range_3", percent_of_range=line.percent_of_range) if line.percent_of_range else ""
        )
        text += f" + {line.counts:g} × {engineering(line.resolution, unit, 4)}" if line.counts else ""
        band = (
            f", {engineering(line.low_hertz, 'Hz')} to {engineering(line.high_hertz, 'Hz')}"
            if line.high_hertz
            else ""
        )
        said.setdefault(f"{text}){band}", []).append(engineering(line.upper, unit, 4))
    return head + "; ".join(f"to {', '.join(ends)}: {text}" for text, ends in said.items())


def _certified(match: re.Match[str], unit: str) -> CertificateLine:
    return CertificateLine(
        value=parse_quantity(match["value"], unit).value,
        correction=parse_quantity(match["correction"], unit).value if match["correction"] else 0.0,
        expanded=parse_quantity(match["expanded"], unit).value,
        factor=parse_number(match["factor"], worded("standards.a_coverage_factor_such_as"))
        if match["factor"]
        else 2.0,
        hertz=parse_quantity(match["hertz"], "Hz").value if match["hertz"] else 0.0,
    )


def read_standard(
    text: Mapping[str, str],
    lines: str,
    *,
    role: Role,
    unit: StandardUnit = "V",
    older: StandardRecorded | None,
    today: dt.date,
    is_typical: bool = False,
) -> StandardRecorded:
    """Return a standard as its fields say it.

    Parameters
    ----------
    text : mapping of str to str
        name, serial, calibrated_on, valid_days, drift_percent_per_year, traceability, link.
    lines : str
        What it is good for, as `read_functions` reads it, and lines of it whole, as `read_lines_of_whole` does.
    role, unit : str
    older : StandardRecorded or None
        As it was recorded before.
    today : date
    is_typical : bool
        Its figures are what is usual for its class.

    Raises
    ------
    ValueTextError, CandorError
        Where a field cannot be read.
    """
    if not text["name"]:
        raise ValueTextError(worded("standards.a_standard_needs_a_name_nothing"), place="name")
    whole, rest = read_lines_of_whole(lines)
    functions = read_functions(rest, unit)
    checked = text["calibrated_on"]
    try:
        return StandardRecorded(
            **whole,
            key=older.key if older else uuid.uuid4().hex[:12],
            role=role,
            name=text["name"],
            serial=text["serial"],
            functions=functions,
            drift_percent_per_year=parse_number(
                text["drift_percent_per_year"] or "0", worded("standards.per_cent_a_year_such_as")
            ),
            calibrated_on=parse_date(checked, today, "the last check") if checked else None,
            valid_days=int(parse_number(text["valid_days"] or "365", worded("standards.a_number_of_days"))),
            traceability=text["traceability"],
            link=text.get("link", ""),
            typical=is_typical,
        )
    except ValidationError as error:
        first = error.errors()[0]
        raise ValueTextError(
            worded("standards.nothing_was_written", last=first["loc"][-1], msg=first["msg"])
        ) from None
