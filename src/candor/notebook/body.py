"""What every entry's body has in common."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict


class Body(BaseModel):
    """What an entry says. `version` grows when a body changes; older ones are upgraded when read."""

    # Built when first used: a start reads few kinds.
    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)
    version: Literal[1] = 1
