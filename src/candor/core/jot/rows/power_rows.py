"""Lines on the way up: rails and watts, events, ohms to the chassis, windings, bleeders, the plug."""

from __future__ import annotations

import math
import re

from candor.core.errors import ValueTextError
from candor.core.jot.form import Said
from candor.core.jot.power_meaning import (
    BleederJot,
    EventJot,
    PlugOutJot,
    ProvedJot,
    RailJot,
    RailOhmsJot,
    RailSaidJot,
    UnloadedJot,
    WindingJot,
)
from candor.core.jot.verb import Verb
from candor.core.late_pattern import late_pattern
from candor.core.quantities import engineering
from candor.core.quantities.show import in_unit, trimmed
from candor.core.worded import worded

# What is heard and seen on any way up; what the plan expects counts too.
EVENTS = ("click", "glow", "hum", "fan", "whirr", "smoke", "smell", "arc", "flash", "buzz", "squeal")
REGULATED = 5.0  # per cent, where nobody said by how much: common practice, no source
MOST_VOLTS = 50e3  # of a rail: beyond that it is a slip of the pen


def _rail(said: Said) -> RailJot:
    if abs(said["volts"]) > MOST_VOLTS:
        raise ValueTextError(
            worded("jot.v_give_up_to_kv_is", volts=trimmed(said["volts"]), most_volts=MOST_VOLTS / 1000),
            value=said.line,
        )
    return RailJot(said["name"], said["volts"], (f"{said['name']} {engineering(said['volts'], 'V', 5)}",))


def _drawn(said: Said) -> RailSaidJot:
    volts, rated, surge = said["volts"], said["rated"] or 0.0, said["surge"] or 0.0
    share = said["share"] if said["share"] is not None else REGULATED
    regulated = share / 100 if said["regulated"] or said["regulated_"] else 0.0
    if rated < 0 or surge < 0 or not volts or not 0 <= regulated < 1:
        raise ValueTextError(worded("jot.cannot_be_example_rail_b_is", line=said.line), value=said.line)
    chips = [worded("jot.rail_by_the_drawing_v", name=said["name"], volts=trimmed(volts))]
    chips += [worded("jot.its_capacitor_v", rated=trimmed(rated))] if rated else []
    chips += [worded("jot.surge_v", surge=trimmed(surge))] if surge else []
    chips += [worded("jot.regulated_to", regulated=trimmed(100 * regulated))] if regulated else []
    chips += ["delayed"] if said["delayed"] else []
    return RailSaidJot(
        said["name"],
        volts,
        rated,
        tuple(chips),
        surge_volts=surge,
        regulated=regulated,
        delayed=bool(said["delayed"]),
    )


def _watts(said: Said) -> RailJot:
    if said["watts"] < 0:
        raise ValueTextError(worded("jot.w_a_wattmeter_the_right_way", watts=trimmed(said["watts"])), value=said.line)
    return RailJot("watts", said["watts"], (in_unit(said["watts"], "W"),))


def _amperes(said: Said) -> RailJot:
    return RailJot(
        "amperes", said["amperes"], (worded("jot.from_the_line", amperes=engineering(said["amperes"], "A")),)
    )


def _chassis(said: Said) -> RailOhmsJot:
    name, ohms, manual = said["name"], said["ohms"], said["manual"] or 0.0
    by = (worded("jot.per_the_manual", manual=engineering(manual, "ohm")),) if manual else ()
    return RailOhmsJot(name, ohms, manual, (worded("jot.to_chassis", name=name, ohms=engineering(ohms, "ohm")), *by))


def _winding(said: Said) -> WindingJot | None:
    if said["name"].lower() in ("is", "was", "are", "has", "looks", "reads", "seems", "measures", "of", "on", "in"):
        return None  # which of them is not said
    ohms, hot, celsius = said["ohms"], bool(said["hot"]), said["celsius"]
    if hot and celsius is None:
        raise ValueTextError(worded("jot.how_warm_is_the_room_example"), value=said.line)
    chips: tuple[str, ...] = (
        f"winding {said['name']}{' hot' if hot else ''}",
        "open" if ohms == math.inf else engineering(ohms, "ohm"),
    )
    chips += (worded("jot.room_c", celsius=trimmed(celsius)),) if celsius is not None else ()
    return WindingJot(said["name"].lower(), ohms, celsius, hot, chips=chips)


def _unloaded(said: Said) -> UnloadedJot:
    watts, amperes = said["watts"], said["amperes"]
    if watts < 0:
        raise ValueTextError(worded("jot.w_a_wattmeter_the_right_way", watts=trimmed(watts)), value=said.line)
    chips: tuple[str, ...] = ("all secondaries open", in_unit(watts, "W"))
    chips += (worded("jot.from_the_line", amperes=engineering(amperes, "A")),) if amperes is not None else ()
    return UnloadedJot(watts, amperes, chips)


def _bleeder(said: Said) -> BleederJot:
    name, ohms, farad = said["name"], said["ohms"], said["farad"]
    return BleederJot(
        name,
        ohms,
        farad,
        (worded("jot.bleeder_of_on", name=name, ohms=engineering(ohms, "ohm"), farad=engineering(farad, "F")),),
    )


def _event(said: Said) -> EventJot:
    words = " ".join((said["event"] or said.line).casefold().split())
    return EventJot(words, (f"event: {words}",))


def _proved(said: Said) -> ProvedJot:
    on = said["on"] or ""
    return ProvedJot(on, (f"meter proved{' on ' + on if on else ''}",))


POWER = (
    Verb(
        "rail as drawn",
        "power",
        "what the drawing says of a rail: its volts, its capacitor's rating, how it is regulated",
        forms=(
            "rail {name:rail} is {volts:V} <delayed=delayed> <regulated=regulated to? {share:percent}> <regulated_=regulated> "
            "<surge {surge:V}> <capacitor|rated|capacitor_rated {rated:V}>",
        ),
        examples=("rail b1 is 285 V, capacitor 450 V, regulated 2 %",),
        means=_drawn,
        fielded=(
            "rail {name:rail} is {volts:V} <capacitor {rated:V}> <surge {surge:V}> <regulated {share:percent}> <delayed=delayed>",
        ),
        titles={
            "volts": "volts by the drawing",
            "rated": "its capacitor's rating",
            "surge": "surge rating|525 V",
            "share": "regulated to",
            "delayed": "delayed",
        },
        begins=r"rail\s+\S+\s+is\s",
    ),
    Verb(
        "rail",
        "power",
        "a rail as read",
        forms=("rail {name:rail} {volts:V}",),
        examples=("rail b1 287", "rail C- -8.4 V"),
        means=_rail,
        titles={"volts": "volts as read"},
    ),
    Verb(
        "watts",
        "power",
        "what the wattmeter shows",
        forms=(
            "watts|watt {watts:W}",
            "it_draws|draws|drawing|it_takes|takes|pulls|pulling [about] {watts:watts_only} [from_the_line|from_the_wall]",
        ),
        examples=("watts 31",),
        means=_watts,
        titles={"watts": "watts"},
    ),
    Verb(
        "amperes",
        "power",
        "the line current",
        forms=("amperes|ampere|amps|line_current|mains_current {amperes:A}",),
        examples=("amperes 300m",),
        means=_amperes,
        titles={"amperes": "line current"},
    ),
    Verb(
        "chassis",
        "power",
        "ohms from a rail to the chassis, power off, and the manual's figure",
        forms=(
            "chassis {name:rail} {ohms:ohm} [by_manual|by_the_manual|per_the_manual|per_manual|manual {manual:ohm}]",
        ),
        examples=("chassis b1 45k by manual 50k",),
        means=_chassis,
        titles={"ohms": "ohms to the chassis", "manual": "per the manual"},
    ),
    Verb(
        "winding",
        "power",
        "ohms of a winding of the transformer",
        forms=("winding {name:word} {ohms:ohms_or_open} <hot=hot> <at {celsius:celsius}>",),
        examples=(
            "winding hv 140 ohm",
            "winding heater open",
            "winding hv 140 ohm at 21 C",
            "winding hv 158 ohm hot at 24 C",
        ),
        means=_winding,
        titles={"name": "winding", "ohms": "ohms, or open", "hot": "hot, just after a run", "celsius": "room, °C"},
    ),
    Verb(
        "unloaded",
        "power",
        "what the transformer takes with all its secondaries open",
        forms=("unloaded|transformer_open {watts:W} <{amperes:amperes_only}>",),
        examples=("unloaded 6 W", "unloaded 6 W, 90 mA"),
        means=_unloaded,
        titles={"watts": "watts from the line", "amperes": "line current"},
    ),
    Verb(
        "bleeder",
        "power",
        "what discharges a rail: its resistor and the capacitance",
        forms=("bleeder {name:rail} {ohms:ohms_above_zero} on|with|and {farad:F}",),
        examples=("bleeder b1 220k on 33 uF",),
        means=_bleeder,
        titles={"ohms": "bleeder", "farad": "capacitance"},
    ),
    Verb(
        "plug out",
        "power",
        "the plug is out",
        forms=("plug_out|pluged_out|plugged_out|unplugged",),
        examples=("plug out",),
        means=lambda _: PlugOutJot(("the plug is out",)),
    ),
    Verb(
        "meter proved",
        "power",
        "the meter was seen to read something live",
        forms=("meter? proved [on {on:text}]",),
        examples=("proved on the outlet",),
        means=_proved,
        titles={"on": "on what"},
    ),
    Verb(
        "event",
        "power",
        "something heard or seen on the way up",
        forms=("|".join(EVENTS), "event {event:text}"),
        examples=("click", "event door bell"),
        means=_event,
        fielded=("event {event:text}",),
        titles={"event": "what you heard or saw"},
    ),
)


# As it is said in a hurry; a switch that is off is not among them, which may be in the wrong conductor.
_OUT = late_pattern(
    r"(?:i |i've |have )?(?:just )?(?:(?:un|dis)plugged(?: it)?|pulled (?:the |its )?(?:plug|cord)(?: out)?"
    r"|(?:the |its )?(?:plug|cord)(?:'s| is| was)?(?: now)? (?:out|pulled)|disconnected from (?:the )?(?:mains|line)|off the mains)"
    r"(?: now)?[.!]*",
    re.I,
)


def plug_out_of(line: str) -> PlugOutJot | None:
    """Return that the plug is out, where a line says so in any of the usual ways; None where it does not."""
    return PlugOutJot(("the plug is out",)) if _OUT.fullmatch(line.strip()) else None


def event_of(line: str, expected: tuple[str, ...]) -> EventJot | None:
    """Return the event that a line names by the words of the plan, None where it names none that is expected."""
    words = " ".join(line.casefold().split())
    return EventJot(words, (f"event: {words}",)) if words in {e.casefold() for e in expected} else None
