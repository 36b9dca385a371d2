"""The parts and the circuit of a pack, as they are written in its file."""

from __future__ import annotations

from functools import lru_cache
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field, ValidationInfo, field_validator, model_validator

from candor.core.circuit.elements import Element, Switch
from candor.core.circuit.netlist import Netlist, parse_netlist
from candor.core.circuit.resistance import resistance_between
from candor.core.errors import CandorError, RangeError
from candor.core.parts.codes import Marked
from candor.core.parts.judge_resistor import Circuit
from candor.core.parts.part import VALUED, Kind, Mains, Make, Part, Role
from candor.core.parts.part_kinds import kind_of, read_value
from candor.core.worded import worded
from candor.packs.making import Amplifies, Making, Movement, Rectifier, Shows

CHECKED = {"checked": True}  # context of a pack that is read as it was when it was checked


def was_checked(info: ValidationInfo) -> bool:
    """Whether what is read was checked whole before, so that values and netlists need not be read again."""
    return bool(info.context and info.context.get("checked"))


class PackPartLine(BaseModel):
    """One part worth a look. A section of a can adds a letter to its designator: ``C41 a``."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False, defer_build=True)
    ref: Annotated[str, Field(pattern=r"^[A-Z]{1,4}[0-9]+( [a-z])?$", description="such as R24, C8, V1 or C41 a")]
    value: Annotated[str, Field(min_length=1, description="as marked: 330 k 5%, 0.05 uF, 20 uF")]
    make: Make = ""
    role: Role = "other"
    volts: Annotated[float, Field(ge=0, description="rating, V")] = 0.0
    watts: Annotated[float, Field(ge=0, description="rating, W")] = 0.0
    can: str = Field(default="", description="name of the can it is a section of")
    mains: Mains = ""
    across: Annotated[float, Field(ge=0, description="V the circuit puts across it")] = 0.0
    no_load: Annotated[float, Field(ge=0, description="V its rail reaches before the tubes draw")] = 0.0
    grid: str = Field(default="", description="node of the grid it feeds")
    tap: tuple[str, str, str] = Field(default=("", "", ""), description="top, tap and bottom node of its divider")
    note: str = ""
    what: Annotated[
        str, Field(description="its kind, where neither make nor unit says it: tube, diode, fuse, ...")
    ] = ""

    @model_validator(mode="after")
    def _readable(self, info: ValidationInfo) -> PackPartLine:
        if was_checked(info):
            return self
        try:
            marked = self.marked()
        except CandorError as error:
            raise ValueError(worded("packs.the_value_of_cannot_be_read", ref=self.ref, error=error)) from None
        if marked.value <= 0 and self.kind in VALUED:
            raise ValueError(worded("packs.the_value_of_is_expected_one", ref=self.ref, value=marked.value))
        return self

    @property
    def kind(self) -> Kind:
        """What it is: as said, else by its make or the unit of its value."""
        return kind_of(self.ref, self.what, self.value, self.make)

    def marked(self) -> Marked:
        """Return what its value says.

        Raises
        ------
        ValueTextError, UnitError
        """
        _, marks = read_value(self.value, self.kind)
        return marks[0] if marks else Marked(0.0)

    def part(self, netlist: Netlist | None) -> Part:
        """Return it as the core knows parts; the grid's resistance comes from the circuit."""
        marked = self.marked()
        grid = 0.0
        if self.grid and netlist is not None:
            found = resistance_between(netlist, self.grid, "0")
            grid = found if found < 1e12 else 0.0
        return Part(
            ref=self.ref,
            kind=self.kind,
            type=read_value(self.value, self.kind)[0],
            nominal=marked.value,
            make=self.make,
            role=self.role,
            below=marked.below,
            above=marked.above,
            volts=self.volts,
            watts=self.watts,
            can=self.can,
            mains=self.mains,
            volts_across=self.across,
            no_load_volts=self.no_load,
            grid_ohms=grid,
            tap=self.tap,
            note=self.note,
        )


class PackCircuit(BaseModel):
    """A circuit: its netlist, and the node of the rectifier's output."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False, defer_build=True)
    netlist: Annotated[
        str, Field(min_length=1, description="a SPICE subset: R, C, L, V, I, D, E, G, and S for a contact")
    ]
    supply: str = Field(default="", description="node of the rectifier's output")
    input: str = Field(default="", description="node that what is measured is applied to, the probe's tip")
    reads: Movement | None = None
    rectifies: Rectifier | None = None
    makes: Annotated[
        dict[str, Making],
        Field(description="how it makes a function's ranges, by a word that functions name in made_by"),
    ] = {}

    def __hash__(self) -> int:
        return hash(self.netlist)

    def making_of(self, made_by: str) -> Making | None:
        """Return how it makes the ranges of a function; that of the whole where the function names none."""
        if made_by:
            return self.makes.get(made_by)
        if self.reads is None or not self.input:
            return None
        return Shows(how="shows", input=self.input, reads=self.reads, rectifies=self.rectifies)

    @field_validator("netlist")
    @classmethod
    def _parses(cls, text: str, info: ValidationInfo) -> str:
        if was_checked(info):
            return text
        try:
            parse_netlist(text)
        except CandorError as error:
            raise ValueError(worded("packs.the_netlist_cannot_be_read", error=error)) from None
        return text


def node_faults(
    circuit: PackCircuit | None, parts: tuple[PackPartLine, ...], taps: tuple[tuple[str, str], ...] = ()
) -> list[str]:
    """Return a sentence for every node that the circuit does not have; `taps` are (who, node) of ranges."""
    if circuit is None:
        named = next((f"part {p.ref}" for p in parts if p.grid or any(p.tap)), next((who for who, _ in taps), ""))
        return [worded("packs.the_names_a_node_but_there", named=named)] if named else []
    try:
        nodes = {*parse_netlist(circuit.netlist).nodes, ""}
    except CandorError:
        return []  # said where the netlist stands
    asked = [("supply", circuit.supply), ("input", circuit.input), *taps]
    if circuit.reads is not None:
        asked += [("reads", node) for node in circuit.reads.over]
    if circuit.rectifies is not None:
        asked += [("rectifies", circuit.rectifies.at), ("rectifies", circuit.rectifies.into)]
    asked += [(name, node) for name, making in circuit.makes.items() for node in making.nodes]
    asked += [(p.ref, node) for p in parts for node in (p.grid, *p.tap)]
    return [
        worded("packs.there_is_no_node_in_the", who=who, node=node)
        for who, node in asked
        if node.lower() not in nodes
    ]


def acting_faults(circuit: PackCircuit | None, acts: tuple[tuple[str, str], ...]) -> list[str]:
    """Return a sentence for every part that an adjuster acts on and that lies inside what a movement is read on.

    `acts` are (adjuster, part). What is read must be the movement alone: volts over the movement and a trim in series with it say
    nothing of the current, and a part calculated by them makes the reading worse.
    """
    if circuit is None:
        return []
    try:
        elements = parse_netlist(circuit.netlist).elements
    except CandorError:
        return []  # said where the netlist stands
    read = [m.reads.over for m in circuit.makes.values() if isinstance(m, Shows | Amplifies)]
    read += [circuit.reads.over] if circuit.reads is not None else []
    ends = {tuple(node.lower() for node in over) for over in read}
    inside = {name for one, other in ends for name in _in_series_between(elements, one, other)}
    return [
        worded("packs.adjuster_acts_on_which_lies_inside", key=key, part=part)
        for key, part in acts
        if part.upper() in inside
    ]


def _in_series_between(elements: tuple[Element, ...], one: str, other: str) -> set[str]:
    """Return the parts of every branch of several parts from one node to another; none where a single part spans them."""
    at: dict[str, list[Element]] = {}
    for element in elements:
        for node in (element.plus, element.minus):
            at.setdefault(node, []).append(element)
    found: set[str] = set()
    for first in at.get(one, ()):
        branch, node = [first], first.minus if first.plus == one else first.plus
        while node != other and len(at[node]) == 2:
            following = next(e for e in at[node] if e is not branch[-1])
            branch.append(following)
            node = following.minus if following.plus == node else following.plus
        if node == other and len(branch) == 1 and not isinstance(first, Switch):
            return set()
        if node == other and len(branch) > 1:
            found |= {e.name for e in branch}
    return found


@lru_cache(maxsize=64)
def read_circuit(text: str) -> Netlist:
    """Return a netlist that was checked before; see core.circuit.netlist.parse_netlist."""
    return parse_netlist(text)


@lru_cache(maxsize=64)
def parts_of_pack(circuit: PackCircuit | None, lines: tuple[PackPartLine, ...]) -> tuple[Part, ...]:
    """Return the parts of a pack as the core knows them."""
    netlist = read_circuit(circuit.netlist) if circuit else None
    return tuple(line.part(netlist) for line in lines)


@lru_cache(maxsize=64)
def circuit_for(text: str, parts: tuple[Part, ...], values: tuple[tuple[str, float, float], ...] = ()) -> Circuit:
    """Return a circuit as parts are judged in it, with the tolerance of each resistor listed.

    `values` are designators with what they are known to be instead of what is marked, measured or fitted, and its share.
    """
    tolerances = {p.ref.upper(): max(p.tolerance) for p in parts if p.kind == "resistor"}
    netlist = read_circuit(text)
    for ref, value, share in values:
        name = ref.replace(" ", "").upper()
        if netlist.element(name) is not None:
            netlist, tolerances[name] = netlist.with_value(name, value), share
    return Circuit(netlist, tolerances)


@lru_cache(maxsize=4096)
def supply_distance(circuit: Circuit, supply: str, ref: str) -> float:
    """Return the resistance between the rectifier's output and a part's live end, ohm; 0 where that is unknown.

    The larger, the farther from the supply.
    """
    netlist = circuit.netlist
    element = netlist.element(ref.replace(" ", ""))
    if element is None or not supply:
        return 0.0
    live = element.plus if element.plus != "0" else element.minus
    try:
        found = resistance_between(netlist, supply, live)
    except RangeError:
        return 0.0
    return found if found < 1e12 else 0.0
