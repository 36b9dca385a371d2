"""Under power in words: what a reading means in its state, what is over a rating, and how safe a rail is afterwards."""

from __future__ import annotations

from collections.abc import Iterable

from candor.core.finding import Finding
from candor.core.power.danger_words import danger_now_in
from candor.core.power.safe import Safety
from candor.core.power.watch import Watched
from candor.notebook.power.alarms import Alarm
from candor.words.filling import Sentences

PLUG_OUT = "Plug out, or the bench switch if it is nearer."
WATCHED = Sentences({
    "watch.in band": "{name} {value:{unit}}, within {low:{unit}3} to {high:{unit}3}.",
    "watch.outside": "{name} {value:{unit}}: {state}, expected {low:{unit}3} to {high:{unit}3} in this state.",
    "watch.turned": "{name} {value:{unit}}: with the opposite sign it would be within {low:{unit}3} to {high:{unit}3}. Check the leads and the sign.",
    "watch.dead": "{name} {value:{unit}}: it has not come up, expected {low:{unit}3} to {high:{unit}3}. Plug out, and find out why.",
    "watch.cut": "{name} {value:{unit}} is beyond {beyond:{unit}3}{why}. Plug out.",
    "watch.why": ": {why}",
    "watch.no band": "{name} {value:{unit}}; this state gives no band for it.",
    "watch.unread": "{name}: not read yet",
    "watch.unread here": "{name}: not read yet in this state",
    "watch.fault": "{name} is unknown: {fault}",
    "watch.creep": "The watts climb at a constant line: {slope:#2} ± {u:#1} W a minute, {rise:#2} W in {minutes:#2} min. Leakage is growing somewhere. Plug out, and feel what is warm.",
})  # fmt: skip
OVER = Sentences({
    "alarm.rail": "{name} {volts:V} is over the {rated:#} V its capacitor is rated for.",
    "alarm.node": "Node {node} {volts:V}: {across:V} across {part}, over its {rated:#} V rating.",
    "alarm.words": "“{words}”, with the line on.",
    "alarm.elsewhere": "“{words}”, and another job on the bench is live.",
    "alarm.may be on": "“{words}”, and nobody said that the line is off.",
    "over.drawn": "{name} is drawn at {volts:#} V, and its capacitor is rated for {rated:#} V",
    "over.capacitor": "capacitor {number} of the filter sees {volts:.} V before the tubes draw current, at +10 % line, over {bears:.} V: {why}",
    "over.rating": "its rating, as it was not measured good",
    "over.surge": "its surge rating for half a minute",
    "over.rail": "{name} reaches {volts:.} V before the tubes draw current, at +10 % line, over {bears:.} V",
})  # fmt: skip
AFTER = Sentences({
    "after.on": "Pull the plug: a switch may be in the wrong conductor, or leave the transformer live.",
    "after.unknown": "No bleeder is known, so nobody knows how long it holds its charge. Measure it, with a meter that was proved.",
    "after.counting": "The bleeder needs {left:clock} more to bring it under {safe:#} V. Then measure.",
    "after.calculated": "By its bleeder it is under {safe:#} V by now. That is calculated, not measured: measure.",
    "after.over": "{volts:V3} is over {safe:#} V. Discharge it through a resistor and measure again.",
    "after.climbed": "It recovered charge: {volts:V3} is over {safe:#} V. Discharge it through a resistor and measure again.",
    "after.before start": "It was under {safe:#} V when it was measured, before this computer was started. Measure again: the minute begins anew.",
    "after.not proved": "A dead meter reads 0 too. Prove it on something live, then measure again.",
    "after.wait": "Below {safe:#} V. Capacitors recover charge: measure again in {left:clock}.",
    "after.again": "It was below {safe:#} V a minute ago. Measure again: capacitors recover charge.",
    "after.safe": "Measured at {volts:V3}, and still under {safe:#} V after {waited:clock}.",
})  # fmt: skip
BEGIN = Sentences({
    "begin.caution": "Read the caution of “{title}” first: {caution}",
    "begin.left out": "{names} was left out. Begin there, or write why it is not needed.",
    "begin.several left out": "{names} were left out. Begin there, or write why they are not needed.",
})  # fmt: skip


def say_watched(found: Watched | Alarm) -> str:
    """Say what a reading means in its state, or why the plug must come out."""
    return say_alarm(found) if isinstance(found, Alarm) else WATCHED.of(found.found)


def say_alarm(alarm: Alarm) -> str:
    """Say what must be known at once, and that the plug must come out where the line is on."""
    return f"{OVER.of(alarm.found)} {PLUG_OUT if alarm.plug_out else ''}".strip()


def say_heard(text: str) -> str:
    """Say what a line of smoke means where no job is in hand that it could be written in; nothing for any other line."""
    return (
        f"“{text.strip()}”: {PLUG_OUT[0].lower()}{PLUG_OUT[1:]} Then open the job, and enter it there."
        if danger_now_in(text)
        else ""
    )


def say_creep(found: Finding | None) -> str:
    """Say how fast the watts climb at a constant line; nothing where they do not."""
    return WATCHED.of(found) if found is not None else ""


def say_over(found: Iterable[Finding]) -> tuple[str, ...]:
    """Say what is known before power to pass a capacitor's rating."""
    return tuple(OVER.of(one) for one in found)


def say_safety(safety: Safety) -> str:
    """Say how safe a rail is after power, and what to do."""
    return AFTER.of(safety.found)


def say_may_begin(found: Finding | None) -> str:
    """Say why a state may not be begun yet; nothing where it may."""
    return BEGIN.of(found) if found is not None else ""
