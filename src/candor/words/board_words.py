"""What explains what was read on a board, in words: a part, a lead one lug over, a bridge, a leak, a misreading; and what to measure."""

from __future__ import annotations

import math
from typing import Any

from candor.core.circuit.netlist import GROUND
from candor.core.quantities import engineering
from candor.core.suspects.board_faults import Fault
from candor.core.suspects.next_on_board import NextOnBoard
from candor.core.suspects.weigh_board import BoardSuspect
from candor.notebook.trace.on_board import OnBoard

TOO_LITTLE = "Too little was read: three nodes, or ohms between nodes, of a circuit that Candor knows."
LIKELY, SOUND, SETTLED, WORTH_SAYING = 0.5, 0.8, 0.9, 0.05
CUT_OFF = "Cord out, discharged: "
ADVICE: dict[Fault, str] = {
    "nothing": "",
    "part": f"{CUT_OFF}measure it with one end lifted before it is changed.",
    "moved": f"{CUT_OFF}follow its leads by eye, then by ohms, before anything is unsoldered.",
    "bridge": f"{CUT_OFF}look for a whisker or a blob of solder between them, and read the ohms.",
    "leak": f"{CUT_OFF}lift one end of it and measure its leakage at its working voltage.",
    "current": "Look for what joins that node which the drawing does not show: a leaky capacitor, a part nobody drew, grid current.",
    "reading": "Read it again before anything is touched.",
    "probe": "Read it again with the probe where you can see its tip.",
}
MOST_LN = 8.0  # of a part, above which it is said to be open


def say_board_suspect(suspect: BoardSuspect, nominal: float = 0.0) -> str:
    """Say one explanation: of a part what its value would be, where its nominal one, ohm, is given; and how likely it is."""
    return f"{_what(suspect, nominal)}: {_percent(suspect.probability)} likely."


def say_on_board(found: OnBoard | None) -> list[str]:
    """Return what explains what was read, the likeliest first with what is done about it; what else may; what to measure next."""
    if found is None:
        return [TOO_LITTLE]
    first, *others = found.weighed.suspects
    said = [say_board_suspect(s, found.nominal.get(s.of[0], 0.0) if s.of else 0.0) for s in found.weighed.suspects]
    if first.probability < (SOUND if first.kind == "nothing" else LIKELY):
        lines = [f"Cannot tell yet. {said[0]}"]
    else:
        lines = [said[0], *filter(None, [ADVICE[first.kind]])]
    lines += [
        f"Or: {s[0].lower() if not _is_name(s) else s[0]}{s[1:]}"
        for s, o in zip(said[1:4], others, strict=False)
        if o.probability >= WORTH_SAYING
    ]
    alike = [s for s in found.weighed.suspects if s.group >= 0 and s.group == first.group]
    if len(alike) > 1:
        names = [_short(s) for s in alike]
        lines.append(f"What was read cannot tell {', '.join(names[:-1])} and {names[-1]} apart.")
    if not found.weighed.explains:
        lines.append(
            "It does not explain all of what was read: look for a second fault, or read again what stands out."
        )
    return [*lines, *filter(None, (say_next_on_board(found),))]


def say_next_on_board(found: OnBoard) -> str:
    """Say what would tell most, and what the likeliest explanations would show there; empty where nothing would."""
    first = found.weighed.suspects[0]
    if not found.next or (first.probability >= SETTLED and first.group < 0):
        return ""
    best = found.next[0]
    shows = {key: (mean, spread) for key, mean, spread in best.shows}
    named = [s for s in found.weighed.suspects if (s.kind, s.of) in shows]
    if best.kind == "node":
        deed = f"Measure next: {best.of[0]}, under power; clip on with the power off."
    elif best.kind == "pair":
        deed = f"Measure next: ohms from {_node(best.of[0])} to {_node(best.of[1])}, power off and discharged."
    else:
        return f"Measure next: {best.of[0]}, one end lifted, power off and discharged. It tells most for the time it takes."
    if len(named) < 2:
        return f"{deed} It tells most for the time it takes."
    mean, spread = shows[named[0].kind, named[0].of]
    apart = [(abs(shows[s.kind, s.of][0] - mean) / math.hypot(spread, shows[s.kind, s.of][1]), s) for s in named[1:]]
    far, other = max(apart, key=lambda a: a[0])
    if far < 1:
        return f"{deed} It tells most for the time it takes."
    there = shows[other.kind, other.of][0]
    return f"{deed} {_capital(_short(named[0]))}: about {_shown(best, mean)}; {_short(other)}: about {_shown(best, there)}."


def board_json(found: OnBoard | None) -> dict[str, Any]:
    """Return it as fields, with its sentences."""
    if found is None:
        return {"suspects": [], "sentences": [TOO_LITTLE]}
    return {
        "suspects": [
            {
                "kind": s.kind, "of": [n for n in s.of if n], "probability": round(s.probability, 4),
                "amount": s.amount if math.isfinite(s.amount) else None, "u": s.u,
                "gone": "" if math.isfinite(s.amount) else "open" if s.amount > 0 else "shorted",
                "group": s.group if s.group >= 0 else None,
                "sentence": say_board_suspect(s, found.nominal.get(s.of[0], 0.0) if s.of else 0.0), "advice": ADVICE[s.kind],
            }
            for s in found.weighed.suspects
        ],
        "left_over": found.weighed.left_over, "explains": found.weighed.explains,
        "next": [
            {"kind": n.kind, "of": list(n.of), "bits": round(n.bits, 3), "minutes": n.minutes} for n in found.next[:5]
        ],
        "sentences": say_on_board(found),
    }  # fmt: skip


def _what(s: BoardSuspect, nominal: float) -> str:
    match s.kind:
        case "nothing":
            return "What was read fits the drawing"
        case "part":
            return f"{s.of[0]} {_of_part(s, nominal)}"
        case "moved":
            return f"{s.of[0]} is soldered to {_node(s.of[2])} where {_node(s.of[1])} is drawn"
        case "bridge":
            return f"A bridge from {_node(s.of[0])} to {_node(s.of[1])}"
        case "leak":
            return f"{s.of[0]} leaks, about {engineering(s.amount, 'ohm', 1)} across it"
        case "current":
            way = "into" if s.amount < 0 else "out of"
            return (
                f"{_capital(engineering(abs(s.amount), 'A', 2))} flow {way} {s.of[0]} that the drawing does not show"
            )
        case "reading":
            return f"The reading {_at(s.of)} is off by itself"
        case "probe":
            meant, stood = s.of[: s.of.index("")], s.of[s.of.index("") + 1 :]
            return f"The reading {_at(meant)} was taken {_at(stood)}"


def _of_part(s: BoardSuspect, nominal: float) -> str:
    if math.isinf(s.amount) or s.amount > MOST_LN:
        return "is shorted" if s.amount < 0 else "is open, or one of its leads is off"
    low, high = math.exp(s.amount - 2 * s.u), math.exp(s.amount + 2 * s.u)
    value = f" instead of {engineering(nominal, 'ohm', 3)}" if nominal else ""
    if nominal:
        return f"is between {engineering(nominal * low, 'ohm', 2)} and {engineering(nominal * high, 'ohm', 2)}{value}"
    return f"is {'high' if s.amount > 0 else 'low'}"


def _short(s: BoardSuspect) -> str:
    match s.kind:
        case "nothing":
            return "nothing wrong"
        case "part":
            return f"{s.of[0]}{' open' if math.isinf(s.amount) and s.amount > 0 else ' shorted' if math.isinf(s.amount) else ''}"
        case "moved":
            return f"{s.of[0]} on {_node(s.of[2])}"
        case "bridge":
            return f"a bridge from {_node(s.of[0])} to {_node(s.of[1])}"
        case "leak":
            return f"a leak through {s.of[0]}"
        case "current":
            return f"a current at {s.of[0]}"
        case "reading":
            return f"a misreading {_at(s.of)}"
        case "probe":
            return f"a probe that stood {_at(s.of[s.of.index('') + 1 :])}"


def _shown(best: NextOnBoard, value: float) -> str:
    if best.kind == "node":
        return engineering(value, "V", 2)
    return "open" if value > math.log(5e7) else engineering(math.exp(value), "ohm", 2)


def _at(nodes: tuple[str, ...]) -> str:
    return f"at {_node(nodes[0])}" if len(nodes) == 1 else f"from {_node(nodes[0])} to {_node(nodes[1])}"


def _node(name: str) -> str:
    return "the chassis" if name == GROUND else name


def _percent(share: float) -> str:
    return "over 99 %" if share > 0.99 else f"{100 * share:.0f} %"


def _capital(text: str) -> str:
    return text[:1].upper() + text[1:]


def _is_name(text: str) -> bool:
    """Whether a sentence begins with a designator or a node, which keep their case."""
    word = text.split(" ", 1)[0]
    return any(c.isdigit() for c in word)
