"""The demo's distortion analyser at its floor, tube tester at its line mark, checker and oscilloscope; and the tubes on hand."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping

from candor.demo.gathered_entries import Writing
from candor.demo.read_jobs import write_read_job
from candor.notebook.entries.standards_entries import SpecificationLine, StandardFunction, StandardRecorded
from candor.notebook.entries.tubes_entries import NudgeSaid, TubeKnown, TubePlaced
from candor.notebook.tubes.tubes_text import read_test, read_tube
from candor.packs.model import Pack

TESTER, BRIDGE, TRIGGERED, ANALYSER = "sb40252", "sb40254", "sb40257", "sb40261"
TESTER_READ = {
    "rectifier/a/165": "164.4", "rectifier/b/165": "161.9", "meter/fs/4e-05": "40u ref 402m", "meter/fs/8e-05": "80u ref 801m",
    "meter/fs/0.00012": "120u ref 1.198", "meter/fs/0.00016": "160u ref 1.598", "meter/fs/0.0002": "200u ref 1.999",
    "line/mark/150": "on 150 ref 145.3 up",
}  # fmt: skip
BRIDGE_READ = {
    "rail/hv/480": "471 V", "eye/wide/0": "opens and closes", "r/10k/10000": "dial 10.3k..10.8k ref 10k",
    "r/100/10": "dial 10.2..10.9 ref 10", "r/100/100": "dial 103..108 ref 100", "r/100/800": "dial 840..880 ref 800",
    "r/10k/1000": "dial 1.02k..1.08k ref 1k",
}  # fmt: skip
TRIGGERED_READ = {
    "rails/n150/150": "at 150 reads 150.4", "rail100/p100/100": "at 100 reads 100.2", "rail225/p225/225": "at 225 reads 225.9",
    "ripple/n150/0.004": "5m", "ripple/p100/0.004": "6m", "ripple/p225/0.008": "9m", "regulation/low/150": "150.31",
    "regulation/high/150": "150.44", "cal/100/100": "at 100 reads 100.9", "cal/10/10": "at 10 reads 10.08",
    "cal/1/1": "at 1 reads 1.007", "cal/0.1/0.1": "at 0.1 reads 0.1008", "duty/duty/0.5": "0.49",
    "crt/hv/1350": "at 1350 reads 1338",
    "shape/bow/0": "straight", "shape/spot/0": "sharp both ways", "walks/var/0": "under a small division",
    "y/0.05/0.2": "3.94 div ref 0.2", "y/0.05/0.3": "5.91 div ref 0.3", "y/0.1/0.6": "5.92 div ref 0.6",
    "y/0.2/1.2": "5.9 div ref 1.2", "y/0.5/3": "5.93 div ref 3", "source/own/8e-09": "7.6n", "edge/rise/3.6e-08": "38.1n u 0.6n",
}  # fmt: skip
ANALYSER_READ = {
    "volts/0.1/0.03": "0.0305 V ref 0.03 V", "volts/0.1/0.06": "0.0605 V ref 0.06006 V", "volts/0.1/0.1": "0.101 V ref 0.1 V",
    "volts/0.3/0.09": "0.09 V ref 0.09004 V", "volts/0.3/0.18": "0.1825 V ref 0.18 V", "volts/0.3/0.3": "0.3025 V ref 0.3 V",
    "volts/1/0.3": "0.305 V ref 0.3001 V", "volts/1/0.6": "0.605 V ref 0.6 V", "volts/1/1": "1.01 V ref 0.9997 V",
    "volts/3/0.9": "0.9 V ref 0.8997 V", "volts/3/1.8": "1.825 V ref 1.799 V", "volts/3/3": "3.025 V ref 3 V",
    "volts/10/3": "3.05 V ref 3.001 V", "volts/10/6": "6.15 V ref 6.004 V", "volts/10/10": "10.2 V ref 10 V",
    "volts/30/9": "9 V ref 9.001 V", "volts/30/18": "17.75 V ref 18.01 V", "volts/30/30": "29.75 V ref 30 V",
    "volts/1/1@20000": "0.985 V ref 1.0006 V", "level/full/1": "on 1 ref 0.9931 V", "own/100hz/0.0003": "0.028 % u 0.003 %",
    "own/1khz/0.0003": "0.03 % u 0.003 %", "own/10khz/0.0003": "0.034 % u 0.004 %", "null/100hz/0.0008": "0.14 %",
    "null/1khz/0.0008": "0.08 %", "null/10khz/0.0008": "0.05 %", "distortion/100/0.3": "30.5 % ref 0.2997 V",
    "distortion/100/0.6": "60.5 % ref 0.6004 V", "distortion/100/0.9": "91 % ref 0.8998 V",
    "distortion/30/0.09": "9 % ref 0.09002 V", "distortion/30/0.18": "18.25 % ref 0.18 V",
    "distortion/30/0.27": "27.25 % ref 0.2705 V", "distortion/10/0.03": "3.05 % ref 0.03002 V",
    "distortion/10/0.06": "6.05 % ref 0.06002 V", "distortion/10/0.09": "9.1 % ref 0.08994 V",
    "distortion/3/0.009": "0.9 % ref 0.009006 V", "distortion/3/0.018": "1.825 % ref 0.01799 V",
    "distortion/3/0.027": "2.725 % ref 0.02702 V", "distortion/1/0.003": "0.305 % ref 0.002997 V",
    "distortion/1/0.006": "0.605 % ref 0.006 V", "distortion/1/0.009": "0.91 % ref 0.009006 V",
    "around/before/0.95": "0.952 u 0.002", "around/after/0.95": "0.927 u 0.002", "other/shown/0.001": "0.12 % u 0.003 %",
    "other/own/0.001": "0.09 % u 0.003 %",
}  # fmt: skip
FIRST = ("look good", "heater good", "shorts good", "gas good")
PENTODE = "SP-1, pentode small sharp cut-off, nominal 4.3 mS at 150 V by the chart, reject 65 %"
ON_HAND = {  # name: what the tester showed
    "P01": 4.31, "P02": 3.94, "P03": 4.28, "P04": 3.52, "P05": 3.96, "P06": 4.47, "P07": 2.86, "P08": 3.55, "P09": 4.44,
}  # fmt: skip
KNOWN = {
    "K1": (2.21, 2.14),
    "K2": (3.48, 3.39),
    "K3": (4.36, 4.22),
    "K4": (5.12, 4.99),
}  # shown, measured on bench supplies


def write_tested_jobs(
    writing: Writing, packs: Mapping[str, Pack], names: Mapping[str, str], now: dt.datetime
) -> None:
    """Write four jobs, each at the step that its kind is known by, and the tubes on hand.

    Parameters
    ----------
    writing : Writing
    packs : mapping of str to Pack
    names : mapping of str to str
        Entries of the shop's standards.
    now : datetime
    """
    sources = StandardRecorded(
        key="mica-set", name="mica and film set", serial="SB-33", role="box", calibrated_on=(now - dt.timedelta(days=96)).date(),
        functions=(StandardFunction(unit="F", ranges=(SpecificationLine(upper=10e-6, percent_of_reading=0.3),)),),
        traceability="Estuary Standards Room, certificate ES-4398",
    )  # fmt: skip
    farads = writing.add("", sources, now - dt.timedelta(days=90)).id
    write_read_job(
        writing, ANALYSER, packs["corvane-da6"], now - dt.timedelta(hours=34), ANALYSER_READ,
        {"V": names["bench"]},
        {"serial": "612", "owner": "a builder of amplifiers", "says": "never goes under a tenth of a per cent"},
        "beside:as-found:beside/1khz/0",
    )  # fmt: skip
    write_read_job(
        writing, TESTER, packs["tarnholm-tt7"], now - dt.timedelta(hours=7), TESTER_READ,
        {"V": names["bench"], "A": names["current"]},
        {"serial": "0419", "owner": "the shop's own", "says": "every tube reads a little tired"},
        "line:as-found:line/mark/150",
    )  # fmt: skip
    write_read_job(
        writing, BRIDGE, packs["wexcombe-cc21"], now - dt.timedelta(hours=11), BRIDGE_READ,
        {"V": names["bench"], "ohm": names["box"], "F": farads},
        {"serial": "1190", "owner": "an organ builder", "says": "everything reads high by the same"},
        "ohms:as-found:r/10k/80000",
    )  # fmt: skip
    write_read_job(
        writing, TRIGGERED, packs["tarnholm-ts22"], now - dt.timedelta(hours=31), TRIGGERED_READ,
        {"V": names["bench"]},
        {"serial": "30077", "owner": "a technical college", "says": "edges look soft"},
        "edge:as-found:edge/rise/3.6e-08",
    )  # fmt: skip
    _tubes(writing, packs["tarnholm-tt7"], now)


def _tubes(writing: Writing, tester: Pack, now: dt.datetime) -> None:
    start, minute, name = now - dt.timedelta(days=6), dt.timedelta(minutes=1), tester.name
    writing.add_all(
        "",
        [NudgeSaid(type="SP-1", tester=name, control=c, per_dash=v) for c, v in (("bias", 70e-6), ("line", 50e-6))],
        start,
    )
    lines = [
        (key, PENTODE, [*FIRST, f"gm {shown} mS line 3 min held 5 s on {name}", "noise good"])
        for key, shown in ON_HAND.items()
    ]
    lines += [
        (key, PENTODE, [*FIRST, f"gm {shown} mS line 2 min held 5 s on {name}"]) for key, (shown, _) in KNOWN.items()
    ]
    lines += [
        ("P10", PENTODE, ["look good", "heater good", "shorts bad: tapped, grid to cathode"]),
        ("P11", PENTODE, ["look bad: white getter"]),
        ("T01", "MT-1, triode medium mu, 2 sections, nominal 2.6 mS at 150 V by the chart, reject 65 %",
         [*FIRST, f"section 1 gm 2.52 mS line 4 min on {name}", f"section 2 gm 2.31 mS line 4 min on {name}"]),
        ("R01", "RV-1, rectifier directly heated, 2 sections, nominal 75 by the chart, reject 66 %", ["look good", "heater good"]),
        ("E01", "EY-1, eye single shadow; dim at the edges", ["look good", "heater good", "shorts good", "eye open good"]),
    ]  # fmt: skip
    for index, (key, what, tests) in enumerate(lines):
        tube, at = read_tube(f"{key} {what}"), start + 10 * index * minute
        known = {
            "full_scale": 6e-3,
            "division": 0.1e-3,
            "settings": "heater 6.3, bias 2, range 6 mS",
            "tester_state": "not calibrated",
        }
        taken = [read_test(text, tube) for text in tests]
        writing.add_all(
            "", [tube, *(t.model_copy(update=known) if t.unit == "S" and t.figure else t for t in taken)], at
        )
    day = now - dt.timedelta(days=40)
    writing.add_all("", [
        TubeKnown(tube=key, figure=1e-3 * figure, expanded=0.035e-3, plate_volts=150, grid_volts=-2, how="ΔI/ΔV on bench supplies")
        for key, (_, figure) in KNOWN.items()
    ], day)  # fmt: skip
    writing.add("", TubePlaced(tube="E01", job=BRIDGE, socket="V1"), now - dt.timedelta(hours=10))
