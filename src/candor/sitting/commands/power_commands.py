"""Commands of Power: the supply, the plan, its checks and states, what was seen, the plug, the meter."""

from __future__ import annotations

from collections.abc import Mapping

from candor.core.power.plan import Way
from candor.notebook.entries.power_entries import (
    CautionUnderstood,
    CheckOverridden,
    EventSeen,
    MeterProved,
    MetersOff,
    MetersOn,
    PlanKept,
    PluggedOut,
    PowerChecked,
    RailRead,
    StateBegun,
    SupplySaid,
    SupplyTyped,
)
from candor.sitting.command import Command, command


def say_supply(said: Mapping[str, object]) -> Command:
    """What decides the power-up plan, said as a whole."""
    return command("the supply", SupplySaid.model_validate(dict(said)))


def type_supply(line: str, instead: str = "", measured: str = "") -> Command:
    """A supply typed in a line, and the rectifier it is compared with."""
    return command("a supply", SupplyTyped(line=line, instead=instead, measured=measured))


def keep_plan(way: Way, why: str, lines: str) -> Command:
    """The power-up plan is kept, as the lines it was edited in."""
    return command("the plan", PlanKept(way=way, why=why, lines=lines))


def check_item(item: str, outcome: str, text: str = "") -> Command:
    """One of the checks before power."""
    return command(f"check of {item}", PowerChecked.model_validate({"item": item, "outcome": outcome, "text": text}))


def override_check(item: str, reason: str) -> Command:
    """Power although one check is not as it should be."""
    return command(f"{item} overridden", CheckOverridden(item=item, reason=reason))


def understand_caution(text: str) -> Command:
    """A caution was read and understood."""
    return command("a caution understood", CautionUnderstood(text=text))


def begin_state(title: str, line_volts: float, reason: str = "") -> Command:
    """A state of the plan is begun; 0 V is off."""
    return command(f"began {title}", StateBegun(title=title, line_volts=line_volts, reason=reason))


def see_event(text: str) -> Command:
    """Something was heard or seen."""
    return command(text, EventSeen(text=text))


def plug_out() -> Command:
    """The plug is out."""
    return command("plug out", PluggedOut())


def prove_meter(on: str = "") -> Command:
    """The meter was seen live."""
    return command("meter proved", MeterProved(on=on))


def capture_rail(name: str, reading: float) -> Command:
    """A meter on a link read a rail beyond its cut line."""
    return Command(f"{name} read", (RailRead(name=name, reading=reading, source="captured"),), by_itself=True)


def meters_on(names: tuple[str, ...], links: tuple[str, ...], files: tuple[str, ...], simulated: bool) -> Command:
    """Meters are read from here on."""
    return Command(
        "meters on", (MetersOn(names=names, links=links, files=files, simulated=simulated),), by_itself=True
    )


def meters_off(of: str, readings: int) -> Command:
    """They are read no more."""
    return Command("meters off", (MetersOff(of=of, readings=readings),), by_itself=True)


COMMANDS = (
    say_supply, type_supply, keep_plan, check_item, override_check, understand_caution, begin_state, see_event, plug_out,
    prove_meter, capture_rail, meters_on, meters_off,
)  # fmt: skip
