"""The travelling job: what the zip holds, and how it is taken into another notebook; how it is made: `travel_out.py`."""

from __future__ import annotations

import datetime as dt
import hashlib
import json
import re
import stat
import zipfile
from collections.abc import Mapping
from dataclasses import dataclass, field
from pathlib import Path

from pydantic import BaseModel, ConfigDict, ValidationError

from candor.core.errors import CandorError
from candor.durably import make_private, write_durably
from candor.notebook.entries.entry import Draft
from candor.notebook.entries.standards import StandardsCame
from candor.notebook.entries.stay import CameIn
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
    """What a travelling job holds; files by folder and name, as bytes."""

    says: Says
    rows: tuple[Row, ...]
    shop_rows: tuple[Row, ...]
    files: Mapping[tuple[str, str], bytes] = field(default_factory=dict)


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
    try:
        with zipfile.ZipFile(path) as packed:
            held = _unpacked(packed, path.name)
    except (OSError, zipfile.BadZipFile, NotImplementedError, RuntimeError, EOFError) as error:
        why = getattr(error, "strerror", None) or str(error) or type(error).__name__
        raise TravelError(f"{path.name} cannot be read as a zip ({why}); a travelling job was expected.") from None
    says = _says(held, path.name)
    rows, shop_rows = _rows(held, says, path.name)
    files = {}
    for name, content in held.items():
        folder, _, own = name.partition("/")
        said = own.partition(".")[0]
        # Half a digest at least: a name of one letter would fit one content in sixteen.
        if folder in BY_DIGEST and (len(said) < 32 or not hashlib.sha256(content).hexdigest().startswith(said)):
            raise TravelError(
                f"{path.name}: {name} is not as it was kept, its digest does not fit. Nothing was imported."
            )
        if own and folder != "papers":
            files[folder, own] = content
    return Travelling(says, rows, shop_rows, files)


def _unpacked(packed: zipfile.ZipFile, zip_name: str) -> dict[str, bytes]:
    """What is in it, by name; nothing is written, and nothing is read that is more than it says."""
    infos = packed.infolist()
    if len(infos) > MOST_FILES:
        raise TravelError(
            f"{zip_name} holds {len(infos)} files; a job has {MOST_FILES} at most. Nothing was imported."
        )
    if sum(i.file_size for i in infos) > LARGEST:
        raise TravelError(f"{zip_name} unpacks to more than {LARGEST // 1_000_000} MB. Nothing was imported.")
    held: dict[str, bytes] = {}
    for info in infos:
        folder, _, own = info.filename.partition("/")
        plain = info.filename in (SAYS, ENTRIES, READINGS) or (folder in FOLDERS and is_plain_name(own))
        if not plain or stat.S_ISLNK(info.external_attr >> 16) or info.filename in held:
            raise TravelError(
                f"{zip_name}: “{info.filename[:80]}” is not a name that a travelling job has. Nothing was imported.",
                value=info.filename, expected=f"files in {', '.join(FOLDERS)}",
            )  # fmt: skip
        if info.file_size > SMALL and info.file_size > MOST_PACKED * max(info.compress_size, 1):
            raise TravelError(
                f"{zip_name}: “{info.filename}” unpacks to more than {MOST_PACKED} times its size. Nothing was imported."
            )
        with packed.open(info) as file:
            content = file.read(info.file_size + 1)
        if len(content) > info.file_size:
            raise TravelError(f"{zip_name}: “{info.filename}” is larger than it says. Nothing was imported.")
        held[info.filename] = content
    return held


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
        except (ValidationError, ValueError, AttributeError):
            raise TravelError(
                f"{zip_name}, {ENTRIES}, line {number}: no entry was read. Nothing was imported."
            ) from None
        fits = line.job == says.job or (line.job == "" and line.kind in OF_THE_SHOP)
        if not fits or kind != line.kind or not _ID.fullmatch(line.id) or not _is_moment(line.at):
            raise TravelError(f"{zip_name}, {ENTRIES}, line {number}: no entry of this job. Nothing was imported.")
        rows.append(Row(**line.model_dump()))
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
    return Taken(job=job, new=new, known=old, files=files, sentence=f"Taken in: {new} entries{also}, {files} files.")


def _same(row: Row) -> tuple[str, ...]:
    return (row.id, row.job, row.kind, row.at, row.who, row.body)


def _keep_files(notebook: Notebook, found: Travelling) -> int:
    wanted = []
    for (folder, name), content in found.files.items():
        if folder == "packs":
            continue
        target = folder_of(notebook, folder) / name
        if target.is_symlink() or (target.exists() and target.read_bytes() != content):
            raise TravelError(
                f"{folder}/{name} is here already and holds something else. Nothing was imported.", value=name
            )
        if not target.exists():
            wanted.append((target, content))
    for target, content in wanted:
        try:
            make_private(target.parent)
            write_durably(target, content, is_kept=True)
        except OSError as error:
            raise TravelError(
                f"{target.name} could not be written ({error.strerror}). No entry was taken in."
            ) from None
    return len(wanted)


def _new_packs(notebook: Notebook, found: Travelling) -> list[PackRow]:
    """The packs that are not here, each looked over whole, before anything is written."""
    rows = []
    for (folder, name), content in found.files.items():
        digest = name.partition(".")[0]
        here = notebook.store.pack(digest) if folder == "packs" else None
        if folder != "packs" or (here is not None and is_as_kept(here)):
            continue
        try:
            text = content.decode()
            # As a file of one's own: that its digest fits says who named it, not that anybody has checked it.
            pack = Pack.model_validate_json(text)
        except ValueError:
            raise TravelError(
                f"The pack {digest[:8]} cannot be used by this version. Nothing was imported."
            ) from None
        rows.append(PackRow(digest, pack.id, pack.edition, text))
    return rows
