"""Release checks: what is asked, what lifts it, what a change undoes; and what of it stands on the certificate."""

import pytest

from candor.core.jot.line import understand_at
from candor.core.leaving.electrical import LocalRule
from candor.notebook.entries.arrive_entries import Fasteners, PutBack, TakenOff
from candor.notebook.entries.cleaning_entries import Cleaned, InsulationTested
from candor.notebook.entries.goods_entries import NeedLine
from candor.notebook.entries.parts_entries import PartListed, ReplacementChosen
from candor.notebook.entries.power_entries import PowerChecked, SupplySaid
from candor.notebook.entries.release_entries import EarthRead, LeavingChecked, LeavingOverridden, TouchRead
from candor.notebook.entries.stay_entries import ChangeMade, JobOpened
from candor.notebook.entries.unit_entries import AccountedFor, Unaccounted
from candor.notebook.parts.parts_list import list_parts
from candor.notebook.release.leaving import leaving_body, leaving_list, open_leaving, overriding, say_open
from candor.notebook.work.job import fold
from candor.words.checks import say_found, say_release_line

FOUR = [TouchRead(amperes=5e-5, is_reversed=way, is_on=on) for way in (False, True) for on in (True, False)]
RULE = LocalRule()


@pytest.fixture
def hand(notebook, pack):
    notebook.write("j", JobOpened(maker="Corvane", type="AV-20", serial="3310"))

    class Hand:
        def job(self):
            return fold("j", notebook.entries_of("j"))

        def write(self, *bodies):
            for body in bodies:
                notebook.write("j", body)

        def items(self):
            job = self.job()
            return leaving_list(job, list_parts(job, pack), RULE)

        def item(self, key):
            return next(i for i in self.items() if i.key == key)

        def open(self):
            return [i.key for i in open_leaving(self.job(), self.items())]

    return Hand()


def test_everything_is_open_until_it_was_looked_at_and_a_change_asks_for_the_measured_again(hand):
    looked = ["hazards", "polarity", "fuse", "switch", "controls", "shake", "bag", "batteries"]
    before = hand.open()
    assert before[:4] == ["hazards", "earth", "insulation", "touch"]
    assert set(looked) < set(before)
    assert [i.state for i in hand.items() if i.state == "good"] == []  # nothing is green that nobody looked at
    assert "fasteners" not in before
    hand.write(EarthRead(ohms=0.1, amperes=10.0), InsulationTested(ohms=20e6, volts=500.0), *FOUR)
    hand.write(*(LeavingChecked(item=key, outcome="good") for key in looked))
    assert hand.open() in ([], ["line capacitors"])
    assert "limit 200 mΩ" in say_release_line(hand.item("earth"))
    assert hand.item("earth").who == "tester"
    assert f"{hand.item('earth').at:%Y-%m-%d}" in say_release_line(hand.item("earth"))
    hand.write(ChangeMade(text="replaced R6"))
    assert {"earth", "insulation", "touch"} < {*hand.open(), "line capacitors"}
    assert "measured before this change: replaced R6" in say_found(hand.item("touch").found)
    hand.write(EarthRead(ohms=0.1, amperes=10.0), *FOUR[:2])
    assert hand.item("earth").state == "good"
    assert "plug reversed, switch on; plug reversed, switch off" in say_found(
        hand.item("touch").found
    )  # those of before count no more


def test_what_is_bad_stays_open_until_it_is_read_better_or_let_go_with_a_reason(hand):
    hand.write(EarthRead(ohms=0.9, amperes=10.0))
    assert hand.item("earth").state == "bad"
    before = hand.open()
    let = overriding(hand.item("earth"), "fetched for a museum case, cord cut off")
    hand.write(let)
    assert let.items == ("earth",)  # one by one, each named
    assert hand.open() == [key for key in before if key != "earth"]
    hand.write(EarthRead(ohms=1.2, amperes=10.0))  # what comes up after it is not overridden
    assert "earth" in hand.open()
    hand.write(LeavingChecked(item="earth", outcome="does not apply", text="two-wire"))
    assert (hand.item("earth").state, "earth" in hand.open()) == ("does not apply", False)


def test_a_reason_never_lets_go_what_nobody_looked_at(hand):
    """One “shop use only” for eleven checks signs nothing."""
    every = tuple(i.key for i in hand.items())
    before = hand.open()
    hand.write(LeavingOverridden(items=every, reason="shop use only"))
    assert hand.open() == before
    assert not any(i.may_be_let_go for i in hand.items())
    hand.write(LeavingChecked(item="shake", outcome="bad", text="a washer rattles"))
    assert hand.item("shake").may_be_let_go
    assert "shake" in hand.open()  # the reason was older than what was found
    hand.write(LeavingOverridden(items=("shake",), reason="sealed can, known"))
    assert "shake" not in hand.open()


def test_an_earth_bond_without_its_test_current_is_open(hand):
    hand.write(EarthRead(ohms=0.05))
    assert (hand.item("earth").state, "earth" in hand.open()) == ("missing", True)


def test_screws_left_over_at_putting_together_are_open_until_they_are_found(hand):
    hand.write(TakenOff(what="the shield", fasteners=(Fasteners(count=6),)))
    taken = hand.job().arrive.taken[0].entry
    assert (
        hand.item("fasteners").state,
        "not put back yet: the shield" in say_found(hand.item("fasteners").found),
    ) == (
        "missing",
        True,
    )
    hand.write(PutBack(step=taken.id, left_over=2))
    assert (hand.item("fasteners").state, say_found(hand.item("fasteners").found)[:9]) == ("bad", "2 missing")
    back = hand.job().arrive.taken[0].back
    hand.write(AccountedFor(of=back.id, where="they belong to the handle"))
    assert (hand.item("fasteners").state, hand.job().arrive.left_over) == ("good", 0)


def test_what_applies_follows_from_the_instrument_and_from_what_was_done(hand):
    hand.write(PowerChecked(item="fuse", outcome="good"), Unaccounted(count=2, what="screws"))
    assert say_found(hand.item("fuse").found).startswith("before power")
    assert hand.item("fasteners").state == "bad"
    hand.write(Cleaned(what="the chassis", how="washed"), InsulationTested(ohms=5e6, volts=500.0))
    assert hand.item("insulation").state == "bad"
    hand.write(SupplySaid(no_mains=True))
    assert [i.key for i in hand.items()][:2] == ["hazards", "mains"]


@pytest.mark.parametrize(("safety", "state"), [("Y2", "good"), ("X2", "missing"), ("", "missing")])
def test_a_capacitor_on_the_mains_is_of_its_class_or_it_is_said(hand, safety, state):
    hand.write(PartListed(ref="C90", what="capacitor", nominal=4.7e-9, below=0.2, above=0.2, mains="line to chassis"))
    assert (hand.item("line capacitors").state, "C90" in say_found(hand.item("line capacitors").found)) == (
        "bad",
        True,
    )
    line = NeedLine(what="capacitor", value=4.7e-9, tolerance=0.2, text="4.7 nF", count=1, safety=safety)
    hand.write(ReplacementChosen(ref="C90", lines=(line,)), ChangeMade(text="replaced C90", part="C90"))
    item = hand.item("line capacitors")
    assert item.state == state or (state == "good" and "C90" not in say_found(item.found))


def test_volts_across_the_network_are_amperes_by_the_local_rule():
    body = leaving_body(understand_at("release", "touch 0.3 V reversed on"), LocalRule(network_ohms=1500.0))
    assert (body.amperes, body.volts, body.network_ohms) == (pytest.approx(2e-4), 0.3, 1500.0)


def test_the_caution_comes_before_what_can_hurt(hand):
    touch = say_found(hand.item("touch").found)
    assert touch.startswith("The case may be live: do not touch it")
    assert touch.index("behind an isolating transformer no current flows") < touch.index("Example")
    insulation = say_found(hand.item("insulation").found)
    assert insulation.startswith("500 V destroys a meter's rectifier")
    assert insulation.index("plug out") < insulation.index("measure")
    assert [i.key for i in hand.items()].index("earth") < [i.key for i in hand.items()].index("touch")


def test_what_is_open_is_named(hand):
    words = say_open(open_leaving(hand.job(), hand.items()))
    assert words.startswith("Release checks: hazards, earth bond, insulation, touch current and ")
    assert say_open(()) == ""
