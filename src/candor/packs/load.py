"""Reading a pack from YAML, with every fault by line and column and what was expected."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from importlib import resources
from pathlib import Path
from typing import Any

from pydantic import ValidationError
from pydantic_core import ErrorDetails
from ruamel.yaml import YAML
from ruamel.yaml.comments import CommentedMap, CommentedSeq
from ruamel.yaml.error import MarkedYAMLError, YAMLError

from candor.core.errors import CandorError
from candor.packs.crossings import crossing_faults
from candor.packs.model import Pack


@dataclass(frozen=True, order=True)
class Fault:
    """One fault of a pack; line and column count from 1."""

    line: int
    column: int
    where: str
    message: str

    def __str__(self) -> str:
        return f"line {self.line}, column {self.column}: {self.where}: {self.message}"


class PackError(CandorError, ValueError):
    """A pack that cannot be used, with all its faults."""

    def __init__(self, name: str, faults: tuple[Fault, ...]) -> None:
        listed = "\n".join(f"  {fault}" for fault in faults)
        count = "1 fault" if len(faults) == 1 else f"{len(faults)} faults"
        super().__init__(f"{name}: {count}; nothing was taken in.\n{listed}", place=name)
        self.faults = faults


def read_pack(path: Path) -> Pack:
    """Read a pack file.

    Raises
    ------
    PackError
        With every fault found.
    """
    try:
        text = path.read_text(encoding="utf-8")
    except UnicodeDecodeError as error:
        line = path.read_bytes()[: error.start].count(b"\n") + 1
        raise PackError(path.name, (Fault(line, 1, "text", "not UTF-8; save the file as UTF-8"),)) from None
    except OSError as error:
        message = f"cannot be read ({error.strerror}); a YAML file was expected"
        raise PackError(str(path), (Fault(1, 1, "file", message),)) from None
    return parse_pack(text, path.name)


def parse_pack(text: str, name: str) -> Pack:
    """Read a pack from YAML text; `name` stands in the sentences. Raises PackError."""
    try:
        data = YAML(typ="rt").load(text)
    except MarkedYAMLError as error:
        mark = error.problem_mark or error.context_mark
        line, column = (mark.line + 1, mark.column + 1) if mark else (1, 1)
        problem = str(error.problem or "not YAML").split("\n")[0]
        raise PackError(name, (Fault(line, column, "YAML", problem),)) from None
    except YAMLError as error:
        raise PackError(name, (Fault(1, 1, "YAML", str(error).split("\n")[0]),)) from None
    if not isinstance(data, CommentedMap):
        message = "a pack is a mapping that begins with 'pack: 1'; see docs/writing-a-pack.md"
        raise PackError(name, (Fault(1, 1, "pack", message),))
    faults = [Fault(*_position(data, path), _words(path), message) for path, message in crossing_faults(data)]
    try:
        pack = Pack.model_validate(data)
    except ValidationError as error:
        faults += [_fault(data, detail) for detail in error.errors()]
        pack = None
    if faults or pack is None:
        raise PackError(name, tuple(sorted(set(faults))))
    return pack


@cache
def shipped_packs() -> tuple[Pack, ...]:
    """Return the packs that come with Candor, those with a procedure first."""
    folder = resources.files("candor.packs") / "shipped"
    files = sorted((f for f in folder.iterdir() if f.name.endswith(".yaml")), key=lambda f: f.name)
    found = [parse_pack(f.read_text(encoding="utf-8"), f.name) for f in files]
    return tuple(sorted(found, key=lambda p: (not p.procedure, p.id)))


_EXPECTED = {
    "missing": "the key {last!r} is missing",
    "extra_forbidden": "{last!r} is not a key that belongs here; is it misspelt?",
    "string_too_short": "empty; words were expected",
    "union_tag_not_found": "the key 'kind' is missing; expected check, wait, points or adjust",
}


def _fault(data: CommentedMap, detail: ErrorDetails) -> Fault:
    path = _real_path(data, detail["loc"], detail["type"])
    last = path[-1] if path else "pack"
    template = _EXPECTED.get(detail["type"])
    if template:
        message = template.format(last=last)
    else:
        message = detail["msg"].removeprefix("Value error, ")
        message = message[0].lower() + message[1:]
        given = detail.get("input")
        if not isinstance(given, dict | list | tuple):
            message += f"; found {given!r}"
    return Fault(*_position(data, path), _words(path), message)


def _real_path(data: Any, loc: tuple[int | str, ...], kind: str) -> tuple[int | str, ...]:
    """Drop what the validator adds to a path (tags of a union) and keep what is in the file."""
    path: list[int | str] = []
    node = data
    for index, part in enumerate(loc):
        last = index == len(loc) - 1
        if (isinstance(node, CommentedMap) and part in node) or (
            isinstance(node, CommentedSeq) and isinstance(part, int) and part < len(node)
        ):
            node = node[part]
        elif not (last and kind == "missing"):
            continue
        path.append(part)
    return tuple(path)


def _position(data: Any, path: tuple[int | str, ...]) -> tuple[int, int]:
    """Return line and column, from 1, of the deepest part of `path` that stands in the file."""
    node, place = data, (0, 0)
    for part in path:
        try:
            if isinstance(node, CommentedMap) and part in node:
                place = node.lc.key(part)
            elif isinstance(node, CommentedSeq) and isinstance(part, int):
                place = node.lc.item(part)
            else:
                break
            node = node[part]
        except (KeyError, IndexError, TypeError, AttributeError):
            break
    return place[0] + 1, place[1] + 1


def _words(path: tuple[int | str, ...]) -> str:
    """Return a path as people count: ``procedure, item 2, steps, item 1``."""
    return ", ".join(f"item {part + 1}" if isinstance(part, int) else part for part in path) or "pack"
