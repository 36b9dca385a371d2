"""Files of runs: held while somebody is at one, read to their end, ended where a plug was pulled."""

import datetime as dt
import os
import subprocess
import sys
from pathlib import Path

import pytest

import candor
from candor.core.errors import CandorError
from candor.notebook.entries.entry import Entry
from candor.notebook.entries.runs_entries import Run, RunEnded, RunStarted
from candor.notebook.runs.run_files import cut_off, export_run, hold, is_held, read_end, run_file_name
from workbench import NOW


def started(file="c.csv", ref="C17", at=NOW, key="run1"):
    body = RunStarted(ref=ref, mode="leakage", target_volts=280, dwell_s=300, limit=5e-4, most_s=900, file=file)
    return Run(Entry(number=1, id=key, job="j", at=at, who="x", body=body))


def test_a_held_file_is_nobody_elses_and_free_when_its_program_dies(tmp_path):
    """The lock is the system's: no guess by the time of a file, and a killed program holds nothing."""
    path = tmp_path / "runs" / "c.csv"
    code = (
        "import sys, time; from pathlib import Path; from candor.notebook.runs.run_files import hold\n"
        "held = hold(Path(sys.argv[1])); print('held', flush=True); time.sleep(30)"
    )
    other = subprocess.Popen(
        [sys.executable, "-c", code, str(path)],
        stdout=subprocess.PIPE,
        text=True,
        env=os.environ | {"PYTHONPATH": str(Path(candor.__file__).parents[1])},
    )
    try:
        assert other.stdout.readline() == "held\n"
        assert is_held(path)
        assert list(cut_off(path.parent, [started()], NOW)) == []
        with pytest.raises(CandorError, match="the run was not started"):
            hold(path)
    finally:
        other.kill()
        other.wait()
        other.stdout.close()
    assert not is_held(path)
    found = list(cut_off(path.parent, [started()], NOW))  # at once, not after a quarter of a minute
    assert [f.end.run for f in found] == ["run1"]


def test_no_reading_is_not_nought_volts(tmp_path):
    (tmp_path / "c.csv").write_text("seconds,volts,amperes,source_volts\n")
    (found,) = cut_off(tmp_path, [started()], NOW)
    assert (found.end.measured_volts, found.end.readings, found.end.safe) == (None, 0, False)
    assert "nothing was read. Its source may be on: switch it off" in found.words
    assert "0 V" not in found.words


def test_a_run_begins_with_its_entry_and_its_file_comes_after(tmp_path):
    assert list(cut_off(tmp_path, [started()], NOW + dt.timedelta(seconds=1))) == []
    assert len(list(cut_off(tmp_path, [started()], NOW + dt.timedelta(seconds=60)))) == 1
    ended = Run(
        started().started, Entry(number=2, id="e", job="j", at=NOW, who="x", body=RunEnded(run="run1", ref="C17"))
    )
    assert list(cut_off(tmp_path, [ended], NOW + dt.timedelta(days=1))) == []


def test_what_a_file_of_a_run_holds(tmp_path):
    assert read_end(tmp_path / "none.csv") == (0, None)
    path = tmp_path / "cut.csv"
    path.write_bytes(b"seconds,volts,amperes,source_volts\n1,10,1e-3,280\n2,20,1e-3,280\n3,nan,1,280\n\0\0\n4,2")
    assert read_end(path) == (2, 20.0)


@pytest.mark.parametrize("ref", ["C1", "C1/2", "../../x", "C 1 (a)", "ÄC1", ".", "C" * 300])
def test_any_designator_has_a_file(tmp_path, ref):
    name = run_file_name(ref, "0123456789")
    assert (tmp_path / name).resolve().parent == tmp_path
    with hold(tmp_path / name) as file:
        file.write(b"x")
    assert [p.name for p in tmp_path.iterdir()] == [name]


@pytest.mark.parametrize("name", ["../c.csv", "/etc/passwd", "..", "", "a/b.csv", ".hidden"])
def test_a_name_that_leads_elsewhere_is_not_followed(tmp_path, name):
    inside = tmp_path / "runs"
    inside.mkdir()
    (tmp_path / "c.csv").write_text("seconds,volts,amperes,source_volts\n1,300,1e-3,280\n")
    with pytest.raises(CandorError, match="no file of a run has such a name"):
        export_run(inside, started(name).started.body, tmp_path / "out.csv")
    later = NOW + dt.timedelta(hours=1)
    assert [f.end.readings for f in cut_off(inside, [started(name)], later)] == [0]


def test_an_export_leaves_what_stood_there_until_it_is_whole(tmp_path, monkeypatch):
    target = tmp_path / "out.csv"
    target.write_text("older")
    with pytest.raises(CandorError, match="could not be copied"):
        export_run(tmp_path, started("gone.csv").started.body, target)
    (tmp_path / "c.csv").write_text("new")

    def full(_):
        raise OSError(28, "No space left on device")

    with monkeypatch.context() as patch:
        patch.setattr("os.fsync", full)
        with pytest.raises(CandorError, match="No space left on device"):
            export_run(tmp_path, started().started.body, target)
    assert target.read_text() == "older"
    export_run(tmp_path, started().started.body, target)
    assert target.read_text() == "new"
    assert sorted(p.name for p in tmp_path.iterdir()) == ["c.csv", "out.csv"]
