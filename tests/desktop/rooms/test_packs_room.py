"""The room of the packs, driven through the window."""

from __future__ import annotations

from candor.notebook.arrive.pack_choice import packs_at_hand
from candor.notebook.arrive.pack_from_job import grown_of_job
from candor.notebook.entries.stay_entries import JobOpened
from candor.packs.load import parse_pack
from desk import LEFT, jot
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


def test_a_job_grows_into_a_pack_and_goes_over_to_it(qtbot, show, notebook, tmp_path):
    notebook.write("j", JobOpened(maker="Corvane", type="AV-20", serial="3310", instrument_kind="multimeter"))
    window = show(notebook)
    window.go_to_stop("calibrate")
    for line in ("range 30 V 30 div 3%fs", "10.2 ref 10.03", "20.1 ref 20.02", "29.9 ref 30.04"):
        jot(qtbot, window, line)
    window.enter_room("packs")
    room = window.rooms["packs"]
    assert room.grow.isVisible()
    assert room.write(grown_of_job(notebook, "j"), tmp_path / "grown.yaml")
    assert "Not said yet: no part is listed." in room.words.text()
    assert parse_pack((tmp_path / "grown.yaml").read_text(), "x").id == "corvane-av-20"
    qtbot.mouseClick(room.go_over, LEFT)
    assert not room.go_over.isVisible()
    job = window.bench.in_hand.job
    assert (job.pack_digest, window.bench.in_hand.found.measured) == (room.pack().digest, 3)
    window.go_to_stop("calibrate")
    jot(qtbot, window, "15.1 ref 15.02")
    assert window.bench.in_hand.found.measured == 4
    assert not room.write(grown_of_job(notebook, "j"), tmp_path / "nowhere" / "x.yaml")
    assert "cannot be written" in window.jot.message.text()
