"""Labels, worksheets, bills and history sheets: what they state is what was signed, read, spent; nothing is left out unsaid."""

from __future__ import annotations

import datetime as dt
import io
import re

import pypdf
import pytest

from candor.demo.demo_notebook import write_demo
from candor.notebook.entries.stay_entries import JobOpened, PriceAgreed, Spent
from candor.notebook.exchange.travel import read_travelling
from candor.notebook.exchange.travel_out import travelling
from candor.notebook.release.certificates import read_certificate
from candor.notebook.soak.drifting import drift_asked, drift_view
from candor.notebook.standards.standards import standards
from candor.notebook.storage.checking import find_head
from candor.notebook.work.description import description_of
from candor.notebook.work.job import fold
from candor.packs.procedure import procedure
from candor.paper.bill import NothingSpentError, bill_of, bill_pdf
from candor.paper.certificate import certificate_pdf
from candor.paper.history_sheet import history_pdf
from candor.paper.label import MORE, NotSignedError, label_lines, label_pdf, not_covered
from candor.paper.papers import Wanted, paper_of
from candor.paper.record import CertificateRecord
from candor.paper.worksheet import worksheet_pdf

ON = dt.date(2026, 11, 23)


@pytest.fixture(scope="module")
def demo(tmp_path_factory):
    notebook = write_demo(tmp_path_factory.mktemp("papers") / "d.candor")
    yield notebook
    notebook.close()


@pytest.fixture(scope="module")
def signed(demo):
    digest = fold("sb40188", demo.entries_of("sb40188")).release.certificates[-1].body.digest
    return CertificateRecord.model_validate_json(read_certificate(demo.certificate_folder, digest)), digest


def words(pdf: bytes) -> str:
    return " ".join(" ".join(page.extract_text().split()) for page in pypdf.PdfReader(io.BytesIO(pdf)).pages)


def fonts(pdf: bytes) -> set[tuple[str, bool]]:
    found = set()
    for page in pypdf.PdfReader(io.BytesIO(pdf)).pages:
        for font in page["/Resources"]["/Font"].values():
            described = font.get_object().get("/FontDescriptor")
            found.add((font["/BaseFont"], described is not None and "/FontFile2" in described))
    return found


def test_a_label_says_what_was_signed_in_two_sizes_and_fits_them(signed):
    record, digest = signed
    for size, millimetres in (("small", (54, 25)), ("large", (89, 50))):
        pdf = label_pdf(record, digest, size)
        page = pypdf.PdfReader(io.BytesIO(pdf)).pages[0]
        assert [float(x) * 25.4 / 72 for x in page.mediabox[2:]] == pytest.approx(millimetres, abs=0.01)
        said = words(pdf)
        for part in (record.serial, record.number, "As left passes", record.due.text.partition(",")[0]):
            assert part in said
        assert all(embedded for _, embedded in fonts(pdf))
    with pytest.raises(NotSignedError, match="sign the certificate first"):
        label_pdf(record, "", "small")


def with_points(record, found, left):
    as_found, as_left = record.as_found, record.as_left
    return record.model_copy(
        update={
            "as_found": as_found.model_copy(update={"points": tuple(found)}),
            "as_left": as_left.model_copy(update={"points": tuple(left)}),
        }
    )


def test_a_label_names_each_range_that_is_not_covered_or_that_there_is_more(signed):
    record, digest = signed
    assert not_covered(record) == ()
    left = record.as_left
    gone = tuple(p for p in left.points if p.range != "500 V")
    fails = tuple(
        p.model_copy(update={"outcome": "fails"}) if (p.function, p.range) == ("DC volts +", "5 V") else p
        for p in gone
    )
    made = with_points(record, record.as_found.points, fails)  # what was found there is history
    assert not_covered(made) == (
        "DC volts + 5 V out of tolerance",
        "DC volts + 500 V not measured",
        "DC volts − 500 V not measured",
    )
    assert "Not covered: DC volts + 5 V out of tolerance" in words(label_pdf(made, digest, "large"))
    noted = tuple(p.model_copy(update={"outcome": "noted"}) if p.range == "5 V" else p for p in left.points)
    assert not_covered(with_points(record, record.as_found.points, noted)) == ()  # nobody reads the instrument there
    none = with_points(record, (), ())
    small = words(label_pdf(none, digest, "small"))
    assert all(part in small for line in label_lines(none, digest) for part in line.split()) or MORE in small
    assert "Not covered" in small


def test_a_worksheet_has_every_step_and_filled_every_reading(demo):
    job = fold("sb40188", demo.entries_of("sb40188"))
    pack = description_of(demo, job)
    blank, filled = (words(worksheet_pdf(job, pack, "Ferry", ON, full)) for full in (False, True))
    assert "Caution:" in blank
    assert not re.search(r"entry \d", blank)
    assert all(f"(entry {r.entry.number})" in filled for r in job.calibrate.readings)
    read = {(r.body.phase, r.body.point) for r in job.calibrate.readings}
    open_ = [s for s in procedure(pack) if s.point is not None and (s.phase, s.point.key) not in read]
    assert filled.count("______ ______ ______ ______") == len(open_)
    assert blank.count("______ ______ ______ ______") == len([s for s in procedure(pack) if s.point is not None])


@pytest.fixture
def spent(notebook):
    def of(*bodies):
        notebook.write("j", JobOpened(maker="Corvane", type="AV-20", serial="3310"))
        for body in bodies:
            notebook.write("j", body)
        return fold("j", notebook.entries_of("j"))

    return of


@pytest.mark.parametrize(
    ("agreed", "an_hour", "pays", "says"),
    [
        (0.0, 0.0, 12.5, "No rate"),
        (0.0, 40.0, 42.5, "No price"),
        (60.0, 40.0, 42.5, "Within"),
        (30.0, 40.0, 30.0, "12.50 more"),
    ],
)
def test_a_bill_asks_for_no_more_than_was_agreed(spent, agreed, an_hour, pays, says):
    job = spent(
        PriceAgreed(agreed=agreed, an_hour=an_hour),
        Spent(minutes=45, text="cleaning"),
        Spent(money=12.5, text="two parts"),
    )
    bill = bill_of(job)
    assert (bill.to_pay, says in bill.words, len(bill.lines)) == (pays, True, 2)
    assert f"{pays:.2f}" in words(bill_pdf(job, "Ferry", ON))


def test_there_is_no_bill_of_nothing(spent):
    with pytest.raises(NothingSpentError):
        bill_of(spent())


def test_a_history_sheet_has_a_line_for_each_point_and_says_what_is_only_its_kinds(demo):
    job = fold("sb40241", demo.entries_of("sb40241"))
    view = drift_view(drift_asked(demo, job, standards(demo)), ON)
    pdf = history_pdf(job, view, "Ferry", ON)
    said = words(pdf)
    assert f"Due {view.day:%d %b %Y}" in said
    assert all(point.name.split(",")[0] in said for point in view.points)
    singles = sum(sum(len(s.results) for s in p.segments) == 1 for p in view.points)
    assert said.count("by its kind alone") == singles
    assert all(embedded for _, embedded in fonts(pdf))


def test_every_paper_bears_the_words_that_prove_the_notebook(demo, signed, tmp_path):
    """Certificate, label, filled worksheet, digital certificate and zip: the words are those of the job when it was made."""
    record, digest = signed
    assert len(record.head.split()) == 8
    assert find_head(demo.path, record.head).job == "sb40188"
    job = fold("sb40188", demo.entries_of("sb40188"))
    wanted = Wanted(known=standards(demo), shop="Ferry", country="NL", on=ON)
    none = with_points(record, (), ())  # as much as no label has room for
    crowded = words(label_pdf(none, digest, "small"))
    assert MORE in crowded
    for said in (
        words(certificate_pdf(record, digest)), words(label_pdf(record, digest, "small")), crowded,
        " ".join(paper_of("digital", demo, job, wanted).decode().split()),
    ):  # fmt: skip
        assert record.head in said
    now = demo.head_words("sb40188")
    assert now != record.head  # it was signed, and more, since
    assert now in words(paper_of("worksheet", demo, job, wanted))
    assert "Proof:" not in words(paper_of("blank-worksheet", demo, job, wanted))
    zipped = tmp_path / "x.zip"
    zipped.write_bytes(travelling(demo, "sb40188"))
    assert read_travelling(zipped).says.head == now
    assert find_head(demo.path, now).since == 0
