"""The fields of a range, for every way it can be read: what each asks, and the line that they say together."""

from __future__ import annotations

import math
import re
from collections.abc import Mapping
from dataclasses import replace

from candor.core.instrument.how import OHMS, HowRead, SecondDial
from candor.core.instrument.limit import LimitSaid
from candor.core.jot.meaning import RangeJot
from candor.core.late_dataclass import dataclass
from candor.core.quantities import engineering
from candor.core.quantities.show import MINUS, trimmed
from candor.core.quantities.units import suffix_meaning
from candor.core.worded import worded


@dataclass(frozen=True)
class RangeField:
    """One field: its key, what stands over it, an example, what it means, how it stands in the line, and how wide it is of four."""

    key: str
    title: str
    example: str
    tip: str
    says: str = "{}"
    choices: tuple[tuple[str, str], ...] = ()
    columns: int = 1
    beside_limit: bool = False


@dataclass(frozen=True)
class RangeWay:
    """One way a range is read: its title, its fields, and the words that the line needs besides."""

    key: str
    title: str
    fields: tuple[RangeField, ...]
    words: str = ""
    mirror: bool = False
    limit: str = "3 %"


_END = RangeField("end", "full scale", "30 V", "Where the range ends, with its unit; several: 1.5 5 15 50 V")
_ENDS = replace(_END, columns=3)
_DIVISIONS = RangeField(
    "divisions", "divisions", "30", "How many divisions its scale has, all of one width", says="{} div"
)
_BETWEEN = RangeField(
    "divisions", "div between marks", "5", "How many divisions between two printed marks", says="{} div"
)
_CALLED = RangeField(
    "name", "called", "R×1", "What the range switch calls it, where that is not its end", says='called "{}"'
)
_MULTIPLIERS = replace(
    _CALLED,
    example="R×1 R×10 R×1k",
    tip="What the range switch calls it; several: R×1 R×10 R×1k, the value that of the first",
)
_CENTRE = RangeField(
    "centre", "at half the arc", "10 ohm", "The value in the middle of the ohms arc, with its unit", says="{} centre"
)
_PRINTED = RangeField(
    "marks",
    "printed marks",
    "0 1 2 5 10 20 50 100 inf",
    "The numbers on the arc; empty: the usual ones",
    says="marks {}",
)
_SIDE = RangeField(
    "side", "its indication is on", "", "Where the lamp is lit, the eye open, the relay closed", says="{}",
    choices=(("threshold on below", "below it"), ("threshold on above", "above it"), ("threshold", "not said")),
)  # fmt: skip

LIMIT = RangeField(
    "limit", "limit", "3 %", "3 % (of full scale), 2 % of reading, ±0.5 V, ±1 div, 3 % of arc; empty: none known"
)
_STANDS = RangeField(
    "stands", "stands at most", "500 V", "The most it bears: 500 V, 10 times full scale for 2 s; empty: full scale",
    says="stands {}", columns=2, beside_limit=True,
)  # fmt: skip
_OHMS = (_CENTRE, _MULTIPLIERS, _PRINTED, _BETWEEN, _STANDS)

WAYS = (
    RangeWay("even", "a needle, zero at the left end", (_ENDS, _DIVISIONS, _STANDS), mirror=True),
    RangeWay(
        "centre zero", "a needle, zero in the middle",
        (RangeField("end", "full scale either way", "5 V", "Where the scale ends on either side", columns=3),
         RangeField("divisions", "divisions in all", "50", "From one end of the scale to the other", says="{} div"), _STANDS),
        "zero centre", mirror=True,
    ),
    RangeWay("ohms right", "an ohms arc, zero at the right", _OHMS, words="zero right", mirror=True, limit="3 % of arc"),
    RangeWay("ohms left", "an ohms arc, zero at the left", _OHMS, words="zero left", mirror=True, limit="3 % of arc"),
    RangeWay(
        "decibels", "decibels",
        (RangeField("from", "from", "-20", "The lowest level printed, dB", says="{}.."),
         RangeField("to", "to", "2", "The level at the right end, dB", says="{} dB"), _BETWEEN, _CALLED),
        mirror=True, limit="±0.5 dB",
    ),
    RangeWay(
        "square", "a needle, square law near zero",
        (_END, RangeField("knee", "even from", "0.5 V", "Where the law becomes even", says="square law knee {}"),
         _BETWEEN, _STANDS),
        mirror=True,
    ),
    RangeWay(
        "marks", "a needle, bent: by its marks",
        (_END, RangeField("marks", "marks, each with its place", "0@0 0.2@12 0.5@38 0.8@68 1@90",
                          "Value@place, five or more; places in any unit", says="marks {}", columns=2), _BETWEEN, _STANDS),
        mirror=True,
    ),
    RangeWay("mark", "a needle, set on its mark", (_ENDS, _DIVISIONS, _STANDS), "on its mark", mirror=True, limit="2 % of reading"),
    RangeWay(
        "null", "a dial at a null",
        (RangeField("end", "the dial ends at", "0.1 uF", "Where the dial ends, with its unit"), _DIVISIONS,
         RangeField("second", "second dial", "phase 60 % 60 div", "Name, end, divisions", says="second dial {}", columns=2)),
        "dial at a null", limit="3 % of reading",
    ),
    RangeWay(
        "at mark", "a dial, at the needle's mark",
        (RangeField("end", "the dial goes", "0..100", "From where to where it is numbered"), _DIVISIONS), "dial at its mark",
        limit="±5 div",
    ),
    RangeWay(
        "threshold", "a threshold: a lamp, an eye, a relay",
        (RangeField("end", "it changes at", "250 kohm", "At what it should change, with its unit"), _SIDE),
        limit="20 % of reading",
    ),
    RangeWay(
        "screen", "divisions on a screen",
        (RangeField("per", "a division is", "0.5 V", "With its unit: V, or s of a sweep", says="{}/div"),
         RangeField("divisions", "divisions", "8", "Along this direction", says="{} div"),
         RangeField("edge", "an edge is read to", "0.1", "Part of a division", says="edges {}"), _STANDS), limit="3 % of reading",
    ),
    RangeWay(
        "source", "a source: set, and measured",
        (RangeField("end", "ends at", "10 V", "The largest setting, with its unit"),
         RangeField("steps", "settings", "1 2 5 10", "Empty where it is turned", says="steps {}"), _DIVISIONS),
        "as a source", limit="2 % of reading",
    ),
    RangeWay(
        "figured", "calculated from points",
        (RangeField("formula", "formula", "(a - b) / 2", "Of names: + - * / ^ sqrt abs ln log10 exp", says="calculated {}"),
         RangeField("points", "each name and its point", "a dc+/60/30, b dc-/60/30", "As the points are called", says="of {}",
                    columns=2),
         RangeField("value", "should come to", "0 V", "With its unit; without one it is a ratio", says="comes to {}")),
        limit="±0.5 V",
    ),
    RangeWay(
        "look", "a look",
        (RangeField("good", "good is", "still, under a tick", "What a healthy one shows", says="look: {}", columns=2),
         RangeField("bad", "bad is", "beats, drifts", "What it must not show", says="| {}", columns=2)), limit="",
    ),
)  # fmt: skip


def range_line(
    way: RangeWay,
    function: str,
    said: Mapping[str, str],
    limit: str = "",
    whose: str = "",
    mirror: bool = False,
    usual: bool = False,
) -> str:
    """Return the line that the fields of a way say together, as it would be typed behind *range*; empty ones say nothing."""
    fields = [f.says.format(said[f.key].strip()) for f in way.fields if said.get(f.key, "").strip()]
    more = [way.words, "mirror" if mirror and way.mirror else "", "usual points" if usual else ""]
    if way.key == "look":
        return " ".join(filter(None, (function.strip(), *fields)))
    whole = f"{limit.strip()} by {whose}" if limit.strip() and whose else limit.strip()
    return " ".join(filter(None, (function.strip(), *_joined(fields), *more, whole)))


def _joined(fields: list[str]) -> list[str]:
    """From and to stand without a space between them."""
    return [" ".join(fields).replace(".. ", "..")] if fields else []


def fields_of(jot: RangeJot) -> tuple[RangeWay, dict[str, str], str]:
    """Return the way a range is read, its fields and its limit as they would be typed: `range_line` says the range of them."""
    how, unit = jot.how, jot.unit
    way = next(w for w in WAYS if w.key == _way_of(how))
    per_cent = unit == "1" and jot.name.endswith("%")  # what it is called is where it ends
    # What it is called is where it ends, as the face writes it: 1500 V, 3000 µmho.
    end = jot.name if per_cent or _is_end(jot) else _typed(jot.full_scale, unit)
    factor = jot.full_scale / float(re.match(r"[\d.]+", end)[0])  # type: ignore[index]  # what 1 of a bare number is worth
    second = how.second
    begins = _number(how.begins / factor) if how.begins and how.shape == "even" else "0" if unit == "1" else ""
    end = end.replace("µ", "u").replace("Ω", "ohm")
    ends = f"{begins}..{end}" if begins else end
    if jot.beside:
        rest = (_number(one.full_scale / factor) for one in jot.beside)
        ends = f"{' '.join((_number(jot.full_scale / factor), *rest))} {end.partition(' ')[2]}"
    names = " ".join(r.name for r in (jot, *jot.beside)) if how.shape in OHMS else jot.name
    said = {
        "end": ends, "centre": end, "name": names, "divisions": str(jot.divisions) if jot.divisions else "",
        "marks": _marks(how, factor), "steps": " ".join(_number(step / factor) for step in how.steps),
        "from": _number(how.begins), "to": _number(how.ends), "knee": _typed(how.knee, unit) if how.knee else "",
        "per": _typed(how.per_division, unit), "edge": _number(how.edge),
        "side": {-1: "threshold on below", 1: "threshold on above"}.get(how.on_side, "threshold"),
        "formula": how.formula, "points": ", ".join(f"{name} {key}" for name, key in how.points),
        "value": _comes_to(how, unit), "good": ", ".join(how.passes), "bad": ", ".join(how.fails),
        "stands": _stands(jot),
        "second": f"{second.title} {_second_end(second)} {second.divisions} div" if second else "",
    }  # fmt: skip
    return way, {f.key: said[f.key] for f in way.fields}, limit_text(jot.limit, unit)


def _is_end(jot: RangeJot) -> bool:
    match = re.fullmatch(r"([\d.]+) (\S+)", jot.name)
    meaning = suffix_meaning(match[2].replace("µ", "u"), jot.unit) if match else None
    return bool(match and meaning and math.isclose(float(match[1]) * meaning[0], jot.full_scale, rel_tol=1e-9))


def _stands(jot: RangeJot) -> str:
    """As it would be typed; of a series whose ranges stand the same times of their ends, as that."""
    words = jot.stands.words(jot.unit).removeprefix("stands ").replace("\u00a0", " ").replace("µ", "u")
    if len({one.stands for one in (jot, *jot.beside)}) == 1:
        return words
    _, _, held = words.partition(" for ")
    return worded("jot.times_full_scale", value=_number(jot.stands.value / jot.full_scale)) + (
        f" for {held}" if held else ""
    )


def limit_text(limit: LimitSaid, unit: str) -> str:
    """Return a limit as it would be typed."""
    terms = [f"{_number(value)} {words}" for value, words in (
        (limit.percent_of_full_scale, "% of full scale"), (limit.percent_of_reading, "% of reading"),
        (limit.percent_of_arc, "% of arc"), (limit.degrees_of_arc, "degrees of arc"),
    ) if value]  # fmt: skip
    terms += [worded("jot.div", limit_divisions=_number(limit.limit_divisions))] if limit.limit_divisions else []
    terms += [worded("jot.db", decibels=_number(limit.decibels))] if limit.decibels else []
    terms += [f"factor {_number(limit.factor)}"] if limit.factor else []
    terms += [f"±{_typed(limit.absolute, unit)}"] if limit.absolute else []
    ends = (("least", limit.at_least), ("most", limit.at_most))
    terms += [f"at {which} {_typed(value, unit)}" for which, value in ends if value is not None]
    return " + ".join(terms) + (", the greater" if limit.combine == "greater" else "")


def _comes_to(how: HowRead, unit: str) -> str:
    if how.kind != "figured":
        return ""
    return _number(how.comes_to) if unit == "1" else _typed(how.comes_to, unit) if how.comes_to else f"0 {unit}"


def _way_of(how: HowRead) -> str:
    if how.kind != "needle":
        return how.kind
    return {"ohms falling": "ohms right", "ohms rising": "ohms left", "square near zero": "square"}.get(
        how.shape, how.shape
    )


def _number(value: float) -> str:
    return trimmed(value, 9).replace(MINUS, "-")


def _typed(value: float, unit: str) -> str:
    if unit in ("1", "dB"):
        return _number(value) + (" dB" if unit == "dB" else "")
    return (
        engineering(value, unit, 9).replace("\u00a0", " ").replace(MINUS, "-").replace("Ω", "ohm").replace("µ", "u")
    )


def _marks(how: HowRead, factor: float) -> str:
    shown = ["inf" if math.isinf(mark) else _number(mark / factor) for mark in how.marks]
    places = [f"@{_number(100 * place)}" for place in how.places] or [""] * len(shown)
    placed = worded("jot.placed_to", places_u=_number(200 * how.places_u)) if how.places_u else ""
    return " ".join(f"{mark}{place}" for mark, place in zip(shown, places, strict=True)) + placed


def _second_end(second: SecondDial) -> str:
    return f"{_number(100 * second.end)} %" if second.unit == "1" else _typed(second.end, second.unit)
