"""Reading a pack from YAML, with every fault by line and column and what was expected."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable
from pathlib import Path
from typing import Any, TypeVar

from pydantic import ValidationError
from pydantic_core import ErrorDetails

from candor.core.errors import CandorError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded
from candor.packs.borrowing import Lender, borrowed_into
from candor.packs.crossings import crossing_faults
from candor.packs.model import Pack, PackModel
from candor.packs.promises import broken_promises
from candor.packs.yaml_text import LinedList, LinedMap, MarkedError, YamlError, built

M = TypeVar("M", bound=PackModel)
Crossings = Callable[[Any], Iterable[tuple[tuple[int | str, ...], str]]]
NEWEST = {"pack": 2, "kind": 1}  # versions of the formats
LARGEST_PACK = 60_000  # characters; the largest that comes with Candor has 12 000
DEEPEST = 8  # brackets in brackets
MOST_NODES = 100_000  # with what is repeated by reference

# What the YAML library lets through of texts that are no YAML it can build: dates that are none, tags without a value.
_CANNOT_BE_BUILT = (ValueError, TypeError, AttributeError, LookupError, OverflowError, RecursionError)


@dataclass(frozen=True, order=True)
class Fault:
    """One fault of a pack; line and column count from 1."""

    line: int
    column: int
    where: str
    message: str

    @property
    def place(self) -> str:
        """Where it is in the file."""
        return worded("packs.line_column", line=self.line, column=self.column)

    def __str__(self) -> str:
        return f"{self.place}: {self.where}: {self.message}"


class PackError(CandorError, ValueError):
    """A pack that cannot be used, with all its faults."""

    def __init__(self, name: str, faults: tuple[Fault, ...]) -> None:
        listed = "\n".join(f"  {fault}" for fault in faults)
        count = "1 fault" if len(faults) == 1 else f"{len(faults)} faults"
        super().__init__(worded("packs.nothing_was_imported", name=name, count=count, listed=listed), place=name)
        self.faults = faults


def lends_nothing(name: str) -> None:
    """Stand where no other pack is at hand."""


def read_pack(path: Path, lend: Lender = lends_nothing) -> Pack:
    """Read a pack file; `lend` returns the pack of an id that it may borrow from.

    Raises
    ------
    PackError
        With every fault found.
    """
    return parse_pack(text_of(path), path.name, lend)


def text_of(path: Path) -> str:
    """Return the text of a file that may be a pack.

    Raises
    ------
    PackError
        Where it is no file, too long, no UTF-8, or cannot be read.
    """
    try:
        if path.exists() and not path.is_file():  # a pipe or a device may never end
            raise PackError(str(path), (Fault(1, 1, "file", worded("packs.is_no_file_a_yaml_file")),))
        if path.stat().st_size > 4 * LARGEST_PACK:
            raise PackError(path.name, (_too_long(path.stat().st_size),))
        return path.read_text(encoding="utf-8")
    except UnicodeDecodeError as error:
        line = path.read_bytes()[: error.start].count(b"\n") + 1
        raise PackError(path.name, (Fault(line, 1, "text", worded("packs.not_utf_save_the_file_as")),)) from None
    except OSError as error:
        message = worded("packs.cannot_be_read_a_yaml_file", strerror=error.strerror)
        raise PackError(str(path), (Fault(1, 1, "file", message),)) from None


def parse_pack(text: str, name: str, lend: Lender = lends_nothing) -> Pack:
    """Read a pack from YAML text; `name` stands in the sentences, `lend` is where it may borrow. Raises PackError."""
    pack = parse_as(Pack, text, name, crossing_faults, lend)
    broken = list(broken_promises(pack))
    if broken:
        data = _tree(text, name)
        raise PackError(name, tuple(sorted({_placed(data, path, message) for path, message in broken})))
    return pack


def parse_as(model: type[M], text: str, name: str, crossings: Crossings, lend: Lender = lends_nothing) -> M:
    """Read what a model describes from YAML text.

    Parameters
    ----------
    model : type of PackModel
        `Pack` or `InstrumentKind`.
    text, name : str
        `name` stands in the sentences.
    crossings : function
        Returns the faults of what refers to something else in the same file: (path, message).
    lend : function
        Where what it borrows is found.

    Raises
    ------
    PackError
        With every fault found.
    """
    what = "kind" if "kind" in model.model_fields and "pack" not in model.model_fields else "pack"
    data = _tree(text, name)
    if not isinstance(data, LinedMap):
        message = worded("packs.a_is_a_mapping_that_begins", what=what, newest=NEWEST[what])
        raise PackError(name, (Fault(1, 1, what, message),))
    faults: list[Fault] = []
    made: M | None = None
    whole: Any = data
    try:
        if _borrows(data):
            whole, wrong = borrowed_into(data, lend)
            faults += [_placed(data, path, message) for path, message in wrong]
        made = model.model_validate(whole)
    except ValidationError as error:
        inside: tuple[int | str, ...] = ("borrows",) if error.title == "Borrows" else ()
        faults += [_fault(data, detail, inside) for detail in error.errors()]
    try:
        faults += [_placed(data, path, message) for path, message in crossings(whole)]
    except _CANNOT_BE_BUILT:
        if made is not None:
            raise
        # What is of the wrong kind was said above; what refers to it cannot be looked at.
    if faults or made is None:
        raise PackError(name, tuple(sorted(set(faults))))
    return made


def _tree(text: str, name: str) -> Any:
    if len(text) > LARGEST_PACK:
        raise PackError(name, (_too_long(len(text)),))
    deep = _too_deep(text)
    if deep:
        raise PackError(
            name, (Fault(deep, 1, "YAML", worded("packs.brackets_more_than_deep_a_pack", deepest=DEEPEST)),)
        )
    try:
        data = built(text)
        if _nodes(data) > MOST_NODES:
            raise PackError(
                name, (Fault(1, 1, "YAML", worded("packs.over_values_repeated_ones_counted", most_nodes=MOST_NODES)),)
            )
    except MarkedError as error:
        mark = error.problem_mark or error.context_mark
        line, column = (mark.line + 1, mark.column + 1) if mark else (1, 1)
        problem = str(error.problem or "not YAML").split("\n")[0]
        raise PackError(name, (Fault(line, column, "YAML", problem),)) from None
    except YamlError as error:
        raise PackError(name, (Fault(1, 1, "YAML", str(error).split("\n")[0]),)) from None
    except _CANNOT_BE_BUILT as error:
        if isinstance(error, PackError):
            raise
        why = str(error) or "not YAML"
        raise PackError(
            name, (Fault(1, 1, "YAML", worded("packs.a_value_cannot_be_read", why=why.splitlines()[0])),)
        ) from None
    return data


def _too_long(size: int) -> Fault:
    return Fault(1, 1, "file", worded("packs.characters_long_a_pack_may_have", size=size, largest_pack=LARGEST_PACK))


def _too_deep(text: str) -> int:
    """Return the line at which brackets or list dashes lie too deep, 0 for none; quotes are not looked at."""
    for number, line in enumerate(text.splitlines(), 1):
        if line.count("[") + line.count("{") + line.count("- ") > DEEPEST:
            depth = deepest = 0
            for sign in line:
                depth += (sign in "[{") - (sign in "]}")
                deepest = max(deepest, depth)
            begun = len(line) - len(re.sub(r"^(\s*(- |\? ))+", "", line))
            if deepest > DEEPEST or begun > 2 * DEEPEST:
                return number
    depth = 0
    for number, line in enumerate(text.splitlines(), 1):
        depth += line.count("[") + line.count("{") - line.count("]") - line.count("}")
        if depth > DEEPEST:
            return number
    return 0


def _nodes(data: Any) -> int:
    """Count the values of a tree as often as they are referred to, up to a little over MOST_NODES."""
    count, waiting = 0, [data]
    while waiting and count <= MOST_NODES:
        node = waiting.pop()
        count += 1
        if isinstance(node, LinedMap):
            waiting.extend(node.values())
        elif isinstance(node, LinedList):
            waiting.extend(node)
    return count


_EXPECTED = {
    "missing": "the key {last!r} is missing",
    "extra_forbidden": "{last!r} is not a key that belongs here; is it misspelt?",
    "string_too_short": worded("packs.empty_words_were_expected"),
    "union_tag_not_found": worded("packs.the_key_kind_is_missing_expected"),
}


def _borrows(data: LinedMap) -> bool:
    terms = data.get("borrows")
    return isinstance(terms, LinedMap) and not terms.get("taken")


def _placed(data: LinedMap, path: tuple[int | str, ...], message: str) -> Fault:
    """Return a fault where it stands; one of what is borrowed stands where the file says that it borrows."""
    place = path
    if _borrows(data) and path and path[0] != "borrows":
        place = (path[0],) if path[0] in data else ("borrows",)
    return Fault(*_position(data, place), _words(path), message)


def _fault(data: LinedMap, detail: ErrorDetails, inside: tuple[int | str, ...] = ()) -> Fault:
    loc = (*inside, *detail["loc"])
    path = loc if _borrows(data) else _real_path(data, loc, detail["type"])
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
    return _placed(data, path, message)


def _real_path(data: Any, loc: tuple[int | str, ...], kind: str) -> tuple[int | str, ...]:
    """Drop what the validator adds to a path (tags of a union) and keep what is in the file."""
    path: list[int | str] = []
    node: Any = data
    for index, part in enumerate(loc):
        last = index == len(loc) - 1
        listed = isinstance(node, LinedList) and isinstance(part, int) and part < len(node)
        if listed or (isinstance(node, LinedMap) and part in node):
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
            if not isinstance(node, LinedMap | LinedList):
                break
            held: Any = node  # a word in a list is no place in it: TypeError, as below
            place, node = held.places[part], held[part]
        except (LookupError, TypeError):
            break
    return place[0] + 1, place[1] + 1


def _words(path: tuple[int | str, ...]) -> str:
    """Return a path as people count: ``procedure, item 2, steps, item 1``."""
    return ", ".join(f"item {part + 1}" if isinstance(part, int) else part for part in path) or "pack"
