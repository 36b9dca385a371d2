"""Kinds of field that bodies of several topics have."""

from __future__ import annotations

import math
from typing import Annotated

from pydantic import Field

Above = Annotated[float, Field(gt=0, allow_inf_nan=False)]
NotBelow = Annotated[float, Field(ge=0, allow_inf_nan=False)]
Finite = Annotated[float, Field(allow_inf_nan=False)]
Number = Annotated[float, Field(ge=-math.inf)]  # an open needle reads infinity; what is no number fits no bound
Text = Annotated[str, Field(min_length=1)]
