"""What explains the errors: against closed forms, a reference library, a drawn integral, and instruments that are not the model."""

import math
from dataclasses import replace

import numpy as np
import pytest
from scipy.stats import multivariate_normal

from candor.core.suspects.next_reading import next_readings
from candor.core.suspects.observed import Circuit, Observed, Place
from candor.core.suspects.weigh import Model, left_over, weigh
from faulty import case, multipliers, patterns, run, shunt, string

TICK = 0.02


def place(range_, at, function="dc", polarity=1):
    return Place(
        key=f"{function}/{range_}/{at}", range=f"{function}/{range_}", function=function, name=f"{range_} at {at}",
        title=f"{function}, {range_}", function_title=function, polarity=polarity, at=at, slope=at, division=TICK,
    )  # fmt: skip


def read(range_, at, error, own=0.0015, function="dc", polarity=1, side="both"):
    return Observed(place(range_, at, function, polarity), error, own, shared=0.0004 * at, standard="m", side=side)


def test_full_scale_right_half_a_tick_and_a_tenth_two_ticks_low_is_the_zero():
    found = weigh([read("50", at, ticks * TICK) for at, ticks in ((1.0, 0.0), (0.5, -1.0), (0.1, -1.8))])
    assert found.first.kind == "zero" and found.first.probability > 0.9
    assert found.first.amount / TICK == pytest.approx(-2.0, abs=0.25)
    assert found.explains


def test_without_the_low_reading_zero_and_tracking_are_one_and_it_is_what_is_asked_for():
    observed = [read(r, at, e) for r in ("5", "15", "50") for at, e in ((1.0, 0.0), (0.5, -0.02))]
    found = weigh(observed)
    assert {s.kind for s in found.suspects[:2]} == {"zero", "tracking"}
    assert found.suspects[0].group == found.suspects[1].group >= 0
    best = next_readings(observed, None, [place("15", at) for at in (0.1, 0.5, 0.9)])[0]
    assert best.place.at == 0.1
    beyond = [place("15", 0.1), place("150", 0.1), place("15", 0.1, "ac")]
    assert sorted(n.minutes for n in next_readings(observed, None, beyond)) == [1.0, 1.5, 3.0]


@pytest.mark.parametrize(("errors", "kind", "of"), [
    ({"dc+": (0.04, 1.0)}, "gain", ("dc+",)),
    ({"dc+": (-0.03, 0.0), "dc-": (0.03, 0.0)}, "bridge zero", ()),
    ({"dc+": (0.03, 1.0), "dc-": (0.03, 1.0)}, "all gains", ()),
    ({"dc+": (-0.03, 0.0), "dc-": (-0.03, 0.0)}, "zero", ()),
])  # fmt: skip
def test_polarities_tell_a_gain_from_all_and_a_zero_from_the_bridges(errors, kind, of):
    observed = [
        read(r, at, errors.get(f, (0.0, 1.0))[0] * at ** errors.get(f, (0.0, 1.0))[1], function=f, polarity=sign)
        for f, sign in (("dc+", 1), ("dc-", -1)) for r in ("5", "15", "50") for at in (0.2, 0.6, 1.0)
    ]  # fmt: skip
    first = weigh(observed).first
    assert (first.kind, first.of) == (kind, of) and first.probability > 0.8


def test_a_range_a_misreading_and_one_side_alone():
    sound = [(r, at) for r in ("5", "15", "50") for at in (0.2, 0.6, 1.0)]
    one = weigh([read(r, at, 0.05 * at if r == "15" else 0.0) for r, at in sound]).first
    assert (one.kind, one.of) == ("range", ("dc/15",)) and math.expm1(one.amount) == pytest.approx(0.05, abs=0.01)
    slip = weigh([read(r, at, 0.06 if (r, at) == ("15", 0.6) else 0.0) for r, at in sound]).first
    assert (slip.kind, slip.of) == ("reading", ("dc/15/0.6",)) and slip.amount == pytest.approx(0.06, abs=0.006)
    sides = weigh(
        [read(r, at, 0.012 * (1 if at == 0.6 else -1), side="down" if at == 0.6 else "up") for r, at in sound]
    )
    assert sides.first.kind == "friction"


def test_every_part_of_a_string_is_found_by_its_pattern_with_the_gain_set_over_it():
    """The pattern of each part 5 % high, the gain set on the fourth range, by the closed form of the string."""
    topology = string()
    circuit, drawn = patterns(topology), {k: v for k, (v, _) in topology.parts.items()}
    for name in ("R1", "R2", "R3", "R4", "R5", "R6"):
        values = {**drawn, name: drawn[name] * 1.05}
        k = [topology.shown(values, i) / topology.shown(drawn, i) for i in range(7)]
        observed = [read(i, at, at * (k[i] / k[3] - 1), own=0.001) for i in range(7) for at in (0.3, 0.6, 1.0)]
        found = weigh(observed, circuit)
        group = [s for s in found.suspects if s is found.first or (s.group >= 0 and s.group == found.first.group)]
        assert ("part", (name,)) in [(s.kind, s.of) for s in group], name
        estimate = next(s for s in group if s.of == (name,))
        assert math.expm1(estimate.amount) == pytest.approx(0.05, abs=2.5 * estimate.u + 0.003)


def test_a_part_that_is_gone_is_said_so():
    topology = multipliers()
    drawn = {k: v for k, (v, _) in topology.parts.items()}
    values = {**drawn, "R4": drawn["R4"] * 1e-6}  # shorted: the two ranges above read high
    k = [topology.shown(values, i) / topology.shown(drawn, i) for i in range(5)]
    observed = [read(i, at, at * (k[i] - 1)) for i in range(5) for at in (0.3, 0.5) if k[i] * at < 1.1]
    first = weigh(observed, patterns(topology)).first
    assert (first.of, first.amount) == (("R4",), -math.inf)


def test_the_evidence_is_that_of_a_reference_library():
    """Every component's density against scipy's multivariate normal, which knows nothing of low rank."""
    topology = shunt()
    random = np.random.default_rng(2)
    observed, _, _ = case(topology, random, "part")
    model = Model(observed, patterns(topology))
    n = model.read
    for hypothesis, fits in zip(model.hypotheses, model.fits, strict=True):
        for component, fit in list(zip(hypothesis.components, fits, strict=True))[:3]:
            columns = np.hstack((component.columns * component.spread, component.gains(model.columns.gains)))
            whole = model.covariance + columns @ columns.T
            reference = multivariate_normal(component.mean[:n], whole[:n, :n], allow_singular=True).logpdf(
                model.errors
            )
            plain = multivariate_normal(np.zeros(n), model.covariance[:n, :n], allow_singular=True).logpdf(
                np.zeros(n)
            )
            assert fit.score - component.log_weight == pytest.approx(reference - plain, abs=1e-5)


def test_what_is_expected_of_a_reading_is_what_drawing_it_gives():
    """Lindley's information by Gauss-Hermite sums against drawn readings, weighed anew each time by the same hypotheses."""
    observed = [read(r, at, e) for r in ("5", "15") for at, e in ((1.0, 0.0), (0.5, -0.016))]
    candidates = [place("15", at) for at in (0.1, 0.3, 0.7)] + [place("50", 1.0)]
    found = {n.place.key: n for n in next_readings(observed, None, candidates)}
    random = np.random.default_rng(4)
    drawn = {}
    for one in candidates:
        model = Model(observed, Circuit(), [one])
        now = -(model.probabilities * np.log2(model.probabilities)).sum()
        after = []
        for _ in range(150):
            which = random.choice(len(model.probabilities), p=model.probabilities)
            component = model.hypotheses[which].components[int(np.argmax([f.score for f in model.fits[which]]))]
            columns = np.hstack((component.columns * component.spread, component.gains(model.columns.gains)))
            whole, n = model.covariance + columns @ columns.T, model.read
            gain = np.linalg.solve(whole[:n, :n], whole[:n, n:]).T
            mean = component.mean[n:] + gain @ (model.errors - component.mean[:n])
            u = math.sqrt(float((whole[n:, n:] - gain @ whole[:n, n:])[0, 0]) + 0.0015**2)
            shows = float(random.normal(mean[0], u))
            again = Model([*observed, Observed(one, shows, 0.0015)], Circuit()).probabilities
            after.append(-(again[again > 0] * np.log2(again[again > 0])).sum())
        drawn[one.key] = now - float(np.mean(after))
    best = max(drawn, key=lambda key: drawn[key])
    chosen = max(found, key=lambda key: found[key].bits)
    assert drawn[chosen] >= 0.9 * drawn[best]  # within a tenth of the best there is
    assert found[best].bits == pytest.approx(drawn[best], abs=0.25)


def test_probabilities_are_true_of_instruments_that_are_not_the_model():
    """A small run of bench/suspects.py; docs/suspects.md has the large one."""
    found = run(45, seed=9)
    said = np.array(found["said"])
    for low, high in ((0.0, 0.3), (0.3, 0.9), (0.9, 1.01)):
        inside = said[(said[:, 0] >= low) & (said[:, 0] < high)]
        share, n = inside[:, 0].mean(), len(inside)
        reach = 2.6 * math.sqrt(share * (1 - share) / n) + 0.06
        assert abs(inside[:, 1].mean() - share) < reach, (low, high, inside[:, 1].mean(), share)
    assert found["top"]["right"] >= 0.95 * found["top"]["telling"] > 30
    assert found["sound"]["accused"] <= max(2, 0.03 * found["sound"]["cases"])
    assert found["zeros"]["part accused"] == 0
    # How far it is off, of those named rightly: U is neither half nor twice what it must be.
    off = np.array(found["off"])
    assert 0.5 < np.sqrt((off**2).mean()) < 1.3 and (np.abs(off) < 2).mean() > 0.9


def test_what_the_standard_is_off_by_is_not_the_instruments():
    """All readings high by the same share: within what one standard may be off by for all of them, nothing is accused."""
    read_by = [(r, at) for r in ("5", "15", "50") for at in (0.2, 0.6, 1.0)]
    loose, tight = (
        weigh(
            [Observed(place(r, at), 0.02 * at, 0.0015, shared=u * at, standard="m", side="both") for r, at in read_by]
        ).first
        for u in (0.012, 0.0004)
    )
    assert (loose.kind, tight.kind) == ("nothing", "gain")


def test_what_is_left_over_is_as_likely_as_it_says():
    """Of errors drawn by the model's own covariance, one in ten leaves what one in ten does."""
    observed = [read(r, at, 0.0) for r in ("5", "15", "50") for at in (0.2, 0.6, 1.0)]
    model = Model(observed, Circuit())
    random = np.random.default_rng(7)
    seldom = []
    for errors in random.multivariate_normal(np.zeros(9), model.covariance, 300):
        drawn = Model(
            [read(o.place.range.split("/")[1], o.place.at, e) for o, e in zip(observed, errors, strict=True)],
            Circuit(),
        )
        seldom.append(left_over(drawn, 0))
    assert np.mean(np.array(seldom) < 0.1) == pytest.approx(0.1, abs=0.05)
    assert np.mean(seldom) == pytest.approx(0.5, abs=0.06)


def test_a_part_within_its_tolerance_is_not_called_off():
    observed, _, _ = case(multipliers(), np.random.default_rng(3), "nothing")
    wide = tuple(replace(p, tolerance=0.05, spread=0.05) for p in patterns(multipliers()).parts)
    model = Model(observed, Circuit(wide, patterns(multipliers()).ranges))
    parts = [c.amount for h in model.hypotheses if h.kind == "part" for c in h.components]
    assert min(abs(amount) for amount in parts) > 0.05


def test_an_amount_that_no_instrument_has_explains_nothing():
    """Half the arc off everywhere is the pattern of a zero, and no zero goes so far: something else is wrong."""
    found = weigh([read(r, at, 0.5) for r in ("5", "15", "50") for at in (0.1, 0.3, 0.5)])
    assert found.first.kind == "zero" and not found.explains


@pytest.mark.parametrize("bad", [math.nan, math.inf])
def test_what_is_no_number_is_refused_and_two_points_say_nothing(bad):
    with pytest.raises(ValueError, match="says nothing"):
        weigh([read("5", 0.5, bad), read("5", 1.0, 0.0), read("15", 1.0, 0.0)])
    assert weigh([read("5", 0.5, 0.0), read("5", 1.0, 0.0)]) is None
    assert next_readings([read("5", 0.5, 0.0)], None, [place("5", 1.0)]) == ()


def test_what_contradicts_itself_is_said_to_stay_unexplained():
    random = np.random.default_rng(1)
    observed = [
        read(r, at, float(random.choice((-1, 1)) * 0.03)) for r in range(4) for at in (0.2, 0.4, 0.6, 0.8, 1.0)
    ]
    assert not weigh(observed).explains


def test_what_is_likeliest_where_a_part_is_sound_is_what_a_circuit_without_it_gives():
    """Two parts that make nearly the same errors: with the likelier out of the circuit, weighed anew."""
    topology = string()
    circuit, drawn = patterns(topology), {k: v for k, (v, _) in topology.parts.items()}
    values = {**drawn, "R3": drawn["R3"] * 1.06}
    k = [topology.shown(values, i) / topology.shown(drawn, i) for i in range(7)]
    observed = [read(i, 0.9, 0.9 * (k[i] / k[5] - 1) + 0.002 * (-1) ** i, own=0.006) for i in range(7)]
    found = weigh(observed, circuit)
    assert found.first.kind == "part"
    (ref,) = found.first.of
    other, chance = found.if_sound(ref)
    without = weigh(observed, replace(circuit, parts=tuple(p for p in circuit.parts if p.ref != ref)))
    assert (other.kind, other.of) == (without.first.kind, without.first.of)
    assert 0.05 < chance < 0.95 and chance == pytest.approx(without.first.probability, abs=0.05)
    assert found.if_sound("R99") == (found.first, found.first.probability)
