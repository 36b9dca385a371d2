"""Where things are: photos of the chassis, and a pin in them for every part, node, adjuster or test point that was found."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import field
from typing import Annotated, Literal

from pydantic import Field

from candor.core.late_dataclass import dataclass
from candor.core.worded import worded
from candor.notebook.entries.body import Body
from candor.notebook.entries.entry import Entry, said
from candor.notebook.entries.standing_entries import Standing

Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
Text = Annotated[str, Field(min_length=1)]


class ChassisPhoto(Body):
    """A photo of the chassis; the file lies beside the notebook under its own digest."""

    kind: Literal["chassis_photo"] = "chassis_photo"
    gives_on = "as drawn"
    file: Text
    title: str = ""


class PinPlaced(Body):
    """Where something is in a photo: shares of its width from the left and of its height from the top, as it is held upright.

    `name` is a designator, a node, an adjuster or a test point; placed again in the same photo it is moved.
    """

    kind: Literal["pin"] = "pin"
    gives_on = "as drawn"
    file: Text
    x: Share
    y: Share
    name: Text


WORDS = dict(
    (
        said(
            ChassisPhoto, lambda b, _: worded("entries.photo_of_the_chassis", title=": " + b.title if b.title else "")
        ),
        said(PinPlaced, lambda b, _: worded("entries.is_marked_in_a_photo", name=b.name)),
    )
)


@dataclass(frozen=True)
class PlacesRecord:
    """What stands of places.

    Attributes
    ----------
    photos : tuple of Entry
        Of the chassis, in the order they were added.
    pins : mapping of (str, str) to Entry
        The newest pin by file and name, capitals aside.
    """

    photos: tuple[Entry[ChassisPhoto], ...] = ()
    pins: Mapping[tuple[str, str], Entry[PinPlaced]] = field(default_factory=dict)

    def on(self, file: str) -> tuple[Entry[PinPlaced], ...]:
        """Return the pins of a photo."""
        return tuple(pin for (name, _), pin in self.pins.items() if name == file)

    def of(self, name: str) -> Entry[PinPlaced] | None:
        """Return the newest pin of something; None where nobody marked it in a photo that stands."""
        there = {e.body.file for e in self.photos}
        found = [p for (file, own), p in self.pins.items() if own == name.casefold() and file in there]
        return max(found, key=lambda pin: pin.number, default=None)

    def beside(self, name: str, most: int) -> tuple[str, ...]:
        """Return the names of the pins that stand nearest to that of something, in its photo, the nearest first."""
        own = self.of(name)
        if own is None:
            return ()
        here, others = own.body, [p.body for p in self.on(own.body.file) if p.body.name.casefold() != name.casefold()]
        others.sort(key=lambda pin: (pin.x - here.x) ** 2 + (pin.y - here.y) ** 2)
        return tuple(pin.name for pin in others[:most])


def places_record(standing: Standing) -> PlacesRecord:
    """Return what stands of places."""
    photos: dict[str, Entry[ChassisPhoto]] = {e.body.file: e for e in standing.of(ChassisPhoto)}
    return PlacesRecord(
        photos=tuple(photos.values()), pins=standing.by(PinPlaced, lambda b: (b.file, b.name.casefold()))
    )


def names_in(text: str, places: PlacesRecord) -> tuple[str, ...]:
    """Return the names that stand in a sentence as words of their own and are marked in a photo, in the order they are said."""
    found: dict[str, int] = {}
    for pin in places.pins.values():
        name = pin.body.name
        said_at = re.search(rf"(?<![\w.]){re.escape(name)}(?!\w)", text, re.IGNORECASE) if len(name) > 1 else None
        if said_at is not None and places.of(name) is not None:
            found.setdefault(name, said_at.start())
    return tuple(sorted(found, key=lambda name: (found[name], -len(name))))
