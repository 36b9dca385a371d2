"""The parts of a job as they stand: the pack's and those listed, what was measured, what to do with each."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import field, replace
from typing import Literal, cast

from candor.core.late_dataclass import dataclass
from candor.core.leakage.capacitor import dissipation_from_esr
from candor.core.parts.judge import PartVerdict, judge_all
from candor.core.parts.judge_capacitor import LossSpan, is_sound_filter, loss_of
from candor.core.parts.judge_resistor import Circuit
from candor.core.parts.mains import Mains
from candor.core.parts.part import USUAL_TOLERANCE, Make, Measured, Part, risk_key
from candor.core.parts.policy import Policy
from candor.core.parts.reasons import Action
from candor.core.worded import worded
from candor.notebook.entries.entry import Entry
from candor.notebook.entries.parts_entries import PartDecided, PartsRecord, ReplacementChosen, measured_of, to_part
from candor.notebook.entries.stay_entries import ChangeMade
from candor.notebook.trace.tracing import aliases_of, traced_netlist
from candor.notebook.work.job import Job
from candor.packs.model import Pack
from candor.packs.pack_parts import circuit_for, parts_of_pack, supply_distance

Fate = Literal["", "replaced", "not fitted"]
SampleState = Literal["none", "to measure", "good", "bad"]
SAMPLE_SIZE = 2
NO_CIRCUIT = worded("parts.no_circuit_is_described_so_measure")
UNUSABLE = 1.0  # D at 120 Hz above which an electrolytic filters nothing: common practice, no source


@dataclass(frozen=True)
class PartLine:
    """One part of the list.

    Attributes
    ----------
    part : Part
    measured : Measured
    verdict : PartVerdict or None
        None for a part that was replaced or is not fitted.
    action : Action or None
        What is to be done: the restorer's own decision where there is one.
    decided : Entry or None
        That decision.
    fate : "", "replaced" or "not fitted"
    changed : Entry or None
        The change that replaced it.
    choice : Entry or None
        What was chosen to go in its place.
    sample : bool
        Proposed as part of the sample.
    """

    part: Part
    measured: Measured
    verdict: PartVerdict | None
    action: Action | None
    decided: Entry[PartDecided] | None = None
    fate: Fate = ""
    changed: Entry[ChangeMade] | None = None
    choice: Entry[ReplacementChosen] | None = None
    sample: bool = False


@dataclass(frozen=True)
class PartsList:
    """All parts, the riskiest first, what the sample says of the whole, and each node by its other names."""

    lines: tuple[PartLine, ...]
    circuit: Circuit | None
    policy: Policy
    sample: SampleState
    sample_words: str
    aliases: Mapping[str, str] = field(default_factory=dict)

    def line(self, ref: str) -> PartLine | None:
        """Return one part's line."""
        return next((line for line in self.lines if line.part.ref == ref), None)

    @property
    def verdicts(self) -> Mapping[str, PartVerdict]:
        """Every verdict by designator."""
        return {line.part.ref: line.verdict for line in self.lines if line.verdict is not None}

    @property
    def known(self) -> int:
        """How many parts are decided: kept, watched, replaced already or to be."""
        return sum(line.action is not Action.CANNOT_TELL for line in self.lines)


def parts_of(job: Job, pack: Pack) -> tuple[tuple[Part, ...], Circuit | None]:
    """Return the parts of a job, what was listed over what the pack says, and the circuit they are judged in."""
    record = job.parts
    found = {part.ref: part for part in parts_of_pack(pack.circuit, pack.parts)}
    for ref, entry in record.listed.items():
        found[ref] = to_part(entry.body, found[ref].tap if ref in found else ("", "", ""))
    ordered = tuple(sorted(found.values(), key=risk_key))
    circuit_text = _circuit_text(job, pack, found)
    return ordered, circuit_for(circuit_text, ordered) if circuit_text else None


def _circuit_text(job: Job, pack: Pack, parts: Mapping[str, Part]) -> str:
    record = job.parts
    text = record.circuit.body.netlist if record.circuit is not None else pack.circuit.netlist if pack.circuit else ""
    return traced_netlist(text, record.joined, aliases_of(job, pack), parts) if record.joined else text


def _as_fitted(record: PartsRecord, part: Part) -> Part:
    """A part that was replaced by one piece has that piece's value and ratings, not those of the drawing any more."""
    choice = record.replacements.get(part.ref)
    if (
        part.ref not in record.replaced
        or choice is None
        or len(choice.body.lines) != 1
        or choice.body.lines[0].count != 1
    ):
        return part
    new = choice.body.lines[0]
    if new.what != part.kind:
        return part
    make = cast(Make, new.make) if new.make in USUAL_TOLERANCE else part.make
    share = new.tolerance or None
    return replace(
        part, nominal=new.value or part.nominal, type=new.type or part.type, volts=new.volts or part.volts,
        watts=new.watts or part.watts, make=make, below=share, above=share,
    )  # fmt: skip


def _by_meter(m: Measured, part: Part, esr_hertz: float) -> Measured:
    """What was read of ESR without its frequency was read at that of the shop's meter, as soon as that is known."""
    if m.esr is None or m.hertz or not esr_hertz:
        return m
    farads = m.value if m.value is not None and not m.in_circuit else part.nominal
    return replace(m, hertz=esr_hertz, dissipation=dissipation_from_esr(farads, m.esr, esr_hertz))


def _known_value(record: PartsRecord, drawn: Part, now: Part, m: Measured) -> tuple[str, float, float] | None:
    """What a part is known to be in every calculation: the piece that was fitted, else what was measured out of the circuit."""
    if now is not drawn:
        return drawn.ref, now.nominal, max(now.tolerance)
    if drawn.ref in record.replaced or m.value is None or m.in_circuit or m.state:
        return None
    return drawn.ref, m.value, m.value_share


def list_parts(
    job: Job, pack: Pack, policy: Policy | None = None, mains: Mains | None = None, esr_hertz: float = 0.0
) -> PartsList:
    """Return the parts list of a job, judged by its policy or by another one, on the mains of the shop.

    `esr_hertz` is at what the shop's ESR meter tests, Hz: what was read without a frequency was read by it; 0 where nobody said.
    """
    record = job.parts
    drawn, circuit = parts_of(job, pack)
    chosen = replace(policy or record.policy, mains=mains)
    measured = {p.ref: _by_meter(measured_of(p, record.measured.get(p.ref, ())), p, esr_hertz) for p in drawn}
    parts = tuple(_as_fitted(record, p) for p in drawn)
    text = _circuit_text(job, pack, {p.ref: p for p in drawn})
    known = tuple(
        x for p, now in zip(drawn, parts, strict=True) if (x := _known_value(record, p, now, measured[p.ref]))
    )
    if text and known:
        circuit = circuit_for(text, parts, known)
    live = [(p, measured[p.ref]) for p in parts if not {p.ref, p.can or p.ref} & set(record.replaced)]
    verdicts = judge_all(live, chosen, circuit)
    supply = record.circuit.body.supply if record.circuit else pack.circuit.supply if pack.circuit else ""
    proposed = sample_refs(
        parts, circuit, supply, {ref for ref, m in measured.items() if m.value is not None or m.state}
    )
    lines = tuple(_line(job, p, measured[p.ref], verdicts.get(p.ref), p.ref in proposed) for p in parts)
    far = circuit is not None and bool(supply)
    state, words = _sample(lines, chosen, far)
    override = job.parts.overridden.get("sample")
    if state == "bad" and override is not None:
        state, words = "good", worded("parts.the_sample_is_bad_overridden", reason=override.body.reason)
    return PartsList(
        lines=lines, circuit=circuit, policy=chosen, sample=state, sample_words=words, aliases=aliases_of(job, pack)
    )


def _line(job: Job, part: Part, measured: Measured, verdict: PartVerdict | None, sample: bool) -> PartLine:
    record = job.parts
    decided = record.decided.get(part.ref)
    changed = record.replaced.get(part.ref) or (record.replaced.get(part.can) if part.can else None)
    fate: Fate = "not fitted" if not part.fitted else "replaced" if changed is not None else ""
    action = verdict.action if verdict else None
    if decided is not None and verdict is not None:
        action = Action(decided.body.action)
    return PartLine(
        part=part,
        measured=measured,
        verdict=verdict,
        action=action,
        decided=decided,
        fate=fate,
        changed=changed,
        choice=record.replacements.get(part.ref),
        sample=sample,
    )


def sample_refs(
    parts: tuple[Part, ...], circuit: Circuit | None, supply: str, read: Collection[str] = ()
) -> tuple[str, ...]:
    """Return the electrolytics farthest from the supply, the farthest first: the sample to test before any mains.

    Those on the rails go before those that bypass a cathode. Where no circuit says which are farthest, whoever stands at the bench
    does: those that were `read` are the sample.
    """
    old = [p for p in parts if p.make == "electrolytic" and p.fitted]
    if circuit is not None and supply:
        far = {p.ref: supply_distance(circuit, supply, p.ref) for p in old}
        old.sort(key=lambda p: (p.role != "filter", -far[p.ref]))
    else:
        old.sort(key=lambda p: p.ref not in read)
    return tuple(p.ref for p in old[:SAMPLE_SIZE])


def _sample(lines: tuple[PartLine, ...], policy: Policy, far: bool) -> tuple[SampleState, str]:
    """Say what the sample decides: open, twice its value or no usable ESR, and the set stays off until all are done.

    `far` where the circuit says which are farthest from the supply; else any two must do, and that is said.
    """
    old = [x for x in lines if x.part.make == "electrolytic" and not x.fate]
    sample = [x for x in old if x.sample]
    if not sample:
        return "none", ""
    names = " and ".join(x.part.ref for x in sample)
    bad = [x.part.ref for x in sample if _is_bad(x)]
    unread = [x for x in old if x.measured.value is None and not x.measured.state]
    if bad:
        left = [x.part.ref for x in unread]
        if not left:
            return "good", worded("parts.the_sample_was_bad_since_then", listed=", ".join(bad))
        return (
            "bad",
            worded("parts.no_power_the_sample_is_bad", listed=", ".join(bad), listed_2=", ".join(left)),
        )
    missing = [x.part.ref for x in sample if x in unread or (x.measured.dissipation is None and not x.measured.state)]
    if missing:
        refs = " and ".join(missing)
        if far:
            return (
                "to measure",
                worded("parts.before_any_mains_value_and_esr_of", refs=refs),
            )
        return "to measure", worded("parts.before_any_mains_value_and_esr", refs=refs, no_circuit=NO_CIRCUIT)
    open_yet = [x.part.ref for x in sample if not x.measured.state and _undecided(x, policy)]
    if open_yet:
        refs = " and ".join(open_yet)
        return (
            "to measure",
            worded("parts.before_any_mains_esr_or_d", refs=refs),
        )
    return (
        "good",
        worded("parts.the_sample_has_its_value_and", names=names),
    )


def _is_bad(line: PartLine) -> bool:
    m = line.measured
    if line.decided is not None and line.decided.body.action == "keep":
        return False  # the restorer's own decision, with its reason
    if m.state:
        return True
    off = m.value is not None and not m.in_circuit and m.value / line.part.nominal >= 2
    return off or _loss(line).low > UNUSABLE


def _undecided(line: PartLine, policy: Policy) -> bool:
    """Say whether what was read of ESR or D neither condemns nor acquits at 120 Hz, and nothing else says it is sound."""
    span = _loss(line)
    return span.low <= UNUSABLE < span.high and not is_sound_filter(line.part, line.measured, policy)


def _loss(line: PartLine) -> LossSpan:
    """Return D at 120 Hz from where to where; nothing where nobody read it."""
    return loss_of(line.part, line.measured, 120.0) if line.measured.dissipation is not None else LossSpan(0.0, 0.0)


def say_counts(parts: PartsList) -> str:
    """Return how many are to be replaced, kept and so on: ``7 replace · 12 cannot tell yet · 3 keep``."""
    counts = [(action, sum(x.action is action for x in parts.lines)) for action in Action]
    replaced = sum(x.fate == "replaced" for x in parts.lines)
    words = [f"{count} {action}" for action, count in counts if count]
    return " · ".join([*words, f"{replaced} replaced"] if replaced else words)
