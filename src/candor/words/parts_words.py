"""Parts in words: why one stays or goes, how sure that is, what may go in its place, what each policy means."""

from __future__ import annotations

from collections.abc import Mapping

from candor.core.parts.judge import PartVerdict, moved_verdicts
from candor.core.parts.part import Measured, Part
from candor.core.parts.policy import Electrolytics, Resistors, Sight
from candor.core.parts.reasons import Reason
from candor.core.parts.replacement import Needs, Proposal
from candor.core.quantities import engineering
from candor.core.quantities.show import trimmed
from candor.words.filling import Sentences

NAMED = 6  # parts that a sentence names, before "and more"

# What several sentences share: what follows from a value, and how a figure is known.
PHRASES = {
    "effect.ripple": ": ripple {times:#2} times as large",
    "effect.corner": ": low corner from {was:Hz2} to {now:Hz2}",
    "effect.tap": "; its tap reads {moved:+%1} %",
    "effect.heat": ", {watts:W3} in it",
    "tolerance.marked": "the tolerance marked on it",
    "tolerance.usual": "the tolerance usual for its make",
    "climbing": ", still climbing",
    "reforming": ", reforming: {how}",
    "line.known": "{line}",
    "line.worse": "{line}, the worse of the usual ones until you enter yours",
    "loss.at least": "D at least {low:#3}",
    "loss.at most": "D at most {high:#3}",
    "loss.is": "D {low:#3}",
    "loss.between": "D {low:#3} to {high:#3}",
    "loss.higher": " Read at {hertz:Hz}: ESR falls with frequency, so this reading can condemn it but not acquit it.",
    "loss.lower": " Read at {hertz:Hz}: ESR falls with frequency, so this reading can acquit it but not condemn it.",
    "loss.anywhere": " The test frequency was not given: this reading can condemn it but not acquit it.",
    "at.volts": "at {volts:#} V",
    "at.working": "at its working voltage",
    "insulation.product": "{seconds:#2} MΩ·µF",
    "insulation.none": "no leakage seen",
    "insulation.small": ", judged as {farads:F}",
    "in circuit.expected": ": {least:ohm} to {most:ohm} expected in circuit",
}
# What was found, in a few words: the consequence, or where it stands to its limit.
FOUND = Sentences({
    **PHRASES,
    "state": "it is {state}",
    "state.worn": "it is {state}: it will not last",
    "state.good": "found good",
    "policy": "policy: replace on sight",
    "policy.resistor": "policy: all on sight",
    "mains.across": "safety part: class X2",
    "mains.chassis": "safety part: class Y, {most:F2} at most",
    "value.connected": "value read in circuit: lift one end",
    "value.twice": "reads {ratio:#2} times its marked value: it leaks or is wet",
    "value.near": "{value:F}, {off:+%0} % from nominal: too near its limit to tell",
    "value.off": "{value:F}, {off:+%0} % from nominal{effect}",
    "value.leak": "{value:F}, {off:+%0} % from nominal: measure its leakage first",
    "value.good": "{value:F}: within its tolerance",
    "loss.make": "say what it is made of",
    "loss.bad": "{loss}: over {bad:g}, it has dried out or is wet",
    "loss.good": "{loss}: good",
    "loss.watch": "{loss}: over {good:g}",
    "loss.sound": "sound as a filter; loss at {hertz:g} Hz not measured",
    "loss.read": "{loss}: read {asked} near {hertz:g} Hz",
    "loss.near": "{loss}: too near {near:g} to tell",
    "leakage.low volts": "only at {volts:#} V: measure it at {working:#} V",
    "leakage.good": "leakage under the limit of {limit:A3} at {volts:#} V",
    "leakage.near": "leakage too near the limit of {limit:A3} at {volts:#} V to tell",
    "leakage.early": "leakage {times:#2} times the limit of {limit:A3} after {dwell:#} s: read it after 2 to 5 min",
    "leakage.reform": "leakage {times:#2} times the limit of {limit:A3}: reform it, then judge",
    "leakage.over": "leakage {times:#2} times the limit of {limit:A3}{reformed}",
    "heat": "makes {heat:W2} of heat at {volts:#} V",
    "grid.bad": "moves the grid {shift:.1} V in {ohms:ohm3}",
    "grid.watch": "moves the grid {shift:.2} V in {ohms:ohm3}",
    "grid.good": "moves the grid {shift:.2} V: under {good:g} V",
    "grid.near bad": "moves the grid {shift:.2} V: too near {bad:g} V to tell",
    "grid.near good": "moves the grid {shift:.2} V: too near {good:g} V to tell",
    "insulation.any": "over {good:g} MΩ·µF: good whatever it is made of",
    "insulation.make": "say what it is made of",
    "insulation.bad": "{product}: poor",
    "insulation.watch": "{product}: under {good:g}",
    "insulation.good": "{product}: good",
    "insulation.near bad": "{product}: too near {bad:g} to tell",
    "insulation.near good": "{product}: too near {good:g} to tell",
    "measure.first": "measure {missing}, then leakage {at}",
    "measure.leakage": "measure leakage {at}",
    "can.mate": "can {can} fails as one: {bad} is bad",
    "can.heat": "can {can} makes {heat:W2} of heat in all",
    "resistor.measure": "measure it{hint}",
    "resistor.hot": "{climb:+%1} % warm: out of tolerance once warm",
    "resistor.climbs": "climbs {climb:%2} % when warm: it is failing",
    "resistor.good": "{off:+%1} %, within its tolerance{effect}",
    "resistor.near": "{off:+%1} %: too near its limit to tell",
    "resistor.bad": "{off:+%1} %{climbing}{effect}",
    "resistor.watch": "{off:+%1} %, out of tolerance{heat}",
    "in circuit.over": "{off:+%0} % even in circuit",
    "in circuit.alone": "says nothing in circuit: lift one end",
    "in circuit.high": "{read:ohm} in circuit is above {own:ohm}, the most {ref} may be: this part is high",
    "in circuit.network": "{read:ohm} is more than the network can show ({most:ohm}): a part here is high or open",
    "in circuit.nothing": "{least:ohm} to {most:ohm} expected in circuit; only above {reach:ohm} would {ref} show: lift one end",
    "in circuit.never": "{least:ohm} to {most:ohm} expected in circuit; no reading in circuit can convict {ref}: lift one end",
    "marked.inside": "its value is within what is marked",
    "marked.outside": "outside {low:{unit}3} to {high:{unit}3}",
    "tell.potentiometer": "measure its track, then its wiper over the whole travel: no jumps",
    "tell.inductor": "measure its ohms, and its inductance where it is marked",
    "tell.transformer": "measure its windings at Power: the ohms of each, and none to the core",
    "tell.tube": "test it in the room Tubes: shorts and leakage first",
    "tell.diode": "measure it both ways, and its leakage at its reverse volts",
    "tell.lamp": "see whether it lights at its volts",
    "tell.fuse": "read its value and kind (fast or slow), and measure it: near 0 ohm",
    "tell.switch": "measure each contact closed and open",
    "tell.battery": "measure it under its load",
    "tell.hardware": "look at it",
})  # fmt: skip
# Whose limit it is, and why.
RULES = Sentences({
    **PHRASES,
    "practice": "Common practice, no source.",
    "state": "A {kind} that is {state} cannot do its work.",
    "by hand": "Entered by hand ({practice}).",
    "marked": "By its marking.",
    "tell": "Nothing was measured yet ({practice}).",
    "policy.capacitor": "The job's policy for {make} capacitors ({practice}).",
    "policy.resistor": "The job's policy for resistors ({practice}).",
    "mains.across": "It fails across the mains. Class X, IEC 60384-14. Local codes come first.",
    "mains.chassis": "When it fails, the chassis is live. Class Y, IEC 60384-14; {amperes:A} through a person (IEC 61010-1, from memory), I = 2π f C V at {line}, and {high:%} % more. Local codes come first.",
    "value": "Limits {low:{unit}} to {high:{unit}}, {whose}.",
    "value.low": "Limits {low:{unit}} to {high:{unit}}, {whose}; replaced under 70 % ({practice}).",
    "value.connected": "Whatever is connected across it adds to the reading.",
    "value.twice": "Over twice the marked value ({practice}).",
    "value.leak": "Limits {low:{unit}} to {high:{unit}}, {whose}. Leakage can look like capacitance to a meter ({practice}).",
    "loss.make": "The limit of D depends on the dielectric.",
    "loss": "{make!c}: up to {good:g} good, over {bad:g} bad, at {hertz:g} Hz ({practice}).{read}",
    "loss.sound": "{make!c}: up to {good:g} good, over {bad:g} bad, at {hertz:g} Hz ({practice}).{read} Its value and its leakage at working volts are within limits, and {loss}.",
    "leakage.sheet": "Limit from the data sheet of {ref}.",
    "leakage.tantalum": "Tantalum: the greater of 0.01 CV and 0.5 µA (from memory).",
    "leakage.period": "{rule}, C in µF, V in volts, µA (from memory).",
    "leakage.practice": "{rule}, C in µF, V in volts, µA ({practice}).",
    "leakage.low volts": "A low test voltage can pass a part that breaks down in use; the test must reach {enough:%} % of it ({practice}).",
    "heat": "Over {bad:g} W a can boils, over {watch:g} W it ages ({practice}).",
    "grid": "I R = {leak:A3} × {ohms:ohm3} at {volts:#} V; up to {good:g} V serves, over {bad:g} V the operating point shifts ({practice}).",
    "insulation.make": "The limit of R × C depends on the dielectric.",
    "insulation": "R × C: {make} serves from about {good:g} MΩ·µF and is replaced under {bad:g}{small} ({practice}, from memory).",
    "measure": "ESR says nothing about leakage, and leakage says nothing about ESR: each is measured.",
    "can.mate": "The sections of a can share seal, age and electrolyte ({practice}).",
    "can.heat": "Its sections together: over {bad:g} W a can boils, over {watch:g} W it ages ({practice}).",
    "resistor.limits": "Limits {low:ohm} to {high:ohm}.",
    "resistor": "Limits {low:ohm} to {high:ohm}, {whose}.",
    "resistor.watch": "Limits {low:ohm} to {high:ohm}, {whose}. Up to twice that serves here ({practice}).",
    "resistor.hot": "Limit {high:ohm}, warm as in use.",
    "resistor.climbs": "Carbon composition that rises over {warms:%} % in ten minutes ({practice}).",
    "in circuit": "Nodal analysis of the circuit with every part at its limits (Rayleigh's monotonicity law). Parallel paths can only lower the reading.",
    "in circuit.over": "Above {high:ohm}. Parallel paths can only lower the reading, so this part is high.",
    "in circuit.alone": "A reading in circuit is trusted only when it is too high; too low may be a parallel path.",
})  # fmt: skip
# What would change it.
CHANGES = Sentences({
    "none": "No reading would change this.",
    "another": "A better one.",
    "otherwise": "A reading that says otherwise.",
    "tell": "That test.",
    "mains": "No reading would change this: only a safety-class capacitor may stay.",
    "meter": "A better meter, or another reading.",
    "policy.capacitor": "The policy decides this, not a reading. Choose “test and keep” to test it instead.",
    "policy.resistor": "The policy decides this, not a reading. Choose “measure each” to test it instead.",
    "value.lifted": "With one end lifted, a reading from {low:{unit}} to {high:{unit}}.",
    "value.inside": "A value from {low:{unit}} to {high:{unit}}.",
    "value.outside": "A value outside {low:{unit}} to {high:{unit}}.",
    "leakage.working": "Its leakage at its working voltage.",
    "loss.make": "Electrolytic, paper, film, mica or ceramic.",
    "loss.under": "D under {good:g} at {hertz:g} Hz.",
    "loss.over": "D over {good:g}.",
    "loss.read": "D read near {hertz:g} Hz.",
    "loss.meter": "A better meter. D under {good:g} at {hertz:g} Hz.",
    "leakage.needed": "Leakage at {needed:#} V or more.",
    "leakage.above": "Leakage over the limit, or heat.",
    "leakage.meter": "A longer dwell, or a better meter.",
    "leakage.early": "The same reading after 2 min: leakage falls while the oxide reforms.",
    "leakage.reform": "A reforming run that brings it under the limit.",
    "leakage.policy": "A policy that reforms.",
    "heat": "Under {amperes:A2} at {volts:#} V.",
    "grid.under": "Under {stays:A2} it could stay.",
    "grid.over": "Over {stays:A2}.",
    "insulation.make": "Paper, film, mica or ceramic.",
    "insulation.under": "{serves:A2} or less at {volts:#} V.",
    "insulation.over": "Over {serves:A2} at {volts:#} V.",
    "measure.first": "Those readings.",
    "measure.leakage": "That reading.",
    "can.mate": "If {bad} passes.",
    "can.heat": "Under {watch:g} W in all.",
    "resistor.lifted": "A reading with one end lifted.",
    "resistor.inside": "A reading from {low:ohm} to {high:ohm}.",
    "resistor.outside": "A reading outside {low:ohm} to {high:ohm}.",
    "resistor.meter": "A meter good to ±{needed:#2} %, or another reading.",
    "resistor.another": "Another reading: this one is on the limit itself.",
    "resistor.watch": "If its value decides the accuracy, or it is twice as far out.",
    "resistor.hot": "A warm reading within the limits.",
    "resistor.climbs": "A rise under {warms:%} %.",
    "in circuit.none": "No reading in circuit would change this.",
    "marked.inside": "A value within.",
    "marked.outside": "A value outside.",
})  # fmt: skip
# What a new part must be, what stands against one, and what there is to say of one that is proposed.
PROPOSED = Sentences({
    **PHRASES,
    "needs.chassis": "Line to chassis: class Y2, {most:F2} at most on {line}; local codes come first.",
    "needs.across": "Across the line: class X2; local codes come first.",
    "needs.open circuit": "Rated against {volts:#} V, what this rail reaches before the tubes draw current.",
    "needs.as old": "Rated as the old one, {volts:#} V: the most it may see in this circuit is not known.",
    "needs.paper": "Is it really paper? Some moulded ceramics and micas look alike: check before you cut.",
    "needs.oil": "Old oil may hold PCB: wear gloves, do not open it, and take it to hazardous waste as your rules say.",
    "needs.foil": "Outer foil to the low-impedance side, the plate, away from the grid.",
    "needs.two": "Over {volts:#} V: two of twice the value in series, each with an equalising resistor across it.",
    "against.value": "{value:{unit}} is outside: {low:{unit}} to {high:{unit}} serves",
    "against.safety": "it must be of class {safety}: it touches the mains",
    "against.heat": "it should stand {celsius:#} °C",
    "against.make": "{make} is wanted",
    "against.volts": "{volts:#} V is under the {wanted:#} V it must stand",
    "against.no volts": "its voltage rating is not known; it must stand {wanted:#} V",
    "against.watts": "{watts:W} is under the {wanted:W3} it must stand",
    "against.no watts": "its power rating is not known; it must stand {wanted:W3}",
    "serves": "It serves.",
    "equalise": "An equalising resistor across each.",
    "stock": "{count} in stock.",
    "stock.same": "{count} in stock: the same again.",
    "order": "To order.",
    "order.same": "To order: the same again, or an equivalent you know.",
    "order.two": "To order. Two in series.",
    "split": "{count} in series, {volts:#3} V each.",
    "nearer": "Made of several it comes nearer.",
    "spare": "{volts:#} V for {stands:#3} V: {spare:%2} % to spare.",
    "spare each": "{volts:#} V for {stands:#3} V each: {spare:%2} % to spare.",
    "spare.none": "{volts:#} V for {stands:#3} V: nothing to spare.",
    "value.own": "Its own value.",
    "value.of nominal": "{off:+%0} % from nominal{effect}.",
    "value.fine": "{off:+%1} % from nominal{effect}.",
})  # fmt: skip
POLICIES = {
    Sight.REPLACE: "Every paper capacitor is replaced, measured or not: moisture got in decades ago, and it will fail.",
    Sight.TEST: "Only parts that fail are replaced; the instrument stays as it was made. Leakage at voltage decides, not looks.",
    Electrolytics.REFORM: "Electrolytics are reformed: the voltage is raised slowly while the leakage falls, then each is judged.",
    Electrolytics.REPLACE: "Old electrolytics are not trusted. “Replace on sight” replaces them all; otherwise each leaky one is replaced now.",
    Resistors.ALL: "Every composition resistor is replaced, measured or not: they keep drifting. Wirewound and film stay.",
    Resistors.TEST: "Each is measured, lifted or in circuit, against its tolerance: what is good stays.",
}  # fmt: skip


def say_reason(reason: Reason) -> str:
    """Say in a few words what speaks for an action: the consequence, or where it stands to its limit."""
    said = FOUND.say(reason.found, reason.figures)
    return f"{said}; the reading is from the simulated tester and is no evidence" if reason.simulated else said


def say_rule(reason: Reason) -> str:
    """Say whose limit it is, and why."""
    return RULES.say(reason.rule, reason.figures)


def say_change(reason: Reason) -> str:
    """Say what would change it."""
    return CHANGES.say(reason.change, reason.figures)


def say_verdict(verdict: PartVerdict | None) -> str:
    """Say the deciding reason in a few words; nothing of none."""
    return say_reason(verdict.reasons[0]) if verdict is not None else ""


def say_measured(part: Part, m: Measured) -> str:
    """Return what was measured in one line: ``18.4 µF · 6.1 Ω · 2.9 mA at 400 V``."""
    words: list[str] = [m.state] if m.state else []
    if m.value is not None:
        where = " in circuit" if m.in_circuit else ""
        cold = " cold" if m.warm_value is not None else ""
        words.append(f"{engineering(m.value, part.unit or '1')}{cold}{where}")
    if m.warm_value is not None:
        words.append(f"{engineering(m.warm_value, part.unit)} warm")
    at = f" at {engineering(m.hertz, 'Hz')}" if m.hertz else ""
    if m.esr is not None:
        words.append(f"ESR {engineering(m.esr, 'ohm', 3)}{at}")
    elif m.dissipation is not None:
        words.append(f"D {trimmed(m.dissipation, 3)}{at}")
    if m.leakage is not None:
        simulated = " (simulated)" if m.simulated else ""
        words.append(f"{engineering(m.leakage, 'A', 3)} at {trimmed(m.leakage_volts)} V{simulated}")
    if m.reformed:
        words.append("reformed" if m.reformed == "came back" else f"reforming: {m.reformed}")
    return " · ".join(words) or "not measured"


def say_how_sure(m: Measured) -> str:
    """Say how well what was measured is known; nothing where there is nothing to say."""
    if m.nothing:
        return "Not measured yet."
    shares = [f"value to ±{trimmed(100 * m.value_share, 2)} %"] if m.value is not None else []
    shares += [f"leakage to ±{trimmed(100 * m.leakage_share, 2)} %"] if m.leakage is not None else []
    if not shares:
        return ""
    what = " and ".join(sorted(m.assumed, reverse=True))
    taken = (
        f"; you gave no uncertainty for the {what}, so it is taken as usual for a bench meter"
        if what
        else ", as stated"
    )
    return f"{' and '.join(shares).capitalize()} (k\u00a0=\u00a02){taken}."


def say_moved(before: Mapping[str, PartVerdict], after: Mapping[str, PartVerdict]) -> str:
    """Say which parts are judged otherwise now: ``3 now “replace”: C4, C7, C9; 1 now “keep”: C2.``"""
    said = []
    for action, refs in moved_verdicts(before, after).items():
        more = f" and {len(refs) - NAMED} more" if len(refs) > NAMED else ""
        said.append(f"{len(refs)} now “{action}”: {', '.join(refs[:NAMED])}{more}")
    return f"{'; '.join(said)}." if said else "No verdict on a part changes."


def say_proposal(proposal: Proposal) -> str:
    """Say what there is to say of a part that may go in: where it is, what it does, what stands against it."""
    faults = [PROPOSED.of(f) for f in proposal.found if f.kind.startswith("against.")]
    rest = [PROPOSED.of(f) for f in proposal.found if not f.kind.startswith("against.")]
    return " ".join(([f"Mind: {'; '.join(faults)}."] if faults else []) + rest)


def say_needs(wanted: Needs) -> tuple[str, ...]:
    """Say what to mind when a new part goes in."""
    return tuple(PROPOSED.of(note) for note in wanted.notes)
