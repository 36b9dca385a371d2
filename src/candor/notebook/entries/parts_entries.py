"""Parts: what is on the list, what was measured, what was decided, what goes in."""

from __future__ import annotations

import dataclasses
from collections.abc import Mapping
from dataclasses import field
from types import MappingProxyType
from typing import Annotated, Literal

from pydantic import Field, model_validator

from candor.core.late_dataclass import dataclass
from candor.core.leakage.capacitor import LOSSES, LeakageRule, dissipation_from_esr
from candor.core.parts.part import VALUED, Kind, Mains, Make, Measured, Role
from candor.core.parts.part import Part as CorePart
from candor.core.parts.policy import Electrolytics, Policy, Resistors, Sight
from candor.core.quantities import engineering
from candor.core.quantities.show import trimmed
from candor.core.worded import worded
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
            raise ValueError(worded("entries.a_has_a_value_above", what=self.what))
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
            raise ValueError(worded("entries.nothing_was_measured_expected_a_value"))
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
    "sample": worded("entries.the_sample_of_electrolytics_is_bad"),
    "fasteners": worded("entries.fasteners_are_not_accounted_for"),
    "insulation": worded("entries.its_insulation_was_not_measured_since"),
    "parts": worded("entries.parts_that_are_planned_are_not"),
    "checks": worded("entries.not_every_check_with_power_off"),
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
            worded(
                "entries.leaks_at_v_after_s",
                leakage=engineering(b.leakage, "A"),
                leakage_volts=trimmed(b.leakage_volts),
                dwell_s=trimmed(b.dwell_s),
            )
        )
    return f"{b.ref} measured: {', '.join(words)}"


def _listed(b: PartListed) -> str:
    return (
        worded("entries.on_the_list", ref=b.ref, words=to_part(b).words)
        if b.fitted
        else worded("entries.not_in_this_unit", ref=b.ref)
    )


def _decided(b: PartDecided) -> str:
    return (
        worded("entries.decided_because", ref=b.ref, action=b.action, reason=b.reason)
        if b.action
        else worded("entries.by_its_figures_again", ref=b.ref)
    )


WORDS = dict(
    (
        said(PartListed, lambda b, _: _listed(b)),
        said(
            CircuitTaken, lambda b, _: worded("entries.circuit_taken_in_lines", netlist=len(b.netlist.splitlines()))
        ),
        said(PartJoined, lambda b, _: worded("entries.joins_and", ref=b.ref, plus=b.plus, minus=b.minus)),
        said(NodeAlias, lambda b, _: worded("entries.node_is", node=b.node, alias=b.alias)),
        said(PartMeasured, lambda b, _: _measured(b)),
        said(
            PolicyChosen,
            lambda b, _: worded(
                "entries.policy_paper_electrolytics_resistors_leakage_limit",
                sight=b.sight,
                electrolytics=b.electrolytics,
                resistors=b.resistors,
                rule=b.rule,
            ),
        ),
        said(PartDecided, lambda b, _: _decided(b)),
        said(
            ReplacementChosen,
            lambda b, _: (
                worded("entries.goes_in_for", ref=b.ref, arrangement=b.arrangement)
                if b.lines
                else worded("entries.choice_for_taken_back", ref=b.ref)
            ),
        ),
        said(BarOverridden, lambda b, _: worded("entries.power_although", although=ALTHOUGH[b.bar], reason=b.reason)),
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
