"""A pack that goes by another's procedure: what it takes, what is called otherwise, what is left out, and what cannot be."""

import pytest

from candor.packs.borrowing import say_borrowed
from candor.packs.bundled import bundled_pack, lend_from
from candor.packs.load import PackError, parse_pack
from candor.packs.procedure import procedure
from candor.packs.write import pack_yaml
from candor.words.step_notes import adjuster_words

HEAD = """
pack: 2
id: corvane-sister
edition: "1"
maker: Corvane
type: SISTER
kind: vacuum tube voltmeter
summary: A sister.
zones: [{key: front, title: Front}]
borrows:
  pack: halvergate-ev9
"""
LEND = lend_from(lambda: ())


def borrowed(more: str):
    return parse_pack(HEAD + more, "p.yaml", LEND)


def test_the_shipped_sister_has_all_but_what_it_leaves_out():
    lender, sister = bundled_pack("halvergate-ev9"), bundled_pack("halvergate-ev7")
    kept = {s.key for s in procedure(sister)}
    gone = {s.key for s in procedure(lender)} - kept
    assert kept < {s.key for s in procedure(lender)}
    assert {key.removeprefix("left-rest:").split(":")[0] for key in gone} == {"peak-square", "ac-line"}
    assert "pp" not in [f.key for f in sister.functions]
    assert sister.borrows.taken == lender.digest
    assert "Left out: pp, its dial has no peak-to-peak arc." in say_borrowed(sister.borrows)


def test_words_change_places_at_once_and_references_stay():
    made = borrowed("  map: {DC+: plus, ZERO: SET}\n")
    words = " ".join(s.do for s in procedure(made))
    assert "Set SET on plus once" in words
    assert "ZERO" not in words
    assert {s.point.key for s in procedure(made) if s.point} == {
        s.point.key for s in procedure(bundled_pack("halvergate-ev9")) if s.point
    }
    both = borrowed("  map: {DC+: DC−, DC−: DC+}\n")
    assert both.controls[0].positions[1:3] == ("DC−", "DC+")


def test_without_a_circuit_of_its_own_a_step_depends_on_everything():
    """R1 is a part of the other: a change of a part here must not leave standing what it may have moved."""
    made = borrowed("")
    lent = {s.key: s.uses for s in procedure(bundled_pack("halvergate-ev9")) if s.uses}
    assert lent
    assert not any(s.uses for s in procedure(made) if "R1" in lent.get(s.key, ()))
    assert made.circuit is None
    assert not made.parts


def test_what_is_its_own_takes_the_place_of_what_is_lent():
    own = """
functions:
  - key: cell
    title: Two cells
    unit: V
    read_as: reach
    ranges: [{key: loaded, title: loaded, full_scale: 3, digits: {resolution: 0.001}, limit: {at_least: 2.8}}]
procedure:
  - key: more
    title: More
    phase: as found
    steps:
      - {key: warm-up, kind: wait, minutes: 5, title: Warm-up 5 min, do: Wait., aim: Warm., mistake: Haste.}
      - {key: own, kind: check, title: Our own, do: Do., aim: Aim., mistake: None.}
"""
    made = borrowed(own)
    steps = {s.key: s for s in procedure(made)}
    assert steps["warm-up"].seconds == 300
    assert steps["own"].section == "More"
    assert [f.title for f in made.functions if f.key == "cell"] == ["Two cells"]
    assert [f.key for f in made.functions] == [f.key for f in bundled_pack("halvergate-ev9").functions]


def test_it_is_whole_once_it_was_taken():
    """Written and read back it needs no lender any more."""
    made = borrowed("  without: {ac-line: not asked for}\n")
    again = parse_pack(pack_yaml(made), "again.yaml")
    assert again == made


@pytest.mark.parametrize(
    ("more", "words"),
    [
        ("  map: {V77: V1}\n", "line 12, column 9: borrows, map, V77: “V77” stands nowhere"),
        ("  without: {plsu: no}\n", "“plsu” is not a step of halvergate-ev9. Use one of"),
        ("  without_functions: {qq: no}\n", "“qq” is not a function of halvergate-ev9"),
        ("  takes: [dail]\n", "borrows, takes, item 1: input should be"),
        ("  without: {turnover-one: no}\n", "of: this pack has no point “ac/12/9@1000+one-way”"),
        ("  takes: [functions, procedure]\n", "is not a printed scale"),
    ],
)
def test_what_cannot_be_borrowed_is_said(more, words):
    with pytest.raises(PackError) as caught:
        borrowed(more)
    assert words in str(caught.value)


def test_a_lender_that_is_not_at_hand(tmp_path):
    text = HEAD.replace("halvergate-ev9", "halvergate-x")
    with pytest.raises(PackError, match="“halvergate-x” is not among the packs here"):
        parse_pack(text, "p.yaml", LEND)
    (tmp_path / "halvergate-x.yaml").write_text(pack_yaml(bundled_pack("halvergate-ev9")), encoding="utf-8")
    assert parse_pack(text, "p.yaml", lend_from(lambda: (), tmp_path)).functions
    kept = (bundled_pack("halvergate-ev9").model_copy(update={"id": "halvergate-x"}),)
    assert parse_pack(text, "p.yaml", lend_from(lambda: kept)).functions


def test_an_adjuster_says_where_it_is_and_what_comes_before_it():
    pack = bundled_pack("halvergate-ev9")
    said = {a.key: adjuster_words(pack, a) for a in pack.adjusters}
    assert said["cal-ac"].startswith("AC CAL: moves all ranges of AC alike; inside, right")
    assert "set +CAL and AC BAL before it" in said["cal-ac"]
