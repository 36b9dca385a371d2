"""Parts: what is on the list, what was measured, what was decided, what goes in."""

from __future__ import annotations

import dataclasses
from collections.abc import Mapping
from dataclasses import dataclass, field
from types import MappingProxyType
from typing import Annotated, Literal

from pydantic import Field, model_validator

from candor.core.leakage.capacitor import LOSSES, LeakageRule, dissipation_from_esr
from candor.core.parts.part import VALUED, Kind, Mains, Make, Measured, Role
from candor.core.parts.part import Part as CorePart
from candor.core.parts.policy import Electrolytics, Policy, Resistors, Sight
from candor.core.quantities import engineering
from candor.core.quantities.show import trimmed
from candor.notebook.entries.body import Body
from candor.notebook.entries.entry import Entry, said
from candor.notebook.entries.fields_entries import Above, NotBelow, Text
from candor.notebook.entries.goods_entries import NeedLine
from candor.notebook.entries.runs_entries import RunEnded
from candor.notebook.entries.standing_entries import Standing
from candor.notebook.entries.stay_entries import ChangeMade

USUAL_SHARE = 0.01  # of a value on a bench meter, k = 2, where nothing was said
USUAL_LEAKAGE_SHARE = 0.05


# What bars power, but for a hazard, which is settled by itself: the sample of electrolytics, fasteners nobody can account for, no
# insulation measured after washing, parts that are planned and not fitted.
Bar = Literal["sample", "fasteners", "insulation", "parts", "checks"]


class PartListed(Body):
    """A part on the job's list; the last one written for a designator holds, also over the pack's."""

    kind: Literal["part"] = "part"
    gives_on = "as drawn"
    ref: Text
    what: Kind
    nominal: NotBelow = 0.0
    type: str = ""
    make: Make = ""
    role: Role = "other"
    below: NotBelow | None = None
    above: NotBelow | None = None
    volts: NotBelow = 0.0
    watts: NotBelow = 0.0
    can: str = ""
    mains: Mains = ""
    volts_across: NotBelow = 0.0
    no_load_volts: NotBelow = 0.0
    grid_ohms: NotBelow = 0.0
    note: str = ""
    fitted: bool = True
    leakage_limit: NotBelow = 0.0

    def of_another(self) -> PartListed:
        """What this unit has not, its sister may have."""
        return self.model_copy(update={"fitted": True})

    @model_validator(mode="after")
    def _has_its_value(self) -> PartListed:
        if self.what in VALUED and not self.nominal > 0:
            raise ValueError(f"a {self.what} has a value above 0")
        return self


class CircuitTaken(Body):
    """A netlist for the job, in place of the pack's."""

    kind: Literal["circuit"] = "circuit"
    gives_on = "as drawn"
    netlist: Text
    supply: str = ""


class PartJoined(Body):
    """Where a part is joined, traced out on the board: the nodes of its ends; it overrules the drawing."""

    kind: Literal["joined"] = "joined"
    ref: Text
    plus: Text
    minus: Text


class NodeAlias(Body):
    """Another name of a node, by which people find it: a pin, a tag, a terminal."""

    kind: Literal["node_alias"] = "node_alias"
    gives_on = "as drawn"
    node: Text
    alias: Text


class PartMeasured(Body):
    """What was measured on a part; SI. At least one of its figures."""

    kind: Literal["part_measured"] = "part_measured"
    ref: Text
    value: Above | None = None
    warm: Above | None = None
    state: Literal["", "open", "short", "intermittent", "good", "worn", "weak", "leaky"] = ""
    unit: Annotated[str, Field(description="of value and warm: F, ohm, H, A, V")] = ""
    in_circuit: bool = False
    esr: NotBelow | None = None
    dissipation: NotBelow | None = None
    hertz: NotBelow = 0.0
    leakage: NotBelow | None = None
    leakage_volts: NotBelow = 0.0
    dwell_s: NotBelow = 0.0
    percent: Above | None = None
    written: str = ""

    @model_validator(mode="after")
    def _says_something(self) -> PartMeasured:
        figures = (self.value, self.warm, self.esr, self.dissipation, self.leakage)
        if not self.state and all(f is None for f in figures):
            raise ValueError("nothing was measured. Expected: a value, ESR, D, leakage, open or short")
        return self


class PolicyChosen(Body):
    """What the job follows."""

    kind: Literal["policy"] = "policy"
    gives_on = "as drawn"
    sight: Sight = Sight.TEST
    electrolytics: Electrolytics = Electrolytics.REFORM
    resistors: Resistors = Resistors.TEST
    rule: LeakageRule = LeakageRule.TENTH
    safe_volts: Annotated[float, Field(gt=0, le=60)] = 60.0


class PartDecided(Body):
    """The restorer decides otherwise, and says why."""

    kind: Literal["part_decided"] = "part_decided"
    ref: Text
    action: Literal["keep", "replace", ""]
    reason: str = ""


class ReplacementChosen(Body):
    """What goes in a part's place; no lines takes the choice back."""

    kind: Literal["replacement"] = "replacement"
    ref: Text
    arrangement: str = ""
    lines: tuple[NeedLine, ...] = ()


class BarOverridden(Body):
    """What bars power, overridden with a written reason; it counts for what stood when it was written."""

    kind: Literal["bar_overridden"] = "bar_overridden"
    bar: Bar
    reason: Text


ALTHOUGH: Mapping[str, str] = {
    "sample": "the sample of electrolytics is bad",
    "fasteners": "fasteners are not accounted for",
    "insulation": "its insulation was not measured since it was washed",
    "parts": "parts that are planned are not fitted",
    "checks": "not every check with power off was made",
}


def _measured(b: PartMeasured) -> str:
    unit = b.unit
    words: list[str] = [b.state] if b.state else []
    words += (
        [f"{engineering(b.value, unit, 6)}{' in circuit' if b.in_circuit else ''}"] if b.value is not None else []
    )
    words += [f"{engineering(b.warm, unit, 6)} warm"] if b.warm is not None else []
    words += [f"ESR {engineering(b.esr, 'ohm')}"] if b.esr is not None else []
    words += [f"D {trimmed(b.dissipation)}"] if b.dissipation is not None else []
    if b.leakage is not None:
        words.append(
            f"leaks {engineering(b.leakage, 'A')} at {trimmed(b.leakage_volts)} V after {trimmed(b.dwell_s)} s"
        )
    return f"{b.ref} measured: {', '.join(words)}"


def _listed(b: PartListed) -> str:
    return f"on the list: {b.ref}, {to_part(b).words}" if b.fitted else f"not in this unit: {b.ref}"


def _decided(b: PartDecided) -> str:
    return f"{b.ref}: {b.action}, decided because {b.reason}" if b.action else f"{b.ref}: by its figures again"


WORDS = dict(
    (
        said(PartListed, lambda b, _: _listed(b)),
        said(CircuitTaken, lambda b, _: f"circuit taken in, {len(b.netlist.splitlines())} lines"),
        said(PartJoined, lambda b, _: f"{b.ref} joins {b.plus} and {b.minus}"),
        said(NodeAlias, lambda b, _: f"node {b.node} is {b.alias}"),
        said(PartMeasured, lambda b, _: _measured(b)),
        said(
            PolicyChosen,
            lambda b, _: (
                f"policy: paper {b.sight}; electrolytics {b.electrolytics}; resistors {b.resistors}; leakage limit "
                f"{b.rule}"
            ),
        ),
        said(PartDecided, lambda b, _: _decided(b)),
        said(
            ReplacementChosen,
            lambda b, _: f"goes in for {b.ref}: {b.arrangement}" if b.lines else f"choice for {b.ref} taken back",
        ),
        said(BarOverridden, lambda b, _: f"power although {ALTHOUGH[b.bar]}: {b.reason}"),
    )
)


@dataclass(frozen=True)
class PartsRecord:
    """The entries about parts that stand, by designator; `stamp` holds the ids of all of them, `aliases` node by other name."""

    stamp: tuple[str, ...] = ()
    listed: Mapping[str, Entry[PartListed]] = field(default_factory=dict)
    circuit: Entry[CircuitTaken] | None = None
    joined: Mapping[str, Entry[PartJoined]] = field(default_factory=dict)
    aliases: Mapping[str, str] = field(default_factory=dict)
    measured: Mapping[str, tuple[Entry[PartMeasured] | Entry[RunEnded], ...]] = field(default_factory=dict)
    policy: Policy = field(default_factory=Policy)
    policy_entry: int = 0
    decided: Mapping[str, Entry[PartDecided]] = field(default_factory=dict)
    replacements: Mapping[str, Entry[ReplacementChosen]] = field(default_factory=dict)
    replaced: Mapping[str, Entry[ChangeMade]] = field(default_factory=dict)
    overridden: Mapping[str, Entry[BarOverridden]] = field(default_factory=dict)


def parts_record(standing: Standing) -> PartsRecord:
    """Return what stands about parts."""
    policy = standing.newest(PolicyChosen)
    chosen = policy.body if policy else PolicyChosen()
    decided = standing.by(PartDecided, lambda b: b.ref)
    replacements = standing.by(ReplacementChosen, lambda b: b.ref)
    measured: dict[str, list[Entry[PartMeasured] | Entry[RunEnded]]] = {}
    for entry in standing.of(PartMeasured, RunEnded):
        measured.setdefault(entry.body.ref, []).append(entry)
    kinds: tuple[type[Body], ...] = (*WORDS, ChangeMade, RunEnded)
    return PartsRecord(
        stamp=tuple(e.id for kind in kinds for e in standing.of(kind)),
        listed=standing.by(PartListed, lambda b: b.ref),
        circuit=standing.newest(CircuitTaken),
        joined=standing.by(PartJoined, lambda b: b.ref),
        aliases=MappingProxyType({e.body.alias: e.body.node for e in standing.of(NodeAlias)}),
        measured=MappingProxyType({ref: tuple(found) for ref, found in measured.items()}),
        policy=Policy(
            sight=chosen.sight,
            electrolytics=chosen.electrolytics,
            resistors=chosen.resistors,
            rule=chosen.rule,
            safe_volts=chosen.safe_volts,
        ),
        policy_entry=policy.number if policy else 0,
        # A decision without an action, a choice without lines take back what stood before.
        decided=MappingProxyType({ref: e for ref, e in decided.items() if e.body.action}),
        replacements=MappingProxyType({ref: e for ref, e in replacements.items() if e.body.lines}),
        replaced=MappingProxyType({e.body.part: e for e in standing.of(ChangeMade) if e.body.part}),
        overridden=standing.by(BarOverridden, lambda b: b.bar),
    )


# The fields that an entry and the core have of one name: all but the kind of a part and the tap, which a pack alone knows.
_SHARED = tuple(
    f.name for f in dataclasses.fields(CorePart) if f.name in PartListed.model_fields and f.name != "kind"
)


def to_part(body: PartListed, tap: tuple[str, str, str] = ("", "", "")) -> CorePart:
    """Return a listed part as the core knows parts; its `tap` is the pack's."""
    return CorePart(kind=body.what, tap=tap, **{name: getattr(body, name) for name in _SHARED})


def listed_from(part: CorePart, **changes: object) -> PartListed:
    """Return the entry that lists a part as it stands, but for `changes`."""
    said = {name: getattr(part, name) for name in _SHARED}
    return PartListed.model_validate({"what": part.kind, **said, **changes})


def measured_of(part: CorePart, entries: tuple[Entry[PartMeasured] | Entry[RunEnded], ...]) -> Measured:
    """Fold what was measured on a part: of each figure the newest counts.

    What ESR or D says at the frequency of its limit is for the judge to find: it depends on the frequency it was read at.
    """
    found: dict[str, object] = {}
    numbers: list[int] = []
    stated: set[str] = set()
    for entry in entries:
        numbers.append(entry.number)
        body = entry.body
        if isinstance(body, RunEnded):
            _take_run(found, stated, body)
        else:
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


def _take_measured(found: dict[str, object], stated: set[str], part: CorePart, body: PartMeasured) -> None:
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
