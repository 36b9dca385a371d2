"""A state on the way up, from what is known of the supply: what to read, where to cut, what to preset."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import field
from typing import Literal

from candor.core.late_dataclass import dataclass
from candor.core.parts.mains import Mains
from candor.core.power.plan import WATTS, Band, Cut, Expected, PlanStep
from candor.core.power.rated import SURGE_S, surge_volts
from candor.core.worded import worded

RectifierTube = Literal["unknown", "directly heated", "indirectly heated", "mercury vapour", "solid state", "none"]
SILENT = 0.20  # of a voltage, by which a drawing that says nothing of it may be off: common practice, no source
OVER = 1.10  # times the upper end of a band, where a rail is cut that no rating holds: common practice, no source
REGULATES_FROM = 0.9  # of the line, below which a regulator may not hold: common practice, no source
NO_LOAD = (
    1.4  # times the loaded rail that it may reach before the tubes draw, where no supply was calculated: from memory
)
WATTS_CUT = 1.3  # times the plate's figure: common practice, no source
WATTS_CUT_S = 10.0
TUBE_STARTS = (
    0.7  # of the line, below which a tube rectifier gives nothing and reforms nothing: common practice, no source
)
HEATERS_SHARE = (0.2, 0.75)  # of the plate's watts that the heaters alone take: common practice, no source
WARM_S = 1800.0
# What a plan may call its states.
STATES = (
    "lamp", "heaters", "rectifier heater", "rails", "at 25 %", "at 50 %", "at 70 %", "at 75 %", "at 85 %", "full line", "warm",
)  # fmt: skip


@dataclass(frozen=True)
class Rail:
    """A rail of the supply.

    Attributes
    ----------
    name : str
    volts : float
        As the drawing has it at the nominal line, V.
    rated_volts : float
        Of the capacitor on it, V; 0 where it is not known.
    no_load_volts : float
        What it reaches before anything draws, V, where the supply was calculated; else 0.
    regulated : float
        By what share a regulated rail may be off; 0 for one that is not regulated.
    delayed : bool
        A relay or a slow rectifier holds it off at first.
    surge_volts : float
        Printed on its capacitor, V; 0 where it is not.
    """

    name: str
    volts: float
    rated_volts: float = 0.0
    no_load_volts: float = 0.0
    regulated: float = 0.0
    delayed: bool = False
    surge_volts: float = 0.0


@dataclass(frozen=True)
class SupplyTraits:
    """What decides the way up.

    Attributes
    ----------
    rectifier : str
    delay_relay, regulated_heaters, series_heaters, solid_state, picture_tube, fan : bool
    watts : float
        By its plate, at the nominal line; 0 where it says none.
    fuse_amperes : float
        Of its mains fuse by the plate, A; 0 where nobody said.
    measured_good : bool
        Its electrolytics were measured, and are good.
    straight_on : bool
        Somebody chose to go straight on, by name.
    rails : tuple of Rail
    controls : tuple of str
        As the kind has them.
    bands : mapping of str to mapping of str to (float, float)
        State: rail, or watts: from, to, at the nominal line, where the instrument's description gives them.
    """

    rectifier: RectifierTube = "unknown"
    delay_relay: bool = False
    regulated_heaters: bool = False
    series_heaters: bool = False
    solid_state: bool = False
    picture_tube: bool = False
    fan: bool = False
    watts: float = 0.0
    fuse_amperes: float = 0.0
    measured_good: bool = False
    straight_on: bool = False
    rails: tuple[Rail, ...] = ()
    controls: tuple[str, ...] = ()
    bands: Mapping[str, Mapping[str, tuple[float, float]]] = field(default_factory=dict)


@dataclass(frozen=True)
class StateMaker:
    """Makes the states of one instrument on one line, V."""

    traits: SupplyTraits
    mains: Mains
    line: float

    def step(
        self,
        title: str,
        share: float,
        hold_s: float,
        *,
        drawing: bool,
        rails_up: bool = True,
        caution: str = "",
        events: tuple[Expected, ...] = (),
        then: str = "",
        first: bool = False,
    ) -> PlanStep:
        """A step at a share of the line; `drawing` once the tubes draw, so that the drawing's figures hold."""
        volts = round(share * self.line, 1)
        bands, cuts = self._watts(share, rails_up)
        for rail in self.traits.rails:
            band, cut = self._rail(rail, volts / self.mains.volts, rails_up, drawing)
            bands += band
            cuts += cut
        bands, cuts = self._described(title, bands, cuts)
        return PlanStep(
            title=title,
            line_volts=volts,
            hold_s=hold_s,
            settings=self._presets() if first else (),
            bands=tuple(bands),
            events=events,
            cuts=tuple(cuts),
            then=then,
            caution=caution,
        )

    def _described(self, title: str, bands: list[Band], cuts: list[Cut]) -> tuple[list[Band], list[Cut]]:
        """Bands of a state as the description gives them, scaled by the line, in place of those calculated from the drawing.

        None reaches over a cut line: what a capacitor bears does not rise with what a description allows. What has no cut line yet
        is cut at OVER times its band.
        """
        ratio = self.line / self.mains.volts
        for name, ends in self.traits.bands.get(title, {}).items():
            low, high = sorted(round(end * (ratio**2 if name == WATTS else ratio), 1) for end in ends)
            held = min((c.beyond for c in cuts if c.name == name), default=math.inf)
            if math.isinf(held):
                beyond = round(max(OVER * max(abs(low), abs(high)), 1.0), 1)
                cuts = [*cuts, Cut(name, beyond, worded("power.over_what_its_description_has_in"))]
            low, high = max(low, -held), min(high, held)
            bands = [*(b for b in bands if b.name != name), Band(name, min(low, high), high)]
        return bands, cuts

    def upper_watts(self) -> float:
        """What the set takes at most, W: by its plate, else what its fuse lets through; 0 where neither is known."""
        return self.traits.watts or self.traits.fuse_amperes * self.mains.volts

    def _watts(self, share: float, rails_up: bool) -> tuple[list[Band], list[Cut]]:
        watts, squared = self.traits.watts, share**2  # of a load taken as a resistance
        if not watts:
            fuse = self.traits.fuse_amperes * self.mains.volts
            if not fuse:
                return [], []
            cut = Cut(
                WATTS,
                round(max(fuse * squared, 1.0), 1),
                worded("power.over_what_its_fuse_lets_through"),
                WATTS_CUT_S,
            )
            return [Band(WATTS, 0.0, round(fuse * squared, 1))], [cut]
        low, high = (0.4, 1.1) if rails_up else HEATERS_SHARE
        cut = Cut(
            WATTS,
            round(max(WATTS_CUT * watts * squared, 1.0), 1),
            worded("power.over_what_its_plate_says"),
            WATTS_CUT_S,
        )
        return [Band(WATTS, round(low * watts * squared, 1), round(high * watts * squared, 1))], [cut]

    def _rail(self, rail: Rail, ratio: float, up: bool, drawing: bool) -> tuple[list[Band], list[Cut]]:
        if not up:
            return [Band(rail.name, -5.0, 5.0)], [Cut(rail.name, 10.0, worded("power.nothing_should_be_there_yet"))]
        sign = -1 if rail.volts < 0 else 1
        low, top, beyond, why = self._expected(rail, ratio, drawing)
        cuts = [Cut(rail.name, round(beyond, 1), why)]
        if rail.rated_volts and rail.rated_volts < beyond:
            surge = surge_volts(rail.rated_volts, self.traits.measured_good, rail.surge_volts)
            # A surge is of the first half minute, before the tubes draw; afterwards its rating is the end.
            brief = min(surge, beyond) if not drawing else rail.rated_volts
            cuts = [Cut(rail.name, round(brief, 1), worded("power.over_what_its_capacitor_bears"))]
            if brief > rail.rated_volts:
                cuts.append(
                    Cut(rail.name, round(rail.rated_volts, 1), worded("power.over_its_capacitor_s_rating"), SURGE_S)
                )
        # Never a band that runs over its own cut line.
        top = min(round(top, 1), max(c.beyond for c in cuts))
        ends = sorted((sign * min(round(low, 1), top), sign * top))
        return [Band(rail.name, ends[0], ends[1])], cuts

    def _expected(self, rail: Rail, ratio: float, drawing: bool) -> tuple[float, float, float, str]:
        """Return the ends of a rail's band, where it is cut and why; magnitudes, V. `drawing` once the tubes draw."""
        volts = abs(rail.volts)
        if rail.regulated:
            top = volts * (1 + rail.regulated)
            low = volts * (1 - rail.regulated) if drawing and ratio >= REGULATES_FROM and not rail.delayed else 0.0
            return low, top, OVER * top, worded("power.over_what_its_regulator_holds")
        loaded = volts * ratio
        if drawing:
            low, top = (1 - SILENT) * loaded, (1 + SILENT) * loaded
            return low, top, OVER * top, worded("power.over_what_it_should_be_with")
        cold = rail.no_load_volts * ratio if rail.no_load_volts else NO_LOAD * loaded
        low = 0.0 if rail.delayed else (1 - SILENT) * loaded
        # Between what it is with the tubes drawing and what it reaches before they do.
        beyond = 1.02 * max(cold, (1 + SILENT) * loaded)
        return low, max(cold, loaded), beyond, worded("power.over_what_it_reaches_with_nothing")

    def _presets(self) -> tuple[str, ...]:
        quiet = {
            "intensity": "down",
            "brightness": "down",
            "sweep": "slow",
            "time base": "slow",
            "position": "middle",
            "gain": "down",
        }
        known = [f"{c} {how}" for c in self.traits.controls for word, how in quiet.items() if word in c.lower()]
        return tuple(dict.fromkeys(known))

    def warm(self, events: tuple[Expected, ...] = ()) -> PlanStep:
        """The last step: the line as it will be used, everything drawing."""
        return self.step(
            "warm",
            1.0,
            WARM_S,
            drawing=True,
            events=events,
            then=worded("power.read_every_rail_and_keep_it"),
        )

    def events(self, *more: Expected) -> tuple[Expected, ...]:
        """What is heard and seen as it comes up."""
        fan = (Expected("fan", 2.0, 2.0),) if self.traits.fan else ()
        hum = (Expected("hum", 1.0, 1.0),) if not self.traits.series_heaters else ()
        return (*hum, *fan, *more)
