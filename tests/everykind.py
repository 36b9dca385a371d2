"""A pack whose every point is read in another way, for the tests of what every kind has in common."""

from candor.packs.load import parse_pack

TEXT = """
pack: 2
id: corvane-all
edition: "1"
maker: Corvane
type: ALL
kind: something else
summary: One point for every kind of reading.
zones: [{key: front, title: Front}]
controls: [{key: range, name: RANGE, positions: ["1", "10"]}, {key: mode, name: MODE, positions: [bridge, leak]}]
dial:
  scales:
    - {key: arc, title: arc 0-10, even: {stop: 10, divisions: 50, number_every: 10}}
    - {key: centre, title: 5-0-5, even: {start: -5, stop: 5, divisions: 50, number_every: 25}}
    - {key: merit, title: dial 0-100, even: {stop: 100, divisions: 100, number_every: 20}}
    - key: bridge
      title: bridge dial
      by_law: {law: bridge, centre: 1, marks: [0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10, 20], divisions_between: [5, 5, 6, 5, 5, 6, 5, 5]}
    - {key: ohms, title: ohms, by_law: {law: ohms falling, centre: 10, marks: [infinity, 100, 50, 20, 10, 5, 2, 0], divisions_between: [1, 5, 6, 5, 5, 6, 4]}}
functions:
  - {key: volts, title: Volts, unit: V, ranges: [{key: "10", title: 10 V, full_scale: 10, scale: arc, limit: {percent_of_full_scale: 3}}]}
  - {key: zero, title: Centre zero, unit: V, polarity: both, ranges: [{key: "5", title: 5-0-5 V, full_scale: 5, scale: centre, limit: {absolute: 0.2, below: {absolute: 0.1}}}]}
  - {key: ohms, title: Ohms, unit: ohm, ranges: [{key: "1k", title: R x 1k, full_scale: 10.0e+3, scale: ohms, limit: {percent_of_arc: 3}}]}
  - key: cap
    title: Capacitance
    unit: F
    read_as: "null"
    ranges:
      - {key: a, title: 10 nF, full_scale: 10.0e-9, scale: bridge, limit: {percent_of_reading: 5, absolute: 0.1e-9, combine: greater}}
      - {key: b, title: 100 nF, full_scale: 100.0e-9, scale: bridge, limit: {decibels: 1}, second: {title: power factor, scale: merit, full_scale: 1}}
  - {key: merit, title: Merit, unit: "1", read_as: at mark, ranges: [{key: m, title: merit, full_scale: 100, scale: merit, limit: {divisions: 6}, settings: {nudge: 1}}]}
  - {key: shorts, title: Shorts, unit: ohm, read_as: threshold, ranges: [{key: s, title: shorts, full_scale: 250.0e+3, digits: {}, limit: {at_least: 200.0e+3, at_most: 300.0e+3}, settings: {on_side: -1}}]}
  - {key: gain, title: Gain, unit: V, read_as: screen, ranges: [{key: v, title: 0.5 V/div, full_scale: 2, screen: {per_division: 0.5}, limit: {percent_of_reading: 5}}]}
  - {key: out, title: Output, unit: V, read_as: source, ranges: [{key: o, title: output, full_scale: 50, knob: {division: 1}, limit: {factor: 1.05}}]}
  - {key: eye, title: Eye, unit: "1", read_as: look, ranges: [{key: e, title: eye, look: {passes: [opens, opens wide], fails: [flutters, dark], criterion: at 100 V}}]}
  - {key: diff, title: Difference, unit: V, polarity: both, read_as: figured, ranges: [{key: d, title: difference, full_scale: 10, scale: arc, limit: {absolute: 1}}]}
  - {key: rise, title: Rise, unit: s, read_as: waveform, ranges: [{key: s, title: 1 us/div, full_scale: 1.0e-6, digits: {resolution: 1.0e-9}, limit: {at_most: 0.4e-6}}]}
  - {key: reach, title: Reach, unit: "1", read_as: reach, ranges: [{key: r, title: zero, digits: {resolution: 0.02}, limit: {at_least: 0.6}}]}
  - {key: relay, title: Relay, unit: s, read_as: event, ranges: [{key: r, title: clicks, full_scale: 60, digits: {resolution: 1}, limit: {absolute: 10}}]}
  - {key: open, title: Open, unit: V, read_as: blank, polarity: both, ranges: [{key: o, title: nothing connected, full_scale: 10, scale: arc}]}
procedure:
  - key: found
    title: As found
    phase: as found
    steps:
      - &step {key: needle, kind: points, function: volts, at: [0.5, 1], title: "{range} at {applied}", do: Apply it., aim: The needle on it., mistake: Aslant., set: {range: "10", mode: bridge}}
      - {<<: *step, key: signed, function: zero, at: [-0.8, 0, 0.8], set: {range: "10"}}
      - {<<: *step, key: ohms, function: ohms, at: [0, 1, infinity], set: {range: "1"}}
      - {<<: *step, key: cap, function: cap, ranges: [a], at: [1], set: {}}
      - {<<: *step, key: two, function: cap, ranges: [b], at: [1], set: {}}
      - {<<: *step, key: merit, function: merit, asks: none, values: [80], at: [], set: {}, hold_at_most: 4}
      - {<<: *step, key: shorts, function: shorts, at: [1], set: {mode: leak}}
      - {<<: *step, key: gain, function: gain, at: [1], set: {}}
      - {<<: *step, key: out, function: out, at: [1], set: {}}
      - {<<: *step, key: eye, function: eye, asks: none, values: [0], at: [], set: {}, picture: true}
      - {<<: *step, key: rise, function: rise, asks: none, values: [0.35e-6], at: [], set: {}, figure: rise}
      - {<<: *step, key: reach, function: reach, asks: none, values: [0.8], at: [], set: {}}
      - {<<: *step, key: relay, function: relay, asks: none, values: [30], at: [], set: {}}
      - {<<: *step, key: open, function: open, asks: none, noted: true, values: [0], at: [], set: {}}
      - {<<: *step, key: diff, function: diff, asks: none, values: [5], at: [], set: {}, formula: full - half - blank, of: {full: volts/10/10, half: volts/10/5, blank: open/o/0}}
"""
PACK = parse_pack(TEXT, "corvane-all.yaml")
# How each point is typed at the bench.
TYPED = {
    "volts/10/5": "5.1 ref 5.004 up", "volts/10/10": "on 10 ref 9.98", "zero/5/-4": "-3.9 ref -4.002", "zero/5/0": "0.05 ref 0",
    "zero/5/4": "4.1 ref 4.001", "ohms/1k/0": "0 ref 0", "ohms/1k/10000": "10.5k ref 10k", "ohms/1k/inf": "infinity ref 99M",
    "cap/a/1e-08": "dial 9.6n..10.5n ref 10n", "cap/b/1e-07": "dial 98n pf 8 % ref 100n", "merit/m/80": "dial 78 nudge 1.5",
    "shorts/s/250000": "on 240k off 260k", "gain/v/2": "4.05 div ref 2.01", "out/o/50": "at 50 reads 49.7", "eye/e/0": "opens", "rise/s/3.5e-07": "wave 340n u 4n",
    "reach/r/0.8": "reach 74 %", "relay/r/30": "after 34 s", "open/o/0": "blank 0.1",
}  # fmt: skip
