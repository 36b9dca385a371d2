"""The way up proposed from what is known of an instrument's supply, with its reasons."""

from __future__ import annotations

from collections.abc import Callable

from candor.core.errors import CandorError
from candor.core.parts.mains import Mains
from candor.core.power.lamp import LAMP_HOLD_S, lamp_cut, proposed_lamp
from candor.core.power.plan import WATTS, Band, Cut, Expected, Plan, PlanStep
from candor.core.power.power_states import TUBE_STARTS, StateMaker, SupplyTraits
from candor.core.quantities.show import trimmed
from candor.core.worded import worded

ISOLATES_NOT = worded("power.a_variable_transformer_and_a_lamp")
NOTHING_KNOWN = worded("power.its_power_consumption_is_unknown_watch")
CHOSEN = worded("power.straight_on_with_a_wattmeter_chosen")
LIVE = worded("power.heaters_in_series_and_no_transformer")
TUBE_BURSTS = worded("power.the_picture_tube_holds_kilovolts_and")
MERCURY = worded("power.mercury_vapour_upright_heater_alone_for")


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


def _picture(traits: SupplyTraits, caution: str) -> str:
    """A caution, and that of a picture tube beside it where there is one: neither is instead of the other."""
    return f"{caution} {TUBE_BURSTS}" if traits.picture_tube else caution


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
    words = worded(
        "power.lamp_w_in_series_incandescent_or",
        lamp_watts=trimmed(lamp.lamp_watts),
        load_volts=lamp.load_volts,
        line_watts=lamp.line_watts,
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
            Cut(WATTS, beyond, worded("power.more_than_a_sound_set_takes"), LAMP_HOLD_S),
            *(c for c in quiet.cuts if c.name != WATTS),
        ),
        events=(Expected(worded("power.a_flash_then_dim"), 1.0, 1.0),),
        then=then,
        caution=_picture(made.traits, ISOLATES_NOT),
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
        caution=_picture(made.traits, LIVE),
    )
    steps = (*((lamp,) if lamp else ()), up, made.warm())
    return Plan(
        "series lamp",
        worded("power.heaters_in_series_behind_an_isolation"),
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
        then=worded("power.off_plug_out_discharge_put_back"),
    )
    click = (Expected("click", 30.0, 20.0),) if made.traits.delay_relay else ()
    rails = made.step(
        "rails",
        TUBE_STARTS,
        120.0,
        drawing=False,
        events=made.events(*click),
        then=worded("power.the_reference_rail_first_the_others"),
    )
    full = made.step("full line", 1.0, 300.0, drawing=False, events=click)
    why = worded("power.holds_the_rails_off_at_a", what=what, tube_starts=100 * TUBE_STARTS)
    return Plan("heaters first", why, (heaters, rails, full, made.warm()))


def _mercury(made: StateMaker) -> Plan:
    heaters = made.step(
        "rectifier heater",
        1.0,
        60.0,
        drawing=False,
        rails_up=False,
        first=True,
        caution=_picture(made.traits, f"{ISOLATES_NOT} {MERCURY}"),
        events=made.events(Expected("glow", 20.0, 15.0)),
        then=worded("power.only_then_plate_voltage"),
    )
    full = made.step(
        "full line",
        1.0,
        300.0,
        drawing=False,
        events=(Expected(worded("power.blue_glow_that_follows_the_load"), 2.0, 2.0),),
        then=worded("power.at_a_flicker_or_a_flash"),
    )
    return Plan(
        "heaters first",
        worded("power.mercury_vapour_must_be_warm_before"),
        (heaters, full, made.warm()),
    )


def _solid_state(made: StateMaker) -> Plan:
    lamp = _lamp_step(made)
    full = _full_line(made, drawing=True, first=lamp is None)
    if made.traits.straight_on and made.traits.measured_good:
        return Plan("straight on", CHOSEN, (_full_line(made, drawing=True, first=True), made.warm()))
    if lamp is None:
        return _slowly(made, worded("power.solid_state_draws_at_once_and"))
    return Plan(
        "series lamp",
        worded("power.solid_state_draws_at_once_a"),
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
                      then=worded("power.watts_rising_at_constant_volts_or"))  # fmt: skip
    more = (("at 50 %", 0.5), ("at 75 %", 0.75), ("full line", 1.0))
    steps = (first, *(made.step(title, share, 300.0, drawing=False) for title, share in more))
    return Plan(
        "variable transformer",
        worded("power.a_variable_transformer_up_from_zero", why=why),
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
        then=worded("power.watts_rising_at_constant_volts_off"),
    )
    more = made.step("at 85 %", 0.85, 300.0, drawing=False)
    full = made.step("full line", 1.0, 300.0, drawing=False)
    why = worded("power.a_directly_heated_rectifier_conducts_within", tube_starts=100 * TUBE_STARTS)
    return Plan("variable transformer", why, (slow, more, full, made.warm()))


def _indirectly(made: StateMaker) -> Plan:
    lamp = _lamp_step(made)
    glow, then = (Expected("glow", 20.0, 15.0),), worded("power.watts_rising_at_constant_volts_off")
    if made.traits.straight_on and made.traits.measured_good:
        full = _full_line(made, drawing=False, first=True, events=glow, then=then)
        return Plan("straight on", CHOSEN, (full, made.warm()))
    if lamp is None:
        return _slowly(made, worded("power.an_indirectly_heated_rectifier_comes_up_with"))
    full = _full_line(made, drawing=False, first=False, events=glow, then=then)
    why = worded("power.an_indirectly_heated_rectifier_comes_up")
    return Plan("series lamp", why, (lamp, full, made.warm()))


def _silicon(made: StateMaker) -> Plan:
    caution = _picture(made.traits, ISOLATES_NOT)
    first = made.step("at 25 %", 0.25, 300.0, drawing=False, first=True, events=made.events(), caution=caution)
    more = (("at 50 %", 0.5), ("at 75 %", 0.75), ("full line", 1.0))
    steps = (first, *(made.step(title, share, 300.0, drawing=False) for title, share in more))
    why = worded("power.a_solid_state_rectifier_conducts_from")
    return Plan("variable transformer", why, (*steps, made.warm()))


def _unknown(made: StateMaker) -> Plan:
    lamp = _lamp_step(made)
    if lamp is None:
        return _slowly(made, worded("power.neither_the_rectifier_nor_the_watts"))
    full = _full_line(made, drawing=False, first=False)
    why = worded("power.what_rectifies_is_not_known_a")
    return Plan("series lamp", why, (lamp, full, made.warm()))


_BY_RECTIFIER: dict[str, Callable[[StateMaker], Plan]] = {
    "directly heated": _directly,
    "indirectly heated": _indirectly,
    "solid state": _silicon,
}
