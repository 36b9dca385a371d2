"""YAML as packs are written in: composed with the place of every value, built into what carries its lines, and written.

Read by libyaml, with the core schema of YAML 1.2 (section 10.3 of the standard) in place of that of 1.1: *no* is a word and no
truth, 12:30 no number, a date a text. A key that stands twice is a fault: one of the two would be lost without a word.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any, ClassVar

import yaml
from yaml.nodes import MappingNode, Node, ScalarNode, SequenceNode

from candor.core.worded import worded

MERGED = "<<"  # the key whose mappings are taken over
_TAG = "tag:yaml.org,2002:"
YamlError = yaml.YAMLError
MarkedError = yaml.MarkedYAMLError
# What a plain scalar is, by its first characters and its whole (YAML 1.2, 10.3.2); the first that fits.
_CORE = (
    ("null", r"~|null|Null|NULL|", ["~", "n", "N", ""]),
    ("bool", r"true|True|TRUE|false|False|FALSE", list("tTfF")),
    ("int", r"[-+]?[0-9]+|0o[0-7]+|0x[0-9a-fA-F]+", list("-+0123456789")),
    ("float", r"[-+]?(?:\.[0-9]+|[0-9]+(?:\.[0-9]*)?)(?:[eE][-+]?[0-9]+)?", list("-+.0123456789")),
    ("float", r"[-+]?\.(?:inf|Inf|INF)|\.(?:nan|NaN|NAN)", list("-+.")),
    ("merge", MERGED, ["<"]),
)  # fmt: skip


class _Reader(yaml.CSafeLoader):
    yaml_implicit_resolvers: ClassVar[dict[str, list[Any]]] = {}


class _Writer(yaml.SafeDumper):
    yaml_implicit_resolvers: ClassVar[dict[str, list[Any]]] = {}

    def increase_indent(self, flow: bool = False, indentless: bool = False) -> None:  # noqa: ARG002
        super().increase_indent(
            flow, False
        )  # the dash of a list stands two in, as in the packs that come with Candor


for _name, _whole, _first in _CORE:
    for _class in (_Reader, _Writer):
        _class.add_implicit_resolver(f"{_TAG}{_name}", re.compile(rf"^(?:{_whole})$"), _first)


class LinedMap(dict[Any, Any]):
    """A mapping that knows where each of its keys stands: line and column, from 0."""

    def __init__(self) -> None:
        super().__init__()
        self.places: dict[Any, tuple[int, int]] = {}


class LinedList(list[Any]):
    """A list that knows where each of its items stands: line and column, from 0."""

    def __init__(self) -> None:
        super().__init__()
        self.places: list[tuple[int, int]] = []


class Literal(str):
    """Words that are written as a block, line by line."""


_Writer.add_representer(Literal, lambda writer, words: writer.represent_scalar(f"{_TAG}str", str(words), style="|"))


def composed(text: str) -> Node | None:
    """Return a text's values as nodes with their places in it; None where there are none. Raises YamlError, ValueError."""
    reader = _Reader(text)
    try:
        found: Node | None = reader.get_single_node()
    finally:
        reader.dispose()
    return found


def built(text: str) -> Any:
    """Return what a text says, mappings and lists with the lines of what is in them.

    Raises
    ------
    YamlError
        Where it is no YAML: with its place, mostly.
    ValueError
        Where a value has a tag that is none of the core schema's, or holds itself.
    """
    root = composed(text)
    return None if root is None else _build(root, {}, set())


def written(data: Mapping[str, Any]) -> str:
    """Return data of mappings, lists, words, numbers and truths as YAML, in the order it has."""
    made: str = yaml.dump(dict(data), Dumper=_Writer, sort_keys=False, allow_unicode=True, width=120)
    return made


def _build(node: Node, made: dict[int, Any], inside: set[int]) -> Any:
    """Build what a node says; what is referred to twice is built once, so that no text grows by what it repeats."""
    if id(node) in made:
        if id(node) in inside:
            raise ValueError(worded("packs.a_value_holds_itself"))
        return made[id(node)]
    inside.add(id(node))
    if isinstance(node, ScalarNode):
        made[id(node)] = _scalar(node)
    elif isinstance(node, SequenceNode):
        items = made[id(node)] = LinedList()
        for item in node.value:
            items.append(_build(item, made, inside))
            items.places.append((item.start_mark.line, item.start_mark.column))
    elif isinstance(node, MappingNode):
        made[id(node)] = mapping = LinedMap()
        for key, value in node.value:
            if key.tag != f"{_TAG}merge":
                _put(mapping, key, _build(key, made, inside), _build(value, made, inside))
        for key, value in node.value:  # what stands there itself goes before what is taken over
            if key.tag == f"{_TAG}merge":
                taken = _build(value, made, inside)
                for one in taken if isinstance(taken, list) else [taken]:
                    for name, what in _mapping(one, key).items():
                        mapping.setdefault(name, what)
                        mapping.places.setdefault(name, (key.start_mark.line, key.start_mark.column))
    inside.discard(id(node))
    return made[id(node)]


def _put(mapping: LinedMap, key: Node, name: Any, value: Any) -> None:
    if isinstance(name, list | dict):
        raise _wrong(worded("packs.a_list_or_mapping_is_no_key"), key)
    if name in mapping:
        raise _wrong(worded("packs.the_key_stands_twice", name=name), key)
    mapping[name] = value
    mapping.places[name] = (key.start_mark.line, key.start_mark.column)


def _mapping(one: Any, key: Node) -> LinedMap:
    if not isinstance(one, LinedMap):
        raise _wrong(worded("packs.only_mappings_can_be_taken_over"), key)
    return one


def _wrong(why: str, node: Node) -> Exception:
    made: Exception = yaml.constructor.ConstructorError(None, None, why, node.start_mark)
    return made


def _scalar(node: ScalarNode) -> Any:
    kind, words = node.tag.removeprefix(_TAG), node.value
    if kind == "str" or kind == "merge":
        return words
    if kind == "null":
        return None
    if kind == "bool":
        return words.casefold() == "true"
    if kind == "int":
        return int(words, {"0o": 8, "0x": 16}.get(words[:2], 10))
    if kind == "float":
        return float(words.casefold().replace(".inf", "inf").replace(".nan", "nan"))
    raise _wrong(worded("packs.the_tag_is_not_known_here", tag=node.tag), node)
