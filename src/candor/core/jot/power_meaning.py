"""What a line on the way up means; one class for each kind."""

from __future__ import annotations

from candor.core.late_dataclass import dataclass


@dataclass(frozen=True)
class RailJot:
    """A rail in V, the "watts" in W or the line's "amperes", as read."""

    name: str
    value: float
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class RailSaidJot:
    """A rail as the drawing has it, V, and what its capacitor is rated for, 0 where nothing is said."""

    name: str
    volts: float
    rated_volts: float = 0.0
    chips: tuple[str, ...] = ()
    surge_volts: float = 0.0
    regulated: float = 0.0
    delayed: bool = False


@dataclass(frozen=True)
class RailOhmsJot:
    """A rail's ohm to the chassis, power off; and the manual's figure, 0 where nothing is said."""

    rail: str
    ohms: float
    expected_ohms: float = 0.0
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class WindingJot:
    """A winding of the transformer, ohm; infinite where it is open; the room's degC, and whether it was hot from a run."""

    name: str
    ohms: float
    celsius: float | None = None
    hot: bool = False
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class UnloadedJot:
    """What the transformer takes with all its secondaries open, W, and A where that was read."""

    watts: float
    amperes: float | None = None
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class EventJot:
    """Something heard or seen on the way up."""

    text: str
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class PlugOutJot:
    """The plug is out."""

    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class ProvedJot:
    """The meter was seen live: on what."""

    on: str = ""
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class BleederJot:
    """The bleeder of a rail, ohm, and the capacitance it empties, F."""

    rail: str
    ohms: float
    farad: float
    chips: tuple[str, ...] = ()


PowerJot = (
    WindingJot | UnloadedJot | RailJot | RailSaidJot | RailOhmsJot | EventJot | PlugOutJot | ProvedJot | BleederJot
)
