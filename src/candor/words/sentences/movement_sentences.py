"""What is said of movement: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "a_movement_of_a_and_ohm": (
        "A movement of {amperes:g} A and {ohms:g} ohm cannot be; both above zero were expected."
    ),
    "a_movement_of_needs_more_current": (
        "A movement of {words} needs more current than the {wanted_words} it would replace; no resistor mends that."
    ),
    "a_range_of_is_not_above": (
        "A range of {amperes} is not above the movement's own {amperes_2}; a shunt only makes it less sensitive."
    ),
    "at_most": "at most {amperes}",
    "for_with_damping_and_scale_are": (
        "For {words} with {have_words}: {listed}. Damping and scale are another matter: look at both."
    ),
    "in_balance_at_most_division_between": (
        "{words}In balance: at most {worst:.2g} division between positions, half a division is usual."
    ),
    "in_series_with_both": "{series} in series with both",
    "lying_the_zero_is_off_by": "Lying, the zero is off by {flat:+.2g} division: that is the screw's. ",
    "out_of_balance_division_the_weights": (
        "{words}Out of balance {heavy}: {worst:+.2g} division {name}. The weights on its tail are work for "
        "skilled hands."
    ),
    "r_in_series_and_r_across": (
        "R1 {series_ohms} in series and R2 {across_ohms} across it cannot be: R1 must be the larger, and both "
        "above zero. Are they exchanged?"
    ),
    "stand_it_up_only_then_balance": "{words}Stand it up: only then balance shows.",
    "the_balance_needs_the_zero_lying": (
        "The balance needs the zero lying, and one more of {listed}; {listed_2} was given."
    ),
    "the_movement_alone_needs_a_range": (
        "The movement alone needs {ohms}; a range of {volts} cannot be made with a resistor in series."
    ),
    "the_ranges_of_a_universal_shunt": "The ranges of a universal shunt must rise; nothing was calculated.",
    "the_sensitivity_needs_ranges_and_resistances": "The sensitivity needs ranges and resistances above zero.",
    "with_its_shunt_it_has_more": (
        "With its shunt it has {both}, more than the {ohms} wanted; every range would have to be made anew."
    ),
}
