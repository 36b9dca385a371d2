"""A part as fields show it and as they say it: what is typed about a part and the entry that lists it."""

from __future__ import annotations

from collections.abc import Mapping

from pydantic import ValidationError

from candor.core.errors import CandorError
from candor.core.parts.codes import Marked
from candor.core.parts.part import Part
from candor.core.parts.part_kinds import kind_of, read_value
from candor.core.quantities import engineering, parse_quantity
from candor.core.quantities.show import trimmed
from candor.core.worded import worded
from candor.notebook.entries.parts_entries import PartListed

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
    value = engineering(part.nominal, part.unit, 6).replace("µ", "u").strip() if part.unit and part.nominal else ""
    value = f"{part.type} {value.replace('Ω', '') if part.kind == 'resistor' else value.replace('Ω', 'ohm')}".strip()
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
    if not ref:
        raise CandorError(worded("parts.which_part_expected_a_designator_such"), value=ref)
    known = before.kind if before is not None and before.ref == ref else None
    what = kind_of(ref, choices.get("kind", ""), text["value"], choices.get("make", ""), known)
    type_, marks = read_value(text["value"], what)
    value = marks[0] if marks else Marked(0.0)
    found: dict[str, object] = {
        name: parse_quantity(text[field], unit).value for field, name, unit in _MEASURES if text[field]
    }
    if before is not None and before.ref == ref:
        found["leakage_limit"] = before.leakage_limit
    try:
        return PartListed.model_validate(
            {"ref": ref, "what": what, "type": type_, "nominal": value.value, "below": value.below, "above": value.above,
             "can": text["can"], "note": text["note"], "fitted": fitted,
             **{key: said for key, said in choices.items() if key != "kind"}, **found}
        )  # fmt: skip
    except ValidationError as error:
        first = error.errors()[0]
        field = str(first["loc"][-1]) if first["loc"] else "nominal"  # the whole is at fault where it lacks its value
        place, why = {"nominal": "value"}.get(field, field), first["msg"].removeprefix("Value error, ").lower()
        raise CandorError(worded("parts.nothing_was_written", ref=ref, place=place, why=why)) from None
