"""Standards with several functions, chains, checks of one against another, and what hangs on one that is found out."""

import datetime as dt
import json
import math
from pathlib import Path

import pytest

from candor.core.errors import CandorError
from candor.core.reference.chains import Chain
from candor.core.reference.choice import propose
from candor.core.verdict.rules import Outcome
from candor.notebook.entries.calibrate_entries import ReadingTaken, StandardChosen
from candor.notebook.entries.kinds_entries import read_body
from candor.notebook.entries.standards_entries import StandardRecorded, StandardWithdrawn
from candor.notebook.entries.stay_entries import JobOpened
from candor.notebook.entries.strikes_entries import Struck
from candor.notebook.standards.chain_text import newest, read_chain, read_standards, write_chain
from candor.notebook.standards.compared import comparison
from candor.notebook.standards.standard_choice import chosen_for, offered
from candor.notebook.standards.standards import (
    checks_of,
    chosen_by_job,
    jobs_read_against,
    since_last_good,
    standards,
)
from candor.notebook.standards.standards_text import (
    read_functions,
    read_standard,
    write_functions,
    write_standard_lines,
)
from candor.notebook.work.assessment import assess_run
from candor.notebook.work.job import fold
from candor.notebook.work.readings_alone import calculate_readings
from candor.packs.procedure import point_by_name
from candor.words.results import results_json
from everykind import PACK, TYPED

DAY = dt.date(2026, 6, 1)
TEXT = """name: meter one
serial: 4
checked: 2026-05-01
drift: 0.01
V d.c., loads 10M
to 20 V: 0.02 % + 0.001 % of range
V a.c., rms responding, crest factor 3, loads 1M 100p
40 Hz to 20 kHz, to 20 V: 0.3 %
ohm
to 20 Mohm: 0.05 %

name: shunt
is: fixed part
checked: 2026-05-01
ohm
at 4.7 kohm: correction 2 U 1 k 2

chain: amps by shunt
= V / R in A d.c.
V: meter one, V d.c.
R: shunt, ohm

name: box
is: box
F
at 10 nF, 1 kHz: U 0.02n k 2
at 100 nF, 1 kHz: U 0.2n k 2
"""


def recorded(notebook, text=TEXT):
    """Write the standards of a file into a notebook, and return them by name."""
    for block in text.strip().split("\n\n"):
        name, _, rest = block.partition("\n")
        word, _, called = name.partition(": ")
        if word == "chain":
            notebook.write("", read_chain(called, rest, newest(standards(notebook).values())))
        else:
            lines = [x for x in rest.split("\n") if x.split(":")[0] not in ("serial", "checked", "drift", "is")]
            role = "fixed part" if "is: fixed" in rest else "box" if "is: box" in rest else "meter"
            body = StandardRecorded(
                key=called,
                name=called,
                role=role,
                functions=read_functions("\n".join(lines)),
                calibrated_on=dt.date(2026, 5, 1),
            )
            notebook.write("", body)
    return {s.name: s for s in standards(notebook).values()}


def test_a_file_of_standards_reads_back_as_it_is_typed():
    found = read_standards(TEXT, DAY)
    assert [(f.unit, f.current) for f in found["meter one"]] == [("V", "d.c."), ("V", "a.c."), ("ohm", "")]
    assert found["meter one"][1].detector.words == "true rms, marked in rms"
    assert found["meter one"][0].input_ohms == 10e6
    assert isinstance(found["amps by shunt"][0], Chain)
    for text in (
        "to 20 V: 0.02 %",
        "V a.c., average responding, marked peak, steps 1mV\n40 Hz to 1 kHz, to 3 V: 1 %",
        "ratio\nat 0.001: U 1e-6 k 2",
    ):
        functions = read_functions(text)
        assert read_functions(write_functions(functions)) == functions


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("name: m\nfurlongs\nto 3 V: 1 %", "Standard 1: Line 1: Candor cannot read “furlongs” here"),
        ("name: m\nV d.c., loud\nto 3 V: 1 %", "“loud” is not understood"),
        ("name: m\nV d.c.\n1 kHz to 40 Hz, to 3 V: 1 %", "goes backwards"),
        ("name: m\nis: oracle\nto 3 V: 1 %", "“oracle” is not a kind of standard"),
        ("chain: c\n= V / R in A\nV: nobody", "“nobody” is not a standard of this shop"),
        ("chain: c\nV over R", "cannot read what the chain is made of"),
        ("chain: c\n= a in V", "no link is named"),
        ("name: m\nto 3 V: 1 %\n\nchain: c\n= a * b in A\na: m\nb: m = 2 V", "comes out in V\\^2"),
    ],
)
def test_standards_that_cannot_be_read(text, words):
    with pytest.raises(CandorError, match=words):
        read_standards(text, DAY)


def test_an_entry_of_before_is_a_standard_of_one_function():
    old = {"kind": "standard", "version": 1, "key": "k", "name": "n", "unit": "ohm", "role": "fixed part",
           "points": [{"value": 100.0, "expanded": 0.1}]}  # fmt: skip
    body = read_body(json.dumps(old))
    assert (body.role, body.functions[0].unit, body.functions[0].points[0].value) == ("fixed part", "ohm", 100.0)


def test_several_standards_on_a_job_one_for_each_quantity(notebook):
    known = recorded(notebook)
    notebook.write("j", JobOpened(maker="Corvane", type="ALL", serial="1", pack_digest=notebook.keep_pack(PACK)))
    for name in ("meter one", "box"):
        notebook.write("j", StandardChosen(standard=known[name].entry.id))
    job, all_ = fold("j", notebook.entries_of("j")), standards(notebook)
    for key, name in (("volts/10/10", "meter one"), ("cap/a/1e-08", "box"), ("ohms/1k/10000", "meter one")):
        assert chosen_for(job, all_, point_by_name(PACK, key)).name == name
    assert {all_[k].name for k in offered(all_, point_by_name(PACK, "cap/a/1e-08"))} == {"box"}
    assert jobs_read_against("box", all_, chosen_by_job(notebook)) == ("j",)
    notebook.write("k", StandardChosen(standard=known["amps by shunt"].entry.id))
    notebook.write("l", Struck(target=notebook.write("l", StandardChosen(standard=known["meter one"].entry.id)).id))
    chosen = chosen_by_job(notebook)
    assert chosen["j"] == job.calibrate.standards
    assert jobs_read_against(known["meter one"].body.key, all_, chosen) == ("j", "k")  # in a chain of it too
    assert jobs_read_against(known["meter one"].body.key, all_, chosen, chains=False) == ("j",)


def test_a_chain_reads_back_and_a_link_recorded_again_leaves_it_as_it_was(notebook):
    known = recorded(notebook)
    chain = known["amps by shunt"]
    again = read_chain(
        "amps by shunt",
        write_chain(chain.body, standards(notebook)),
        newest(standards(notebook).values()),
        chain.body.key,
    )
    assert again == chain.body
    with pytest.raises(CandorError, match="is a link of itself"):
        read_chain(
            "amps by shunt",
            "= a in A d.c.\na: amps by shunt, A d.c.",
            newest(standards(notebook).values()),
            chain.body.key,
        )


def test_out_of_service_everything_since_the_last_good_check_is_listed(notebook):
    known = recorded(notebook)
    meter, chain = known["meter one"], known["amps by shunt"]
    for job, standard in (("a", meter), ("b", chain), ("c", known["box"])):
        notebook.write(
            job,
            ReadingTaken(
                step="s", phase="as found", point="p/q/1", indicated=1.0, reference=1.0, standard=standard.entry.id
            ),
        )
    last, hangs = since_last_good(notebook, "meter one", standards(notebook))
    assert (last, [h.job for h in hangs]) == (dt.date(2026, 5, 1), ["a", "b"])  # through the chain too
    other = StandardRecorded(key="two", name="two", functions=read_functions("to 20 V: 0.01 %"))
    notebook.write("", other)
    two = next(s for s in standards(notebook).values() if s.name == "two")
    notebook.write("", comparison(meter, two, "10.001 V", "10.0 V", DAY))
    notebook.write("", comparison(meter, two, "10.2", "10", DAY))
    good, bad = checks_of(notebook, "meter one")
    assert (good.agrees, bad.agrees) == (True, False)
    u = 2 * math.hypot(0.0022002 / math.sqrt(3), 0.001 / math.sqrt(3))
    assert good.number == pytest.approx(0.001 / u, rel=1e-3)
    notebook.write("", StandardWithdrawn(standard="meter one", reason="dropped"))
    assert "meter one" not in {s.name for s in standards(notebook).values() if not s.withdrawn}
    assert not [
        k
        for k in offered(standards(notebook), point_by_name(PACK, "volts/10/10"))
        if standards(notebook)[k].name == "meter one"
    ]
    with pytest.raises(CandorError, match="no quantity in common"):
        comparison(two, known["box"], "1", "1", DAY)


def table() -> bytes:
    return "\n".join(["point\treading\treference", *(f"{k}\t{t}\t" for k, t in TYPED.items())]).encode()


def test_every_kind_from_a_file_with_no_notebook():
    results = calculate_readings(table(), PACK, read_standards(TEXT, DAY), DAY)
    found = {line["point"]: line for line in results_json(results)}
    assert set(found) == {*TYPED, "diff/d/5"}
    assert found["diff/d/5"]["indicated"] == pytest.approx(10 - 5.1 - 0.1)  # figured, the blank taken off
    assert (found["eye/e/0"]["indicated"], found["eye/e/0"]["U"]) == ("opens", None)
    assert found["reach/r/0.8"]["limit"] == {"low": 0.6, "high": None}
    assert found["ohms/1k/10000"]["unit"] == "% of arc"
    assert found["volts/10/10"]["kind"] == "mark"
    for line in found.values():
        assert {
            "point",
            "kind",
            "indicated",
            "reference",
            "error",
            "U",
            "k",
            "dof",
            "limit",
            "tur",
            "verdict",
            "probability",
            "budget",
        } <= set(line)
    assert json.loads(json.dumps(list(found.values()), allow_nan=False))
    with pytest.raises(CandorError, match=r"line 2: .*is read as: threshold"):
        calculate_readings(b"point\treading\treference\nshorts/s/250000\t4 div\t\n", PACK, {}, DAY)


def test_the_same_readings_in_a_notebook_say_the_same(notebook):
    """One model carries them: what a file says without a notebook a job says with it, bit by bit."""
    known = recorded(notebook)
    alone = calculate_readings(
        table(), PACK, {n: s.functions for n, s in known.items()}, dt.datetime.now(dt.UTC).date()
    )
    notebook.write("j", JobOpened(maker="Corvane", type="ALL", serial="1", pack_digest=notebook.keep_pack(PACK)))
    from candor.notebook.work.csv_readings import preview_csv

    today, all_ = dt.datetime.now(dt.UTC).date(), standards(notebook)

    def standard(point):
        ranked = [c for c in propose(point, offered(all_, point), today) if c.serves]
        return (ranked[0].key, all_[ranked[0].key].serving(point)) if ranked else ("", None)

    preview = preview_csv(table(), PACK, "as found", standard)
    assert preview.faults == ()
    for body in preview.readings:
        notebook.write("j", body)
    run = assess_run(fold("j", notebook.entries_of("j")), PACK, standards(notebook), "as found")
    same = {r.point.key: (r.verdict.error, r.coverage.expanded, r.verdict.outcome) for r in alone}
    for key, result in run.results.items():
        assert (result.verdict.error, result.coverage.expanded, result.verdict.outcome) == same[key], key
    # What is figured counts as read when those it stands on are; what is noted decides nothing.
    assert len(run.decided) == len(run.points) - 1
    assert [r.verdict.outcome for r in run.results.values() if r.point.noted] == [Outcome.NOTED]


def test_what_a_standard_bears_and_the_room_it_holds_in_are_lines_of_their_own():
    text = "bears 600 V, 400 V to earth\nholds 20 to 26 °C, 0.002 % a kelvin outside\nV d.c.\nto 20 V: 0.02 %"
    fields = dict.fromkeys(
        ("name", "serial", "calibrated_on", "valid_days", "drift_percent_per_year", "traceability"), ""
    )
    body = read_standard(fields | {"name": "m"}, text, role="meter", older=None, today=DAY)
    assert (body.most_volts, body.most_to_earth) == (600.0, 400.0)
    assert (body.low_celsius, body.high_celsius, body.percent_per_kelvin) == (20.0, 26.0, 0.002)
    again = read_standard(fields | {"name": "m"}, write_standard_lines(body), role="meter", older=body, today=DAY)
    assert again == body
    assert write_standard_lines(body.model_copy(update={"most_volts": 0.0, "low_celsius": 18.0, "high_celsius": 28.0,
                                                        "percent_per_kelvin": 0.0})) == "V d.c.\nto 20 V: 0.02 %"  # fmt: skip
    with pytest.raises(CandorError, match="“much” does not begin with a number"):
        read_standard(
            fields | {"name": "m"}, "V d.c.\nbears much\nto 20 V: 0.02 %", role="meter", older=None, today=DAY
        )


def test_the_standards_of_the_formats_document_can_be_read():
    document = (Path(__file__).parents[3] / "docs" / "formats.md").read_text(encoding="utf-8")
    block = next(b for b in document.split("```") if b.startswith("\nname: meter three"))
    found = read_standards(block, DAY)
    assert list(found) == ["meter three", "shunt two", "amperes by shunt two"]
    assert found["meter three"][0].most_volts == 600.0


def test_what_hangs_on_a_chain_is_what_was_read_by_it_since_its_links_were_checked(demo):
    known = standards(demo)
    chain = next(s for s in known.values() if s.current and s.body.key == "microvolts")
    last, hangs = since_last_good(demo, "microvolts", known)
    links = [known[x.standard].body.calibrated_on for x in chain.body.links]
    assert last == min(links)
    assert {h.job for h in hangs} == {"sb40246"}
    assert len(hangs) == sum(
        r.body.standard == chain.entry.id for r in fold("sb40246", demo.entries_of("sb40246")).calibrate.readings
    )
