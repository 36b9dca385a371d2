"""A travelling job: out and into another notebook, what is there recognised; and what must never get in."""

from __future__ import annotations

import hashlib
import io
import json
import random
import stat
import tracemalloc
import zipfile

import pytest

from candor.core.errors import CandorError
from candor.demo.demo_notebook import write_demo
from candor.notebook.arrive.photos import keep_picture
from candor.notebook.entries.arrive_entries import PhotoAdded
from candor.notebook.entries.calibrate_entries import WaveformKept
from candor.notebook.entries.entry import drafts_of
from candor.notebook.entries.soak_entries import StabilityFound
from candor.notebook.entries.standards_entries import StandardRecorded, StandardWithdrawn
from candor.notebook.entries.stay_entries import NoteWritten
from candor.notebook.exchange.travel import ENTRIES, SAYS, TravelError, read_travelling, take_in
from candor.notebook.exchange.travel_out import left_behind, travelling
from candor.notebook.soak.waveforms import keep_samples
from candor.notebook.standards.standards import standards
from candor.notebook.storage.chain import chained
from candor.notebook.storage.checking import check_notebook
from candor.notebook.store import Notebook
from candor.notebook.work.assessment import assess_run
from candor.notebook.work.job import fold
from candor.paper.travelling import papers_of
from workbench import open_job, point_steps, reading

JOB = "sb40188"


@pytest.fixture(scope="module")
def there(tmp_path_factory):
    notebook = write_demo(tmp_path_factory.mktemp("there") / "there.candor")
    yield notebook
    notebook.close()


@pytest.fixture(scope="module")
def sent(there, tmp_path_factory):
    path = tmp_path_factory.mktemp("sent") / "vm.candor-job.zip"
    path.write_bytes(travelling(there, JOB, "Saltmarsh Bench", papers_of(there, fold(JOB, there.entries_of(JOB)))))
    return path


@pytest.fixture
def here(tmp_path):
    notebook = Notebook(tmp_path / "here.candor", "another hand")
    notebook.write("", NoteWritten(text="numbers begin elsewhere here"))
    yield notebook
    notebook.close()


def folded(notebook):
    return fold(JOB, notebook.entries_of(JOB))


def test_it_comes_in_whole_and_calculates_the_same(there, sent, here):
    taken = take_in(here, read_travelling(sent))
    a, b = folded(there), folded(here)
    assert taken.new == len(a.entries) + 1  # and its standard
    assert not any(s.current for s in standards(here).values())  # which is another shop's
    assert [(e.id, e.at, e.who, e.body) for e in a.entries] == [(e.id, e.at, e.who, e.body) for e in b.entries[:-1]]
    assert (b.entries[-1].body.shop, b.entries[-1].body.first) == ("Saltmarsh Bench", a.entries[0].number)
    pack = here.pack(b.pack_digest)
    for phase in ("as found", "as left"):
        one, two = (assess_run(j, pack, standards(n), phase) for j, n in ((a, there), (b, here)))
        assert [(k, r.coverage.expanded, r.verdict.outcome) for k, r in one.results.items()] == [
            (k, r.coverage.expanded, r.verdict.outcome) for k, r in two.results.items()
        ]
    assert check_notebook(here.path).faults == ()
    assert check_notebook(here.path).files == 1  # its certificate, as it was signed
    with zipfile.ZipFile(sent) as packed:
        assert [n for n in packed.namelist() if n.startswith("papers/")]
        assert packed.read("readings.csv").decode().count("\n") == len(a.calibrate.readings) + 1


def test_what_another_shop_calls_as_i_do_stays_its_own(there, sent, here, tmp_path):
    mine = here.write("", StandardRecorded(key="bench-meter-a", name="my own meter"))
    take_in(here, read_travelling(sent))
    found = standards(here)
    assert [s.entry.id for s in found.values() if s.current] == [mine.id]
    other = next(s for s in found.values() if not s.current)
    here.write("", StandardWithdrawn(standard="bench-meter-a", reason="dropped"))
    found = standards(here)
    assert (found[mine.id].withdrawn, found[other.entry.id].withdrawn) == ("dropped", "")
    there.write("", StandardWithdrawn(standard="bench-meter-a", reason="lent"))
    second = tmp_path / "second.zip"
    second.write_bytes(travelling(there, "sb40217"))
    here.write("", StandardWithdrawn(standard="bench-meter-a", reason=""))
    take_in(here, read_travelling(second))
    assert standards(here)[mine.id].withdrawn == ""  # theirs is out of service there, not mine


def test_what_is_here_already_is_recognised_and_what_came_since_follows(there, sent, here, tmp_path):
    take_in(here, read_travelling(sent))
    again = take_in(here, read_travelling(sent))
    assert (again.new, again.sentence.split(". ")[1]) == (0, "Nothing was imported.")
    here.write(JOB, NoteWritten(text="looked at here too"))
    back = tmp_path / "back.zip"
    back.write_bytes(travelling(here, JOB))
    home = Notebook(tmp_path / "home.candor", "home")
    take_in(home, read_travelling(sent))
    assert take_in(home, read_travelling(back)).new == 2  # the note, and that it came in
    assert [e.body.text for e in folded(home).entries if isinstance(e.body, NoteWritten)] == ["looked at here too"]
    home.write(JOB, NoteWritten(text="one hand"))
    here.write(JOB, NoteWritten(text="another hand"))
    back.write_bytes(travelling(here, JOB))
    before = len(folded(home).entries)
    with pytest.raises(TravelError, match="does not merge two records"):
        take_in(home, read_travelling(back))
    assert len(folded(home).entries) == before
    home.close()


def made_anew(sent, path, change=None, extra=()):
    """The zip with its files changed, and others put in."""
    with zipfile.ZipFile(sent) as packed, zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as made:
        for name in packed.namelist():
            content = packed.read(name)
            content = change(name, content) if change else content
            if content is not None:
                made.writestr(name, content)
        for info, content in extra:
            made.writestr(info, content)
    return path


def linked(name):
    info = zipfile.ZipInfo(name)
    info.external_attr = (stat.S_IFLNK | 0o777) << 16
    return info


@pytest.mark.parametrize(
    ("info", "content"),
    [
        ("../outside.txt", b"x"),
        ("photos/../../outside.txt", b"x"),
        ("/tmp/outside.txt", b"x"),
        ("photos/.hidden", b"x"),
        ("photos/a/b.png", b"x"),
        ("elsewhere/a.png", b"x"),
        ("photos\\..\\a.png", b"x"),
        (linked("photos/ab.png"), b"/etc/passwd"),
        (SAYS, b"{}"),
        ("runs/bomb.csv", b"0" * 30_000_000),
        ("photos/abcd.png", b"not what its name says"),
        (f"photos/{hashlib.sha256(b'x').hexdigest()[:2]}.png", b"x"),
        (f"packs/{hashlib.sha256(b'{}').hexdigest()}.json", b"{}"),
        (f"packs/{hashlib.sha256(bytes([255])).hexdigest()}.json", bytes([255])),
    ],
    ids=str,
)
@pytest.mark.filterwarnings("ignore:Duplicate name")
def test_what_must_not_get_in_is_refused_and_nothing_is_written(sent, here, tmp_path, info, content):
    path = made_anew(sent, tmp_path / "bad.zip", extra=[(info, content)])
    before = sorted(tmp_path.rglob("*"))
    with pytest.raises(TravelError, match=r"bad\.zip|The pack"):
        take_in(here, read_travelling(path))
    assert sorted(tmp_path.rglob("*")) == before
    assert here.store.of_job(JOB) == []


def grown(row, body, kind=""):
    """One entry more, its digest right."""
    after = {**row, "id": "f" * 32, "body": body, "kind": kind or row["kind"]}
    fields = [after[name] for name in ("id", "job", "kind", "at", "who", "body")]
    return {**after, "chain": chained(row["chain"], *fields)}


def said(**of):
    def change(name, content):
        return json.dumps({**json.loads(content), **of}).encode() if name == SAYS else content

    return change


def lines(make):
    def change(name, content):
        if name != ENTRIES:
            return content
        rows = [json.loads(line) for line in content.decode().splitlines()]
        return "\n".join(json.dumps(row) for row in make(rows)).encode()

    return change


@pytest.mark.parametrize(
    ("change", "match"),
    [
        (said(version=2), "newer Candor"),
        (said(format="another"), "not a travelling job"),
        (said(job=""), "cannot be the name of a job"),
        (said(job="../x"), "cannot be the name of a job"),
        (lambda n, c: None if n == SAYS else c, "not a travelling job"),
        (
            lines(lambda rows: [*rows[:-1], {**rows[-1], "body": '{"kind": "note", "text": "mine"}'}]),
            "no entry of this job",
        ),
        (lines(lambda rows: [*rows[:-1], {**rows[-1], "who": "forged"}]), "not as written"),
        (lines(lambda rows: rows[:3] + rows[4:]), "not as written"),
        (
            lines(lambda rows: [{**rows[0], "kind": "detail", "body": '{"kind": "detail"}'}, *rows[1:]]),
            "no entry of this job",
        ),
        (lines(lambda rows: [{**row, "job": "other"} for row in rows]), "no entry of this job"),
        (lines(lambda rows: [{**row, "at": "yesterday"} for row in rows]), "no entry of this job"),
        (lines(lambda _: []), "no entry of its job"),
        (lines(lambda rows: [*rows, grown(rows[-1], "[" * 5000 + "]" * 5000)]), "no entry was read"),
        (
            lines(lambda rows: [*rows, grown(rows[-1], '{"kind": "note", "text": 4}', "note")]),
            "not a valid “note” entry",
        ),
    ],
)
def test_what_does_not_hold_together_is_refused_with_a_sentence(sent, here, tmp_path, change, match):
    path = made_anew(sent, tmp_path / "bad.zip", change)
    with pytest.raises(TravelError, match=match):
        take_in(here, read_travelling(path))
    assert here.store.of_job(JOB) == []


def test_a_file_that_is_no_zip_or_half_of_one_is_said(sent, tmp_path):
    path = tmp_path / "half.zip"
    path.write_bytes(sent.read_bytes()[:-400])
    with pytest.raises(TravelError, match=r"half\.zip cannot be read as a zip"):
        read_travelling(path)
    with pytest.raises(CandorError):
        read_travelling(tmp_path / "none.zip")


def test_a_zip_of_zeros_is_refused_by_its_sizes_before_anything_is_read(sent, tmp_path):
    """990 files of a megabyte: none is suspect alone, all together unpack to a gigabyte from a megabyte."""
    zeros = [(f"runs/r{number}.csv", b"0" * 1_000_000) for number in range(60)]
    path = made_anew(sent, tmp_path / "zeros.zip", extra=zeros)
    with zipfile.ZipFile(path) as packed:
        counted = sum(i.file_size for i in packed.infolist()) / sum(i.compress_size for i in packed.infolist())
    assert counted > 200
    tracemalloc.start()
    with pytest.raises(TravelError, match=r"zeros\.zip unpacks to more than 200 times its size"):
        read_travelling(path)
    assert tracemalloc.get_traced_memory()[1] < 5_000_000
    tracemalloc.stop()


def test_every_byte_of_a_zip_may_be_damaged(sent, here, tmp_path):
    """A flipped byte anywhere is a sentence, or makes no difference; no traceback, nothing taken in that is another."""
    whole = sent.read_bytes()
    rng = random.Random(5)
    path = tmp_path / "flip.zip"
    said = set()
    for place in rng.sample(range(len(whole)), 150):
        path.write_bytes(whole[:place] + bytes([whole[place] ^ (1 << rng.randrange(8))]) + whole[place + 1 :])
        try:
            found = read_travelling(path)
        except TravelError as error:
            said.add(str(error)[:24])
        else:
            assert found.rows == read_travelling(sent).rows
    assert said


def test_a_job_travels_without_what_is_missing_and_says_so(here, tmp_path):
    away = write_demo(tmp_path / "away" / "away.candor")
    next(away.run_folder.iterdir()).unlink()
    path = tmp_path / "s.candor-job.zip"
    path.write_bytes(travelling(away, "sb40221"))
    assert left_behind(away, "sb40221") == ("runs/C41b-demo.csv",)
    away.close()
    taken = take_in(here, read_travelling(path))
    assert taken.sentence.endswith("Missing where it came from: runs/C41b-demo.csv.")
    assert [(f.kind, f.name) for f in check_notebook(here.path).faults] == [("missing", "C41b-demo.csv")]


def test_a_zip_that_changes_while_it_is_taken_in_is_refused(sent, here, tmp_path):
    path = tmp_path / "moving.zip"
    path.write_bytes(sent.read_bytes())
    found = read_travelling(path)
    name = next(f"{folder}/{own}" for folder, own in found.files)
    made_anew(sent, path, lambda n, c: c + b" " if n == name else c)
    with pytest.raises(TravelError, match="has changed since you looked at it"):
        take_in(here, found)
    assert here.store.of_job(JOB) == []
    assert not any(p.is_file() for p in here.certificate_folder.glob("*"))


def test_a_job_that_is_not_there_or_not_as_written_does_not_travel(there, tmp_path):
    with pytest.raises(TravelError, match="no job"):
        travelling(there, "sb1")
    with pytest.raises(TravelError, match="no job"):
        travelling(there, "")
    assert zipfile.ZipFile(io.BytesIO(travelling(there, "sb40217"))).testzip() is None


def test_what_hangs_on_readings_travels_with_them(pack, notebook, here, tmp_path):
    """A picture, the samples of a reading and a log of phase: each is there again, as it was kept."""
    standard = open_job(notebook, pack)
    notebook.append(drafts_of("job1", [reading(s, standard) for s in point_steps(pack)[:1]]))
    read = fold("job1", notebook.entries_of("job1")).calibrate.readings[0].entry.id
    picture = keep_picture(notebook.photo_folder, b"\x89PNG\r\n\x1a\n and more", "p")
    samples = keep_samples(notebook.waveform_folder, b"seconds,volts\n0,1\n", "w")
    log = keep_samples(notebook.waveform_folder, b"seconds,phase\n0,1e-9\n", "l")
    bodies = (
        PhotoAdded(finding=read, file=picture),
        WaveformKept(reading=read, file=samples),
        StabilityFound(file=log, every=1, count=4, taus=(1,), deviations=(1e-9,), us=(1e-10,), average=1),
    )
    notebook.append(drafts_of("job1", bodies))
    path = tmp_path / "j.candor-job.zip"
    path.write_bytes(travelling(notebook, "job1", "Saltmarsh Bench", {}))
    take_in(here, read_travelling(path))
    assert (check_notebook(here.path).files, check_notebook(here.path).faults) == (3, ())
    for folder, name in ((here.photo_folder, picture), (here.waveform_folder, samples), (here.waveform_folder, log)):
        assert (folder / name).is_file()
    (here.waveform_folder / log).write_bytes(b"another")
    assert [(f.kind, f.name) for f in check_notebook(here.path).faults] == [("changed", log)]
