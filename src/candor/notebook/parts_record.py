"""What a job's entries say of its parts."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from types import MappingProxyType

from candor.core.parts.capacitor import LOSSES, dissipation_from_esr
from candor.core.parts.part import Measured, Part
from candor.core.parts.policy import Policy
from candor.notebook.body import Body
from candor.notebook.entry import Entry
from candor.notebook.part_entries import (
    CircuitTaken,
    PartDecided,
    PartListed,
    PartMeasured,
    PolicyChosen,
    PriceAgreed,
    ReplacementChosen,
    RunEnded,
    RunStarted,
    Spent,
)

USUAL_SHARE = 0.01  # of a value on a bench meter, k = 2, where nothing was said
USUAL_LEAKAGE_SHARE = 0.05


@dataclass(frozen=True)
class Run:
    """A run on the tester, and how it ended; None while it runs, or where it was cut off."""

    started: Entry
    ended: Entry | None = None


@dataclass(frozen=True)
class PartsRecord:
    """The entries about parts that count, by designator; `stamp` holds the numbers of all of them."""

    stamp: tuple[int, ...] = ()
    listed: Mapping[str, Entry] = field(default_factory=dict)
    circuit: Entry | None = None
    measured: Mapping[str, tuple[Entry, ...]] = field(default_factory=dict)
    policy: Policy = field(default_factory=Policy)
    policy_entry: int = 0
    decided: Mapping[str, Entry] = field(default_factory=dict)
    replacements: Mapping[str, Entry] = field(default_factory=dict)
    replaced: Mapping[str, Entry] = field(default_factory=dict)
    runs: tuple[Run, ...] = ()
    spent: tuple[Entry, ...] = ()
    agreed: float = 0.0
    an_hour: float = 0.0

    @property
    def minutes(self) -> float:
        """Time spent, min."""
        return sum(float(e.body.minutes) for e in self.spent)

    @property
    def money(self) -> float:
        """Money written as spent, parts on order left aside."""
        return sum(float(e.body.money) for e in self.spent)

    def cut_off(self) -> tuple[Run, ...]:
        """Return the runs that have no end."""
        return tuple(r for r in self.runs if r.ended is None)


class PartsGathered:
    """What has been gathered of a job's parts so far; lives only while a fold runs."""

    def __init__(self) -> None:
        self.listed: dict[str, Entry] = {}
        self.circuit: Entry | None = None
        self.measured: dict[str, list[Entry]] = {}
        self.policy: Entry | None = None
        self.decided: dict[str, Entry] = {}
        self.replacements: dict[str, Entry] = {}
        self.replaced: dict[str, Entry] = {}
        self.started: dict[str, Entry] = {}
        self.ended: dict[str, Entry] = {}
        self.spent: list[Entry] = []
        self.price: PriceAgreed | None = None
        self.stamp: list[int] = []

    def take(self, entry: Entry) -> None:
        """Take one entry that counts."""
        self.stamp.append(entry.number)
        match entry.body:
            case PartMeasured() as body:
                self.measured.setdefault(body.ref, []).append(entry)
            case PartListed() as body:
                self.listed[body.ref] = entry
            case CircuitTaken():
                self.circuit = entry
            case PolicyChosen():
                self.policy = entry
            case PartDecided() as body:
                if body.action:
                    self.decided[body.ref] = entry
                else:
                    self.decided.pop(body.ref, None)
            case ReplacementChosen() as body:
                if body.lines:
                    self.replacements[body.ref] = entry
                else:
                    self.replacements.pop(body.ref, None)
            case RunStarted():
                self.started[entry.id] = entry
            case RunEnded() as body:
                self.ended[body.run] = entry
                self.measured.setdefault(body.ref, []).append(entry)
            case Spent():
                self.spent.append(entry)
            case PriceAgreed() as body:
                self.price = body
            case _:
                if ref := getattr(entry.body, "part", ""):
                    self.replaced[ref] = entry

    def record(self) -> PartsRecord:
        """Return what was gathered."""
        chosen = self.policy.body if self.policy else PolicyChosen()
        return PartsRecord(
            stamp=tuple(self.stamp),
            listed=MappingProxyType(self.listed),
            circuit=self.circuit,
            measured=MappingProxyType({ref: tuple(found) for ref, found in self.measured.items()}),
            policy=Policy(chosen.sight, chosen.electrolytics, chosen.rule, chosen.safe_volts),
            policy_entry=self.policy.number if self.policy else 0,
            decided=MappingProxyType(self.decided),
            replacements=MappingProxyType(self.replacements),
            replaced=MappingProxyType(self.replaced),
            runs=tuple(Run(e, self.ended.get(key)) for key, e in self.started.items()),
            spent=tuple(self.spent),
            agreed=self.price.agreed if self.price else 0.0,
            an_hour=self.price.an_hour if self.price else 0.0,
        )


def to_part(body: PartListed) -> Part:
    """Return a listed part as the core knows parts."""
    return Part(
        body.ref, body.what, body.nominal, body.make, body.role, body.below, body.above, body.volts, body.watts, body.can,
        body.mains, body.volts_across, body.no_load_volts, body.grid_ohms, ("", "", ""), body.note, body.fitted,
        body.leakage_limit,
    )  # fmt: skip


def listed_from(part: Part, **changes: object) -> PartListed:
    """Return the entry that lists a part as it stands, but for `changes`."""
    return PartListed.model_validate(
        {
            "ref": part.ref, "what": part.kind, "nominal": part.nominal, "make": part.make, "role": part.role, "below": part.below,
            "above": part.above, "volts": part.volts, "watts": part.watts, "can": part.can, "mains": part.mains,
            "volts_across": part.volts_across, "no_load_volts": part.no_load_volts, "grid_ohms": part.grid_ohms,
            "note": part.note, "fitted": part.fitted, "leakage_limit": part.leakage_limit, **changes,
        }
    )  # fmt: skip


def measured_of(part: Part, entries: tuple[Entry, ...]) -> Measured:
    """Fold what was measured on a part: of each figure the newest counts.

    What ESR or D says at the frequency of its limit is for the judge to find: it depends on the frequency it was read at.
    """
    found: dict[str, object] = {}
    numbers: list[int] = []
    stated: set[str] = set()
    for entry in entries:
        numbers.append(entry.number)
        body: Body = entry.body
        if isinstance(body, RunEnded):
            _take_run(found, stated, body)
        elif isinstance(body, PartMeasured):
            _take_measured(found, stated, part, body)
    kept = {"value_share": USUAL_SHARE, "leakage_share": USUAL_LEAKAGE_SHARE, **found}
    assumed = frozenset(name for name in ("value", "leakage") if name in found and f"{name}_share" not in stated)
    return Measured(**kept, assumed=assumed, entries=tuple(numbers))  # type: ignore[arg-type]


def _take_run(found: dict[str, object], stated: set[str], body: RunEnded) -> None:
    if body.readings and body.leakage > 0:
        found.update(leakage=body.leakage, leakage_volts=body.volts, dwell_s=body.dwell_s)
        found["leakage_share"] = max(
            body.expanded / body.leakage, 0.02
        )  # a tester's own 2 %, common practice, no source
        found["simulated"] = body.simulated
        stated.add("leakage_share")
    if body.outcome in ("came back", "no progress"):
        found["reformed"] = body.outcome


def _take_measured(found: dict[str, object], stated: set[str], part: Part, body: PartMeasured) -> None:
    share = body.percent / 100 if body.percent else None
    if body.state:
        found["state"] = body.state
    if body.value is not None:
        found.update(value=body.value, in_circuit=body.in_circuit, state=body.state)
        found.pop("warm_value", None)
        if share:
            found["value_share"] = share
            stated.add("value_share")
    if body.warm is not None:
        found["warm_value"] = body.warm
    if body.dissipation is not None:
        found.update(dissipation=body.dissipation, esr=None, hertz=body.hertz)
    elif body.esr is not None:
        value = found.get("value")
        farads = value if isinstance(value, float) else part.nominal
        at = dissipation_from_esr(farads, body.esr, body.hertz or LOSSES[part.make or "electrolytic"].hertz)
        found.update(dissipation=at, esr=body.esr, hertz=body.hertz)
    if body.leakage is not None:
        found.update(leakage=body.leakage, leakage_volts=body.leakage_volts, dwell_s=body.dwell_s, simulated=False)
        if share:
            found["leakage_share"] = share
            stated.add("leakage_share")
