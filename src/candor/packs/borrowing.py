"""A pack that borrows another's procedure: what it takes, with which words changed, and the steps it leaves out."""

from __future__ import annotations

import re
from collections.abc import Callable, Collection, Iterable, Iterator, Mapping
from typing import Annotated, Any, Literal

from pydantic import Field

from candor.core.worded import worded
from candor.packs.base import Key, PackModel, Words

Path = tuple[int | str, ...]
Taken = Literal[
    "cautions", "controls", "modifiers", "dial", "adjusters", "functions", "procedure", "zones", "circuit", "parts", "aliases",
    "bands", "weak", "care", "keep_dry",
]  # fmt: skip
USUAL: tuple[Taken, ...] = ("cautions", "controls", "modifiers", "dial", "adjusters", "functions", "procedure")
# What stands in these is not a words of the trade but refers to something: it is left as it is.
REFERENCES = frozenset(
    ("key", "function", "range", "ranges", "unit", "kind", "phase", "scale", "polarity", "current", "law", "formula", "of",
     "modifier", "read_as", "asks", "waveform", "takes", "closes", "tap", "level", "netlist")
)  # fmt: skip
OF_THE_CIRCUIT = {"closes", "tap", "acts", "rectifies", "reads"}


class Borrows(PackModel):
    """What a pack takes of another: a sister model whose sockets have other numbers."""

    pack: Annotated[Key, Field(description="id of the pack that lends")]
    takes: Annotated[tuple[Taken, ...], Field(min_length=1)] = USUAL
    map: dict[Words, Words] = Field(default={}, description="words as they stand there: as they are here")
    without: dict[Key, Words] = Field(default={}, description="key of a step that is left out: why")
    without_functions: dict[Key, Words] = Field(
        default={}, description="key of a function that this one does not have, and its steps with it: why"
    )
    taken: Annotated[
        str, Field(description="digest of the pack it was taken from, once it was: then nothing is taken again")
    ] = ""


def say_borrowed(terms: Borrows) -> str:
    """Say whose procedure a pack goes by, what is called otherwise there, and what is left out and why."""
    words = [worded("packs.there_is_here", there=there, here=here) for there, here in terms.map.items()]
    called = f" {'; '.join(words)}." if words else ""
    both = {**terms.without_functions, **terms.without}
    left = "".join(worded("packs.left_out", key=key, why=why.rstrip(".")) for key, why in both.items())
    return worded("packs.it_goes_by_the_procedure_of", pack=terms.pack, called=called, left=left)


# The pack of an id as plain values and its digest, None where it is not at hand.
Lender = Callable[[str], tuple[dict[str, Any], str] | None]


def borrowed_into(data: Mapping[str, Any], lend: Lender) -> tuple[dict[str, Any], list[tuple[Path, str]]]:
    """Return what a pack is with what it borrows, and a fault for each thing that cannot be borrowed so.

    Keyed things (functions, cautions, controls) that the pack has itself take the place of those of the same key; so do whole
    parts without keys (the dial, the circuit). Its own steps take the place of those of the same key, and further sections follow.
    Where a step depends on a part that is not listed here it depends on everything: a change must never leave standing what it
    may have moved.
    """
    terms = Borrows.model_validate(data["borrows"])
    faults: list[tuple[Path, str]] = []
    found = lend(terms.pack)
    if found is None:
        return dict(data), [(("borrows", "pack"), worded("packs.is_not_a_pack_at_hand", pack=terms.pack))]
    lent, digest = found
    whole = {name: lent[name] for name in terms.takes if name in lent}
    texts = list(_texts(whole))
    faults += [
        (("borrows", "map", word), worded("packs.stands_nowhere_in_what_is_borrowed", word=word, pack=terms.pack))
        for word in terms.map
        if not any(re.search(_whole_word(word), text) for text in texts)
    ]
    steps = [step for section in whole.get("procedure", ()) for step in section["steps"]]
    functions = [f["key"] for f in whole.get("functions", ())]
    faults += _unknown("without", terms.without, [step["key"] for step in steps], f"step of {terms.pack}")
    faults += _unknown("without_functions", terms.without_functions, functions, f"function of {terms.pack}")
    gone = {*terms.without, *(s["key"] for s in steps if s.get("function") in terms.without_functions)}
    mapped = _mapped(whole, terms.map)
    mapped["procedure"] = _sections(mapped.get("procedure", ()), data.get("procedure") or (), gone)
    if "functions" in mapped:
        mapped["functions"] = [f for f in mapped["functions"] if f["key"] not in terms.without_functions]
    result = {**data, **{name: _merged(part, data.get(name)) for name, part in mapped.items() if name != "procedure"}}
    result["procedure"] = mapped["procedure"]
    if not result.get("circuit"):
        result["functions"] = _without_circuit(result.get("functions") or [])
        result["adjusters"] = _without_circuit(result.get("adjusters") or [])
    things = {a["key"] for a in result.get("adjusters") or ()} | {p["ref"] for p in result.get("parts") or ()}
    for section in result["procedure"]:
        for step in section["steps"]:
            if not things.issuperset(step.get("uses") or ()):
                step.pop("uses")
    result["borrows"] = {**data["borrows"], "taken": digest}
    return result, faults


def _unknown(field: str, given: Iterable[str], known: list[str], what: str) -> list[tuple[Path, str]]:
    return [
        (
            ("borrows", field, key),
            worded("packs.is_not_a_use_one_of", key=key, what=what, listed=", ".join(sorted(known))),
        )
        for key in given
        if key not in known
    ]


def _whole_word(word: str) -> str:
    return rf"(?<!\w){re.escape(word)}(?!\w)"


def _texts(value: Any) -> Iterator[str]:
    """Yield every text that a map may change."""
    if isinstance(value, str):
        yield value
    elif isinstance(value, dict):
        for key, one in value.items():
            if key == "set":  # its keys are controls, whatever they are called
                yield from one.values()
            elif key not in REFERENCES:
                yield from _texts(one)
    elif isinstance(value, list | tuple):
        for one in value:
            yield from _texts(one)


def _mapped(value: Any, words: Mapping[str, str]) -> Any:
    """Return a copy with words changed, all at once, so that two may change places."""
    if isinstance(value, str):
        if not words:
            return value
        longest = sorted(words, key=len, reverse=True)
        return re.sub("|".join(_whole_word(w) for w in longest), lambda m: words[m.group()], value)
    if isinstance(value, dict):
        return {
            key: {control: _mapped(position, words) for control, position in one.items()}
            if key == "set"
            else one
            if key in REFERENCES
            else _mapped(one, words)
            for key, one in value.items()
        }
    if isinstance(value, list | tuple):
        return [_mapped(one, words) for one in value]
    return value


def _key(thing: Any) -> Any:
    return thing.get("key", thing.get("ref")) if isinstance(thing, dict) else thing


def _merged(lent: Any, own: Any) -> Any:
    """Return what is lent with what is our own in its place, by key where there are keys."""
    if own is None:
        return lent
    if isinstance(lent, dict) and isinstance(own, dict) and "scales" not in lent and "netlist" not in lent:
        return {**lent, **own}
    if not isinstance(lent, list) or not isinstance(own, list):
        return own
    ours = {_key(thing): thing for thing in own}
    theirs = [ours.pop(_key(thing), thing) for thing in lent]
    return [*theirs, *ours.values()]


def _sections(lent: Any, own: Any, without: Collection[str]) -> list[dict[str, Any]]:
    ours = {step.get("key"): step for section in own for step in section.get("steps") or ()}
    found = []
    for section in lent:
        steps = [ours.pop(s["key"], s) for s in section["steps"] if s["key"] not in without]
        if steps:
            found.append({**section, "steps": steps})
    for section in own:
        steps = [s for s in section.get("steps") or () if s.get("key") in ours]
        if steps:
            found.append({**section, "steps": steps})
    return found


def _without_circuit(things: list[Any]) -> list[Any]:
    """Return functions or adjusters without what only a circuit has."""
    kept = []
    for thing in things:
        thing = {key: one for key, one in thing.items() if key not in OF_THE_CIRCUIT}
        if "ranges" in thing:
            thing["ranges"] = _without_circuit(thing["ranges"])
        kept.append(thing)
    return kept
