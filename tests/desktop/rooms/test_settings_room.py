"""The room where the look is chosen."""

from __future__ import annotations

from PySide6.QtCore import Qt

from candor.desktop.frame.preferences import Preferences
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
