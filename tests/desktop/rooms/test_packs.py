"""The room of the packs, driven through the window."""

from __future__ import annotations

from candor.notebook.pack_choice import packs_at_hand
from workbench import PACK_TEXT


def test_packs_are_taken_in_or_their_faults_listed(qtbot, show, notebook, tmp_path, pack):
    window = show(notebook)
    window.enter_room("packs")
    room = window.rooms["packs"]
    bad = tmp_path / "bad.yaml"
    bad.write_text("pack: 1\nid: X Y\n")
    assert not room.read(bad)
    assert room.faults.isVisible()
    assert room.faults.item(0).text().startswith("line 1, column 1")
    good = tmp_path / "good.yaml"
    good.write_text(PACK_TEXT.replace("id: tarnholm-vm6", "id: halvergate-dv2").replace("type: VM-6", "type: DV-2"))
    assert room.read(good)
    assert not room.faults.isVisible()
    assert {p.id for p in packs_at_hand(window.bench.notebook)} >= {"tarnholm-vm6", "halvergate-dv2"}
