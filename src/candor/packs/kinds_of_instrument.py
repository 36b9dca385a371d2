"""Kinds of instrument: what is known of one that no pack describes. YAML files like packs; see docs/writing-a-pack.md.

Those that come with Candor are compiled to one JSON file (`candor packs compile`); the shop's own lie in the folder `kinds`
beside its notebook, and one of an id that comes with Candor stands in its place.
"""

from __future__ import annotations

import json
import re
from collections.abc import Iterable, Mapping
from functools import cache, lru_cache
from importlib import resources
from pathlib import Path
from typing import Annotated, Any, Literal

from pydantic import Field, model_validator

from candor.core.errors import CandorError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded
from candor.packs.crossings import kind_faults
from candor.packs.model import Caution, Key, Pack, PackModel, Words, Zone
from candor.packs.usual_steps import UsualSteps

ELSE = "something-else"
AS_ONE_GOES = worded("packs.points_made_as_one_goes")


class InstrumentKind(PackModel):
    """What holds for most instruments of a kind.

    `like` names the kind it borrows from: its own zones, cautions, care and weak spots stand in front of the borrowed ones; of
    a zone of the same key the items are joined.
    """

    kind: Literal[1] = Field(description="version of this format")
    id: Key
    title: Words
    also: tuple[Words, ...] = ()
    like: str = ""
    cautions: tuple[Caution, ...] = ()
    zones: tuple[Zone, ...] = ()
    care: tuple[Words, ...] = ()
    keep_dry: tuple[Words, ...] = ()
    no_mains: Annotated[
        bool, Field(description="nothing of it is fed by the mains: no rails, no tubes are asked for")
    ] = False
    usual: tuple[Words, ...] = ()
    usual_ranges: Annotated[
        tuple[Words, ...],
        Field(
            description="how its functions are usually read, as lines that could be typed; {line}: an end for the line"
        ),
    ] = ()
    work: Annotated[
        UsualSteps, Field(description="what is usually done on it, where no maker's procedure is known")
    ] = UsualSteps()
    asks_first: Annotated[str, Field(description="what is read first on such an instrument, and why")] = ""
    controls: tuple[Words, ...] = ()
    weak: tuple[Words, ...] = ()

    @model_validator(mode="after")
    def _has_zones(self) -> InstrumentKind:
        if not self.zones and not self.like:
            raise ValueError(worded("packs.no_zones_give_some_or_borrow"))
        return self

    def joined(self, borrowed: InstrumentKind) -> InstrumentKind:
        """Return it with what it borrows from another."""
        own = {zone.key: zone for zone in self.zones}
        zones = [
            zone.model_copy(update={"look_for": tuple(dict.fromkeys((*own[zone.key].look_for, *zone.look_for))),
                                    "means": {**zone.means, **own[zone.key].means},
                                    "title": own[zone.key].title}) if zone.key in own else zone
            for zone in borrowed.zones
        ]  # fmt: skip
        # Its own zones stand before the chassis: they are what is looked at first on such an instrument.
        new = [zone for zone in self.zones if zone.key not in {z.key for z in borrowed.zones}]
        at = next((i for i, zone in enumerate(zones) if zone.key == "top"), len(zones))
        given = {key: (*getattr(self, key), *getattr(borrowed, key)) for key in ("care", "weak")}
        return self.model_copy(
            update={
                "zones": (*zones[:at], *new, *zones[at:]),
                "cautions": (
                    *self.cautions,
                    *(c for c in borrowed.cautions if c.key not in {x.key for x in self.cautions}),
                ),
                "keep_dry": self.keep_dry or borrowed.keep_dry,
                "usual": self.usual or borrowed.usual,
                "controls": self.controls or borrowed.controls,
                "work": self.work.over(borrowed.work),
                **given,
            }
        )


@dataclass(frozen=True)
class Kinds:
    """Every kind at hand by its id, and a sentence for each file that cannot be used."""

    kinds: Mapping[str, InstrumentKind]
    faults: tuple[str, ...] = ()

    def get(self, key: str) -> InstrumentKind:
        """Return a kind; what holds for nearly every instrument where it is not at hand any more."""
        return self.kinds.get(key) or self.kinds[ELSE]

    def fitting(self, text: str) -> tuple[tuple[InstrumentKind, ...], str]:
        """Return the kinds that words name, by the longest name that stands in them, and that name; several share a name.

        Titles and what else a kind is called count alike, one or many of it, with or without hyphens.
        """
        written = _spelt(text)
        names = [
            (_spelt(name), kind)
            for kind in self.kinds.values()
            if kind.id != ELSE
            for name in (kind.title, *kind.also)
        ]
        found = [(name, kind) for name, kind in names if name in written or f"{name.rstrip()}s " in written]
        longest = max((len(name) for name, _ in found), default=0)
        best = [(name, kind) for name, kind in found if len(name) == longest]
        return tuple({kind.id: kind for _, kind in best}.values()), best[0][0].strip() if best else ""

    def named(self, text: str) -> InstrumentKind | None:
        """Return the one kind that words name; None where they name none, or where several are called so."""
        kinds, _ = self.fitting(text)
        return kinds[0] if len(kinds) == 1 else None


def _spelt(text: str) -> str:
    return f" {' '.join(re.findall(r'[a-z]+', text.lower()))} "


def read_kind(path: Path) -> InstrumentKind:
    """Read a kind from a YAML file, as it is written there: nothing borrowed yet.

    Raises
    ------
    PackError
        With every fault by line and column.
    """
    from candor.packs.load import parse_as, text_of  # YAML only where kinds are made

    return parse_as(InstrumentKind, text_of(path), path.name, kind_faults)


def borrowed(kinds: Iterable[InstrumentKind], known: Mapping[str, InstrumentKind]) -> Mapping[str, InstrumentKind]:
    """Return kinds by id, each joined with what it borrows; of one that is not there nothing is borrowed.

    Parameters
    ----------
    kinds : iterable of InstrumentKind
        As they were read.
    known : mapping of str to InstrumentKind
        That are joined already.
    """
    read = {kind.id: kind for kind in kinds}

    def whole(kind: InstrumentKind, seen: tuple[str, ...]) -> InstrumentKind:
        if not kind.like or kind.like in seen:
            return kind
        other = read.get(kind.like) if kind.like != kind.id else None
        base = whole(other, (*seen, kind.id)) if other else known.get(kind.like)
        return kind.joined(base) if base else kind

    return {key: whole(kind, (key,)) for key, kind in read.items()}


def compile_kinds(source: Path) -> str:
    """Return the JSON of every kind of a folder, each joined with what it borrows.

    Raises
    ------
    PackError
        Where one has faults.
    """
    made = borrowed((read_kind(path) for path in sorted(source.glob("*.yaml"))), {})
    return (
        json.dumps([kind.model_dump(exclude_defaults=True) for kind in made.values()], ensure_ascii=False, indent=1)
        + "\n"
    )


@cache
def shipped_kinds() -> Mapping[str, InstrumentKind]:
    """Return the kinds that come with Candor, by id, something else last."""
    text = (resources.files("candor.packs") / "kinds" / "compiled" / "kinds.json").read_text(encoding="utf-8")
    raw: list[dict[str, Any]] = json.loads(text)
    raw.sort(key=lambda kind: kind["id"] == ELSE)
    return {kind["id"]: InstrumentKind.model_validate(kind) for kind in raw}


def said_kind(title: str) -> str:
    """Return a kind as it is said of an instrument: nothing of something else."""
    return "" if title == shipped_kinds()[ELSE].title else title


def kinds_at_hand(folder: Path) -> Kinds:
    """Return the kinds that come with Candor and the shop's own, of a folder that need not be there.

    A file with a fault is left out and said; the rest works.
    """
    files = sorted(folder.glob("*.yaml")) if folder.is_dir() else []
    return _at_hand(tuple((path, path.stat().st_mtime_ns) for path in files))


@lru_cache(maxsize=8)
def _at_hand(files: tuple[tuple[Path, int], ...]) -> Kinds:
    shipped = shipped_kinds()
    read: list[InstrumentKind] = []
    faults: list[str] = []
    for path, _ in files:
        try:
            kind = read_kind(path)
            if kind.like and kind.like not in shipped and kind.like not in {k.id for k in read}:
                faults.append(worded("packs.like_names_the_kind_which_is", name=path.name, like=kind.like))
            read.append(kind)
        except CandorError as error:
            faults.append(str(error))
    own = borrowed((k for k in read if k.zones or k.like in {*shipped, *(x.id for x in read)}), shipped)
    kinds = {**{k: v for k, v in shipped.items() if k != ELSE}, **own, ELSE: own.get(ELSE, shipped[ELSE])}
    return Kinds(kinds, tuple(faults))


def pack_of_kind(kind: InstrumentKind, maker: str, type_: str) -> Pack:
    """Return what is known of an instrument of a kind that no pack describes, in the shape of a pack, with what is usual to do."""
    name = f"{maker} {type_}".strip() or kind.title
    return Pack.model_construct(
        pack=1, id=f"kind.{kind.id}", edition=AS_ONE_GOES, maker=maker, type=type_, kind=kind.title, summary=name, source="",
        cautions=kind.cautions, zones=kind.zones, care=kind.care, keep_dry=kind.keep_dry, usual=kind.usual,
        controls=kind.controls, weak=kind.weak, circuit=None, parts=(), dial=None, adjusters=(), functions=(),
        procedure=kind.work.sections(),
    )  # fmt: skip
