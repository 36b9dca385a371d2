"""What is said of jot: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "a_current_of_the_sheet_needs": (
        "A current of the sheet needs mu. Example: tube V3 plate n5, cathode n7, mu 20, 10 mA at 250 V and -8.5 V"
    ),
    "a_factor_of_expected_one_above": (
        "A factor of {factor}? Expected one above 1: factor 2 means from half to twice."
    ),
    "a_limit_from_its_own_sheet": "A limit from its own sheet stands alone, of a capacitor: “{ref} limit 500u”.",
    "a_limit_of_expected_one_above": "A limit of {value} %? Expected one above 0, up to 100 %.",
    "a_limit_such_as": "a limit such as {what}",
    "a_mark_has_no_place_write": "A mark has no place. Write each as value@place, such as 20@43.",
    "a_point_at_says_only_where": (
        "A point at {shown} says only where zero stands. Expected: one above zero, up to {full_scale}."
    ),
    "a_range_that_ends_at_expected": "A range that ends at {value}? Expected one above zero.",
    "a_screen_of_divisions_expected_to": (
        "A screen of {divisions} divisions? Expected 2 to {most_of_a_screen} along one direction."
    ),
    "a_through_a_capacitor_write_the": (
        "{ref}: {shown} A through a capacitor? Write the prefix, such as {shown}u, or “really” behind it."
    ),
    "after_s": "after {dwell_s} s",
    "alone_is_not_a_measurement_examples": "{ref}: “{said}” alone is not a measurement. Examples: {expected}",
    "an_adjuster_was_moved_what_depends": "an adjuster was moved: what depends on {moved} is read again as left",
    "an_esr_of_zero_is_a_short_or": (
        "An ESR of 0 is less than your meter can show, or {ref} is shorted. Measure its ohms; then type the least that your meter shows, "
        "for example: {ref} esr 0.1"
    ),
    "an_ohms_range_stands_volts_stands": "An ohms range withstands volts, not ohms. Example: stands 5 V",
    "a_calculated_value_is_written_so": (
        "A value that is calculated says its formula, the points it is of, and what it should come to. Example: {example}"
    ),
    "a_time_is_no_reading_of_a_soak": (
        "“{written}” is how long, not what was read. Type what you watch: “soak 10.0231 V”; or since when it is on: “on since 14:00”."
    ),
    "are_history_from_here": "{what} are history from here",
    "arrived_dead": "{date}, {dead}: arrived dead",
    "as_found_inoperative_because": "as found: inoperative, because {reason}",
    "at_not": "at {applied}, not {nominal}",
    "at_v": "at {volts} V",
    "at_v_2": " at {volts} V",
    "at_what_voltage_does_leak_example": "At what voltage does {ref} leak? Example: {ref} leak 310u @400V 5min",
    "at_which_end_of_the_ohms": (
        "At which end of the ohms arc does zero stand? Add: zero left, or zero right. Example: range Ohms called "
        "Rx1 10 ohm centre zero right 3% of arc"
    ),
    "bleeder_of_on": "bleeder of {name}: {ohms} on {farad}",
    "both_ends_are_on_give_two": "Both ends are on {one}. Give two nodes. Example: ohms n5 to chassis 47k",
    "both_ends_of_are_on_give": "Both ends of {ref} are on {plus}. Give two different nodes.",
    "can_mean_several_things_say_which": "“{clean}” can mean several things: {listed}. Say which.",
    "candor_cannot_read_after_examples": "Candor cannot read “{rest}” after {ref}. Examples: {expected}",
    "candor_cannot_read_as_a_reading": "Candor cannot read “{short}” as a reading. {ask}",
    "candor_cannot_read_here_example": "Candor cannot read “{line}” here. Example: {past}",
    "candor_cannot_read_here_example_2": "Candor cannot read “{shown}” here. Example: {first}",
    "candor_cannot_read_here_example_3": "Candor cannot read “{text}” here. Example: {example}",
    "candor_cannot_read_the_limit_in": "Candor cannot read the limit in “{text}”. Examples: ±3 %, ±0.5 V",
    "candor_does_not_understand_enter_once": (
        "Candor does not understand “{short}”. {asked} Enter once more keeps it as a note."
    ),
    "candor_does_not_understand_in_example": "Candor does not understand “{listed}” in “{text}”. Example: {expected}",
    "cannot_be_a_point_of_the": "{shown} cannot be a point of the {range_name} range, which reads {ends}.",
    "cannot_be_example_rail_b_is": "“{line}” cannot be. Example: rail b1 is 285 V, capacitor 450 V",
    "cannot_be_give_a_band_from": (
        "“{line}” cannot be: give a band from low to high, and a weight and minutes above zero. Example: stage "
        "mixer, weight 2, 5 min, band 8..12"
    ),
    "cannot_be_here_expected_a_value": "{value} cannot be here: expected a value {least}, such as {example}.",
    "caution_above_its_v": "caution: above its {volts} V",
    "characters_are_more_than_a_name": (
        "{clean} characters are too long for a name. Expected: up to {longest}: {expected}. Notes go in the jot line."
    ),
    "characters_are_too_long_for_one": (
        "{clean} characters are too long for one line (up to {longest}). Attach the text as a file, or split it."
    ),
    "days_of_drying_give_up_to": "{days} days of drying? Give up to {most_days:g} days.",
    "db": "±{decibels} dB",
    "did_you_mean": "Did you mean {listed}?",
    "div": "±{limit_divisions} div",
    "divisions_expected_a_whole_number_from": (
        "{number} divisions? Expected a whole number from 1 to {most_divisions}, such as 30 div."
    ),
    "dries_days": "dries {dry_s} days",
    "edges_to_divisions_expected_a_part": "Edges to {match} divisions? Expected a part of one, such as 0.1.",
    "every_s_candor_reads_a_link": (
        "Every {every:g} s? Candor reads a link from every {quickest_s:g} s to once a day. Example: every 5 min"
    ),
    "examples_did_replaced_the_cord_note": (
        "Examples: {reading}, did replaced the cord, note the knobs are not original."
    ),
    "examples_t_ref_up": "Examples: 72.6, -1/4t, 72.6 ref 75.004 up.",
    "expected_to_or_is_it_fahrenheit": (
        "{value} {unit}? Expected {low} to {high} {unit}; of Fahrenheit write {value} F."
    ),
    "expected_to_is_a_decimal_point": "{value} {unit}? Expected {low} to {high} {unit}; is a decimal point missing?",
    "fasteners_give_to_example_unaccounted_screws": (
        "{number} fasteners? Give 1 to {most_fasteners}. Example: unaccounted 2 screws M3"
    ),
    "for_s": " for {seconds} s",
    "from_the_line": "{amperes} from the line",
    "give_a_frequency_up_to": "{hertz}? Give a frequency up to {most_hertz}.",
    "give_the_tube_s_plate_and": (
        "Give the tube's plate and cathode at least. Example: tube V3 plate n5, grid n3, cathode n7"
    ),
    "gives_its_limit_in_two_ways": "“{line}” gives its limit in two ways that do not add up. Give one of: {ways}.",
    "good_or_open": "“{ref} good” or “{ref} open”",
    "has_more_than_one_unit_use": "“{line}” has more than one unit. Use one. Example: {past}",
    "has_no_unit_that_a_needle": "“{words}” has no unit that a needle shows. Example: {expected}",
    "how_is_read_is_not_clear": (
        "How “{text}” is read is not clear. Examples: 5 V zero centre 50 div; 10 ohm centre zero right; marks "
        "0@0 1@8 2@27 3@55 4@90 (each with its place along the arc); steps 1 2 5 V."
    ),
    "how_many_divisions_has_its_scale": "How many divisions has its scale? Example: {expected}",
    "how_warm_is_the_room_example": "How warm is the room? Example: winding hv 158 ohm hot at 24 C",
    "in_which_unit_are_the_numbers": (
        "In which unit are the numbers of “{function}”? Write it behind them, such as 10 V, 0..100 mA, marks 0@0 "
        "1@20 inf@90 ohm."
    ),
    "in_circuit_or_lifted": "{ref}: in circuit or lifted? One of them.",
    "is_a_a_measurement_decides_not": "{ref} is a {kind}: a measurement decides, not “{said}”. Examples: {expected}",
    "is_a_it_has_no_leakage": "{ref} is a {kind}: it has no leakage, ESR or power factor.",
    "is_a_it_has_no_value": "{ref} is a {kind}: it has no value to measure. Examples: {expected}",
    "is_a_time_or_an_amount": "Is “{line}” a time or an amount? Examples: spent 45 min, spent 12.50",
    "is_beyond_the_range_which_ends": "{shown} is beyond the {range_name} range, which ends at {full_scale}.",
    "is_it_replaced_or_to_be": (
        "Is {ref} replaced already? Then type “replaced {ref}”. Else say why it should be: “{ref} replace because …”. Nothing was "
        "written."
    ),
    "is_long_for_the_name_of": "“{function} …” is too long for the name of a function. Expected: a few words.",
    "is_not_a_known_enter_once": "“{name}” is not a known {what}. {ask} Enter once more takes it as a new one.",
    "is_not_a_time_examples_s": "“{pace}” is not a time. Examples: 30 s, 5 min, 1 hour",
    "is_not_a_time_of_day": "“{text}” is not a time of day. Example: 14:00",
    "is_not_a_unit_that_candor": "“{unit}” is not a unit that Candor can watch. Units: {listed}.",
    "is_not_a_value_with_a": "“{text}” is not a value with a unit. Example: 10.0231 V",
    "is_not_above_zero_nothing_was": "{ref}: {value:g} is not above zero; nothing was written.",
    "is_not_listed_this_adds_it": "{ref} is not in this job's parts list yet: “{line}” adds it.",
    "is_not_in_this_job_s": "{unlisted} is not in this job's parts list. Listed: {near}",
    "is_not_in_this_job_s_parts": "{ref} is not in this job's parts list yet. Add it first. Example: {expected}",
    "is_not_in_write": "“{first}” is not in {wanted}. Write: {example}",
    "is_nothing_expected_a_value_above": "{ref}: the value cannot be “{value}”. Expected: one above zero.",
    "is_read_as_such_as_is": (
        "{name} is read as: {title}, such as “{example}”; “{head}” is of another kind, {other_title}."
    ),
    "it_is_by_its_drawing_write": (
        "{ref}: {value}? It is {words} by its drawing. Write the unit, or “really” behind it."
    ),
    "it_stands_less_than_its_full": (
        "It withstands {value}, less than its full scale of {full_scale}? Expected full scale or more."
    ),
    "its_capacitor_v": "its capacitor {rated} V",
    "kg_give_a_mass_examples_kg": "{kg} kg? Give a mass. Examples: 32 kg, 70 lb",
    "leaks_at_most_by_its_own": "leaks at most {amperes} by its own sheet",
    "limit_the_s": "limit {words}, the {by}'s",
    "line_every_s_expected_to_s": "Line {number}: every {every:g} s? Expected 0.02 to 3600 s.",
    "line_has_no_address_example": "Line {number}, “{line}”, has no address. Example: {example}",
    "line_is_read_by_two_meters": (
        "Line {number}: {name} is read by two meters. Expected: each to read something else."
    ),
    "line_v": "line {volts} V",
    "marks_placed_to_of_the_arc": "Marks placed to {u} % of the arc? Expected above 0 and under 50.",
    "may_be_milliohms_or_megohms_examples": (
        "“{text}” may be milliohms or megohms. Examples: {parse_number:g} Mohm, 0.09 ohm"
    ),
    "name_at_least_one_meter_example": "Name at least one meter. Example: {example}",
    "names_no_one_generic_kind_of": "“{kind}” is not one generic kind of tube. Kinds: {listed}.",
    "names_no_point_example_points": "“{text}” names no point. Example: points 10 20 30",
    "node_by_the_drawing_v": "node {node} by the drawing: {volts} V",
    "not_as_drawn": "not as drawn: {what}",
    "not_understood_a_note": "not understood, a note: {short}",
    "nothing_was_entered_examples_t_found": "Nothing was entered. Examples: 72.6, -1/4t, found cord perished hazard",
    "nothing_was_written_expected": "Nothing was written. Expected: {expected}.",
    "of_what": "“{short}” of what? {ask}",
    "of_what_it_is_write_the": "{ref}: {text} of what? It is {words}; write the unit, such as {text}u.",
    "of_what_value_example": "{ref}: of what value? Example: {expected}",
    "on_the_list": "on the list: {ref}",
    "on_which_range_was_it_read": (
        "On which range was it read? Example: node n5 by drawing 180 V at 2000 ohm/V on 300 V"
    ),
    "or_two_of_one_kind_were": "{ref}: {found} or {said}? Two of one kind were written. Examples: {expected}",
    "over_kg_two_people_lift_it": "over {heavy_kg:g} kg: two people lift it",
    "per_cent_of_nothing_are_no_limit": "It should come to zero, and per cent of zero is no limit. Give an amount, for example ±0.5 V.",
    "per_the_manual": "per the manual {manual}",
    "pin_of_which_tube_example_node": "Pin {pin} of which tube? Example: node V1 pin {pin} {volts}",
    "placed_to": " placed to {places_u} %",
    "plate_v": "{name}: plate {plate_volts:g} V",
    "proves_nothing_say_what_you_measured": (
        "“{text}” proves nothing: say what you measured or saw that shows the change. Example: checked rail 312 "
        "V, ripple gone"
    ),
    "proves_the_last_change": "proves the last change: {text}",
    "rail_by_the_drawing_v": "rail {name} by the drawing: {volts} V",
    "range_at": "{range_name} range at {listed}",
    "read_at_v_on_v": "read at {per_volt} Ω/V on {range_volts} V",
    "read_by_every_in": "read by {link} every {every}, in {unit}",
    "readings_that_use": "readings that use {ref}",
    "readings_that_use_are_history": "readings that use {touched} are history",
    "regulated_to": "regulated to {regulated} %",
    "relative_humidity": "{value} % relative humidity",
    "room_c": "room {celsius} °C",
    "say_why_because_nothing_was_written": "Say why: “{ref} {action} because …”. Nothing was written.",
    "says_twice_say_it_once": "“{line}” says {replace} twice. Say it once.",
    "spends_nothing_examples_spent_min_spent": "“{line}” spends nothing. Examples: spent 45 min, spent 12.50",
    "multipliers_belong_to_an_ohms_arc": "“{listed}” are multipliers of an ohms arc: say its middle and its zero too, "
    "such as 10 ohm centre zero left.",
    "surge_v": "surge {surge} V",
    "that_may_be_the_meter": (
        "{ref} is {words}: that may be beyond the meter. Type “{ref} open” where another meter, or its leakage, shows it open."
    ),
    "the_formula_has_and_the_points": "The formula has {names}, and the points are named {said}. Give each name its point.",
    "the_chassis_is_at_v_by": "The chassis is at 0 V by definition. Example: node n5 182 with 10M",
    "the_ends_do_not_rise_or": "The ends “{words}” do not rise, or are more than {most_ranges}.",
    "the_first_and_the_last_mark": "The first and the last mark stand at the same place.",
    "the_levels_run_from_to_db": "The levels run from {low} to {high} dB; the lower first was expected.",
    "the_limit_is_not_in_the": "The limit “{words}” is not in the unit of the range. Expected one in {unit}.",
    "the_mark_in_hand": "{words} the mark in hand",
    "the_owner_it": "the owner {answer} it",
    "the_series_does_not_come_to": "The series “{words}” does not come to {last}. Write all its ends.",
    "the_shop_s_esr_meter_tests": "the shop's ESR meter tests at {at}",
    "the_shop_s_mains": "the shop's mains: {words}",
    "there_are": "There are: {listed}.",
    "times_full_scale": "{value} times full scale",
    "to_chassis": "{name} to chassis {ohms}",
    "turns_at_most_were_expected": "{turns} turns; at most {most_turns:g} were expected.",
    "up_to": "up to {full_scale:g} {unit}",
    "v": "{volts} V",
    "v_give_up_to_kv_is": "{volts} V? Give up to {most_volts:g} kV; is a decimal point missing? Example: rail b1 287",
    "w": "{watts} W",
    "w_a_wattmeter_the_right_way": "{watts} W? A wattmeter the right way round reads 0 or more.",
    "was_connected_when_they_were_read": "{name} was connected when they were read",
    "what_a_range_stands_is_in": "What a range withstands is in V or A; this one is in {unit}.",
    "what_did_you_measure_examples": "{ref}: what did you measure? Examples: {expected}",
    "what_does_the_range_stand_write": "What does the range withstand? Example: {example}",
    "what_was_measured_or_seen": "what was measured or seen",
    "where_does_the_range_end_give": (
        "“{line}”: where does the range end? Give a value with its unit. Example: {expected}"
    ),
    "which_function_was_found_example_function": "Which function was found? Example: function AC volts, faded",
    "which_marks_are_placed_so_write": "Which marks stand at these places? Write each with its place, such as 20@43.",
    "which_range_add_the_range_first": "Which range? Add the range first. Example: {expected}",
    "while_it_soaks": "while it soaks {shown}",
    "without_a_unit_read_as": "without a unit, read as {sign}",
    "zero_is_what_the_meter_cannot_show": (
        "{ref} leaks less than your meter can show, which is not zero. Type the least that it shows, for example: {ref} leak 0.1u @400V"
    ),
    "zero_left_or_zero_right": "zero left or zero right",
}
