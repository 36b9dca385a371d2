"""The packs that come with Candor: written as YAML, compiled to JSON when they change, each loaded when it is opened.

`candor packs compile` makes the JSON; a test holds it to the YAML. A list of packs needs only their heads, in `index.json`.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Iterable
from functools import cache
from importlib import resources
from importlib.resources.abc import Traversable
from pathlib import Path
from typing import Any

from candor.core.errors import CandorError
from candor.core.worded import worded
from candor.durably import write_durably
from candor.packs.borrowing import Lender
from candor.packs.model import Pack, PackHead, read_kept

INDEX = "index.json"


@cache
def bundled_heads() -> tuple[PackHead, ...]:
    """Return what there is to know of every pack without opening it, those with a procedure first."""
    return tuple(PackHead(**head) for head in json.loads((_folder() / INDEX).read_text(encoding="utf-8")))


@cache
def bundled_pack(name: str) -> Pack:
    """Return a pack by its id.

    Raises
    ------
    CandorError
        Where none of that id comes with Candor.
    """
    head = next((head for head in bundled_heads() if head.id == name), None)
    if head is None:
        raise CandorError(worded("packs.is_not_a_shipped_pack_candor", name=name), value=name)
    return read_kept((_folder() / f"{name}.json").read_text(encoding="utf-8"), head.digest)


def bundled_packs() -> tuple[Pack, ...]:
    """Return every pack that comes with Candor, those with a procedure first."""
    return tuple(bundled_pack(head.id) for head in bundled_heads())


def lend_from(kept: Callable[[], Iterable[Pack]], *folders: Path) -> Lender:
    """Return where a pack may borrow: packs that are kept, YAML files in folders by their name, and what comes with Candor."""

    def lend(name: str) -> tuple[dict[str, Any], str] | None:
        from candor.packs.load import read_pack  # YAML only where packs are made

        pack = next((p for p in kept() if p.id == name), None)
        files = (folder / f"{name}.yaml" for folder in folders)
        if pack is None:
            pack = next((read_pack(path) for path in files if path.is_file()), None)
        if pack is None and any(head.id == name for head in bundled_heads()):
            pack = bundled_pack(name)
        return None if pack is None else (pack.model_dump(mode="json", exclude_defaults=True), pack.digest)

    return lend


def compile_packs(source: Path, target: Path) -> tuple[Path, ...]:
    """Compile every YAML pack of a folder to JSON, and the index of their heads; return what was written.

    Raises
    ------
    PackError
        Where one has faults.
    """
    from candor.packs.load import read_pack  # YAML only where packs are made

    lend = lend_from(lambda: (), source)
    packs = sorted((read_pack(path, lend) for path in source.glob("*.yaml")), key=lambda p: (not p.procedure, p.id))
    heads = json.dumps([PackHead.of(pack).__dict__ for pack in packs], ensure_ascii=False, indent=1) + "\n"
    files = {**{f"{pack.id}.json": pack.to_json() for pack in packs}, INDEX: heads}
    target.mkdir(exist_ok=True)
    for name, text in files.items():
        write_durably(target / name, text.encode())
    return tuple(target / name for name in files)


def _folder() -> Traversable:
    return resources.files("candor.packs") / "shipped" / "compiled"
