"""Power: what was checked before it, the way up that was kept, what was read on it and after the plug was out."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import field
from typing import Annotated, Literal

from pydantic import Field

from candor.core.late_dataclass import dataclass
from candor.core.power.plan import Way, unit_of
from candor.core.power.power_states import RectifierTube
from candor.core.quantities import engineering
from candor.core.quantities.show import trimmed
from candor.core.worded import worded
from candor.notebook.entries.body import Body, Timed
from candor.notebook.entries.entry import Entry, said
from candor.notebook.entries.fields_entries import Above, Finite, NotBelow, Text
from candor.notebook.entries.standing_entries import Standing

RailName = Annotated[str, Field(min_length=1, max_length=40, pattern=r"^[^\s;:,]+$")]


class RailSaid(Body):
    """A rail as the drawing has it: V at the nominal line, and what its capacitor is rated for, 0 where that is not known.

    `regulated` is the share by which a regulated rail may be off; `delayed` one that a relay holds off at first.
    """

    kind: Literal["rail_said"] = "rail_said"
    gives_on = "as drawn"
    name: RailName
    volts: Finite
    rated_volts: NotBelow = 0.0
    surge_volts: NotBelow = 0.0
    regulated: NotBelow = 0.0
    delayed: bool = False


class SupplySaid(Body):
    """What decides the way up, said again as a whole each time; `no_mains` where batteries feed it and nothing here applies."""

    kind: Literal["supply_said"] = "supply_said"
    gives_on = "as drawn"
    rectifier: RectifierTube = "unknown"
    delay_relay: bool = False
    regulated_heaters: bool = False
    series_heaters: bool = False
    solid_state: bool = False
    fan: bool = False
    no_mains: bool = False
    straight_on: bool = False
    watts: NotBelow = 0.0
    fuse_amperes: NotBelow = 0.0

    def of_another(self) -> SupplySaid:
        """Straight on was chosen for the one unit alone."""
        return self.model_copy(update={"straight_on": False})


class SupplyTyped(Body):
    """A supply as it was typed in a line, the rectifier it is compared with, and what was measured of it; empty for none."""

    kind: Literal["supply_typed"] = "supply_typed"
    gives_on = "as drawn"
    line: Text
    instead: str = ""
    measured: str = ""


class PlanKept(Body):
    """The way up as it was kept: its steps as the lines they are edited in."""

    kind: Literal["power_plan"] = "power_plan"
    gives_on = "as drawn"
    way: Way
    why: str = ""
    lines: Text


class PowerChecked(Body):
    """One of the checks with power off."""

    kind: Literal["power_check"] = "power_check"
    item: Text
    outcome: Literal["good", "bad", "does not apply"]
    text: str = ""


class RailOhmsRead(Body):
    """A rail's resistance to the chassis, ohm, power off; 0 for a manual that says none."""

    kind: Literal["rail_ohms"] = "rail_ohms"
    rail: RailName
    ohms: NotBelow
    expected_ohms: NotBelow = 0.0


class WindingRead(Body):
    """A winding of the transformer, power off: ohm, None where it is open; the room's degC, and whether it was hot from a run."""

    kind: Literal["winding"] = "winding"
    name: RailName
    ohms: NotBelow | None = None
    celsius: Finite | None = None
    hot: bool = False


class Unloaded(Body):
    """What the transformer takes with all its secondaries open: W, and A where that was read."""

    kind: Literal["unloaded"] = "unloaded"
    watts: NotBelow
    amperes: NotBelow | None = None


class StateBegun(Body):
    """A state of the way up: the line was set, V, or switched off at 0."""

    kind: Literal["power_state"] = "power_state"
    title: Text
    line_volts: NotBelow
    reason: str = ""


class RailRead(Timed):
    """A rail, the watts or the line, as read; SI."""

    kind: Literal["rail_read"] = "rail_read"
    name: RailName
    reading: Finite
    source: Literal["typed", "captured"] = "typed"


class EventSeen(Body):
    """Something heard or seen on the way up: a click, a glow, a hum."""

    kind: Literal["power_event"] = "power_event"
    text: Text


class PluggedOut(Timed):
    """The plug, not the switch, is out."""

    kind: Literal["plugged_out"] = "plugged_out"


class MeterProved(Timed):
    """The meter was seen live: on what."""

    kind: Literal["meter_proved"] = "meter_proved"
    on: str = ""


class MetersOn(Body):
    """Meters were read from here on: what each reads, where it answers, and the file of its readings."""

    kind: Literal["meters_on"] = "meters_on"
    names: tuple[RailName, ...]
    links: tuple[str, ...] = ()
    files: tuple[str, ...] = ()
    simulated: bool = False


class MetersOff(Body):
    """They are read no more; `of` is the entry that began it."""

    kind: Literal["meters_off"] = "meters_off"
    of: Text
    readings: Annotated[int, Field(ge=0)] = 0


class BleederSaid(Body):
    """The bleeder of a rail: ohm, and the capacitance it empties, F; it is known then, not guessed."""

    kind: Literal["bleeder"] = "bleeder"
    rail: RailName
    ohms: Above
    farad: Above


class CheckOverridden(Body):
    """One check before power that is not as it should be, let go for a written reason: it counts for what was found then."""

    kind: Literal["check_overridden"] = "check_overridden"
    item: Text
    reason: Text


class CautionUnderstood(Body):
    """A caution that was read and understood before its step."""

    kind: Literal["caution_understood"] = "caution_understood"
    text: Text


def _read(b: RailRead) -> str:
    return f"{b.name} {engineering(b.reading, unit_of(b.name), 5)}{', captured' if b.source == 'captured' else ''}"


def _rail(b: RailSaid) -> str:
    more = [worded("entries.its_capacitor_v", rated_volts=b.rated_volts)] if b.rated_volts else []
    more += [worded("entries.surge_v", surge_volts=b.surge_volts)] if b.surge_volts else []
    more += [worded("entries.regulated_to", regulated=100 * b.regulated)] if b.regulated else []
    more += ["delayed"] if b.delayed else []
    return ", ".join((worded("entries.rail_v_by_the_drawing", name=b.name, volts=b.volts), *more))


def _supply(b: SupplySaid) -> str:
    named = {"delay_relay": "delay relay", "regulated_heaters": "regulated heaters", "series_heaters": "heaters in series",
             "solid_state": "solid state", "fan": "fan", "no_mains": "no mains", "straight_on": "straight on, chosen"}  # fmt: skip
    more = [words for key, words in named.items() if getattr(b, key)]
    watts = [worded("entries.w_by_its_plate", watts=b.watts)] if b.watts else []
    watts += [worded("entries.fuse_a_by_its_plate", fuse_amperes=b.fuse_amperes)] if b.fuse_amperes else []
    return f"supply: rectifier {b.rectifier}" + "".join(f", {x}" for x in (*more, *watts))


def _begun(b: StateBegun) -> str:
    line = worded("entries.line_v", line_volts=b.line_volts) if b.line_volts else "line off"
    return f"{b.title}: {line}" + (worded("entries.begun_although", reason=b.reason) if b.reason else "")


def _ohms(b: RailOhmsRead) -> str:
    manual = f", manual {engineering(b.expected_ohms, 'ohm')}" if b.expected_ohms else ""
    return worded("entries.to_chassis", rail=b.rail, ohms=engineering(b.ohms, "ohm"), manual=manual)


WORDS = dict(
    (
        said(RailSaid, lambda b, _: _rail(b)),
        said(SupplySaid, lambda b, _: _supply(b)),
        said(
            SupplyTyped,
            lambda b, _: (
                f"supply: {b.line}"
                + (f"; instead {b.instead}" if b.instead else "")
                + (f"; measured {b.measured}" if b.measured else "")
            ),
        ),
        said(PlanKept, lambda b, _: worded("entries.the_way_up_steps", way=b.way, lines=len(b.lines.splitlines()))),
        said(PowerChecked, lambda b, _: f"{b.item}: {b.outcome}" + (f", {b.text}" if b.text else "")),
        said(WindingRead, lambda b, _: _winding(b)),
        said(Unloaded, lambda b, _: worded("entries.transformer_all_secondaries_open_w", watts=trimmed(b.watts))),
        said(RailOhmsRead, lambda b, _: _ohms(b)),
        said(StateBegun, lambda b, _: _begun(b)),
        said(RailRead, lambda b, _: _read(b)),
        said(EventSeen, lambda b, _: f"event: {b.text}"),
        said(MetersOn, lambda b, _: f"meters on {', '.join(b.names)}{', simulated' if b.simulated else ''}"),
        said(
            MetersOff,
            lambda b, n: worded("entries.meters_off_those_of_entry_readings", n=n.get(b.of, 0), readings=b.readings),
        ),
        said(PluggedOut, lambda _, __: "plug out"),
        said(MeterProved, lambda b, _: "meter proved" + (f" on {b.on}" if b.on else "")),
        said(
            BleederSaid,
            lambda b, _: worded(
                "entries.bleeder_of_on", rail=b.rail, ohms=engineering(b.ohms, "ohm"), farad=engineering(b.farad, "F")
            ),
        ),
        said(
            CheckOverridden, lambda b, _: worded("entries.power_although_is_not_as_it", item=b.item, reason=b.reason)
        ),
        said(CautionUnderstood, lambda b, _: f"understood: {b.text}"),
    )
)


@dataclass(frozen=True)
class PowerRecord:
    """What stands of power.

    Attributes
    ----------
    supply : Entry or None
    rails : mapping of str to Entry
        As the drawing has them.
    typed : Entry or None
    plan : Entry or None
        The one kept last.
    checks : mapping of str to Entry
        The newest of each item.
    rail_ohms, windings, hot_windings : mapping of str to Entry
    unloaded : Entry or None
    steps : tuple of Entry
        States begun and plugs pulled, in order.
    reads, events : tuple of Entry
    proved : tuple of Entry
    meters : tuple of Entry
    bleeders : mapping of str to Entry
    understood : frozenset of str
        Cautions that were read.
    overridden : mapping of str to Entry
        The newest of each check that was let go.
    """

    supply: Entry[SupplySaid] | None = None
    rails: Mapping[str, Entry[RailSaid]] = field(default_factory=dict)
    typed: Entry[SupplyTyped] | None = None
    plan: Entry[PlanKept] | None = None
    checks: Mapping[str, Entry[PowerChecked]] = field(default_factory=dict)
    rail_ohms: Mapping[str, Entry[RailOhmsRead]] = field(default_factory=dict)
    windings: Mapping[str, Entry[WindingRead]] = field(default_factory=dict)
    hot_windings: Mapping[str, Entry[WindingRead]] = field(default_factory=dict)
    unloaded: Entry[Unloaded] | None = None
    steps: tuple[Entry[StateBegun] | Entry[PluggedOut], ...] = ()
    reads: tuple[Entry[RailRead], ...] = ()
    events: tuple[Entry[EventSeen], ...] = ()
    proved: tuple[Entry[MeterProved], ...] = ()
    meters: tuple[Entry[MetersOn], ...] = ()
    bleeders: Mapping[str, Entry[BleederSaid]] = field(default_factory=dict)
    understood: frozenset[str] = frozenset()
    overridden: Mapping[str, Entry[CheckOverridden]] = field(default_factory=dict)

    @property
    def begun(self) -> frozenset[str]:
        """The titles of the states that were begun."""
        return frozenset(e.body.title for e in self.steps if isinstance(e.body, StateBegun))

    @property
    def said(self) -> SupplySaid:
        """What was said of the supply; nothing yet where nothing was."""
        return self.supply.body if self.supply is not None else SupplySaid()

    @property
    def state(self) -> Entry[StateBegun] | None:
        """The state it is in, or None: never switched on, or the plug is out."""
        last = self.steps[-1] if self.steps else None
        return last if last is not None and isinstance(last.body, StateBegun) else None

    @property
    def is_live(self) -> bool:
        """Whether the line is on."""
        return self.state is not None and self.state.body.line_volts > 0

    @property
    def out(self) -> Entry[PluggedOut] | None:
        """When the plug was pulled, where it is out after it was on."""
        last = self.steps[-1] if self.steps else None
        return last if last is not None and isinstance(last.body, PluggedOut) else None

    @property
    def switched_on(self) -> Entry[StateBegun] | None:
        """The first state since the plug was last put in, or None: never switched on."""
        first: Entry[StateBegun] | None = None
        for step in reversed(self.steps[:-1] if self.out is not None else self.steps):
            if not isinstance(step.body, StateBegun):
                break
            first = step
        return first

    def since(self, entry: Entry[StateBegun] | Entry[PluggedOut] | None) -> tuple[Entry[RailRead], ...]:
        """Return what was read since a step, in order."""
        return tuple(e for e in self.reads if entry is not None and e.number > entry.number)


def _winding(b: WindingRead) -> str:
    ohms = "open" if b.ohms is None else engineering(b.ohms, "ohm")
    room = "" if b.celsius is None else worded("entries.room_c", celsius=trimmed(b.celsius))
    return f"winding {b.name}{' hot' if b.hot else ''} {ohms}{room}"


def power_record(standing: Standing) -> PowerRecord:
    """Return what stands of power."""
    windings = standing.by(WindingRead, lambda b: (b.name, b.hot))
    return PowerRecord(
        supply=standing.newest(SupplySaid),
        rails=standing.by(RailSaid, lambda b: b.name),
        typed=standing.newest(SupplyTyped),
        plan=standing.newest(PlanKept),
        checks=standing.by(PowerChecked, lambda b: b.item),
        windings={name: e for (name, hot), e in windings.items() if not hot},
        hot_windings={name: e for (name, hot), e in windings.items() if hot},
        unloaded=standing.newest(Unloaded),
        rail_ohms=standing.by(RailOhmsRead, lambda b: b.rail),
        steps=standing.of(StateBegun, PluggedOut),
        reads=standing.of(RailRead),
        events=standing.of(EventSeen),
        proved=standing.of(MeterProved),
        meters=standing.of(MetersOn),
        bleeders=standing.by(BleederSaid, lambda b: b.rail),
        understood=frozenset(e.body.text for e in standing.of(CautionUnderstood)),
        overridden=standing.by(CheckOverridden, lambda b: b.item),
    )
