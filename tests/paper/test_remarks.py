"""One list of statements: what holds on the certificate's page one holds on label, worksheet, XML and JSON."""

import datetime as dt
import io
import json

import pypdf
import pytest

from candor.notebook.entries.arrive_entries import FindingNoted, FindingSettled
from candor.notebook.entries.calibrate_entries import AsFoundWaived, StepSkipped
from candor.notebook.entries.entry import drafts_of
from candor.notebook.entries.parts_entries import BarOverridden
from candor.notebook.entries.ranges_entries import RangeMade
from candor.notebook.entries.release_entries import LeavingOverridden
from candor.notebook.entries.soak_entries import DueSet
from candor.notebook.entries.stay_entries import ChangeMade
from candor.notebook.release.leaving import LeavingItem
from candor.notebook.soak.drifting import drift_asked, drift_view
from candor.notebook.standards.standards import standards
from candor.notebook.work.check_findings import Looked
from candor.notebook.work.description import description_of
from candor.notebook.work.evidence import evidence_of
from candor.notebook.work.job import fold
from candor.paper.certificate import certificate_pdf
from candor.paper.digital import digital_certificate
from candor.paper.gather import make_certificate
from candor.paper.history_sheet import history_pdf
from candor.paper.label import label_lines
from candor.paper.papers import Wanted, paper_of
from workbench import NOW, open_job, point_steps, reading, standard_body

BAD = LeavingItem("shake", "Shake", "bad", Looked("bad", "rattles"), by_hand=True, entry=3)


def made(notebook, leaving=()):
    folded = fold("job1", notebook.entries_of("job1"))
    return make_certificate(
        job=folded, pack=description_of(notebook, folded), known=standards(notebook), shop="My Bench", who="tester", now=NOW,
        broken=notebook.broken_links("job1"), leaving=leaving,
    ).record  # fmt: skip


def flat(pdf: bytes) -> str:
    return " ".join(" ".join(page.extract_text() for page in pypdf.PdfReader(io.BytesIO(pdf)).pages).split())


@pytest.fixture
def short_of_all(notebook, pack):
    """A job with a shortfall of every kind that readings and deeds can make."""
    open_job(notebook, pack)
    old = notebook.write("", standard_body(calibrated_on=dt.date(2020, 1, 1), link="simulated")).id
    steps = point_steps(pack)
    hazard = notebook.write("job1", FindingNoted(zone="cord", mark="hazard", text="two-wire cord"))
    notebook.append(drafts_of("job1", [
        FindingNoted(zone="supply", mark="hazard", text="selenium"),
        FindingSettled(finding=hazard.id, how="overridden", reason="kept as it was made"),
        BarOverridden(bar="sample", reason="on a series lamp"),
        StepSkipped(step=steps[-1].key, reason="no source for 1500 V"),
        RangeMade(function="Leakage", unit="A", full_scale=1e-3, divisions=50),
        RangeMade(function="Bridge", unit="V", full_scale=10, divisions=50, percent_of_full_scale=2, by="shop"),
        reading(steps[0], old), reading(steps[1], old, reference_from="captured", simulated=True),
        AsFoundWaived(), ChangeMade(text="replaced R17", part="R17"), ChangeMade(text="trimmed +DC CAL", turned="+DC CAL"),
        *(reading(steps[2], old, indicated=steps[2].point.nominal * x) for x in (0.8, 1.0, 1.2)),
        LeavingOverridden(items=("shake",), reason="he fetches it open"),
    ]))  # fmt: skip
    return notebook


def test_every_statement_stands_on_every_paper(short_of_all):
    record = made(short_of_all, (BAD,))
    assert {line.kind for line in record.remarks} >= {
        "standard", "no as found", "simulated", "waiting", "state", "unread", "unfinished", "left out", "unproven", "power",
        "overridden", "few repeats",
        "hazard", "let go", "no limit", "limit",
    }  # fmt: skip
    label = "\n".join(label_lines(record, "ab" * 32))
    page = flat(certificate_pdf(record, "ab" * 32))
    xml = " ".join(digital_certificate(record, "ab" * 32, "NO").decode().split())
    listed = json.loads(record.to_bytes())["remarks"]
    for line, as_json in zip(record.remarks, listed, strict=True):
        assert line.text in page
        assert line.text.replace("&", "&amp;") in xml
        assert (as_json["text"], as_json["entry"]) == (line.text, line.entry)
        assert line.short in label if line.short else line.kind == "unread"
    assert all(f"{x.function} {x.range} not measured" in label for x in record.unread)
    folded = fold("job1", short_of_all.entries_of("job1"))
    wanted = Wanted(known=standards(short_of_all), shop="My Bench", country="NO", on=NOW.date())
    sheet = flat(paper_of("worksheet", short_of_all, folded, wanted))
    stated = [line for line in made(short_of_all).remarks if line.kind not in ("unfinished", "not looked at")]
    assert all(line.text in sheet for line in stated)
    assert "read with what was read" not in flat(paper_of("blank-worksheet", short_of_all, folded, wanted))


def test_what_it_bears_at_most_stands_on_certificate_and_label_and_before_the_lead_moves(short_of_all, pack):
    record = made(short_of_all)
    assert "At most full scale of the range that is set" in label_lines(record, "ab" * 32)
    assert "At most full scale of the range that is set" in digital_certificate(record, "ab" * 32, "NO").decode()
    assert "Above it nothing is known to hold. 120 and 230 V line: on DC volts" in flat(
        certificate_pdf(record, "ab" * 32)
    )
    folded = fold("job1", short_of_all.entries_of("job1"))
    wanted = Wanted(known=standards(short_of_all), shop="My Bench", country="NO", on=NOW.date())
    # The procedure goes from 1500 V down to the trims at 5 V.
    assert "1.5 kV was applied last" in flat(paper_of("blank-worksheet", short_of_all, folded, wanted))


def test_a_range_declared_and_never_read_is_not_covered(short_of_all):
    record = made(short_of_all)
    said = next(line for line in record.remarks if line.kind == "unread")
    assert "Leakage 1 mA; Bridge 10 V" in said.text
    assert "DC volts − 1.5 V, 5 V, 15 V, 50 V, 150 V, 500 V, 1500 V" in said.text
    assert any(
        line.startswith("Not covered: ") and "Leakage 1 mA not measured" in line
        for line in label_lines(record, "ab" * 32)
    )


def test_a_simulated_reading_is_on_no_paper_in_no_drift_and_decides_nothing(short_of_all, pack):
    known, folded = standards(short_of_all), fold("job1", short_of_all.entries_of("job1"))
    read = [r for r in folded.calibrate.readings if r.body.simulated]
    assert len(read) == 1
    points = [p.point for run in (made(short_of_all).as_found, made(short_of_all).as_left) for p in run.points]
    assert read[0].body.point not in points
    named = evidence_of(folded, known)
    assert len(named.calibrate.readings) == len(folded.calibrate.readings) - 1
    view = drift_view(drift_asked(short_of_all, folded, known), NOW.date())
    words = {p.name for p in view.points}
    point = next(s.point for s in point_steps(pack) if s.point.key == read[0].body.point)
    assert f"{point.function}, {point.name}" not in words


def test_a_reading_captured_before_it_was_kept_that_it_was_simulated_is_none_either(notebook, pack):
    open_job(notebook, pack)
    simulated = notebook.write("", standard_body(link="simulated")).id
    notebook.write("job1", reading(point_steps(pack)[0], simulated, reference_from="captured"))
    notebook.write("job1", reading(point_steps(pack)[1], simulated, reference_from="typed"))  # by eye, of another
    folded = fold("job1", notebook.entries_of("job1"))
    assert [r.body.reference_from for r in evidence_of(folded, standards(notebook)).calibrate.readings] == ["typed"]


def test_there_is_one_due_date_and_a_newer_forecast_stands_beside_it(demo):
    job = "sb40241"
    demo.write(job, DueSet(on=dt.date(2027, 3, 5), method="custom", reason="as its maker has it"))
    folded = fold(job, demo.entries_of(job))
    view = drift_view(drift_asked(demo, folded, standards(demo)), NOW.date())
    said = flat(history_pdf(folded, view, "Ferry", NOW.date()))
    assert "Due 05 Mar 2027 Chosen" in said
    assert f"What is known today says {view.due.on:%d %b %Y}" in said
