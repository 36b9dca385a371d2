"""Files of runs on the tester: who holds one, what it holds, and the end of runs that were cut off."""

from __future__ import annotations

import csv
import datetime as dt
import fcntl
import hashlib
import math
from collections.abc import Container, Iterable, Iterator, Sequence
from pathlib import Path
from typing import IO

from candor.core.errors import CandorError
from candor.core.late_dataclass import dataclass
from candor.core.quantities.show import trimmed
from candor.core.worded import worded
from candor.durably import make_private, private, write_durably
from candor.notebook.entries.runs_entries import Run, RunEnded, RunStarted
from candor.notebook.storage.files import is_plain_name, plain_name

MAY_BE_ON = worded("runs.its_source_may_be_on_switch")
_BEGINS_S = 5.0  # between the entry of a run and its file


@dataclass(frozen=True)
class CutOff:
    """A run that nobody is at any more.

    Attributes
    ----------
    end : RunEnded
        The entry that ends it.
    words : str
        What the restorer must know before anything is touched.
    """

    end: RunEnded
    words: str


WARNED_FOR = dt.timedelta(days=1)  # by then a charged part has leaked empty, or somebody has been at it
_NOT_SAFE = worded("runs.not_measured_safe_switch_the_source")


def left_unsafe(runs: Sequence[Run], now: dt.datetime) -> Iterator[tuple[str, str]]:
    """Yield the entry of the last run, and what must be known of it, where it was left unsafe within the last day."""
    for run in runs[-1:]:
        if run.ended is None or run.ended.body.safe or not run.ended.body.readings:
            continue
        body = run.ended.body
        if now - run.ended.at < WARNED_FOR:
            volts = body.measured_volts
            seen = (
                "nothing was read"
                if volts is None
                else worded("runs.v_at_the_last_reading", volts=trimmed(abs(volts), 3))
            )
            yield (
                run.started.id,
                worded(
                    "runs.the_run_was_left", ref=body.ref, why=body.why.rstrip("."), seen=seen, not_safe=_NOT_SAFE
                ),
            )


def run_file_name(ref: str, key: str) -> str:
    """Return the name of a run's file; any designator has one."""
    return f"{plain_name(ref)}-{key[:8]}.csv"


def hold(path: Path) -> IO[bytes]:
    """Make a run's file and hold it until it is closed or the program ends, however it ends.

    Raises
    ------
    CandorError
        Where it cannot be made.
    """
    try:
        make_private(path.parent)
        file = open(path, "ab", opener=private)  # noqa: SIM115 - held until the run is over
        try:
            fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            file.close()
            raise
    except OSError as error:
        raise CandorError(
            worded("runs.the_readings_cannot_be_kept_in", parent=path.parent, strerror=error.strerror),
            place=str(path),
        ) from None
    return file


def is_held(path: Path) -> bool:
    """Whether somebody is at a run: its file is held."""
    try:
        with path.open("rb") as file:
            fcntl.flock(file, fcntl.LOCK_SH | fcntl.LOCK_NB)
    except BlockingIOError:
        return True
    except OSError:
        return False
    return False


def cut_off(folder: Path, runs: Iterable[Run], now: dt.datetime, shared: bool = False) -> Iterator[CutOff]:
    """Find the runs without an end that nobody holds: a crash or a pulled plug ended them.

    In a `shared` notebook a run whose file is not here is another bench's, which ends it.
    """
    for run in runs:
        body = run.started.body
        if run.ended is not None or not isinstance(body, RunStarted):
            continue
        path = folder / body.file if is_plain_name(body.file) else None
        there = path is not None and path.is_file()
        if path is not None and there and is_held(path):
            continue
        if not there and (shared or 0 <= (now - run.started.at).total_seconds() < _BEGINS_S):
            continue
        count, volts = read_end(path) if path is not None else (0, None)
        why = (
            worded("runs.cut_off_readings_are_kept", count=count)
            if count
            else worded("runs.cut_off_before_a_reading_was")
        )
        seen = "nothing was read" if volts is None else worded("runs.last_seen_at_v", volts=trimmed(volts, 3))
        digest = digest_of_run(folder, body.file)
        end = RunEnded(
            run=run.started.id, ref=body.ref, why=why, measured_volts=volts, readings=count, simulated=body.simulated,
            file=body.file if digest else "", digest=digest,
        )  # fmt: skip
        yield CutOff(end, worded("runs.the_run_on_was", ref=body.ref, why=why, seen=seen, may_be_on=MAY_BE_ON))


@dataclass(frozen=True)
class ElsewhereRun:
    """A run that another window is at: its part, and the volts it last read; None before it has, or at another bench."""

    ref: str
    volts: float | None
    bench: bool = False

    @property
    def words(self) -> str:
        """What must be known here."""
        if self.bench:
            return worded("runs.a_run_is_on_at_another_bench", ref=self.ref)
        stands = (
            "no reading yet"
            if self.volts is None
            else worded("runs.v_at_its_last_reading", volts=trimmed(abs(self.volts), 3))
        )
        return worded("runs.a_run_on_is_on_in", ref=self.ref, stands=stands)


def elsewhere(folder: Path, runs: Iterable[Run], held: Container[str] = ()) -> Iterator[ElsewhereRun]:
    """Yield the runs without an end that some other window holds, or another bench, which `held` tells by their files.

    Those of this window are left out by who asks.
    """
    for run in runs:
        body = run.started.body
        if run.ended is None and is_plain_name(body.file) and is_held(folder / body.file):
            yield ElsewhereRun(body.ref, last_volts(folder / body.file))
        elif run.ended is None and body.file in held:
            yield ElsewhereRun(body.ref, None, bench=True)


def last_volts(path: Path) -> float | None:
    """Return the volts of the last whole line of a run's file, read from its end; None where there is none."""
    try:
        with path.open("rb") as file:
            file.seek(max(path.stat().st_size - 400, 0))
            lines = file.read().decode("ascii", "replace").split("\n")[:-1]
    except OSError:
        return None
    for line in reversed(lines):
        cells = line.split(",")
        try:
            return float(cells[1]) if len(cells) == 4 else None
        except ValueError:
            continue
    return None


def read_end(path: Path) -> tuple[int, float | None]:
    """Return how many readings a run's file holds and the volts of the last one, None where there is none."""
    if not path.is_file():
        return 0, None
    count, volts = 0, None
    with path.open(encoding="ascii", errors="replace", newline="") as file:
        for row in csv.reader(line.replace("\0", "") for line in file):
            try:
                read = [float(cell) for cell in row]
            except ValueError:
                continue  # the heading
            if len(read) == 4 and math.isfinite(read[1]):  # not a line cut short
                volts = read[1]
                count += 1
    return count, volts


def digest_of_run(folder: Path, name: str) -> str:
    """Return the SHA-256 of a run's file, empty where it cannot be read."""
    try:
        return hashlib.sha256((folder / name).read_bytes()).hexdigest() if is_plain_name(name) else ""
    except OSError:
        return ""


def export_run(folder: Path, run: RunStarted, target: Path) -> None:
    """Copy the readings of a run to where they are wanted; what stood there stands until the copy is whole.

    Raises
    ------
    CandorError
        Where they are no longer there, or cannot be written.
    """
    try:
        if not is_plain_name(run.file):
            raise FileNotFoundError(2, worded("runs.no_file_of_a_run_has"))
        write_durably(target, (folder / run.file).read_bytes())
    except OSError as error:
        raise CandorError(
            worded("runs.the_readings_of_could_not_be", ref=run.ref, target=target, strerror=error.strerror)
        ) from None
