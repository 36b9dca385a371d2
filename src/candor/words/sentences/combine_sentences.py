"""What is said of combine: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "a_is_combined_of_nothing_expected": "A {kind} is combined of nothing. Expected: a resistor or a capacitor.",
    "a_pair_that_was_made_is": "a pair has exactly two pieces",
    "a_piece_on_hand_has_no": "A piece on hand has no value above zero; it cannot be combined.",
    "a_preferred_value_near_was_asked": (
        "A preferred value near {value:g} was asked for. Expected: a value above zero."
    ),
    "a_trim_needs_two_values_above": "A trim needs two values above zero; found {measured:g} and {target:g}.",
    "a_voltage_rating_of_v_cannot": (
        "A voltage rating of {rating:g} V cannot carry anything. Expected: one above zero."
    ),
    "is_not_a_series_of_preferred": "“{series}” is not a series of preferred values; there are {listed}.",
    "one_to_four_pieces_can_be": "One to four pieces can be combined; found {most}.",
    "per_cent_such_as": "per cent such as 1",
    "preferred_values_lie_between_two_limits": (
        "Preferred values lie between two limits above zero; found {low:g} to {high:g}."
    ),
    "the_search_was_stopped_nothing_was": "The search was stopped; nothing was changed.",
    "the_value_wanted_is_expected_one": "The value wanted is {target:g}. Expected: one above zero.",
    "there_is_nothing_on_hand_to": "There is nothing on hand to combine. Expected: at least one piece or a series.",
}
