"""The reasons that speak for keeping or replacing a resistor, by itself and in its circuit."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import lru_cache

from candor.core.circuit.in_circuit import InCircuit, all_in_circuit, say_in_circuit
from candor.core.circuit.netlist import Netlist
from candor.core.circuit.resistance import divider_ratio
from candor.core.parts.part import Measured, Part
from candor.core.parts.policy import Policy, Resistors
from candor.core.parts.reasons import PRACTICE, Action, Reason, compare
from candor.core.quantities import engineering
from candor.core.quantities.show import plain, round_down, signed, trimmed


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
    high = part.limits[1]
    if policy is not None and policy.resistors is Resistors.ALL and part.make in ("carbon composition", ""):
        yield Reason(Action.REPLACE, "policy: all on sight", f"The job's policy for resistors ({PRACTICE}).",
                     "The policy decides this, not a reading. Choose “measure each” to test it instead.",
                     by_policy=True)  # fmt: skip
    if m.state:
        yield Reason(Action.REPLACE, f"replace: it is {m.state}", f"A resistor that is {m.state} does nothing for its circuit.",
                     "A reading with one end lifted." if m.in_circuit else "")  # fmt: skip
        return
    if m.value is None:
        limits = expected_in_circuit(circuit, part.ref) if circuit else None
        hint = ""
        if limits is not None:
            hint = f": {engineering(limits.low, 'ohm')} to {engineering(limits.high, 'ohm')} expected in circuit"
        yield Reason(
            Action.CANNOT_TELL, f"measure it{hint}", f"Limits {_span(part)}.", f"A reading from {_span(part)}."
        )
    elif m.in_circuit:
        yield _read_in_circuit(part, m, circuit)
    else:
        yield _read_lifted(part, m, circuit)
        if m.warm_value is not None:
            climb = m.warm_value / m.value - 1
            if compare(m.warm_value, high, m.value_share) > 0 >= compare(m.value, high, m.value_share):
                yield Reason(Action.REPLACE, f"{signed(100 * climb, 1)} % warm: out of tolerance once warm",
                             f"Limit {engineering(high, 'ohm')}, warm as in use.", "A warm reading inside.")  # fmt: skip
            elif climb > 0.01 and part.make in ("carbon composition", ""):
                yield Reason(Action.WATCH, f"climbs {plain(100 * climb, 1)} % when warm: on its way out",
                             f"Carbon composition that rises over 1 % in ten minutes ({PRACTICE}).",
                             "A rise under 1 %.")  # fmt: skip


def _span(part: Part) -> str:
    low, high = part.limits
    return f"{engineering(low, part.unit)} to {engineering(high, part.unit)}"


def _read_in_circuit(part: Part, m: Measured, circuit: Circuit | None) -> Reason:
    value = m.value or 0.0
    limits = expected_in_circuit(circuit, part.ref) if circuit else None
    if limits is None:
        high = part.limits[1]
        if compare(value, high, m.value_share) > 0:
            return Reason(Action.REPLACE, f"{signed(100 * (value / part.nominal - 1), 0)} % even in circuit",
                          f"Above {engineering(high, 'ohm')}. Parallel paths can only lower the reading, so this part is high.",
                          "No reading in circuit would.")  # fmt: skip
        return Reason(Action.CANNOT_TELL, "says nothing in circuit: lift one end",
                      "A reading in circuit is only trusted when it is too high; too low may be a parallel path.",
                      f"With one end lifted, {_span(part)}.")  # fmt: skip
    verdict, sentence = say_in_circuit(part.ref, value, value * m.value_share, limits)
    rule = "Nodal analysis of the circuit, every part at its limits (Rayleigh's monotonicity law)."
    if verdict == "high":
        return Reason(Action.REPLACE, sentence, rule, "No reading in circuit would.")
    return Reason(Action.CANNOT_TELL, sentence, rule, f"With one end lifted, {_span(part)}.")


def _read_lifted(part: Part, m: Measured, circuit: Circuit | None) -> Reason:
    value, (low, high) = m.value or 0.0, part.limits
    off = value / part.nominal - 1
    shown = f"{signed(100 * off, 1)} %"
    moved = _shift_of_divider(circuit, part, value) if circuit else None
    # Under a twentieth of a per cent no meter of this age shows it; over half a per cent, warming is not the reading of the meter.
    effect = f"; its tap reads {signed(100 * moved, 1)} %" if moved is not None and abs(moved) > 5e-4 else ""
    climbing = ", still climbing" if m.warm_value is not None and m.warm_value > value * 1.005 and off > 0 else ""
    rule = f"Limits {_span(part)}, the tolerance {'marked' if part.below is not None else 'usual for its make'}."
    reach = value * m.value_share
    if low <= value - reach and value + reach <= high:
        return Reason(Action.KEEP, f"{shown}, inside{effect}", rule, f"A reading outside {_span(part)}.")
    if value - reach <= high and value + reach >= low:
        needed = 100 * min(abs(value - low), abs(high - value)) / value
        return Reason(Action.CANNOT_TELL, f"{shown}: too near its limit to tell", rule,
                      f"A meter good to ±{trimmed(round_down(needed), 2)} %, or another reading.")  # fmt: skip
    twice = abs(off) > 2 * (part.tolerance[1] if off > 0 else part.tolerance[0])
    strict = part.role in ("divider", "timing")
    if strict or twice or climbing:
        return Reason(Action.REPLACE, f"{shown}{climbing}{effect}", rule, f"A reading from {_span(part)}.")
    heat = f", {engineering(part.volts_across**2 / value, 'W', 3)} in it" if part.volts_across else ""
    return Reason(Action.WATCH, f"{shown}, outside{heat}", f"{rule} Here up to twice that serves ({PRACTICE}).",
                  "A value that decides the accuracy, or twice as far off.")  # fmt: skip
