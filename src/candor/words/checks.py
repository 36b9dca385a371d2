"""Checks before power and before release, in words: what to do, what was found, and the whole line as it is printed."""

from __future__ import annotations

import dataclasses
from typing import Any, assert_never

from candor.core.leaving.electrical import EarthFound, InsulationFound, TouchFound, TouchReading
from candor.core.power.rail_ohms import RailOhms
from candor.core.quantities import engineering
from candor.notebook.power.may_power import PowerItem
from candor.notebook.release.leaving import LeavingItem
from candor.notebook.work import check_findings as found_

ADVICE = "Local codes and licensed practice come first; this list advises, it does not certify safety."
STATES = {"good": "OK", "bad": "not OK", "missing": "not done", "does not apply": "does not apply"}
LOOKED = {"good": "checked: OK", "bad": "checked: not OK", "does not apply": "it does not apply here"}
READING_A_RAIL = (
    "Power off, discharged, the red lead on the rail where it is positive. The reading climbs while the filter charges: read when "
    "it has stopped. Turned round, an electrolytic leaks and reads low."
)
# What is to be done, by list and line; the danger first. Common practice, no source. Local codes come first.
ASKS = {
    "power hazards": "Not inspected yet. Inspect it outside and inside at Arrive.",
    "power electrolytics": "Measured before any mains: value and ESR of the electrolytics farthest from the supply. None is on the "
    "parts list.",
    "power windings": "Each by itself: winding hv 140 ohm, winding heater 0.3 ohm. Every one has continuity, none joins another or "
    "the case. Of a winding with a centre tap both halves read alike.",
    "power fuse": "Its value and kind are what the manual says, and it sits in the live conductor. No fuse at all: one is fitted.",
    "power cord": "Sound along its whole length and at both ends, and firmly clamped.",
    "power earth": "From the plug's earth pin to the bare case at 1 A or more, such as: 0.12 ohm lead 0.05 ohm at 10 A. The earth "
    "wire is the longest. Where the common lead is the case it can then no longer be clipped to a live chassis; write that on the "
    "label.",
    "power switch": "It breaks the live conductor, or both.",
    "power off": "Plugged in and switched off, nothing of it is live: some transformers stay on the mains.",
    "power meter": "Proved on something live just before: a dead meter reads 0 too.",
    "release hazards": "Walk round it once more, outside and inside.",
    "release earth": "From the plug's pin to the bare case at 1 A or more. Type: earth 0.12 ohm lead 0.05 ohm at 10 A. Two-wire: "
    "does not apply.",
    "release insulation": "Plug out, switch on, both mains conductors joined, to the case, 500 V d.c.; every fuse and selector "
    "position, suppressors noted. Never into a meter's rectifier or a solid state supply. Type: insulation 22 Mohm @500V",
    "release touch": "The case may be live: do not touch it; measure the earth first. On the mains as they are: behind an "
    "isolating transformer nothing flows. From each bare part to earth through the network, the earth lead lifted where there "
    "is one; plug both ways, switch on and off. Type: touch 0.21 mA reversed off, or the V across the network: touch 0.42 V as "
    "it is on",
    "release polarity": "The switch, the fuse and a socket's centre are in the live conductor of the plug as it is wired.",
    "release fuse": "Its value and its kind (fast or slow) are written beside it, it is the right one, and it sits in the live "
    "conductor, before the switch.",
    "release switch": "It breaks the live conductor, or both, and off is off.",
    "release line capacitors": "Line to line of class X2, line to chassis of class Y2, rated for these mains.",
    "release controls": "Each control turned over its whole travel, each tapped, the needle or the trace watched: no jump, no "
    "crackle.",
    "release shake": "Turned over and shaken, nothing rattles: what is loose falls across something live later.",
    "release bag": "What came out is in a bag that goes with it, or the owner said no.",
    "release batteries": "New ones in and noted, or out, for one that is to be stored: cells leak.",
}


def say_found(found: found_.CheckFinding) -> str:
    """Say what a line found, or what it asks for where nobody has looked."""
    match found:
        case found_.NotLooked(ask, mass):
            return f"{say_lift(mass)} {ASKS[ask]}".strip()
        case found_.Looked(outcome, text, before_power):
            return f"{'before power: ' if before_power else ''}{text or LOOKED[outcome]}"
        case found_.NoMains():
            return "batteries feed it: nothing of the mains applies"
        case found_.NoTransformer():
            return "no transformer: it does not apply"
        case found_.Outdated(text, entry):
            return f"measured before {text} (entry {entry}): measure it again"
        case found_.Hazards(texts):
            return "; ".join(texts) or "none is open"
        case found_.Overridden(reason):
            return f"overridden: {reason}"
        case found_.Told(words):
            return "; ".join(words)
        case found_.Fasteners():
            return _say_fasteners(found)
        case found_.LineCapacitors():
            return _say_line_capacitors(found)
        case found_.PlannedParts(waiting, any_planned):
            if waiting:
                return f"planned, not fitted: {', '.join(waiting[:6])}{' …' if len(waiting) > 6 else ''}"
            return "all that is planned is fitted" if any_planned else "nothing is planned"
        case found_.Ratings(known):
            if known:
                return "no rail, drawn or calculated, passes its capacitor's rating"
            return "no rail has both its volts and its rating"
        case _:
            return _say_measured(found)


def _say_measured(
    found: found_.EarthUncertain
    | found_.WashedInsulation
    | found_.RailUnread
    | found_.Winding
    | found_.MeterProved
    | EarthFound
    | InsulationFound
    | TouchFound
    | RailOhms,
) -> str:
    match found:
        case found_.EarthUncertain():
            return "test current not given: write the ohms and the amperes, such as 0.12 ohm at 10 A"
        case found_.WashedInsulation(least_ohms, measured):
            enough = f"{engineering(least_ohms, 'ohm')} or more"
            how = " at 500 V d.c., rising, switch on, both mains conductors joined, to the chassis"
            return enough if measured else enough + how
        case found_.RailUnread(name):
            line = f"chassis {name or 'b1'} 45k per the manual 50k."
            return f"{'Type: ' if name else 'Name each. Example: '}{line} {READING_A_RAIL}"
        case found_.Winding(ohms):
            return (
                "open: it is broken, or it is not what it was taken for"
                if ohms is None
                else f"{engineering(ohms, 'ohm', 3)}, whole"
            )
        case found_.MeterProved(on):
            return f"proved{' on ' + on if on else ''}"
        case EarthFound():
            return say_earth(found)
        case InsulationFound():
            return say_insulation(found)
        case TouchFound():
            return say_touch(found)
        case RailOhms():
            return say_rail(found)
        case _:
            assert_never(found)


def say_lift(mass: str) -> str:
    """Say before a step that lifts it that it is heavy; nothing without a mass."""
    return f"{mass}: two people lift it, or a trolley." if mass else ""


def say_earth(found: EarthFound) -> str:
    """Say an earth bond: what was read at what current, and the limit."""
    read, limit = engineering(found.ohms, "ohm"), f"{engineering(found.most_ohms, 'ohm')} at most"
    limit += f", {engineering(found.lead_ohms, 'ohm')} of it the lead" if found.lead_ohms else ""
    if found.state == "bad":
        return f"{read}: {limit}"
    at = f"at {engineering(found.amperes, 'A')}" if found.amperes else "test current not given"
    if found.state == "missing":
        return f"{read} {at}: it cannot tell; test at 1 A or more, a last strand carries less"
    return f"{read} {at}: {limit}"


def say_insulation(found: InsulationFound) -> str:
    """Say an insulation: what was read at what voltage, and the limit."""
    read, limit = engineering(found.ohms, "ohm"), f"{engineering(found.least_ohms, 'ohm')} at least"
    limit += ", as it was washed" if found.washed else ""
    if found.state == "bad":
        return f"{read}: {limit}"
    at = f"at {engineering(found.volts, 'V')}" if found.volts else "test voltage not given"
    return f"{read} {at}: {limit if found.state == 'good' else 'it cannot tell; test at 500 V d.c.'}"


def say_touch(found: TouchFound) -> str:
    """Say the worst touch current with the plug and the switch it was read at, or which are to be read."""
    limit = f"{engineering(found.most_amperes, 'A')} at most through {engineering(found.network_ohms, 'ohm')}"
    if found.state == "missing" or found.worst is None:
        return f"to be read: {'; '.join(map(say_case, found.to_read))}. {limit}"
    worst = "" if found.state == "bad" else " at worst,"
    return f"{engineering(found.worst.amperes, 'A')}{worst} with {say_case(found.worst)}: {limit}"


def say_case(reading: TouchReading) -> str:
    """Say how plug and switch stood."""
    return f"plug {'reversed' if reading.is_reversed else 'as it is'}, switch {'on' if reading.is_on else 'off'}"


def say_rail(found: RailOhms) -> str:
    """Say a rail's ohm to the chassis against the manual's figure, where there is one."""
    read = engineering(found.ohms, "ohm", 3)
    if found.expected_ohms > 0:
        against = f"{read} against the manual's {engineering(found.expected_ohms, 'ohm', 3)}"
        return {
            "bad": f"{against}: far too low, a short. Find it before power.",
            "look": f"{against}: low. Turn the leads, wait until it stops, and look at the filter.",
            "good": f"{against}: high is fine." if found.ohms > found.expected_ohms else f"{against}.",
        }[found.outcome]
    return {
        "bad": f"{read} and no figure in the manual: a rail of tubes is not that low. Find it before power.",
        "look": f"{read} and no figure in the manual: a bleeder or heavy load may be that low. See what is there.",
        "good": f"{read}: not shorted.",
    }[found.outcome]


def _say_fasteners(found: found_.Fasteners) -> str:
    if found.missing:
        return f"{found.missing} missing: it may be lying across a live part"
    if found.not_back:
        return f"not put back yet: {', '.join(found.not_back[:4])}"
    return "none is missing" if found.taken_apart else "nothing was taken apart"


def _say_line_capacitors(found: found_.LineCapacitors) -> str:
    if found.old:
        return f"of no safety class: {', '.join(found.old)}; replace them"
    if found.held:
        return f"of their class, or not fitted: {', '.join(found.held)}"
    replaced = f"{', '.join(found.unknown)} replaced, the class is not on record."
    listed = replaced if found.unknown else "None is listed: is one there?"
    return f"{listed} {ASKS['release line capacitors']}"


def say_release_line(item: LeavingItem) -> str:
    """Say a release check as it is printed: title, state, what was found, who and when."""
    words = say_found(item.found)
    by = f" {item.who}, {item.at:%Y-%m-%d}." if item.at is not None else ""
    return f"{item.title}: {STATES[item.state]}. {words[:1].upper()}{words[1:].rstrip('.')}.{by}"


def item_json(item: PowerItem) -> dict[str, Any]:
    """Return a check with its fields: what was found by name, SI, and its sentence."""
    fields = dataclasses.asdict(item.found)
    said = (
        say_release_line(item)
        if isinstance(item, LeavingItem)
        else f"{item.title}: {item.state}; {say_found(item.found)}"
    )
    return {
        "item": item.key,
        "state": item.state,
        "entry": item.entry,
        "finding": type(item.found).__name__,
        **({"found": fields} if fields else {}),
        "sentence": said,
    }
