"""What a reading is taken in: room and line, and what the set-up brings. Each is in force from when it is said."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from candor.core.calibration.setup import KINDS, SetUpTerm, Which
from candor.core.quantities import engineering
from candor.core.quantities.show import trimmed
from candor.notebook.entries.body import Body
from candor.notebook.entries.entry import Entry, said


class ConditionNoted(Body):
    """A condition of room or line: degrees Celsius, per cent relative humidity, volts."""

    kind: Literal["condition"] = "condition"
    which: Literal["celsius", "humidity", "line_volts"]
    value: Annotated[float, Field(allow_inf_nan=False)]


class SetUpSaid(Body):
    """A term of the set-up: its figure and U (k = 2), or how far it may be off either way; 0 where it is no more."""

    kind: Literal["set_up"] = "set_up"
    which: Which
    value: Annotated[float, Field(allow_inf_nan=False)]
    expanded: Annotated[float, Field(ge=0, allow_inf_nan=False)] = 0.0

    @property
    def term(self) -> SetUpTerm:
        """As the core knows it."""
        return SetUpTerm(self.which, self.value, self.expanded)


def say_set_up(of: SetUpSaid | SetUpTerm) -> str:
    """Say a term: ``leads and contacts 210 mΩ, U 30 mΩ``."""
    kind = KINDS[of.which]

    def figure(x: float) -> str:
        return f"{trimmed(100 * x, 3)} %" if kind.unit == "1" else engineering(x, kind.unit, 3)

    if not of.value and not of.expanded:
        return f"{kind.name}: none"
    size = f"{figure(of.value)}, U {figure(of.expanded)}" if of.expanded else f"±{figure(abs(of.value))}"
    return f"{kind.name} {size}"


_CONDITIONS = {"celsius": "room {} °C", "humidity": "relative humidity {} %", "line_volts": "line {} V"}
WORDS = dict(
    (
        said(ConditionNoted, lambda b, _: _CONDITIONS[b.which].format(trimmed(b.value))),
        said(SetUpSaid, lambda b, _: say_set_up(b)),
    )
)
Noted = Entry[ConditionNoted] | Entry[SetUpSaid]
