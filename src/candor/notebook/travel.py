"""The travelling job: one job as a zip with all that hangs on it, out of one notebook and into another."""

from __future__ import annotations

import datetime as dt
import hashlib
import io
import json
import re
import stat
import zipfile
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import Path

from pydantic import BaseModel, ConfigDict, ValidationError

from candor.core.errors import CandorError
from candor.notebook.chain import broken_links, say_broken
from candor.notebook.entries.arrive import PhotoAdded
from candor.notebook.entries.body import Body
from candor.notebook.entries.calibrate import ReadingTaken, WaveformKept
from candor.notebook.entries.entry import Draft
from candor.notebook.entries.kinds import read_body
from candor.notebook.entries.power import MetersOn
from candor.notebook.entries.release import CertificateIssued
from candor.notebook.entries.runs import RunStarted
from candor.notebook.entries.standards import StandardWithdrawn
from candor.notebook.entries.stay import CameIn
from candor.notebook.files import is_plain_name, make_private, write_durably
from candor.notebook.rows import NewRow, PackRow, Row
from candor.notebook.store import Notebook
from candor.packs.model import read_kept

VERSION = 1
ENDING = ".candor-job.zip"
SAYS, ENTRIES, READINGS = "travelling.json", "entries.jsonl", "readings.csv"
LARGEST = 1_000_000_000  # bytes of all that is in it
MOST_FILES = 20_000
MOST_PACKED = 200  # times: a table of readings comes to some twenty
SMALL = 1_000_000  # bytes below which the ratio says nothing
FOLDERS = ("photos", "waveforms", "certificates", "runs", "packs", "papers")
BY_DIGEST = ("photos", "waveforms", "certificates", "packs")
OF_THE_SHOP = ("standard", "chain", "standard_withdrawn", "standard_compared")
_ID = re.compile(r"[0-9a-zA-Z_-]{1,64}")
_HEX = re.compile(r'"([0-9a-f]{32})"')


class TravelError(CandorError, ValueError):
    """A zip that is no travelling job, or one that does not fit this notebook; nothing was written."""


class Says(BaseModel):
    """The first file of it: what it is."""

    model_config = ConfigDict(frozen=True)
    format: str
    version: int
    job: str
    shop: str = ""
    name: str = ""
    made: str = ""


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


# --- out ----------------------------------------------------------------------------------------------


def travelling(notebook: Notebook, job: str, shop: str = "", papers: Mapping[str, bytes] | None = None) -> bytes:
    """Return a job as a zip: its entries, the standards it names, its packs, files and papers.

    Raises
    ------
    TravelError
        Where there is no such job, it is not as it was written, or one of its files is gone.
    """
    rows = notebook.store.of_job(job)
    if not rows or not job:
        raise TravelError(f"There is no job “{job}” in {notebook.path.name}.", value=job)
    if broken := broken_links(rows):
        raise TravelError(f"{say_broken(broken)} It does not travel so.", value=job)
    bodies = [read_body(row.body) for row in rows]
    files: dict[str, bytes] = {f"papers/{name}": content for name, content in (papers or {}).items()}
    for folder, name in _files_of(bodies):
        files[f"{folder}/{name}"] = _read(_folder(notebook, folder) / name)
    for digest in sorted({d for row in rows for d in re.findall(r'"pack_digest":"([0-9a-f]{64})"', row.body)}):
        pack = notebook.store.pack(digest)
        if pack is not None:
            files[f"packs/{digest}.json"] = pack.body.encode()
    says = Says(
        format="candor travelling job",
        version=VERSION,
        job=job,
        shop=shop,
        made=notebook.clock().isoformat(timespec="seconds"),
    )
    lines = [Line(**row._asdict()).model_dump_json() for row in (*_shop_rows(notebook, rows), *rows)]
    content = io.BytesIO()
    with zipfile.ZipFile(content, "w", zipfile.ZIP_DEFLATED) as packed:
        packed.writestr(SAYS, says.model_dump_json(indent=1))
        packed.writestr(ENTRIES, "\n".join(lines) + "\n")
        packed.writestr(READINGS, _readings(rows, bodies))
        for name, held in sorted(files.items()):
            packed.writestr(name, held)
    return content.getvalue()


def _files_of(bodies: Iterable[Body]) -> list[tuple[str, str]]:
    """The files that entries name, folder and name; those with no plain name stay where they are."""
    found: list[tuple[str, str]] = []
    for body in bodies:
        if isinstance(body, PhotoAdded):
            found.append(("photos", body.file))
        elif isinstance(body, WaveformKept):
            found.append(("waveforms", body.file))
        elif isinstance(body, CertificateIssued):
            found.append(("certificates", f"{body.digest}.json"))
        elif isinstance(body, RunStarted):
            found.append(("runs", body.file))
        elif isinstance(body, MetersOn):
            found += [("runs", name) for name in body.files]
    return [(folder, name) for folder, name in dict.fromkeys(found) if is_plain_name(name)]


def _folder(notebook: Notebook, folder: str) -> Path:
    return {
        "photos": notebook.photo_folder, "waveforms": notebook.waveform_folder,
        "certificates": notebook.certificate_folder, "runs": notebook.run_folder,
    }[folder]  # fmt: skip


def _read(path: Path) -> bytes:
    try:
        return path.read_bytes()
    except OSError as error:
        raise TravelError(
            f"{path.name} cannot be read ({error.strerror}); the job does not travel without it.", place=str(path)
        ) from None


def _shop_rows(notebook: Notebook, rows: Sequence[Row]) -> list[Row]:
    """The shop's entries that a job names, what those stand on, and what withdrew them."""
    held = {row.id: row for row in notebook.store.of_kinds(OF_THE_SHOP) if not row.job}
    wanted: set[str] = set()
    ask = [name for row in rows for name in _HEX.findall(row.body)]
    while ask:
        name = ask.pop()
        if name in held and name not in wanted:
            wanted.add(name)
            ask += _HEX.findall(held[name].body)
    keys = {getattr(read_body(held[name].body), "key", "") for name in wanted}
    for row in held.values():
        body = read_body(row.body)
        if isinstance(body, StandardWithdrawn) and body.standard in keys:
            wanted.add(row.id)
    return sorted((held[name] for name in wanted), key=lambda row: row.number)


def _readings(rows: Sequence[Row], bodies: Sequence[Body]) -> str:
    """The readings as a table, SI, for whoever has no Candor."""
    lines = ["number,at,who,phase,point,indicated,reference,direction,figures,word"]
    for row, body in zip(rows, bodies, strict=True):
        if isinstance(body, ReadingTaken):
            figures = " ".join(f"{name}={value:.9g}" for name, value in body.figures)
            shown = "" if body.indicated is None else f"{body.indicated:.9g}"
            cells = (
                str(row.number), row.at, row.who, body.phase, body.point, shown, f"{body.reference:.9g}", body.direction,
                figures, body.word,
            )  # fmt: skip
            lines.append(
                ",".join(f'"{c.replace(chr(34), chr(34) * 2)}"' if re.search('[",\n]', c) else c for c in cells)
            )
    return "\n".join(lines) + "\n"


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
        if own and folder in BY_DIGEST and not hashlib.sha256(content).hexdigest().startswith(own.partition(".")[0]):
            raise TravelError(
                f"{path.name}: {name} is not as it was kept, its digest does not fit. Nothing was taken in."
            )
        if own and folder != "papers":
            files[folder, own] = content
    return Travelling(says, rows, shop_rows, files)


def _unpacked(packed: zipfile.ZipFile, zip_name: str) -> dict[str, bytes]:
    """What is in it, by name; nothing is written, and nothing is read that is more than it says."""
    infos = packed.infolist()
    if len(infos) > MOST_FILES:
        raise TravelError(
            f"{zip_name} holds {len(infos)} files; a job has {MOST_FILES} at most. Nothing was taken in."
        )
    if sum(i.file_size for i in infos) > LARGEST:
        raise TravelError(f"{zip_name} unpacks to more than {LARGEST // 1_000_000} MB. Nothing was taken in.")
    held: dict[str, bytes] = {}
    for info in infos:
        folder, _, own = info.filename.partition("/")
        plain = info.filename in (SAYS, ENTRIES, READINGS) or (folder in FOLDERS and is_plain_name(own))
        if not plain or stat.S_ISLNK(info.external_attr >> 16) or info.filename in held:
            raise TravelError(
                f"{zip_name}: “{info.filename[:80]}” is no name that a travelling job has. Nothing was taken in.",
                value=info.filename, expected=f"files in {', '.join(FOLDERS)}",
            )  # fmt: skip
        if info.file_size > SMALL and info.file_size > MOST_PACKED * max(info.compress_size, 1):
            raise TravelError(
                f"{zip_name}: “{info.filename}” unpacks to more than {MOST_PACKED} times its size. Nothing was taken in."
            )
        with packed.open(info) as file:
            content = file.read(info.file_size + 1)
        if len(content) > info.file_size:
            raise TravelError(f"{zip_name}: “{info.filename}” is larger than it says. Nothing was taken in.")
        held[info.filename] = content
    return held


def _says(held: Mapping[str, bytes], zip_name: str) -> Says:
    try:
        says = Says.model_validate_json(held[SAYS])
    except (KeyError, ValidationError):
        raise TravelError(f"{zip_name} is no travelling job: it has no {SAYS} that says so.", expected=SAYS) from None
    if says.format != "candor travelling job":
        raise TravelError(f"{zip_name} is no travelling job but “{says.format[:40]}”.", value=says.format)
    if says.version > VERSION:
        raise TravelError(
            f"{zip_name} was made by a newer Candor (format {says.version}, this one reads {VERSION}). Nothing was taken in."
        )
    if not _ID.fullmatch(says.job):
        raise TravelError(f"{zip_name}: “{says.job[:40]}” is no name of a job.", value=says.job)
    return says


def _rows(held: Mapping[str, bytes], says: Says, zip_name: str) -> tuple[tuple[Row, ...], tuple[Row, ...]]:
    rows: list[Row] = []
    for number, text in enumerate(held.get(ENTRIES, b"").decode("utf-8", "replace").splitlines(), 1):
        try:
            line = Line.model_validate_json(text)
            kind = json.loads(line.body).get("kind")
        except (ValidationError, ValueError, AttributeError):
            raise TravelError(
                f"{zip_name}, {ENTRIES}, line {number}: no entry was read. Nothing was taken in."
            ) from None
        fits = line.job == says.job or (line.job == "" and line.kind in OF_THE_SHOP)
        if not fits or kind != line.kind or not _ID.fullmatch(line.id) or not _is_moment(line.at):
            raise TravelError(f"{zip_name}, {ENTRIES}, line {number}: no entry of this job. Nothing was taken in.")
        rows.append(Row(**line.model_dump()))
    own, shop = tuple(r for r in rows if r.job), tuple(r for r in rows if not r.job)
    if not own:
        raise TravelError(f"{zip_name} holds no entry of its job. Nothing was taken in.")
    if broken := broken_links(own):
        raise TravelError(f"{zip_name}: {say_broken(broken)} Nothing was taken in.")
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
            "This job was written in here and there since they parted; two hands are not made one. Nothing was taken in.",
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
            sentence=f"All {counted} entries are here already. Nothing was taken in.",
        )
    files = _keep_files(notebook, found)
    for (folder, name), content in found.files.items():
        if folder == "packs":
            _keep_pack(notebook, name.partition(".")[0], content)
    rows = [NewRow(id=r.id, job=r.job, kind=r.kind, at=r.at, who=r.who, body=r.body) for r in fresh]
    came = Draft(
        job,
        CameIn(shop=found.says.shop, made=found.says.made, first=found.rows[0].number, last=found.rows[-1].number),
    )
    notebook.append_rows(rows, came)
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
        target = _folder(notebook, folder) / name
        if target.is_symlink() or (target.exists() and target.read_bytes() != content):
            raise TravelError(
                f"{folder}/{name} is here already and holds something else. Nothing was taken in.", value=name
            )
        if not target.exists():
            wanted.append((target, content))
    for target, content in wanted:
        try:
            make_private(target.parent)
            write_durably(target, content)
        except OSError as error:
            raise TravelError(
                f"{target.name} could not be written ({error.strerror}). No entry was taken in."
            ) from None
    return len(wanted)


def _keep_pack(notebook: Notebook, digest: str, content: bytes) -> None:
    if notebook.store.pack(digest) is not None:
        return
    text = content.decode()
    try:
        pack = read_kept(text, digest)
    except ValidationError:
        raise TravelError(f"The pack {digest[:8]} cannot be read by this version. No entry was taken in.") from None
    notebook.store.keep_pack(PackRow(digest, pack.id, pack.edition, text))
