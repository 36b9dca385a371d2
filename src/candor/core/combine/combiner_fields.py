"""What the combiner is asked, as fields say it, and what they say first for a part in hand."""

from __future__ import annotations

from collections.abc import Mapping

from candor.core.combine.search import Asked
from candor.core.errors import ValueTextError
from candor.core.parts.codes import read_mark
from candor.core.parts.part import UNITS, VALUED, Measured, Part
from candor.core.quantities import engineering, parse_number, parse_quantity
from candor.core.quantities.show import trimmed
from candor.core.worded import worded


def asked_for(part: Part, measured: Measured) -> dict[str, str]:
    """Return the fields for a part: target, window in per cent, volts, and what is measured where it can be trimmed.

    A resistor that was read lifted can be trimmed by what goes beside it; nothing else can. A window over 20 % is not an aim.
    """
    trimmable = (
        part.kind == "resistor" and measured.value is not None and not measured.in_circuit and not measured.state
    )
    return {
        "target": _typed(part.nominal, part.unit),
        # A twentieth to a fifth: a part of +80 % may still be put right by one within 20 %.
        "window": trimmed(100 * min(*part.tolerance, 0.2)),
        "volts": trimmed(part.needed_volts) if part.needed_volts else "",
        "measured": _typed(measured.value, part.unit) if trimmable and measured.value else "",
    }


def read_asked(text: Mapping[str, str], *, kind: str, most: int, series: str) -> Asked:
    """Return what the fields ask: a window of 1 % where none is said.

    Raises
    ------
    CandorError
        Where they cannot be read.
    """
    if kind not in VALUED:
        raise ValueTextError(worded("combine.a_is_combined_of_nothing_expected", kind=kind), value=kind)
    share = parse_number(text["window"] or "1", worded("combine.per_cent_such_as")) / 100
    return Asked(
        kind=kind,  # type: ignore[arg-type]  # one of the two, as was seen above
        target=read_mark(text["target"], UNITS[kind]).value,
        below=share,
        above=share,
        measured=read_mark(text["measured"], UNITS[kind]).value if text["measured"] else None,
        volts=parse_quantity(text["volts"], "V").value if text["volts"] else 0.0,
        most=most,
        series=series,
    )


def _typed(value: float, unit: str) -> str:
    return engineering(value, unit, 6).replace("Ω", "").replace("µ", "u").strip()
