"""What the body of every entry has in common, and what stands for one that cannot be read."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

from pydantic import BaseModel, ConfigDict, Field


class Body(BaseModel):
    """What an entry says. `version` grows when a body changes; older ones are upgraded when read.

    `gives_on` says whether a job that is set up as this one was has it too: how it is read, always; as drawn, of another unit of
    its type.
    """

    gives_on: ClassVar[Literal["", "how it is read", "as drawn"]] = ""

    # Built when first used: a start reads few kinds.
    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)
    kind: str
    version: Literal[1] = 1

    def of_another(self) -> Body:
        """Return it as it is said of another unit of its type."""
        return self


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


class Timed(Body):
    """What is timed by a clock that nobody sets: the start of the computer it was written at, and s since it.

    The notebook stamps both as it writes; empty where they are not known.
    """

    boot: str = ""
    boot_s: Annotated[float, Field(allow_inf_nan=False)] = 0.0
