"""What an entry holds, field by field, as people write it: no raw numbers, no names in hexadecimal."""

from __future__ import annotations

import re
from collections.abc import Mapping

from candor.core.parts.part_kinds import unit_of
from candor.core.quantities import engineering
from candor.core.quantities.show import in_powers, in_unit, trimmed
from candor.core.worded import worded
from candor.notebook.entries.body import Body

# Field and the unit it is in; "time" is said in minutes and seconds, "share" in per cent, "entry" by its number.
_UNITS = {
    "volts": "V", "leakage_volts": "V", "target_volts": "V", "measured_volts": "V", "volts_across": "V", "no_load_volts": "V",
    "safe_volts": "V", "leakage": "A", "limit": "A", "expanded": "A", "leakage_limit": "A", "esr": "ohm", "grid_ohms": "ohm",
    "hertz": "Hz", "watts": "W", "farad": "F", "meter_ohms": "ohm", "turned_ohms": "ohm", "plate_watts": "W", "screen_watts": "W",
    "cathode_amperes": "A", "plate_volts": "V", "screen_volts": "V", "range_volts": "V",
    "amperes": "A", "lead_ohms": "ohm", "network_ohms": "ohm",
    "ohms": "ohm", "expected_ohms": "ohm", "rated_volts": "V", "line_volts": "V",
    "dwell_s": "time",  "most_s": "time", "seconds": "time", "below": "share", "above": "share",
    "tolerance": "share", "percent": "%", "celsius": "°C", "low_celsius": "°C", "high_celsius": "°C", "minutes": "min",
    "valid_days": "days", "drift_percent_per_year": "% a year", "percent_per_kelvin": "% per K", "length": "mm",
    "percent_of_reading": "% of reading", "percent_of_range": "% of range",
    "line_age_s": "time", "hold_s": "time", "reject": "share",
    "run": "entry", "finding": "entry", "target": "entry", "standard": "entry", "change": "entry", "order": "entry",
}  # fmt: skip
_VALUES = ("nominal", "value", "warm")  # ohm or farad, by what the part is; of a tube siemens
_OF_TUBE = (
    "nominal",
    "figure",
    "per_dash",
    "scatter",
    "scale_u",
    "full_scale",
    "division",
    "expanded",
)  # where a unit is said
_TITLES = {
    "dwell_s": "dwell", "most_s": "at most", "volts_across": "volts across", "grid_ohms": "grid resistance", "ref": "part",
    "at": "when", "job": "job", "written": worded("work.as_it_was_written"), "expanded": "U (k = 2)", "percent": "U (k = 2)",
    "pack_digest": "pack", "reference_from": "reference", "means": "by", "an_hour": "an hour", "left_over": "left over",
    "line_age_s": "line set before",
    "hold_s": "held",
    "is_reversed": "plug reversed",
    "is_on": "switch on",
}  # fmt: skip


def facts_in_words(body: Body, numbers: Mapping[str, int]) -> tuple[str, ...]:
    """Return a line for each field of an entry that says something: ``dwell: 1 min 53 s``.

    Parameters
    ----------
    body : Body
    numbers : mapping of str to int
        The number of every entry by its id, for fields that name another.
    """
    # Fields that a newer Candor wrote beside those known here are shown with them.
    facts = {**body.model_dump(mode="json", exclude={"kind", "version"}), **(body.__pydantic_extra__ or {})}
    unit = _unit_of(facts)
    lines = []
    for name, value in facts.items():
        if value in ("", None, [], (), False) or (value == 0 and name not in _VALUES and name != "indicated"):
            continue
        title = _TITLES.get(name, name.replace("_", " "))
        lines.append(f"{title}: {_say(name, value, unit, numbers)}")
    return tuple(lines)


def say_seconds(seconds: float) -> str:
    """Return a time as people say it: ``45 s``, ``1 min 53 s``, ``2 h 5 min``."""
    whole = round(seconds)
    if whole < 60:
        return in_unit(seconds, "s", 3)
    minutes, rest = divmod(whole, 60)
    if minutes < 60:
        return worded("work.min_s", minutes=minutes, rest=rest) if rest else worded("work.min", minutes=minutes)
    hours, minutes = divmod(minutes, 60)
    return worded("work.h_min", hours=hours, minutes=minutes) if minutes else worded("work.h", hours=hours)


def _unit_of(facts: Mapping[str, object]) -> str:
    if facts.get("unit") in ("S", "1"):
        return str(facts["unit"])
    return str(facts.get("unit") or unit_of(str(facts.get("what") or "")))


def _say(name: str, value: object, unit: str, numbers: Mapping[str, int]) -> str:
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, int | float):
        return _number(name, float(value), unit)
    if isinstance(value, list):
        return "; ".join(_say(name, one, unit, numbers) for one in value)
    if isinstance(value, dict):
        of = _unit_of(value)
        return ", ".join(
            f"{_TITLES.get(k, k.replace('_', ' '))} {_say(k, v, of, numbers)}"
            for k, v in value.items()
            if v not in ("", None, 0)
        )
    text = str(value)
    if text in numbers:
        return f"entry {numbers[text]}"
    if _UNITS.get(name) == "entry":
        return worded("work.an_entry_that_is_not_here")
    return f"{text[:12]} …" if re.fullmatch(r"[0-9a-f]{32,}", text) else text


def _number(name: str, value: float, unit: str) -> str:
    kind = unit if name in _VALUES else _UNITS.get(name, "")
    if unit in ("S", "1") and name in _OF_TUBE:
        return engineering(value, unit, 4) if unit == "S" else trimmed(value, 4)
    if kind in ("F", "ohm", "A", "Hz", "W", "V"):
        return engineering(value, kind, 4)
    if kind == "time":
        return say_seconds(value)
    if kind == "share":
        return f"{trimmed(100 * value)} %"
    return f"{in_powers(value, 7)} {kind}".strip()
