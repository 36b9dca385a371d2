"""An entry: one line of the notebook."""

from __future__ import annotations

import datetime as dt
from dataclasses import dataclass
from typing import Any


@dataclass(frozen=True)
class Entry:
    """One line of the notebook.

    Attributes
    ----------
    number : int
        Its place in the notebook, from 1: what certificates refer to.
    id : str
        Its own name, the same in every copy.
    job : str
        The job it belongs to, empty for the shop.
    at : datetime
        UTC.
    who : str
    body : Body
    """

    number: int
    id: str
    job: str
    at: dt.datetime
    who: str
    body: Any
