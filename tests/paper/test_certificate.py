"""The certificate: it says all it must, hides nothing, can be traced, and is a PDF one can search."""

from __future__ import annotations

import datetime as dt
import io
import json

import pypdf
import pytest

from candor.core.errors import CancelledError
from candor.notebook.assessment import standards
from candor.notebook.entries import (
    ChangeMade,
    ChangeProven,
    FindingNoted,
    FindingSettled,
    StandardChosen,
    StepDone,
    StepSkipped,
)
from candor.notebook.job import fold
from candor.packs.procedure import procedure
from candor.paper.certificate import certificate_pdf
from candor.paper.record import Certificate, CertificateRecord, make_certificate
from workbench import NOW, open_job, point_steps, reading, standard_body


def certificate(notebook, job: str = "job1") -> Certificate:
    folded = fold(job, notebook.entries_of(job))
    pack = notebook.pack(folded.pack_digest)
    return make_certificate(folded, pack, standards(notebook), "My Bench", "tester", NOW)


def finished(notebook, pack, standard: str) -> None:
    """Every preparation done and every as-found point read on the mark."""
    done = [StepDone(step=s.key) for s in procedure(pack) if s.phase == "preparation"]
    notebook.append_many("job1", [*done, *(reading(s, standard) for s in point_steps(pack))])


def remarks(notebook) -> str:
    return "\n".join(line.text for line in certificate(notebook).record.remarks)


def pages(made: Certificate) -> list[str]:
    return [page.extract_text() for page in pypdf.PdfReader(io.BytesIO(certificate_pdf(made))).pages]


def test_a_clean_job_has_nothing_to_confess(notebook, pack):
    finished(notebook, pack, open_job(notebook, pack))
    record = certificate(notebook).record
    assert record.remarks == ()
    assert (record.as_found.outcome, record.as_left.outcome) == ("passes", "passes")
    assert record.as_left_note == "Nothing was changed or trimmed: as found stands as left."


def test_every_shortfall_stands_on_page_one(notebook, pack):
    open_job(notebook, pack)
    old = notebook.append("", standard_body(calibrated_on=dt.date(2020, 1, 1))).id
    hazard = notebook.append("job1", FindingNoted(zone="cord", mark="hazard", text="two-wire cord"))
    notebook.append("job1", FindingNoted(zone="supply", mark="hazard", text="selenium"))
    steps = point_steps(pack)
    notebook.append_many(
        "job1",
        [
            FindingSettled(finding=hazard.id, how="overridden", reason="owner wants it original"),
            StandardChosen(standard=old),
            StepSkipped(step=steps[-1].key, reason="no source for 1500 V"),
            reading(steps[0], old),
        ],
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
    standard = notebook.append("", body).id if body else ""
    notebook.append("job1", reading(point_steps(pack)[0], standard))
    words = remarks(notebook)
    assert ("never checked against a standard" if body else "No reference was named") in words


def test_changes_stand_with_the_check_that_proves_them(notebook, pack):
    finished(notebook, pack, open_job(notebook, pack))
    change = notebook.append("job1", ChangeMade(text="R3 replaced"))
    assert "A change was not checked afterwards: R3 replaced." in remarks(notebook)
    proof = notebook.append("job1", ChangeProven(change=change.id, check="15 V range on the mark"))
    record = certificate(notebook).record
    assert not any("not checked afterwards" in line.text for line in record.remarks)
    assert record.changes[0].text == f"R3 replaced; checked: 15 V range on the mark (entry {proof.number})"


def test_figures_on_paper_are_the_figures_of_the_core(demo):
    made = certificate(demo, "sb40188")
    text = " ".join(" ".join(pages(made)).split())
    result = made.found.results["dc+/500/500"]
    row = f"500 V {result.error:.1f} {result.coverage.expanded:.1f}".replace("-", "−")
    assert f"500 V 482.5 {row.split()[2]}" in text
    assert f"{result.coverage.factor:.2f}" in text
    assert text.count("cannot tell") >= made.found.count(result.verdict.outcome) > 0


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


def test_a_signed_certificate_can_be_made_again_from_its_entries(demo):
    """The digest in the notebook is that of the JSON as it was when it was signed."""
    job = fold("sb40188", demo.entries_of("sb40188"))
    signed = job.certificates[0]
    before = fold("sb40188", demo.entries_of("sb40188"), until=signed.at - dt.timedelta(seconds=1))
    known = {k: s for k, s in standards(demo).items() if s.entry.at <= signed.at}
    again = make_certificate(before, demo.pack(job.pack_digest), known, "Saltmarsh Bench", "J. Marsh", signed.at)
    assert again.record.digest == signed.body.digest


def test_json_holds_the_same_and_reads_back(demo):
    record = certificate(demo, "sb40188").record
    assert CertificateRecord.model_validate_json(record.to_json()) == record
    raw = json.loads(record.to_json())
    assert raw["format"] == "candor certificate 1"
    point = raw["as_left"]["points"][0]
    assert {"error", "expanded_uncertainty", "coverage_factor", "limit", "outcome", "readings", "budget"} <= set(
        point
    )


def test_pdf_is_searchable_numbered_and_carries_its_fonts(demo):
    made = certificate(demo, "sb40188")
    reader = pypdf.PdfReader(io.BytesIO(certificate_pdf(made)))
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
    notebook.append("job1", ChangeMade(text='R3 < 840 k & "cooked" <b>not bold</b> ' + "long " * 80))
    assert 'R3 < 840 k & "cooked" <b>not bold</b>' in " ".join(" ".join(pages(certificate(notebook))).split())


def test_an_empty_job_can_be_printed_and_setting_can_be_stopped(notebook, pack):
    open_job(notebook, pack)
    made = certificate(notebook)
    assert "no reading yet" in pages(made)[0]
    with pytest.raises(CancelledError):
        certificate_pdf(made, lambda: True)
