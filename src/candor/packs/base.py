"""What every part of a pack has in common, and the parts that kinds of instrument have too."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

Key = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9+._-]*$", description="a short name in lower case")]
Words = Annotated[str, Field(min_length=1)]
ProcedurePhase = Literal["preparation", "as found", "adjustment", "as left"]
# A value of the arc that ends in infinity.
Number = float | Literal["infinity"]


class PackModel(BaseModel):
    """Every part of a pack is frozen and knows no key that is not written here."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False, defer_build=True)


class Caution(PackModel):
    """Something that can hurt a person or the instrument, said before the step."""

    key: Key
    level: Literal["danger", "attention"]
    text: Words
    short: Annotated[str, Field(min_length=1, max_length=60)]


class Zone(PackModel):
    """One place of the walk round the instrument, with what to look for."""

    key: Key
    title: Words
    look_for: tuple[Words, ...] = ()
    means: Annotated[
        dict[str, Words], Field(description="item of look_for: what it means, where that is not plain")
    ] = {}
    materials: Annotated[
        tuple[Words, ...], Field(description="what it is made of that can hurt or be hurt: a caution before cleaning")
    ] = ()


def number(value: Number) -> float:
    """Return a value of a scale, infinity included."""
    return float("inf") if isinstance(value, str) else value
