"""The way up proposed from what is known of an instrument's supply, with its reasons."""

from __future__ import annotations

from collections.abc import Callable

from candor.core.errors import CandorError
from candor.core.parts.mains import Mains
from candor.core.power.lamp import LAMP_HOLD_S, lamp_cut, proposed_lamp
from candor.core.power.plan import WATTS, Band, Cut, Expected, Plan, PlanStep
from candor.core.power.power_states import TUBE_STARTS, StateMaker, SupplyTraits
from candor.core.quantities.show import trimmed

ISOLATES_NOT = "A variable transformer and a lamp isolate nothing: the chassis may still be live."
NOTHING_KNOWN = "Its power consumption is unknown: watch the wattmeter, and pull the plug at the first doubt."
CHOSEN = (
    "Straight on with a wattmeter, chosen on purpose: the electrolytics were measured "
    "good, and nothing blocks power-up."
)
LIVE = (
    "Heaters in series and no transformer: the chassis is one side of the mains. An isolation transformer goes before "
    "it, with nothing "
    "else behind it; then the residual-current device upstream sees nothing, one fault stays unseen, and an earthed "
    "clip undoes it. It "
    "protects you from one hand to earth, not from hand to hand. Local codes and licensed practice come first."
)
TUBE_BURSTS = "The picture tube holds kilovolts and bursts inwards: glasses, no tool near its neck. A still spot burns the screen."
MERCURY = "Mercury vapour: upright, heater alone for 60 s before any plate voltage. Where it breaks, air the room and leave."


def proposed_plan(traits: SupplyTraits, mains: Mains, measured_volts: float = 0.0) -> Plan:
    """Propose the way up for the shop's mains, and the line as it was measured at the outlet, V, 0 where it was not."""
    line = measured_volts or mains.volts
    made = StateMaker(traits, mains, line)
    return _way(traits)(made).checked()


def _way(traits: SupplyTraits) -> Callable[[StateMaker], Plan]:
    if traits.series_heaters:
        return _live_chassis
    if traits.delay_relay or traits.regulated_heaters:
        return _held_off
    if traits.rectifier == "mercury vapour":
        return _mercury
    if traits.solid_state:
        return _solid_state
    return _BY_RECTIFIER.get(traits.rectifier, _unknown)


def _picture(traits: SupplyTraits, otherwise: str) -> str:
    return TUBE_BURSTS if traits.picture_tube else otherwise


def _lamp_step(made: StateMaker) -> PlanStep | None:
    """The step behind a lamp; None where nothing says how large a lamp: none is proposed from a guess."""
    watts = made.upper_watts()
    if not watts:
        return None
    try:
        lamp = proposed_lamp(made.mains, watts)
    except CandorError:
        return None
    beyond = round(lamp_cut(made.mains, lamp.lamp_watts, watts), 1)
    words = (
        f"lamp {trimmed(lamp.lamp_watts)} W in series (incandescent or halogen): about {lamp.load_volts:.0f} V left "
        f"for the set, {lamp.line_watts:.0f} W from the line, where a short takes the lamp's own {trimmed(lamp.lamp_watts)} W"
    )
    then = (
        "a lamp still as bright after a minute is a short: plug out. Before that a short cannot be told from cold heaters. "
        "Out with the lamp after 5 min: readings at the lamp are not readings for the drawing"
    )
    quiet = made.step("lamp", 1.0, 300.0, drawing=False, caution=ISOLATES_NOT, first=True)
    bands = [b for b in quiet.bands if b.name != WATTS]
    low = 0.0  # a sound set may draw little: what is low here is no fault
    return PlanStep(
        title="lamp",
        line_volts=quiet.line_volts,
        hold_s=300.0,
        settings=(words, *quiet.settings),
        bands=(Band(WATTS, low, beyond), *(Band(b.name, min(b.low, 0.0), max(b.high, 0.0)) for b in bands)),
        cuts=(
            Cut(WATTS, beyond, "more than a sound set takes behind this lamp: it may be a short", LAMP_HOLD_S),
            *(c for c in quiet.cuts if c.name != WATTS),
        ),
        events=(Expected("a flash, then dim", 1.0, 1.0),),
        then=then,
        caution=ISOLATES_NOT,
    )


def _live_chassis(made: StateMaker) -> Plan:
    lamp = _lamp_step(made)
    up = made.step(
        "full line",
        1.0,
        300.0,
        drawing=False,
        events=made.events(Expected("glow", 20.0, 15.0)),
        first=lamp is None,
        caution=LIVE,
    )
    steps = (*((lamp,) if lamp else ()), up, made.warm())
    return Plan(
        "series lamp",
        "Heaters in series behind an isolation transformer: they take a rush at first, which the lamp bears.",
        steps,
    )


def _held_off(made: StateMaker) -> Plan:
    what = "A time-delay relay" if made.traits.delay_relay else "Regulated heaters"
    heaters = made.step(
        "heaters",
        TUBE_STARTS,
        120.0,
        drawing=False,
        rails_up=False,
        events=made.events(Expected("glow", 20.0, 15.0)),
        first=True,
        caution=_picture(made.traits, ISOLATES_NOT),
        then="off, plug out, discharge, put back what was taken out",
    )
    click = (Expected("click", 30.0, 20.0),) if made.traits.delay_relay else ()
    rails = made.step(
        "rails",
        TUBE_STARTS,
        120.0,
        drawing=False,
        events=made.events(*click),
        then="the reference rail first: the others hang on it",
    )
    full = made.step("full line", 1.0, 300.0, drawing=False, events=click)
    why = (
        f"{what} holds the rails off at a low line, so a slow rise does nothing: heaters alone at "
        f"{100 * TUBE_STARTS:.0f} % with the rectifier "
        "or the relay out, then the rails."
    )
    return Plan("heaters first", why, (heaters, rails, full, made.warm()))


def _mercury(made: StateMaker) -> Plan:
    heaters = made.step(
        "rectifier heater",
        1.0,
        60.0,
        drawing=False,
        rails_up=False,
        first=True,
        caution=MERCURY,
        events=made.events(Expected("glow", 20.0, 15.0)),
        then="only then plate voltage",
    )
    full = made.step(
        "full line",
        1.0,
        300.0,
        drawing=False,
        events=(Expected("blue glow that follows the load", 2.0, 2.0),),
        then="at a flicker or a flash back off at once",
    )
    return Plan(
        "heaters first",
        "Mercury vapour must be warm before it sees plate voltage, or it arcs back.",
        (heaters, full, made.warm()),
    )


def _solid_state(made: StateMaker) -> Plan:
    lamp = _lamp_step(made)
    full = _full_line(made, drawing=True, first=lamp is None)
    if made.traits.straight_on and made.traits.measured_good:
        return Plan("straight on", CHOSEN, (_full_line(made, drawing=True, first=True), made.warm()))
    if lamp is None:
        return _slowly(made, "Solid state draws at once, and what it takes is not known")
    return Plan(
        "series lamp",
        "Solid state draws at once: a lamp first, then the line with a wattmeter.",
        (lamp, full, made.warm()),
    )


def _full_line(
    made: StateMaker, *, drawing: bool, first: bool, events: tuple[Expected, ...] = (), then: str = ""
) -> PlanStep:
    caution = _picture(made.traits, ISOLATES_NOT)
    return made.step(
        "full line", 1.0, 300.0, drawing=drawing, events=made.events(*events), first=first, caution=caution, then=then
    )


def _slowly(made: StateMaker, why: str) -> Plan:
    """Up from zero by a variable transformer with a wattmeter, where nothing says how large a lamp or how much it may take."""
    caution = _picture(made.traits, f"{ISOLATES_NOT} {NOTHING_KNOWN}")
    first = made.step("at 25 %", 0.25, 300.0, drawing=False, first=True, events=made.events(), caution=caution,
                      then="watts rising at constant volts, or a smell: plug out")  # fmt: skip
    more = (("at 50 %", 0.5), ("at 75 %", 0.75), ("full line", 1.0))
    steps = (first, *(made.step(title, share, 300.0, drawing=False) for title, share in more))
    return Plan(
        "variable transformer",
        f"{why}: a variable transformer up from zero with a wattmeter in the line, the electrolytics measured "
        "first. Write down the "
        "watts or the fuse of its plate, and Candor can size a lamp and a cut line.",
        (*steps, made.warm()),
    )


def _directly(made: StateMaker) -> Plan:
    slow = made.step(
        "at 70 %",
        TUBE_STARTS,
        300.0,
        drawing=False,
        events=made.events(Expected("glow", 5.0, 5.0)),
        first=True,
        caution=_picture(made.traits, ISOLATES_NOT),
        then="watts rising at constant volts: off",
    )
    more = made.step("at 85 %", 0.85, 300.0, drawing=False)
    full = made.step("full line", 1.0, 300.0, drawing=False)
    why = (
        "A directly heated rectifier conducts within a second, the tubes draw after ten and more: the rails see their "
        "open-circuit peak. A variable "
        f"transformer spares them; under {100 * TUBE_STARTS:.0f} % of the line such a rectifier passes nothing and reforms nothing."
    )
    return Plan("variable transformer", why, (slow, more, full, made.warm()))


def _indirectly(made: StateMaker) -> Plan:
    lamp = _lamp_step(made)
    glow, then = (Expected("glow", 20.0, 15.0),), "watts rising at constant volts: off"
    if made.traits.straight_on and made.traits.measured_good:
        full = _full_line(made, drawing=False, first=True, events=glow, then=then)
        return Plan("straight on", CHOSEN, (full, made.warm()))
    if lamp is None:
        return _slowly(
            made, "An indirectly heated rectifier comes up with the tubes, but what the set takes is not known"
        )
    full = _full_line(made, drawing=False, first=False, events=glow, then=then)
    why = (
        "An indirectly heated rectifier comes up with the tubes. A lamp first shows a short; straight on may "
        "be chosen by name once "
        "the electrolytics were measured good."
    )
    return Plan("series lamp", why, (lamp, full, made.warm()))


def _silicon(made: StateMaker) -> Plan:
    caution = _picture(made.traits, ISOLATES_NOT)
    first = made.step("at 25 %", 0.25, 300.0, drawing=False, first=True, events=made.events(), caution=caution)
    more = (("at 50 %", 0.5), ("at 75 %", 0.75), ("full line", 1.0))
    steps = (first, *(made.step(title, share, 300.0, drawing=False) for title, share in more))
    why = (
        "A solid-state rectifier conducts from the first volt: slowly, so that filters reform, and the tubes draw "
        "before the crest is reached."
    )
    return Plan("variable transformer", why, (*steps, made.warm()))


def _unknown(made: StateMaker) -> Plan:
    lamp = _lamp_step(made)
    if lamp is None:
        return _slowly(made, "Neither the rectifier nor the watts nor the fuse is known")
    full = _full_line(made, drawing=False, first=False)
    why = "What rectifies is not known: a lamp in series first, behind which a short does no harm."
    return Plan("series lamp", why, (lamp, full, made.warm()))


_BY_RECTIFIER: dict[str, Callable[[StateMaker], Plan]] = {
    "directly heated": _directly,
    "indirectly heated": _indirectly,
    "solid state": _silicon,
}
