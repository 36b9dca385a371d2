"""A notebook moved to a server and back is the same, entry by entry and file by file; what would not be is not moved."""

import sqlite3

import pytest

from candor.notebook.entries.stay_entries import NoteWritten
from candor.notebook.notebook_errors import NotebookError
from candor.notebook.server.mirrors import address_without_password, copy_of, make_copy
from candor.notebook.server.moving import move
from candor.notebook.server.server_errors import ServerAwayError, ServerRefusedError
from candor.notebook.server.server_link import conninfo_of
from candor.notebook.server.server_setup import put_person
from candor.notebook.storage.checking import check_notebook
from candor.notebook.storage.folders import Folders
from candor.notebook.storage.looking import look_at
from candor.notebook.store import Notebook
from pgserver import free_port


def files(path):
    return {
        (folder, p.name): p.read_bytes()
        for folder, lies in Folders(path).made.items()
        for p in lies.iterdir()
        if p.is_file()
    }


def test_the_demo_goes_to_a_server_and_comes_back_the_same(pg, demo, tmp_path):
    database = pg.notebook()
    moved = move(str(demo.path), pg.url(database=database), tmp_path / "copies")
    before = look_at(demo.path)
    assert moved.entries == len(before.rows)
    back = tmp_path / "back.candor"
    move(pg.url(database=database), str(back), tmp_path / "copies")
    after = look_at(back)
    assert after.rows == before.rows
    assert after.packs == before.packs
    named = {name for name in files(demo.path) if name in files(back)}
    assert {n: files(back)[n] for n in named} == {n: files(demo.path)[n] for n in named}
    assert check_notebook(back).faults == ()
    assert len(named) == moved.files
    with pytest.raises(NotebookError, match="already"):
        move(str(demo.path), pg.url(database=database), tmp_path / "copies")
    with pytest.raises(NotebookError, match="exists already"):
        move(pg.url(database=database), str(back), tmp_path / "copies")


def test_what_is_broken_is_not_moved(pg, demo, tmp_path):
    database = pg.notebook(ben="bench")
    with pytest.raises(NotebookError, match="only a keeper"):
        move(str(demo.path), pg.url("ben", database), tmp_path)
    with pytest.raises(NotebookError, match="either order"):
        move(str(demo.path), str(tmp_path / "other.candor"), tmp_path)
    demo.close()
    with sqlite3.connect(demo.path) as hand:
        hand.execute("update entries set body = replace(body, 'a', 'b') where number = 30")
    hand.close()
    with pytest.raises(NotebookError, match="faults and was not moved"):
        move(str(demo.path), pg.url(database=database), tmp_path)
    assert pg.ask(database, "select count(*) from candor.entries") == [(0,)]


def test_what_a_server_is_not(pg, tmp_path):
    database = pg.notebook(ben="bench")
    with pytest.raises(ServerRefusedError, match="password authentication failed"):
        make_copy(pg.url("ben", database).replace("tests", "xxxxx"), tmp_path)
    with pytest.raises(NotebookError, match="holds no notebook"):
        make_copy(pg.url(), tmp_path)
    with pytest.raises(ServerAwayError, match="does not answer"):
        make_copy(pg.url("ben", database, free_port()), tmp_path)
    with pytest.raises(ServerRefusedError, match=r"asks for a password.*pgpass"):
        make_copy(f"postgresql://ben@127.0.0.1:{pg.port}/{database}", tmp_path)
    with pytest.raises(ServerRefusedError, match="does not exist"):
        make_copy(pg.url("ben", "nowhere"), tmp_path)
    with pytest.raises(NotebookError, match="not the address"):
        make_copy("postgresql://a b:c d", tmp_path)
    pg.ask(database, "update candor.notebook set form = 99")
    with pytest.raises(NotebookError, match="newer Candor"):
        make_copy(pg.url("ben", database), tmp_path)
    assert not list(tmp_path.iterdir()), "nothing is left of what could not be opened"


def test_a_copy_that_was_cut_off_while_it_was_made_is_made_whole(pg, tmp_path, monkeypatch):
    url = pg.url("ben", pg.notebook(ben="bench"))
    with monkeypatch.context() as patch:
        patch.setattr("candor.notebook.server.mirror_store.MirrorStore.pull", lambda _: 1 / 0)
        with pytest.raises(ZeroDivisionError):
            make_copy(url, tmp_path)
    held = Notebook(make_copy(url, tmp_path), "")
    held.write("j", NoteWritten(text="a"))
    assert held.away == ""
    held.close()


def test_a_guest_who_becomes_a_bench_writes_at_once(pg, tmp_path):
    database = pg.notebook(gerd="guest")
    held = Notebook(make_copy(pg.url("gerd", database), tmp_path), "")
    assert "guest" in held.read_only
    put_person(pg.url(database=database), "gerd", "bench")
    held.store.meet()  # as whoever watches the server does
    assert held.read_only == ""
    held.close()


def test_a_copy_names_no_password_and_far_links_are_encrypted(pg, tmp_path):
    database = pg.notebook(ben="bench")
    url = pg.url("ben", database)
    copy = make_copy(url, tmp_path)
    assert b"for the tests alone" not in copy.read_bytes()
    assert copy == copy_of(url, tmp_path) != copy_of(pg.url("anna", database), tmp_path)
    assert address_without_password(url) == f"postgresql://ben@127.0.0.1:{pg.port}/{database}"
    for near in ("postgresql://a@localhost/x", "postgresql://a@127.0.0.1/x", "postgresql:///x?host=/run/postgresql"):
        assert "sslmode" not in conninfo_of(near)
    for far in (
        "postgresql://a@shop.example/x",
        "postgresql://a@10.0.0.3/x?sslmode=disable",
        "postgresql://a@localhost,b/x",
    ):
        assert "sslmode=require" in conninfo_of(far)
    assert "sslmode=verify-full" in conninfo_of("postgresql://a@shop.example/x?sslmode=verify-full")
