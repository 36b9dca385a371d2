"""A pack that grows out of a job, and the job that goes over to it with every reading kept."""

import pytest

from candor.core.errors import CandorError
from candor.core.jot import JotContext, understand
from candor.notebook.arrive.pack_from_job import grown_of_job, jobs_of_type, recurring_findings
from candor.notebook.entries.arrive_entries import FindingNoted
from candor.notebook.entries.calibrate_entries import ReadingTaken
from candor.notebook.entries.ranges_entries import RangeMade
from candor.notebook.entries.shop_entries import ItemAdded
from candor.notebook.entries.stay_entries import JobOpened, PackTaken
from candor.notebook.entries.unit_entries import FunctionFound
from candor.notebook.parts.parts_list import list_parts, parts_of
from candor.notebook.trace.tracing import board_bodies
from candor.notebook.work.assessment import assess_run
from candor.notebook.work.description import description_of
from candor.notebook.work.job import fold
from candor.packs.bundled import lend_from
from candor.packs.load import parse_pack, read_pack
from candor.packs.missing import what_is_missing
from candor.packs.procedure import procedure
from candor.packs.write import pack_yaml

VOLTS = RangeMade(
    function="DC volts", unit="V", full_scale=30.0, divisions=30, mirror=True, percent_of_full_scale=3.0
)
AMPERES = RangeMade(function="DC current", unit="A", full_scale=3e-4, divisions=60)
POINTS = ((10.2, 10.03, "dc-volts/30v/10"), (20.4, 20.0, "dc-volts/30v/20"), (29.9, 30.0, "dc-volts/30v/30"),
          (1e-4, 1.01e-4, "dc-current/300ua/0.0001"))  # fmt: skip


def job_of(notebook, name="j"):
    return fold(name, notebook.entries_of(name))


@pytest.fixture
def gathered(notebook):
    notebook.write("j", JobOpened(maker="Corvane", type="AV-20", serial="3310", instrument_kind="multimeter"))
    for body in (
        VOLTS,
        AMPERES,
        FunctionFound(function="Battery check"),
        FindingNoted(zone="batteries", mark="fix", text="acid in the holder"),
    ):
        notebook.write("j", body)
    for indicated, reference, point in POINTS:
        notebook.write(
            "j", ReadingTaken(step="s", phase="as found", point=point, indicated=indicated, reference=reference)
        )
    for line in (
        "part R1 100k 5% comp",
        "part C8 0.05 uF 600V paper coupling",
        "R1 joins plate and 0",
        "C8 joins plate and grid",
    ):
        parts = {p.ref: p for p in parts_of(job_of(notebook), description_of(notebook, job_of(notebook)))[0]}
        for body in board_bodies(understand(line, JotContext(parts=parts))):
            notebook.write("j", body)
    notebook.write("", ItemAdded(pack="kind.multimeter", zone="batteries", item="wrong polarity"))
    return notebook


def test_what_is_read_back_is_the_same_pack(gathered):
    pack = grown_of_job(gathered, "j")
    again = parse_pack(pack_yaml(pack), "x.yaml")
    assert (again, again.digest) == (pack, pack.digest)
    assert (pack.id, pack.name, pack.kind) == ("corvane-av-20", "Corvane AV-20", "moving-coil multimeter")
    assert [(f.title, [r.title for r in f.ranges]) for f in pack.functions] == [
        ("DC volts", ["30 V"]),
        ("DC current", ["300 µA"]),
    ]
    assert [p.ref for p in pack.parts] == ["C8", "R1"]
    assert pack.circuit.netlist.splitlines() == ["C8 plate grid 5e-08", "R1 plate 0 100000"]
    assert "Battery check" in pack.usual
    assert "wrong polarity" in next(z.look_for for z in pack.zones if z.key == "batteries")


def test_what_it_does_not_say_is_said(gathered):
    assert what_is_missing(grown_of_job(gathered, "j")) == (
        "DC current, 300 µA range: no limit, so nothing is decided on it",
        "DC current, 300 µA range: 1 point; 3 or more tell whether it bends",
    )


def test_the_job_goes_over_to_it_with_every_reading_and_part(gathered):
    before = description_of(gathered, job_of(gathered))
    found = assess_run(job_of(gathered), before, {}, "as found")
    gathered.write("j", PackTaken(pack_digest=gathered.keep_pack(grown_of_job(gathered, "j"))))
    job = job_of(gathered)
    after = description_of(gathered, job)
    again = assess_run(job, after, {}, "as found")
    assert {k: (r.error, r.verdict.limit) for k, r in again.results.items()} == {
        k: (r.error, r.verdict.limit) for k, r in found.results.items()
    }
    assert again.points == found.points
    assert [x.part.ref for x in list_parts(job, after).lines] == ["C8", "R1"]
    # A further point is made on the pack's range as it was on one's own.
    gathered.write(
        "j", ReadingTaken(step="s", phase="as found", point="dc-volts/30v/5", indicated=5.1, reference=5.0)
    )
    job = job_of(gathered)
    assert "dc-volts/30v/5" in assess_run(job, description_of(gathered, job), {}, "as found").results


def test_findings_that_recur_on_others_of_its_type_join_its_checklist(gathered):
    gathered.write("k", JobOpened(maker="CORVANE", type="AV-20", serial="4711", instrument_kind="multimeter"))
    for text in ("Acid in the  holder", "scratch on the lid", "green corrosion"):
        gathered.write("k", FindingNoted(zone="batteries", mark="note", text=text))
    gathered.write("j", FindingNoted(zone="batteries", mark="fix", text="green corrosion all over"))
    jobs = jobs_of_type(gathered, job_of(gathered))
    zones = description_of(gathered, job_of(gathered)).zones
    assert [j.id for j in jobs] == ["j", "k"]
    assert recurring_findings(jobs, zones) == {
        "batteries": ("acid in the holder",)
    }  # corrosion is on the list already
    assert "acid in the holder" in next(z.look_for for z in grown_of_job(gathered, "j").zones if z.key == "batteries")


def test_a_job_without_a_type_or_without_anything_is_said(notebook):
    with pytest.raises(CandorError, match="no job “x”"):
        grown_of_job(notebook, "x")
    notebook.write("n", JobOpened(maker="Corvane", type="", serial="1"))
    with pytest.raises(CandorError, match="named after the instrument's type"):
        grown_of_job(notebook, "n")
    notebook.write("m", JobOpened(maker="", type="📻", serial="1"))
    bare = grown_of_job(notebook, "m")
    assert bare.id == "kind.something-else"
    assert what_is_missing(parse_pack(pack_yaml(bare), "x.yaml"))[0].startswith("no range is described")


def test_every_job_of_the_demo_grows_into_a_pack_that_is_checked(demo, tmp_path):
    """What a pack says its circuit makes, and what its parts are, stays when its job grows into one."""
    jobs = sorted({e.job for e in demo.entries_of_kinds(("job_opened",))})
    assert len(jobs) == 18
    packs = {name: description_of(demo, fold(name, demo.entries_of(name))) for name in jobs}
    types = {
        pack.id: name for name, pack in packs.items() if pack.circuit
    }  # each type with a circuit, and one by its name
    for name in {**types, "": next(n for n, pack in packs.items() if pack.id.startswith("kind."))}.values():
        grown = grown_of_job(demo, name)
        path = tmp_path / f"{name}.yaml"
        path.write_text(pack_yaml(grown), encoding="utf-8")
        read = read_pack(path, lend_from(demo.kept_packs, tmp_path))
        base = description_of(demo, fold(name, demo.entries_of(name)))
        made = [dict(p.circuit.makes) if p.circuit else {} for p in (read, base)]
        assert made[0] == made[1], name
        own = [step for step in procedure(base) if not step.usual]  # what is usual for its kind is not of this type
        assert list(procedure(read)) == own, name
