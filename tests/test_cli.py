"""The command line as a user meets it: real processes, sentences instead of tracebacks."""

import json
import os
import random
import signal
import subprocess
import sys
import time
from pathlib import Path

import numpy as np
import pytest
from typer.main import get_command

from candor.cli import app, main
from candor.demo.demo_notebook import write_demo
from candor.demo.parts_jobs import COOKING
from candor.notebook.entries.ranges_entries import RangeMade
from candor.notebook.entries.runs_entries import RunEnded
from candor.notebook.entries.stay_entries import JobOpened
from candor.notebook.notebook_errors import NotebookError
from candor.notebook.store import Notebook
from faces import face
from workbench import PACK_TEXT

ROOT = Path(__file__).parents[1]


@pytest.fixture
def candor(monkeypatch, capsys):
    """Run a command as a process would, in this one: what it prints and its exit code."""

    def run(*arguments: str) -> subprocess.CompletedProcess:
        monkeypatch.setattr(sys, "argv", ["candor", *arguments])
        if "QT_QPA_PLATFORM" not in os.environ and os.environ.get("DISPLAY") != ":7":
            monkeypatch.setenv("QT_QPA_PLATFORM", "offscreen")  # a box on a real screen would wait for somebody
        code = 0
        try:
            main()
        except SystemExit as end:
            code = end.code or 0
        said = capsys.readouterr()
        return subprocess.CompletedProcess(arguments, code, said.out, said.err)

    return run


def process(*arguments: str) -> subprocess.CompletedProcess:
    environment = {**os.environ, "PYTHONPATH": str(ROOT / "src"), "QT_QPA_PLATFORM": "offscreen"}
    command = [sys.executable, "-m", "candor", *arguments]
    return subprocess.run(command, capture_output=True, text=True, env=environment, timeout=60, check=False)


def test_jot_prints_how_a_line_is_understood(candor):
    assert candor("jot", "found cord perished hazard").stdout == "finding: hazard | Cord and plug | cord perished\n"
    found = json.loads(candor("jot", "--json", "--point", "dc+/150/75", "--", "-1/4t ref 75.004 up").stdout)
    assert found["kind"] == "reading"
    assert (found["indicated"], found["reference"], found["direction"]) == (73.75, 75.004, "up")
    assert found["chips"][0] == "¼ tick below 75 V → 73.75 V"


@pytest.mark.parametrize(
    ("arguments", "words"),
    [
        (
            ("jot", "6.72X"),
            "candor: “6.72X”: “X” is neither a prefix nor a unit. Expected: a voltage such as 72.6 V.",
        ),
        (("jot", "74", "--point", "dc+/9/9"), "candor: Tarnholm VM-6 has no test point “dc+/9/9”"),
        (("jot", "74", "--pack", "nobody"), "candor: “nobody” is not a shipped pack"),
        (("packs", "check", "/no/such/file.yaml"), "cannot be read (No such file or directory)"),
        (("--notebook", str(ROOT / "README.md")), "README.md is not a Candor notebook. Candor did not change it"),
    ],
)
def test_what_is_wrong_is_one_sentence_and_exit_code_one(candor, arguments, words):
    done = candor(*arguments)
    assert done.returncode == 1
    assert words in done.stderr
    assert "Traceback" not in done.stderr


def test_packs_check_reports_faults_by_line(candor, tmp_path):
    good, bad = tmp_path / "good.yaml", tmp_path / "bad.yaml"
    good.write_text(PACK_TEXT)
    bad.write_text(PACK_TEXT.replace("stop: 15,", "stop: -15,"))
    assert candor("packs", "check", str(good)).stdout.startswith(
        "good.yaml: no fault. Tarnholm VM-6, edition 3: 90 steps"
    )
    missed = PACK_TEXT.replace("R5 t150 t500 84k", "R5 t150 t500 86k")
    good.write_text(missed)
    said = json.loads(candor("packs", "check", str(good), "--json").stdout)["ranges"]
    assert len(said) == 14
    assert 100 * next(r["miss"] for r in said if r["range"] == "150 V") == pytest.approx(1.65, abs=0.02)
    bad_circuit = tmp_path / "circuit.yaml"
    bad_circuit.write_text(PACK_TEXT.replace("R5 t150 t500 84k", "R5 t150 t500 92k"))
    refused = candor("packs", "check", str(bad_circuit))
    assert refused.returncode == 1
    assert (
        "functions, item 1, ranges, item 5: DC volts +, 150 V: the circuit misses it by +6.60 %, limit ±3 %"
        in refused.stderr
    )
    done = candor("packs", "check", str(bad))
    assert done.returncode == 1
    assert "bad.yaml: 1 fault; nothing was imported." in done.stderr
    assert "the scale goes backwards" in done.stderr


def test_a_real_process_says_the_same():
    done = process("jot", "6.72X")
    assert (done.returncode, done.stdout) == (1, "")
    assert done.stderr.startswith("candor: “6.72X”: “X” is neither a prefix nor a unit")
    assert process("--version").stdout.startswith("candor ")


def test_packs_list_schema_and_version(candor):
    assert "tarnholm-vm6" in candor("packs", "list").stdout
    assert json.loads(candor("packs", "schema").stdout)["title"] == "Candor pack, formats 1 and 2"
    assert candor("--version").stdout.startswith("candor ")
    assert "Usage" in candor("--help").stdout


def test_asked_to_end_it_closes_as_by_hand(tmp_path):
    """A session that ends (SIGTERM) puts the source to zero and keeps the run."""
    path = tmp_path / "demo.candor"
    write_demo(path).close()
    program = """
import sys
from pathlib import Path
from candor.demo.parts_jobs import COOKING
from candor.desktop.app import start
sys.exit(start(Path(sys.argv[1]), "w", COOKING))
"""
    environment = {**os.environ, "QT_QPA_PLATFORM": "offscreen", "PYTHONPATH": str(ROOT / "src")}
    running = subprocess.Popen([sys.executable, "-c", program, str(path)], env=environment, stderr=subprocess.DEVNULL)
    try:
        end = time.monotonic() + 40
        while time.monotonic() < end and not any(f.stat().st_size > 500 for f in tmp_path.glob("demo runs/C17*.csv")):
            time.sleep(0.1)
        running.send_signal(signal.SIGTERM)
        assert running.wait(20) == 0
    finally:
        running.kill()
        running.wait()
    notebook = Notebook(path, "reader")
    ended = [e.body for e in notebook.entries_of(COOKING[0]) if isinstance(e.body, RunEnded)][-1]
    notebook.close()
    assert (ended.ref, ended.why) == ("C17", "the window was closed")
    assert ended.readings > 10


def test_a_job_grows_into_a_pack_that_is_checked(candor, notebook, tmp_path):
    notebook.write("j", JobOpened(maker="Corvane", type="AV-20", serial="3310", instrument_kind="multimeter"))
    notebook.write("j", RangeMade(function="DC volts", unit="V", full_scale=30.0, divisions=30))
    grown = candor("packs", "grow", str(notebook.path), "j")
    assert grown.returncode == 0
    (tmp_path / "grown.yaml").write_text(grown.stdout, encoding="utf-8")
    assert json.loads(candor("packs", "grow", str(notebook.path), "j", "--json").stdout)["id"] == "corvane-av-20"
    checked = candor("packs", "check", str(tmp_path / "grown.yaml"))
    assert "no fault" in checked.stdout
    assert "not said: DC volts, 30 V range: no limit" in checked.stdout
    assert len(json.loads(candor("packs", "check", str(tmp_path / "grown.yaml"), "--json").stdout)["missing"]) == 3
    assert "There is no job" in candor("packs", "grow", str(notebook.path), "nobody").stderr


def test_kinds_at_hand_are_listed_with_the_faults_of_ones_own(candor, tmp_path):
    (tmp_path / "wave.yaml").write_text(
        "kind: 1\nid: wave\ntitle: wave meter\nlike: something-else\nusual: [Ratio]\n", encoding="utf-8"
    )
    done = candor("packs", "kinds", str(tmp_path), "--json")
    said = json.loads(done.stdout)
    assert (done.returncode, said["faults"], len(said["kinds"])) == (0, [], 14)
    wave = next(k for k in said["kinds"] if k["id"] == "wave")
    assert wave["usual"] == ["Ratio"]
    assert wave["zones"][0]["key"] == "cord"
    (tmp_path / "bad.yaml").write_text("kind: 1\nid: bad\n", encoding="utf-8")
    done = candor("packs", "kinds", str(tmp_path))
    assert done.returncode == 1
    assert "bad.yaml" in done.stdout


def test_an_arc_is_placed_by_clicks_in_a_photo(candor, tmp_path):
    seen = face(np.random.default_rng(6))
    rows = [f"mark,{x:.1f},{y:.1f},{n}" for n, (x, y) in enumerate(seen.marks)]
    rows += [f"corner,{x:.1f},{y:.1f}," for x, y in seen.corners]
    file = tmp_path / "clicks.csv"
    file.write_text("what,x,y,number\n" + "\n".join(rows))
    told = json.loads(candor("face", str(file), "--size", "2400x1800", "--sides", "1.5 x 1", "--json").stdout)
    assert np.array(told["places"]) == pytest.approx(seen.places, abs=0.006)
    assert (told["by"], told["marks"].startswith("0@0 1@")) == (["corners"], True)
    said = candor("face", str(file), "--size", "2400x1800", "--sides", "1.5 x 1").stdout
    assert said.startswith(f"marks {told['marks']}")
    assert "straightened by the rectangle" in said
    for size, more, says in (
        ("2400", "", "how large the picture is"),
        ("2400x1800", "\naxis,1,1,\naxis,2,2,", "turns in one place"),
    ):
        file.write_text("what,x,y,number\n" + "\n".join(rows) + more)
        done = candor("face", str(file), "--size", size)
        assert (done.returncode, says in done.stderr) == (1, True)


def test_a_supply_is_calculated_from_a_file(candor, tmp_path):
    file = tmp_path / "supply.cir"
    file.write_text("V1 a 0 sin(0 300 50)\nR1 a b 100\nD1 b k drop=15\nC1 k 0 16u\nR2 k 0 10k\nI1 k 0 5m from=0.5\n")
    said = json.loads(candor("supply", str(file), "--json").stdout)
    rail = said["nodes"]["k"]
    assert set(rail) == {"mean", "min", "max", "ripple", "peak"}
    assert rail["min"] < rail["mean"] < rail["max"] < rail["peak"] < 285
    assert rail["ripple"] == pytest.approx(rail["max"] - rail["min"], abs=1e-3)
    assert (said["settled"], said["warnings"]) == (True, [])
    assert "never beyond" in candor("supply", str(file)).stdout
    file.write_text("V1 a 0 sin(0 300 50)\nR1 c d 1k\n")
    done = candor("supply", str(file))
    assert (done.returncode, "Nothing joins c, d" in done.stderr) == (1, True)
    assert "cannot be read" in candor("supply", str(tmp_path / "none")).stderr


def test_power_trace_and_parts_of_a_job_are_told(candor, tmp_path):
    write_demo(tmp_path / "n.candor").close()
    said = json.loads(candor("power", str(tmp_path / "n.candor"), "sb40236", "--json").stdout)
    assert {i["state"] for i in said["may it be powered"]} <= {"good", "does not apply"}
    assert said["state"] == "full line"
    assert {r["name"]: r["state"] for r in said["read"]}["watts"] == "in band"
    said = json.loads(candor("trace", str(tmp_path / "n.candor"), "sb40233", "--json").stdout)
    assert {n["node"]: n["state"] for n in said["nodes"]}["k2"] == "high"
    assert said["next"].startswith("second stage")
    plain = candor("trace", str(tmp_path / "n.candor"), "sb40233").stdout
    assert "resistors:" in plain
    said = json.loads(candor("parts", str(tmp_path / "n.candor"), "sb40221", "--json").stdout)["parts"]
    leaky = next(p for p in said if p["action"] == "replace" and p["reasons"][0]["finding"] == "grid.bad")
    first = leaky["reasons"][0]
    assert first["shift"] == pytest.approx(first["leak"] * first["ohms"])  # the figures are those of the sentence
    assert leaky["sentence"] in candor("parts", str(tmp_path / "n.candor"), "sb40221").stdout
    assert leaky["in its place"]["piece"]
    done = candor("power", str(tmp_path / "n.candor"), "nothing")
    assert (done.returncode, "There is no job" in done.stderr) == (1, True)


@pytest.mark.parametrize("command", [("power",), ("trace",), ("parts",), ("packs", "grow")])
def test_a_notebook_that_is_not_there_is_not_made(candor, tmp_path, command):
    done = candor(*command, str(tmp_path / "none.candor"), "job")
    assert (done.returncode, "does not exist" in done.stderr, list(tmp_path.glob("none*"))) == (2, True, [])


def test_a_job_travels_by_the_command_line_and_what_it_lacks_before_it_goes_is_told(candor, demo, tmp_path):
    path, target = tmp_path / "j.candor-job.zip", tmp_path / "own.candor"
    assert "entries" in candor("travel", str(demo.path), "sb40188", str(path)).stdout
    told = json.loads(candor("take", str(path), "--notebook", str(target), "--json").stdout)
    assert (told["job"], told["new"] > 100) == ("sb40188", True)
    assert json.loads(candor("take", str(path), "--notebook", str(target), "--json").stdout)["new"] == 0
    assert "nothing: all release checks are done" in candor("leaving", str(target), "sb40188").stdout
    items = json.loads(candor("leaving", str(demo.path), "sb40217", "--json").stdout)["before it goes"]
    assert {"item": "earth", "state": "missing"}.items() <= next(i for i in items if i["item"] == "earth").items()


def test_papers_come_by_the_command_line_or_a_sentence_does(candor, demo, tmp_path):
    target = tmp_path / "label.pdf"
    assert candor("paper", str(demo.path), "sb40188", "large-label", str(target)).returncode == 0
    assert target.read_bytes().startswith(b"%PDF")
    assert "none is signed" in candor("paper", str(demo.path), "sb40217", "label", str(target)).stderr
    assert (
        "is not a paper. Expected: label" in candor("paper", str(demo.path), "sb40188", "poster", str(target)).stderr
    )


def test_a_file_manager_opens_a_notebook_or_takes_a_travelling_job_in_first(candor, demo, tmp_path, monkeypatch):
    own, opened, zipped = tmp_path / "own.candor", [], tmp_path / "j.candor-job.zip"
    monkeypatch.setattr("candor.cli.own_notebook", lambda: own)
    monkeypatch.setattr("candor.desktop.begin.hurry", lambda: None)  # this process goes on
    monkeypatch.setattr("candor.desktop.app.start", lambda path, *_: opened.append(path) or 0)
    monkeypatch.setattr("candor.desktop.app.show_trouble", lambda words: opened.append(words))
    candor("travel", str(demo.path), "sb40188", str(zipped))
    assert "Imported" in candor("open", str(zipped)).stdout
    candor("open", str(demo.path))
    candor("open")
    assert opened == [own, demo.path, own]
    held = Notebook(own, "look")
    assert held.entries_of("sb40188")
    held.close()
    monkeypatch.setenv("GIO_LAUNCHED_DESKTOP_FILE", "candor.desktop")
    zipped.write_bytes(zipped.read_bytes().replace(b"travelling.json", b"travelling.jsom"))
    assert candor("open", str(zipped)).returncode == 1
    assert "is not a name that a travelling job has" in opened[-1]  # nobody looks at a terminal then
    entry = (ROOT / "data" / "candor.desktop").read_text()
    mime = (ROOT / "data" / "candor-mime.xml").read_text()
    assert "Exec=candor open %f" in entry
    assert all(name in mime for name in entry.partition("MimeType=")[2].partition("\n")[0].split(";") if name)


# --- hostile arguments -------------------------------------------------------------------------------------------------

OPENS_A_WINDOW = {"demo", "open", "shots"}
BUILDS = {"grammars", "compile", "compile-kinds"}  # of packs: what they are given is where they write
GIVEN = {"job": "sb40188", "which": "label", "line": "note x", "target": "out.pdf", "to": "to.candor"}


def subcommands(group=None, path=()):
    """Every subcommand with its arguments."""
    group = group or get_command(app)
    for name, command in group.commands.items():
        if hasattr(command, "commands"):
            yield from subcommands(command, (*path, name))
        elif name not in BUILDS and (path or name not in OPENS_A_WINDOW):
            yield (*path, name), [p.name for p in command.params if p.param_type_name == "argument" and p.required]


class Waits(BaseException):
    """A command did not answer."""


@pytest.fixture(scope="module")
def hostile(tmp_path_factory):
    """Files that nobody should give."""
    folder = tmp_path_factory.mktemp("hostile")
    write_demo(folder / "demo.candor").close()
    (folder / "noise").write_bytes(random.Random(1).randbytes(60_000))
    (folder / "dir").mkdir()
    os.mkfifo(folder / "pipe")
    (folder / "zeros.csv").write_bytes(b"0" * 500_000)
    (folder / "wide.csv").write_text(",".join(f"c{i}" for i in range(50_000)) + "\n" + "1," * 49_999 + "1\n")
    (folder / "deep.json").write_text("[" * 5000 + "]" * 5000)
    ladder = "\n".join(f"R{i} n{i} n{i + 1} 1k" for i in range(3000))
    (folder / "ladder.cir").write_text(f"{ladder}\nV1 n0 0 10\nR9999 n3000 0 1k\n")
    return folder


@pytest.mark.parametrize(
    ("command", "arguments"), list(subcommands()), ids=lambda x: "-".join(x) if isinstance(x, tuple) else ""
)
def test_every_subcommand_answers_whatever_it_is_given(candor, hostile, monkeypatch, command, arguments):
    """A sentence within seconds, no traceback: pipes, devices, noise, tables of 50,000 columns, no such job, nowhere to write."""
    monkeypatch.chdir(hostile)

    def slow(*_):
        raise Waits(command)  # no OSError: what reads for ever must not be said as a file that cannot be read

    signal.signal(signal.SIGALRM, slow)
    given = [
        [str(hostile / name), *(GIVEN.get(a, "x") for a in arguments[1:])]
        for name in (
            "empty",
            "noise",
            "dir",
            "pipe",
            "zeros.csv",
            "wide.csv",
            "deep.json",
            "ladder.cir",
            "none",
            "no/where",
            "demo.candor",
        )
    ]
    given += [["/dev/zero", *(GIVEN.get(a, "x") for a in arguments[1:])]]
    if len(arguments) > 1:
        demo = str(hostile / "demo.candor")
        given.append([demo, *("nojob" if a == "job" else GIVEN.get(a, "x") for a in arguments[1:])])
        given.append(
            [demo, *("/proc/no/where" if a in ("target", "to") else GIVEN.get(a, "x") for a in arguments[1:])]
        )
    try:
        for each in (
            given if arguments or command == ("packs", "check") else [[]]
        ):  # without one, all shipped are checked
            signal.alarm(20)
            done = candor(*command, *each)
            assert done.returncode in (0, 1, 2), each
            assert done.stdout or done.stderr, each
            assert "Traceback" not in done.stderr, each
    finally:
        signal.alarm(0)


@pytest.mark.parametrize("error", [NotebookError("It is damaged."), RuntimeError("no such font")])
def test_what_fails_before_there_is_a_window_is_printed_and_shown(candor, demo, monkeypatch, error):
    """Started from a terminal or an icon: nobody can be sure which of the two is looked at."""

    def fail(*_):
        raise error

    shown = []
    monkeypatch.setattr("candor.cli._window", fail)
    monkeypatch.setattr("candor.desktop.app.show_trouble", shown.append)
    monkeypatch.setenv("DISPLAY", ":7")
    monkeypatch.delenv("QT_QPA_PLATFORM", raising=False)
    done = candor("--notebook", str(demo.path))
    assert done.returncode == 1
    assert str(error) in done.stderr
    assert str(error) in shown[0]
    monkeypatch.setenv("QT_QPA_PLATFORM", "offscreen")
    candor("--notebook", str(demo.path))
    assert len(shown) == 1


def test_which_parts_to_measure_first_is_answered(candor):
    told = json.loads(candor("first", "halvergate-ev9", "--json").stdout)
    shares = [row["share"] for row in told["order"]]
    assert shares == sorted(shares, reverse=True) and sum(shares) == pytest.approx(1)
    first = told["order"][0]["part"]
    assert told["sentence"].startswith(f"To find what is off, measure these first: {first}, ")
    less = json.loads(candor("first", "halvergate-ev9", "--measured", f"{first}=1k", "--json").stdout)
    assert first not in {row["part"] for row in less["order"]}
    assert "No circuit says" in candor("first", "wexcombe-qt1").stdout


def test_what_is_wrong_is_a_finding_with_its_figures_too(candor):
    done = candor("steps", "nothing", "--json")
    told = json.loads(done.stdout)
    assert (done.returncode, told["finding"], told["value"]) == (1, "packs.is_not_a_shipped_pack_candor", "nothing")
    assert told["error"] in done.stderr and told["name"] == "nothing"
