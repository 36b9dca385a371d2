"""What is said of instrument: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "a_dial_at_a_mark": "a dial at a mark",
    "a_dial_at_a_null": "a dial at a null",
    "a_look_good_is": "a look: good is {listed}",
    "a_screen_of_div_each": "a screen of {divisions} div, {per_division} each",
    "a_source_set_and_measured": "a source: set, and measured",
    "a_square_law_near_zero": "a square law near zero",
    "a_threshold_at": "a threshold at {end}{side}",
    "anything_else_that_is_listed": "anything else that is listed",
    "bad_is": "bad is {listed}",
    "bent_by_no_usual_law_known": "bent by no usual law, known to {share}",
    "bent_to_one_end": "bent to one end",
    "calculated": "calculated: {formula}, {of}",
    "div_between_two_marks": "{divisions} div between two marks",
    "div_of": "{divisions} div of {each}",
    "div_of_2": "{divisions} div of {full_scale}",
    "each_mark_needs_its_place_value": "Each mark needs its place: value@place, such as marks 0@0 10@18 20@39 50@90.",
    "edges_to_div": "edges to {edge} div",
    "it_comes_to": "should come to {value}",
    "look_again_at_the_mark_it": (
        "look again at the mark {mark}: it stands at {stands} % of the arc, the others put it at {put} %"
    ),
    "marks_as_usual_write_yours_marks": "; marks as usual, write yours: marks 0 1 2 5 10 …",
    "marks_do_not_show_how_an": (
        "{marks} marks do not show how an arc bends; {fewest_marks} or more were expected, both ends among them."
    ),
    "marks_from_to": "{shown} marks from {first} to {last}",
    "of_point": "{name} is {key}",
    "of_the_arc": "{scatter} % of the arc",
    "ohms_arc_at_its_middle_zero": "ohms arc, {end} at its middle, zero at the {how}{marks}",
    "on_above_it": ", on above it",
    "on_below_it": ", on below it",
    "second_dial_to_div": "second dial {title}, 0 to {ends}, {divisions} div",
    "the_greater_of": "the greater of {listed}",
    "the_marks_are_out_of_order": (
        "The marks are out of order: {said} at {places} of the arc follows {said_2} at {places_2}. Expected: "
        "from the left end to the right, values rising or falling throughout."
    ),
    "the_marks_scatter_by": "{law}, the marks scatter by {share}",
    "the_needle_is_set_on_a": "the needle is set on a mark",
    "their_places_known_to_of_the": "their places known to ±{places_u} % of the arc (95 %)",
    "to_db": "{begins} to {ends} dB",
    "to_square_law_below": "0 to {end}, square law below {knee}",
    "to_zero_in_the_middle": "{minus}{end} to {end}, zero in the middle",
}
