"""Understanding a line of the trace: `node n5 182 with 10M`, `ohms n5 to 0 47k`, `stage mixer`, `behind mixer good`, `cause: …`."""

from __future__ import annotations

import math
import re
from collections.abc import Callable
from typing import Literal, cast

from candor.core.circuit.netlist import GROUND
from candor.core.errors import ValueTextError
from candor.core.jot.board_line import node_name
from candor.core.jot.meaning import Jot
from candor.core.jot.trace_meaning import (
    CauseJot,
    LeadJot,
    LookJot,
    NodeDrawnJot,
    NodeReadJot,
    PairJot,
    StageJot,
    TubeJot,
    WorsenedJot,
)
from candor.core.quantities import engineering, parse_number, parse_quantity
from candor.core.quantities.show import trimmed
from candor.core.trace.pairs import say_ohms
from candor.core.trace.reckon import perveance_of
from candor.core.tubes.ratings import BY_NAME, kind_of_tube

_VALUE = r"[+−-]?\s?[\d.,]+\s?[A-Za-zµΩ]*"
_ENDS = re.compile(r"(plate|grid|cathode|screen)\s+(?:at\s+)?([^\s,]+)", re.I)
_BEARS = re.compile(r"(plate|screen|cathode)\s+at\s+most\s+([\d.,]+\s?m?[VWA])", re.I)

_CURVE = re.compile(
    r"mu\s+([\d.,]+)\s*,?\s+([\d.,]+\s?[mµu]?A)\s+at\s+([\d.,]+\s?V)\s+(?:and\s+)?([+−-]?[\d.,]+\s?V)", re.I
)


def understand_trace(text: str) -> Jot | None:
    """Say what a line of the trace means, None where it is none.

    Raises
    ------
    ValueTextError
        Where it begins like one and a value in it cannot be read.
    """
    for pattern, read in _LINES:
        match = re.fullmatch(pattern, text.strip(), re.I)
        if match:
            return read(match)
    return None


def _read(match: re.Match[str]) -> Jot:
    node, volts = node_name(match[1]), parse_quantity(match[2], "V").value
    ohms = parse_quantity(match[3], "ohm").value if match[3] else 0.0
    if node == GROUND or ohms < 0:
        what = "the chassis is at 0 V by itself" if node == GROUND else "a meter has more than 0 ohm"
        raise ValueTextError(f"“{match[0]}”: {what}; expected such as: node n5 182 with 10M", value=match[0])
    with_ = (f"with {engineering(ohms, 'ohm')}",) if ohms else ()
    return NodeReadJot(node, volts, ohms, (f"node {node} {engineering(volts, 'V', 5)}", *with_))


def _drawn(match: re.Match[str]) -> Jot:
    node, volts = node_name(match[1]), parse_quantity(match[2], "V").value
    per_volt = (
        parse_number(match[3].rstrip("k"), "ohms per volt such as 1000") * (1000 if match[3].endswith("k") else 1)
        if match[3]
        else 0.0
    )
    range_volts = parse_quantity(match[4], "V").value if match[4] else 0.0
    if per_volt and not range_volts:
        raise ValueTextError(
            f"“{match[0]}”: on which range? Expected such as: node n5 by drawing 180 V at 2000 ohm/V on 300 V",
            value=match[0],
        )
    meter = (f"read at {trimmed(per_volt)} Ω/V on {trimmed(range_volts)} V",) if per_volt else ()
    chips = (f"node {node} by the drawing: {trimmed(volts)} V", *meter)
    return NodeDrawnJot(node, volts, per_volt, range_volts, chips=chips)


def _ohms(text: str) -> float:
    if text.strip().casefold() in ("open", "infinite", "inf"):
        return math.inf
    return parse_quantity(text, "ohm").value


def _pair(match: re.Match[str]) -> Jot:
    one, other, ohms = node_name(match[1]), node_name(match[2]), _ohms(match[3])
    turned = _ohms(match[4]) if match[4] else None
    volts = parse_quantity(match[5], "V").value if match[5] else 0.0
    if one == other or ohms < 0:
        raise ValueTextError(f"“{match[0]}”: expected two nodes, such as: ohms n5 to 0 47k", value=match[0])
    more = (f"turned {say_ohms(turned)}",) if turned is not None else ()
    return PairJot(one, other, ohms, turned, volts=volts, chips=(f"{one} to {other} {say_ohms(ohms)}", *more))


def _tube(match: re.Match[str]) -> Jot:
    written, generic = match[2], ""
    said = re.search(r",?\s*kind\s+(?P<kind>[a-z][a-z ,-]*)$", written, re.I)
    bears: dict[str, float] = {}
    of_kind: dict[str, float] = {}
    chips: tuple[str, ...] = ()
    if said:
        kind = kind_of_tube(said["kind"])
        if kind is None:
            listed = "; ".join(sorted(BY_NAME))
            raise ValueTextError(
                f"“{said['kind']}” is no one generic kind; expected one of: {listed}.", value=said["kind"]
            )
        written, generic = written[: said.start()], kind.name
        found = {name: getattr(kind, name) for name in ("plate_volts", "plate_watts", "screen_volts", "screen_watts")}
        of_kind = {name: value for name, value in found.items() if value}
        chips = (kind.sentence,)
    ends = {end[1].lower(): node_name(end[2]) for end in _ENDS.finditer(re.sub(_BEARS, "", written))}
    if "plate" not in ends or "cathode" not in ends:
        raise ValueTextError(
            f"“{match[0]}”: expected such as: tube V3 plate n5, grid n3, cathode n7, plate at most 300 V",
            value=match[0],
        )
    for what, value in _BEARS.findall(written):
        unit = value.strip()[-1].upper()
        suffix = {"V": "volts", "W": "watts", "A": "amperes"}[unit]
        bears[f"{what.lower()}_{suffix}"] = parse_quantity(value, unit).value
    curve = _CURVE.search(written)
    if curve:
        mu, amperes, plate, grid = parse_number(curve[1], "mu such as 20"), curve[2], curve[3], curve[4]
        amount = parse_quantity(amperes, "A").value
        bears |= {
            "mu": mu,
            "perveance": perveance_of(amount, parse_quantity(plate, "V").value, parse_quantity(grid, "V").value, mu),
        }
    known = {"mu", "perveance", "plate_volts", "plate_watts", "screen_volts", "screen_watts", "cathode_amperes"}
    if set(bears) - known:
        raise ValueTextError(f"“{match[0]}”: a plate or screen bears V and W, a cathode A.", value=match[0])
    if of_kind and not set(bears) - {"mu", "perveance"}:  # its own sheet rules: the kind's are not mixed in
        bears |= of_kind
    else:
        generic, chips = "", ()
    chips = (f"tube {match[1]}", *(f"{k} {v}" for k, v in ends.items()), *chips)
    return TubeJot(match[1].lower(), ends, bears, generic, chips=chips)


def _stage(match: re.Match[str]) -> Jot:
    rest, low, high, weight, minutes = match[1], 0.0, 0.0, 1.0, 3.0
    band = re.search(r"[, ]+(?:band\s+)?([\d.,]+)\s*\.\.\s*([\d.,]+)", rest)
    if band:
        low, high = parse_number(band[1], "a number"), parse_number(band[2], "a number")
        rest = rest[: band.start()] + rest[band.end() :]
    for pattern, key in ((r"[, ]+weight\s+([\d.,]+)", "weight"), (r"[, ]+([\d.,]+)\s*min(?:utes)?", "minutes")):
        found = re.search(pattern, rest, re.I)
        if found:
            value = parse_number(found[1], "a number")
            weight, minutes = (value, minutes) if key == "weight" else (weight, value)
            rest = rest[: found.start()] + rest[found.end() :]
    name = rest.strip(" ,")
    if not name or low > high or weight <= 0 or minutes <= 0:
        raise ValueTextError(
            f"“{match[0]}”: expected such as: stage mixer, weight 2, 5 min, band 8..12", value=match[0]
        )
    more = (f"{trimmed(low)} to {trimmed(high)}",) if band else ()
    return StageJot(name, weight, minutes, low, high=high, chips=(f"stage {name}", *more))


def _look(match: re.Match[str]) -> Jot:
    lifted, stage, said = bool(match[1]), match[2].strip(), match[3].lower()
    if said in ("good", "bad", "odd"):
        return LookJot(
            stage, cast(Literal["good", "bad", "odd"], said), lifted=lifted, chips=(f"behind {stage}: {said}",)
        )
    value = parse_number(said, "good, bad, odd or a number")
    return LookJot(stage, "", value, lifted, chips=(f"behind {stage}: {trimmed(value)}",))


_DRAWN = (
    rf"node\s+(\S.*?)\s+by\s+(?:the\s+)?drawing\s+({_VALUE}?)"
    rf"(?:\s+at\s+([\d.,]+k?)\s*(?:ohms?|Ω)?/V(?:\s+on\s+({_VALUE}))?)?"
)
_PAIR = (
    rf"ohms\s+(\S+)\s+(?:(?:to|and)\s+)?(\S+)\s+({_VALUE}?|open)"
    rf"(?:,?\s+turned\s+({_VALUE}?|open))?(?:,?\s+after\s+({_VALUE}))?"
)
_LINES: tuple[tuple[str, Callable[[re.Match[str]], Jot]], ...] = (
    (_DRAWN, _drawn),
    (rf"node\s+((?!.*\sis\s)\S[^=:]*?)\s+({_VALUE}?)(?:\s+with\s+({_VALUE}))?", _read),
    (_PAIR, _pair),
    (r"tube\s+(\S+)\s+((?:plate|grid|cathode|screen)\b.*)", _tube),
    (r"stage\s+(\S.*)", _stage),
    (r"(lifted\s+)?(?:look\s+)?behind\s+(\S.*?)\s*:?\s+(good|bad|odd|[+-]?[\d.,]+)", _look),
    (r"(?:lead|signal)\s+proved", lambda _: LeadJot(("lead and signal proved",))),
    (r"cause\s*[:,]?\s+(\S.*)", lambda m: CauseJot(m[1].strip(), (f"cause: {m[1].strip()}",))),
    (
        r"stopped\s+working\s*[:,]?\s*(\S.*)",
        lambda m: WorsenedJot(m[1].strip(), (f"stopped working: {m[1].strip()}",)),
    ),
)
