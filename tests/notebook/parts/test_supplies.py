"""What the shop has, needs and awaits."""

from candor.notebook.entries.goods_entries import NeedLine
from candor.notebook.entries.parts_entries import ReplacementChosen
from candor.notebook.entries.shop_entries import OrderArrived, StockMoved
from candor.notebook.entries.stay_entries import ChangeMade, JobOpened, StatusSet
from candor.notebook.entries.strikes_entries import Struck
from candor.notebook.parts.orders import Spares, draft, order_csv, to_order
from candor.notebook.parts.supplies import still_waiting
from stockroom import film, need, supplied


def same_as_film():
    """Three of what is in the drawer, wanted without naming the drawer."""
    goods = {"what": "capacitor", "value": 47e-9, "tolerance": 0.1, "make": "film", "volts": 630}
    return NeedLine(**goods, text="47 nF 10 % 630 V", count=3)


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


def test_more_taken_than_counted_is_said_until_it_is_counted_again(notebook):
    notebook.write("", film(count=1))
    for job in ("a", "b"):
        notebook.write(job, JobOpened(maker="M", type="T", serial=job))
        notebook.write(job, ReplacementChosen(ref="C1", lines=(need(key="f"),)))
    notebook.write("a", ChangeMade(text="replaced C1", part="C1"))
    assert supplied(notebook).missing() == ()
    notebook.write("b", ChangeMade(text="replaced C1", part="C1"))
    (said,) = supplied(notebook).missing()
    assert "47 nF" in said and "1 more taken than were counted" in said
    assert counts(notebook)[0][1] == 0
    notebook.write("", film(count=0))
    assert supplied(notebook).missing() == ()
