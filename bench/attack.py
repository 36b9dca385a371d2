"""The attack: what is broken on purpose, how often that was said, and whether anything was lost or taken for sound.

Not times but counts. Each row breaks something so many times and looks at what becomes of it: *said* is a sentence or a fault
listed, *harmless* is where nothing differs from what was written, *missed* is where something differs and nothing says so,
*thrown* is an error that is no sentence. The last two ought to be 0. ``python bench/attack.py 0.01`` does a hundredth of every
row; with names after it, of those alone.
"""

from __future__ import annotations

import os
import random
import shutil
import signal
import string
import subprocess
import sys
import tempfile
import time
from collections import Counter
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
sys.path.insert(0, str(Path(__file__).parent))
sys.path.insert(0, str(Path(__file__).parents[1] / "tests"))

import kills as kill
from candor.core.errors import CandorError
from candor.core.jot import JotContext, understand
from candor.core.jot.rows import VERBS
from candor.demo.demo_notebook import write_demo
from candor.links.loopback import LoopbackInstrument
from candor.links.scpi import ScpiLink
from candor.notebook.exchange.travel import read_travelling
from candor.notebook.exchange.travel_out import travelling
from candor.notebook.shelf import shelf
from candor.notebook.storage.checking import check_notebook
from candor.notebook.storage.looking import look_at
from candor.notebook.store import Notebook
from candor.writing import written

NOTEBOOK_FLIPS, ZIPS, JOTS, DEEDS, INSTRUMENTS, KILLS, SIGNALS = 682, 6221, 220_000, 11_304, 60, 1768, 200
HANDS, BATCH = 20_000, 1000  # deeds of random hands; so many in one window
Outcome = str  # "said", "harmless", "missed", "thrown"
WORDS = [word for verb in VERBS for example in verb.examples for word in example.split()]


@dataclass(frozen=True)
class Attacked:
    """A row of the table."""

    what: str
    tried: int
    found: Counter[Outcome]
    worst: str = ""

    @property
    def is_good(self) -> bool:
        """Whether nothing was missed and nothing thrown."""
        return not self.found["missed"] and not self.found["thrown"]


def _count(what: str, outcomes: Iterator[tuple[Outcome, str]]) -> Attacked:
    found, worst, tried = Counter[Outcome](), "", 0
    for outcome, words in outcomes:
        tried += 1
        found[outcome] += 1
        if outcome in ("missed", "thrown") and not worst:
            worst = words
    return Attacked(what, tried, found, worst)


def _outcome(attempt: Callable[[], Outcome]) -> tuple[Outcome, str]:
    try:
        return attempt(), ""
    except CandorError as error:
        return ("said", "") if str(error) else ("thrown", "an empty sentence")
    except Exception as error:  # noqa: BLE001 - this is what is counted
        return "thrown", f"{type(error).__name__}: {error}"


def notebooks(count: int) -> Attacked:
    """Flip a bit of a notebook's file: it is refused or the fault is listed, the window still opens, or nothing differs."""
    rng = random.Random(1)
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "demo.candor"
        write_demo(path).close()
        whole, rows, packs = path.read_bytes(), look_at(path).rows, look_at(path).packs

        def attempt() -> Outcome:
            found = check_notebook(path)
            opened = Notebook(path, "attack")
            try:
                for line in shelf(opened, opened.clock()):
                    opened.entries_of(line.job)
            finally:
                opened.close()
            look = look_at(path)
            if (look.rows, look.packs) == (rows, packs):
                return "harmless"
            return "said" if found.faults else "missed"

        def each() -> Iterator[tuple[Outcome, str]]:
            for place in rng.sample(range(len(whole)), count):
                path.write_bytes(whole[:place] + bytes([whole[place] ^ 1 << rng.randrange(8)]) + whole[place + 1 :])
                for beside in path.parent.glob("*journal"):
                    beside.unlink()
                outcome, words = _outcome(attempt)
                yield outcome, f"byte {place}: {words}"

        return _count("bits of a notebook flipped", each())


def zips(count: int) -> Attacked:
    """Flip a bit of a travelling job, or cut it short: refused with a sentence, or its entries are those that were sent."""
    rng = random.Random(2)
    with tempfile.TemporaryDirectory() as folder:
        notebook = write_demo(Path(folder) / "demo.candor")
        path = Path(folder) / "j.zip"
        whole = travelling(notebook, "sb40188")
        notebook.close()
        path.write_bytes(whole)
        sent = read_travelling(path)

        def attempt() -> Outcome:
            found = read_travelling(path)
            same = (found.rows, found.shop_rows, found.packs, found.files) == (
                sent.rows,
                sent.shop_rows,
                sent.packs,
                sent.files,
            )
            return "harmless" if same else "missed"

        def each() -> Iterator[tuple[Outcome, str]]:
            for _ in range(count):
                place = rng.randrange(len(whole))
                flipped = whole[:place] + bytes([whole[place] ^ 1 << rng.randrange(8)]) + whole[place + 1 :]
                path.write_bytes(whole[:place] if rng.random() < 0.2 else flipped)
                outcome, words = _outcome(attempt)
                yield outcome, f"byte {place}: {words}"

        return _count("zips flipped and cut", each())


def jots(count: int) -> Attacked:
    """Type lines of words of the bench and of noise: something is understood, asked or noted, within 50 ms."""
    rng, context = random.Random(3), JotContext()

    def line() -> str:
        words = rng.choices(WORDS, k=rng.randrange(1, 9))
        noise = "".join(rng.choices(string.printable + "µΩ±×−½\u202e\x00", k=rng.randrange(0, 12)))
        words.insert(rng.randrange(len(words) + 1), noise)
        return " ".join(words)

    def typed(text: str) -> tuple[Outcome, str, bool]:
        begun = time.thread_time()  # its own work alone: a busy machine may stop for as long as it likes
        outcome, words = _outcome(lambda: "harmless" if understand(text, context) else "missed")
        return outcome, words, time.thread_time() - begun > 0.05

    def each() -> Iterator[tuple[Outcome, str]]:
        for _ in range(count):
            text = line()
            outcome, words, is_slow = typed(text)
            is_slow = (
                is_slow and typed(text)[2]
            )  # the parser was read in, or other work's garbage fell due: once, not twice
            yield ("thrown" if is_slow else outcome), f"“{text}”: {'slow' if is_slow else words}"

    return _count("lines typed", each())


def deeds(count: int) -> Attacked:
    """Write lines of the bench, right and wrong ones, in the jobs of the demo: refused with a sentence, or written and sound."""
    rng = random.Random(4)
    examples = [example for verb in VERBS for example in verb.examples]
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "demo.candor"
        notebook = write_demo(path)
        jobs = sorted({e.job for e in notebook.entries_of_kinds(("job_opened",))})
        notebook.close()

        def attempt() -> Outcome:
            words = rng.choice(examples).split()
            if rng.random() < 0.4:
                words[rng.randrange(len(words))] = rng.choice(WORDS)
            said = written(
                path, rng.choice(jobs), " ".join(words), without=rng.random() < 0.5, is_sure=rng.random() < 0.5
            )
            return "harmless" if said["written"] else "missed"

        def each() -> Iterator[tuple[Outcome, str]]:
            for number in range(count):
                yield _outcome(attempt)
                if number % 200 == 199 or number == count - 1:
                    faults = check_notebook(path).faults
                    yield ("missed" if faults else "harmless"), f"after {number + 1}: {faults[:1]}"

        return _count("deeds at random, and the notebook after them", each())


def instruments(count: int) -> Attacked:
    """Ask instruments that answer with noise, nothing, too much, or go away: a reading or a sentence, in bounded time."""
    rng = random.Random(5)

    def answer(_: str) -> str | None:
        kind = rng.randrange(8)
        noise = "".join(rng.choices(string.ascii_letters + string.digits + ",+-.eE \x07", k=rng.randrange(0, 40)))
        return (None, noise, "1e999", "nan", "x" * 70_000, "1.5", "", "1.5\n2.5")[kind]

    def attempt() -> Outcome:
        with LoopbackInstrument(answer) as made:
            resource = made.resource
            if rng.random() < 0.2:
                made.close()
            link = ScpiLink(resource, "meter", timeout_s=0.2)
            try:
                link.ask("READ?")
            finally:
                link.close()
        return "harmless"

    def each() -> Iterator[tuple[Outcome, str]]:
        for _ in range(count):
            begun = time.perf_counter()
            outcome, words = _outcome(attempt)
            yield ("thrown" if time.perf_counter() - begun > 20 else outcome), words or "slow"

    return _count("bad instruments asked", each())


def kills(count: int) -> Attacked:
    """Kill a writer without warning, two thirds while it writes, the rest while the notebook is made: nothing shown is lost."""
    rng = random.Random(6)
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "one.candor"
        Notebook(path, "first").close()

        def each() -> Iterator[tuple[Outcome, str]]:
            for number in range(count):
                born = number % 3 == 2
                at = Path(folder) / f"new{number}.candor" if born else path
                said = kill.killed(at, rng.uniform(0.0 if born else 0.25, 0.6))
                _, refused, missing = kill.look(at, said)
                yield ("missed" if refused or missing else "harmless"), f"kill {number}: {missing} entries missing"

        return _count("kills", each())


CLOSING = """
import random, sys
from pathlib import Path
from PySide6.QtCore import QTimer
from candor.desktop import app as starting
from candor.demo.parts_jobs import COOKING
rng, before = random.Random(int(sys.argv[2])), starting.make_window
def make(notebook, preferences, **more):
    window, theme = before(notebook, preferences, **more)
    jobs = [line.job for line in window.bench.shelf.lines]
    rooms = [room for room in window.rooms._places if room != "from file"]
    def walk():
        if window.isVisible():
            deed = rng.random()
            if deed < 0.25:
                window.shelf.job.emit(rng.choice(jobs))
            elif deed < 0.65:
                window.go_to_stop(rng.choice(list(window.stops._places)))
            elif deed < 0.95:
                window.enter_room(rng.choice(rooms))
            else:
                window.bench.keeper.back_up()
    timer = QTimer(window)
    timer.timeout.connect(walk)
    timer.start(15)
    print("up", flush=True)
    return window, theme
starting.make_window = make
sys.exit(starting.start(Path(sys.argv[1]), "w", COOKING if rng.random() < 0.5 else None))
"""


def signals(count: int) -> Attacked:
    """Ask a window to end by a signal while somebody walks through all of it: it closes orderly, and its log stays empty."""
    rng = random.Random(7)
    with tempfile.TemporaryDirectory() as folder:
        first = Path(folder) / "demo.candor"
        write_demo(first).close()

        def close(number: int) -> tuple[Outcome, str]:
            own = Path(folder) / f"n{number}"
            own.mkdir()
            for entry in Path(folder).glob("demo*"):
                (shutil.copytree if entry.is_dir() else shutil.copyfile)(entry, own / entry.name)
            command = [sys.executable, "-c", CLOSING, str(own / "demo.candor"), str(number)]
            running = subprocess.Popen(
                command, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True, env=os.environ
            )
            assert running.stdout is not None
            running.stdout.readline()
            time.sleep(rng.uniform(0.2, 2.0))
            running.send_signal(rng.choice((signal.SIGTERM, signal.SIGINT, signal.SIGHUP)))
            try:
                _, said = running.communicate(timeout=40)
            except subprocess.TimeoutExpired:
                running.kill()
                running.communicate()
                return "thrown", "it does not end"
            log = own / "demo log.txt"
            lines = log.read_text(encoding="utf-8").splitlines() if log.exists() else []
            kept = "\n".join(
                line for line in lines if "the window stood still for" not in line
            )  # a busy machine is no fault
            sound = not running.returncode and not kept and "Error" not in said
            shutil.rmtree(own)
            return ("harmless", "") if sound else ("thrown", (kept or said)[-300:])

        return _count("windows closed by a signal", (close(number) for number in range(count)))


def hands(count: int) -> Attacked:
    """Let hands at random click and type through the window, on the demo and on an empty notebook: nothing ends in a traceback."""
    with tempfile.TemporaryDirectory() as folder:
        first = Path(folder) / "demo.candor"
        write_demo(first).close()

        def work(number: int, deeds: int) -> tuple[Outcome, str]:
            own = Path(folder) / f"n{number}"
            own.mkdir()
            for entry in Path(folder).glob("demo*") if number % 2 == 0 else ():
                (shutil.copytree if entry.is_dir() else shutil.copyfile)(entry, own / entry.name)
            command = [
                sys.executable,
                str(Path(__file__).with_name("random_hands.py")),
                str(own / "demo.candor"),
                str(number),
            ]
            ran = subprocess.run(
                [*command, str(deeds)], capture_output=True, text=True, env=os.environ, timeout=600, check=False
            )
            shutil.rmtree(own)
            if ran.returncode or "Traceback" in ran.stdout + ran.stderr:
                return "thrown", (ran.stdout + ran.stderr)[-1500:]
            return "harmless", ""

        batches = [min(BATCH, count - begun) for begun in range(0, count, BATCH)]
        return _count("random hands in the window, by the batch", (work(n, size) for n, size in enumerate(batches)))


ATTACKS: tuple[tuple[Callable[[int], Attacked], int], ...] = (
    (notebooks, NOTEBOOK_FLIPS), (zips, ZIPS), (jots, JOTS), (deeds, DEEDS), (instruments, INSTRUMENTS), (kills, KILLS),
    (signals, SIGNALS), (hands, HANDS),
)  # fmt: skip


def main() -> None:
    """Print the table: all of it, or a share of every number."""
    share = float(sys.argv[1]) if len(sys.argv) > 1 else 1.0
    print(f"{'what':46}{'tried':>8}{'said':>10}{'harmless':>10}{'missed':>10}{'thrown':>10}{'s':>7}")
    bad = False
    for attack, count in ATTACKS:
        if len(sys.argv) > 2 and attack.__name__ not in sys.argv[2:]:
            continue
        begun = time.monotonic()
        row = attack(max(round(count * share), 1))
        took, found = time.monotonic() - begun, row.found
        counts = "".join(f"{found[outcome]:10}" for outcome in ("said", "harmless", "missed", "thrown"))
        print(f"{row.what:46}{row.tried:8}{counts}{took:7.0f}", flush=True)
        if not row.is_good:
            bad = True
            print(f"  {row.worst}")
    raise SystemExit(bad)


if __name__ == "__main__":
    main()
