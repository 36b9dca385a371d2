"""Parts in the notebook: the list, the fold, import, stock, orders, money, runs on the shelf."""

import csv
import datetime as dt
import io

import pytest
from pydantic import ValidationError

from candor.core.errors import CandorError
from candor.core.parts.reasons import Action
from candor.notebook.entries.entry import drafts_of
from candor.notebook.entries.goods import NeedLine
from candor.notebook.entries.parts import PartDecided, PartListed, PartMeasured, PolicyChosen, ReplacementChosen
from candor.notebook.entries.runs import RunEnded, RunStarted
from candor.notebook.entries.shop import OrderArrived, OrderLine, OrderPlaced, StockCounted, StockMoved
from candor.notebook.entries.stay import ChangeMade, DetailWritten, JobOpened, Spent, StatusSet
from candor.notebook.entries.strikes import Struck
from candor.notebook.job import fold
from candor.notebook.orders import Spares, arriving, draft, next_number, order_csv, placing, say_money, to_order
from candor.notebook.parts_import import preview_parts
from candor.notebook.parts_list import list_parts, say_counts
from candor.notebook.settings import Settings, settings_of
from candor.notebook.shelf import shelf
from candor.notebook.stock import pieces, preview_stock, write_stock
from candor.notebook.supplies import KINDS, still_waiting, supplies
from candor.packs.bundled import bundled_packs
from candor.packs.load import PackError, parse_pack
from workbench import NOW, PACK_TEXT

SCOPE = next(p for p in bundled_packs() if p.id == "marrowby-os40")


@pytest.fixture
def scope(notebook):
    """Write entries of a job on the oscilloscope; returns a function that lists its parts."""
    notebook.write("s", JobOpened(maker="M", type="OS-40", serial="1", pack_digest=notebook.keep_pack(SCOPE)))

    def write(*bodies):
        if bodies:
            notebook.append(drafts_of("s", bodies))
        job = fold("s", notebook.entries_of("s"))
        return list_parts(job, SCOPE)

    return write


def sections(**second):
    return (
        PartMeasured(ref="C41 c", value=19e-6, esr=4, hertz=120),
        PartMeasured(ref="C17", **{"value": 43e-6, "esr": 3.4, "hertz": 120, **second}),
    )


def test_the_list_comes_from_the_pack_riskiest_first(scope):
    parts = scope()
    assert [x.part.ref for x in parts.lines[:4]] == ["C1", "C2", "C30", "C17"]
    assert len(parts.lines) == len(SCOPE.parts)
    assert parts.line("C8").part.grid_ohms == pytest.approx(560e3)
    assert parts.line("R25").verdict.says.startswith("measure it: 283.9 kΩ to 316.7")
    assert say_counts(parts) == "2 replace · 35 cannot tell yet"


def test_own_parts_measurements_decisions_and_strikes(scope, notebook):
    parts = scope(
        PartListed(ref="R99", what="resistor", nominal=47e3, note="on no drawing"),
        PartListed(ref="C3", what="capacitor", nominal=0.1e-6, fitted=False),
        PartMeasured(ref="C8", leakage=14e-6, leakage_volts=300, dwell_s=300),
        PartMeasured(ref="R24", value=366e3, warm=374e3, percent=0.5),
        PartDecided(ref="R24", action="keep", reason="it is the trimmed one"),
    )
    assert parts.line("R99").part.note == "on no drawing"
    assert parts.line("C3").fate == "not fitted"
    assert parts.line("C8").action is Action.REPLACE
    kept = parts.line("R24")
    assert (kept.action, kept.verdict.action) == (Action.KEEP, Action.REPLACE)
    assert kept.measured.value_share == 0.005
    assert not kept.measured.assumed
    newest = notebook.entries_of("s")[-1]
    assert scope(Struck(target=newest.id)).line("R24").action is Action.REPLACE
    assert scope(PartMeasured(ref="R24", value=330e3)).line("R24").measured.warm_value is None


def test_replaced_parts_leave_the_judging(scope):
    parts = scope(ChangeMade(text="replaced C8", part="C8"), PolicyChosen(sight="replace on sight"))
    assert (parts.line("C8").fate, parts.line("C8").verdict) == ("replaced", None)
    assert parts.line("C11").action is Action.REPLACE


def test_a_can_is_replaced_as_a_can(scope, ordered):
    parts = scope(ChangeMade(text="replaced C41", part="C41"))
    assert {parts.line(f"C41 {x}").fate for x in "abc"} == {"replaced"}
    ordered.write("b", ReplacementChosen(ref="C41 b", arrangement="x", lines=(need("22 µF"),)))
    ordered.write("b", ChangeMade(text="replaced C41", part="C41"))
    assert "C41 b" not in [n.ref for n in supplied(ordered).needs]


@pytest.mark.parametrize(
    ("bodies", "state", "words"),
    [
        ((), "to measure", "Before any mains: value and ESR of C17 and C41 c"),
        (sections(), "good", "may see power"),
        (sections(value=90e-6), "bad", "No power: the sample is bad (C17)"),
        (sections(esr=0.3, hertz=1e5), "to measure", "ESR or D of C17 near 120 Hz"),
        (sections(esr=0.3, hertz=0), "to measure", "it acquits none"),
        (
            sections(esr=60, hertz=20),
            "to measure",
            "ESR or D of C17 near 120 Hz",
        ),  # at most: may acquit, never condemn
        (sections(esr=6, hertz=20), "good", "may see power"),
        (sections(esr=900, hertz=1e5), "bad", "No power: the sample is bad (C17)"),
        (sections(esr=900), "bad", "Measure every electrolytic first: C41 a"),
        ((*sections(value=90e-6), PartDecided(ref="C17", action="keep", reason="a doubler")), "good", ""),
        ((*sections(value=90e-6), DetailWritten(field="sample", text="on a lamp")), "good", "overridden: on a lamp"),
    ],
)
def test_the_sample_decides_whether_it_sees_power(scope, bodies, state, words):
    """The electrolytics farthest from the supply, on the rails; open, twice the value or no usable ESR: all are done first."""
    parts = scope(*bodies)
    assert parts.sample == state
    assert words in parts.sample_words
    assert [x.part.ref for x in parts.lines if x.sample] == ["C17", "C41 c"]


def test_a_bad_sample_is_lifted_once_all_are_measured(scope):
    rest = [PartMeasured(ref=r, value=20e-6) for r in ("C41 a", "C41 b", "C9", "C10")]
    assert scope(*sections(value=90e-6), *rest).sample == "good"


def test_a_run_is_a_measurement_and_cooks_on_the_shelf(scope, notebook):
    scope(*sections())
    run = notebook.write(
        "s", RunStarted(ref="C17", mode="reform", target_volts=280, dwell_s=300, limit=5e-4, most_s=7200)
    )
    line = shelf(notebook, NOW)[0]
    assert (line.group, line.timers[0].label) == ("cooking", "C17 reforming")
    notebook.write("s", StatusSet(status="waiting", text="for parts"))
    assert shelf(notebook, NOW)[0].group == "cooking"  # under voltage, whatever it waits for
    notebook.write("s", StatusSet(status="wants hands"))
    assert fold("s", notebook.entries_of("s")).runs.cut_off()[0].started == run
    ended = RunEnded(run=run.id, ref="C17", why="over", outcome="came back", leakage=3e-4, expanded=1e-6, volts=278,
                     dwell_s=300, measured_volts=3, safe=True, readings=900)  # fmt: skip
    parts = scope(ended)
    assert shelf(notebook, NOW)[0].group == "wants hands"
    assert parts.line("C17").action is Action.KEEP
    assert "reformed" in parts.line("C17").verdict.measured


@pytest.mark.parametrize("bad", [{}, {"value": 0}, {"value": -1}, {"leakage": float("nan")}])
def test_a_measurement_says_something_above_zero(bad):
    with pytest.raises(ValidationError):
        PartMeasured(ref="C1", **bad)


# --- import -----------------------------------------------------------------------------------------------------------


def test_a_table_in_latin_1_with_semicolons_and_decimal_commas():
    """What a spreadsheet on another continent writes."""
    content = "Part;Value;Make;Volts;Note\nC1;0,05 µF 10%;Paper;400;Kondensator für Gitter\nR2;4,7 k;;;\n".encode(
        "latin-1"
    )
    found = preview_parts(content)
    assert found.faults == ()
    first, second = found.bodies
    assert (first.nominal, first.below, first.make, first.volts) == (pytest.approx(0.05e-6), 0.1, "paper", 400)
    assert first.note == "Kondensator für Gitter"
    assert second.nominal == 4700


@pytest.mark.parametrize(
    ("content", "fault"),
    [
        (b"part,value\nQ1,5\n", "line 2: “Q1” begins with neither R nor C"),
        (b"part,value\nC1,0\n", "line 2: nominal: input should be greater than 0"),
        (b"part,value,make\nC1,1u,wood\n", "line 2: make:"),
        (b"part,value\n", "There is no part"),
        (b"part,size\nC1,2\n", "the column “value” is missing"),
        (b"R1 a 0 1k\nC2 a (b) 1u\n", "Line 2"),
        (b"R1 a 0 1e999\n", "Line 1"),
        (b"part,value\nR1,4k7 1..5%\n", "line 2: “1..5”: “.5” is not part of a number"),
        (b"part,value\nC1," + b"7" * 200_000 + b"\n", "line 2: it cannot be read (field larger"),
        (b"part,value\nC1,0,047u\n", "line 2: 3 cells, expected 2: “047u” has no column. Is a comma of a number"),
        (b"part,value,value\nC1,1u,2u\n", "line 1: the column “value” is named twice"),
        (b"part,value\nC1,500\n", "line 2: “500” is 500 pF, or the code for 50 pF? Write 500p or 50p."),
        (b"", "There is no element"),
    ],
)
def test_what_cannot_be_taken_in_says_where(content, fault):
    found = preview_parts(content)
    assert fault in " ".join(found.faults)


def test_words_keep_their_commas_and_old_line_ends_are_line_ends():
    found = preview_parts(b"part;value;note\rC1;0,047 uF;moulded, cracked, brown\rR2;3,3k;1,5 W, old\r")
    assert found.faults == ()
    assert [(b.ref, b.nominal, b.note) for b in found.bodies] == [
        ("C1", pytest.approx(47e-9), "moulded, cracked, brown"),
        ("R2", 3300, "1.5 W, old"),
    ]


def test_sections_written_together_are_two_and_a_sheet_has_its_own_limit():
    found = preview_parts(
        b"part,value,make,volts,leak limit\nC41,40/20 uF,electrolytic,450,500u\nC5,1/4 uF,paper,400,\n"
    )
    assert found.faults == ()
    assert [(b.ref, b.can, b.nominal, b.leakage_limit) for b in found.bodies] == [
        ("C41 a", "C41", pytest.approx(40e-6), pytest.approx(500e-6)),
        ("C41 b", "C41", pytest.approx(20e-6), pytest.approx(500e-6)),
        ("C5", "", pytest.approx(0.25e-6), 0.0),
    ]


def test_what_a_spreadsheet_would_run_is_shown_and_reads_back(notebook):
    """Common practice, no source: an apostrophe before what begins like a formula."""
    bad = ("=cmd|' /C calc'!A0", "+1+1", "@SUM(A1)", "-2+3", "'=1", "''@x")
    bodies = [film(f"k{n}", place=text, supplier=text) for n, text in enumerate(bad)]
    notebook.append(drafts_of("", bodies))
    items = supplied(notebook).stock
    text = write_stock(items)
    for row in list(csv.reader(io.StringIO(text)))[1:]:
        assert not any(cell.strip().startswith(("=", "+", "@")) for cell in row)
        assert all(cell.replace(".", "").lstrip("-").isdigit() for cell in row if cell.startswith("-"))
    back = preview_stock(text.encode(), ())
    assert back.faults == ()
    assert [b.place for b in back.bodies] == [i.body.place.strip() for i in items]


def test_the_mains_of_the_shop_decide_about_a_safety_part(scope, notebook):
    parts = scope()
    line = parts.line("C1")
    assert "230 V 50 Hz, the worse of the usual ones until yours are said" in line.verdict.reasons[0].rule
    job = fold("s", notebook.entries_of("s"))
    known = settings_of({"mains": "120 V 60 Hz", "esr_meter": "90 kHz"})
    assert (
        "at 120 V 60 Hz, and 10 % more"
        in list_parts(job, SCOPE, mains=known.mains).line("C1").verdict.reasons[0].rule
    )
    assert (known.hertz_of("esr"), known.hertz_of("pf"), known.hertz_of("d")) == (90e3, 60, 0)
    assert settings_of({"mains": "nonsense", "esr_meter": "x"}) == Settings()


def test_a_netlist_becomes_parts_and_circuit(scope):
    found = preview_parts(b"* mine\nR1 a 0 330k\nR2 a 0 1meg\nC1 a b 0.05u\nL1 b 0 8\n")
    assert found.faults == ()
    assert found.lines[-1].understood == "in the circuit, not on the list: 1 L"
    parts = scope(*found.bodies)
    assert parts.line("R1").verdict.says.startswith("measure it: 198.5 kΩ to 297.7 kΩ expected in circuit")


# --- stock, orders, money ---------------------------------------------------------------------------------------------


def film(key="f", count=3, **more):
    body = {
        "key": key,
        "what": "capacitor",
        "value": 47e-9,
        "tolerance": 0.1,
        "make": "film",
        "volts": 630,
        "count": count,
    }
    return StockCounted.model_validate({**body, **more})


def test_stock_is_counted_moved_written_and_read_back(notebook):
    notebook.append(
        drafts_of("", [film(), film("r", 4, what="resistor", value=330e3, volts=350, watts=0.5, price=0.1)])
    )
    notebook.write("", StockMoved(key="f", by=-2, reason="C8"))
    items = supplied(notebook).stock
    assert [(i.body.key, i.count) for i in items] == [("f", 1), ("r", 4)]
    text = write_stock(items)
    back = preview_stock(text.encode(), items)
    assert back.faults == ()
    assert [(b.key, b.count, b.value) for b in back.bodies] == [("f", 1, pytest.approx(47e-9)), ("r", 4, 330e3)]
    assert preview_stock(text.replace(",", ";").replace(".", ",").encode("latin-1"), items).bodies == back.bodies
    assert len(pieces(items, "resistor")[1]) == 1


@pytest.mark.parametrize(
    ("row", "fault"),
    [("resistor,47k,2.5", "whole number"), ("lamp,5,1", "neither resistor nor capacitor"), ("resistor,0,1", "value"),
     ("capacitor,47n,-3", "count"), ("resistor,47 nF,1", "is a capacitance")],
)  # fmt: skip
def test_stock_that_cannot_be(row, fault):
    assert fault in preview_stock(f"what,value,count\n{row}\n".encode()).faults[0]


def need(text="47 nF 630 V film", count=1, key="", supplier="Fenwick", price=0.6, value=47e-9):
    return NeedLine(what="capacitor", value=value, text=text, count=count, stock=key, supplier=supplier, price=price)


def same_as_film():
    """Three of what is in the drawer, wanted without naming the drawer."""
    goods = {"what": "capacitor", "value": 47e-9, "tolerance": 0.1, "make": "film", "volts": 630}
    return NeedLine(**goods, text="47 nF 10 % 630 V", count=3)


@pytest.fixture
def ordered(notebook):
    """Two jobs that need three film capacitors, two of them on hand, and one job an electrolytic."""
    for job in ("a", "b"):
        notebook.write(job, JobOpened(maker="M", type=job, serial="", pack_digest="x"))
    notebook.write("", film(count=1))
    notebook.write("a", ReplacementChosen(ref="C8", arrangement="x", lines=(need(count=2, key="f"),)))
    notebook.write("b", ReplacementChosen(ref="C9", arrangement="x", lines=(need(key="f"),)))
    notebook.write(
        "b", ReplacementChosen(ref="C1", arrangement="y", lines=(need("10 µF 450 V", price=1.5, value=10e-6),))
    )
    return notebook


def supplied(notebook, jobs=("a", "b")):
    return supplies(notebook.entries_of_kinds(KINDS), {j: j for j in jobs})


def drafted(notebook, policy=None):
    found = supplied(notebook)
    return draft(found.needs, found.stock, policy)


def counts(notebook):
    return [(i.text, i.count) for i in supplied(notebook).stock]


def test_one_order_over_all_jobs_less_stock_with_spares(ordered):
    lines = drafted(ordered, Spares(0.5, 1.0))
    assert [(x.text, x.needed, x.on_hand, x.spares, x.count) for x in lines] == [
        ("10 µF 450 V", 1, 0, 0, 1),
        ("47 nF 630 V film", 3, 1, 1, 3),
    ]
    order = to_order("261123-1", lines)
    assert [(x.job, x.ref, x.count) for x in order.lines] == [
        ("b", "C1", 1),
        ("a", "C8", 1),
        ("b", "C9", 1),
        ("", "", 1),
    ]
    assert "Fenwick,10 µF 450 V,1,1.5,b,C1" in order_csv(order, {"a": "a", "b": "b"})
    assert to_order("1", draft((), ())) is None


def test_what_is_ordered_or_fitted_is_needed_no_more_and_arriving_parts_free_the_jobs(ordered):
    order = to_order("1", drafted(ordered))
    placed = ordered.write("", order)
    assert [(n.ref, n.count) for n in supplied(ordered).needs] == [("C8", 1)]  # the one from stock
    assert [x.count for x in drafted(ordered)] == [0]
    assert still_waiting(supplied(ordered).orders) == {"b": ("C1", "C9"), "a": ("C8",)}
    ordered.write("", OrderArrived(order=placed.id, lines=(0, 2)))
    assert still_waiting(supplied(ordered).orders) == {"a": ("C8",)}
    assert supplied(ordered).orders[0].open
    ordered.write("", OrderArrived(order=placed.id, lines=(1,)))
    assert not supplied(ordered).orders[0].open


def test_a_fitted_part_or_a_job_gone_home_needs_nothing(ordered):
    ordered.write("b", ChangeMade(text="replaced C9", part="C9"))
    assert [n.ref for n in supplied(ordered).needs] == ["C8", "C1"]
    assert [n.ref for n in supplied(ordered, ("a",)).needs] == ["C8"]
    ordered.write("a", ReplacementChosen(ref="C8"))
    assert [n.ref for n in supplied(ordered).needs] == ["C1"]
    ordered.write("a", StatusSet(status="gone home"))


def test_what_is_fitted_leaves_stock_and_a_strike_puts_it_back(ordered):
    """Of the two that C8 wants one is on hand and one on order: fitting takes one from stock, whoever jots it."""
    placed = ordered.write("", to_order("1", drafted(ordered)))
    ordered.write("", OrderArrived(order=placed.id, lines=(0, 1, 2)))
    assert counts(ordered) == [("47 nF 10 % 630 V film", 1)]
    fitted = ordered.write("a", ChangeMade(text="replaced C8", part="C8"))
    assert counts(ordered) == [("47 nF 10 % 630 V film", 0)]
    ordered.write("a", Struck(target=fitted.id))
    assert counts(ordered) == [("47 nF 10 % 630 V film", 1)]


def test_a_move_that_an_early_version_wrote_beside_a_change_counts_once(notebook):
    """Its change moves stock; the entry that did so then is still read."""
    notebook.write("a", JobOpened(maker="M", type="a", serial="", pack_digest="x"))
    notebook.write("", film(count=3))
    notebook.write("a", ReplacementChosen(ref="C8", arrangement="x", lines=(need(key="f"),)))
    notebook.write("a", ChangeMade(text="replaced C8", part="C8"))
    notebook.write("", StockMoved(key="f", by=-1, job="a", reason="C8"))
    assert counts(notebook) == [("47 nF 10 % 630 V film", 2)]
    notebook.write("", StockMoved(key="f", by=4, reason="counted"))
    assert counts(notebook) == [("47 nF 10 % 630 V film", 6)]


def test_stock_spoken_for_is_not_free_for_others(ordered):
    found = supplied(ordered)
    assert [i.count for i in found.free("a", "C8")] == [0]  # C9 of b wants it too
    assert [i.count for i in found.free("c", "C3")] == [0]
    ordered.write("b", ReplacementChosen(ref="C9"))
    assert [i.count for i in supplied(ordered).free("a", "C8")] == [1]


def test_spares_that_arrive_go_into_stock_once(ordered):
    """To the item that is the same, or as a new one; arriving twice counts once, and a struck arrival not at all."""
    ordered.write("b", ReplacementChosen(ref="C2", arrangement="z", lines=(same_as_film(),)))
    placed = ordered.write("", to_order("1", drafted(ordered, Spares(1.0))))
    spares = [i for i, x in enumerate(placed.body.lines) if not x.job]
    assert [placed.body.lines[i].goods.value for i in spares] == [47e-9, 10e-6, 47e-9]
    ordered.write("", OrderArrived(order=placed.id, lines=tuple(spares)))
    again = ordered.write("", OrderArrived(order=placed.id, lines=(spares[0],)))
    assert sorted(counts(ordered)) == [("10 µF", 1), ("47 nF", 3), ("47 nF 10 % 630 V film", 3)]
    ordered.write("", Struck(target=again.id))
    assert ("10 µF", 1) in counts(ordered)


@pytest.mark.parametrize(
    ("percent", "upto", "fault"),
    [
        ("many", "", "per cent such as 20"),
        ("-5", "", "cannot be"),
        ("2000", "", "cannot be"),
        ("20", "cheap", "price of one"),
    ],
)
def test_a_spares_policy_that_cannot_be(percent, upto, fault):
    with pytest.raises(CandorError, match=fault):
        Spares.read(percent, upto)
    assert Spares.read(" 20 % ", "0,50") == Spares(0.2, 0.5)
    assert Spares.read("", "") == Spares()


@pytest.mark.parametrize(
    ("agreed", "minutes", "state", "words"),
    [
        (0, 30, "note", "no price is agreed"), (100, 30, "note", "of the 100.00 agreed"),
        (40, 60, "ask", "left. Ask before more is ordered"), (40, 120, "refused", "over the 40.00 agreed. Ask the owner"),
    ],
)  # fmt: skip
def test_the_warning_comes_before_the_price_is_passed(agreed, minutes, state, words):
    sentence, found = say_money(agreed=agreed, an_hour=20, minutes=minutes, money=12.5, ordered=1.5)
    assert found == state
    assert words in sentence


def test_spent_says_time_or_money():
    with pytest.raises(ValidationError, match="neither time nor money"):
        Spent()
    assert Spent(minutes=3).money == 0


# --- packs ------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("old", "new", "fault"),
    [
        ("value: 8.4 M 1%", "value: 8.4 furlongs", "the value of R1 cannot be read"),
        ("value: 8.4 M 1%", "value: 0 k", "expected one above zero"),
        ("R7 t1500 0 12k", "R7 t1500 0 zero", "Line 9"),
        ("ref: R14", "ref: R13", "the ref 'R13' is used twice"),
        ("supply: rect", "supply: nowhere", "no node “nowhere”"),
        ("ref: R14", "ref: Q14", "ref"),
    ],
)  # fmt: skip
def test_faults_in_the_parts_of_a_pack(old, new, fault):
    with pytest.raises(PackError) as caught:
        parse_pack(PACK_TEXT.replace(old, new, 1), "bad.yaml")
    assert fault in str(caught.value)


def test_a_pack_may_have_no_procedure_but_not_half_of_one():
    start = PACK_TEXT.index("dial:")
    end = PACK_TEXT.index("\ncircuit:")
    assert parse_pack(PACK_TEXT[:start] + PACK_TEXT[end:], "parts.yaml").procedure == ()
    with pytest.raises(PackError, match="is missing"):
        parse_pack(PACK_TEXT[: PACK_TEXT.index("procedure:")] + PACK_TEXT[end:], "half.yaml")


def test_an_order_and_what_its_jobs_wait_for_are_written_together(notebook):
    for job in ("a", "b"):
        notebook.write(job, JobOpened(maker="M", type="OS-40", serial=job, pack_digest="x"))
    lines = tuple(OrderLine(job=job, ref="R1", text="47 kΩ", count=1) for job in ("a", "b", "a"))
    now = dt.datetime(2026, 6, 15, tzinfo=dt.UTC)
    body = OrderPlaced(number=next_number((), now), lines=lines)
    assert body.number == "260615-1"
    before = notebook.revision().own
    notebook.append(placing(body))
    assert notebook.revision().own == before + 1
    assert {line.text for line in shelf(notebook, now)} == {"for parts, order 260615-1"}
    (order,) = supplied(notebook).orders
    assert next_number((order,), now) == "260615-2"
    drafts, freed = arriving((order,), order, (0, 1))
    assert freed == ("b",)  # a still waits for its second line
    notebook.append(drafts)
    groups = {line.job: line.group for line in shelf(notebook, now)}
    assert groups == {"a": "waiting", "b": "wants hands"}
