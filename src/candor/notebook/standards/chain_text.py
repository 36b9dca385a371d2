"""A chain as it is typed: its formula and what comes out, then a line for every name; and standards as a file of blocks."""

from __future__ import annotations

import datetime as dt
import re
import uuid
from collections.abc import Iterable, Mapping

from pydantic import ValidationError

from candor.core.errors import CandorError, ValueTextError
from candor.core.quantities import engineering, parse_quantity
from candor.core.quantities.formula import parse_formula
from candor.core.reference.chains import Chain
from candor.core.reference.reference import Reference, Role
from candor.core.worded import worded
from candor.notebook.entries.entry import Entry
from candor.notebook.entries.standards_entries import ChainLink, ChainRecorded, StandardRecorded
from candor.notebook.standards.standards import Standard, to_chain, to_references
from candor.notebook.standards.standards_text import heading_of, read_standard, say_heading

EXPECTED = worded("standards.v_r_in_a_d_c")
_FORMULA = re.compile(r"=\s*(?P<formula>.+?)\s+in\s+(?P<head>.+)", re.I)
_LINK = re.compile(
    r"(?P<name>[A-Za-z_]\w*)\s*:\s*(?P<of>[^,=]+?)(?:\s*,\s*(?P<head>[^=]+?))?(?:\s*=\s*(?P<value>.+))?"
)
# Keys of a block of a file, as the fields of the Standards room are called.
_KEYS = {"name": "name", "serial": "serial", "checked": "calibrated_on", "good for, days": "valid_days", "by whom": "traceability",
         "drift": "drift_percent_per_year", "is": "role", "typical": "typical"}  # fmt: skip
_ROLES: Mapping[str, Role] = {"meter": "meter", "source": "source", "fixed part": "fixed part", "box": "box"}

Recorded = Entry[StandardRecorded] | Entry[ChainRecorded]


def read_chain(name: str, text: str, known: Mapping[str, Recorded], key: str = "") -> ChainRecorded:
    """Return a chain as it was typed.

    Parameters
    ----------
    name : str
    text : str
        Its formula and what comes out, then a line for every name.
    known : mapping of str to Entry
        The newest entry of every standard and chain, by entry id.
    key : str
        Of the chain that is recorded again; a new one where it is empty.

    Raises
    ------
    CandorError
        Where a line cannot be read, a name leads nowhere, units do not fit, or it goes round.
    """
    if not name.strip():
        raise ValueTextError(worded("standards.a_chain_needs_a_name_nothing"), place="name")
    lines = [line.strip() for line in text.splitlines() if line.strip()]
    head = _FORMULA.fullmatch(lines[0]) if lines else None
    if head is None:
        raise ValueTextError(worded("standards.what_the_chain_is_made_of", expected=EXPECTED), value=text)
    unit, current = heading_of(head["head"])
    parse_formula(head["formula"])
    links = tuple(_link(line, known) for line in lines[1:])
    try:
        body = ChainRecorded(
            key=key or uuid.uuid4().hex[:12],
            name=name.strip(),
            unit=unit,
            current=current,
            formula=head["formula"],
            links=links,
        )
    except ValidationError:
        raise ValueTextError(
            worded("standards.no_link_is_named_expected", name=name, expected=EXPECTED), value=text
        ) from None
    itself = next((entry.id for entry in known.values() if entry.body.key == body.key), "")
    to_chain(body, known, (itself,) if itself else ())
    return body


def _link(line: str, known: Mapping[str, Recorded]) -> ChainLink:
    match = _LINK.fullmatch(line)
    if match is None:
        raise ValueTextError(worded("standards.is_not_a_link_of_a", line=line), value=line)
    named = [e for e in known.values() if e.body.name.casefold() == match["of"].strip().casefold()]
    if not named:
        names = ", ".join(e.body.name for e in known.values()) or worded("standards.none_is_recorded_yet")
        raise ValueTextError(
            worded("standards.is_not_a_standard_of_this", of=match["of"].strip(), names=names), value=match["of"]
        )
    body = named[-1].body
    if match["head"]:
        unit, current = heading_of(match["head"])
    elif isinstance(body, ChainRecorded):
        unit, current = body.unit, body.current
    else:
        unit, current = body.functions[0].unit, body.functions[0].current
    value = parse_quantity(match["value"], unit).value if match["value"] else None
    return ChainLink(name=match["name"], standard=named[-1].id, unit=unit, current=current, value=value)


def write_chain(body: ChainRecorded, known: Mapping[str, Standard]) -> str:
    """Return the lines that `read_chain` would read back."""
    lines = [f"= {body.formula} in {say_heading(body.unit, body.current)}"]
    for link in body.links:
        name = known[link.standard].name if link.standard in known else "?"
        value = "" if link.value is None else f" = {engineering(link.value, link.unit, 8)}"
        lines.append(f"{link.name}: {name}, {say_heading(link.unit, link.current)}{value}")
    return "\n".join(lines)


def read_standards(text: str, today: dt.date) -> Mapping[str, tuple[Reference | Chain, ...]]:
    """Read standards and chains from a file: blocks divided by an empty line, each as it is typed in the Standards room.

    A standard begins with ``name: …``, and may say ``is: meter``, ``serial:``, ``checked: 2026-03-31``, ``good for, days:``,
    ``drift:``, ``by whom:``, ``typical: yes`` before what it is good for; a chain begins with ``chain: …``.

    Parameters
    ----------
    text : str
    today : date

    Raises
    ------
    CandorError
        Naming the block, where one cannot be read.
    """
    entries: dict[str, Recorded] = {}
    found: dict[str, tuple[Reference | Chain, ...]] = {}
    for number, block in enumerate(re.split(r"\n\s*\n", text.replace("\r\n", "\n").strip("\n \t")), 1):
        try:
            body = _block(block, entries, today)
            entries[f"block {number}"] = _as_entry(body, f"block {number}")
            found[body.name] = (to_chain(body, entries),) if isinstance(body, ChainRecorded) else to_references(body)
        except CandorError as error:
            raise ValueTextError(
                f"Standard {number}: {error}", value=block.split("\n")[0], place=f"standard {number}"
            ) from None
    return found


def _block(block: str, entries: Mapping[str, Recorded], today: dt.date) -> StandardRecorded | ChainRecorded:
    said: dict[str, str] = {}
    lines: list[str] = []
    for line in block.split("\n"):
        key, _, words = line.partition(":")
        name = key.strip().lower()
        if not lines and name == "chain":
            said["chain"] = words.strip()
        elif name in _KEYS and "chain" not in said and not lines:
            said[_KEYS[name]] = words.strip()
        else:
            lines.append(line)
    if "chain" in said:
        return read_chain(said["chain"], "\n".join(lines), entries)
    role = _ROLES.get(said.get("role", "meter").removeprefix("a ").strip().lower())
    if role is None:
        raise ValueTextError(
            worded("standards.is_not_a_kind_of_standard", role=said["role"], listed=", ".join(_ROLES)),
            value=said["role"],
        )
    fields = {key: said.get(key, "") for key in _KEYS.values() if key not in ("role", "typical")}
    return read_standard(
        fields,
        "\n".join(lines),
        role=role,
        older=None,
        today=today,
        is_typical=said.get("typical", "").lower() == "yes",
    )


def _as_entry(body: StandardRecorded | ChainRecorded, name: str) -> Recorded:
    """A body as an entry that was never written: chains find their links by the name of an entry."""
    moment = dt.datetime(2000, 1, 1, tzinfo=dt.UTC)
    return Entry(id=name, number=0, at=moment, who="", job="", body=body)  # type: ignore[return-value]


def chains_on(older: str, newer: str, known: Iterable[Standard]) -> list[tuple[str, ChainRecorded]]:
    """Return every chain in use that has a link by one entry, as (its own entry, what it is with the link by another).

    A chain is what its links were when it was recorded, so that no old verdict changes: after a link is recorded again the chain is
    too.
    """
    return [
        (s.entry.id, s.body.model_copy(update={"links": tuple(
            link.model_copy(update={"standard": newer}) if link.standard == older else link for link in s.body.links
        )}))
        for s in known
        if s.current and isinstance(s.body, ChainRecorded) and any(link.standard == older for link in s.body.links)
    ]  # fmt: skip


def newest(known: Iterable[Standard]) -> Mapping[str, Recorded]:
    """Return the newest entry of every standard and chain in service, by its id."""
    return {s.entry.id: s.entry for s in known if s.current}
