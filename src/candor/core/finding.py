"""What was found, as figures: which finding it is and what it rests on. `candor.words` puts it into English."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from dataclasses import field
from typing import Any, Union

from candor.core.late_dataclass import dataclass

Figure = Union[float, str, "Finding"]


@dataclass(frozen=True)
class Finding:
    """One thing that was found.

    Attributes
    ----------
    kind : str
        Which, by its topic: ``loss.good``. Each kind has one sentence in `candor.words`.
    figures : mapping of str to float, str or Finding
        What it rests on, by name, in SI units; a name where it is one; a finding of its own where one follows from it.
    """

    kind: str
    figures: Mapping[str, Figure] = field(default_factory=dict)

    def as_fields(self) -> dict[str, Any]:
        """Return it as plain fields, for JSON; what is infinite is None there."""
        return {"finding": self.kind, **{name: _field(figure) for name, figure in self.figures.items()}}

    def inside(self) -> Iterator[Finding]:
        """Yield what is found inside of it, and inside of that."""
        for figure in self.figures.values():
            if isinstance(figure, Finding):
                yield figure
                yield from figure.inside()


def _field(figure: Figure) -> Any:
    if isinstance(figure, Finding):
        return figure.as_fields()
    return figure if isinstance(figure, str) or math.isfinite(figure) else None
