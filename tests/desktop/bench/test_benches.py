"""Two windows on one notebook of a server: each sees what the other writes and has in hand; where the link drops work goes on."""

import datetime as dt

import pytest

from candor.notebook.entries.calibrate_entries import StandardChosen
from candor.notebook.entries.parts_entries import ReplacementChosen
from candor.notebook.entries.runs_entries import RunStarted
from candor.notebook.entries.sources_entries import SourceApplied
from candor.notebook.entries.standards_entries import StandardRecorded
from candor.notebook.entries.stay_entries import ChangeMade, JobOpened, NoteWritten
from candor.notebook.power.left_on import left_on
from candor.notebook.runs.run_files import hold
from candor.notebook.server.mirrors import make_copy
from candor.notebook.store import Notebook
from desk import jot
from pgserver import Line
from stockroom import film, need
from workbench import NOW


@pytest.fixture
def two(pg, show, tmp_path, closing, pack):
    """Anna's window, on a link that can be cut, and Ben's."""
    line, database = Line(pg.port), pg.notebook(anna="signer", ben="bench")
    closing.callback(line.close)

    def notebook(who: str, port: int | None = None) -> Notebook:
        made = Notebook(make_copy(pg.url(who, database, port), tmp_path / who), "", lambda: NOW)
        closing.callback(made.close)
        return made

    anna, ben = notebook("anna", line.port), notebook("ben")
    for job, serial in (("one", "11"), ("two", "22")):
        anna.write(job, JobOpened(maker="Tarnholm", type="VM-6", serial=serial, pack_digest=anna.keep_pack(pack)))
    ben.catch_up()
    for made in (anna, ben):
        made.do_not_wait()
    windows = show(anna), show(ben)
    for window in windows:
        window._open_job("one")
    return (line, *windows)


def texts(window) -> list[str]:
    return [e.body.text for e in window.bench.in_hand.job.entries if isinstance(e.body, NoteWritten)]


def test_two_windows(two, qtbot):
    line, anna, ben = two
    qtbot.waitUntil(lambda: "ben is at this job too" in anna.shelf.others.text())
    ben.go_to_stop("power")
    qtbot.waitUntil(lambda: "at Power" in anna.shelf.others.text())
    jot(qtbot, anna, "note a smell of wax")
    qtbot.waitUntil(lambda: texts(ben) == ["a smell of wax"])
    ben._open_job("two")
    qtbot.waitUntil(lambda: not anna.shelf.others.text())
    assert anna.shelf.others.isHidden()
    line.cut()
    jot(qtbot, anna, "note while away")
    assert texts(anna)[-1] == "while away"
    qtbot.waitUntil(lambda: "Not yet on" in anna.shelf.others.text())
    anna.enter_room("notebook")
    assert "does not answer" in anna.rooms["notebook"].server.state.text()
    assert "nothing is signed or printed as final" in anna.rooms["notebook"].server.state.text()
    line.mend()
    qtbot.waitUntil(lambda: not anna.bench.notebook.away)
    ben._open_job("one")
    qtbot.waitUntil(lambda: texts(ben)[-1] == "while away")


def test_one_meter_on_two_benches_is_said(two, qtbot):
    _, anna, ben = two
    for window, job in ((anna, "one"), (ben, "two")):
        window._open_job(job)
    key = anna.bench.notebook.write("", StandardRecorded(key="m", name="bench meter")).id
    for job in ("one", "two"):
        anna.bench.notebook.write(job, StandardChosen(standard=key))
    ben.go_to_stop("arrive")
    anna.bench.tick()
    ben.go_to_stop("calibrate")
    qtbot.waitUntil(lambda: "bench meter is in use by ben too, on Tarnholm VM-6" in anna.shelf.others.text())


def test_the_last_piece_taken_twice_is_said_at_both_benches(two, qtbot):
    _, anna, ben = two
    ben._open_job("two")
    store = anna.bench.notebook
    store.write("", film(count=1))
    for job in ("one", "two"):
        store.write(job, ReplacementChosen(ref="C1", lines=(need(key="f"),)))
    qtbot.waitUntil(lambda: len(ben.bench.notebook.entries_of("two")) == 2)
    anna.bench.tick()
    store.write("one", ChangeMade(text="replaced C1", part="C1"))
    ben.bench.notebook.catch_up()
    ben.bench.tick()
    assert not anna.bench.voice.warnings
    ben.bench.notebook.write("two", ChangeMade(text="replaced C1", part="C1"))
    ben.bench.in_hand.fold_anew()
    ben.bench.in_hand.changed.emit()
    for window in (anna, ben):
        qtbot.waitUntil(lambda w=window: any("more taken than were counted" in x for x in w.bench.voice.warnings))


def test_a_run_and_a_source_of_another_bench_are_left_to_it(two, qtbot):
    _, anna, ben = two
    file = "source-a.lock"
    with hold(ben.bench.notebook.run_folder / file):
        ben.bench.notebook.write("one", SourceApplied(link="a", value=5.0, file=file))
        ben.bench.notebook.write(
            "one",
            RunStarted(
                ref="C1", mode="leakage", target_volts=50.0, dwell_s=60.0, limit=1e-5, most_s=300.0, file="C1-x.csv"
            ),
            at=NOW - dt.timedelta(minutes=1),
        )
        qtbot.waitUntil(lambda: file in (anna.bench.notebook.held_elsewhere or ()))
        qtbot.waitUntil(lambda: bool(anna.bench.in_hand.job.runs.cut_off()))
        anna.bench.tick()
        assert not anna.bench.voice.warnings
        assert anna.bench.in_hand.job.runs.cut_off(), "it is not ended from here"
        assert list(left_on(anna.bench.notebook)) == []
    qtbot.waitUntil(lambda: file not in anna.bench.notebook.held_elsewhere)
    ((entry, _),) = left_on(anna.bench.notebook)
    assert entry.body.link == "a"
