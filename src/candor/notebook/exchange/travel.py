"""The travelling job: what the zip holds, and how it is taken into another notebook; how it is made: `travel_out.py`."""

from __future__ import annotations

import contextlib
import datetime as dt
import hashlib
import json
import lzma
import re
import stat
import zipfile
import zlib
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from pathlib import Path

from pydantic import BaseModel, ConfigDict, ValidationError

from candor.core.errors import CandorError
from candor.durably import make_private, replacing
from candor.notebook.entries.body import Unreadable
from candor.notebook.entries.entry import Draft
from candor.notebook.entries.kinds_entries import BODIES
from candor.notebook.entries.standards_entries import StandardsCame
from candor.notebook.entries.stay_entries import CameIn
from candor.notebook.storage.bodies import body_of
from candor.notebook.storage.chain import broken_links, say_broken
from candor.notebook.storage.files import is_plain_name
from candor.notebook.storage.rows import NewRow, PackRow, Row, is_as_kept
from candor.notebook.store import Notebook
from candor.packs.model import Pack

VERSION = 1
ENDING = ".candor-job.zip"
SAYS, ENTRIES, READINGS = "travelling.json", "entries.jsonl", "readings.csv"
LARGEST = 1_000_000_000  # bytes of all that is in it
MOST_FILES = 20_000
MOST_PACKED = 200  # times: a table of readings comes to some twenty
LARGEST_TEXT = 200_000_000  # bytes of all entries, or of the readings
SMALL = 1_000_000  # bytes below which the ratio says nothing
FOLDERS = ("photos", "waveforms", "certificates", "runs", "packs", "papers")
BY_DIGEST = ("photos", "waveforms", "certificates", "packs")
OF_THE_SHOP = ("standard", "chain", "standard_withdrawn")
_ID = re.compile(r"[0-9a-zA-Z_-]{1,64}")


class TravelError(CandorError, ValueError):
    """A zip that is not a travelling job, or one that does not fit this notebook; nothing was written."""


class Says(BaseModel):
    """The first file of it: what it is."""

    model_config = ConfigDict(frozen=True)
    format: str
    version: int
    job: str
    shop: str = ""
    name: str = ""
    made: str = ""
    head: str = ""
    missing: tuple[str, ...] = ()


class Line(BaseModel):
    """An entry as it travels: as it lay in its table."""

    model_config = ConfigDict(frozen=True)
    number: int
    id: str
    job: str
    kind: str
    at: str
    who: str
    body: str
    chain: str


@dataclass(frozen=True)
class Travelling:
    """What a travelling job holds: its entries, its packs as bytes by their digest, and the SHA-256 of its files by folder and
    name, which stay in the zip at `path` until they are taken in."""

    path: Path
    says: Says
    rows: tuple[Row, ...]
    shop_rows: tuple[Row, ...]
    packs: Mapping[str, bytes]
    files: Mapping[tuple[str, str], str]


@dataclass(frozen=True)
class Taken:
    """What was taken in: entries that are new here, and that were here already."""

    job: str
    new: int
    known: int
    files: int
    sentence: str


def folder_of(notebook: Notebook, folder: str) -> Path:
    """Return where files of a kind lie beside a notebook."""
    return {
        "photos": notebook.photo_folder, "waveforms": notebook.waveform_folder,
        "certificates": notebook.certificate_folder, "runs": notebook.run_folder,
    }[folder]  # fmt: skip


# --- in -----------------------------------------------------------------------------------------------


def read_travelling(path: Path) -> Travelling:
    """Read a travelling job, every fault found before anything is written.

    Raises
    ------
    TravelError
        Where it is none, of a newer version, larger than any job, with names that lead elsewhere, or not as it was written.
    """
    with _opened(path) as packed:
        infos = _looked_over(packed, path.name)
        held = {i.filename: packed.read(i) for i in infos if "/" not in i.filename}
        digests = {i.filename: _digest(packed, i) for i in infos if "/" in i.filename}
        packs = {i.filename: packed.read(i) for i in infos if i.filename.startswith("packs/")}
    says = _says(held, path.name)
    rows, shop_rows = _rows(held, says, path.name)
    files = {}
    for name, digest in digests.items():
        folder, _, own = name.partition("/")
        said = own.partition(".")[0]
        # Half a digest at least: a name of one letter would fit one content in sixteen.
        if folder in BY_DIGEST and (len(said) < 32 or not digest.startswith(said)):
            raise TravelError(
                f"{path.name}: {name} is not as it was kept, its digest does not fit. Nothing was imported."
            )
        if own and folder not in ("papers", "packs"):
            files[folder, own] = digest
    by_digest = {name.partition("/")[2].partition(".")[0]: content for name, content in packs.items()}
    return Travelling(path=path, says=says, rows=rows, shop_rows=shop_rows, packs=by_digest, files=files)


@contextlib.contextmanager
def _opened(path: Path) -> Iterator[zipfile.ZipFile]:
    if path.exists() and not path.is_file():
        raise TravelError(f"{path} is no file; a travelling job was expected.", value=str(path))
    try:
        with zipfile.ZipFile(path) as packed:
            yield packed
    except TravelError:
        raise
    except (
        OSError,
        zipfile.BadZipFile,
        NotImplementedError,
        RuntimeError,
        EOFError,
        zlib.error,
        lzma.LZMAError,
    ) as error:
        why = getattr(error, "strerror", None) or str(error) or type(error).__name__
        raise TravelError(f"{path.name} cannot be read as a zip ({why}); a travelling job was expected.") from None


def _digest(packed: zipfile.ZipFile, info: zipfile.ZipInfo) -> str:
    """Return the SHA-256 of a file in a zip, read piece by piece."""
    with packed.open(info) as file:
        so_far = hashlib.sha256()
        while piece := file.read(1 << 20):
            so_far.update(piece)
        return so_far.hexdigest()


def _looked_over(packed: zipfile.ZipFile, zip_name: str) -> list[zipfile.ZipInfo]:
    """Return what is in it, by its names and sizes alone: nothing of it is read yet."""
    infos = packed.infolist()
    if len(infos) > MOST_FILES:
        raise TravelError(
            f"{zip_name} holds {len(infos)} files; a job has {MOST_FILES} at most. Nothing was imported."
        )
    whole, packed_whole = sum(i.file_size for i in infos), sum(i.compress_size for i in infos)
    if whole > LARGEST:
        raise TravelError(f"{zip_name} unpacks to more than {LARGEST // 1_000_000} MB. Nothing was imported.")
    if whole > SMALL and whole > MOST_PACKED * max(packed_whole, 1):
        raise TravelError(f"{zip_name} unpacks to more than {MOST_PACKED} times its size. Nothing was imported.")
    seen: set[str] = set()
    for info in infos:
        folder, _, own = info.filename.partition("/")
        plain = info.filename in (SAYS, ENTRIES, READINGS) or (folder in FOLDERS and is_plain_name(own))
        if not plain or stat.S_ISLNK(info.external_attr >> 16) or info.filename in seen:
            raise TravelError(
                f"{zip_name}: “{info.filename[:80]}” is not a name that a travelling job has. Nothing was imported.",
                value=info.filename, expected=f"files in {', '.join(FOLDERS)}",
            )  # fmt: skip
        if info.file_size > SMALL and info.file_size > MOST_PACKED * max(info.compress_size, 1):
            raise TravelError(
                f"{zip_name}: “{info.filename}” unpacks to more than {MOST_PACKED} times its size. Nothing was imported."
            )
        if "/" not in info.filename and info.file_size > LARGEST_TEXT:
            raise TravelError(
                f"{zip_name}: “{info.filename}” is larger than {LARGEST_TEXT // 1_000_000} MB. Nothing was imported."
            )
        seen.add(info.filename)
    return infos


def _says(held: Mapping[str, bytes], zip_name: str) -> Says:
    try:
        says = Says.model_validate_json(held[SAYS])
    except (KeyError, ValidationError):
        raise TravelError(
            f"{zip_name} is not a travelling job: it has no {SAYS} that says so.", expected=SAYS
        ) from None
    if says.format != "candor travelling job":
        raise TravelError(f"{zip_name} is not a travelling job but “{says.format[:40]}”.", value=says.format)
    if says.version > VERSION:
        raise TravelError(
            f"{zip_name} was made by a newer Candor (format {says.version}, this one reads {VERSION}). Nothing was imported."
        )
    if not _ID.fullmatch(says.job):
        raise TravelError(f"{zip_name}: “{says.job[:40]}” is not a name of a job.", value=says.job)
    return says


def _rows(held: Mapping[str, bytes], says: Says, zip_name: str) -> tuple[tuple[Row, ...], tuple[Row, ...]]:
    rows: list[Row] = []
    for number, text in enumerate(held.get(ENTRIES, b"").decode("utf-8", "replace").splitlines(), 1):
        try:
            line = Line.model_validate_json(text)
            kind = json.loads(line.body).get("kind")
        except (ValidationError, ValueError, AttributeError, RecursionError):
            raise TravelError(
                f"{zip_name}, {ENTRIES}, line {number}: no entry was read. Nothing was imported."
            ) from None
        fits = line.job == says.job or (line.job == "" and line.kind in OF_THE_SHOP)
        if not fits or kind != line.kind or not _ID.fullmatch(line.id) or not _is_moment(line.at):
            raise TravelError(f"{zip_name}, {ENTRIES}, line {number}: no entry of this job. Nothing was imported.")
        row = Row(**line.model_dump())
        body = body_of(row)
        if (
            isinstance(body, Unreadable) and line.kind in BODIES
        ):  # one of a newer Candor is taken in, and shown as it is
            raise TravelError(
                f"{zip_name}, {ENTRIES}, line {number}: it is not as a “{line.kind}” is written ({body.why}). Nothing was imported."
            )
        rows.append(row)
    own, shop = tuple(r for r in rows if r.job), tuple(r for r in rows if not r.job)
    if not own:
        raise TravelError(f"{zip_name} holds no entry of its job. Nothing was imported.")
    if broken := broken_links(own):
        raise TravelError(f"{zip_name}: {say_broken(broken)} Nothing was imported.")
    return own, shop


def _is_moment(text: str) -> bool:
    try:
        return dt.datetime.fromisoformat(text).tzinfo is not None
    except ValueError:
        return False


def take_in(notebook: Notebook, found: Travelling) -> Taken:
    """Take a travelling job in: what is here already is recognised, the rest comes after it, all or none.

    Raises
    ------
    TravelError
        Where the job was written in here and there since, or a file of the same name holds something else.
    NotebookError
        Where the notebook cannot be written.
    """
    job = found.says.job
    here = [r for r in notebook.store.of_job(job) if r.kind != "came_in"]
    there = [r for r in found.rows if r.kind != "came_in"]
    if any(_same(a) != _same(b) for a, b in zip(here, there, strict=False)):
        raise TravelError(
            "This job was written in here and there since they parted; two hands are not made one. Nothing was imported.",
            value=job,
        )
    known = {r.id for r in (*notebook.store.of_job(job), *notebook.store.of_kinds(OF_THE_SHOP))}
    fresh = [r for r in (*found.shop_rows, *found.rows) if r.id not in known]
    counted = len(found.rows) + len(found.shop_rows)
    if not fresh:
        return Taken(
            job=job,
            new=0,
            known=counted,
            files=0,
            sentence=f"All {counted} entries are already in this notebook. Nothing was imported.",
        )
    # Faults first, then files, then packs, the entries last: what is cut off in between leaves files that nothing names, never an
    # entry whose file is gone.
    packs = _new_packs(notebook, found)
    files = _keep_files(notebook, found)
    for pack in packs:
        notebook.store.keep_pack(pack)
    rows = [NewRow(id=r.id, job=r.job, kind=r.kind, at=r.at, who=r.who, body=r.body) for r in fresh]
    foreign = tuple(r.id for r in fresh if not r.job)
    came = [Draft("", StandardsCame(entries=foreign, shop=found.says.shop))] if foreign else []
    told = Draft(
        job,
        CameIn(shop=found.says.shop, made=found.says.made, first=found.rows[0].number, last=found.rows[-1].number),
    )
    notebook.append_rows(rows, [*came, told])
    new, old = len(fresh), counted - len(fresh)
    also = f", {old} were here already" if old else ""
    missing = f" Missing where it came from: {', '.join(found.says.missing)}." if found.says.missing else ""
    words = f"Taken in: {new} entries{also}, {files} files.{missing}"
    return Taken(job=job, new=new, known=old, files=files, sentence=words)


def _same(row: Row) -> tuple[str, ...]:
    return (row.id, row.job, row.kind, row.at, row.who, row.body)


def _keep_files(notebook: Notebook, found: Travelling) -> int:
    wanted = []
    for (folder, name), digest in found.files.items():
        target = folder_of(notebook, folder) / name
        if target.is_symlink() or (target.exists() and hashlib.sha256(target.read_bytes()).hexdigest() != digest):
            raise TravelError(
                f"{folder}/{name} is here already and holds something else. Nothing was imported.", value=name
            )
        if not target.exists():
            wanted.append((target, f"{folder}/{name}", digest))
    if not wanted:
        return 0
    with _opened(found.path) as packed:
        for target, name, digest in wanted:
            _take_file(packed, name, digest, target)
    return len(wanted)


def _take_file(packed: zipfile.ZipFile, name: str, digest: str, target: Path) -> None:
    """Copy a file out of a zip, piece by piece; nothing of it is left where it is no longer what was looked at."""
    try:
        make_private(target.parent)
        with packed.open(name) as file, replacing(target, is_kept=True) as copy:
            so_far = hashlib.sha256()
            while piece := file.read(1 << 20):
                so_far.update(piece)
                copy.write(piece)
            if so_far.hexdigest() != digest:
                raise TravelError(f"{name} is no longer what was looked at. No entry was taken in.", value=name)
    except OSError as error:
        raise TravelError(f"{target.name} could not be written ({error.strerror}). No entry was taken in.") from None


def _new_packs(notebook: Notebook, found: Travelling) -> list[PackRow]:
    """The packs that are not here, each looked over whole, before anything is written."""
    rows = []
    for digest, content in found.packs.items():
        here = notebook.store.pack(digest)
        if here is not None and is_as_kept(here):
            continue
        try:
            text = content.decode()
            # As a file of one's own: that its digest fits says who named it, not that anybody has checked it.
            pack = Pack.model_validate_json(text)
        except (ValueError, RecursionError):
            raise TravelError(
                f"The pack {digest[:8]} cannot be used by this version. Nothing was imported."
            ) from None
        rows.append(PackRow(digest, pack.id, pack.edition, text))
    return rows
