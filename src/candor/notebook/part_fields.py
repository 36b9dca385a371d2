"""A part as fields show it and as they say it: what is typed about a part and the entry that lists it."""

from __future__ import annotations

from collections.abc import Mapping

from pydantic import ValidationError

from candor.core.errors import CandorError
from candor.core.parts.codes import read_mark
from candor.core.parts.part import UNITS, Kind, Part
from candor.core.quantities import engineering, parse_quantity
from candor.core.quantities.show import trimmed
from candor.notebook.entries.parts import PartListed

KINDS: Mapping[str, Kind] = {"C": "capacitor", "R": "resistor"}
# Field, the name in the entry, the unit.
_MEASURES = (("volts", "volts", "V"), ("watts", "watts", "W"), ("across", "volts_across", "V"),
             ("no_load", "no_load_volts", "V"), ("grid", "grid_ohms", "ohm"))  # fmt: skip


def fields_of(part: Part) -> dict[str, str]:
    """Return a part as it would be typed: ref, value, volts, watts, can, across, no_load, grid, note."""
    measures = {field: getattr(part, name) for field, name, _ in _MEASURES}
    shown = {field: trimmed(number) if number else "" for field, number in measures.items()}
    grid = engineering(part.grid_ohms, "ohm", 4).rstrip("Ω").strip() if part.grid_ohms else ""
    return {**shown, "ref": part.ref, "value": marked(part), "can": part.can, "grid": grid, "note": part.note}


def marked(part: Part) -> str:
    """Return the value of a part as it would be typed: ``0.05u 10%``."""
    value = engineering(part.nominal, part.unit, 6).replace("Ω", "").replace("µ", "u").strip()
    if part.below is None or part.above is None or part.below != part.above:
        return value
    return f"{value} {trimmed(100 * part.below)}%"


Listing = PartListed  # a part as its fields say it


def listed_of(text: Mapping[str, str], choices: Mapping[str, str], fitted: bool, before: Part | None) -> PartListed:
    """Return the entry that lists a part as its fields say it.

    Parameters
    ----------
    text : mapping of str to str
        As `fields_of` gives them.
    choices : mapping of str to str
        make, role and mains.
    fitted : bool
    before : Part or None
        The part in hand: what the fields do not show of it is kept.

    Raises
    ------
    CandorError
        Where they cannot be read.
    """
    ref = text["ref"][:1].upper() + text["ref"][1:]
    what = KINDS.get(ref[:1])
    if what is None:
        raise CandorError(f"“{ref}” begins with neither R nor C; expected a designator such as R24 or C8.", value=ref)
    value = read_mark(text["value"], UNITS[what])
    found: dict[str, object] = {
        name: parse_quantity(text[field], unit).value for field, name, unit in _MEASURES if text[field]
    }
    if before is not None and before.ref == ref:
        found["leakage_limit"] = before.leakage_limit
    try:
        return PartListed.model_validate(
            {"ref": ref, "what": what, "nominal": value.value, "below": value.below, "above": value.above,
             "can": text["can"], "note": text["note"], "fitted": fitted, **choices, **found}
        )  # fmt: skip
    except ValidationError as error:
        first = error.errors()[0]
        place = {"nominal": "value"}.get(str(first["loc"][-1]), str(first["loc"][-1]))
        raise CandorError(f"{ref}, {place}: {first['msg'].lower()}. Nothing was written.") from None
