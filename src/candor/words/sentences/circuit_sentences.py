"""What is said of circuit: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "a_finite_value": "a finite value",
    "a_network_with_diodes_has_no": "{name}: a network with diodes has no answer at one frequency.",
    "a_network_with_diodes_is_not": "{listed}: a network with diodes is not solved, only at rest.",
    "a_supply_is_calculated_in_time": "{plus}: a supply is calculated in time without controlled sources.",
    "a_supply_is_calculated_in_time_without": "{name}: a supply is calculated in time without controlled sources.",
    "a_value_above_zero": "a value above zero",
    "an_element_first": "an element first",
    "both_ends_of_are_on_node": "both ends of {name} are on node {plus}",
    "calculating_the_supply_was_stopped": "Calculating the supply was stopped.",
    "cannot_stand_there": "“{first}” does not belong there",
    "closes_a_loop_of_sources_its": (
        "{name} closes a loop of sources ({others}): its current has no limit. Give each winding its resistance "
        "in series."
    ),
    "each_designator_once": "each designator once",
    "goes_on_with_a_line_before": "“+” continues the line before, and there is none",
    "has_words_after_its_name": "{first} has {words} words after its name",
    "hz_is_not_a_frequency": "{sine} Hz is not a frequency",
    "hz_is_not_a_frequency_above": "{hertz:g} Hz is not a frequency; above zero was expected.",
    "is_a_milliohm_in_spice": "“{written}” is a milliohm in SPICE",
    "is_not_a_resistor_of_this": "{name} is not a resistor of this circuit.",
    "is_not_a_value": "“{written}” is not a value",
    "is_not_above_zero": "“{key}={written}” is not above zero",
    "is_not_above_zero_2": "“{written}” is not above zero",
    "is_not_known_here": "“{unknown}=” is not known here",
    "is_of_a_kind_this_subset": "“{line}” is of a kind this subset does not know",
    "is_there_twice": "{name} is there twice",
    "is_too_large": "“{written}” is too large",
    "line_expected_nothing_was_imported": (
        "Line {number}, “{line}”: {what}. Expected: {expected}. Nothing was imported."
    ),
    "meg_for_a_megohm_for_a": "“1meg” for a megohm, “0.001” for a milliohm",
    "nothing_after_the_value": "nothing after the value",
    "nothing_joins_to_the_chassis_node": (
        "Nothing joins {listed} to the chassis (node 0): it has no voltage. Ground one side of its winding, or "
        "join it with a resistor."
    ),
    "only_a_network_of_the_same": (
        "A calculation can go on only in a network with the same capacitors, inductors and sine sources."
    ),
    "only_a_voltage_can_be_a": "only a voltage can be a sine",
    "or_as_first_letter": "{listed} or {last} as first letter",
    "sin_rest_amplitude_hertz": "sin(0 440 50): rest, amplitude, hertz",
    "the_current_of_has_no_way": "The current of {name} has no way back to the chassis.",
    "the_line_ends_too_early": "the line ends too early",
    "the_node_has_no_d_c": "The node “{node}” has no d.c. path to the chassis.",
    "the_rectifiers_find_no_state_in": "The rectifiers {names} find no state in which all of them agree.",
    "the_value_is_missing": "the value is missing",
    "the_voltages_contradict_each_other_or": (
        "The voltages {held} contradict each other or stand in parallel: there is no one answer."
    ),
    "there_is_no_element_in_this": (
        "There is no element in this netlist. Expected: lines such as “R24 grid 0 330k” or “C8 plate grid 0.05u”."
    ),
    "there_is_no_node_in_this": "There is no node “{node}” in this circuit; there are {listed}.",
    "this_circuit_has_no_one_answer": (
        "This circuit has no one answer at a frequency: a node hangs on nothing, or held voltages contradict."
    ),
    "two_different_nodes": "two different nodes",
    "with_a_value": "“{key}=” with a value",
}
