"""The order, time and money, driven through the window."""

from pypdf import PdfReader
from PySide6.QtCore import Qt

from candor.notebook.parts.orders import DraftLine, in_order
from desk import LEFT, jot, row_titles


def fill(qtbot, field, text):
    field.setFocus()
    field.clear()
    qtbot.keyClicks(field, text)


def test_one_order_is_placed_saved_and_arrives(qtbot, halfway, tmp_path):
    qtbot.mouseClick(halfway.parts.order, LEFT)
    room = halfway.rooms["order"]
    assert room.words.text() == "2 kinds to order, 11.55 together."
    fill(qtbot, room.share, "50")
    fill(qtbot, room.upto, "1")
    assert room.words.text() == "2 kinds to order, 11.70 together."
    for name in ("order.csv", "order.pdf"):
        room.save(tmp_path / name)
    assert "R24" in (tmp_path / "order.csv").read_text()
    text = PdfReader(tmp_path / "order.pdf").pages[0].extract_text()
    assert "22 µF 500 V electrolytic" in text
    assert "Together 11.70" in text
    qtbot.mouseClick(room.place, LEFT)
    assert halfway.bench.in_hand.job.stay.status == "waiting"
    assert room.words.text() == "Nothing is to be ordered."
    assert "parts 11.55 + time 25.00" in halfway.bench.in_hand.money()[0]
    qtbot.mouseClick(room.arrived, LEFT)
    assert halfway.bench.in_hand.job.stay.status == "waiting"
    qtbot.mouseClick(room.all_arrived, LEFT)
    assert (halfway.bench.in_hand.job.stay.status, halfway.bench.in_hand.job.stay.status_text) == (
        "wants hands",
        "its parts are here",
    )
    metal = [i.count for i in halfway.bench.shop.stock() if i.body.value == 330e3]
    assert metal == [1]  # the spare lies in the drawer, the part waits for its job


def test_the_spares_policy_holds_for_the_next_order(qtbot, halfway):
    halfway.enter_room("order")
    room = halfway.rooms["order"]
    fill(qtbot, room.share, "lots")
    qtbot.keyClick(room.share, Qt.Key.Key_Return)
    assert "per cent such as 20" in halfway.jot.message.text()
    assert halfway.bench.shop.spares == ("", "")
    fill(qtbot, room.share, "20 %")
    fill(qtbot, room.upto, "0,50")
    halfway.go_to_stop("parts")
    room.share.clear()
    halfway.enter_room("order")
    assert (room.share.text(), room.upto.text()) == ("20 %", "0,50")


def test_the_price_is_warned_of_before_it_is_passed(qtbot, halfway):
    jot(qtbot, halfway, "spent 25 feet and knobs")
    assert "Ask before more is ordered" in halfway.parts.money.text()
    assert halfway.parts.money._tint == "brass"
    jot(qtbot, halfway, "spent 2 h")
    assert "over the 60.00 agreed" in halfway.parts.money.text()
    jot(qtbot, halfway, "agreed 200")
    assert "of the 200.00 agreed" in halfway.parts.money.text()


def test_time_and_money_by_fields(qtbot, halfway):
    halfway.enter_room("order")
    money = halfway.rooms["order"].money
    fill(qtbot, money.fields["agreed"], "150")
    fill(qtbot, money.fields["spent"], "45 min knobs")
    qtbot.mouseClick(money.write, LEFT)
    assert "of the 150.00 agreed" in money.words.text()
    assert halfway.bench.in_hand.job.stay.minutes == 145
    fill(qtbot, money.fields["spent"], "a lot")
    qtbot.keyClick(money.fields["spent"], Qt.Key.Key_Return)
    assert "neither a time nor an amount" in halfway.jot.message.text()


def test_lines_stand_dearest_or_most_first_within_their_supplier():
    def line(text, supplier, needed, price):
        return DraftLine(text=text, supplier=supplier, needed=needed, on_hand=0, spares=0, price=price, needs=())

    lines = [
        line("a", "north", 1, 2.0),
        line("b", "south", 4, 1.0),
        line("c", "north", 3, 1.5),
        line("d", "south", 1, 9.0),
    ]
    assert [x.text for x in in_order(lines, "by part")] == ["a", "c", "b", "d"]
    assert [x.text for x in in_order(lines, "dearest first")] == ["c", "a", "d", "b"]
    assert [x.text for x in in_order(lines, "most first")] == ["c", "a", "b", "d"]


def test_the_order_chosen_is_shown(qtbot, halfway):
    qtbot.mouseClick(halfway.parts.order, LEFT)
    room = halfway.rooms["order"]
    lines = room.draft()
    for order in ("dearest first", "most first", "by part"):
        room.sorting.setCurrentText(order)
        shown = [title for title in row_titles(room.list) if title[:1].isdigit()]
        assert shown == [f"{x.count} x {x.text}" for x in in_order(lines, order) if x.count]
