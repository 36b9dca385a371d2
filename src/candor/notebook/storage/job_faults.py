"""What one job stands on that is no longer what was kept: its pack, its photos, samples, run files and certificates."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Iterator

from candor.notebook.entries.body import Body
from candor.notebook.entries.stay_entries import FilesGone, JobOpened, PackTaken
from candor.notebook.storage.fault import Fault
from candor.notebook.storage.folders import Folders
from candor.notebook.storage.kept_files import KeptFile, file_faults, files_of
from candor.notebook.storage.rows import PackRow, is_as_kept

_DIGEST = re.compile(r"[0-9a-f]{64}")


def pack_faults(
    job: str, bodies: Iterable[tuple[int, Body]], pack_of: Callable[[str], PackRow | None]
) -> Iterator[Fault]:
    """Yield the packs of a job that are not there, or are no longer what its entries name by their digest."""
    asked = {
        b.pack_digest: n
        for n, b in bodies
        if isinstance(b, JobOpened | PackTaken) and _DIGEST.fullmatch(b.pack_digest)
    }
    for digest, number in asked.items():
        pack = pack_of(digest)
        if pack is None:
            yield Fault(kind="pack missing", job=job, numbers=(number,), what="pack", name=digest[:12])
        elif not is_as_kept(pack) or pack.digest != digest:
            yield Fault(kind="pack changed", job=job, numbers=(number,), what="pack", name=pack.id)


def faults_of_files(folders: Folders, files: Iterable[KeptFile], job_of: Callable[[int], str]) -> Iterator[Fault]:
    """Yield what ails kept files."""
    for found in file_faults(folders, files):
        number = found.file.number
        yield Fault(
            kind=found.ail, job=job_of(number), numbers=(number,), what=found.file.folder, name=found.file.name,
            why=found.why,
        )  # fmt: skip


def job_file_faults(job: str, bodies: Iterable[tuple[int, Body]], folders: Folders) -> tuple[Fault, ...]:
    """Return what ails the files of a job, those left aside that it was said to go on without."""
    said = tuple(bodies)
    without = {file for _, body in said if isinstance(body, FilesGone) for file in body.files}
    return tuple(f for f in faults_of_files(folders, files_of(said), lambda _: job) if f.file not in without)
