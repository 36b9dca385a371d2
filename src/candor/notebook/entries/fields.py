"""Kinds of field that bodies of several topics have."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

Above = Annotated[float, Field(gt=0, allow_inf_nan=False)]
NotBelow = Annotated[float, Field(ge=0, allow_inf_nan=False)]
Finite = Annotated[float, Field(allow_inf_nan=False)]
Text = Annotated[str, Field(min_length=1)]
