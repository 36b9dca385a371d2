"""A job as one zip with all that hangs on it, for another notebook to take in."""

from __future__ import annotations

import io
import re
import zipfile
from collections.abc import Mapping, Sequence
from pathlib import Path

from candor.core.worded import worded
from candor.notebook.entries.body import Body
from candor.notebook.entries.calibrate_entries import ReadingTaken
from candor.notebook.entries.kinds_entries import read_body
from candor.notebook.entries.standards_entries import StandardWithdrawn
from candor.notebook.exchange.csv_table import write_table
from candor.notebook.exchange.travel import (
    ENTRIES,
    OF_THE_SHOP,
    READINGS,
    SAYS,
    VERSION,
    Line,
    Says,
    TravelError,
    folder_of,
)
from candor.notebook.storage.bodies import body_of
from candor.notebook.storage.chain import broken_links, say_broken
from candor.notebook.storage.files import is_plain_name
from candor.notebook.storage.folders import Folders
from candor.notebook.storage.kept_files import file_faults, files_of
from candor.notebook.storage.rows import Row
from candor.notebook.store import Notebook

_HEX = re.compile(r'"([0-9a-f]{32})"')


PRESSED = frozenset((".jpg", ".jpeg", ".png", ".webp", ".pdf"))


def travelling(notebook: Notebook, job: str, shop: str = "", papers: Mapping[str, bytes] | None = None) -> bytes:
    """Return a job as a zip: its entries, the standards it names, its packs, files and papers.

    Raises
    ------
    TravelError
        Where there is no such job, or it is not as it was written. What is missing of its files is named in it, and it travels
        without: `left_behind`.
    """
    rows = notebook.store.of_job(job)
    if not rows or not job:
        raise TravelError(worded("exchange.there_is_no_job_in", job=job, name=notebook.path.name), value=job)
    if broken := broken_links(rows):
        raise TravelError(worded("exchange.it_does_not_travel_so", broken=say_broken(broken)), value=job)
    bodies = [read_body(row.body) for row in rows]
    files: dict[str, bytes] = {f"papers/{name}": content for name, content in (papers or {}).items()}
    missing = left_behind(notebook, job)
    for name in sorted(_names_of(rows) - set(missing)):
        files[name] = _read(folder_of(notebook, name.partition("/")[0]) / name.partition("/")[2])
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
        head=notebook.head_words(job),
        missing=missing,
    )
    lines = [Line(**row._asdict()).model_dump_json() for row in (*_shop_rows(notebook, rows), *rows)]
    content = io.BytesIO()
    with zipfile.ZipFile(content, "w", zipfile.ZIP_DEFLATED) as packed:
        packed.writestr(SAYS, says.model_dump_json(indent=1))
        packed.writestr(ENTRIES, "\n".join(lines) + "\n")
        packed.writestr(READINGS, _readings(rows, bodies))
        for name, held in sorted(files.items()):
            pressed = Path(name).suffix.casefold() in PRESSED  # pressing it again takes long, and saves nothing
            packed.writestr(name, held, zipfile.ZIP_STORED if pressed else zipfile.ZIP_DEFLATED)
    return content.getvalue()


def left_behind(notebook: Notebook, job: str) -> tuple[str, ...]:
    """Return the files that a job names and that are missing or no longer what was kept, by folder and name: it travels without."""
    bodies = [(row.number, body_of(row)) for row in notebook.store.of_job(job)]
    ailing = (f.file for f in file_faults(Folders(notebook.path), files_of(bodies)))
    return tuple(sorted(f"{file.folder}/{file.name}" for file in ailing if is_plain_name(file.name)))


def _names_of(rows: Sequence[Row]) -> set[str]:
    """The files that entries name, by folder and name; those with no plain name, or that need not be there, stay where they are."""
    named = files_of((row.number, body_of(row)) for row in rows)
    return {f"{file.folder}/{file.name}" for file in named if file.must and is_plain_name(file.name)}


def _read(path: Path) -> bytes:
    try:
        return path.read_bytes()
    except OSError as error:
        raise TravelError(
            worded("exchange.cannot_be_read_the_job_does", name=path.name, strerror=error.strerror), place=str(path)
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
    lines: list[tuple[str, ...]] = []
    for row, body in zip(rows, bodies, strict=True):
        if isinstance(body, ReadingTaken):
            figures = " ".join(f"{name}={value:.9g}" for name, value in body.figures)
            shown = "" if body.indicated is None else f"{body.indicated:.9g}"
            cells = (
                str(row.number), row.at, row.who, body.phase, body.point, shown, f"{body.reference:.9g}", body.direction,
                figures, body.word,
            )  # fmt: skip
            lines.append(cells)
    return write_table(
        ("number", "at", "who", "phase", "point", "indicated", "reference", "direction", "figures", "word"), lines
    )
