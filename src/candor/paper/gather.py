"""Gathering what a certificate of a job says at a moment; whatever falls short stands among its remarks."""

from __future__ import annotations

import datetime as dt
import math
from collections import Counter
from collections.abc import Mapping

from candor.core.calibration.result import PointResult
from candor.core.calibration.ribbon import marks_of
from candor.core.calibration.run import RunResult
from candor.core.errors import CandorError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded
from candor.notebook.entries.entry import Entry, says
from candor.notebook.entries.setup_entries import SetUpSaid, say_set_up
from candor.notebook.entries.soak_entries import StabilityFound
from candor.notebook.entries.standards_entries import ChainRecorded, StandardRecorded
from candor.notebook.release.leaving import LeavingItem
from candor.notebook.standards.standards import Standard
from candor.notebook.standards.standards_text import good_for
from candor.notebook.storage.fault import Fault
from candor.notebook.work.assessment import as_left_run, assess_run
from candor.notebook.work.evidence import evidence_of, simulated_readings
from candor.notebook.work.job import Job
from candor.packs.greatest_of_range import greatest_of
from candor.packs.kinds_of_instrument import said_kind
from candor.packs.model import Pack
from candor.paper.record import (
    INOPERATIVE,
    CertificateRecord,
    ConditionLine,
    ContributionLine,
    DueLine,
    PictureLine,
    PlaceLine,
    PointLine,
    ReadingLine,
    ReferenceLine,
    RunLines,
    TracedLine,
    UnreadLine,
)
from candor.paper.remarks import Stated, remarks_of
from candor.words.certificate_words import ADVICE, CAME, COVERAGE_WORDS
from candor.words.checks import say_release_line
from candor.words.greatest_words import say_most
from candor.words.results import RULES, say_agreements


class NothingStandsError(CandorError, ValueError):
    """A certificate that could state nothing: everything that was read was changed since."""


@dataclass(frozen=True)
class Certificate:
    """A record with the runs it was made from, for the figure."""

    record: CertificateRecord
    found: RunResult
    left: RunResult


def make_certificate(
    job: Job,
    pack: Pack,
    known: Mapping[str, Standard],
    shop: str,
    who: str,
    now: dt.datetime,
    broken: tuple[int, ...] = (),
    earlier: tuple[str, ...] = (),
    leaving: tuple[LeavingItem, ...] = (),
    head: str = "",
    faults: tuple[Fault, ...] = (),
) -> Certificate:
    """Gather what a certificate of a job says at a moment.

    `earlier` is what other jobs found not as drawn, `leaving` what was checked before it goes, `head` the eight words of the job,
    `faults` the pack and files that are not what was kept.

    Nothing is refused silently: whatever falls short stands among the remarks, which go on page one.

    Raises
    ------
    NothingStandsError
        Where every point that was read waits to be read again.
    """
    simulated, job = simulated_readings(job, known), evidence_of(job, known)
    found = assess_run(job, pack, known, "as found")
    left = as_left_run(job, pack, found, assess_run(job, pack, known, "as left"))
    if left.waiting and not left.results:
        raise NothingStandsError(
            worded("paper.all_points_that_were_read_wait", waiting=len(left.waiting)),
            expected=worded("paper.readings_as_left"),
        )
    if job.stay.opened is None:
        raise NothingStandsError(worded("paper.this_job_has_no_instrument_the"))
    used, unread = _used(job, known), _unread(pack, left)
    days = sorted({r.entry.at.date() for r in job.calibrate.readings})
    most, on_label = say_most(greatest_of(pack))
    stated = Stated(
        job=job, pack=pack, used=used, on=days[-1] if days else now.date(), found=found, left=left, now=now, broken=broken,
        faults=faults, leaving=leaving, simulated=simulated, unread=unread,
    )  # fmt: skip
    record = CertificateRecord(
        number=f"{now:%Y}-{job.id[:6].upper()}-{len(job.release.certificates) + 1}",
        issued_at=now,
        issued_by=who,
        shop=shop,
        maker=job.stay.details["maker"],
        type=job.stay.details["type"],
        kind=said_kind(pack.kind),
        serial=job.serial,
        owner=job.stay.details.get("owner", ""),
        pack_id=pack.id,
        pack_edition=pack.edition,
        pack_digest=pack.digest,
        head=head,
        received=job.stay.received,
        measured=tuple(days),
        told_by=_told_by(job),
        conditions=_conditions(job),
        references=tuple(_reference(s, days[-1] if days else now.date()) for s in used),
        rule=str(job.calibrate.rule),
        rule_words=RULES[job.calibrate.rule],
        coverage_words=COVERAGE_WORDS,
        advice=ADVICE,
        remarks=remarks_of(stated),
        unread=tuple(UnreadLine(function=function, range=range_) for function, range_ in unread),
        as_found=_as_found(job, found),
        as_left=_lines(job, left, found),
        as_left_note=_as_left_note(job, found, left),
        places=tuple(
            PlaceLine(
                point=p.key,
                function=p.function,
                range=p.range_name,
                limit_percent=p.limit_percent,
            )
            for p in found.points
        ),
        reference_words=_reference_words(job),
        changes=_changes(job),
        cautions=(*(c.text for c in pack.cautions if c.level == "danger"), *filter(None, (most,))),
        most=on_label,
        due=_due(job),
        pictures=_pictures(job, (found, left)),
        steady=tuple(TracedLine(text=e.body.words, entry=e.number) for e in _newest_of_each(job)),
        leaving=tuple(TracedLine(text=say_release_line(item), entry=item.entry) for item in leaving),
        not_as_drawn=(
            *(TracedLine(text=text, entry=0) for text in earlier),
            *(
                TracedLine(text=e.body.text, entry=e.number)
                for e in job.unit.not_as_drawn
                if e.body.text not in earlier
            ),
        ),
    )
    return Certificate(record, found, left)


def _unread(pack: Pack, left: RunResult) -> tuple[tuple[str, str], ...]:
    """The ranges that are declared and of which no point is stated as left, by the names they are read under.

    A range that is for what is figured from it, or only noted, covers nothing by itself.
    """
    # What waits to be read again was read: that it waits is said by itself.
    read = {tuple(key.split("/")[:2]) for key in (*left.results, *left.waiting)}
    noted = {tuple(p.key.split("/")[:2]) for p in left.points if p.noted}
    return tuple(
        (function.title, range_.title)
        for function in pack.functions
        for range_ in function.ranges
        if (function.key, range_.key) not in read | noted and function.read_as != "figured"
    )


def _told_by(job: Job) -> dict[str, int]:
    """The numbers of the entries that the head of a certificate comes from."""
    told = {key: job.stay.told_by[key] for key in ("opened", "serial", "owner") if key in job.stay.told_by}
    return {**told, "rule": job.calibrate.rule_entry} if job.calibrate.rule_entry else told


def _newest_of_each(job: Job) -> tuple[Entry[StabilityFound], ...]:
    """The newest finding of how steady each thing is."""
    return tuple({e.body.what: e for e in job.soak.steady}.values())


def _pictures(job: Job, runs: tuple[RunResult, ...]) -> tuple[PictureLine, ...]:
    """The pictures that were taken at readings which are stated, in the order of the points; each once."""
    ids = {r.entry.number: r.entry.id for r in job.calibrate.readings}
    found: dict[str, PictureLine] = {}
    for run in runs:
        for result in run.results.values():
            for reading in result.readings:
                point = result.point
                at = f"{point.range_name}: {reading.word}" if reading.word else point.name
                for file in job.calibrate.photos.get(ids.get(reading.entry, ""), ()):
                    words = f"{point.function}, {run.title}, {at}"
                    found.setdefault(file, PictureLine(text=words, file=file, entry=reading.entry))
    return tuple(found.values())


def _due(job: Job) -> DueLine | None:
    due = job.soak.due
    return DueLine(text=due.body.words, entry=due.number, on=due.body.on) if due is not None else None


def _used(job: Job, known: Mapping[str, Standard]) -> list[Standard]:
    """The standards that readings were taken by, chains with the links they stand on."""
    names = list(dict.fromkeys(r.standard for r in job.calibrate.readings))
    for name in names:
        body = known[name].body if name in known else None
        if isinstance(body, ChainRecorded):
            names += [link.standard for link in body.links if link.standard not in names]
    return [known[name] for name in names if name in known]


def _conditions(job: Job) -> tuple[ConditionLine, ...]:
    """What stood when the readings were taken: from the least to the most."""
    words = (("celsius", "Room", "°C"), ("humidity", "Relative humidity", "%"), ("line_volts", "Line", "V"))
    found = []
    for key, name, unit in words:
        noted = [r.noted[key] for r in job.calibrate.readings if key in r.noted]
        if not job.calibrate.readings and key in job.calibrate.conditions:
            noted = [job.calibrate.conditions[key]]
        missing = (
            ""
            if not noted or all(key in r.noted for r in job.calibrate.readings)
            else worded("paper.not_noted_at_all_readings")
        )
        values = sorted({e.body.value for e in noted})
        if not values:
            found.append(ConditionLine(text=worded("paper.not_noted", name=name), entry=0, which=key))
            continue
        span = f"{values[0]:g}" if len(values) == 1 else f"{values[0]:g} to {values[-1]:g}"
        found.append(
            ConditionLine(
                text=f"{name} {span} {unit}{missing}",
                entry=noted[-1].number,
                which=key,
                low=values[0],
                high=values[-1],
            )
        )
    terms = {
        (e.body.which, say_set_up(e.body)): e.number
        for r in job.calibrate.readings
        for e in r.noted.values()
        if says(e, SetUpSaid) and (e.body.value or e.body.expanded)
    }
    found += [
        ConditionLine(text=f"Set-up: {text}", entry=number, which=which) for (which, text), number in terms.items()
    ]
    return tuple(found)


def _reference_words(job: Job) -> str:
    """Say how the values of the references came: nothing unmeasured is certified."""
    counts = Counter(r.body.reference_from for r in job.calibrate.readings)
    said = [f"{counts[key]} {words}" for key, words in CAME.items() if counts[key]]
    return worded("paper.reference_values", listed=", ".join(said)) if said else ""


def _as_left_note(job: Job, found: RunResult, left: RunResult) -> str:
    if left.phase == "as found" and not job.calibrate.openings:
        return worded("paper.nothing_was_changed_or_adjusted_the")
    if left.phase == "as found":
        return worded("paper.everything_that_was_changed_was_changed", title=found.title)
    same = sum(left.results[key] is found.results.get(key) for key in left.results)
    return worded("paper.points_depend_on_nothing_that_was", same=same) if same else ""


def _as_found(job: Job, found: RunResult) -> RunLines:
    lines = _lines(job, found)
    if job.calibrate.inoperative is None:
        return lines
    return lines.model_copy(
        update={
            "outcome": INOPERATIVE,
            "sentence": worded(
                "paper.because_entry",
                reason=job.calibrate.inoperative.body.reason,
                number=job.calibrate.inoperative.number,
            ),
        }
    )


def _reference(standard: Standard, on: dt.date) -> ReferenceLine:
    how_old = standard.age(on)
    body = standard.body
    return ReferenceLine(
        name=body.name,
        serial=body.serial if isinstance(body, StandardRecorded) else "",
        calibrated_on=body.calibrated_on if isinstance(body, StandardRecorded) else None,
        state=how_old.state,
        age=how_old.sentence,
        traceability=(body.traceability or worded("paper.no_traceability_was_stated"))
        if isinstance(body, StandardRecorded)
        else worded("paper.by_its_links_which_stand_here"),
        good_for=good_for(body) if isinstance(body, StandardRecorded) else f"chain: {body.formula}",
        entry=standard.entry.number,
    )


def _changes(job: Job) -> tuple[TracedLine, ...]:
    lines = []
    for change in job.stay.changes:
        proof = job.stay.proofs.get(change.id)
        checked = worded("paper.checked_entry", check=proof.body.check, number=proof.number) if proof else ""
        lines.append(TracedLine(text=change.body.text + checked, entry=change.number))
    for entry in job.calibrate.adjustments:
        body = entry.body
        reading = (
            worded("paper.left_at_with_applied", indicated=body.indicated, reference=body.reference)
            if body.indicated is not None
            else ""
        )
        lines.append(TracedLine(text=f"Trimmed {body.trim}{body.moved_words}{reading}", entry=entry.number))
    return tuple(sorted(lines, key=lambda line: line.entry))


def _lines(job: Job, run: RunResult, found: RunResult | None = None) -> RunLines:
    """The lines of a run; as left `found` tells which points were read as left only."""
    came = {r.entry.number: r.body.reference_from for r in job.calibrate.readings}
    only = found is not None and run.phase == "as left"
    points = tuple(
        _point(
            run.results[p.key],
            came,
            "as left only" if only and found is not None and p.key not in found.results else run.state_of(p.key),
        )
        for p in run.points
        if p.key in run.results
    )
    return RunLines(phase=run.title, outcome=str(run.outcome), sentence=run.counts, points=points)


def _point(result: PointResult, came: Mapping[int, str], state: str) -> PointLine:
    point, coverage, verdict = result.point, result.coverage, result.verdict
    drawn = marks_of({point.key: result})[point.key]
    on_value = point.limit.on_value
    return PointLine(
        point=point.key,
        state=state,
        function=point.function,
        range=point.range_name,
        applied=point.applied,
        unit=point.unit,
        kind=point.kind,
        indicated=_number(result.indicated),
        reference=_number(result.reference) if point.needs_reference or not on_value else None,
        error=None if on_value or result.seen else _number(verdict.error),
        judged_in=result.unit,
        seen=result.seen,
        limit_words="" if result.seen or not point.limit.given else result.limit_shown,
        share_of_limit=drawn.height,
        uncertainty_share=drawn.bar,
        expanded_uncertainty=coverage.expanded,
        coverage_factor=coverage.factor,
        degrees_of_freedom=_number(coverage.dof),
        limit=_number(verdict.limit) if not result.seen else None,
        test_uncertainty_ratio=_number(verdict.test_uncertainty_ratio),
        probability_in_tolerance=verdict.probability_in_tolerance if point.limit.given and not result.seen else None,
        outcome=str(verdict.outcome),
        rising=result.means.rising,
        falling=result.means.falling,
        friction_divisions=result.friction_divisions,
        notes=" ".join(filter(None, (result.note, say_agreements(result)))),
        readings=tuple(
            ReadingLine(
                indicated=_number(r.indicated),
                reference=_number(r.reference),
                figures={name: value for name, value in r.figures if math.isfinite(value)},
                word=r.word,
                direction=r.direction,
                entry=r.entry,
                reference_from=came.get(r.entry, ""),
            )
            for r in result.readings
        ),
        budget=tuple(
            ContributionLine(name=c.name, standard_uncertainty=c.size, reason=c.reason)
            for c in result.budget.largest_first()
        ),
    )


def _number(value: float) -> float | None:
    """A number that JSON has; none of what is infinite or was not read."""
    return value if math.isfinite(value) else None
