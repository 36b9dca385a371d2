"""A notebook of 200 000 entries in 1 000 jobs, half of them without a pack: its shelf, and one job of 2 000 entries."""

from __future__ import annotations

import json
import sqlite3
import statistics
import tempfile
import uuid
from pathlib import Path

from candor.notebook.entries.calibrate_entries import ReadingTaken
from candor.notebook.entries.stay_entries import JobOpened
from candor.notebook.entries.timers_entries import TimerStarted
from candor.notebook.shelf import shelf
from candor.notebook.store import Notebook, utc_now
from candor.notebook.work.job import fold
from candor.packs.bundled import bundled_pack
from candor.packs.model import Pack
from candor.packs.procedure import procedure
from timing import report_limit, seconds

JOBS, ENTRIES, LARGE = 1000, 200_000, 2000


def fill(path: Path) -> None:
    """Write the entries straight into the table, as the store would, but in one transaction."""
    notebook = Notebook(path, "bench")
    pack = bundled_pack("tarnholm-vm6")  # format 1, as every notebook was before there were other kinds of reading
    digest = notebook.keep_pack(pack)
    notebook.close()
    with sqlite3.connect(path) as raw:
        raw.executemany(
            "insert into entries (id, job, kind, at, who, body) values (?,?,?,?,?,?)", rows_of(pack, digest)
        )
    raw.close()


def rows_of(pack: Pack, digest: str) -> list[tuple[str, str, str, str, str, str]]:
    """Return the entries, as rows without numbers and links."""
    points = [s for s in procedure(pack) if s.kind == "point"]
    now = utc_now().isoformat(timespec="milliseconds")

    def row(job: str, body: object) -> tuple:
        return (uuid.uuid4().hex, job, body.kind, now, "bench", body.model_dump_json())

    rows = []
    per_job = (ENTRIES - LARGE) // (JOBS - 1)
    for number in range(JOBS):
        job = f"job{number}"
        count = LARGE if number == 0 else per_job
        known = {"instrument_kind": "something-else"} if number % 2 else {"pack_digest": digest}
        opened = JobOpened(maker="Tarnholm", type="VM-6", serial=str(number), **known)
        rows += [row(job, opened), row(job, TimerStarted(step="warm-up", label="Warm-up", seconds=1800))]
        for index in range(count - 2):
            step = points[index % len(points)]
            reading = ReadingTaken(
                step=step.key,
                phase=step.phase,
                point=step.point.key,
                indicated=step.point.nominal,
                reference=step.point.nominal,
            )
            rows.append(row(job, reading))
    return rows


def main() -> None:
    """Time both, each beside plain SQLite and JSON reading the same rows."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "large.candor"
        fill(path)
        raw = sqlite3.connect(path)

        def plain(query: str) -> None:
            for (body,) in raw.execute(query):
                json.loads(body)

        def open_shelf() -> None:
            notebook = Notebook(path, "bench")
            assert len(shelf(notebook, utc_now())) == JOBS
            notebook.close()

        notebook = Notebook(path, "bench")

        def open_job() -> None:
            assert len(fold("job0", notebook.entries_of("job0")).calibrate.readings) == LARGE - 2

        open_shelf(), open_job()
        shelf_s = statistics.median(seconds(open_shelf) for _ in range(7))
        plain_shelf = statistics.median(
            seconds(lambda: plain("select body from entries where kind in ('job_opened', 'timer') order by number"))
            for _ in range(7)
        )
        job_s = statistics.median(seconds(open_job) for _ in range(15))
        plain_job = statistics.median(
            seconds(lambda: plain("select body from entries where job = 'job0' order by number")) for _ in range(15)
        )
        notebook.close()
        raw.close()
    report_limit(
        "Opening and shelf, 200 000 entries in 1 000 jobs",
        shelf_s,
        1.0,
        plain_shelf,
        "plain SQLite and JSON, its rows",
    )
    report_limit("One job of 2 000 entries", job_s, 0.1, plain_job, "plain SQLite and JSON, its rows")


if __name__ == "__main__":
    main()
