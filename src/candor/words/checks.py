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
from candor.words.power_words import say_over

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
    "power electrolytics": "Before any mains, measure value and ESR of the electrolytics farthest from the supply. None is "
    "in the parts list yet.",
    "power windings": "Measure each by itself. Examples: winding hv 140 ohm, winding heater 0.3 ohm. Each must have "
    "continuity, and none may join another or the case. Both halves of a centre-tapped winding must read alike.",
    "power fuse": "Check that its value and kind are what the manual says, and that it sits in the live conductor. If there "
    "is no fuse, fit one.",
    "power cord": "Check that it is sound along its whole length and at both ends, and firmly clamped.",
    "power earth": "Measure from the plug's earth pin to the bare case at 1 A or more. Example: 0.12 ohm lead 0.05 ohm at "
    "10 A. Check that the earth wire is the longest. If the common lead is the case, it can no longer be clipped to a live "
    "chassis: write that on the label.",
    "power switch": "Check that it breaks the live conductor, or both.",
    "power off": "Some transformers stay on the mains when it is switched off. With the plug out and the switch off, "
    "measure from the plug's live pin to the transformer: it must be open.",
    "power meter": "A dead meter reads 0 too. Prove yours on something live just before you rely on it.",
    "release hazards": "Look it over once more, outside and inside.",
    "release earth": "Measure from the plug's earth pin to the bare case at 1 A or more. Example: earth 0.12 ohm lead 0.05 "
    "ohm at 10 A. If it has a two-wire cord, choose “does not apply”.",
    "release insulation": "500 V destroys a meter's rectifier and a solid state supply: disconnect them first. With the "
    "plug out, the switch on and both mains conductors joined, measure to the case at 500 V d.c., in every fuse and "
    "selector position; note suppressors. Example: insulation 22 Mohm @500V",
    "release touch": "The case may be live: do not touch it, and measure the earth bond first. Work on the mains directly: "
    "behind an isolating transformer no current flows. Measure from each bare part to earth through the network, the earth "
    "lead lifted if there is one, with the plug both ways and the switch on and off. Examples: touch 0.21 mA reversed off, "
    "or the volts across the network: touch 0.42 V as it is on",
    "release polarity": "Check that the switch, the fuse and a socket's centre contact are in the live conductor as the "
    "plug is wired.",
    "release fuse": "Check that it has the value and kind (fast or slow) written beside it, that this is the right one, and "
    "that it sits in the live conductor before the switch.",
    "release switch": "Check that it breaks the live conductor, or both, and that off is off.",
    "release line capacitors": "Line to line: class X2. Line to chassis: class Y2. Both must be rated for these mains.",
    "release controls": "Turn each control over its whole travel and tap it while you watch the needle or the trace: no "
    "jump, no crackle.",
    "release shake": "Turn it over and shake it: nothing may rattle. What is loose falls across something live later.",
    "release bag": "Put the parts that came out in a bag that goes with it, unless the owner does not want them.",
    "release batteries": "Fit new batteries and note it. If it will be stored, take them out: cells leak.",
}


def say_found(found: found_.CheckFinding) -> str:
    """Say what a line found, or what it asks for where nobody has looked."""
    match found:
        case found_.NotLooked(ask, mass):
            return f"{say_lift(mass)} {ASKS[ask]}".strip()
        case found_.Looked(outcome, text, before_power):
            return f"{'before power: ' if before_power else ''}{text or LOOKED[outcome]}"
        case found_.NoMains():
            return "battery powered: no mains check applies"
        case found_.NoTransformer():
            return "no transformer: it does not apply"
        case found_.Outdated(text, entry):
            return f"measured before this change: {text} (entry {entry}). Measure it again"
        case found_.Hazards(texts):
            return "; ".join(texts) or "none is open"
        case found_.Overridden(reason):
            return f"overridden: {reason}"
        case found_.OverRated(over):
            return "; ".join(say_over(over))
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
            return "Test current not given. Write the ohms and the amperes. Example: 0.12 ohm at 10 A"
        case found_.WashedInsulation(least_ohms, measured):
            enough = f"{engineering(least_ohms, 'ohm')} or more"
            how = "With the switch on and both mains conductors joined, measure to the chassis at 500 V d.c., raised slowly"
            return f"measured: {enough}" if measured else f"{how}: {enough}."
        case found_.RailUnread(name):
            line = f"chassis {name or 'b1'} 45k per the manual 50k."
            return f"{'Type: ' if name else 'Name each. Example: '}{line} {READING_A_RAIL}"
        case found_.Winding(ohms):
            return (
                "open: the winding is broken, or these are not its leads"
                if ohms is None
                else f"{engineering(ohms, 'ohm', 3)}, continuous"
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
    read, limit = engineering(found.ohms, "ohm"), engineering(found.most_ohms, "ohm")
    limit += f", {engineering(found.lead_ohms, 'ohm')} of it the lead" if found.lead_ohms else ""
    if found.state == "bad":
        return f"{read}, over the limit of {limit}"
    at = f" at {engineering(found.amperes, 'A')}" if found.amperes else ", test current not given"
    if found.state == "missing":
        return f"{read}{at}: cannot tell. Test at 1 A or more: one last strand still carries less"
    return f"{read}{at}, limit {limit}"


def say_insulation(found: InsulationFound) -> str:
    """Say an insulation: what was read at what voltage, and the limit."""
    read, limit = engineering(found.ohms, "ohm"), engineering(found.least_ohms, "ohm")
    limit += ", because it was washed" if found.washed else ""
    if found.state == "bad":
        return f"{read}, under the limit of {limit}"
    at = f" at {engineering(found.volts, 'V')}" if found.volts else ", test voltage not given"
    return (
        f"{read}{at}: cannot tell. Test at 500 V d.c." if found.state == "missing" else f"{read}{at}, limit {limit}"
    )


def say_touch(found: TouchFound) -> str:
    """Say the worst touch current with the plug and the switch it was read at, or which are to be read."""
    limit = f"{engineering(found.most_amperes, 'A')} through {engineering(found.network_ohms, 'ohm')}"
    if found.state == "missing" or found.worst is None:
        return f"still to read: {'; '.join(map(say_case, found.to_read))}. Limit {limit}"
    worst, case = engineering(found.worst.amperes, "A"), say_case(found.worst)
    if found.state == "bad":
        return f"{worst} with {case}, over the limit of {limit}"
    return f"{worst} at worst, with {case}, limit {limit}"


def say_case(reading: TouchReading) -> str:
    """Say how plug and switch stood."""
    return f"plug {'reversed' if reading.is_reversed else 'as it is'}, switch {'on' if reading.is_on else 'off'}"


def say_rail(found: RailOhms) -> str:
    """Say a rail's ohm to the chassis against the manual's figure, where there is one."""
    read = engineering(found.ohms, "ohm", 3)
    if found.expected_ohms > 0:
        against = f"{read} against the manual's {engineering(found.expected_ohms, 'ohm', 3)}"
        return {
            "bad": f"{against}: much too low, so something is shorted. Find it before power.",
            "look": f"{against}: low. Swap the leads, wait until the reading stops, and look at the filter.",
            "good": f"{against}: high is fine." if found.ohms > found.expected_ohms else f"{against}.",
        }[found.outcome]
    return {
        "bad": f"{read}, no figure in the manual: too low for a rail of tubes. Find out why before power.",
        "look": f"{read}, no figure in the manual: a bleeder or a heavy load can be that low. See what is there.",
        "good": f"{read}: not shorted.",
    }[found.outcome]


def _say_fasteners(found: found_.Fasteners) -> str:
    if found.missing:
        may = "it" if found.missing == 1 else "one of them"
        return f"{found.missing} missing: {may} may be lying across a live part"
    if found.not_back:
        return f"not put back yet: {', '.join(found.not_back[:4])}"
    return "none is missing" if found.taken_apart else "nothing was taken apart"


def _say_line_capacitors(found: found_.LineCapacitors) -> str:
    if found.old:
        return f"without a safety class: {', '.join(found.old)}. Replace them"
    if found.held:
        return f"of the right class, or not fitted: {', '.join(found.held)}"
    replaced = f"{', '.join(found.unknown)} replaced, but the class was not recorded."
    listed = replaced if found.unknown else "None is in the parts list: is there one?"
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
