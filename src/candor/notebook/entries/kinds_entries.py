"""Every kind of entry by its name, and the reading of a body as it was written."""

from __future__ import annotations

import json
import re
from collections.abc import Callable, Mapping

from pydantic import ValidationError

from candor.core.worded import worded
from candor.notebook.entries import (
    arrive_entries,
    calibrate_entries,
    cleaning_entries,
    parts_entries,
    places_entries,
    plan_entries,
    power_entries,
    ranges_entries,
    release_entries,
    runs_entries,
    setup_entries,
    shop_entries,
    soak_entries,
    sources_entries,
    standards_entries,
    stay_entries,
    strikes_entries,
    trace_entries,
    tubes_entries,
    unit_entries,
)
from candor.notebook.entries.body import Body, Unreadable
from candor.notebook.entries.entry import AnyEntry, Numbers, Words

TOPICS = (
    stay_entries,
    plan_entries,
    arrive_entries,
    unit_entries,
    cleaning_entries,
    places_entries,
    parts_entries,
    power_entries,
    trace_entries,
    runs_entries,
    sources_entries,
    ranges_entries,
    calibrate_entries,
    setup_entries,
    soak_entries,
    release_entries,
    shop_entries,
    standards_entries,
    tubes_entries,
    strikes_entries,
)
WORDS: Mapping[type[Body], Words] = {kind: words for topic in TOPICS for kind, words in topic.WORDS.items()}
BODIES: Mapping[str, type[Body]] = {str(kind.model_fields["kind"].default): kind for kind in WORDS}

Raw = dict[str, object]
Upgrade = Callable[[Raw], Raw]


def _detail_1(raw: Raw) -> Raw:
    """Until 2026-11 the override of a bad sample was a detail of that name."""
    if raw.get("field") != "sample" or not raw.get("text"):
        return raw
    return {"kind": "bar_overridden", "version": 1, "bar": "sample", "reason": raw["text"]}


_TURNED = re.compile(r"(?:re)?(?:trimmed|adjusted)\s+(?:the\s+)?(\S.*)", re.I)


def _change_1(raw: Raw) -> Raw:
    """Until 2026-11 a change that moved an adjuster said so in its words alone: "trimmed R24"."""
    found = _TURNED.match(str(raw.get("text", "")))
    return raw if "turned" in raw or found is None else {**raw, "turned": found[1]}


def _measured_1(raw: Raw) -> Raw:
    """Until 2026-11 there were resistors and capacitors alone, and the designator said which."""
    if "unit" in raw:
        return raw
    return {**raw, "unit": "ohm" if str(raw.get("ref", "")).startswith("R") else "F"}


def _pair_1(raw: Raw) -> Raw:
    """Until 2026-11 open was kept as 1 Tohm."""
    opened = {key: "Infinity" for key in ("ohms", "turned_ohms") if raw.get(key) == 1e12}
    return {**raw, **opened} if opened else raw


# Each takes a body of the kind and version before it to what it is today, or back as it came where it is today's already.
UPGRADES: Mapping[tuple[str, int], Upgrade] = {
    ("detail", 1): _detail_1,
    ("change", 1): _change_1,
    ("part_measured", 1): _measured_1,
    ("pair_read", 1): _pair_1,
}

_OLDER = frozenset(kind for kind, _ in UPGRADES)
_KIND = re.compile(r'"kind":\s*"([a-z_]+)"')


def read_body(text: str, upgrades: Mapping[tuple[str, int], Upgrade] = UPGRADES) -> Body:
    """Return the body of an entry from its JSON, upgraded step by step where it is older.

    What this version cannot read, a kind or a version it does not know, or what is no JSON, comes back as `Unreadable`. Fields
    that it does not know, beside those it does, are kept as they are and close nothing.
    """
    found = _KIND.search(text)
    kind = found[1] if found else ""
    if kind in (_OLDER if upgrades is UPGRADES else {older for older, _ in upgrades}):
        try:
            raw = _upgraded(json.loads(text), upgrades)
        except (
            ValueError,
            RecursionError,
            TypeError,
            AttributeError,
            KeyError,
        ) as error:  # no JSON, or not of its kind's shape
            return Unreadable(
                says=kind, why=worded("entries.it_is_not_as_a_is", kind=kind, error=error)[:200], text=text
            )
        kind, text = str(raw.get("kind")), json.dumps(raw)
    if kind not in BODIES:
        return Unreadable(
            says=kind,
            why=worded("entries.the_kind_is_not_known", kind=kind) if kind else worded("entries.it_says_no_kind"),
            text=text,
        )
    try:
        return BODIES[kind].model_validate_json(text, extra="allow")
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(str(x) for x in first["loc"])
        return Unreadable(says=kind, why=f"{where}: {first['msg']}" if where else first["msg"], text=text)


def _upgraded(raw: Raw, upgrades: Mapping[tuple[str, int], Upgrade]) -> Raw:
    while True:
        version = raw.get("version", 1)
        step = upgrades.get((str(raw.get("kind")), version if isinstance(version, int) else 0))
        newer = step(raw) if step else raw
        if newer == raw:
            return raw
        raw = newer


def in_words(entry: AnyEntry, numbers: Numbers) -> str:
    """Return an entry as a line of words.

    Parameters
    ----------
    entry : Entry
    numbers : mapping of str to int
        The number of every entry by its id, for entries that speak of others.
    """
    body = entry.body
    if isinstance(body, Unreadable):
        return worded("entries.cannot_be_read_by_this_version", why=body.why, text=body.text[:120])
    return WORDS[type(body)](body, numbers)
