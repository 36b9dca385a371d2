"""Histories and records as tables, on the command line: slopes, fans, due dates, settling, deviations; what is refused by line."""

import datetime as dt
import json
import math
from functools import partial

import numpy as np
import pytest
from typer.testing import CliRunner

from candor.cli import app
from candor.core.errors import CandorError
from candor.notebook.soak.drift_table import read_history
from candor.notebook.soak.stability_table import allan_told, say_allan, settle_told
from candor.words.drift_lines import drift_told

TODAY = dt.date(2026, 6, 1)
HEAD = "date,point,error,U,limit,when\n"


def rows(*lines):
    return (HEAD + "\n".join(lines)).encode()


STEADY = rows(
    *(f"{2019 + k}-04-02,volts/30,{0.1 + 0.04 * k:.2f} V,0.1 V,0.9 V,found" for k in range(6)),
    *(f"{2019 + k}-04-02,volts/3,{1 * (-1) ** k} mV,10 mV,90 mV,found" for k in range(6)),
    "2021-04-02,volts/3,-2 mV,10 mV,90 mV,left", "2024-04-02,ohms/1k,,,0.05,left", "2025-04-02,ohms/1k,0.01,0.01,0.05,left",
)  # fmt: skip


def run(*words):
    return CliRunner().invoke(app, [*map(str, words)])


def test_a_history_of_years(tmp_path):
    told = drift_told(STEADY, TODAY)
    volts, small, ohms = told["points"]
    assert (volts["point"], volts["unit"], volts["limit"]) == ("volts/30", "V", 0.9)
    assert volts["slope"] == pytest.approx(0.04, abs=0.02)
    assert [len(s) for s in small["segments"]] == [3, 4]
    assert [len(s) for s in ohms["segments"]] == [1]  # it arrived dead in 2024: absent, not zero
    assert told["worst"] in ("volts/30", "ohms/1k")
    assert volts["by_date"]["2026-06-01"]["in_tolerance"] > volts["by_date"][max(volts["by_date"])]["in_tolerance"]
    assert dt.date.fromisoformat(told["due"]) > TODAY
    history = tmp_path / "h.csv"
    history.write_bytes(STEADY)
    assert json.loads(run("drift", history, "--day", "2026-06-01", "--json").output) == told
    said = run("drift", history, "--day", "2026-06-01").output
    assert said.startswith(
        f"Due {told['due']}: on that date the probability that every point is in tolerance falls to 95 %"
    )
    assert "volts/3: " in said
    assert "7 results in 2 segments" in said
    sooner = json.loads(run("drift", history, "--target", "99", "--day", "2026-06-01", "--json").output)
    assert sooner["due"] < told["due"]


def test_without_any_result_the_custom_holds():
    told = drift_told(rows("2026-05-30,volts/30,,,0.9,left"), TODAY, kind="tube tester")
    assert "usual for this kind" in told["reason"]
    assert told["points"][0]["why"] == "it never had a result"


@pytest.mark.parametrize(
    ("lines", "words"),
    [
        (["2026-13-02,v,1,1,2,found"], "line 2: "),
        (["2030-01-02,v,1,1,2,found"], "2030-01-02 is in the future"),
        (["2020-01-02,v,1,,2,found"], "U is missing"),
        (["2020-01-02,v,1 V,1 V,2 A,found"], "v was in A before, and is in V here"),
        (
            ["2020-01-02,v,1 V,1 V,2 V,found", "2021-01-02,v,1 mA,1 mA,2 mA,found"],
            "line 3: v was in V before, and is in A here",
        ),
        (["2020-01-02,v,1,1,2,later"], "found or left was expected"),
        (["2020-01-02,v,one,1,2,found"], "an error as a number"),
        (["2020-01-02,v,1,1,0,found"], "a limit of 0"),
        (["2020-01-02,,1,1,2,found"], "which point"),
        (["2020-01-02,v,1,1,2,found", "2020-01-02,v,2,1,2,found"], "v: 02 Jan 2020 has two results as found"),
        ([], "no result in the table"),
    ],
)
def test_what_is_no_history_is_said_by_line(lines, words):
    with pytest.raises(CandorError, match=words):
        read_history(rows(*lines), TODAY)


def test_settling_and_deviations_on_the_command_line(tmp_path):
    random = np.random.default_rng(1)
    t = np.arange(0, 3000, 50.0)
    y = 10 + 0.5 * np.exp(-t / 500) + random.normal(0, 0.002, len(t))
    record = tmp_path / "r.csv"
    record.write_text("seconds,value\n" + "\n".join(f"{a},{b:.5f}" for a, b in zip(t, y, strict=True)))
    told = json.loads(run("settle", record, "--limit", "0.1", "--json").output)
    assert told["final"] == pytest.approx(10, abs=0.005)
    assert told["ready_range"][0] <= 500 * math.log(0.5 / 0.01) <= told["ready_range"][1]
    assert "Ready at" in run("settle", record, "--limit", "0.1").output or told["settled"]
    short = tmp_path / "s.csv"
    short.write_text("seconds,value\n" + "\n".join(f"{a},{b:.5f}" for a, b in zip(t[:12], y[:12], strict=True)))
    assert "Still moving, cannot say" in run("settle", short, "--limit", "0.1").output
    found = json.loads(run("allan", record, "--json").output)
    assert found["every"] == 50
    assert set(found) >= {"simple", "overlapping", "modified", "hadamard", "average"}
    assert "averaging longer does not help" in run("allan", record).output
    phase = "seconds,phase\n" + "\n".join(f"{a},{a * 1e-8:.6e}" for a in range(0, 1000, 10))
    assert allan_told(phase.encode())["offset"] == pytest.approx(1e-8, rel=1e-4)


@pytest.mark.parametrize(
    ("text", "call", "words"),
    [
        ("seconds,value\n0,1\n0,2\n", settle_told, "two readings have the moment 0 s"),
        ("seconds,value\n0,1\n10,x\n", settle_told, "line 3: "),
        ("seconds,value\n0,1\n", settle_told, "six readings"),
        ("seconds,value\n0,1\n1,1\n2,1\n9,1\n", allan_told, "not at equal times: 7 s after 2 s"),
        ("seconds,value\n0,1\n1,1\n", allan_told, "Four readings"),
        ("time,value\n0,1\n", allan_told, "seconds"),
        ("seconds,value\n0,1\n10\n", settle_told, "line 3: .*value, a number"),  # a line that ends too early
        ("seconds,value\n0,1\n10,1e308\n", settle_told, "line 3: 1e.308 is not a reading of anything"),
        ("seconds,phase\n" + "".join(f"{k},0\n" for k in range(9)), partial(allan_told, period=-1), "are 0 or more"),
    ],
)
def test_what_is_no_record_is_said(text, call, words):
    with pytest.raises(CandorError, match=words):
        call(text.encode())


@pytest.mark.parametrize(
    ("command", "text"),
    [
        ("drift", "date,point,error,U,limit,when,standrad\n2026-01-05,volts/30,0.2,0.1,0.9,found,box"),
        ("settle", "seconds,value,celcius\n" + "\n".join(f"{30 * k},{1 + 0.5 ** k},21" for k in range(12))),
        ("allan", "seconds,value,celcius\n" + "\n".join(f"{30 * k},{k % 3},21" for k in range(12))),
        ("match", "tube,figure,u,sektion\nA,5.0,0.1,1\nB,5.1,0.1,2"),
        ("correct", "tube,shown,figure,u,sektion\nA,50,5.0,0.1,1\nB,61,6.1,0.1,1\nC,70,7.0,0.1,2\nD,81,8.2,0.1,1"),
    ],
)  # fmt: skip
def test_a_column_that_is_not_read_is_named_and_the_json_stays_whole(tmp_path, command, text):
    file = tmp_path / "rows.csv"
    file.write_text(text + "\n")
    heading = text.split("\n")[0].split(",")
    unread = next(name for name in ("standrad", "celcius", "sektion") if name in heading)
    done = run(command, file, "--json")
    assert json.loads(done.stdout)
    assert f"“{unread}” is not read" in done.stderr
    file.write_text("\n".join(line for line in text.replace(unread, "").split("\n")))
    assert "not read" not in run(command, file).stderr


def test_what_lies_far_off_in_a_log_of_phase_is_counted_and_said():
    phase = [1e-9 * k for k in range(40)]
    phase[20] += 1e-6
    text = "seconds,phase\n" + "\n".join(f"{10 * k},{p:.12g}" for k, p in enumerate(phase))
    told = allan_told(text.encode())
    assert told["outliers"] == 1
    assert "Left out: 1 readings" not in say_allan(
        told
    ) and "Left out: 1 reading far off both neighbours" in say_allan(told)
