"""What is said of packs: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "at_line_off": "{title}, line {said}",
    "a_line_is_off_by_enough": "A line is off by {least} to 15 per cent, each named once, as [-10, 10].",
    "a_line_reads_points_alone": "Points at another line are read, not made as one goes or calculated.",
    "nothing_reads_it_at_the_line_there_is": (
        "Nothing reads these points before, at the line there is. A step with “line” reads again what an earlier one of the same phase reads."
    ),
    "line_above": "{percent} % above",
    "line_below": "{percent} % below",
    "line_back": "Line back",
    "line_back_mistake": "The next points read at a line that nobody put back.",
    "line_is_high": (
        "Above its line everything in it runs hotter and capacitors stand nearer their rating: only where its supply was proven at full line, "
        "for the minutes the reading takes, and down at once where a rail, the watts or a smell is not as before. An isolating transformer "
        "where the chassis is not isolated from the line; local rules and licensed practice come first."
    ),
    "line_is_high_short": "Above its line: minutes only, watched",
    "line_is_set_short": "The variable transformer isolates nothing",
    "line_is_set": (
        "The variable transformer isolates nothing. The line is set with the leads off what is live; local rules and licensed practice come first."
    ),
    "line_mistake": "Read before it has settled, or noted from the transformer's dial and not from a meter.",
    "line_off": "Line {said}",
    "put_the_line_back": "Turn the line back to what it was, read it on a meter and note it: line 120, or line 230.",
    "set_the_line_off": (
        "Turn the variable transformer until the line is {said} what it was when these points were read, by a meter on its output, and note "
        "what that reads: line {low} where it was 120, line {high} where it was 230."
    ),
    "the_line_is_noted": "The line is noted; what is read from here on counts for it.",
    "a_check_among_the_adjustments_says": (
        "a check among the adjustments says which adjusters it turns, [] for none; what depends on them is read again"
    ),
    "a_factor_is_above_means_from": "a factor is above 1: 2 means from half to twice; {factor:g} was given",
    "a_formula_needs_of_which_says": (
        "a formula needs 'of', which says what point each name stands for, and 'of' needs a formula"
    ),
    "a_is_a_mapping_that_begins": (
        "a {what} is a mapping that begins with '{what}: {newest}'; see docs/writing-a-pack.md"
    ),
    "a_list_or_mapping_is_no_key": "a list or a mapping cannot be a key",
    "a_value_holds_itself": "a value holds itself: a reference stands inside what it refers to",
    "only_mappings_can_be_taken_over": "with << only mappings can be taken over",
    "the_key_stands_twice": "the key {name!r} stands twice here: keep one",
    "the_tag_is_not_known_here": "the tag {tag} is not known here: leave it out",
    "a_limit_is_judged_in_one": (
        "a limit is judged in one way: along the arc, in dB, by a factor, or in the unit of the function"
    ),
    "a_limit_is_of_the_error": "a limit is of the error, or of the value (at_least, at_most); not of both",
    "a_point_that_is_calculated_needs": "a point that is calculated needs 'formula' and 'of'",
    "a_position_of": "a position of {control!r}",
    "a_range_is_read_on_one": "a range is read on one thing: give exactly one of {listed}; found {listed_2}",
    "a_range_of": "a range of {name!r}",
    "a_range_of_its_function": "a range of its function",
    "a_scale_is_either_even_or": "a scale is either even or uneven",
    "a_scale_is_either_even_or_uneven": (
        "a scale is either even or uneven, or by law: give exactly one of the keys 'even', 'uneven' and 'by_law'"
    ),
    "a_share_of_full_scale_should": (
        "a share of full scale should be less than or equal to {end:g}; {first} was found, and the scale ends"
    ),
    "a_state_of_the_supply": "a state of the supply",
    "a_value_cannot_be_read": "a value cannot be read: {why}",
    "adjuster_acts_on_which_lies_inside": (
        "adjuster {key} acts on {part}, which lies inside what the movement is read on; 'over' must be the "
        "movement alone"
    ),
    "an_a_c_range_needs_rectifies": "an a.c. range needs 'rectifies', which says what becomes of the swing",
    "an_adjuster_or_part": "an adjuster or part",
    "an_outcome_is_named_twice_each": "an outcome is named twice; each once was expected",
    "bring_the_needle_to_its_mark": "Bring the needle to a mark it is set by, measure what that takes; then write both: {says}.",
    "each_mark_it_is_set_by": "Each mark that the instrument is set by, from below and from above.",
    "set_from_one_side_alone": "Coming to the mark from one side alone: the other side shows friction.",
    "apply_a_value_or_bring_the": "Apply a value, or bring the needle to a mark; then write both: {says}.",
    "as_left_what_else_was_changed": "As left, what else was changed",
    "at_least_must_be_below_at": "at_least {at_least:g} must be below at_most {at_most:g}",
    "both_sides_of_a_limit_are": "both sides of a limit are judged in one way",
    "brackets_more_than_deep_a_pack": "brackets more than {deepest} deep; a pack needs a few",
    "cannot_be_read_a_yaml_file": "cannot be read ({strerror}); a YAML file was expected",
    "cannot_be_read_on_the_of": (
        "“{title}” cannot be read on the {on} of the {range_title} range. Use one of {listed}"
    ),
    "characters_long_a_pack_may_have": "{size} characters long; a pack may have up to {largest_pack}",
    "connect_or_apply_a_known_value": (
        "Connect or apply a known value; then write what you read and what it is: {says}."
    ),
    "does_not_say_how_is_made": "{name} does not say how {title} is made.",
    "each_value_must_be_less_each": "each value must be less, each deflection greater,",
    "empty_words_were_expected": "empty; words were expected",
    "function_is_made_by_which_the": (
        "function {key} is made by “{made_by}”, which the circuit does not say under 'makes'"
    ),
    "has_a_grid_and_the_tester": "{tube!r} has a grid, and the tester a bias: say what it is set to",
    "has_no_adjuster_it_has": "{name} has no adjuster “{adjuster}”. It has: {listed}",
    "has_no_dial": "{name} has no dial.",
    "has_no_range_did_you_mean": "{name} has no range “{wanted}”. Did you mean: {listed}",
    "has_no_step": "{name} has no step “{key}”.",
    "has_no_test_point_examples": "{name} has no test point “{name_2}”. Examples: {said}",
    "is_itself_calculated_a_formula_is": "“{key}” is itself calculated; a formula is of points that are read",
    "is_missing_a_procedure_needs_dial": (
        "'{missing}' is missing: a procedure needs dial and functions, and they need it"
    ),
    "is_no_file_a_yaml_file": "is not a file; a YAML file was expected",
    "is_not_a_pack_at_hand": "“{pack}” is not among the packs here; import it first",
    "is_not_a_shipped_pack_candor": "“{name}” is not a shipped pack; candor packs list names them, or give a file.",
    "is_not_a_use_one_of": "“{key}” is not a {what}. Use one of {listed}",
    "is_not_known_here_expected": "{{{name}}} is not known here. Expected: {expected}",
    "is_not_of_this_pack_use": "{name!r} is not {what} of this pack. Use one of: {listed}",
    "it_cannot_make_this_range": ": it cannot make this range",
    "it_goes_by_the_procedure_of": "It follows the procedure of {pack}.{called}{left}",
    "it_never_falls_so_far": "it never falls so far",
    "it_speaks_of_the_adjuster_a": (
        "it speaks of the adjuster {name!r}: a step that turns it is an adjustment, or a check with it in "
        "'trims'; an adjuster set before every use says 'every_use: true'"
    ),
    "its_circuit_does_not_say_how": "Its circuit does not say how it makes its ranges.",
    "its_circuit_makes_ranges_the_worst": "Its circuit makes {misses} ranges; the worst is {worst}.",
    "its_maker_is_not_said": "its maker is not said",
    "left_out": " Left out: {key}, {why}.",
    "like_names_the_kind_which_is": (
        "{name}: 'like' names the kind “{like}”, which is not among those here; nothing is borrowed."
    ),
    "line_column": "line {line}, column {column}",
    "may_be_over_v_by_what": "{nominal} may be over 30 V, by what 0 dB stands for, and",
    "no_capacitor_is_between_and": "no capacitor is between {one} and {other}",
    "no_limit_so_nothing_is_decided": "{name}: no limit, so nothing is decided on it",
    "no_part_is_listed": "no part is listed",
    "no_placeholder_in_this_kind_of": "no placeholder in this kind of step",
    "no_point_give_shares_of_full": (
        "no point: give shares of full scale under 'at', values under 'values', or 'more: true'"
    ),
    "no_range_is_described_so_nothing": "no range is described, so nothing can be calibrated by it",
    "no_value_of_between_a_third": (
        "No value of {part} between a third and three times its own does it: something else is off."
    ),
    "no_zones_give_some_or_borrow": "no zones: give some, or borrow them with 'like: something-else'",
    "not_utf_save_the_file_as": "not UTF-8; save the file as UTF-8",
    "nothing_can_be_added_there": "Nothing can be added at “{place}”: it is not a list of named values.",
    "nothing_charges_the_capacitor": "nothing charges the capacitor",
    "nothing_was_imported": "{name}: {count}; nothing was imported.\n{listed}",
    "on_as_it_is_used_leave": "On, as it is used. Leave it.",
    "others_take_their_values_from_it": (
        "Others take their values from this one (*{name}): it must stay, and stand before them. Write their "
        "values out first."
    ),
    "over_values_repeated_ones_counted": "over {most_nodes} values, repeated ones counted",
    "point_or_more_tell_whether_it": "{name}: {count} point{plural}; {fewest_points} or more tell whether it bends",
    "points_made_as_one_goes": "points made as one goes",
    "range_an_extra_point": "{function}, {range_name} range: an extra point",
    "range_of": "range {key} of {f_key}",
    "reading_a_point_once_only_from": "Reading a point once only: the two directions show friction.",
    "reading_one_point_alone_it_says": "Reading one point alone: it says nothing of the rest of the range.",
    "readings_that_no_longer_move": "Readings that no longer move.",
    "say_with_combine_whether_it_is": "{listed}: say with 'combine' whether it is their sum or the greater",
    "stands_is_a_value_or_times": "'stands' is a value, or times of full scale: exactly one of them",
    "stands_nowhere_in_what_is_borrowed": "“{word}” stands nowhere in what is borrowed from {pack}",
    "test_points_belong_to_the_phase": (
        "test points belong to the phase 'as found' or 'as left'; this section is {phase!r}"
    ),
    "the_chart_has_twice_a_second": "the chart has {tube!r} twice; a second section needs its own 'section'",
    "the_circuit_cannot_be_asked": "{function}, {range}: the circuit cannot be asked: {why}",
    "the_circuit_misses_it_by": "{function}, {range}: the circuit misses it by {miss} %{limit}{out}",
    "the_formula_has_the_names_of": "the formula has the names {listed}; 'of' has {listed_2}",
    "the_is_used_twice_each_needs": "the {name} {key!r} is used twice; each needs its own",
    "the_key_kind_is_missing_expected": "the key 'kind' is missing. Expected: check, wait, points or adjust",
    "the_name_of_an_adjuster": "the name of an adjuster",
    "the_names_a_node_but_there": "the {named} names a node, but there is no circuit",
    "the_netlist_cannot_be_read": "the netlist cannot be read. {error}",
    "the_range_says_nothing_of_what": "{name}: the {title} range says nothing of what it is read on.",
    "the_scale_goes_backwards_it_stops": (
        "the scale goes backwards: it stops at {stop:g}, which must be above {start:g}"
    ),
    "the_scale_goes_backwards_mark_follows": (
        "the scale goes backwards: mark [{next_value:g}, {next_place:g}] follows [{value:g}, {place:g}]; {way} "
        "than the ones before"
    ),
    "the_step_key_is_used_twice": "the step key {key!r} is used twice; each step needs its own",
    "the_text_is_not_yaml": "Candor cannot read the text as YAML: {why}.",
    "the_value_of_cannot_be_read": "the value of {ref} cannot be read: {error}",
    "the_value_of_is_expected_one": "the value of {ref} is {value:g}. Expected: one above zero",
    "there_is_here": "“{there}” there is “{here}” here",
    "there_is_no_node_in_the": "{who}: there is no node “{node}” in the circuit",
    "this_pack_has_no_point_examples": "this pack has no point “{key}”. Examples: {near}",
    "three_points_or_more_over_the": "Three points or more over the range, the end of it among them.",
    "trimming_what_was_still_warming_up": "Trimming what was still warming up.",
    "usual_trims_in_order": "Usual trims, in order",
    "value_and_deflection_must_both_be": "value and deflection must both be greater",
    "warm_up_min": "Warm up 30 min",
    "within_to_times_of_it": "{never} within {from_:g} to {to:g} times of it",
}
