"""Stock, driven through the window."""

import csv

from PySide6.QtCore import Qt

from desk import LEFT


def fill(qtbot, field, text):
    field.setFocus()
    field.clear()
    qtbot.keyClicks(field, text)


def rows_of(path):
    return list(csv.DictReader(path.read_text(encoding="utf-8").splitlines()))


def test_stock_goes_in_and_out_as_csv(qtbot, scope, tmp_path):
    room = scope.rooms["stock"]
    scope.enter_room("stock")
    file = tmp_path / "stock.csv"
    file.write_bytes("what;value;count;volts;price\nC;0,047 µF;2;630;0,60\nR;330 k;8,5;;\n".encode("latin-1"))
    room.preview_file(file)
    assert scope.work.currentWidget() is scope.from_file
    page = scope.from_file
    qtbot.mouseClick(page.write, LEFT)  # the good row; the other stays, to be mended where it stands
    assert "1 row is still to be mended" in scope.jot.message.text()
    assert page.mend.rows() == [{"0": "R", "1": "330 k", "2": "8,5", "3": "", "4": ""}]
    page.mend.item(0, 2).setText("8")
    assert page.mend.isHidden()
    qtbot.mouseClick(page.write, LEFT)
    assert scope.work.currentWidget() is room
    assert [(i.count, i.body.price) for i in scope.bench.shop.stock()] == [(2, 0.6), (8, 0)]
    fill(qtbot, room.count, "-3")
    qtbot.keyClick(room.count, Qt.Key.Key_Return)
    assert "There are 2, so 3 cannot be taken" in scope.jot.message.text()
    fill(qtbot, room.count, "12")
    qtbot.mouseClick(room.recount, LEFT)
    assert scope.bench.shop.stock()[0].count == 12
    room.save(tmp_path / "out.csv")
    assert [r["count"] for r in rows_of(tmp_path / "out.csv")] == ["12", "8"]
    fill(qtbot, room.filter, "47 nf")
    assert room.list.count() == 1
    room.preview_file(tmp_path / "missing.csv")
    assert "cannot be read" in scope.jot.message.text()


def test_stock_says_what_is_spoken_for(halfway):
    halfway.enter_room("stock")
    stocked = halfway.rooms["stock"].list
    rows = [stocked.row(i) for i in range(stocked.count())]
    assert "2 here, 1 spoken for" in next(r.under for r in rows if r.text.startswith("47 nF"))
