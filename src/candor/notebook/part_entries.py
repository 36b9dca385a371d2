"""Entries about parts: what is on the list, what was measured, what was decided, runs on the tester, stock, orders, money."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator

from candor.core.parts.capacitor import LeakageRule
from candor.core.parts.part import Kind, Mains, Make, Role
from candor.core.parts.policy import Electrolytics, Sight
from candor.notebook.body import Body

Above = Annotated[float, Field(gt=0, allow_inf_nan=False)]
NotBelow = Annotated[float, Field(ge=0, allow_inf_nan=False)]
Words = Annotated[str, Field(min_length=1)]


class PartListed(Body):
    """A part on the job's list; the last one written for a designator holds, also over the pack's."""

    kind: Literal["part"] = "part"
    ref: Words
    what: Kind
    nominal: Above
    make: Make = ""
    role: Role = "other"
    below: NotBelow | None = None
    above: NotBelow | None = None
    volts: NotBelow = 0.0
    watts: NotBelow = 0.0
    can: str = ""
    mains: Mains = ""
    volts_across: NotBelow = 0.0
    no_load_volts: NotBelow = 0.0
    grid_ohms: NotBelow = 0.0
    note: str = ""
    fitted: bool = True
    leakage_limit: NotBelow = 0.0


class CircuitTaken(Body):
    """A netlist for the job, in place of the pack's."""

    kind: Literal["circuit"] = "circuit"
    netlist: Words
    supply: str = ""


class PartMeasured(Body):
    """What was measured on a part; SI. At least one of its figures."""

    kind: Literal["part_measured"] = "part_measured"
    ref: Words
    value: Above | None = None
    warm: Above | None = None
    state: Literal["", "open", "short", "intermittent"] = ""
    in_circuit: bool = False
    esr: NotBelow | None = None
    dissipation: NotBelow | None = None
    hertz: NotBelow = 0.0
    leakage: NotBelow | None = None
    leakage_volts: NotBelow = 0.0
    dwell_s: NotBelow = 0.0
    percent: Above | None = None
    written: str = ""

    @model_validator(mode="after")
    def _says_something(self) -> PartMeasured:
        figures = (self.value, self.warm, self.esr, self.dissipation, self.leakage)
        if not self.state and all(f is None for f in figures):
            raise ValueError("nothing was measured; expected a value, ESR, D, leakage, open or short")
        return self


class PolicyChosen(Body):
    """What the job follows."""

    kind: Literal["policy"] = "policy"
    sight: Sight = Sight.TEST
    electrolytics: Electrolytics = Electrolytics.REFORM
    rule: LeakageRule = LeakageRule.TENTH
    safe_volts: Annotated[float, Field(gt=0, le=60)] = 60.0


class PartDecided(Body):
    """The restorer decides otherwise, and says why."""

    kind: Literal["part_decided"] = "part_decided"
    ref: Words
    action: Literal["keep", "replace", ""]
    reason: str = ""


class Goods(BaseModel):
    """What a piece is, whoever has it."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)
    what: Kind
    value: Above
    tolerance: NotBelow = 0.0
    make: str = ""
    volts: NotBelow = 0.0
    watts: NotBelow = 0.0
    safety: str = ""
    celsius: NotBelow = 0.0


class NeedLine(Goods):
    """So many of one kind to put in a part's place."""

    text: Words
    count: Annotated[int, Field(ge=1, le=1000)] = 1
    supplier: str = ""
    price: NotBelow = 0.0
    stock: str = ""


class ReplacementChosen(Body):
    """What goes in a part's place; no lines takes the choice back."""

    kind: Literal["replacement"] = "replacement"
    ref: Words
    arrangement: str = ""
    lines: tuple[NeedLine, ...] = ()


class RunStarted(Body):
    """A run on the leakage tester began."""

    kind: Literal["run_started"] = "run_started"
    ref: Words
    mode: Literal["leakage", "reform"]
    target_volts: Above
    dwell_s: Above
    limit: Above
    most_s: Above
    tester: str = ""
    simulated: bool = False
    file: str = ""


class RunEnded(Body):
    """A run is over: why, and what was read. `measured_volts` is the last reading after the source went to zero.

    None where there was no reading: that is not 0 V.
    """

    kind: Literal["run_ended"] = "run_ended"
    run: Words
    ref: Words
    why: str = ""
    outcome: Literal["", "came back", "under the limit", "over the limit", "no progress", "stopped"] = ""
    leakage: NotBelow = 0.0
    expanded: NotBelow = 0.0
    volts: NotBelow = 0.0
    dwell_s: NotBelow = 0.0
    measured_volts: Annotated[float, Field(allow_inf_nan=False)] | None = None
    safe: bool = False
    simulated: bool = False
    readings: Annotated[int, Field(ge=0)] = 0


class StockCounted(Goods, Body):
    """An item of stock as it was counted; the last one for a key holds (an entry of the shop)."""

    kind: Literal["stock"] = "stock"
    key: Words
    count: Annotated[int, Field(ge=0)] = 0
    place: str = ""
    supplier: str = ""
    price: NotBelow = 0.0


class StockMoved(Body):
    """Pieces taken from stock or put back by hand (an entry of the shop).

    With a `job` it was written by an early Candor beside the change that fitted a part; that change moves stock by itself.
    """

    kind: Literal["stock_moved"] = "stock_moved"
    key: Words
    by: int
    job: str = ""
    reason: str = ""


class OrderLine(BaseModel):
    """A line of an order, for one job's part or, as a spare, for stock (no job, but what it is)."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)
    job: str = ""
    ref: str = ""
    text: Words
    count: Annotated[int, Field(ge=1)]
    supplier: str = ""
    price: NotBelow = 0.0
    goods: Goods | None = None


class OrderPlaced(Body):
    """Parts were ordered (an entry of the shop)."""

    kind: Literal["order"] = "order"
    number: Words
    lines: Annotated[tuple[OrderLine, ...], Field(min_length=1)]


class OrderArrived(Body):
    """Lines of an order arrived, by their place in it (an entry of the shop)."""

    kind: Literal["order_arrived"] = "order_arrived"
    order: Words
    lines: tuple[Annotated[int, Field(ge=0)], ...]


class Spent(Body):
    """Time or money spent on a job; minutes, and the currency of the price agreed."""

    kind: Literal["spent"] = "spent"
    minutes: NotBelow = 0.0
    money: NotBelow = 0.0
    text: str = ""

    @model_validator(mode="after")
    def _something(self) -> Spent:
        if not self.minutes and not self.money:
            raise ValueError("neither time nor money; expected such as 45 min or 12.50")
        return self


class PriceAgreed(Body):
    """The price agreed with the owner, and what an hour costs."""

    kind: Literal["price"] = "price"
    agreed: NotBelow = 0.0
    an_hour: NotBelow = 0.0
