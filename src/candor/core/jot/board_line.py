"""What a line lists of a part: `part C12 0.05 uF 600 V paper coupling`."""

from __future__ import annotations

import re
from collections.abc import Mapping

from candor.core.errors import CandorError, ValueTextError
from candor.core.jot.meaning import ListedJot
from candor.core.parts.part import GROUP_OF, UNITS, VALUED, Kind, Part
from candor.core.parts.part_kinds import MAKE_WORDS, kind_of, kind_said, read_value
from candor.core.quantities import engineering
from candor.core.worded import worded

EXPECTED = "part C12 0.05 uF 600 V paper coupling"


def listed(ref: str, rest: str, parts: Mapping[str, Part]) -> ListedJot:
    """Say what a line lists of a part: its columns as a table of parts has them; words that are none of these are its note.

    Raises
    ------
    ValueTextError
        Where it has no value, or one that cannot be.
    """
    said, rest = kind_said(rest)
    cells = {"part": ref}
    for column, pattern in (("volts", r"(?<![\w.])(\d[\d.,]*)\s*V(?:dc)?(?=\s|$)"), ("watts", r"(?<![\w.])(\d[\d./]*)\s*W(?=\s|$)"),
                            ("can", r"\bcan\s+(\S+)")):  # fmt: skip
        match = re.search(pattern, rest, re.I)
        if match:
            cells[column] = match[1]
            rest = f"{rest[: match.start()]} {rest[match.end() :]}"
    across = re.search(r"\b(?:mains\s+)?(line\s+to\s+(?:chassis|line)|across\s+the\s+line)\b", rest, re.I)
    if across:
        cells |= {"mains": "line to chassis" if "chassis" in across[1].lower() else "line to line", "role": "mains"}
        rest = f"{rest[: across.start()]} {rest[across.end() :]}"
    roles: Mapping[str, str] = {role: role for role in GROUP_OF}
    for column, words in (("make", MAKE_WORDS), ("role", roles)):
        for word in sorted(words, key=len, reverse=True):
            match = re.search(rf"\b{word}\b", rest, re.I)
            if match and column not in cells:
                cells[column] = words[word]
                rest = f"{rest[: match.start()]} {rest[match.end() :]}"
                break
    value = " ".join(rest.split())
    known = parts[ref].kind if ref in parts else None
    kind = kind_of(ref, said or "", value, cells.get("make", ""), known)
    cells["kind"] = kind
    value, note = _without_note(value, kind) if kind in VALUED else (value, "")
    if not value and kind in VALUED:
        raise ValueTextError(worded("jot.of_what_value_example", ref=ref, expected=EXPECTED), value=ref)
    cells["value"] = value
    type_, marks = read_value(value, kind)
    if kind in VALUED and any(mark.value <= 0 for mark in marks):
        raise ValueTextError(worded("jot.is_nothing_expected_a_value_above", ref=ref, value=value), value=value)
    chips = [
        worded("jot.on_the_list", ref=ref),
        kind,
        type_,
        " / ".join(engineering(mark.value, UNITS[kind]) for mark in marks),
    ]
    chips = [chip for chip in chips if chip]
    chips += [worded("jot.v", volts=cells["volts"])] if "volts" in cells else []
    chips += [worded("jot.w", watts=cells["watts"])] if "watts" in cells else []
    chips += [cells[column] for column in ("make", "role") if column in cells]
    chips += [cells["mains"]] if "mains" in cells else []
    if note:
        cells["note"] = note
        chips.append(f"note: {note}")
    return ListedJot(cells, tuple(chips))


def _without_note(text: str, kind: Kind) -> tuple[str, str]:
    """Split what stands where a value is written into the value and words behind it that say what the part is for."""
    words = text.split()
    for count in range(len(words), 0, -1):
        value, rest = " ".join(words[:count]), words[count:]
        if any(re.search(r"\d", word) for word in rest):
            break
        try:
            read_value(value, kind)
        except CandorError:
            continue
        return value, " ".join(rest)
    return text, ""
