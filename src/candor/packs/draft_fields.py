"""What stands in the text of a pack as an outline, and what of it can be said in fields, with what the format says of each."""

from __future__ import annotations

import json
import re
import types
from collections.abc import Iterator, Mapping
from typing import Annotated, Any, Final, Literal, Union, get_args, get_origin

from pydantic import BaseModel
from pydantic.fields import FieldInfo

from candor.core.late_dataclass import dataclass
from candor.packs.draft_text import DraftText, Path, in_brackets, number_or_words
from candor.packs.model import Pack

FieldKind = Literal["words", "number", "choice", "yes", "list", "text"]
_RANGE: Final = "{key: new, title: 10 V, full_scale: 10, look: {passes: [as it should be]}}"
_STEP: Final = "{key: new, kind: check, title: A step, do: What to do first, aim: What should come of it, mistake: What goes wrong}"
# What a list is called, and what one of it looks like at first: every word there is to be replaced.
LISTS: Final[Mapping[tuple[str, ...], tuple[str, str]]] = {
    ("cautions",): ("Cautions", "{key: new, level: attention, short: Beware of what, text: What can happen and what to do.}"),
    ("zones",): ("Walk round", "{key: new, title: Another place}"),
    ("controls",): ("Controls", "{key: new, name: NEW, positions: [one, two]}"),
    ("modifiers",): ("Modifiers", "{key: new, title: ×10, factor: 10}"),
    ("dial", "scales"): ("Scales", "{key: new, title: 0–10, even: {stop: 10, divisions: 50, number_every: 10}}"),
    ("adjusters",): ("Adjusters", "{key: new, name: NEW}"),
    ("functions",): ("Functions", "{key: new, title: DC volts, unit: V, read_as: look, ranges: [" + _RANGE + "]}"),
    ("functions", "ranges"): ("Ranges", _RANGE),
    ("procedure",): ("Procedure", "{key: new, title: Another section, phase: as found, steps: [" + _STEP + "]}"),
    ("procedure", "steps"): ("Steps", _STEP),
    ("roll",): ("Chart", "{tube: NEW}"),
    ("parts",): ("Parts", "{ref: R1, value: 10k}"),
}  # fmt: skip
ONE_OF_A_KIND: Final[Mapping[tuple[str], str]] = {
    ("dial",): "Face",
    ("circuit",): "Circuit",
    ("borrows",): "Borrowed",
}
NONE_OF_THEM: Final = "[]"  # said of a list, which is another thing than to say nothing of it
CIRCUIT: Final = ("circuit",)
_TITLES = ("title", "name", "short", "tube", "ref", "key")
_NO_FIELDS = ("pack",)  # the version of the format is the program's


@dataclass(frozen=True)
class OutlineLine:
    """One line of the outline: a thing of the pack, or a list of things.

    Attributes
    ----------
    path : tuple
    title : str
    depth : int
    is_list : bool
        Things can be added to it; otherwise it may be in a list, and be moved there.
    in_list : bool
    line : int
        Of the text, from 1; 0 where nothing of it is written yet.
    """

    path: Path
    title: str
    depth: int
    is_list: bool
    in_list: bool
    line: int


@dataclass(frozen=True)
class DraftField:
    """A value that can be said in a field.

    Attributes
    ----------
    path : tuple
        Where it stands, or would.
    title : str
        As the format calls it.
    kind : str
        "text" is of several lines.
    choices : tuple of str
        Of a choice.
    value : str
        As it is written; a list with commas between.
    tip : str
        What the format says of it.
    needed : bool
    """

    path: Path
    title: str
    kind: FieldKind
    choices: tuple[str, ...]
    value: str
    tip: str
    needed: bool


def outline(text: DraftText) -> tuple[OutlineLine, ...]:
    """Return what a pack has and may have, in the order of the format."""
    return (_line(text, (), "What it is", 0), *_lines(text, (), 0))


def _lines(text: DraftText, path: Path, depth: int) -> Iterator[OutlineLine]:
    names = tuple(p for p in path if isinstance(p, str))
    for lists, (title, _) in LISTS.items():
        is_here = lists[:-1] == names and (len(lists) == 1 or text.piece(path) is not None)
        no_face_yet = lists == ("dial", "scales") and not names and text.piece(("dial",)) is None
        if not (is_here or no_face_yet):
            continue
        own = (*path, *lists[len(names) :])
        inside = text.under(own)
        named = (
            f"{title} · {len(inside)}"
            if inside
            else f"{title}, by reference"
            if text.is_repeated(own)
            else f"{title} · none"
        )
        yield _line(text, own, named, depth, is_list=not text.is_repeated(own))
        for item in inside:
            yield _line(text, item, title_of(text, item), depth + 1, in_list=True)
            yield from _lines(text, item, depth + 2)
    for (key,), title in ONE_OF_A_KIND.items() if not names else ():
        if text.piece((key,)) is not None:
            yield _line(text, (key,), title, depth)
            yield from _lines(text, (key,), depth + 1)
        elif (key,) == CIRCUIT:
            yield _line(text, (key,), f"{title} · none", depth, is_list=True)


def _line(
    text: DraftText, path: Path, title: str, depth: int, is_list: bool = False, in_list: bool = False
) -> OutlineLine:
    line = text.line_of(path) if path else 1
    return OutlineLine(path=path, title=title, depth=depth, is_list=is_list, in_list=in_list, line=line)


def title_of(text: DraftText, path: Path) -> str:
    """Return what a thing is called, by the first of its names that stands there."""
    if (piece := text.piece(path)) is not None and piece.kind == "scalar":
        return piece.words
    return next((words for name in _TITLES if (words := text.words((*path, name)))), "…")


def added(text: DraftText, path: Path) -> str:
    """Return the text with one more thing of a list, or the circuit where there is none yet. Raises as DraftText.with_item."""
    if path == CIRCUIT:
        return text.with_value(path, "\n  netlist: |\n    R1 in 0 10meg", as_words=False)
    return text.with_item(path, first_words(text, path))


def first_words(text: DraftText, path: Path) -> str:
    """Return what one more thing of a list looks like at first, as YAML: on the face that there is, a step for each function."""
    words = _first_words(text, path)
    taken = {text.words((*item, "key")) for item in text.under(path)}
    name = next(n for n in ("new", *(f"new-{i}" for i in range(2, 1000))) if n not in taken)
    return words.replace("{key: new,", f"{{key: {name},", 1)


def _first_words(text: DraftText, path: Path) -> str:
    names = tuple(p for p in path if isinstance(p, str))
    scale = next(iter(text.under(("dial", "scales"))), None)
    if names[-1] in ("functions", "ranges") and scale is not None:
        stop = text.words((*scale, "even", "stop")) or "10"
        key = text.words((*scale, "key"))
        one = f"{{key: new, title: {stop} V, full_scale: {stop}, scale: {key}, limit: {{percent_of_full_scale: 3}}}}"
        return one if names[-1] == "ranges" else f"{{key: new, title: DC volts, unit: V, ranges: [{one}]}}"
    if names == ("procedure",) and (functions := text.under(("functions",))):
        steps = ", ".join(_points(text, function) for function in functions)
        return f"{{key: found, title: As found, phase: as found, steps: [{steps}]}}"
    return LISTS[names][1]


def _points(text: DraftText, function: Path) -> str:
    """Return a step that reads a function at its usual points, three on a scale (common practice, no source)."""
    key = text.words((*function, "key"))
    on_scale = any(text.words((*r, "scale")) for r in text.under((*function, "ranges")))
    at = "[0.2, 0.5, 1.0]" if on_scale else "[1.0]"
    return (
        f'{{key: {key}, kind: points, function: {key}, at: {at}, title: "{{range}} range at {{applied}}", '
        f'do: "Range {{range}}. Apply {{applied}}.", aim: "{{nominal}}, within the limit.", '
        "mistake: A range changed without waiting.}"
    )


def fields_of(text: DraftText, path: Path) -> tuple[DraftField, ...]:
    """Return what can be said of the thing at a path; what is made of things of its own is said one deeper, as ``limit: …``."""
    model = _model_at(text, path)
    return () if model is None else tuple(_fields(text, path, model, "", deeper=True))


def _fields(text: DraftText, path: Path, model: type[BaseModel], before: str, deeper: bool) -> Iterator[DraftField]:
    names = tuple(p for p in path if isinstance(p, str))
    for name, info in model.model_fields.items():
        if (not path and name in _NO_FIELDS) or (*names, name) in LISTS or (not names and (name,) in ONE_OF_A_KIND):
            continue
        inner = _models(info.annotation)
        if inner and not _is_many(info.annotation):
            if deeper:
                yield from _fields(text, (*path, name), inner[0], f"{before}{_spoken(name)}: ", deeper=False)
            continue
        kind, choices = _kind(info)
        own = (*path, name)
        value = _list_of(text, own) if kind == "list" else text.words(own)
        if name == "name" and _is_in_words(text, path):
            value = text.words(path)
        needed = info.is_required() and deeper
        yield DraftField(
            path=own,
            title=f"{before}{_spoken(name)}",
            kind=kind,
            choices=choices,
            value=value,
            tip=_tip(info),
            needed=needed,
        )


def with_field(text: DraftText, field: DraftField, value: str) -> str:
    """Return the text with a field said otherwise; emptied, what it said is taken out where it may be.

    Raises
    ------
    CandorError
        Where there is nothing that it could be said of.
    """
    piece = text.piece(field.path)
    in_lines = (piece is not None and piece.style == "|") or "\n" in field.value.strip()  # a netlist
    value = value.strip() if in_lines else " ".join(value.split())
    if field.kind == "number" and re.fullmatch(r"[-+]?\d*,\d+", value):  # YAML knows the point alone
        value = value.replace(",", ".")
    if value == field.value.strip():
        return text.text
    if _is_in_words(
        text, field.path[:-1]
    ):  # a control that has a name and no more becomes a thing with its own fields
        words = text.words(field.path[:-1])
        key = re.sub(r"[^a-z0-9]+", "-", words.casefold()).strip("-") or "new"
        text = DraftText(
            text.with_value(
                field.path[:-1],
                f"{{key: {number_or_words(key)}, name: {json.dumps(words, ensure_ascii=False)}}}",
                False,
            )
        )
    if not value and not field.needed:
        left, above = DraftText(text.without(field.path)), field.path[:-1]
        whole = left.piece(above) if above and isinstance(above[-1], str) else None
        is_empty = whole is not None and not left.under(above)
        return left.without(above) if is_empty else left.text  # a limit of nothing is none
    if field.kind == "list":
        return text.with_value(field.path, value if value == NONE_OF_THEM else f"[{value}]", as_words=False)
    if field.kind == "yes" or (field.kind == "text" and value[:1] in "{["):
        return text.with_value(field.path, value, as_words=False)
    plain = piece is None or (piece.kind == "scalar" and not piece.style)
    as_it_is = field.kind in ("words", "text", "choice") and plain
    if as_it_is and number_or_words(value) != value:
        return text.with_value(field.path, number_or_words(value), as_words=False)
    changed = text.with_value(field.path, value)
    return _without_what_it_no_longer_has(DraftText(changed), field.path) if field.path[-1] == "kind" else changed


def _without_what_it_no_longer_has(text: DraftText, path: Path) -> str:
    """Of a step that is of another kind now, take out the keys that the new kind does not have."""
    model = _model_at(text, path[:-1])
    if model is None or len(path) < 2:  # the kind of the instrument
        return text.text
    for own in text.under(path[:-1]):
        if own[-1] not in model.model_fields:
            return _without_what_it_no_longer_has(DraftText(text.without(own)), path)
    return text.text


def _is_in_words(text: DraftText, path: Path) -> bool:
    """Whether a thing of a list stands there in words, where it could be one with fields."""
    piece = text.piece(path)
    return bool(path) and isinstance(path[-1], int) and piece is not None and piece.kind == "scalar"


def _list_of(text: DraftText, path: Path) -> str:
    """Return a list with commas between, however it stands."""
    piece = text.piece(path)
    if piece is None:
        return ""
    if not text.under(path) and not text.is_repeated(path):
        return NONE_OF_THEM
    if piece.flow:
        return text.words(path)[1:-1].strip()
    return ", ".join(in_brackets(text, item) for item in text.under(path))


def _model_at(text: DraftText, path: Path) -> type[BaseModel] | None:
    model: type[BaseModel] = Pack
    for n, part in enumerate(path):
        if isinstance(part, int):
            continue
        info = model.model_fields.get(part)
        found = _models(info.annotation) if info is not None else ()
        if not found:
            return None
        model = found[0]
        if len(found) > 1:  # kinds of step
            kind = text.words((*path[: n + 2], "kind"))
            model = next((m for m in found if kind in get_args(m.model_fields["kind"].annotation)), found[0])
    return None if path and isinstance(path[-1], str) and _is_list(text, path) else model


def _is_list(text: DraftText, path: Path) -> bool:
    piece = text.piece(path)
    return piece is not None and piece.kind == "list"


def _models(annotation: Any) -> tuple[type[BaseModel], ...]:
    if isinstance(annotation, type) and issubclass(annotation, BaseModel):
        return (annotation,)
    return tuple(m for inner in get_args(annotation) if get_origin(annotation) is not Literal for m in _models(inner))


def _is_many(annotation: Any) -> bool:
    if get_origin(annotation) in (tuple, dict):
        return True
    return (
        any(_is_many(a) for a in get_args(annotation))
        if get_origin(annotation) in (Union, types.UnionType, Annotated)
        else False
    )


def _kind(info: FieldInfo) -> tuple[FieldKind, tuple[str, ...]]:
    annotation = info.annotation
    plain = [a for a in _flat(annotation) if a is not type(None)]
    chosen = tuple(str(word) for a in plain if get_origin(a) is Literal for word in get_args(a))
    if chosen and all(get_origin(a) is Literal for a in plain):
        return "choice", chosen
    if bool in plain:
        return "yes", ()
    if any(get_origin(a) is dict for a in plain):
        return "text", ()
    if any(get_origin(a) is tuple for a in plain):
        return "list", ()
    return ("number", ()) if any(a in (float, int) for a in plain) else ("words", ())


def _flat(annotation: Any) -> Iterator[Any]:
    if get_origin(annotation) in (Union, types.UnionType):
        for inner in get_args(annotation):
            yield from _flat(inner)
    elif get_origin(annotation) is Annotated:
        yield from _flat(get_args(annotation)[0])
    else:
        yield annotation


def _tip(info: FieldInfo) -> str:
    return info.description or ""


def _spoken(name: str) -> str:
    return name.replace("_", " ")
