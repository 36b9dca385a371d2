"""Where descriptions are made: texts that are being written, editions that come of them, and the jobs that may go over to one."""

from __future__ import annotations

import re
from collections.abc import Iterator
from importlib import resources
from pathlib import Path

from candor.core.errors import CandorError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded
from candor.durably import make_private, write_durably
from candor.notebook.shelf import shelf
from candor.notebook.store import Notebook
from candor.notebook.work.job import fold
from candor.packs.borrowing import USUAL
from candor.packs.bundled import bundled_heads, lend_from
from candor.packs.described import judge, next_edition
from candor.packs.draft_text import DraftText
from candor.packs.kinds_of_instrument import InstrumentKind
from candor.packs.load import PackError
from candor.packs.model import Pack, PackHead
from candor.packs.procedure import procedure
from candor.packs.write import pack_yaml
from candor.packs.yaml_text import written


@dataclass(frozen=True)
class Moving:
    """What becomes of an open job where it goes over to another edition.

    Attributes
    ----------
    job, name : str
    read : int
        Points that were read.
    gone : tuple of str
        Names of those that the new edition does not have: their readings stay in the notebook, no result is made of them.
    changed : tuple of str
        Names of those whose limit, scale or value is another there: they are judged anew.
    cautions : tuple of str
        Dangers and cautions that are no longer said there, or are said otherwise, in short.
    """

    job: str
    name: str
    read: int
    gone: tuple[str, ...]
    changed: tuple[str, ...]
    cautions: tuple[str, ...]


class Workshop:
    """The descriptions that are being made in a notebook: a text for each, by the id of its pack, in a folder beside it."""

    def __init__(self, notebook: Notebook) -> None:
        self._notebook = notebook
        self._folder = notebook.path.with_name(f"{notebook.path.stem} workshop")

    def begun(self) -> tuple[str, ...]:
        """Return the ids of the descriptions that are being made, in order."""
        return tuple(sorted(path.stem for path in self._folder.glob("*.yaml"))) if self._folder.is_dir() else ()

    def text(self, name: str) -> str | None:
        """Return the text of one of them, None where there is none that can be read."""
        try:
            return (self._folder / f"{_file(name)}.yaml").read_text("utf-8")
        except (OSError, UnicodeDecodeError):
            return None

    def keep(self, name: str, text: str) -> None:
        """Keep the text as it is now, whole even where the power fails.

        Raises
        ------
        CandorError
            Where it cannot be written: what stood there stands.
        """
        self._write(self._folder / f"{_file(name)}.yaml", text)

    def free_name(self, name: str) -> str:
        """Return a name that no description has which is being made."""
        return next(free for n in range(2, 1000) if (free := f"{_file(name)}-{n}") not in self.begun())

    @staticmethod
    def _write(target: Path, text: str) -> None:
        try:
            make_private(target.parent)
            write_durably(target, text.encode(), is_kept=True)
        except OSError as error:
            raise CandorError(worded("arrive.the_draft_could_not_be_kept", why=str(error.strerror))) from error

    def drop(self, name: str) -> None:
        """Let the text of one go: what was made an edition of it stays."""
        (self._folder / f"{_file(name)}.yaml").unlink(missing_ok=True)

    # --- where one begins ---------------------------------------------------------------------------

    def text_of(self, pack: Pack) -> str:
        """Return the text to go on with: what is being made of it, what it was made of, or the pack written out."""
        begun = self.text(pack.id) or self._source(pack)
        if begun is not None:
            return begun
        if any(head.digest == pack.digest for head in bundled_heads()):
            return (resources.files("candor.packs") / "shipped" / f"{pack.id}.yaml").read_text("utf-8")
        return pack_yaml(pack)

    def make_edition(self, text: str) -> tuple[Pack, str]:
        """Keep what a text describes as the next edition of its pack, and return it with its text.

        The same as an edition that is kept already is that edition. A text whose edition another has gets the next number.

        Raises
        ------
        PackError
            With every fault, where it describes no pack yet.
        """
        found = judge(text, lend_from(self._notebook.kept_packs))
        if found.pack is None:
            raise PackError(worded("arrive.this_description"), found.faults)
        own = [PackHead.of(p) for p in self._notebook.kept_packs()] + list(bundled_heads())
        same = [head for head in own if head.id == found.pack.id]
        if any(head.digest == found.pack.digest for head in same):
            self._notebook.keep_pack(found.pack)
            return found.pack, text
        taken = [head.edition for head in same]
        if found.pack.edition in taken:
            number = next_edition(found.pack.edition, taken)
            return self.make_edition(DraftText(text).with_value(("edition",), number))
        self._notebook.keep_pack(found.pack)
        self._write(self._made_of(found.pack), text)
        self.drop(found.pack.id)
        return found.pack, text

    def _made_of(self, pack: Pack) -> Path:
        return self._folder / "editions" / f"{pack.digest}.yaml"

    def _source(self, pack: Pack) -> str | None:
        try:
            return self._made_of(pack).read_text("utf-8")
        except (OSError, UnicodeDecodeError):
            return None


def text_of_kind(kind: InstrumentKind, maker: str, type_: str) -> str:
    """Return the text of a description that begins with what is usual of a kind: its walk round, its cautions, its controls."""
    known = {
        "id": _file(f"{maker} {type_}".strip() or kind.id), "edition": "1", "maker": maker or "unknown", "type": type_ or "unknown",
        "kind": kind.title, "summary": str(worded("arrive.begun_from_what_is_usual", kind=kind.title)),
    }  # fmt: skip
    more = {
        name: [one if isinstance(one, str) else one.model_dump(mode="json", exclude_defaults=True) for one in getattr(kind, name)]
        for name in ("cautions", "zones", "care", "keep_dry", "usual", "controls", "weak")
        if getattr(kind, name)
    }  # fmt: skip
    return written({"pack": 2, **known, **more})


def text_of_sister(pack: Pack, type_: str) -> str:
    """Return the text of a description that borrows from a sister of the same maker: what differs is written over it."""
    takes = [*USUAL, *(("circuit", "parts") if pack.circuit is not None else ())]
    zones = [zone.model_dump(mode="json", exclude_defaults=True) for zone in pack.zones]
    return written({
        "pack": 2, "id": _file(f"{pack.maker} {type_}"), "edition": "1", "maker": pack.maker, "type": type_, "kind": pack.kind,
        "summary": str(worded("arrive.like_its_sister", sister=pack.name)), "zones": zones,
        "borrows": {"pack": pack.id, "takes": takes},
    })  # fmt: skip


def moving(notebook: Notebook, pack: Pack) -> tuple[Moving, ...]:
    """Return the open jobs that stand on another edition of a pack, with what becomes of their readings."""
    return tuple(_moving(notebook, pack))


def _moving(notebook: Notebook, pack: Pack) -> Iterator[Moving]:
    new = {s.point.key: s.point for s in procedure(pack) if s.point is not None and s.kind == "point"}
    for line in shelf(notebook, notebook.clock()):
        if line.group == "gone home":
            continue
        job = fold(line.job, notebook.entries_of(line.job))
        if not job.pack_digest or job.pack_digest == pack.digest:
            continue
        try:
            before = notebook.pack(job.pack_digest)
        except CandorError:  # its job says so itself
            continue
        if before.id != pack.id:
            continue
        old = {s.point.key: s.point for s in procedure(before) if s.point is not None and s.kind == "point"}
        read = dict.fromkeys(taken.body.point for taken in job.calibrate.readings)
        gone = tuple(old[key].name for key in read if key in old and key not in new)
        changed = tuple(new[key].name for key in read if key in old and key in new and old[key] != new[key])
        said = {caution.text for caution in pack.cautions}
        cautions = tuple(caution.short for caution in before.cautions if caution.text not in said)
        yield Moving(job=line.job, name=line.name, read=len(read), gone=gone, changed=changed, cautions=cautions)


def _file(name: str) -> str:
    return re.sub(r"[^a-z0-9+.-]+", "-", name.casefold()).strip("-.") or "new"
