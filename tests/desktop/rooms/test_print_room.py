"""Printing: the pages are shown first, each at its own size; a printer's questions are its own; nothing waits in the window."""

import io

import numpy as np
import pypdf
import pytest
from PySide6.QtCore import Qt
from PySide6.QtPrintSupport import QPrintDialog, QPrinter
from PySide6.QtTest import QTest

from candor.desktop.frame.drawn_pdf import draw_pdf, print_pdf, sizes_of
from candor.desktop.frame.file_names import keep_in, open_name, save_name
from candor.desktop.frame.preferences import Preferences
from candor.paper.names import file_name

MM = 25.4 / 72


@pytest.fixture
def signed(show, demo):
    window = show(demo)
    window.shelf.job.emit("sb40188")
    window.go_to_stop("release")
    window.release.show_view("papers")
    return window


def shown(qtbot, window, key):
    """Look at a paper as it will be printed."""
    window.release.papers.prints[key].click()
    page = window.rooms["print"]
    qtbot.waitUntil(page.print_.isEnabled, timeout=20_000)
    return page


def made_folder(tmp_path):
    (tmp_path / "papers").mkdir()
    return tmp_path / "papers"


def rows_of(image):
    """How dark each fourth row of a page is."""
    return [sum(255 - image.pixelColor(x, y).lightness() for x in range(0, 400, 2)) for y in range(0, 560, 2)]


def likeness(one, other):
    """How alike the rows of two pages are, whichever way they are rounded to pixels."""
    return max(np.corrcoef(np.roll(one, shift), other)[0, 1] for shift in (-1, 0, 1))


def pages_of(path):
    return [(float(p.mediabox.width) * MM, float(p.mediabox.height) * MM) for p in pypdf.PdfReader(path).pages]


@pytest.mark.parametrize(
    ("key", "size"), [("label", (54, 25)), ("owner-card", (148, 210)), ("blank-worksheet", (210, 297))]
)
def test_a_paper_is_shown_and_printed_at_its_own_size(qtbot, signed, tmp_path, monkeypatch, key, size):
    page = shown(qtbot, signed, key)
    assert page.words.text().endswith(f"{size[0]} × {size[1]} mm.")
    asked = []

    def accept(dialog):
        asked.append(dialog.windowTitle())
        printer = dialog.printer()
        printer.setOutputFormat(QPrinter.OutputFormat.PdfFormat)
        printer.setOutputFileName(str(tmp_path / "out.pdf"))
        return True

    monkeypatch.setattr(QPrintDialog, "exec", accept)
    QTest.keyClick(page, Qt.Key.Key_P, Qt.KeyboardModifier.ControlModifier)
    qtbot.waitUntil(lambda: "sent to" in page.words.text(), timeout=20_000)
    assert asked == [f"Print: {page.title.text()}"]
    printed = pages_of(tmp_path / "out.pdf")
    assert len(printed) == len(page._sizes)
    assert printed[0] == pytest.approx(size, abs=0.6)
    qtbot.keyClick(page, Qt.Key.Key_Escape)
    assert signed.work.currentWidget() is signed.release


def test_only_the_pages_that_are_asked_for_are_printed(qtbot, signed, tmp_path):
    page = shown(qtbot, signed, "blank-worksheet")
    assert len(page._sizes) > 1
    printer = page.printer()
    printer.setOutputFormat(QPrinter.OutputFormat.PdfFormat)
    printer.setOutputFileName(str(tmp_path / "second.pdf"))
    printer.setFromTo(2, 2)
    assert print_pdf(page._pdf, printer, lambda: False) == 1
    assert len(pages_of(tmp_path / "second.pdf")) == 1
    assert print_pdf(page._pdf, page.printer(), lambda: True) == 0  # stopped before the first
    ink = rows_of(draw_pdf((tmp_path / "second.pdf").read_bytes(), 400, lambda: False)[0])
    first, second = (rows_of(image) for image in draw_pdf(page._pdf, 400, lambda: False)[:2])
    assert likeness(ink, second) > 0.6 > likeness(ink, first)


def test_the_certificate_is_printed_by_ctrl_p_and_a_paper_that_cannot_be_says_why(qtbot, show, demo):
    window = show(demo)
    window.shelf.job.emit("sb40217")
    window.go_to_stop("release")
    window.release.show_view("paper")
    qtbot.waitUntil(window.release.print_.isEnabled, timeout=20_000)
    QTest.keyClick(window.release, Qt.Key.Key_P, Qt.KeyboardModifier.ControlModifier)
    page = window.rooms["print"]
    assert page.title.text().startswith("Draft of certificate")
    qtbot.waitUntil(page.print_.isEnabled, timeout=20_000)
    window.guide.leave()
    window.release.show_view("papers")
    window.release.papers.prints["label"].click()
    qtbot.waitUntil(lambda: "sign" in page.words.text().lower(), timeout=20_000)
    assert not page.print_.isEnabled()


def test_all_papers_go_into_one_folder_by_one_scheme_of_names(qtbot, signed, tmp_path):
    panel = signed.release.papers
    with qtbot.waitSignal(panel.work.answered, timeout=60_000):
        panel.save_all(made_folder(tmp_path))
    names = sorted(path.name for path in (tmp_path / "papers").iterdir())
    assert [name for name in names if not name.startswith("Tarnholm_VM-6_40188_")] == []
    assert {"certificate", "label", "owner", "correction", "worksheet"} <= {
        name.removeprefix("Tarnholm_VM-6_40188_").split("_")[0] for name in names
    }
    assert signed.jot.message.text() == f"Saved as {len(names)} papers in papers."
    signed.shelf.job.emit("sb40217")
    with qtbot.waitSignal(panel.work.answered, timeout=60_000):
        panel.save_all(tmp_path)
    assert "Not made: Label: There is no certificate: none is signed" in signed.jot.message.text()
    assert any(tmp_path.glob("*40217_worksheet_*"))


def test_names_keep_what_a_file_is_however_long_an_instrument_is_called():
    name = file_name("M" * 90, "1", "certificate", "pdf", "2026-1")
    assert name.endswith("_certificate_2026-1.pdf")
    assert len(name) < 90
    assert file_name("A/B", "", "label", "pdf") == "A_B_label.pdf"


def test_dialogs_start_where_they_were_left(tmp_path, monkeypatch):
    kept = Preferences("light", 1.0, tmp_path / "look.json")
    keep_in(kept)
    asked = []

    def choose(_parent, _title, start, _kinds):
        asked.append(start)
        return str(tmp_path / "there" / "x.csv"), ""

    (tmp_path / "there").mkdir()
    monkeypatch.setattr("candor.desktop.frame.file_names.QFileDialog.getOpenFileName", choose)
    monkeypatch.setattr("candor.desktop.frame.file_names.QFileDialog.getSaveFileName", choose)
    monkeypatch.setattr("candor.desktop.frame.file_names._documents", lambda: str(tmp_path))
    open_name(None, "Stock", "*.csv")
    open_name(None, "Stock", "*.csv")
    save_name(None, "Order", "order_1.csv", "*.csv")
    assert asked == [str(tmp_path), str(tmp_path / "there"), str(tmp_path / "there" / "order_1.csv")]
    assert Preferences.load(kept.path).folders["Stock"] == str(tmp_path / "there")


def test_sizes_are_those_of_the_paper(signed):
    pdf = io.BytesIO()
    writer = pypdf.PdfWriter()
    writer.add_blank_page(54 / MM, 25 / MM)
    writer.add_blank_page(210 / MM, 297 / MM)
    writer.write(pdf)
    assert sizes_of(pdf.getvalue()) == [pytest.approx((54, 25)), pytest.approx((210, 297))]
