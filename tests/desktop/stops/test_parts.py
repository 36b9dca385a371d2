"""The Parts stop, stock, combiner, order and the tester, driven through the window."""

import csv

import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QGuiApplication

from candor.core.parts.reasons import Action
from candor.desktop.app import cook
from candor.notebook.entries.arrive_entries import FindingNoted
from candor.notebook.entries.parts_entries import PartListed, PartMeasured
from candor.notebook.entries.runs_entries import RunStarted
from candor.notebook.entries.stay_entries import JobOpened
from candor.notebook.runs.run_files import export_run
from candor.words.parts_words import say_measured, say_verdict
from desk import LEFT, SCOPE, jot, line
from workbench import put


def fill(qtbot, field, text):
    field.setFocus()
    field.clear()
    qtbot.keyClicks(field, text)


def row(window, ref):
    table = window.parts.table
    rows = [table.item(i).data(Qt.ItemDataRole.UserRole) for i in range(table.count())]
    return next(r for r in rows if r.key == ref)


def rows_of(path):
    return list(csv.DictReader(path.read_text(encoding="utf-8").splitlines()))


def test_a_pack_without_procedure_is_calibrated_by_ranges_of_ones_own(qtbot, show, notebook):
    bare = SCOPE.model_copy(update={"functions": (), "procedure": (), "dial": None})
    bare.__dict__.pop("digest", None)
    notebook.write("s", JobOpened(maker="Marrowby", type="OS-40", serial="1", pack_digest=notebook.keep_pack(bare)))
    scope = show(notebook)
    qtbot.keyClick(scope, Qt.Key.Key_5, Qt.KeyboardModifier.ControlModifier)
    assert scope.bench.place.stop == "calibrate"
    assert scope.calibrate.range_form.isVisible()
    scope.toggle_arms_length()
    assert scope.views.currentWidget() is scope.table


def test_a_jotted_measurement_is_judged_and_explained(qtbot, scope):
    fill(qtbot, scope.jot.edit, "C8 leak 14u @300V 5min")
    chips = [scope.jot.chips.itemAt(i).widget().text() for i in range(scope.jot.chips.count())]
    assert chips == ["C8, 50 nF 600 V", "leaks 14 µA", "at 300 V", "after 300 s"]
    qtbot.keyClick(scope.jot.edit, Qt.Key.Key_Return)
    assert scope.jot.edit.text() == ""
    assert scope.parts.ref == "C8"
    assert scope.because.word.text() == "Replace C8"
    assert "oves the grid 7.8 V" in scope.because.sentence.text()
    told = [x.text() for x in scope.because.sections if x.isVisible()]
    assert {"how sure", "what would change this", "put in its place"} <= set(told)
    assert any("Under 180 nA it could stay" in t for t in told)
    assert (row(scope, "C8").shape, row(scope, "C8").measured) == ("cross", "14 µA at 300 V")


def test_the_fields_say_the_same_and_keep_what_cannot_be_written(qtbot, scope):
    scope.parts.choose("R24")
    panel = scope.parts.measure
    assert not panel.fields["leak"].isVisible()
    fill(qtbot, panel.fields["value"], "37x")
    qtbot.keyClick(panel.fields["value"], Qt.Key.Key_Return)
    assert "neither a prefix nor a unit" in scope.jot.message.text()
    assert panel.fields["value"].text() == "37x"
    fill(qtbot, panel.fields["value"], "366k")
    fill(qtbot, panel.fields["warm"], "374k")
    qtbot.mouseClick(panel.write, LEFT)
    assert line(scope, "R24").action is Action.REPLACE
    assert panel.fields["value"].text() == ""
    scope.parts.choose("C17")
    fill(qtbot, panel.fields["value"], "43u")
    fill(qtbot, panel.fields["esr"], "8 % @120Hz")
    fill(qtbot, panel.fields["leak"], "310u")
    fill(qtbot, panel.fields["at"], "400")
    assert "above its rating of 350 V" in panel.caution.words.text()  # before it is written
    fill(qtbot, panel.fields["at"], "280")
    assert not panel.caution.isVisible()
    fill(qtbot, panel.fields["after"], "5 min")
    qtbot.mouseClick(panel.write, LEFT)
    found = line(scope, "C17")
    assert (found.action, found.measured.dissipation) == (Action.KEEP, pytest.approx(0.0803, abs=1e-4))
    qtbot.mouseClick(panel.open, LEFT)
    qtbot.mouseClick(panel.short, LEFT)
    assert not panel.open.isChecked()


def test_each_meter_has_its_own_frequency_said_once(qtbot, scope):
    """ESR by the shop's meter, a power factor by a dial on its mains; asked for until it is known, kept with the entry."""
    jot(qtbot, scope, "C17 43u esr 1.1")
    assert "At which frequency does your ESR meter test?" in scope.jot.message.text()
    assert line(scope, "C17").measured.hertz == 0
    jot(qtbot, scope, "esr meter 90 kHz")
    assert "Kept for all jobs: the shop's ESR meter tests at 90 kHz." in scope.jot.message.text()
    jot(qtbot, scope, "C17 esr 1.1")
    assert "At which frequency" not in scope.jot.message.text()
    assert (line(scope, "C17").measured.esr, line(scope, "C17").measured.hertz) == (1.1, 90e3)
    assert "read ESR near 120 Hz" in say_verdict(line(scope, "C17").verdict)
    jot(qtbot, scope, "mains 230 V 50 Hz")
    jot(qtbot, scope, "C17 pf 8%")
    assert line(scope, "C17").measured.hertz == 50
    assert "6.3 nF at most" in say_verdict(line(scope, "C1").verdict)
    jot(qtbot, scope, "mains 120 V 60 Hz")
    assert "10 nF at most" in say_verdict(line(scope, "C1").verdict)
    jot(qtbot, scope, "C17 limit 500u by its sheet")
    assert line(scope, "C17").part.leakage_limit == pytest.approx(500e-6)
    assert (line(scope, "C17").part.role, line(scope, "C17").part.volts) == ("filter", 350)
    scope.parts.choose("C17")
    scope.parts.show_panel("facts")
    qtbot.mouseClick(scope.parts.panels["facts"].write, LEFT)
    assert line(scope, "C17").part.leakage_limit == pytest.approx(500e-6)  # what the fields do not show is not lost


def test_tab_completes_a_designator_and_the_cord_is_warned_of(qtbot, scope):
    assert "Cord out" in scope.route.caution.text()
    fill(qtbot, scope.jot.edit, "c41")
    qtbot.keyClick(scope.jot.edit, Qt.Key.Key_Tab)
    assert scope.jot.edit.text() == "C41 a "
    fill(qtbot, scope.jot.edit, "C8 le")
    qtbot.keyClick(scope.jot.edit, Qt.Key.Key_Tab)
    assert scope.jot.edit.text() == "C8 leak "


def test_a_letter_on_the_list_begins_a_jot_about_the_part(qtbot, scope):
    scope.parts.choose("C11")
    scope.parts.table.setFocus()
    qtbot.keyClicks(scope.parts.table, "l")
    assert scope.jot.edit.text() == "C11 l"
    scope.parts.table.setFocus()
    qtbot.keyClick(scope.parts.table, Qt.Key.Key_Down)
    assert scope.parts.ref == "C12"
    assert "C12" in scope.because.word.text()


def test_changing_the_policy_calculates_at_once_and_says_what_changed(qtbot, scope):
    page = scope.parts
    assert line(scope, "C11").action is Action.CANNOT_TELL
    qtbot.mouseClick(page.sight["replace on sight"], LEFT)
    assert line(scope, "C11").action is Action.REPLACE
    assert scope.jot.message.text() == "4 now “replace”: C30, C3, C8, C11."
    assert scope.because.word.text() == "Policy of this job"
    assert "moisture" in scope.because.sentence.text()
    assert scope.because.sections[1].text() == "4 now “replace”: C30, C3, C8, C11."
    page.choose("C11")
    assert scope.because.word.text() == "Replace C11"
    qtbot.mouseClick(page.electrolytics["replace"], LEFT)
    assert "now “replace”: C17, C41 a, C41 b, C41 c, C9, C10" in scope.jot.message.text()
    qtbot.mouseClick(page.sight["test and keep"], LEFT)
    assert "now “cannot tell yet”" in scope.jot.message.text()
    page.rule.setCurrentIndex(0)
    page.rule.activated.emit(0)
    assert str(scope.bench.in_hand.parts().policy.rule) == "3 √(CV)"


def test_a_bad_sample_bars_power_until_all_are_measured(qtbot, scope):
    for text in ("C17 open", "C41 c 20u esr 3"):
        jot(qtbot, scope, text)
    assert "No power: the sample is bad (C17)" in scope.parts.sample.words.text()
    assert "the sample is bad" in scope.route.caution.text()
    for ref in ("C41 a", "C41 b", "C9", "C10"):
        jot(qtbot, scope, f"{ref} 20u")
    assert not scope.parts.sample.isVisible()


def test_a_bad_sample_bars_calibrate_and_takes_an_override(qtbot, bench):
    for text in ("C2 a open", "C2 b 10u esr 2"):
        jot(qtbot, bench, text)
    jot(qtbot, bench, "C2 b 25u")
    bench.go_to_stop("calibrate")
    assert not bench.calibrate.barred.isVisible()  # both are measured by now
    bench.bench.writer.undo()
    bench.bench.writer.undo()
    bench.go_to_stop("power")
    barrier = bench.power.barrier
    assert "the sample is bad (C2 a)" in barrier.words.words.text()
    assert "Calibrate: barred" in [s.accessibleName() for s in bench.route.line.stations]
    qtbot.mouseClick(barrier.override, LEFT)
    assert "Write first why" in bench.jot.message.text()
    fill(qtbot, barrier.reason, "on a series lamp, watched")
    qtbot.mouseClick(barrier.override, LEFT)
    assert not barrier.isVisible()
    bench.go_to_stop("release")
    assert any("series lamp" in x.text for x in bench.release.to_print().record.remarks)


def test_decide_otherwise_and_take_it_back(qtbot, scope):
    scope.parts.choose("C1")
    scope.parts.show_panel("decide")
    panel = scope.parts.decide
    qtbot.mouseClick(panel.keep, LEFT)
    assert "Say why" in scope.jot.message.text()
    fill(qtbot, panel.reason, "it is a class Y part from 1998")
    qtbot.mouseClick(panel.keep, LEFT)
    assert (line(scope, "C1").action, row(scope, "C1").shape) == (Action.KEEP, "full")
    assert "Your decision" in scope.because.sentence.text()
    qtbot.mouseClick(panel.back, LEFT)
    assert line(scope, "C1").action is Action.REPLACE


def test_facts_list_a_part_and_say_what_cannot_be(qtbot, scope):
    scope.parts.show_panel("facts")
    panel = scope.parts.facts
    qtbot.mouseClick(panel.another, LEFT)
    fill(qtbot, panel.fields["ref"], "q9")
    qtbot.mouseClick(panel.write, LEFT)
    assert "What kind of part is" in scope.jot.message.text()
    fill(qtbot, panel.fields["ref"], "c50")
    fill(qtbot, panel.fields["value"], "0 uF")
    qtbot.mouseClick(panel.write, LEFT)
    assert "C50, value: a capacitor has a value above 0" in scope.jot.message.text()
    fill(qtbot, panel.fields["value"], "104K")
    fill(qtbot, panel.fields["volts"], "400")
    panel.choices["role"].setCurrentIndex(panel.choices["role"].findData("coupling"))
    qtbot.mouseClick(panel.write, LEFT)
    part = line(scope, "C50").part
    assert (part.nominal, part.below, part.volts, part.role) == (pytest.approx(1e-7), 0.1, 400, "coupling")
    assert scope.parts.ref == "C50"
    qtbot.mouseClick(panel.absent, LEFT)
    assert line(scope, "C50").fate == "not fitted"


def test_a_replacement_from_stock_is_fitted_and_waits_for_its_check(qtbot, halfway):
    page = halfway.parts
    page.choose("C3")
    page.show_panel("place")
    assert page.place.list.item(0).text().startswith("100 nF 10 % 400 V film")
    qtbot.mouseClick(page.place.choose, LEFT)
    assert "goes in: 100 nF" in row(halfway, "C3").under
    qtbot.mouseClick(page.place.back, LEFT)
    assert line(halfway, "C3").choice is None
    qtbot.mouseClick(page.place.choose, LEFT)
    before = next(i.count for i in halfway.bench.shop.stock() if i.body.key == "film-100n")
    qtbot.mouseClick(page.place.fitted, LEFT)
    assert next(i.count for i in halfway.bench.shop.stock() if i.body.key == "film-100n") == before - 1
    assert line(halfway, "C3").fate == "replaced"
    assert "What proves it?" in halfway.jot.message.text()
    assert halfway.bench.in_hand.job.stay.unproven[-1].body.part == "C3"


def test_ones_own_choice_is_weighed_as_it_is_typed(qtbot, halfway):
    page = halfway.parts
    page.choose("C41 b")
    page.show_panel("place")
    fill(qtbot, page.place.own, "22u 250V electrolytic")
    assert "250 V is under the 470 V it must stand" in page.place.own_words.text()
    fill(qtbot, page.place.own, "paper")
    qtbot.keyClick(page.place.own, Qt.Key.Key_Return)
    assert "expected a value first" in halfway.jot.message.text()
    fill(qtbot, page.place.own, "22u 500V electrolytic 105C")
    fill(qtbot, page.place.supplier, "Fenwick Components")
    fill(qtbot, page.place.price, "3.80")
    assert page.place.own_words.text().startswith("22 µF 500 V electrolytic 105 °C. It serves.")
    qtbot.mouseClick(page.place.choose, LEFT)
    assert "goes in: 22 µF 500 V electrolytic 105 °C" in row(halfway, "C41 b").under
    assert page.place.own.text() == ""
    assert [x.count for x in halfway.rooms["order"].draft() if "22 µF" in x.text] == [4]


def test_parts_are_pasted_and_faults_shown_by_line(qtbot, scope):
    QGuiApplication.clipboard().setText("R1 a 0 1k\nR2 a (b) 2k\n")
    qtbot.keyClick(scope.parts, Qt.Key.Key_V, Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier)
    assert "Line 2" in scope.from_file.words.text()
    assert not scope.from_file.write.isEnabled()
    qtbot.mouseClick(scope.from_file.leave, LEFT)
    assert scope.work.currentWidget() is scope.parts
    QGuiApplication.clipboard().setText("R1 a 0 1k\nR2 a 0 2k\n")
    qtbot.mouseClick(scope.parts.paste, LEFT)
    qtbot.mouseClick(scope.from_file.write, LEFT)
    assert line(scope, "R2").part.nominal == 2000
    QGuiApplication.clipboard().clear()
    qtbot.mouseClick(scope.parts.paste, LEFT)
    assert "holds no text" in scope.jot.message.text()


PASTED = (
    "ref\tvalue\trating\tmaterial\tdescription\nC21\t0.05 uF\t600\twax paper\tcoupling\nR23\t330k\t\tcarbon\t\n"
    "C22\t8 uF\t450 V\tElectrolytic\t\nC29\t0.1\t400\tpolyester\t\nR24\t1 M\t\tbroomstick\t\nR25\twhat\t\tcomp\t"
)


def test_a_paste_from_a_spreadsheet_keeps_its_good_rows_and_bad_ones_are_mended_where_they_stand(qtbot, scope):
    """Heads and words of other programs are understood; nothing that is right waits for what is wrong."""
    QGuiApplication.clipboard().setText(PASTED)
    qtbot.mouseClick(scope.parts.paste, LEFT)
    page = scope.from_file
    assert [row["0"] for row in page.mend.rows()] == ["R24", "R25"]
    assert "line 6: “broomstick” is not a make of part" in page.faults.text()
    qtbot.mouseClick(page.write, LEFT)
    made = {ref: line(scope, ref).part.make for ref in ("C21", "R23", "C22", "C29")}
    assert made == {"C21": "paper", "R23": "carbon composition", "C22": "electrolytic", "C29": "film"}
    assert [row["0"] for row in page.mend.rows()] == ["R24", "R25"]
    page.mend.item(1, 1).setText("47k")
    assert [row["0"] for row in page.mend.rows()] == ["R24"]
    page.mend.item(0, 3).setText("carbon film")
    qtbot.mouseClick(page.write, LEFT)
    assert (line(scope, "R25").part.nominal, line(scope, "R24").part.make) == (47e3, "carbon film")
    assert scope.work.currentWidget() is scope.parts


def test_parts_can_be_pasted_as_lines(qtbot, scope):
    QGuiApplication.clipboard().setText(
        "C12 0.05 uF 600 V wax paper coupling\nR3 330k carbon\nR9 4k7 furlongs of it\nR8 1k2 2W"
    )
    qtbot.mouseClick(scope.parts.paste, LEFT)
    qtbot.mouseClick(scope.from_file.write, LEFT)
    part = line(scope, "C12").part
    assert (part.nominal, part.volts, part.make, part.role) == (pytest.approx(5e-8), 600, "paper", "coupling")
    assert line(scope, "R8").part.watts == 2


def wait_over(qtbot, window):
    qtbot.waitUntil(lambda: not window.bench.live.running)


def test_a_live_run_is_followed_stopped_and_kept(qtbot, scope, tmp_path):
    page = scope.parts
    page.choose("C17")
    page.show_panel("tester")
    panel = page.tester
    assert panel.reform.isChecked()
    # Before anything goes on the clips, and before the button that starts it.
    assert "Up to 280 V on the clips. Discharge the part first, clip it, hands off" in panel.caution.words.text()
    assert panel.caution.isVisible()
    fill(qtbot, panel.fields["target"], "24")
    assert not panel.caution.isVisible()
    fill(qtbot, panel.fields["target"], "400")
    assert "above its rating of 350 V" in panel.caution.words.text()
    fill(qtbot, panel.fields["target"], "280 furlongs")
    qtbot.mouseClick(panel.start, LEFT)
    assert "The run was not started" in scope.jot.message.text()
    fill(qtbot, panel.fields["target"], "280")
    fill(qtbot, panel.fields["resource"], "gpib")
    qtbot.mouseClick(panel.start, LEFT)
    assert "is not a tester" in scope.jot.message.text()
    fill(qtbot, panel.fields["resource"], "simulated")
    qtbot.mouseClick(panel.leak, LEFT)
    qtbot.mouseClick(panel.start, LEFT)
    qtbot.waitUntil(lambda: scope.bench.live.status().readings > 30)
    qtbot.waitUntil(lambda: abs(scope.bench.live.status().last.values["volts"]) > 230)  # seen to follow its source
    qtbot.waitUntil(lambda: "on the tester clips" in scope.route.caution.text())
    assert scope.bench.shelf.lines[0].group == "cooking"
    assert row(scope, "C17").shape == "running"
    qtbot.keyClick(panel.stop, Qt.Key.Key_Escape)
    wait_over(qtbot, scope)
    run = scope.bench.in_hand.job.runs.runs[-1]
    assert (run.ended.body.outcome, run.ended.body.safe) == ("stopped", True)
    assert abs(run.ended.body.measured_volts) <= 60
    assert "safe" in panel.words.text()
    assert "simulated" in row(scope, "C17").measured
    export_run(scope.bench.notebook.run_folder, run.started.body, tmp_path / "run.csv")
    assert len(rows_of(tmp_path / "run.csv")) == run.ended.body.readings > 30


def test_closing_the_window_puts_the_source_to_zero_and_keeps_the_run(qtbot, show, demo):
    window = show(demo)
    assert cook(window, "sb40221", "C17")
    assert not cook(window, "sb40221", "C17")  # one at a time
    qtbot.waitUntil(lambda: window.bench.live.status().readings > 20)
    bench = window.bench.live._simulated.clips
    window.close()
    assert window.isVisible()  # it asks, and the source goes to zero meanwhile
    qtbot.waitUntil(lambda: not bench.on)
    assert "C17" in window.leaving.what.text()
    window.leaving.close_all.click()
    assert (bench.source_volts, bench.on) == (0, False)
    again = show(type(demo)(demo.path, "tester", demo.clock))
    again.shelf.job.emit("sb40221")
    run = again.bench.in_hand.job.runs.runs[-1]
    assert run.ended.body.why == "the window was closed"
    assert not run.ended.body.safe  # stopped before its highest level: the volts were not seen to follow there
    assert run.ended.body.readings > 20


def test_a_run_cut_off_by_a_pulled_plug_is_mended_on_opening(qtbot, show, notebook, clock):
    notebook.write("s", JobOpened(maker="M", type="OS-40", serial="1", pack_digest=notebook.keep_pack(SCOPE)))
    body = RunStarted(ref="C17", mode="leakage", target_volts=280, dwell_s=300, limit=5e-4, most_s=900, file="c.csv")
    notebook.write("s", body)
    notebook.run_folder.mkdir()
    (notebook.run_folder / "c.csv").write_text(
        "seconds,volts,amperes,source_volts\n1,100,1e-3,280\n2,210,1e-3,280\n3,2"
    )
    clock.advance(days=2000)  # the file was last written long ago
    window = show(notebook)
    ended = window.bench.in_hand.job.runs.runs[0].ended.body
    assert ended.why == "cut off, 2 readings are kept"
    assert not ended.safe
    assert ended.measured_volts == 210  # the last line is cut short: its 2 is not a voltage
    assert "last seen at 210 V" in window.warning.words.text()
    assert "measure before you touch" in window.warning.words.text()
    window.bench.voice.say("something else")
    assert window.warning.isVisible()  # it stays until it is understood
    qtbot.mouseClick(window.warning.button, LEFT)
    assert not window.warning.isVisible()
    assert window.bench.shelf.lines[0].group == "wants hands"


def begun_by_hand(qtbot, scope):
    scope.parts.choose("C8")
    scope.parts.show_panel("tester")
    panel = scope.parts.tester
    fill(qtbot, panel.fields["resource"], "by hand")
    qtbot.mouseClick(panel.start, LEFT)
    return panel


def test_a_run_by_hand_asks_for_what_it_cannot_switch(qtbot, scope):
    panel = begun_by_hand(qtbot, scope)
    for volts, current in (("149", "20u"), ("x", "20u"), ("299", "14u")):
        assert f"Set the source to {150 if volts == '149' else 300} V" in panel.words.text()
        fill(qtbot, panel.volts, volts)
        fill(qtbot, panel.current, current)
        qtbot.keyClick(panel.current, Qt.Key.Key_Return)
        assert panel.volts.text() == ("x" if volts == "x" else "")
    assert scope.bench.live.status().readings == 2
    qtbot.mouseClick(panel.stop, LEFT)
    assert "Source to zero by hand" in panel.caution.words.text()
    fill(qtbot, panel.volts, "120")
    qtbot.mouseClick(panel.take, LEFT)
    assert scope.bench.live.running
    fill(qtbot, panel.volts, "9")
    qtbot.mouseClick(panel.take, LEFT)
    wait_over(qtbot, scope)
    ended = scope.bench.in_hand.job.runs.runs[0].ended.body
    assert (ended.safe, ended.measured_volts, ended.readings) == (True, 9, 2)
    assert "(simulated)" not in say_measured(line(scope, "C8").part, line(scope, "C8").measured)


def test_a_run_by_hand_whose_meter_was_not_seen_to_follow_is_ended_unsafe_and_warned_of(qtbot, scope):
    panel = begun_by_hand(qtbot, scope)
    qtbot.mouseClick(panel.stop, LEFT)
    fill(qtbot, panel.volts, "0")
    qtbot.mouseClick(panel.take, LEFT)
    assert scope.bench.live.running
    assert "not seen to follow its source" in panel.caution.words.text()
    qtbot.mouseClick(panel.leave, LEFT)
    assert not scope.bench.live.running
    assert "not measured safe" in scope.warning.words.text()
    assert not scope.bench.in_hand.job.runs.runs[0].ended.body.safe


def test_insulation_resistance_in_the_leakage_field(qtbot, scope):
    scope.parts.choose("C12")
    panel = scope.parts.measure
    fill(qtbot, panel.fields["leak"], "5 G")
    fill(qtbot, panel.fields["at"], "500 V")
    qtbot.mouseClick(panel.write, LEFT)
    assert line(scope, "C12").measured.leakage == pytest.approx(1e-7)


def test_a_tester_that_does_not_answer_is_said(qtbot, scope):
    page = scope.parts
    page.choose("C17")
    page.show_panel("tester")
    fill(qtbot, page.tester.fields["resource"], "TCPIP::127.0.0.1::9::SOCKET")
    qtbot.mouseClick(page.tester.start, LEFT)
    wait_over(qtbot, scope)
    assert "Nothing answers" in scope.jot.message.text()
    assert scope.bench.in_hand.job.runs.runs[0].ended.body.readings == 0
    assert line(scope, "C17").measured.leakage is None


def replace_circuit(pack):
    """The pack without circuit and parts, and so without taps."""
    raw = pack.model_dump()
    ranges = [{**f, "ranges": [{**r, "tap": ""} for r in f["ranges"]]} for f in raw["functions"]]
    steps = [{**s, "steps": [{**t, "uses": ()} if "uses" in t else t for t in s["steps"]]} for s in raw["procedure"]]
    return type(pack).model_validate({**raw, "parts": (), "circuit": None, "functions": ranges, "procedure": steps})


def test_an_empty_list_says_how_to_fill_it(show, notebook, pack):
    bare = replace_circuit(pack)
    notebook.write("j", JobOpened(maker="T", type="VM-6", serial="", pack_digest=notebook.keep_pack(bare)))
    window = show(notebook)
    window.go_to_stop("parts")
    assert window.parts.title.text() == "No part listed yet"
    assert "from a file or the clipboard" in window.parts.table.item(0).text()
    assert window.because.word.text() == "Policy of this job"
    put(window.bench.writer, PartListed(ref="R1", what="resistor", nominal=100))
    assert window.parts.title.text() == "1 part worth a look"


def test_an_export_on_a_full_disk_leaves_what_stood_there(qtbot, halfway, tmp_path, monkeypatch):
    """Through a rename: the older file is whole until the new one is."""

    def full(_):
        raise OSError(28, "No space left on device")

    for room, names in (("order", ("o.csv", "o.pdf")), ("stock", ("s.csv",))):
        halfway.enter_room(room)
        for name in names:
            target = tmp_path / "out" / name
            target.parent.mkdir(exist_ok=True)
            target.write_text("older")
            with monkeypatch.context() as patch:
                patch.setattr("os.fsync", full)
                halfway.rooms[room].save(target)
            assert "could not be written: No space left on device" in halfway.jot.message.text()
            assert target.read_text() == "older"
            halfway.rooms[room].save(target)
            assert target.read_bytes() != b"older"
    assert sorted(p.name for p in (tmp_path / "out").iterdir()) == ["o.csv", "o.pdf", "s.csv"]


def test_a_hazard_bars_the_tester_and_a_bad_sample_does_not(qtbot, scope):
    """The tester judges the others of a bad sample, so it goes on; an open hazard stops everything that brings voltage."""
    panel = scope.parts.tester
    scope.parts.choose("C17")
    scope.parts.show_panel("tester")
    put(scope.bench.writer, FindingNoted(zone="supply", mark="hazard", text="mains on the chassis"))
    qtbot.mouseClick(panel.start, LEFT)
    assert not scope.bench.live.running
    assert "Blocked by a hazard: mains on the chassis. Clear it, or override it" in scope.jot.message.text()
    assert "The run was not started." in scope.jot.message.text()
    scope.bench.writer.settle(scope.bench.in_hand.job.arrive.findings[0].entry.id, "cleared", "rewired")
    for text in ("C17 open", "C41 c 20u esr 3 @120Hz"):
        jot(qtbot, scope, text)
    assert "the sample is bad" in scope.route.caution.text()
    scope.parts.choose("C9")
    fill(qtbot, panel.fields["resource"], "by hand")
    qtbot.mouseClick(panel.start, LEFT)
    assert scope.bench.live.running


def test_opening_a_job_at_parts_draws_its_list_once(show, notebook, monkeypatch):
    """It is said in several ways that another job is in hand: what is drawn already is not drawn again."""
    digest = notebook.keep_pack(SCOPE)
    for job in ("one", "two"):
        notebook.write(job, JobOpened(maker="M", type="OS-40", serial=job, pack_digest=digest))
    window = show(notebook)
    window.go_to_stop("parts")
    window.shelf.job.emit("one")
    window.go_to_stop("parts")
    drawn = []
    monkeypatch.setattr(window.parts.table, "show_parts", lambda *_: drawn.append(window.bench.in_hand.job.id))
    window.shelf.job.emit("two")
    window.go_to_stop("parts")
    window.shelf.job.emit("one")
    assert drawn == ["two", "one"]
    put(window.bench.writer, PartMeasured(ref="R24", value=331e3))
    assert drawn == ["two", "one", "one"]
