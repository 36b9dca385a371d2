"""How a pack's circuit makes the ranges of a function: by a balance, by what it delivers, by a tube, a trip, a ramp, a corner."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from candor.core.reference.detector import Responds
from candor.packs.base import PackModel

Pair = tuple[str, str]
Hertz = Annotated[float, Field(ge=0, description="Hz; 0: d.c.")]


class Movement(PackModel):
    """What the circuit is read on: full scale is so many volts over two of its nodes."""

    over: Pair
    full_scale: Annotated[float, Field(gt=0, description="V over them at full scale")]


class Rectifier(PackModel):
    """What an a.c. function makes of a node's swing: so much d.c., held at another node through a resistance."""

    at: Annotated[str, Field(description="node that swings")]
    into: Annotated[str, Field(description="node that gets the d.c.")]
    responds: Annotated[Responds, Field(description="what of the swing becomes d.c.")]
    hertz: Annotated[float, Field(gt=0, description="Hz at which its ranges are right")] = 1000.0


class Shows(PackModel):
    """Full scale is applied to a node, and a movement stands at its end."""

    how: Literal["shows"]
    input: str
    reads: Movement
    rectifies: Rectifier | None = None

    @property
    def nodes(self) -> tuple[str, ...]:
        """The nodes it names."""
        more = (self.rectifies.at, self.rectifies.into) if self.rectifies else ()
        return (self.input, *self.reads.over, *more)


class Balances(PackModel):
    """A bridge: the dial's pot is turned until the detector shows least; the dial says what hangs on the terminals.

    The dial at x of its travel has x of the pot's ohms between its first two nodes. Where `loss_of` is given, the function is a
    power factor: a part of so many farads whose loss, in per cent of 1, the range's contacts balance.
    """

    how: Literal["balances"]
    pot: Annotated[tuple[str, str, str], Field(description="nodes: beginning, wiper, end")]
    ohms: Annotated[float, Field(gt=0, description="of the whole pot")]
    unknown: Annotated[Pair, Field(description="the terminals")]
    over: Annotated[Pair, Field(description="the detector")]
    hertz: Hertz = 0.0
    loss_of: Annotated[float, Field(ge=0, description="F; 0: it is not a power factor")] = 0.0

    @property
    def nodes(self) -> tuple[str, ...]:
        """The nodes it names, the wiper's own aside."""
        return (self.pot[0], self.pot[2], *self.unknown, *(node for node in self.over if node != self.pot[1]))


class Delivers(PackModel):
    """The instrument is a source: so many volts between two nodes, r.m.s. at a frequency, into a load or open.

    A range may have a load of its own, `load` in its settings.
    """

    how: Literal["delivers"]
    over: Pair
    hertz: Hertz = 0.0
    load: Annotated[float, Field(ge=0, description="ohm; 0: nothing hangs on it")] = 0.0

    @property
    def nodes(self) -> tuple[str, ...]:
        """The nodes it names."""
        return self.over


class Amplifies(PackModel):
    """A tube of full scale's transconductance is in the socket, and a movement shows it."""

    how: Literal["amplifies"]
    plate: str
    grid: str
    cathode: str
    reads: Movement
    responds: Annotated[Responds, Field(description="what of the swing over the movement it shows")] = "average"
    hertz: Hertz = 0.0

    @property
    def nodes(self) -> tuple[str, ...]:
        """The nodes it names."""
        return (self.plate, self.grid, self.cathode, *self.reads.over)


class Trips(PackModel):
    """A lamp, an eye, a relay: so many volts over it, made by a resistance or a leak at the terminals."""

    how: Literal["trips"]
    input: Annotated[Pair, Field(description="where the resistance or the leak is hung")]
    over: Pair
    at: Annotated[float, Field(gt=0, description="V at which it changes")]
    hertz: Hertz = 0.0

    @property
    def nodes(self) -> tuple[str, ...]:
        """The nodes it names."""
        return (*self.input, *self.over)


class Ramps(PackModel):
    """A sweep: a steady current into a capacitor, so many volts for the whole screen, of seconds or of hertz."""

    how: Literal["ramps"]
    over: Annotated[Pair, Field(description="the capacitor's nodes")]
    swing: Annotated[float, Field(gt=0, description="V over the whole screen")]

    @property
    def nodes(self) -> tuple[str, ...]:
        """The nodes it names."""
        return self.over


class Falls(PackModel):
    """A corner: the frequency at which the response has fallen by so many decibels."""

    how: Literal["falls"]
    input: str
    over: Pair
    mid: Annotated[float, Field(gt=0, description="Hz in the middle of the band")]
    decibels: Annotated[float, Field(gt=0)] = 3.0103

    @property
    def nodes(self) -> tuple[str, ...]:
        """The nodes it names."""
        return (self.input, *self.over)


class Terminals(PackModel):
    """The ohms between two nodes with everything off, measured by an ohmmeter of one's own."""

    how: Literal["terminals"]
    between: Pair

    @property
    def nodes(self) -> tuple[str, ...]:
        """The nodes it names."""
        return self.between


Making = Annotated[
    Shows | Balances | Delivers | Amplifies | Trips | Ramps | Falls | Terminals,
    Field(discriminator="how", description="how the circuit makes a function's ranges"),
]
