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
from pathlib import Path

from pydantic import BaseModel, ConfigDict, ValidationError

from candor.core.errors import CandorError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded
from candor.durably import make_private, replacing
from candor.notebook.entries.body import Unreadable
from candor.notebook.entries.entry import Draft
from candor.notebook.entries.kinds_entries import BODIES
from candor.notebook.entries.standards_entries import StandardsCame
from candor.notebook.entries.stay_entries import CameIn
from candor.notebook.exchange.zip_whole import refuse_swallowed
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
            raise TravelError(worded("exchange.is_not_as_it_was_kept", name=path.name, name_2=name))
        if own and folder not in ("papers", "packs"):
            files[folder, own] = digest
    by_digest = {name.partition("/")[2].partition(".")[0]: content for name, content in packs.items()}
    return Travelling(path=path, says=says, rows=rows, shop_rows=shop_rows, packs=by_digest, files=files)


@contextlib.contextmanager
def _opened(path: Path) -> Iterator[zipfile.ZipFile]:
    if path.exists() and not path.is_file():
        raise TravelError(worded("exchange.is_no_file_a_travelling_job", path=path), value=str(path))
    try:
        with zipfile.ZipFile(path) as packed:
            refuse_swallowed(path, packed)
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
        raise TravelError(worded("exchange.cannot_be_read_as_a_zip", name=path.name, why=why)) from None


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
            worded("exchange.holds_files_a_job_has_at", zip_name=zip_name, infos=len(infos), most_files=MOST_FILES)
        )
    whole, packed_whole = sum(i.file_size for i in infos), sum(i.compress_size for i in infos)
    if whole > LARGEST:
        raise TravelError(
            worded("exchange.unpacks_to_more_than_mb_nothing", zip_name=zip_name, largest=LARGEST // 1000000)
        )
    if whole > SMALL and whole > MOST_PACKED * max(packed_whole, 1):
        raise TravelError(
            worded("exchange.unpacks_to_more_than_times_its_size", zip_name=zip_name, most_packed=MOST_PACKED)
        )
    seen: set[str] = set()
    for info in infos:
        folder, _, own = info.filename.partition("/")
        plain = info.filename in (SAYS, ENTRIES, READINGS) or (folder in FOLDERS and is_plain_name(own))
        if not plain or stat.S_ISLNK(info.external_attr >> 16) or info.filename in seen:
            raise TravelError(
                worded("exchange.is_not_a_name_that_a", zip_name=zip_name, filename=info.filename[:80]),
                value=info.filename, expected=worded("exchange.files_in", listed=', '.join(FOLDERS)),
            )  # fmt: skip
        if info.file_size > SMALL and info.file_size > MOST_PACKED * max(info.compress_size, 1):
            raise TravelError(
                worded(
                    "exchange.unpacks_to_more_than_times_its",
                    zip_name=zip_name,
                    filename=info.filename,
                    most_packed=MOST_PACKED,
                )
            )
        if "/" not in info.filename and info.file_size > LARGEST_TEXT:
            raise TravelError(
                worded(
                    "exchange.is_larger_than_mb_nothing_was",
                    zip_name=zip_name,
                    filename=info.filename,
                    largest_text=LARGEST_TEXT // 1000000,
                )
            )
        seen.add(info.filename)
    return infos


def _says(held: Mapping[str, bytes], zip_name: str) -> Says:
    try:
        says = Says.model_validate_json(held[SAYS])
    except (KeyError, ValidationError):
        raise TravelError(
            worded("exchange.is_not_a_travelling_job_it", zip_name=zip_name, says=SAYS), expected=SAYS
        ) from None
    if says.format != "candor travelling job":
        raise TravelError(
            worded("exchange.is_not_a_travelling_job_but", zip_name=zip_name, format=says.format[:40]),
            value=says.format,
        )
    if says.version > VERSION:
        raise TravelError(
            worded("exchange.was_made_by_a_newer_candor", zip_name=zip_name, version=says.version, version_2=VERSION)
        )
    if not _ID.fullmatch(says.job):
        raise TravelError(worded("exchange.is_not_a_name_of_a", zip_name=zip_name, job=says.job[:40]), value=says.job)
    return says


def _rows(held: Mapping[str, bytes], says: Says, zip_name: str) -> tuple[tuple[Row, ...], tuple[Row, ...]]:
    rows: list[Row] = []
    for number, text in enumerate(held.get(ENTRIES, b"").decode("utf-8", "replace").splitlines(), 1):
        try:
            line = Line.model_validate_json(text)
            kind = json.loads(line.body).get("kind")
        except (ValidationError, ValueError, AttributeError, RecursionError):
            raise TravelError(
                worded("exchange.line_no_entry_was_read_nothing", zip_name=zip_name, entries=ENTRIES, number=number)
            ) from None
        fits = line.job == says.job or (line.job == "" and line.kind in OF_THE_SHOP)
        if not fits or kind != line.kind or not _ID.fullmatch(line.id) or not _is_moment(line.at):
            raise TravelError(
                worded("exchange.line_no_entry_of_this_job", zip_name=zip_name, entries=ENTRIES, number=number)
            )
        row = Row(**line.model_dump())
        body = body_of(row)
        if (
            isinstance(body, Unreadable) and line.kind in BODIES
        ):  # one of a newer Candor is taken in, and shown as it is
            raise TravelError(
                worded(
                    "exchange.line_it_is_not_as_a",
                    zip_name=zip_name,
                    entries=ENTRIES,
                    number=number,
                    kind=line.kind,
                    why=body.why,
                )
            )
        rows.append(row)
    own, shop = tuple(r for r in rows if r.job), tuple(r for r in rows if not r.job)
    if not own:
        raise TravelError(worded("exchange.holds_no_entry_of_its_job", zip_name=zip_name))
    if broken := broken_links(own):
        raise TravelError(worded("exchange.nothing_was_imported", zip_name=zip_name, broken=say_broken(broken)))
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
            worded("exchange.this_job_was_written_in_here"),
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
            sentence=worded("exchange.all_entries_are_already_in_this", counted=counted),
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
    also = worded("exchange.were_here_already", old=old) if old else ""
    missing = (
        worded("exchange.missing_where_it_came_from", listed=", ".join(found.says.missing))
        if found.says.missing
        else ""
    )
    words = worded("exchange.taken_in_entries_files", new=new, also=also, files=files, missing=missing)
    return Taken(job=job, new=new, known=old, files=files, sentence=words)


def _same(row: Row) -> tuple[str, ...]:
    return (row.id, row.job, row.kind, row.at, row.who, row.body)


def _keep_files(notebook: Notebook, found: Travelling) -> int:
    wanted = []
    for (folder, name), digest in found.files.items():
        target = folder_of(notebook, folder) / name
        if target.is_symlink() or (target.exists() and hashlib.sha256(target.read_bytes()).hexdigest() != digest):
            raise TravelError(
                worded("exchange.is_here_already_and_holds_something", folder=folder, name=name), value=name
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
                raise TravelError(worded("exchange.is_no_longer_what_was_looked", name=name), value=name)
    except OSError as error:
        raise TravelError(
            worded("exchange.could_not_be_written_no_entry", name=target.name, strerror=error.strerror)
        ) from None


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
            raise TravelError(worded("exchange.the_pack_cannot_be_used_by", digest=digest[:8])) from None
        rows.append(PackRow(digest, pack.id, pack.edition, text))
    return rows
