"""What may go in a part's place: the window that serves its circuit, the rating, heat and safety class it needs.

Windows, the 105 °C and the standard ratings are common practice, no source; class X and Y are of IEC 60384-14.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass, replace

from candor.core.combine.preferred import nearest
from candor.core.combine.trims import NEW_RESISTOR_VOLTS, split_resistor
from candor.core.leakage.capacitor import corner_hertz
from candor.core.parts.component import OnHand
from candor.core.parts.mains import Mains, most_to_chassis
from candor.core.parts.part import VALUED, Make, Part
from candor.core.quantities import engineering
from candor.core.quantities.show import signed, trimmed
from candor.core.severity import Severity

CAPACITOR_VOLTS = (16, 25, 35, 50, 63, 100, 160, 200, 250, 350, 400, 450, 630, 1000, 1600, 2000)
ELECTROLYTIC_MOST = 450.0  # V: above it two in series
EQUALISE = "An equalising resistor across each."
LITTLE_SPARE = 1.1  # a rating less than a tenth above what stands there is worth a word; common practice, no source
SERIES_SPARE = 1.1  # capacitors in series are unlike: a tenth more rating
RESISTOR_WATTS = (0.25, 0.5, 1.0, 2.0, 3.0, 5.0, 10.0)
NEW_MAKE: dict[Make, Make] = {
    "electrolytic": "electrolytic",
    "tantalum": "electrolytic",
    "ceramic": "ceramic",
    "mica": "mica",
}


@dataclass(frozen=True)
class Needs:
    """What a new part must be.

    Attributes
    ----------
    value, low, high : float
        F or ohm: wanted, and the window that serves.
    volts, watts, celsius : float
        At least; 0 where nothing is known or needed.
    safety : str
        "X2" or "Y2" where it touches the mains.
    make : str
        What is usual now.
    notes : tuple of str
        What to mind.
    """

    value: float
    low: float
    high: float
    volts: float
    watts: float
    celsius: float
    safety: str
    make: str
    notes: tuple[str, ...]


@dataclass(frozen=True)
class Proposal:
    """What would serve: `count` of a piece, in series where there are more; without a key it is to be ordered.

    `minds` where something stands against it.
    """

    piece: OnHand
    says: str
    count: int = 1
    minds: bool = False

    @property
    def severity(self) -> Severity:
        """How much what it says matters: it asks for care where something stands against it."""
        return Severity.ASK if self.minds else Severity.NOTE

    @property
    def text(self) -> str:
        """How many of what: ``2 x 47 µF 350 V electrolytic 105 °C``."""
        return f"{self.count} x {self.piece.text}" if self.count > 1 else self.piece.text


def needs(part: Part, mains: Mains | None = None) -> Needs:
    """Return what a new part must be, from its role, its rail before the tubes draw, and whether it touches the mains."""
    below, above = _window(part)
    value, high = part.nominal, part.nominal * (1 + above)
    low, notes = part.nominal * (1 - below), []
    make = NEW_MAKE.get(part.make, "film" if part.kind == "capacitor" else "metal film")
    if part.kind == "resistor":
        watts = max(part.watts, 2 * part.volts_across**2 / part.nominal)
        if part.make == "wirewound":
            make = "wirewound"
        return Needs(
            value=value,
            low=low,
            high=high,
            volts=part.volts_across,
            watts=watts,
            celsius=0.0,
            safety="",
            make=make,
            notes=(),
        )
    safety = {"line to chassis": "Y2", "line to line": "X2"}.get(part.mains, "")
    if safety == "Y2":
        most, said = most_to_chassis(mains)
        value, low, high = min(value, most), min(low, most / 3), min(high, most)
        notes.append(
            f"Line to chassis: class Y2, {engineering(most, 'F', 2)} at most on {said}; local codes come first."
        )
    elif safety:
        notes.append("Across the line: class X2; local codes come first.")
    if part.no_load_volts:
        notes.append(f"Rated against {trimmed(part.no_load_volts)} V, what this rail reaches before the tubes draw.")
    elif part.volts > part.volts_across and not safety:
        notes.append(f"Rated as the old one, {trimmed(part.volts)} V: what it may see at the worst is not known.")
    if part.make == "paper":
        notes.append("Is it really paper? Some moulded ceramics and micas look alike: check before you cut.")
    if "oil" in part.note:
        notes.append("Old oil may hold PCB: gloves, do not open it, to hazardous waste as your rules say.")
    if part.role == "coupling" and make == "film":
        notes.append("Outer foil to the low-impedance side, the plate, away from the grid.")
    if make == "electrolytic" and part.needed_volts > ELECTROLYTIC_MOST:
        notes.append("Over 450 V: two of twice the value in series, each with an equalising resistor across it.")
    celsius = 105.0 if make == "electrolytic" else 0.0
    return Needs(
        value=value,
        low=low,
        high=high,
        volts=0.0 if safety else part.needed_volts,
        watts=0.0,
        celsius=celsius,
        safety=safety,
        make=make,
        notes=tuple(notes),
    )


def _window(part: Part) -> tuple[float, float]:
    if part.kind == "resistor" or part.role in ("timing", "divider"):
        return part.tolerance
    # Down a tenth and up half: a filter may grow as far as its rectifier bears it. One on the mains must not: with it grows the
    # current through whoever touches the chassis. Elsewhere, as capacitors of the time were made (+50 %, and often more).
    return {"filter": (0.1, 0.5), "mains": (0.5, 0.2)}.get(part.role, (0.2, 0.5))


def against(item: OnHand, wanted: Needs, unit: str) -> tuple[str, ...]:
    """Return what stands against a piece; nothing where its value, rating, heat and safety class are known and enough.

    `unit` is that of its value, ohm or F.
    """
    found = []
    if not wanted.low * (1 - 1e-9) <= item.value <= wanted.high * (1 + 1e-9):
        window = f"{engineering(wanted.low, unit)} to {engineering(wanted.high, unit)} serves"
        found.append(f"{engineering(item.value, unit)} is outside: {window}")
    if wanted.safety and item.safety[:1] not in ("Y", wanted.safety[0]):
        found.append(f"it must be of class {wanted.safety}: it touches the mains")
    if item.celsius < wanted.celsius:
        found.append(f"it should stand {trimmed(wanted.celsius)} °C")
    if "electrolytic" in (item.make, wanted.make) and item.make != wanted.make:
        found.append(f"{wanted.make} is wanted")
    if item.volts < wanted.volts:
        rated = f"{trimmed(item.volts)} V" if item.volts else "a rating that is not said"
        found.append(f"{rated} is under the {trimmed(wanted.volts)} V it must stand")
    if item.watts < wanted.watts:
        rated = engineering(item.watts, "W") if item.watts else "a power rating that is not said"
        found.append(f"{rated} is under the {engineering(wanted.watts, 'W', 3)} it must stand")
    return tuple(found)


def serves(item: OnHand, wanted: Needs) -> bool:
    """Say whether a piece on hand serves: there, and nothing stands against it."""
    return item.count >= 1 and not against(item, wanted, "")


def own(part: Part, chosen: OnHand, mains: Mains | None = None) -> Proposal:
    """Return a piece of one's own choice as a proposal, with what stands against it; several of them stand in series."""
    wanted, number = needs(part, mains), chosen.count
    capacitors = part.kind == "capacitor" and number > 1
    whole = chosen.value / number if part.kind == "capacitor" else chosen.value * number
    volts = chosen.volts * number / (SERIES_SPARE if capacitors else 1.0)
    faults = against(replace(chosen, value=whole, volts=volts, watts=chosen.watts * number), wanted, part.unit)
    says = f"Mind: {'; '.join(faults)}." if faults else f"It serves. {_effect(part, whole)}"
    says += f" {EQUALISE}" if capacitors and chosen.make == "electrolytic" else ""
    return Proposal(chosen, says, number, minds=bool(faults))


def propose(part: Part, on_hand: Iterable[OnHand], mains: Mains | None = None) -> tuple[Proposal, ...]:
    """Return what would serve: pieces on hand, the nearest first, and last the one to order.

    Raises
    ------
    RangeError
        Where a value or a voltage of the part cannot be.
    """
    if part.kind not in VALUED:
        return _like_for_like(part, on_hand)
    wanted = needs(part, mains)
    there = [item for item in on_hand if serves(item, wanted)]
    there.sort(key=lambda i: (abs(math.log(i.value / wanted.value)), i.volts, i.watts))
    found = [Proposal(i, f"{i.count} in stock. {_effect(part, i.value)}".strip()) for i in there[:4]]
    return tuple(_with_margin(p, _stands(part)) for p in (*found, _to_order(part, wanted)))


def _stands(part: Part) -> float:
    """What a capacitor must stand, V, as far as it is known: the rail before the tubes draw, else what is drawn across it."""
    return part.no_load_volts or part.volts_across if part.kind == "capacitor" and not part.mains else 0.0


def _with_margin(proposal: Proposal, stands: float) -> Proposal:
    """A capacitor says by how much its rating is above what it must stand; where that is little, it asks for care."""
    if not stands or not proposal.piece.volts:
        return proposal
    of_each = stands / proposal.count
    spare = proposal.piece.volts / of_each - 1
    little = spare < LITTLE_SPARE - 1 - 1e-9
    each = " each" if proposal.count > 1 else ""
    words = f"{trimmed(proposal.piece.volts)} V for {trimmed(of_each, 3)} V{each}: "
    words += f"{100 * spare:.0f} % to spare" if spare >= 0.005 else "nothing to spare"
    return replace(proposal, says=f"{proposal.says} {words}.", minds=proposal.minds or little)


def _like_for_like(part: Part, on_hand: Iterable[OnHand]) -> tuple[Proposal, ...]:
    """Of what is told apart by its kind, type and value: the same again, on hand or to order."""
    same = OnHand(kind=part.kind, value=part.nominal, type=part.type, volts=part.volts, watts=part.watts)
    there = [
        i for i in on_hand if (i.kind, i.type.casefold(), i.value) == (part.kind, part.type.casefold(), part.nominal)
    ]
    found = [Proposal(i, f"{i.count} in stock: the same again.") for i in there[:4]]
    return (*found, Proposal(same, "To order: the same again, or an equivalent you know."))


def _to_order(part: Part, wanted: Needs) -> Proposal:
    if part.kind == "resistor":
        return _resistor(part, wanted)
    if wanted.make == "electrolytic" and wanted.volts > ELECTROLYTIC_MOST:
        return _two_in_series(part, wanted)
    value = _standard_value(part, wanted)
    volts = _rating(wanted, _stands(part)) if wanted.volts else 0.0
    new = OnHand(
        kind="capacitor", value=value, make=wanted.make, volts=volts, safety=wanted.safety, celsius=wanted.celsius
    )
    return Proposal(new, f"To order. {_effect(part, value)}".strip())


def _rating(wanted: Needs, stands: float) -> float:
    """The lowest usual rating with a tenth to spare; of an electrolytic that has none so high, the lowest that stands it."""
    usual = [float(v) for v in CAPACITOR_VOLTS if wanted.make != "electrolytic" or v <= ELECTROLYTIC_MOST]
    spare = [v for v in usual if v >= LITTLE_SPARE * stands]
    return next((v for v in (*spare, *usual) if v >= wanted.volts), wanted.volts)


def _resistor(part: Part, wanted: Needs) -> Proposal:
    """One, or as many equal ones in series as carry the voltage between them."""
    film, strict = wanted.make == "metal film", part.role in ("divider", "timing")
    number, value = 1, _standard_value(part, wanted)
    if film and wanted.volts > NEW_RESISTOR_VOLTS:
        number, value = split_resistor(
            value=wanted.value, low=wanted.low, high=wanted.high, volts=wanted.volts, rating=NEW_RESISTOR_VOLTS
        )
    least = max(wanted.watts / number, 0.5)
    watts = next((w for w in RESISTOR_WATTS if w >= least), least)
    volts, tolerance = NEW_RESISTOR_VOLTS if film else 0.0, 0.01 if film or strict else 0.05
    split = f"{number} in series, {trimmed(wanted.volts / number, 3)} V each. " if number > 1 else ""
    far = strict and abs(number * value / part.nominal - 1) > max(part.tolerance) / 4
    nearer = " Made of several it comes nearer." if far else ""
    says = f"To order. {split}{_effect(part, number * value)}{nearer}".strip()
    return Proposal(
        OnHand(kind="resistor", value=value, tolerance=tolerance, make=wanted.make, volts=volts, watts=watts),
        says,
        number,
    )


def _two_in_series(part: Part, wanted: Needs) -> Proposal:
    """Two of twice the value, each good for over half the voltage with a tenth to spare for their being unlike."""
    value = nearest(2 * wanted.value, "E6")
    half = SERIES_SPARE * wanted.volts / 2
    volts = next((float(v) for v in CAPACITOR_VOLTS if v >= half), half)
    new = OnHand(kind="capacitor", value=value, make="electrolytic", volts=volts, celsius=wanted.celsius)
    return Proposal(new, f"To order. Two in series. {EQUALISE} {_effect(part, value / 2)}", 2)


def _standard_value(part: Part, wanted: Needs) -> float:
    """The coarsest series that has a value in the window, the nearest of it to what is wanted."""
    for series in ("E6", "E12", "E24", "E96", "E192"):
        value = nearest(wanted.value, series)
        # A resistor within 2 %: the place was drawn for its value, and finer series cost nothing.
        if wanted.low * (1 - 1e-9) <= value <= wanted.high * (1 + 1e-9) and (
            part.kind == "capacitor" or abs(value / wanted.value - 1) < 0.02
        ):
            return value
    return nearest(wanted.value, "E192")


def _effect(part: Part, value: float) -> str:
    ratio = value / part.nominal
    if abs(ratio - 1) < 5e-4:
        return "Its own value."
    shown = f"{signed(100 * (ratio - 1), 0 if abs(ratio - 1) > 0.02 else 1)} % of nominal"
    if part.role == "coupling" and part.grid_ohms:
        was = corner_hertz(part.nominal, part.grid_ohms)
        return (
            f"{shown} moves the low corner from {engineering(was, 'Hz', 2)} to {engineering(was / ratio, 'Hz', 2)}."
        )
    if part.role == "filter":
        return f"{shown}: ripple {trimmed(1 / ratio, 2)} times."
    return f"{shown}."
