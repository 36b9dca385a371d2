"""What explains the errors, in words: what is off and by how much, how sure that is, what to do, and which reading would tell."""

from __future__ import annotations

import math
from typing import Any

from candor.core.quantities import engineering
from candor.core.quantities.show import signed, trimmed
from candor.core.suspects.observed import Observed
from candor.core.suspects.weigh import Suspect, Weighed
from candor.notebook.work.suspecting import Suspected
from candor.words.combining import say_trim

TOO_LITTLE = "Too little was read: three points of volts or amperes on an arc at least."
LIKELY, SOUND, SETTLED, WORTH_SAYING = 0.5, 0.8, 0.9, 0.05
FAR_INSIDE = 0.5  # of a limit
MENDED = ("zero", "bridge zero", "gain", "all gains", "tracking", "range", "part", "two parts")
ADVICE = {
    "nothing": "Leave it: nothing asks to be adjusted.",
    "zero": "No part does this. With the power off, set the mechanical zero; then the electrical one; then the gain, which was set over it.",
    "bridge zero": "It turns with the polarity: the bridge's balance, leakage or grid current, not a divider.",
    "gain": "One trimmer moves it: set it once the zero is right.",
    "all gains": "What all functions share: the movement and its shunt, the magnet, or the probe.",
    "tracking": "Nothing at both ends of the arc and most in its middle: the movement or its scale. No trimmer moves it.",
    "friction": "Read from one side alone: read from the other too, then it is known.",
    "range": "That range alone: its multiplier, or its contact on the switch.",
    "part": "Cord out, discharged: measure it with one end lifted before it is changed.",
    "two parts": "Cord out, discharged: measure both with one end lifted before either is changed.",
    "reading": "Read it again before anything is touched.",
}


def say_suspect(suspect: Suspect, observed: tuple[Observed, ...]) -> str:
    """Say one explanation with how far it is off and how likely it is."""
    return f"{_what(suspect, observed)}: {_percent(suspect.probability)} likely."


def advise(suspect: Suspect) -> str:
    """Say what is done about it."""
    return ADVICE[suspect.kind]


def say_weighed(found: Weighed, *, stays: bool = False) -> list[str]:
    """Return what explains the errors, the likeliest first with what is done about it, then what else may, and what stays open.

    `stays` where all is so far inside its limits that nothing is done.
    """
    first, *others = found.suspects
    if first.probability < (SOUND if first.kind == "nothing" else LIKELY):
        lines = [f"Cannot tell yet. {say_suspect(first, found.observed)}"]
    else:
        lines = [say_suspect(first, found.observed), *([] if stays else [advise(first)])]
    lines += [f"Or: {_lower(say_suspect(s, found.observed))}" for s in others[:3] if s.probability >= WORTH_SAYING]
    alike = [s for s in found.suspects if s.group >= 0 and s.group == first.group]
    if len(alike) > 1:
        lines.append(f"What was read cannot tell {_and([_short(s, found.observed) for s in alike])} apart.")
    if not found.explains:
        lines.append("It does not explain all of what was read: look for something besides.")
    return lines


def say_next(found: Suspected) -> str:
    """Say which reading would tell most and what the likeliest explanations would show there; empty where none would."""
    suspects, observed = found.weighed.suspects, found.weighed.observed
    if not found.next or found.weighed.first.probability >= SETTLED:
        return ""
    best = found.next[0]
    division, (first, *others) = best.place.division, list(zip(suspects, best.shows, strict=False))
    far = [(abs(shows[0] - first[1][0]) / math.hypot(shows[1], first[1][1]), s, shows[0]) for s, shows in others]
    apart, other, shows_other = max(far, key=lambda f: f[0], default=(0.0, first[0], 0.0))
    if apart < 1:
        return f"Read next: {best.place.name}: it tells most."
    return (
        f"Read next: {best.place.name}. {_capital(_short(first[0], observed))} would show {_in_arc(first[1][0], division)} there, "
        f"{_short(other, observed)} {_in_arc(shows_other, division)}."
    )


def say_suspected(found: Suspected | None) -> list[str]:
    """Return everything that is said of it; that too little was read where nothing is."""
    if found is None:
        return [TOO_LITTLE]
    stays = found.repair is not None and found.repair.before <= FAR_INSIDE and found.weighed.first.kind in MENDED
    return [*say_weighed(found.weighed, stays=stays), *filter(None, (say_repair(found), say_next(found)))]


def say_repair(found: Suspected) -> str:
    """Say what putting the likeliest right does to the worst error, and what a part needs; that it is left where all is well inside."""
    mended, first = found.repair, found.weighed.first
    if mended is None or first.probability < LIKELY or first.kind not in MENDED:
        return ""
    if sum(s.group == first.group >= 0 for s in found.weighed.suspects) > 1:
        return ""  # nothing is put right that what was read cannot tell from another, a misreading among them
    before = trimmed(mended.before, 2)
    if mended.before <= FAR_INSIDE:
        return f"Leave it: the worst error is {before} of its limit, and an adjustment ends its history."
    how = "Put right" if first.kind in ("gain", "all gains") else "Put right, and the gain set again"
    said = f"{how}, the worst error goes from {before} to {trimmed(mended.after, 2)} of its limit."
    if mended.after >= mended.before:
        said = f"Putting it right does not bring the worst error, {before} of its limit, down."
    if mended.added is None or (mended.added.how == "across" and math.isinf(mended.added.exact)):
        return said
    was, wanted = engineering(mended.value, "ohm", 3), engineering(mended.wanted, "ohm", 4)
    trim = f"Where {mended.ref} measures {was}, this makes it {wanted} again: {say_trim(mended.added, 'ohm')}."
    return f"{said} {trim} {_if_sound(found.weighed, mended.ref, wanted)}".rstrip()


def _if_sound(weighed: Weighed, ref: str, wanted: str) -> str:
    """Say what the repair would do if the part is not what is off: a trim over it would hide what is."""
    other = weighed.if_sound(ref)
    if other is None:
        return ""
    named = _short(other[0], weighed.observed)
    what = (
        f"{named} is {_percent(other[1])} likely"
        if other[0].kind != "nothing"
        else "nothing that was weighed stands out"
    )
    return f"Where it measures near {wanted}, put nothing in, which would hide what is off: then {what}."


def suspects_json(found: Suspected | None) -> dict[str, Any]:
    """Return it as fields, with its sentences."""
    if found is None:
        return {"suspects": [], "sentences": [TOO_LITTLE]}
    weighed = found.weighed
    return {
        "suspects": [
            {
                "kind": s.kind, "of": list(s.of), "probability": round(s.probability, 4),
                "amount": _finite(s.amount), "u": _finite(s.u), "gone": GONE.get(s.amount, ""), "in": "ln" if s.kind in RATIOS else "share of arc",
                "group": s.group if s.group >= 0 else None,
                "pattern": {o.place.key: round(float(p), 6) for o, p in zip(weighed.observed, s.pattern, strict=True)},
                "sentence": say_suspect(s, weighed.observed), "advice": advise(s),
            }
            for s in weighed.suspects
        ],
        "left_over": weighed.left_over, "explains": weighed.explains,
        "next": [
            {"point": n.place.key, "bits": round(n.bits, 3), "minutes": n.minutes} for n in found.next
        ],
        "repair": None if found.repair is None else {
            "before": round(found.repair.before, 3), "after": round(found.repair.after, 3), "part": found.repair.ref,
            "value": found.repair.value, "wanted": found.repair.wanted,
            "added": None if found.repair.added is None else {
                "how": found.repair.added.how, "exact": _finite(found.repair.added.exact), "low": _finite(found.repair.added.low),
                "high": _finite(found.repair.added.high),
            },
            "if_sound": _if_sound_json(weighed, found.repair.ref),
        },
        "sentences": say_suspected(found),
    }  # fmt: skip


def _if_sound_json(weighed: Weighed, ref: str) -> dict[str, Any] | None:
    other = weighed.if_sound(ref) if ref else None
    return (
        None if other is None else {"kind": other[0].kind, "of": list(other[0].of), "probability": round(other[1], 4)}
    )


GONE = {math.inf: "open", -math.inf: "shorted"}
RATIOS = ("gain", "all gains", "range", "part", "two parts")


def _finite(value: float) -> float | None:
    return value if math.isfinite(value) else None


def _what(s: Suspect, observed: tuple[Observed, ...]) -> str:
    places = {o.place.key: o.place for o in observed}
    moving = next((o.place for o in observed if o.place.movement), observed[0].place)
    division = (places[s.of[0]] if s.kind == "reading" else moving).division
    if s.kind == "nothing":
        return "Nothing stands out; tolerance, reading and reference explain the errors"
    amount = _ratio(s.amount, s.u) if s.kind in RATIOS else _arc(s.amount, s.u, division)
    if s.kind == "two parts":
        both = " and ".join(f"{ref} by {_ratio(a, 0.0)}" for ref, a in zip(s.of, s.amounts, strict=True))
        return f"{both} together"
    if s.kind == "part":
        return f"{s.of[0]}, {amount}"
    if s.kind == "reading":
        return f"A misreading at {places[s.of[0]].name}, {amount}"
    if s.kind == "tracking":
        return f"Tracking, {amount} in the middle of the arc"
    return f"{_capital(_short(s, observed))}, {amount}"


def _short(s: Suspect, observed: tuple[Observed, ...]) -> str:
    """The thing alone: ``the zero``, ``R13``."""
    titles = {o.place.range: o.place.title for o in observed} | {
        o.place.function: o.place.function_title for o in observed
    }
    titles |= {o.place.key: o.place.name for o in observed}
    named = titles.get(s.of[0], s.of[0]) if s.of else ""
    return {
        "nothing": "a sound instrument", "zero": "the zero", "bridge zero": "the bridge's zero", "gain": f"the gain of {named}",
        "all gains": "all gains alike", "tracking": "tracking", "friction": "friction", "range": f"the {named} range",
        "part": named, "two parts": " with ".join(s.of), "reading": f"a misreading at {named}",
    }[s.kind]  # fmt: skip


def _ratio(amount: float, u: float) -> str:
    if amount in GONE:
        return GONE[amount]
    share = 100 * math.expm1(amount)
    if abs(amount) > 1:
        return f"{trimmed(math.exp(amount), 2)} times its value"
    known = f" ± {trimmed(2 * 100 * u, 2)}" if u else ""
    return f"{signed(share, _decimals(100 * u or abs(share) / 10))}{known} %"


def _arc(amount: float, u: float, division: float) -> str:
    if not division:
        return f"{signed(100 * amount, _decimals(100 * u))} ± {trimmed(2 * 100 * u, 2)} %"
    return f"{signed(amount / division, _decimals(u / division))} ± {trimmed(2 * u / division, 2)} div"


def _in_arc(error: float, division: float) -> str:
    return f"{signed(error / division, 1)} div" if division else f"{signed(100 * error, 1)} %"


def _decimals(u: float) -> int:
    """So many that U shows two digits."""
    return max(0, min(4, 1 - math.floor(math.log10(2 * u)))) if u > 0 else 1


def _percent(probability: float) -> str:
    if probability > 0.99:
        return "more than 99 %"
    return f"{100 * probability:.0f} %" if probability >= 0.1 else f"{100 * probability:.1g} %"


def _capital(words: str) -> str:
    return words[:1].upper() + words[1:]


def _lower(words: str) -> str:
    return words if words[:2] != words[:2].capitalize() or words[1:2].isdigit() else words[:1].lower() + words[1:]


def _and(words: list[str]) -> str:
    return f"{', '.join(words[:-1])} and {words[-1]}"
