"""The standards and chains at hand, what serves a point of a job, and what hangs on one that was found out."""

from __future__ import annotations

import contextlib
import datetime as dt
import json
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import field
from functools import cached_property

from typing_extensions import TypeIs

from candor.core.calibration.point import TestPoint
from candor.core.errors import CandorError
from candor.core.late_dataclass import dataclass
from candor.core.reference.chains import Chain, age_of, build_chain, highest_shown, is_typical, say_links
from candor.core.reference.detector import Detector
from candor.core.reference.reference import Age, CertifiedPoint, Reference, SpecificationRange
from candor.core.worded import worded
from candor.notebook.entries.body import Body
from candor.notebook.entries.calibrate_entries import StandardChosen
from candor.notebook.entries.entry import AnyEntry, Entry, says
from candor.notebook.entries.standards_entries import (
    ChainRecorded,
    StandardCompared,
    StandardFunction,
    StandardRecorded,
    StandardsCame,
    StandardWithdrawn,
)
from candor.notebook.entries.strikes_entries import struck_ids
from candor.notebook.storage.bodies import moment_of
from candor.notebook.store import Notebook

CHOICE_KINDS = ("standard_chosen", "strike", "unstrike")
CHECK_KINDS = ("standard_compared", "strike", "unstrike")
Recorded = Mapping[str, Entry[StandardRecorded] | Entry[ChainRecorded]]


@dataclass(frozen=True)
class Standard:
    """A standard, or a chain of them, as one entry recorded it.

    Attributes
    ----------
    entry : Entry
    recorded : mapping of str to Entry
        Every recorded standard and chain by its entry, where a chain finds its links.
    current : bool
        Whether it is the newest state of it.
    withdrawn : str
        Why it is out of service; empty where it is in it.
    back : date, optional
        When it is expected back, where it is out of service and that was said.
    """

    entry: Entry[StandardRecorded] | Entry[ChainRecorded]
    recorded: Recorded = field(compare=False, repr=False)
    current: bool
    withdrawn: str = ""
    back: dt.date | None = None

    @cached_property
    def _made(self) -> tuple[tuple[Reference | Chain, ...], str]:
        """Made when it is first asked for: a formula is slow to read the first time."""
        return _functions(self.entry, self.recorded)

    @property
    def functions(self) -> tuple[Reference | Chain, ...]:
        """One for every quantity; of a chain itself alone."""
        return self._made[0]

    @property
    def fault(self) -> str:
        """Why it cannot be used: a chain whose links do not fit any more."""
        return self._made[1]

    @property
    def body(self) -> StandardRecorded | ChainRecorded:
        """What was recorded."""
        return self.entry.body

    @property
    def name(self) -> str:
        """What it is called."""
        return self.entry.body.name

    def age(self, on: dt.date) -> Age:
        """Say whether it was in date on a day; of a chain that of its worst link."""
        return age_of(self.functions[0], on) if self.functions else Age("never checked", self.fault)

    @property
    def is_typical(self) -> bool:
        """Whether it, or a link of it, is specified by what is usual for its class alone."""
        return any(is_typical(function) for function in self.functions)

    def serving(self, point: TestPoint) -> Reference | Chain | None:
        """Return the function that fits a point best: of its quantity, and of its current where it has one."""
        of_unit = [f for f in self.functions if f.unit == point.asked_unit]
        fitting = [f for f in of_unit if not (f.current and point.current and f.current != point.current)]
        return next(iter((*fitting, *of_unit, *self.functions)), None)


Recording = StandardRecorded | ChainRecorded


def name_of(body: Body) -> str:
    """Return what a standard or a chain is called; nothing of any other entry."""
    return body.name if isinstance(body, StandardRecorded | ChainRecorded) else ""


def is_chain(body: StandardRecorded | ChainRecorded | None) -> TypeIs[ChainRecorded]:
    """Return whether what was recorded is a chain of others."""
    return isinstance(body, ChainRecorded)


def standards(notebook: Notebook) -> Mapping[str, Standard]:
    """Return every recorded state of every standard and chain, by entry id; the newest of each key is current.

    One that was struck serves no new reading; those taken by it before keep it, so that no old verdict changes. One that came with
    a job of another shop is never current here, and takes nothing out of service: two shops may call two meters alike.
    """
    return standards_of(notebook.entries_of(""))


def standards_of(entries: Sequence[AnyEntry]) -> Mapping[str, Standard]:
    """Return every recorded state of every standard and chain by the shop's own entries; see `standards`."""
    struck = struck_ids(entries)
    came = {i for e in entries if says(e, StandardsCame) for i in e.body.entries}
    recorded: list[Entry[StandardRecorded] | Entry[ChainRecorded]] = []
    withdrawn: dict[str, StandardWithdrawn] = {}
    for entry in entries:
        if says(entry, StandardRecorded) or says(entry, ChainRecorded):
            recorded.append(entry)
        elif says(entry, StandardWithdrawn) and entry.id not in struck and entry.id not in came:
            withdrawn[entry.body.standard] = entry.body
    newest = {e.body.key: e.id for e in recorded if e.id not in struck and e.id not in came}
    by_id = {e.id: e for e in recorded}
    found = {}
    for entry in recorded:
        out = withdrawn.get(entry.body.key) if entry.id not in came else None
        found[entry.id] = Standard(
            entry=entry,
            recorded=by_id,
            current=newest.get(entry.body.key) == entry.id,
            withdrawn=out.reason if out is not None else "",
            back=out.until if out is not None and out.reason else None,
        )
    return found


def _functions(
    entry: Entry[StandardRecorded] | Entry[ChainRecorded], by_id: Recorded
) -> tuple[tuple[Reference | Chain, ...], str]:
    body = entry.body
    if isinstance(body, StandardRecorded):
        return to_references(body), ""
    try:
        return (to_chain(body, by_id),), ""
    except CandorError as error:
        return (), str(error)


def to_chain(body: ChainRecorded, by_id: Recorded, above: tuple[str, ...] = ()) -> Chain:
    """Return a recorded chain as the core knows chains.

    Raises
    ------
    CandorError
        Where its formula does not fit its links, or it goes round.
    """

    def known(key: str, above: tuple[str, ...]) -> Reference | Chain:
        link = next(x for x in body.links if x.standard == key)
        entry = by_id.get(key)
        if entry is None:
            gone = worded("standards.the_link_leads_to_no_standard", name=body.name, link_name=link.name)
            raise CandorError(gone, place=body.name)
        linked = entry.body
        if isinstance(linked, ChainRecorded):
            return to_chain(linked, by_id, (*above, key))
        of_unit = [f for f in to_references(linked) if f.unit == link.unit]
        fitting = [f for f in of_unit if not link.current or f.current in ("", link.current)]
        if not fitting:
            none = worded("standards.has_no_function_in", name=body.name, linked_name=linked.name, unit=link.unit)
            raise CandorError(none, place=body.name)
        return fitting[0]

    links = [(x.name, x.standard, x.value) for x in body.links]
    return build_chain(body.name, body.unit, body.formula, links, known, body.current, above)


def to_references(body: StandardRecorded) -> tuple[Reference, ...]:
    """Return a recorded standard as the core knows references, one for each function."""
    return tuple(_reference(body, function) for function in body.functions)


def _reference(body: StandardRecorded, function: StandardFunction) -> Reference:
    return Reference(
        name=body.name,
        unit=function.unit,
        ranges=tuple(SpecificationRange(**r.model_dump()) for r in sorted(function.ranges, key=lambda r: r.upper)),
        points=tuple(CertifiedPoint(**p.model_dump()) for p in sorted(function.points, key=lambda p: p.value)),
        drift_percent_per_year=body.drift_percent_per_year,
        calibrated_on=body.calibrated_on,
        valid_days=body.valid_days,
        low_celsius=body.low_celsius,
        high_celsius=body.high_celsius,
        percent_per_kelvin=body.percent_per_kelvin,
        current=function.current,
        role=body.role,
        detector=Detector(function.responds, function.marked, function.crest_factor) if function.responds else None,
        input_ohms=function.input_ohms,
        input_farads=function.input_farads,
        step=function.step,
        most_volts=body.most_volts,
        most_to_earth=body.most_to_earth,
        is_typical=body.typical,
    )


def to_reference(function: StandardFunction) -> Reference:
    """Return one quantity as the core knows references, of a standard of which nothing else is known yet."""
    return _reference(StandardRecorded(key="", name=""), function)


@dataclass(frozen=True)
class Check:
    """A check of one standard against another.

    Attributes
    ----------
    entry : Entry
    difference : float
        Shown less reference, in the unit of `expanded`.
    number : float
        E_n = d / √(U1² + U2²) (ISO 13528:2022, 9.7, from memory); at most 1 agrees.
    """

    entry: Entry[StandardCompared]
    difference: float
    number: float

    @property
    def agrees(self) -> bool:
        """Whether it is a good check."""
        return abs(self.number) <= 1


def checks_of(notebook: Notebook, key: str) -> tuple[Check, ...]:
    """Return the checks of a standard against others that stand, in order."""
    entries = notebook.entries_of_kinds(CHECK_KINDS)
    struck = struck_ids(entries)
    found = []
    for entry in entries:
        if says(entry, StandardCompared) and entry.id not in struck and entry.body.standard == key:
            body = entry.body
            spread = (body.expanded**2 + body.expanded_reference**2) ** 0.5
            difference = body.shown - body.reference
            found.append(
                Check(entry, difference, difference / spread if spread > 0 else float("inf") if difference else 0.0)
            )
    return tuple(found)


@dataclass(frozen=True)
class HangsOn:
    """A result that a standard was used for: the job, the point, the entry and its day."""

    job: str
    point: str
    entry: int
    day: dt.date


def since_last_good(
    notebook: Notebook, key: str, known: Mapping[str, Standard]
) -> tuple[dt.date | None, tuple[HangsOn, ...]]:
    """Return the day of a standard's last good check, and every reading taken by it, alone or in a chain, since then.

    A good check is one against another standard that agrees, or its calibration, of a chain that of the link checked longest ago;
    without any the whole history is listed.
    """
    states = [s for s in known.values() if s.body.key == key]
    last = _last_good(notebook, key, known)
    ids = _with_chains({s.entry.id for s in states}, known.values())
    found = []
    for row in notebook.rows_naming("reading", sorted(ids), last.isoformat() if last else ""):
        at, said = moment_of(row.at), _said(row.body)  # not all of a reading is looked at: there may be 100,000
        if at is not None and said.get("standard") in ids:
            found.append(HangsOn(row.job, str(said.get("point", "")), row.number, at.astimezone(dt.UTC).date()))
    return last, tuple(found)


def _said(body: str) -> Mapping[str, object]:
    with contextlib.suppress(ValueError, RecursionError):
        said = json.loads(body)
        return said if isinstance(said, dict) else {}
    return {}


def _last_good(
    notebook: Notebook, key: str, known: Mapping[str, Standard], above: frozenset[str] = frozenset()
) -> dt.date | None:
    good = [check.entry.at.date() for check in checks_of(notebook, key) if check.agrees]
    bodies = [s.body for s in known.values() if s.body.key == key]
    good += [b.calibrated_on for b in bodies if isinstance(b, StandardRecorded) and b.calibrated_on]
    newest = next((s.body for s in known.values() if s.current and s.body.key == key), None)
    if isinstance(newest, ChainRecorded) and key not in above:
        links = [known[x.standard].body.key for x in newest.links if x.standard in known]
        days = [_last_good(notebook, link, known, above | {key}) for link in links]
        good += [min(day for day in days if day is not None)] if days and None not in days else []
    return max(good, default=None)


def _with_chains(ids: set[str], known: Iterable[Standard]) -> set[str]:
    """Return entry ids with those of every chain that has one of them as a link, however deep."""
    chains = [s for s in known if isinstance(s.body, ChainRecorded)]
    grown = True
    while grown:
        over = (
            s for s in chains if isinstance(s.body, ChainRecorded) and any(x.standard in ids for x in s.body.links)
        )
        more = {s.entry.id for s in over}
        grown = not more <= ids
        ids = ids | more
    return ids


def history_of(key: str, known: Mapping[str, Standard]) -> tuple[str, ...]:
    """Return a line for every state a standard or chain was recorded in, the newest first; nothing where there is one alone."""
    states = sorted((s for s in known.values() if s.body.key == key), key=lambda s: -s.entry.number)
    lines = []
    for s in states:
        checked = s.body.calibrated_on if isinstance(s.body, StandardRecorded) else None
        what = f"checked {checked.isoformat()}" if checked else "no check named"
        by = f", {s.body.traceability}" if isinstance(s.body, StandardRecorded) and s.body.traceability else ""
        day, number = s.entry.at.date().isoformat(), s.entry.number
        lines.append(worded("standards.recorded_entry", at=day, what=what, by=by, number=number))
    return tuple(lines) if len(lines) > 1 else ()


def links_of(standard: Standard, on: dt.date) -> tuple[str, ...]:
    """Say what every link of a chain brings, where what is read shows a tenth of the most it can; nothing of a standard."""
    of = standard.functions[0] if standard.functions else None
    if not isinstance(of, Chain):
        return ()
    try:
        return say_links(of, highest_shown(of) / 10, on)
    except CandorError as error:
        return (str(error),)


def chosen_by_job(notebook: Notebook) -> Mapping[str, tuple[str, ...]]:
    """Return the standards that each job chose, by the entries that recorded them, in the order in which they were chosen."""
    entries = notebook.entries_of_kinds(CHOICE_KINDS)
    struck = struck_ids(entries)
    found: dict[str, tuple[str, ...]] = {}
    for entry in entries:
        if says(entry, StandardChosen) and entry.id not in struck:
            found[entry.job] = (*found.get(entry.job, ()), entry.body.standard)
    return found


def jobs_read_against(
    key: str, known: Mapping[str, Standard], chosen: Mapping[str, tuple[str, ...]], chains: bool = True
) -> tuple[str, ...]:
    """Return the jobs that are read against a standard, by its key, in whatever state of it they chose; in chains of it too."""
    ids = {s.entry.id for s in known.values() if s.body.key == key}
    ids = _with_chains(ids, known.values()) if chains else ids
    return tuple(job for job, entries in chosen.items() if ids & set(entries))
