"""A command is done whole or not at all; undoing takes back what was just done here, and nothing else."""

from dataclasses import replace

import pytest

from candor.core.errors import CandorError
from candor.core.severity import Severity
from candor.notebook.entries.arrive_entries import FindingNoted
from candor.notebook.entries.entry import Draft
from candor.notebook.entries.shop_entries import StockCounted, StockMoved
from candor.notebook.entries.stay_entries import NoteWritten
from candor.notebook.parts.parts_list import list_parts
from candor.notebook.work.barriers import BarredError
from candor.notebook.work.description import description_of
from candor.notebook.work.job import fold
from candor.notebook.work.settings import Settings
from candor.sitting.command import Command, of_jobs
from candor.sitting.commands import calibrate_commands, power_commands, shop_commands, stay_commands
from candor.sitting.sitting import Place, Seen, Sitting
from workbench import goes_on, open_job, point_steps, reading

JOB, TUBES, STOCK = Place(job="job1"), Place("tubes", "job1"), Place("stock", "job1")


@pytest.fixture
def bench(notebook, pack):
    open_job(notebook, pack)
    goes_on(notebook)
    return Bench(notebook)


class Bench:
    """A sitting at one job."""

    def __init__(self, notebook):
        self.notebook, self.sitting = notebook, Sitting(notebook)

    def job(self):
        return fold("job1", self.notebook.entries_of("job1"))

    def seen(self):
        job = self.job()
        pack = description_of(self.notebook, job)
        return Seen(
            job=job, pack=pack, parts=lambda: list_parts(job, pack), settings=Settings(), folded=lambda _: self.job()
        )

    def do(self, command, place=JOB):
        return self.sitting.do(command, self.seen(), place)

    def undo(self, place=JOB):
        certificates = self.job().release.certificates
        return self.sitting.undo(place, lambda _: certificates[-1].number if certificates else 0)

    def notes(self):
        return [e.body.text for e in self.job().stay.notes]


def test_a_command_of_many_entries_is_undone_as_one_and_by_its_name(bench):
    rows = [NoteWritten(text=str(i)) for i in range(30)]
    bench.do(stay_commands.taken_in("thirty rows", *rows))
    bench.do(stay_commands.note("after"))
    assert "Struck: a note (entry" in bench.undo()[0]
    assert bench.notes() == [str(i) for i in range(30)]
    assert "Struck: thirty rows (30 entries)." in bench.undo()[0]
    assert bench.notes() == []
    assert "thirty rows" in bench.sitting.redo(JOB)[0]
    assert len(bench.notes()) == 30
    assert bench.undo()[2]
    assert bench.notes() == []


def test_in_a_room_of_the_shop_what_was_done_there_is_undone_and_no_entry_of_the_job(bench):
    bench.do(stay_commands.note("of the job"))
    bench.do(shop_commands.move_stock("k", 3, "counted"), STOCK)
    assert "nothing was done here" in bench.undo(TUBES)[0]
    assert bench.notes() == ["of the job"]
    assert "counted: +3" in bench.undo(STOCK)[0]
    assert [e.body.kind for e in bench.notebook.entries_of("")][-2:] == ["stock_moved", "strike"]
    bench.do(stay_commands.note("jotted among the stock"), STOCK)
    assert bench.notes() == ["of the job", "jotted among the stock"]
    bench.undo()  # at a stop of the job it is what was done to it last
    assert bench.notes() == ["of the job"]


def test_what_another_window_or_a_link_wrote_is_not_undone_here(bench):
    bench.do(stay_commands.note("mine"))
    other = Bench(bench.notebook)
    other.do(stay_commands.note("of the other window"))
    bench.do(replace(power_commands.capture_rail("b1", 300.0)))
    bench.undo()
    assert bench.notes() == ["of the other window"]
    assert len(bench.job().power.reads) == 1
    assert "nothing was done here" in bench.undo()[0]


def test_what_a_certificate_rests_on_is_asked_about_once(bench):
    bench.do(stay_commands.note("stands under it"))
    from candor.notebook.entries.release_entries import CertificateIssued

    bench.notebook.write(
        "job1", CertificateIssued(number="N-1", digest="ab", sentence="all pass"), bench.notebook.clock()
    )
    sentence, severity, written = bench.undo()
    assert ("A signed certificate rests on “a note”" in sentence, severity, written) == (True, Severity.ASK, ())
    assert bench.notes() == ["stands under it"]
    assert bench.undo()[2]
    assert bench.notes() == []


def test_a_strike_is_taken_back_as_anything_else(bench):
    bench.do(stay_commands.note("one"))
    bench.do(stay_commands.strike(bench.job().stay.notes[0]))
    assert bench.notes() == []
    assert "Taken back: struck entry" in bench.undo()[0]
    assert bench.notes() == ["one"]
    bench.sitting.redo(JOB)
    assert bench.notes() == []


def test_all_or_nothing_over_jobs_and_shop(bench, monkeypatch):
    before = len(bench.notebook.entries_of("job1"))
    bench.notebook.write("job1", FindingNoted(zone="cord", mark="hazard", text="bare copper"))
    mixed = [
        Draft("", StockCounted(key="k", what="resistor", value=47e3, count=3)),
        Draft("job1", calibrate_commands.start_timer("warm", "Warm-up", 60).bodies[0]),
    ]
    with pytest.raises(BarredError):
        bench.do(of_jobs("both", mixed))
    assert bench.notebook.entries_of_kinds(("stock",)) == ()
    assert len(bench.notebook.entries_of("job1")) == before + 1
    with pytest.raises(CandorError, match="No job is open"):
        bench.sitting.do(stay_commands.note("nowhere"), replace(bench.seen(), job=None))
    assert Command("x", (StockMoved(key="k", by=1, reason="r"),), of_shop=True).drafts_for("job1")[0].job == ""


def test_what_follows_is_said_of_the_entry_whoever_wrote_it(bench):
    said = [t.sentence for t in bench.do(stay_commands.change("replaced the cord", part="")).told]
    assert said[0] == "What proves it? Jot: checked …"
    assert any("residual-current device may trip" in s for s in said)
    again = bench.do(stay_commands.change("cleaned the switch"))
    assert "“replaced the cord”, is not proven yet either" in again.told[0].sentence
    step = next(iter(point_steps(bench.seen().pack)))
    assert bench.do(Command("r", (reading(step, ""),))).told == ()
