"""Lines of the first sitting: what is found, missing, weighed, cleaned; functions, joints, insulation."""

from __future__ import annotations

import re

from candor.core.errors import ValueTextError
from candor.core.jot.form import Said
from candor.core.jot.meaning import (
    CleaningJot,
    FunctionJot,
    How,
    InsulationJot,
    JointJot,
    MassJot,
    NotAsDrawnJot,
    ResolderJot,
    UnaccountedJot,
)
from candor.core.jot.verb import Verb
from candor.core.quantities import engineering
from candor.core.quantities.show import trimmed
from candor.core.worded import worded

# Over this two lift: common practice, no source; local rules for work may ask for it sooner.
HEAVY_KG = 20.0
POUND_KG = 0.45359237  # exact, by the international agreement of 1959
USUAL_DAYS = 3.0  # of drying after washing, warm and in moving air: common practice, no source
MOST_DAYS = 60.0
MOST_FASTENERS = 500


def _function(said: Said) -> FunctionJot | None:
    name = said["name"]
    if re.match(r"(?:switch|selector|knob)\b", name, re.I):
        return None
    if re.fullmatch(r"(?:lettering )?faded|[\W\d_]*", name, re.I):
        raise ValueTextError(worded("jot.which_function_was_found_example_function"), value=said.line)
    faded = "faded" in said.texts
    return FunctionJot(name, faded, (f"function {name}", *(["lettering faded"] if faded else [])))


def _not_as_drawn(said: Said) -> NotAsDrawnJot:
    return NotAsDrawnJot(said["what"], (worded("jot.not_as_drawn", what=said["what"]), "stays with the instrument"))


def _unaccounted(said: Said) -> UnaccountedJot:
    number, what = said["count"] if said["count"] is not None else 1, said["what"] or ""
    if not 1 <= number <= MOST_FASTENERS:
        raise ValueTextError(
            worded("jot.fasteners_give_to_example_unaccounted_screws", number=number, most_fasteners=MOST_FASTENERS),
            value=said.line,
        )
    return UnaccountedJot(number, what, (f"{number} missing: {what or 'fasteners'}", "bars power until found"))


def _mass(said: Said) -> MassJot:
    pounds = said.texts["unit"].lower().startswith(("lb", "pound"))
    kg = said["mass"] * (POUND_KG if pounds else 1)
    if not 0 < kg < 1000:
        raise ValueTextError(worded("jot.kg_give_a_mass_examples_kg", kg=trimmed(kg)), value=said.line)
    words, heavy = f"{said.texts['mass']} {said.texts['unit']}", kg > HEAVY_KG
    return MassJot(
        words,
        heavy,
        (f"mass {words}", *([worded("jot.over_kg_two_people_lift_it", heavy_kg=HEAVY_KG)] if heavy else [])),
    )


def _cleaned(said: Said) -> CleaningJot:
    what = said["what"]
    dry = re.search(r"\b(dry|with (?:a )?(?:brush|cloth|air|vacuum))\b", what, re.I)
    return _cleaning(what, "dry" if dry else "cleaner", 0.0)


def _washed(said: Said) -> CleaningJot:
    days = USUAL_DAYS
    if said["time"] is not None:
        days = said["time"] / (24 if said.texts["unit"].lower().startswith("h") else 1)
        if not 0 < days <= MOST_DAYS:
            raise ValueTextError(
                worded("jot.days_of_drying_give_up_to", days=trimmed(days), most_days=MOST_DAYS), value=said.line
            )
    return _cleaning(said["what"] or "the chassis", "washed", days * 86400)


def _cleaning(what: str, how: How, dry_s: float) -> CleaningJot:
    chips = [f"{'cleaned' if how == 'cleaner' else how}: {what}"]
    if how == "washed":
        chips += [
            worded("jot.dries_days", dry_s=trimmed(dry_s / 86400)),
            "then its insulation is measured, before power",
        ]
    if how == "cleaner" and re.search(r"contact|switch|pot|control|wafer", what, re.I):
        chips.append("then lubricate, as a step of its own")
    return CleaningJot(what, how, dry_s, tuple(chips))


def _insulation(said: Said) -> InsulationJot:
    volts = said["volts"] or 0.0
    at = worded("jot.at_v_2", volts=trimmed(volts)) if volts else ""
    return InsulationJot(said["ohms"], volts, (f"insulation {engineering(said['ohms'], 'ohm')}{at}",))


ARRIVE = (
    Verb(
        "function",
        "arrive",
        "a function the instrument has",
        forms=("function {name:text} [lettering? faded=faded]",),
        examples=("function AC volts, faded", "function Ohms"),
        means=_function,
        titles={"name": "function", "faded": "its lettering"},
    ),
    Verb(
        "not as drawn",
        "arrive",
        "something of this unit that its drawing has otherwise",
        forms=("not_as_drawn {what:text}",),
        examples=("not as drawn: a fuse in the primary",),
        means=_not_as_drawn,
        titles={"what": "what differs"},
    ),
    Verb(
        "unaccounted",
        "arrive",
        "fasteners that are missing: they bar power until they are found",
        forms=("unaccounted for? {count:count} [{what:prose}]", "unaccounted for? {what:prose}"),
        examples=("unaccounted 2 screws M3", "unaccounted for: the long screw"),
        means=_unaccounted,
        fielded=("unaccounted [{count:count}] {what:prose}",),
        titles={"count": "how many", "what": "what is missing"},
    ),
    Verb(
        "mass",
        "arrive",
        "what it weighs",
        forms=("mass|weighs|weight {mass:number} unit=kg|kilo|kilos|lb|lbs|pound|pounds",),
        examples=("mass 32 kg", "weighs 44 lb"),
        means=_mass,
        fielded=("mass {mass:number} unit=kg|lb",),
        titles={"mass": "mass", "unit": "unit"},
    ),
    Verb(
        "cleaned",
        "arrive",
        "what was cleaned, with cleaner or dry",
        forms=("cleaned {what:text}",),
        examples=("cleaned range switch contacts", "cleaned the case with a brush"),
        means=_cleaned,
        titles={"what": "what was cleaned"},
    ),
    Verb(
        "lubricated",
        "arrive",
        "what was lubricated",
        forms=("lubricated {what:text}",),
        examples=("lubricated range switch contacts",),
        means=lambda said: _cleaning(said["what"], "lubricated", 0.0),
        titles={"what": "what was lubricated"},
    ),
    Verb(
        "washed",
        "arrive",
        "what was washed, and how long it dries before power",
        forms=(
            "washed [{what:prose}] [dries|drying|dry|dries_for|dry_for|for] {time:number} unit=days|day|d|hours|hour|hrs|hr|h",
            "washed {what:prose}",
        ),
        examples=("washed the chassis, dries 36 h", "washed the deck"),
        means=_washed,
        fielded=("washed {what:prose} [dries {time:number} unit=h|days]",),
        titles={"what": "what was washed", "time": "dries for", "unit": "unit"},
    ),
    Verb(
        "insulation",
        "arrive",
        "insulation of the mains side to the chassis",
        forms=("insulation|insulation_resistance {ohms:ohms_above_zero} [@ {volts:V}]",),
        examples=("insulation 22 Mohm @500V", "insulation 2M"),
        means=_insulation,
        titles={"ohms": "insulation resistance", "volts": "test voltage"},
        begins=r"insulation\s+[\d.,]",
    ),
    Verb(
        "joint",
        "arrive",
        "a poor joint, to be soldered anew with the others",
        forms=("joint|joints|poor_joint|poor_joints|dry_joint|dry_joints|cold_joint|cold_joints at? {where:text}",),
        examples=("joint V1 pin 4", "dry joints at the deck"),
        means=lambda said: JointJot(said["where"], (f"poor joint: {said['where']}",)),
        titles={"where": "where the joint is"},
    ),
    Verb(
        "resoldered",
        "arrive",
        "the poor joints were soldered anew, as one change",
        forms=(
            "resoldered|re-soldered",
            "resoldered|re-soldered all|them|the_joints|all_joints",
        ),
        examples=("resoldered all",),
        means=lambda _: ResolderJot(("the poor joints, re-soldered as one change",)),
    ),
)
