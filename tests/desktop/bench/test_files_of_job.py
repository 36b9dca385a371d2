"""A job that stands on a pack or a file that is no longer what was kept warns, is only read, and is not signed."""

import sqlite3

import pytest

from candor.core.errors import CandorError
from candor.notebook.entries.entry import drafts_of
from candor.notebook.entries.power_entries import PluggedOut, RailRead, StateBegun
from candor.notebook.entries.release_entries import CertificateIssued
from candor.notebook.entries.runs_entries import RunEnded
from candor.notebook.entries.sources_entries import SourceApplied, SourceReleased
from candor.notebook.entries.stay_entries import NoteWritten
from candor.notebook.notebook_errors import UnreadableEntryError, UnsoundJobError
from candor.notebook.release.certificates import keep_certificate
from candor.notebook.standards.standards import standards
from candor.notebook.store import Notebook
from candor.notebook.work.description import description_of
from candor.notebook.work.job import fold
from candor.packs.model import Pack
from candor.paper.gather import make_certificate
from candor.sitting.commands.stay_commands import go_on_without
from candor.writing import written
from workbench import PATIENCE_MS, open_job

JOB = "sb40188"


def widen_limits(path) -> None:
    """As somebody would in the file: the limits of the kept pack ten times what they were."""
    with sqlite3.connect(path) as raw:
        for digest, body in raw.execute("select digest, body from packs").fetchall():
            forged = body.replace('"percent_of_full_scale":3.0', '"percent_of_full_scale":30.0')
            raw.execute("update packs set body = ? where digest = ?", (forged, digest))
    raw.close()


def record_of(notebook, job):
    folded = fold(job, notebook.entries_of(job))
    return make_certificate(
        job=folded, pack=description_of(notebook, folded), known=standards(notebook), shop="", who="x",
        now=notebook.clock(), faults=notebook.faults_of(job, folded.entries),
    ).record  # fmt: skip


def test_forged_limits_close_the_job_in_the_window_and_on_the_command_line(qtbot, show, demo):
    demo.close()
    widen_limits(demo.path)
    notebook = Notebook(demo.path, "x", demo.clock)
    window = show(notebook)
    assert window.bench.open_job(JOB)
    said = "\n".join(window.bench.voice.warnings)
    assert "The pack tarnholm-vm6 is not as it was kept" in said
    assert "nothing is signed" in said
    with pytest.raises(UnsoundJobError, match="changed since it was kept"):
        notebook.write(JOB, NoteWritten(text="x"))
    assert window.bench.open_job("sb40217")  # unsigned: what would be printed of it says so
    window.go_to_stop("release")
    qtbot.waitUntil(lambda: "not as it was kept" in window.release.remarks.text(), timeout=PATIENCE_MS)
    with pytest.raises(CandorError, match="The pack tarnholm-vm6 is not as it was kept"):
        written(demo.path, JOB, "cleaned the switch", without=True)
    # The right bytes under the same digest mend it: another job of the same pack is begun, or its zip taken in.
    shipped = notebook.pack(fold(JOB, notebook.entries_of(JOB)).pack_digest)
    right = Pack.model_validate_json(
        shipped.to_json().replace('"percent_of_full_scale":30.0', '"percent_of_full_scale":3.0')
    )
    assert notebook.keep_pack(right) == shipped.digest
    assert window.bench.open_job(JOB)
    qtbot.waitUntil(lambda: window.bench.in_hand.faults == (), timeout=PATIENCE_MS)
    assert notebook.write(JOB, NoteWritten(text="x"))


@pytest.mark.parametrize("folder", ["photos", "runs", "certificates"])
def test_a_file_that_was_changed_closes_its_job_until_it_is_said_to_go_on_without(qtbot, show, demo, folder):
    kept = next((demo.path.parent / f"demo {folder}").iterdir())
    content = kept.read_bytes()
    kept.write_bytes(content[:-3] + b"abc")
    window = show(demo)
    jobs = {line.job for line in window.bench.shelf.lines}
    closed = next(j for j in jobs if any(f.name == kept.name for f in demo.faults_of(j, demo.entries_of(j))))
    other = next(j for j in sorted(jobs - {closed}) if not demo.faults_of(j, demo.entries_of(j)))
    assert window.bench.open_job(closed)
    qtbot.waitUntil(lambda: kept.name[:8] in "\n".join(window.bench.voice.warnings), timeout=PATIENCE_MS)
    with pytest.raises(UnsoundJobError):
        demo.write(closed, NoteWritten(text="x"))
    assert demo.write(other, NoteWritten(text="all others go on"))
    with pytest.raises(CandorError, match="Say why"):
        go_on_without((f"{folder}/{kept.name}",), " ")
    assert window.bench.writer.do(go_on_without((f"{folder}/{kept.name}",), "the disk was full"))
    window.bench.files.look()
    qtbot.waitUntil(lambda: window.bench.in_hand.faults == (), timeout=PATIENCE_MS)
    assert demo.write(closed, NoteWritten(text="it goes on"))
    assert (
        "Reason given: the disk was full." in "\n".join(r.text for r in record_of(demo, JOB).remarks) or closed != JOB
    )


def test_what_is_signed_is_looked_at_when_it_is_signed(demo):
    """Nobody opened it in a window: the file was changed a moment ago."""
    record = record_of(demo, JOB)
    digest = keep_certificate(demo.certificate_folder, record.to_bytes())
    body = CertificateIssued(number=record.number, digest=digest, sentence="x")
    old = next(p for p in demo.certificate_folder.iterdir() if p.name != f"{digest}.json")
    old.unlink()
    with pytest.raises(UnsoundJobError):
        demo.write(JOB, body)


def test_entries_that_are_gone_are_said_when_the_notebook_is_opened(show, notebook, pack):
    open_job(notebook, pack)
    notebook.write("job1", NoteWritten(text="the last word"))
    notebook.close()
    with sqlite3.connect(notebook.path) as raw:
        raw.execute("delete from entries where number = (select max(number) from entries)")
    raw.close()
    window = show(Notebook(notebook.path, "x"))
    assert window.bench.voice.warnings[0].startswith("1 entry is gone from this notebook")


@pytest.mark.parametrize(
    "statement",
    [
        "update entries set at = 'noon' where number = ?",
        "update entries set at = '2026-01-01T00:00:00' where number = ?",  # of no zone
        "update entries set body = x'ff00fe' where number = ?",
        "update entries set body = cast(x'7b226b696e64223a226e6f7465ff7d' as text) where number = ?",
        "update entries set body = '[[[[' where number = ?",
        'update entries set body = \'{"kind": "change", "version": 1\' where number = ?',
        "update entries set kind = x'00', who = x'fe' where number = ?",
    ],
)
def test_one_broken_entry_closes_its_own_job_and_the_window_works(qtbot, show, demo, statement):
    demo.close()
    number = next(e.number for e in demo_entries(demo.path, "sb40217") if e.body.kind == "reading")
    with sqlite3.connect(demo.path) as raw:
        raw.execute(statement, (number,))
    raw.close()
    notebook = Notebook(demo.path, "x", demo.clock)
    window = show(notebook)
    others = sorted({line.job for line in window.bench.shelf.lines} - {"sb40217"})
    for job in (*(others if "'noon'" in statement else others[:1]), "sb40217"):  # all of them once
        assert window.bench.open_job(job)
        for stop in ("arrive", "calibrate", "release"):
            window.go_to_stop(stop)
    window.bench.open_job("sb40217")
    window.enter_room("entries")
    said = "\n".join(window.bench.voice.warnings)
    assert f"Entry {number} of this job" in said or "kind = x" in statement
    assert f"Entry {number} of this job is not as written" in said
    assert notebook.write("sb40221", NoteWritten(text="all else works"))


def demo_entries(path, job):
    opened = Notebook(path, "x")
    try:
        return opened.entries_of(job)
    finally:
        opened.close()


def test_whatever_file_is_gone_what_makes_safe_is_written(demo):
    """A photo that is missed under power must never refuse that the plug is out, or that a run has ended."""
    next(demo.run_folder.iterdir()).unlink()
    demo.close_job("sb40221", demo.faults_of("sb40221", demo.entries_of("sb40221")))
    off = [
        StateBegun(title="off", line_volts=0), PluggedOut(), RailRead(name="b1", reading=0.4),
        SourceReleased(link="x", how="read back"),
        RunEnded(run="x", ref="C7"), SourceApplied(link="x", value=0, unit="V"),
    ]  # fmt: skip
    for body in off:
        assert demo.write("sb40221", body)
    for body in (StateBegun(title="full line", line_volts=120), SourceApplied(link="x", value=5, unit="V")):
        with pytest.raises(UnsoundJobError):
            demo.write("sb40221", body)


def test_an_entry_that_cannot_be_read_does_not_refuse_it_either(demo):
    number = demo.entries_of("sb40221")[-1].number
    with sqlite3.connect(demo.path) as raw:
        raw.execute("update entries set body = '[' where number = ?", (number,))
    raw.close()
    demo.entries_of("sb40221")
    assert demo.write("sb40221", PluggedOut())
    with pytest.raises(UnreadableEntryError):
        demo.write("sb40221", NoteWritten(text="x"))


@pytest.mark.parametrize("notes", [5, 600])  # one that is followed at once, one beside the window
def test_a_chain_that_is_broken_is_said_however_long_the_job_is(qtbot, show, notebook, pack, notes):
    open_job(notebook, pack)
    notebook.append(drafts_of("job1", [NoteWritten(text=f"note {i}") for i in range(notes)]))
    number = notebook.entries_of("job1")[4].number
    notebook.close()
    with sqlite3.connect(notebook.path) as raw:
        raw.execute("update entries set body = replace(body, 'note 2', 'note 9') where number = ?", (number,))
    raw.close()
    window = show(Notebook(notebook.path, "x", notebook.clock))
    qtbot.waitUntil(lambda: f"Entry {number} of this job is not as written" in window.warning.words.text())
    assert window.bench.in_hand.broken == (number,)


def test_what_is_signed_has_its_chain_followed_anew(show, demo):
    """Of a long job it is followed beside the window: what is signed or saved before that has come back must say it too."""
    number = demo.entries_of("sb40217")[5].number
    demo.close()
    with sqlite3.connect(demo.path) as raw:
        raw.execute("update entries set who = 'somebody' where number = ?", (number,))
    raw.close()
    window = show(Notebook(demo.path, "x", demo.clock))
    window._open_job("sb40217")
    window.bench.in_hand.broken = ()  # not known yet
    window.go_to_stop("release")
    said = [remark for remark in window.release.to_print().record.remarks if remark.kind == "ink"]
    assert [remark.entry for remark in said] == [number]
