"""The demo's instruments that are read in other ways: a tube voltmeter's ohms, a multimeter's movement, a microvolt-ammeter, and a
training panel with one of everything that is read."""

from __future__ import annotations

import datetime as dt
import json
from collections.abc import Mapping
from importlib import resources

from candor.core.calibration.point import Phase, TestPoint
from candor.core.reference.chains import Chain
from candor.core.reference.reference import Reference
from candor.demo.gathered_entries import Writing
from candor.notebook.entries.body import Body
from candor.notebook.entries.calibrate_entries import StandardChosen, StepDone
from candor.notebook.entries.setup_entries import ConditionNoted
from candor.notebook.entries.standards_entries import (
    CertificateLine,
    ChainLink,
    ChainRecorded,
    SpecificationLine,
    StandardFunction,
    StandardRecorded,
)
from candor.notebook.entries.stay_entries import DetailWritten, JobOpened
from candor.notebook.entries.timers_entries import TimerStarted
from candor.notebook.standards.standards import standards as all_standards
from candor.notebook.store import Place
from candor.notebook.work.csv_readings import preview_csv
from candor.packs.bundled import INDEX
from candor.packs.model import Pack, PackHead, read_kept

VOLTMETER, MULTIMETER, MICROVOLTS, PANEL = "sb40241", "sb40243", "sb40246", "sb40249"
FOUND: Phase = "as found"
# What was typed at each point, as it is typed at the bench.
VOLTMETER_READ = {
    "probe/r/1e+06": "1.037M", "cell/loaded/1.5": "1.47 V", "reach/up/0.8": "74 %", "reach/down/0.8": "32 %",
    "zero/plus/0": "0", "zero/minus/0": "-0.01", "zero/open/0": "0.004", "zero/ac/0": "0.012",
    "dc+/1.2/0.6": "0.605 ref 0.6002", "dc+/1.2/1.2": "on 1.2 ref 1.1893", "dc+/12/6": "5.9 ref 6.0011",
    "dc+/12/12": "11.8 ref 12.004",
    "dc+/120/60": "59 ref 60.02", "dc+/120/120": "118 ref 119.97", "ac/12/7.2@1000": "7.3 ref 7.204",
    "ac/12/12@1000": "12.1 ref 12.003",
    "ac/12/9@1000+one-way": "9.15 ref 9.002", "ac/12/9@1000+other-way": "9.1 ref 9.001", "pp/34/10@1000~square": "10.3 ref 5.001",
    "ohms/100/0": "0 ref 0", "ohms/100/100": "105 ref 100", "ohms/100/1000": "1050 ref 1000", "ohms/100/10000": "10.5k ref 10k",
}  # fmt: skip
MULTIMETER_READ = {
    "zero/lying/0": "0", "zero/standing/0": "0.4u", "zero/left/0": "-0.3u", "zero/right/0": "0.2u",
    "cold/2.5/62500": "reads 62.4k", "cold/10/250000": "reads 249.6k", "cold/25/625000": "reads 624.2k",
    "cold/100/2.5e+06": "reads 2.55M",
    "stick/sweep/0": "free all the way", "half/series/100000": "99.1k", "half/across/2500": "2.447k",
    "movement/bare/8e-06": "8u ref 80.5m up", "movement/bare/1.6e-05": "16u ref 160.8m up",
    "movement/bare/2.4e-05": "24u ref 241m up",
}  # fmt: skip
MICROVOLTS_READ = {
    "chopper/whirr/2": "after 4 s", "noise/1u/5e-08": "0.06u", "noise/10u/5e-07": "0.1u", "drift/hour/0": "0.04u",
    "output/one/1": "at 1 reads 0.9964", "one/1u/5e-07": "0.62u ref 0.501m", "one/1u/1e-06": "1.08u ref 1.0003m",
    "one/10u/5e-06": "5.1u ref 5.003m", "one/10u/1e-05": "10.1u ref 10.002m", "one/100u/5e-05": "50.1u ref 50.01m",
    "one/100u/0.0001": "100.2u ref 100.04m", "turned/1u/-5e-07": "-0.36u ref -0.502m",
    "turned/1u/-1e-06": "-0.86u ref -1.0002m",
}  # fmt: skip
PANEL_READ = {
    "reach/r/0.7": "66 %", "volts/6/3": "3.04 ref 3.001 up", "volts/6/6": "on 6 ref 5.946 up",
    "cap/a/2.2e-08": "dial 21.4n..22.9n ref 22.05n", "cap/b/2.2e-06": "dial 2.31u pf 6 % ref 2.204u",
    "merit/m/70": "dial 71 nudge 0.8",
    "leak/l/1.5e+06": "on 1.5M off 1.8M", "trace/v/12": "5.9 div ref 12.04", "supply/s/45": "at 45 reads 44.1",
    "supply/s/90": "at 90 reads 88.9", "eye/e/0": "opens",
}  # fmt: skip


def trainer_panel() -> Pack:
    """Return the pack of the training panel."""
    folder = resources.files("candor.demo") / "compiled"
    head = PackHead(**json.loads((folder / INDEX).read_text(encoding="utf-8"))[0])
    return read_kept((folder / f"{head.id}.json").read_text(encoding="utf-8"), head.digest)


def write_read_jobs(writing: Writing, packs: Mapping[str, Pack], now: dt.datetime) -> Mapping[str, str]:
    """Write the standards that these need, and their jobs, each at another step; return the entries of the standards."""
    names = _standards(writing, now)
    write_read_job(
        writing, VOLTMETER, packs["halvergate-ev9"], now - dt.timedelta(hours=5), VOLTMETER_READ,
        {"V": names["bench"], "V a.c.": names["bench"], "ohm": names["box"]},
        {"serial": "2206", "owner": "a school's physics room", "says": "ohms seem stiff, volts a little low"},
        "ohms:as-found:ohms/1k/100000",
    )  # fmt: skip
    write_read_job(
        writing, MULTIMETER, packs["corvane-mm11"], now - dt.timedelta(hours=9), MULTIMETER_READ,
        {"ohm": names["bench"], "A": names["current"]},
        {"serial": "51-0388", "owner": "found in a workshop clearance", "says": "a range or two read high"},
        "movement-alone:as-found:movement/bare/2.4e-05",
    )  # fmt: skip
    write_read_job(
        writing, MICROVOLTS, packs["brindle-na3"], now - dt.timedelta(hours=26), MICROVOLTS_READ,
        {"V": names["bench"], "V d.c.": names["microvolts"]},
        {"serial": "77", "owner": "a glass blower", "says": "drifts for an hour"},
        "turned:as-found:turned/10u/-5e-06",
    )  # fmt: skip
    write_read_job(
        writing, PANEL, trainer_panel(), now - dt.timedelta(hours=30), PANEL_READ,
        {"V": names["bench"], "F": names["farads"]},
        {"serial": "1154", "owner": "the shop's own, for whoever learns here", "says": "nothing"},
        "cap:as-found:cap/a/2.2e-08",
    )  # fmt: skip
    return names


def _standards(writing: Writing, now: dt.datetime) -> Mapping[str, str]:
    day = (now - dt.timedelta(days=96)).date()
    volts = tuple(
        SpecificationLine(upper=x, percent_of_reading=0.004, percent_of_range=0.0008)
        for x in (0.12, 1.2, 12, 120, 1000, 2000)
    )
    a_c = tuple(
        SpecificationLine(upper=x, percent_of_reading=0.15, percent_of_range=0.05, low_hertz=40, high_hertz=20e3)
        for x in (1.2, 12, 120, 700)
    )
    ohms = tuple(
        SpecificationLine(upper=x, percent_of_reading=0.02, percent_of_range=0.002) for x in (120, 12e3, 1.2e6, 120e6)
    )
    recorded: dict[str, Body] = {
        "bench": StandardRecorded(
            key="bench-meter-b", name="bench meter B", serial="SB-19", calibrated_on=day,
            functions=(
                StandardFunction(current="d.c.", ranges=volts, input_ohms=10e6),
                StandardFunction(current="a.c.", ranges=a_c, responds="rms", crest_factor=3, input_ohms=1e6, input_farads=100e-12),
                StandardFunction(unit="ohm", ranges=ohms),
            ),
            traceability="Estuary Standards Room, certificate ES-4391",
        ),
        "box": StandardRecorded(
            key="decade-box", name="decade box", serial="SB-22", role="box", calibrated_on=day,
            functions=(StandardFunction(unit="ohm", ranges=(SpecificationLine(upper=11e6, percent_of_reading=0.1),), step=1),),
            traceability="read against bench meter B",
        ),
        "farads": StandardRecorded(
            key="capacitance-box", name="capacitance box", serial="SB-31", role="box", calibrated_on=day,
            functions=(StandardFunction(unit="F", points=tuple(
                CertificateLine(value=x, correction=0.002 * x, expanded=0.004 * x) for x in (1e-9, 22e-9, 220e-9, 2.2e-6, 10e-6)
            )),),
            traceability="Estuary Standards Room, certificate ES-4396",
        ),
        "shunt": StandardRecorded(
            key="shunt-10k", name="10 kilohm shunt", serial="SB-24", role="fixed part", calibrated_on=day,
            functions=(StandardFunction(unit="ohm", points=(CertificateLine(value=10e3, correction=1.4, expanded=1.2),)),),
            traceability="Estuary Standards Room, certificate ES-4392",
        ),
        "divider": StandardRecorded(
            key="divider-1000", name="divider 1000 to 1", serial="SB-27", role="fixed part", calibrated_on=day,
            functions=(StandardFunction(unit="1", points=(CertificateLine(value=1e-3, correction=2e-8, expanded=8e-7),)),),
            traceability="Estuary Standards Room, certificate ES-4393",
        ),
    }  # fmt: skip
    at = now - dt.timedelta(days=90)
    found = {name: writing.add("", body, at).id for name, body in recorded.items()}
    volts_link = ChainLink(name="V", standard=found["bench"], current="d.c.")
    chains: dict[str, Body] = {
        "current": ChainRecorded(
            key="current-10k", name="current by 10 kilohm", unit="A", current="d.c.", formula="V / R",
            links=(volts_link, ChainLink(name="R", standard=found["shunt"], unit="ohm")),
        ),
        "microvolts": ChainRecorded(
            key="microvolts", name="bench meter B over the divider", unit="V", current="d.c.", formula="V * r",
            links=(volts_link, ChainLink(name="r", standard=found["divider"], unit="1")),
        ),
    }  # fmt: skip
    return {**found, **{name: writing.add("", body, at).id for name, body in chains.items()}}


def write_read_job(
    writing: Writing,
    job: str,
    pack: Pack,
    start: dt.datetime,
    read: Mapping[str, str],
    standards: Mapping[str, str],
    said: Mapping[str, str],
    place: str,
) -> None:
    """Write a job read as found up to a place; what is not read by the given standards is refused by name."""
    minute, digest = dt.timedelta(minutes=1), writing.notebook.keep_pack(pack)
    opened = JobOpened(maker=pack.maker, type=pack.type, serial=said["serial"], pack_digest=digest)
    writing.add_all(job, [opened, *(StandardChosen(standard=key) for key in standards.values())], start)
    writing.add_all(job, [DetailWritten(field=k, text=v) for k, v in said.items() if k != "serial"], start + minute)
    steps = [step for section in pack.procedure if section.phase == "preparation" for step in section.steps]
    for step in steps:
        minutes = getattr(step, "minutes", 0.0)
        done: Body = StepDone(step=step.key)
        if minutes:
            done = TimerStarted(step=step.key, label=step.title, seconds=minutes * 60)
        writing.add(job, done, start + 2 * minute)
    writing.add(job, ConditionNoted(which="celsius", value=21.8), start + 150 * minute)

    writing.write()  # the standards, so that what serves a point can be asked
    known = all_standards(writing.notebook)

    def standard(point: TestPoint) -> tuple[str, Reference | Chain | None]:
        key = standards.get(f"{point.asked_unit} {point.current}".strip(), standards.get(point.asked_unit, ""))
        return key, known[key].serving(point) if key else None

    rows = [f"{point}\t{text}\t" for point, text in read.items()]
    table = "\n".join(("point\treading\treference", *rows)).encode()
    preview = preview_csv(table, pack, FOUND, standard)
    if preview.faults:
        raise ValueError("; ".join(preview.faults))
    for index, body in enumerate(preview.readings):
        writing.add(
            job, body.model_copy(update={"means": "jot", "written": read[body.point]}), start + (155 + index) * minute
        )
    writing.notebook.keep_place(Place(job, "calibrate", place))
