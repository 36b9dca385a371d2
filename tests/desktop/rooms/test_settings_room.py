"""The room where the look is chosen."""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt

from candor.core.leaving.electrical import LocalRule
from candor.desktop.frame.preferences import Preferences
from candor.desktop.rooms.settings_room import MAINS
from desk import fill


def test_theme_and_text_size_are_remembered(qtbot, show, notebook, tmp_path):
    window = show(notebook)
    window.enter_room("look")
    qtbot.mouseClick(window.rooms["look"].modes["dark"], Qt.MouseButton.LeftButton)
    qtbot.mouseClick(window.rooms["look"].sizes[1.5], Qt.MouseButton.LeftButton)
    kept = Preferences.load(tmp_path / "look.json")
    assert (kept.mode, kept.scale) == ("dark", 1.5)
    (tmp_path / "broken.json").write_text("{")
    assert Preferences.load(tmp_path / "broken.json").mode == "system"
    assert "could not be kept" in Preferences("dark", 1.0, tmp_path / "look.json" / "x.json").save()
    fill(qtbot, window.rooms["look"].shop, "My Bench")
    window.rooms["look"].modes["dark"].setFocus()
    assert "My Bench" in window.bench.shop.name


@pytest.mark.parametrize("mains", MAINS)
def test_mains_units_and_limits_need_no_syntax(qtbot, show, notebook, mains):
    window = show(notebook)
    window.enter_room("look")
    room, shop = window.rooms["look"], window.bench.shop
    qtbot.mouseClick(room.mains[mains], Qt.MouseButton.LeftButton)
    assert shop.settings.mains.words == mains == room.fields["mains"].text()
    assert [m for m, made in room.mains.items() if made.isChecked()] == [mains]
    qtbot.mouseClick(room.mains[mains], Qt.MouseButton.LeftButton)  # chosen already: it stays so
    assert room.mains[mains].isChecked()
    for unit in ("umho", "mmf"):
        qtbot.mouseClick(room.units[unit], Qt.MouseButton.LeftButton)
    assert shop.settings.units == ("umho", "mmf")
    qtbot.mouseClick(room.units["umho"], Qt.MouseButton.LeftButton)
    assert shop.settings.units == ("mmf",)
    fill(qtbot, room.limits["touch"], "0.25 mA")
    room.limits["touch"].editingFinished.emit()
    assert shop.settings.local_rule.touch_amperes == pytest.approx(0.25e-3)
    assert shop.settings.local_rule.earth_ohms == LocalRule().earth_ohms
    assert room.limits["earth"].text() == "200 mΩ"  # a rule said in part is shown whole


def test_what_is_wrong_is_said_at_its_field_and_stays_there_to_be_mended(qtbot, show, notebook):
    window = show(notebook)
    window.enter_room("look")
    room = window.rooms["look"]
    fill(qtbot, room.fields["mains"], "a lot")
    room.fields["mains"].editingFinished.emit()
    fill(qtbot, room.limits["earth"], "40 ohm")
    room.limits["earth"].editingFinished.emit()
    assert "up to 1 Ω" in room.errors["local_rule"].text()
    fill(qtbot, room.shop, "Bench")  # another field is written meanwhile
    room.shop.editingFinished.emit()
    assert window.bench.shop.record.details == {"shop": "Bench"}
    assert room.errors["mains"].isVisible()
    assert (room.fields["mains"].text(), room.limits["earth"].text()) == ("a lot", "40 ohm")
    qtbot.keyClicks(room.fields["mains"], "x")
    assert not room.errors["mains"].isVisible()  # gone when it changes
    qtbot.mouseClick(room.elsewhere["standards"], Qt.MouseButton.LeftButton)
    assert window.work.currentWidget() is window.rooms["standards"]
