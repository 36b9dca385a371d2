"""Parts without a circuit: listed, joined node by node, judged in the netlist that comes of it."""

import pytest

from candor.core.circuit.netlist import parse_netlist
from candor.core.circuit.resistance import resistance_between
from candor.core.jot import JotContext, understand
from candor.core.parts.policy import Policy, Resistors
from candor.core.parts.reasons import Action
from candor.notebook.entries.parts_entries import CircuitTaken, NodeAlias, PartMeasured
from candor.notebook.entries.stay_entries import JobOpened
from candor.notebook.parts.parts_list import list_parts, parts_of
from candor.notebook.trace.trace_view import node_of, nodes_view, trace_bodies
from candor.notebook.trace.tracing import aliases_of, board_bodies
from candor.notebook.work.description import description_of
from candor.notebook.work.job import fold
from candor.packs.bundled import bundled_pack

LISTED = (
    "part R1 100k",
    "part R2 47k 5% comp",
    "part R3 1M film",
    "part C8 0.05 uF 600V paper coupling",
    "part C9 20/20 uF 450V lytic",
)


@pytest.fixture
def on_bench(notebook):
    notebook.write("j", JobOpened(maker="Corvane", type="AV-20", serial="3310", instrument_kind="multimeter"))

    class Hand:
        def job(self):
            return fold("j", notebook.entries_of("j"))

        def pack(self):
            return description_of(notebook, self.job())

        def jot(self, *lines):
            for line in lines:
                parts = {p.ref: p for p in parts_of(self.job(), self.pack())[0]}
                for body in board_bodies(understand(line, JotContext(parts=parts))):
                    notebook.write("j", body)

        def write(self, body):
            notebook.write("j", body)

        def parts(self, **policy):
            return list_parts(self.job(), self.pack(), Policy(**policy))

    return Hand()


def test_listed_parts_stand_riskiest_first_without_any_circuit(on_bench):
    on_bench.jot(*LISTED)
    found = on_bench.parts()
    assert [x.part.ref for x in found.lines] == ["C8", "C9 a", "C9 b", "R2", "R1", "R3"]
    assert found.circuit is None
    assert found.line("C9 a").part.can == "C9"


def test_the_board_traced_out_is_a_netlist_with_other_names_for_its_nodes(on_bench):
    on_bench.jot(
        *LISTED,
        "R1 joins B+ and plate",
        "R2 joins V1 pin 5 and chassis",
        "R3 joins plate and ground",
        "node plate is V1 pin 5",
    )
    netlist = on_bench.parts().circuit.netlist
    assert netlist.nodes == ("0", "b+", "plate")
    assert resistance_between(netlist, "plate", "0") == pytest.approx(
        47e3 * 1e6 / (47e3 + 1e6)
    )  # two in parallel, Ohm's law
    on_bench.write(PartMeasured(ref="R2", value=60e3, in_circuit=True))
    assert on_bench.parts().line("R2").action is Action.REPLACE  # too high in circuit can only be the part itself


def test_what_is_traced_overrules_the_drawing_and_the_rest_of_it_stays(on_bench):
    on_bench.write(CircuitTaken(netlist="R1 a b 100k\nR2 b 0 47k\nL5 b 0 1m"))
    on_bench.jot(*LISTED, "R2 joins a and 0")
    netlist = on_bench.parts().circuit.netlist
    assert (netlist.element("R2").plus, netlist.element("R1").plus, netlist.element("L5").plus) == ("a", "a", "b")


def test_an_alias_that_makes_both_ends_one_leaves_the_part_out(on_bench):
    on_bench.jot(*LISTED, "R1 joins a and 0", "R2 joins a and b", "node a is b", "node b is a")
    assert [e.name for e in parse_netlist("\n".join(["R1 a 0 1", "R2 a b 1"])).elements] == ["R1", "R2"]
    names = [e.name for e in on_bench.parts().circuit.netlist.elements]
    assert "R1" in names


def test_the_third_school_takes_every_composition_resistor_on_sight(on_bench):
    on_bench.jot(*LISTED)
    on_bench.write(PartMeasured(ref="R2", value=47e3))
    kept, school = on_bench.parts(), on_bench.parts(resistors=Resistors.ALL)
    assert [kept.line(r).action for r in ("R1", "R2", "R3")] == [Action.CANNOT_TELL, Action.KEEP, Action.CANNOT_TELL]
    assert [school.line(r).action for r in ("R1", "R2", "R3")] == [Action.REPLACE, Action.REPLACE, Action.CANNOT_TELL]
    assert school.line("R2").verdict.reasons[0].by_policy


def test_names_of_the_pack_find_its_nodes_and_those_of_the_job_stand_over_them(notebook):
    pack = bundled_pack("halvergate-ev9")
    notebook.write("j", JobOpened(maker="Halvergate", type="EV-9", serial="1", pack_digest=notebook.keep_pack(pack)))
    job = fold("j", notebook.entries_of("j"))
    (body,) = trace_bodies(understand("node left-grid 1.2 V", JotContext()), job, pack)
    assert body.node == "left-grid"
    for words in ("pin 3 of V2", "left cathode"):
        assert node_of(aliases_of(job, pack), words) == "k1"
    notebook.write("j", NodeAlias(node="k2", alias="left cathode"))
    job = fold("j", notebook.entries_of("j"))
    assert node_of(aliases_of(job, pack), "left cathode") == "k2"
    view = nodes_view(job, list_parts(job, pack, Policy()), {})
    named = {line.node: line.aliases for line in view.lines}
    assert named["k1"] == ("pin 3 of V2",)
    assert named["k2"] == ("left cathode", "pin 8 of V2", "right cathode")
