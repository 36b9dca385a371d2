"""What may go in a part's place: the window that serves its circuit, the rating, heat and safety class it needs.

Windows, the 105 °C and the standard ratings are common practice, no source; class X and Y are of IEC 60384-14.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from dataclasses import replace

from candor.core.combine.preferred import nearest
from candor.core.combine.trims import NEW_RESISTOR_VOLTS, split_resistor
from candor.core.finding import Figure, Finding
from candor.core.late_dataclass import dataclass
from candor.core.leakage.capacitor import corner_hertz
from candor.core.parts.component import OnHand
from candor.core.parts.mains import WORSE, Mains, most_to_chassis
from candor.core.parts.part import VALUED, Make, Part
from candor.core.severity import Severity

CAPACITOR_VOLTS = (16, 25, 35, 50, 63, 100, 160, 200, 250, 350, 400, 450, 630, 1000, 1600, 2000)
ELECTROLYTIC_MOST = 450.0  # V: above it two in series
LITTLE_SPARE = 1.1  # a rating less than a tenth above what stands there is worth a word; common practice, no source
NOTHING_SPARE = 0.005  # less than half a per cent is nothing
SERIES_SPARE = 1.1  # capacitors in series are unlike: a tenth more rating
OWN, COARSE = 5e-4, 0.02  # of its value: no difference; one that is said in whole per cent
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
    notes : tuple of Finding
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
    notes: tuple[Finding, ...]


@dataclass(frozen=True)
class Proposal:
    """What would serve: `count` of a piece, in series where there are more; without a key it is to be ordered.

    `found` is what there is to say of it, in order; `minds` where something stands against it.
    """

    piece: OnHand
    found: tuple[Finding, ...]
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
    low = part.nominal * (1 - below)
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
        most = most_to_chassis(mains)
        value, low, high = min(value, most), min(low, most / 3), min(high, most)
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
        notes=tuple(_notes(part, mains, safety, make)),
    )


def _notes(part: Part, mains: Mains | None, safety: str, make: str) -> Iterator[Finding]:
    """Yield what to mind when a capacitor of some make goes in."""
    if safety == "Y2":
        line = Finding("line.known" if mains else "line.worse", {"line": (mains or WORSE).words})
        yield Finding("needs.chassis", {"most": most_to_chassis(mains), "line": line})
    elif safety:
        yield Finding("needs.across")
    if part.no_load_volts:
        yield Finding("needs.open circuit", {"volts": part.no_load_volts})
    elif part.volts > part.volts_across and not safety:
        yield Finding("needs.as old", {"volts": part.volts})
    if part.make == "paper":
        yield Finding("needs.paper")
    if "oil" in part.note:
        yield Finding("needs.oil")
    if part.role == "coupling" and make == "film":
        yield Finding("needs.foil")
    if make == "electrolytic" and part.needed_volts > ELECTROLYTIC_MOST:
        yield Finding("needs.two", {"volts": ELECTROLYTIC_MOST})


def _window(part: Part) -> tuple[float, float]:
    if part.kind == "resistor" or part.role in ("timing", "divider"):
        return part.tolerance
    # Down a tenth and up half: a filter may grow as far as its rectifier bears it. One on the mains must not: with it grows the
    # current through whoever touches the chassis. Elsewhere, as capacitors of the time were made (+50 %, and often more).
    return {"filter": (0.1, 0.5), "mains": (0.5, 0.2)}.get(part.role, (0.2, 0.5))


def against(item: OnHand, wanted: Needs, unit: str) -> tuple[Finding, ...]:
    """Return what stands against a piece; nothing where its value, rating, heat and safety class are known and enough.

    `unit` is that of its value, ohm or F.
    """
    found = []
    if not wanted.low * (1 - 1e-9) <= item.value <= wanted.high * (1 + 1e-9):
        figures: dict[str, Figure] = {"value": item.value, "low": wanted.low, "high": wanted.high, "unit": unit}
        found.append(Finding("against.value", figures))
    if wanted.safety and item.safety[:1] not in ("Y", wanted.safety[0]):
        found.append(Finding("against.safety", {"safety": wanted.safety}))
    if item.celsius < wanted.celsius:
        found.append(Finding("against.heat", {"celsius": wanted.celsius}))
    if "electrolytic" in (item.make, wanted.make) and item.make != wanted.make:
        found.append(Finding("against.make", {"make": wanted.make}))
    if item.volts < wanted.volts:
        found.append(
            Finding(
                "against.volts" if item.volts else "against.no volts", {"volts": item.volts, "wanted": wanted.volts}
            )
        )
    if item.watts < wanted.watts:
        found.append(
            Finding(
                "against.watts" if item.watts else "against.no watts", {"watts": item.watts, "wanted": wanted.watts}
            )
        )
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
    found = tuple(faults) or (Finding("serves"), _effect(part, whole))
    if capacitors and chosen.make == "electrolytic":
        found += (Finding("equalise"),)
    return Proposal(chosen, found, number, minds=bool(faults))


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
    found = [Proposal(i, (Finding("stock", {"count": i.count}), _effect(part, i.value))) for i in there[:4]]
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
    figures = {"volts": proposal.piece.volts, "stands": of_each, "spare": spare}
    # Two in series always have a tenth to spare: they are asked for so.
    which = "spare.none" if spare < NOTHING_SPARE else "spare each" if proposal.count > 1 else "spare"
    margin = Finding(which, figures)
    return replace(proposal, found=(*proposal.found, margin), minds=proposal.minds or little)


def _like_for_like(part: Part, on_hand: Iterable[OnHand]) -> tuple[Proposal, ...]:
    """Of what is told apart by its kind, type and value: the same again, on hand or to order."""
    same = OnHand(kind=part.kind, value=part.nominal, type=part.type, volts=part.volts, watts=part.watts)
    there = [
        i for i in on_hand if (i.kind, i.type.casefold(), i.value) == (part.kind, part.type.casefold(), part.nominal)
    ]
    found = [Proposal(i, (Finding("stock.same", {"count": i.count}),)) for i in there[:4]]
    return (*found, Proposal(same, (Finding("order.same"),)))


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
    return Proposal(new, (Finding("order"), _effect(part, value)))


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
    found = [Finding("order")]
    if number > 1:
        found.append(Finding("split", {"count": number, "volts": wanted.volts / number}))
    found.append(_effect(part, number * value))
    if strict and abs(number * value / part.nominal - 1) > max(part.tolerance) / 4:
        found.append(Finding("nearer"))
    return Proposal(
        OnHand(kind="resistor", value=value, tolerance=tolerance, make=wanted.make, volts=volts, watts=watts),
        tuple(found),
        number,
    )


def _two_in_series(part: Part, wanted: Needs) -> Proposal:
    """Two of twice the value, each good for over half the voltage with a tenth to spare for their being unlike."""
    value = nearest(2 * wanted.value, "E6")
    half = SERIES_SPARE * wanted.volts / 2
    volts = next((float(v) for v in CAPACITOR_VOLTS if v >= half), half)
    new = OnHand(kind="capacitor", value=value, make="electrolytic", volts=volts, celsius=wanted.celsius)
    return Proposal(new, (Finding("order.two"), Finding("equalise"), _effect(part, value / 2)), 2)


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


def _effect(part: Part, value: float) -> Finding:
    """What another value does where it goes in."""
    ratio = value / part.nominal
    if abs(ratio - 1) < OWN:
        return Finding("value.own")
    figures: dict[str, Figure] = {"off": ratio - 1, "times": 1 / ratio}
    which = "value.of nominal" if abs(ratio - 1) > COARSE else "value.fine"
    if part.role == "coupling" and part.grid_ohms:
        was = corner_hertz(part.nominal, part.grid_ohms)
        figures["effect"] = Finding("effect.corner", {"was": was, "now": was / ratio})
    else:
        figures["effect"] = Finding("effect.ripple", {"times": 1 / ratio}) if part.role == "filter" else ""
    return Finding(which, figures)
