"""What is said of paper: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "nothing_chosen_for": "{ref}: nothing chosen yet",
    "not_in_stock": "not in stock",
    "to_fetch": "Fetch from the drawers",
    "nothing_is_final_while_away": (
        "{away}: what other benches wrote may be missing here, so nothing is printed as final. Print it when the server is back."
    ),
    "a_change_was_not_checked_afterwards": "A change was not checked afterwards: {text}.",
    "a_digital_certificate_says_in_which": (
        "A digital certificate says in which country it was made: write it in Settings, two letters such as NO."
    ),
    "a_reading_outside_it_do_not": "A reading outside it: do not rely on it, do not adjust it, and call us.",
    "a_trim_is_to_be_set": "a trim is to be set again",
    "all_points_that_were_read_wait": (
        "All {waiting} points that were read must be read again, because something they depend on was changed "
        "since. There is nothing that a certificate could state as left."
    ),
    "an_entry_cannot_be_read": "an entry cannot be read",
    "apply_it_should_read": "{function} {range}: apply {applied}, it should read {shown}",
    "as_a_bench_looks_at_it": "These are bench checks; they do not certify electrical safety.",
    "because_entry": "because {reason} (entry {number})",
    "bill_no": "Bill: {name}, no. {serial}",
    "by_its_kind_alone": "{u}, by its kind alone",
    "by_its_links_which_stand_here": "by its links, which stand here too",
    "certificate_of_calibration": "Certificate of calibration {number}",
    "checked_entry": "; checked: {check} (entry {number})",
    "conformity_of_each_point": "Conformity of each point",
    "draft_not_signed": "DRAFT, not signed:",
    "draft_nothing_is_signed_entries_are": (
        "Draft: nothing is signed. Entries are lines of the notebook. Decimals stand behind a point."
    ),
    "entries_are_lines_of_the_notebook": (
        "Entries are lines of the notebook. Decimals stand behind a point. SHA-256 of the signed JSON, kept "
        "beside it: {digest}"
    ),
    "entries_not_as_written": "entries not as written",
    "error_of_every_test_point_against": (
        "Error of every test point against its limit. Hollow: as found. Filled: as left. Bar: U."
    ),
    "every_point_s_drift_over_all": "Every point's drift over all calibrations, and when it is due",
    "everything_that_was_changed_was_changed": (
        "Everything that was changed was changed before these readings, or does not affect them: the {title} "
        "results are also as left."
    ),
    "faults_of_the_history": "Faults of the history: {fault}",
    "for_the_case_by_range_what": "For the case, by range: what it reads, the true value, and U",
    "friction_division": "{both}, friction {friction_divisions} division. {words}",
    "hazard_not_cleared": "Hazard not cleared: {text}.",
    "history_no": "History: {name}, no. {serial}",
    "hollow_as_found_filled_as_left": (
        "Hollow: as found. Filled: as left. Bar: U. Band: where the true error will be, 95 %."
    ),
    "in_tolerance_when_due": "in tolerance when due",
    "influence_of_the_line": "Influence of the line: {found}",
    "is_specified_by_what_is_usual": (
        "{name} is specified by what is usual for its class, not by its own handbook or certificate; what was "
        "read against it is no surer than that."
    ),
    "it_goes_although_open_reason": "It goes although open: {listed}. Reason: {reason}.",
    "it_was_changed_without_having_been": (
        "It was changed before it had been read as found: how it arrived is not known.{why}"
    ),
    "left_at_with_applied": ", left at {indicated:g} with {reference:g} applied",
    "left_out_because": "Left out: {title}, because {reason}.",
    "let_go_although": "Let go although: {reason}",
    "let_it_warm_up_set_its": (
        "Let it warm up, set its zero, then apply each value by your own meter and read it. If nothing changed "
        "on the way, 95 of 100 readings lie within the limit shown; add what your meter may be off by."
    ),
    "limit_not_the_maker_s": "limit not the maker's: {function} {title}",
    "measured_certificate": "Measured {last:%Y-%m-%d}, certificate {number}",
    "mm_the_instrument_its_result_the": "54 × 25 mm: the instrument, its result, the due date, what is not covered",
    "mm_the_same": "89 × 50 mm, the same",
    "more_is_not_covered_read_the": "More is not covered: read the certificate first.",
    "more_was_spent_than_the_agreed": (
        "{total:.2f} more was spent than the {agreed:.2f} agreed; the agreed sum is charged."
    ),
    "moves_at_line": "{name} moves {change} at line {share} %",
    "no_as_found_changed_before_it": "no as found: changed before it was read",
    "no_due_date_was_set": "No due date was set",
    "no_limit": "no limit: {function} {title}",
    "no_limit_was_given_so_nothing": "{name}: no limit was given, so nothing is decided there.",
    "no_point_of_the_certificate_can": "No point of the certificate can be repeated with a meter alone.",
    "no_point_of_the_certificate_has": (
        "No point of the certificate has a correction: nothing was read in its own unit."
    ),
    "no_price_was_agreed_it_is": "No price was agreed: what was spent is charged.",
    "no_procedure_of_the_maker_ranges": (
        "no procedure of the maker: ranges and points as they were written on this job"
    ),
    "no_rate_was_agreed_time_is": "No rate was agreed: time is stated, not charged.",
    "no_reference_was_named": "no reference was named",
    "no_reference_was_named_for_the": "No reference was named for the readings; nothing is decided.",
    "no_traceability_was_stated": "no traceability was stated",
    "none_was_noted": "None was noted.",
    "not_all_was_looked_at_before": "not all was looked at before it went",
    "not_as_found_see_entry": "not as found, see entry {entry}",
    "not_as_kept": "{name}… not as kept",
    "not_as_kept_2": "{what} not as kept",
    "not_checked": "not checked: {text}",
    "not_measured": "{function} {name} not measured",
    "not_noted": "{name} not noted",
    "not_noted_at_all_readings": ", not noted at all readings",
    "not_read": "{were} not read: {listed}.",
    "not_the_maker_s": "{name}: {limit_words}, not the maker's.",
    "nothing_was_changed_or_adjusted_the": (
        "Nothing was changed or adjusted: the as-found results are also the as-left results."
    ),
    "out_of_tolerance_as_left": "* Out of tolerance as left.",
    "overridden_reason": "{mark} overridden: {text}. Reason: {reason}.",
    "page_of": "page {number} of {pages}",
    "points_depend_on_nothing_that_was": (
        "{same} points depend on nothing that was changed: their as-found results are also as left."
    ),
    "power_although": "Power although {although}: {reason}",
    "power_although_reason": "Power although {although}. Reason: {reason}.",
    "power_although_was_bad": "Power although {item} was bad: {reason}",
    "power_although_was_not_as_it": "Power although {item} was not as it should be. Reason: {reason}.",
    "procedure_borrowed_from_a_sister_type": "procedure borrowed from a sister type",
    "read_again_since": "{replace} read again since {what}",
    "readings_as_left": "readings as left",
    "reads_add": "{function} {range}: reads {reads} {symbol}, add {added}",
    "reference_values": "Reference values: {listed}.",
    "release_checks_not_done_or_not": "Release checks: {name_open}: not done, or not OK.",
    "rising_falling": "rising {rising}, falling {falling} {unit}",
    "see_the_certificate": "{name}: see the certificate",
    "setting_the_certificate_was_stopped": "Setting the certificate was stopped.",
    "simulated_left_out": "{count} simulated {how} left out",
    "standard_named_afterwards_for": "Standard named afterwards for {what} ({who}).",
    "taken_with_a_simulated_meter_or": (
        "{count} {were} taken with a simulated meter or source: practice, no evidence, and not stated here."
    ),
    "the_picture_is_not_beside_the": "The picture {file} … is not beside the notebook, or is not as it was kept.",
    "the_procedure_is_not_finished_open": "The procedure is not finished: {steps} open: {listed}{more}.",
    "the_procedure_with_room_to_write": "The procedure with room to write, for a bench without a computer",
    "the_procedure_with_what_was_read": "The procedure with what was read",
    "there_is_no_bill_nothing_was": (
        "There is no bill: nothing was written as spent. Jot such as: spent 45 min cleaning"
    ),
    "there_is_no_card_yet_sign": "There is no card yet: sign the certificate first. A card states what was signed.",
    "there_is_no_digital_certificate_of": "There is nothing to certify: no reading was taken.",
    "there_is_no_digital_certificate_sign": "There is no digital certificate: sign the certificate first.",
    "there_is_no_label_yet_sign": (
        "There is no label yet: sign the certificate first. A label states what was signed."
    ),
    "there_is_none_no_certificate_is": (
        "There is no certificate: none is signed, or something was written since. Sign it first; it states what "
        "was signed."
    ),
    "these_hold_at_the_points_shown": (
        "These hold at the points shown, on the day of measurement. Nothing was measured between them; U allows "
        "for no drift."
    ),
    "this_job_has_no_instrument_the": (
        "This job has no instrument: the entry that opened it was struck or cannot be read."
    ),
    "this_version_cannot_read_an_entry": (
        "This version cannot read an entry; it is not included in this certificate: {why}."
    ),
    "three_points_to_repeat_on_arrival": (
        "Three points to repeat on arrival: what to apply, what to expect, how far off is still fine"
    ),
    "time_and_parts_as_they_were": "Time and parts as they were written, against the price agreed",
    "to_be_read_again_since_no": "{points} to be read again since: {what}. No earlier reading is stated as left.",
    "two_letters_by_iso": "two letters by ISO 3166-1",
    "u_of_few_repeats": "U of few repeats",
    "what_was_signed_in_the_open": (
        "What was signed in the open XML schema for digital calibration certificates, version 3"
    ),
    "when_it_has_arrived": "When it has arrived",
    "within_the_agreed": "Within the {agreed:.2f} agreed.",
}
