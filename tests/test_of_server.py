"""A notebook on a server on the command line: made, peopled, moved to, opened, printed from."""

from __future__ import annotations

import json

from typer.testing import CliRunner

from candor.cli import app
from candor.notebook.server.mirrors import make_copy
from candor.notebook.server.server_link import ServerLink
from candor.notebook.store import Notebook
from candor.notebook.work.job import fold
from candor.paper.travelling import papers_of
from pgserver import SECRET, Line


def run(*words: object, **more):
    return CliRunner().invoke(app, [str(w) for w in words], **more)


def test_from_an_empty_database_to_a_bench(pg, demo, tmp_path, monkeypatch):
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data"))
    pg.ask("postgres", "create database fresh")
    keeper = pg.url(database="fresh")
    assert json.loads(run("server", "prepare", keeper, "--json").stdout)["notebook"]
    assert run("server", "person", keeper, "dora", "signer", "--password", input=f"{SECRET}\n").exit_code == 0
    assert json.loads(run("server", "people", keeper, "--json").stdout)["dora"] == "signer"
    moved = json.loads(run("move", demo.path, keeper, "--json").stdout)
    assert moved["entries"] == len(demo.store.everything())
    link = ServerLink(pg.url("dora", "fresh"))
    link.be_at("sb40221", "power", ())
    (there,) = json.loads(run("server", "benches", keeper, "--json").stdout)
    assert (there["who"], there["job"], there["stop"]) == ("dora", "sb40221", "power")
    assert "dora at" in run("server", "benches", keeper).stdout
    link.close()
    assert run("server", "benches", keeper).stdout.strip() == "Nobody is there."
    opened = []
    monkeypatch.setattr("candor.cli._start", opened.append)
    assert run("--notebook", pg.url("dora", "fresh")).exit_code == 0
    held = Notebook(opened[0], "")
    assert held.who == "dora"
    assert held.entries_of("sb40221") == demo.entries_of("sb40221")
    held.close()
    assert run("--notebook", pg.url("dora", "nowhere")).exit_code == 1


def test_a_label_is_not_printed_while_other_benches_may_have_written(pg, demo, tmp_path, closing):
    database, line = pg.notebook(dora="signer"), Line(pg.port)
    closing.callback(line.close)
    run("move", demo.path, pg.url(database=database))
    copy = make_copy(pg.url("dora", database, line.port), tmp_path)
    signed = next(e.job for e in demo.store.everything() if e.kind == "certificate")
    target = tmp_path / "label.pdf"
    assert run("paper", copy, signed, "label", target).exit_code == 0
    assert target.read_bytes().startswith(b"%PDF")
    line.cut()
    told = run("paper", copy, signed, "label", target)
    assert "nothing is printed as final" in str(told.exception)
    assert run("paper", copy, signed, "blank-worksheet", target).exit_code == 0, "what states nothing is printed"
    held = Notebook(copy, "")
    closing.callback(held.close)
    assert papers_of(held, fold(signed, held.entries_of(signed))) == {}, "nor with a job that travels"
    line.mend()
    assert run("paper", copy, signed, "label", target).exit_code == 0
