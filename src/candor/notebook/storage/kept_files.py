"""The files that entries name, and whether each is still what was kept."""

from __future__ import annotations

import hashlib
import os
from collections.abc import Callable, Iterable, Iterator
from functools import lru_cache
from pathlib import Path
from typing import Literal

from candor.core.late_dataclass import dataclass
from candor.notebook.entries.arrive_entries import PhotoAdded
from candor.notebook.entries.body import Body
from candor.notebook.entries.calibrate_entries import WaveformKept
from candor.notebook.entries.places_entries import ChassisPhoto
from candor.notebook.entries.power_entries import MetersOff, MetersOn
from candor.notebook.entries.release_entries import CertificateIssued
from candor.notebook.entries.runs_entries import RunEnded, RunStarted
from candor.notebook.entries.soak_entries import StabilityFound
from candor.notebook.entries.sources_entries import SourceApplied
from candor.notebook.storage.files import is_plain_name
from candor.notebook.storage.folders import Folders

Ail = Literal["missing", "changed", "misnamed"]


@dataclass(frozen=True)
class KeptFile:
    """A file that an entry names.

    Attributes
    ----------
    number : int
        Of the entry.
    folder, name : str
    digest : str
        The first hexadecimal figures of the SHA-256 of its bytes, as many as are known; empty where none was written.
    must : bool
        Whether it must be there: what a source held while it was on need not.
    """

    number: int
    folder: str
    name: str
    digest: str = ""
    must: bool = True


@dataclass(frozen=True)
class FileFault:
    """What ails a kept file; `why` is what the system says of it."""

    file: KeptFile
    ail: Ail
    why: str = ""


def files_of(bodies: Iterable[tuple[int, Body]]) -> tuple[KeptFile, ...]:
    """Return the files that some entries name, each body after its entry's number, in order; what is named twice once."""
    found: dict[tuple[str, str], KeptFile] = {}
    ended: dict[str, str] = {}
    for number, body in bodies:
        if isinstance(body, RunEnded) and body.digest:
            ended[body.file] = body.digest
        for file in _named(number, body):
            known = found.get((file.folder, file.name))
            if known is None or (file.must and not known.must):
                found[file.folder, file.name] = file
    return tuple(
        KeptFile(f.number, f.folder, f.name, ended[f.name]) if f.folder == "runs" and f.name in ended else f
        for f in found.values()
    )


def _named(number: int, body: Body) -> Iterator[KeptFile]:
    if isinstance(body, PhotoAdded | ChassisPhoto):
        yield KeptFile(number, "photos", body.file, body.file.partition(".")[0])
    elif isinstance(body, WaveformKept | StabilityFound) and body.file:
        yield KeptFile(number, "waveforms", body.file, body.file.partition(".")[0])
    elif isinstance(body, CertificateIssued):
        yield KeptFile(number, "certificates", f"{body.digest}.json", body.digest)
    elif isinstance(body, RunStarted) and body.file:
        yield KeptFile(number, "runs", body.file)
    elif isinstance(body, SourceApplied) and body.file:
        yield KeptFile(number, "runs", body.file, must=False)
    elif isinstance(body, MetersOn):
        for name in body.files:
            yield KeptFile(number, "runs", name)


def final_files(bodies: Iterable[Body], said_in: Callable[[str], Body | None]) -> Iterator[tuple[str, str]]:
    """Yield folder and name of the files that are whole from some entries on; `said_in` gives the body of an entry by its id.

    A file that is still being written to, as a run's is until it ends, is none yet.
    """
    for body in bodies:
        if isinstance(body, RunEnded) and body.file:
            yield "runs", body.file
        elif isinstance(body, MetersOff) and isinstance(on := said_in(body.of), MetersOn):
            yield from (("runs", name) for name in on.files)
        yield from ((f.folder, f.name) for f in _named(0, body) if f.folder != "runs")


def file_faults(folders: Folders, files: Iterable[KeptFile]) -> Iterator[FileFault]:
    """Yield what ails files: not there, or no longer what was kept. Each is read once for as long as nothing changes it."""
    for file in files:
        if not is_plain_name(file.name):
            yield FileFault(file, "misnamed")
            continue
        path = folders.of(file.folder) / file.name
        try:
            stands = path.stat()
            same = not file.digest or _digest_of(path, stands.st_mtime_ns, stands.st_size, stands.st_ino).startswith(
                file.digest
            )
        except OSError as error:
            if file.must:
                yield FileFault(file, "missing", os.strerror(error.errno or 0))
            continue
        if not same:
            yield FileFault(file, "changed")


@lru_cache(maxsize=20_000)
def _digest_of(path: Path, *_: int) -> str:
    """Return the SHA-256 of a file as it stands: when it was written, how long it is and where it lies are the rest of the key.

    Raises
    ------
    OSError
    """
    with path.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()


def strangers(folders: Folders, files: Iterable[KeptFile]) -> Iterator[tuple[str, str]]:
    """Yield folder and name of every file beside the notebook that no entry names; what is being written is hidden."""
    named = {(file.folder, file.name) for file in files}
    for folder, path in folders.made.items():
        for name in sorted(entry.name for entry in path.iterdir()):
            if not name.startswith(".") and (folder, name) not in named:
                yield folder, name
