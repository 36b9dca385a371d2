"""Understanding a line about the board: `part C12 0.05 uF 600 V paper coupling`, `R24 joins grid and 0`."""

from __future__ import annotations

import re
from collections.abc import Mapping

from candor.core.circuit.netlist import GROUND
from candor.core.errors import ValueTextError
from candor.core.jot.meaning import AliasJot, JoinJot, Jot, ListedJot
from candor.core.parts.part import GROUP_OF, UNITS, USUAL_TOLERANCE, VALUED, Part
from candor.core.parts.part_kinds import kind_of, kind_said, read_value
from candor.core.quantities import engineering

EXPECTED = "part C12 0.05 uF 600 V paper coupling"
# As people say makes; the rest go by their own names.
OTHER_MAKES = {
    "lytic": "electrolytic", "elyt": "electrolytic", "elko": "electrolytic", "composition": "carbon composition",
    "comp": "carbon composition", "wire": "wirewound", "wax": "paper", "waxed": "paper",
}  # fmt: skip
_MAKES = {**{make: make for make in USUAL_TOLERANCE if make}, **OTHER_MAKES}
_GROUNDS = {"0", "ground", "chassis", "gnd", "earth", "common"}
_JOIN = re.compile(
    r"([A-Z]{1,4}\d+)(?:\s([a-z]))?\s+(?:joins|from|between|is\s+between)\s+(.+?)\s*(?:\band\b|\bto\b|,)\s*(.+)", re.I
)
_ALIAS = re.compile(r"node\s+(\S.*?)\s*(?:\bis\b|=|:)\s*(\S.*)", re.I)


def understand_board(text: str, parts: Mapping[str, Part]) -> Jot | None:
    """Say what a line about the board means, None where it is none.

    Parameters
    ----------
    text : str
    parts : mapping of str to Part
        On the list, by designator.

    Raises
    ------
    ValueTextError
        Where it begins like one and cannot be read.
    """
    listed = re.match(r"part\s+([A-Za-z]+\d+)(\s[a-z](?=\s))?\s+(\S.*)", text)
    if listed:
        return _listed(listed[1].upper() + (listed[2] or ""), listed[3], parts)
    joined = _JOIN.fullmatch(text)
    if joined:
        return _joined(joined, parts)
    alias = _ALIAS.fullmatch(text)
    if alias:
        node, other = node_name(alias[1]), " ".join(alias[2].split())
        return AliasJot(node, other, (f"node {node}", f"is {other}"))
    return None


def node_name(words: str) -> str:
    """Return a node as netlists write it: ``V2 plate`` is ``v2_plate``, the chassis is ``0``."""
    name = re.sub(r"[^a-z0-9+.-]+", "_", words.strip().lower()).strip("_")
    return GROUND if name in _GROUNDS else name or "node"


def _listed(ref: str, rest: str, parts: Mapping[str, Part]) -> ListedJot:
    said, rest = kind_said(rest)
    cells = {"part": ref}
    for column, pattern in (("volts", r"(?<![\w.])(\d[\d.,]*)\s*V(?:dc)?(?=\s|$)"), ("watts", r"(?<![\w.])(\d[\d./]*)\s*W(?=\s|$)"),
                            ("can", r"\bcan\s+(\S+)")):  # fmt: skip
        match = re.search(pattern, rest, re.I)
        if match:
            cells[column] = match[1]
            rest = f"{rest[: match.start()]} {rest[match.end() :]}"
    roles: Mapping[str, str] = {role: role for role in GROUP_OF}
    for column, words in (("make", _MAKES), ("role", roles)):
        for word in sorted(words, key=len, reverse=True):
            match = re.search(rf"\b{word}\b", rest, re.I)
            if match:
                cells[column] = words[word]
                rest = f"{rest[: match.start()]} {rest[match.end() :]}"
                break
    value = " ".join(rest.split())
    known = parts[ref].kind if ref in parts else None
    kind = kind_of(ref, said or "", value, cells.get("make", ""), known)
    cells["kind"] = kind
    if not value and kind in VALUED:
        raise ValueTextError(f"{ref} of what value? Expected such as: {EXPECTED}", value=ref)
    cells["value"] = value
    type_, marks = read_value(value, kind)
    if kind in VALUED and any(mark.value <= 0 for mark in marks):
        raise ValueTextError(f"{ref}: “{value}” is nothing; expected a value above zero.", value=value)
    chips = [f"on the list: {ref}", kind, type_, " / ".join(engineering(mark.value, UNITS[kind]) for mark in marks)]
    chips = [chip for chip in chips if chip]
    chips += [f"{cells['volts']} V"] if "volts" in cells else []
    chips += [f"{cells['watts']} W"] if "watts" in cells else []
    chips += [cells[column] for column in ("make", "role") if column in cells]
    return ListedJot(cells, tuple(chips))


def _joined(match: re.Match[str], parts: Mapping[str, Part]) -> JoinJot | None:
    ref = match[1].upper() + (f" {match[2].lower()}" if match[2] else "")
    plus, minus = node_name(match[3]), node_name(match[4])
    if ref not in parts:
        raise ValueTextError(
            f"{ref} is not on this job's list yet. Put it there first, such as: {EXPECTED}", value=ref
        )
    if plus == minus:
        raise ValueTextError(f"Both ends of {ref} are on {plus}; expected two different nodes.", value=match[0])
    return JoinJot(ref, plus, minus, (f"{ref} joins", plus, minus))
