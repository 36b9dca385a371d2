"""The room Tubes: recorded, tested in order, matched, put into a socket, taken in from a table, driven through the window."""

from functools import partial

import pytest
from PySide6.QtCore import Qt

from candor.links.simulated_line import SimulatedLine
from candor.notebook.entries.stay_entries import ChangeMade, JobOpened
from candor.notebook.entries.tubes_entries import TubeKnown, TubeTested
from candor.notebook.tubes.tubes import figure_of
from candor.packs.bundled import bundled_pack
from desk import LEFT, fill, row_titles
from workbench import PATIENCE_MS, put_shop

PENTODE = "A1 SP-1, pentode small sharp cut-off, nominal 4.3 mS at 150 V by the chart, reject 65 %; getter silver"


@pytest.fixture
def window(show, notebook):
    pack = bundled_pack("tarnholm-tt7")
    notebook.write("t", JobOpened(maker="Tarnholm", type="TT-7", serial="3", pack_digest=notebook.keep_pack(pack)))
    made = show(notebook)
    made.enter_room("tubes")
    return made


def enter(qtbot, field, text):
    fill(qtbot, field, text)
    qtbot.keyClick(field, Qt.Key.Key_Return)


def kept(window):
    return [e.body for e in window.bench.notebook.entries_of("") if isinstance(e.body, TubeTested)]


def test_a_tube_goes_through_its_tests_in_order(qtbot, window):
    page = window.tubes
    assert "No tube is recorded yet" in page.words.text()
    assert not page.test.isVisible()
    enter(qtbot, page.new, PENTODE)
    assert page.key == "A1"
    assert page.test.next.text() == "Next: look"
    for _ in range(4):
        qtbot.mouseClick(page.test.good, LEFT)
    assert [t.test for t in kept(window)] == ["look", "heater", "shorts", "gas"]
    assert not page.test.good.isVisible()  # a figure comes next
    enter(qtbot, page.test.line, "noise good")
    assert "Written. Emission comes first" in window.jot.message.text()  # a fact, whatever its order
    assert page.test.settings.text().startswith(
        "Set heater 6.3, bias 2, range 6 mS. Its state: 6 mS was not calibrated"
    )
    enter(qtbot, page.test.line, "gm 4.05 mS line 2 min held 4 s")
    taken = kept(window)[-1]
    assert (taken.tester, taken.full_scale, taken.settings) == (
        "Tarnholm TT-7",
        6e-3,
        "heater 6.3, bias 2, range 6 mS",
    )
    assert "94 ± " in page.list.row(0).under
    assert window.because.word.text() == "A1, SP-1"
    assert any("% of nominal" in s.text() for s in window.because.sections)
    asked = "What a dash of a control is worth for SP-1 on Tarnholm TT-7 is not known"
    assert asked in window.jot.message.text()
    enter(qtbot, page.test.nudges, "bias up 4.11 mS down 3.99 mS, line 40 uS")
    shop = window.bench.shop.tubes()
    assert shop.nudges["SP-1", "Tarnholm TT-7", "S"][0].per_dash == pytest.approx(60e-6)
    enter(qtbot, page.test.line, "gm 4.05 mS line 2 min held 4 s")
    assert asked not in window.jot.message.text()
    assert [n.control for n in shop.nudges["SP-1", "Tarnholm TT-7", "S"]] == ["bias", "line"]
    enter(qtbot, page.test.line, "shorts bad: tapped, grid to cathode")
    assert page.test.next.text() == "Nothing comes next."
    enter(qtbot, page.test.line, "gm 4 mS")
    assert "Written. It failed shorts: do not put it on a tester again." in window.jot.message.text()


def test_a_figure_measured_here_is_kept_and_corrects_the_tester(qtbot, window):
    page = window.tubes
    for key, shown in (("K1", "1.5"), ("K2", "2.6"), ("K3", "4.1")):
        enter(qtbot, page.new, f"{key} SP-1")
        for line in ("look good", "heater good", "shorts good", "gas good", f"gm {shown} mS line 0 min"):
            enter(qtbot, page.test.line, line)
    qtbot.mouseClick(page.tabs["known"], LEFT)
    known = page.known
    known.points.setPlainText("-3.25  6.10 mA\n-2.75  8.10 mA")
    fill(qtbot, known.amperes, "5 uA")
    qtbot.mouseClick(known.calculate, LEFT)
    assert known.answer.text().startswith("4.001 ± 0.028 mS")
    qtbot.mouseClick(known.keep, LEFT)
    assert known.points.toPlainText() == ""
    assert "1 known tube: a correction needs at least 3" in known.correction.text()
    put_shop(
        window.bench.writer,
        TubeKnown(tube="K1", figure=1.46e-3, expanded=0.03e-3),
        TubeKnown(tube="K2", figure=2.53e-3, expanded=0.03e-3),
    )
    page.show_tubes()
    assert "through 3 known tubes" in known.correction.text()
    known.points.setPlainText("-3.25 volts")
    qtbot.mouseClick(known.calculate, LEFT)
    assert "grid volts and plate current were expected" in window.jot.message.text()
    assert not known.keep.isEnabled()


def test_matched_sockets_and_tables(qtbot, window, tmp_path):
    page = window.tubes
    table = tmp_path / "tubes.csv"
    rows = ["tube,type,test,outcome,figure,tester,line min"]
    for key, figure in (("A1", "4.20"), ("A2", "4.22"), ("A3", "3.60"), ("A4", "3.61")):
        rows += [f"{key},SP-1,{test},good,,," for test in ("look", "heater", "shorts", "gas")]
        rows.append(f"{key},SP-1,gm,,{figure} mS,TT,1")
    table.write_text("\n".join(rows))
    page.preview_file(table)
    assert window.from_file.isVisible()
    qtbot.mouseClick(window.from_file.write, LEFT)
    window.enter_room("tubes")
    assert page.words.text() == "4 on hand."
    qtbot.mouseClick(page.tabs["match"], LEFT)
    assert row_titles(page.match.sets) == ["A3 + A4", "A1 + A2"]
    assert page.match.words.text().startswith("4 of SP-1, gm on TT")
    page.match.many.setCurrentIndex(1)
    page.match.many.activated.emit(1)
    assert row_titles(page.match.sets) == ["A1 + A2 + A3 + A4"]
    window.shelf.job.emit("t")
    window.enter_room("tubes")
    page.choose("A1")
    qtbot.mouseClick(page.tabs["place"], LEFT)
    enter(qtbot, page.place.socket, "V2")
    assert page.place.words.text() == "It sits in V2 of Tarnholm TT-7. In Tarnholm TT-7: V2 A1."
    page.choose("A2")
    enter(qtbot, page.place.socket, "V2")
    changes = [e.body.text for e in window.bench.notebook.entries_of("t") if isinstance(e.body, ChangeMade)]
    assert changes == ["V2: tube A1 (SP-1) in", "V2: tube A1 out, tube A2 (SP-1) in"]
    qtbot.mouseClick(page.place.out, LEFT)
    qtbot.mouseClick(page.place.gone, LEFT)
    assert "Write first why it is gone" in window.jot.message.text()
    fill(qtbot, page.place.reason, "broken")
    qtbot.mouseClick(page.place.gone, LEFT)
    assert page.words.text() == "3 on hand."
    page.save(tmp_path / "out.csv")
    assert (tmp_path / "out.csv").read_text().count("SP-1") == 3 * 6
    enter(qtbot, page.filter, "A3")
    assert page.words.text() == "3 on hand. 1 shown."
    enter(qtbot, page.new, "A9")
    assert "the tube's own name and its type were expected" in window.jot.message.text()
    assert page.new.text() == "A9"


def test_tubes_stand_by_figure_by_what_comes_next_and_by_socket(qtbot, window, tmp_path):
    page = window.tubes
    table = tmp_path / "tubes.csv"
    rows = ["tube,type,nominal,reject,test,outcome,figure,tester,line min"]
    for key, figure in (("A1", "4.20"), ("A2", "2.10"), ("A3", "3.60")):
        rows += [f"{key},SP-1,4.3 mS,65 %,{test},good,,," for test in ("look", "heater", "shorts", "gas")]
        rows.append(f"{key},SP-1,4.3 mS,65 %,gm,,{figure} mS,TT,1")
    rows.append("B1,SP-1,4.3 mS,65 %,look,good,,,")
    table.write_text("\n".join(rows))
    page.preview_file(table)
    qtbot.mouseClick(window.from_file.write, LEFT)
    window.enter_room("tubes")
    window.shelf.job.emit("t")
    window.enter_room("tubes")
    page.choose("A3")
    qtbot.mouseClick(page.tabs["place"], LEFT)
    enter(qtbot, page.place.socket, "V2")

    def shown(order):
        page.order.setCurrentText(order)
        return [page.list.row(i).key for i in range(page.list.count())]

    assert shown("best first") == ["A1", "A3", "A2", "B1"]  # what has no figure stands last
    assert shown("weakest first") == ["A2", "A3", "A1", "B1"]
    assert shown("by socket")[0] == "A3"
    assert shown("by type") == ["A1", "A2", "A3", "B1"]
    first, weak, _, none = (page.list.row(i) for i in range(4))  # drawn as they are said
    (bar,), (low,) = first.bars, weak.bars
    assert f"{100 * bar.at:.0f} ± {100 * bar.reach:.0f} %" in first.under
    assert (bar.at, bar.limit) == (pytest.approx(4.2 / 4.3), pytest.approx(0.65))
    assert (bar.shape, low.shape, none.bars) == ("full", "cross", ())
    assert "grey is below the reject level" in page.words.text()
    tests = [page.list.row(i).under for i in range(4)] if shown("next test") else []
    assert [("next:" in words) for words in tests] == sorted((("next:" in words) for words in tests), reverse=True)


def test_the_line_is_logged_while_the_button_is_held(qtbot, window, closing):
    meter = closing.enter_context(SimulatedLine(every_s=5.0, held_s=2.0))
    page, log = window.tubes, window.tubes.test.log
    enter(qtbot, page.new, PENTODE)
    assert "mains" in log.caution.text() and log.caution.isVisible()
    assert log.caution.geometry().bottom() < log.address.geometry().top()  # before the deed
    qtbot.mouseClick(log.start, LEFT)
    assert "Name the meter's address" in window.jot.message.text()
    enter(qtbot, log.address, meter.resource)
    qtbot.waitUntil(lambda: "held for" in log.said.text(), timeout=PATIENCE_MS)
    enter(qtbot, page.test.line, "gm 4.05 mS line 2 min")
    taken = kept(window)[-1]
    assert (
        taken.line_before_volts - taken.line_held_volts == pytest.approx(1.4, abs=0.1) and 0 < taken.line_u_fall < 0.1
    )
    assert any(
        "4.05 mS" not in s.text() and "was added, by the usual law" in s.text() for s in window.because.sections
    )
    assert log.held() is None  # a press is of one test alone
    figure = figure_of(window.bench.shop.tubes().tubes["A1"], window.bench.shop.tubes())
    assert figure.value == pytest.approx(4.05e-3 * (1 + 1.4 / 120), rel=2e-3)
    qtbot.mouseClick(log.end, LEFT)
    assert log.start.isVisible() and not log.end.isVisible()


def test_an_invented_line_goes_into_no_test(qtbot, window, monkeypatch):
    monkeypatch.setattr("candor.links.line_log.SimulatedLine", partial(SimulatedLine, every_s=5.0, held_s=2.0))
    page, log = window.tubes, window.tubes.test.log
    enter(qtbot, page.new, PENTODE)
    enter(qtbot, log.address, "simulated")
    qtbot.waitUntil(lambda: "invented and goes into no test" in log.said.text(), timeout=PATIENCE_MS)
    enter(qtbot, page.test.line, "gm 4.05 mS")
    assert kept(window)[-1].line_held_volts == 0
