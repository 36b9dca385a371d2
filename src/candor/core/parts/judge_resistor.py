"""The reasons that speak for keeping or replacing a resistor, by itself and in its circuit."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from functools import lru_cache

from candor.core.circuit.in_circuit import InCircuit, all_in_circuit, proved_in_circuit
from candor.core.circuit.netlist import Netlist
from candor.core.circuit.resistance import divider_ratio
from candor.core.finding import Figure, Finding
from candor.core.late_dataclass import dataclass
from candor.core.parts.part import Measured, Part, whose_tolerance
from candor.core.parts.policy import Policy, Resistors
from candor.core.parts.reasons import Action, Reason, compare
from candor.core.quantities.show import round_down

EFFECT = 5e-4  # of a tap: under a twentieth of a per cent no meter of this age shows it
CLIMBS = 1.005  # over half a per cent, warming is not the reading of the meter
WARMS = 0.01  # of a composition resistor in ten minutes: on its way out; common practice, no source


@dataclass(frozen=True, eq=False)
class Circuit:
    """A circuit as parts are judged in it; compared by identity, so that what was calculated is remembered."""

    netlist: Netlist
    tolerances: Mapping[str, float]


@lru_cache(maxsize=16)
def _expected(circuit: Circuit) -> Mapping[str, InCircuit]:
    return all_in_circuit(circuit.netlist, circuit.tolerances)


def expected_in_circuit(circuit: Circuit, ref: str) -> InCircuit | None:
    """Return what should be read across a resistor in its circuit, None where the circuit has no such resistor."""
    return _expected(circuit).get(ref.upper())


@lru_cache(maxsize=4096)
def _shift_of_divider(circuit: Circuit, part: Part, value: float) -> float | None:
    """Return by what share the tapped voltage moves when a part of a divider has another value."""
    top, tap, bottom = part.tap
    nodes = circuit.netlist.nodes
    if not top or {top, tap, bottom or "0"} - set(nodes) or circuit.netlist.element(part.ref) is None:
        return None
    nominal = divider_ratio(circuit.netlist, top, tap, bottom or "0")
    moved = divider_ratio(circuit.netlist.with_value(part.ref, value), top, tap, bottom or "0")
    return moved / nominal - 1 if nominal else None


def resistor_reasons(
    part: Part, m: Measured, circuit: Circuit | None, policy: Policy | None = None
) -> Iterator[Reason]:
    """Yield every reason there is, in no order; at least one (common practice, no source, where none stands beside it).

    Raises
    ------
    RangeError
        Where a node the part names is not of the circuit.
    """
    low, high = part.limits
    figures: dict[str, Figure] = {"low": low, "high": high, "whose": whose_tolerance(part)}
    if policy is not None and policy.resistors is Resistors.ALL and part.make in ("carbon composition", ""):
        yield Reason(
            action=Action.REPLACE,
            found="policy.resistor",
            rule="policy.resistor",
            change="policy.resistor",
            by_policy=True,
        )
    if m.state:
        change = "resistor.lifted" if m.in_circuit else "none"
        yield Reason(
            action=Action.REPLACE,
            found="state",
            rule="state",
            change=change,
            figures={"state": m.state, "kind": part.kind},
        )
        return
    if m.value is None:
        limits = expected_in_circuit(circuit, part.ref) if circuit else None
        hint = (
            Finding("in circuit.expected", {"least": limits.low, "most": limits.high}) if limits is not None else ""
        )
        yield Reason(
            action=Action.CANNOT_TELL,
            found="resistor.measure",
            rule="resistor.limits",
            change="resistor.inside",
            figures=figures | {"hint": hint},
        )
    elif m.in_circuit:
        yield _read_in_circuit(part, m, circuit, figures)
    else:
        yield _read_lifted(part, m, circuit, figures)
        yield from _read_warm(part, m, figures)


def _read_warm(part: Part, m: Measured, figures: Mapping[str, Figure]) -> Iterator[Reason]:
    if m.warm_value is None or m.value is None:
        return
    high, climb = part.limits[1], m.warm_value / m.value - 1
    warm = {**figures, "climb": climb, "warms": WARMS}
    if compare(m.warm_value, high, m.value_share) > 0 >= compare(m.value, high, m.value_share):
        yield Reason(
            action=Action.REPLACE, found="resistor.hot", rule="resistor.hot", change="resistor.hot", figures=warm
        )
    elif climb > WARMS and part.make in ("carbon composition", ""):
        yield Reason(
            action=Action.WATCH,
            found="resistor.climbs",
            rule="resistor.climbs",
            change="resistor.climbs",
            figures=warm,
        )


def _read_in_circuit(part: Part, m: Measured, circuit: Circuit | None, figures: Mapping[str, Figure]) -> Reason:
    value = m.value or 0.0
    limits = expected_in_circuit(circuit, part.ref) if circuit else None
    if limits is None:
        if compare(value, part.limits[1], m.value_share) > 0:
            read = {**figures, "off": value / part.nominal - 1}
            return Reason(
                action=Action.REPLACE,
                found="in circuit.over",
                rule="in circuit.over",
                change="in circuit.none",
                figures=read,
            )
        return Reason(
            action=Action.CANNOT_TELL,
            found="in circuit.alone",
            rule="in circuit.alone",
            change="value.lifted",
            figures={**figures, "unit": "ohm"},
        )
    proved = proved_in_circuit(part.ref, value, value * m.value_share, limits)
    told = {**figures, **proved.figures, "unit": "ohm"}
    if proved.kind == "in circuit.high":
        return Reason(
            action=Action.REPLACE, found=proved.kind, rule="in circuit", change="in circuit.none", figures=told
        )
    return Reason(
        action=Action.CANNOT_TELL, found=proved.kind, rule="in circuit", change="value.lifted", figures=told
    )


def _read_lifted(part: Part, m: Measured, circuit: Circuit | None, figures: Mapping[str, Figure]) -> Reason:
    value, (low, high) = m.value or 0.0, part.limits
    off = value / part.nominal - 1
    moved = _shift_of_divider(circuit, part, value) if circuit else None
    climbing = m.warm_value is not None and m.warm_value > value * CLIMBS and off > 0
    reach = value * m.value_share
    read: dict[str, Figure] = {
        **figures,
        "off": off,
        "effect": Finding("effect.tap", {"moved": moved}) if moved is not None and abs(moved) > EFFECT else "",
        "climbing": Finding("climbing") if climbing else "",
        "heat": Finding("effect.heat", {"watts": part.volts_across**2 / value})
        if part.volts_across and value
        else "",
    }
    if low <= value - reach and value + reach <= high:
        return Reason(
            action=Action.KEEP, found="resistor.good", rule="resistor", change="resistor.outside", figures=read
        )
    if value - reach <= high and value + reach >= low:
        read["needed"] = round_down(100 * min(abs(value - low), abs(high - value)) / value)
        change = "resistor.meter" if read["needed"] else "resistor.another"
        return Reason(action=Action.CANNOT_TELL, found="resistor.near", rule="resistor", change=change, figures=read)
    twice = abs(off) > 2 * (part.tolerance[1] if off > 0 else part.tolerance[0])
    if part.role in ("divider", "timing") or twice or climbing:
        return Reason(
            action=Action.REPLACE, found="resistor.bad", rule="resistor", change="resistor.inside", figures=read
        )
    return Reason(
        action=Action.WATCH, found="resistor.watch", rule="resistor.watch", change="resistor.watch", figures=read
    )
