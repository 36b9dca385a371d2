"""Keep, watch, replace or cannot tell: the rules, the policies, the consequence in the circuit, the can."""

from dataclasses import replace

import pytest

from candor.core.circuit.netlist import parse_netlist
from candor.core.errors import RangeError
from candor.core.leakage.capacitor import LeakageRule
from candor.core.parts.component import OnHand
from candor.core.parts.judge import judge, judge_all
from candor.core.parts.judge_capacitor import run_limit
from candor.core.parts.judge_resistor import Circuit
from candor.core.parts.mains import Mains
from candor.core.parts.part import Measured, Part, by_designator, risk_key
from candor.core.parts.policy import Electrolytics, Policy, Sight
from candor.core.parts.reasons import Action
from candor.core.parts.replacement import needs, propose
from candor.words.parts_words import say_change, say_moved, say_needs, say_proposal, say_reason, say_rule, say_verdict

COUPLING = Part(
    ref="C8",
    kind="capacitor",
    nominal=0.05e-6,
    make="paper",
    role="coupling",
    volts=600,
    volts_across=300,
    grid_ohms=560e3,
)
FILTER = Part(
    ref="C17",
    kind="capacitor",
    nominal=40e-6,
    make="electrolytic",
    role="filter",
    volts=350,
    volts_across=280,
    no_load_volts=330,
)
TIMING = Part(
    ref="R24", kind="resistor", nominal=330e3, make="carbon composition", role="timing", below=0.05, above=0.05
)
LOAD = Part(
    ref="R10",
    kind="resistor",
    nominal=100e3,
    make="carbon composition",
    role="load",
    below=0.1,
    above=0.1,
    volts_across=120,
)
FULL = {"value": 43e-6, "dissipation": 0.1, "hertz": 120.0, "leakage_volts": 280.0, "dwell_s": 300.0}


@pytest.mark.parametrize(
    ("part", "measured", "action", "says"),
    [
        # The consequence goes before a limit: 14 µA in 560 k is 7.8 V at the grid.
        (COUPLING, {"leakage": 14e-6, "leakage_volts": 300.0}, Action.REPLACE, "moves the grid 7.8 V in 560 kΩ"),
        (COUPLING, {"leakage": 0.5e-6, "leakage_volts": 300.0}, Action.WATCH, "moves the grid 0.28 V"),
        (COUPLING, {"leakage": 0.09e-6, "leakage_volts": 500.0}, Action.KEEP, "moves the grid 0.03 V: under"),
        # A low-voltage meter can call a capacitor good that breaks down in use.
        (COUPLING, {"leakage": 0.01e-6, "leakage_volts": 9.0}, Action.CANNOT_TELL, "only at 9 V: measure it at 300 V"),
        (COUPLING, {"leakage": 0.01e-6, "leakage_volts": 235.0}, Action.CANNOT_TELL, "only at 235 V: measure it at 300 V"),
        (COUPLING, {"leakage": 0.01e-6, "leakage_volts": 245.0}, Action.KEEP, "moves the grid 0.01 V: under"),
        (COUPLING, {"leakage": 14e-6, "leakage_volts": 100.0}, Action.REPLACE, "moves the grid 23.5 V"),
        # ESR says nothing of leakage, leakage nothing of ESR.
        (FILTER, {"value": 43e-6, "dissipation": 0.1, "hertz": 120.0}, Action.CANNOT_TELL, "measure leakage at 280 V"),
        (FILTER, {}, Action.CANNOT_TELL, "measure value and ESR"),
        (FILTER, {**FULL, "leakage": 300e-6}, Action.KEEP, "within its tolerance"),
        (FILTER, {**FULL, "leakage": 3e-3}, Action.CANNOT_TELL, "reform it"),
        (FILTER, {**FULL, "leakage": 3e-3, "dwell_s": 20.0}, Action.CANNOT_TELL, "read it after 2 to 5 min"),
        (FILTER, {**FULL, "leakage": 3e-3, "reformed": "no progress"}, Action.REPLACE, "5.5 times the limit"),
        (FILTER, {**FULL, "leakage": 548e-6}, Action.CANNOT_TELL, "too near the limit of 548 µA"),
        (FILTER, {**FULL, "value": 90e-6}, Action.REPLACE, "2.2 times its marked value"),
        (FILTER, {**FULL, "value": 20e-6}, Action.REPLACE, "−50 % from nominal: ripple 2 times"),
        (FILTER, {**FULL, "value": 31e-6, "leakage": 1e-4}, Action.WATCH, "ripple 1.3 times"),
        (FILTER, {**FULL, "dissipation": 0.5}, Action.REPLACE, "dried out"),
        (FILTER, {"state": "open"}, Action.REPLACE, "it is open"),
        (TIMING, {"value": 366e3, "warm_value": 374e3}, Action.REPLACE, "+10.9 %, still climbing"),
        (TIMING, {"value": 331e3}, Action.KEEP, "+0.3 %, within"),
        (TIMING, {"value": 347e3}, Action.CANNOT_TELL, "too near its limit"),
        (TIMING, {"value": 345e3, "warm_value": 352e3, "value_share": 0.002}, Action.REPLACE, "out of tolerance once warm"),
        (LOAD, {"value": 101e3, "warm_value": 103.5e3}, Action.WATCH, "climbs 2.5 % when warm"),
        (LOAD, {"value": 114e3}, Action.WATCH, "+14.0 %, out of tolerance, 126 mW in it"),
        (LOAD, {"value": 130e3}, Action.REPLACE, "+30.0 %"),
        (LOAD, {"value": 118e3, "in_circuit": True}, Action.REPLACE, "even in circuit"),
        (LOAD, {"value": 80e3, "in_circuit": True}, Action.CANNOT_TELL, "lift one end"),
        (LOAD, {}, Action.CANNOT_TELL, "measure it"),
    ],
)  # fmt: skip
def test_what_to_do(part, measured, action, says):
    verdict = judge(part, Measured(**measured), Policy())
    assert verdict.action is action
    assert says in say_verdict(verdict)
    assert all(say_rule(r) for r in verdict.reasons)
    assert say_change(verdict.reasons[0])


@pytest.mark.parametrize("leak", [2e-6, 0.0])
def test_heat_in_a_can_section(leak):
    """A can section at 480 V and 6 mA is making 2.9 W of heat."""
    part = Part(ref="C1", kind="capacitor", nominal=400e-6, make="electrolytic", role="filter", volts=480)
    hot = judge(part, Measured(leakage=6e-3, leakage_volts=480, dwell_s=300), Policy())
    assert hot.action is Action.REPLACE
    assert "2.9 W" in say_verdict(hot)
    assert judge(part, Measured(leakage=leak, leakage_volts=480, dwell_s=300), Policy()).action is not Action.REPLACE


PAPER = Part(ref="C6", kind="capacitor", nominal=0.1e-6, make="paper", role="bypass", volts=400)
DRY = {"leakage_volts": 400.0, "leakage_share": 0.05}


@pytest.mark.parametrize(
    ("part", "leak", "action", "says"),
    [
        # 1 µA at 400 V is 2 MΩ·µF for 5 nF (poor) and 800 for 2 µF (good, as paper): common practice, from memory.
        (replace(PAPER, nominal=5e-9), 1e-6, Action.REPLACE, "poor"),
        (replace(PAPER, nominal=2e-6), 1e-6, Action.KEEP, "800 MΩ·µF: good"),
        (PAPER, 0.8e-6, Action.WATCH, "50 MΩ·µF: under 100"),
        (PAPER, 0.41e-6, Action.CANNOT_TELL, "too near 100 to tell"),
        (PAPER, 1.98e-6, Action.CANNOT_TELL, "too near 20 to tell"),
        (replace(PAPER, make="film"), 0.2e-6, Action.WATCH, "under 1000"),
        (replace(PAPER, make="film"), 1e-9, Action.KEEP, "good"),
        (replace(PAPER, make=""), 0.2e-6, Action.CANNOT_TELL, "say what it is made of"),
        (replace(PAPER, make=""), 1e-9, Action.KEEP, "good whatever it is made of"),
        (replace(PAPER, make="mica", nominal=100e-12), 1e-9, Action.KEEP, "good"),
    ],
)
def test_films_by_insulation_times_capacitance(part, leak, action, says):
    verdict = judge(part, Measured(leakage=leak, **DRY), Policy())
    assert verdict.action is action
    assert says in say_verdict(verdict)


@pytest.mark.parametrize(
    ("part", "measured", "says"),
    [
        (FILTER, {**FULL, "leakage": 1e-4, "value": 36e-6, "value_share": 0.02}, "too near its limit to tell"),
        (FILTER, {**FULL, "leakage": 1e-4, "dissipation": 0.151}, "too near 0.15 to tell"),
        (FILTER, {**FULL, "leakage": 1e-4, "dissipation": 0.298}, "too near 0.3 to tell"),
        (COUPLING, {"leakage": 0.176e-6, "leakage_volts": 300.0}, "too near 0.1 V to tell"),
        (COUPLING, {"leakage": 0.91e-6, "leakage_volts": 300.0}, "too near 0.5 V to tell"),
    ],
)
def test_what_lies_within_its_uncertainty_of_a_limit_is_not_called_good(part, measured, says):
    verdict = judge(part, Measured(**measured), Policy())
    assert verdict.action is Action.CANNOT_TELL
    assert says in say_verdict(verdict)


@pytest.mark.parametrize(
    ("measured", "action", "says"),
    [
        (
            {"esr": 8.0, "hertz": 1e5, "dissipation": 1.0, "leakage": None},
            Action.CANNOT_TELL,
            "D at least 0.241: read ESR near 120 Hz",
        ),
        (
            {"esr": 1.0, "hertz": 1e5, "dissipation": 1.0, "leakage": None},
            Action.CANNOT_TELL,
            "D at least 0.0302: read ESR near 120 Hz",
        ),
        (
            {"esr": 1.0, "hertz": 0.0, "dissipation": 1.0, "leakage": None},
            Action.CANNOT_TELL,
            "D at least 0.0302: read ESR near 120 Hz",
        ),
        ({"esr": 12.0, "hertz": 0.0, "dissipation": 1.0}, Action.REPLACE, "D at least 0.362: over 0.3"),
        ({"esr": 12.0, "hertz": 1e5, "dissipation": 1.0}, Action.REPLACE, "dried out"),
        ({"esr": 1.0, "hertz": 120.0, "dissipation": 1.0}, Action.KEEP, "within its tolerance"),
        (
            {"esr": 12.0, "hertz": 50.0, "dissipation": 1.0},
            Action.CANNOT_TELL,
            "D at most 0.362: read ESR near 120 Hz",
        ),
        (
            {"esr": 1.0, "hertz": 1e5, "dissipation": 1.0},
            Action.KEEP,
            "sound as a filter; loss at 120 Hz not measured",
        ),
        (
            {"esr": 1.0, "hertz": 1e5, "dissipation": 1.0, "leakage_volts": 100.0},
            Action.CANNOT_TELL,
            "read ESR near 120 Hz",
        ),
        ({"esr": 1.0, "hertz": 1e5, "dissipation": 1.0, "value": 75e-6}, Action.CANNOT_TELL, "read ESR near 120 Hz"),
        (
            {"esr": 11.14, "hertz": 100.0, "dissipation": 1.0},
            Action.CANNOT_TELL,
            "D 0.28 to 0.336: read ESR near 120 Hz",
        ),
        ({"esr": 14.0, "hertz": 100.0, "dissipation": 1.0}, Action.REPLACE, "D 0.352 to 0.422: over 0.3"),
        ({"esr": 1.0, "hertz": 100.0, "dissipation": 1.0}, Action.KEEP, "D 0.0251 to 0.0302: good"),
        (
            {"dissipation": 0.01, "hertz": 1000.0, "leakage": None},
            Action.CANNOT_TELL,
            "D at least 0.0012: read D near 120 Hz",
        ),
        ({"dissipation": 3.0, "hertz": 1000.0}, Action.REPLACE, "D at least 0.36"),
        (
            {"dissipation": 0.05, "hertz": 0.0, "leakage": None},
            Action.CANNOT_TELL,
            "D at least 0.05: read D near 120 Hz",
        ),
    ],
)
def test_an_esr_from_higher_up_may_condemn_and_never_acquits(measured, action, says):
    verdict = judge(FILTER, Measured(**{**FULL, "leakage": 1e-4, "value": 40e-6, **measured}), Policy())
    assert verdict.action is action
    assert says in " ".join(say_reason(r) for r in verdict.reasons)


def test_what_reads_far_over_its_value_is_not_told_before_its_leakage_is():
    """Leakage can look like capacitance to a meter: +66 % alone is neither watched nor kept."""
    swollen = Measured(
        **{**FULL, "value": 1.66 * FILTER.nominal, "dissipation": 0.05, "hertz": 120.0, "leakage": None}
    )
    assert any(
        r.action is Action.CANNOT_TELL and "+66 % from nominal: measure its leakage first" in say_reason(r)
        for r in judge(FILTER, swollen, Policy()).reasons
    )
    tight = judge(FILTER, replace(swollen, leakage=1e-4), Policy())
    assert tight.action is Action.WATCH


def test_the_limit_by_which_it_was_judged_is_named():
    leaky = Measured(**FULL, leakage=600e-6)
    own = judge(replace(FILTER, leakage_limit=900e-6), leaky, Policy())
    assert (own.action, say_rule(own.reasons[-1])) == (Action.KEEP, "Limit from the data sheet of C17.")
    period = judge(FILTER, leaky, Policy(rule=LeakageRule.PERIOD))
    assert period.action is Action.KEEP  # 1300 µA for 40 µF of 350 V
    assert "from memory" in " ".join(say_rule(r) for r in period.reasons)
    tantalum = replace(FILTER, make="tantalum", nominal=10e-6, volts=35, volts_across=35)
    over = Measured(
        value=10e-6, dissipation=0.05, hertz=120, leakage=20e-6, leakage_volts=35, dwell_s=300, reformed="stopped"
    )
    verdict = judge(tantalum, over, Policy(rule=LeakageRule.PERIOD))
    assert (verdict.action, say_rule(verdict.reasons[0])[:9]) == (Action.REPLACE, "Tantalum:")


def test_heat_is_added_over_a_can():
    """Each section alone would pass; together they make what boils a can."""
    sections = [
        Part(
            ref=f"C41 {x}", kind="capacitor", nominal=200e-6, make="electrolytic", role="filter", volts=450, can="C41"
        )
        for x in "abc"
    ]
    warm = Measured(value=200e-6, dissipation=0.08, hertz=120, leakage=1e-3, leakage_volts=450, dwell_s=300)
    alone = judge_all([(sections[0], warm)], Policy())["C41 a"]
    assert alone.action is Action.KEEP
    together = judge_all([(s, warm) for s in sections], Policy())
    assert {v.action for v in together.values()} == {Action.REPLACE}
    assert say_verdict(together["C41 b"]) == "can C41 makes 1.4 W of heat in all"
    two = judge_all([(s, warm) for s in sections[:2]], Policy())
    assert {v.action for v in two.values()} == {Action.WATCH}


def test_intermittent_goes():
    verdict = judge(FILTER, Measured(state="intermittent"), Policy())
    assert (verdict.action, say_verdict(verdict)) == (Action.REPLACE, "it is intermittent")


def test_a_better_meter_than_asked_for_settles_it():
    """The figure asked for is rounded down: a meter as good as it says decides."""
    near = judge(TIMING, Measured(value=347.2e3, value_share=0.02), Policy())
    asked = float(say_change(near.reasons[0]).split("±")[1].split(" %")[0]) / 100
    assert judge(TIMING, Measured(value=347.2e3, value_share=asked), Policy()).action is not Action.CANNOT_TELL


def test_policies_and_what_they_change():
    """Replace on sight takes paper; electrolytics follow their own policy; the sentence says what changed."""
    parts = [
        (COUPLING, Measured(leakage=1e-8, leakage_volts=300)),
        (FILTER, Measured(**FULL, leakage=1e-4)),
        (LOAD, Measured()),
    ]
    before = judge_all(parts, Policy())
    assert [v.action for v in before.values()] == [Action.KEEP, Action.KEEP, Action.CANNOT_TELL]
    sight = judge_all(parts, Policy(Sight.REPLACE))
    assert sight["C8"].action is Action.REPLACE
    assert "policy" in say_verdict(sight["C8"])
    assert sight["C17"].action is Action.KEEP
    never = judge_all(parts, Policy(Sight.REPLACE, Electrolytics.REPLACE))
    assert never["C17"].action is Action.REPLACE
    assert say_moved(before, never) == "2 now “replace”: C8, C17."
    assert say_moved(before, before) == "No verdict on a part changes."
    leaky = [(FILTER, Measured(**FULL, leakage=3e-3))]
    assert judge_all(leaky, Policy(electrolytics=Electrolytics.REPLACE))["C17"].action is Action.REPLACE


def test_measured_reasons_go_before_policy():
    verdict = judge(COUPLING, Measured(leakage=14e-6, leakage_volts=300), Policy(Sight.REPLACE))
    assert "grid" in say_verdict(verdict)
    assert "policy" in say_reason(verdict.reasons[1])


def test_a_can_fails_as_a_can():
    good = Measured(value=20e-6, dissipation=0.08, hertz=120, leakage=1e-4, leakage_volts=400, dwell_s=300)
    sections = [
        Part(
            ref=f"C41 {x}", kind="capacitor", nominal=20e-6, make="electrolytic", role="filter", volts=450, can="C41"
        )
        for x in "abc"
    ]
    verdicts = judge_all(
        [(sections[0], Measured(state="open")), (sections[1], good), (sections[2], Measured())], Policy()
    )
    assert {v.action for v in verdicts.values()} == {Action.REPLACE}
    assert say_verdict(verdicts["C41 b"]) == "can C41 fails as one: C41 a is bad"
    assert judge_all([(sections[1], good)], Policy())["C41 b"].action is Action.KEEP


@pytest.mark.parametrize(("mains", "says"), [("line to chassis", "class Y"), ("line to line", "class X2")])
def test_across_the_mains_only_a_safety_part_stays(mains, says):
    part = Part(ref="C1", kind="capacitor", nominal=0.05e-6, make="paper", role="mains", mains=mains, volts=400)
    verdict = judge(part, Measured(leakage=1e-9, leakage_volts=400), Policy())
    assert verdict.action is Action.REPLACE
    assert says in say_verdict(verdict)
    assert "Local codes" in say_rule(verdict.reasons[0])


def test_in_circuit_with_its_network_and_what_a_divider_loses():
    netlist = parse_netlist("R22 in att 1.2meg\nR23 att 0 133.3k\nR9 att 0 1meg")
    circuit = Circuit(netlist, {"R22": 0.01, "R23": 0.01})
    part = Part(
        ref="R23",
        kind="resistor",
        nominal=133.3e3,
        make="metal film",
        role="divider",
        below=0.01,
        above=0.01,
        tap=("in", "att", "0"),
    )
    beside = judge(part, Measured(value=117e3, in_circuit=True), Policy(), circuit)
    assert beside.action is Action.CANNOT_TELL
    assert "expected in circuit" in say_verdict(beside)
    assert judge(part, Measured(value=140e3, in_circuit=True), Policy(), circuit).action is Action.REPLACE
    lifted = judge(part, Measured(value=140e3, value_share=0.001), Policy(), circuit)
    assert lifted.action is Action.REPLACE
    assert "its tap reads +4.0 %" in say_verdict(lifted)


def test_the_limit_of_a_run_is_what_the_verdict_asks():
    """By the job's rule, by what the grid stands at the voltage of the test, or about 1 µA."""
    assert run_limit(FILTER, 280, Policy()) == pytest.approx((0.04 * 40 * 280 + 100) * 1e-6)
    assert run_limit(COUPLING, 300, Policy()) == pytest.approx(0.1 / 560e3)
    assert run_limit(COUPLING, 600, Policy()) == pytest.approx(0.2 / 560e3)
    # R x C of 1000 MΩ·µF for mica (common practice, from memory): 10 nF at 300 V may leak 3 nA.
    assert run_limit(
        Part(ref="C9", kind="capacitor", nominal=1e-8, make="mica", role="bypass"), 300, Policy()
    ) == pytest.approx(3e-9)
    tantalum = Part(ref="C5", kind="capacitor", nominal=10e-6, make="tantalum", role="bypass", volts=35)
    assert run_limit(tantalum, 35, Policy()) == pytest.approx(3.5e-6)
    assert run_limit(replace(FILTER, leakage_limit=200e-6), 350, Policy()) == pytest.approx(200e-6)
    with pytest.raises(RangeError):
        run_limit(FILTER, 0, Policy())


def test_riskiest_first_and_designators_as_people_sort_them():
    parts = [
        LOAD,
        TIMING,
        COUPLING,
        FILTER,
        Part(ref="C1", kind="capacitor", nominal=1e-8, make="paper", role="mains", mains="line to chassis"),
    ]
    assert [p.ref for p in sorted(parts, key=risk_key)] == ["C1", "C17", "C8", "R24", "R10"]
    assert sorted(["C10", "C2", "C41 b", "C41 a", "R1"], key=by_designator) == ["C2", "C10", "C41 a", "C41 b", "R1"]


@pytest.mark.parametrize("value", [0, -1e-6, float("inf")])
def test_a_part_needs_a_value(value):
    with pytest.raises(RangeError, match=r"C1: its value is .* above zero"):
        Part("C1", "capacitor", value)


def test_what_goes_in_its_place():
    """0.047 µF for 0.05 µF: −6 % moves the low corner from 5.7 to 6.0 Hz; rated against the rail with no load."""
    part = Part(
        ref="C8",
        kind="capacitor",
        nominal=0.05e-6,
        make="paper",
        role="coupling",
        volts=600,
        volts_across=300,
        no_load_volts=470,
        grid_ohms=560e3,
    )
    shelf = [
        OnHand(kind="capacitor", key="a", value=47e-9, count=2, make="film", volts=630),
        OnHand(kind="capacitor", key="low", value=47e-9, count=5, make="film", volts=400),
        OnHand(kind="capacitor", key="none", value=50e-9, count=0, make="film", volts=630),
    ]
    found = propose(part, shelf)
    assert [p.piece.key for p in found] == ["a", ""]
    assert "−6 % from nominal: low corner from 5.7 Hz to 6" in say_proposal(found[0])
    assert found[1].text == "47 nF 630 V film"
    assert any("470 V" in note for note in say_needs(needs(part)))


def test_heat_safety_class_and_two_in_series():
    wanted = needs(FILTER)
    assert (wanted.celsius, wanted.volts) == (105, 330)
    cool = OnHand(kind="capacitor", key="85", value=47e-6, count=3, make="electrolytic", volts=350, celsius=85)
    hot = OnHand(kind="capacitor", key="105", value=47e-6, count=3, make="electrolytic", volts=350, celsius=105)
    assert [p.piece.key for p in propose(FILTER, [cool, hot])] == ["105", ""]
    mains = Part(ref="C1", kind="capacitor", nominal=0.05e-6, make="paper", role="mains", mains="line to chassis")
    plain = OnHand(kind="capacitor", key="film", value=10e-9, count=3, make="film", volts=630)
    safe = OnHand(kind="capacitor", key="y", value=4.7e-9, count=3, make="ceramic", safety="Y2")
    assert [p.piece.key for p in propose(mains, [plain, safe])] == ["y", ""]
    assert needs(mains).high == pytest.approx(6.29e-9, rel=1e-3)  # 230 V 50 Hz until the shop says its mains
    assert needs(mains, Mains(120, 60)).high == pytest.approx(10.05e-9, rel=1e-3)
    can = Part(
        ref="C41 a",
        kind="capacitor",
        nominal=20e-6,
        make="electrolytic",
        role="filter",
        volts=450,
        volts_across=410,
        no_load_volts=530,
    )
    two = propose(can, [])[0]
    assert (two.count, two.piece.volts) == (2, 350)
    assert "equalising resistor" in say_proposal(two)


def test_a_resistor_over_its_voltage_is_split():
    """1500 V on resistors of 350 V: five of them."""
    ten = Part(ref="R1", kind="resistor", nominal=10e6, make="carbon composition", role="divider", volts_across=1500)
    five = propose(ten, [])[0]
    assert (five.count, five.piece.value, five.piece.volts) == (5, 2e6, 350)
    assert "5 in series, 300 V each" in say_proposal(five)
    odd = propose(replace(ten, nominal=6.7e6, below=0.01, above=0.01, volts_across=1005), [])[0]
    assert (odd.count, odd.piece.value) == (4, 1.69e6)  # three of 2.21 MΩ would be 1.04 % low, outside its 1 %
    assert "Made of several it comes nearer" in say_proposal(odd)
    one = propose(Part("R2", "resistor", 330e3, "carbon composition", volts_across=150), [])[0]
    assert (one.count, one.text) == (1, "330 kΩ 1 % 350 V 0.5 W metal film")


def test_a_new_capacitor_is_rated_for_the_rail_before_the_tubes_draw_or_as_the_old_one():
    """Common practice, no source: never below the old rating unless the worst it sees is known."""
    unknown = Part(
        ref="C3", kind="capacitor", nominal=0.1e-6, make="paper", role="coupling", volts=400, volts_across=60
    )
    assert propose(unknown, [])[0].piece.volts == 400
    assert "Rated as the old one, 400 V" in " ".join(say_needs(needs(unknown)))
    known = replace(unknown, no_load_volts=470)
    assert propose(known, [])[0].piece.volts == 630
    assert "Rated against 470 V" in " ".join(say_needs(needs(known)))
    less = replace(unknown, no_load_volts=90)
    assert propose(less, [])[0].piece.volts == 100
    tight = OnHand(kind="capacitor", value=0.1e-6, make="film", volts=630, key="tight", count=1)
    exact, new = propose(replace(unknown, no_load_volts=630), [tight])
    assert exact.minds
    assert say_proposal(exact).endswith("630 V for 630 V: nothing to spare.")
    assert (new.piece.volts, new.minds, say_proposal(new).endswith("1000 V for 630 V: 59 % to spare.")) == (
        1000,
        False,
        True,
    )


@pytest.mark.parametrize("leakage", [1e-9, 5e-3])
def test_the_simulated_tester_acquits_nothing_and_condemns_nothing(leakage):
    told = Measured(
        value=40e-6,
        dissipation=0.05,
        hertz=120,
        leakage=leakage,
        leakage_volts=330,
        dwell_s=600,
        reformed="came back",
    )
    assert judge(FILTER, told, Policy()).action is not Action.CANNOT_TELL
    practised = judge(FILTER, replace(told, simulated=True), Policy())
    assert practised.action is Action.CANNOT_TELL
    assert "no evidence" in say_verdict(practised)
