"""The certificate: it says all it must, hides nothing, can be traced, and is a PDF one can search."""

from __future__ import annotations

import datetime as dt
import hashlib
import io
import json
from dataclasses import replace

import pypdf
import pytest

from candor.core.errors import CancelledError
from candor.core.quantities import plain, signed
from candor.core.quantities.show import decimals
from candor.notebook.entries.arrive_entries import FindingNoted, FindingSettled
from candor.notebook.entries.body import Unreadable
from candor.notebook.entries.calibrate_entries import (
    AdjustmentMade,
    ArrivedDead,
    StandardChosen,
    StepDone,
    StepSkipped,
)
from candor.notebook.entries.entry import drafts_of
from candor.notebook.entries.ranges_entries import RangeMade
from candor.notebook.entries.setup_entries import ConditionNoted, SetUpSaid
from candor.notebook.entries.stay_entries import ChangeMade, ChangeProven, DetailWritten, JobOpened, NoteWritten
from candor.notebook.entries.unit_entries import NotAsDrawn
from candor.notebook.release.certificates import CertificateFileError, read_certificate
from candor.notebook.standards.standards import standards
from candor.notebook.work.description import description_of
from candor.notebook.work.job import fold
from candor.notebook.work.states import standing_certificate
from candor.packs.procedure import procedure
from candor.paper.certificate import certificate_pdf
from candor.paper.gather import Certificate, NothingStandsError, make_certificate
from candor.paper.record import CertificateRecord
from workbench import NOW, open_job, point_steps, reading, standard_body


def certificate(notebook, job: str = "job1") -> Certificate:
    folded = fold(job, notebook.entries_of(job))
    pack = notebook.pack(folded.pack_digest)
    return make_certificate(job=folded, pack=pack, known=standards(notebook), shop="My Bench", who="tester", now=NOW)


def finished(notebook, pack, standard: str) -> None:
    """Every preparation done and every as-found point read on the mark."""
    done = [StepDone(step=s.key) for s in procedure(pack) if s.phase == "preparation"]
    notebook.append(drafts_of("job1", [*done, *(reading(s, standard) for s in point_steps(pack))]))


def remarks(notebook) -> str:
    return "\n".join(line.text for line in certificate(notebook).record.remarks)


def pages(made: Certificate, digest: str = "") -> list[str]:
    return [page.extract_text() for page in pypdf.PdfReader(io.BytesIO(certificate_pdf(made.record, digest))).pages]


def test_a_clean_job_has_nothing_to_confess(notebook, pack):
    finished(notebook, pack, open_job(notebook, pack))
    record = certificate(notebook).record
    assert record.remarks == ()
    assert (record.as_found.outcome, record.as_left.outcome) == ("passes", "passes")
    assert (
        record.as_left_note == "Nothing was changed or adjusted: the as-found results are also the as-left results."
    )


def test_every_shortfall_stands_on_page_one(notebook, pack):
    open_job(notebook, pack)
    old = notebook.write("", standard_body(calibrated_on=dt.date(2020, 1, 1))).id
    hazard = notebook.write("job1", FindingNoted(zone="cord", mark="hazard", text="two-wire cord"))
    notebook.write("job1", FindingNoted(zone="supply", mark="hazard", text="selenium"))
    steps = point_steps(pack)
    notebook.append(
        drafts_of(
            "job1",
            [
                FindingSettled(finding=hazard.id, how="overridden", reason="owner wants it original"),
                StandardChosen(standard=old),
                StepSkipped(step=steps[-1].key, reason="no source for 1500 V"),
                reading(steps[0], old),
            ],
        )
    )
    words = remarks(notebook)
    for part in (
        "was due on 2020-12-31", "The procedure is not finished", "because no source for 1500 V",
        "Hazard overridden: two-wire cord. Reason: owner wants it original.", "Hazard not cleared: selenium.",
    ):  # fmt: skip
        assert part in words
    first = " ".join(pages(certificate(notebook))[0].split())
    assert "To be read with the verdicts" in first
    for line in certificate(notebook).record.remarks:
        assert line.text in first


@pytest.mark.parametrize("body", [standard_body(calibrated_on=None), None])
def test_a_reference_never_checked_or_never_named_is_said(notebook, pack, body):
    open_job(notebook, pack)
    standard = notebook.write("", body).id if body else ""
    notebook.write("job1", reading(point_steps(pack)[0], standard))
    words = remarks(notebook)
    assert ("never checked against a standard" if body else "No reference was named") in words


def test_changes_stand_with_the_check_that_proves_them(notebook, pack):
    finished(notebook, pack, open_job(notebook, pack))
    notebook.write("job1", ChangeMade(text="R14 replaced", part="R14"))
    change = notebook.write("job1", ChangeMade(text="R3 replaced", part="R13"))
    assert "A change was not checked afterwards: R3 replaced." in remarks(notebook)
    proof = notebook.write("job1", ChangeProven(change=change.id, check="15 V range on the mark"))
    record = certificate(notebook).record
    assert not any("not checked afterwards: R3" in line.text for line in record.remarks)
    assert record.changes[1].text == f"R3 replaced; checked: 15 V range on the mark (entry {proof.number})"


def test_the_set_up_stands_in_the_budget_and_among_the_conditions(notebook, pack):
    """In force from when it is said until it is said anew: a reading of before has none of it."""
    open_job(notebook, pack)
    standard = notebook.write("", standard_body()).id
    first, second, third = point_steps(pack)[:3]
    notebook.append(
        drafts_of(
            "job1", [reading(first, standard), SetUpSaid(which="thermal", value=5e-3), reading(second, standard)]
        )
    )
    notebook.append(drafts_of("job1", [SetUpSaid(which="thermal", value=0.0), reading(third, standard)]))
    record = certificate(notebook).record
    with_it = [p.point for p in record.as_found.points if any(c.name == "thermal e.m.f." for c in p.budget)]
    assert with_it == [second.point.name.split(", ")[-1]] or len(with_it) == 1
    assert "Set-up: thermal e.m.f. ±5 mV" in [line.text for line in record.conditions]


def test_figures_on_paper_are_the_figures_of_the_core(demo):
    made = certificate(demo, "sb40188")
    text = " ".join(" ".join(pages(made)).split())
    result = made.found.results["dc+/500/500"]
    places = decimals(result.coverage.expanded)
    row = f"500 V {plain(result.indicated, places)} {signed(result.verdict.error, places)} "
    assert f"{row}{plain(result.coverage.expanded, places)} {result.coverage.factor:.2f} 15" in text


def test_everything_can_be_traced_to_an_entry(demo):
    record = certificate(demo, "sb40188").record
    entries = {e.number: e for job in ("", "sb40188") for e in demo.entries_of(job)}
    for run in (record.as_found, record.as_left):
        for point in run.points:
            for line in point.readings:
                assert entries[line.entry].body.point == point.point
                assert entries[line.entry].body.indicated == line.indicated
    assert entries[record.told_by["owner"]].body.text == record.owner
    assert entries[record.told_by["opened"]].body.serial == record.serial
    for line in (*record.changes, *record.conditions, *record.references):
        assert line.entry in entries
    text = " ".join(pages(certificate(demo, "sb40188")))
    assert str(record.as_found.points[3].readings[0].entry) in text


def test_what_is_signed_is_what_is_printed(demo):
    """The digest in the notebook is that of the bytes kept beside it, and of what the paper says it is."""
    signed = fold("sb40188", demo.entries_of("sb40188")).release.certificates[0]
    content = read_certificate(demo.certificate_folder, signed.body.digest)
    assert hashlib.sha256(content).hexdigest() == signed.body.digest
    record = CertificateRecord.model_validate_json(content)
    assert record.number == signed.body.number
    assert record.issued_at == signed.at
    text = pypdf.PdfReader(io.BytesIO(certificate_pdf(record, signed.body.digest))).pages[-1].extract_text()
    assert signed.body.digest in text
    assert "Draft" not in text
    path = demo.certificate_folder / f"{signed.body.digest}.json"
    path.write_bytes(content.replace(b"passes", b"fails ", 1))
    with pytest.raises(CertificateFileError, match="not what was signed"):
        read_certificate(demo.certificate_folder, signed.body.digest)
    path.unlink()
    with pytest.raises(CertificateFileError, match="it was moved, or signed before certificates were kept as files"):
        read_certificate(demo.certificate_folder, signed.body.digest)
    with pytest.raises(CertificateFileError, match="not a digest"):
        read_certificate(demo.certificate_folder, "../../etc/passwd")


def test_a_draft_says_so_and_a_later_entry_makes_the_signed_one_history(demo):
    job = fold("sb40188", demo.entries_of("sb40188"))
    assert standing_certificate(job) == job.release.certificates[0]  # only the shelf changed since
    assert "draft" in pages(certificate(demo, "sb40188"))[0]
    demo.write("sb40188", ConditionNoted(which="celsius", value=21.0))
    assert standing_certificate(fold("sb40188", demo.entries_of("sb40188"))) is None


def test_points_that_wait_are_counted_on_page_one_and_nothing_is_certified_where_all_do(notebook, pack):
    standard = open_job(notebook, pack)
    finished(notebook, pack, standard)
    notebook.write("job1", AdjustmentMade(step="trim-plus", trim="+DC CAL"))
    made = certificate(notebook)
    text = "21 points wait to be read again since: +DC CAL was turned. No earlier reading is stated as left."
    assert text in remarks(notebook)
    assert text in " ".join(pages(made)[0].split())
    assert {p.function for p in made.record.as_left.points} == {"DC volts −"}
    assert (
        made.record.as_left_note
        == "21 points depend on nothing that was changed: their as-found results are also as left."
    )
    notebook.write("job1", ChangeMade(text="disturbed the wiring harness"))
    with pytest.raises(NothingStandsError, match="All 42 points that were read must be read again"):
        certificate(notebook)


def test_how_the_reference_came_and_what_stood_at_the_readings_are_said(notebook, pack):
    standard = open_job(notebook, pack)
    steps = point_steps(pack)
    notebook.write("job1", reading(steps[0], standard, reference_from="as set"))
    notebook.write("job1", ConditionNoted(which="celsius", value=22.5))
    notebook.write("job1", reading(steps[1], standard, reference_from="typed"))
    notebook.write("job1", ConditionNoted(which="celsius", value=24.0))
    notebook.write("job1", reading(steps[2], standard))
    notebook.write("job1", ConditionNoted(which="celsius", value=99.0))
    record = certificate(notebook).record
    assert record.reference_words == (
        "Reference values: 1 read and typed, 1 of a source or fixed part, as set, 1 of entries that did not keep how."
    )
    assert record.conditions[0].text == "Room 22.5 to 24 °C, not noted at all readings"
    assert record.reference_words in " ".join(" ".join(pages(certificate(notebook))).split())


def test_an_instrument_that_arrived_dead_says_so(notebook, pack):
    standard = open_job(notebook, pack)
    dead = notebook.write("job1", ArrivedDead(reason="the filter can is open, no rail comes up"))
    done = [StepDone(step=s.key) for s in procedure(pack) if s.phase == "preparation"]
    zero = StepDone(step="zero-again")
    notebook.append(drafts_of("job1", [*done, zero, *(reading(s, standard) for s in point_steps(pack, "as left"))]))
    made = certificate(notebook)
    assert made.record.as_found.outcome == "inoperative"
    assert made.record.as_left.outcome == "passes"
    assert made.record.remarks == ()
    words = f"As found: inoperative because the filter can is open, no rail comes up (entry {dead.number})"
    assert words in " ".join(pages(made)[0].split())


def test_parts_changed_first_make_it_as_received_after_repair(notebook, pack):
    standard = open_job(notebook, pack)
    notebook.write("job1", ChangeMade(text="replaced R3", part="R3"))
    finished(notebook, pack, standard)
    record = certificate(notebook).record
    assert record.as_found.phase == "as received after repair"
    assert "as received after repair, not as found" in remarks(notebook)


def test_rising_and_falling_stand_on_paper(notebook, pack):
    standard = open_job(notebook, pack)
    step = next(s for s in point_steps(pack) if s.point.key == "dc+/150/75")
    notebook.append(
        drafts_of(
            "job1", [reading(step, standard, 0.97, direction="up"), reading(step, standard, 1.01, direction="down")]
        )
    )
    point = certificate(notebook).record.as_found.points[0]
    assert (point.rising, point.falling, point.error) == pytest.approx((-2.25, 0.75, -2.25))
    text = " ".join(" ".join(pages(certificate(notebook))).split())
    assert "rising −2.25, falling +0.75 V, friction 0.3 division" in text


def test_two_standards_at_one_point_stand_as_two(notebook, pack):
    first = open_job(notebook, pack)
    second = notebook.write("", standard_body(key="b", name="other", calibrated_on=dt.date(2026, 6, 1))).id
    step = point_steps(pack)[0]
    notebook.append(drafts_of("job1", [reading(step, first, 1.0), reading(step, second, 1.02)]))
    record = certificate(notebook).record
    assert len(record.as_found.points[0].readings) == 1  # never one mean
    assert "They disagree: find out which one is wrong" in remarks(notebook)
    assert {r.name for r in record.references} == {"bench meter", "other"}


@pytest.mark.parametrize("field", ["serial", "owner"])
def test_words_of_any_length_are_printed_whole_over_pages(notebook, pack, field):
    open_job(notebook, pack)
    long = "x" * 2000 + " " + "word " * 400 + "END"
    notebook.write("job1", DetailWritten(field=field, text=long))
    notebook.write("job1", FindingNoted(zone="cord", mark="hazard", text="frayed " * 300 + "FRAYED-END"))
    text = "".join("".join(pages(certificate(notebook))).split())
    assert "x" * 2000 in text
    assert "FRAYED-END" in text
    assert "wordEND" in text


def test_json_holds_the_same_and_reads_back(demo):
    record = certificate(demo, "sb40188").record
    assert CertificateRecord.model_validate_json(record.to_bytes()) == record
    raw = json.loads(record.to_bytes())
    assert raw["format"] == "candor certificate 2"
    point = raw["as_left"]["points"][0]
    assert {"error", "expanded_uncertainty", "coverage_factor", "limit", "outcome", "readings", "budget"} <= set(
        point
    )


def test_every_line_the_rules_ask_for_is_on_paper(demo):
    """JCGM and ISO/IEC 17025, 7.8 (from memory): rule, coverage, traceability, conditions, cautions, U beside every error."""
    made = certificate(demo, "sb40188")
    text = " ".join(" ".join(pages(made)).split())
    record = made.record
    pack = demo.pack(fold("sb40188", demo.entries_of("sb40188")).pack_digest)
    cautions = [" ".join(c.text.split()) for c in pack.cautions if c.level == "danger"]
    assert len(cautions) >= 2
    for words in (
        record.rule_words,
        record.coverage_words,
        record.advice,
        record.reference_words,
        *cautions,
    ):
        assert words
        assert words in text
    assert len(record.references) >= 1
    assert len(record.conditions) >= 2
    for line in record.references:
        assert line.traceability
        assert line.traceability in text
        assert line.age in text
    for line in record.conditions:
        assert line.text in text
    for point in record.as_found.points:
        places = decimals(point.expanded_uncertainty)
        assert f"{signed(point.error, places)} {plain(point.expanded_uncertainty, places)}" in text


def test_pdf_is_searchable_numbered_and_carries_its_fonts(demo):
    made = certificate(demo, "sb40188")
    reader = pypdf.PdfReader(io.BytesIO(certificate_pdf(made.record)))
    texts = [page.extract_text() for page in reader.pages]
    for number, text in enumerate(texts, 1):
        assert f"page {number} of {len(texts)}" in text
    assert reader.metadata.title == f"Certificate of calibration {made.record.number}"
    for page in reader.pages:
        for font in page["/Resources"]["/Font"].values():
            descriptor = font.get_object()["/FontDescriptor"].get_object()
            assert "B612" in descriptor["/FontName"]
            assert "/FontFile2" in descriptor


def test_awkward_words_are_set_as_written(notebook, pack):
    finished(notebook, pack, open_job(notebook, pack))
    notebook.write("job1", ChangeMade(text='R3 < 840 k & "cooked" <b>not bold</b> ' + "long " * 80, part="R13"))
    assert 'R3 < 840 k & "cooked" <b>not bold</b>' in " ".join(" ".join(pages(certificate(notebook))).split())


def test_an_empty_job_can_be_printed_and_setting_can_be_stopped(notebook, pack):
    open_job(notebook, pack)
    made = certificate(notebook)
    assert "no reading yet" in pages(made)[0]
    with pytest.raises(CancelledError):
        certificate_pdf(made.record, "", lambda: True)


def test_an_entry_that_cannot_be_read_stands_on_page_one(notebook, pack):
    standard = open_job(notebook, pack)
    notebook.append(drafts_of("job1", [reading(s, standard) for s in point_steps(pack)[:2]]))
    note = notebook.write("job1", NoteWritten(text="x"))
    entries = [
        replace(e, body=Unreadable(says="note", why="version: Input should be 1")) if e.id == note.id else e
        for e in notebook.entries_of("job1")
    ]
    made = make_certificate(
        fold("job1", entries), pack, standards(notebook), shop="a shop", who="x", now=NOW
    ).record  # fmt: skip
    assert (made.remarks[0].entry, "cannot read an entry" in made.remarks[0].text) == (note.number, True)


def test_a_job_with_nothing_but_a_name_says_whose_limits_and_what_stays_with_it(notebook):
    notebook.write("", standard_body())
    notebook.write("job1", JobOpened(maker="Corvane", type="AV-20", serial="3310"))
    common = {"full_scale": 30, "divisions": 30, "function": "DC"}
    notebook.write("job1", RangeMade(**common, unit="V", percent_of_full_scale=3, by="owner"))
    notebook.write("job1", RangeMade(**common, unit="A"))
    notebook.write("job1", NotAsDrawn(text="a fuse added"))
    job = fold("job1", notebook.entries_of("job1"))
    made = make_certificate(
        job=job, pack=description_of(notebook, job), known=standards(notebook), shop="", who="", now=NOW,
        earlier=("the handle is of another", "a fuse added"),
    )  # fmt: skip
    said = "\n".join(line.text for line in made.record.remarks)
    assert "30 V range: limit ±(3 % of full scale), the owner's, not the maker's." in said
    assert "30 A range: no limit was given, so nothing is decided there." in said
    assert [line.text for line in made.record.not_as_drawn] == ["the handle is of another", "a fuse added"]
    words = "\n".join(pages(made))
    assert "no procedure of the maker" in words
    assert "Not as drawn" in words


def test_two_functions_fit_page_one_and_what_is_short_begins_no_page(demo):
    job = fold("sb40230", demo.entries_of("sb40230"))
    made = make_certificate(
        job=job,
        pack=description_of(demo, job),
        known=standards(demo),
        shop="Saltmarsh Bench",
        who="J. Marsh",
        now=NOW,
    )
    said = pages(made)
    assert len(said) == 2
    assert "licensed practice" in said[0]
