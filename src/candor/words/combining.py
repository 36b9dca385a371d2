"""Values put together of pieces, in words: the trim, every arrangement with what it carries, what the search covered."""

from __future__ import annotations

import math
from typing import Any

from candor.core.combine.search import Answer, Asked, Covered, Found, Split
from candor.core.combine.trims import Load, Trim
from candor.core.parts.part import UNITS
from candor.core.quantities import engineering
from candor.core.quantities.show import round_up, signed, trimmed
from candor.packs.retrim import Retrim

SIFTED = {
    "resistor": "resistors in series with none over its rating",
    "capacitor": "capacitors that each stand the whole voltage",
}


def say_trim(found: Trim, unit: str) -> str:
    """Say a trim: ``369.6 MΩ across; 236.1 MΩ to 829.6 MΩ serves``."""
    if math.isinf(found.exact):
        return "right as it is; nothing is needed"
    upper = f"to {engineering(found.high, unit)} serves" if math.isfinite(found.high) else "or more serves"
    return f"{engineering(found.exact, unit)} {found.how}; {engineering(found.low, unit)} {upper}"


def say_answer(found: Answer, asked: Asked) -> str:
    """Say how near an arrangement comes, at worst how far it is off, and what each piece carries."""
    off = 100 * (found.value / asked.target - 1)
    worst = 100 * max(found.high - asked.target, asked.target - found.low) / asked.target
    words = [
        f"{engineering(found.value, UNITS[asked.kind], 5)}, {signed(off, 3 if abs(off) < 0.1 else 2)} %",
        f"at worst {trimmed(worst, 3)} % off",
    ]
    if found.loads:
        words.append("each " + ", ".join(_say_load(load) for load in found.loads))
    words.append(
        "serves even at worst" if found.always else "serves" if found.serves else "outside the limits that serve"
    )
    over = "; ".join(filter(None, (say_over(load) for load in found.loads)))
    return "; ".join(words) + (f". Above its rating: {over}" if over else "")


def say_over(load: Load) -> str:
    """Say what is above a rating of a piece, or nothing."""
    faults = [f"{trimmed(load.volts)} V on {trimmed(load.volts_rated)} V"] if load.too_many_volts else []
    if load.too_many_watts:
        faults.append(f"{engineering(load.watts, 'W', 3)} in {engineering(load.watts_rated, 'W', 3)}")
    return " and ".join(faults)


def _say_load(load: Load) -> str:
    watts = f" {engineering(load.watts, 'W', 2)}" if load.watts else ""
    return f"{trimmed(load.volts, 3)} V{watts}"


def say_to_order(found: Answer, asked: Asked) -> str:
    """Say what is to be ordered: nothing, ``to order`` for all of it, ``to order: 47 kΩ`` for a part."""
    missing = ", ".join(engineering(p.value, UNITS[asked.kind]) for p in found.to_order)
    if not missing:
        return ""
    return "to order" if len(found.to_order) == len(found.pieces) else f"to order: {missing}"


def say_covered(found: Covered) -> str:
    """Say what was tried, and how much better another could be by worst case."""
    s = "" if found.count == 1 else "s"
    whole = ", the part that is there included" if found.beside else ""
    tried = f"Every arrangement of up to {found.most} of {found.count} value{s} was tried"
    tried += f": no other is nearer by nominal value{whole}."
    if not found.gap:
        return f"{tried} By worst case, all were tried."
    return (
        f"{tried} By worst case, none is better than this one by more than {trimmed(round_up(100 * found.gap), 2)} %."
    )


def say_split(found: Split) -> str:
    """Say into how many equal resistors one must be split, so that none has more volts than it stands."""
    each, volts = engineering(found.ohms, "ohm"), trimmed(found.volts / found.count, 3)
    return f"For {trimmed(found.volts, 3)} V split it: {found.count} x {each} in series, {volts} V each."


def say_search(found: Found) -> str:
    """Say the trim, what the search covered, and what else must be minded."""
    if found.trim is not None and math.isinf(found.trim.exact):
        return f"It is {say_trim(found.trim, UNITS[found.asked.kind])}."
    said = [f"{say_trim(found.trim, UNITS[found.asked.kind])}."] if found.trim is not None else []
    if found.covered is not None:
        said.append(say_covered(found.covered))
    elif found.standard is not None:
        said.append("Nothing is on hand to combine: this is one new piece.")
    if found.rated is not None:
        said.append(f"Of {SIFTED[found.asked.kind]}, up to {found.asked.most} pieces, the last is the nearest.")
    elif found.split is not None:
        said.append(say_split(found.split))
    return " ".join(said)


def named_answers(found: Found) -> tuple[tuple[str, str, Answer], ...]:
    """Return every arrangement with its key and what it is: one new piece, the nearest of each number, the chosen ones."""
    rows = []
    if found.standard is not None:
        rows.append(("standard", f"one new, {found.standard.pieces[0].name}", found.standard))
    for index, answer in enumerate(found.answers):
        count = len(answer.pieces)
        rows.append((str(index), f"{count} piece{'s' if count > 1 else ''}", answer))
    if found.worst is not None:
        rows.append(("worst", "best by worst case", found.worst))
    if found.rated is not None:
        rows.append(("rated", "none over its rating", found.rated))
    return tuple(rows)


def search_json(found: Found) -> dict[str, Any]:
    """Return a search with its numbers, in ohm or F, V and W."""
    made = found.trim
    added = (
        {
            "how": made.how,
            "exact": made.exact,
            "low": made.low,
            "high": made.high if math.isfinite(made.high) else None,
        }
        if made is not None and math.isfinite(made.exact)
        else None
    )
    return {
        "kind": found.asked.kind,
        "target": found.asked.target,
        "trim": added,
        "answers": [
            {
                "which": key,
                "text": answer.text,
                "value": answer.value,
                "low": answer.low,
                "high": answer.high,
                "serves": answer.serves,
                "serves_at_worst": answer.always,
                "to_order": [p.value for p in answer.to_order],
                "loads": [
                    {"volts": load.volts, "watts": load.watts or None, "over": load.is_over} for load in answer.loads
                ],
                "sentence": say_answer(answer, found.asked),
            }
            for key, _, answer in named_answers(found)
        ],
        "sentence": say_search(found),
    }


def search_lines(found: Found) -> str:
    """Return the same as lines."""
    lines = [say_search(found)]
    for _, what, answer in named_answers(found):
        order = say_to_order(answer, found.asked)
        lines.append(f"{what}:  {answer.text}{f' ({order})' if order else ''}: {say_answer(answer, found.asked)}")
    return "\n".join(lines)


def say_retrim(found: Retrim) -> str:
    """Say what the part of an adjuster must be, what goes across it or in series, and how far off the range is then."""
    if math.isinf(found.added.exact):
        return f"{found.ref} is right as it is."
    was, wanted = engineering(found.value, found.unit, 5), engineering(found.wanted, found.unit, 5)
    said = f"By its circuit {found.ref}, {was}, must be {wanted}: {say_trim(found.added, found.unit)}."
    if not found.size:
        return said
    then = f"then the range is off by {signed(100 * found.left, 2)} %"
    if found.stock is not None:
        return f"{said} {found.stock.name or engineering(found.size, found.unit)} from stock: {then}."
    none = "None in stock serves. " if found.asked_stock else ""
    near = "" if found.added.low <= found.size <= found.added.high else ", outside what serves"
    return f"{said} {none}The nearest of E24 is {engineering(found.size, found.unit)}{near}: {then}."
