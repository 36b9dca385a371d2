"""What is said of work: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "nothing_to_read_it_is_calculated": "Nothing to read: it is calculated from points that are read.",
    "nothing_was_read_that_an_adjuster_moves": "Nothing was read yet that one of these adjusters moves: read a point of each range first.",
    "of_no_adjuster_does_the_circuit_say": "Of no adjuster of {name} is it known what it moves: that needs its circuit, and which part each "
    "acts on.",
    "a_folder_that_is_there": "a folder that is there",
    "a_point_made_for_it": "{name}, a point made for it",
    "an_entry_that_is_not_here": "an entry that is not here",
    "and_more": "; and {after} more",
    "as_it_was_written": "as it was written",
    "blocked_by_a_hazard_clear_it": (
        "Blocked by a hazard: {text}{also}. Clear it, or override it and say why, before you apply power."
    ),
    "cannot_be_told_yet_to_replace": "{open} cannot be told yet, {waiting} to replace. {sample_words}",
    "changes_that_no_check_has_proven": "changes that no check has proven",
    "coming_from_above_once_and_from": "Coming from above once and from below the next time.",
    "every_step_is_done": "every step is done",
    "first_read_after_a_change_not": "{which} {were} first read after a change ({what}): {state}, not as found.",
    "going_past_the_mark_and_coming": "Going past the mark and coming back.",
    "h": "{hours} h",
    "h_min": "{hours} h {minutes} min",
    "h_on": "{hours:.1f} h on",
    "is_by_the_numbers_of_the": (
        "“{text}” is {printed} by the numbers of the scale, and {other} in {unit}. Write it with its unit."
    ),
    "is_no_folder_on_this_machine": (
        "“{text}” is not a folder on this machine. Expected: its whole name, such as /media/stick."
    ),
    "is_no_measured_part_write_its": (
        "“{line}” is not a measured part. Write its designator and its value. Example: R3=848k"
    ),
    "is_no_number_of_pairs_of": "“{text}” is not a number of pairs of hands. Example: 2",
    "is_no_term_of_a_set": "“{line}” is not a term of a set-up. Examples: {usual}",
    "is_not_a_country_expected": "“{text}” is not a country. Expected: {expected}.",
    "is_not_a_decision_rule_expected": "“{text}” is not a decision rule. Expected: {listed}.",
    "is_not_a_direction_expected_up": "“{direction}” is not a direction. Expected: up or down.",
    "is_not_a_phase_expected_as": "“{named}” is not a phase. Expected: as found or as left.",
    "is_not_a_range": "is not a range",
    "is_not_a_reading_of_example": "“{text}” is not a reading of {name}. Example: {example}",
    "is_not_a_unit_that_can": "“{name}” is not a unit that can be shown. Expected: {expected}.",
    "it_held_at_full_line_and": "it held at full line, and the plug is out",
    "it_is_on": "it is on: {title}",
    "it_was_on_not_yet_held": "it was on, not yet held at full line; the plug is out",
    "it_was_watched_and_is_off": "it was watched, and is off",
    "left_over_from": "left over from {what}",
    "look_and_choose_what_you_see": "Look, and choose what you see.",
    "looked_at_before_it_goes_not": "looked at before it goes, not signed",
    "min": "{minutes} min",
    "min_s": "{minutes} min {rest} s",
    "names_several_ranges_a_column_function": "names several ranges; a column function tells them apart",
    "no_certificate_with_the_digest_was": (
        "No certificate with the digest {digest} was signed in this job: sign it first."
    ),
    "no_part_is_listed_yet": "no part is listed yet",
    "no_power_missing_it_may_be": (
        "No power: {count} missing ({what}). It may be lying across a live part. Find it, or override and say why."
    ),
    "no_power_planned_and_not_fitted": (
        "No power: {waiting} planned and not fitted ({refs}). Fit what was chosen, take the choice back, or "
        "override with a reason."
    ),
    "no_power_the_sample_is_bad": "no power: the sample is bad",
    "no_power_was_washed_let_it": (
        "No power: {what} was washed. Let it dry, then measure the insulation at 500 V d.c., switch on, both "
        "mains conductors joined, to the chassis: 10 MΩ or more. Jot: insulation 22 Mohm @500V. Local codes and "
        "licensed practice come first."
    ),
    "no_range_is_written_yet": "no range is written yet",
    "no_standard_of_the_file_serves": "No standard of the file serves {name}.",
    "none_write_a_range_first": "none: write a range first",
    "not_accounted_for": "{count} not accounted for",
    "not_proven": "{waiting} not proven",
    "nothing_that_was_checked_blocks_power": "nothing that was checked blocks power-up",
    "nothing_was_looked_at_yet": "nothing was looked at yet",
    "nothing_was_read_while_it_soaks": "nothing was read while it soaks",
    "nothing_was_written": "{words} Nothing was written.",
    "one_of_its_points_read_on_another_day": "One of its points read on another day, or on another standard.",
    "one_or_both_of_or_nothing": "one or both of {listed}, or nothing",
    "planned_not_fitted": "{waiting} planned, not fitted",
    "reading_aslant_a_range_changed_without": "Reading at an angle; changing the range without waiting.",
    "reading_before_it_has_settled_a": "Reading before it has settled; a load that was not asked for.",
    "readings_since_it_is_on": "{read} readings since it was switched on",
    "something_was_written_since_the_certificate": "something was written after the certificate was signed",
    "steps_to_go": "{missing} steps to go",
    "stopping_at_the_first_dip_instead": "Stopping at the first dip instead of the deepest.",
    "the_is_at_a_point_of": "The {what} is {value} at a point of {nominal}; has a decimal point or a prefix slipped?",
    "the_points_of_the_range_are": "The points of the {title} range are the pack's: name each in a column point.",
    "the_procedure_has_no_point": "The procedure has no point {key} {phase}.",
    "the_readings_cannot_be_taken": "The readings cannot be taken:",
    "the_sample_is_bad": "the sample is bad",
    "the_sticker_begins_with_its_date": "The sticker begins with its date. {error}",
    "the_variable_control_off_its_detent": "The variable control off its detent.",
    "there_are": "“{range}” {what}; there are {listed}.",
    "there_is_no_reading_in_the": "There is no reading in the file.",
    "to_look_at_before_power": "{still} to look at before power",
    "turn_the_dial_until_the_needle": (
        "Turn the dial until the needle just reaches its mark, then read the dial. If another value is listed, "
        "type: points 82."
    ),
    "two_letters_by_iso_such_as": "two letters by ISO 3166-1, such as NO",
    "waiting_too_short_a_neon_needs": "Waiting too short: a neon needs a moment.",
    "was_applied_and_is_a_reading": (
        "{applied} was applied, and {key} is {nominal}. A reading belongs to the point that was applied: name "
        "that point, or its range in a column range."
    ),
    "was_applied_but_is_in_hand": (
        "{said} was applied, but {name} is in hand, and the {range_name} range has no point for it. Nothing was "
        "written: go to its point, or correct the line."
    ),
    "was_applied_written_at_of_the": "{said} was applied: written at {{}} of the {range_name} range, not at {name}.",
    "was_turned_after_was_set_which": (
        "{first} was turned after {trim} was set, and {trim} depends on it: set {trim} again."
    ),
    "was_washed_its_insulation_is_not": "{what} was washed, and its insulation is not measured",
    "washed_insulation_not_measured": "washed, insulation not measured",
    "what_a_healthy_one_shows": "What a healthy one shows.",
}
