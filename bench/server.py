"""One notebook on a server: what a write costs beside a file's, how much four benches write together, and whether anything is lost.

The server is the tests' own, on loopback; the data of the first two parts is on the disk, every commit written through.

    python bench/server.py [ENTRIES EACH]
"""

from __future__ import annotations

import contextlib
import itertools
import os
import random
import shutil
import signal
import subprocess
import sys
import tempfile
import time
from pathlib import Path
from statistics import median

HERE = Path(__file__).resolve().parent
sys.path[:0] = [str(HERE.parent / "src"), str(HERE.parent / "tests"), str(HERE)]
from candor.notebook.entries.stay_entries import NoteWritten  # noqa: E402
from candor.notebook.notebook_errors import NotebookError  # noqa: E402
from candor.notebook.server.mirrors import make_copy  # noqa: E402
from candor.notebook.server.server_link import ServerLink  # noqa: E402
from candor.notebook.shelf import shelf  # noqa: E402
from candor.notebook.storage.rows import NewRow, PackRow  # noqa: E402
from candor.notebook.store import Notebook  # noqa: E402
from candor.packs.bundled import bundled_pack  # noqa: E402
from large_notebook import rows_of  # noqa: E402
from pgserver import Line, Server  # noqa: E402

JOBS = 5


def bench_of(url: str, folder: Path) -> Notebook:
    return Notebook(make_copy(url, folder), "")


def write_cost(server: Server, folder: Path) -> None:
    """One entry after the other, into a file and to the server, in turns."""
    held = bench_of(server.url("anna", server.notebook(anna="signer")), folder / "one")
    plain = Notebook(folder / "plain.candor", "a")
    cost: dict[str, list[float]] = {"file": [], "server": []}
    for i in range(400):
        for name, notebook in (("file", plain), ("server", held)):
            began = time.perf_counter()
            notebook.write("j", NoteWritten(text=f"{i}"))
            cost[name].append(time.perf_counter() - began)
    file, there = (1000 * median(cost[name]) for name in ("file", "server"))
    print(f"one entry: file {file:.2f} ms, server {there:.2f} ms, ratio {there / file:.2f} (aim 3)")
    for notebook in (plain, held):
        notebook.close()


def work(number: int, url: str, folder: Path, count: int) -> None:
    """Write so many entries, from the first that is not there yet; each is noted once it is acknowledged."""
    for _ in range(60):
        try:
            notebook = bench_of(url, folder)
            break
        except NotebookError:  # the server is not there just now: tried again, as one would
            time.sleep(0.5)
    mine = [
        e.body.text for j in range(JOBS) for e in notebook.entries_of(f"job{j}") if isinstance(e.body, NoteWritten)
    ]
    begun = max((int(t.split()[1]) + 1 for t in mine if t.startswith(f"{number} ")), default=0)
    since = time.time()
    with (folder / "acknowledged").open("a") as log:
        for i in range(begun, count):
            notebook.write(f"job{i % JOBS}", NoteWritten(text=f"{number} {i}"))
            log.write(f"{i}\n")
            log.flush()
    (folder / "took").write_text(f"{since} {time.time()}")
    while notebook.store.waiting:
        with contextlib.suppress(NotebookError):
            notebook.store.join()
        time.sleep(0.2)
    notebook.close()


def start(number: int, url: str, folder: Path, count: int) -> subprocess.Popen:
    folder.mkdir(exist_ok=True)
    return subprocess.Popen([sys.executable, __file__, "--work", str(number), url, str(folder), str(count)])


def together(server: Server, folder: Path, count: int, disturbed: bool) -> None:
    """Four benches at once; disturbed, they and the server are killed and links are cut while they write."""
    people = {"anna": "signer", "ben": "bench", "carla": "bench", "dora": "bench"}
    database, lines, rng = server.notebook(**people), [Line(server.port) for _ in people], random.Random(7)
    # Undisturbed there is nothing between them and the server: what carries a link that can be cut is slower than it is.
    urls = [
        server.url(who, database, line.port if disturbed else None) for who, line in zip(people, lines, strict=True)
    ]
    folders = [folder / f"{'d' if disturbed else 'q'}{n}" for n in range(4)]
    running = [start(n, urls[n], folders[n], count) for n in range(4)]
    kills = cuts = falls = 0
    while any(p.poll() is None for p in running):
        time.sleep(0.5)
        if not disturbed:
            continue
        n, what = rng.randrange(4), rng.random()
        if what < 0.3 and running[n].poll() is None:
            running[n].send_signal(signal.SIGKILL)
            running[n].wait()
            running[n], kills = start(n, urls[n], folders[n], count), kills + 1
        elif what < 0.6:
            lines[n].cut()
            time.sleep(rng.random())
            lines[n].mend()
            cuts += 1
        elif what < 0.66 and falls < 12:
            server.stop()
            server.start()
            falls += 1
        for n, process in enumerate(running):
            if process.poll() not in (
                None,
                0,
            ):  # the server was not there when it came: it is started again, as one would
                running[n] = start(n, urls[n], folders[n], count)
    spans = [tuple(map(float, (f / "took").read_text().split())) for f in folders]
    took = max(end for _, end in spans) - min(begin for begin, _ in spans)
    judge(urls[0], folders, count)
    rate = f"{4 * count / took:.0f} entries a second together (aim 200)"
    harm = f"{kills} benches and {falls} times the server killed, {cuts} links cut"
    print(f"four benches, {count} entries each: {harm if disturbed else rate}")
    for line in lines:
        line.close()


def judge(url: str, folders: list[Path], count: int) -> None:
    """Everything that was acknowledged is there once, in its order, and every chain is whole."""
    held = bench_of(url, folders[0] / "look")
    rows = sorted((e for j in range(JOBS) for e in held.entries_of(f"job{j}")), key=lambda e: e.number)
    texts = [e.body.text for e in rows if isinstance(e.body, NoteWritten)]
    lost = doubled = astray = 0
    for n, folder in enumerate(folders):
        own = [int(t.split()[1]) for t in texts if t.startswith(f"{n} ")]
        said = {int(line) for line in (folder / "acknowledged").read_text().split()}
        lost += len(said - set(own)) + len(set(range(count)) - set(own))
        doubled += len(own) - len(set(own))
        astray += sum(b < a for a, b in itertools.pairwise(own))
    broken = sum(len(held.broken_links(f"job{j}")) for j in range(JOBS))
    gaps = sum(b.number - a.number != 1 for a, b in itertools.pairwise(rows))
    print(
        f"  {len(rows)} entries: lost {lost}, doubled {doubled}, out of order {astray}, links broken {broken}, gaps {gaps}"
    )
    began = time.perf_counter()
    shelf(held, held.clock())
    print(f"  shelf of {len(rows)} entries {1000 * (time.perf_counter() - began):.0f} ms")
    held.close()


def large(server: Server, folder: Path) -> None:
    """A shop of ten years: 200,000 entries of 1,000 jobs, brought to the server, copied to a bench, its shelf shown."""
    database = server.notebook(anna="signer")
    pack = bundled_pack("tarnholm-vm6")
    link, rows = ServerLink(server.url(database=database)), [NewRow(*row) for row in rows_of(pack, pack.digest)]
    began = time.perf_counter()
    link.begin()
    link.keep_pack(PackRow(pack.digest, pack.id, pack.edition, pack.to_json()))
    for first in range(0, len(rows), 1000):
        link.append(rows[first : first + 1000])
    link.commit()
    link.close()
    brought, began = time.perf_counter() - began, time.perf_counter()
    held = bench_of(server.url("anna", database), folder / "large")
    copied, began = time.perf_counter() - began, time.perf_counter()
    lines = shelf(held, held.clock())
    shown, began = time.perf_counter() - began, time.perf_counter()
    held.write("job0", NoteWritten(text="one more"))
    wrote = time.perf_counter() - began
    held.close()
    print(
        f"{len(rows)} entries: brought to the server in {brought:.0f} s, to a bench in {copied:.0f} s; shelf of {len(lines)} jobs "
        f"{1000 * shown:.0f} ms (aim 1000); one entry more {1000 * wrote:.1f} ms"
    )


def main(count: int) -> None:
    folder = Path(tempfile.mkdtemp(prefix="candor-server-", dir=os.environ.get("TMPDIR", "/var/tmp")))
    server = Server(on_disk=True)
    try:
        write_cost(server, folder)
        large(server, folder)
        together(server, folder, max(count // 10, 100), disturbed=False)
        together(server, folder, count, disturbed=True)
    finally:
        server.close()
        shutil.rmtree(folder, ignore_errors=True)


if __name__ == "__main__":
    if sys.argv[1:2] == ["--work"]:
        work(int(sys.argv[2]), sys.argv[3], Path(sys.argv[4]), int(sys.argv[5]))
    else:
        main(int(sys.argv[1]) if len(sys.argv) > 1 else 2000)
