"""The command line writes through the same sitting as the window: the same lines, guards and answers."""

import json

import pytest
from typer.testing import CliRunner

from candor.cli import app
from candor.core.errors import CandorError
from candor.notebook.entries.arrive_entries import FindingNoted
from candor.notebook.work.barriers import BarredError
from candor.notebook.work.job import fold
from candor.writing import lines, written
from workbench import open_job


@pytest.fixture
def path(notebook, pack):
    open_job(notebook, pack)
    return notebook.path


def test_a_line_is_written_as_in_the_window_and_says_what_follows(path, notebook):
    said = written(path, "job1", "found cord: bare copper at the plug")
    assert said["written"][0]["kind"] == "finding"
    with pytest.raises(CandorError, match="Nothing has been read as found yet"):
        written(path, "job1", "did replaced R4")
    assert fold("job1", notebook.entries_of("job1")).stay.changes == ()
    said = written(path, "job1", "did replaced R4", without=True)
    assert [e["kind"] for e in said["written"]] == ["as_found_waived", "change"]
    assert said["told"] == ["What proves it? Jot: checked …"]
    with pytest.raises(CandorError, match="is a reading"):
        written(path, "job1", "72.6 ref 75")
    with pytest.raises(CandorError, match="There is no job"):
        written(path, "none", "note x")


def test_guards_stand_here_too(path, notebook):
    notebook.write("job1", FindingNoted(zone="cord", mark="hazard", text="bare copper"))
    with pytest.raises(BarredError, match="Blocked by a hazard"):
        written(path, "job1", "on")


def test_by_its_own_words_and_as_json(path):
    run = CliRunner().invoke(app, ["write", str(path), "job1", "note it hums", "--json"])
    assert run.exit_code == 0, run.output
    assert json.loads(run.output)["written"][0]["words"] == "note: it hums"
    told = CliRunner().invoke(app, ["commands"])
    assert "power begin state: A state of the plan is begun" in told.output


def test_every_line_that_is_understood_is_listed_on_the_command_line(capsys):
    lines(as_json=True)
    told = json.loads(capsys.readouterr().out)
    assert {"name": "watts", "stop": "power", "does": "what the wattmeter shows", "examples": ["watts 31"]} in told
    lines(markdown=True)
    assert capsys.readouterr().out.startswith("# Lines that Candor understands")
    lines()
    assert "power  watts: what the wattmeter shows\n    watts 31" in capsys.readouterr().out
