"""Who may do what, as whoever keeps the server says it."""

import psycopg
import pytest

from candor.notebook.notebook_errors import NotebookError
from candor.notebook.server.server_setup import people, prepare, put_person
from pgserver import SECRET


def test_a_person_changes_role_and_keeps_the_password(pg):
    database = pg.notebook(carla="signer")
    url = pg.url(database=database)
    put_person(url, "carla", "guest")
    assert dict(people(url))["carla"] == "guest"
    with psycopg.connect(pg.url("carla", database), autocommit=True) as hand:
        assert hand.execute("select count(*) from candor.entries").fetchone() == (0,)
        with pytest.raises(psycopg.errors.InsufficientPrivilege):
            hand.execute(
                "insert into candor.entries (id, job, kind, at, who, body) values ('a', '', 'note', '', '', '')"
            )
    assert SECRET not in str(pg.ask(database, "select rolpassword from pg_authid where rolname = 'carla'"))


@pytest.mark.parametrize(("name", "role", "said"), [
    ("carla", "chief", "not a role"), ("Carla; drop", "bench", "not a name"), ("candor_keeper", "bench", "not a name"),
])  # fmt: skip
def test_no_person_no_role(pg, name, role, said):
    with pytest.raises(NotebookError, match=said):
        put_person(pg.url(database=pg.notebook()), name, role)


def test_a_notebook_is_made_once_by_who_may_and_in_utf_8(pg):
    database = pg.notebook(carla="bench")
    with pytest.raises(NotebookError, match="already"):
        prepare(pg.url(database=database))
    pg.ask("postgres", "create database latin encoding 'LATIN1' locale 'C' template template0")
    with pytest.raises(NotebookError, match="LATIN1"):
        prepare(pg.url(database="latin"))
    pg.ask("postgres", "create database bare")
    with pytest.raises(NotebookError, match="refused"):
        prepare(pg.url("carla", "bare"))
