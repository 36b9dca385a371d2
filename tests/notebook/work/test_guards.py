"""What bars a deed stands in the notebook: whoever writes, deeds are refused while it stands, facts never are."""

import pytest

from candor.core.parts.mains import Mains
from candor.notebook.entries.arrive_entries import FindingNoted
from candor.notebook.entries.cleaning_entries import DRYING, Cleaned
from candor.notebook.entries.entry import drafts_of
from candor.notebook.entries.kinds_entries import BODIES
from candor.notebook.entries.parts_entries import BarOverridden, PartDecided, PartMeasured
from candor.notebook.entries.power_entries import PowerChecked, StateBegun
from candor.notebook.entries.release_entries import CertificateIssued, SecondSignature
from candor.notebook.entries.sources_entries import SourceApplied
from candor.notebook.entries.timers_entries import TimerStarted
from candor.notebook.entries.unit_entries import Unaccounted
from candor.notebook.notebook_errors import BusyNotebookError
from candor.notebook.parts.parts_list import list_parts
from candor.notebook.store import Notebook
from candor.notebook.work.barriers import BarredError, barrier
from candor.notebook.work.guards import GUARDS, is_deed
from candor.notebook.work.job import fold
from notebook.entries.test_kinds_entries import SAMPLES
from workbench import open_job

BARS = {
    "hazard": (FindingNoted(zone="cord", mark="hazard", text="bare copper"),),
    "fasteners": (Unaccounted(count=1, what="washer"),),
    "insulation": (Cleaned(what="the chassis", how="washed"),),
    "sample": (PartMeasured(ref="C2 a", state="open"),),
    "parts": (PartDecided(ref="C1", action="replace"),),
}
# What each bar refuses; nothing else of all there is. Signing and a state have longer lists of their own, never empty here.
ALWAYS = {"power_state", "certificate", "second_signature"}
POWER = ALWAYS | {"source_applied", "switched_on", "timer"}
REFUSED = {
    "hazard": POWER | {"run_started"},
    "fasteners": POWER,
    "insulation": POWER,
    "sample": POWER,
    "parts": POWER,
}


@pytest.fixture
def barred(notebook, pack, request):
    open_job(notebook, pack)
    for body in BARS[request.param]:
        notebook.write("job1", body)
    job = fold("job1", notebook.entries_of("job1"))
    assert barrier(job, list_parts(job, pack, mains=Mains(230, 50))).kind == request.param
    return notebook, request.param


@pytest.mark.parametrize("barred", BARS, indirect=True)
def test_every_kind_of_entry_against_every_bar(barred):
    notebook, bar = barred
    before, refused = len(notebook.entries_of("job1")), set()
    for body in [b for b in SAMPLES if type(b) in GUARDS]:
        try:
            notebook.write("job1", body)
            before += 1
        except BarredError as error:
            assert str(error).endswith("Nothing was written.")
            refused.add(body.kind)
    assert refused == REFUSED[bar]
    assert len(notebook.entries_of("job1")) == before
    facts = [b for b in SAMPLES if b.kind not in {made.model_fields["kind"].default for made in GUARDS}]
    assert len(notebook.append(drafts_of("job1", facts))) == len(facts) == len(BODIES) - len(GUARDS)


@pytest.mark.parametrize("barred", BARS, indirect=True)
def test_written_with_its_reason_in_one_go_it_is_done_and_to_zero_always(barred):
    notebook, bar = barred
    notebook.write("job1", StateBegun(title="off", line_volts=0))
    notebook.write("job1", SourceApplied(link="a", value=0.0))
    notebook.write("job1", TimerStarted(step=DRYING, label="drying", seconds=60))
    if bar == "hazard":
        return
    applied = SourceApplied(link="a", value=5.0)
    notebook.write("job1", applied, at=notebook.clock())  # told of a moment: a fact
    with pytest.raises(BarredError):
        notebook.write("job1", applied)
    notebook.append(drafts_of("job1", (BarOverridden(bar=bar, reason="on a series lamp"), applied)))


def test_nobody_else_writes_between_the_guard_and_the_deed(notebook, pack, monkeypatch):
    open_job(notebook, pack)
    other, tried = Notebook(notebook.path, "B", patience_s=0), []

    def looked_at(*_):
        monkeypatch.undo()  # the other's write is looked at too
        with pytest.raises(BusyNotebookError):
            other.write("job1", FindingNoted(zone="cord", mark="hazard", text="bare copper"))
        tried.append(True)

    monkeypatch.setattr("candor.notebook.work.guards.refuse_barred", looked_at)
    notebook.write("job1", SourceApplied(link="a", value=5.0))
    assert tried
    other.write("job1", FindingNoted(zone="cord", mark="hazard", text="bare copper"))
    other.close()


def test_a_state_waits_for_the_list_and_a_signature_for_its_checks(notebook, pack):
    open_job(notebook, pack)
    with pytest.raises(BarredError, match="Do not power it yet"):
        notebook.write("job1", StateBegun(title="warm", line_volts=230))
    notebook.write("job1", PowerChecked(item="fuse", outcome="good"))
    with pytest.raises(BarredError, match="Do not power it yet"):
        notebook.write("job1", StateBegun(title="warm", line_volts=230))
    with pytest.raises(BarredError, match="Release checks"):
        notebook.write("job1", CertificateIssued(number="1", digest="ab", sentence="all pass"))
    with pytest.raises(BarredError, match="No certificate with the digest"):
        notebook.write("job1", SecondSignature(digest="ab", name="A. Ferry"))
    assert is_deed(StateBegun(title="off", line_volts=0))
    assert len(notebook.entries_of("job1")) == 3
