"""Looking a notebook over whole: its pages, every entry's digest, its packs and the files beside it. Nothing is changed."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass
from itertools import groupby
from pathlib import Path

from candor.notebook.entries.arrive import PhotoAdded
from candor.notebook.entries.body import Unreadable
from candor.notebook.entries.calibrate import WaveformKept
from candor.notebook.entries.kinds import read_body
from candor.notebook.entries.release import CertificateIssued
from candor.notebook.entries.soak import StabilityFound
from candor.notebook.errors import NotebookError
from candor.notebook.storage.chain import broken_links, say_broken
from candor.notebook.storage.files import is_plain_name
from candor.notebook.store import Notebook


@dataclass(frozen=True)
class Checked:
    """What was looked at, and a sentence for every fault."""

    entries: int
    jobs: int
    packs: int
    files: int
    faults: tuple[str, ...]


def check_notebook(path: Path) -> Checked:
    """Look a notebook over.

    Raises
    ------
    NotebookError
        Where it cannot be opened at all; its sentence says why.
    """
    if not path.exists():
        raise NotebookError(f"There is no notebook at {path}.", place=str(path))
    notebook = Notebook(path, "check")
    try:
        return _check(notebook)
    finally:
        notebook.close()


def _check(notebook: Notebook) -> Checked:
    rows = notebook.store.everything()
    faults, jobs, files = [], 0, 0
    for job, group in groupby(rows, key=lambda row: row.job):
        of_job = list(group)
        jobs += bool(job)
        broken = broken_links(of_job)
        if broken:
            faults.append(f"{f'Job {job}' if job else 'The shop'}: {say_broken(broken)}")
        for row in of_job:
            body = read_body(row.body)
            if isinstance(body, Unreadable):
                faults.append(f"Entry {row.number} cannot be read by this version of Candor ({body.why}).")
            elif isinstance(body, PhotoAdded):
                files += 1
                faults += _file_fault(
                    folder=notebook.photo_folder,
                    name=body.file,
                    digest=body.file.partition(".")[0],
                    number=row.number,
                    what="photo",
                )
            elif isinstance(body, WaveformKept | StabilityFound) and body.file:
                files += 1
                faults += _file_fault(
                    folder=notebook.waveform_folder, name=body.file, digest=body.file.partition(".")[0], number=row.number,
                    what="waveform",
                )  # fmt: skip
            elif isinstance(body, CertificateIssued):
                faults += _certificate_fault(notebook, body, row.number)
                files += 1
    kept = notebook.store.packs()
    for pack in kept:
        if hashlib.sha256(pack.body.encode()).hexdigest() != pack.digest:
            faults.append(f"The pack {pack.id} is not as it was kept: its digest does not fit.")
    return Checked(entries=len(rows), jobs=jobs, packs=len(kept), files=files, faults=tuple(faults))


def _file_fault(folder: Path, name: str, digest: str, number: int, what: str) -> list[str]:
    if not is_plain_name(name):
        return [f"Entry {number}: “{name[:60]}” is not a name of a {what}."]
    try:
        content = (folder / name).read_bytes()
    except OSError as error:
        return [f"Entry {number}: the {what} {name} cannot be read ({error.strerror})."]
    if not hashlib.sha256(content).hexdigest().startswith(digest):
        return [f"Entry {number}: the {what} {name} is not as it was kept: its digest does not fit."]
    return []


def _certificate_fault(notebook: Notebook, body: CertificateIssued, number: int) -> list[str]:
    if (
        not (notebook.certificate_folder / f"{body.digest}.json").exists()
        and not notebook.certificate_folder.exists()
    ):
        return []  # signed before signed certificates were kept as files
    return _file_fault(
        folder=notebook.certificate_folder,
        name=f"{body.digest}.json",
        digest=body.digest,
        number=number,
        what="certificate",
    )
