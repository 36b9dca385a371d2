"""What is said of power: each sentence by its name, with a name in braces for each figure in it."""

from collections.abc import Mapping
from typing import Final

SENTENCES: Final[Mapping[str, str]] = {
    "a_cord_with_an_earth_is": (
        "A cord with an earth is right for most old cases. Where the common lead is the case it can then no "
        "longer be clipped to a live chassis, and filter capacitors that floated now load the earth: a "
        "residual-current device may trip. Write it on the label. Local codes and licensed practice come first."
    ),
    "a_directly_heated_rectifier_conducts_within": (
        "A directly heated rectifier conducts within a second, and the tubes draw current only after ten seconds "
        "or more, so the rails rise to their open-circuit peak. A variable transformer spares them; below "
        "{tube_starts:.0f} % of the line such a rectifier passes nothing and reforms nothing."
    ),
    "a_flash_then_dim": "a flash, then dim",
    "a_fuse_is_chosen_by_a": "A fuse is chosen by a current above 0 A.",
    "a_lamp_and_its_load_each": "A lamp and its load each take more than 0 W.",
    "a_line_control_goes_down_by": "a line control goes down by some per cent, such as 10 %",
    "a_plan_needs_at_least_one": (
        "A plan needs at least one step. Example: warm: line 230 V; hold 5 min; read watts 20..40"
    ),
    "a_regulation_lies_between_and_usually": "a regulation lies between 0 and 100 %, usually 5 to 15 %",
    "a_solid_state_rectifier_conducts_from": (
        "A solid-state rectifier conducts from the first volt: slowly, so that filters reform, and the tubes "
        "draw before the crest is reached."
    ),
    "a_supply_has_at_least_one": "A supply has at least one capacitor in its filter.",
    "a_variable_transformer_and_a_lamp": (
        "A variable transformer and a lamp isolate nothing: the chassis may still be live."
    ),
    "a_variable_transformer_up_from_zero": (
        "{why}: a variable transformer up from zero with a wattmeter in the line, the electrolytics measured "
        "first. Write down the watts or the fuse of its plate, and Candor can size a lamp and a cut line."
    ),
    "a_winding_is_centre_tapped_v": "a winding is centre-tapped, 300-0-300 V, or says bridge or half-wave",
    "an_indirectly_heated_rectifier_comes_up": (
        "An indirectly heated rectifier comes up with the tubes. A lamp shows a short first; you may choose to "
        "go straight on once the electrolytics were measured good."
    ),
    "an_indirectly_heated_rectifier_comes_up_with": (
        "An indirectly heated rectifier comes up with the tubes, but what the set takes is not known"
    ),
    "at_a_flicker_or_a_flash": "at a flicker or a flash turn it back at once",
    "begins_with_none_of": "“{clause}” begins with none of {expected}",
    "blue_glow_that_follows_the_load": "blue glow that follows the load",
    "candor_cannot_read_as_part_of": "Candor cannot read “{clause}” as part of a supply. Example: {example}",
    "candor_cannot_read_here_example": "Candor cannot read “{words}” here. Example: {example}",
    "cut_beyond": "cut {name} beyond {beyond} {unit_of}{after}{why}",
    "do_not_power_it_yet_resolve": "Do not power it yet: {names}. Resolve this, or override it and say why.",
    "expected_a_name_and_a_value": (
        "expected a name and a value, such as: cut b1 beyond 350 V, over the capacitor's rating"
    ),
    "expected_a_name_and_both_ends": "expected a name and both ends, such as: read b1 270..310 V",
    "expected_what_should_happen_such_as": "expected what should happen, such as: expect click at 30 s",
    "half_as_much_again_as_flows": "one and a half times the steady current, time-lag for the inrush",
    "half_as_much_again_as_flows_steadily": "one and a half times the steady current; no inrush was given",
    "heaters_in_series_and_no_transformer": (
        "Heaters in series and no transformer: the chassis is one side of the mains. An isolation transformer "
        "goes before it, with nothing else behind it; then the residual-current device upstream sees nothing, "
        "one fault stays unseen, and an earthed clip undoes it. It protects you from one hand to earth, not from "
        "hand to hand. Local codes and licensed practice come first."
    ),
    "heaters_in_series_behind_an_isolation": (
        "Heaters in series behind an isolation transformer: they draw a surge at first, which the lamp takes."
    ),
    "holds_the_rails_off_at_a": (
        "{what} holds the rails off at a low line, so a slow rise does nothing: heaters alone at "
        "{tube_starts:.0f} % with the rectifier or the relay out, then the rails."
    ),
    "insulation_since_it_was_washed": "Insulation since it was washed",
    "is_cut_beyond_inside_its_band": (
        "{title}: {name} is cut beyond {beyond:g}, inside its band of {low:g} to {high:g}: nothing could ever be "
        "as it should be. Raise the cut line or narrow the band."
    ),
    "is_live_to_touch_over_v": (
        "{applied} is live to touch: over {rms:g} V a.c. r.m.s., {peak:g} V peak or {direct:g} V d.c., and over "
        "{wet_rms:g} V, {wet_peak:g} V or {wet_direct:g} V where it is wet. {how}"
    ),
    "is_missing_example": "{lacking} is missing. Example: {example}",
    "is_no_voltage_of_such_a": "“{text}” is not a voltage of such a supply. Example: {example}",
    "is_not_a_time_examples_s": "“{text}” is not a time. Examples: 30 s, 2 min",
    "is_read_from_to_the_lower": "{title}: {name} is read from {low:g} to {high:g}; the lower end stands first.",
    "it_soaks": "it soaks",
    "its_power_consumption_is_unknown_watch": (
        "Its power consumption is unknown: watch the wattmeter, and pull the plug at the first doubt."
    ),
    "l_n_r": "L{number} {at} n{number} {henry:.9g} r={before:.9g}",
    "lamp_w_in_series_incandescent_or": (
        "lamp {lamp_watts} W in series (incandescent or halogen): about {load_volts:.0f} V left for the set, "
        "{line_watts:.0f} W from the line, where a short takes the lamp's own {lamp_watts} W"
    ),
    "line_has_no_name_before_a": "Line {number} has no name before a colon. Example: {example}",
    "line_hold_set_read_expect_cut": "line, hold, set, read, expect, cut, then or caution",
    "line_is_there_twice_each_step": "Line {number}: “{title}” is there twice; each step has a name of its own.",
    "line_the_plan_stays_as_it": "Line {number}, “{clause}”: {error}. The plan stays as it was.",
    "line_v": "line {line_volts} V",
    "live_clip_on_dead_one_hand": "Live: clip on dead, one hand, someone in the house",
    "mercury_vapour_must_be_warm_before": (
        "Mercury vapour must be warm before it sees plate voltage, or it arcs back."
    ),
    "mercury_vapour_upright_heater_alone_for": (
        "Mercury vapour: upright, heater alone for 60 s before any plate voltage. Where it breaks, air the room "
        "and leave."
    ),
    "more_than_a_sound_set_takes": "more than a sound instrument takes behind this lamp: it may be a short",
    "neither_the_rectifier_nor_the_watts": "Neither the rectifier nor the watts nor the fuse is known",
    "no_usual_fuse_bears_a_steadily": (
        "No usual fuse bears {steady_amperes:.3g} A steadily and {inrush_amperes:.3g} A at first."
    ),
    "nodes_at_most": "{most_nodes} nodes at most",
    "nothing_should_be_there_yet": "nothing should be there yet",
    "off_plug_out_discharge_put_back": "off, plug out, discharge, put back what was taken out",
    "off_that_is_off": "“Off” that is off",
    "only_then_plate_voltage": "only then plate voltage",
    "over_its_capacitor_s_rating": "over its capacitor's rating",
    "over_what_it_reaches_with_nothing": "over what it reaches with nothing drawn",
    "over_what_it_should_be_with": "over what it should be with the tubes drawing",
    "over_what_its_capacitor_bears": "over what its capacitor bears",
    "over_what_its_description_has_in": "over what its description has in this state",
    "over_what_its_fuse_lets_through": "over what its fuse lets through",
    "over_what_its_plate_says": "over what its plate says",
    "over_what_its_regulator_holds": "over what its regulator holds",
    "per_cent_such_as": "per cent such as 10",
    "per_cent_such_as_2": "per cent such as 8",
    "read_every_rail_and_keep_it": "read every rail, and keep it: it is this unit's own drawing",
    "solid_state_draws_at_once_a": "Solid state draws at once: a lamp first, then the line with a wattmeter.",
    "solid_state_draws_at_once_and": "Solid state draws at once, and what it takes is not known",
    "source_at_zero_and_off_or": (
        "Source at zero and off, or the plug out and measured, before a lead is moved; then clip the leads on, "
        "take the hands off, and switch on. One hand behind the back, an insulated tool, somebody in the house "
        "who knows. Local codes come first."
    ),
    "straight_on_with_a_wattmeter_chosen": (
        "Straight on with a wattmeter, chosen on purpose: the electrolytics were measured good, and nothing "
        "blocks power-up."
    ),
    "such_as_uf_v": "such as 32 uF 450 V",
    "that_line_is_of_its_nominal": "“{words}”: that line is {line:.2f} of its nominal.",
    "the_capacitors_of_this_supply_are": "“{words}”: the capacitors of this supply are {listed}.",
    "the_halves_of_a_centre_tapped": "the halves of a centre-tapped winding are alike. Example: 300-0-300 V",
    "the_netlist_has_nodes_a_supply": "The netlist has {count} nodes; a supply has {most_nodes} at most.",
    "the_picture_tube_holds_kilovolts_and": (
        "The picture tube holds kilovolts and bursts inwards: glasses, no tool near its neck. A still spot burns "
        "the screen."
    ),
    "the_reference_rail_first_the_others": "the reference rail first: the others hang on it",
    "the_source_at_may_still_be": (
        "The source at {link} may still be on, at up to {value}: it did not confirm that it is at zero. Switch "
        "it off by hand, and measure before you touch anything it is connected to."
    ),
    "tubes_after_s": "tubes after {warm_s} s",
    "v": " {rated_volts} V",
    "v_2": "{volts} V {shape}",
    "v_3": "{volts}-0-{volts} V",
    "v_ohm_vacuum_v_at_ma": (
        "300-0-300 V, 150 ohm, vacuum 45 V at 110 mA, 16 uF 450 V, choke 8 H 220 ohm, 32 uF 450 V, load 90 mA, "
        "tubes after 12 s"
    ),
    "w_is_more_than_one_lamp": (
        "{load_watts:g} W is more than one lamp takes; use several beside each other, or the variable "
        "transformer alone."
    ),
    "watts_rising_at_constant_volts_off": "watts rising at constant volts: off",
    "watts_rising_at_constant_volts_or": "watts rising at constant volts, or a smell: plug out",
    "what_rectifies_is_not_known_a": (
        "What rectifies is not known: a lamp in series first, behind which a short does no harm."
    ),
}
