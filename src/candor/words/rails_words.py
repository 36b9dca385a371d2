"""What explains the rails of a supply, in words: its winding, its rectifier, its filter, its load; and what to measure next."""

from __future__ import annotations

import math
from typing import Any

from candor.core.power.typed import TypedSupply
from candor.core.quantities import engineering
from candor.core.suspects.rails import Rails
from candor.core.suspects.supply_backwards import SupplySuspect

TOO_LITTLE = "Too little was measured: two of its rails, ripples, or the open winding at least."
LIKELY, SOUND, SETTLED, WORTH_SAYING = 0.5, 0.75, 0.9, 0.05
NEXT_TO_NOTHING = -2.0  # ln, from which on a figure is next to nothing
CUT_OFF = "Cord out, discharged: "
ADVICE = {
    "": "",
    "winding": f"{CUT_OFF}take its leads off the rectifier, insulate them, and measure its volts with nothing connected.",
    "winding ohms": f"{CUT_OFF}measure the ohms of each half, and of its joints.",
    "rectifier": f"{CUT_OFF}try one that is known to be good; a worn one is low at the load and right without it.",
    "silicon": f"{CUT_OFF}look for diodes at its socket. With silicon the rails are up before the tubes draw: see what each capacitor meets.",
    "load": f"{CUT_OFF}take the load off piece by piece; or measure the volts over a resistor in its way.",
    "capacitor": f"{CUT_OFF}lift one end of it, and measure its capacitance and ESR.",
    "dropper": f"{CUT_OFF}measure it with one end lifted.",
}


def say_rails(found: Rails) -> list[str]:
    """Return what explains the rails, the likeliest first with what is done about it; what else may; what to measure next."""
    weighed = found.weighed
    if weighed is None:
        return [TOO_LITTLE]
    first, *others = weighed.suspects
    said = say_supply_suspect(first, found.asked)
    if first.probability < (LIKELY if first.figure else SOUND):
        lines = [f"Cannot tell yet. {said}"]
    else:
        lines = [said, *filter(None, [ADVICE[first.figure]])]
    lines += [
        f"Or: {_lower(say_supply_suspect(s, found.asked))}" for s in others[:3] if s.probability >= WORTH_SAYING
    ]
    alike = [_short(s) for s in weighed.suspects if s.group >= 0 and s.group == first.group]
    if len(alike) > 1:
        lines.append(f"What was measured cannot tell {', '.join(alike[:-1])} and {alike[-1]} apart.")
    if not weighed.explains:
        lines.append(
            "It does not explain all of what was measured: look for a second fault, or is the supply typed as it is?"
        )
    if weighed.next and first.probability < SETTLED:
        lines.append(f"Measure next: {_place(weighed.next[0][0])}. It tells most.")
    return lines


def say_supply_suspect(suspect: SupplySuspect, asked: TypedSupply) -> str:
    """Say one explanation with how far it is off and how likely it is."""
    return f"{_what(suspect, asked)}: {_percent(suspect.probability)} likely."


def rails_json(found: Rails) -> dict[str, Any]:
    """Return it as fields, with its sentences."""
    weighed = found.weighed
    if weighed is None:
        return {"suspects": [], "sentences": [TOO_LITTLE]}
    return {
        "suspects": [
            {
                "figure": s.figure or "nothing", "which": s.which or None, "probability": round(s.probability, 4), "ln": s.amount, "u": s.u,
                "group": s.group if s.group >= 0 else None, "sentence": say_supply_suspect(s, found.asked), "advice": ADVICE[s.figure],
            }
            for s in weighed.suspects
        ],
        "measured": [{"what": name, "volts": v, "calculated": round(c, 3)} for name, v, c in weighed.rows],
        "left_over": weighed.left_over, "explains": weighed.explains,
        "next": [{"what": name, "bits": round(bits, 3)} for name, bits in weighed.next],
        "sentences": say_rails(found),
    }  # fmt: skip


def _what(s: SupplySuspect, asked: TypedSupply) -> str:
    low, high = math.exp(s.amount - 2 * s.u), math.exp(s.amount + 2 * s.u)

    def between(value: float, unit: str) -> str:
        return f"between {engineering(value * low, unit, 2)} and {engineering(value * high, unit, 2)} instead of {engineering(value, unit, 3)}"

    match s.figure:
        case "":
            return "The rails fit the supply as it is typed"
        case "winding":
            return f"The winding gives {between(asked.volts, 'V')}"
        case "winding ohms":
            return f"The winding, with its joints, has {between(asked.ohms, 'ohm')}"
        case "rectifier":
            return "The rectifier is weak, and drops more than a good one"
        case "silicon":
            return f"Silicon stands where a {asked.rectifier} rectifier is typed"
        case "load":
            if s.amount < NEXT_TO_NOTHING:
                return "The load draws next to nothing"
            return f"The load draws {between(asked.load_amperes, 'A')}"
        case "capacitor":
            value = asked.sections[s.which - 1].farad
            if s.amount < NEXT_TO_NOTHING:
                return f"C{s.which} is open, or has lost nearly all of its {engineering(value, 'F', 3)}"
            return f"C{s.which} has {between(value, 'F')}"
        case _:
            return f"The resistor before C{s.which} has {between(asked.sections[s.which - 1].series_ohms, 'ohm')}"


def _short(s: SupplySuspect) -> str:
    named = {
        "winding": "the winding",
        "winding ohms": "the winding's ohms",
        "rectifier": "the rectifier",
        "silicon": "silicon in its place",
        "load": "the load",
    }
    return named.get(s.figure) or (f"C{s.which}" if s.figure == "capacitor" else f"the resistor before C{s.which}")


def _place(name: str) -> str:
    if name == "winding open":
        return "the winding unloaded, power off and discharged before its leads come off the rectifier, and insulated before power"
    return f"the ripple on {name.split()[0]}" if name.endswith("ripple") else f"the volts on {name}"


def _percent(share: float) -> str:
    return "over 99 %" if share > 0.99 else f"{100 * share:.0f} %"


def _lower(text: str) -> str:
    return text if text[1:2].isdigit() else text[:1].lower() + text[1:]
