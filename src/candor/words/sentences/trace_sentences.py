"""What is said of trace: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "a_chain_has_at_least_one": "A chain has at least one stage that may be at fault; weights are 0 or more.",
    "at_v_and_v_with_mu": (
        "At {plate_volts:g} V and {grid_volts:g} V with mu {mu:g} no current flows; is the grid's sign right?"
    ),
    "candor_cannot_read_line_examples": "Candor cannot read line {number}, “{words}”. Examples: {forms}",
    "has_no_band_for_a_number": "{name} has no band for a number. Say good, bad or odd; or: stage {name}, band 8..12",
    "is_not_a_stage_of_this": "“{stage}” is not a stage of this chain; there are: {named}. Name it: stage {stage}",
    "its_plate_comes_to_stand_below": "{name}: its plate would be below the knee, where its law does not hold.",
    "line_there_is_no_node_in": "Line {number}: there is no node “{node}” in this circuit; there are {listed}.",
    "the_circuit_has_nodes_up_to": "The circuit has {nodes} nodes; Candor takes up to {most_nodes} at once.",
    "the_node_has_no_d_c": "{name}: the node “{node}” has no d.c. path to the chassis.",
    "the_tubes_find_no_state_with": "The tubes {listed} find no state with this network.",
}
