"""A standard's specification and certificate as lines people write: ``to 10 V: 0.005 % + 0.001 % of range``."""

from __future__ import annotations

import datetime as dt
import re
import uuid
from collections.abc import Mapping

from pydantic import ValidationError

from candor.core.errors import ValueTextError
from candor.core.quantities import engineering, parse_date, parse_number, parse_quantity
from candor.core.quantities.show import trimmed
from candor.notebook.entries.shop import (
    CertificateLine,
    SpecificationLine,
    StandardRecorded,
    StandardRole,
    StandardUnit,
)

# What the fields of the room do not show.
KEPT = ("low_celsius", "high_celsius", "percent_per_kelvin")

_TO = re.compile(r"to\s+(?P<upper>[^:]+):\s*(?P<rest>.+)", re.I)
_AT = re.compile(
    r"at\s+(?P<value>[^:]+):\s*(?:correction\s+(?P<correction>.+?)\s+)?"
    r"U\s+(?P<expanded>.+?)(?:\s+k\s+(?P<factor>\S+))?\s*"
)
_EXPECTED = "“to 10 V: 0.005 % + 0.001 % of range + 2 x 0.1 mV” or “at 10 V: correction 0.2 mV U 0.4 mV k 2”"


def read_lines(text: str, unit: str = "V") -> tuple[tuple[SpecificationLine, ...], tuple[CertificateLine, ...]]:
    """Read specification and certificate lines; values without a unit are in `unit`.

    Raises
    ------
    ValueTextError
        Naming the line, where one cannot be read or both kinds are mixed.
    """
    ranges, points = [], []
    for number, line in enumerate(text.splitlines(), 1):
        if not line.strip():
            continue
        try:
            if match := _TO.fullmatch(line.strip()):
                ranges.append(_specification(match, unit))
            elif match := _AT.fullmatch(line.strip()):
                points.append(_certified(match, unit))
            else:
                raise ValueTextError(f"“{line.strip()}” cannot be read; expected {_EXPECTED}.", value=line)
        except ValidationError as error:
            raise ValueTextError(f"Line {number}: {error.errors()[0]['msg']}.", value=line) from None
        except ValueTextError as error:
            raise ValueTextError(f"Line {number}: {error}", value=line, place=f"line {number}") from None
    if ranges and points:
        raise ValueTextError("A standard is used by its specification or by its certificate; give lines of one kind.")
    if not ranges and not points:
        raise ValueTextError(f"What the standard is good for is missing; expected {_EXPECTED}.")
    return tuple(ranges), tuple(points)


def write_lines(body: StandardRecorded) -> str:
    """Return the lines that `read_lines` would read back."""
    lines = []
    for r in body.ranges:
        said = [f"{trimmed(r.percent_of_reading, 6)} %"]
        said += [f"{trimmed(r.percent_of_range, 6)} % of range"] if r.percent_of_range else []
        said += [f"{trimmed(r.counts, 6)} x {engineering(r.resolution, body.unit, 6)}"] if r.counts else []
        lines.append(f"to {engineering(r.upper, body.unit, 6)}: {' + '.join(said)}")
    for p in body.points:
        correction = engineering(p.correction, body.unit, 6).replace("−", "-")
        expanded = engineering(p.expanded, body.unit, 6)
        lines.append(
            f"at {engineering(p.value, body.unit, 8)}: correction {correction} U {expanded} k {trimmed(p.factor)}"
        )
    return "\n".join(lines)


def _specification(match: re.Match[str], unit: str) -> SpecificationLine:
    """Shares of one kind and counts of one size add up; two bare shares are a question, not a guess."""
    found = {"percent_of_reading": 0.0, "percent_of_range": 0.0, "counts": 0.0, "resolution": 0.0}
    bare = 0
    for part in match["rest"].split("+"):
        words = part.strip().lstrip("±(").rstrip(")").strip()
        if times := re.fullmatch(r"(?P<counts>\S+)\s*[x×]\s*(?P<resolution>.+)", words):
            resolution = parse_quantity(times["resolution"], unit).value
            if found["counts"] and resolution != found["resolution"]:
                raise ValueTextError(f"“{match['rest'].strip()}” counts two sizes of digit; give one for each range.")
            found["counts"] += parse_number(times["counts"], "a number of counts such as 2")
            found["resolution"] = resolution
        elif share := re.fullmatch(r"(?P<number>[\d.,]+)\s*(?P<kind>%|ppm)\s*(?P<of>of range|of reading|)", words):
            bare += not share["of"]
            key = "percent_of_range" if share["of"] == "of range" else "percent_of_reading"
            number = parse_number(share["number"], "a share such as 0.005")
            found[key] += number * (1e-4 if share["kind"] == "ppm" else 1.0)
        else:
            raise ValueTextError(f"“{words}” is not understood; expected {_EXPECTED}.", value=words)
    if bare > 1:
        raise ValueTextError(
            f"“{match['rest'].strip()}” has two shares and does not say of what; write “of reading” and “of range”.",
            value=match["rest"],
            expected=_EXPECTED,
        )
    return SpecificationLine(upper=parse_quantity(match["upper"], unit).value, **found)


def _certified(match: re.Match[str], unit: str) -> CertificateLine:
    return CertificateLine(
        value=parse_quantity(match["value"], unit).value,
        correction=parse_quantity(match["correction"], unit).value if match["correction"] else 0.0,
        expanded=parse_quantity(match["expanded"], unit).value,
        factor=parse_number(match["factor"], "a coverage factor such as 2") if match["factor"] else 2.0,
    )


def read_standard(
    text: Mapping[str, str],
    lines: str,
    *,
    role: StandardRole,
    unit: StandardUnit,
    older: StandardRecorded | None,
    today: dt.date,
) -> StandardRecorded:
    """Return a standard as its fields say it.

    Parameters
    ----------
    text : mapping of str to str
        name, serial, calibrated_on, valid_days, drift_percent_per_year, traceability.
    lines : str
        Specification or certificate, as `read_lines` reads it.
    role, unit : str
    older : StandardRecorded or None
        As it was recorded before: what the fields do not show of it is not lost.
    today : date

    Raises
    ------
    ValueTextError, CandorError
        Where a field cannot be read.
    """
    if not text["name"]:
        raise ValueTextError("A standard needs a name; nothing was written.", place="name")
    ranges, points = read_lines(lines, unit)
    kept = {name: getattr(older, name) for name in KEPT} if older else {}
    checked = text["calibrated_on"]
    try:
        return StandardRecorded(
            **kept,
            key=older.key if older else uuid.uuid4().hex[:12],
            role=role,
            unit=unit,
            name=text["name"],
            serial=text["serial"],
            ranges=ranges,
            points=points,
            drift_percent_per_year=parse_number(
                text["drift_percent_per_year"] or "0", "per cent a year such as 0.002"
            ),
            calibrated_on=parse_date(checked, today, "the last check") if checked else None,
            valid_days=int(parse_number(text["valid_days"] or "365", "a number of days")),
            traceability=text["traceability"],
        )
    except ValidationError as error:
        first = error.errors()[0]
        raise ValueTextError(f"{first['loc'][-1]}: {first['msg']}. Nothing was written.") from None
