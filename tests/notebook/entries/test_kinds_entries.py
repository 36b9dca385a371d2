"""Every kind of entry in words and field by field, as people write it."""

import datetime as dt
import re

import pytest

from candor.notebook.entries.arrive_entries import (
    FindingNoted,
    FindingSettled,
    ItemLookedAt,
    PhotoAdded,
    PutBack,
    TakenOff,
)
from candor.notebook.entries.body import Body, Timed, Unreadable
from candor.notebook.entries.calibrate_entries import (
    AdjustmentMade,
    ArrivedDead,
    AsFoundWaived,
    ReadingTaken,
    RuleChosen,
    StandardChosen,
    StandardNamed,
    StepDone,
    StepSkipped,
    WaveformKept,
)
from candor.notebook.entries.cleaning_entries import Cleaned, InsulationTested
from candor.notebook.entries.entry import Entry
from candor.notebook.entries.goods_entries import NeedLine
from candor.notebook.entries.kinds_entries import BODIES, WORDS, in_words
from candor.notebook.entries.parts_entries import (
    BarOverridden,
    CircuitTaken,
    NodeAlias,
    PartDecided,
    PartJoined,
    PartListed,
    PartMeasured,
    PolicyChosen,
    ReplacementChosen,
)
from candor.notebook.entries.places_entries import ChassisPhoto, PinPlaced
from candor.notebook.entries.plan_entries import DeedPinned, Promised
from candor.notebook.entries.power_entries import (
    BleederSaid,
    CautionUnderstood,
    CheckOverridden,
    EventSeen,
    MeterProved,
    MetersOff,
    MetersOn,
    PlanKept,
    PluggedOut,
    PowerChecked,
    RailOhmsRead,
    RailRead,
    RailSaid,
    StateBegun,
    SupplySaid,
    SupplyTyped,
    Unloaded,
    WindingRead,
)
from candor.notebook.entries.ranges_entries import FrequencySaid, PointsPlanned, RangeMade
from candor.notebook.entries.release_entries import (
    CertificateIssued,
    EarthRead,
    LeavingChecked,
    LeavingOverridden,
    SecondSignature,
    TouchRead,
)
from candor.notebook.entries.runs_entries import RunEnded, RunStarted
from candor.notebook.entries.setup_entries import ConditionNoted, SetUpSaid
from candor.notebook.entries.shop_entries import (
    ItemAdded,
    OrderArrived,
    OrderLine,
    OrderPlaced,
    StockCounted,
    StockMoved,
)
from candor.notebook.entries.soak_entries import DueSet, PastResult, SoakRead, StabilityFound, SwitchedOff, SwitchedOn
from candor.notebook.entries.sources_entries import SourceApplied, SourceReleased
from candor.notebook.entries.standards_entries import (
    ChainLink,
    ChainRecorded,
    StandardCompared,
    StandardRecorded,
    StandardsCame,
    StandardWithdrawn,
)
from candor.notebook.entries.stay_entries import (
    BroughtIn,
    CameIn,
    ChangeMade,
    ChangeProven,
    DetailWritten,
    FilesGone,
    JobOpened,
    NoteWritten,
    PackTaken,
    PriceAgreed,
    Spent,
    StatusSet,
)
from candor.notebook.entries.strikes_entries import Struck, Unstruck
from candor.notebook.entries.timers_entries import TimerStarted
from candor.notebook.entries.trace_entries import (
    CauseFound,
    LeadProved,
    LookTaken,
    NodeDrawn,
    NodeRead,
    PairRead,
    StageSaid,
    TubeJoined,
    Worsened,
)
from candor.notebook.entries.tubes_entries import (
    LineSag,
    NudgeSaid,
    TubeGone,
    TubeKnown,
    TubePlaced,
    TubeRecorded,
    TubeTested,
)
from candor.notebook.entries.unit_entries import AccountedFor, FunctionFound, JointNoted, NotAsDrawn, Unaccounted
from candor.notebook.work.checklists import behind, found_items
from candor.notebook.work.facts import facts_in_words, say_seconds
from candor.notebook.work.job import fold
from workbench import NOW, open_job

KEY = "0123456789abcdef0123456789abcdef"
NEED = NeedLine(what="resistor", value=47e3, text="47 kΩ 1 %", tolerance=0.01)
SAMPLES = {
    JobOpened(maker="Tarnholm", type="VM-6", serial="77", pack_digest="ab" * 32): "Tarnholm VM-6, no. 77, on the bench",
    PartJoined(ref="R24", plus="grid", minus="0"): "R24 joins grid and 0",
    NodeAlias(node="grid", alias="V2 pin 2"): "node grid is V2 pin 2",
    FunctionFound(function="AC volts", faded=True): "function found: AC volts, lettering faded",
    NotAsDrawn(text="a fuse in the primary"): "not as drawn: a fuse in the primary",
    Unaccounted(count=2, what="screws M3"): "unaccounted for: 2 screws M3",
    AccountedFor(of=KEY, where="under the fan"): "accounted for, entry 5: under the fan",
    JointNoted(where="V1 pin 4"): "poor joint: V1 pin 4",
    Cleaned(what="the chassis", how="washed"): "washed: the chassis",
    InsulationTested(ohms=22e6, volts=500.0): "insulation 22 MΩ at 500 V",
    PackTaken(pack_digest="cd" * 32): "from here on with pack cdcdcdcdcdcd",
    RangeMade(
        function="Volts", unit="V", full_scale=30.0, divisions=30, percent_of_full_scale=3.0, by="owner"
    ): "range Volts 30 V, 30 divisions, limit ±(3 % of full scale), the owner's",
    PointsPlanned(function="volts", range="30v", values=(10.0, 25.0)): "points to read on volts/30v: 10, 25",
    DetailWritten(field="owner", text="a friend"): "owner: a friend",
    FindingNoted(zone="rear", mark="hazard", text="cord bare"): "hazard found, rear: cord bare",
    PhotoAdded(finding=KEY, file="x.png"): "photo of entry 5",
    ChassisPhoto(file="x.png", title="under"): "photo of the chassis: under",
    PinPlaced(file="x.png", x=0.2, y=0.4, name="C8"): "C8 is marked in a photo",
    FindingSettled(finding=KEY, how="cleared", reason="new cord"): "finding of entry 5 cleared: new cord",
    ItemLookedAt(zone="rear", item="burnt parts"): "looked for and not there, rear: burnt parts",
    ItemAdded(pack="vm", zone="rear", item="mice"): "on the checklist of vm, rear: mice",
    TakenOff(what="back"): "off: back",
    PutBack(step=KEY, left_over=1): "back on: entry 5, 1 left over",
    StepDone(step="zero"): "done: zero",
    StepSkipped(step="zero", reason="stuck"): "left out: zero, because stuck",
    TimerStarted(step="warm", label="Warm-up", seconds=1830): "Warm-up: timer of 30.5 min started",
    ReadingTaken(step="s", phase="as found", point="dc+/150/60", indicated=60.2, reference=60.01, direction="up"):
        "dc+/150/60, as found: 60.2 read, 60.01 applied, from below",
    AdjustmentMade(step="s", trim="gain", indicated=1.5, reference=1.5): "trimmed gain, left at 1.5",
    FrequencySaid(function="ac-volts", hertz=60): "ac-volts is read at 60 Hz",
    StandardNamed(readings=(KEY,), standard=KEY): "standard named afterwards, entry 5, for 1 readings",
    AsFoundWaived(): "went on without as-found readings",
    ArrivedDead(reason="no light"): "as found: inoperative, because no light",
    WaveformKept(reading=KEY, file="ab.csv", name="edge.csv", channel="CH1", figure="rise"):
        "samples of the reading of entry 5: edge.csv, CH1, rise",
    ConditionNoted(which="celsius", value=21.5): "room 21.5 °C",
    SetUpSaid(which="leads", value=0.2, expanded=0.05): "leads and contacts 200 mΩ, U 50 mΩ",
    RuleChosen(rule="plain"): "decision rule: plain",
    StandardChosen(standard=KEY): "read against the standard of entry 5",
    ChangeMade(text="new fuse"): "done to it: new fuse",
    ChangeProven(change=KEY, check="it lights"): "change of entry 5 checked: it lights",
    NoteWritten(text="hums"): "note: hums",
    FilesGone(files=("photos/ab.jpg",), reason="the stick broke"): "goes on without photos/ab.jpg: the stick broke",
    BroughtIn(entries=2, others=3, barred=("No power.",)):
        "2 entries written while the server was away came in here, after 3 that other benches wrote meanwhile; as the job stood by "
        "then, this would have barred one of them: No power.",
    StatusSet(status="waiting", text="for parts", until=dt.date(2026, 7, 1)): "waiting: for parts, until 01 Jul 2026",
    Promised(on=dt.date(2026, 7, 2)): "promised for 02 Jul 2026",
    DeedPinned(deed="walk"): "planned freely again: walk",
    EarthRead(ohms=0.12, lead_ohms=0.05, amperes=10): "earth bond 120 mΩ at 10 A, 50 mΩ of it the lead",
    TouchRead(amperes=2.1e-4, is_reversed=True, is_on=False, volts=0.42, network_ohms=2000):
        "touch current 210 µA (420 mV across 2 kΩ), plug reversed, switch off",
    SecondSignature(digest="ab" * 32, name="A. Ferry"): "second signature: A. Ferry",
    LeavingChecked(item="shake", outcome="good"): "before it goes, shake: good",
    LeavingOverridden(items=("bag", "shake"), reason="he fetches it open"):
        "it goes although open: bag, shake; he fetches it open",
    CameIn(shop="Ferry Bench", made="2026-01-02", first=12, last=90): "came in from Ferry Bench, entries 12 to 90 there",
    CertificateIssued(number="2026-1", digest="ab" * 32, sentence="3 pass"): "certificate 2026-1 signed off: 3 pass",
    StandardRecorded(key="m", name="meter", calibrated_on=dt.date(2026, 1, 10)): "standard meter, last checked 2026-01-10",
    ChainRecorded(key="c", name="amps", unit="A", formula="V / R", links=(ChainLink(name="V", standard=KEY),)):
        "chain amps = V / R",
    StandardCompared(standard="m", against="n", shown=10.0, reference=10.01, expanded=0.1, expanded_reference=0.1):
        "checked m against n: 10 V and 10.01 V",
    StandardsCame(entries=(KEY,), shop="Ferry"): "standards of Ferry: entries 5",
    StandardWithdrawn(standard="m", reason="dropped"): "m out of service: dropped",
    Struck(target=KEY): "entry 5 struck",
    Unstruck(target=KEY): "entry 5 stands again",
    PartListed(ref="C1", what="capacitor", nominal=1e-6, below=0.1, above=0.5, volts=400):
        "on the list: C1, 1 µF −10/+50 % 400 V",
    CircuitTaken(netlist="R1 a 0 1k"): "circuit taken in, 1 lines",
    PartMeasured(ref="R1", value=371e3, unit="ohm", percent=0.5): "R1 measured: 371 kΩ",
    PolicyChosen(): "policy: paper test and keep; electrolytics reform",
    PartDecided(ref="C1", action="keep", reason="rare"): "C1: keep, decided because rare",
    BarOverridden(bar="sample", reason="C3 is out"): "power although the sample of electrolytics is bad: C3 is out",
    ReplacementChosen(ref="R1", arrangement="47 kΩ", lines=(NEED,)): "goes in for R1: 47 kΩ",
    SourceApplied(link="TCPIP::10.0.0.7", value=75, point="p"): "source TCPIP::10.0.0.7 set to 75 V",
    SourceReleased(link="TCPIP::10.0.0.7", how="read back"): "source TCPIP::10.0.0.7 at zero, confirmed by itself",
    RunStarted(ref="C1", mode="reform", target_volts=280, dwell_s=300, limit=5e-4, most_s=7200, tester="simulated"):
        "reforming run on C1 begun, to 280 V, on the tester simulated",
    RunEnded(run=KEY, ref="C1", why="over", leakage=3e-4, volts=278, dwell_s=113.01359999, measured_volts=3.1, safe=True,
               readings=9):
        "run of entry 5 on C1 over: over, 300 µA at 278 V; left at 3.1 V, safe",
    StockCounted(key="k", what="resistor", value=47e3, count=3): "stock: 3 x 47 kΩ",
    StockMoved(key="k", by=-2, reason="used"): "stock: -2 of k, used",
    OrderPlaced(number="7", lines=(OrderLine(job="j", ref="R1", text="47 kΩ", count=1),)): "order 7: 1 pieces, 1 lines",
    OrderArrived(order=KEY, lines=(0,)): "delivered, for the order in entry 5: 1 lines",
    Spent(minutes=45, text="cleaning"): "spent: 45 min, cleaning",
    PriceAgreed(agreed=60, an_hour=40): "price agreed 60.00, 40.00 an hour",
    RailSaid(name="b1", volts=285, rated_volts=450): "rail b1: 285 V by the drawing, its capacitor 450 V",
    SupplySaid(rectifier="directly heated", fan=True, watts=60): "supply: rectifier directly heated, fan, 60 W by its plate",
    SupplyTyped(line="24 V bridge, 1000 uF", instead="selenium", measured="C1 31 V"): (
        "supply: 24 V bridge, 1000 uF; instead selenium; measured C1 31 V"
    ),
    PlanKept(way="series lamp", why="", lines="warm: line 230 V"): "the way up: series lamp, 1 steps",
    PowerChecked(item="fuse", outcome="bad", text="foil"): "fuse: bad, foil",
    CheckOverridden(item="fuse", reason="a fuse is fitted in the plug"):
        "power although fuse is not as it should be: a fuse is fitted in the plug",
    RailOhmsRead(rail="b1", ohms=45e3, expected_ohms=50e3): "b1 to chassis 45 kΩ, manual 50 kΩ",
    WindingRead(name="hv", ohms=158, celsius=24, hot=True): "winding hv hot 158 Ω, room 24 °C",
    Unloaded(watts=6): "transformer, all secondaries open: 6 W",
    StateBegun(title="warm", line_volts=230): "warm: line 230 V",
    RailRead(name="watts", reading=31, source="captured"): "watts 31 W, captured",
    EventSeen(text="click"): "event: click",
    PluggedOut(): "plug out",
    NodeDrawn(node="n5", volts=180, ohms_per_volt=1000, range_volts=250): "node n5 by the drawing: 180 V, read at "
        "1000 Ω/V on 250 V",
    NodeRead(node="n5", volts=182, meter_ohms=10e6): "node n5: 182 V with 10 MΩ",
    PairRead(one="n5", other="0", ohms=47e3, turned_ohms=52e3): "n5 to 0: 47 kΩ, turned round 52 kΩ",
    TubeJoined(name="v3", plate="n5", grid="n3", cathode="n7", plate_watts=2): "tube v3: plate n5, grid n3, cathode n7",
    SwitchedOn(attended=False): "switched on, unattended",
    SwitchedOff(): "switched off",
    SoakRead(value=10.0231, unit="V", what="DC volts"): "while it soaks 10.0231 V",
    StabilityFound(what="crystal", every=10, count=64, taus=(10, 20), deviations=(2e-9, 1e-9), us=(2e-10, 2e-10), average=20,
                   offset=3.2e-8, u_offset=1e-9, ageing=2e-10, u_ageing=5e-11, days=0.007):
        "crystal against the reference: offset (+3.20 ± 0.27) × 10⁻⁸, ageing (+2.0 ± 1.4) × 10⁻¹⁰ a day, over 0.17 h, the "
        "path of the reference not in it; steady to 1 × 10⁻⁹ over 20 s, 64 readings every 10 s",
    PastResult(on=dt.date(2021, 3, 4), point="volts/30", error=0.12, expanded=0.1, limit=0.9, unit="V"):
        "2021-03-04, volts/30: +0.12 ± 0.10 V, as found",
    DueSet(on=dt.date(2027, 5, 1), reason="volts/30 decides"): "due 2027-05-01, by forecast: volts/30 decides",
    TubeRecorded(key="A1", type="MT-1", generic="triode, medium mu", nominal=2.6e-3, reject=0.65):
        "tube A1: MT-1, triode, medium mu",
    TubeTested(tube="A1", test="gm", section="2", figure=2.45e-3, tester="TT", line_age_s=120.0, hold_s=4):
        "A1 section 2, transconductance 2.45 mS on TT, line set 2 min before",
    LineSag(tester="TT", empty_volts=120.4, loaded_volts=118.9, watts=22): "line of TT: 120.4 V empty, 118.9 V with 22 W",
    NudgeSaid(type="MT-1", tester="TT", control="bias", per_dash=60e-6): "nudge, MT-1 on TT: a dash of bias is 60 µS",
    TubeKnown(tube="A1", figure=2.5e-3, expanded=40e-6): "A1 known: 2.5 mS, U 40 µS",
    TubePlaced(tube="A1", job="j", socket="V3"): "A1 into V3",
    TubeGone(tube="A1", reason="broken"): "A1 gone: broken",
    StageSaid(name="mixer", weight=2, low=8, high=12): "stage mixer",
    LookTaken(stage="mixer", outcome="odd", value=7.7, lifted=True): "lifted, behind mixer: odd, 7.7",
    LeadProved(): "lead and signal proved",
    CauseFound(text="R7 open"): "cause: R7 open",
    Worsened(text="the sweep"): "stopped working: the sweep",
    MeterProved(on="the outlet"): "meter proved on the outlet",
    MetersOn(names=("b1", "watts"), links=("a", "b"), simulated=True): "meters on b1, watts, simulated",
    MetersOff(of=KEY, readings=120): "the meters of entry 5 off, after 120 readings",
    BleederSaid(rail="b1", ohms=220e3, farad=40e-6): "bleeder of b1: 220 kΩ on 40 µF",
    CautionUnderstood(text="It bursts."): "understood: It bursts.",
}  # fmt: skip


def entry(body):
    return Entry(number=9, id="me", job="j", at=NOW, who="who", body=body)


def test_no_kind_is_missing_from_the_table():
    """Every body there is, wherever it was written down, has its words and its name."""

    def below(kind):
        return {kind, *(found for child in kind.__subclasses__() for found in below(child))}

    assert below(Body) - {Body, Timed, Unreadable} == set(WORDS) == set(BODIES.values())
    assert len(BODIES) == len(WORDS)


def test_there_is_a_sample_of_every_kind():
    assert {body.kind for body in SAMPLES} == set(BODIES)


@pytest.mark.parametrize(("body", "words"), SAMPLES.items(), ids=lambda x: getattr(x, "kind", ""))
def test_every_kind_in_words(body, words):
    assert in_words(entry(body), {KEY: 5}).startswith(words)


@pytest.mark.parametrize("body", SAMPLES, ids=lambda x: x.kind)
def test_every_kind_field_by_field(body):
    """No raw number, no name in hexadecimal, no name of a field as the program spells it."""
    said = "\n".join(facts_in_words(body, {KEY: 5}))
    assert not re.search(r"\d\.\d{5}|e-\d|[0-9a-f]{20}|_", said), said


def test_fields_as_people_write_them():
    body = next(b for b in SAMPLES if isinstance(b, RunEnded))
    assert facts_in_words(body, {KEY: 5}) == (
        "run: entry 5", "part: C1", "why: over", "leakage: 300 µA", "volts: 278 V", "dwell: 1 min 53 s", "measured volts: 3.1 V",
        "safe: yes", "readings: 9",
    )  # fmt: skip
    listed = facts_in_words(next(b for b in SAMPLES if isinstance(b, PartListed)), {})
    assert listed[:5] == ("part: C1", "what: capacitor", "nominal: 1 µF", "role: other", "below: 10 %")
    assert facts_in_words(PartMeasured(ref="VR1", unit="ohm", value=600.4), {})[1] == "value: 600.4 Ω"
    assert facts_in_words(Struck(target=KEY), {}) == ("target: an entry that is not here",)


def test_times_as_people_say_them():
    said = [say_seconds(x) for x in (0.6, 45, 59.6, 60, 113.01, 3600, 7500)]
    assert said == ["0.6 s", "45 s", "1 min", "1 min", "1 min 53 s", "1 h", "2 h 5 min"]


def test_a_typed_finding_ticks_the_checklist(notebook, pack):
    open_job(notebook, pack)
    zone = pack.zones[0]
    item = zone.look_for[0]
    before = fold("job1", notebook.entries_of("job1"))
    assert (found_items(before, zone.key, zone.look_for), behind(before, zone.key, zone.look_for)) == ({}, 0)
    words = " and ".join(reversed(item.upper().split()))
    notebook.write("job1", FindingNoted(zone=zone.key, mark="fix", text=f"again: {words}, on the left"))
    notebook.write("job1", FindingNoted(zone="elsewhere", mark="fix", text=zone.look_for[1]))
    notebook.write("job1", ItemLookedAt(zone=zone.key, item=zone.look_for[-1]))
    job = fold("job1", notebook.entries_of("job1"))
    assert list(found_items(job, zone.key, zone.look_for)) == [item]
    assert behind(job, zone.key, zone.look_for) == 2
