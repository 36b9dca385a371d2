"""Power, driven through the window: the list, the plan, the supply, the way up with its alarm, and after."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication

from candor.links.loopback import LoopbackInstrument
from candor.notebook.entries.power_entries import PlanKept, PowerChecked, RailRead, StateBegun
from candor.notebook.entries.stay_entries import JobOpened
from desk import LEFT, fill, jot, row_titles
from workbench import goes_on, looked_before_power, put

LINES = (
    "low: line 160 V; hold 5 min\n  read watts 10..30 W\n  expect click at 30 s\n  cut b1 beyond 350 V\n  caution "
    "It bites.\nwarm: line 230 V"
)


@pytest.fixture
def power(show, notebook):
    notebook.write("j", JobOpened(maker="Corvane", type="AV-20", serial="3310"))
    goes_on(notebook, "j")
    window = show(notebook)
    window.go_to_stop("power")
    return window


@pytest.fixture
def ready(power):
    put(power.bench.writer, PlanKept(way="straight on", lines=LINES), *looked_before_power())
    power.power.show_view("going")
    return power


def enter(qtbot, field, text):
    fill(qtbot, field, text)
    qtbot.keyClick(field, Qt.Key.Key_Return)


def test_checks_are_written_where_they_stand_and_enter_acquits_nothing(qtbot, power):
    may, job = power.power.may, lambda: power.bench.in_hand.job
    assert may.summary.text() == "Not ready: 10 open"
    assert "full" not in [may.list.item(i).data(Qt.ItemDataRole.UserRole).shape for i in range(may.list.count())]
    may.choose("earth")
    enter(qtbot, may.text, "")
    assert job().power.checks == {}
    enter(qtbot, may.text, "cracked at the plug end")
    assert "Candor cannot read “cracked at the plug end” as an earth bond" in power.jot.message.text()
    may.text.clear()
    may.choose("cord")
    enter(qtbot, may.text, "cracked at the plug end")
    assert "is Cord and clamp as it should be (F7), or not (F8)?" in power.jot.message.text()
    assert (job().power.checks, may.text.text()) == ({}, "cracked at the plug end")
    qtbot.keyClick(may.text, Qt.Key.Key_F8)
    assert (job().power.checks["cord"].body.outcome, may.item().key) == ("bad", "cord")  # the highlight stays
    assert "1 failed" in may.summary.text()
    fill(qtbot, may.text, "0.09 ohm")
    qtbot.keyClick(may.text, Qt.Key.Key_F7)
    assert "Does it belong to another line?" in power.jot.message.text()
    assert job().power.checks["cord"].body.outcome == "bad"
    may.choose("earth")
    assert job().release.earth is None
    enter(qtbot, may.text, "0.09 ohm at 10 A")
    assert (job().release.earth.body.amperes, may.item().state) == (10.0, "good")
    may.choose("rails")
    enter(qtbot, may.text, "b1 45k by manual 50k")
    assert job().power.rail_ohms["b1"].body.ohms == 45e3
    may.choose("fuse")
    qtbot.mouseClick(may.outcomes["bad"], LEFT)
    assert "Write first what is not" in power.jot.message.text()
    fill(qtbot, may.text, "wrapped in foil")
    qtbot.mouseClick(may.outcomes["bad"], LEFT)
    assert job().power.checks["fuse"].body.text == "wrapped in foil"
    jot(qtbot, power, "winding hv open")
    may.choose("winding hv")
    assert not may.outcomes["bad"].isVisible()
    enter(qtbot, may.text, "140 ohm")
    assert job().power.windings["hv"].body.ohms == 140
    may.choose("rail b1")
    enter(qtbot, may.text, "hot")
    assert "Give the resistance of a rail" in power.jot.message.text()


def test_each_line_is_let_go_by_itself_and_never_one_that_nobody_looked_at(qtbot, power):
    may, job = power.power.may, lambda: power.bench.in_hand.job
    may.choose("switch")
    assert not may.override.isVisible()
    put(power.bench.writer, *looked_before_power())
    put(
        power.bench.writer,
        PowerChecked(item="fuse", outcome="bad", text="foil"),
        PowerChecked(item="switch", outcome="bad", text="in neutral"),
    )
    may.choose("fuse")
    qtbot.mouseClick(may.override, LEFT)
    assert "Write first why" in power.jot.message.text()
    fill(qtbot, may.reason, "a fuse is in the plug")
    qtbot.mouseClick(may.override, LEFT)
    assert [i.key for i in may.still()] == ["switch"]
    may.choose("switch")
    fill(qtbot, may.reason, "behind a double-pole outlet")
    qtbot.mouseClick(may.override, LEFT)
    assert may.summary.text() == "Nothing that was checked blocks power-up."
    assert {k: e.body.reason for k, e in job().power.overridden.items()} == {
        "fuse": "a fuse is in the plug", "switch": "behind a double-pole outlet",
    }  # fmt: skip
    power.go_to_stop("release")
    assert any(
        "fuse was not as it should be. Reason: a fuse is in the plug" in r.text
        for r in power.release.to_print().record.remarks
    )


def test_the_full_line_is_not_begun_over_states_left_out_but_for_a_reason(qtbot, ready):
    going = ready.power.going
    going.choose("warm")
    qtbot.mouseClick(going.begin, LEFT)
    assert "Read the caution of “low” first: It bites." in ready.jot.message.text()
    going.choose("low")
    qtbot.mouseClick(going.understood, LEFT)
    going.choose("warm")
    qtbot.mouseClick(going.begin, LEFT)
    assert "“low” was left out" in ready.jot.message.text()
    assert ready.bench.in_hand.job.power.state is None
    fill(qtbot, going.reason, "it ran at low this morning")
    qtbot.mouseClick(going.begin, LEFT)
    assert ready.bench.in_hand.job.power.state.body.reason == "it ran at low this morning"


@pytest.mark.parametrize("word", ["smoke", "arc", "a smell from the transformer", "found smoke at V2 note"])
def test_smoke_means_plug_out_from_any_page(qtbot, ready, word, monkeypatch):
    said = []
    monkeypatch.setattr(ready.speech, "say", said.append)
    put(ready.bench.writer, StateBegun(title="low", line_volts=160))
    ready.go_to_stop("arrive")
    jot(qtbot, ready, word)
    assert "Plug out, or the bench switch if it is nearer." in ready.warning.words.text()
    assert said[-1] == "Plug out."
    ready.go_to_stop("power")
    ready.power.show_view("going")
    assert ready.power.going.alarm.text() == "Plug out"


def test_no_smoke_is_only_noted(qtbot, ready):
    put(ready.bench.writer, StateBegun(title="low", line_volts=160))
    jot(qtbot, ready, "no smoke, no smell")
    assert ready.warning.words.text() == ""


def test_a_reading_over_a_rating_is_said_before_anything_is_begun(qtbot, power):
    jot(qtbot, power, "rail b1 is 400 V, capacitor 450 V")
    jot(qtbot, power, "rail b1 520")
    assert "over the 450 V its capacitor is rated for" in power.warning.words.text()
    assert power.bench.in_hand.job.power.reads[-1].body.reading == 520  # written all the same


def test_silicon_for_selenium_is_said_at_once(qtbot, power):
    jot(qtbot, power, "replaced the selenium rectifier with silicon")
    assert "Silicon for selenium: the rails rise" in power.warning.words.text()


def test_silent_meters_under_power_are_said_large(qtbot, ready, monkeypatch):
    monkeypatch.setattr("candor.desktop.bench.meters_in_hand.SILENT_S", 0.2)
    going, links = ready.power.going, ready.power.going.links
    links.lines.setPlainText("watts TCPIP::127.0.0.1::1::SOCKET")
    qtbot.mouseClick(links.connect_, LEFT)
    put(ready.bench.writer, StateBegun(title="low", line_volts=160))
    qtbot.wait(400)
    ready.bench.clock.ticked.emit()
    assert "No meter answers: nothing is being watched" in going.silence.words.text()
    assert "nothing is being watched" in ready.warning.words.text()


def test_a_rail_that_does_not_come_up_is_said(qtbot, ready, clock):
    put(
        ready.bench.writer,
        PlanKept(way="straight on", lines="low: line 160 V; hold 5 min\n  read b1 169..295 V\nwarm: line 230 V"),
    )
    put(ready.bench.writer, StateBegun(title="low", line_volts=160))
    clock.advance(seconds=90)
    jot(qtbot, ready, "rail b1 3")
    ready.bench.clock.ticked.emit()
    assert "has not come up" in ready.power.going.silence.words.text()
    assert "has not come up" in ready.warning.words.text()


def test_grace_counts_from_the_state_and_not_from_connecting(qtbot, ready, clock, closing):
    """Meters connected minutes into a state: 80 W against a cut of 30 W alarm at once."""
    meter = LoopbackInstrument(lambda _: "80.0")
    closing.callback(meter.close)
    put(
        ready.bench.writer,
        PlanKept(way="straight on", lines="low: line 160 V; hold 5 min\n  cut watts beyond 30 W after 60 s"),
    )
    put(ready.bench.writer, StateBegun(title="low", line_volts=160))
    clock.advance(seconds=420)
    links = ready.power.going.links
    links.lines.setPlainText(f"watts {meter.resource}")
    qtbot.mouseClick(links.connect_, LEFT)
    ready.bench.clock.ticked.emit()
    qtbot.waitUntil(lambda: ready.power.going.alarm.text() == "Plug out")


def test_creeping_watts_are_shown(qtbot, ready, clock):
    put(ready.bench.writer, StateBegun(title="low", line_volts=160))
    for n in range(31):
        clock.advance(seconds=10)
        put(ready.bench.writer, RailRead(name="watts", reading=20 + n / 6 + (0.2 if n % 2 else -0.2)))
    ready.bench.clock.ticked.emit()
    assert "Leakage is growing" in ready.power.going.creep.words.text()
    assert ready.power.going.creep.isVisible()


def test_no_power_before_the_list_and_the_caution(qtbot, power):
    put(power.bench.writer, PlanKept(way="straight on", lines=LINES))
    power.power.show_view("going")
    going = power.power.going
    assert going.caution.words.text() == "It bites."
    assert not going.begin.isEnabled()
    qtbot.mouseClick(going.understood, LEFT)
    assert not going.caution.isVisible()
    qtbot.mouseClick(going.begin, LEFT)
    assert "Do not power it yet" in power.jot.message.text()
    assert power.power.may.isVisible()
    assert power.bench.in_hand.job.power.state is None


def test_the_way_up_is_read_in_its_state_and_an_alarm_says_what_to_do(qtbot, ready, monkeypatch):
    beeps = []
    monkeypatch.setattr(QApplication, "beep", lambda: beeps.append(1))
    going = ready.power.going
    qtbot.mouseClick(going.understood, LEFT)
    qtbot.mouseClick(going.begin, LEFT)
    assert ready.route.line.stations[2].accessibleName() == "Power: begun, live"
    assert going.read.hasFocus()
    enter(qtbot, going.read, "watts 12")
    enter(qtbot, going.read, "b1 171")
    enter(qtbot, going.read, "click")
    jot(qtbot, ready, "rail b1 170")
    assert {s.watched.name: (s.watched.state, len(s.values)) for s in going.strips._strips} == {
        "watts": ("in band", 1),
        "b1": ("no band", 2),
    }
    assert going.events["click"].isChecked()
    enter(qtbot, going.read, "nonsense 12 12")
    assert "Give a rail" in ready.jot.message.text()
    assert (going.alarm.isVisible(), beeps) == (False, [])
    enter(qtbot, going.read, "b1 351")
    assert going.alarm.text() == "Plug out"
    assert beeps
    assert "beyond 350 V" in ready.warning.words.text()
    assert ready.because.word.text() == "Plug out" or ready.power.explain(ready.because) is None
    qtbot.keyClick(ready.power, Qt.Key.Key_Escape)
    qtbot.keyClick(ready.power, Qt.Key.Key_Escape)
    assert ready.bench.in_hand.job.power.out is None  # Esc never writes what nobody meant
    going.off.click()
    assert ready.bench.in_hand.job.power.out is not None
    assert ready.power.after.isVisible()
    assert not going.alarm.isVisible()


def test_an_alarm_is_raised_wherever_the_hands_are(qtbot, ready):
    put(ready.bench.writer, StateBegun(title="low", line_volts=160))
    ready.go_to_stop("arrive")
    jot(qtbot, ready, "rail b1 400")
    ready.bench.clock.ticked.emit()
    assert "beyond 350 V" in ready.warning.words.text()


def test_after_power_the_word_safe_waits(qtbot, ready, clock):
    put(ready.bench.writer, StateBegun(title="warm", line_volts=230))
    jot(qtbot, ready, "rail b1 290")
    ready.power.show_view("after")
    after = ready.power.after
    assert after.word.text() == "Plugged in"
    qtbot.mouseClick(after.out, LEFT)
    enter(qtbot, after.bleeder, "b1 220k on 40 uF")
    assert "The bleeder needs" in after.sentence.text()
    qtbot.mouseClick(after.proved, LEFT)
    enter(qtbot, after.read, "b1 3")
    assert (after.word.text(), "measure again in" in after.sentence.text()) == ("Not known to be safe", True)
    clock.advance(seconds=61)
    enter(qtbot, after.read, "b1 4")
    assert after.word.text() == "Safe, as measured"
    assert row_titles(after.list) == ["b1"]


def test_the_minute_is_not_the_clock_of_the_day_and_another_start_begins_it_anew(qtbot, ready, clock):
    put(ready.bench.writer, StateBegun(title="warm", line_volts=230))
    ready.power.show_view("after")
    after = ready.power.after
    qtbot.mouseClick(after.out, LEFT)
    qtbot.mouseClick(after.proved, LEFT)
    enter(qtbot, after.read, "b1 3")
    clock.step(hours=1)  # somebody sets the clock
    enter(qtbot, after.read, "b1 3")
    assert after.word.text() == "Not known to be safe"
    clock.step(hours=-2)
    clock.advance(seconds=61)
    enter(qtbot, after.read, "b1 3")
    assert after.word.text() == "Safe, as measured"
    clock.restart()
    clock.step(days=1)
    after.show_job()
    assert (after.word.text(), "the minute begins anew" in after.sentence.text()) == ("Not known to be safe", True)
    enter(qtbot, after.read, "b1 3")
    clock.advance(seconds=61)
    enter(qtbot, after.read, "b1 3")
    assert after.word.text() == "Not known to be safe"  # the meter was proved before: by now it may be another
    qtbot.mouseClick(after.proved, LEFT)
    enter(qtbot, after.read, "b1 3")
    assert after.word.text() == "Safe, as measured"


def test_the_plan_follows_what_is_said_and_is_edited_and_kept(qtbot, power):
    page = power.power
    page.show_view("way")
    way = page.way
    way.rectifier.setCurrentText("directly heated")
    way.rectifier.activated.emit(1)
    fill(qtbot, way.watts, "60")
    qtbot.keyClick(way.watts, Qt.Key.Key_Return)
    assert way.way.text() == "Variable transformer"
    assert "series lamp 60 W" in way.helps.text()
    way.steps.setPlainText("warm: line 230 V; read b1 300..200")
    qtbot.mouseClick(way.keep, LEFT)
    assert "lower end stands first" in power.jot.message.text()
    assert way.steps.toPlainText() == "warm: line 230 V; read b1 300..200"
    way.steps.setPlainText("warm: line 230 V; read b1 200..300")
    qtbot.mouseClick(way.keep, LEFT)
    assert power.bench.in_hand.job.power.plan.body.lines == "warm: line 230 V; read b1 200..300"
    assert [s.title for s in page.going.plan().steps] == ["warm"]
    qtbot.mouseClick(way.anew, LEFT)
    assert power.bench.in_hand.job.power.plan is None
    assert way.steps.toPlainText().startswith("at 70 %")


def test_a_supply_is_calculated_beside_the_window(qtbot, power):
    panel = power.power.supply
    power.power.show_view("supply")
    enter(qtbot, panel.typed, "300-0-300 V")
    assert "a capacitor is missing" in power.jot.message.text()
    fill(qtbot, panel.instead, "silicon")
    with qtbot.waitSignal(panel.work.answered, timeout=20000):
        enter(qtbot, panel.typed, "300-0-300 V, 150 ohm, vacuum, 16 uF 450 V, 900 ohm, 32 uF 550 V, load 60 mA")
    assert panel.answer.text().startswith("C1: 504 V before anything draws")
    assert "The smaller drop:" in panel.answer.text()
    assert panel.curve.isVisible()
    assert power.bench.in_hand.job.power.typed.body.instead == "silicon"


def test_what_was_measured_of_a_supply_is_kept_and_explained_beside_the_window(qtbot, power):
    panel = power.power.supply
    power.power.show_view("supply")
    enter(qtbot, panel.typed, "110 V half-wave, 90 ohm, silicon, 47 uF 200 V, load 20 mA")
    assert not panel.rails.isVisible()
    enter(qtbot, panel.measured, "C1 banana")
    assert "cannot read" in power.jot.message.text()
    enter(qtbot, panel.measured, "C1 143 V, C1 ripple 26 V, line 118 of 120 V, winding open 117 V")
    qtbot.waitUntil(lambda: panel.rails.isVisible(), timeout=30000)
    assert panel.rails.lines[0].text().startswith("C1 has between")
    assert power.bench.in_hand.job.power.typed.body.measured.startswith("C1 143 V")


def test_meters_on_the_simulated_bench_come_up_and_a_crossing_is_written_and_alarms(qtbot, ready, tmp_path):
    lines = "low: line 230 V; hold 5 min\n  cut n2 beyond 150 V"
    put(ready.bench.writer, PlanKept(way="straight on", lines=lines))
    going, links = ready.power.going, ready.power.going.links
    links.lines.setPlainText("n2 simulated\nwatts simulated\nb9 TCPIP::127.0.0.1::1::SOCKET")
    qtbot.mouseClick(links.connect_, LEFT)
    assert ready.bench.meters.running
    qtbot.mouseClick(going.begin, LEFT)
    qtbot.waitUntil(lambda: going.alarm.isVisible())
    assert "n2" in going.alarm_words.text()
    captured = [e.body for e in ready.bench.in_hand.job.power.reads if e.body.source == "captured"]
    assert (len(captured), captured[0].name, captured[0].reading > 150) == (1, "n2", True)
    qtbot.waitUntil(lambda: "b9 unknown" in links.words.text())
    shown = {s.watched.name: s.watched.state for s in going.strips._strips}
    assert shown["b9"] == "unknown"
    links.curves.setChecked(True)
    links.show_meters()
    assert set(links.long._curves) == {"n2", "watts", "b9"}
    with qtbot.waitSignal(links.work.answered, timeout=5000):
        links.export_to(tmp_path / "all.csv")
    assert (tmp_path / "all.csv").read_text().startswith("name,seconds,value")
    qtbot.mouseClick(going.off, LEFT)
    ready.power.show_view("going")
    qtbot.mouseClick(links.stop, LEFT)
    assert not ready.bench.meters.running
    assert ready.bench.in_hand.job.power.meters[-1].body.names == ("n2", "watts", "b9")
    assert set(links.files()) == {"n2", "watts", "b9"}  # what was read can still be looked at
    assert links.curves.isVisible()


def test_meters_that_cannot_be_are_refused(qtbot, ready):
    links = ready.power.going.links
    for text, words in (("b1", "has no address"), ("b1 x\nb1 y", "read by two meters")):
        links.lines.setPlainText(text)
        qtbot.mouseClick(links.connect_, LEFT)
        assert words in ready.jot.message.text()
        assert not ready.bench.meters.running


def test_from_across_the_bench_the_pedal_goes_on_and_notes_the_plug(qtbot, ready):
    ready.toggle_arms_length()
    view = ready.afar.power
    assert ready.views.currentWidget() is view
    assert (view.title.text(), view.caution.words.text()) == ("First: low, line 160 V", "It bites.")
    qtbot.keyClick(view, Qt.Key.Key_Space)
    assert ready.bench.in_hand.job.power.state is None  # the caution was read, no more
    qtbot.keyClick(view, Qt.Key.Key_Space)
    assert view.title.text() == "low, line 160 V"
    put(ready.bench.writer, RailRead(name="b1", reading=400.0))
    assert view.alarm.text() == "Plug out"
    qtbot.keyClick(view, Qt.Key.Key_Space)
    assert ready.bench.in_hand.job.power.out is not None
    assert (view.alarm.isVisible(), view.title.text()) == (False, "The plug is out")
    qtbot.keyClick(view, Qt.Key.Key_Escape)
    assert ready.views.currentWidget() is ready.table


def test_earthing_is_said_when_the_cord_is_changed(qtbot, power):
    jot(qtbot, power, "replaced the cord with a three-wire one")
    assert "filter capacitors that floated now load the earth" in power.warning.words.text()


def test_a_supply_from_a_netlist_file(qtbot, power, tmp_path):
    panel = power.power.supply
    power.power.show_view("supply")
    assert not panel.drawn.isVisible()
    file = tmp_path / "supply.cir"
    file.write_text("V1 a 0 sin(0 300 50)\nR1 a b 100\nD1 b k drop=15\nC1 k 0 16u\nR2 k 0 10k\n")
    with qtbot.waitSignal(panel.work.answered, timeout=10000):
        panel.calculate_file(file)
    assert "k: mean 2" in panel.answer.text()
    file.write_text("Z1 a 0 3")
    panel.calculate_file(file)
    assert "is of a kind this subset does not know" in power.jot.message.text()


def test_a_state_the_plan_no_longer_has_is_said_to_be_unwatched(qtbot, ready):
    put(ready.bench.writer, StateBegun(title="low", line_volts=160))
    put(ready.bench.writer, PlanKept(way="straight on", lines="other: line 100 V"))
    going = ready.power.going
    ready.power.show_view("going")
    assert "nothing is being watched" in going.time.text()
    assert going.off.isVisible()
    jot(qtbot, ready, "rail b1 400")
    assert not going.alarm.isVisible()


def test_a_crossing_is_heard_while_another_job_is_in_hand(qtbot, ready, notebook):
    notebook.write("k", JobOpened(maker="Corvane", type="AV-21", serial="1"))
    lines = "low: line 230 V; hold 5 min\n  cut n2 beyond 260 V"
    put(ready.bench.writer, PlanKept(way="straight on", lines=lines))
    going, links = ready.power.going, ready.power.going.links
    links.lines.setPlainText("n2 simulated")
    qtbot.mouseClick(links.connect_, LEFT)
    qtbot.mouseClick(going.begin, LEFT)
    ready.shelf.job.emit("k")
    ready.go_to_stop("power")
    assert ready.bench.in_hand.job.id == "k"
    qtbot.waitUntil(lambda: "left under power: n2" in ready.warning.words.text())
    ready.shelf.job.emit("j")
    assert [e.body.source for e in ready.bench.in_hand.job.power.reads] == ["captured"]
    ready.go_to_stop("power")
    assert going.alarm.text() == "Plug out"
    ready.bench.meters.stop()
