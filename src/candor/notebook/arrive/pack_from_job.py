"""A pack that grows out of a job: its kind, ranges, points, parts, nodes and what was found on every one of its type."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence

from pydantic import ValidationError

from candor.core.errors import CandorError
from candor.core.parts.part import Part
from candor.core.worded import worded
from candor.notebook.arrive.instruments import identity, instruments
from candor.notebook.entries.ranges_entries import short
from candor.notebook.entries.shop_entries import shop_record
from candor.notebook.entries.standing_entries import Standing
from candor.notebook.parts.part_fields import marked
from candor.notebook.parts.parts_list import parts_of
from candor.notebook.store import Notebook
from candor.notebook.trace.tracing import aliases_of, traced_netlist
from candor.notebook.work.checklists import found_items
from candor.notebook.work.description import description_of
from candor.notebook.work.job import Job, fold
from candor.packs.model import Pack, Zone
from candor.packs.pack_parts import PackCircuit, PackPartLine
from candor.packs.usual_steps import UsualSection

LONGEST_ITEM = 60


def grown_pack(notebook: Notebook, job: Job, own_items: Mapping[str, Sequence[str]]) -> Pack:
    """Return the pack that a job has gathered.

    Parameters
    ----------
    notebook : Notebook
        For its other jobs of the type.
    job : Job
    own_items : mapping of str to sequence of str
        What the shop added to the checklist of each zone.

    Raises
    ------
    CandorError
        Where the instrument has no type to name the pack by, or what was gathered does not hold together.
    """
    maker, type_ = job.stay.details.get("maker", ""), job.stay.details.get("type", "")
    if not type_:
        raise CandorError(worded("arrive.a_pack_is_named_by_the"))
    base = description_of(notebook, job)
    parts, _ = parts_of(job, base)
    recurring = recurring_findings(jobs_of_type(notebook, job), base.zones)
    text = _netlist(job, base, parts)
    pack = base.model_copy(
        update={
            "id": _id(base, maker, type_),
            "edition": worded("arrive.from_job", number=job.entries[-1].number, id=job.id),
            "maker": maker or "unknown",
            "type": type_,
            "summary": _summary(base),
            "source": worded("arrive.made_on_the_bench_job_entries", id=job.id, entries=len(job.entries)),
            "zones": tuple(_zone(z, (*own_items.get(z.key, ()), *recurring.get(z.key, ()))) for z in base.zones),
            "procedure": tuple(s for s in base.procedure if not isinstance(s, UsualSection)),  # its kind's, not this type's
            "usual": tuple(dict.fromkeys((*base.usual, *(e.body.function for e in job.unit.functions)))),
            "parts": tuple(_part_line(part, base) for part in parts if part.fitted),
            "circuit": _circuit(base, f"{text.rstrip()}\n") if text else None,
        }
    )  # fmt: skip
    # Read as a file would be: what is not a pack is found here, not at the next job.
    try:
        return Pack.model_validate(pack.model_dump(mode="json"))
    except ValidationError as error:
        why = error.errors()[0]["msg"].removeprefix("Value error, ")
        raise CandorError(worded("arrive.what_this_job_has_gathered_makes", why=why), place=job.name) from None


def grown_of_job(notebook: Notebook, name: str) -> Pack:
    """Return the pack that a job, by its name, has gathered, with what the shop added to its checklists.

    Raises
    ------
    CandorError
        Where there is no such job, or it has no type.
    """
    job = fold(name, notebook.entries_of(name))
    if job.stay.opened is None:
        raise CandorError(worded("arrive.there_is_no_job_in_this", name=name), value=name)
    base, shop = description_of(notebook, job), shop_record(Standing(notebook.entries_of("")))
    return grown_pack(notebook, job, {z.key: shop.own_items(base.id, z.key) for z in base.zones})


def jobs_of_type(notebook: Notebook, job: Job) -> tuple[Job, ...]:
    """Return this job and all others of instruments of its name, whatever their numbers."""
    wanted = identity(job.name, "")[0]
    names = [name for i in instruments(notebook) if identity(i.name, "")[0] == wanted for name in i.jobs]
    return (job, *(fold(name, notebook.entries_of(name)) for name in names if name != job.id))


def recurring_findings(jobs: Iterable[Job], zones: Iterable[Zone]) -> Mapping[str, tuple[str, ...]]:
    """Return, by zone, the findings that stand in more than one job and on no checklist yet, in the words of the newest."""
    known = {zone.key: zone.look_for for zone in zones}
    words: dict[tuple[str, str], str] = {}
    count: Counter[tuple[str, str]] = Counter()
    for job in jobs:
        seen: set[tuple[str, str]] = set()
        for finding in job.arrive.findings:
            text = " ".join(finding.text.split())
            key = finding.zone, text.casefold()
            named = any(
                f.entry.id == finding.entry.id
                for f in found_items(job, finding.zone, known.get(finding.zone, ())).values()
            )
            if finding.zone in known and len(text) <= LONGEST_ITEM and key not in seen and not named:
                seen.add(key)
                words.setdefault(key, text)
        count.update(seen)
    return {
        zone: tuple(words[key] for key in words if key[0] == zone and count[key] > 1)
        for zone in known
        if any(key[0] == zone and count[key] > 1 for key in words)
    }


def _id(base: Pack, maker: str, type_: str) -> str:
    return short(f"{maker} {type_}".strip(), base.id).replace(" ", "-")


def _summary(base: Pack) -> str:
    ranges = ", ".join(f"{f.title} {r.title}" for f in base.functions for r in f.ranges)
    return (ranges[:150] + " …" if len(ranges) > 150 else ranges) or worded(
        "arrive.no_range_described_yet", kind=base.kind
    )


def _zone(zone: Zone, more: Iterable[str]) -> Zone:
    return zone.model_copy(update={"look_for": tuple(dict.fromkeys((*zone.look_for, *more)))})


def _circuit(base: Pack, netlist: str) -> PackCircuit:
    """The circuit with what the job knows of its parts; what its pack says it makes and reads stays."""
    if base.circuit is None:
        return PackCircuit(netlist=netlist, supply="")
    return base.circuit.model_copy(update={"netlist": netlist})


def _part_line(part: Part, base: Pack) -> PackPartLine:
    """A part as a pack writes it; what its pack says of taps and grids stays."""
    before = next((line for line in base.parts if line.ref == part.ref), None)
    kept = {"grid": before.grid, "tap": before.tap, "what": before.what} if before is not None else {}
    return PackPartLine(
        ref=part.ref, value=marked(part), make=part.make, role=part.role, volts=part.volts, watts=part.watts, can=part.can,
        mains=part.mains, across=part.volts_across, no_load=part.no_load_volts, note=part.note, **kept,
    )  # fmt: skip


def _netlist(job: Job, base: Pack, parts: Iterable[Part]) -> str:
    record = job.parts
    drawn = record.circuit.body.netlist if record.circuit else base.circuit.netlist if base.circuit else ""
    return (
        traced_netlist(drawn, record.joined, aliases_of(job, base), {p.ref: p for p in parts})
        if record.joined
        else drawn
    )
