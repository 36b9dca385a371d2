"""Changing the text of a pack at one place: every other character stays as it is, comments and layout too."""

from __future__ import annotations

import itertools
import json
import re
from collections.abc import Iterator, Sequence
from typing import Literal

from yaml.nodes import MappingNode, Node, ScalarNode, SequenceNode

from candor.core.errors import CandorError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded
from candor.packs.yaml_text import MERGED, YamlError, composed

Path = tuple[int | str, ...]
_PLAIN = re.compile(r"[^\s\-?:,\[\]{}#&*!|>'\"%@`][^#\n]*")
_NO_COLON = re.compile(r":(?:[\s?,\[\]{}]|$)")  # a colon that stands for more than itself
_ANCHOR = re.compile(r"&\S+\s+")
_NUMBER = re.compile(r"[-+]?(?:\d+(?:\.\d*)?|\.\d+)(?:e[-+]?\d+)?")
# Words that YAML takes for something else.
_NO_WORDS = re.compile(
    r"(?:true|false|null|yes|no|on|off|~|[-+]?[.\d][\d._]*(?:e[-+]?\d+)?|0[xob][\da-f]+|\.inf|\.nan)", re.I
)


@dataclass(frozen=True)
class Piece:
    """A value in the text of a pack.

    Attributes
    ----------
    path : tuple of str and int
        The keys, and the places in lists, that lead to it.
    kind : str
    start, end : int
        Its characters.
    key_start : int
        Where its key begins, or the dash of the list that it is in.
    flow : bool
        Of a mapping or list: in brackets.
    style : str
        Of a scalar: its quotation mark, ``|`` or ``>``; empty where it stands plain.
    words : str
        Of a scalar: what it says.
    """

    path: Path
    kind: Literal["mapping", "list", "scalar"]
    start: int
    end: int
    key_start: int
    flow: bool = False
    style: str = ""
    words: str = ""


class DraftText:
    """The text of a pack with the places of all its values.

    Raises
    ------
    CandorError
        Where it is no YAML.
    """

    def __init__(self, text: str) -> None:
        self.text = text
        try:
            root = composed(text)
        except (YamlError, ValueError, RecursionError) as error:
            raise CandorError(worded("packs.the_text_is_not_yaml", why=str(error).splitlines()[0])) from None
        self._pieces: dict[Path, Piece] = {}
        self._children: dict[Path, list[Path]] = {}
        self._repeats: set[Path] = set()
        seen: set[int] = set()
        if root is not None:
            self._take((), root, 0, seen)

    def _take(self, path: Path, node: Node, key_start: int, seen: set[int]) -> bool:
        if id(node) in seen:  # repeated by reference: it is changed where it stands first
            self._repeats |= {path, path[:-1]}
            return False
        seen.add(id(node))
        start, end = node.start_mark.index, node.end_mark.index
        if anchor := _ANCHOR.match(self.text, start):
            start = anchor.end()
        flow = bool(getattr(node, "flow_style", False))
        if isinstance(node, ScalarNode):
            self._pieces[path] = Piece(
                path=path,
                kind="scalar",
                start=start,
                end=end,
                key_start=key_start,
                style=node.style or "",
                words=node.value,
            )
        elif isinstance(node, SequenceNode):
            self._pieces[path] = Piece(path=path, kind="list", start=start, end=end, key_start=key_start, flow=flow)
            self._children[path] = []
            for number, item in enumerate(node.value):
                dash = item.start_mark.index if flow else self.text.rfind("-", 0, item.start_mark.index)
                if self._take((*path, number), item, dash, seen):
                    self._children[path].append((*path, number))
        elif isinstance(node, MappingNode):
            self._pieces[path] = Piece(
                path=path, kind="mapping", start=start, end=end, key_start=key_start, flow=flow
            )
            self._children[path] = []
            for key, value in node.value:
                if key.value == MERGED:
                    continue
                if self._take((*path, key.value), value, key.start_mark.index, seen):
                    self._children[path].append((*path, key.value))
        return True

    def piece(self, path: Path) -> Piece | None:
        """Return what stands at a path, None where nothing does."""
        return self._pieces.get(path)

    def under(self, path: Path) -> tuple[Path, ...]:
        """Return the paths of what a mapping or list holds, in order; nothing of what it repeats by reference."""
        return tuple(self._children.get(path, ()))

    def is_repeated(self, path: Path) -> bool:
        """Whether what stands at a path, or something right in it, is a reference to what stands elsewhere."""
        return path in self._repeats

    def words(self, path: Path) -> str:
        """Return a value as it stands in the text, a scalar as what it says; empty where there is none."""
        piece = self._pieces.get(path)
        if piece is None:
            return ""
        return piece.words if piece.kind == "scalar" else self.text[piece.start : piece.end].strip()

    def line_of(self, path: Path) -> int:
        """Return the line, from 1, at which a value or its key begins; 0 where there is none."""
        piece = self._pieces.get(path)
        return 0 if piece is None else self.text.count("\n", 0, piece.key_start) + 1

    def path_at(self, place: int) -> Path:
        """Return the path of the innermost value whose key or text holds a character."""
        found: Path = ()
        while True:
            inner = [p for p in self.under(found) if (q := self._pieces.get(p)) and q.key_start <= place <= q.end]
            if not inner:
                return found
            found = inner[-1]

    # --- changes: each returns the new text ----------------------------------------------------------

    def with_value(self, path: Path, value: str, as_words: bool = True) -> str:
        """Return the text with another value at a path.

        Parameters
        ----------
        path : tuple of str and int
            Where nothing stands yet, its mapping must: the key is added at its end. Of two missing keys both are added.
        value : str
            Words, or, where `as_words` is false, YAML in one line, such as ``[1, 2]``.

        Raises
        ------
        CandorError
            Where there is nothing to add it to.
        """
        piece = self._pieces.get(path)
        if piece is not None:
            if piece.style in ("|", ">"):
                return self._spliced(piece.start, piece.end, self._block(piece, value))
            if piece.kind != "scalar" and not piece.flow and as_words is False:
                return self._block_replaced(piece, value)
            style = piece.style if piece.kind == "scalar" else ""
            shown = _scalar(value, style, self._in_flow(path)) if as_words else value
            return self._spliced(piece.start, piece.end, shown)
        *above, key = path
        shown = _scalar(value, "", flow=True) if as_words else value
        if self._pieces.get(tuple(above)) is None and above:
            return self.with_value(tuple(above), f"{{{key}: {shown}}}", as_words=False)
        return self._added(tuple(above), str(key), _scalar(value, "", self._in_flow(path)) if as_words else value)

    def without(self, path: Path) -> str:
        """Return the text without a key and its value, or without an item of a list; the same where it is not there."""
        piece = self._pieces.get(path)
        if piece is None:
            return self.text
        self._none_takes_from((path,))
        above = self._pieces[path[:-1]]
        beside = self.under(path[:-1])
        place = beside.index(path)
        if above.flow:
            if place + 1 < len(beside):
                return self._spliced(piece.key_start, self._pieces[beside[place + 1]].key_start, "")
            if place:
                return self._spliced(self._pieces[beside[place - 1]].end, piece.end, "")
            return self._spliced(piece.key_start, piece.end, "")
        start, end = self._segment(path)
        if len(beside) == 1:  # an empty list or mapping has no block form
            return self.without(path[:-1]) if path[:-1] else self._spliced(start, end, "")
        if start == self._line_start(piece.key_start) or place:
            return self._spliced(start, end, "")
        # The first key of an item stands behind its dash: the next takes its place.
        following = self._pieces[beside[place + 1]]
        return self._spliced(piece.key_start, following.key_start, "")

    def moved(self, path: Path, by: int) -> str:
        """Return the text with an item of a list moved by so many places; the same where it cannot go so far."""
        beside = self.under(path[:-1])
        here = beside.index(path) if path in beside else -1  # the whole, or one that is gone, stands in no list
        there = here + by
        if here < 0 or not 0 <= there < len(beside) or path[:-1] in self._repeats:
            return self.text
        order = list(range(len(beside)))
        order.insert(there, order.pop(here))
        spans = [self._segment(p) for p in beside]
        if self._pieces[path[:-1]].flow:
            spans = [(self._pieces[p].key_start, self._pieces[p].end) for p in beside]
        self._none_takes_from(beside[min(here, there) : max(here, there) + 1])
        between = [self.text[a[1] : b[0]] for a, b in itertools.pairwise(spans)]
        pieces = [self._ended(self.text[slice(*spans[i])], self._pieces[path[:-1]].flow) for i in order]
        joined = "".join(p + (between[n] if n < len(between) else "") for n, p in enumerate(pieces))
        return self._spliced(spans[0][0], spans[-1][1], joined)

    def copied(self, path: Path) -> str:
        """Return the text with an item of a list once more behind it, its key with a number so that it is another."""
        piece = self._pieces[path]
        if self._pieces[path[:-1]].flow:
            return self._spliced(piece.end, piece.end, f", {self._renamed(path, piece.key_start, piece.end)}")
        start, end = self._segment(path)
        own = self.text[start:end] if self.text[start:end].endswith("\n") else self.text[start:end] + "\n"
        return self._spliced(
            end, end, ("" if self.text[:end].endswith("\n") else "\n") + self._renamed(path, start, start + len(own))
        )

    def with_item(self, path: Path, value: str) -> str:
        """Return the text with another item at the end of a list, YAML in one line; the list is begun where there is none."""
        piece = self._pieces.get(path)
        if piece is None:
            *above, key = path
            where = self._pieces.get(tuple(above))
            if where is not None and not where.flow:
                margin = " " * (self._margin(tuple(above)) + 2)
                return self._added(tuple(above), str(key), f"\n{margin}- {value}")
            return self.with_value(path, f"[{value}]", as_words=False)
        items = self.under(path)
        if piece.flow or not items:
            inside = f", {value}" if items else value
            place = self._pieces[items[-1]].end if items else piece.start + 1
            return (
                self._spliced(place, place, inside)
                if piece.flow
                else self.with_value(path, f"[{value}]", as_words=False)
            )
        last = items[-1]
        _, end = self._segment(last)
        dash = self._pieces[last].key_start
        margin = " " * (dash - self._line_start(dash))
        return self._spliced(end, end, ("" if self.text[:end].endswith("\n") else "\n") + f"{margin}- {value}\n")

    def _none_takes_from(self, paths: Sequence[Path]) -> None:
        """Refuse where others take their values from one of these: it must stand, and before them."""
        for path in paths:
            piece = self._pieces[path]
            for name in re.findall(r"&([\w-]+)", self.text[piece.key_start : piece.end]):
                if re.search(rf"\*{re.escape(name)}\b", self.text[piece.end :]):
                    raise CandorError(worded("packs.others_take_their_values_from_it", name=name))

    # --- how --------------------------------------------------------------------------------------

    def _renamed(self, path: Path, start: int, end: int) -> str:
        key = self._pieces.get((*path, "key"))
        own = self.text[start:end]
        if key is None:
            return own
        others = {self.words((*p, "key")) for p in self.under(path[:-1])}
        base = re.sub(r"-\d+$", "", key.words)
        name = next(f"{base}-{n}" for n in range(2, 1000) if f"{base}-{n}" not in others)
        return own[: key.start - start] + _scalar(name, key.style, flow=True) + own[key.end - start :]

    def _in_flow(self, path: Path) -> bool:
        return any((piece := self._pieces.get(path[:n])) is not None and piece.flow for n in range(len(path)))

    def _added(self, path: Path, key: str, value: str) -> str:
        piece, inside = self._pieces.get(path), self.under(path)
        if piece is None or piece.kind != "mapping":
            raise CandorError(worded("packs.nothing_can_be_added_there", place=".".join(str(p) for p in path)))
        if piece.flow:
            place = self._pieces[inside[-1]].end if inside else piece.end - 1
            return self._spliced(place, place, f"{', ' if inside else ''}{key}: {value}")
        margin = " " * self._margin(path)
        _, end = self._segment(inside[-1])
        gap, lead = "" if self.text[:end].endswith("\n") else "\n", "" if value.startswith("\n") else " "
        return self._spliced(end, end, f"{gap}{margin}{key}:{lead}{value}\n")

    def _margin(self, path: Path) -> int:
        first = self._pieces[self.under(path)[0]].key_start
        return first - self._line_start(first)

    def _block(self, piece: Piece, value: str) -> str:
        head, _, body = self.text[piece.start : piece.end].partition("\n")
        margin = re.match(r" *", body)[0] or "  "  # type: ignore[index]
        if piece.style == ">":
            return f"{head}\n" + "\n".join(margin + line for line in _wrapped(value)) + "\n"
        return f"{head}\n" + "".join(f"{margin}{line}\n" if line else "\n" for line in value.rstrip("\n").split("\n"))

    def _block_replaced(self, piece: Piece, value: str) -> str:
        """Replace a mapping or list of several lines by one in brackets behind its key."""
        start = (
            self.text.rfind(":", 0, piece.start) + 1
            if piece.path and isinstance(piece.path[-1], str)
            else piece.start
        )
        _, end = (
            self._segment(piece.path) if isinstance(piece.path[-1], str) else (piece.start, self._said_to(piece.path))
        )
        return self._spliced(start, end, f" {value}\n")

    def _segment(self, path: Path) -> tuple[int, int]:
        """Return the lines of a key or item of a block, with the comments right above it, up to what follows."""
        beside = self.under(path[:-1])
        place = beside.index(path)
        start = self._begun(path)
        if place + 1 < len(beside):
            return start, self._begun(beside[place + 1])
        end = self._said_to(path)
        line_end = self.text.find("\n", max(end - 1, 0))
        return start, len(self.text) if line_end < 0 else line_end + 1

    def _said_to(self, path: Path) -> int:
        """Return where the last word of a value stands: a block ends for YAML only where the next thing begins, in its line."""
        piece = self._pieces[path]
        if piece.kind == "scalar" or piece.flow:
            return piece.end
        end = len(re.sub(r"(\n[ ]*(#.*)?)*\Z", "", self.text[: piece.end]))
        return max(
            end, *(self._said_to(p) for p in self.under(path)), 0
        )  # the last line of a netlist may look like a comment

    def _begun(self, path: Path) -> int:
        key_start = self._pieces[path].key_start
        start = self._line_start(key_start)
        if self.text[start:key_start].strip():
            return key_start  # behind a dash
        while start and re.fullmatch(r"[ ]*#.*", self.text[self._line_start(start - 1) : start - 1]):
            start = self._line_start(start - 1)
        return start

    def _line_start(self, place: int) -> int:
        return self.text.rfind("\n", 0, place) + 1

    def _spliced(self, start: int, end: int, put: str) -> str:
        return self.text[:start] + put + self.text[end:]

    @staticmethod
    def _ended(piece: str, flow: bool) -> str:
        return piece if flow or piece.endswith("\n") else piece + "\n"


def pieces_of(text: DraftText, path: Path = ()) -> Iterator[Path]:
    """Yield the paths of everything in a text, each before what it holds."""
    yield path
    for inner in text.under(path):
        yield from pieces_of(text, inner)


def _scalar(words: str, style: str, flow: bool) -> str:
    """Write words as YAML: in the quotation marks that they had, plain where they can stand so."""
    if style == "'":
        return "'" + words.replace("'", "''") + "'" if "\n" not in words else json.dumps(words, ensure_ascii=False)
    if not style and _NUMBER.fullmatch(words):
        return words
    plain = bool(_PLAIN.fullmatch(words)) and words == words.strip() and not _NO_COLON.search(words)
    plain = plain and not (flow and re.search(r"[,\[\]{}]", words))
    return words if plain and style != '"' else json.dumps(words, ensure_ascii=False)


def in_brackets(text: DraftText, path: Path) -> str:
    """Return a value as it stands between brackets."""
    piece = text.piece(path)
    if piece is None or piece.kind != "scalar":
        return text.words(path)
    return _scalar(piece.words, piece.style if piece.style in ("'", '"') else "", flow=True)


def number_or_words(words: str) -> str:
    """Write what must stay words in quotation marks where YAML would take it for a number or a yes."""
    return json.dumps(words, ensure_ascii=False) if _NO_WORDS.fullmatch(words.strip()) else words


def _wrapped(words: str, width: int = 110) -> list[str]:
    lines, line = [], ""
    for word in words.split():
        if line and len(line) + len(word) + 1 > width:
            lines.append(line)
            line = ""
        line = f"{line} {word}".strip()
    return [*lines, line]
