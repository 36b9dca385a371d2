"""What is said of parts: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "more_taken_than_counted": (
        "{text}: {missing} more taken than were counted. Two benches may have taken the last one; look into the drawer and count again."
    ),
    "a_number_of_pieces_such_as": "a number of pieces such as 12, +5 or -1",
    "a_number_of_pieces_such_as_2": "a number of pieces such as 10",
    "a_price_of_one_such_as": "a price of one such as 0.50",
    "a_tolerance_in_per_cent_such": "a tolerance in per cent such as 5",
    "are_sections_of_one_can_write": "“{clean}” are {sections} sections of one can; write each on its own: {listed}.",
    "before_any_mains_esr_or_d": (
        "Before any mains: measure ESR or D of {refs} near 120 Hz, or leakage at working volts where your ESR "
        "meter tests at a higher frequency."
    ),
    "before_any_mains_value_and_esr": (
        "Before any mains: measure value and ESR of two electrolytics, such as {refs}. {no_circuit}"
    ),
    "before_any_mains_value_and_esr_of": (
        "Before any mains: measure value and ESR of {refs}, the electrolytics farthest from the supply."
    ),
    "candor_cannot_read_here_example_c": (
        "Candor cannot read “{line}” here. Example: C12 0.05 uF 600 V paper coupling"
    ),
    "cannot_be_expected": "“{text}” cannot be. Expected: {what}.",
    "expected_a_value_first_such_as": "“{text}”: expected a value first, such as {expected}.{why}",
    "for_parts_order": "for parts, order {number}",
    "in_the_circuit_not_on_the": "In the circuit, not on the list: {told}.",
    "is_not_a_colour_code_expected": (
        "“{text}” is not a colour code. Expected: figures, multiplier, tolerance such as yellow violet orange gold."
    ),
    "is_not_a_kind_of_part": "{ref}: “{said}” is not a kind of part. Use one of: {kinds}.",
    "is_not_a_mains_supply_expected": "{words} is not a mains supply. Expected: {expected}.",
    "is_not_a_mains_supply_expected_2": "“{text}” is not a mains supply. Expected: {expected}.",
    "is_not_a_make_of_part": "“{cell}” is not a make of part. Use one of: {makes}; or leave it empty.",
    "is_not_a_tolerance_colour_example": "“{first}” is not a tolerance colour. Example: gold (5 %)",
    "is_not_a_tolerance_letter_of": "“{letter}” is not a tolerance letter of IEC 60062. Example: J (5 %)",
    "is_pf_or_the_code_for": "“{clean}” is {clean} pF, or the code for {code} pF? Write {clean}p or {code}p.",
    "its_kind_in_a_word_or": "its kind in a word ({listed}), or a value with its unit",
    "its_parts_are_here": "its parts are here",
    "its_value_is_expected_one_above": "{ref}: its value is {nominal:g} {unit}. Expected: one above zero.",
    "k_w_metal_film": "330k 1% 0.5W metal film",
    "no_circuit_is_described_so_measure": (
        "No circuit is described, so measure the two that you find farthest from the supply."
    ),
    "no_power_the_sample_is_bad": (
        "No power: the sample is bad ({listed}). Measure every electrolytic first: {listed_2}."
    ),
    "no_price_is_agreed": "no price is agreed",
    "no_price_is_agreed_2": "{words}; no price is agreed",
    "nothing_was_written": "{ref}, {place}: {why}. Nothing was written.",
    "of_the_agreed": "{words} = {total:.2f} of the {agreed:.2f} agreed",
    "of_the_agreed_left_ask_before": (
        "{words} = {total:.2f} of the {agreed:.2f} agreed: {agreed_2:.2f} left. Ask before more is ordered."
    ),
    "over_the_agreed_ask_the_owner": (
        "{words} = {total:.2f}: {total_2:.2f} over the {agreed:.2f} agreed. Ask the owner first."
    ),
    "pieces_expected_a_whole_number": "{typed} pieces: expected a whole number.",
    "spares_in_per_cent_such_as": "spares in per cent such as 20",
    "the_sample_has_its_value_and": (
        "The sample ({names}) has its value and a usable ESR: the instrument may be powered once hazards are cleared."
    ),
    "the_sample_is_bad_overridden": "The sample is bad; overridden: {reason}",
    "the_sample_was_bad_since_then": (
        "The sample was bad ({listed}); since then every electrolytic has been measured."
    ),
    "the_stock_cannot_be_taken": "This cannot be taken from stock: {fault}",
    "there_are_cannot_be_taken_nothing": "There are {there}, so {by} cannot be taken. Nothing was written.",
    "there_is_no_part_in_the": "There is no part in the file.",
    "there_is_no_stock_in_the": "There is no stock in the file.",
    "time_h": "time {time:.2f} ({minutes} h)",
    "v_hz": "{volts} V {hertz} Hz",
    "v_hz_or_v_hz": "230 V 50 Hz or 120 V 60 Hz",
    "what_kind_of_part_is_expected": "What kind of part is {ref}? Expected {expected}.",
    "which_part_expected_a_designator_such": "Which part? Expected a designator such as R24, C8 or V1.",
    "with_the_old_one": "{how} with the old one",
    "would_be_example": "“{text}” would be {value}. Example: {examples}",
}
