"""What the body of every entry has in common, and what stands for one that cannot be read."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict


class Body(BaseModel):
    """What an entry says. `version` grows when a body changes; older ones are upgraded when read."""

    # Built when first used: a start reads few kinds.
    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)
    kind: str
    version: Literal[1] = 1


class Nested(BaseModel):
    """What a body holds several of."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)


class Unreadable(Body):
    """Stands for a body that this version cannot read; it is never written.

    Attributes
    ----------
    says : str
        Its kind as it was written.
    why : str
        What could not be read.
    text : str
        The JSON as it lies in the notebook.
    """

    kind: Literal["unreadable"] = "unreadable"
    says: str = ""
    why: str = ""
    text: str = ""
