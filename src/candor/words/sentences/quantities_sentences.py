"""What is said of quantities: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "a_formula_of_characters_cannot_be": "A formula of {text} characters cannot be read. Example: (plus - minus) / 2",
    "a_such_as": "a {kind} such as {example}",
    "cannot_be_read_at_column_expected": (
        "“{text}” cannot be read at column {column}. Expected: a formula such as (plus - minus) / 2."
    ),
    "cannot_be_shorter_than_the_it": "{one} cannot be shorter than the {other} it was seen with.",
    "comes_out_in_and_was_expected": "“{text}” comes out in {found}, and {dimensions} was expected.",
    "comes_out_without_bounds_with_what": "“{text}” is infinite with what was read.",
    "divides_by_zero_expected": "“{clean}” divides by zero. Expected: {what}.",
    "divides_by_zero_with_what_was": "“{text}” divides by zero with what was read.",
    "does_not_begin_with_a_number": "“{clean}” does not begin with a number. Expected: {what}.",
    "in_names_nothing_there_are": "“{name}” in “{text}” is not a name here; there are {known}.",
    "is_a_this_place_expects_a": "“{text}” is a {found}; this place expects a {kind} in {symbol}, such as {example}.",
    "is_characters_long_expected": "“{clean} …” is {end} characters long. Expected: {what}.",
    "is_in_the_future_cannot_be": "{day} is in the future: {what} cannot be after today, {today}.",
    "is_made_of_two_values_and": (
        "“{text}” is made of two values, and its U is that of both; one standard cannot give it. {way}."
    ),
    "is_neither_a_prefix_nor_a": "“{text}”: “{suffix}” is neither a prefix nor a unit. Expected: {what}.",
    "is_not_a_date_candor_can": (
        "“{text}” is not a date Candor can read; write {what} as year-month-day, such as 2026-03-31."
    ),
    "is_not_a_resistance_to_divide": "{other} is not a resistance to divide by. Expected: one above zero.",
    "is_not_a_unit_a_formula": "“{children}” is not a unit a formula can use. Example: 50ohm",
    "is_not_part_of_a_number": "“{text}”: “{rest}” is not part of a number. Expected: {what}.",
    "is_too_large_expected": "“{clean}” is too large. Expected: {what}.",
    "is_too_large_to_be": "“{text}” is too large to be {what}.",
    "m_read_as_milli": "M read as milli",
    "mixes_units_and_cannot_be_added": "“{text}” mixes units: {first} and {inner} cannot be added.",
    "needs_and_that_was_not_read": "“{text}” needs {first}, and that was not read.",
    "nothing_was_entered_expected": "Nothing was entered. Expected: {what}.",
    "of_what_write_the_unit_p": "“{text}” of what? Write the unit: {text}p, {text}n or {text}u.",
    "of_which_shape_the_r_m": (
        "“{text}”: of which shape? The r.m.s. value depends on it. Examples: 14 Vpp sine, 10 Vpp square"
    ),
    "on_or_before": "on or before {today}",
    "raises_to_a_power_that_is": "“{text}” raises to a power that is not a bare number.",
    "record_the_resistor_as_a_standard": (
        "Record the resistor as a standard of its own, join it with the meter at Standards (such as V / R in A), "
        "and type {first}"
    ),
    "seen_with_squares_subtracted": "{one} seen with {other}: squares subtracted",
    "takes_a_root_a_power_or": "“{text}” takes a root, a power or a logarithm of what has none.",
    "takes_of_only_of_a_ratio": "“{text}” takes {what} of {first}; that has a meaning for a ratio only.",
    "the_comma_could_mean_thousands_or": (
        "“{clean}”: the comma could mean thousands or decimals; write a point for decimals, nothing for thousands."
    ),
    "type_what_the_standard_shows_alone": "Type what the standard shows alone: {first}",
    "what_the_standard_shows": "what the standard shows",
    "without_a_unit_read_as_f": "without a unit, read as µF",
}
