"""Writing the demo notebook: one job finished last year, one in the middle of its as-found readings."""

from __future__ import annotations

import datetime as dt
import random
from importlib import resources
from pathlib import Path

from candor.core.calibration.point import TestPoint
from candor.core.leaving.electrical import LocalRule
from candor.core.parts.mains import Mains
from candor.core.reading.needle import dial_of
from candor.demo.by_name import write_by_name
from candor.demo.gathered_entries import Writing
from candor.demo.live_jobs import write_live_jobs
from candor.demo.parts_jobs import write_parts_jobs
from candor.demo.promised import write_promises
from candor.demo.read_jobs import write_read_jobs
from candor.demo.soaked_jobs import write_soaked
from candor.demo.suspect_jobs import write_suspect_jobs
from candor.demo.tested_jobs import write_tested_jobs
from candor.notebook.arrive.fasteners_text import read_fasteners
from candor.notebook.arrive.photos import keep_picture
from candor.notebook.entries.arrive_entries import (
    FindingNoted,
    FindingSettled,
    ItemLookedAt,
    PhotoAdded,
    PutBack,
    TakenOff,
)
from candor.notebook.entries.body import Body
from candor.notebook.entries.calibrate_entries import AdjustmentMade, ReadingTaken, StandardChosen, StepDone
from candor.notebook.entries.cleaning_entries import InsulationTested
from candor.notebook.entries.release_entries import CertificateIssued, EarthRead, LeavingChecked, TouchRead
from candor.notebook.entries.setup_entries import ConditionNoted
from candor.notebook.entries.soak_entries import DueSet
from candor.notebook.entries.standards_entries import (
    CertificateLine,
    SpecificationLine,
    StandardFunction,
    StandardRecorded,
)
from candor.notebook.entries.stay_entries import (
    ChangeMade,
    ChangeProven,
    DetailWritten,
    JobOpened,
    PriceAgreed,
    Spent,
    StatusSet,
)
from candor.notebook.entries.timers_entries import TimerStarted
from candor.notebook.parts.parts_list import list_parts
from candor.notebook.release.certificates import keep_certificate
from candor.notebook.release.leaving import leaving_list
from candor.notebook.standards.standards import standards
from candor.notebook.store import Notebook, Place, utc_now
from candor.notebook.work.job import fold
from candor.packs.bundled import bundled_packs
from candor.packs.model import Pack
from candor.packs.procedure import ProcedureStep, procedure
from candor.paper.gather import make_certificate

WHO = "J. Marsh"


class Errors:
    """What an invented instrument does wrong: gain, shift in divisions, and a share by range."""

    def __init__(self, gain: float, shift: float, by_range: dict[str, float], seed: int) -> None:
        self.gain, self.shift, self.by_range = gain, shift, by_range
        self._random = random.Random(seed)

    def needle(self, point: TestPoint) -> float:
        """Return what the needle shows, to a quarter of a tick."""
        dial = dial_of(point)
        true = point.nominal * (1 + self.gain + self.by_range.get(point.range_name, 0.0))
        ticks = dial.scale.tick_of(true / dial.multiplier) + self.shift + self._random.gauss(0, 0.06)
        return dial.scale.value_at_tick(round(ticks * 4) / 4) * dial.multiplier


BEFORE_IT_WENT: tuple[Body, ...] = (
    EarthRead(ohms=0.092, lead_ohms=0.041, amperes=10.0),
    InsulationTested(ohms=38e6, volts=500.0),
    *(
        TouchRead(amperes=amperes, is_reversed=turned, is_on=on)
        for amperes, turned, on in (
            (31e-6, False, True),
            (6e-6, False, False),
            (84e-6, True, True),
            (79e-6, True, False),
        )
    ),
    LeavingChecked(item="polarity", outcome="good"),
    LeavingChecked(item="fuse", outcome="good", text="0.25 A slow, as the panel says, in the live conductor"),
    LeavingChecked(item="switch", outcome="good"),
    LeavingChecked(item="line capacitors", outcome="good", text="none is fitted"),
    LeavingChecked(item="controls", outcome="good"),
    LeavingChecked(item="shake", outcome="good", text="one washer came out, from under the handle; put back"),
    LeavingChecked(item="bag", outcome="good", text="R6 in a bag inside"),
    LeavingChecked(item="batteries", outcome="good", text="new cell, dated"),
)


def write_demo(path: Path, now: dt.datetime | None = None) -> Notebook:
    """Write the demo notebook at `path` and return it open; dates are counted back from `now`."""
    moment = now or utc_now()
    notebook = Notebook(path, WHO, clock=lambda: moment)
    writing = Writing(notebook)
    _write_jobs(writing, moment)
    writing.write()
    notebook.clock = utc_now if now is None else notebook.clock
    return notebook


def _write_jobs(writing: Writing, moment: dt.datetime) -> None:
    shipped = {pack.id: pack for pack in bundled_packs()}
    pack = shipped["tarnholm-vm6"]
    digest = writing.notebook.keep_pack(pack)
    shop = {"shop": "Saltmarsh Bench", "country": "ZZ", "mains": "120 V 60 Hz", "esr_meter": "90 kHz"}
    settings = [DetailWritten(field=field, text=text) for field, text in shop.items()]
    writing.add_all("", settings, moment - dt.timedelta(days=800))
    old, new = _standards(writing, moment)
    _last_year(writing=writing, pack=pack, digest=digest, standard=old, start=moment - dt.timedelta(days=391))
    _in_hand(writing=writing, pack=pack, digest=digest, standard=new, now=moment)
    write_parts_jobs(writing, shipped, moment)
    write_by_name(writing, new, moment)
    write_live_jobs(writing, moment)
    names = write_read_jobs(writing, shipped, moment)
    write_tested_jobs(writing, shipped, names, moment)
    write_soaked(writing, moment)
    write_suspect_jobs(writing, pack, new, moment)
    write_promises(writing, "sb40217", moment)


def _standards(writing: Writing, now: dt.datetime) -> tuple[str, str]:
    ranges = (
        SpecificationLine(upper=0.12, percent_of_reading=0.006, percent_of_range=0.004),
        SpecificationLine(upper=1.2, percent_of_reading=0.004, percent_of_range=0.0008),
        SpecificationLine(upper=12, percent_of_reading=0.004, percent_of_range=0.0006),
        SpecificationLine(upper=120, percent_of_reading=0.0045, percent_of_range=0.0008),
        SpecificationLine(upper=1000, percent_of_reading=0.006, percent_of_range=0.001),
        SpecificationLine(upper=2000, percent_of_reading=0.05, percent_of_range=0.01),
    )
    entries = []
    for days in (520, 142):
        body = StandardRecorded(
            key="bench-meter-a", name="bench meter A", serial="SB-03", functions=(StandardFunction(ranges=ranges),),
            calibrated_on=(now - dt.timedelta(days=days)).date(), valid_days=365,
            traceability=f"Estuary Standards Room, certificate ES-{4100 + days}, traceable to national standards",
        )  # fmt: skip
        entries.append(writing.add("", body, now - dt.timedelta(days=days - 2)).id)
    points = tuple(
        CertificateLine(value=v, correction=v * 2e-5, expanded=max(v * 4e-5, 2e-6))
        for v in (0.1, 1.0, 10.0, 100.0, 1000.0)
    )
    source = StandardRecorded(
        key="dc-source", name="d.c. source box", serial="SB-11", role="source",
        functions=(StandardFunction(points=points),), drift_percent_per_year=0.002,
        calibrated_on=(now - dt.timedelta(days=700)).date(), valid_days=365,
        traceability="Estuary Standards Room, certificate ES-3977",
    )  # fmt: skip
    writing.add("", source, now - dt.timedelta(days=695))
    return entries[0], entries[1]


def _read(
    writing: Writing,
    job: str,
    step: ProcedureStep,
    errors: Errors,
    standard: str,
    at: dt.datetime,
    repeat: bool = False,
) -> None:
    point = step.point
    if point is None:
        return
    bodies = []
    for direction in ("up", "down") if repeat else ("up",):
        bodies.append(
            ReadingTaken.model_validate(
                {
                    "step": step.key, "phase": step.phase, "point": point.key, "indicated": errors.needle(point),
                    "reference": point.nominal, "direction": direction, "standard": standard,
                    "reference_from": "typed", "means": "ticks",
                }
            )
        )  # fmt: skip
    writing.add_all(job, bodies, at)


def _last_year(writing: Writing, pack: Pack, digest: str, standard: str, start: dt.datetime) -> None:
    job, minute = "sb40188", dt.timedelta(minutes=1)
    opened = JobOpened(maker=pack.maker, type=pack.type, serial="40188", pack_digest=digest)
    details = {
        "owner": "H. Ness, Fenwick Lane",
        "says": "reads low on everything",
        "stored": "heated attic",
        "cost": "90",
    }
    writing.add_all(job, [opened, *(DetailWritten(field=k, text=v) for k, v in details.items())], start)
    cord = writing.add(
        job, FindingNoted(zone="cord", mark="hazard", text="two-wire cord, no earth"), start + 4 * minute
    )
    writing.add(
        job, FindingNoted(zone="under", mark="note", text="filter can replaced once before"), start + 9 * minute
    )
    writing.add(
        job, FindingSettled(finding=cord.id, how="cleared", reason="three-wire cord fitted, case bonded, 0.06 ohm"),
        start + 70 * minute,
    )  # fmt: skip
    writing.add(job, StandardChosen(standard=standard), start + 71 * minute)
    for which, value in (("celsius", 22.4), ("humidity", 48.0), ("line_volts", 117.9)):
        writing.add(job, ConditionNoted.model_validate({"which": which, "value": value}), start + 72 * minute)
    at = start + 75 * minute
    before, after = Errors(-0.021, -0.1, {"500 V": -0.012}, 5), Errors(0.001, 0.0, {"500 V": -0.009}, 6)
    last_found = [s.key for s in procedure(pack) if s.phase == "as found"][-1]
    for step in procedure(pack):
        at += minute
        if step.kind == "wait":
            writing.add(job, TimerStarted(step=step.key, label=step.title, seconds=step.seconds), at)
            at += dt.timedelta(seconds=step.seconds)
        elif step.kind == "check":
            writing.add(job, StepDone(step=step.key), at)
        elif step.kind == "adjust" and step.point is not None:
            body = AdjustmentMade(
                step=step.key, trim=step.trim, indicated=step.point.nominal, reference=step.point.nominal
            )
            writing.add(job, body, at)
        else:
            sides = step.row in ("5 V", "500 V")
            _read(
                writing=writing,
                job=job,
                step=step,
                errors=before if step.phase == "as found" else after,
                standard=standard,
                at=at,
                repeat=sides,
            )
        if step.key == last_found:  # the part first, then the trims, then as left
            text = "replaced R6, 1 % metal film, the old one kept in a bag inside"
            change = writing.add(job, ChangeMade(text=text, part="R6"), at + minute)
            proof = ChangeProven(change=change.id, check="500 V range within a quarter tick on both polarities")
            writing.add(job, proof, at + 2 * minute)
            at += 2 * minute
    writing.add_all(job, BEFORE_IT_WENT, at + 4 * minute)
    price = PriceAgreed(agreed=180.0, an_hour=35.0)
    hours = [(70, "cleaned, cord and fuse"), (55, "R6 found and replaced"), (150, "calibrated, as found and as left")]
    spent = [Spent(minutes=minutes, text=text) for minutes, text in hours]
    writing.add_all(job, [price, *spent, Spent(money=4.6, text="R6, cord")], at + 4 * minute)
    rests = "24 months are usual for a meter that rests on a shelf between uses"
    writing.add(job, DueSet(on=(at + dt.timedelta(days=730)).date(), method="custom", reason=rests), at + 4 * minute)
    _sign(writing, job, pack, at + 5 * minute)
    due = (at + dt.timedelta(days=730)).strftime("%B %Y")
    writing.add(job, StatusSet(status="gone home", text=f"due again {due}"), at + 6 * minute)
    writing.notebook.keep_place(Place(job, "release", procedure(pack)[-1].key), at)


def _sign(writing: Writing, job: str, pack: Pack, at: dt.datetime) -> None:
    writing.write()  # a certificate names entries by their numbers
    notebook = writing.notebook
    folded = fold(job, notebook.entries_of(job))
    parts = list_parts(folded, pack, mains=Mains(120.0, 60.0))
    record = make_certificate(
        leaving=leaving_list(folded, parts, LocalRule()),
        head=notebook.head_words(job),
        job=folded,
        pack=pack,
        known=standards(notebook),
        shop="Saltmarsh Bench",
        who=WHO,
        now=at,
    ).record
    digest = keep_certificate(notebook.certificate_folder, record.to_bytes())
    body = CertificateIssued(number=record.number, digest=digest, sentence=record.as_left.sentence)
    writing.add(job, body, at)


def _in_hand(writing: Writing, pack: Pack, digest: str, standard: str, now: dt.datetime) -> None:
    job, minute = "sb40217", dt.timedelta(minutes=1)
    start = now - dt.timedelta(days=2)
    opened = JobOpened(maker=pack.maker, type=pack.type, serial="40217", pack_digest=digest)
    details = {
        "owner": "the Halvergate collection", "says": "15 V range reads high, the rest seems right",
        "stored": "dry shelf, case on", "cost": "120", "missing": "one rubber foot",
    }  # fmt: skip
    writing.add_all(job, [opened, *(DetailWritten(field=k, text=v) for k, v in details.items())], start)
    found = (
        ("cord", "hazard", "cord perished at the plug, copper showing", "cord.jpg"),
        ("case", "fix", "one foot missing, stands crooked", ""),
        ("under", "note", "R3 has been heated: body browned, reads like an earlier repair", ""),
        ("supply", "fix", "filter can has wept at its base", "can.jpg"),
        ("documents", "note", "sticker under the lid: last checked eleven years ago", ""),
    )
    folder = resources.files("candor.demo") / "photos"
    ids = {}
    for index, (zone, mark, text, photo) in enumerate(found):
        at = start + (5 + index) * minute
        body = FindingNoted.model_validate({"zone": zone, "mark": mark, "text": text})
        ids[zone] = writing.add(job, body, at).id
        if photo:
            name = keep_picture(writing.notebook.photo_folder, (folder / photo).read_bytes(), photo)
            writing.add(job, PhotoAdded(finding=ids[zone], file=name), at)
    _walk_round(writing, job, start + 20 * minute)
    settled = writing.add_all(
        job,
        [
            FindingSettled(
                finding=ids["cord"], how="cleared", reason="new three-wire cord and clamp, earth bond 0.05 ohm"
            ),
            FindingSettled(finding=ids["supply"], how="cleared", reason="filter can replaced inside the old shell"),
            ChangeMade(text="replaced C2, both sections, inside the old shell, before first power", part="C2"),
            StandardChosen(standard=standard),
        ],
        now - dt.timedelta(hours=3),
    )
    change = next(draft.id for draft in settled if isinstance(draft.body, ChangeMade))
    proof = ChangeProven(change=change, check="wattmeter 21 W cold, 19 W after a minute, no hum")
    writing.add(job, proof, now - dt.timedelta(hours=2))
    for which, value in (("celsius", 23.1), ("humidity", 45.0), ("line_volts", 118.6)):
        writing.add(job, ConditionNoted.model_validate({"which": which, "value": value}), now - 55 * minute)
    errors = Errors(-0.002, 0.0, {"5 V": 0.008, "15 V": 0.034, "50 V": -0.003, "150 V": -0.012}, 11)
    steps = procedure(pack)
    _begin(writing, job, steps, now)
    points = [s for s in steps if s.kind == "point" and s.phase == "as found"][:13]
    for index, step in enumerate(points):
        at = now - (14 - index) * minute
        _read(
            writing=writing,
            job=job,
            step=step,
            errors=errors,
            standard=standard,
            at=at,
            repeat=step.row in ("15 V", "150 V"),
        )
    target = next(s for s in steps if s.kind == "point" and s.row == "150 V" and s.point and s.point.nominal == 75)
    _read(writing=writing, job=job, step=target, errors=errors, standard=standard, at=now - minute)
    writing.notebook.keep_place(Place(job, "calibrate", target.key))


def _walk_round(writing: Writing, job: str, at: dt.datetime) -> None:
    """What was looked at and sound, the sticker, and the map of taking it apart; two steps are back on."""
    looked = (
        ("case", "missing feet"),
        ("case", "loose handle"),
        ("face", "cracked window"),
        ("face", "static on the window"),
    )
    writing.add_all(job, [ItemLookedAt(zone=zone, item=item) for zone, item in looked], at)
    sticker = f"{at.year - 11}-04-17 county laboratory, no number"
    writing.add_all(
        job,
        [
            DetailWritten(field="sticker", text=sticker),
            DetailWritten(field="drawing", text="edition 2 of the manual, folded sheet"),
            DetailWritten(field="mismatch", text="a 47 k on the chassis that the sheet does not show"),
            DetailWritten(field="repairs", text="R3 has been heated, its lead resoldered"),
        ],
        at,
    )
    steps = (
        ("case back", "4 x 12 mm pan, corners; 1 x 20 mm pan, beside the cord", ""),
        ("chassis", "2 x 8 mm hex, under the handle", "probe socket lead, white, to tag 4"),
        ("meter", "3 x 6 mm pan, behind the dial; 2 x 4 mm nut, terminals", "red to +, blue to −"),
    )
    taken = [TakenOff(what=what, fasteners=read_fasteners(held), wires=wires) for what, held, wires in steps]
    entries = writing.add_all(job, taken, at)
    writing.add_all(job, [PutBack(step=entries[2].id), PutBack(step=entries[1].id)], at + dt.timedelta(hours=20))


def _begin(writing: Writing, job: str, steps: tuple[ProcedureStep, ...], now: dt.datetime) -> None:
    minute = dt.timedelta(minutes=1)
    writing.add(job, StepDone(step=steps[0].key), now - 54 * minute)
    wait = steps[1]
    writing.add(job, TimerStarted(step=wait.key, label=wait.title, seconds=wait.seconds), now - 52 * minute)
    writing.add(job, StepDone(step=steps[2].key), now - 18 * minute)
