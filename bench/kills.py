"""A notebook killed without warning, 300 times while it writes and 100 while it is made: how often it opens, and what is lost.

Not a time but a count: both ought to be 0. A writer of its own process prints every entry after it was written; it is killed at a
random moment, and the notebook is opened as a window would open it.
"""

from __future__ import annotations

import os
import random
import signal
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from candor.notebook.notebook_errors import NotebookError
from candor.notebook.store import Notebook

KILLS, BIRTHS = 300, 100
WRITER = """
import sys
from pathlib import Path
from candor.notebook.entries.stay_entries import NoteWritten
from candor.notebook.store import Notebook
print("up", flush=True)
notebook = Notebook(Path(sys.argv[1]), "writer")
while True:
    entry = notebook.write("job", NoteWritten(text="x" * 3000))
    print(entry.number, flush=True)
"""


def killed(path: Path, after_s: float) -> int:
    """Let a writer write and kill it; return the number of the last entry it said was written."""
    process = subprocess.Popen(
        [sys.executable, "-c", WRITER, str(path)], stdout=subprocess.PIPE, text=True, env=os.environ
    )
    assert process.stdout is not None
    process.stdout.readline()
    time.sleep(after_s)
    process.send_signal(signal.SIGKILL)
    said = [int(line) for line in process.stdout.read().split("\n") if line.strip().isdigit()]
    process.wait()
    process.stdout.close()
    return said[-1] if said else 0


def look(path: Path, said: int) -> tuple[int, int, int]:
    """Return whether it had a hot journal, whether it was refused, and how many entries that were said are missing."""
    hot = int(Path(f"{path}-journal").exists())
    try:
        notebook = Notebook(path, "after")
    except NotebookError as error:
        print(error)
        return hot, 1, 0
    missing = max(said - max((e.number for e in notebook.entries_of("job")), default=0), 0) + len(
        notebook.broken_links("job")
    )
    notebook.close()
    return hot, 0, missing


def main() -> None:
    """Kill, open, count."""
    chance = random.Random(7)
    with tempfile.TemporaryDirectory() as folder:
        path, totals = Path(folder) / "one.candor", [0, 0, 0]
        Notebook(path, "first").close()
        for _ in range(KILLS):
            totals = [a + b for a, b in zip(totals, look(path, killed(path, chance.uniform(0.25, 0.6))), strict=True)]
        print(
            f"{KILLS} kills while it writes: {totals[0]} left a hot journal, {totals[1]} refused, {totals[2]} entries missing"
        )
        born = [0, 0, 0]
        for number in range(BIRTHS):
            new = Path(folder) / f"new{number}.candor"
            born = [a + b for a, b in zip(born, look(new, killed(new, chance.uniform(0.0, 0.6))), strict=True)]
        print(f"{BIRTHS} kills while it is made: {born[1]} refused, {born[2]} entries missing")


if __name__ == "__main__":
    main()
