"""Trace in words: a node, a pair, what resistors and tubes carry, what does not add up and why, where the signal is lost."""

from __future__ import annotations

from collections.abc import Iterable

from candor.core.finding import Finding
from candor.core.quantities import engineering
from candor.core.trace.currents import HALF, NodeSum, ResistorLoad
from candor.core.trace.nodes import NOTHING_V, NodeJudged, Source
from candor.core.trace.pairs import PairJudged, say_ohms
from candor.core.trace.signal import Trail
from candor.notebook.work.job import Job
from candor.words.filling import Sentences

WORTH_SAYING = 0.02  # of a reading, by which the meter must have pulled it down
NEWEST = 3  # unproven changes that are named
SOURCES: dict[Source, str] = {
    "drawing": "by the drawing",
    "calculated": "as calculated from the network",
    "sister": "as on a healthy instrument",
}
TUBES = Sentences({
    "tube.over": "{tube}: the {what} is at {value:{unit}3}, over its {most:{unit}2}{generic}{alone}. Any tube there would be driven too hard: the circuit is at fault.",
    "tube.generic": " (of a {generic}, from memory; its own data sheet comes first)",
    "tube.alone": ", if nothing else is connected to the {what}'s node",
    "tube.screen": "{tube}: the screen is above the plate and takes the current. Is the plate load open?",
    "tube.shared": "{tube}: {amperes:A3} reach {node}, where {also} is connected too: how much of it the {what} takes is not known.",
    "tube.dead": "{tube} draws no current: open cathode, cold heater, or grid bias beyond cut-off.",
    "tube.plate": "the plate takes",
    "tube.both": "plate and screen take",
    "tube.balance": "{tube}: {takes} {total:A3}, the cathode passes {cathode:A3} (± {expanded:A2}). They must be equal: suspect a leaky bypass capacitor or a resistor off its value, or the grid draws the difference.",
})  # fmt: skip


def say_node(found: NodeJudged) -> str:
    """Say what a node is at, V, what the meter took, and how that stands to what it should be."""
    pulled = abs(found.loading) > WORTH_SAYING * abs(found.open_volts) and found.loading
    more = f", the meter pulled it down by {engineering(found.loading, 'V', 2)}" if pulled else ""
    read = f"{found.node} {engineering(found.open_volts, 'V', 4)}{more}"
    if found.expected is None:
        return f"{read}; nothing says what it should be."
    want, where = engineering(found.expected.volts, "V", 3), SOURCES[found.expected.source]
    share = f"{100 * found.expected.share:.0f} %"
    if found.state == "should be 0":
        return f"{read}: it should be at 0 V {where}."
    if found.state == "as expected":
        return (
            f"{read}: no voltage, {where}."
            if abs(found.expected.volts) <= NOTHING_V
            else f"{read}: within {share} of {want} {where}."
        )
    return f"{read}: {found.state}, {want} ±{share} {where}."


def say_pair(found: PairJudged) -> str:
    """Say what ohms between two nodes mean."""
    between, got, want = f"{found.one} to {found.other}", say_ohms(found.read.ohms), say_ohms(found.expected)
    if found.state == "not quiet":
        stands = engineering(found.read.volts, "V", 2)
        return (
            f"There are {stands} between {found.one} and {found.other}: discharge it first, or the ohms mean nothing."
        )
    if found.state == "differs by direction":
        turned = say_ohms(found.read.turned_ohms or 0.0)
        return f"{got} one way and {turned} the other: a junction, a leaky electrolytic or a charge is between; the higher counts."
    if found.state == "as expected":
        return f"{between}: {got}, expected {want}."
    why = "something is open or high" if found.state == "high" else "something is shorted or low"
    words = f"{between}: {got}, expected {want}: {why}."
    if found.neighbours:
        named = " or ".join(f"{a} to {b}" for a, b in found.neighbours)
        words += f" It is what {named} would read: was a lead on the neighbouring tag?"
    return words


def say_load(load: ResistorLoad) -> str:
    """Say what a resistor carries, its watts against the rating unasked."""
    words = (
        f"{load.name}, if it has its value: {engineering(load.amperes, 'A', 3)}, {engineering(load.watts, 'W', 3)}"
    )
    if not load.rated:
        return f"{words}; its rating is not known."
    rating = engineering(load.rated, "W", 2)
    if load.is_over:
        return f"{words}: over its {rating}."
    return (
        f"{words}: under its {rating}, over half of it."
        if load.watts > HALF * load.rated
        else f"{words} of {rating}."
    )


def say_sum(left: NodeSum) -> str:
    """Say what a node's currents leave over, A, and where to look."""
    names, within = ", ".join(left.names), engineering(left.expanded, "A", 2)
    if left.adds_up:
        return f"{left.node}: {names} add up, within {within}."
    way = "leaves it another way" if left.amperes > 0 else "comes from elsewhere"
    return (
        f"{left.node}: {engineering(abs(left.amperes), 'A', 2)} {way} (± {within}). A capacitor leaks, a part is not drawn, or "
        f"one of {names} is off its value; or a reading is wrong: repeat {left.node} first."
    )


def say_tubes(found: Iterable[Finding]) -> tuple[str, ...]:
    """Say what tubes do against their ratings, and what cannot be."""
    return tuple(TUBES.of(one) for one in found)


def say_trail(found: Trail | None) -> str:
    """Say in one line the cause, the looks that speak for it, and what excluded the others; nothing while it is open."""
    if found is None:
        return ""
    before = f"good behind {', '.join(found.good)}" if found.good else "nothing before it was checked"
    after = f"bad behind {', '.join(found.bad)}" if found.bad else "nothing behind it was checked"
    return f"{found.stage}: {100 * found.probability:.0f} % likely; {before}, {after}."


def say_worsened(job: Job | None) -> str:
    """Say what to suspect when something that worked stopped working: the changes that no check has proven, the newest first."""
    unproven = job.stay.unproven if job is not None else ()
    if not unproven:
        return "Every change was checked after it was made. What was only touched? Jot: disturbed …"
    named = "; ".join(f"entry {e.number}, {e.body.text}" for e in reversed(unproven[-NEWEST:]))
    return f"Suspect first what no check has proven: {named}. Take the newest back, and check again."
