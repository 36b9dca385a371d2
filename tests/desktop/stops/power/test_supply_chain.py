"""The supply as a chain: each place says what the report says of it, and a capacitor over its rating is seen."""

from candor.core.power.supply_answer import report_supply
from candor.core.power.supply_read import SupplyRead, read_measured
from candor.words.supply_stages import supply_stages
from candor.words.supply_words import report_lines
from desk import fill
from workbench import PATIENCE_MS

LINE = "240-0-240 V, 180 ohm, silicon, 22 uF 350 V, choke 5 H 150 ohm, 47 uF 300 V, load 50 mA, tubes after 11 s"


def test_each_place_says_what_the_report_says_of_it():
    report = report_supply(LINE, "", 50.0)
    read = read_measured("C2 ripple 40 mV, C1 298.5 V, winding open 255 V", 2)
    winding, first, second, load = supply_stages(report, read)
    assert (winding.volts, winding.measured, winding.joined) == ("240-0-240 V", "open 255 V", "silicon")
    assert (first.measured, second.measured, first.joined) == ("read 298.5 V", "", "5 H 150 Ω")
    said = "\n".join(report_lines(report))
    for stage in (first, second):
        name = stage.title.split()[0]
        assert f"{name}: {stage.volts} warm" in said
        cold = stage.cold.removeprefix("cold ").split()[0]
        assert f"{cold} V cold at +10 % line" in said
    assert second.is_over and second.filled > 1  # 300 V where the crest of 240 V and more stands
    assert load.volts == "50 mA"
    assert all(stage.measured == "" for stage in supply_stages(report, SupplyRead()))


def test_it_is_drawn_with_what_was_measured_and_gone_with_the_supply(qtbot, show, demo):
    window = show(demo)
    window.shelf.job.emit("sb40265")
    window.go_to_stop("power")
    window.power.show_view("supply")
    panel = window.power.supply
    qtbot.waitUntil(lambda: panel.chain.isVisible(), timeout=PATIENCE_MS)
    assert [s.measured for s in panel.chain.stages] == ["open 245.9 V", "read 311.3 V", "read 253.7 V", ""]
    wide = panel.chain.height()
    window.resize(800, 800)
    qtbot.waitUntil(lambda: panel.chain.height() > wide, timeout=PATIENCE_MS)  # it wraps
    fill(qtbot, panel.measured, "C1 300 V")
    panel.measured.returnPressed.emit()
    qtbot.waitUntil(
        lambda: [s.measured for s in panel.chain.stages] == ["", "read 300 V", "", ""], timeout=PATIENCE_MS
    )
    window.shelf.job.emit("sb40217")  # no supply was typed there
    window.go_to_stop("power")
    window.power.show_view("supply")
    assert not panel.chain.isVisible()
