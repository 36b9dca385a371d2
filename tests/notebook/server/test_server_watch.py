"""What another bench writes is here within a second; what waits goes there by itself; who is there is known."""

import time

import pytest

from candor.notebook.entries.stay_entries import NoteWritten
from candor.notebook.server.mirrors import make_copy
from candor.notebook.server.server_watch import ServerWatch, Watched
from candor.notebook.store import Notebook
from pgserver import Line


@pytest.fixture
def benches(pg, tmp_path, closing):
    database, line = pg.notebook(anna="signer", ben="bench"), Line(pg.port)
    closing.callback(line.close)
    made = []
    for who, port in (("anna", line.port), ("ben", None)):
        notebook = Notebook(make_copy(pg.url(who, database, port), tmp_path / who), "")
        notebook.do_not_wait()
        watch = ServerWatch(notebook.path, lambda: None)
        closing.callback(notebook.close)
        closing.callback(watch.finish)
        watch.start()
        made.append((notebook, watch))
    return line, *made


def until(holds) -> bool:
    end = time.time() + 20
    while not holds() and time.time() < end:
        time.sleep(0.02)
    return bool(holds())


def test_watching(benches):
    line, (anna, at_anna), (ben, at_ben) = benches
    assert until(lambda: at_anna.state.up and at_ben.state.up)
    anna.write("j", NoteWritten(text="a"))
    assert until(lambda: ben.entries_of("j"))
    at_ben.be_at("j", "calibrate")
    (ben.run_folder).mkdir()
    assert until(lambda: [(b.who, b.job, b.stop) for b in at_anna.state.benches] == [("ben", "j", "calibrate")])
    line.cut()
    anna.write("j", NoteWritten(text="b"))
    assert anna.away
    assert until(lambda: not at_anna.state.up and "does not answer" in at_anna.state.why)
    assert until(lambda: at_ben.state.benches == ()), "who is gone is gone"
    line.mend()
    assert until(lambda: not anna.away)
    assert until(lambda: len(ben.entries_of("j")) == 2)


def test_a_run_held_at_one_bench_is_known_at_the_other(benches):
    from candor.notebook.runs.run_files import hold

    _, (_, at_anna), (ben, _) = benches
    with hold(ben.run_folder / "C1-ab.csv"):
        assert until(lambda: at_anna.state.held == {"C1-ab.csv"})
    assert until(lambda: not at_anna.state.held)


def test_clocks_that_differ_are_said():
    assert Watched(ahead_s=29.0).skew == ""
    assert "31 s behind" in Watched(ahead_s=31.0).skew
    assert "40 s ahead" in Watched(ahead_s=-40.0).skew
