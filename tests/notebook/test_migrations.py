"""A notebook as version 0.1 wrote it, kept here as it was: it opens, reads as before, and gains what is new."""

import gzip
import sqlite3
from pathlib import Path

import pytest

from candor.notebook.entries.kinds_entries import in_words
from candor.notebook.entries.standards_entries import StandardRecorded
from candor.notebook.entries.stay_entries import NoteWritten
from candor.notebook.parts.parts_list import list_parts
from candor.notebook.shelf import shelf
from candor.notebook.standards.standards import standards
from candor.notebook.storage.checking import check_notebook
from candor.notebook.store import Notebook
from candor.notebook.work.assessment import as_left_run, assess_run
from candor.notebook.work.facts import facts_in_words
from candor.notebook.work.job import fold
from candor.notebook.work.states import states_of
from candor.paper.gather import NothingStandsError, make_certificate
from workbench import NOW

KEPT = Path(__file__).parents[1] / "data" / "notebook-0001.candor.gz"
JOBS = {"sb40188": 137, "sb40217": 53, "sb40221": 36, "sb40224": 9}


@pytest.fixture
def old(tmp_path):
    path = tmp_path / "old.candor"
    path.write_bytes(gzip.decompress(KEPT.read_bytes()))
    return path


@pytest.fixture
def opened(old):
    made = Notebook(old, "x", lambda: NOW)
    yield made
    made.close()


def bodies(path):
    with sqlite3.connect(path) as raw:
        found = raw.execute("select number, id, job, kind, at, who, body from entries order by number").fetchall()
    raw.close()
    return found


def test_every_entry_is_as_it_was_and_reads_in_words(old):
    before = bodies(old)
    notebook = Notebook(old, "x", lambda: NOW)
    assert bodies(old) == before
    numbers = {row[1]: row[0] for row in before}
    for job in ("", *JOBS):
        for entry in notebook.entries_of(job):
            assert in_words(entry, numbers) != str(entry.body)
            facts_in_words(entry.body, numbers)
    notebook.close()


def test_the_shelf_and_every_job_are_as_they_were(opened):
    lines = {line.job: line for line in shelf(opened, NOW)}
    assert set(lines) == set(JOBS)
    assert lines["sb40188"].group == "gone home"
    for job in JOBS:
        folded = fold(job, opened.entries_of(job))
        pack = opened.pack(folded.pack_digest)
        list_parts(folded, pack)
    assert len(fold("sb40188", opened.entries_of("sb40188")).release.certificates) == 1


def test_it_gains_states_without_new_entries(opened):
    """What was trimmed, changed or disturbed then makes history now; nothing was written for it."""
    folded = fold("sb40188", opened.entries_of("sb40188"))
    pack = opened.pack(folded.pack_digest)
    states = states_of(folded, pack)
    assert states.changed
    known = standards(opened)
    found, left = (assess_run(folded, pack, known, phase) for phase in ("as found", "as left"))
    whole = as_left_run(folded, pack, found, left)
    # A part was replaced after the last reading, and nothing says what it touches: all of it waits to be read again.
    assert (found.measured, left.measured, whole.measured, len(whole.waiting)) == (42, 0, 0, 42)
    with pytest.raises(NothingStandsError, match="All 42 points that were read must be read again"):
        make_certificate(job=folded, pack=pack, known=known, shop="Saltmarsh Bench", who="x", now=NOW)
    halfway = fold("sb40217", opened.entries_of("sb40217"))
    record = make_certificate(
        job=halfway, pack=opened.pack(halfway.pack_digest), known=known, shop="Saltmarsh Bench", who="x", now=NOW
    ).record
    assert "did not keep" in record.reference_words  # how the reference came to its value was not written then


def test_it_gains_the_chain_and_goes_on(opened):
    for job in ("", *JOBS):
        assert opened.broken_links(job) == ()
    opened.write("sb40217", NoteWritten(text="goes on"))
    assert opened.broken_links("sb40217") == ()
    faults = check_notebook(opened.path).faults
    # The fixture is the notebook alone: what lay beside it is not kept here.
    assert sorted((f.kind, f.what) for f in faults) == [
        ("missing", w) for w in ("certificates", "photos", "photos", "runs")
    ]


def test_a_standard_of_then_is_a_meter_of_volts(opened):
    """Nothing else could be recorded; what the fields did not have is as it is usual."""
    recorded = [e.body for e in opened.entries_of("") if isinstance(e.body, StandardRecorded)]
    assert recorded
    assert {(body.role, f.unit) for body in recorded for f in body.functions} == {("meter", "V")}


KEPT_2 = KEPT.with_name("notebook-0002.candor.gz")


def test_the_form_before_this_one_is_brought_up_with_its_chain(tmp_path):
    """Of 2026-11: its digests hold the shelf's flag, and why power in spite of a bad sample was a detail of that name."""
    path = tmp_path / "old.candor"
    path.write_bytes(gzip.decompress(KEPT_2.read_bytes()))
    before = bodies(path)
    notebook = Notebook(path, "x", lambda: NOW)
    assert bodies(path) == before
    for job in ("", *JOBS):
        assert notebook.broken_links(job) == ()
    scope = fold("sb40221", notebook.entries_of("sb40221"))
    assert scope.parts.overridden["sample"].body.reason == "only C17 is bad, and it was taken out"
    assert "sample" not in scope.stay.details
    assert scope.last_struck().body.text == "struck by mistake"
    assert {line.job for line in shelf(notebook, NOW)} == set(JOBS)
    notebook.close()


@pytest.mark.parametrize(
    "sql", ["update entries set who = 'x' where number = ?", "delete from entries where number = ?"]
)
def test_ink_that_was_changed_before_is_still_seen_after(tmp_path, sql):
    """Brought up to date, a notebook must not lose what its digests tell."""
    path = tmp_path / "old.candor"
    path.write_bytes(gzip.decompress(KEPT_2.read_bytes()))
    job, number = "sb40221", 0
    with sqlite3.connect(path) as raw:
        number, after = (
            row[0] for row in raw.execute("select number from entries where job = ? limit 2 offset 5", (job,))
        )
        raw.execute(sql, (number,))
    raw.close()
    notebook = Notebook(path, "x", lambda: NOW)
    assert notebook.broken_links(job) == ((after,) if sql.startswith("delete") else (number,))
    assert notebook.broken_links("sb40217") == ()
    notebook.close()
