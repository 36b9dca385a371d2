"""Tubes in words: the verdict of a figure, what comes first, balance, what a kind bears."""

from __future__ import annotations

from collections.abc import Collection

from candor.core.quantities import engineering, pair
from candor.core.quantities.show import trimmed
from candor.core.tubes.held_line import AtLine, HeldLine
from candor.core.tubes.matching import BALANCE, Balance
from candor.core.tubes.order import OutOfOrder
from candor.core.tubes.ratings import TubeKind
from candor.core.tubes.sag import LineSource, line_source, sag_of
from candor.core.tubes.tester_reading import TubeVerdict
from candor.core.verdict.rules import Outcome
from candor.notebook.entries.tubes_entries import LineSag

PER_WATTS = 10.0  # in a socket: what a line is said to fall by


def say_balance(found: Balance) -> str:
    """Say how far the sections of a tube differ, and what that is."""
    said = {True: "that is balanced", False: "that is out of balance", None: "whether it is balanced cannot be told"}
    words = f"Its sections differ by {100 * found.share:.1f} ± {100 * found.expanded:.1f} % of their mean"
    return f"{words}: {said[found.within]} (up to {100 * BALANCE:g} %: common practice, no source)."


def say_doubted(names: Collection[str]) -> str:
    """Say that known tubes contradict each other and that nobody can say which is wrong; nothing of none."""
    if not names:
        return ""
    return f"{', '.join(names)} and the others contradict each other. So few cannot say which is wrong: measure another known tube."


def ask_for_dashes(type_: str, tester: str) -> str:
    """Say what is done with the first tube of a type on a tester, so that what its controls are worth need not be assumed."""
    return (
        f"What a dash of a control is worth for {type_} on {tester} is not known. While it sits there: turn the bias one dash up, read, "
        "one dash down, read, and back; the same with the line mark. Write it below as bias up … down …"
    )


def say_out_of_order(found: OutOfOrder) -> str:
    """Say why a test does not come now."""
    title = found.test.title
    if found.why == "ended":
        return f"It failed {title.lower()}: do not put it on a tester again."
    if found.why == "before":
        return f"{title} comes first: {found.test.ask}"
    return f"{title} is not a test of this kind of tube."


def say_tube_verdict(found: TubeVerdict) -> str:
    """Say per cent of nominal with its U, the reject level, and what that makes of the tube."""
    by = f" by {found.whose}" if found.whose else ""
    percent = f"{found.percent:.0f} ± {found.expanded:.0f} % of nominal"
    if not found.reject:
        return f"{percent}{by}: cannot tell, no reject level is given; 60 to 70 % is customary (common practice, no source)."
    words = {Outcome.PASS: "good", Outcome.FAIL: "weak"}.get(found.outcome, "cannot be told from the reject level")
    return f"{percent}, reject below {found.reject:.0f} %{by}: {words}."


def say_kind(kind: TubeKind) -> str:
    """Say what a kind of tube bears, from memory and rounded down."""
    screen = f", screen {kind.screen_volts:g} V and {kind.screen_watts:g} W" if kind.screen_volts else ""
    watts = f" and {kind.plate_watts:g} W" if kind.plate_watts else ""
    first = f", first capacitor at most {engineering(kind.first_farads, 'F')}" if kind.first_farads else ""
    return f"{kind.name}: plate {kind.plate_volts:g} V{watts}{screen}{first} (of the kind, from memory; its own sheet rules)"


def say_sag(tester: str, source: LineSource, watts: float = PER_WATTS) -> str:
    """Say what stands behind the line of a tester, ohm, and what a tube of so many W makes of it and of its reading."""
    sag = sag_of(source, watts)
    behind = f"Behind the line of {tester}: {pair(source.ohms, 2 * source.u_ohms, 'ohm').lstrip('+')}."
    (gm, u), (emission, _) = sag.lost("gm"), sag.lost("emission")
    falls = f"Each {trimmed(watts)} W in its socket pulls it down by {100 * sag.fall:.1f} %"
    return f"{behind} {falls}: set it anew with the tube in, or gm reads {100 * gm:.1f} % (± {100 * u:.1f} %) low, emission {100 * emission:.1f} %."


def say_line_log(volts: float | None, fault: str, held: HeldLine | None, simulated: bool = False) -> str:
    """Say what a line does as it is logged, and the newest press of the button in it."""
    now = f"{volts:.1f} V now." if volts is not None else f"Not known: {fault}."
    if held is None:
        return f"{now} No press of the button stands out yet."
    goes = "it is invented and goes into no test" if simulated else "it goes with the next figure that is written"
    for_s = f"for {trimmed(held.held_s, 2)} s" if held.released else "still"
    return f"{now} {say_held_line(held)}, held {for_s}: {goes}."


def say_held_line(held: HeldLine) -> str:
    """Say how far a line fell while a button was held."""
    fall = pair(held.fall, 2 * held.u_fall, "V").removeprefix("+")
    return f"From {held.before_volts:.1f} V it fell by {fall} while the button was held"


def say_held_reading(held: HeldLine | None, reading: AtLine | None, unit: str) -> str:
    """Say how far a line fell while a button was held, and what a figure would have been had it not."""
    if held is None or reading is None:
        return "No press of the button stands out of what this line does by itself: nothing is corrected."
    figure = pair(reading.figure, 2 * reading.u, unit).removeprefix("+")
    by = "as a volt of it was tried" if reading.tried else "by the usual law (common practice, no source)"
    return f"{say_held_line(held)}. At the line before it: {figure}, of the line alone, {by}."


def held_json(held: HeldLine | None, reading: AtLine | None) -> dict[str, object]:
    """Return the same as values: V, s, and in the unit of the figure; None where no press stands out."""
    if held is None or reading is None:
        return {"press": None, "sentence": say_held_reading(None, None, "")}
    press = {"before": held.before_volts, "held": held.held_volts, "U_fall": 2 * held.u_fall, "seconds": held.held_s}
    return {
        "press": {**press, "released": held.released},
        "figure": reading.figure,
        "U": 2 * reading.u,
        "tried": reading.tried,
    }


def say_line_sag(sag: LineSag) -> str:
    """Say it from what was read: its line empty and with one tube in."""
    return say_sag(sag.tester, line_source(sag.empty_volts, sag.loaded_volts, sag.watts))
