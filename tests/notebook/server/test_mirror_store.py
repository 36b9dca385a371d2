"""Several benches on one notebook: nothing lost, doubled or reordered, whoever is away; ink stays ink by the server's own word."""

import datetime as dt
import hashlib
from threading import Thread

import psycopg
import pytest

from candor.notebook.entries.arrive_entries import FindingNoted, PhotoAdded
from candor.notebook.entries.power_entries import MetersOff, MetersOn
from candor.notebook.entries.release_entries import CertificateIssued
from candor.notebook.entries.runs_entries import RunEnded
from candor.notebook.entries.sources_entries import SourceApplied
from candor.notebook.entries.stay_entries import BroughtIn, JobOpened, NoteWritten
from candor.notebook.notebook_errors import DiskFullError, NotebookError, ReadOnlyNotebookError
from candor.notebook.server.mirrors import make_copy
from candor.notebook.server.server_errors import ServerAwayError, ServerRefusedError
from candor.notebook.storage.backup import back_up
from candor.notebook.storage.checking import check_notebook
from candor.notebook.store import Notebook
from pgserver import Line


@pytest.fixture
def shop(pg, tmp_path, closing):
    """Two benches and a guest on a notebook of their own; each is a function that opens it anew."""
    database = pg.notebook(anna="signer", ben="bench", gus="guest")

    def bench(who: str, port: int | None = None, clock=lambda: dt.datetime.now(dt.UTC)) -> Notebook:
        made = Notebook(make_copy(pg.url(who, database, port), tmp_path / who), "nobody", clock)
        closing.callback(made.close)
        return made

    bench.database = database
    return bench


@pytest.fixture
def line(pg, closing):
    made = Line(pg.port)
    closing.callback(made.close)
    return made


def notes(notebook: Notebook, job: str = "j") -> list[str]:
    return [e.body.text for e in notebook.entries_of(job) if isinstance(e.body, NoteWritten)]


def say(notebook: Notebook, *texts: str) -> None:
    for text in texts:
        notebook.write("j", NoteWritten(text=text))


def test_two_benches_write_one_chain_and_the_server_says_who_wrote(shop):
    anna, ben = shop("anna"), shop("ben")
    anna.write("j", JobOpened(maker="Marrowby", type="OS-40", serial="7"))
    say(anna, "11 µF", "a")
    say(ben, "b")
    say(anna, "c")
    ben.store.pull()
    assert notes(ben) == notes(anna) == ["11 µF", "a", "b", "c"]
    assert [e.who for e in ben.entries_of("j")] == ["anna", "anna", "anna", "ben", "anna"]
    assert [e.number for e in ben.entries_of("j")] == [1, 2, 3, 4, 5]
    assert anna.head_words("j") == ben.head_words("j") != ""
    assert anna.broken_links("j") == ()
    assert check_notebook(ben.path).faults == ()


def test_a_guest_reads(shop):
    say(shop("anna"), "a")
    guest = shop("gus")
    assert notes(guest) == ["a"]
    with pytest.raises(ReadOnlyNotebookError, match="gus is a guest"):
        say(guest, "x")


def test_only_a_signer_signs_by_the_servers_word(shop, pg):
    anna, ben = shop("anna"), shop("ben")
    signed = CertificateIssued(digest="0" * 64, number="1", sentence="s")
    for who, refused in ((anna, False), (ben, True)):
        rows = [who._row(who._stamped(_draft(signed)), who.clock())]
        if refused:
            with pytest.raises(ServerRefusedError, match="Only a signer"):
                who.store.append(rows)
        else:
            who.store.append(rows)
    assert pg.ask(shop.database, "select who from candor.entries") == [("anna",)]


def _draft(body):
    from candor.notebook.entries.entry import Draft

    return Draft("j", body)


def test_ink_stays_ink_for_whoever_logs_in_by_hand(shop, pg):
    say(shop("ben"), "a", "b")
    with psycopg.connect(pg.url("anna", shop.database), autocommit=True) as hand:
        for forged in (
            "update candor.entries set body = '{}'",
            "delete from candor.entries",
            "truncate candor.entries",
            "delete from candor.files",
            "drop table candor.entries",
            "create table candor.other (x int)",
        ):
            with pytest.raises(psycopg.errors.InsufficientPrivilege):
                hand.execute(forged)
        hand.execute(
            "insert into candor.entries (number, id, job, kind, at, who, body, before, chain) "
            "values (1, 'z', 'j', 'note', '2026-01-01T00:00:00+00:00', 'ben', '{\"kind\": \"note\", \"text\": \"x\"}', '', 'f')"
        )
    ben = shop("ben")
    ben.store.pull()
    assert [(e.number, e.who) for e in ben.entries_of("j")] == [(1, "ben"), (2, "ben"), (3, "anna")], (
        "numbered, named, linked"
    )
    assert ben.broken_links("j") == ()


def test_work_goes_on_while_the_server_is_away_and_comes_in_after_what_others_wrote(shop, line):
    anna, ben = shop("anna", line.port), shop("ben")
    anna.write("j", JobOpened(maker="Marrowby", type="OS-40", serial="7"))
    say(anna, "a1")
    line.cut()
    say(anna, "a2", "a3")
    assert notes(anna) == ["a1", "a2", "a3"]
    assert anna.away.endswith(": 2 entries")
    assert anna.broken_links("j") == ()
    again = shop("anna", line.port)  # nothing of it is only in memory
    assert notes(again) == ["a1", "a2", "a3"]
    with pytest.raises(NotebookError, match="Nothing is signed"):
        anna.store.append(
            [anna._row(_draft(CertificateIssued(digest="0" * 64, number="1", sentence="s")), anna.clock())]
        )
    ben.store.pull()
    say(ben, "b1", "b2")
    line.mend()
    assert anna.store.join() == 2
    assert anna.away == ""
    ben.store.pull()
    for bench in (anna, ben):
        assert notes(bench) == ["a1", "b1", "b2", "a2", "a3"]
        assert bench.broken_links("j") == ()
    (told,) = [e.body for e in ben.entries_of("j") if isinstance(e.body, BroughtIn)]
    assert (told.entries, told.others, told.barred) == (2, 2, ())


def test_what_came_in_late_says_what_would_have_barred_it(shop, line, pack):
    anna, ben = shop("anna", line.port), shop("ben")
    anna.write("j", JobOpened(maker="T", type="V", serial="7", pack_digest=anna.keep_pack(pack)))
    ben.store.pull()
    line.cut()
    anna.write("j", SourceApplied(link="src", value=5.0))
    ben.write("j", FindingNoted(zone="cord", mark="hazard", text="bare copper"))
    line.mend()
    anna.store.join()
    (told,) = [e.body for e in anna.entries_of("j") if isinstance(e.body, BroughtIn)]
    assert len(told.barred) == 1
    assert "bare copper" in told.barred[0]
    assert [e for e in anna.entries_of("j") if isinstance(e.body, SourceApplied)], "what was done was done: it stands"


def test_nobody_else_wrote_so_nothing_is_said(shop, line):
    anna = shop("anna", line.port)
    say(anna, "a")
    line.cut()
    say(anna, "b")
    line.mend()
    say(anna, "c")  # what waits comes in before what is written then
    assert notes(anna) == ["a", "b", "c"]
    assert not any(isinstance(e.body, BroughtIn) for e in anna.entries_of("j"))


@pytest.mark.parametrize("took", [True, False])
def test_an_answer_that_is_lost_neither_loses_nor_doubles(shop, monkeypatch, took):
    anna, ben = shop("anna"), shop("ben")
    say(anna, "a")
    link, commit = anna.store.link, anna.store.link.commit

    def lost():
        if took:
            commit()
        link.close()
        raise ServerAwayError("gone")

    with monkeypatch.context() as patch:
        patch.setattr(link, "commit", lost)
        say(anna, "b")
    assert notes(anna) == ["a", "b"]
    assert anna.store.waiting == 1
    say(ben, "c")
    say(anna, "d")
    ben.store.pull()
    assert notes(ben) == notes(anna) == (["a", "b", "c", "d"] if took else ["a", "c", "b", "d"])
    assert anna.store.waiting == 0


def test_the_servers_full_disk_is_said_and_nothing_is_half_written(shop, pg):
    anna = shop("anna")
    say(anna, "a")
    pg.ask(
        shop.database,
        "create function full_disk() returns trigger language plpgsql as "
        "$$ begin raise exception 'could not extend file' using errcode = 'disk_full'; end $$; "
        "create trigger z_full before insert on candor.entries for each row execute function full_disk()",
    )
    with pytest.raises(DiskFullError, match=r"disk of 127\.0\.0\.1"):
        say(anna, "b")
    assert (notes(anna), anna.store.waiting) == (["a"], 0)


def test_a_server_turned_back_or_changed_is_refused(shop, pg):
    anna, ben = shop("anna"), shop("ben")
    say(anna, "a", "b")
    pg.ask(shop.database, "delete from candor.entries where number = 2")
    again = shop("anna")
    with pytest.raises(NotebookError, match="no longer has entry 2"):
        say(again, "c")
    assert notes(again) == ["a", "b"], "what this bench has it keeps"
    pg.ask(shop.database, "update candor.entries set body = replace(body, '\"a\"', '\"x\"')")
    with pytest.raises(NotebookError, match="does not follow"):
        ben.store.pull()


def test_another_notebook_at_the_same_address_is_refused(shop, pg):
    anna = shop("anna")
    pg.ask(shop.database, "update candor.notebook set id = 'another'")
    anna.store.link.close()
    with pytest.raises(NotebookError, match="another one"):
        say(anna, "a")


def test_files_travel_whole_and_what_was_changed_on_the_way_is_refused(shop, pg):
    anna, ben = shop("anna"), shop("ben")
    photo = b"\x89PNG" + bytes(range(256)) * 9000  # over two pieces
    name = f"{hashlib.sha256(photo).hexdigest()[:16]}.png"
    anna.photo_folder.mkdir(parents=True)
    (anna.photo_folder / name).write_bytes(photo)
    anna.write("j", PhotoAdded(file=name, finding="f"))
    ben.store.pull()
    assert (ben.photo_folder / name).read_bytes() == photo
    anna.run_folder.mkdir()
    (anna.run_folder / "C1-ab.csv").write_bytes(b"s,V\n")
    anna.write("j", RunEnded(run="x", ref="C1", file="C1-ab.csv", digest=hashlib.sha256(b"s,V\n").hexdigest()))
    pg.ask(shop.database, "update candor.pieces set bytes = 'other' where digest like '%' and length(bytes) < 10")
    with pytest.raises(NotebookError, match="not what was kept"):
        ben.store.pull()
    assert not (ben.run_folder / "C1-ab.csv").exists()
    assert len(ben.entries_of("j")) == 1, "an entry never comes before its file"


def test_what_meters_read_travels_once_they_are_off(shop):
    """While they are read the file grows: it is none of the notebook's yet."""
    anna, ben = shop("anna"), shop("ben")
    anna.run_folder.mkdir(parents=True)
    on = anna.write("j", MetersOn(names=("hv",), links=("m",), files=("m-1.csv",)))
    (anna.run_folder / "m-1.csv").write_bytes(b"s,V\n0,1\n")
    ben.store.pull()
    assert not (ben.run_folder / "m-1.csv").exists()
    anna.write("j", MetersOff(of=on.id, readings=1))
    ben.store.pull()
    assert (ben.run_folder / "m-1.csv").read_bytes() == b"s,V\n0,1\n"


def test_what_waits_is_on_this_disk_and_a_vanished_bench_lets_go(shop, line, monkeypatch):
    """What came from the server is there still; what waits is nowhere else."""
    anna, synced = shop("anna", line.port), []
    asked = "pragma synchronous"
    wait = anna.store._wait

    def watched(here, rows):
        synced.append(here.execute(asked).fetchone()[0])
        return wait(here, rows)

    monkeypatch.setattr(anna.store, "_wait", watched)
    say(anna, "a")
    line.cut()
    say(anna, "b", "c")
    assert synced == [2, 2], "FULL"
    assert anna.store._connection.execute(asked).fetchone()[0] == 1
    line.mend()
    anna.store.join()
    told = [anna.store.link._one(f"select current_setting('{name}')")[0] for name in (
        "idle_in_transaction_session_timeout", "tcp_keepalives_idle", "lock_timeout",
    )]  # fmt: skip
    assert told == ["15s", "10", "4s"]


def test_packs_kept_while_away_come_in(shop, line, pack):
    anna, ben = shop("anna", line.port), shop("ben")
    line.cut()
    anna.write("j", JobOpened(maker="T", type="V", serial="7", pack_digest=anna.keep_pack(pack)))
    line.mend()
    anna.store.join()
    ben.store.pull()
    assert ben.pack(pack.digest) == pack


def test_a_backup_of_a_bench_is_a_notebook_of_its_own_with_what_waits(shop, line, tmp_path):
    anna = shop("anna", line.port)
    say(anna, "a")
    line.cut()
    say(anna, "b")
    made = back_up(anna.path, tmp_path / "backups", dt.datetime(2026, 5, 1, tzinfo=dt.UTC))
    assert check_notebook(made.backup.path).faults == ()
    held = Notebook(made.backup.path, "x")
    assert (notes(held), held.away, held.who) == (["a", "b"], "", "x")
    held.close()


def test_four_benches_killed_servers_cut_links_and_clocks_astray(shop, pg, closing):
    """A hundredth of `bench/server.py`."""
    lines = [Line(pg.port) for _ in range(2)]
    for each in lines:
        closing.callback(each.close)
    astray = [dt.timedelta(hours=h) for h in (0, -5, 3, 0)]
    benches = [
        shop(who, port, lambda by=by: dt.datetime.now(dt.UTC) + by)
        for who, port, by in zip(
            ("anna", "ben", "anna", "ben"), (lines[0].port, lines[1].port, None, None), astray, strict=True
        )
    ]
    count = 50
    broken: list[BaseException] = []

    def work(number: int, notebook: Notebook) -> None:
        try:
            for i in range(count):
                notebook.write(f"job{i % 3}", NoteWritten(text=f"{number} {i:03}"))
                if i == 20 and number < 2:
                    lines[number].cut()
                if i == 35 and number < 2:
                    lines[number].mend()
                    notebook.store.join()
        except BaseException as error:  # noqa: BLE001 - a thread's own is lost otherwise
            broken.append(error)

    workers = [Thread(target=work, args=pair) for pair in enumerate(benches)]
    for worker in workers:
        worker.start()
    pg.stop()
    pg.start()
    for worker in workers:
        worker.join()
    assert broken == []
    for notebook in benches:
        while notebook.store.waiting:
            notebook.store.join()
    for notebook in benches:
        notebook.store.pull()
        rows = [e for job in ("job0", "job1", "job2") for e in notebook.entries_of(job)]
        said = [e.body.text for e in sorted(rows, key=lambda e: e.number) if isinstance(e.body, NoteWritten)]
        for number in range(4):
            own = [text for text in said if text.startswith(f"{number} ")]
            assert own == [f"{number} {i:03}" for i in range(count)], "all, once, in their order"
        assert [e.number for e in sorted(rows, key=lambda e: e.number)] == list(range(1, len(rows) + 1))
        assert [notebook.broken_links(f"job{i}") for i in range(3)] == [(), (), ()]
